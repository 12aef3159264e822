"""A plan as plain moves for a machine: straight lines with beam on or off."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.geom.contours import sampled
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.cutplan import SheetPlan
from notchcore.plan.motion import raster_rows
from notchcore.units import Mm

MOVE_SAG = 0.01  # [mm] arcs become chords this near for the controller


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """Go through the points from the first; beam on at `power` percent, or off when 0."""

    path: str
    points: tuple[Vec2, ...]
    speed: float
    power: float
    passes: int
    overscan: Mm = 0.0  #: of engraved rows: the points are their ends, two a row, and the head runs on past each


def moves_of(sheet: SheetPlan) -> tuple[Move, ...]:
    """Return the burning moves of a sheet in order; the machine travels between them by itself."""
    found = []
    for stroke in sheet.strokes:
        points = sampled(stroke.path.contour, sag=MOVE_SAG)
        if stroke.path.operation is Operation.ENGRAVE:
            rows = raster_rows(points, stroke.interval)
            if rows:
                found.append(Move(path=stroke.path.id, points=rows, speed=stroke.speed, power=stroke.power, passes=stroke.passes, overscan=sheet.overscan))
            continue
        closed = (*points, points[0]) if stroke.path.contour.closed else points
        found.append(Move(path=stroke.path.id, points=closed, speed=stroke.speed, power=stroke.power, passes=stroke.passes))
    return tuple(found)
