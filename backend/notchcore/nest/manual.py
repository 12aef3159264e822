"""Parts moved by hand on packed sheets: checked as strictly as a packing, and pushed to the nearest place that is right on request."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from notchcore.errors import NestError
from notchcore.geom.planar import Near, Polygon
from notchcore.geom.profile import area_of, net_area
from notchcore.nest.gate import SLACK, placed_shape
from notchcore.nest.laid import sheet_layout
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm

FARTHEST: Mm = 120.0  # that a part is pushed
FIRST_STEP: Mm = 0.5
WIDER = 1.25  # each ring of places tried is so much farther out than the one before
DIRECTIONS = 32
CLOSE: Mm = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """One part, by its number, to a place on a sheet."""

    part: str
    copy: int
    sheet: str
    sheet_copy: int
    turn: int  #: degrees
    x: Mm
    y: Mm


class _Room:
    """A sheet without the part that moves: tells what is wrong with a place for it."""

    def __init__(self, sheet: SheetLayout, part: NestPart, others: Sequence[Placement], parts: Mapping[str, NestPart], rules: NestRules) -> None:
        self.part, self.rules, self.others = part, rules, others
        self.usable = Polygon(sheet.ring).buffer(-rules.margin + SLACK, join_style="mitre")
        self.near = Near([placed_shape(parts[p.part], p) for p in others])

    def wrong(self, place: Placement) -> str:
        """Return what is wrong with a place; empty when nothing is."""
        shape = placed_shape(self.part, place)
        if not self.usable.covers(shape):
            return "it reaches over the margin"
        hit = self.near.within(shape, self.rules.spacing - SLACK, SLACK)
        return f"it is too near to {self.others[hit].part}" if hit is not None else ""

    def settled(self, place: Placement) -> Placement | None:
        """Return the nearest right place: rings of places ever farther out, then back towards where it was dropped."""
        if not self.wrong(place):
            return place
        for reach in _rings():
            found = []
            for k in range(DIRECTIONS):
                a = 2 * math.pi * k / DIRECTIONS
                at = replace(place, x=place.x + reach * math.cos(a), y=place.y + reach * math.sin(a))
                if not self.wrong(at):
                    found.append(self._nearer(place, at))
            if found:
                return min(found, key=lambda p: math.dist((p.x, p.y), (place.x, place.y)))
        return None

    def _nearer(self, wanted: Placement, right: Placement) -> Placement:
        """Return a right place between one that is right and the one that was wanted, to a hundredth."""
        bad, good = 0.0, 1.0
        dx, dy = right.x - wanted.x, right.y - wanted.y
        while (good - bad) * math.hypot(dx, dy) > CLOSE:
            middle = (bad + good) / 2
            at = replace(wanted, x=wanted.x + middle * dx, y=wanted.y + middle * dy)
            bad, good = (middle, good) if self.wrong(at) else (bad, middle)
        return replace(wanted, x=wanted.x + good * dx, y=wanted.y + good * dy)


def _rings() -> Iterator[Mm]:
    reach = FIRST_STEP
    while reach < FARTHEST:
        yield reach
        reach *= WIDER


def moved(nesting: Nesting, move: Move, parts: Mapping[str, NestPart], shelf: Mapping[str, SheetKind], rules: NestRules, *, settle: bool = False) -> Nesting:
    """Return the packing with a part moved.

    Args:
        parts: by id, of all stocks
        shelf: sheets by id: a part may go to one that is not used yet
        settle: push it to the nearest place that is right
    Raises:
        NestError: there is no such part or sheet, its stock or turn is not allowed, or the place is not right
    """
    part, kind = parts.get(move.part), shelf.get(move.sheet)
    sheets = {(s.sheet, s.copy): s for s in nesting.sheets}
    source = next((k for k, s in sheets.items() if any((p.part, p.copy) == (move.part, move.copy) for p in s.placements)), None)
    if part is None or source is None:
        raise NestError("This part does not lie on a sheet.")
    target = move.sheet, move.sheet_copy
    if kind is None or not 0 <= move.sheet_copy < max(kind.count, 1 if target in sheets else 0):
        raise NestError("There is no such sheet on the shelf.")
    if kind.stock != part.stock:
        raise NestError("This sheet is of another stock.")
    if move.turn % 360 not in {t % 360 for t in rules.turns}:
        raise NestError("The part may not be turned so: the grain would run across.")
    rest = {k: [p for p in s.placements if (p.part, p.copy) != (move.part, move.copy)] for k, s in sheets.items()}
    others = rest.setdefault(target, [])
    layout = sheets.get(target) or sheet_layout(kind, move.sheet_copy, (), parts, rules)
    room = _Room(layout, part, others, parts, rules)
    place = Placement(part=move.part, copy=move.copy, turn=move.turn % 360, x=move.x, y=move.y)
    right = room.settled(place) if settle else place
    if right is None or (why := room.wrong(right)):
        raise NestError("There is no free place near by." if right is None else f"It cannot lie there: {why}. Move it, or let it settle.")
    others.append(right)
    laid = tuple(sheet_layout(shelf[k[0]] if k[0] in shelf else _kind_of(sheets[k]), k[1], tuple(ps), parts, rules) for k, ps in rest.items() if ps)
    used = sum(abs(area_of(s.ring)) for s in laid)
    net = sum(net_area(parts[p.part].profile) for s in laid for p in s.placements)
    price = sum(shelf[s.sheet].price for s in laid if s.sheet in shelf)
    return replace(nesting, sheets=laid, utilisation=net / used if used else 0.0, price=price)


def _kind_of(sheet: SheetLayout) -> SheetKind:
    """Return a sheet that is on the mat but no longer on the shelf."""
    whole = ((0.0, 0.0), (sheet.width, 0.0), (sheet.width, sheet.height), (0.0, sheet.height))
    return SheetKind(
        id=sheet.sheet, stock=sheet.stock, name=sheet.name, width=sheet.width, height=sheet.height, outline=() if sheet.ring == whole else sheet.ring
    )
