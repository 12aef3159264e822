"""What a person does on Lay out."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from django.db import transaction

from apps.designs import queries
from apps.designs.models import Project, Stage
from apps.designs.services import keep_result
from apps.layouts import convert
from apps.sheets.convert import machine_of, sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.design.assembly import Part
from notchcore.errors import NestError, require
from notchcore.geom.profile import area_of
from notchcore.measure.families import FAMILIES, part_spacing
from notchcore.measure.machine import KerfPlace
from notchcore.nest.bed import laid_on_bed
from notchcore.nest.laid import travel, with_leftover
from notchcore.nest.pairs import apart, halves_of, laid_apart, laid_together
from notchcore.nest.problem import Prefer
from notchcore.nest.rows import Grid
from notchcore.nest.values import AS_DRAWN, EVERY_TURN, HALF_TURNS, QUARTER_TURNS, Nesting, NestPart, NestRules, SheetKind, SheetLayout
from notchcore.nest.wanted import Wish, packed_parts, two_faced

if TYPE_CHECKING:
    from notchcore.nest.search import Work

MOST_SECONDS = 600.0
LEAST_SECONDS = 0.01
A_GROUP = 1.0  # [s] to try whether a group fits on a sheet
FILLING = 0.1  # of the time, to fill the sheets of each way up
NOTHING = Nesting(sheets=(), unplaced=(), utilisation=0.0, price=0.0)
OTHER_WAY = 0.2  # share of the time for each other way
HOPELESS = 0.1  # of the parts without a place: no other way is tried
CLEARLY = 1.05  # a leftover must be so much larger to be told as a way of its own
CHEAPEST, FEWEST, LARGEST = "cheapest", "fewest sheets", "largest leftover"

TURNS = {"fixed": AS_DRAWN, "half": HALF_TURNS, "quarter": QUARTER_TURNS, "any": EVERY_TURN}  #: what a person may say of one part

Lock = tuple[str, int]  #: part, number
MOST_COPIES = 500


def default_request(project: Project) -> dict[str, Any]:
    """Return what a packing starts from when nobody chose: each stock's own spacing, one copy, four seconds."""
    own = {k: round(part_spacing(FAMILIES[s.family], s.t), 2) for k, s in queries.current(project).stocks.items()}
    return {"margin_mm": 5.0, "spacing_mm": max(own.values(), default=2.0), "keep_grain": False, "copies": 1, "seconds": 4.0, "seed": 1, "only": {},
            "spacing": own, "turns": {}, "fill": {}, "together": [], "rows": [], "grids": {}, "backs": [], "pairs": [], "common": False}  # fmt: skip


def checked(request: dict[str, Any]) -> dict[str, Any]:
    """Return the request when every number makes sense."""
    require("margin", request["margin_mm"], 0, 100)
    for spacing in (request["spacing_mm"], *request.get("spacing", {}).values()):
        require("spacing", spacing, 0, 100)
    require("copies", request["copies"], 1, MOST_COPIES, unit="")
    require("seconds", request["seconds"], 0.1, MOST_SECONDS, unit="s")
    for number in request.get("fill", {}).values():
        require("how many more", number, 0, MOST_COPIES, unit="")
    for grid in request.get("grids", {}).values():
        Grid(**grid)
    if not set(request.get("turns", {}).values()) <= set(TURNS):
        raise NestError("A part is turned as drawn, by half or quarter turns, or by any step.")
    return request


def with_common_lines(project: Project, request: dict[str, Any]) -> dict[str, Any]:
    """Return the request with every stock's own kerf between its parts, where straight edges are to share their cut.

    Raises:
        NestError: the machine's own software corrects for kerf, so that no two parts have a line in common
    """
    if not request.get("common"):
        return request
    now = queries.current(project)
    if machine_of(project.machine).kerf_place is not KerfPlace.PATHS or now.assembly.on_line:
        raise NestError("Cuts can be shared only while kerf is corrected in our paths. Say so on Cut plan, or keep the parts apart.")
    return request | {"kerfs": {k: round(s.kerf.value, 4) for k, s in now.stocks.items()}}


def _spacing(request: dict[str, Any], stock: str) -> float:
    own = request.get("kerfs" if request.get("common") else "spacing", {})
    return float(own.get(stock, request["spacing_mm"]))


def rules_of(project: Project, request: dict[str, Any], stock: str = "") -> NestRules:
    """Return how parts of a stock may lie, on this project's machine; with the spacing that was said for the stock, or for all."""
    machine = machine_of(project.machine)
    return NestRules(
        margin=request["margin_mm"], spacing=_spacing(request, stock),
        turns=HALF_TURNS if request["keep_grain"] else QUARTER_TURNS, bed_width=machine.bed_width, bed_height=machine.bed_height,
    )  # fmt: skip


def in_pairs(part: Part, request: dict[str, Any]) -> bool:
    """Tell whether half of a part lie on their back: a person wants that, and both faces are burned."""
    return part.id in request.get("pairs", ()) and two_faced(part)


def wish_of(request: dict[str, Any]) -> Wish:
    """Return what a request asks for."""
    turns = {k: TURNS[v] for k, v in request.get("turns", {}).items() if v in TURNS}
    return Wish(copies=request["copies"], only=request.get("only") or {}, fill=request.get("fill", {}), turns=turns)


def parts_wanted(parts: Sequence[Part], request: dict[str, Any]) -> list[NestPart]:
    """Return the parts that are asked for, with how many of each and the turns they may have."""
    return packed_parts(parts, wish_of(request), backs=request.get("backs", ()), pairs=request.get("pairs", ()))


def locked_of(project: Project, now: queries.Current, wanted: Sequence[NestPart]) -> tuple[list[Lock], list[SheetLayout]]:
    """Return the parts that stay where they lie, and the sheets with only these on them; none once the parts are others."""
    row = queries.result_of(now, Stage.NEST)
    if row is None or row.made_from != now.parts_print or not row.payload.get("locked"):
        return [], []
    most = {p.id: p.count for p in wanted}
    locks = {(str(p), int(c)) for p, c in row.payload["locked"] if int(c) < most.get(str(p), 0)}
    nesting = convert.NESTING.validate_python(row.payload["nesting"])
    sheets = [replace(s, placements=tuple(p for p in s.placements if (p.part, p.copy) in locks)) for s in nesting.sheets]
    kept = [s for s in sheets if s.placements]
    return sorted((p.part, p.copy) for s in kept for p in s.placements), kept


def pack_project(
    project: Project,
    request: dict[str, Any],
    *,
    stop: Callable[[], bool] = lambda: False,
    tell: Callable[[Nesting], None] = lambda _: None,
    may_keep: Callable[[], bool] = lambda: True,
) -> Nesting:
    """Pack all parts of the head revision, stock by stock, and keep each improvement.

    The layout that was there before stays until the first complete answer.

    Args:
        may_keep: asked in the transaction that keeps an answer; false once a newer request took this one's place
    """
    from notchcore.nest.pack import joined  # compiled kernels: only the worker needs them

    now = queries.current(project)
    if not now.assembly.parts:
        raise NestError("There are no parts to lay out. Mend the design on Build first.")
    begun = _begun(now) if request.get("go_on") else None
    by_stock: dict[str, list[NestPart]] = {}
    for part in (wanted := parts_wanted(now.assembly.parts, request)):
        by_stock.setdefault(part.stock, []).append(part)
    locks, locked = locked_of(project, now, wanted)
    halves = halves_of(wanted, [p.id for p in now.assembly.parts if in_pairs(p, request)])
    shelf = Sheet.objects.filter(stock__shop=project.shop_id, count__gt=0).order_by("pk")
    if not by_stock:
        raise NestError("None of the parts that are wanted is in the design any more. Pack all, or look at the pieces on Dry fit.")
    share = max(request["seconds"], LEAST_SECONDS) / len(by_stock)
    made_from = now.parts_print

    def keep(nesting: Nesting, ways: Sequence[tuple[str, Nesting]] = ()) -> None:
        payload = {"nesting": convert.NESTING.dump_python(nesting, mode="json"), "request": request, "locked": locks, "way": CHEAPEST,
                   "ways": [{"name": name, "nesting": convert.NESTING.dump_python(n, mode="json")} for name, n in ways]}  # fmt: skip
        with transaction.atomic():
            if may_keep():
                keep_result(project=project, stage=Stage.NEST, made_from=made_from, revision=now.revision.number, payload=payload)

    found: list[dict[str, Nesting]] = []
    last = len(by_stock) - 1
    for at, (stock, parts) in enumerate(sorted(by_stock.items())):

        def better(packed: Nesting, at: int = at) -> None:
            whole = joined([*(w[CHEAPEST] for w in found), laid_together(packed, halves)])
            if at == last:  # every stock has an answer: this is a whole layout
                keep(whole)
            tell(whole)

        rules = rules_of(project, request, stock)
        sheets = [laid_on_bed(sheet_kind_of(s), rules) for s in shelf if str(s.stock_id) == stock]
        stay = [laid_apart(s, halves) for s in locked if s.stock == stock]
        ways = _one_stock(apart(parts, halves), sheets, rules, request, share, stop, on_better=better, locked=stay,
                          begun=None if begun is None else replace(begun, sheets=tuple(laid_apart(s, halves) for s in begun.sheets)))  # fmt: skip
        found.append({name: laid_together(n, halves) for name, n in ways.items()})
    whole = [(name, joined([w[name] for w in found])) for name in (CHEAPEST, FEWEST, LARGEST)]
    others = [w for w in whole[1:] if w[1] != whole[0][1]]
    keep(whole[0][1], [whole[0], *others] if others else ())
    return whole[0][1]


def _one_stock(
    parts: list[NestPart], sheets: list[SheetKind], rules: NestRules, request: dict[str, Any], seconds: float, stop: Callable[[], bool], *,
    on_better: Callable[[Nesting], None], locked: Sequence[SheetLayout], begun: Nesting | None,
) -> dict[str, Nesting]:  # fmt: skip
    """Return the ways to pack one stock: what stays together first, then everything, then what fills the sheets up."""
    from notchcore.nest.batch import filled, kept_together
    from notchcore.nest.flush import pushed_together
    from notchcore.nest.rows import in_rows

    asked, seed = [p for p in parts if p.count], request["seed"]
    for part in asked:
        if part.id in request.get("rows", []):
            grid = Grid(**(request.get("grids", {}).get(part.id) or {}))
            locked = in_rows(part, sheets, rules, asked, locked=locked, grid=grid)
    try:
        stay = kept_together(request.get("together", []), asked, sheets, rules, lambda: _work(min(seconds, A_GROUP), stop), seed=seed, locked=locked)
    except NestError:
        if not stop():
            raise
        stay = list(locked)  # it was stopped before a sheet for the group was found: the best so far is without
    tried = _tried(asked, sheets, rules, seconds, stop, seed=seed, on_better=on_better, locked=stay, begun=begun) if asked else [NOTHING]
    by_id, held = {p.id: p for p in parts}, {(p.part, p.copy) for s in stay for p in s.placements}

    def finished(nesting: Nesting) -> Nesting:
        work = _work(max(seconds * FILLING, LEAST_SECONDS), stop)
        full = filled(nesting, request.get("fill", {}), parts, sheets, rules, work, seed=seed)
        laid = [pushed_together(s, by_id, rules, held) for s in full.sheets] if request.get("common") else full.sheets
        return replace(full, sheets=tuple(with_leftover(s, by_id, rules) for s in laid))

    ends = [finished(n) for n in tried]
    least = min(missing(n) for n in ends)
    ends = [n for n in ends if missing(n) == least]
    cheapest = min(ends, key=lambda n: (round(n.price, 4), _area(n), -round(left(n), -2), travel(n)))
    fewest = min(ends, key=lambda n: (len(n.sheets), round(n.price, 4), n is not cheapest))
    largest = max(ends, key=lambda n: (left(n), n is cheapest))
    return {CHEAPEST: cheapest, FEWEST: fewest if len(fewest.sheets) < len(cheapest.sheets) else cheapest,
            LARGEST: largest if left(largest) > CLEARLY * left(cheapest) else cheapest}  # fmt: skip


def _tried(
    parts: list[NestPart], sheets: list[SheetKind], rules: NestRules, seconds: float, stop: Callable[[], bool], *, seed: int,
    on_better: Callable[[Nesting], None], locked: Sequence[SheetLayout], begun: Nesting | None,
) -> list[Nesting]:  # fmt: skip
    """Return packings of one stock: for the price, emptying sheets from another side, and for the fewest sheets."""
    from notchcore.nest.pack import pack
    from notchcore.nest.turned import pack_turned

    several = len(sheets) > 1  # with one kind of sheet the cheapest are the fewest
    other = OTHER_WAY * seconds
    most = _work(seconds - (2 if several else 1) * other, stop)
    found = [pack(parts, sheets, rules, most, seed=seed, on_better=on_better, locked=locked, start=begun)]
    if missing(found[0]) > HOPELESS * sum(p.count for p in parts):
        return found  # another way does not make up for sheets that are not there
    if found[0].sheets and not stop():
        found.append(pack_turned(parts, sheets, rules, _work(other, stop), seed=seed, locked=locked))
    if several and len(found[0].sheets) > 1 and not stop():
        found.append(pack(parts, sheets, rules, _work(other, stop), seed=seed, locked=locked, prefer=Prefer.SHEETS))
    return found


def _begun(now: queries.Current) -> Nesting | None:
    """Return the layout that is there, when its parts are still the same."""
    row = queries.result_of(now, Stage.NEST)
    return convert.NESTING.validate_python(row.payload["nesting"]) if row is not None and row.made_from == now.parts_print else None


def missing(nesting: Nesting) -> int:
    """Return how many parts found no place."""
    return sum(u.count for u in nesting.unplaced)


def _area(nesting: Nesting) -> float:
    return round(sum(abs(area_of(s.ring)) for s in nesting.sheets))


def left(nesting: Nesting) -> float:
    """Return the area of the largest rectangle that stays whole on a sheet [mm2]."""
    return max(((s.leftover[2] - s.leftover[0]) * (s.leftover[3] - s.leftover[1]) for s in nesting.sheets if s.leftover), default=0.0)


def _work(seconds: float, stop: Callable[[], bool]) -> Work:
    from notchcore.nest.engine import PLACES_A_SECOND
    from notchcore.nest.search import Work

    since = time.monotonic()
    return Work(int(seconds * PLACES_A_SECOND), lambda: (time.monotonic() - since) / seconds, stop)
