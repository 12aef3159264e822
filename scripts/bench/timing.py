"""Timing work, and printing a row of the table."""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

HEAD = f"{'':<58} {'median ms':>9} {'95 % ms':>9}  runs  aim"


def row(name: str, seconds: list[float], *, aim: str = "") -> None:
    ordered = sorted(seconds)
    p95 = ordered[min(len(ordered) - 1, round(0.95 * (len(ordered) - 1)))]
    print(
        f"{name:<58} {statistics.median(ordered) * 1000:9.1f} {p95 * 1000:9.1f}  {len(ordered):4d}  {aim}",
        flush=True,
    )


def timed(work: Callable[[], object], *, runs: int, warm: int = 1) -> list[float]:
    for _ in range(warm):
        work()
    out = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        out.append(time.perf_counter() - start)
    return out


def pace() -> None:
    """Print how fast this machine runs just now: figures of a busy hour are not to be compared with those of a quiet one."""
    start, added = time.perf_counter(), 0
    for i in range(3_000_000):
        added += i * i
    print(f"{'':<10}three million additions: {time.perf_counter() - start:.2f} s", flush=True)
