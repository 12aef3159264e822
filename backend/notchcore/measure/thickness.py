"""The sheet's real thickness from caliper readings."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.ledger import Quantity, Term, TermKind, Trust, single
from notchcore.measure.materials import MATERIALS, Material
from notchcore.measure.pooling import odd_ones
from notchcore.units import Mm
from notchcore.words.facts import Count, mm
from notchcore.words.render import say

RESOLUTION: Mm = 0.01  # of an ordinary caliper
THINNEST: Mm = 0.05
THICKEST: Mm = 50.0
UNEVEN_RANGE: Mm = 0.15
UNEVEN_SHARE = 0.05
LABEL_SHARE = 0.03
ENOUGH_READINGS = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One caliper reading; `x` and `y` tell where on the sheet, 0..1 of its width and height."""

    thickness: Mm
    x: float = 0.5
    y: float = 0.5
    on: str = ""  #: ISO date
    by: str = ""
    borrowed: str = ""  #: the stock that it was really taken from; empty for this one

    def __post_init__(self) -> None:
        require("thickness", self.thickness, least=THINNEST, most=THICKEST)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spread:
    """What the readings look like as numbers [mm]."""

    count: int
    mean: Mm
    sd: Mm  #: of one spot of the sheet, floored at the caliper's own resolution
    range: Mm
    mean_sd: Mm  #: how far the mean may be off; falls with every reading


def spread_of(values: list[float], material: Material) -> Spread:
    """Return mean, sd and range of at least one reading. With one reading the material's own spread stands in for the sd."""
    sd = statistics.stdev(values) if len(values) > 1 else material.thickness_sd
    return Spread(
        count=len(values),
        mean=statistics.fmean(values),
        sd=max(sd, RESOLUTION / math.sqrt(12)),
        range=max(values) - min(values),
        mean_sd=material.thickness_sd / math.sqrt(len(values)),
    )


def _findings(spread: Spread, values: list[float], *, label: Mm, material: Material) -> list[Finding]:
    found = []
    if spread.range > UNEVEN_RANGE or spread.range > UNEVEN_SHARE * spread.mean:
        found.append(
            Finding(code="sheet_uneven", severity=Severity.LOOK, facts={"range_mm": spread.range}, says=say("sheet_uneven", range=mm(spread.range, digits=2)))
        )
    for i in odd_ones(values, sd=material.thickness_sd):
        found.append(
            Finding(
                code="reading_odd",
                severity=Severity.LOOK,
                facts={"reading": i, "thickness_mm": values[i]},
                says=say("reading_odd", reading=mm(values[i], digits=2)),
            )
        )
    if abs(spread.mean - label) > LABEL_SHARE * label:
        found.append(
            Finding(
                code="not_what_the_label_says",
                severity=Severity.LOOK,
                facts={"mean_mm": spread.mean, "label_mm": label},
                says=say("not_what_the_label_says", mean=mm(spread.mean, digits=2), label=mm(label, digits=2)),
            )
        )
    return found


def _from_readings(used: Sequence[Reading], spread: Spread, *, material: Material, crush: float) -> Quantity:
    """Return the thickness that readings give, all of this batch or all borrowed from another."""
    newest = max((r.on for r in used), default="") or None
    count, of = Count(len(used), "reading", "readings"), used[0].borrowed
    value = spread.mean * (1 - crush)
    if not of:
        source = say("from.readings", readings=count)
        return single(TermKind.MEASURED, say("term.thickness.measured"), value=value, sd=spread.sd, source=source, on=newest, trust=Trust.MEASURED)
    # another batch may differ from this one as much as one reading may be off
    sd, source = max(spread.sd, material.thickness_sd), say("from.readings.borrowed", readings=count, of=of)
    return single(TermKind.MEASURED, say("term.thickness.borrowed"), value=value, sd=sd, source=source, on=newest, trust=Trust.DEFAULT)


def effective_thickness(*, material_id: str, label: Mm, readings: tuple[Reading, ...], crush: float = 0.0) -> tuple[Quantity, tuple[Finding, ...]]:
    """Return the thickness to build with, and what is to be said about it.

    The mean of the readings, times (1 - crush) for soft stock; sd of one sheet, floored at the caliper's own resolution.
    Borrowed readings stand in until the stock has one of its own.

    Args:
        label: what the maker calls the sheet [mm]; stands in, as a guess, until there is a reading
        crush: share that a soft stock gives way in a joint, 0 <= crush < 0.5
    """
    material = MATERIALS[material_id]
    require("crush", crush, least=0.0, most=0.5, unit="")
    own = [r for r in readings if not r.borrowed]
    used = own or list(readings)
    findings: list[Finding] = []
    if not used:
        quantity = single(
            TermKind.MEASURED, say("term.thickness.label"), value=label * (1 - crush), sd=material.thickness_sd, source=say("from.label"), trust=Trust.DEFAULT
        )
    else:
        values = [r.thickness for r in used]
        spread = spread_of(values, material)
        quantity = _from_readings(used, spread, material=material, crush=crush)
        findings = _findings(spread, values, label=label, material=material)
    if len(own) < ENOUGH_READINGS:
        missing = ENOUGH_READINGS - len(own)
        findings.insert(
            0,
            Finding(
                code="thickness_guess",
                severity=Severity.LOOK,
                says=say("thickness_guess", missing=Count(missing, "more reading", "more readings")),
                facts={"readings": len(own)},
            ),
        )
    return quantity, tuple(findings)


def how_known(thickness: Term) -> str:
    """Return how the thickness of a sheet is known: `measured`, `borrowed` or from the `label`."""
    if thickness.trust is Trust.MEASURED:
        return "measured"
    return "borrowed" if thickness.label.key == "term.thickness.borrowed" else "label"
