"""Whether a part that one tab holds at its end leans on others farther out, so that it cannot swing on the tab."""

from __future__ import annotations

from collections.abc import Sequence

from notchcore.design.assembly import Part
from notchcore.geom.planar import Point, pieces
from notchcore.geom.profile import polygon_of, profile_of
from notchcore.geom.slab import Slab, box_of, boxes_touch, common_volume
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

SWING: Mm = 0.2  # to either side, before what stands beside it must be met
MET = 0.05  # [mm3] from which on it is


def propped(part: Part, others: Sequence[Part], *, tab: Vec2, reach: Mm) -> bool:
    """Tell whether the half of a part that is far from its tab meets other parts when it swings a little to either face.

    Args:
        tab: the tab's middle, in the part's plane
        reach: how far the part goes from there [mm]
    """
    far = max(pieces(polygon_of(part.nominal).difference(Point(tab).buffer(reach / 2))), key=lambda p: p.area, default=None)
    if far is None:
        return False
    profile = profile_of(far)
    for by in (-SWING, SWING):
        swung = Slab(profile=profile, pose=part.pose, low=part.low + by, high=part.high + by)
        beside = (o.slab(nominal=True) for o in others if o.id != part.id and not o.loose)
        if not any(boxes_touch(box_of(swung), box_of(o), reach=0.0) and common_volume(swung, o) > MET for o in beside):
            return False
    return True
