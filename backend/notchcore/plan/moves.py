"""A plan as plain moves for a machine: straight lines with beam on or off."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from notchcore.geom.contours import sampled
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.cut_plan import SheetPlan
from notchcore.plan.raster import MOVE_SAG, burned_rows
from notchcore.units import Mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """Go through the points from the first; beam on at `power` percent, or off when 0."""

    path: str
    points: tuple[Vec2, ...]
    speed: float
    power: float
    passes: int
    overscan: Mm = 0.0  #: of engraved rows: the points are their ends, two a row, and the head runs on past each


def moves_of(sheet: SheetPlan, images: Mapping[str, str]) -> tuple[Move, ...]:
    """Return the burning moves of a sheet in order; the machine travels between them by itself.

    Args:
        images: by drawing, those that the sheet's photos are made from
    """
    found = []
    for stroke in sheet.strokes:
        if stroke.path.operation is Operation.ENGRAVE:
            rows = burned_rows(stroke.path, stroke.interval, images=images, upright=stroke.upright)
            if rows:
                found.append(Move(path=stroke.path.id, points=rows, speed=stroke.speed, power=stroke.power, passes=stroke.passes, overscan=sheet.overscan))
            continue
        for line in stroke.path.lines:
            points = sampled(line, sag=MOVE_SAG)
            closed = (*points, points[0]) if line.closed else points
            found.append(Move(path=stroke.path.id, points=closed, speed=stroke.speed, power=stroke.power, passes=stroke.passes))
    return tuple(found)
