"""Why a panel is as wide and as high as it is, and which sizes a person keeps in view.

Share    how much a size grows with a number or a thickness: its derivative, found by building the panel with that number a
         little changed. Sizes of sheets grow evenly with all lengths, so shares times lengths add up to the size (Euler's theorem on homogeneous functions).
Pin      a size of a panel, or the width of one of its openings or tongues, that is kept on the screen and the run sheet
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from notchcore.design.assembly import Assembly, Part, drawn_width
from notchcore.design.building import arranged
from notchcore.design.cards.pieces import Card
from notchcore.design.design import NO_DRAWINGS, Bed, Design, Pin
from notchcore.design.edits import Added
from notchcore.design.features.drawing import Drawing
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.panel import resolved
from notchcore.design.plates import of_plate
from notchcore.errors import DesignError
from notchcore.geom.profile import bounds_of
from notchcore.ledger import Quantity, Term, TermKind, Trust, plus, total
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say, written

STEPS: tuple[Mm, Mm] = (0.004, 0.016)  # by which a number is changed to see what follows it; both must say the same
LEAST_SHARE = 1e-4
SAME_SHARE = 1e-3
SAME_SIZE: Mm = 1e-3


class Along(StrEnum):
    """Which size of a panel, seen from its front."""

    X = "x"  # its width
    Y = "y"  # its height


@dataclass(frozen=True, slots=True, kw_only=True)
class Pinned:
    """A size in view, finished and as it is drawn in the files [mm]."""

    pin: Pin
    part_label: str
    label: str
    finished: Mm
    drawn: Mm


def size_of(part: Part, along: Along) -> Mm:
    """Return a finished size of a part along an axis of its plane [mm]."""
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    return x1 - x0 if along is Along.X else y1 - y0


def size_ledger(
    design: Design,
    assembly: Assembly,
    *,
    stocks: Mapping[str, Stock],
    part_id: str,
    along: Along,
    drawings: Mapping[str, Drawing] = NO_DRAWINGS,
    bed: Bed | None = None,
) -> Quantity:
    """Return the ledger of a part's finished size: the numbers and thicknesses that it follows, and what is fixed.

    Raises:
        DesignError: there is no such part
    """
    part = next((p for p in assembly.parts if p.id == part_id), None)
    if part is None:
        raise DesignError(say("no_such_panel"))
    value = size_of(part, along)
    terms: list[Term] = []
    if not isinstance(design.numbers, Card):
        asked = _Asked(stocks=stocks, drawings=drawings, bed=bed, panel=part_id, along=along)
        terms += _by_numbers(design, asked)
        terms += _by_added(design, asked)
        terms += _by_thickness(design, asked)
    left = value - sum(t.value for t in terms)
    if terms and abs(left) < SAME_SIZE:  # a last digit of the shares
        k = max(range(len(terms)), key=lambda i: abs(terms[i].value))
        terms[k] = replace(terms[k], value=terms[k].value + left)
    else:
        label = say("term.fixed" if terms else "term.as_drawn")
        terms.append(Term(kind=TermKind.LAYOUT, label=label, value=left, source=say("from.design"), trust=Trust.CHOSEN))
    return total(tuple(terms))


@dataclass(frozen=True, slots=True)
class _Asked:
    """A size of a panel of a design, to be asked again under other numbers and thicknesses."""

    stocks: Mapping[str, Stock]
    drawings: Mapping[str, Drawing]
    bed: Bed | None
    panel: str
    along: Along

    def size(self, design: Design, changed: Mapping[str, Stock] | None = None) -> Mm | None:
        """Return the size before joints are cut; None where the design does not hold the panel."""
        plan = arranged(design, changed or self.stocks, drawings=self.drawings, bed=self.bed)
        everything = {p.id: p for p in (*plan.ghosts, *plan.panels)}
        found = next((p for p in plan.panels if p.id == self.panel), None)
        if found is None:
            return None
        x0, y0, x1, y1 = bounds_of(resolved(found, everything).envelope.outer)
        return x1 - x0 if self.along is Along.X else y1 - y0


def _share(now: Mm | None, size_at: Callable[[Mm], Mm | None]) -> float:
    """Return how much a size grows with a number; 0 where it jumps, or cannot be said."""
    for sign in (1, -1):
        try:
            then = [size_at(sign * step) for step in STEPS]
        except DesignError:
            continue  # at the end of what is allowed: the other way then
        if now is None or None in then:
            continue
        small, large = ((v - now) / (sign * step) for v, step in zip(then, STEPS, strict=True) if v is not None)
        ratio = STEPS[1] / STEPS[0]  # what bends a little is followed to where the step is none (Richardson)
        return round((ratio * small - large) / (ratio - 1), 6) if abs(small - large) < SAME_SHARE else 0.0
    return 0.0


def _by_numbers(design: Design, asked: _Asked) -> list[Term]:
    terms = []
    now = asked.size(design)
    for about in numbers_of(type(design.numbers)):
        value = getattr(design.numbers, about.name)
        if about.kind is not NumberKind.LENGTH or not value:
            continue

        def size_at(step: Mm, name: str = about.name, value: Mm = value) -> Mm | None:
            numbers: Any = design.numbers
            return asked.size(replace(design, numbers=replace(numbers, **{name: value + step})))

        share = _share(now, size_at)
        if abs(share) > LEAST_SHARE:
            terms.append(
                Term(kind=TermKind.SIZE, label=_times(written(about.label), share), value=share * value, source=say("from.design"), trust=Trust.CHOSEN)
            )
    return terms


def _by_added(design: Design, asked: _Asked) -> list[Term]:
    """Return what comes of the lengths of added panels: of this one, and of those that it stands on."""
    by_id = {a.id: a for a in design.added}
    terms, waiting, seen = [], [of_plate(asked.panel)], set[str]()
    now = asked.size(design) if by_id else None
    while waiting:
        item = by_id.get(name := waiting.pop(0))
        if item is None or name in seen:
            continue
        seen.add(name)
        waiting += item.mates
        for field, label in item.lengths.items():
            value = getattr(item, field)

            def size_at(step: Mm, item: Added = item, field: str = field, value: Mm = value) -> Mm | None:
                other: Any = item
                changed = replace(other, **{field: value + step})
                return asked.size(replace(design, added=tuple(changed if a.id == item.id else a for a in design.added)))

            share = _share(now, size_at) if value else 0.0
            if abs(share) > LEAST_SHARE:
                called = written(label) if name == asked.panel else say("term.of_item", item=item.label, length=label)
                terms.append(Term(kind=TermKind.SIZE, label=_times(called, share), value=share * value, source=say("from.design"), trust=Trust.CHOSEN))
    return terms


def _by_thickness(design: Design, asked: _Asked) -> list[Term]:
    terms = []
    now = asked.size(design)
    for stock_id in design.stock_ids():
        stock = asked.stocks[stock_id]
        first = stock.thickness.terms[0]

        def size_at(step: Mm, stock: Stock = stock, first: Term = first) -> Mm | None:
            other = replace(stock, thickness=total((*stock.thickness.terms, replace(first, value=step, sd=0.0))))
            return asked.size(design, {**asked.stocks, stock.id: other})

        share = _share(now, size_at)
        if abs(share) > LEAST_SHARE:
            terms.append(
                Term(
                    kind=TermKind.MEASURED,
                    label=_times(say("term.thickness.of", stock=stock.ref), share),
                    value=share * stock.t,
                    sd=abs(share) * stock.thickness.sd,
                    source=first.source,
                    on=first.on,
                    trust=first.trust,
                )
            )
    return terms


def _times(label: Sentence, share: float) -> Sentence:
    near = round(share)
    whole = near != 0 and abs(share - near) < 1e-3
    if whole and abs(near) == 1:
        return label if near == 1 else say("term.less", term=label)
    return say("term.times", term=label, share=f"{near if whole else f'{share:.3f}'}".replace("-", "−"))


def drawn_size(finished: Quantity, kerf: Quantity) -> Quantity:
    """Return the ledger of an outer size as it is drawn in the file: half a kerf more at both ends."""
    first = kerf.terms[0]
    return plus(
        finished,
        Term(kind=TermKind.KERF, label=say("term.kerf.outline"), value=kerf.value, sd=kerf.sd, source=first.source, on=first.on, trust=first.trust),
    )


def pinned(assembly: Assembly, pins: tuple[Pin, ...], *, stocks: Mapping[str, Stock]) -> tuple[Pinned, ...]:
    """Return the sizes in view that are still there, in the order in which they were pinned."""
    found = []
    parts = {p.id: p for p in assembly.parts}
    for pin in pins:
        part = parts.get(pin.part)
        if part is None:
            continue
        kerf = stocks[part.stock].kerf
        if pin.what in (Along.X, Along.Y):
            size = size_of(part, Along(pin.what))
            label = "width" if pin.what == Along.X else "height"
            found.append(Pinned(pin=pin, part_label=part.label, label=label, finished=size, drawn=size + kerf.value))
            continue
        feature = next((f for f in part.features if f.id == pin.what), None)
        if feature is not None:
            found.append(Pinned(pin=pin, part_label=part.label, label=feature.kind.value, finished=feature.width.value, drawn=drawn_width(feature, kerf).value))
    return tuple(found)
