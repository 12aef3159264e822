"""What if the sheet or the beam is other than believed, and which test would tell best."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.check.dry_fit import MeetingChances, meeting_chances
from notchcore.check.play import ErrorShare, ItemPlay
from notchcore.design.assembly import Assembly
from notchcore.ledger import Term, TermKind, plus
from notchcore.measure.fit import NO_FITS, Fits
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.render import say

READ_SD: Mm = 0.02  # what five more readings bring the spread of a thickness to, at best
KERF_SD: Mm = 0.01  # ... and a strips test that of a kerf


@dataclass(frozen=True, slots=True, kw_only=True)
class Shift:
    """How far a stock is off what is believed."""

    thickness: Mm = 0.0
    kerf: Mm = 0.0


def shifted_chances(assembly: Assembly, stocks: dict[str, Stock], *, shifts: Mapping[str, Shift], fits: Fits = NO_FITS) -> tuple[MeetingChances, ...]:
    """Return how the joints will feel when the files stay as they are and the sheets are others.

    A thicker sheet takes from the clearance of the slots it enters; a wider beam adds to every opening that it cuts.
    """
    stock = {p.id: p.stock for p in assembly.parts}
    meetings = []
    for m in assembly.meetings:
        if m.clearance is None:
            meetings.append(m)
            continue
        enters = stock[m.b] if stock[m.a] == m.kerf_stock else stock[m.a]
        by = m.kerf_share * shifts.get(m.kerf_stock, Shift()).kerf - (shifts.get(enters, Shift()).thickness if m.thickness_sd else 0.0)
        term = Term(kind=TermKind.FIT, label=say("term.what_if"), value=by, source=say("from.screen"))
        meetings.append(replace(m, clearance=plus(m.clearance, term)) if by else m)
    return meeting_chances(replace(assembly, meetings=tuple(meetings)), stocks, fits=fits)


def shifted_plays(plays: Iterable[ItemPlay], shifts: Mapping[str, Shift]) -> tuple[ItemPlay, ...]:
    """Return how items play in their rooms when the files stay as they are and the sheets are others."""

    def off(e: ErrorShare) -> Mm:
        shift = shifts.get(e.stock, Shift())
        return e.share * (shift.kerf if e.kind == "kerf" else shift.thickness)

    return tuple(replace(i, plays=tuple(p.moved(sum(map(off, p.errors))) for p in i.plays)) for i in plays)


class TestKind(StrEnum):
    """What can be measured."""

    __test__ = False  # pytest takes the name for a test

    READINGS = "readings"
    KERF = "kerf"


@dataclass(frozen=True, slots=True, kw_only=True)
class TestWorth:
    """How many joints fewer would need rework, on average, if this were measured well."""

    __test__ = False

    stock: str
    kind: TestKind
    saves: float


def worth_of_tests(assembly: Assembly, stocks: dict[str, Stock], *, fits: Fits = NO_FITS) -> tuple[TestWorth, ...]:
    """Return what each test would bring, the most first; those that bring nothing are left out."""
    now = sum(o.rework for o in meeting_chances(assembly, stocks, fits=fits))
    found = []
    for sid, stock in stocks.items():
        for kind in TestKind:
            sd = READ_SD if kind is TestKind.READINGS else KERF_SD
            old = stock.thickness if kind is TestKind.READINGS else stock.kerf
            if old.sd <= sd:
                continue
            surer = replace(old, sd=sd, terms=tuple(replace(t, sd=min(t.sd, sd)) for t in old.terms))
            other = replace(stock, thickness=surer) if kind is TestKind.READINGS else replace(stock, kerf=surer)
            then = assembly
            if kind is TestKind.READINGS:  # the spread of the sheet is kept with each meeting
                own = {p.id for p in assembly.parts if p.stock == sid}
                then = replace(
                    assembly,
                    meetings=tuple(
                        replace(m, thickness_sd=min(m.thickness_sd, sd)) if m.thickness_sd and (m.a in own or m.b in own) else m for m in assembly.meetings
                    ),
                )
            saves = now - sum(o.rework for o in meeting_chances(then, {**stocks, sid: other}, fits=fits))
            if saves > 0.005:
                found.append(TestWorth(stock=sid, kind=kind, saves=saves))
    return tuple(sorted(found, key=lambda w: -w.saves))
