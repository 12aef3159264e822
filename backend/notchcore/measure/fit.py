"""How two pieces feel together.

Clearance   opening minus what goes in, finished sizes [mm]
Feel        what the hand says: rattles, slides, snug, mallet, won't go
Boundaries  the four clearances between the five feels
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.families import FAMILIES, Give
from notchcore.units import Mm

MACHINE_SD: Mm = 0.03  # positioning spread of a desktop machine with the sheet held flat


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
    source: str = "default"

    def edges(self) -> tuple[Mm, Mm, Mm, Mm]:
        return self.rattles, self.slides, self.snug, self.mallet


DEFAULT_BOUNDARIES: dict[Give, Boundaries] = {
    Give.WOOD: Boundaries(rattles=0.25, slides=0.08, snug=-0.05, mallet=-0.20, source="default for wood"),
    Give.RIGID: Boundaries(rattles=0.25, slides=0.10, snug=0.02, mallet=0.00, source="default for acrylic: it has no give"),
    Give.SOFT: Boundaries(rattles=0.60, slides=0.20, snug=-0.40, mallet=-1.00, source="default for soft board"),
}


def boundaries_for(family_a: str, family_b: str) -> Boundaries:
    """Return the boundaries for a pair of families: a soft sheet yields to anything, else a rigid one rules."""
    gives = {FAMILIES[family_a].give, FAMILIES[family_b].give}
    for give in (Give.SOFT, Give.RIGID, Give.WOOD):
        if give in gives:
            return DEFAULT_BOUNDARIES[give]
    raise AssertionError(gives)


def clearance_for(feel: Feel, boundaries: Boundaries) -> Quantity:
    """Return the clearance to aim at: the middle of the feel's own range."""
    edges = boundaries.edges()
    at = list(Feel).index(feel)
    if not 1 <= at <= 3:
        raise ValueError(f"nobody wants a joint that {feel}")
    return single(TermKind.FIT, f"Clearance, {feel.value}", round((edges[at - 1] + edges[at]) / 2, 4), source=boundaries.source, trust=Trust.DEFAULT)


@dataclass(frozen=True, slots=True, kw_only=True)
class Odds:
    """The chance of each feel, and the clearance it comes from."""

    clearance: Mm
    sd: Mm
    rattles: float
    slides: float
    snug: float
    mallet: float
    wont_go: float


def _below(x: float, mean: float, sd: float) -> float:
    """Return P(value < x) of a normal distribution."""
    return 0.5 * (1 + math.erf((x - mean) / (sd * math.sqrt(2))))


def odds_of(*, clearance: Mm, kerf_sd: Mm, thickness_sd: Mm, boundaries: Boundaries, kerf_share: float = 1.0) -> Odds:
    """Return the chance of each feel: clearance ~ N(mean, (share kerf_sd)^2 + thickness_sd^2 + machine^2).

    Args:
        kerf_share: how strongly a kerf error shows: 1 for a slot against a sheet, 2 for a tab against a cut opening
    """
    sd = math.sqrt((kerf_share * kerf_sd) ** 2 + thickness_sd**2 + MACHINE_SD**2)
    cuts = [_below(edge, clearance, sd) for edge in boundaries.edges()]
    return Odds(
        clearance=clearance, sd=sd, rattles=1 - cuts[0], slides=cuts[0] - cuts[1], snug=cuts[1] - cuts[2], mallet=cuts[2] - cuts[3],
        wont_go=cuts[3],
    )  # fmt: skip


def chance_as_wanted(odds: Odds, feel: Feel) -> float:
    """Return the chance that a joint feels as it should, or one step easier but still held."""
    return float(getattr(odds, feel.value))
