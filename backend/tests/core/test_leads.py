"""Lead-ins: they begin in what falls away, meet the contour away from corners and joints, and change nothing of it."""

from __future__ import annotations

import math

import pytest
from shapely.geometry import LineString, Point, Polygon

from notchcore.design.building import build
from notchcore.design.families.box import Top
from notchcore.geom.contours import contour_of, sampled
from notchcore.geom.profile import Circle, circle_ring, rectangle
from notchcore.measure.machine import Machine, Operation, default_settings
from notchcore.nest.gate import placed_shape, shape_at
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import NestPart, NestRules, SheetKind
from notchcore.plan.choices import PlanChoices
from notchcore.plan.cut_plan import cut_plan
from notchcore.plan.leads import FROM_JOINT, with_leads
from notchcore.plan.paths import CutPath
from notchcore.tolerance import ARC_SAG
from tests.replay import replay
from tests.strategies import make_box, make_stock

MACHINE = Machine(id="m", name="Alder desk laser")
SHEET = rectangle(0, 0, x1=300, y1=200).outer


def cut(ring: tuple[tuple[float, float], ...], operation: Operation = Operation.OUTER, circles: tuple[Circle, ...] = ()) -> CutPath:
    return CutPath(id=f"a/{operation}", part="a", copy=0, operation=operation, contour=contour_of(ring, circles))


@pytest.mark.parametrize(("lead", "columns", "kerf"), [(0.5, 1, 0.08), (1.5, 3, 0.16), (4.0, 1, 0.3)])
def test_lead_ins_of_a_packed_box_lie_in_waste_and_leave_its_parts_whole(lead: float, columns: int, kerf: float) -> None:
    stocks = {"ply": make_stock("ply", 3.08, kerf=kerf, label=3.0)}
    assembly = build(make_box(same_stock=True, width=160, depth=110, height=60, columns=columns, rows=2, top=Top.LIFT_OFF, lid_hole=20, thumb_notch=24), stocks)
    parts = {p.id: NestPart(id=p.id, stock="ply", profile=p.profile) for p in assembly.parts}
    nesting = pack(list(parts.values()), [SheetKind(id="s", stock="ply", name="Ply", width=600, height=400, count=2)], rules=NestRules(), work=Work(1))
    plan, plain = (
        cut_plan(assembly, nesting, stocks=stocks, machine=MACHINE, settings={"ply": default_settings(stocks["ply"])}, choices=c)
        for c in (PlanChoices(lead=lead), PlanChoices())
    )
    (sheet,) = plan.sheets
    assert replay([s.path for s in sheet.strokes]) == []
    by_id = {s.path.id: s.path for s in plain.sheets[0].strokes}
    solids = [placed_shape(parts[p.part], p) for p in nesting.sheets[0].placements]
    faces = [shape_at(Polygon(f.corners), p.turn, x=p.x, y=p.y) for p in nesting.sheets[0].placements for f in assembly.part(p.part).features if f.meeting]
    led = 0
    for path in (s.path for s in sheet.strokes):
        before, after = Polygon(sampled(by_id[path.id].contour)), Polygon(sampled(path.contour))
        if path.operation in (Operation.INNER, Operation.OUTER):
            assert before.symmetric_difference(after).area < ARC_SAG * path.contour.length  # arcs have other chords when they are begun elsewhere
        if path.lead is None:
            continue
        led += 1
        (line,) = path.lines
        assert line.segments[0].start == path.lead
        burned = LineString([path.lead, line.segments[0].end])
        assert all(burned.distance(s) > kerf / 2 - 1e-3 for s in solids)
        met = Point(line.segments[0].end)
        assert all(f.distance(met) >= FROM_JOINT for f in faces)
        ends = [s.start for s in path.contour.segments[1:]]
        assert all(met.distance(Point(e)) > 1.9 for e in ends)
    assert led >= len(assembly.parts)


def test_a_hole_is_begun_inside_and_an_outline_outside() -> None:
    hole = Circle(x=60, y=60, radius=8)
    paths = [cut(rectangle(20, 20, x1=120, y1=100).outer), cut(circle_ring(hole)[::-1], Operation.INNER, (hole,))]
    outer, inner = with_leads(paths, {}, sheet=SHEET, length=2.0, beam=0.16)
    assert outer.lead
    assert inner.lead
    assert not Polygon(rectangle(20, 20, x1=120, y1=100).outer).contains(Point(outer.lead))
    assert math.dist(inner.lead, (60, 60)) < 8 - 1.0
    # It comes in at half a right angle: 2 mm long, so 1.41 mm beside the edge.
    assert Point(outer.lead).distance(Polygon(rectangle(20, 20, x1=120, y1=100).outer)) == pytest.approx(math.sqrt(2), abs=1e-6)
    assert [s.radius for s in inner.contour.segments] == [8]


def test_where_there_is_no_room_a_lead_is_shorter_or_left_out() -> None:
    near = [cut(rectangle(20, 20, x1=60, y1=40).outer), cut(rectangle(60.8, 20, x1=100, y1=40).outer), cut(rectangle(20, 40.8, x1=100, y1=60).outer)]
    led = with_leads(near, {}, sheet=SHEET, length=3.0, beam=0.16)
    assert all(p.lead and math.dist(p.lead, p.contour.segments[0].start) == pytest.approx(3.0) for p in led)
    slit = cut(rectangle(30, 30, x1=60, y1=30.5).outer[::-1], Operation.INNER)
    (same,) = with_leads([slit], {}, sheet=SHEET, length=3.0, beam=0.16)
    assert same == slit
    everywhere = {("a", 0): [rectangle(0, 0, x1=300, y1=200).outer]}
    assert with_leads(near[:1], everywhere, sheet=SHEET, length=3.0, beam=0.16) == near[:1]
