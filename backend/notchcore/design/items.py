"""The items of a project: each is built as a design of its own, sized for its room where it stands in one, and put in its place.

Member     an item as it comes to be: its design with the sizes that follow a room, its parts, and where they stand
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from notchcore.design.assembly import Assembly, Meeting, Part, box_round
from notchcore.design.building import build
from notchcore.design.cards.pieces import Card
from notchcore.design.design import NO_DRAWINGS, Bed, Design, Item, as_chosen
from notchcore.design.features.drawing import Drawing
from notchcore.design.naming import Owner, told_of
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.placing import IN_PLACE, Placing, standing, turned_room
from notchcore.design.rooms import Room, rooms_of
from notchcore.errors import DesignError, NotchCoreError
from notchcore.findings import Finding, Severity
from notchcore.geom.slab import Box
from notchcore.geom.vectors import Vec3, add, sub
from notchcore.ids import MAIN, in_item, meeting_in_item
from notchcore.measure.fit import NO_FITS, Fits
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.render import say

GAP: Mm = 40.0  # between items that stand beside each other
DIGITS = 4  # of a size that follows a room
NEAR_ENOUGH: Mm = 1e-3
SQUARE_UP = 0.999  # of a mouth that looks up
TRIES = 3  # a size that leans follows its number by another share than one to one

Builder = Callable[[Design], Assembly]


@dataclass(frozen=True, slots=True, kw_only=True)
class Member:
    """An item as it comes to be; its parts have their own names and stand in their own place."""

    id: str
    label: str
    design: Design  #: with the sizes that follow a room
    assembly: Assembly
    item: Item | None = None  #: None: the first
    count: int = 1
    spares: int = 0
    placing: Placing = IN_PLACE  #: of its parts in the project
    room: Room | None = None  #: that it stands in, in its host's own place
    mouth: Vec3 = (0.0, 0.0, 1.0)  #: the way out of it, in the project
    over: Room | None = None  #: its own, in its host's own place, where it goes over it
    bound: Mapping[str, Mm] = field(default_factory=dict)  #: numbers that follow the room
    findings: tuple[Finding, ...] = ()  #: about its relation

    @property
    def owner(self) -> Owner:
        """What its parts are named after."""
        return Owner(id="" if self.item is None else self.id, label=self.label)

    @property
    def items(self) -> frozenset[str]:
        """The item, and those that are joined to it."""
        return frozenset((self.id, *self.assembly.items))


def body_of(design: Design, item: str) -> Design:
    """Return one item of a project as a design of its own.

    Raises:
        DesignError: there is no such item
    """
    if item in ("", MAIN):
        return replace(design, items=(), name="", count=1, spares=0)
    found = next((i for i in design.items if i.id == item), None)
    if found is None:
        raise DesignError(say("no_such_item"))
    return replace(found.design, prototype=design.prototype)


def with_body(design: Design, item: str, *, body: Design) -> Design:
    """Return the project with another design of one of its items; a prototype is the whole project's."""
    if item in ("", MAIN):
        return replace(body, items=design.items, name=design.name, count=design.count, spares=design.spares)
    return replace(design, items=tuple(replace(i, design=replace(body, prototype=None, items=())) if i.id == item else i for i in design.items))


def whole_body(design: Design, item: str) -> Design:
    """Return one item of a project as a design of its own, with all that is joined to it.

    Raises:
        DesignError: there is no such item
    """
    root = MAIN if item == "" else item
    guests = [i for i in design.items if i.joined is not None and i.id != root and design.root_of(i.id) == root]
    there = (replace(i, joined=replace(i.joined, host=MAIN)) if i.joined is not None and i.joined.host == root else i for i in guests)
    return replace(body_of(design, item), items=tuple(there))


def members_of(design: Design, built: Builder) -> tuple[Member, ...]:
    """Return the items that are there, in the project's order.

    Args:
        built: builds a design of one item; asked with the same one again, it may answer from memory
    """
    design = as_chosen(design)
    own = whole_body(design, MAIN)
    made = {MAIN: Member(id=MAIN, label=design.name, design=own, assembly=built(own), count=design.count, spares=design.spares)}
    waiting = [in_root(i, design) for i in design.items if not i.gone and (i.joined is None or not design.root_of(i.id))]
    names = {MAIN, *(i.id for i in waiting)}
    row = _extent([made[MAIN]])[3]
    for item in [i for i in waiting if i.loose is None]:
        if item.joined is not None:
            made[item.id] = _lost(item, design, built=built, row=row, code="joined_to_nothing")
        else:
            made[item.id] = _beside(item, design, built=built, row=row)
        row = max(row, _extent([made[item.id]])[3])
    left = [i for i in waiting if i.loose is not None]
    while left:
        # One whose host is there already; else its host is left out, or stands in itself.
        item = next((i for i in left if i.loose is not None and i.loose.host in made), left[0])
        left.remove(item)
        assert item.loose is not None
        host = made.get(item.loose.host)
        if host is None:
            member = _lost(item, design, built=built, row=row, code="item_without_host" if item.loose.host not in names else "items_in_a_ring")
        else:
            put, code = (_going_over, "no_room_to_go_over") if item.loose.over else (_standing, "room_lost")
            member = put(item, design, built=built, host=host) or _lost(item, design, built=built, row=row, code=code)
        made[item.id] = member
        if member.room is None and member.over is None:
            row = max(row, _extent([member])[3])
    return (made[MAIN], *(made[i.id] for i in waiting))


def in_root(item: Item, design: Design) -> Item:
    """Return an item that stands in a room of what is joined to another one as one that stands in a room of that."""
    host = item.loose.host if item.loose is not None else ""
    if item.loose is None or design.root_of(host) in ("", host):
        return item
    return replace(item, loose=replace(item.loose, host=design.root_of(host), room=in_item(host, item.loose.room)))


def _extent(members: Sequence[Member]) -> Box:
    """Return the box round everything, in the project."""
    return box_round([replace(p, pose=m.placing.pose(p.pose)) for m in members for p in m.assembly.parts])


def _beside(item: Item, design: Design, *, built: Builder, row: Mm, findings: tuple[Finding, ...] = ()) -> Member:
    body = whole_body(design, item.id)
    made = Member(
        id=item.id,
        label=item.label,
        design=body,
        assembly=built(body),
        item=item,
        count=item.count,
        spares=item.spares,
        placing=standing(item.turn, tip=item.tip),
        findings=findings,
    )
    box = _extent([made])
    shift = add(item.at, (row + GAP - box[0], 0.0 - box[1] if made.assembly.parts else 0.0, -box[2]))
    return replace(made, placing=replace(made.placing, shift=shift))


def _lost(item: Item, design: Design, *, built: Builder, row: Mm, code: str) -> Member:
    """Return an item beside the others because the room that it was to stand in is not there."""
    finding = Finding(code=code, severity=Severity.LOOK, says=say(code, item=item.label), item=item.id)
    return _beside(item, design, built=built, row=row, findings=(finding,))


def _standing(item: Item, design: Design, *, built: Builder, host: Member) -> Member | None:
    """Return an item in its room, sized for it where it is to be; None without such a room."""
    loose = item.loose
    assert loose is not None
    room = next(iter(rooms_of(host.assembly.parts, [seed for seed in host.assembly.rooms if seed.id == loose.room])), None)
    if room is None:
        return None
    turn = standing(item.turn, tip=item.tip)
    made = _sized(item, whole_body(design, item.id), built=built, turn=turn, wanted=lambda _: wanted_size(room, loose.play))
    local = replace(turn, shift=add(_place_in(room, _box(made.assembly, turn)), item.at))
    return replace(made, placing=host.placing.after(local), room=room, mouth=host.placing.turned(room.mouth))


def _going_over(item: Item, design: Design, *, built: Builder, host: Member) -> Member | None:
    """Return an item that goes over its host, upside down; None where it has no such room, or is turned by other than quarter turns.

    The host stands in the middle of its room, and the bottom of the room lies on the host's top.
    """
    loose = item.loose
    assert loose is not None
    there = covered(host)
    around, turn = box_round(there), standing(item.turn, tip=item.tip, flipped=True)

    def room_of(assembly: Assembly) -> Room | None:
        room = next(iter(rooms_of(assembly.parts, [seed for seed in assembly.rooms if seed.id == loose.room])), None)
        return room if room is not None and turn.is_square and turn.turned(room.mouth)[2] < -SQUARE_UP and there else None

    def wanted(assembly: Assembly) -> Vec3:
        room, box = room_of(assembly), _box(assembly, turn)
        inside = turned_room(room, turn).size if room is not None else (0.0, 0.0, 0.0)
        wide = [box[k + 3] - box[k] + around[k + 3] - around[k] + 2 * loose.play - inside[k] for k in range(2)]
        return (wide[0], wide[1], box[5] - box[2])

    body = whole_body(design, item.id)
    if room_of(built(body)) is None:
        return None
    made = _sized(item, body, built=built, turn=turn, wanted=wanted, axes=(0, 1))
    found = room_of(made.assembly)
    if found is None:
        return None
    room = turned_room(found, turn)
    middle = [(around[k] + around[k + 3] - room.low[k] - room.high[k]) / 2 for k in range(2)]
    local = replace(turn, shift=add((middle[0], middle[1], around[5] - room.high[2]), item.at))
    return replace(made, placing=host.placing.after(local), over=turned_room(found, local))


def covered(host: Member) -> tuple[Part, ...]:
    """Return the parts of an item that something goes over, in the item's own place: jigs are not there any more then."""
    return tuple(p for p in host.assembly.parts if not p.helper)


def _box(assembly: Assembly, placing: Placing) -> Box:
    return box_round([replace(p, pose=placing.pose(p.pose)) for p in assembly.parts])


def _sized(item: Item, body: Design, *, built: Builder, turn: Placing, wanted: Callable[[Assembly], Vec3], axes: tuple[int, ...] = (0, 1, 2)) -> Member:
    """Return an item, not in its place yet; where it is to be sized, with the numbers with which it is as large as wanted along these axes."""
    assembly = built(body)
    bound: dict[str, Mm] = {}
    findings: tuple[Finding, ...] = ()
    for _ in range(TRIES if item.loose is not None and item.loose.sized else 0):
        changes = _sizes(body, assembly, turn=turn, wanted=wanted(assembly), axes=axes)
        bound |= changes
        if all(getattr(body.numbers, name) == value for name, value in changes.items()):
            break
        try:
            body = replace(body, numbers=replace(body.numbers, **changes))  # type: ignore[arg-type]
        except NotchCoreError as problem:
            says = say("item_not_sized.limits", item=item.label, why=problem.says)
            findings = (Finding(code="item_not_sized", severity=Severity.MUST, item=item.id, says=says),)
            break
        assembly = built(body)
    return Member(
        id=item.id,
        label=item.label,
        design=body,
        assembly=assembly,
        item=item,
        count=item.count,
        spares=item.spares,
        bound=bound,
        findings=findings,
    )


def wanted_size(room: Room, play: Mm) -> Vec3:
    """Return the size with which something keeps a play in a room: on either side of it, and once along the way in."""
    wide = room.size
    return (wide[0] - play * _sides(room, 0), wide[1] - play * _sides(room, 1), wide[2] - play * _sides(room, 2))


def _sides(room: Room, axis: int) -> int:
    return 1 if axis == room.mouth_axis else 2


def _place_in(room: Room, box: Box) -> Vec3:
    """Return how far something is shifted to stand in a room: on its floor, even with its mouth, in the middle else."""
    shift = []
    for k in range(3):
        if k == 2:
            shift.append(room.low[2] - box[2])
        elif k == room.mouth_axis:
            shift.append(room.low[k] - box[k] if room.mouth[k] < 0 else room.high[k] - box[k + 3])
        else:
            shift.append((room.low[k] + room.high[k]) / 2 - (box[k] + box[k + 3]) / 2)
    return (shift[0], shift[1], shift[2])


def _sizes(body: Design, assembly: Assembly, *, turn: Placing, wanted: Vec3, axes: tuple[int, ...]) -> dict[str, Mm]:
    """Return the numbers with which a thing has a size, by the sketch's lines along each axis; those that are so already stay as they are."""
    if isinstance(body.numbers, Card) or not assembly.parts:
        return {}
    lengths = {n.name for n in numbers_of(type(body.numbers)) if n.kind is NumberKind.LENGTH}
    box = box_round([replace(p, pose=turn.pose(p.pose)) for p in assembly.parts])
    numbers: Any = body.numbers
    changes: dict[str, Mm] = {}
    for k in axes:
        more = wanted[k] - (box[k + 3] - box[k])
        along = [
            (abs(v[k]), d.name)
            for d in assembly.dimensions
            for v in [turn.turned(sub(d.end, d.start))]
            if d.name in lengths and d.name not in changes and abs(v[k]) > 0.99 * max(map(abs, v))
        ]
        if along:
            name = max(along)[1]
            now = getattr(numbers, name)
            changes[name] = now if abs(more) < NEAR_ENOUGH else round(now + more, DIGITS)
    return changes


def build_whole(
    design: Design, stocks: dict[str, Stock], *, fits: Fits = NO_FITS, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None
) -> Assembly:
    """Return the assembly that all items of a project come to; see `build`.

    Raises:
        DesignError: a stock that the design names is not among `stocks`
    """
    if not design.several:
        return build(design, stocks, fits=fits, drawings=drawings, bed=bed)
    return whole_of(members_of(design, lambda body: build(body, stocks, fits=fits, drawings=drawings, bed=bed)))


# -- the whole project -------------------------------------------------------------------------------------------------------


def whole_of(members: Sequence[Member]) -> Assembly:
    """Return all items as one assembly, in their places; parts of further items are named after them."""
    first = members[0]
    parts, meetings, findings, left_out = [], [], [], dict(first.assembly.left_out)
    for m in members:
        parts += [_part(p, m) for p in m.assembly.parts]
        meetings += [_meeting(x, m) for x in m.assembly.meetings]
        findings += [*m.findings, *(told_of(f, m.owner) for f in m.assembly.findings)]
        if m is not first:
            left_out |= {in_item(m.id, p): f"{m.label}: {name}" for p, name in m.assembly.left_out.items()}
    return replace(
        first.assembly,
        parts=tuple(parts),
        meetings=tuple(meetings),
        findings=once_each(findings),
        left_out=left_out,
        items={k: name for m in members for k, name in ((m.id, m.label), *m.assembly.items.items()) if k != MAIN},
    )


def once_each(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """Return findings without those that say what another one says: a caution about a stock is told once, however many items are cut from it."""
    seen: dict[tuple[object, ...], Finding] = {}
    for f in findings:
        seen.setdefault((f.code, f.severity, f.parts, f.says.text), f)
    return tuple(seen.values())


def _part(p: Part, member: Member) -> Part:
    own = member.item.id if member.item is not None else ""
    copies, spares = (p.copies, p.spares) if p.helper else (p.copies * member.count, p.spares + p.copies * member.spares)
    if not own:
        return replace(p, label=member.owner.named(p.id, p.label), copies=copies, spares=spares)
    features = tuple(replace(f, part=in_item(own, f.part), meeting=meeting_in_item(own, f.meeting) if f.meeting else "") for f in p.features)
    return replace(
        p,
        id=in_item(own, p.id),
        label=member.owner.named(p.id, p.label),
        pose=member.placing.pose(p.pose),
        features=features,
        copies=copies,
        spares=spares,
        item=p.item or own,
        falls_from=in_item(own, p.falls_from) if p.falls_from else "",
        piece_of=in_item(own, p.piece_of) if p.piece_of else "",
        laid_by=in_item(own, p.laid_by) if p.laid_by else "",
    )


def _meeting(m: Meeting, member: Member) -> Meeting:
    if member.item is None:
        return m
    own = member.id
    return replace(m, id=meeting_in_item(own, m.id), a=in_item(own, m.a), b=in_item(own, m.b), follows=meeting_in_item(own, m.follows) if m.follows else "")
