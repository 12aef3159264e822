"""What must locate or hold by itself: engraved seats deep enough to feel, and laced edges with as many holes on both sides."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import TypeGuard

from notchcore.check.around import Around
from notchcore.check.features import named
from notchcore.design.assembly import Assembly, Part
from notchcore.design.design import Design, as_chosen
from notchcore.design.features.made import ENTERS
from notchcore.design.features.registry import Feature
from notchcore.design.features.values import Hole, Recess, RecessShape
from notchcore.design.styles import Style
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.profile import bounds_of, polygon_of
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import Vec2, Vec3
from notchcore.measure.engraving import depth_finding
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Count, Fact, Kind, Ref, mm
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
        if pocket := _pocket(large, small):
            found += _of_pocket(m.id, small, large=large, stock=stocks[large.stock], pocket=pocket, known=depth > 0)
            continue
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


def _pocket(large: Part, small: Part) -> Mm:
    """Return how deep the pocket of a piece shall be; 0 for a seat that only locates."""
    own = polygon_of(small.profile).representative_point()
    spot = Point(large.pose.to_plane(small.pose.to_world((own.x, own.y))))
    return next((k.depth for k in large.marks if k.depth and Polygon(k.line).buffer(0).contains(spot)), 0.0)


def _of_pocket(meeting: str, small: Part, *, large: Part, stock: Stock, pocket: Mm, known: bool) -> list[Finding]:
    """Return what there is to say about a pocket that a piece lies in: that nobody knows its passes, or that it leaves too little of its sheet."""
    parts, found = (large.id, small.id), []
    if not known:
        says = say("pocket_depth_unknown", small=small.ref, large=large.ref, stock=stock.ref, depth=mm(pocket, digits=2))
        found.append(Finding(code="pocket_depth_unknown", severity=Severity.LOOK, parts=parts, meeting=meeting, facts={"depth_mm": pocket}, says=says))
    if (deep := depth_finding(pocket, large.t)) is not None:
        through = Repair(says=say("mend.glue_on"), kind=RepairKind.CHOICE, targets=(meeting,), values={"style": "glue"})
        found.append(replace(deep, parts=parts, meeting=meeting, says=say("engraved_too_deep", part=large.ref, note=deep.says), repairs=(through,)))
    return found


def wished_depths(assembly: Assembly, design: Design, *, stocks: Mapping[str, Stock], around: Around) -> tuple[Finding, ...]:
    """Return what is engraved to a depth that nobody knows the passes of, and recesses that are shallower than what enters them."""
    there = as_chosen(design).features
    found = []
    for part in assembly.parts:
        for feature, depth in {m.feature: m.depth for m in part.marks if m.feature and m.depth}.items():
            if around.depths.get(part.stock, 0.0) > 0:
                continue
            named_so: dict[str, Fact] = {"feature": Ref(Kind.FEATURE, feature, named(feature, design)), "part": part.ref}
            says = say("engraving_depth_unknown", depth=mm(depth, digits=2), stock=stocks[part.stock].ref, **named_so)
            found.append(Finding(code="engraving_depth_unknown", severity=Severity.LOOK, parts=(part.id,), facts={"feature": feature}, says=says))
    found += _of_families(assembly, stocks=stocks, around=around)
    parts = {p.id: p for p in assembly.parts}
    found += [_shallow(f, parts[f.mate], part=parts[f.panel], design=design) for f in there if _too_shallow(f, parts)]
    return tuple(found)


def _of_families(assembly: Assembly, *, stocks: Mapping[str, Stock], around: Around) -> list[Finding]:
    """Return the recesses that belong to no feature and hold no piece, of stocks whose passes nobody knows."""
    holding = {p for m in assembly.meetings if m.style is Style.RECESS for p in (m.a, m.b)}
    found = []
    for part in assembly.parts:
        deep = max((m.depth for m in part.marks if not m.feature), default=0.0)
        if not deep or part.id in holding or around.depths.get(part.stock, 0.0) > 0:
            continue
        says = say("engraving_depth_unknown.part", depth=mm(deep, digits=2), stock=stocks[part.stock].ref, part=part.ref)
        found.append(Finding(code="engraving_depth_unknown", severity=Severity.LOOK, parts=(part.id,), facts={"depth_mm": deep}, says=says))
    return found


def _too_shallow(f: Feature, parts: Mapping[str, Part]) -> TypeGuard[Recess]:
    return isinstance(f, Recess) and f.shape is RecessShape.PANEL and {f.mate, f.panel} <= set(parts) and 0 < f.depth < parts[f.mate].t


def _shallow(f: Recess, mate: Part, *, part: Part, design: Design) -> Finding:
    least = round(mate.t + ENTERS, 2)
    return Finding(
        code="recess_too_shallow",
        severity=Severity.LOOK,
        parts=(part.id, mate.id),
        facts={"feature": f.id, "depth_mm": f.depth, "least_mm": least},
        says=say(
            "recess_too_shallow.rim",
            feature=Ref(Kind.FEATURE, f.id, named(f.id, design)),
            part=part.ref,
            mate=mate.ref,
            depth=mm(f.depth, digits=2),
            thick=mm(mate.t, digits=2),
            least=mm(least, digits=2),
        ),
        repairs=(Repair(says=say("mend.deep", depth=mm(least, digits=2)), kind=RepairKind.FEATURE, targets=(f.id,), values={"depth": least}),),
    )


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
