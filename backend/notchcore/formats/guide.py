"""The assembly guide: a picture for each step with the way of what goes in, what to mind, and a page of all parts with their marks."""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from notchcore.check.freedom import towards
from notchcore.check.steps import GuideStep, there_at
from notchcore.design.alike import counted
from notchcore.design.assembly import Assembly, Part
from notchcore.design.picture import Face, picture_of, seen
from notchcore.formats.typeface import BOLD, SLANTED, TEXT, a4_pages
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import Vec2, Vec3, add, scale
from notchcore.units import shown, unit_name
from notchcore.words.language import called
from notchcore.words.render import plain

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

COLUMNS, ROWS = 2, 3
AWAY = 0.45  # how far from its place a part is drawn, as a share of the thing's size
CAUTION = "Anything that people stand, sit or hang on, or that could fall on them, is for a qualified person to judge. Local rules come first."
WAYS: tuple[tuple[Vec3, str], ...] = (
    ((0, 0, -1), "from above"),
    ((0, 0, 1), "from below"),
    ((1, 0, 0), "from the left"),
    ((-1, 0, 0), "from the right"),
    ((0, 1, 0), "from the front"),
    ((0, -1, 0), "from behind"),
)


def way_in_words(direction: Vec3) -> str:
    """Return from where a part comes that moves in a direction."""
    best, words = max(((sum(a * b for a, b in zip(direction, d, strict=True)), w) for d, w in WAYS), key=lambda x: x[0])
    return called(words if best > 0.9 else "at a slant")


def steps_way(step: GuideStep, unit: str) -> str:
    """Return how the parts of a step go in, in words."""
    words = way_in_words(step.direction)
    if step.tip is not None:
        words += called(", tilted by {angle}, then turned into place", angle=f"{abs(step.tip.degrees):.0f}°")
    if step.last is not None:
        words += called(", then {length} {way}", length=f"{shown(step.last_mm, unit)} {unit_name(unit)}", way=called(towards(step.last)))
    return words


def marks_of(assembly: Assembly) -> dict[str, str]:
    """Return a short mark for each part, in the order of their names."""
    return {p.id: str(k) for k, p in enumerate(sorted(assembly.parts, key=lambda p: (p.label, p.id)), start=1)}


def _mean(points: Sequence[Vec3]) -> Vec3:
    return scale((sum(p[0] for p in points), sum(p[1] for p in points), sum(p[2] for p in points)), 1 / len(points))


def _middle(part: Part) -> Vec3:
    b = box_of(part.slab())
    return (b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class _Cell:
    """The place of a step on its page [points]."""

    x: float
    y: float
    w: float
    h: float


def _scene(page: Canvas, assembly: Assembly, *, step: GuideStep, placed: Sequence[str], cell: _Cell, colours: Mapping[str, str]) -> float:
    """Draw what is there, what comes, and the way it goes; return where the words begin [points]."""
    from reportlab.lib.units import mm

    parts = {p.id: p for p in assembly.parts}
    u0, v0, u1, v1 = picture_of(replace(assembly, dimensions=())).bounds
    size = max(u1 - u0, v1 - v0) or 1.0
    away = scale(step.direction, -AWAY * size) if placed else (0.0, 0.0, 0.0)
    new = [parts[p] for p in step.parts]
    moved = [replace(p, pose=replace(p.pose, origin=add(p.pose.origin, away))) for p in new]
    room = 26 * mm  # for words
    k = min((cell.w - 6 * mm) / (size * 1.45), (cell.h - room) / (size * 1.35))
    page.saveState()
    page.translate(cell.x + cell.w / 2 - 3 * mm - (u0 + u1) / 2 * k, cell.y + room + (cell.h - room) / 2 - (v0 + v1) / 2 * k)
    _picture(page, replace(assembly, parts=(*(parts[p] for p in placed), *moved), dimensions=()), new={p.id for p in new}, colours=colours, k=k)
    if placed:
        ways = [(_middle(there), _middle(old)) for old, there in zip(new, moved, strict=True)]
        for start, end in [(_mean([w[0] for w in ways]), _mean([w[1] for w in ways]))] if step.whole else ways:  # all of it goes one way
            _arrow(page, seen(start), end=seen(end), k=k)
    page.restoreState()
    return float(cell.y + room - 4 * mm)


def guide_pdf(assembly: Assembly, steps: tuple[GuideStep, ...], *, colours: Mapping[str, str], title: str, revision: int, unit: str = "mm") -> bytes:
    """Return the guide as PDF, A4, in its reader's unit.

    Args:
        colours: of the stocks, #rrggbb, by id
    """
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm

    out = io.BytesIO()
    page = a4_pages(out)
    page.setTitle(called("{title}, assembly guide", title=title))
    width, height = A4
    parts, marks = {p.id: p for p in assembly.parts}, marks_of(assembly)
    steps, numbers = drawn_together(steps)
    cell_w, cell_h = (width - 36 * mm) / COLUMNS, (height - 52 * mm) / ROWS
    numbered = list(pages_of(steps))
    pages = len(numbered) + 1
    for number, (chapter, shown_here) in enumerate(numbered, start=1):
        _head(page, title, revision=revision, number=number, of=pages, chapter=chapter)
        for at, k in enumerate(shown_here):
            step, there = steps[k], there_at(steps, k)
            cell = _Cell(x=18 * mm + at % COLUMNS * cell_w, y=height - 30 * mm - (at // COLUMNS + 1) * cell_h, w=cell_w, h=cell_h)
            y = _scene(page, assembly, step=step, placed=there, cell=cell, colours=colours)
            _words(page, cell.x, y=y, width=cell_w - 8 * mm, number=numbers[k], step=step, parts=parts, marks=marks, first=not there, unit=unit)
        _foot(page)
        page.showPage()
    _head(page, title, revision=revision, number=pages, of=pages)
    _parts_page(page, assembly, marks=marks, unit=unit)
    _foot(page)
    page.showPage()
    page.save()
    return out.getvalue()


def drawn_together(steps: Sequence[GuideStep]) -> tuple[tuple[GuideStep, ...], list[str]]:
    """Return the steps with many alike that follow each other as one picture, and the numbers that each picture shows."""
    likes = {s.key: s.like if not (s.note or s.problem or s.before) else s.key for s in steps}
    by_key = {s.key: s for s in steps}
    shown, numbers, at = [], [], 1
    for run in counted([s.key for s in steps], likes):
        first = by_key[run[0]]
        label = called("{first} and {more} alike", first=first.label, more=len(run) - 1)
        shown.append(first if len(run) == 1 else replace(first, label=label, whole=True, parts=tuple(p for k in run for p in by_key[k].parts)))
        numbers.append(f"{at}" if len(run) == 1 else f"{at}\u2013{at + len(run) - 1}")
        at += len(run)
    return tuple(shown), numbers


def pages_of(steps: Sequence[GuideStep]) -> Iterator[tuple[str, list[int]]]:
    """Return what is on each page: its chapter's name, "" for the thing itself, and steps by their place in the order.

    What is put together apart is a chapter of its own, which ends with the step in which it goes in.
    """
    names = {s.key: s.label for s in steps}
    chapters: list[tuple[str, list[int]]] = []
    for k, step in enumerate(steps):
        now = chapters[-1][0] if chapters else None
        if step.within != now and (now is None or step.key != now):
            chapters.append((step.within, []))
        chapters[-1][1].append(k)
    each = ROWS * COLUMNS
    for key, places in chapters:
        yield from ((names.get(key, ""), places[i : i + each]) for i in range(0, len(places), each))


def _head(page: Canvas, title: str, *, revision: int, number: int, of: int, chapter: str = "") -> None:
    from reportlab.lib.units import mm

    width, height = page._pagesize
    page.setFillGray(0)
    page.setFont(BOLD, 14)
    page.drawString(18 * mm, height - 18 * mm, called("{title}: putting it together", title=title))
    page.setFont(BOLD, 11)
    page.drawString(18 * mm, height - 25 * mm, chapter)
    page.setFont(TEXT, 9)
    page.drawRightString(width - 18 * mm, height - 18 * mm, called("revision {revision} · page {number} of {of}", revision=revision, number=number, of=of))


def _foot(page: Canvas) -> None:
    from reportlab.lib.units import mm

    page.setFillGray(0)
    page.setFont(SLANTED, 8)
    page.drawString(18 * mm, 11 * mm, called(CAUTION))


def _shade(colour: str, light: float) -> tuple[float, float, float]:
    r, g, b = (int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
    return min(r * light, 1), min(g * light, 1), min(b * light, 1)


def _picture(page: Canvas, assembly: Assembly, *, new: set[str], colours: Mapping[str, str], k: float) -> None:
    for face in picture_of(assembly).faces:
        page.setFillColorRGB(*_shade(colours.get(face.stock, "#cccccc"), face.light if face.part in new else 0.55 + 0.35 * face.light))
        page.setStrokeGray(0.1 if face.part in new else 0.45)
        page.setLineWidth(0.7 if face.part in new else 0.35)
        page.drawPath(_path(page, face, k=k), fill=1, stroke=1, fillMode=0)


def _path(page: Canvas, face: Face, *, k: float):  # type: ignore[no-untyped-def]
    path = page.beginPath()
    for ring in (face.ring, *face.holes):
        path.moveTo(ring[0][0] * k, ring[0][1] * k)
        for u, v in ring[1:]:
            path.lineTo(u * k, v * k)
        path.close()
    return path


def _arrow(page: Canvas, start: Vec2, *, end: Vec2, k: float) -> None:
    (x0, y0), (x1, y1) = (start[0] * k, start[1] * k), (end[0] * k, end[1] * k)
    long = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
    if long < 6:
        return
    ux, uy = (x1 - x0) / long, (y1 - y0) / long
    page.setStrokeGray(0)
    page.setFillGray(0)
    page.setLineWidth(1.4)
    page.line(x0, y0, x1 - 5 * ux, y1 - 5 * uy)
    tip = page.beginPath()
    tip.moveTo(x1, y1)
    tip.lineTo(x1 - 7 * ux - 3 * uy, y1 - 7 * uy + 3 * ux)
    tip.lineTo(x1 - 7 * ux + 3 * uy, y1 - 7 * uy - 3 * ux)
    tip.close()
    page.drawPath(tip, fill=1, stroke=0)


def _words(
    page: Canvas, x: float, *, y: float, width: float, number: str, step: GuideStep, parts: Mapping[str, Part], marks: Mapping[str, str], first: bool, unit: str
) -> None:
    from reportlab.lib.units import mm
    from reportlab.lib.utils import simpleSplit

    names = step.label if step.whole else " + ".join(f"{parts[p].label} ({marks[p]})" for p in step.parts)
    page.setFillGray(0)
    page.setFont(BOLD, 10)
    page.drawString(x, y, simpleSplit(f"{number}  {names}, {called('laid down') if first else steps_way(step, unit)}", BOLD, 10, width)[0])
    page.setFont(TEXT, 8)
    lines = [step.note] if step.note else []
    lines += [plain(h.says, unit) for h in step.hints]
    if step.before:
        lines.append(called("Must be in before {step}.", step=step.before))
    if step.problem:
        lines.insert(0, f"! {plain(step.problem, unit)}")
    for text in lines:
        for line in simpleSplit(text, TEXT, 8, width):
            y -= 3.6 * mm
            page.drawString(x, y, line)


def _parts_page(page: Canvas, assembly: Assembly, *, marks: Mapping[str, str], unit: str) -> None:
    from reportlab.lib.units import mm

    width, height = page._pagesize
    columns, cell = 5, ((width - 36 * mm) / 5, 34 * mm)
    ordered = sorted(assembly.parts, key=lambda p: int(marks[p.id]))
    largest = max((max(b[2] - b[0], b[3] - b[1]) for b in (bounds_of(p.profile.outer) for p in ordered)), default=1.0)
    k = min((cell[0] - 4 * mm) / largest, 20 * mm / largest)
    for i, part in enumerate(ordered):
        row = i // columns
        y = height - 28 * mm - (row % 7 + 1) * cell[1]
        if i and i % (7 * columns) == 0:
            page.showPage()
        x = 18 * mm + (i % columns) * cell[0]
        b = bounds_of(part.profile.outer)
        path = page.beginPath()
        for ring in (part.profile.outer, *part.profile.holes):
            for j, (px, py) in enumerate(ring):
                (path.moveTo if j == 0 else path.lineTo)(x + (px - b[0]) * k, y + 10 * mm + (py - b[1]) * k)
            path.close()
        page.setFillGray(0.9)
        page.setStrokeGray(0)
        page.setLineWidth(0.4)
        page.drawPath(path, fill=1, stroke=1, fillMode=0)
        page.setFillGray(0)
        page.setFont(BOLD, 9)
        page.drawString(x, y + 5 * mm, marks[part.id])
        page.setFont(TEXT, 8)
        count = part.copies + part.spares
        page.drawString(x + 6 * mm, y + 5 * mm, part.label[:24] + (f" × {count}" if count > 1 else ""))
        page.drawString(
            x + 6 * mm, y + 1.6 * mm, f"{shown(b[2] - b[0], unit)} × {shown(b[3] - b[1], unit)} {unit_name(unit)}{called(', helper') if part.helper else ''}"
        )
