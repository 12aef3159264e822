"""What a design comes to, as Build shows it: parts, meetings, items, rooms."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from enum import StrEnum
from itertools import accumulate, chain
from typing import Any

import numpy as np
from ninja import Schema

from apps.designs import convert, queries
from apps.designs.models import Project
from notchcore.check.dry_fit import as_cut, meeting_sd
from notchcore.check.play import ItemPlay
from notchcore.check.whole import plays_of
from notchcore.design.alike import likes_of
from notchcore.design.assembly import Assembly, Fact, Mark, Part, WishCount, box_round, extent_of
from notchcore.design.cards.pieces import Card
from notchcore.design.design import Item, Source, as_chosen, label_of
from notchcore.design.families.registry import Numbers
from notchcore.design.filling import first_name, taken_rooms
from notchcore.design.items import Member, body_of, in_root
from notchcore.design.rooms import rooms_of
from notchcore.design.sizes import Pinned, pinned
from notchcore.design.styles import Style, named
from notchcore.findings import Finding, Severity
from notchcore.geom.profile import Profile, Ring
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2
from notchcore.ids import MAIN, MeetingId
from notchcore.measure.fit import Boundaries, Feel
from notchcore.measure.stock import Stock
from notchcore.words.render import plain, say


class PlayOut(Schema):
    """The play of an item along one axis of its room, both sides together [mm]."""

    axis: str
    wanted: float
    play: float
    sd: float
    sticks: float
    rattles: float


class Relation(StrEnum):
    """How an item stands to the others."""

    BESIDE = "beside"
    IN = "in"
    OVER = "over"
    JOINED = "joined"


class SourceOut(Schema):
    """The project that an item follows."""

    project: int
    name: str  #: "" where it is gone
    revision: int  #: as it was taken
    changed: bool  #: it is another thing now


class ItemOut(Schema):
    """An item as it comes to be; the first one is `main`."""

    id: str
    label: str
    count: int
    spares: int
    gone: bool
    family: str  #: what kind of thing it is, in a word
    parts: int
    size: tuple[float, float, float] | None  #: of the box that holds it
    relation: Relation
    host: str  #: that it stands in, goes over or is joined to; "" where it stands beside the rest
    room: str  #: of the host, by id; "" where it goes over it
    bound: list[str]  #: numbers that follow the room
    plays: list[PlayOut]
    stops: int  #: findings that it must not be cut with
    findings: list[Finding]  #: about how it stands to the others
    source: SourceOut | None = None


class RoomOut(Schema):
    """A room that something may stand in."""

    host: str
    id: str
    label: str
    size: tuple[float, float, float]
    taken_by: str  #: the item that stands in it; "" for none


class FeatureOut(Schema):
    id: str
    meeting: str
    kind: str
    corners: tuple[Vec2, Vec2, Vec2, Vec2]
    width_mm: float


class PartOut(Schema):
    id: str
    panel: str  #: that it is, or is a piece of
    label: str
    stock: str
    pose: Pose
    low: float
    high: float
    profile: Profile
    marks: tuple[Mark, ...]
    features: list[FeatureOut]
    copies: int
    spares: int
    helper: bool
    reverse: bool
    falls_from: str
    item: str  #: that it belongs to; "" for the first
    like: str  #: the first part that is cut and burned like it


class MeetingRow(Schema):
    """A meeting as lists show it; what is behind its clearance is asked for one at a time."""

    id: str
    kind: str
    a: str
    b: str
    style: Style
    name: str  #: what makes the joint, in words
    count: int
    feel: Feel | None
    clearance: float | None  #: as it comes out on this machine
    sd: float  #: of the clearance
    pair: str  #: of stocks, a key of `boundaries`


class Named(Schema):
    """Something that is not there any more, or not now."""

    id: str
    label: str


class BuildOut(Schema):
    built_from: str
    parts: list[PartOut]
    meetings: list[MeetingRow]
    boundaries: dict[str, Boundaries]  #: by pair, as the meetings name it
    findings: list[Finding]
    stocks: dict[str, Stock]
    facts: list[Fact]
    needs: list[WishCount]  #: of what a wish of the family takes
    size_mm: float  #: from corner to corner of the box that holds everything
    pins: list[Pinned]
    orphans: list[Named]  #: meetings with choices whose panels no longer meet
    left_out: list[Named]  #: panels
    item: str  #: whose parts these are; "" for all of the project
    numbers: Numbers | Card  #: as they are cut: those that follow a room are its own
    items: list[ItemOut]  #: of the project; one, where there are no others
    rooms: list[RoomOut]


def _shown(*rings: Ring) -> list[Any]:
    """Return rings with a tenth of a thousandth: they are shown, not cut, and the answer is half as long."""
    flat = np.fromiter(chain.from_iterable(chain.from_iterable(rings)), dtype=float)
    rounded = np.round(flat, 4).reshape(-1, 2).tolist()
    ends = list(accumulate(map(len, rings)))
    points = list(map(tuple, rounded))
    return [tuple(points[start:end]) for start, end in zip([0, *ends], ends, strict=False)]


def _part_out(part: Part, like: str) -> PartOut:
    outer, *holes = _shown(part.profile.outer, *part.profile.holes)
    rounded = Profile(outer=outer, holes=tuple(holes), circles=part.profile.circles)
    corners = _shown(*(f.corners for f in part.features))
    return PartOut.model_construct(
        id=part.id,
        panel=part.panel,
        label=part.label,
        stock=part.stock,
        pose=part.pose,
        low=part.low,
        high=part.high,
        profile=rounded,
        marks=part.marks,
        copies=part.copies,
        spares=part.spares,
        helper=part.helper,
        reverse=part.reverse,
        falls_from=part.falls_from,
        item=part.item,
        like=like,
        features=[
            FeatureOut.model_construct(id=f.id, meeting=f.meeting, kind=f.kind.value, corners=shown, width_mm=round(f.width.value, 4))
            for f, shown in zip(part.features, corners, strict=True)
        ],
    )


def _items_out(now: queries.Current) -> tuple[list[ItemOut], list[RoomOut]]:
    """Return the items of a project, those that are left out too, and the rooms that things may stand in."""
    design, members = as_chosen(now.design), {m.id: m for m in now.members}
    plays = {p.item: p for p in plays_of(now.members, now.stocks)}
    first = members[MAIN]
    out = [_item_out(MAIN, design.name or first_name(design), member=first, item=None, plays=plays)]
    for i in design.items:
        root = design.root_of(i.id) if i.joined is not None and not i.gone else ""
        made = _joined_out(i, members[root]) if root else _item_out(i.id, i.label, member=members.get(i.id), item=i, plays=plays)
        made.source = _source_out(i.source, now) if i.source is not None else None
        out.append(made)
    taken = taken_rooms([in_root(i, design) for i in design.items if not i.gone])
    rooms = [
        RoomOut(host=m.id, id=r.id, label=r.label, size=r.size, taken_by=taken.get((m.id, r.id), ""))
        for m in now.members
        for r in rooms_of(m.assembly.parts, m.assembly.rooms)
    ]
    return out, rooms


def _source_out(source: Source, now: queries.Current) -> SourceOut:
    """Return what has become of the project that an item follows."""
    row = Project.objects.filter(shop=now.project.shop_id, pk=source.project, deleted=None).first()
    if row is None:
        return SourceOut(project=int(source.project), name="", revision=source.revision, changed=False)
    changed = False
    if row.head != source.revision:
        then = row.revisions.filter(number=source.revision).first()
        changed = then is None or body_of(convert.design_of(then), MAIN) != body_of(convert.design_at(row, row.head), MAIN)
    return SourceOut(project=row.pk, name=row.name, revision=source.revision, changed=changed)


def _item_out(iid: str, label: str, *, member: Member | None, item: Item | None, plays: Mapping[str, ItemPlay]) -> ItemOut:
    """Return an item as it comes to be; None for its member: it is left out."""
    body = member.design if member is not None else item.design if item is not None else None
    loose = item.loose if item is not None else None
    play = plays.get(iid)
    counted = (item.count, item.spares) if item is not None else (member.count, member.spares) if member is not None else (1, 0)
    parts = [] if member is None else [p for p in member.assembly.parts if p.item == ""]
    found = () if member is None else tuple(f for f in (*member.findings, *member.assembly.findings) if not f.item)
    there = loose is not None and member is not None and (member.room or member.over) is not None
    return ItemOut(
        id=iid,
        label=label,
        count=counted[0],
        spares=counted[1],
        gone=bool(item and item.gone),
        family="" if body is None else label_of(body),
        parts=sum(p.copies for p in parts),
        size=_size(parts),
        relation=Relation.BESIDE if loose is None or not there else Relation.OVER if loose.over else Relation.IN,
        host=loose.host if loose and there else "",
        room=loose.room if loose and not loose.over else "",
        bound=list(member.bound) if member is not None else [],
        plays=[PlayOut(axis=p.axis, wanted=p.wanted, play=p.play.value, sd=p.play.sd, sticks=p.sticks, rattles=p.rattles) for p in play.plays] if play else [],
        stops=sum(f.severity is Severity.MUST for f in found),
        findings=list(member.findings) if member is not None else [],
    )


def _joined_out(item: Item, member: Member) -> ItemOut:
    """Return an item that is joined to another one: its parts stand among those of that."""
    parts = [p for p in member.assembly.parts if p.item == item.id]
    found = [f for f in member.assembly.findings if f.item == item.id]
    return ItemOut(
        id=item.id,
        label=item.label,
        count=member.count,
        spares=member.spares,
        gone=False,
        family=label_of(item.design),
        parts=sum(p.copies for p in parts),
        size=_size(parts),
        relation=Relation.JOINED,
        host=item.joined.host if item.joined is not None else "",
        room="",
        bound=[],
        plays=[],
        stops=sum(f.severity is Severity.MUST for f in found),
        findings=found,
    )


def _size(parts: Sequence[Part]) -> tuple[float, float, float] | None:
    """Return the size of the box that holds some parts."""
    if not parts:
        return None
    b = box_round(parts)
    return (b[3] - b[0], b[4] - b[1], b[5] - b[2])


def build_out(project: queries.Current, item: str = "") -> BuildOut:
    now = project.of(item)
    rows, boundaries = _meeting_rows(now)
    likes = likes_of(now.assembly.parts)
    items, rooms = ([], []) if now.design.is_test else _items_out(project)
    lost = sorted(set(now.design.choices) - {m.id for m in now.assembly.meetings})
    # Constructed, not checked: the framework would look at each of these thousands of values twice.
    return BuildOut.model_construct(
        built_from=now.built_from,
        parts=[_part_out(p, likes[p.id]) for p in now.assembly.parts],
        meetings=rows,
        boundaries=boundaries,
        findings=list(now.assembly.findings),
        stocks=now.stocks,
        facts=list(now.assembly.facts),
        needs=list(now.assembly.needs),
        size_mm=extent_of(now.assembly),
        pins=list(pinned(now.assembly, now.design.pins, stocks=now.stocks)),
        orphans=[Named(id=i, label=_of_two(now.assembly, MeetingId.parse(i))) for i in lost],
        left_out=[Named(id=i, label=name) for i, name in now.assembly.left_out.items()],
        item=item,
        numbers=now.design.numbers,
        items=items,
        rooms=rooms,
    )


def _of_two(assembly: Assembly, meeting: MeetingId) -> str:
    """Return what a meeting is called."""
    return plain(say("meeting.of_two", a=assembly.name_of(meeting.a), b=assembly.name_of(meeting.b)))


def _meeting_rows(now: queries.Current) -> tuple[list[MeetingRow], dict[str, Boundaries]]:
    stock = {p.id: now.stocks[p.stock] for p in now.assembly.parts}
    boundaries: dict[str, Boundaries] = {}
    rows = []
    for m in now.assembly.meetings:
        pair = f"{stock[m.a].id}+{stock[m.b].id}"
        if pair not in boundaries:
            boundaries[pair] = now.fits.between(stock[m.a].key, stock[m.b].key)
        sd = meeting_sd(m, now.stocks, boundaries=boundaries[pair], fits=now.fits) if m.clearance else 0.0
        rows.append(
            MeetingRow.model_construct(
                id=m.id,
                kind=m.kind,
                a=m.a,
                b=m.b,
                style=m.style,
                name=named(m.style, m.count),
                count=m.count,
                feel=m.feel,
                clearance=as_cut(m, now.stocks, fits=now.fits) if m.clearance else None,
                sd=sd,
                pair=pair,
            )
        )
    return rows, boundaries
