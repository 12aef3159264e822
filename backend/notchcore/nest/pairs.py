"""Parts that are laid in pairs: half of them on their back, so that each can be turned over into the hole of another.

For the packing such a part is two kinds of part; before and after it is one, whose higher numbers lie on their back.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from notchcore.nest.values import BACK, FRONT, Nesting, NestPart, Placement, SheetLayout, Unplaced
from notchcore.words.render import plain

ON_BACK = "~back"


def halves_of(parts: Sequence[NestPart], paired: Collection[str]) -> dict[str, int]:
    """Return for each part in pairs how many of it lie on their front: the larger half."""
    return {p.id: (p.count + 1) // 2 for p in parts if p.id in paired and p.count > 1}


def apart(parts: Sequence[NestPart], halves: Mapping[str, int]) -> list[NestPart]:
    """Return the parts as the packing sees them."""
    found = []
    for p in parts:
        if p.id not in halves:
            found.append(p)
            continue
        front = halves[p.id]
        found += [replace(p, count=front, sides=FRONT), replace(p, id=p.id + ON_BACK, count=p.count - front, sides=BACK)]
    return found


def laid_apart(sheet: SheetLayout, halves: Mapping[str, int]) -> SheetLayout:
    """Return a sheet as the packing sees it; a part that was turned over by hand since, against its number, is left for the packing to lay."""
    kept: list[Placement] = []
    for p in sheet.placements:
        if p.part not in halves:
            kept.append(p)
        elif p.mirrored == (p.copy >= halves[p.part]):
            kept.append(replace(p, part=p.part + ON_BACK, copy=p.copy - halves[p.part]) if p.mirrored else p)
    return replace(sheet, placements=tuple(kept))


def laid_together(nesting: Nesting, halves: Mapping[str, int]) -> Nesting:
    """Return a packing with the halves under one name again."""

    def name(part: str) -> str:
        return part.removesuffix(ON_BACK) if part.removesuffix(ON_BACK) in halves else part

    def at(p: Placement) -> Placement:
        return replace(p, part=name(p.part), copy=p.copy + halves[name(p.part)]) if name(p.part) != p.part else p

    missing: dict[tuple[str, str], Unplaced] = {}
    for u in nesting.unplaced:
        same = name(u.part), plain(u.why)
        before = missing[same].count if same in missing else 0
        missing[same] = Unplaced(part=name(u.part), count=before + u.count, why=u.why)
    return replace(nesting, sheets=tuple(replace(s, placements=tuple(map(at, s.placements))) for s in nesting.sheets), unplaced=tuple(missing.values()))
