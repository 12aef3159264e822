"""How long the beam burns for a part, before anything is laid out."""

from __future__ import annotations

from notchcore.design.assembly import Part
from notchcore.geom.contours import Contour, sampled
from notchcore.measure.machine import Beam, Machine, Operation, Settings
from notchcore.plan.motion import path_time
from notchcore.plan.paths import part_paths
from notchcore.plan.rows import raster_time
from notchcore.units import Mm


def burning_time(part: Part, settings: Settings, *, machine: Machine, kerf: Mm = 0.0) -> float:
    """Return how long one piece of a part is burned [s], with all passes and pierces; the way from cut to cut is left out, it is small."""
    paths = part_paths(part, kerf)
    cuts: list[tuple[Operation, Contour, Beam | None]] = [(Operation.OUTER, c, None) for c in (*paths.outer, *(c for _, c in paths.inner))]
    seconds = 0.0
    for operation, contour, own in (*((m.operation, c, m.beam) for m, c in paths.marks), *cuts):
        beam = own or settings.beam(operation)
        once = (
            raster_time([sampled(contour)], min(beam.speed, machine.raster_speed), interval=beam.interval, machine=machine)[0]
            if operation is Operation.ENGRAVE
            else path_time(contour, beam.speed, machine=machine)
        )
        seconds += (once + machine.pierce) * beam.passes
    return seconds
