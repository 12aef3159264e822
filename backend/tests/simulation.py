"""A shop with hidden truth: sheets of hidden thickness, a beam of hidden kerf, hands with hidden boundaries between feels.

It cuts the tests and answers like a shop does: with a caliper's resolution, a little play in every cut, a hand that errs.
Only what a person could enter comes out; the truth is for judging the estimates.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field

from notchcore.design.cards.pieces import GaugeStrip
from notchcore.design.cards.proposed import proposed_card
from notchcore.measure.fit import DEFAULT_BOUNDARIES, Chances, Feel, Fits, chances_of, clearance_for, clearance_sd
from notchcore.measure.gauge import HAND_SD, Answer
from notchcore.measure.kerf import KerfTest, KerfTestKind
from notchcore.measure.machine import default_settings
from notchcore.measure.materials import default_kerf
from notchcore.measure.stock import MATERIALS, Stock, StockEvidence, fits_of, stock_of
from notchcore.measure.thickness import Reading

TODAY = "2026-11-24"
MACHINE_SD = 0.03
WANDER = 0.008  # of kerf from cut to cut
READING = 0.01  # of a caliper on an edge, beside its resolution


@dataclass
class Shop:
    """One hidden truth, from a seed."""

    seed: int
    material: str = "plywood"
    chance: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self.chance = random.Random(f"shop {self.seed} {self.material}")
        gauss = self.chance.gauss
        material = MATERIALS[self.material]
        self.thickness = 3.0 + gauss(0, material.thickness_sd)
        self.spot_sd = self.chance.uniform(0.01, 0.03)
        self.kerf = max(0.05, default_kerf(material, 3.0) + gauss(0, 0.05))
        default = DEFAULT_BOUNDARIES[material.give]
        edges = [edge + gauss(0, sd) for edge, sd in zip(default.edges(), default.sds, strict=True)]
        self.edges = sorted(edges, reverse=True)

    def _caliper(self, true: float) -> float:
        return round(true + self.chance.gauss(0, READING), 2)

    def spot(self) -> float:
        """Return the thickness at some spot of some sheet."""
        return self.thickness + self.chance.gauss(0, self.spot_sd)

    def cut_kerf(self) -> float:
        return self.kerf + self.chance.gauss(0, WANDER)

    def feel_of(self, clearance: float) -> Feel:
        """Return what the hand says of a true clearance."""
        felt = clearance + self.chance.gauss(0, HAND_SD)
        return next((f for f, edge in zip(Feel, self.edges, strict=False) if felt > edge), Feel.WONT_GO)

    def joint(self, drawn: float) -> Feel:
        """Cut a slot of a drawn width, push a sheet in, and say how it feels."""
        return self.feel_of(drawn + self.cut_kerf() + self.chance.gauss(0, MACHINE_SD) - self.spot())

    # -- what the shop enters --------------------------------------------------------------------------------------

    def readings(self, count: int) -> tuple[Reading, ...]:
        return tuple(Reading(thickness=self._caliper(self.spot()), on=TODAY) for _ in range(count))

    def kerf_tests(self) -> tuple[KerfTest, ...]:
        stack = sum(10.0 - self.cut_kerf() for _ in range(10))
        gaps = [self._caliper(6.0 + self.cut_kerf()) for _ in range(2)]
        return (
            KerfTest(kind=KerfTestKind.STRIPS, drawn=10.0, measured=round(stack + self.chance.gauss(0, 0.02), 2), count=10, on=TODAY),
            *(KerfTest(kind=KerfTestKind.GAP, drawn=6.0, measured=g, on=TODAY) for g in gaps),
        )

    def gauge(self, stock: Stock) -> tuple[Answer, ...]:
        card = proposed_card("gauge", stock, tongue=stock, settings=default_settings(stock))
        assert isinstance(card, GaugeStrip)
        tongue = self.spot()  # one tongue goes into all slots
        answers = []
        for drawn in card.widths():
            feel = self.feel_of(drawn + self.cut_kerf() + self.chance.gauss(0, MACHINE_SD) - tongue)
            answers.append(Answer(opening="a", entering="a", feel=feel, drawn=drawn, on=TODAY))
        return tuple(answers)

    def known(self, *, readings: int = 5, kerf: bool = True, gauge: bool = True) -> tuple[Stock, Fits]:
        """Return what the program makes of this shop's entries."""
        plain = StockEvidence(
            id="a", name="a", material=self.material, label=3.0, readings=self.readings(readings), kerf_tests=self.kerf_tests() if kerf else ()
        )
        stock = stock_of(plain, today=TODAY)
        if not gauge:
            return stock, Fits()
        told = StockEvidence(
            id="a", name="a", material=self.material, label=3.0, readings=plain.readings, kerf_tests=plain.kerf_tests, answers=self.gauge(stock)
        )
        return stock, fits_of({"a": told}, {"a": stock}, today=TODAY)


def predicted(stock: Stock, fits: Fits, offset: float) -> tuple[float, Chances]:
    """Return the drawn width of a slot whose clearance is the snug target plus `offset`, and the chances of its feels."""
    boundaries = fits.between(stock.key, stock.key)
    clearance = clearance_for(Feel.SNUG, boundaries).value + offset
    sd = clearance_sd(kerf_sd=stock.kerf.sd, thickness_sd=stock.thickness.sd, boundaries=boundaries, opening="a")
    return stock.t + clearance - stock.kerf.value, chances_of(clearance=clearance, sd=sd, boundaries=boundaries)


@dataclass
class Reliability:
    """How often something happened against how often it was said to happen, by the chance that was said."""

    said: list[float] = field(default_factory=lambda: [0.0] * 10)
    came: list[float] = field(default_factory=lambda: [0.0] * 10)
    count: list[int] = field(default_factory=lambda: [0] * 10)

    def add(self, chance: float, happened: bool) -> None:
        i = min(int(chance * 10), 9)
        self.said[i] += chance
        self.came[i] += happened
        self.count[i] += 1

    def worst(self, *, least: int = 400) -> float:
        """Return the largest gap between said and came, in bins that hold enough cases to tell."""
        return max((abs(s - c) / n for s, c, n in zip(self.said, self.came, self.count, strict=True) if n >= least), default=0.0)


@dataclass
class Calibration:
    """What a number of seeded shops show."""

    cases: int
    thickness_in_sd: float
    kerf_in_sd: float
    boundary_in_sd: float
    boundary_in_90: float
    tested: Reliability
    untested: Reliability


def calibrate(cases: int, *, joints: int = 6, material: str = "plywood") -> Calibration:
    """Let seeded shops measure, test and cut, and compare what was said with what came."""
    inside = {"t": 0, "k": 0, "b": 0, "b90": 0}
    tested, untested = Reliability(), Reliability()
    for seed in range(cases):
        shop = Shop(seed, material)
        stock, fits = shop.known()
        inside["t"] += abs(stock.t - shop.thickness) <= stock.thickness.sd
        inside["k"] += abs(stock.kerf.value - shop.kerf) <= stock.kerf.sd
        boundaries = fits.between(stock.key, stock.key)
        # a gauge tells boundaries as drawn widths: what they come to with the kerf and thickness that were reckoned with
        shift = (stock.kerf.value - shop.kerf) - (stock.t - shop.thickness)
        for said, sd, true in zip(boundaries.edges(), boundaries.sds, shop.edges, strict=True):
            inside["b"] += abs(said - shift - true) <= sd
            inside["b90"] += abs(said - shift - true) <= 1.645 * sd
        blind = shop.known(readings=0, kerf=False, gauge=False)
        for kind, (known_stock, known_fits) in ((tested, (stock, fits)), (untested, blind)):
            for _ in range(joints):
                drawn, chances = predicted(known_stock, known_fits, shop.chance.uniform(-0.3, 0.3))
                feel = shop.joint(drawn)
                for f in Feel:
                    kind.add(getattr(chances, f.value), feel is f)
    return Calibration(
        cases=cases,
        thickness_in_sd=inside["t"] / cases,
        kerf_in_sd=inside["k"] / cases,
        boundary_in_sd=inside["b"] / 4 / cases,
        boundary_in_90=inside["b90"] / 4 / cases,
        tested=tested,
        untested=untested,
    )
