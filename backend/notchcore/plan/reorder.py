"""A sheet's cuts put in another order by hand: what must come first still does, and the clock is told again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from notchcore.errors import PlanError
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Machine
from notchcore.plan.cut_plan import CutPlan, SheetPlan, Stroke
from notchcore.plan.motion import rapid_time
from notchcore.plan.order import HOME, kind_rank, parents_of
from notchcore.plan.paths import CutPath
from notchcore.words.render import say

Range = tuple[int, int]


def ranges_of(paths: Sequence[CutPath]) -> list[Range]:
    """Return for each path the first and the last place, from 0, to which it alone may be moved.

    Engraving stays before scores, scores before cuts, and whatever lies in a closed cut before that cut.
    """
    ranks = [kind_rank(p) for p in paths]
    parent = parents_of(list(paths))
    found = []
    for i, rank in enumerate(ranks):
        alike = [k for k, r in enumerate(ranks) if r == rank]
        first = max([alike[0], *(k + 1 for k, p in enumerate(parent) if p == i)])
        last = parent[i] - 1 if parent[i] >= 0 else alike[-1]
        found.append((min(first, i), max(last, i)))
    return found


def moved_stroke(plan: CutPlan, number: int, *, path: str, to: int, machine: Machine) -> CutPlan:
    """Return the plan with one stroke of a sheet at another place of its order.

    Args:
        number: of the sheet, from 0
        path: id of the stroke's path
        to: its place afterwards, from 0
    Raises:
        PlanError: there is no such sheet or stroke, or something that must come first would come after
    """
    if not 0 <= number < len(plan.sheets):
        raise PlanError(say("no_such_sheet_in_plan"))
    sheet = plan.sheets[number]
    strokes = list(sheet.strokes)
    at = next((k for k, s in enumerate(strokes) if s.path.id == path), None)
    if at is None:
        raise PlanError(say("no_such_cut"))
    first, last = ranges_of([s.path for s in strokes])[at]
    if not first <= to <= last:
        raise PlanError(say("not_so_early" if to < first else "not_so_late"))
    strokes.insert(to, strokes.pop(at))
    sheets = (*plan.sheets[:number], _timed(sheet, strokes, machine=machine, factor=plan.factor), *plan.sheets[number + 1 :])
    burning = sum(s.seconds for s in plan.sheets)
    now = sum(s.seconds for s in sheets)
    return replace(plan, sheets=sheets, seconds=plan.seconds + now - burning, band=plan.band * now / burning if burning else plan.band)


def _timed(sheet: SheetPlan, strokes: Sequence[Stroke], *, machine: Machine, factor: float) -> SheetPlan:
    """Return a sheet with its strokes in this order, on the clock again."""
    at: Vec2 = HOME
    clock = travel = moving = 0.0
    timed = []
    for s in strokes:
        lines = s.path.lines
        start, end = lines[0].segments[0].start, lines[-1].segments[-1].end
        move, burn = rapid_time(at, start, machine=machine) * factor, s.end - s.burn_from
        timed.append(replace(s, travel_from=clock, burn_from=clock + move, end=clock + move + burn))
        travel += ((start[0] - at[0]) ** 2 + (start[1] - at[1]) ** 2) ** 0.5
        moving += move
        clock += move + burn
        at = end
    return replace(sheet, strokes=tuple(timed), travel=travel, seconds=clock, by_operation={**sheet.by_operation, "travel": moving})
