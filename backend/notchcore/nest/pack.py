"""Packing the parts of a design on the sheets of a shop: one stock at a time, with the shop's own names and prices."""

from __future__ import annotations

from collections.abc import Callable

from notchcore.errors import NestError
from notchcore.geom.planar import Polygon, box, pieces
from notchcore.geom.profile import Ring, area_of, net_area
from notchcore.nest.engine import solve
from notchcore.nest.gate import faults, placed_shape
from notchcore.nest.problem import Answer, PartKind, Problem, SheetSpec
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout, Unplaced
from notchcore.units import Mm


def pack(
    parts: list[NestPart], sheets: list[SheetKind], rules: NestRules, work: Work, *, seed: int = 1, on_better: Callable[[Nesting], None] = lambda _: None
) -> Nesting:
    """Return the best packing found.

    Args:
        work: how much may be done; the first answer is always finished unless somebody wants an end
        on_better: called with each improvement, already checked
    Raises:
        NestError: there is nothing to pack, or a part's outline is none
    """
    if not parts:
        raise NestError("There are no parts to lay out. Build something first.")
    usable = [(kind, ring) for kind in sheets if kind.count > 0 and (ring := _on_bed(kind, rules))]
    if not usable:
        none = "there is no sheet of this stock; buy one or choose another stock"
        return Nesting(sheets=(), unplaced=tuple(Unplaced(part=p.id, count=p.count, why=none) for p in parts), utilisation=0.0, price=0.0)
    problem = Problem(
        name="", spacing=rules.spacing, margin=rules.margin,
        parts=tuple(PartKind(id=p.id, outer=p.profile.outer, holes=p.profile.holes, count=p.count, turns=tuple(map(float, rules.turns))) for p in parts),
        sheets=tuple(SheetSpec(id=k.id, outer=ring, count=k.count, cost=_cost(k)) for k, ring in usable),
    )  # fmt: skip
    kinds = [kind for kind, _ in usable]
    answer = solve(problem, work, seed=seed, on_better=lambda a: on_better(_nesting(a, kinds, parts, rules)))
    return _nesting(answer, kinds, parts, rules)


def _cost(kind: SheetKind) -> float:
    """Return the price of a sheet; its area where none is given."""
    return kind.price or abs(area_of(kind.ring())) * 1e-6


def _on_bed(kind: SheetKind, rules: NestRules) -> Ring:
    """Return what of a sheet lies on the bed; empty when that is nothing."""
    parts = pieces(Polygon(kind.ring()).intersection(box(0, 0, rules.bed_width, rules.bed_height)))
    largest = max(parts, key=lambda p: p.area, default=None)
    return tuple((float(x), float(y)) for x, y in largest.exterior.coords[:-1]) if largest is not None else ()


def _nesting(answer: Answer, kinds: list[SheetKind], parts: list[NestPart], rules: NestRules) -> Nesting:
    """Return an answer in the shop's words, after the exact check on the sheets as they are."""
    by_id = {p.id: p for p in parts}
    copies = dict.fromkeys(by_id, 0)
    on: dict[tuple[int, int], list[Placement]] = {}
    for p in answer.placed:
        part = parts[p.part].id
        on.setdefault((p.sheet, p.copy), []).append(Placement(part=part, copy=copies[part], turn=round(p.turn), x=p.x, y=p.y))
        copies[part] += 1
    layouts = []
    for (which, copy), placed in sorted(on.items(), key=lambda s: (_cost(kinds[s[0][0]]), s[0])):
        kind, placements = kinds[which], tuple(placed)
        layout = SheetLayout(
            sheet=kind.id, copy=copy, stock=kind.stock, name=kind.name, width=kind.width, height=kind.height, ring=kind.ring(), placements=placements,
            utilisation=sum(net_area(by_id[p.part].profile) for p in placements) / abs(area_of(kind.ring())),
            leftover=_leftover(kind, placements, by_id, rules),
        )  # fmt: skip
        wrong = faults(layout, by_id, rules)
        if wrong:
            raise NestError("A packing failed its own check and was thrown away.", faults=[f.message for f in wrong[:5]])
        layouts.append(layout)
    full = "the sheets are full"
    unplaced = tuple(Unplaced(part=parts[k].id, count=n, why=f"{why}; add a sheet" if why == full else why) for k, n, why in answer.left)
    used = sum(abs(area_of(s.ring)) for s in layouts)
    net = sum(net_area(by_id[p.part].profile) for s in layouts for p in s.placements)
    price = sum(kinds[which].price for which, _ in on)
    return Nesting(sheets=tuple(layouts), unplaced=unplaced, utilisation=net / used if used else 0.0, price=price)


def _leftover(kind: SheetKind, placements: tuple[Placement, ...], parts: dict[str, NestPart], rules: NestRules) -> tuple[Mm, Mm, Mm, Mm] | None:
    """Return the larger of the strips to the right of and above all parts, on a whole sheet."""
    if kind.outline or not placements:
        return None
    boxes = [placed_shape(parts[p.part], p).bounds for p in placements]
    right = max(b[2] for b in boxes) + rules.spacing
    top = max(b[3] for b in boxes) + rules.spacing
    strips = [(right, 0.0, kind.width, kind.height), (0.0, top, kind.width, kind.height)]
    best = max(strips, key=lambda s: (s[2] - s[0]) * (s[3] - s[1]))
    return best if min(best[2] - best[0], best[3] - best[1]) >= 20 else None


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
