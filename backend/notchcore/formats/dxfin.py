"""DXF files in: lines, arcs, circles, polylines, curves, blocks and text become lines; whatever is left out is listed.

As with SVG, a file is read roughly first, to know how large it is, and then with chords as near to its curves as that asks for.
"""

from __future__ import annotations

import io
import math
from collections import Counter
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from notchcore.design.features.drawing import MOST_POINTS, Drawing, DrawnLine, Note, named_layers, tidied
from notchcore.formats.nearness import Dropped, dropped_notes, read_near
from notchcore.geom.curves import arc_steps
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import Circle, circle_ring
from notchcore.words.facts import Sentence
from notchcore.words.render import say

UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 8: 25.4e-6, 9: 0.0254, 10: 914.4, 13: 1e-3, 14: 100.0}
ROUGH = 0.05  # [units] between a curve and its chords, when only the extent is wanted
FEWEST = 16  # chords between two knots of a curve: with fewer, an S could pass for a straight line
COLOURS = {1: "red", 2: "yellow", 3: "green", 4: "cyan", 5: "blue", 6: "magenta", 7: "black"}
BY_BLOCK, BY_LAYER = 0, 256
MOST_ENTITIES = 60_000
DEEPEST = 12


class _Full(Exception):
    """There are more entities than are read: what was read so far is kept."""


class _TooManyPoints(Exception):
    """There are more points than are taken: what was read so far is kept."""


@dataclass(frozen=True, slots=True)
class _Within:
    """The block that something is in."""

    layer: str = "0"
    colour: str = "black"
    depth: int = 0


class _Reading:
    def __init__(self, layers: Any, sag: float) -> None:
        self.layers = layers
        self.sag = sag
        self.lines: list[tuple[str, DrawnLine]] = []
        self.dropped: Counter[Dropped] = Counter()
        self.entities = 0
        self.points = 0
        self.limit: Sentence | None = None
        self.full = False

    @property
    def taken(self) -> list[tuple[str, DrawnLine]]:
        return self.lines

    def keep(self, layer: str, colour: str, *, points: list[tuple[float, float]], closed: bool, circle: Circle | None = None) -> None:
        self.points += len(points)
        if self.points > MOST_POINTS:
            raise _TooManyPoints
        if len(points) > 1 and all(math.isfinite(v) and abs(v) < 1e7 for p in points for v in p):
            self.lines.append((layer if layer != "0" else "", DrawnLine(layer=colour, points=tuple(points), closed=closed, circle=circle)))


def read_dxf(data: bytes) -> Drawing:
    """Return the drawing of a DXF file; a file that is none gives a drawing without lines and a note."""
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError

    try:
        document, _ = recover.read(io.BytesIO(data))
    except (DXFError, OSError, ValueError, KeyError, IndexError, TypeError, AttributeError, RecursionError, UnicodeError) as problem:
        note = Note(code="not_readable", says=say("not_readable.dxf", problem=str(problem)[:120] or type(problem).__name__))
        return Drawing(lines=(), mm_per_unit=None, notes=(note,))

    def read(sag: float) -> _Reading:
        r = _Reading(document.layers, sag)
        try:
            for entity in document.modelspace():
                _read(r, entity, block=_Within())
        except _Full:
            r.limit = say("limit.entities", most=MOST_ENTITIES)
        except _TooManyPoints:
            r.full = True
        return r

    r, notes = read_near(read, ROUGH)
    unit = UNITS.get(int(document.header.get("$INSUNITS", 0) or 0))
    notes += dropped_notes(r.dropped)
    return tidied(named_layers(r.taken), unit, notes=notes, sag=r.sag)


def _colour(entity: Any, layer: Any, *, block: _Within) -> str:
    """Return the colour of an entity: its own, its layer's, or that of the block that it is in."""
    from ezdxf.colors import aci2rgb, int2rgb

    if entity.dxf.hasattr("true_color"):
        return str(int2rgb(entity.dxf.true_color).to_hex())
    number = int(entity.dxf.get("color", BY_LAYER))
    if number == BY_BLOCK:
        return block.colour
    if number == BY_LAYER:
        number = abs(int(layer.dxf.get("color", 7))) if layer is not None else 7
    return COLOURS.get(number) or (str(aci2rgb(number).to_hex()) if 0 < number < BY_LAYER else "black")


def _read(r: _Reading, entity: Any, *, block: _Within) -> None:
    r.entities += 1
    if r.entities > MOST_ENTITIES:
        raise _Full
    kind = entity.dxftype()
    name = str(entity.dxf.get("layer", "0"))
    name = block.layer if name == "0" else name  # what lies on layer 0 in a block lies where the block does
    try:
        layer = r.layers.get(name) if name in r.layers else None
        if entity.dxf.get("invisible", 0) or (layer is not None and (layer.is_off() or layer.is_frozen())):
            r.dropped["dropped.switched_off", ""] += 1
            return
        colour = _colour(entity, layer, block=block)
        if kind == "INSERT":
            if block.depth >= DEEPEST:
                r.dropped["dropped.nested", ""] += 1
                return
            for inner in entity.virtual_entities():
                _read(r, inner, block=_Within(name, colour, block.depth + 1))
        else:
            _drawn(r, entity, kind=kind, layer=name, colour=colour)
    except (ValueError, TypeError, ArithmeticError, AttributeError, KeyError, IndexError):
        r.dropped["dropped.unreadable", kind] += 1


def _drawn(r: _Reading, entity: Any, *, kind: str, layer: str, colour: str) -> None:
    from ezdxf import path

    if kind == "CIRCLE" and abs(entity.dxf.extrusion.z - 1) < 1e-9:
        circle = Circle(x=float(entity.dxf.center.x), y=float(entity.dxf.center.y), radius=float(entity.dxf.radius))
        if circle.radius > 0 and math.isfinite(circle.radius):
            r.keep(layer, colour, points=list(circle_ring(circle, sag=min(r.sag, circle.radius / 50))), closed=True, circle=circle)
    elif kind in ("TEXT", "MTEXT", "ATTRIB"):
        _text(r, entity, layer=layer, colour=colour)
    elif kind in ("ARC", "CIRCLE", "ELLIPSE", "SPLINE"):  # by their own formula: as Bézier curves they would be 0.03 % off
        points = [(float(p.x), float(p.y)) for p in (entity.flattening(r.sag) if kind in ("ARC", "CIRCLE") else entity.flattening(r.sag, FEWEST))]
        whole = bool(entity.closed) if kind == "SPLINE" else kind != "ARC" and math.dist(points[0], points[-1]) < r.sag
        r.keep(layer, colour, points=points, closed=whole)
    elif kind == "LWPOLYLINE" or (kind == "POLYLINE" and entity.is_2d_polyline):
        corners = [(float(x), float(y), float(b)) for x, y, b in _corners(entity, kind)]
        to_world = entity.ocs().to_wcs
        placed = (to_world((x, y, 0.0)) for x, y in _bulged(corners, r.sag, closed=bool(entity.is_closed)))
        r.keep(layer, colour, points=[(float(p[0]), float(p[1])) for p in placed], closed=bool(entity.is_closed))
    elif kind in ("LINE", "POLYLINE", "SOLID", "TRACE"):
        for part in path.make_path(entity).sub_paths():
            r.keep(layer, colour, points=[(float(p.x), float(p.y)) for p in part.flattening(r.sag, segments=4)], closed=bool(part.is_closed))
    else:
        r.dropped["dropped", kind] += 1


def _corners(entity: Any, kind: str) -> Any:
    """Return the corners of a flat polyline, each with the bulge of the edge after it."""
    if kind == "LWPOLYLINE":
        return entity.get_points("xyb")
    return [(v.dxf.location.x, v.dxf.location.y, v.dxf.get("bulge", 0.0)) for v in entity.vertices]


def _bulged(corners: list[tuple[float, float, float]], sag: float, *, closed: bool) -> list[tuple[float, float]]:
    """Return a polyline's points, arcs as chords. An edge's bulge is the tangent of a quarter of its arc's angle, positive to the left."""
    points: list[tuple[float, float]] = []
    for (x, y, bulge), (u, v, _) in pairwise([*corners, corners[0]] if closed else corners):
        points.append((x, y))
        chord = math.hypot(u - x, v - y)
        if not bulge or not chord:
            continue
        turn = 4 * math.atan(bulge)
        radius = chord / (2 * math.sin(turn / 2))
        off = radius * math.cos(turn / 2) / chord  # of the middle from the chord, in chords
        mx, my = (x + u) / 2 - (v - y) * off, (y + v) / 2 + (u - x) * off
        steps = arc_steps(turn, abs(radius), sag=sag)
        for i in range(1, steps):
            a = turn * i / steps
            points.append((mx + (x - mx) * math.cos(a) - (y - my) * math.sin(a), my + (x - mx) * math.sin(a) + (y - my) * math.cos(a)))
    return points if closed else [*points, corners[-1][:2]]


def _text(r: _Reading, entity: Any, *, layer: str, colour: str) -> None:
    words = " ".join(str(entity.plain_text()).split())
    height = float(entity.dxf.get("char_height" if entity.dxftype() == "MTEXT" else "height", 2.5))
    if not words or not 0 < height < 1e5:
        return
    a = math.radians(float(entity.dxf.get("rotation", 0.0)))
    x, y = float(entity.dxf.insert.x), float(entity.dxf.insert.y)
    shapes = text_outlines(words, height, serif=False, sag=r.sag)
    left = min((p[0] for s in shapes for p in s.outer), default=0.0)
    for shape in shapes:
        for ring in (shape.outer, *shape.holes):
            local = [(px - left, py + height / 2) for px, py in ring]
            r.keep(layer, colour, points=[(x + px * math.cos(a) - py * math.sin(a), y + px * math.sin(a) + py * math.cos(a)) for px, py in local], closed=True)
    r.dropped["dropped.face", ""] += 1
