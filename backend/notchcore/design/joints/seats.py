"""Engraved seats of one panel: what several pieces lie in is burned once, the deeper where two depths share a place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from notchcore.design.assembly import Mark
from notchcore.geom.planar import BaseGeometry, Polygon, merged, pieces
from notchcore.geom.profile import bridged, profile_of
from notchcore.measure.machine import Operation
from notchcore.units import Mm

LEAST = 0.01  # [mm2]


@dataclass(frozen=True, slots=True)
class Seat:
    """Where something lies in a panel's face, in its plane."""

    shape: BaseGeometry
    depth: Mm  #: 0: as the settings burn
    back: bool


def burned(seats: Sequence[Seat]) -> list[Mark]:
    """Return the areas that are engraved for seats, none of them twice."""
    marks: list[Mark] = []
    for back, side in groupby(sorted(seats, key=lambda s: (s.back, -s.depth)), key=lambda s: s.back):
        done: BaseGeometry = Polygon()
        for depth, alike in groupby(side, key=lambda s: s.depth):
            whole = merged([s.shape for s in alike])
            areas = [p for p in pieces(whole.difference(done)) if p.area > LEAST]
            marks += [Mark(line=bridged(profile_of(p)), operation=Operation.ENGRAVE, back=back, depth=depth) for p in areas]
            done = merged([done, whole])
    return marks
