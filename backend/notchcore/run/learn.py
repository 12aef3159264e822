"""What runs teach: how long this machine really takes."""

from __future__ import annotations

import statistics
from dataclasses import dataclass

from notchcore.errors import require

LEARN_FROM = 10  # the newest runs count, older ones may be of another state of the machine
PLAUSIBLE = (0.3, 4.0)  # a ratio outside was an interrupted run or a typing mistake


@dataclass(frozen=True, slots=True, kw_only=True)
class TimedRun:
    """A finished run: what was expected before any factor, and what the clock said [s]."""

    expected: float
    actual: float

    def __post_init__(self) -> None:
        require("expected time", self.expected, least=0.001, most=1e6, unit="s")
        require("actual time", self.actual, least=0.001, most=1e6, unit="s")


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeFactor:
    """The ratio to multiply estimates by, and how many runs it stands on."""

    factor: float
    runs: int


def time_factor(runs: list[TimedRun]) -> TimeFactor:
    """Return the median ratio of actual to expected over the newest runs (first is newest); 1 when there are none."""
    ratios = [r.actual / r.expected for r in runs[:LEARN_FROM]]
    ratios = [r for r in ratios if PLAUSIBLE[0] <= r <= PLAUSIBLE[1]]
    return TimeFactor(factor=statistics.median(ratios) if ratios else 1.0, runs=len(ratios))
