"""The dry fit of a project of several items: each by itself, then how they stand to each other."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

from notchcore.check.around import Around
from notchcore.check.blocking import Blocking
from notchcore.check.coming_off import before_closing, comes_off
from notchcore.check.dry_fit import DryFit, MeetingChances, collisions, dry_fit
from notchcore.check.order import AssemblyOrder, Step, never
from notchcore.check.play import ItemPlay, findings_of, play_of
from notchcore.check.sequence import DOWN
from notchcore.check.told_together import told_together
from notchcore.design.building import as_one
from notchcore.design.items import Member, once_each, whole_of
from notchcore.design.naming import told_of
from notchcore.findings import Finding, Severity
from notchcore.geom.vectors import Vec3, scale
from notchcore.ids import MAIN, in_item, meeting_in_item
from notchcore.measure.fit import NO_FITS, Fits
from notchcore.measure.stock import Stock
from notchcore.words.render import say

#: gives the dry fit of an item from memory, or by the function that makes it
Known = Callable[[Member, Callable[[], DryFit]], DryFit]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Fitted:
    """One item and its own dry fit."""

    member: Member
    fit: DryFit


def whole_fit(
    members: Sequence[Member],
    stocks: dict[str, Stock],
    *,
    fits: Fits = NO_FITS,
    around: Around | None = None,
    stop: Callable[[], bool] = never,
    known: Known | None = None,
) -> DryFit:
    """Return the dry fit of all items: what is found in each, how those that stand in a room play there, and who is in whose way.

    The steps of assembly put each item together, and then set it in its place: those in rooms last, from the mouth.

    Args:
        known: answers for an item that was fitted before, or asks for it
    """

    def fitted_alone(m: Member) -> DryFit:
        def fit() -> DryFit:
            return dry_fit(m.assembly, stocks, fits=fits, around=None if around is None else replace(around, design=as_one(m.design)), stop=stop)

        return fit() if known is None else known(m, fit)

    if len(members) == 1:
        return fitted_alone(members[0])
    fitted = [_Fitted(member=m, fit=fitted_alone(m)) for m in members]
    hit = between_items(members)
    plays = plays_of(members, stocks)
    by_id = {m.id: m for m in members}
    told = [told_of(f, x.member.owner) for x in fitted for f in x.fit.findings if f.severity is not Severity.FINE]
    told += [f for m in members for f in m.findings]
    told += hit
    told += ways_blocked(members)
    told += [f for p in plays for f in findings_of(p, by_id[p.item])]
    wrong = {f.code for f in told if f.severity is not Severity.FINE}
    fine = _fine(fitted, wrong)
    rank = {Severity.MUST: 0, Severity.LOOK: 1, Severity.FINE: 2}
    return DryFit(
        findings=tuple(sorted((*told_together(once_each(told)), *fine), key=lambda f: rank[f.severity])),
        order=_order(fitted),
        chances=tuple(_chances(o, x.member) for x in fitted for o in x.fit.chances),
        expected_rework=sum(x.fit.expected_rework * x.member.count for x in fitted),
        cautions=once_each([told_of(c, x.member.owner) for x in fitted for c in x.fit.cautions]),
        plays=plays,
    )


def plays_of(members: Sequence[Member], stocks: Mapping[str, Stock]) -> tuple[ItemPlay, ...]:
    """Return how each item that stands in a room plays there."""
    by_id = {m.id: m for m in members}
    hosts = {m.id: by_id[m.item.loose.host] for m in members if m.item is not None and m.item.loose is not None and m.item.loose.host in by_id}
    return tuple(p for m in members if m.id in hosts and (p := play_of(m, hosts[m.id], stocks=stocks)) is not None)


def between_items(members: Sequence[Member]) -> list[Finding]:
    """Return the pairs of parts of different items that want the same place."""
    apart = [whole_of([m]).parts for m in members]
    pairs = [(a, b) for x, y in combinations(apart, 2) for a in x for b in y]
    return list(collisions(tuple(p for some in apart for p in some), pairs))


def ways_blocked(members: Sequence[Member]) -> list[Finding]:
    """Return the items that do not come straight out of the mouth of their room, each with what stands in the way.

    What stands in an item moves along; what its host stands in is of no account, for the host comes out first, nor is a lid that comes off.
    """
    loose = [m for m in members if m.room is not None]
    if not loose:
        return []
    parts = whole_of(members).parts
    blocking = Blocking(parts)
    found = []
    for m in loose:
        along = _with_it(m.id, members)
        out = scale(_way_in(m), -1.0)
        moving = [i for i, p in enumerate(parts) if p.item in along]
        host = m.item.loose.host if m.item is not None and m.item.loose is not None else MAIN
        there = _with_it(host, members) if host in {x.id for x in loose} else None
        off = _off(members, host, out=out)
        rest = [j for j, p in enumerate(parts) if p.item not in along and (there is None or p.item in there) and p.id not in off]
        hit = next((j for j in rest if any(blocking.blocks(i, j, d=out) for i in moving)), None)
        if hit is not None and m.room is not None:
            says = say("item_shut_in", item=m.label, room=m.room.label, part=parts[hit].ref)
            found.append(Finding(code="item_shut_in", severity=Severity.LOOK, item=m.id, says=says, parts=(parts[hit].id,)))
    return found


def _off(members: Sequence[Member], host: str, *, out: Vec3) -> set[str]:
    """Return what is taken off a host before anything comes out of it: its own lid, and what goes over it."""
    h = next(m for m in members if m.id == host)
    own = comes_off(h.assembly, h.placing.back(out))
    over = [p for m in members if m.over is not None for p in whole_of([m]).parts]
    return {p if h.id == MAIN else in_item(h.id, p) for p in own} | {p.id for p in over}


def _with_it(item: str, members: Sequence[Member]) -> set[str]:
    """Return an item with what is joined to it and all that stands in it; for parts, "" is the first."""
    along = {item}
    while more := {m.id for m in members if m.room is not None and m.item and m.item.loose and m.item.loose.host in along} - along:
        along |= more
    return along.union(*(m.items for m in members if m.id in along))


def _fine(fitted: Sequence[_Fitted], wrong: set[str]) -> list[Finding]:
    """Return what was checked of every item and is well, in one line where all say the same, and by item else."""
    lines: dict[str, list[tuple[Member, Finding]]] = {}
    for x in fitted:
        for f in x.fit.findings:
            if f.severity is Severity.FINE and f.code not in wrong:
                lines.setdefault(f.code, []).append((x.member, f))
    out = []
    for some in lines.values():
        if len({f.says.text for _, f in some}) == 1:
            out.append(some[0][1])
        else:
            out += [replace(f, says=say("of_item", item=m.label, says=f.says) if m.label else f.says) for m, f in some]
    return out


def _chances(chances: MeetingChances, member: Member) -> MeetingChances:
    return chances if member.id == MAIN else replace(chances, meeting=meeting_in_item(member.id, chances.meeting))


def _order(fitted: Sequence[_Fitted]) -> AssemblyOrder:
    """Return the steps of all items: of each its own, then what stands in it, and then it goes to its place with all that it holds."""
    inside: dict[str, list[_Fitted]] = {}
    for x in fitted:
        m = x.member
        host = m.item.loose.host if (m.room or m.over) is not None and m.item is not None and m.item.loose is not None else ""
        inside.setdefault(host, []).append(x)  # "": beside the others, or the first

    def put_together(x: _Fitted) -> tuple[list[Step], tuple[str, ...]]:
        m = x.member
        steps = [s if m.id == MAIN else _placed(s, m) for s in x.fit.order.steps]
        parts = tuple(p.id if m.id == MAIN else in_item(m.id, p.id) for p in m.assembly.parts)
        closing: list[Step] = []
        for guest in sorted(inside.get(m.id, ()), key=lambda g: g.member.over is not None):
            more, theirs = put_together(guest)
            open_for = _open_for(guest.member, m, steps=steps)
            steps, closing = [*steps[:open_for], *more], [*steps[open_for:], *closing]
            parts = (*parts, *theirs)
        steps = [*steps, *closing]
        if m.id == MAIN or not steps:
            return steps, parts
        if len(steps) == 1 and set(steps[0].parts) == set(parts):
            return [replace(steps[0], direction=_way_in(m))], parts
        return [*steps, Step(parts=parts, direction=_way_in(m))], parts

    steps = [s for x in inside.get("", ()) for s in put_together(x)[0]]
    locked = [p if x.member.id == MAIN else in_item(x.member.id, p) for x in fitted for p in x.fit.order.locked]
    unknown = [p if x.member.id == MAIN else in_item(x.member.id, p) for x in fitted for p in x.fit.order.unknown]
    return AssemblyOrder(steps=tuple(steps), locked=tuple(locked), unknown=tuple(unknown))


def _open_for(guest: Member, host: Member, *, steps: Sequence[Step]) -> int:
    """Return after how many steps of its host an item goes in: before what closes the way."""
    if guest.room is None:
        return len(steps)
    out = scale(_way_in(guest), -1.0)
    return before_closing(steps, whole_of([guest]).parts, host=whole_of([host]).parts, out=out)


def _placed(step: Step, member: Member) -> Step:
    turned = member.placing.turned
    tip = None if step.tip is None else replace(step.tip, axis=turned(step.tip.axis), point=member.placing(step.tip.point))
    return replace(
        step,
        parts=tuple(in_item(member.id, p) for p in step.parts),
        direction=turned(step.direction),
        last=None if step.last is None else turned(step.last),
        tip=tip,
    )


def _way_in(member: Member) -> Vec3:
    """Return the way on which an item is set in its place: in from the mouth of its room, down beside others."""
    return DOWN if member.room is None else scale(member.mouth, -1.0)
