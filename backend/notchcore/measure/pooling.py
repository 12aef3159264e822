"""Several findings of one number, made into one.

Weight     1/variance of a finding, halved for every half-life of its age
Mean sd    how far the pooled mean may be off; never grows when a finding is added
Scatter    how much findings differ beyond their own variances (DerSimonian and Laird's moment estimate); grows when they disagree
Odd one    a finding that lies too far from what the others say: shown, still counted, withdrawn only by a person

The pool does not depend on the order of the findings.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

HALF_LIFE_DAYS = 180.0
ODD_SIGMAS = 3.0
ENOUGH_TO_JUDGE = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """One finding: its value, its own standard deviation, and when it was made."""

    value: float
    sd: float
    on: str = ""  #: ISO date; empty counts as new


@dataclass(frozen=True, slots=True, kw_only=True)
class Pool:
    """What several findings say together."""

    value: float
    mean_sd: float
    scatter: float


def age_days(on: str, today: str) -> float:
    """Return the days between two ISO dates; 0 for no date or one to come."""
    return max((date.fromisoformat(today) - date.fromisoformat(on)).days, 0) if on else 0.0


def age_weight(on: str, today: str) -> float:
    """Return how much a finding of that day still counts: 1 when new, half after HALF_LIFE_DAYS."""
    return float(0.5 ** (age_days(on, today) / HALF_LIFE_DAYS))


def pool(found: Sequence[Weighed], *, today: str) -> Pool:
    """Return the weighted mean of at least one finding.

    Args:
        today: ISO date, so that the core needs no clock
    """
    weights = [f.sd**-2 * age_weight(f.on, today) for f in found]
    whole = math.fsum(weights)
    value = math.fsum(w * f.value for w, f in zip(weights, found, strict=True)) / whole
    return Pool(value=value, mean_sd=math.sqrt(1 / whole), scatter=_scatter(found))


def _scatter(found: Sequence[Weighed]) -> float:
    """Return how much findings differ beyond their own variances. Their age does not enter: old ones that contradict each other still do."""
    if len(found) < 2:
        return 0.0
    weights = [f.sd**-2 for f in found]
    whole = math.fsum(weights)
    middle = math.fsum(w * f.value for w, f in zip(weights, found, strict=True)) / whole
    q = math.fsum(w * (f.value - middle) ** 2 for w, f in zip(weights, found, strict=True))
    free = whole - math.fsum(w * w for w in weights) / whole
    return math.sqrt(max(q - (len(found) - 1), 0.0) / free) if free > 0 else 0.0


def odd_ones(values: Sequence[float], *, sd: float) -> tuple[int, ...]:
    """Return which values lie more than ODD_SIGMAS from the median of the others.

    Args:
        sd: what a value may ordinarily be off
    """
    if len(values) < ENOUGH_TO_JUDGE:
        return ()
    found = []
    for i, v in enumerate(values):
        others = [*values[:i], *values[i + 1 :]]
        middle = statistics.median(others)
        usual = max(sd, 1.4826 * statistics.median(abs(o - middle) for o in others))
        if abs(v - middle) > ODD_SIGMAS * usual:
            found.append(i)
    return tuple(found)
