"""What would make the numbers of a stock better, and what it costs in minutes and in stock."""

from __future__ import annotations

from apps.sheets import convert
from apps.sheets.models import Stock
from apps.sheets.schemas import AdviceOut
from notchcore.design.cards.pieces import Piece, piece_of
from notchcore.design.cards.proposed import proposed_card
from notchcore.geom.profile import bounds_of
from notchcore.ledger import Trust
from notchcore.measure.machine import Machine, Settings
from notchcore.measure.stock import Stock as CoreStock
from notchcore.measure.thickness import ENOUGH_READINGS
from notchcore.plan.burning import burning_time
from notchcore.words.facts import Count, Sentence
from notchcore.words.render import say

READING_MIN = 0.2  # to take and type one reading
ENTRY_MIN = 1.0  # to enter the results of a card
RIM = 5.0  # sheet around a card


def cost_of(piece: Piece, settings: Settings, *, machine: Machine) -> tuple[float, tuple[float, float]]:
    """Return minutes (handling, burning, entering) and the size of sheet that a card takes [mm]; travel is left out, it is small."""
    seconds = machine.handling + sum(burning_time(part, settings, machine=machine) for part in piece.parts)
    corners = [(x + p.pose.origin[0], y + p.pose.origin[1]) for p in piece.parts for x, y in p.profile.outer]
    x0, y0, x1, y1 = bounds_of(tuple(corners))
    return seconds / 60 + ENTRY_MIN, (x1 - x0 + 2 * RIM, y1 - y0 + 2 * RIM)


def _card(kind: str, what: Sentence, *, why: Sentence, stock: CoreStock, settings: Settings, machine: Machine) -> AdviceOut:
    minutes, size = cost_of(piece_of(proposed_card(kind, stock, tongue=stock, settings=settings), stock, tongue=stock), settings, machine=machine)
    return AdviceOut(what=what, why=why, action=kind, minutes=minutes, size_mm=size)


def advice_for(row: Stock, machine: Machine) -> list[AdviceOut]:
    """Return the next best tests of a stock on a machine, in the order of what they bring."""
    known = convert.measured([row], machine)
    stock, settings = known.stocks[str(row.pk)], known.settings[str(row.pk)]
    if stock.hazard is not None:
        return []
    found = []
    own = [r for r in known.evidence[stock.id].readings if not r.borrowed]
    missing = ENOUGH_READINGS - len(own)
    if missing > 0:
        found.append(
            AdviceOut(
                what=say("advice.readings", readings=Count(missing, "more reading", "more readings")),
                why=say("advice.thickness"),
                action="reading",
                minutes=missing * READING_MIN,
            )
        )
    if not settings.tested():
        found.append(_card("power", say("advice.power"), why=say("advice.settings"), stock=stock, settings=settings, machine=machine))
    if stock.kerf.terms[0].trust is not Trust.MEASURED:
        found.append(_card("strips", say("advice.strips"), why=say("advice.kerf"), stock=stock, settings=settings, machine=machine))
    if known.fits.between(stock.key, stock.key).trust is not Trust.MEASURED:
        found.append(_card("gauge", say("advice.gauge"), why=say("advice.snug"), stock=stock, settings=settings, machine=machine))
    return found
