"""Kerf corrected in joints only, or nowhere: what the beam leaves has the widths that the ledgers say."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from shapely.geometry import Point, Polygon

from notchcore.check.dry_fit import as_cut, dry_fit
from notchcore.design.assembly import JointFeature
from notchcore.design.building import build
from notchcore.design.features.values import Falls, Window
from notchcore.design.joints.solve import solve
from notchcore.geom.contours import sampled
from notchcore.geom.profile import Profile, rectangle
from notchcore.measure.fit import Fits
from notchcore.measure.machine import KerfPlace, Operation, default_settings
from notchcore.nest.gate import placed_shape, shape_at
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import NestPart, NestRules, SheetKind
from notchcore.plan.cut_plan import CutPlan, cut_plan
from tests.core.test_joints import measured_width
from tests.core.test_kinds import plate
from tests.core.test_plan import MACHINE, job, sheet_file
from tests.strategies import make_box, make_stock


def beamed(plan: CutPlan, kerf: float) -> dict[str, Polygon]:
    """Return what the beam leaves of each part, by part, where it lies."""
    left = {}
    for s in plan.sheets[0].strokes:
        if s.path.operation is Operation.OUTER:
            left[s.path.part] = Polygon(sampled(s.path.contour)).buffer(-kerf / 2, join_style="mitre")
    for s in plan.sheets[0].strokes:
        if s.path.operation is Operation.INNER:
            left[s.path.part] = left[s.path.part].difference(Polygon(sampled(s.path.contour)).buffer(kerf / 2, join_style="mitre"))
    return left


@pytest.mark.parametrize("kerf", [0.08, 0.16, 0.3])
def test_corrected_in_joints_only_slots_and_tabs_have_their_widths_and_outlines_lie_on_the_line(kerf: float) -> None:
    assembly, nesting, plan, _ = job(replace(MACHINE, kerf_place=KerfPlace.JOINTS), kerf)
    left = beamed(plan, kerf)
    places = {p.part: p for p in nesting.sheets[0].placements}
    inner = {f.kind for p in assembly.parts for f in p.features if f.meeting}
    assert {"slot", "notch", "lap", "tab"} <= {k.value for k in inner}
    compared = 0
    for part in assembly.parts:
        whole, drawn = placed_shape(NestPart(id=part.id, stock="ply", profile=part.profile), places[part.id]), left[part.id]
        (x0, y0, x1, y1), (u0, v0, u1, v1) = whole.bounds, drawn.bounds
        assert (u1 - u0, v1 - v0) == pytest.approx((x1 - x0 - kerf, y1 - y0 - kerf), abs=2e-3)
        assert whole.contains(drawn.buffer(-1e-4))
        for f in part.features:
            if not f.meeting or f.kind.value not in ("slot", "lap", "notch", "tab"):
                continue
            corners = shape_at(Polygon(f.corners), places[part.id].turn, x=places[part.id].x, y=places[part.id].y)
            at = replace(f, corners=tuple(corners.exterior.coords[:4]), axis=turned_axis(f.axis, places[part.id].turn))
            if f.kind.is_gap and at_the_end(at, whole):
                continue
            compared += 1
            assert measured_width(drawn, at) == pytest.approx(f.width.value, abs=2e-3)
    assert compared > 20
    assert next(f for f in plan.findings if f.code == "kerf_in_joints")
    assert "joints of these paths" in sheet_file(plan, replace(MACHINE, kerf_place=KerfPlace.JOINTS)).statement.text


@pytest.mark.parametrize("play", [0.0, 1.2])  # none drawn: as its feel wants it
@pytest.mark.parametrize("kerf", [0.08, 0.3])
def test_corrected_in_joints_only_a_piece_fits_its_opening_as_its_ledger_says(kerf: float, play: float) -> None:
    stocks = {"ply": make_stock("ply", 3.0, kerf=kerf)}
    frame = Profile(outer=rectangle(0, 0, x1=120, y1=90).outer, holes=(tuple(reversed(rectangle(30, 30, x1=80, y1=60).outer)),))
    panels = (plate("frame", frame), plate("piece", rectangle(30, 30, x1=80 - play, y1=60 - play)))
    assembly = solve(list(panels), rules=(), stocks=stocks)
    (meeting,) = assembly.meetings
    parts = [NestPart(id=p.id, stock="ply", profile=p.profile) for p in assembly.parts]
    nesting = pack(parts, [SheetKind(id="s", stock="ply", name="Ply", width=600, height=400, count=2)], rules=NestRules(), work=Work(1))
    plan = cut_plan(assembly, nesting, stocks=stocks, machine=replace(MACHINE, kerf_place=KerfPlace.JOINTS), settings={"ply": default_settings(stocks["ply"])})
    left = beamed(plan, kerf)
    (opening,) = left["frame"].interiors
    (x0, y0, x1, y1), (u0, v0, u1, v1) = Polygon(opening).bounds, left["piece"].bounds
    sides = sorted((x1 - x0, y1 - y0)), sorted((u1 - u0, v1 - v0))
    assert sides[0] == pytest.approx([30, 50], abs=1e-3)
    assert meeting.clearance is not None
    assert [a - b for a, b in zip(*sides, strict=True)] == pytest.approx([meeting.clearance.value] * 2, abs=1e-3)
    assert meeting.clearance.value == pytest.approx(play or 0.015, abs=1e-6)


@pytest.mark.parametrize("kerf", [0.08, 0.3])
def test_corrected_nowhere_the_beam_leaves_the_clearance_that_the_dry_fit_reckons_with(kerf: float) -> None:
    assembly, nesting, plan, stocks = job(replace(MACHINE, kerf_place=KerfPlace.NONE), kerf)
    left = beamed(plan, kerf)
    places = {p.part: p for p in nesting.sheets[0].placements}
    looser: dict[str, dict[bool, float]] = {m.id: {} for m in assembly.meetings if m.clearance is not None}
    for part in assembly.parts:
        whole = placed_shape(NestPart(id=part.id, stock="ply", profile=part.profile), places[part.id])
        for f in part.features:
            if f.meeting not in looser:
                continue
            corners = shape_at(Polygon(f.corners), places[part.id].turn, x=places[part.id].x, y=places[part.id].y)
            at = replace(f, corners=tuple(corners.exterior.coords[:4]), axis=turned_axis(f.axis, places[part.id].turn))
            if at_the_end(at, whole):
                continue
            by = (measured_width(left[part.id], at) - f.width.value) * (1 if f.kind.is_gap else -1)
            looser[f.meeting][f.kind.is_gap] = max(by, looser[f.meeting].get(f.kind.is_gap, 0.0))
    fits, compared = Fits(kerf_left=True), 0
    for m in assembly.meetings:
        if m.clearance is None or not looser[m.id].keys() >= ({True, False} if m.kerf_share > 1 else {True}):
            continue  # all its gaps lie at the ends of edges
        told = as_cut(m, stocks, fits=fits) - m.clearance.value
        assert told == pytest.approx(looser[m.id][True] + (looser[m.id][False] if m.kerf_share > 1 else 0.0), abs=2e-3)
        compared += 1
    assert compared > 10
    assert as_cut(assembly.meetings[0], stocks, fits=Fits()) == pytest.approx(assembly.meetings[0].clearance.value if assembly.meetings[0].clearance else 0.0)
    found = {f.code: f.severity for f in dry_fit(assembly, stocks, fits=fits).findings}
    assert found["kerf_left"] == "look"
    assert {f.code: f.severity for f in dry_fit(assembly, stocks).findings}["kerf_left"] == "fine"


def turned_axis(axis: tuple[float, float], turn: float) -> tuple[float, float]:
    a = math.radians(turn)
    return axis[0] * math.cos(a) - axis[1] * math.sin(a), axis[0] * math.sin(a) + axis[1] * math.cos(a)


def at_the_end(f: JointFeature, whole: Polygon) -> bool:
    """Tell whether a gap lies at the end of its edge, with material on one side only: its outer side is on the line."""
    mx, my = (sum(c[k] for c in f.corners) / 4 for k in (0, 1))
    half = f.width.value / 2 + 0.05
    return not all(whole.contains(Point(mx + s * half * f.axis[0], my + s * half * f.axis[1])) for s in (-1, 1))


@pytest.mark.parametrize("kerf", [0.08, 0.3])
def test_corrected_in_joints_only_a_spare_of_a_piece_that_falls_out_is_as_large_as_the_piece_and_fits_its_opening(kerf: float) -> None:
    stocks = {"ply": make_stock("ply", 3.0, kerf=kerf)}
    pane = Window(id="w", panel="front", width=60.0, height=30.0, falls=Falls.PART)
    assembly = build(replace(make_box(same_stock=True, width=160, depth=110, height=60), features=(pane,)), stocks)
    parts = [NestPart(id=p.id, stock="ply", profile=p.profile) for p in assembly.parts if p.id in ("front", "w-piece")]
    nesting = pack(parts, [SheetKind(id="s", stock="ply", name="Ply", width=600, height=400, count=2)], rules=NestRules(), work=Work(1))
    plan = cut_plan(assembly, nesting, stocks=stocks, machine=replace(MACHINE, kerf_place=KerfPlace.JOINTS), settings={"ply": default_settings(stocks["ply"])})
    frees = next(s.path for s in plan.sheets[0].strokes if s.path.frees)
    cut = Polygon(sampled(frees.contour))
    opening, fallen, spare = cut.buffer(kerf / 2, join_style="mitre"), cut.buffer(-kerf / 2, join_style="mitre"), beamed(plan, kerf)["w-piece"]
    sizes = [sorted((b[2] - b[0], b[3] - b[1])) for b in (opening.bounds, fallen.bounds, spare.bounds)]
    (meeting,) = (m for m in assembly.meetings if "w-piece" in (m.a, m.b))
    assert meeting.clearance is not None
    assert sizes[1] == pytest.approx(sizes[2], abs=1e-3)
    assert [a - b for a, b in zip(sizes[0], sizes[2], strict=True)] == pytest.approx([meeting.clearance.value] * 2, abs=1e-3)
    assert sizes[0] == pytest.approx([30, 60], abs=1e-3)
