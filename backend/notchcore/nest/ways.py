"""The ways to pack one stock: what stays together first, then everything, then what fills the sheets up; for the price, and otherwise."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from notchcore.errors import NestError
from notchcore.geom.profile import area_of
from notchcore.nest.asked import Asked
from notchcore.nest.batch import filled, kept_together
from notchcore.nest.flush import pushed_together
from notchcore.nest.laid import travel, with_leftover
from notchcore.nest.pack import pack
from notchcore.nest.problem import Prefer
from notchcore.nest.rows import Grid, in_rows
from notchcore.nest.search import Work
from notchcore.nest.turned import pack_turned
from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind, SheetLayout

LEAST_SECONDS = 0.01
A_GROUP = 1.0  # [s] to try whether a group fits on a sheet
FILLING = 0.1  # of the time, to fill the sheets of each way up
NOTHING = Nesting(sheets=(), unplaced=(), utilisation=0.0, price=0.0)
OTHER_WAY = 0.2  # share of the time for each other way
HOPELESS = 0.1  # of the parts without a place: no other way is tried
CLEARLY = 1.05  # a leftover must be so much larger to be told as a way of its own
Clock = Callable[[float], Work]  #: makes work that takes so many seconds
CHEAPEST, FEWEST, LARGEST = "cheapest", "fewest sheets", "largest leftover"


def packed_ways(
    parts: list[NestPart],
    sheets: list[SheetKind],
    *,
    rules: NestRules,
    asked: Asked,
    seconds: float,
    stop: Callable[[], bool],
    work: Clock,
    on_better: Callable[[Nesting], None],
    locked: Sequence[SheetLayout],
    begun: Nesting | None,
) -> dict[str, Nesting]:
    """Return the cheapest packing of one stock, the one with the fewest sheets and the one with the largest leftover, by name.

    Args:
        seconds: how long it may take
        stop: asked again and again; it ends with the best so far
        work: how much can be done in a time; only the caller has a clock
        on_better: called with each improvement of the cheapest
        locked: sheets with the parts on them that stay where they are
        begun: a packing to go on from
    Raises:
        NestError: parts that are to stay together fit no sheet, or what is locked is against the rules
    """
    wanted, seed = [p for p in parts if p.count], asked.seed
    for part in wanted:
        if part.id in asked.rows:
            locked = in_rows(part, sheets, rules=rules, parts=wanted, locked=locked, grid=asked.grids.get(part.id, Grid()))
    try:
        stay = kept_together(asked.together, wanted, sheets=sheets, rules=rules, work=lambda: work(min(seconds, A_GROUP)), seed=seed, locked=locked)
    except NestError:
        if not stop():
            raise
        stay = list(locked)  # it was stopped before a sheet for the group was found: the best so far is without
    tried = (
        _tried(wanted, sheets, rules=rules, seconds=seconds, stop=stop, work=work, seed=seed, on_better=on_better, locked=stay, begun=begun)
        if wanted
        else [NOTHING]
    )
    by_id, held = {p.id: p for p in parts}, {(p.part, p.copy) for s in stay for p in s.placements}

    def finished(nesting: Nesting) -> Nesting:
        full = filled(nesting, asked.fill, parts=parts, sheets=sheets, rules=rules, work=work(max(seconds * FILLING, LEAST_SECONDS)), seed=seed)
        laid = [pushed_together(s, by_id, rules=rules, stay=held) for s in full.sheets] if asked.common else full.sheets
        return replace(full, sheets=tuple(with_leftover(s, by_id, rules=rules) for s in laid))

    ends = [finished(n) for n in tried]
    least = min(missing(n) for n in ends)
    ends = [n for n in ends if missing(n) == least]
    cheapest = min(ends, key=lambda n: (round(n.price, 4), _area(n), -round(left(n), -2), travel(n)))
    fewest = min(ends, key=lambda n: (len(n.sheets), round(n.price, 4), n is not cheapest))
    largest = max(ends, key=lambda n: (left(n), n is cheapest))
    return {
        CHEAPEST: cheapest,
        FEWEST: fewest if len(fewest.sheets) < len(cheapest.sheets) else cheapest,
        LARGEST: largest if left(largest) > CLEARLY * left(cheapest) else cheapest,
    }


def _tried(
    parts: list[NestPart],
    sheets: list[SheetKind],
    *,
    rules: NestRules,
    seconds: float,
    stop: Callable[[], bool],
    work: Clock,
    seed: int,
    on_better: Callable[[Nesting], None],
    locked: Sequence[SheetLayout],
    begun: Nesting | None,
) -> list[Nesting]:
    """Return packings of one stock: for the price, emptying sheets from another side, and for the fewest sheets."""
    several = len(sheets) > 1  # with one kind of sheet the cheapest are the fewest
    other = OTHER_WAY * seconds
    most = work(seconds - (2 if several else 1) * other)
    found = [pack(parts, sheets, rules=rules, work=most, seed=seed, on_better=on_better, locked=locked, start=begun)]
    if missing(found[0]) > HOPELESS * sum(p.count for p in parts):
        return found  # another way does not make up for sheets that are not there
    if found[0].sheets and not stop():
        found.append(pack_turned(parts, sheets, rules=rules, work=work(other), seed=seed, locked=locked))
    if several and len(found[0].sheets) > 1 and not stop():
        found.append(pack(parts, sheets, rules=rules, work=work(other), seed=seed, locked=locked, prefer=Prefer.SHEETS))
    return found


def missing(nesting: Nesting) -> int:
    """Return how many parts found no place."""
    return sum(u.count for u in nesting.unplaced)


def _area(nesting: Nesting) -> float:
    return round(sum(abs(area_of(s.ring)) for s in nesting.sheets))


def left(nesting: Nesting) -> float:
    """Return the area of the largest rectangle that stays whole on a sheet [mm2]."""
    return max(((s.leftover[2] - s.leftover[0]) * (s.leftover[3] - s.leftover[1]) for s in nesting.sheets if s.leftover), default=0.0)
