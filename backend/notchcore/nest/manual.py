"""Parts moved by hand on packed sheets: checked as strictly as a packing, and pushed to the nearest place that is right on request."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from notchcore.errors import NestError
from notchcore.geom.near import Near
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import area_of, net_area
from notchcore.nest.gate import SLACK, bad_spots, faults, placed_shape, touches_bad
from notchcore.nest.laid import sheet_layout, with_leftover
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say

FARTHEST: Mm = 120.0  # that a part is pushed
FIRST_STEP: Mm = 0.5
WIDER = 1.25  # each ring of places tried is so much farther out than the one before
DIRECTIONS = 32
CLOSE: Mm = 0.01
MOST_BESIDE = 500  # places beside neighbours that are looked at


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
    mirrored: bool = False


class Room:
    """A sheet without the part that moves: tells what is wrong with a place for it."""

    def __init__(self, sheet: SheetLayout, part: NestPart, others: Sequence[Placement], parts: Mapping[str, NestPart], rules: NestRules) -> None:
        self.part, self.rules = part, rules
        self.usable = mitred(Polygon(sheet.ring), -rules.margin + SLACK)
        self.near = Near([placed_shape(parts[p.part], p) for p in others])
        self.bad = bad_spots(sheet.bad)

    def wrong(self, place: Placement) -> Sentence | None:
        """Return what is wrong with a place, if anything."""
        shape = placed_shape(self.part, place)
        if not self.usable.covers(shape):
            return say("not_there.margin")
        if any(touches_bad(shape, b, spacing=self.rules.spacing) for b in self.bad):
            return say("not_there.bad_spot")
        hit = self.near.within(shape, self.rules.spacing - SLACK, touch=SLACK)
        return say("not_there.part") if hit is not None else None

    def settled(self, place: Placement) -> Placement | None:
        """Return the nearest right place that is found: against the sides of its neighbours, or on rings ever farther out."""
        if not self.wrong(place):
            return place

        def far(p: Placement) -> Mm:
            return math.dist((p.x, p.y), (place.x, place.y))

        beside = next((p for p in sorted(self.beside(place), key=far)[:MOST_BESIDE] if far(p) <= FARTHEST and not self.wrong(p)), None)
        for reach in _rings():
            if beside is not None and far(beside) <= reach:
                break
            found = []
            for k in range(DIRECTIONS):
                a = 2 * math.pi * k / DIRECTIONS
                at = replace(place, x=place.x + reach * math.cos(a), y=place.y + reach * math.sin(a))
                if not self.wrong(at):
                    found.append(self._nearer(place, at))
            if found:
                return min([*found, *([beside] if beside else [])], key=far)
        return beside

    def beside(self, place: Placement) -> Iterator[Placement]:
        """Yield places in which the part's box touches those of its neighbours, or the margin, in both directions: exact fits are among them."""
        x0, y0, x1, y1 = placed_shape(self.part, replace(place, x=0.0, y=0.0)).bounds
        gap = self.rules.spacing
        a0, b0, a1, b1 = (v + (SLACK if i < 2 else -SLACK) for i, v in enumerate(self.usable.bounds))
        boxes = [s.bounds for s in self.near.shapes]
        xs = {place.x, a0 - x0, a1 - x1, *(b[2] + gap - x0 for b in boxes), *(b[0] - gap - x1 for b in boxes)}
        ys = {place.y, b0 - y0, b1 - y1, *(b[3] + gap - y0 for b in boxes), *(b[1] - gap - y1 for b in boxes)}
        for x in xs:
            for y in ys:
                yield replace(place, x=x, y=y)

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


def moved(nesting: Nesting, move: Move, *, parts: Mapping[str, NestPart], shelf: Mapping[str, SheetKind], rules: NestRules, settle: bool = False) -> Nesting:
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
        raise NestError(say("part_not_laid"))
    target = move.sheet, move.sheet_copy
    if kind is None or not 0 <= move.sheet_copy < max(kind.count, 1 if target in sheets else 0):
        raise NestError(say("no_such_sheet_on_shelf"))
    if kind.stock != part.stock:
        raise NestError(say("sheet_of_other_stock"))
    place = Placement(part=move.part, copy=move.copy, turn=move.turn % 360, x=move.x, y=move.y, mirrored=move.mirrored)
    if not part.may_lie(place, rules):
        raise NestError(say("part_not_turned_so"))
    rest = {k: [p for p in s.placements if (p.part, p.copy) != (move.part, move.copy)] for k, s in sheets.items()}
    others = rest.setdefault(target, [])
    layout = sheets.get(target) or sheet_layout(kind, move.sheet_copy, placements=(), parts=parts, rules=rules)
    room = Room(layout, part, others, parts, rules)
    right = room.settled(place) if settle else place
    if right is None:
        raise NestError(say("no_place_near"))
    if why := room.wrong(right):
        raise NestError(say("not_there", why=why))
    others.append(right)

    def laid_on(k: tuple[str, int], placed: list[Placement]) -> SheetLayout:
        if k not in (source, target):
            return sheets[k]
        kind = shelf[k[0]] if k[0] in shelf else _kind_of(sheets[k])
        return with_leftover(sheet_layout(kind, k[1], placements=tuple(placed), parts=parts, rules=rules), parts, rules=rules)

    return _with_sheets(nesting, [laid_on(k, placed) for k, placed in rest.items() if placed], parts=parts, shelf=shelf)


def swapped(
    nesting: Nesting, source: tuple[str, int], *, target: tuple[str, int], parts: Mapping[str, NestPart], shelf: Mapping[str, SheetKind], rules: NestRules
) -> Nesting:
    """Return the packing with all parts of a sheet on another one, as they lie; what lay there comes onto the first.

    Args:
        source, target: sheet and copy
    Raises:
        NestError: there is no such sheet, it is of another stock, or the parts do not fit there as they lie
    """
    sheets = {(s.sheet, s.copy): s for s in nesting.sheets}
    kind = shelf.get(target[0])
    if source not in sheets or kind is None or not 0 <= target[1] < max(kind.count, 1 if target in sheets else 0):
        raise NestError(say("no_such_sheet_on_shelf"))
    if kind.stock != sheets[source].stock:
        raise NestError(say("sheet_of_other_stock"))
    back = shelf[source[0]] if source[0] in shelf else _kind_of(sheets[source])
    made = {}
    for key, to, placed in ((target, kind, sheets[source].placements), (source, back, sheets[target].placements if target in sheets else ())):
        layout = sheet_layout(to, key[1], placements=placed, parts=parts, rules=rules)
        wrong = faults(layout, parts, rules=rules)
        if wrong:
            raise NestError(say("parts_do_not_fit_as_they_lie", sheet=to.name, why=wrong[0].says))
        made[key] = with_leftover(layout, parts, rules=rules)
    order = [*sheets, *(k for k in made if k not in sheets)]
    return _with_sheets(nesting, [s for k in order if (s := made.get(k) or sheets[k]).placements], parts=parts, shelf=shelf)


def _with_sheets(nesting: Nesting, laid: Sequence[SheetLayout], *, parts: Mapping[str, NestPart], shelf: Mapping[str, SheetKind]) -> Nesting:
    used = sum(abs(area_of(s.ring)) for s in laid)
    net = sum(net_area(parts[p.part].profile) for s in laid for p in s.placements)
    price = sum(shelf[s.sheet].price for s in laid if s.sheet in shelf)
    return replace(nesting, sheets=tuple(laid), utilisation=net / used if used else 0.0, price=price)


def _kind_of(sheet: SheetLayout) -> SheetKind:
    """Return a sheet that is on the mat but no longer on the shelf."""
    whole = ((0.0, 0.0), (sheet.width, 0.0), (sheet.width, sheet.height), (0.0, sheet.height))
    return SheetKind(
        id=sheet.sheet,
        stock=sheet.stock,
        name=sheet.name,
        width=sheet.width,
        height=sheet.height,
        bad=sheet.bad,
        outline=() if sheet.ring == whole else sheet.ring,
    )
