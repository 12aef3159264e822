"""The sheet's real thickness from caliper readings."""

from __future__ import annotations

import math
import statistics
from dataclasses import dataclass

from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.families import FAMILIES
from notchcore.units import Mm

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

    def __post_init__(self) -> None:
        require("thickness", self.thickness, THINNEST, THICKEST)


def effective_thickness(*, family_id: str, label: Mm, readings: tuple[Reading, ...], crush: float = 0.0) -> tuple[Quantity, tuple[Finding, ...]]:
    """Return the thickness to build with, and what is to be said about it.

    The mean of the readings, times (1 - crush) for soft stock; sd of one sheet, floored at the caliper's own resolution.

    Args:
        label: what the maker calls the sheet [mm]; stands in, as a guess, until there is a reading
        crush: share that a soft stock gives way in a joint, 0 <= crush < 0.5
    """
    family = FAMILIES[family_id]
    require("crush", crush, 0.0, 0.5, unit="")
    values = [r.thickness for r in readings]
    findings: list[Finding] = []
    if not values:
        quantity = single(TermKind.MEASURED, "Thickness, from the label", label * (1 - crush), sd=family.thickness_sd,
                          source="label, not measured", trust=Trust.DEFAULT)  # fmt: skip
    else:
        mean = statistics.fmean(values)
        spread = statistics.stdev(values) if len(values) > 1 else family.thickness_sd
        newest = max((r.on for r in readings), default="") or None
        count = f"{len(values)} reading{'s' if len(values) > 1 else ''}"
        quantity = single(TermKind.MEASURED, "Thickness, measured", mean * (1 - crush), sd=max(spread, RESOLUTION / math.sqrt(12)),
                          source=count, on=newest, trust=Trust.MEASURED)  # fmt: skip
        spread_range = max(values) - min(values)
        if spread_range > UNEVEN_RANGE or spread_range > UNEVEN_SHARE * mean:
            findings.append(
                Finding(
                    code="sheet_uneven",
                    severity=Severity.LOOK,
                    message=f"The readings differ by {spread_range:.2f} mm. Sort the sheets, or cut joints from this sheet's own readings.",
                    facts={"range_mm": spread_range},
                )
            )
        if abs(mean - label) > LABEL_SHARE * label:
            findings.append(
                Finding(
                    code="not_what_the_label_says",
                    severity=Severity.LOOK,
                    message=f"Not what the label says: {mean:.2f} instead of {label:.2f} mm. Slots follow the {mean:.2f}.",
                    facts={"mean_mm": mean, "label_mm": label},
                )
            )
    if len(values) < ENOUGH_READINGS:
        missing = ENOUGH_READINGS - len(values)
        findings.insert(
            0,
            Finding(
                code="thickness_guess",
                severity=Severity.LOOK,
                message=f"The thickness is a guess. {missing} more reading{'s' if missing > 1 else ''} would settle it.",
                facts={"readings": len(values)},
            ),
        )
    return quantity, tuple(findings)
