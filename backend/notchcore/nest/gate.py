"""The gate: nothing is published that an exact check, independent of the packing, does not pass."""

from __future__ import annotations

import math

from notchcore.findings import Finding, Severity
from notchcore.geom.planar import Polygon, moved, near_pairs
from notchcore.geom.profile import polygon_of
from notchcore.nest.values import NestPart, NestRules, Placement, SheetLayout

SLACK = 1e-3  # [mm, mm2] an overlap below this is float noise


def placed_shape(part: NestPart, placement: Placement) -> Polygon:
    """Return a part's finished shape where it lies on the sheet."""
    a = math.radians(placement.turn)
    cos, sin = round(math.cos(a), 12), round(math.sin(a), 12)
    return moved(polygon_of(part.profile), (cos, -sin, sin, cos, placement.x, placement.y))


def faults(layout: SheetLayout, parts: dict[str, NestPart], rules: NestRules) -> tuple[Finding, ...]:
    """Return what is wrong with one sheet: parts too near to each other or to the edge."""
    shapes = [(p, placed_shape(parts[p.part], p)) for p in layout.placements]
    usable = Polygon(layout.ring).buffer(-rules.margin + SLACK, join_style="mitre")
    found = []
    for p, shape in shapes:
        if not usable.covers(shape):
            found.append(Finding(code="outside_sheet", severity=Severity.MUST, parts=(p.part,), message=f"{p.part} reaches over the margin of {layout.name}."))
    for i, j in near_pairs([shape for _, shape in shapes], rules.spacing - SLACK):
        (p, a), (q, b) = shapes[i], shapes[j]
        if a.distance(b) < rules.spacing - SLACK or a.intersection(b).area > SLACK:  # at no spacing, overlap has no distance
            found.append(
                Finding(code="parts_too_near", severity=Severity.MUST, parts=(p.part, q.part),
                        message=f"{p.part} and {q.part} lie {a.distance(b):.2f} mm apart; {rules.spacing:.2f} is wanted.")
            )  # fmt: skip
    return tuple(found)
