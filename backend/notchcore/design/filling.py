"""What goes into empty rooms: a box that follows each of them, a drawer where the way out is level."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from notchcore.design.cards.pieces import Card
from notchcore.design.design import MOST_LABEL, Design, Item, Loose, Source
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.families.registry import family_of
from notchcore.design.items import Member, in_root
from notchcore.design.rooms import Room, rooms_of
from notchcore.errors import DesignError
from notchcore.ids import MAIN
from notchcore.units import Mm
from notchcore.words.render import say

DRAWER_PLAY: Mm = 0.5
NOTCH: Mm = 24.0  # for a finger, in the front of a drawer
NOTCH_SHARE = 0.5  # of the height of the room, at most


def taken_rooms(items: Sequence[Item]) -> dict[tuple[str, str], str]:
    """Return what stands in which room of which item: of a lid's own room, that which it goes over."""
    stands = [(i, i.loose) for i in items if i.loose is not None]
    return {(i.id, x.room) if x.over else (x.host, x.room): x.host if x.over else i.id for i, x in stands}


def empty_rooms(design: Design, host: Member) -> list[Room]:
    """Return the rooms of an item that nothing stands in."""
    taken = {room for room_host, room in taken_rooms([in_root(i, design) for i in design.items]) if room_host == host.id}
    return [r for r in rooms_of(host.assembly.parts, host.assembly.rooms) if r.id not in taken]


def filled(design: Design, host: Member, *, play: Mm = DRAWER_PLAY, rooms: Sequence[str] = ()) -> Design:
    """Return the project with a box in every empty room of an item, or in those that are named: each is an item that follows its room.

    Raises:
        DesignError: there is no empty room
    """
    free = [r for r in empty_rooms(design, host) if not rooms or r.id in rooms]
    if not free or isinstance(host.design.numbers, Card):
        raise DesignError(say("no_empty_room"))
    stock = host.design.stocks[family_of(host.design.numbers).roles[0].id]
    items = list(design.items)
    for room in free:
        items.append(
            Item(
                id=free_id(items, room.thing),
                label=room.thing,
                loose=Loose(room=room.id, host=host.id, play=play),
                design=Design(numbers=_box(room, play), stocks=dict.fromkeys((r.id for r in ROLES), stock), feel=host.design.feel),
            )
        )
    return replace(design, items=tuple(items), name=design.name or first_name(design))


def joined_to(design: Design, other: Design, *, label: str, source: Source | None = None) -> Design:
    """Return the project with another one in it: its first item and its further ones become items here, standing to each other as they did.

    Args:
        source: the project that the first of them follows
    """
    first = Item(
        id=free_id(design.items, label),
        label=(other.name or label)[:MOST_LABEL],
        count=other.count,
        spares=other.spares,
        design=replace(other, items=(), name="", count=1, spares=0, prototype=None),
        source=source,
    )
    items = [*design.items, first]
    names = {MAIN: first.id}
    for i in other.items:
        names[i.id] = free_id(items, i.id)
        items.append(replace(i, id=names[i.id]))
    hosted = [*design.items, *(_hosted(i, names) for i in items[len(design.items) :])]
    return replace(design, items=tuple(hosted), name=design.name or first_name(design))


def _hosted(item: Item, names: dict[str, str]) -> Item:
    """Return an item that stands to the same ones under other names."""
    if item.loose is not None:
        return replace(item, loose=replace(item.loose, host=names.get(item.loose.host, item.loose.host)))
    return item if item.joined is None else replace(item, joined=replace(item.joined, host=names.get(item.joined.host, item.joined.host)))


def first_name(design: Design) -> str:
    """Return what the first item is called until somebody names it."""
    if isinstance(design.numbers, Card):
        return ""
    family = family_of(design.numbers)
    return family.thing or family.label


def free_id(items: Sequence[Item], label: str) -> str:
    """Return a short name that no item has yet, from what it is called."""
    stem = "".join(c if c in "abcdefghijklmnopqrstuvwxyz0123456789" else "-" for c in label.lower()).strip("-")[:30].strip("-") or "item"
    taken = {MAIN, *(i.id for i in items)}
    return stem if stem not in taken else next(n for k in range(2, len(taken) + 3) if (n := f"{stem}-{k}") not in taken)


def _box(room: Room, play: Mm) -> BoxNumbers:
    size = [max(s - 2 * play, 10.0) for s in room.size]
    level = abs(room.mouth[2]) < 0.5
    notch = min(NOTCH, round(NOTCH_SHARE * room.size[2])) if level else 0.0
    return BoxNumbers(width=size[0], depth=size[1], height=size[2], thumb_notch=notch)
