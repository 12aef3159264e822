"""Where a new panel may stand, asked before it is there: on which edges of a panel, and how slats go across a room."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, product

from notchcore.design.braces import CornerRoom, corner_room
from notchcore.design.building import arranged
from notchcore.design.design import NO_DRAWINGS, Bed, Design
from notchcore.design.edges import StraightEdge, straight_edges
from notchcore.design.features.drawing import Drawing
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.design.slats import Room, Slat, room_between
from notchcore.design.visible import visible_frame
from notchcore.errors import DesignError, require
from notchcore.geom.planar import least_distance
from notchcore.geom.profile import Ring
from notchcore.geom.vectors import Vec2
from notchcore.measure.stock import Stock
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm
from notchcore.words.render import say

MOST_SLATS = 60  # each way
SHORTEST = 4.0  # thicknesses of a slat that is worth having
APART = 8.0  # thicknesses between the ends of two slats, from which on both find room in a wall

PHASES = tuple(k / 8 for k in (0, 4, 2, 6, 1, 3, 5, 7))  # of a step, the best looking first
PITCHES = tuple(1 + k / 50 for k in range(-6, 7))


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelEdges:
    """A panel's outline before joints are cut, and its straight edges, in the panel's plane [mm]."""

    outline: Ring
    edges: tuple[StraightEdge, ...]
    seen: tuple[Mm, Mm]  #: width and height of what other sheets do not hide of it


@dataclass(frozen=True, slots=True, kw_only=True)
class SlatPlace:
    """How one slat of a lattice runs [degrees, mm]."""

    turn: float
    offset: Mm


def corner_of(
    design: Design, stocks: Mapping[str, Stock], *, a: str, b: str, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None
) -> CornerRoom | None:
    """Return where a sheet across the corner of two panels may meet them; None where there is no such place.

    Raises:
        DesignError: there is no such panel
    """
    panels, _ = _panels(design, stocks, wanted=(a, b), drawings=drawings, bed=bed)
    return corner_room(panels, a=a, b=b)


def edges_of(design: Design, stocks: Mapping[str, Stock], *, panel: str, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None) -> PanelEdges:
    """Return the edges of a panel on which a wall may stand.

    Raises:
        DesignError: there is no such panel
    """
    panels, rules = _panels(design, stocks, wanted=(panel,), drawings=drawings, bed=bed)
    host = resolved(panels[panel], panels)
    x0, y0, x1, y1 = visible_frame(panels[panel], panels, rules=rules)
    return PanelEdges(outline=host.envelope.outer, edges=straight_edges(host), seen=(x1 - x0, y1 - y0))


def lattice_of(
    design: Design,
    stocks: Mapping[str, Stock],
    *,
    walls: Sequence[str],
    stock: str,
    pitch: Mm,
    turn: float,
    crossed: bool,
    drawings: Mapping[str, Drawing] = NO_DRAWINGS,
    bed: Bed | None = None,
) -> tuple[SlatPlace, ...]:
    """Return how the slats of a lattice run: by steps of about the pitch, as far as they are worth having.

    Args:
        turn: which way they run, from the direction of the first wall [degrees]
        crossed: others cross them squarely

    Raises:
        DesignError: the panels are gone or stand round no room, or there would be no slat, or too many
    """
    if stock not in stocks:
        raise DesignError(say("stock_off_rack"))
    t = stocks[stock].t
    require("pitch", pitch, least=2 * t, most=10_000)
    Slat(id="slat", label="Slat", stock=stock, walls=tuple(walls), turn=turn)  # says what is wrong with them
    room = room_between(walls, _panels(design, stocks, wanted=walls, drawings=drawings, bed=bed)[0])
    if room is None:
        raise DesignError(say("no_room_between"))
    angles = (turn, turn + 90.0) if crossed else (turn,)
    best, found = -1.0, tuple[SlatPlace, ...]()
    # A slat that ends in a corner, or where another does, finds no room for its joint: the distance and the place of each row give way a little.
    for share in sorted(PITCHES, key=lambda p: abs(p - 1)):
        rows = [[_row(room, angle, pitch=pitch * share, phase=phase, shortest=SHORTEST * t) for phase in PHASES] for angle in angles]
        for some in product(*rows):
            clear = min(_apart(room, some), APART * t)
            if clear > best + COINCIDENT:
                best, found = clear, tuple(place for row in some for place in row.places)
        if best >= APART * t:
            break
    if not found:
        raise DesignError(say("no_room_between"))
    return found


@dataclass(frozen=True, slots=True)
class _Row:
    """The slats that run one way, and where they end in the room's two directions."""

    places: tuple[SlatPlace, ...]
    ends: tuple[Vec2, ...]


def _row(room: Room, turn: float, *, pitch: Mm, phase: float, shortest: Mm) -> _Row:
    """Return the slats that run one way, by steps of the pitch from a share of it beside the room's middle."""
    most = math.ceil(room.reach(turn) / pitch) + 1
    if most > MOST_SLATS:
        raise DesignError(say("too_many_slats", most=2 * MOST_SLATS))
    lines = [(k, room.line(turn, (k + phase) * pitch)) for k in range(-most, most + 1)]
    long = [(k, line) for k, line in lines if line and math.dist(*line) >= shortest]
    places = tuple(SlatPlace(turn=turn, offset=(k + phase) * pitch) for k, _ in long)
    return _Row(places, tuple(end for _, line in long for end in line))


def _apart(room: Room, rows: Sequence[_Row]) -> Mm:
    """Return the least distance of the ends of slats from those that run another way, or twice that from the room's corners if it is less."""
    if not all(row.places for row in rows):
        return -0.5  # better than nothing only
    across = [least_distance(a.ends, b.ends) for a, b in combinations(rows, 2)]
    return min(*across, *(2 * least_distance(row.ends, room.corners) for row in rows), math.inf)


def _panels(
    design: Design, stocks: Mapping[str, Stock], *, wanted: Sequence[str], drawings: Mapping[str, Drawing], bed: Bed | None
) -> tuple[dict[str, Panel], Sequence[MeetingRule]]:
    """Return the panels that a new one would stand to, plain, but for those that only features make; and the rules of their meetings."""
    panels: dict[str, Panel] = {}
    for body in (replace(design, features=()), design):
        plan = arranged(body, stocks, drawings=drawings, bed=bed)
        panels = {p.id: p for p in (*plan.ghosts, *plan.panels)} | panels
        if all(name in panels for name in wanted):
            return panels, plan.rules
    raise DesignError(say("no_such_panel"))
