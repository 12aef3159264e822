"""./board nest: pack the parts of a problem file, telling of each improvement, and write the best answer."""

from __future__ import annotations

import argparse
import json
import signal
import sys
import time
from pathlib import Path

started = time.monotonic()

from notchcore.errors import NotchCoreError  # noqa: E402 (the clock runs from the very start)
from notchcore.formats.nesting import read_problem, solution_data  # noqa: E402
from notchcore.nest.problem import Answer, checked, outsized  # noqa: E402

WRITING = 0.15  # [s] of the time is kept for the last check and the file
LEAST = 0.05


def say(text: str) -> None:
    sys.stderr.write(text + "\n")
    sys.stderr.flush()


def main() -> int:
    """Return 0 with a legal answer written, 2 when the problem makes no sense."""
    ask = argparse.ArgumentParser(prog="./board nest", description=__doc__)
    ask.add_argument("problem", type=Path)
    ask.add_argument("--seconds", type=float, default=10.0)
    ask.add_argument("--seed", type=int, default=1)
    ask.add_argument("--places", type=int, default=0, help="how much work instead of how long: the same answer on any machine that gets there in time")
    ask.add_argument("--out", type=Path, required=True)
    a = ask.parse_args()
    try:
        problem = checked(read_problem(a.problem.read_text(encoding="utf-8")))
    except NotchCoreError as wrong:
        say(wrong.message)
        return 2
    except (OSError, UnicodeDecodeError) as wrong:
        say(f"problem: the file cannot be read ({wrong}).")
        return 2
    if not (a.seconds > 0 and a.seed >= 0):
        say("seconds: must be above 0; seed: from 0 up.")
        return 2

    told = outsized(problem)
    for k, number, why in told:  # at once: no search is needed for that
        say(json.dumps({"unplaced": problem.parts[k].id, "qty": number, "why": why.text}))
    if len(told) == sum(1 for p in problem.parts if p.count):
        a.out.write_text(json.dumps(solution_data(problem, Answer(placed=(), left=told))), encoding="utf-8")
        return 0

    from notchcore.nest.engine import PLACES_A_SECOND, solve  # compiled kernels load only for a problem that makes sense
    from notchcore.nest.search import Work

    enough = max(a.seconds - WRITING, LEAST)
    work = Work(a.places if a.places > 0 else int(PLACES_A_SECOND * enough), lambda: (time.monotonic() - started) / enough)
    for ends in (signal.SIGINT, signal.SIGTERM):
        signal.signal(ends, lambda *_: work.stop.__setitem__(0, 1))

    def better(answer: Answer) -> None:
        now = round(time.monotonic() - started, 3)
        say(json.dumps({"t": now, "density": round(answer.density, 5), "sheets": answer.sheets, "cost": answer.cost}))

    answer = solve(problem, work, seed=a.seed, on_better=better)
    a.out.write_text(json.dumps(solution_data(problem, answer)), encoding="utf-8")
    for k, n, why in (x for x in answer.left if x not in told):
        say(json.dumps({"unplaced": problem.parts[k].id, "qty": n, "why": why.text}))
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
