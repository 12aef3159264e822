"""What a person does on Lay out."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from django.db import transaction

from apps.designs import queries
from apps.designs.models import Project, Stage
from apps.designs.services import keep_result
from apps.layouts import convert
from apps.sheets.convert import machine_of, sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.errors import NestError
from notchcore.measure.machine import KerfPlace
from notchcore.nest.asked import Asked, nothing_said
from notchcore.nest.bed import laid_on_bed
from notchcore.nest.pairs import apart, halves_of, laid_apart, laid_together
from notchcore.nest.values import Nesting, NestPart, NestRules, SheetLayout
from notchcore.words.render import say

if TYPE_CHECKING:
    from notchcore.nest.search import Work

Lock = tuple[str, int]  #: part, number


def default_request(project: Project, **changes: Any) -> Asked:
    """Return what a packing starts from when nobody chose, but for what is said here."""
    return replace(nothing_said(queries.current(project).stocks), **changes)


def with_common_lines(project: Project, asked: Asked) -> Asked:
    """Return the request with every stock's own kerf between its parts, where straight edges are to share their cut.

    Raises:
        NestError: the machine's own software corrects for kerf, so that no two parts have a line in common
    """
    if not asked.common:
        return asked
    now = queries.current(project)
    if machine_of(project.machine).kerf_place is not KerfPlace.PATHS or now.assembly.on_line:
        raise NestError(say("sharing_needs_kerf"))
    return replace(asked, kerfs={k: round(s.kerf.value, 4) for k, s in now.stocks.items()})


def rules_of(project: Project, asked: Asked, *, stock: str = "") -> NestRules:
    """Return how parts of a stock may lie on this project's machine."""
    machine = machine_of(project.machine)
    return asked.rules((machine.bed_width, machine.bed_height), stock)


def locked_of(project: Project, now: queries.Current, *, wanted: Sequence[NestPart]) -> tuple[list[Lock], list[SheetLayout]]:
    """Return the parts that stay where they lie, and the sheets with only these on them; none once the parts are others."""
    row = queries.result_of(now, Stage.LAY_OUT)
    if row is None or row.made_from != now.parts_print or not row.payload.get("locked"):
        return [], []
    most = {p.id: p.count for p in wanted}
    locks = {(str(p), int(c)) for p, c in row.payload["locked"] if int(c) < most.get(str(p), 0)}
    nesting = convert.NESTING.validate_python(row.payload["nesting"])
    sheets = [replace(s, placements=tuple(p for p in s.placements if (p.part, p.copy) in locks)) for s in nesting.sheets]
    kept = [s for s in sheets if s.placements]
    return sorted((p.part, p.copy) for s in kept for p in s.placements), kept


def _begun(now: queries.Current, halves: Mapping[str, int]) -> Nesting | None:
    """Return the layout that is there, as the packing sees it, when its parts are still the same."""
    row = queries.result_of(now, Stage.LAY_OUT)
    if row is None or row.made_from != now.parts_print:
        return None
    kept = convert.NESTING.validate_python(row.payload["nesting"])
    return replace(kept, sheets=tuple(laid_apart(s, halves) for s in kept.sheets))


def _payload(nesting: Nesting, asked: Asked, *, locks: Any, way: str, ways: Sequence[tuple[str, Nesting]]) -> dict[str, Any]:
    """Return a layout as it is stored: the answer, what was asked, and the other ways to lay it."""
    return {
        "nesting": convert.NESTING.dump_python(nesting, mode="json"),
        "request": convert.ASKED.dump_python(asked, mode="json"),
        "locked": locks,
        "way": way,
        "ways": [{"name": name, "nesting": convert.NESTING.dump_python(n, mode="json")} for name, n in ways],
    }


def _by_stock(parts: Iterable[NestPart]) -> dict[str, list[NestPart]]:
    by_stock: dict[str, list[NestPart]] = {}
    for part in parts:
        by_stock.setdefault(part.stock, []).append(part)
    if not by_stock:
        raise NestError(say("wanted_parts_gone"))
    return by_stock


@dataclass(frozen=True, slots=True, kw_only=True)
class _StockJob:
    """The parts of one stock, to be packed."""

    project: Project
    asked: Asked
    stock: str
    parts: Sequence[NestPart]
    halves: Mapping[str, int]
    begun: Nesting | None

    def ways(
        self, shelf: Sequence[Sheet], locked: Sequence[SheetLayout], *, seconds: float, stop: Callable[[], bool], better: Callable[[Nesting], None]
    ) -> dict[str, Nesting]:
        """Return the ways of laying them on the sheets of a shelf, by name."""
        from notchcore.nest.ways import packed_ways

        rules = rules_of(self.project, self.asked, stock=self.stock)
        return packed_ways(
            apart(self.parts, self.halves),
            [laid_on_bed(sheet_kind_of(s), rules) for s in shelf],
            rules=rules,
            asked=self.asked,
            seconds=seconds,
            stop=stop,
            work=lambda wanted: _work(wanted, stop),
            on_better=better,
            locked=[laid_apart(s, self.halves) for s in locked],
            begun=self.begun,
        )


def pack_project(
    project: Project,
    asked: Asked,
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
    from notchcore.nest.ways import CHEAPEST

    now = queries.current(project)
    if not now.assembly.parts:
        raise NestError(say("no_parts_to_lay"))
    by_stock = _by_stock(wanted := asked.parts(now.assembly.parts))
    locks, locked = locked_of(project, now, wanted=wanted)
    halves = halves_of(wanted, [p.id for p in now.assembly.parts if asked.in_pairs(p)])
    shelf = Sheet.objects.filter(stock__shop=project.shop_id, count__gt=0).order_by("pk")
    share, made_from = asked.seconds / len(by_stock), now.parts_print
    begun = _begun(now, halves) if asked.go_on else None

    def keep(nesting: Nesting, ways: Sequence[tuple[str, Nesting]] = ()) -> None:
        payload = _payload(nesting, asked, locks=locks, way=CHEAPEST, ways=ways)
        with transaction.atomic():
            if may_keep():
                keep_result(project=project, stage=Stage.LAY_OUT, made_from=made_from, revision=now.revision.number, payload=payload)

    found: list[dict[str, Nesting]] = []
    for at, (stock, parts) in enumerate(sorted(by_stock.items())):

        def better(packed: Nesting, at: int = at) -> None:
            whole = joined([*(w[CHEAPEST] for w in found), laid_together(packed, halves)])
            if at == len(by_stock) - 1:  # every stock has an answer: this is a whole layout
                keep(whole)
            tell(whole)

        job = _StockJob(project=project, asked=asked, stock=stock, parts=parts, halves=halves, begun=begun)
        ways = job.ways([s for s in shelf if str(s.stock_id) == stock], [s for s in locked if s.stock == stock], seconds=share, stop=stop, better=better)
        found.append({name: laid_together(n, halves) for name, n in ways.items()})
    (_, best), *_ = ways_found = _whole_ways(found)
    keep(best, ways_found if len(ways_found) > 1 else ())
    return best


def _whole_ways(found: Sequence[Mapping[str, Nesting]]) -> list[tuple[str, Nesting]]:
    """Return the whole layouts that the ways of single stocks come to: the cheapest, and those that are others."""
    from notchcore.nest.pack import joined
    from notchcore.nest.ways import CHEAPEST, FEWEST, LARGEST

    first, *others = [(name, joined([ways[name] for ways in found])) for name in (CHEAPEST, FEWEST, LARGEST)]
    return [first, *(w for w in others if w[1] != first[1])]


def _work(seconds: float, stop: Callable[[], bool]) -> Work:
    from notchcore.nest.engine import PLACES_A_SECOND
    from notchcore.nest.search import Work

    since = time.monotonic()
    return Work(int(seconds * PLACES_A_SECOND), lambda: (time.monotonic() - since) / seconds, stop)
