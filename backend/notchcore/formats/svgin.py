"""SVG files in: shapes, paths, groups, reuse and text become lines; whatever is left out is listed.

A file is read twice: roughly, to know how large it is, and then with chords as near to its curves as that asks for. A file may be
hostile: nodes, depth, reuse and points are limited, entities beyond the parser's own limits are refused, and a number that is not one
drops its shape only.
"""

from __future__ import annotations

import math
import xml.etree.ElementTree as ET
from collections import Counter
from dataclasses import dataclass, field, replace

from notchcore.design.features.drawing import MOST_POINTS, Drawing, DrawnLine, Note, named_layers, tidied
from notchcore.formats.nearness import Dropped, dropped_notes, read_near
from notchcore.formats.svgpath import TooManyPoints, path_lines
from notchcore.formats.svgplace import SAME, UP, Matrix, fitted, length_in, numbers_in, times, transform_of, view_of
from notchcore.formats.svgstyle import Style, StyleSheet, colour_of, hidden, style_of
from notchcore.geom.curves import arc_steps
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import Circle, circle_ring
from notchcore.geom.vectors import Vec2
from notchcore.words.facts import Sentence
from notchcore.words.render import say

MOST_NODES = 60_000
DEEPEST = 60
MOST_REUSED = 20_000
SKIPPED = frozenset(
    {
        "defs",
        "metadata",
        "title",
        "desc",
        "style",
        "symbol",
        "clipPath",
        "mask",
        "marker",
        "pattern",
        "linearGradient",
        "radialGradient",
        "filter",
        "script",
        "namedview",
        "font",
        "view",
    }
)
CAP = 0.7  # of the font size: the height of a capital in most faces


class TooMuch(Exception):
    """A limit was reached: what was read so far is kept."""

    def __init__(self, says: Sentence) -> None:
        self.says = says  #: what there is more of than is read
        super().__init__(says)


@dataclass
class _Reading:
    sag: float  # most that a chord may lie off its curve [units of the drawing]
    by_id: dict[str, ET.Element]
    sheet: StyleSheet
    lines: list[tuple[str, DrawnLine]] = field(default_factory=list)  # with the named layer that they are in
    unseen: list[tuple[str, DrawnLine]] = field(default_factory=list)
    dropped: Counter[Dropped] = field(default_factory=Counter)
    nodes: int = 0
    reused: int = 0
    points: int = 0
    limit: Sentence | None = None
    full: bool = False

    @property
    def taken(self) -> list[tuple[str, DrawnLine]]:
        """Lines that are seen; of a drawing without any, all."""
        return self.lines or self.unseen


@dataclass(frozen=True, slots=True)
class _Place:
    """Where in the file something stands."""

    m: Matrix = UP
    style: Style = field(default_factory=dict)
    group: str = ""  # the named layer
    port: Vec2 = (0.0, 0.0)  # width and height that per cents are of
    depth: int = 1
    reused: bool = False


def read_svg(data: bytes) -> Drawing:
    """Return the drawing of an SVG file; a file that is none gives a drawing without lines and a note."""
    try:
        root = ET.fromstring(data)
    except (ET.ParseError, ValueError, LookupError, MemoryError, RecursionError) as problem:
        return Drawing(lines=(), mm_per_unit=None, notes=(Note(code="not_readable", says=say("not_readable.svg", problem=str(problem))),))
    if _name(root) != "svg":
        return Drawing(lines=(), mm_per_unit=None, notes=(Note(code="not_readable", says=say("not_readable.no_svg")),))
    by_id: dict[str, ET.Element] = {}
    sheet = StyleSheet()
    for element in root.iter():
        if "id" in element.attrib:
            by_id.setdefault(element.attrib["id"], element)
        if _name(element) == "style":
            sheet.read(element.text or "")
    all_styled = not _within_reach(root) or sheet.look_at(root)  # what is beyond is not read either, and said
    m, unit, port = view_of(root)
    place = _Place(m=m, style=style_of(root, sheet, above={}), port=port)

    def read(sag: float) -> _Reading:
        r = _Reading(sag, by_id, sheet)
        try:
            for child in root:
                _read(r, child, above=place)
        except TooMuch as limit:
            r.limit = limit.says
        except TooManyPoints:
            r.full = True
        except RecursionError:
            r.limit = say("limit.groups", most=DEEPEST)
        return r

    r, notes = read_near(read, math.inf)
    if r.lines and r.unseen:
        r.dropped["dropped.unseen", ""] += len(r.unseen)
    notes += dropped_notes(r.dropped)
    if not all_styled:
        notes.append(Note(code="style_too_large", says=say("style_too_large")))
    return tidied(named_layers(r.taken), unit, notes=notes, sag=r.sag)


def _within_reach(root: ET.Element) -> bool:
    """Tell whether a file has no more elements, nested no deeper, than are read."""
    level, nodes = [root], 0
    for _ in range(DEEPEST + 2):
        nodes += len(level)
        level = [child for e in level for child in e]
        if nodes > MOST_NODES or not level:
            return nodes <= MOST_NODES
    return False


def _name(element: ET.Element) -> str:
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else "comment"


def _read(r: _Reading, e: ET.Element, *, above: _Place) -> None:
    """Read one element and what is in it."""
    name = _name(e)
    r.nodes += 1
    if r.nodes > MOST_NODES:
        raise TooMuch(say("limit.elements", most=MOST_NODES))
    r.reused += above.reused
    if r.reused > MOST_REUSED:
        raise TooMuch(say("limit.reused", most=MOST_REUSED))
    if above.depth > DEEPEST:
        raise TooMuch(say("limit.groups", most=DEEPEST))
    if name in SKIPPED:
        return
    style = style_of(e, r.sheet, above=above.style)
    if hidden(style):
        r.dropped["dropped.hidden", ""] += 1
        return
    for what in ("clip-path", "mask"):
        if style.get(what, "none") != "none":
            r.dropped["dropped.hides", what] += 1
    group = next((v for k, v in e.attrib.items() if k.rpartition("}")[2] == "label" and name == "g"), above.group)
    here = replace(above, m=times(above.m, transform_of(e.get("transform", ""))), style=style, group=group, depth=above.depth + 1)
    if name in ("g", "a"):
        _inside(r, e, here=here)
    elif name == "switch":  # the first that can be shown is: foreign content cannot
        some = [c for c in e if _name(c) not in ("foreignObject", "comment") and not c.get("requiredExtensions")]
        if some:
            _read(r, some[0], above=here)
    elif name == "svg":
        _inside(r, e, here=_framed(here, e, holder=e))
    elif name == "use":
        _used(r, e, here=here)
    else:
        _shape(r, e, name=name, at=here)


def _inside(r: _Reading, e: ET.Element, *, here: _Place) -> None:
    for child in e:
        _read(r, child, above=here)


def _framed(here: _Place, e: ET.Element, *, holder: ET.Element) -> _Place:
    """Return the place inside a frame that may have a view box of its own; `e` says where it stands and how large it is."""
    w, h = here.port
    size = (length_in(e.get("width"), w, of=w), length_in(e.get("height"), h, of=h))
    fit, port = fitted(holder, numbers_in(holder.get("viewBox", "")), size=size)
    moved = (1.0, 0.0, 0.0, 1.0, length_in(e.get("x"), of=w), length_in(e.get("y"), of=h))
    return replace(here, m=times(times(here.m, moved), fit), port=port)


def _used(r: _Reading, e: ET.Element, *, here: _Place) -> None:
    href = next((v for k, v in e.attrib.items() if k.rpartition("}")[2] == "href"), "")
    target = r.by_id.get(href.lstrip("#"))
    if target is None:
        r.dropped["dropped.reference", ""] += 1
    elif _name(target) == "symbol":
        _inside(r, target, here=replace(_framed(here, e, holder=target), reused=True))
    else:
        w, h = here.port
        _read(r, target, above=replace(here, reused=True, m=times(here.m, (1, 0, 0, 1, length_in(e.get("x"), of=w), length_in(e.get("y"), of=h)))))


def _shape(r: _Reading, e: ET.Element, *, name: str, at: _Place) -> None:
    w, h = at.port
    try:
        if name == "path":
            some = path_lines(e.get("d", ""), most=MOST_POINTS - r.points, sag=_sag(r, at.m))
        elif name in ("polyline", "polygon"):
            v = numbers_in(e.get("points", ""))
            some = [(list(zip(v[::2], v[1::2], strict=False)), name == "polygon")]
        elif name == "line":
            some = [([(length_in(e.get(f"x{i}"), of=w), length_in(e.get(f"y{i}"), of=h)) for i in (1, 2)], False)]
        elif name == "rect":
            some = [(_rectangle(e, at.port, sag=_sag(r, at.m)), True)]
        elif name in ("circle", "ellipse"):
            _round(r, e, name=name, at=at)
            return
        elif name == "text":
            _text(r, e, at=at)
            return
        else:
            if name != "comment":
                r.dropped["dropped", name] += 1
            return
    except (ValueError, OverflowError, ZeroDivisionError):
        r.dropped["dropped.numbers", name] += 1
        return
    for points, closed in some:
        _keep(r, at, points=points, closed=closed)


def _sag(r: _Reading, m: Matrix) -> float:
    """Return what a chord may lie off its curve in the units of a place."""
    return r.sag / max(math.hypot(m[0], m[1]), math.hypot(m[2], m[3]), 1e-12)


def _keep(r: _Reading, at: _Place, *, points: list[Vec2], closed: bool, circle: Circle | None = None) -> None:
    if len(points) < 2:
        return
    r.points += len(points)
    if r.points > MOST_POINTS:
        raise TooManyPoints
    a, b, c, d, e, f = SAME if circle else at.m
    moved = tuple((a * x + c * y + e, b * x + d * y + f) for x, y in points)
    if not all(math.isfinite(v) and abs(v) < 1e7 for p in moved for v in p):
        r.dropped["dropped.shape", ""] += 1
        return
    colour = colour_of(at.style) if at.style.get("visibility") not in ("hidden", "collapse") else ""
    (r.lines if colour else r.unseen).append((at.group, DrawnLine(layer=colour or "black", points=moved, closed=closed, circle=circle)))


def _rectangle(e: ET.Element, port: Vec2, *, sag: float) -> list[Vec2]:
    x, w, rx = (length_in(e.get(k), -1.0 if k == "rx" else 0.0, of=port[0]) for k in ("x", "width", "rx"))
    y, h, ry = (length_in(e.get(k), -1.0 if k == "ry" else 0.0, of=port[1]) for k in ("y", "height", "ry"))
    if w <= 0 or h <= 0:
        return []
    rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
    rx, ry = min(max(rx, 0.0), w / 2), min(max(ry, 0.0), h / 2)
    if rx == 0 or ry == 0:
        return [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
    points: list[Vec2] = []
    steps = arc_steps(math.pi / 2, max(rx, ry), sag=sag)
    turns = [math.pi / 2 * i / steps for i in range(steps + 1)]
    for cx, cy, first in ((x + w - rx, y + ry, -1), (x + w - rx, y + h - ry, 0), (x + rx, y + h - ry, 1), (x + rx, y + ry, 2)):
        points += [(cx + rx * math.cos(first * math.pi / 2 + a), cy + ry * math.sin(first * math.pi / 2 + a)) for a in turns]
    return points


def _round(r: _Reading, e: ET.Element, *, name: str, at: _Place) -> None:
    w, h = at.port
    cx, cy = length_in(e.get("cx"), of=w), length_in(e.get("cy"), of=h)
    rx = length_in(e.get("r"), of=math.hypot(w, h) / math.sqrt(2)) if name == "circle" else length_in(e.get("rx"), of=w)
    ry = rx if name == "circle" else length_in(e.get("ry"), of=h)
    if not (rx > 0 and ry > 0 and math.isfinite(rx + ry + cx + cy)):
        return
    a, b, c, d, _, _ = m = at.m
    sx, sy = math.hypot(a * rx, b * rx), math.hypot(c * ry, d * ry)
    if abs(sx - sy) < 1e-6 * sx and abs(a * c + b * d) < 1e-9 * max(sx, 1.0) and sx < 1e6:
        circle = Circle(x=a * cx + c * cy + m[4], y=b * cx + d * cy + m[5], radius=sx)
        _keep(r, at, points=list(circle_ring(circle, sag=min(r.sag, sx / 50))), closed=True, circle=circle)
        return
    n = arc_steps(2 * math.pi, max(rx, ry), sag=_sag(r, m))
    _keep(r, at, points=[(cx + rx * math.cos(2 * math.pi * i / n), cy + ry * math.sin(2 * math.pi * i / n)) for i in range(n)], closed=True)


@dataclass
class _Words:
    """Words of a text that stand at one place."""

    x: float
    y: float
    size: float
    anchor: str
    said: str = ""


def _words(r: _Reading, e: ET.Element, *, style: Style, port: Vec2, rows: list[_Words]) -> None:
    """Take apart a text: a part of it that says where it stands begins anew."""
    size = length_in(style.get("font-size"), 16.0)
    last = rows[-1] if rows else None
    first = {k: (e.get(k) or "").replace(",", " ").split(" ")[0] for k in ("x", "y", "dx", "dy")}
    if last is None or first["x"] or first["y"]:
        x, y = length_in(first["x"], last.x if last else 0.0, of=port[0]), length_in(first["y"], last.y if last else 0.0, of=port[1])
        dx, dy = (length_in(first[k]) * (size if first[k].endswith("em") else 1.0) for k in ("dx", "dy"))
        rows.append(_Words(x + dx, y + dy, size, style.get("text-anchor", "start")))
    rows[-1].said += e.text or ""
    for child in e:
        if _name(child) == "tspan":
            _words(r, child, style=style_of(child, r.sheet, above=style), port=port, rows=rows)
        elif _name(child) not in ("comment", "title", "desc"):
            r.dropped["dropped.in_text", _name(child)] += 1
        rows[-1].said += child.tail or ""


def _text(r: _Reading, e: ET.Element, *, at: _Place) -> None:
    """Text is set in the program's own plain letters, whatever face the file asks for."""
    rows: list[_Words] = []
    _words(r, e, style=at.style, port=at.port, rows=rows)
    for row in rows:
        shapes = text_outlines(" ".join(row.said.split()), row.size * CAP, serif=False, sag=_sag(r, at.m))
        if not shapes:
            continue
        xs = [p[0] for s in shapes for p in s.outer]
        anchor = {"middle": (min(xs) + max(xs)) / 2, "end": max(xs)}.get(row.anchor, min(xs))
        for shape in shapes:
            for ring in (shape.outer, *shape.holes):
                _keep(r, at, points=[(row.x + px - anchor, row.y - (py + row.size * CAP / 2)) for px, py in ring], closed=True)
        r.dropped["dropped.face", ""] += 1
