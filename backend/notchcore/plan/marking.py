"""Marks on parts: the number that a part has on the map of its sheet, scored small where there is room.

Each number stands clear of openings, joints, edges and whatever else is burned on that face; it reads right on the face it is on.
"""

from __future__ import annotations

import math

from notchcore.design.assembly import Part
from notchcore.design.lettering import lettered, text_width
from notchcore.geom.contours import polyline_of, transformed
from notchcore.geom.planar import Polygon, box, merged, pieces
from notchcore.geom.profile import bounds_of, polygon_of
from notchcore.geom.vectors import Vec2
from notchcore.ids import CopyId, PathId
from notchcore.measure.machine import Operation
from notchcore.plan.paths import CutPath, Laid
from notchcore.units import Mm

HEIGHTS: tuple[Mm, ...] = (3.0, 2.2)  # of the figures, the larger where it fits
CLEAR: Mm = 0.8  # to everything else
MARK_CLEAR: Mm = 1.0


def _room(part: Part, *, back: bool) -> list[Polygon]:
    """Return where a face is free."""
    taken = [Polygon(f.corners).buffer(MARK_CLEAR) for f in part.features if f.is_cut]
    for m in part.marks:
        if m.back is back and len(m.line) > 1:
            x0, y0, x1, y1 = bounds_of(m.line)
            taken.append(box(x0 - MARK_CLEAR, y0 - MARK_CLEAR, x1 + MARK_CLEAR, y1 + MARK_CLEAR))
    return pieces(polygon_of(part.profile).difference(merged(taken)))


def _place(part: Part, width: Mm, *, height: Mm, back: bool) -> Vec2 | None:
    """Return a middle for a text, low on the part where it is seen least; None without room."""
    reach = math.hypot(width, height) / 2 + CLEAR
    free = [p for room in _room(part, back=back) for p in pieces(room.buffer(-reach))]
    spots = [p for room in free for p in ((float(x), float(y)) for x, y in room.exterior.coords)]
    return min(spots, key=lambda p: (round(p[1], 2), round(p[0], 2)), default=None)


def number_mark(part: Part, laid: Laid, *, text: str, back: bool) -> CutPath | None:
    """Return the scored number of a part where it lies; None where there is no room for one.

    Args:
        back: it is scored on the part's back instead of its front
    """
    for height in HEIGHTS:
        spot = _place(part, text_width(text, height), height=height, back=back)
        if spot is None:
            continue
        strokes = lettered(text, 0.0, y=-height / 2, height=height, centred=True)
        side = -1.0 if back else 1.0
        lines = [polyline_of(tuple((spot[0] + side * x, spot[1] + y) for x, y in m.line)) for m in strokes]
        first, *rest = [transformed(line, laid.to, mirrored=laid.to.mirrored) for line in lines]
        return CutPath(
            id=str(PathId(CopyId(laid.part, laid.copy), "number")),
            part=laid.part,
            copy=laid.copy,
            operation=Operation.SCORE,
            contour=first,
            rest=tuple(rest),
            down=back != laid.to.mirrored,
        )
    return None
