"""Packing the parts of a design on the sheets of a shop: one stock at a time, with the shop's own names and prices."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from notchcore.errors import NestError
from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.profile import Ring, area_of, net_area
from notchcore.nest.engine import solve
from notchcore.nest.gate import faults
from notchcore.nest.laid import sheet_layout
from notchcore.nest.problem import Answer, PartKind, Placed, Prefer, Problem, SheetSpec
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout, Unplaced
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say


def pack(
    parts: list[NestPart],
    sheets: list[SheetKind],
    *,
    rules: NestRules,
    work: Work,
    seed: int = 1,
    on_better: Callable[[Nesting], None] = lambda _: None,
    locked: Sequence[SheetLayout] = (),
    prefer: Prefer = Prefer.PRICE,
    start: Nesting | None = None,
) -> Nesting:
    """Return the best packing found.

    Args:
        locked: sheets with the parts on them that stay where they are
        work: how much may be done; the first answer is always finished unless somebody wants an end
        on_better: called with each improvement, already checked
        start: a packing of these parts to go on from; what of it does not hold any more is left out
    Raises:
        NestError: there is nothing to pack, a part's outline is none, or what is locked is against the rules or on a sheet that is gone
    """
    if not parts:
        raise NestError(say("nothing_to_lay"))
    usable = [(kind, ring) for kind in sheets if kind.count > 0 and (ring := on_bed(kind, rules))]
    if not usable:
        none = say("unplaced.no_sheet")
        return Nesting(sheets=(), unplaced=tuple(Unplaced(part=p.id, count=p.count, why=none) for p in parts), utilisation=0.0, price=0.0)
    problem = Problem(
        name="",
        prefer=prefer,
        spacing=rules.spacing,
        margin=rules.margin,
        parts=tuple(
            PartKind(id=p.id, outer=p.profile.outer, holes=p.profile.holes, count=p.count, turns=tuple(map(float, p.may_turn(rules))), sides=p.sides)
            for p in parts
        ),
        sheets=tuple(SheetSpec(id=k.id, outer=ring, bad=k.bad, count=k.count, cost=_cost(k)) for k, ring in usable),
    )
    kinds = [kind for kind, _ in usable]
    problem = replace(problem, locked=_locked(locked, kinds, parts=parts, rules=rules))
    stay = [(p.part, p.copy) for s in locked for p in s.placements]
    if start is not None:
        problem = replace(problem, start=_begun(start, set(stay), kinds=kinds, parts=parts))
    answer = solve(problem, work, seed=seed, on_better=lambda a: on_better(_nesting(a, kinds, parts=parts, rules=rules, stay=stay)))
    return _nesting(answer, kinds, parts=parts, rules=rules, stay=stay)


def _locked(locked: Sequence[SheetLayout], kinds: list[SheetKind], *, parts: list[NestPart], rules: NestRules) -> tuple[Placed, ...]:
    """Return locked parts as the engine wants them."""
    which, by_id = {k.id: i for i, k in enumerate(kinds)}, {p.id: p for p in parts}
    number = {p.id: i for i, p in enumerate(parts)}
    for sheet in locked:
        if sheet.sheet not in which or sheet.copy >= kinds[which[sheet.sheet]].count:
            raise NestError(say("locked_on_lost_sheet", sheet=sheet.name))
        wrong = faults(sheet, by_id, rules=rules)
        if wrong or any(not by_id[p.part].may_lie(p, rules) for p in sheet.placements):
            raise NestError(say("locked_against_rules", sheet=sheet.name, why=wrong[0].says if wrong else say("locked_against_rules.turn")))
    return tuple(_placed(p, number[p.part], sheet=which[s.sheet], copy=s.copy) for s in locked for p in s.placements)


def _placed(p: Placement, part: int, *, sheet: int, copy: int) -> Placed:
    return Placed(part=part, sheet=sheet, copy=copy, turn=float(p.turn), x=p.x, y=p.y, mirrored=p.mirrored)


def _begun(start: Nesting, stay: set[tuple[str, int]], *, kinds: list[SheetKind], parts: list[NestPart]) -> tuple[Placed, ...]:
    """Return where the parts that are not locked lie now, as the engine wants them; more than are wanted are left out."""
    which, number = {k.id: i for i, k in enumerate(kinds)}, {p.id: i for i, p in enumerate(parts)}
    counts = {p.id: p.count for p in parts}
    return tuple(
        _placed(p, number[p.part], sheet=which[s.sheet], copy=s.copy)
        for s in start.sheets
        for p in s.placements
        if s.sheet in which and p.part in number and p.copy < counts[p.part] and (p.part, p.copy) not in stay
    )


def _cost(kind: SheetKind) -> float:
    """Return the price of a sheet; its area where none is given."""
    return kind.price or abs(area_of(kind.ring())) * 1e-6


def on_bed(kind: SheetKind, rules: NestRules) -> Ring:
    """Return what of a sheet lies on the bed; empty when that is nothing."""
    parts = pieces(Polygon(kind.ring()).intersection(box(0, 0, rules.bed_width, rules.bed_height)))
    largest = max(parts, key=lambda p: p.area, default=None)
    return tuple((float(x), float(y)) for x, y in largest.exterior.coords[:-1]) if largest is not None else ()


def _nesting(answer: Answer, kinds: list[SheetKind], *, parts: list[NestPart], rules: NestRules, stay: list[tuple[str, int]]) -> Nesting:
    """Return an answer in the shop's words, after the exact check on the sheets as they are; locked parts come first and keep their numbers."""
    by_id = {p.id: p for p in parts}
    free = {p.id: iter([i for i in range(p.count) if (p.id, i) not in set(stay)]) for p in parts}
    on: dict[tuple[int, int], list[Placement]] = {}
    for i, p in enumerate(answer.placed):
        part = parts[p.part].id
        number = stay[i][1] if i < len(stay) else next(free[part])
        on.setdefault((p.sheet, p.copy), []).append(Placement(part=part, copy=number, turn=round(p.turn), x=p.x, y=p.y, mirrored=p.mirrored))
    layouts = []
    for (which, copy), placed in sorted(on.items(), key=lambda s: (_cost(kinds[s[0][0]]), s[0])):
        kind, placements = kinds[which], tuple(placed)
        layout = sheet_layout(kind, copy, placements=placements, parts=by_id, rules=rules)
        wrong = faults(layout, by_id, rules=rules)
        if wrong:
            raise NestError(say("packing_failed_own_check"), faults=[f.message for f in wrong[:5]])
        layouts.append(layout)
    beyond = any(k.width > rules.bed_width or k.height > rules.bed_height for k in kinds)
    unplaced = tuple(Unplaced(part=parts[k].id, count=n, why=_as_told(why, rules, beyond=beyond)) for k, n, why in answer.left)
    used = sum(abs(area_of(s.ring)) for s in layouts)
    net = sum(net_area(by_id[p.part].profile) for s in layouts for p in s.placements)
    price = sum(kinds[which].price for which, _ in on)
    return Nesting(sheets=tuple(layouts), unplaced=unplaced, utilisation=net / used if used else 0.0, price=price)


def joined(nestings: list[Nesting]) -> Nesting:
    """Return the packings of several stocks as one."""
    sheets = tuple(s for n in nestings for s in n.sheets)
    used = sum(abs(area_of(s.ring)) for s in sheets)
    net = sum(s.utilisation * abs(area_of(s.ring)) for s in sheets)
    return Nesting(
        sheets=sheets,
        unplaced=tuple(u for n in nestings for u in n.unplaced),
        utilisation=net / used if used else 0.0,
        price=sum(n.price for n in nestings),
    )


def _as_told(why: Sentence, rules: NestRules, *, beyond: bool) -> Sentence:
    """Return why a part has no place with what to do about it, or with what limits the sheets."""
    if why.key == "unplaced.full":
        return say("unplaced.add", why=why)
    return say("unplaced.bed", why=why, bed=mm(rules.bed_width, rules.bed_height, digits=0)) if beyond else why
