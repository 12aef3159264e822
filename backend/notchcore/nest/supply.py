"""Whether the sheets on the shelf will do, reckoned before anything is packed: what is needed, what is there, what to buy."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.geom.planar import Polygon, box
from notchcore.geom.profile import polygon_of
from notchcore.nest.values import NestPart, NestRules, SheetKind

FILLED = 0.82  # share of the usable area that parts with their spacing usually take (`./board bench nest`: 0.75 to 0.9)


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
    return float(on_bed.buffer(rules.spacing / 2 - rules.margin, join_style="mitre").area)


def needs(parts: Sequence[NestPart], shelf: Sequence[SheetKind], rules: NestRules) -> tuple[Need, ...]:
    """Return what each stock is asked for, and whether the shelf has it.

    Parts count with half the spacing around them, sheets without their margin and as far as the bed reaches.
    """
    found = []
    for stock in sorted({p.stock for p in parts}):
        area = sum(p.count * float(polygon_of(p.profile).buffer(rules.spacing / 2, join_style="mitre").area) for p in parts if p.stock == stock)
        own = [k for k in shelf if k.stock == stock]
        whole = max((k for k in own if not k.outline), key=lambda k: (_usable(k, rules), k.id), default=None)
        room = sum(k.count * _usable(k, rules) for k in own)
        each = _usable(whole, rules) if whole is not None else 0.0
        missing = max(area / FILLED - room, 0.0)
        buy = math.ceil(missing / each - 1e-9) if each > 0 else 0
        found.append(Need(
            stock=stock, sheet=whole.id if whole is not None else "", sheets=area / FILLED / each if each > 0 else 0.0,
            there=whole.count if whole is not None else 0, offcuts=sum(k.count for k in own if k is not whole), buy=buy,
            price=buy * whole.price if whole is not None else 0.0, sure=area > room,
        ))  # fmt: skip
    return tuple(found)
