"""Which numbers a new test card should have, from what is known of its stock."""

from __future__ import annotations

from notchcore.design.cards.pieces import Card, GapCard, GaugeStrip, LegibilityCard, PowerCard, StepCard, StripsCard
from notchcore.errors import DesignError
from notchcore.measure.families import FAMILIES, Give
from notchcore.measure.fit import boundaries_for
from notchcore.measure.machine import Settings
from notchcore.measure.stock import Stock

KINDS = ("strips", "gaps", "gauge", "power", "steps", "legibility")
STEPS = {Give.SOFT: (9, 0.2)}  # slots and step of a gauge strip; 11 of 0.05 for all that is not soft


def _spread(middle: float, factors: tuple[float, ...], *, most: float) -> tuple[float, ...]:
    values = sorted({round(min(middle * f, most), 1 if middle * f < 30 else 0) for f in factors})
    return tuple(values)


def proposed_card(kind: str, sheet: Stock, tongue: Stock, settings: Settings) -> Card:
    """Return a card of a kind with the numbers that tell most.

    A gauge strip is centred where its feels are: drawn = t + middle of the default boundaries - kerf.

    Raises:
        DesignError: there is no such card
    """
    if kind == "gauge":
        give = boundaries_for(sheet.family, tongue.family)
        soft = Give.SOFT in (FAMILIES[sheet.family].give, FAMILIES[tongue.family].give)
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
            powers=_spread(cut.power, (0.6, 0.8, 1.0, 1.2, 1.4), most=100), speeds=_spread(cut.speed, (0.6, 0.8, 1.0, 1.25, 1.5), most=1000),
            passes=cut.passes, focus=cut.focus,
        )  # fmt: skip
    if kind == "steps":
        return StepCard(power=max(settings.engrave.power, 20.0), speed=settings.engrave.speed, interval=settings.engrave.interval)
    if kind == "legibility":
        return LegibilityCard()
    raise DesignError(f"There is no test card “{kind}”.", field="kind")
