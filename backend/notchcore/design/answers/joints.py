"""Slot, tab, angled slot: the same sums that the solver makes, for one joint alone."""

from __future__ import annotations

import math

from notchcore.design.answers.values import Answer, Result, Shape, box, measure, renamed
from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.geom.vectors import Vec2
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.fit import Boundaries, Feel, Fits, chance_as_wanted, chances_of, clearance_for, clearance_sd
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Listed, Share, mm
from notchcore.words.render import say

LEAST_ANGLE = 15.0
SAID = 0.02  # a feel less likely than this is not worth a word
NAMES = {Feel.RATTLES: "feel.rattles", Feel.SLIDES: "feel.slides", Feel.SNUG: "feel.snug", Feel.MALLET: "feel.mallet", Feel.WONT_GO: "feel.wont_go"}


def _kerf(stock: Stock, sign: float) -> Term:
    first = stock.kerf.terms[0]
    label = say("term.kerf.the_opening" if sign < 0 else "term.kerf.the_tongue")
    return Term(kind=TermKind.KERF, label=label, value=sign * first.value, sd=first.sd, source=first.source, on=first.on, trust=first.trust)


def _clearance(feel: Feel, by_hand: Mm | None, *, boundaries: Boundaries) -> Quantity:
    if by_hand is None:
        return clearance_for(feel, boundaries)
    require("clearance", by_hand, least=-5, most=5)
    return total((Term(kind=TermKind.FIT, label=say("term.clearance.by_hand"), value=by_hand, source=say("from.question"), trust=Trust.CHOSEN),))


def _chances(clearance: Mm, *, opening: Stock, mate: Stock, fits: Fits) -> Listed:
    """Return the chances of every feel that is likely enough to be said."""
    boundaries = fits.between(opening.key, mate.key)
    sd = clearance_sd(kerf_sd=opening.kerf.sd, thickness_sd=mate.thickness.sd, boundaries=boundaries, machine_sd=fits.machine_sd, opening=opening.id)
    chances = chances_of(clearance=clearance, sd=sd, boundaries=boundaries)
    likely = [(feel, chance_as_wanted(chances, feel)) for feel in Feel]
    return Listed(tuple(say(NAMES[feel], chance=Share(chance)) for feel, chance in likely if chance >= SAID))


def slot(*, sheet: Stock, mate: Stock, feel: Feel, fits: Fits, by_hand: Mm | None = None) -> Answer:
    """Return how wide a slot is drawn: t of what enters + clearance - kerf of the sheet it is cut in."""
    clearance = _clearance(feel, by_hand, boundaries=fits.between(sheet.key, mate.key))
    finished = total((renamed(mate.thickness, say("term.thickness.of", stock=mate.ref)), *clearance.terms))
    drawn = total((*finished.terms, _kerf(sheet, -1)))
    w = finished.value
    return Answer(
        says=say(
            "answer.slot",
            drawn=mm(drawn.value, digits=2),
            finished=mm(w, digits=2),
            enters=mm(mate.t, digits=2),
            chances=_chances(clearance.value, opening=sheet, mate=mate, fits=fits),
        ),
        results=(
            Result(label=say("result.draw_slot"), value=drawn.value),
            Result(label=say("result.comes_out"), value=w),
            Result(label=say("result.clearance"), value=clearance.value, name="clearance"),
            Result(label=say("result.enters"), value=mate.t),
        ),
        ledger=drawn,
        shapes=(
            Shape(points=box(-14, 0, x1=14, y1=12), style="sheet", label=sheet.name),
            Shape(points=box(-w / 2, 3, x1=w / 2, y1=12.0), style="gap"),
            Shape(points=box(-mate.t / 2, 4, x1=mate.t / 2, y1=18), style="mate", label=mate.name),
            measure((-w / 2, -3), (w / 2, -3)),
        ),
    )


def tab(*, sheet: Stock, mate: Stock, width: Mm, proud: Mm) -> Answer:
    """Return how a tab is drawn: width + kerf, as long as the mate is thick plus what stands proud."""
    require("tab width", width, least=0.5, most=500)
    require("proud", proud, least=-mate.t + 0.01, most=100)  # shorter, it would not reach into its mate
    length = total(
        (renamed(mate.thickness, say("term.thickness.of", stock=mate.ref)), Term(kind=TermKind.SIZE, label=say("term.proud"), value=proud, trust=Trust.CHOSEN))
    )
    finished = Term(kind=TermKind.SIZE, label=say("term.wanted_width"), value=width, trust=Trust.CHOSEN)
    drawn = total((finished, _kerf(sheet, 1)))
    findings: tuple[Finding, ...] = ()
    if width < 2 * sheet.t:
        findings = (Finding(code="weak_tab", severity=Severity.LOOK, says=say("weak_tab.twice")),)
    return Answer(
        says=say("answer.tab", drawn=mm(drawn.value, digits=2), finished=mm(width, digits=2), reach=mm(length.value, digits=2), mate=mate.ref),
        results=(
            Result(label=say("result.draw_tab"), value=drawn.value),
            Result(label=say("result.comes_out"), value=width),
            Result(label=say("result.length"), value=length.value),
            Result(label=say("result.good_width"), value=4 * sheet.t),
        ),
        ledger=drawn,
        findings=findings,
        shapes=(
            Shape(points=box(-30, -16, x1=30, y1=0), style="sheet", label=sheet.name),
            Shape(points=box(-width / 2, 0, x1=width / 2, y1=length.value), style="sheet"),
            Shape(points=box(-34, 0, x1=-width / 2, y1=mate.t), style="mate", label=mate.name),
            Shape(points=box(width / 2, 0, x1=34, y1=mate.t), style="mate"),
            measure((-width / 2, length.value + 4), (width / 2, length.value + 4)),
        ),
    )


def _leaning(mate: Stock, angle: float, *, middle: Mm) -> tuple[Vec2, ...]:
    """Return a sheet seen from its edge that goes through a height at an angle [radians], a little beyond on both sides."""
    reach = 14.0
    x, y = math.cos(angle), math.sin(angle)
    across = (-y * mate.t / 2, x * mate.t / 2)
    return tuple((e * x * reach + s * across[0], e * y * reach + s * across[1] + middle) for e, s in ((-1, 1), (1, 1), (1, -1), (-1, -1)))


def angled_slot(*, sheet: Stock, mate: Stock, angle: float, feel: Feel, fits: Fits, by_hand: Mm | None = None) -> Answer:
    """Return how wide a slot is for a sheet that enters at an angle: t / sin(a) + T / |tan(a)| + clearance - kerf.

    Args:
        angle: between the two planes [degrees], 90 is square
    """
    require("angle", angle, least=LEAST_ANGLE, most=180 - LEAST_ANGLE, unit="°")
    a = math.radians(angle)
    across = mate.t / math.sin(a)
    lean = 0.0 if angle == 90 else sheet.t / abs(math.tan(a))
    first = mate.thickness.terms[0]
    clearance = _clearance(feel, by_hand, boundaries=fits.between(sheet.key, mate.key))
    finished = total(
        (
            renamed(mate.thickness, say("term.thickness.of", stock=mate.ref)),
            Term(kind=TermKind.ANGLE, label=say("term.enters_at", angle=f"{angle:g}°"), value=across - mate.t, sd=first.sd * (1 / math.sin(a) - 1)),
            Term(kind=TermKind.ANGLE, label=say("term.own_thickness", stock=sheet.ref), value=lean, sd=sheet.thickness.sd / abs(math.tan(a)) if lean else 0.0),
            *clearance.terms,
        )
    )
    drawn = total((*finished.terms, _kerf(sheet, -1)))
    w, t_sheet = finished.value, sheet.t
    return Answer(
        says=say(
            "answer.angled",
            angle=f"{angle:g}°",
            drawn=mm(drawn.value, digits=2),
            finished=mm(w, digits=2),
            wedge=mm(lean, digits=2),
            chances=_chances(clearance.value, opening=sheet, mate=mate, fits=fits),
        ),
        results=(
            Result(label=say("result.draw_slot"), value=drawn.value),
            Result(label=say("result.comes_out"), value=w),
            Result(label=say("result.along_face"), value=across),
            Result(label=say("result.lean"), value=lean),
            Result(label=say("result.clearance"), value=clearance.value, name="clearance"),
        ),
        ledger=drawn,
        shapes=(
            Shape(points=box(-22, 0, x1=22, y1=t_sheet), style="sheet", label=sheet.name),
            Shape(points=box(-w / 2, 0, x1=w / 2, y1=t_sheet), style="gap"),
            Shape(points=_leaning(mate, a, middle=t_sheet / 2), style="mate", label=mate.name),
            measure((-w / 2, -4), (w / 2, -4)),
        ),
    )
