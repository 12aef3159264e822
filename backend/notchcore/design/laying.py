"""Laying an item with one of its faces on a face of another one: how it is turned and tipped for that, and how far it is moved."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from notchcore.design.assembly import Part, box_round
from notchcore.design.design import Design, Item
from notchcore.design.items import Builder, Member, members_of
from notchcore.errors import DesignError
from notchcore.geom.profile import bounds_of
from notchcore.geom.vectors import Vec3, add, dot, scale, sub
from notchcore.ids import in_item
from notchcore.words.render import say

FLAT = 1e-9  # a direction with no more than this of its length across has none
DIGITS = 4  # of angles and ways that are kept


def turned_to(own: Vec3, wanted: Vec3, *, now: tuple[float, float] = (0.0, 0.0)) -> tuple[float, float] | None:
    """Return the turn and tip [degrees] with which a direction of an item looks in a wanted one; None where nothing brings it there.

    An item is tipped about its line from left to right, then turned about the upright: a direction keeps what it has along that
    line, and ends as high as wanted at `atan2(y, z) +- acos(height / hypot(y, z))`. Of the two the one nearer to how it stands now.

    Args:
        own: unit vector in the item's own place
        wanted: unit vector in the project
        now: turn and tip as they are; a turn that changes nothing stays
    """
    x, y, z = own
    across = math.hypot(y, z)
    if abs(wanted[2]) > across + 1e-6:
        return None
    middle = math.degrees(math.atan2(y, z))
    side = math.degrees(math.acos(max(-1.0, min(1.0, wanted[2] / across)))) if across > FLAT else 0.0
    found = []
    for tip in (middle + side, middle - side) if across > FLAT else (now[1],):
        level = (x, y * math.cos(math.radians(tip)) - z * math.sin(math.radians(tip)))
        turn = now[0]
        if math.hypot(*wanted[:2]) > 1e-6:
            turn = math.degrees(math.atan2(wanted[1], wanted[0]) - math.atan2(level[1], level[0]))
        found.append((_half(turn), _half(tip)))
    return min(found, key=lambda f: (round(abs(_half(f[1] - now[1])), 3), round(abs(_half(f[0] - now[0])), 3)))


def _half(degrees: float) -> float:
    """Return an angle between -180 and 180, as it is kept."""
    return round(degrees - 360.0 * math.ceil(degrees / 360.0 - 0.5), DIGITS) + 0.0


def _face(part: Part, member: Member) -> tuple[Vec3, Vec3]:
    """Return the middle and the direction of a part's outer face, in its item's own place: the one that looks away from the item's middle."""
    box = box_round(member.assembly.parts)
    middle = scale(add((box[0], box[1], box[2]), (box[3], box[4], box[5])), 0.5)
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    at = ((x0 + x1) / 2, (y0 + y1) / 2)
    front, back = part.pose.to_world(at, part.high), part.pose.to_world(at, part.low)
    outward = dot(sub(scale(add(front, back), 0.5), middle), part.pose.normal) > -1e-6
    return (front, part.pose.normal) if outward else (back, scale(part.pose.normal, -1.0))


def _found(members: tuple[Member, ...], part: str) -> tuple[Member, Part]:
    for member in members:
        for own in member.assembly.parts:
            if in_item(member.owner.id, own.id) == part:
                return member, own
    raise DesignError(say("no_such_panel"))


def laid_on(design: Design, *, part: str, onto: str, built: Builder) -> Design:
    """Return the project with an item laid with the outer face of its part on the outer face of another item's, middle on middle.

    Args:
        part: of the item that is moved, as the project names it
        onto: a part of an item that stays where it is
        built: builds a design of one item

    Raises:
        DesignError: there is no such part, both belong to one item, the item is held by another, or cannot come to lie so
    """
    members = members_of(design, built)
    (member, own), (host, there) = _found(members, part), _found(members, onto)
    item = member.item
    if item is None or item.loose is not None or item.joined is not None or item.gone:
        raise DesignError(say("not_laid.held", item=member.label or design.name))
    if host.id == member.id:
        raise DesignError(say("not_laid.itself", item=member.label))
    at, outward = _face(there, host)
    target, wanted = host.placing(at), scale(host.placing.turned(outward), -1.0)
    stands = turned_to(_face(own, member)[1], wanted, now=(item.turn, item.tip))
    if stands is None:
        raise DesignError(say("not_laid.leans", part=own.label, onto=there.label))
    turned = _with(design, replace(item, turn=stands[0], tip=stands[1]))
    again, same = _found(members_of(turned, built), part)
    places = {m.id: m.placing.shift for m in members if m.item is not None and m.room is None and m.over is None}
    places[item.id] = add(again.placing.shift, sub(target, again.placing(_face(same, again)[0])))
    return _kept(turned, places, built=built)


def _kept(design: Design, places: Mapping[str, Vec3], *, built: Builder) -> Design:
    """Return the project with items that stand beside the rest at their places: each begins behind those before it, wherever they went."""
    for found in design.items:
        if found.id not in places:
            continue
        item = next(i for i in design.items if i.id == found.id)
        now = next(m for m in members_of(design, built) if m.id == item.id)
        off = sub(places[item.id], now.placing.shift)
        if max(map(abs, off)) > 10**-DIGITS:
            x, y, z = add(item.at, off)
            design = _with(design, replace(item, at=(round(x, DIGITS), round(y, DIGITS), round(z, DIGITS))))
    return design


def _with(design: Design, item: Item) -> Design:
    return replace(design, items=tuple(item if i.id == item.id else i for i in design.items))
