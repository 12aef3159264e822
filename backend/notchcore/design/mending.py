"""Carrying out a repair in a project of several items: on the item that it is about."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from notchcore.design.design import Design
from notchcore.design.items import body_of, whole_body, with_body
from notchcore.design.repairs import applied
from notchcore.findings import Repair, RepairKind
from notchcore.ids import MeetingId, item_of, own_meeting, own_name

#: what single things of an item are changed by
_OF_THINGS = frozenset(RepairKind) - {RepairKind.NUMBER, RepairKind.STOCK, RepairKind.VARIANT, RepairKind.RELIEF}
_OF_EACH = frozenset((RepairKind.STOCK, RepairKind.RELIEF))  # changes that all that is joined goes along with


def mended_project(design: Design, item: str, *, repair: Repair) -> Design:
    """Return the project with a repair carried out on one of its items, or on what is joined to it where it is about that.

    Raises:
        DesignError: there is no such item, or the repair does not belong to it
        ValueOutside: its values lie outside what makes sense
    """
    if item:  # it may name panels as they are called in the whole
        repair = _in_its_words(repair, repair.targets, owner=item)
    guests = {i.id for i in whole_body(design, item).items}
    if repair.kind in _OF_EACH:
        for one in (item, *sorted(guests)):
            design = with_body(design, one, body=applied(body_of(design, one), repair))
        return design
    owners: dict[str, list[str]] = {}
    for target in repair.targets:
        owner = _owner([target, *_other(repair)]) if repair.kind in _OF_THINGS else ""
        owners.setdefault(owner if owner in guests else "", []).append(target)
    for owner, targets in (owners or {"": []}).items():
        own = replace(repair, targets=tuple(targets)) if not owner else _in_its_words(repair, targets, owner=owner)
        design = with_body(design, owner or item, body=applied(body_of(design, owner or item), own))
    return design


def _other(repair: Repair) -> list[str]:
    """Return the second panel that a repair is about."""
    return [str(repair.values["to"])] if repair.kind in (RepairKind.GUSSET, RepairKind.HOLES) else []


def _owner(names: Iterable[str]) -> str:
    """Return the item that all of these belong to; "" for the first, or where they are of several."""
    parts = [p for name in names for p in MeetingId.parse(name).parts if p]
    owners = set(map(item_of, parts))
    return owners.pop() if len(owners) == 1 else ""


def _in_its_words(repair: Repair, targets: Iterable[str], *, owner: str) -> Repair:
    values = {k: own_name(owner, v) if k == "to" and isinstance(v, str) else v for k, v in repair.values.items()}
    return replace(repair, targets=tuple(own_meeting(owner, t) for t in targets), values=values)
