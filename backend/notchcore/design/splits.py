"""Dividing a panel that is too long: two panels whose envelopes overlap a little, so that a splice can be cut between them.

Each piece is named after its panel with a number behind a dot, from left to right in the panel's own plane.
"""

from __future__ import annotations

from dataclasses import replace

from notchcore.design.lettering import lettered, text_width
from notchcore.design.panel import Panel
from notchcore.geom.planar import box, pieces
from notchcore.geom.profile import Profile, Ring, bounds_of, polygon_of, profile_of
from notchcore.ids import PieceId
from notchcore.units import Mm

MARK_HEIGHT: Mm = 4.0
MARK_LEAST: Mm = 1.5  # lower letters than this are soot
EDGE: Mm = 1.5  # from a mark to an edge
SIGN_HEIGHTS: tuple[Mm, ...] = (4.0, 3.0, 2.0, MARK_LEAST)  # the largest that has room


def _piece(panel: Panel, x0: Mm, *, x1: Mm) -> Profile:
    low, high = bounds_of(panel.envelope.outer)[1], bounds_of(panel.envelope.outer)[3]
    left = pieces(polygon_of(panel.envelope).intersection(box(x0, low - 1, x1, high + 1)))
    return profile_of(max(left, key=lambda p: p.area), circles=panel.envelope.circles)


def split(panel: Panel, *, at: Mm, lap: Mm) -> tuple[Panel, Panel]:
    """Return both sides of a panel, or of a piece of one, divided at x = `at` of its own plane; they overlap by `lap` [mm]."""
    x0, _, x1, _ = bounds_of(panel.envelope.outer)
    name = panel.label.rpartition("·")[0] if panel.piece_of else panel.label
    k = PieceId.parse(panel.id).number if panel.piece_of else 1

    def piece(number: int, low: Mm, high: Mm, *, is_left: bool) -> Panel:
        pid = str(PieceId(panel.whole, number))
        return replace(
            panel,
            id=pid,
            label=f"{name}·{number}",
            envelope=_piece(panel, low, x1=high),
            inside=None,
            falls_from="",
            piece_of=panel.whole,
            openings=tuple(o for o in panel.openings if _reaches(o.ring, low, high=high)),
            marks=tuple(m for m in panel.marks if _reaches(m.line, low, high=high)),  # each side burns what of it lies on that side
            folds=tuple(f for f in panel.folds if _reaches(f, low, high=high)),
            features=tuple(replace(f, part=pid) for f in panel.features if (_middle(f.corners) < at) is is_left),
        )

    return piece(k, x0 - 1, at + lap / 2, is_left=True), piece(k + 1, at - lap / 2, x1 + 1, is_left=False)


def _reaches(line: Ring, low: Mm, *, high: Mm) -> bool:
    xs = [p[0] for p in line]
    return min(xs) < high and max(xs) > low


def _middle(line: Ring) -> Mm:
    xs = [p[0] for p in line]
    return (min(xs) + max(xs)) / 2


def marked(panel: Panel, text: str, *, room: Mm | None = None, from_edge: Mm = 0.0) -> Panel:
    """Return the panel with its name scored near its lower left corner, as high as `room` [mm along x] allows.

    Args:
        from_edge: how far from the left edge the room begins [mm]
    """
    x0, y0, x1, y1 = bounds_of(panel.envelope.outer)
    x0 += from_edge
    width = min(room if room is not None else x1 - x0, x1 - x0) - 2 * EDGE
    height = min(MARK_HEIGHT, (y1 - y0) / 3, MARK_HEIGHT * width / max(text_width(text, MARK_HEIGHT), 0.1))
    if height < MARK_LEAST:
        return panel
    shape = polygon_of(panel.envelope)
    area = box(x0 + EDGE, y0 + EDGE, x0 + EDGE + text_width(text, height), y0 + EDGE + height)
    if not shape.contains(area):
        return panel
    return replace(panel, marks=(*panel.marks, *lettered(text, x0 + EDGE, y=y0 + EDGE, height=height)))


def signed(panel: Panel, sign: str, *, left: bool, room: Mm, from_edge: Mm) -> Panel:
    """Return the panel with a sign scored beside its left or right edge, above its name; as it is where no sign has room.

    Args:
        sign: the same on both sides of a break
        room: how wide the sign may be [mm]
        from_edge: how far from the edge the room begins [mm]
    """
    x0, y0, x1, _ = bounds_of(panel.envelope.outer)
    shape = polygon_of(panel.envelope)
    y = y0 + MARK_HEIGHT + 2 * EDGE
    for height in SIGN_HEIGHTS:
        width = text_width(sign, height)
        x = x0 + from_edge + EDGE if left else x1 - from_edge - EDGE - width
        if width <= room - 2 * EDGE and shape.contains(box(x, y, x + width, y + height + EDGE)):
            return replace(panel, marks=(*panel.marks, *lettered(sign, x, y=y, height=height)))
    return panel
