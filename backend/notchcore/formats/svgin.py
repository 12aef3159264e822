"""SVG files in: shapes, paths, groups, reuse and text become lines; whatever is left out is listed.

A file may be hostile: nodes, depth, reuse and points are limited, entities beyond the parser's own limits are refused,
and a number that is not one drops its shape only.
"""

from __future__ import annotations

import math
import re
import xml.etree.ElementTree as ET
from collections import Counter
from dataclasses import dataclass, field

from notchcore.design.features.drawing import MOST_POINTS, Drawing, DrawnLine, Note, tidied
from notchcore.formats.svgpath import path_lines
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import Circle, circle_ring
from notchcore.geom.vectors import Vec2

MM = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6, "q": 0.25}
MOST_NODES = 60_000
DEEPEST = 60
MOST_REUSED = 20_000
SKIPPED = frozenset({"defs", "metadata", "title", "desc", "style", "symbol", "clipPath", "mask", "marker", "pattern", "linearGradient",
                     "radialGradient", "filter", "script", "namedview", "font", "view", "switch"})  # fmt: skip
CAP = 0.7  # of the font size: the height of a capital in most faces
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
Matrix = tuple[float, float, float, float, float, float]
SAME: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


class TooMuch(Exception):
    """A limit was reached: what was read so far is kept."""


@dataclass
class _Reading:
    root: ET.Element
    by_id: dict[str, ET.Element] = field(default_factory=dict)
    lines: list[DrawnLine] = field(default_factory=list)
    dropped: Counter[str] = field(default_factory=Counter)
    nodes: int = 0
    points: int = 0
    styles: dict[str, dict[str, str]] = field(default_factory=dict)


def read_svg(data: bytes) -> Drawing:
    """Return the drawing of an SVG file; a file that is none gives a drawing without lines and a note."""
    try:
        root = ET.fromstring(data)
    except (ET.ParseError, ValueError, LookupError, MemoryError, RecursionError) as problem:
        return Drawing(lines=(), mm_per_unit=None, notes=(Note(code="not_readable", message=f"This is not an SVG file that can be read: {problem}."),))
    if _name(root) != "svg":
        return Drawing(lines=(), mm_per_unit=None, notes=(Note(code="not_readable", message="This file holds no SVG drawing."),))
    r = _Reading(root)
    notes = []
    scale, unit = _view(root)
    try:
        for element in root.iter():
            r.nodes += 1
            if r.nodes > MOST_NODES:
                raise TooMuch(f"more than {MOST_NODES} elements")
            if "id" in element.attrib:
                r.by_id.setdefault(element.attrib["id"], element)
            if _name(element) == "style":
                r.styles |= _sheet(element.text or "")
        r.nodes = 0
        for child in root:
            _read(r, child, scale, "", 1)
    except TooMuch as limit:
        notes.append(Note(code="too_large", message=f"The file has {limit}: only what was read before that is taken. Simplify it and try again."))
    except RecursionError:
        notes.append(Note(code="too_large", message="The file is nested too deeply: only what was read before that is taken."))
    notes += [Note(code="left_out", message=f"{n} × {what} left out.") for what, n in sorted(r.dropped.items())]
    return tidied(r.lines, unit, notes)


def _name(element: ET.Element) -> str:
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else "comment"


def _numbers(text: str) -> list[float]:
    return [float(v) for v in _NUMBER.findall(text)]


def _length(text: str | None, default: float = 0.0) -> float:
    """Return a length of the drawing in its own units; units of length are turned into pixels of 96 an inch."""
    if not text:
        return default
    found = _NUMBER.match(text.strip())
    if not found:
        return default
    unit = text.strip()[found.end() :].strip().lower()
    return float(found.group()) * (MM[unit] * 96 / 25.4 if unit in MM else 1.0)


def _view(root: ET.Element) -> tuple[Matrix, float | None]:
    """Return the matrix that turns y up, and millimetres per unit when the file says how large it is."""
    box = _numbers(root.get("viewBox", ""))
    for key, i in (("width", 2), ("height", 3)):
        text = root.get(key, "").strip().lower()
        found = _NUMBER.match(text)
        unit = text[found.end() :].strip() if found else ""
        if found and unit in MM and float(found.group()) > 0:
            size = float(found.group()) * MM[unit]
            if len(box) == 4 and box[i] > 0:
                return (1.0, 0.0, 0.0, -1.0, 0.0, 0.0), size / box[i]
            if len(box) != 4:  # without a view box one unit is a pixel, 96 to the inch
                return (1.0, 0.0, 0.0, -1.0, 0.0, 0.0), 25.4 / 96
    return (1.0, 0.0, 0.0, -1.0, 0.0, 0.0), None


def _times(m: Matrix, n: Matrix) -> Matrix:
    a, b, c, d, e, f = m
    g, h, i, j, k, l_ = n
    return (a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l_ + e, b * k + d * l_ + f)


def _transform(text: str) -> Matrix:
    m = SAME
    for kind, inside in re.findall(r"(\w+)\s*\(([^)]*)\)", text):
        v = _numbers(inside)
        if kind == "matrix" and len(v) >= 6:
            n: Matrix = (v[0], v[1], v[2], v[3], v[4], v[5])
        elif kind == "translate" and v:
            n = (1, 0, 0, 1, v[0], v[1] if len(v) > 1 else 0.0)
        elif kind == "scale" and v:
            n = (v[0], 0, 0, v[1] if len(v) > 1 else v[0], 0, 0)
        elif kind == "rotate" and v:
            c, s = math.cos(math.radians(v[0])), math.sin(math.radians(v[0]))
            n = (c, s, -s, c, 0, 0)
            if len(v) >= 3:
                n = _times(_times((1, 0, 0, 1, v[1], v[2]), n), (1, 0, 0, 1, -v[1], -v[2]))
        elif kind == "skewX" and v:
            n = (1, 0, math.tan(math.radians(v[0])), 1, 0, 0)
        elif kind == "skewY" and v:
            n = (1, math.tan(math.radians(v[0])), 0, 1, 0, 0)
        else:
            continue
        m = _times(m, n)
    return m


def _sheet(css: str) -> dict[str, dict[str, str]]:
    """Return the rules of a style sheet for single classes; everything else in it does not matter for lines."""
    found: dict[str, dict[str, str]] = {}
    for names, body in re.findall(r"([^{}]{1,400})\{([^{}]{0,4000})\}", css[:200_000]):
        for name in names.split(","):
            if name.strip().startswith("."):
                found.setdefault(name.strip()[1:], {}).update(_declared(body))
    return found


def _declared(text: str) -> dict[str, str]:
    return {k.strip().lower(): v.strip() for k, _, v in (d.partition(":") for d in text.split(";")) if v}


def _styled(r: _Reading, e: ET.Element) -> dict[str, str]:
    style: dict[str, str] = {k: e.get(k, "") for k in ("stroke", "fill", "display", "visibility") if e.get(k)}
    for name in e.get("class", "").split():
        style |= r.styles.get(name, {})
    return style | _declared(e.get("style", ""))


def _read(r: _Reading, e: ET.Element, m: Matrix, layer: str, depth: int) -> None:
    """Read one element and what is in it. `layer` is the colour or the named layer that it is in."""
    name = _name(e)
    r.nodes += 1
    if r.nodes > MOST_REUSED:
        raise TooMuch(f"more than {MOST_REUSED} elements after reuse")
    if depth > DEEPEST:
        raise TooMuch(f"groups nested more than {DEEPEST} deep")
    style = _styled(r, e)
    if name in SKIPPED or style.get("display") == "none" or style.get("visibility") == "hidden":
        return
    m = _times(m, _transform(e.get("transform", "")))
    named = next((v for k, v in e.attrib.items() if k.rpartition("}")[2] == "label" and name == "g"), "")
    stroke, fill = style.get("stroke", ""), style.get("fill", "")
    colour = stroke if stroke not in ("", "none") else fill if fill not in ("", "none") else ""
    layer = named or (layer if layer and not colour else colour or layer)
    if name in ("g", "a", "svg"):
        if name == "svg":
            m = _times(m, (1, 0, 0, 1, _length(e.get("x")), _length(e.get("y"))))
        for child in e:
            _read(r, child, m, layer, depth + 1)
    elif name == "use":
        href = next((v for k, v in e.attrib.items() if k.rpartition("}")[2] == "href"), "")
        target = r.by_id.get(href.lstrip("#"))
        if target is None:
            r.dropped["reference to something that is not in the file"] += 1
            return
        moved = _times(m, (1, 0, 0, 1, _length(e.get("x")), _length(e.get("y"))))
        for child in target if _name(target) == "symbol" else [target]:
            _read(r, child, moved, layer, depth + 1)
    else:
        _shape(r, e, name, m, layer or "black")


def _shape(r: _Reading, e: ET.Element, name: str, m: Matrix, layer: str) -> None:
    try:
        if name == "path":
            some = path_lines(e.get("d", ""), most=MOST_POINTS - r.points)
        elif name in ("polyline", "polygon"):
            v = _numbers(e.get("points", ""))
            some = [(list(zip(v[::2], v[1::2], strict=False)), name == "polygon")]
        elif name == "line":
            some = [([(_length(e.get("x1")), _length(e.get("y1"))), (_length(e.get("x2")), _length(e.get("y2")))], False)]
        elif name == "rect":
            some = [(_rectangle(e), True)]
        elif name in ("circle", "ellipse"):
            _round(r, e, name, m, layer)
            return
        elif name in ("text", "tspan"):
            _text(r, e, m, layer)
            return
        else:
            if name != "comment":
                r.dropped[name] += 1
            return
    except (ValueError, OverflowError, ZeroDivisionError):
        r.dropped[f"{name} with numbers that are none"] += 1
        return
    for points, closed in some:
        _keep(r, layer, points, m, closed=closed)


def _keep(r: _Reading, layer: str, points: list[Vec2], m: Matrix, *, closed: bool, circle: Circle | None = None) -> None:
    if len(points) < 2:
        return
    r.points += len(points)
    if r.points > MOST_POINTS:
        raise TooMuch(f"more than {MOST_POINTS} points")
    a, b, c, d, e, f = m
    moved = tuple((a * x + c * y + e, b * x + d * y + f) for x, y in points)
    if all(math.isfinite(v) and abs(v) < 1e7 for p in moved for v in p):
        r.lines.append(DrawnLine(layer=layer[:40], points=moved, closed=closed, circle=circle))
    else:
        r.dropped["shape with numbers that are none"] += 1


def _rectangle(e: ET.Element) -> list[Vec2]:
    x, y, w, h = (_length(e.get(k)) for k in ("x", "y", "width", "height"))
    if w <= 0 or h <= 0:
        return []
    rx, ry = _length(e.get("rx"), -1.0), _length(e.get("ry"), -1.0)
    rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
    rx, ry = min(max(rx, 0.0), w / 2), min(max(ry, 0.0), h / 2)
    if rx == 0 or ry == 0:
        return [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]
    points: list[Vec2] = []
    for cx, cy, first in ((x + w - rx, y + ry, -90), (x + w - rx, y + h - ry, 0), (x + rx, y + h - ry, 90), (x + rx, y + ry, 180)):
        points += [(cx + rx * math.cos(math.radians(first + 7.5 * i)), cy + ry * math.sin(math.radians(first + 7.5 * i))) for i in range(13)]
    return points


def _round(r: _Reading, e: ET.Element, name: str, m: Matrix, layer: str) -> None:
    cx, cy = _length(e.get("cx")), _length(e.get("cy"))
    rx = _length(e.get("r" if name == "circle" else "rx"))
    ry = rx if name == "circle" else _length(e.get("ry"))
    if not (rx > 0 and ry > 0 and math.isfinite(rx + ry + cx + cy)):
        return
    a, b, c, d, _, _ = m
    sx, sy = math.hypot(a * rx, b * rx), math.hypot(c * ry, d * ry)
    if abs(sx - sy) < 1e-6 * sx and abs(a * c + b * d) < 1e-9 * max(sx, 1.0) and sx < 1e6:
        x, y = a * cx + c * cy + m[4], b * cx + d * cy + m[5]
        circle = Circle(x=x, y=y, radius=sx)
        _keep(r, layer, list(circle_ring(circle, sag=min(0.004, sx / 50))), SAME, closed=True, circle=circle)
        return
    n = 96
    _keep(r, layer, [(cx + rx * math.cos(2 * math.pi * i / n), cy + ry * math.sin(2 * math.pi * i / n)) for i in range(n)], m, closed=True)


def _text(r: _Reading, e: ET.Element, m: Matrix, layer: str) -> None:
    """Text is set in the program's own plain letters, whatever face the file asks for."""
    words = " ".join("".join(e.itertext()).split())
    if not words:
        return
    size = _length(_styled(r, e).get("font-size") or e.get("font-size"), 16.0)
    x, y = _length(e.get("x")), _length(e.get("y"))
    shapes = text_outlines(words, size * CAP, serif=False)
    if not shapes:
        return
    left = min(p[0] for s in shapes for p in s.outer)
    for shape in shapes:
        for ring in (shape.outer, *shape.holes):
            _keep(r, layer, [(x + px - left, y - (py + size * CAP / 2)) for px, py in ring], m, closed=True)
    r.dropped["face of a text (set in plain letters instead)"] += 1
