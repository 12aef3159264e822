"""Drawings that come in from files: lines in layers, as plain values, with what was found in them.

Layer     what the file tells apart: a colour or a named layer; a person says what the beam does with it
Open      a line whose ends do not meet; it can be scored, and cut only after it is closed
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from PIL import ImageColor

from notchcore.geom.planar import Polygon, crossing_place
from notchcore.geom.profile import Circle, Ring, area_of
from notchcore.geom.thinning import smoothed
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm
from notchcore.words.facts import TRIMMED, Count, Sentence, mm
from notchcore.words.render import say

MOST_POINTS = 120_000
SAME_PLACE = 1e-3  # [units of the drawing] ends nearer than this are one, in drawings of at least USUAL units
USUAL = 20.0  # of a smaller drawing the unit is hardly a millimetre or pixel: ends must lie nearer in proportion
TINY: Mm = 0.5  # a closed line smaller than this is dust


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnLine:
    """One line of a drawing; `circle` when it is a whole circle."""

    layer: str
    points: Ring
    closed: bool = False
    circle: Circle | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Note:
    """What is to be known about a drawing, with a place to look at where there is one."""

    code: str
    says: Sentence
    place: Vec2 | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """Lines with y up, their lower left corner at the origin."""

    lines: tuple[DrawnLine, ...]
    mm_per_unit: float | None  #: None: the file does not say how large it is
    notes: tuple[Note, ...] = ()
    image: str = ""  #: a grey image to be engraved (see trace/photo.py); its frame is then the only line

    @property
    def size(self) -> Vec2:
        """Return width and height in the drawing's units."""
        xs = [p[0] for line in self.lines for p in line.points]
        ys = [p[1] for line in self.lines for p in line.points]
        return (max(xs) - min(xs), max(ys) - min(ys)) if xs else (0.0, 0.0)

    def layers(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(line.layer for line in self.lines))


def extent_of(lines: Iterable[DrawnLine]) -> float:
    """Return the diagonal of the box around lines, in the drawing's units; 0 without lines."""
    points = [p for line in lines for p in line.points]
    if not points:
        return 0.0
    return math.dist(*((f(p[0] for p in points), f(p[1] for p in points)) for f in (min, max)))


def named_layers(lines: Sequence[tuple[str, DrawnLine]]) -> list[DrawnLine]:
    """Return lines with what tells them apart, for each line the layer that it was drawn in ("" for none) being given.

    That is its colour outside of layers, the layer's name in a layer of one colour, and both in a layer of several. One colour that is
    said in several ways is one.
    """
    first: dict[tuple[object, ...], str] = {}
    colours = [first.setdefault(_seen_as(line.layer), line.layer) for _, line in lines]
    several: dict[str, set[str]] = {}
    for (group, _), colour in zip(lines, colours, strict=True):
        several.setdefault(group, set()).add(colour)
    return [
        replace(line, layer=(colour if not group else group if len(several[group]) < 2 else f"{group[:24]}, {colour}")[:40])
        for (group, line), colour in zip(lines, colours, strict=True)
    ]


def _seen_as(colour: str) -> tuple[object, ...]:
    try:
        return ImageColor.getrgb(colour)
    except ValueError:
        return (colour.lower(),)


def tidied(lines: Iterable[DrawnLine], mm_per_unit: float | None, *, notes: Iterable[Note] = (), gap: float | None = None, sag: float = 0.0) -> Drawing:
    """Return a drawing with touching lines joined, doubles taken out, and everything moved to the origin.

    Args:
        gap: ends nearer than this are joined [units]; None: those that are at the same place but for rounding
        sag: most that chords lie off their curve [units]: closed lines of such chords that are whole circles become circles
    """
    told = list(notes)
    whole = [line for line in lines if len(line.points) > 1 and all(math.isfinite(v) for p in line.points for v in p)]
    fine = min(extent_of(whole) / USUAL, 1.0) or 1.0  # of a drawing in metres or inches, a thousandth is much
    joined = _joined(whole, max(gap or 0.0, SAME_PLACE * fine))
    kept, doubles = _without_doubles([_rounded(line, sag) for line in joined], SAME_PLACE * fine)
    if doubles:
        told.append(Note(code="drawn_twice", says=say("drawn_twice", doubles=doubles)))
    if kept:
        x0 = min(p[0] for line in kept for p in line.points)
        y0 = min(p[1] for line in kept for p in line.points)
        digits = 5 + max(0, math.ceil(-math.log10(fine)))
        kept = [_moved(_lighter(line, sag), -x0, dy=-y0, digits=digits) for line in kept]
        told = [n if n.place is None else replace(n, place=(n.place[0] - x0, n.place[1] - y0)) for n in told]
    told += _looked_at(kept, mm_per_unit or 1.0)
    return Drawing(lines=tuple(kept), mm_per_unit=mm_per_unit, notes=tuple(told))


def _rounded(line: DrawnLine, sag: float) -> DrawnLine:
    """Return a closed line of chords along a circle as that circle; any other line as it is."""
    n = len(line.points)
    if line.circle is not None or not line.closed or n < 12 or not 0 < sag < math.inf:
        return line
    (ax, ay), (bx, by), (cx, cy) = (line.points[k * n // 3] for k in range(3))
    d = 2 * ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax))
    if abs(d) < sag * sag:
        return line
    b2, c2 = (bx - ax) ** 2 + (by - ay) ** 2, (cx - ax) ** 2 + (cy - ay) ** 2
    x, y = ax + ((cy - ay) * b2 - (by - ay) * c2) / d, ay + ((bx - ax) * c2 - (cx - ax) * b2) / d
    r = math.dist((x, y), (ax, ay))
    chord = 2 * math.sqrt(2 * r * 2 * sag)  # the longest that lies as near to the circle as chords do
    on_it = all(abs(math.dist((x, y), p) - r) < 2 * sag for p in line.points)
    once = abs(abs(area_of(line.points)) / (math.pi * r * r) - 1) < 0.1
    near = all(math.dist(p, q) <= chord for p, q in zip(line.points, (*line.points[1:], line.points[0]), strict=True))
    return replace(line, circle=Circle(x=x, y=y, radius=r)) if on_it and once and near else line


def _lighter(line: DrawnLine, sag: float) -> DrawnLine:
    """Return a line without points that it hardly needs: chords over equal steps lie far nearer to flat stretches than is asked."""
    if line.circle is not None or not 0 < sag < math.inf:
        return line
    return replace(line, points=smoothed(line.points, closed=line.closed, off=sag / 4))


def _moved(line: DrawnLine, dx: float, *, dy: float, digits: int) -> DrawnLine:
    circle = None if line.circle is None else replace(line.circle, x=line.circle.x + dx, y=line.circle.y + dy)
    return replace(line, points=tuple((round(x + dx, digits), round(y + dy, digits)) for x, y in line.points), circle=circle)


def _joined(lines: list[DrawnLine], gap: float) -> list[DrawnLine]:
    """Return the lines with ends that meet joined, layer by layer; a line whose own ends meet is closed."""
    done: list[DrawnLine] = []
    open_ones: dict[str, list[list[Vec2]]] = {}
    for line in lines:
        points = list(line.points)
        if line.closed or (len(points) > 3 and math.dist(points[0], points[-1]) <= gap):
            ring = points[:-1] if len(points) > 3 and math.dist(points[0], points[-1]) <= gap else points
            done.append(replace(line, points=tuple(ring), closed=True))
        else:
            open_ones.setdefault(line.layer, []).append(points)
    for layer, chains in open_ones.items():
        for chain in _chained(chains, gap):
            closed = len(chain) > 3 and math.dist(chain[0], chain[-1]) <= gap
            done.append(DrawnLine(layer=layer, points=tuple(chain[:-1] if closed else chain), closed=closed))
    return done


def _chained(chains: list[list[Vec2]], gap: float) -> list[list[Vec2]]:
    """Return chains joined end to end. Ends are looked up on a grid of the gap's size, so that many lines are quick."""
    cell = max(gap, 1e-9)

    def key(p: Vec2) -> tuple[int, int]:
        return math.floor(p[0] / cell), math.floor(p[1] / cell)

    ends: dict[tuple[int, int], list[tuple[int, bool]]] = {}
    for i, chain in enumerate(chains):
        ends.setdefault(key(chain[0]), []).append((i, True))
        ends.setdefault(key(chain[-1]), []).append((i, False))
    used = [False] * len(chains)

    def follow(p: Vec2) -> tuple[int, bool] | None:
        kx, ky = key(p)
        for dx in (0, -1, 1):
            for dy in (0, -1, 1):
                for i, at_start in ends.get((kx + dx, ky + dy), ()):
                    if not used[i] and math.dist(p, chains[i][0 if at_start else -1]) <= gap:
                        return i, at_start
        return None

    found = []
    for i, chain in enumerate(chains):
        if used[i]:
            continue
        used[i] = True
        whole = list(chain)
        for _ in range(2):  # first at its end, then, turned round, at its beginning
            while (more := follow(whole[-1])) is not None:
                j, at_start = more
                used[j] = True
                whole += chains[j][1:] if at_start else chains[j][-2::-1]
            whole.reverse()
        found.append(whole)
    return found


def _without_doubles(lines: list[DrawnLine], apart: float) -> tuple[list[DrawnLine], int]:
    seen: set[tuple[object, ...]] = set()
    kept = []
    for line in lines:
        key = (line.layer, line.closed, frozenset((round(x / apart), round(y / apart)) for x, y in line.points))
        if key not in seen:
            seen.add(key)
            kept.append(line)
    return kept, len(lines) - len(kept)


def _looked_at(lines: list[DrawnLine], scale: float) -> list[Note]:
    """Return what is odd about the lines, with a place for the first of each kind."""
    notes = []
    open_ones = [line for line in lines if not line.closed]
    if open_ones:
        notes.append(Note(code="open_lines", says=say("open_lines", lines=_lines(open_ones)), place=open_ones[0].points[0]))
    tiny = [line for line in lines if line.closed and _extent(line) * scale < TINY]
    if tiny:
        says = say("tiny_lines", lines=_lines(tiny), least=mm(TINY, digits=TRIMMED))
        notes.append(Note(code="tiny_lines", says=says, place=tiny[0].points[0]))
    crossed = [(line, crossing_place(line.points)) for line in lines if line.closed and line.circle is None]
    crossed = [(line, place) for line, place in crossed if place is not None]
    if crossed:
        notes.append(Note(code="crosses_itself", says=say("crosses_itself", lines=_lines(crossed)), place=crossed[0][1]))
    return notes


def _lines(some: Sequence[object]) -> Count:
    return Count(len(some), "line is", "lines are")


def _extent(line: DrawnLine) -> float:
    xs, ys = [p[0] for p in line.points], [p[1] for p in line.points]
    return max(max(xs) - min(xs), max(ys) - min(ys))


def closed_within(drawing: Drawing, gap: float) -> Drawing:
    """Return the drawing with ends up to `gap` [units] apart joined."""
    notes = [n for n in drawing.notes if n.code not in ("open_lines", "tiny_lines", "crosses_itself")]
    return tidied(drawing.lines, drawing.mm_per_unit, notes=notes, gap=gap)


def outermost(drawing: Drawing) -> DrawnLine | None:
    """Return the closed line around the largest area."""
    return max((line for line in drawing.lines if line.closed), key=lambda line: abs(area_of(line.points)), default=None)


def silhouette_of(drawing: Drawing) -> Ring:
    """Return the outer line of the largest closed line, counter-clockwise; empty when there is none."""
    largest = outermost(drawing)
    shape = Polygon(largest.points if largest else ())
    if not shape.is_valid:
        whole = shape.buffer(0)
        parts = list(getattr(whole, "geoms", [whole]))
        shape = max(parts, key=lambda p: p.area)
    return tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1]) if not shape.is_empty else ()
