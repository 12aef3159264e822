"""A plan as plain moves for a machine: straight lines with beam on or off."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from notchcore.errors import PlanError
from notchcore.geom.contours import sampled
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.cutplan import SheetPlan, Stroke
from notchcore.plan.motion import raster_rows
from notchcore.trace.photo import Dots, dotted, rows_of
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


def moves_of(sheet: SheetPlan, images: Mapping[str, str]) -> tuple[Move, ...]:
    """Return the burning moves of a sheet in order; the machine travels between them by itself.

    Args:
        images: by drawing, those that the sheet's photos are made from
    """
    found = []
    for stroke in sheet.strokes:
        if stroke.path.operation is Operation.ENGRAVE:
            rows = burned_rows(stroke, images)
            if rows:
                found.append(Move(path=stroke.path.id, points=rows, speed=stroke.speed, power=stroke.power, passes=stroke.passes, overscan=sheet.overscan))
            continue
        for line in stroke.path.lines:
            points = sampled(line, sag=MOVE_SAG)
            closed = (*points, points[0]) if line.closed else points
            found.append(Move(path=stroke.path.id, points=closed, speed=stroke.speed, power=stroke.power, passes=stroke.passes))
    return tuple(found)


def burned_rows(stroke: Stroke, images: Mapping[str, str]) -> tuple[Vec2, ...]:
    """Return the stretches that an engraving burns, two points each.

    Raises:
        PlanError: the image of a photo is missing
    """
    if stroke.path.photo is None:
        return raster_rows(sampled(stroke.path.contour, sag=MOVE_SAG), stroke.interval)
    return rows_of(photo_dots(stroke, images))


def photo_dots(stroke: Stroke, images: Mapping[str, str]) -> Dots:
    """Return the dots of a stroke that burns a photo.

    Raises:
        PlanError: its image is missing
    """
    photo = stroke.path.photo
    if photo is None or photo.image not in images:
        raise PlanError("A picture of this job is missing. Bring it in again on Build.")
    return dotted(photo, images[photo.image], stroke.path.frame, stroke.interval)
