"""Random whole projects made by the second workshop from their files, and where they are not what was designed, law by law."""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

import sys
import time
import traceback
from argparse import ArgumentParser
from collections import Counter
from concurrent.futures import ProcessPoolExecutor, as_completed

NAMES = {
    0: "broke off",
    1: "pieces are the wanted ones, and true",
    2: "what is burned is there once, on its face",
    3: "joints and the whole thing",
    4: "changes keep what they should",
    5: "order",
    8: "all formats alike",
}


def one(seed: int) -> tuple[int, int, list[tuple[int, str]], str]:
    """Return a project's seed, its pieces (-1: refused), what does not hold, and its story."""
    from tests.workshop.covariance import judge_changes
    from tests.workshop.laws import judge
    from tests.workshop.making import made
    from tests.workshop.projects import Refused, drawn

    try:
        project = drawn(seed)
        job = made(project, pdf=seed % 10 == 0)
        found = [(v.law, v.what) for v in [*judge(job), *judge_changes(project)]]
    except Refused:
        return seed, -1, [], ""
    except Exception:  # noqa: BLE001  (a crash is what we look for too)
        return seed, 0, [(0, traceback.format_exc(limit=-2))], ""
    return seed, sum(len(p) for p in job.pieces.values()), found, job.story


def main(words: list[str]) -> None:
    asked = ArgumentParser(prog="./board bench twin")
    asked.add_argument("--projects", type=int, default=200)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--told", type=int, default=20, help="how many violations are told in full")
    given = asked.parse_args(words)
    first = (given.seed - 1) * 1_000_000
    laws: Counter[int] = Counter()
    told, judged, pieces, refused = [], 0, 0, 0
    began = time.monotonic()
    with ProcessPoolExecutor(2) as pool:
        for done in as_completed([pool.submit(one, first + k) for k in range(given.projects)]):
            seed, count, found, story = done.result()
            if count < 0:
                refused += 1
                continue
            judged, pieces = judged + 1, pieces + count
            laws.update(law for law, _ in found)
            for law, what in found:
                told.append((seed, law, what, story))
                print(f"project {seed}, law {law}: {what}", file=sys.stderr, flush=True)  # a long series may be broken off
    print(f"{judged} projects judged, {pieces} pieces; {refused} refused by the product; {time.monotonic() - began:.0f} s")
    for law, name in NAMES.items():
        print(f"  law {law}: {laws[law]:5d}  {name}")
    for seed, law, what, story in sorted(told)[: given.told]:
        print(f"\nproject {seed}, law {law}: {what}\n  {story[:600]}")
