"""Which numbers a new test card should have, from what is known of its stock."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from notchcore.design.cards.pieces import Card, GapCard, GaugeStrip, LegibilityCard, PowerCard, StepCard, StripsCard
from notchcore.errors import DesignError
from notchcore.measure.fit import boundaries_for
from notchcore.measure.machine import Settings
from notchcore.measure.materials import MATERIALS, Give
from notchcore.measure.stock import Stock
from notchcore.units import MM_PER_INCH, Mm
from notchcore.words.render import say

KINDS = ("strips", "gaps", "gauge", "power", "steps", "legibility")
STEPS = {Give.SOFT: (9, 0.2)}  # slots and step of a gauge strip; 11 of 0.05 for all that is not soft


INCH_STEPS = {Give.SOFT: (9, 0.008 * MM_PER_INCH)}  # as above, in whole thousandths
INCHES = (1 / 64, 0.001)  # [in] what sizes and widths are rounded to where figures are read in inches


def _spread(middle: float, factors: tuple[float, ...], *, most: float) -> tuple[float, ...]:
    values = sorted({round(min(middle * f, most), 1 if middle * f < 30 else 0) for f in factors})
    return tuple(values)


def _inches(some: tuple[Mm, ...], step: float) -> tuple[Mm, ...]:
    """Return lengths at the nearest step [in], ascending."""
    return tuple(sorted({round(max(round(v / MM_PER_INCH / step), 1) * step * MM_PER_INCH, 4) for v in some}))


def in_inches(card: Card, unit: Literal["in", "thou"]) -> Card:
    """Return a card with sizes that are round in inches, and its figures burned so."""
    size, width = INCHES
    match card:
        case GaugeStrip():
            count, step = INCH_STEPS[Give.SOFT] if card.step > 0.1 else (card.count, 0.002 * MM_PER_INCH)
            middle = card.first + card.step * (card.count - 1) / 2
            return replace(card, unit=unit, first=_inches((max(middle - step * (count - 1) / 2, 0.2),), width)[0], step=step, count=count)
        case StripsCard():
            return replace(card, unit=unit, width=0.375 * MM_PER_INCH, length=2 * MM_PER_INCH)
        case GapCard():
            return replace(card, unit=unit, widths=_inches(card.widths, size))
        case PowerCard():
            return replace(card, unit=unit, speeds=_inches(card.speeds, 0.01), square=0.25 * MM_PER_INCH)
        case LegibilityCard():
            return replace(card, unit=unit, heights=_inches(card.heights, 0.01), webs=_inches(card.webs, 0.005))
        case _:
            return replace(card, unit=unit)


def proposed_card(kind: str, sheet: Stock, *, tongue: Stock, settings: Settings, unit: str = "mm") -> Card:
    """Return a card of a kind with the numbers that tell most, round in its reader's unit.

    A gauge strip is centred where its feels are: drawn = t + middle of the default boundaries - kerf.

    Raises:
        DesignError: there is no such card
    """
    if unit != "mm":
        return in_inches(proposed_card(kind, sheet, tongue=tongue, settings=settings), "thou" if unit == "thou" else "in")
    if kind == "gauge":
        give = boundaries_for(sheet.material, tongue.material)
        soft = Give.SOFT in (MATERIALS[sheet.material].give, MATERIALS[tongue.material].give)
        count, step = STEPS[Give.SOFT] if soft else (11, 0.05)
        middle = tongue.t + (give.rattles + give.mallet) / 2 - sheet.kerf.value
        first = max(middle - step * (count - 1) / 2, 0.2)
        return GaugeStrip(first=round(first, 2), step=step, count=count)
    if kind == "strips":
        return StripsCard()
    if kind == "gaps":
        return GapCard(widths=tuple(round(w, 1) for w in (max(4.0, sheet.t), max(6.0, 1.5 * sheet.t), max(8.0, 2 * sheet.t))))
    if kind == "power":
        cut = settings.cut
        return PowerCard(
            powers=_spread(cut.power, (0.6, 0.8, 1.0, 1.2, 1.4), most=100),
            speeds=_spread(cut.speed, (0.6, 0.8, 1.0, 1.25, 1.5), most=1000),
            passes=cut.passes,
            focus=cut.focus,
        )
    if kind == "steps":
        return StepCard(power=max(settings.engrave.power, 20.0), speed=settings.engrave.speed, interval=settings.engrave.interval)
    if kind == "legibility":
        return LegibilityCard()
    raise DesignError(say("no_such_card", kind=kind), field="kind")
