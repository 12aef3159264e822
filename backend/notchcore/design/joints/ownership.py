"""Who owns the places where three panels come together.

A panel that is an edge to both others loses the place to them. Else the panel with most face roles owns it, and among
equals the one of the highest rank. Every pair of the three comes to the same answer, so each cube has exactly one owner.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.design.joints.layout import Span
from notchcore.design.meetings.find import Bar, MeetingKind, Role
from notchcore.design.panel import Panel
from notchcore.geom.planar import Polygon, covered_shares
from notchcore.geom.slab import extent_of_common
from notchcore.geom.vectors import dot, sub
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm

SQUARE = 1e-9  # a panel whose normal runs along the line this nearly is square to it
COVER_LEAST = 0.05  # a third panel that covers less of the bar's section than this does not count


@dataclass(frozen=True, slots=True, kw_only=True)
class SharedCell:
    """A stretch of a bar that a third panel takes part in."""

    start: Mm
    end: Mm
    owner: str
    losers: tuple[Panel, ...]  #: of the bar's two panels, those that lose it
    third: bool  #: the owner is not one of the bar's two
    other: str  #: the third panel
    against_other: bool  #: the third panel loses it too


def _extents(asked: Sequence[tuple[Bar, Panel]], shapes: dict[str, Polygon]) -> list[Span | None]:
    """Return the sigma range that each third panel shares with its bar; all are looked at together, which is quick."""
    sections = {bar.id: bar.frame.section() for bar in {bar.id: bar for bar, _ in asked}.values() if bar.frame is not None}
    square = [k for k, (bar, third) in enumerate(asked) if bar.frame is not None and abs(abs(dot(bar.frame.along, third.pose.normal)) - 1) < SQUARE]
    quads = [[asked[k][1].pose.to_plane(c) for c in sections[asked[k][0].id]] for k in square]
    covered = dict(zip(square, covered_shares(quads, [shapes[asked[k][1].id] for k in square]), strict=True))
    return [_extent(bar, third, covered=covered.get(k)) for k, (bar, third) in enumerate(asked)]


def _extent(bar: Bar, third: Panel, *, covered: float | None) -> Span | None:
    """Return the sigma range that the third panel shares with the bar.

    Args:
        covered: share of the bar's section that lies in the third panel, where that is square to the line; None where it is not
    """
    frame = bar.frame
    assert frame is not None
    if covered is not None:  # plane geometry is exact and quick
        if covered < COVER_LEAST:
            return None
        along, base = dot(frame.along, third.pose.normal), dot(frame.along, sub(third.pose.origin, frame.origin))
        low, high = sorted((base + along * third.low, base + along * third.high))
    else:
        common = extent_of_common((bar.a.slab(), bar.b.slab(), third.slab()), frame.along, origin=frame.origin)
        if common is None:
            return None
        low, high = common
    low, high = max(low, bar.start), min(high, bar.end)
    return (low, high) if high - low > COINCIDENT else None


def shared_cells(bars: list[Bar], shapes: dict[str, Polygon]) -> dict[str, list[SharedCell]]:
    """Return, by bar id, the cells that a third panel shares, in order."""
    is_face: set[tuple[str, str]] = set()
    mates: dict[str, dict[str, Panel]] = {}
    crossed = [b for b in bars if b.frame is not None and b.kind is not MeetingKind.LOCKED]
    for bar in (*crossed, *(b for b in bars if b.kind is MeetingKind.SPLICE)):
        for panel in (bar.a, bar.b):
            other = bar.other(panel)
            mates.setdefault(panel.id, {})[other.id] = other
            if bar.role(panel) is Role.FACE:
                is_face.add((panel.id, other.id))
    found: dict[str, list[SharedCell]] = {}
    asked = [(bar, mates[bar.a.id][third]) for bar in crossed for third in sorted(set(mates[bar.a.id]) & set(mates[bar.b.id]))]
    for (bar, third), extent in zip(asked, _extents(asked, shapes), strict=True):
        if extent is None:
            continue
        three = (bar.a, bar.b, third)
        score = {p.id: sum((p.id, q.id) in is_face for q in three if q is not p) for p in three}
        guest = next((p for p in three if score[p.id] == 0 and all((q.id, p.id) in is_face for q in three if q is not p)), None)
        if guest is third:
            continue  # the other two share the place between themselves, as if the third were not there
        if guest is not None:
            losers: tuple[Panel, ...] = (guest,)
            owner = bar.other(guest)
        else:
            owner = max(three, key=lambda p: (score[p.id], p.rank, p.id))
            losers = tuple(p for p in (bar.a, bar.b) if p is not owner)
        found.setdefault(bar.id, []).append(
            SharedCell(
                start=extent[0],
                end=extent[1],
                owner=owner.id,
                losers=losers,
                third=owner is third,
                other=third.id,
                against_other=guest is None and owner is not third,
            )
        )
    return {k: sorted(v, key=lambda c: c.start) for k, v in found.items()}
