"""How two pieces feel together.

Clearance   opening minus what goes in, finished sizes [mm]
Feel        what the hand says: rattles, slides, snug, mallet, won't go
Boundaries  the four clearances between the five feels, each with how far it may be off
Fits        the boundaries of every pair of stocks that was tried here; defaults for all others
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from statistics import NormalDist

from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.materials import MATERIALS, Give
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say

MACHINE_SD: Mm = 0.03  # positioning spread of a desktop machine with the sheet held flat
KERF_WANDER: Mm = 0.01  # what is left of a kerf's uncertainty where the gauge was cut with the same kerf


class Feel(StrEnum):
    """Loosest first."""

    RATTLES = "rattles"
    SLIDES = "slides"
    SNUG = "snug"
    MALLET = "mallet"
    WONT_GO = "wont_go"


WANTED = (Feel.SLIDES, Feel.SNUG, Feel.MALLET)  # what a person can ask for


@dataclass(frozen=True, slots=True, kw_only=True)
class Boundaries:
    """Where one feel ends and the next begins [mm of clearance], falling."""

    rattles: Mm
    slides: Mm
    snug: Mm
    mallet: Mm
    sds: tuple[Mm, Mm, Mm, Mm] = (0.0, 0.0, 0.0, 0.0)  #: how far each may be off
    source: Sentence = field(default_factory=lambda: say("from.default"))
    on: str | None = None  #: ISO date of the newest answer
    trust: Trust = Trust.DEFAULT
    answers: int = 0  #: feels that it was learned from
    anchored: str = ""  #: the stock whose openings it was felt in: their kerf needs no knowing

    def edges(self) -> tuple[Mm, Mm, Mm, Mm]:
        return self.rattles, self.slides, self.snug, self.mallet


DEFAULT_BOUNDARIES: dict[Give, Boundaries] = {
    Give.WOOD: Boundaries(rattles=0.25, slides=0.08, snug=-0.05, mallet=-0.20, sds=(0.06, 0.05, 0.05, 0.06), source=say("from.default.wood")),
    Give.RIGID: Boundaries(rattles=0.25, slides=0.10, snug=0.02, mallet=0.00, sds=(0.06, 0.03, 0.015, 0.015), source=say("from.default.acrylic")),
    Give.SOFT: Boundaries(rattles=0.60, slides=0.20, snug=-0.40, mallet=-1.00, sds=(0.15, 0.12, 0.15, 0.25), source=say("from.default.soft")),
}


def give_of(material_a: str, material_b: str) -> Give:
    """Return what gives in a pair of materials: a soft sheet yields to anything, else a rigid one rules."""
    gives = {MATERIALS[material_a].give, MATERIALS[material_b].give}
    return next(give for give in (Give.SOFT, Give.RIGID, Give.WOOD) if give in gives)


def boundaries_for(material_a: str, material_b: str) -> Boundaries:
    """Return the boundaries to start from for a pair of materials."""
    return DEFAULT_BOUNDARIES[give_of(material_a, material_b)]


def pair_key(stock_a: str, stock_b: str) -> str:
    """Return the name of a pair of stocks, the same both ways round."""
    return "|".join(sorted((stock_a, stock_b)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Fits:
    """Boundaries by pair of stocks (see `pair_key`), how well the machine keeps a position, and whether it leaves kerf alone."""

    known: Mapping[str, Boundaries] = field(default_factory=dict)
    machine_sd: Mm = MACHINE_SD
    kerf_left: bool = False  #: kerf is corrected nowhere: all joints come out looser by it

    def between(self, a: tuple[str, str], b: tuple[str, str]) -> Boundaries:
        """Return the boundaries for two stocks, each given as (id, material)."""
        return self.known.get(pair_key(a[0], b[0])) or boundaries_for(a[1], b[1])


NO_FITS = Fits()  #: nothing was felt yet: defaults by material


def clearance_for(feel: Feel, boundaries: Boundaries) -> Quantity:
    """Return the clearance to aim at: the middle of the feel's own range.

    Raises:
        ValueError: the feel is one that nobody wants
    """
    edges = boundaries.edges()
    at = list(Feel).index(feel)
    if not 1 <= at <= 3:
        raise ValueError(f"nobody wants a joint that {feel}")
    return single(
        TermKind.FIT,
        say("term.clearance", feel=say(f"feel.called.{feel.value}")),
        value=round((edges[at - 1] + edges[at]) / 2, 4),
        source=boundaries.source,
        on=boundaries.on,
        trust=boundaries.trust,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Chances:
    """The chance of each feel, and the clearance it comes from."""

    clearance: Mm
    sd: Mm
    rattles: float
    slides: float
    snug: float
    mallet: float
    wont_go: float


def normal_below(x: float, mean: float, *, sd: float) -> float:
    """Return P(value < x) of a normal distribution."""
    return NormalDist(mean, sd).cdf(x)


def clearance_sd(*, kerf_sd: Mm, thickness_sd: Mm, boundaries: Boundaries, kerf_share: float = 1.0, machine_sd: Mm = MACHINE_SD, opening: str = "") -> Mm:
    """Return the spread of a clearance: (share kerf_sd)^2 + thickness_sd^2 + machine_sd^2 under the root.

    Args:
        kerf_share: how strongly a kerf error shows: 1 for a slot against a sheet, 2 for a tab against a cut opening
        opening: the stock that the opening is cut in; where the gauge was cut in it too, the same kerf error is in
            both and cancels, but for what kerf wanders
    """
    if kerf_share == 1.0 and opening and boundaries.anchored == opening:
        kerf_sd = min(kerf_sd, KERF_WANDER)
    return math.sqrt((kerf_share * kerf_sd) ** 2 + thickness_sd**2 + machine_sd**2)


def chances_of(*, clearance: Mm, sd: Mm, boundaries: Boundaries) -> Chances:
    """Return the chance of each feel for a clearance ~ N(clearance, sd^2); each boundary may itself be off."""
    below = [normal_below(edge, clearance, sd=math.hypot(sd, spread)) for edge, spread in zip(boundaries.edges(), boundaries.sds, strict=True)]
    for i in range(2, -1, -1):  # unequal spreads can make two boundaries cross far out in the tails
        below[i] = max(below[i], below[i + 1])
    return Chances(
        clearance=clearance,
        sd=sd,
        rattles=1 - below[0],
        slides=below[0] - below[1],
        snug=below[1] - below[2],
        mallet=below[2] - below[3],
        wont_go=below[3],
    )


def chance_as_wanted(chances: Chances, feel: Feel) -> float:
    """Return the chance that a joint feels as it should."""
    return float(getattr(chances, feel.value))
