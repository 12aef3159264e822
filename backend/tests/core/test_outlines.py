"""Panels with a shape of their own: taken from a drawing, kept through changes, and ending flush in what they stand in."""

from __future__ import annotations

import math
from dataclasses import replace
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity, box

from notchcore.design.building import arranged, build
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.families.plate import PlateNumbers, PlateShape
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.drawing import Drawing, DrawnLine, tidied
from notchcore.design.outlines import PanelOutline, PanelShape
from notchcore.design.panel import resolved
from notchcore.design.plates import OnFace
from notchcore.design.scaling import scaled
from notchcore.design.visible import visible_frame
from notchcore.findings import Severity
from notchcore.formats.svgin import read_svg
from notchcore.geom.contours import contour_of
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import bounds_of, polygon_of
from notchcore.geom.slab import box_of
from notchcore.measure.stock import Stock
from tests.core.test_edits import STOCKS, a_box, visible_of
from tests.strategies import make_stock

STAR = tuple((50 + r * math.sin(k * math.pi / 5), 50 - r * math.cos(k * math.pi / 5)) for k, r in enumerate((50, 22) * 5))


def test_a_panel_with_a_round_outline_has_true_arcs() -> None:
    drawn = b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M10 50a40 40 0 0 1 80 0a40 40 0 0 1 -80 0z"/></svg>'
    plate = OnFace(id="plate", label="Plate", stock="ply", host="front", width=60, height=60)
    design = a_box(added=(plate,), edits={"plate": PanelEdit(outline=PanelOutline(drawing="3", width=50.0))})
    part = build(design, {**STOCKS, "ply": make_stock("ply", 3.0)}, drawings={"3": read_svg(drawn)}).part("plate")
    (whole,) = contour_of(part.profile.outer, part.profile.circles).segments
    assert whole.radius == pytest.approx(25.0, abs=1e-4)


def test_a_panel_takes_the_outline_of_a_drawing_and_goes_back_to_its_own() -> None:
    drawing = Drawing(lines=(DrawnLine(layer="l", points=STAR, closed=True),), mm_per_unit=1.0)
    wide, high = drawing.size
    area = Polygon(STAR).area * (200 / wide) ** 2
    plate = OnFace(id="plate", label="Plate", stock="ply", host="front", width=60, height=60)
    edit = PanelEdit(outline=PanelOutline(drawing="3", width=200.0, turn=90.0))
    design = a_box(added=(plate,), edits={"plate": edit})
    assert design.drawing_ids() == ("3",)
    stocks = {**STOCKS, "ply": make_stock("ply", 3.0)}
    part = build(design, stocks, drawings={"3": drawing}).part("plate")
    assert polygon_of(part.profile).area == pytest.approx(area, rel=1e-6)
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    assert (x1 - x0, y1 - y0) == pytest.approx((200 * high / wide, 200), rel=1e-6)
    half = scaled(design, 0.5)
    assert half.edits["plate"].outline == PanelOutline(drawing="3", width=100.0, turn=90.0)
    lost = build(design, stocks)
    assert [f.code for f in lost.findings if f.parts == ("plate",)] == ["drawing_lost"]
    assert polygon_of(lost.part("plate").profile).area == pytest.approx(3600)


@settings(max_examples=15, deadline=None)
@given(seed=st.integers(0, 10**6), factor=st.floats(0.6, 1.7), base=st.sampled_from([2.0, 3.0, 6.0]), short=st.floats(-0.9, 4))
def test_an_outline_that_reaches_through_a_base_keeps_what_is_seen_and_ends_flush(seed: int, factor: float, base: float, short: float) -> None:
    r = Random(seed)
    top = [(float(x), r.uniform(60, 130)) for x in range(70, -71, -20)]
    foot = -6.0 + short if short < 3 else -6.0  # drawn for two sheets of 3 mm, a little too long or too short
    ring = ((-30.0, foot), (30.0, foot), (32.0, 0.0), (78.0, 0.0), *top, (-78.0, 0.0), (-32.0, 0.0))
    low, high = foot, max(y for _, y in top)
    drawing = tidied([DrawnLine(layer="l", points=ring, closed=True)], 1.0)
    kind = FAMILIES["stand"]

    def figure(k: float, t: float) -> tuple[Polygon, float]:
        stocks = {role.id: make_stock(role.id, t if role.id == "base" else 3.0) for role in kind.roles}
        design = Design(numbers=kind.numbers(), stocks={role.id: role.id for role in kind.roles})
        middle = (visible_of(design, stocks)[1] + visible_of(design, stocks)[3]) / 2
        outline = PanelOutline(drawing="3", width=156.0, y=(low + high) / 2 - middle)
        design = scaled(replace(design, edits={"figure": PanelEdit(outline=outline)}), k)
        plan = arranged(design, stocks, drawings={"3": drawing})
        panels = {p.id: p for p in plan.panels}
        lowest = min(box_of(panels[p].slab())[2] for p in panels if p.startswith("base"))
        return polygon_of(resolved(panels["figure"], panels).envelope), lowest - panels["figure"].pose.origin[2]

    first, _ = figure(1.0, 3.0)
    shape, lowest = figure(factor, base)
    assert shape.bounds[1] == pytest.approx(lowest, abs=1e-4)
    above = box(-500, 0, 500, 500)
    expected = affinity.scale(first.intersection(above), factor, factor, origin=(0, 0))
    assert shape.intersection(above).symmetric_difference(expected).area < 0.03  # a drawing's points are kept to 1e-4 of its size


@pytest.mark.parametrize(("foot", "told"), [(7.0, ""), (80.0, "74.0 mm at the bottom")])
def test_what_an_outline_loses_below_the_base_is_told(foot: float, told: str) -> None:
    kind, stocks = FAMILIES["stand"], {role.id: make_stock(role.id, 3.0) for role in FAMILIES["stand"].roles}
    design = Design(numbers=kind.numbers(), stocks={role.id: role.id for role in kind.roles})
    x0, y0, x1, _ = visible_of(design, stocks)  # above two plates of 3 mm
    ring = ((-30.0, y0 - foot), (30.0, y0 - foot), (32.0, y0), (60.0, y0), (60.0, y0 + 90), (-60.0, y0 + 90), (-60.0, y0), (-32.0, y0))
    middle = (y0 + visible_of(design, stocks)[3]) / 2
    outline = PanelOutline(drawing="3", width=120.0, x=-(x0 + x1) / 2, y=(y0 - foot + y0 + 90) / 2 - middle)
    design = replace(design, edits={"figure": PanelEdit(outline=outline)})
    found = build(design, stocks, drawings={"3": tidied([DrawnLine(layer="l", points=ring, closed=True)], 1.0)}).findings
    messages = [f.message for f in found if f.code == "outline_cut_off"]
    assert [told in m for m in messages] == [True] * bool(told)


AREAS = {  # of shapes by their numbers, worked by hand
    PlateShape.RECTANGLE: (PlateNumbers(width=50, height=40, radius_1=10, radius_3=5), 2000 - (1 - math.pi / 4) * (100 + 25)),
    PlateShape.ELLIPSE: (PlateNumbers(shape=PlateShape.ELLIPSE, width=50, height=50), math.pi * 625),
    PlateShape.RING: (PlateNumbers(shape=PlateShape.RING, across=50, hole=20), math.pi * (625 - 100)),
    PlateShape.SECTOR: (PlateNumbers(shape=PlateShape.SECTOR, across=60, hole=0, sweep=90), math.pi * 900 / 4),
    PlateShape.POLYGON: (PlateNumbers(shape=PlateShape.POLYGON, across=50, sides=6), 1.5 * math.sqrt(3) * 625),
    PlateShape.TRIANGLE: (PlateNumbers(shape=PlateShape.TRIANGLE, lower_side=40, right_side=50, left_side=30), 600.0),
    PlateShape.TRAPEZIUM: (PlateNumbers(shape=PlateShape.TRAPEZIUM, width=50, height=30, upper=20, shift=5), 35 * 30.0),
    PlateShape.SLOPING: (PlateNumbers(shape=PlateShape.SLOPING, width=50, left_high=30, right_high=20), 50 * 25.0),
}


@pytest.mark.parametrize("shape", AREAS)
def test_any_panel_has_a_plain_shape_by_its_numbers_turned_and_with_true_arcs(shape: PlateShape) -> None:
    numbers, area = AREAS[shape]
    plate = OnFace(id="plate", label="Plate", stock="ply", host="front", width=80, height=70)
    stocks = {**STOCKS, "ply": make_stock("ply", 3.0)}
    for turn in (0.0, 30.0):
        design = a_box(added=(plate,), edits={"plate": PanelEdit(shape=PanelShape(numbers=numbers, x=3.0, turn=turn))})
        made = build(design, stocks)
        assert polygon_of(made.part("plate").profile).area == pytest.approx(area, rel=3e-4)
        assert not [f for f in made.findings if f.parts == ("plate",)]
    assert polygon_of(build(scaled(design, 2.0), stocks).part("plate").profile).area == pytest.approx(4 * area, rel=3e-4)
    if shape in (PlateShape.ELLIPSE, PlateShape.RING):
        part = build(design, stocks).part("plate")
        assert [s.radius for s in contour_of(part.profile.outer, part.profile.circles).segments] == pytest.approx([25.0], abs=1e-6)


@pytest.mark.parametrize("base", [3.0, 6.0])
def test_a_plain_shape_stands_in_what_its_panel_stood_in_however_thick_that_is(base: float) -> None:
    """A divider as a trapezium, as high as what is seen of it: its foot goes on straight into the base, with all its tabs."""
    stocks = {**STOCKS, "base": make_stock("base", base)}
    plain = a_box()
    x0, y0, x1, y1 = visible_of_divider(plain, stocks)
    numbers = PlateNumbers(shape=PlateShape.TRAPEZIUM, width=x1 - x0, height=y1 - y0, upper=(x1 - x0) / 2, shift=(x1 - x0) / 4)
    design = a_box(edits={"column-1": PanelEdit(shape=PanelShape(numbers=numbers))})
    made, before = build(design, stocks), build(plain, stocks)
    foot = next(m for m in made.meetings if {m.a, m.b} == {"base", "column-1"})
    assert foot.count == next(m for m in before.meetings if {m.a, m.b} == {"base", "column-1"}).count
    height = [box_of(x.part("column-1").slab()) for x in (made, before)]
    assert [b[5] - b[2] for b in height] == pytest.approx([height[1][5] - height[1][2]] * 2)
    assert not [f for f in made.findings if f.severity is Severity.MUST]  # its lower corners just touch the walls
    _, _, _, y1 = bounds_of(made.part("column-1").profile.outer)
    top = [p[0] for p in made.part("column-1").profile.outer if p[1] > y1 - 1e-6]
    assert max(top) - min(top) == pytest.approx(numbers.upper, abs=1e-6)


def test_a_plain_shape_that_stands_keeps_its_foot_when_its_height_changes() -> None:
    whole = a_box()
    x0, y0, x1, y1 = visible_of_divider(whole, STOCKS)
    for high in (0.4, 0.7, 1.0):
        numbers = PlateNumbers(shape=PlateShape.SLOPING, width=x1 - x0, left_high=high * (y1 - y0), right_high=0.3 * (y1 - y0))
        made = build(a_box(edits={"column-1": PanelEdit(shape=PanelShape(numbers=numbers, standing=True))}), STOCKS)
        foot = next(m for m in made.meetings if {m.a, m.b} == {"base", "column-1"})
        assert foot.count == next(m for m in build(whole, STOCKS).meetings if {m.a, m.b} == {"base", "column-1"}).count
        tall = [bounds_of(m.part("column-1").profile.outer)[3] for m in (made, build(whole, STOCKS))]
        assert tall[1] - tall[0] == pytest.approx((1 - high) * (y1 - y0), abs=1e-6)


def visible_of_divider(design: Design, stocks: dict[str, Stock]) -> tuple[float, float, float, float]:
    plan = arranged(design, stocks)
    panels = {p.id: p for p in plan.panels}
    return visible_frame(panels["column-1"], panels, rules=plan.rules)


def test_a_shape_that_cannot_be_leaves_the_panel_as_it_was_and_says_which_number() -> None:
    numbers = PlateNumbers(shape=PlateShape.TRIANGLE, lower_side=200, right_side=90, left_side=100)
    design = a_box(edits={"lid": PanelEdit(), "column-1": PanelEdit(shape=PanelShape(numbers=numbers))})
    made, plain = build(design, STOCKS), build(a_box(), STOCKS)
    assert [(f.code, f.severity, f.parts) for f in made.findings] == [("triangle_does_not_close", Severity.MUST, ("column-1",))]
    assert made.part("column-1").profile == plain.part("column-1").profile
