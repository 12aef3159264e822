"""Stocks that are seen together and look the same, and what lies on the shelf that looks different."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import combinations

from notchcore.check.around import Around, OnShelf
from notchcore.design.assembly import Assembly
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.measure.contrast import HARD_TO_TELL, difference
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Names, Sentence
from notchcore.words.render import say

NEAR: Mm = 0.6  # so far another sheet may differ in thickness to take a stock's place


def alike(assembly: Assembly, stocks: Mapping[str, Stock], *, around: Around) -> tuple[Finding, ...]:
    """Return pairs of stocks that are seen together and are hard to tell apart, one finding a pair; stocks without a swatch are not judged.

    Each names what may take the place of one of them, the nearest in looks that lies on the shelf and differs from all that is seen.
    """
    first: dict[str, str] = {}
    for p in assembly.parts:
        if not p.helper:
            first.setdefault(p.stock, p.id)
    found = []
    for one, two in combinations(sorted(s for s in first if s in around.swatches), 2):
        d = difference(around.swatches[one], around.swatches[two])
        if d < HARD_TO_TELL:
            a, b = first[one], first[two]
            instead = {old: new for old in (two, one) if (new := _better(old, seen=first, stocks=stocks, around=around)) is not None}
            says = say(
                "stocks_alike",
                one=stocks[one].ref,
                two=stocks[two].ref,
                a=assembly.ref_of(a),
                b=assembly.ref_of(b),
                difference=round(d),
                clear=round(HARD_TO_TELL),
            )
            better = Names(tuple(dict.fromkeys(new.ref for new in instead.values())))
            found.append(
                Finding(
                    code="stocks_alike",
                    severity=Severity.LOOK,
                    parts=(a, b),
                    facts={"difference": round(d, 1), "first": stocks[one].name, "second": stocks[two].name},
                    says=say("stocks_alike.better", says=says, better=better) if instead else says,
                    repairs=_repairs(one, two, stocks=stocks, instead=instead),
                )
            )
    return tuple(found)


def _better(old: str, *, seen: Mapping[str, str], stocks: Mapping[str, Stock], around: Around) -> OnShelf | None:
    """Return what looks most like a stock, is about as thick, and differs from all others that are seen."""
    others = [around.swatches[s] for s in seen if s != old and s in around.swatches]
    t = stocks[old].thickness.value
    clear = [o for o in around.others if abs(o.t - t) <= NEAR and all(difference(o.look, look) >= HARD_TO_TELL for look in others)]
    return min(clear, key=lambda o: (difference(o.look, around.swatches[old]), o.ref.id), default=None)


def _repairs(one: str, two: str, *, stocks: Mapping[str, Stock], instead: Mapping[str, OnShelf]) -> tuple[Repair, ...]:
    """Return what makes the pair differ; and, for two that look the same may as well be one, what makes them one."""
    better = tuple(
        Repair(says=say("mend.instead", stock=new.ref.label, old=stocks[old].name), kind=RepairKind.STOCK, targets=(old,), values={"to": new.ref.id})
        for old, new in instead.items()
    )
    same = tuple(
        Repair(says=say("mend.all_of", stock=stocks[new].name), kind=RepairKind.STOCK, targets=(old,), values={"to": new})
        for old, new in ((one, two), (two, one))
    )
    return (*better, *same)


def told_apart(assembly: Assembly, stocks: Mapping[str, Stock], *, around: Around) -> Sentence:
    """Return what may be said when no two stocks were found alike: that they differ, or that nobody measured some."""
    seen = {p.stock for p in assembly.parts if not p.helper}
    unseen = sorted((stocks[s].ref for s in seen if s not in around.swatches), key=lambda r: r.label)
    if len(seen) < 2 or not unseen:
        return say("fine.stocks_alike")
    return say("fine.stocks_alike.unknown", stocks=Names(tuple(unseen)))
