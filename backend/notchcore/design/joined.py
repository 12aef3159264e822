"""Items that are joined to another one: they go into a side of it, and joints are cut where their panels meet.

The panels of such an item are arranged as if it stood alone, then set against its host and handed to the solver with the host's own.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.design.arrangement import Arrangement
from notchcore.design.assembly import RoomSeed
from notchcore.design.naming import Owner, told_of
from notchcore.design.panel import MeetingRule, Panel, range_along, resolved
from notchcore.design.placing import Placing
from notchcore.design.styles import Style
from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.geom.planar import Polygon, polygon_from, subtract
from notchcore.geom.profile import area_of, polygon_of, profile_of
from notchcore.geom.slab import Box, box_of
from notchcore.geom.vectors import Vec3, add, dot
from notchcore.ids import MAIN, MeetingId, in_item, item_of
from notchcore.measure.fit import Feel
from notchcore.tolerance import COINCIDENT, PARALLEL
from notchcore.units import Mm
from notchcore.words.render import say

INTO_LEAST, INTO_MOST = -500.0, 500.0
LEAST_SHARED = 0.01  # [mm2] that two panels of one plane have in common
SERVED = 0.02  # share of a panel beside what serves for it, up to which it is not made


class JoinSide(StrEnum):
    """The side of its host that an item goes into."""

    ABOVE = "above"
    BELOW = "below"
    LEFT = "left"
    RIGHT = "right"
    BEFORE = "before"
    BEHIND = "behind"


#: axis, and whether it is its greater end
_ENDS = {
    JoinSide.LEFT: (0, False),
    JoinSide.RIGHT: (0, True),
    JoinSide.BEFORE: (1, False),
    JoinSide.BEHIND: (1, True),
    JoinSide.BELOW: (2, False),
    JoinSide.ABOVE: (2, True),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Joined:
    """An item meets another one: joints are cut across them, and both are one thing then."""

    host: str = MAIN  #: item
    side: JoinSide = JoinSide.ABOVE  #: of the host
    into: Mm | None = None  #: how far it goes in there; None: through the host's panel on that side, or not at all where it is a flat sheet itself

    def __post_init__(self) -> None:
        if self.into is not None:
            require("into", self.into, least=INTO_LEAST, most=INTO_MOST)


def box_of_plan(plan: Arrangement) -> Box:
    """Return the box that holds an arrangement's panels, with their bounds [mm]; nothing without panels."""
    everything = {p.id: p for p in (*plan.ghosts, *plan.panels)}
    boxes = [box_of(resolved(p, everything).slab()) for p in plan.panels]
    if not boxes:
        return (0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    low, high = [min(b[k] for b in boxes) for k in range(3)], [max(b[k + 3] for b in boxes) for k in range(3)]
    return (low[0], low[1], low[2], high[0], high[1], high[2])


def closing(plan: Arrangement, side: JoinSide) -> tuple[Box, Mm]:
    """Return the box of the largest panel that closes an arrangement on one side, and its thickness; the box of all, and 0, where none does."""
    axis, greater = _ENDS[side]
    everything = {p.id: p for p in (*plan.ghosts, *plan.panels)}
    around = box_of_plan(plan)
    facing = [resolved(p, everything) for p in plan.panels if abs(p.pose.normal[axis]) > 1 - PARALLEL]
    end = axis + 3 if greater else axis
    there = [p for p in facing if abs(box_of(p.slab())[end] - around[end]) < COINCIDENT]
    widest = max(there, key=lambda p: area_of(p.envelope.outer), default=None)
    return (around, 0.0) if widest is None else (box_of(widest.slab()), widest.t)


def set_against(host: Arrangement, guest: Arrangement, *, joined: Joined, turned: Placing, at: Vec3) -> Placing:
    """Return how an arrangement is put into a side of another one: in the middle of the panel there, on the same ground where that is upright.

    Args:
        turned: how it is turned, first
        at: how far it is moved from there
    """
    (there, through), here = closing(host, joined.side), box_of_plan(placed(guest, turned))
    axis, greater = _ENDS[joined.side]
    into = through if joined.into is None else joined.into
    if joined.into is None and here[axis + 3] - here[axis] < into + COINCIDENT:
        into = 0.0  # a sheet that lies flat on it
    shift = []
    for k in range(3):
        if k == axis:
            shift.append(there[k + 3] - into - here[k] if greater else there[k] + into - here[k + 3])
        elif k == 2:
            shift.append(there[k] - here[k])
        else:
            shift.append((there[k] + there[k + 3] - here[k] - here[k + 3]) / 2)
    return replace(turned, shift=add((shift[0], shift[1], shift[2]), at))


def placed(plan: Arrangement, placing: Placing) -> Arrangement:
    """Return an arrangement's panels, and its rooms, in another place."""

    def there(p: Panel) -> Panel:
        return replace(p, pose=placing.pose(p.pose))

    rooms = tuple(replace(r, within=placing(r.within), mouth=placing.turned(r.mouth)) for r in plan.rooms)
    return replace(plan, panels=tuple(map(there, plan.panels)), ghosts=tuple(map(there, plan.ghosts)), rooms=rooms)


def named_after(plan: Arrangement, owner: Owner, *, feel: Feel, relief: Mm) -> Arrangement:
    """Return an arrangement whose panels and rooms have the names that they have in the whole project; its sketch and its facts stay behind."""
    own = owner.id

    def panel(p: Panel) -> Panel:
        return replace(
            p,
            id=in_item(own, p.id),
            label=owner.named(p.id, p.label),
            bounds=tuple(replace(b, mate=in_item(own, b.mate)) for b in p.bounds),
            features=tuple(replace(f, part=in_item(own, f.part), meeting=socket_in_item(own, f.meeting) if f.meeting else "") for f in p.features),
            marks=tuple(replace(m, feature=in_item(own, m.feature) if m.feature else "") for m in p.marks),
            openings=tuple(replace(o, feature=in_item(own, o.feature)) for o in p.openings),
            falls_from=in_item(own, p.falls_from) if p.falls_from else "",
            piece_of=in_item(own, p.piece_of) if p.piece_of else "",
            laid_by=in_item(own, p.laid_by) if p.laid_by else "",
            feel=p.feel or feel,
            relief=relief if p.relief is None else p.relief,
        )

    def room(r: RoomSeed) -> RoomSeed:
        return replace(r, id=in_item(own, r.id), label=f"{owner.label}, {r.label}")

    return Arrangement(
        panels=tuple(map(panel, plan.panels)),
        ghosts=tuple(map(panel, plan.ghosts)),
        rules=tuple(replace(r, a=in_item(own, r.a), b=in_item(own, r.b)) for r in plan.rules),
        findings=tuple(told_of(f, owner) for f in plan.findings),
        rooms=tuple(map(room, plan.rooms)),
    )


def _sharing(guest: Arrangement, there: Sequence[Arrangement]) -> Arrangement:
    """Return a guest's arrangement without what already lies in its panels' places."""
    own = {p.id: p for p in (*guest.ghosts, *guest.panels)}
    others = [resolved(p, {q.id: q for q in (*a.ghosts, *a.panels)}) for a in there for p in a.panels]
    panels, ghosts, rules, findings = [], list(guest.ghosts), list(guest.rules), list(guest.findings)
    for panel in guest.panels:
        ends = resolved(panel, own)
        beside = [(o, shape) for o in others if (shape := _in_one_place(ends, o)) is not None]
        left = subtract(polygon_of(ends.envelope), [shape for _, shape in beside])
        if not left or sum(p.area for p in left) < SERVED * area_of(ends.envelope.outer):
            ghosts.append(panel)
            served = say("panel_served", panel=panel.ref, by=beside[0][0].ref)
            findings.append(
                Finding(code="panel_served", severity=Severity.FINE, says=served, parts=(beside[0][0].id,), item=item_of(panel.id), facts={"panel": panel.id})
            )
        elif beside:
            kept = max(left, key=lambda p: p.area)
            rest = max(subtract(polygon_of(panel.envelope), [shape for _, shape in beside]), key=lambda p: p.intersection(kept).area)
            panels.append(replace(panel, envelope=profile_of(rest, circles=panel.envelope.circles)))
            now = resolved(panels[-1], own)
            rules += [MeetingRule(a=panel.id, b=o.id, style=Style.REST) for o in others if _enters(ends, o) and not _enters(now, o)]
        else:
            panels.append(panel)
    return replace(guest, panels=tuple(panels), ghosts=tuple(ghosts), rules=tuple(rules), findings=tuple(findings))


def _enters(panel: Panel, other: Panel) -> bool:
    """Tell whether a panel reaches between the faces of another one, however far off to the side."""
    (low, high), (from_, to) = (range_along(p, other.pose.normal) for p in (panel, other))
    return min(high, to) - max(low, from_) > COINCIDENT


def _in_one_place(panel: Panel, other: Panel) -> Polygon | None:
    """Return the outline of another panel in a panel's plane where both lie in one sheet's place; None where they do not."""
    way = panel.pose.normal
    if abs(dot(way, other.pose.normal)) < 1 - PARALLEL:
        return None
    (low, high), (from_, to) = range_along(panel, way), range_along(other, way)
    if min(high, to) - max(low, from_) < COINCIDENT:
        return None
    rings = [[panel.pose.to_plane(other.pose.to_world(p)) for p in ring] for ring in (other.envelope.outer, *other.envelope.holes)]
    shape = polygon_from(rings[0], rings[1:])
    return shape if shape.intersection(polygon_of(panel.envelope)).area > LEAST_SHARED else None


def socket_in_item(item: str, meeting: str) -> str:
    """Return the name of a socket's meeting in the whole project: it is named for its feature too."""
    found = MeetingId.parse(meeting)
    return str(MeetingId(in_item(item, found.a), in_item(item, found.b) if found.b else "", in_item(item, found.which)))


def as_one_plan(host: Arrangement, guests: Mapping[str, Arrangement]) -> Arrangement:
    """Return a host's arrangement with those of the items that are joined to it.

    Where a guest's panel would lie in one that is there already, that serves for both, and the guest's ends at it.
    """
    some = [host]
    for guest in guests.values():
        some.append(_sharing(guest, some))
    return replace(
        host,
        panels=tuple(p for a in some for p in a.panels),
        ghosts=tuple(p for a in some for p in a.ghosts),
        rules=tuple(r for a in some for r in a.rules),
        findings=tuple(f for a in some for f in a.findings),
        rooms=tuple(r for a in some for r in a.rooms),
    )
