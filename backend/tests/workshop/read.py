"""Burned lines as the files of a sheet hold them. Coordinates are millimetres, y up, of the sheet as it lies in its run."""

from __future__ import annotations

import base64
import io
import math
import re
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass, field

from shapely.geometry import LineString

Point = tuple[float, float]
SAG = 2e-4  # [mm] of chords that stand for arcs: far below what is judged
SVG = "{http://www.w3.org/2000/svg}"


@dataclass
class Burn:
    """One burned line, area or picture, in the order of its file."""

    name: str  #: as the file names it; empty where it does not
    layer: str
    points: list[Point]
    closed: bool
    box: tuple[float, float, float, float] | None = None  #: of a picture
    pixels: bytes = b""
    length: float = 0.0  #: true length, arcs counted as arcs
    steps: list[tuple[float, ...]] = field(default_factory=list)

    @property
    def line(self) -> LineString:
        return LineString([*self.points, self.points[0]] if self.closed and self.points[0] != self.points[-1] else self.points)


def arc_points(start: Point, end: Point, centre: Point, *, ccw: bool) -> tuple[list[Point], float]:
    """Return points after `start` along an arc up to its end, and its length. A whole circle ends where it begins."""
    a0, a1 = (math.atan2(p[1] - centre[1], p[0] - centre[0]) for p in (start, end))
    r0, r1 = math.dist(start, centre), math.dist(end, centre)
    turn = (a1 - a0) % (2 * math.pi) if ccw else -((a0 - a1) % (2 * math.pi))
    if math.dist(start, end) < 1e-9:
        turn = 2 * math.pi if ccw else -2 * math.pi
    r = max(r0, r1)
    count = max(2, math.ceil(abs(turn) / (2 * math.acos(max(1 - SAG / r, 0.0)) or 1.0))) if r > SAG else 2
    points = []
    for k in range(1, count):
        share = k / count
        a, radius = a0 + turn * share, r0 + (r1 - r0) * share
        points.append((centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)))
    return [*points, end], abs(turn) * (r0 + r1) / 2


def _svg_arc(start: Point, end: Point, r: float, large: bool, sweep: bool) -> tuple[list[Point], float]:
    """An arc by its radius and flags, in SVG's own plane (y down). An arc that ends where it begins is left out, as the standard says."""
    d = math.dist(start, end)
    if d == 0:
        return [], 0.0
    r = max(r, d / 2)
    h = math.sqrt(max(r * r - d * d / 4, 0.0))
    mx, my = (start[0] + end[0]) / 2, (start[1] + end[1]) / 2
    nx, ny = -(end[1] - start[1]) / d, (end[0] - start[0]) / d
    side = 1 if large != sweep else -1
    return arc_points(start, end, (mx + side * h * nx, my + side * h * ny), ccw=sweep)  # `sweep` turns with growing angles in this plane


def _path(d: str) -> Iterator[tuple[list[Point], bool, float]]:
    tokens = re.findall(r"[MLAZ]|-?[\d.]+(?:e-?\d+)?", d)
    i, points, length = 0, [], 0.0
    at: Point = (0.0, 0.0)

    def number() -> float:
        nonlocal i
        i += 1
        return float(tokens[i - 1])

    while i < len(tokens):
        command = tokens[i]
        i += 1
        if command == "M":
            if points:
                yield points, False, length
            at = (number(), number())
            points, length = [at], 0.0
        elif command == "L":
            to = (number(), number())
            length += math.dist(at, to)
            points.append(to)
            at = to
        elif command == "A":
            r, _, _, large, sweep = number(), number(), number(), number(), number()
            to = (number(), number())
            more, long = _svg_arc(at, to, r, bool(large), bool(sweep))
            points += more
            length += long
            at = to
        elif command == "Z":
            length += math.dist(at, points[0])
            yield points, True, length
            points, length = [], 0.0
        else:
            raise ValueError(f"a command that this reader does not know: {command}")
    if points:
        yield points, False, length


def read_svg(text: str) -> list[Burn]:
    """Return what an SVG file burns, in the order of the file."""
    root = ET.fromstring(text)
    height = float(root.get("viewBox", "").split()[3])
    if not (root.get("height") or "").endswith("mm") or abs(float((root.get("height") or "")[:-2]) - height) > 1e-9:
        raise ValueError("the file is not 1:1 in millimetres")
    found = []

    def up(p: Point) -> Point:
        return p[0], height - p[1]

    for group in root.iter(f"{SVG}g"):
        layer = group.get("data-layer") or group.get("id") or ""
        for e in group:
            name = e.get("id") or ""
            if e.tag == f"{SVG}circle":
                x, y, r = (float(e.get(k) or 0) for k in ("cx", "cy", "r"))
                points, length = arc_points((x + r, y), (x + r, y), (x, y), ccw=True)
                found.append(Burn(name, layer, [up(p) for p in points], True, length=length))
            elif e.tag == f"{SVG}path":
                for points, closed, length in _path(e.get("d") or ""):
                    found.append(Burn(name, layer, [up(p) for p in points], closed, length=length))
            elif e.tag == f"{SVG}image":
                x, y, w, h = (float(e.get(k) or 0) for k in ("x", "y", "width", "height"))
                pixels = base64.b64decode((e.get("href") or "").partition(",")[2])
                box = (x, height - y - h, x + w, height - y)
                found.append(Burn(name, layer, [(box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])], True, box=box, pixels=pixels))
            else:
                raise ValueError(f"an element that this reader does not know: {e.tag}")
    return found


def read_dxf(text: str) -> list[Burn]:
    """Return what a DXF file burns, in the order of the file."""
    import ezdxf

    document = ezdxf.read(io.StringIO(text))
    found = []
    for e in document.modelspace():
        layer = e.dxf.layer
        if e.dxftype() == "CIRCLE":
            c, r = e.dxf.center, e.dxf.radius
            points, length = arc_points((c.x + r, c.y), (c.x + r, c.y), (c.x, c.y), ccw=True)
            found.append(Burn("", layer, points, True, length=length))
        elif e.dxftype() == "LWPOLYLINE":
            rows = [tuple(p) for p in e.get_points("xyb")]
            points, length = [(rows[0][0], rows[0][1])], 0.0
            ends = [*rows[1:], rows[0]] if e.closed else rows[1:]
            for (x0, y0, bulge), (x1, y1, _) in zip(rows, ends, strict=False):
                a, b = (x0, y0), (x1, y1)
                d = math.dist(a, b)
                if bulge == 0 or d == 0:  # no bulge makes an arc of nothing
                    points.append(b)
                    length += d
                    continue
                r = d * (1 + bulge * bulge) / (4 * bulge)
                h = r - d * bulge / 2
                nx, ny = -(y1 - y0) / d, (x1 - x0) / d
                more, long = arc_points(a, b, ((x0 + x1) / 2 + nx * h, (y0 + y1) / 2 + ny * h), ccw=bulge > 0)
                points += more
                length += long
            found.append(Burn("", layer, points, bool(e.closed), length=length))
        else:
            raise ValueError(f"an entity that this reader does not know: {e.dxftype()}")
    return found


def read_gcode(text: str) -> list[Burn]:
    """Return the cut and scored lines of G-code, each pass for itself, and the burning stretches of engraved rows under their note."""
    at: Point = (0.0, 0.0)
    note, found = "", []
    current: Burn | None = None
    on = False
    power = 0.0
    for raw in text.splitlines():
        if raw.startswith("("):
            note = raw.strip("()")
            continue
        words = {w[0]: float(w[1:]) for w in raw.split() if w[0] in "XYIJSF" and len(w) > 1}
        head = raw.split()[0] if raw.split() else ""
        if "S" in words:
            power = words["S"]
        if head == "M3":
            on, current = True, None
        elif head == "M5":
            on, current = False, None
        elif head in ("G0", "G1", "G2", "G3"):
            to = (words.get("X", at[0]), words.get("Y", at[1]))
            if head != "G0" and on and power > 0:
                if current is None or math.dist(current.points[-1], at) > 1e-9:
                    current = Burn(note, note.split()[0], [at], False)
                    found.append(current)
                if head == "G1":
                    current.points.append(to)
                    current.length += math.dist(at, to)
                else:
                    more, long = arc_points(at, to, (at[0] + words["I"], at[1] + words["J"]), ccw=head == "G3")
                    current.points += more
                    current.length += long
            at = to
    return found


def read_pdf(data: bytes) -> list[Burn]:  # noqa: C901  (a table of what a page may say)
    """Return what a sheet's PDF draws, areas filled under the layer "fill", lines under their colour; curves as fine chords."""
    from pypdf import PdfReader
    from pypdf.generic import ContentStream

    reader = PdfReader(io.BytesIO(data))
    page = reader.pages[0]
    mm = 25.4 / 72
    found: list[Burn] = []
    state = [(1.0, 0.0, 0.0, 1.0, 0.0, 0.0)]
    points: list[Point] = []
    subpaths: list[tuple[list[Point], bool]] = []

    def placed(x: float, y: float) -> Point:
        a, b, c, d, e, f = state[-1]
        return (a * x + c * y + e) * mm, (b * x + d * y + f) * mm

    stream = ContentStream(page.get_contents(), reader)
    for operands, operator in stream.operations:
        v = [float(o) for o in operands] if operator in (b"m", b"l", b"c", b"cm") else []
        if operator == b"q":
            state.append(state[-1])
        elif operator == b"Q":
            state.pop()
        elif operator == b"cm":
            a, b, c, d, e, f = v
            A, B, C, D, E, F = state[-1]
            state[-1] = (a * A + b * C, a * B + b * D, c * A + d * C, c * B + d * D, e * A + f * C + E, e * B + f * D + F)
        elif operator == b"m":
            if points:
                subpaths.append((points, False))
            points = [placed(*v)]
        elif operator == b"l":
            points.append(placed(*v))
        elif operator == b"c":
            p0 = points[-1]
            p1, p2, p3 = placed(v[0], v[1]), placed(v[2], v[3]), placed(v[4], v[5])
            for k in range(1, 65):
                t = k / 64
                s = 1 - t
                points.append(tuple(s**3 * p0[i] + 3 * s * s * t * p1[i] + 3 * s * t * t * p2[i] + t**3 * p3[i] for i in (0, 1)))  # type: ignore[arg-type]
        elif operator == b"h":
            subpaths.append((points, True))
            points = []
        elif operator in (b"S", b"f", b"f*", b"n", b"B"):
            if points:
                subpaths.append((points, False))
            points = []
            if operator != b"n":
                found += [Burn("", "fill" if operator in (b"f", b"f*") else "line", p, closed) for p, closed in subpaths if len(p) > 1]
            subpaths = []
    return found
