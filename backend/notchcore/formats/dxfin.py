"""DXF files in: lines, arcs, circles, polylines, curves, blocks and text become lines; whatever is left out is listed."""

from __future__ import annotations

import io
import math
from collections import Counter
from typing import Any

from notchcore.design.features.drawing import MOST_POINTS, Drawing, DrawnLine, Note, tidied
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import Circle, circle_ring

UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 8: 25.4e-6, 9: 0.0254, 10: 914.4, 13: 1e-3, 14: 100.0}
SAG = 0.005  # [units] between a curve and its chords
MOST_ENTITIES = 60_000
DEEPEST = 12


class _Full(Exception):
    """A limit was reached: what was read so far is kept."""


class _Reading:
    def __init__(self) -> None:
        self.lines: list[DrawnLine] = []
        self.dropped: Counter[str] = Counter()
        self.entities = 0
        self.points = 0

    def keep(self, layer: str, points: list[tuple[float, float]], *, closed: bool, circle: Circle | None = None) -> None:
        self.points += len(points)
        if self.points > MOST_POINTS:
            raise _Full(f"more than {MOST_POINTS} points")
        if len(points) > 1 and all(math.isfinite(v) and abs(v) < 1e7 for p in points for v in p):
            self.lines.append(DrawnLine(layer=layer[:40], points=tuple(points), closed=closed, circle=circle))


def read_dxf(data: bytes) -> Drawing:
    """Return the drawing of a DXF file; a file that is none gives a drawing without lines and a note."""
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError

    try:
        document, _ = recover.read(io.BytesIO(data))
    except (DXFError, OSError, ValueError, KeyError, IndexError, TypeError, AttributeError, RecursionError, UnicodeError) as problem:
        note = Note(code="not_readable", message=f"This is not a DXF file that can be read: {str(problem)[:120] or type(problem).__name__}.")
        return Drawing(lines=(), mm_per_unit=None, notes=(note,))
    r = _Reading()
    notes = []
    try:
        for entity in document.modelspace():
            _read(r, entity, 0)
    except _Full as limit:
        notes.append(Note(code="too_large", message=f"The file has {limit}: only what was read before that is taken. Simplify it and try again."))
    unit = UNITS.get(int(document.header.get("$INSUNITS", 0) or 0))
    notes += [Note(code="left_out", message=f"{n} × {what} left out.") for what, n in sorted(r.dropped.items())]
    return tidied(r.lines, unit, notes)


def _read(r: _Reading, entity: Any, depth: int) -> None:
    from ezdxf import path

    r.entities += 1
    if r.entities > MOST_ENTITIES:
        raise _Full(f"more than {MOST_ENTITIES} entities")
    kind = entity.dxftype()
    layer = str(entity.dxf.get("layer", "0"))
    try:
        if kind == "INSERT":
            if depth >= DEEPEST:
                r.dropped["block nested too deeply"] += 1
                return
            for inner in entity.virtual_entities():
                _read(r, inner, depth + 1)
        elif kind == "CIRCLE" and abs(entity.dxf.extrusion.z - 1) < 1e-9:
            circle = Circle(x=float(entity.dxf.center.x), y=float(entity.dxf.center.y), radius=float(entity.dxf.radius))
            if circle.radius > 0 and math.isfinite(circle.radius):
                r.keep(layer, list(circle_ring(circle, sag=min(SAG, circle.radius / 50))), closed=True, circle=circle)
        elif kind in ("TEXT", "MTEXT", "ATTRIB"):
            _text(r, entity, layer)
        elif kind in ("LINE", "ARC", "CIRCLE", "ELLIPSE", "LWPOLYLINE", "POLYLINE", "SPLINE", "SOLID", "TRACE"):
            line = path.make_path(entity)
            for part in line.sub_paths():
                points = [(float(p.x), float(p.y)) for p in part.flattening(SAG, segments=4)]
                r.keep(layer, points, closed=bool(part.is_closed))
        else:
            r.dropped[kind] += 1
    except _Full:
        raise
    except (ValueError, TypeError, ArithmeticError, AttributeError, KeyError, IndexError):
        r.dropped[f"{kind} that cannot be read"] += 1


def _text(r: _Reading, entity: Any, layer: str) -> None:
    words = " ".join(str(entity.plain_text()).split())
    height = float(entity.dxf.get("char_height" if entity.dxftype() == "MTEXT" else "height", 2.5))
    if not words or not 0 < height < 1e5:
        return
    a = math.radians(float(entity.dxf.get("rotation", 0.0)))
    x, y = float(entity.dxf.insert.x), float(entity.dxf.insert.y)
    shapes = text_outlines(words, height, serif=False)
    left = min((p[0] for s in shapes for p in s.outer), default=0.0)
    for shape in shapes:
        for ring in (shape.outer, *shape.holes):
            local = [(px - left, py + height / 2) for px, py in ring]
            r.keep(layer, [(x + px * math.cos(a) - py * math.sin(a), y + px * math.sin(a) + py * math.cos(a)) for px, py in local], closed=True)
    r.dropped["face of a text (set in plain letters instead)"] += 1
