"""What must locate or hold by itself: engraved seats deep enough to feel, and laced edges with as many holes on both sides."""

from __future__ import annotations

import math
from collections.abc import Mapping

from notchcore.check.around import Around
from notchcore.design.assembly import Assembly, Part
from notchcore.design.design import Design
from notchcore.design.features.values import Hole
from notchcore.design.styles import Style
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import Vec2, Vec3
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Count, Fact, mm
from notchcore.words.render import say

SEAT_LEAST: Mm = 0.3  # a shallower seat does not locate a sheet by feel
LACE_MOST: Mm = 20.0  # a row of holes farther from the edge than this is not for a lace, nor is a longer hole
LACE_ROW = 3  # holes that make a row
LACE_SHARE = 0.5  # of the edge that a laced row runs along, at least
IN_LINE: Mm = 1.0


def shallow_seats(assembly: Assembly, stocks: Mapping[str, Stock], *, around: Around) -> tuple[Finding, ...]:
    """Return engraved seats that are too shallow to locate what lies in them, or whose depth nobody measured."""
    parts = {p.id: p for p in assembly.parts}
    found = []
    for m in assembly.meetings:
        if m.style is not Style.RECESS:
            continue
        small, large = sorted((parts[m.a], parts[m.b]), key=lambda p: (Polygon(p.nominal.outer).area, p.id))
        depth = around.depths.get(large.stock, 0.0)
        if depth >= SEAT_LEAST - 1e-9:
            continue
        named: dict[str, Fact] = {"small": small.ref, "large": large.ref, "least": mm(SEAT_LEAST), "stock": stocks[large.stock].ref}
        says = say("recess_too_shallow", depth=mm(depth, digits=2), **named) if depth else say("recess_too_shallow.unknown", **named)
        found.append(
            Finding(
                code="recess_too_shallow",
                severity=Severity.LOOK,
                parts=(large.id, small.id),
                meeting=m.id,
                facts={"depth_mm": depth, "least_mm": SEAT_LEAST},
                says=says,
                repairs=(
                    Repair(says=say("mend.score_place"), kind=RepairKind.CHOICE, targets=(m.id,), values={"style": "blind"}),
                    Repair(says=say("mend.dowels"), kind=RepairKind.CHOICE, targets=(m.id,), values={"style": "dowels"}),
                ),
            )
        )
    return tuple(found)


def _away(box: tuple[float, ...], p: Vec3) -> float:
    return math.dist(p, [min(max(p[k], box[k]), box[k + 3]) for k in range(3)])


def _lace(part: Part, mate: Part, *, length: Mm) -> list[str]:
    """Return the features of the holes that stand in one row along the edge at which a mate meets the part, a name for each hole."""
    near: list[tuple[float, Vec2, str]] = []
    box = box_of(mate.slab(nominal=True))
    for o in part.openings:
        x0, y0, x1, y1 = bounds_of(o.ring)
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        away = _away(box, part.pose.to_world(middle))
        if max(x1 - x0, y1 - y0) <= LACE_MOST and away <= LACE_MOST:
            near.append((away, middle, o.feature))
    if len(near) < LACE_ROW or max(n[0] for n in near) - min(n[0] for n in near) > IN_LINE:
        return []
    runs = max(math.dist(p[1], q[1]) for p in near for q in near)
    return [n[2] for n in near] if runs >= LACE_SHARE * length else []


def unequal_laces(assembly: Assembly, design: Design) -> tuple[Finding, ...]:
    """Return meetings whose two edges have rows of holes for a lace, but not equally many."""
    parts = {p.id: p for p in assembly.parts}
    found = []
    for m in assembly.meetings:
        a, b = parts[m.a], parts[m.b]
        if len(a.openings) < LACE_ROW or len(b.openings) < LACE_ROW:
            continue
        rows = (_lace(a, b, length=m.length), _lace(b, a, length=m.length))
        if not all(rows) or len(rows[0]) == len(rows[1]):
            continue
        found.append(
            Finding(
                code="laces_unequal",
                severity=Severity.LOOK,
                parts=(a.id, b.id),
                meeting=m.id,
                facts={"first": len(rows[0]), "second": len(rows[1])},
                says=say("laces_unequal", a=a.ref, b=b.ref, first=Count(len(rows[0]), "hole along its edge", "holes along its edge"), second=len(rows[1])),
                repairs=_as_many((a, b), rows, design=design),
            )
        )
    return tuple(found)


def _as_many(parts: tuple[Part, Part], rows: tuple[list[str], list[str]], *, design: Design) -> tuple[Repair, ...]:
    """Return how one row gets the count of the other over the same run, where the row is one feature."""
    features = {f.id: f for f in design.features}
    repairs = []
    for own, other, part in ((rows[0], rows[1], parts[0]), (rows[1], rows[0], parts[1])):
        f = features.get(own[0])
        if len(set(own)) > 1 or not isinstance(f, Hole) or min(f.columns, f.rows) != 1:
            continue
        count, pitch = ("columns", "pitch_x") if f.columns > 1 else ("rows", "pitch_y")
        run = getattr(f, pitch) * (len(own) - 1)
        values = {count: len(other), pitch: round(run / (len(other) - 1), 3)}
        repairs.append(
            Repair(says=say("mend.holes", holes=Count(len(other), "hole", "holes"), part=part.ref), kind=RepairKind.FEATURE, targets=(f.id,), values=values)
        )
    return tuple(repairs)
