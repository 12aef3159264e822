"""Whether the sheets on the shelf will do, by a quick packing before the real one: what is needed, what is there, what to buy."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from notchcore.errors import NestError
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, box
from notchcore.geom.profile import polygon_of
from notchcore.nest.gate import placed_shape
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind

QUICK = 120  # parts that are packed within a moment; of more, so many, and the rest is reckoned from those
PLENTY = 150  # sheets of a kind where there is no end: more than QUICK parts take
DEAR = 1e6  # times its price: what is to be bought comes after all that is there


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """What one stock is asked for."""

    stock: str
    sheet: str  #: the kind to reckon in and to buy: the largest whole one; empty when the shop has none
    sheets: float  #: of this kind, about, that the parts take
    there: int  #: of this kind on the shelf
    offcuts: int  #: other sheets of the stock that are used first
    buy: int  #: so many more of this kind, about
    price: float  #: of those
    sure: bool  #: even a perfect packing has no room for everything


def _usable(kind: SheetKind, rules: NestRules) -> float:
    on_bed = Polygon(kind.ring()).intersection(box(0, 0, rules.bed_width, rules.bed_height))
    return float(mitred(on_bed, rules.spacing / 2 - rules.margin).area)


def needs(parts: Sequence[NestPart], shelf: Sequence[SheetKind], *, rules: NestRules) -> tuple[Need, ...]:
    """Return what each stock is asked for, and whether the shelf has it.

    Sheets are counted by packing once, as well as the first try goes; with a real packing it is that or a little less. "Sure" reckons with
    areas: parts with half the spacing around them, sheets without their margin and as far as the bed reaches.
    """
    found = []
    for stock in sorted({p.stock for p in parts}):
        mine = [p for p in parts if p.stock == stock and p.count]
        area = sum(p.count * float(mitred(polygon_of(p.profile), rules.spacing / 2).area) for p in mine)
        own = [k for k in shelf if k.stock == stock]
        whole = max((k for k in own if not k.outline), key=lambda k: (_usable(k, rules), k.id), default=None)
        room = sum(k.count * _usable(k, rules) for k in own)
        sheets, buy = (0.0, 0) if whole is None or not mine else (_taken(mine, whole, rules=rules), _bought(mine, own, whole=whole, rules=rules))
        found.append(
            Need(
                stock=stock,
                sheet=whole.id if whole is not None else "",
                sheets=sheets,
                there=whole.count if whole is not None else 0,
                offcuts=sum(k.count for k in own if k is not whole),
                buy=buy,
                price=buy * whole.price if whole is not None else 0.0,
                sure=area > room,
            )
        )
    return tuple(found)


def _some(parts: Sequence[NestPart]) -> tuple[list[NestPart], float]:
    """Return a share of the parts that is packed in a moment, and how many times that all of them are."""
    count = sum(p.count for p in parts)
    if count <= QUICK:
        return list(parts), 1.0
    some = [replace(p, count=max(p.count * QUICK // count, 1)) for p in parts]
    return some, count / sum(p.count for p in some)


def _quick(parts: list[NestPart], kinds: list[SheetKind], *, rules: NestRules) -> Nesting | None:
    try:
        return pack(parts, kinds, rules=rules, work=Work(1), seed=1)
    except NestError:
        return None


def _taken(parts: Sequence[NestPart], whole: SheetKind, *, rules: NestRules) -> float:
    """Return how many sheets of a kind the parts take; the last one counts as far as it is used."""
    some, times = _some(parts)
    packed = _quick(some, [replace(whole, count=PLENTY)], rules=rules)
    if packed is None or not packed.sheets:
        return 0.0
    by_id = {p.id: p for p in some}
    reach = [placed_shape(by_id[p.part], p).bounds for p in packed.sheets[-1].placements]
    wide, high = max(b[2] for b in reach) / whole.width, max(b[3] for b in reach) / whole.height
    return float(len(packed.sheets) - 1 + min(wide, high, 1.0)) * times


def _bought(parts: Sequence[NestPart], own: Sequence[SheetKind], *, whole: SheetKind, rules: NestRules) -> int:
    """Return how many sheets are missing after everything on the shelf."""
    some, times = _some(parts)
    shelf = [replace(k, count=min(int(k.count // times), QUICK)) for k in own]
    packed = _quick(some, [*shelf, replace(whole, id="", count=PLENTY, price=max(whole.price, 1.0) * DEAR)], rules=rules)
    return math.ceil(sum(s.sheet == "" for s in packed.sheets) * times - 1e-9) if packed is not None else 0
