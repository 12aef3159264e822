"""How wide a line the beam removes, from simple tests. Kerf is always the full width.

strips  n strips drawn w wide, cut on the line and stacked, measure W:  k = (n w - W) / n
gap     a slot drawn g wide measures G:                                 k = G - g
peg     a peg drawn p wide measures P:                                  k = p - P
taper   the beam is wider on one face: k = mean, half-angle = atan((k_top - k_bottom) / 2t)

A kerf belongs to one stock on one machine with one lens at certain settings. Tests at other settings, and tests borrowed from
another stock or machine, count less: their own sd grows by what such a change may bring.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from notchcore.errors import MeasureError, require
from notchcore.findings import Finding, Severity
from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.materials import MATERIALS, default_kerf
from notchcore.measure.pooling import Weighed, odd_ones, pool
from notchcore.units import Mm
from notchcore.words.facts import TRIMMED, Count, mm
from notchcore.words.render import say

WIDEST: Mm = 2.0
DEFAULT_SD: Mm = 0.05
LEAST_SD: Mm = 0.01  # kerf wanders this much over a bed however well one spot is measured
READING_SD: Mm = 0.02  # of one caliper reading by hand on a cut edge
OTHER_SETTINGS_SD: Mm = 0.03
BORROWED_SD: Mm = 0.04


@dataclass(frozen=True, slots=True, kw_only=True)
class Setup:
    """What a kerf belongs to beside the stock."""

    machine: str = ""
    lens: str = ""
    settings: str = ""  #: how it was cut, in words; empty when nobody said


NO_SETUP = Setup()


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
    measured: Mm  #: what the caliper says: the stack for strips, else the one width on the beam's side [mm]
    below: Mm | None = None  #: the same width on the far side, where somebody measured it: shows the taper [mm]
    count: int = 1  #: strips in the stack
    on: str = ""  #: ISO date
    by: str = ""
    setup: Setup = NO_SETUP
    borrowed: str = ""  #: where it was really made; empty for here

    def __post_init__(self) -> None:
        require("drawn", self.drawn, least=0.1, most=2000.0)
        require("count", self.count, least=1, most=200, unit="")
        for measured in (self.measured, *(() if self.below is None else (self.below,))):
            require("measured", measured, least=0.0, most=4000.0)
            if not 0 < self._kerf(measured) < WIDEST:
                raise MeasureError(
                    say("kerf_beyond_beam", kerf=mm(self._kerf(measured), digits=3), most=mm(WIDEST, digits=TRIMMED)),
                    kerf_mm=self._kerf(measured),
                )

    def _kerf(self, measured: Mm) -> Mm:
        if self.kind is KerfTestKind.STRIPS:
            return (self.count * self.drawn - measured) / self.count
        return measured - self.drawn if self.kind is KerfTestKind.GAP else self.drawn - measured

    @property
    def sides(self) -> tuple[Mm, Mm]:
        """Kerf on the beam's side and on the far side [mm]."""
        return self._kerf(self.measured), self._kerf(self.measured if self.below is None else self.below)


def kerf_of(test: KerfTest) -> Mm:
    """Return the full width that one test shows [mm]: the mean of both faces where both were measured."""
    return math.fsum(test.sides) / 2


def taper_deg(tests: tuple[KerfTest, ...], thickness: Mm) -> float | None:
    """Return the half-angle of the cut [degrees] from the tests that were measured on both faces; None without one."""
    both = [t.sides for t in tests if t.below is not None]
    if not both:
        return None
    return math.degrees(math.atan(math.fsum(top - bottom for top, bottom in both) / len(both) / (2 * thickness)))


def _weighed(test: KerfTest, now: Setup) -> Weighed:
    extra = BORROWED_SD if test.borrowed else OTHER_SETTINGS_SD if test.setup.settings and now.settings and test.setup.settings != now.settings else 0.0
    own = READING_SD / test.count / (1 if test.below is None else math.sqrt(2))
    return Weighed(value=kerf_of(test), sd=math.hypot(own, extra), on=test.on)


def tests_for(tests: tuple[KerfTest, ...], setup: Setup) -> tuple[KerfTest, ...]:
    """Return the tests that speak about this machine and lens."""
    return tuple(t for t in tests if (t.setup.machine, t.setup.lens) == (setup.machine, setup.lens))


def pooled_kerf(*, material_id: str, thickness: Mm, tests: tuple[KerfTest, ...], today: str, setup: Setup = NO_SETUP) -> Quantity:
    """Return the kerf from all tests of a setup, weighted by 1/variance, old ones counting less.

    The sd is that of the next cut: how far the mean may be off, how much the tests scatter, and how much kerf wanders over a bed.

    Args:
        today: ISO date, so that the core needs no clock
    """
    tests = tests_for(tests, setup)
    if not tests:
        return single(
            TermKind.KERF,
            say("term.kerf.default"),
            value=default_kerf(MATERIALS[material_id], thickness),
            sd=DEFAULT_SD,
            source=say("from.default.material"),
            trust=Trust.DEFAULT,
        )
    pooled = pool([_weighed(t, setup) for t in tests], today=today)
    newest = max(t.on for t in tests) or None
    own = [t for t in tests if not t.borrowed]
    tested = Count(len(own), "test", "tests")
    if not own:
        source = say("from.borrowed", of=tests[0].borrowed)
    elif len(own) == len(tests):
        source = say("from.tests", tests=tested)
    else:
        source = say("from.tests.some_borrowed", tests=tested, borrowed=len(tests) - len(own))
    sd = math.hypot(min(pooled.mean_sd, DEFAULT_SD), max(pooled.scatter, LEAST_SD))
    return single(
        TermKind.KERF,
        say("term.kerf.measured" if own else "term.kerf.borrowed"),
        value=pooled.value,
        sd=sd,
        source=source,
        on=newest,
        trust=Trust.MEASURED if own else Trust.DEFAULT,
    )


def kerf_findings(tests: tuple[KerfTest, ...], setup: Setup) -> tuple[Finding, ...]:
    """Return what is odd among the tests of a setup."""
    tests = tests_for(tests, setup)
    odd = odd_ones([kerf_of(t) for t in tests], sd=math.hypot(READING_SD, LEAST_SD))
    return tuple(
        Finding(
            code="kerf_test_odd",
            severity=Severity.LOOK,
            facts={"test": i, "kerf_mm": kerf_of(tests[i])},
            says=say("kerf_test_odd", kind=tests[i].kind.value, kerf=mm(kerf_of(tests[i]), digits=3)),
        )
        for i in odd
    )
