"""Slot, tab, angled slot: the same sums that the solver makes, for one joint alone."""

from __future__ import annotations

import math

from notchcore.design.answers.values import Answer, Result, Shape, box, measure, renamed
from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.fit import Boundaries, Feel, Fits, chance_as_wanted, clearance_for, clearance_sd, odds_of
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LEAST_ANGLE = 15.0
SAID = 0.02  # a feel less likely than this is not worth a word
NAMES = {Feel.RATTLES: "rattles", Feel.SLIDES: "slides", Feel.SNUG: "is snug", Feel.MALLET: "needs a mallet", Feel.WONT_GO: "won't go"}


def _kerf(stock: Stock, sign: float) -> Term:
    first = stock.kerf.terms[0]
    label = "Kerf, the opening is drawn narrower" if sign < 0 else "Kerf, the tongue is drawn wider"
    return Term(kind=TermKind.KERF, label=label, value=sign * first.value, sd=first.sd, source=first.source, on=first.on, trust=first.trust)


def _clearance(feel: Feel, by_hand: Mm | None, boundaries: Boundaries) -> Quantity:
    if by_hand is None:
        return clearance_for(feel, boundaries)
    require("clearance", by_hand, -5, 5)
    return total((Term(kind=TermKind.FIT, label="Clearance, set by hand", value=by_hand, source="this question", trust=Trust.CHOSEN),))


def _told(words: str, clearance: Mm, *, opening: Stock, mate: Stock, fits: Fits) -> str:
    """Return the words with the odds of every feel that is likely enough to be said."""
    boundaries = fits.between(opening.key, mate.key)
    sd = clearance_sd(kerf_sd=opening.kerf.sd, thickness_sd=mate.thickness.sd, boundaries=boundaries, machine_sd=fits.machine_sd, opening=opening.id)
    odds = odds_of(clearance=clearance, sd=sd, boundaries=boundaries)
    said = [f"{NAMES[feel]} in {chance_as_wanted(odds, feel):.0%}" for feel in Feel if chance_as_wanted(odds, feel) >= SAID]
    return f"{words} Of all cuts it {', '.join(said)}."


def slot(*, sheet: Stock, mate: Stock, feel: Feel, fits: Fits, by_hand: Mm | None = None) -> Answer:
    """Return how wide a slot is drawn: t of what enters + clearance - kerf of the sheet it is cut in."""
    clearance = _clearance(feel, by_hand, fits.between(sheet.key, mate.key))
    finished = total((renamed(mate.thickness, f"{mate.name}, thickness"), *clearance.terms))
    drawn = total((*finished.terms, _kerf(sheet, -1)))
    w = finished.value
    return Answer(
        words=_told("Draw the slot {0} wide; it comes out {1}, for a sheet of {3}.", clearance.value, opening=sheet, mate=mate, fits=fits),
        results=(
            Result(label="Draw the slot", value=drawn.value),
            Result(label="It comes out", value=w),
            Result(label="Clearance", value=clearance.value),
            Result(label="What enters", value=mate.t),
        ),
        ledger=drawn,
        shapes=(
            Shape(points=box(-14, 0, 14, 12), style="sheet", label=sheet.name),
            Shape(points=box(-w / 2, 3, w / 2, 12.0), style="gap"),
            Shape(points=box(-mate.t / 2, 4, mate.t / 2, 18), style="mate", label=mate.name),
            measure((-w / 2, -3), (w / 2, -3), f"{w:.2f}"),
        ),
    )


def tab(*, sheet: Stock, mate: Stock, width: Mm, proud: Mm) -> Answer:
    """Return how a tab is drawn: width + kerf, as long as the mate is thick plus what stands proud."""
    require("tab width", width, 0.5, 500)
    require("proud", proud, -mate.t + 0.01, 100)  # shorter, it would not reach into its mate
    length = total((renamed(mate.thickness, f"{mate.name}, thickness"), Term(kind=TermKind.SIZE, label="Stands proud", value=proud, trust=Trust.CHOSEN)))
    finished = Term(kind=TermKind.SIZE, label="Wanted width", value=width, trust=Trust.CHOSEN)
    drawn = total((finished, _kerf(sheet, 1)))
    findings: tuple[Finding, ...] = ()
    if width < 2 * sheet.t:
        findings = (Finding(code="weak_tab", severity=Severity.LOOK, message="A tab narrower than twice its thickness breaks easily."),)
    return Answer(
        words=f"Draw the tab {{0}} wide, so that {{1}} are left. It reaches {{2}}, through {mate.name}.",
        results=(Result(label="Draw the tab", value=drawn.value), Result(label="It comes out", value=width), Result(label="Length", value=length.value),
                 Result(label="Good width, 4 × thickness", value=4 * sheet.t)),
        ledger=drawn,
        findings=findings,
        shapes=(
            Shape(points=box(-30, -16, 30, 0), style="sheet", label=sheet.name),
            Shape(points=box(-width / 2, 0, width / 2, length.value), style="sheet"),
            Shape(points=box(-34, 0, -width / 2, mate.t), style="mate", label=mate.name),
            Shape(points=box(width / 2, 0, 34, mate.t), style="mate"),
            measure((-width / 2, length.value + 4), (width / 2, length.value + 4), f"{width:.2f}"),
        ),
    )  # fmt: skip


def angled_slot(*, sheet: Stock, mate: Stock, angle: float, feel: Feel, fits: Fits, by_hand: Mm | None = None) -> Answer:
    """Return how wide a slot is for a sheet that enters at an angle: t / sin(a) + T / |tan(a)| + clearance - kerf.

    Args:
        angle: between the two planes [degrees], 90 is square
    """
    require("angle", angle, LEAST_ANGLE, 180 - LEAST_ANGLE, unit="°")
    a = math.radians(angle)
    across = mate.t / math.sin(a)
    lean = 0.0 if angle == 90 else sheet.t / abs(math.tan(a))
    first = mate.thickness.terms[0]
    clearance = _clearance(feel, by_hand, fits.between(sheet.key, mate.key))
    finished = total((
        renamed(mate.thickness, f"{mate.name}, thickness"),
        Term(kind=TermKind.ANGLE, label=f"Enters at {angle:g}°: t / sin", value=across - mate.t, sd=first.sd * (1 / math.sin(a) - 1)),
        Term(kind=TermKind.ANGLE, label=f"{sheet.name}, its own thickness: T / tan", value=lean, sd=sheet.thickness.sd / abs(math.tan(a)) if lean else 0.0),
        *clearance.terms,
    ))  # fmt: skip
    drawn = total((*finished.terms, _kerf(sheet, -1)))
    w, t_sheet = finished.value, sheet.t
    reach = 14.0
    direction = (math.cos(a), math.sin(a))
    normal = (-direction[1] * mate.t / 2, direction[0] * mate.t / 2)
    ends = [(-direction[0] * reach, -direction[1] * reach), (direction[0] * reach, direction[1] * reach)]
    strip = tuple((e[0] + s * normal[0], e[1] + s * normal[1] + t_sheet / 2) for e, s in ((ends[0], 1), (ends[1], 1), (ends[1], -1), (ends[0], -1)))
    return Answer(
        words=_told(
            f"At {angle:g}° draw the slot {{0}} wide; it comes out {{1}}, straight-walled, and {{3}} of it stays an open wedge.", clearance.value,
            opening=sheet, mate=mate, fits=fits,
        ),
        results=(Result(label="Draw the slot", value=drawn.value), Result(label="It comes out", value=w), Result(label="Along the face", value=across),
                 Result(label="For the lean", value=lean), Result(label="Clearance", value=clearance.value)),
        ledger=drawn,
        shapes=(
            Shape(points=box(-22, 0, 22, t_sheet), style="sheet", label=sheet.name),
            Shape(points=box(-w / 2, 0, w / 2, t_sheet), style="gap"),
            Shape(points=strip, style="mate", label=mate.name),
            measure((-w / 2, -4), (w / 2, -4), f"{w:.2f}"),
        ),
    )  # fmt: skip
