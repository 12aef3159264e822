"""All meetings of a design's panels: of every pair that comes near, without those that another panel makes pointless."""

from __future__ import annotations

from itertools import combinations

from notchcore.design.meetings.find import Asked, Bar, MeetingKind, known, meetings_of
from notchcore.design.panel import Panel
from notchcore.geom.slab import boxes_touch
from notchcore.tolerance import SHORT_OF_MATE


def all_meetings(panels: list[Panel], *, apart: set[frozenset[str]], spliced: set[frozenset[str]]) -> list[Bar]:
    """Return every meeting among the panels; pairs in `apart` are left out, pairs in `spliced` are sides of one divided sheet."""
    asked: list[Asked] = []
    for one, two in combinations([known(p) for p in panels], 2):
        if not boxes_touch(one.box, two.box, reach=SHORT_OF_MATE):
            continue
        pair = frozenset((one.panel.id, two.panel.id))
        if pair not in apart:
            asked.append((one, two, pair in spliced))
    return _without_covered(_innermost([bar for bars in meetings_of(asked) for bar in bars]))


def _innermost(bars: list[Bar]) -> list[Bar]:
    """Return the bars without those of pieces in an opening in which another piece stands round them."""
    hosts: dict[str, set[str]] = {}
    for bar in bars:
        if bar.kind is MeetingKind.INSET:
            hosts.setdefault(bar.b.id if bar.host == bar.a.id else bar.a.id, set()).add(bar.host)

    def around(bar: Bar) -> bool:
        piece = bar.b.id if bar.host == bar.a.id else bar.a.id
        return any(bar.host in hosts.get(other, ()) for other in hosts.get(piece, ()) if other != bar.host)

    return [b for b in bars if b.kind is not MeetingKind.INSET or not around(b)]


def _without_covered(bars: list[Bar]) -> list[Bar]:
    """Return the bars without edges that seem short of a sheet only because it lies on the one in which they end."""
    stacked = {frozenset((b.a.id, b.b.id)) for b in bars if b.kind is MeetingKind.STACK}
    joined: dict[str, set[str]] = {}
    for bar in bars:
        if bar.frame is not None:
            joined.setdefault(bar.a.id, set()).add(bar.b.id)
            joined.setdefault(bar.b.id, set()).add(bar.a.id)

    def covered(bar: Bar) -> bool:
        return any(frozenset((q, mate)) in stacked for edge, mate in ((bar.a.id, bar.b.id), (bar.b.id, bar.a.id)) for q in joined.get(edge, ()))

    return [b for b in bars if b.kind is not MeetingKind.SHORT or not covered(b)]
