"""Engraved rows: of areas and of pictures, and how long they take."""

from __future__ import annotations

from collections.abc import Mapping

from notchcore.errors import PlanError
from notchcore.geom.contours import sampled
from notchcore.geom.profile import Ring
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Machine
from notchcore.plan.motion import sweep_time
from notchcore.plan.paths import CutPath
from notchcore.plan.rows import raster_rows, raster_time, sweeps_of
from notchcore.trace.photo import Dots, dotted, rows_of
from notchcore.units import Mm
from notchcore.words.render import say

MOVE_SAG: Mm = 0.01  # arcs become chords this near for the controller


def areas_of(path: CutPath) -> list[Ring]:
    """Return the areas that a path engraves [mm]."""
    return [sampled(c, sag=MOVE_SAG) for c in path.contours]


def photo_dots(path: CutPath, interval: Mm, *, images: Mapping[str, str]) -> Dots:
    """Return the dots of a path that burns a photo.

    Args:
        interval: between rows [mm]
        images: by drawing
    Raises:
        PlanError: its image is missing
    """
    photo = path.photo
    if photo is None or photo.image not in images:
        raise PlanError(say("picture_missing"))
    return dotted(photo, images[photo.image], frame=path.frame, interval=interval, clip=path.clip)


def burned_rows(path: CutPath, interval: Mm, *, images: Mapping[str, str], upright: bool) -> tuple[Vec2, ...]:
    """Return the stretches that an engraving burns, two points each.

    Args:
        upright: rows run along y; a photo's run along its longer side
    Raises:
        PlanError: the image of a photo is missing
    """
    if path.photo is None:
        return raster_rows(areas_of(path), interval, upright=upright)
    return rows_of(photo_dots(path, interval, images=images))


def engraving_time(path: CutPath, speed: float, *, interval: Mm, machine: Machine, images: Mapping[str, str]) -> tuple[float, bool]:
    """Return how long a path takes to engrave once [s], and whether its rows run along y. Arguments and errors as of `burned_rows`."""
    if path.photo is None:
        return raster_time(areas_of(path), speed, interval=interval, machine=machine)
    rows = rows_of(photo_dots(path, interval, images=images))
    return sweep_time(sweeps_of(rows), speed, machine=machine), len(rows) > 1 and rows[0][0] == rows[1][0]
