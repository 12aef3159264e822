"""Where the feels change for a pair of stocks, learned from feels: of a gauge strip's slots, of joints at dry fit and at runs.

Answer    one feel of one opening
Boundary  a clearance; an opening wider than it feels looser. A hand at clearance c with boundary b feels "looser" with the chance
          e/2 + (1 - e) Phi((c - b) / s), s from the machine and the hand, e for slips
Posterior each boundary's default with its own sd, times the chances of all answers, summed on a grid; s is tried at once,
          twice and four times its usual value, so that answers that contradict each other widen the result
Between two answers that agree the posterior's mean is their midpoint. Source: docs/sources.md, ordinal answers.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

from notchcore.errors import MeasureError, require
from notchcore.ledger import Quantity, Trust
from notchcore.measure.fit import MACHINE_SD, Boundaries, Feel, boundaries_for, normal_below, pair_key
from notchcore.measure.kerf import NO_SETUP, Setup
from notchcore.measure.pooling import HALF_LIFE_DAYS, age_days
from notchcore.units import Mm
from notchcore.words.facts import Count, Sentence
from notchcore.words.render import say

HAND_SD: Mm = 0.015  # how sharply a hand tells two feels apart
SLIP = 0.01  # chance of a feel entered on the wrong slot
SPREADS = ((1.0, 0.90), (2.0, 0.08), (4.0, 0.02))  # factor on s, and how likely it is before any answer
GRID = 120
REACH = 5.0  # grid half-width, in the default's own sds
NEWEST = 80  # answers that count
ANCHOR = 5  # answers from openings of one stock that make its kerf need no knowing
ORDER = list(Feel)
AGE_STEP = 30  # days: answers age month by month, so that a joint does not move from one day to the next


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """One feel.

    Either `drawn`, the width of the opening in the file (a gauge slot), or `clearance`, what was believed when it was felt.
    """

    opening: str  #: stock id
    entering: str  #: stock id
    feel: Feel
    drawn: Mm | None = None
    clearance: Mm | None = None
    sd: Mm = 0.0  #: of a believed clearance
    on: str = ""  #: ISO date
    by: str = ""
    setup: Setup = NO_SETUP
    borrowed: str = ""  #: where it was really felt; empty for here

    def __post_init__(self) -> None:
        if (self.drawn is None) == (self.clearance is None):
            raise MeasureError(say("feel_of_one"))
        require("drawn width", 1.0 if self.drawn is None else self.drawn, least=0.05, most=100.0)
        require("clearance", self.clearance or 0.0, least=-10.0, most=10.0)


def clearance_at(answer: Answer, *, kerf: Mm, thickness: Mm) -> Mm:
    """Return the clearance of an answer with today's kerf of the opening's stock and thickness of what enters [mm]: drawn + k - t."""
    return answer.clearance if answer.clearance is not None else float(answer.drawn or 0.0) + kerf - thickness


@dataclass(frozen=True, slots=True)
class _Felt:
    clearance: Mm
    rank: int
    sd: Mm
    weight: float


def _posterior(centre: Mm, sd: Mm, *, felt: tuple[_Felt, ...], rank: int, factor: float) -> tuple[float, float, float]:
    """Return mean, sd and evidence (log) of the boundary below `rank` feels."""
    logs, spots = [], [centre + sd * REACH * (2 * i / GRID - 1) for i in range(GRID + 1)]
    for b in spots:
        total = -0.5 * ((b - centre) / sd) ** 2
        for f in felt:
            looser = SLIP / 2 + (1 - SLIP) * normal_below(f.clearance, b, sd=f.sd * factor)
            total += f.weight * math.log(looser if f.rank <= rank else 1 - looser)
        logs.append(total)
    top = max(logs)
    mass = [math.exp(v - top) for v in logs]
    whole = math.fsum(mass)
    mean = math.fsum(m * b for m, b in zip(mass, spots, strict=True)) / whole
    var = math.fsum(m * (b - mean) ** 2 for m, b in zip(mass, spots, strict=True)) / whole
    return mean, var, top + math.log(whole)


@lru_cache(maxsize=512)
def _learned(default: Boundaries, felt: tuple[_Felt, ...]) -> tuple[tuple[Mm, ...], tuple[Mm, ...]]:
    found = []
    for factor, before in SPREADS:
        each = [_posterior(b, s, felt=felt, rank=rank, factor=factor) for rank, (b, s) in enumerate(zip(default.edges(), default.sds, strict=True))]
        found.append((math.log(before) + math.fsum(e[2] for e in each), each))
    top = max(f[0] for f in found)
    weights = [math.exp(f[0] - top) for f in found]
    whole = math.fsum(weights)
    means, sds = [], []
    for k in range(4):
        mean = math.fsum(w * f[1][k][0] for w, f in zip(weights, found, strict=True)) / whole
        second = math.fsum(w * (f[1][k][1] + (f[1][k][0] - mean) ** 2) for w, f in zip(weights, found, strict=True)) / whole
        means.append(mean)
        sds.append(math.sqrt(second))
    for k in range(1, 4):  # feels cannot change places
        means[k] = min(means[k], means[k - 1])
    return tuple(means), tuple(sds)


def learned_boundaries(
    answers: tuple[Answer, ...],
    *,
    materials: tuple[str, str],
    kerfs: dict[str, Mm],
    thicknesses: dict[str, Quantity],
    today: str,
    machine_sd: Mm = MACHINE_SD,
) -> Boundaries:
    """Return the boundaries of one pair of stocks from what was felt; the material's default without an answer.

    Args:
        kerfs: today's values [mm] by stock id
        thicknesses: by stock id, with the spread from spot to spot: a gauge's tongue is one spot, and may be off by it
        today: ISO date
    """
    default = boundaries_for(*materials)
    if not answers:
        return default
    newest = sorted(answers, key=lambda a: (a.on, a.drawn or 0.0, a.clearance or 0.0, a.feel, a.opening))[-NEWEST:]
    felt = tuple(
        sorted(
            (
                _Felt(
                    clearance=round(clearance_at(a, kerf=kerfs[a.opening], thickness=thicknesses[a.entering].value), 6),
                    rank=ORDER.index(a.feel),
                    sd=math.hypot(HAND_SD, machine_sd, a.sd),
                    weight=0.5 ** (age_days(a.on, today) // AGE_STEP * AGE_STEP / HALF_LIFE_DAYS),
                )
                for a in newest
            ),
            key=lambda f: (f.clearance, f.rank, f.sd, f.weight),
        )
    )
    means, sds = ([round(v, 3) for v in values] for values in _learned(default, felt))
    drawn = [a.opening for a in newest if a.drawn is not None]
    tongue = max((thicknesses[a.entering].sd for a in newest if a.drawn is not None), default=0.0)
    sds = [round(min(math.hypot(s, tongue), before), 3) for s, before in zip(sds, default.sds, strict=True)]
    anchors = [s for s in sorted(set(drawn)) if drawn.count(s) >= ANCHOR]
    count, own = len(newest), sum(1 for a in newest if not a.borrowed)
    return replace(
        default,
        rattles=means[0],
        slides=means[1],
        snug=means[2],
        mallet=means[3],
        sds=(sds[0], sds[1], sds[2], sds[3]),
        source=_said(count, own, gauge=bool(drawn)),
        on=max(a.on for a in newest) or None,
        trust=Trust.MEASURED if own >= ANCHOR else Trust.DEFAULT,
        answers=count,
        anchored=anchors[0] if anchors else "",
    )


def _said(count: int, own: int, *, gauge: bool) -> Sentence:
    feels = say("from.feels.gauge" if gauge else "from.feels", feels=Count(count, "feel", "feels"))
    if own == count:
        return feels
    return say("from.some_borrowed", term=feels, borrowed=count - own) if own else say("from.all_borrowed", term=feels)


def by_pair(answers: tuple[Answer, ...]) -> dict[str, tuple[Answer, ...]]:
    """Return the answers of each pair of stocks."""
    found: dict[str, list[Answer]] = {}
    for a in answers:
        found.setdefault(pair_key(a.opening, a.entering), []).append(a)
    return {k: tuple(v) for k, v in found.items()}


def contradictions(answers: tuple[Answer, ...]) -> tuple[tuple[int, int], ...]:
    """Return the pairs of gauge answers, by index, where a wider opening felt tighter."""
    drawn = [(a.drawn, ORDER.index(a.feel), i) for i, a in enumerate(answers) if a.drawn is not None]
    return tuple((i, j) for w, r, i in drawn for v, q, j in drawn if w < v and r < q)
