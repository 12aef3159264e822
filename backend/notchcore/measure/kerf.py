"""How wide a line the beam removes, from simple tests. Kerf is always the full width.

strips  n strips drawn w wide, cut on the line and stacked, measure W:  k = (n w - W) / n
gap     a slot drawn g wide measures G:                                 k = G - g
peg     a peg drawn p wide measures P:                                  k = p - P
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from notchcore.errors import MeasureError, require
from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.families import FAMILIES, default_kerf
from notchcore.units import Mm

WIDEST: Mm = 2.0
DEFAULT_SD: Mm = 0.05
LEAST_SD: Mm = 0.01  # kerf wanders this much over a bed however well one spot is measured
READING_SD: Mm = 0.02  # of one caliper reading by hand on a cut edge
HALF_LIFE_DAYS = 180.0


class KerfTestKind(StrEnum):
    """How the kerf was found."""

    STRIPS = "strips"
    GAP = "gap"
    PEG = "peg"


@dataclass(frozen=True, slots=True, kw_only=True)
class KerfTest:
    """One test piece: what was drawn, what it measures, how many pieces were stacked."""

    kind: KerfTestKind
    drawn: Mm  #: width of one strip, slot or peg as drawn [mm]
    measured: Mm  #: what the caliper says: the stack for strips, else the one width [mm]
    count: int = 1  #: strips in the stack
    on: str = ""  #: ISO date
    by: str = ""

    def __post_init__(self) -> None:
        require("drawn", self.drawn, 0.1, 2000.0)
        require("measured", self.measured, 0.0, 4000.0)
        require("count", self.count, 1, 200, unit="")
        if not 0 < kerf_of(self) < WIDEST:
            raise MeasureError(
                f"This test gives a kerf of {kerf_of(self):.3f} mm; a beam removes between 0 and {WIDEST:g} mm. "
                "Check that drawn and measured are not swapped, and their unit.",
                kerf_mm=kerf_of(self),
            )


def kerf_of(test: KerfTest) -> Mm:
    """Return the full width that one test shows [mm]."""
    if test.kind is KerfTestKind.STRIPS:
        return (test.count * test.drawn - test.measured) / test.count
    if test.kind is KerfTestKind.GAP:
        return test.measured - test.drawn
    return test.drawn - test.measured


def _sd_of(test: KerfTest) -> Mm:
    return READING_SD / test.count


def _age_days(on: str, today: str) -> float:
    return max((date.fromisoformat(today) - date.fromisoformat(on)).days, 0) if on else 0.0


def pooled_kerf(*, family_id: str, thickness: Mm, tests: tuple[KerfTest, ...], today: str) -> Quantity:
    """Return the kerf from all tests, weighted by 1/variance, old ones counting less.

    The weight of a test halves every HALF_LIFE_DAYS. Disagreement among tests widens the result (Birge ratio).

    Args:
        today: ISO date, so that the core needs no clock
    """
    if not tests:
        return single(TermKind.KERF, "Kerf, not measured here", default_kerf(FAMILIES[family_id], thickness), sd=DEFAULT_SD,
                      source="default for this family", trust=Trust.DEFAULT)  # fmt: skip
    weights = [_sd_of(t) ** -2 * 0.5 ** (_age_days(t.on, today) / HALF_LIFE_DAYS) for t in tests]
    values = [kerf_of(t) for t in tests]
    mean = math.fsum(w * v for w, v in zip(weights, values, strict=True)) / math.fsum(weights)
    internal = math.sqrt(1 / math.fsum(weights))
    if len(tests) > 1:
        chi2 = math.fsum(w * (v - mean) ** 2 for w, v in zip(weights, values, strict=True)) / (len(tests) - 1)
        internal *= max(1.0, math.sqrt(chi2))
    newest = max(t.on for t in tests) or None
    return single(TermKind.KERF, "Kerf, measured", mean, sd=min(max(internal, LEAST_SD), DEFAULT_SD),
                  source=f"{len(tests)} test{'s' if len(tests) > 1 else ''}", on=newest, trust=Trust.MEASURED)  # fmt: skip
