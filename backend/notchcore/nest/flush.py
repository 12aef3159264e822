"""Parts pushed against each other, so that straight edges lie exactly the spacing apart: where that is the beam's width, one cut serves both."""

from __future__ import annotations

from collections.abc import Container, Mapping
from dataclasses import replace

from notchcore.nest.manual import Room
from notchcore.nest.values import NestPart, NestRules, Placement, SheetLayout
from notchcore.units import Mm

REACH: Mm = 1.5  # that a part is pushed in a round
ROUNDS = 6
HAIR: Mm = 1e-9


def pushed_together(sheet: SheetLayout, parts: Mapping[str, NestPart], *, rules: NestRules, stay: Container[tuple[str, int]] = ()) -> SheetLayout:
    """Return a sheet with every part pushed left and down as far as the box of a neighbour or the margin, where it may lie there.

    Args:
        stay: parts, by id and copy, that are not moved
    """
    placed = sorted(sheet.placements, key=lambda p: (p.x + p.y, p.part, p.copy))
    for _ in range(ROUNDS):
        moved = False
        for k, place in enumerate(placed):
            if (place.part, place.copy) in stay:
                continue
            found = _pushed(sheet, place, others=placed[:k] + placed[k + 1 :], parts=parts, rules=rules)
            moved |= found is not place
            placed[k] = found
        if not moved:
            break
    at = {(p.part, p.copy): p for p in placed}
    return replace(sheet, placements=tuple(at[p.part, p.copy] for p in sheet.placements))


def _pushed(sheet: SheetLayout, place: Placement, *, others: list[Placement], parts: Mapping[str, NestPart], rules: NestRules) -> Placement:
    room = Room(sheet, parts[place.part], others, parts, rules)

    def on_the_way(p: Placement) -> bool:
        right, up = place.x - p.x, place.y - p.y
        return -HAIR <= right <= REACH and -HAIR <= up <= REACH and right + up > 1e-7

    for p in sorted(filter(on_the_way, room.beside(place)), key=lambda p: p.x + p.y):
        if not room.wrong(p):
            return p
    return place
