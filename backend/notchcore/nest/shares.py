"""What each item of a project takes of the sheets: pieces, share of sheets, share of the price."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from notchcore.design.assembly import Part
from notchcore.geom.profile import polygon_of
from notchcore.nest.values import Nesting


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemShare:
    """One item's share; those of all items together are the whole layout."""

    item: str  #: "" is the first
    pieces: int
    sheets: float
    price: float


def shares_of(nesting: Nesting, parts: Sequence[Part], *, prices: Mapping[str, float]) -> tuple[ItemShare, ...]:
    """Return what the items take of a layout, in the order of their parts: a sheet is shared by the net areas of what lies on it, waste along with them.

    Args:
        prices: of one sheet, by its id; what the layout costs in all stays what it was when it was packed
    """
    area = {p.id: polygon_of(p.profile).area for p in parts}
    item = {p.id: p.item for p in parts}
    pieces: defaultdict[str, int] = defaultdict(int)
    sheets: defaultdict[str, float] = defaultdict(float)
    paid: defaultdict[str, float] = defaultdict(float)
    for sheet in nesting.sheets:
        there = [p.part for p in sheet.placements if p.part in area]
        whole = sum(area[p] for p in there)
        for part in there:
            share = area[part] / whole
            pieces[item[part]] += 1
            sheets[item[part]] += share
            paid[item[part]] += share * prices.get(sheet.sheet, 0.0)
    known = sum(paid.values())  # a sheet that left the shelf since has no price any more
    k = nesting.price / known if known else 0.0
    return tuple(ItemShare(item=i, pieces=pieces[i], sheets=sheets[i], price=paid[i] * k) for i in dict.fromkeys(item.values()))
