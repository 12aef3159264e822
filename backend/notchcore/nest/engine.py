"""The packing engine: a legal answer at once, better ones as long as there is work to spend.

First the grid (`first`), for several orders of the parts; then separation (`search`): a strip is made shorter again and again
(`strip`), a sheet is emptied into the others or exchanged for a cheaper one, and the last sheet is used as little as can be
(`sheets`). Every answer that leaves here has passed an exact check of its own (`gate`).

The same problem, seed and budget give the same answer: work is counted in places tried, and the clock only ends it early.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor, wait
from dataclasses import replace

from notchcore.nest.first import why_left
from notchcore.nest.gate import answer_faults
from notchcore.nest.problem import Answer, PartKind, Problem, SheetSpec, checked
from notchcore.nest.search import Snapshot, Work
from notchcore.nest.sheets import cheaper_sheets
from notchcore.nest.strip import shorter_strip
from notchcore.nest.task import LANES, Found, Lane, Task, task_of
from notchcore.words.render import say

TURNS = 30  # after each of so many equal turns searchers tell each other their best
ENDED = object()
NOTHING: Snapshot = ((), (), (), ())
ASKED = 0.1  # [s] between two questions whether somebody wants an end
PLACES_A_SECOND = 800_000  # that a searcher tries on an ordinary machine: what a budget for some seconds is reckoned with


def solve(problem: Problem, work: Work, *, seed: int = 1, on_better: Callable[[Answer], None] = lambda _: None, lanes: int = LANES) -> Answer:
    """Return the best legal answer found.

    Args:
        work: how much may be done
        on_better: called with every improvement, already checked
        lanes: how many searchers, each with a thread of its own
    Raises:
        NestError: the problem makes no sense; names the field
    """
    problem = checked(problem)
    task = task_of(problem)
    early = ((k, task.items.count(k), say("unplaced.stopped")) for k in sorted(set(task.items)))
    best = replace(task.answer(NOTHING, 0.0), left=(*task.left, *early))
    if not task.items:
        return best

    def lawful(found: Found) -> bool:
        """Publish what passes the exact check."""
        nonlocal best
        answer = task.answer(found[1], found[0][0])
        if answer_faults(problem, answer):
            return False
        best = answer
        on_better(answer)
        return True

    _together(task, [Lane(task, i, lanes, seed, work.twin()) for i in range(lanes)], lawful=lawful)
    never = why_left(task, [k for k, _, _ in best.left])
    return replace(best, left=tuple((k, n, never.get(k, why)) for k, n, why in best.left))


def warm() -> None:
    """Run every kernel once on small problems, so that all are compiled and kept."""
    ring = ((0.0, 0.0), (30.0, 0.0), (30.0, 10.0), (8.0, 10.0), (8.0, 30.0), (0.0, 30.0))
    hole = ((2.0, 2.0), (2.0, 4.5), (4.5, 4.5), (4.5, 2.0))
    parts = (PartKind(id="a", outer=ring, holes=(hole,), count=9, turns=(0.0, 90.0, 180.0)),)
    sheet = SheetSpec(
        id="s", outer=((0.0, 0.0), (90.0, 0.0), (90.0, 60.0), (40.0, 90.0), (0.0, 90.0)), bad=(((5.0, 5.0), (9.0, 5.0), (9.0, 9.0)),), count=3, cost=1.0
    )
    for problem in (Problem(name="strip", parts=parts, spacing=1.0, strip_height=70.0), Problem(name="sheets", parts=parts, spacing=1.0, sheets=(sheet,))):
        solve(problem, Work(30_000))


def _together(task: Task, lanes: list[Lane], *, lawful: Callable[[Found], bool]) -> None:
    """Let all searchers work in turns of the same length, each in a thread; after each turn all take up the best lawful one."""
    way = shorter_strip if task.problem.strip_height is not None else cheaper_sheets
    running = {lane.number: way(lane) for lane in lanes}
    best: Found | None = None

    def advance(number: int) -> bool:
        return next(running[number], ENDED) is ENDED

    with ThreadPoolExecutor(len(lanes)) as pool:
        turn = 0
        while running:
            for lane in lanes:
                lane.work.pause_at = turn / TURNS
            advancing = {number: pool.submit(advance, number) for number in running}
            while wait(advancing.values(), timeout=ASKED).not_done:
                if lanes[0].work.ends():
                    lanes[0].work.stop[0] = 1
            for number, ended in advancing.items():
                if ended.result():
                    del running[number]
            for lane in sorted(lanes, key=lambda x: (x.best is None, x.best[0] if x.best else ())):
                if lane.best is not None and (best is None or lane.best[0] < best[0]) and lawful(lane.best):
                    best = lane.best
            for lane in lanes:
                lane.best = best
            turn = max(turn + 1, int(min(lane.work.share for lane in lanes) * TURNS) + 1)
