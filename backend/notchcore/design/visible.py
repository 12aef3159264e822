"""What of a panel is seen once it stands among the others: tabs in a mate's face, and feet that reach through plates, are not.

Places of features count from the box around that, so that a thicker sheet below does not move what stands on a figure.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from notchcore.design.meetings.all import all_meetings
from notchcore.design.meetings.find import Bar, MeetingKind
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.design.styles import Style
from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.profile import bounds_of, polygon_of, profile_of
from notchcore.geom.slab import box_of, boxes_touch
from notchcore.units import Mm

Frame = tuple[Mm, Mm, Mm, Mm]
NOTHING = 1e-3  # [mm2] beyond a mate: float noise
FAR: Mm = 1e5


def visible_frame(panel: Panel, everything: Mapping[str, Panel], *, rules: Sequence[MeetingRule] = ()) -> Frame:
    """Return the box around what is seen of a panel, in its own plane: x0, y0, x1, y1 [mm].

    Args:
        everything: all panels, by id, those that are left out too
        rules: pairs that only rest against each other hide nothing
    """
    whole = resolved(panel, everything)
    apart = {frozenset((r.a, r.b)) for r in rules if r.style in (Style.REST, Style.BLIND, Style.BUTT)}
    mates = [
        resolved(q, everything)
        for q in everything.values()
        if q.id != panel.id and frozenset((panel.id, q.id)) not in apart and boxes_touch(box_of(whole.slab()), box_of(q.slab()), reach=0.2)
    ]
    bars = [b for q in mates for b in all_meetings([whole, q], apart=set(), spliced=set()) if b.kind in (MeetingKind.TEE, MeetingKind.THROUGH)]
    shape = polygon_of(replace(whole.envelope, holes=()))
    seen = shape
    while True:  # what reaches through a plate ends in it once the end beyond is hidden
        less = seen
        for bar in bars:
            less = _without(less, bar, panel=panel)
        if less.is_empty or abs(less.area - seen.area) < NOTHING:
            break
        seen = less
    return bounds_of(profile_of(seen if not seen.is_empty else shape).outer)


def _without(seen: Polygon, bar: Bar, *, panel: Panel) -> Polygon:
    """Return what is seen without what lies in a mate's slab, where nothing of the panel comes out beyond it."""
    if bar.frame is None or (bar.kind is MeetingKind.TEE and not bar.role(panel).is_edge) or bar.host == panel.id:
        return seen
    side = bar.frame.side(panel)
    low, high = side.strip
    here = side.seen(seen)
    below = here.intersection(box(bar.start, -FAR, bar.end, low)).area
    above = here.intersection(box(bar.start, high, bar.end, FAR)).area
    if min(below, above) > NOTHING or max(below, above) <= NOTHING:
        return seen
    hidden = box(bar.start - NOTHING, -FAR if below <= NOTHING else low, bar.end + NOTHING, FAR if above <= NOTHING else high)
    left = pieces(here.difference(hidden))
    if not left:
        return seen
    whole = max(left, key=lambda p: p.area)
    corners = [side.on_panel(x, y) for x, y in whole.exterior.coords[:-1]]
    return Polygon(corners)
