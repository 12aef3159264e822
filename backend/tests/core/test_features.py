"""Features on panels: each is where it says, as large as it says, and joints keep clear of it."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon

from notchcore.design.assembly import FeatureKind
from notchcore.design.design import Design, build
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.features.placed import shaft_hole
from notchcore.design.features.registry import FEATURES
from notchcore.design.features.values import Anchor, Burned, Face, Hole, HoleCircle, Keyhole, Notch, Placed, Scale, ShaftFit, Socket, Text, Vents, Window
from notchcore.errors import NotchCoreError, ValueOutside
from notchcore.geom.contours import contour_of
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import area_of, bounds_of, bridged, net_area, polygon_of
from notchcore.measure.machine import Operation
from tests.strategies import make_stock

STOCKS = {r.id: make_stock(r.id, 3.0) for r in ROLES}


def front(*features: Placed, **numbers: object):
    numbers = {"width": 240, "depth": 160, "height": 120} | numbers
    assembly = build(Design(numbers=BoxNumbers(**numbers), stocks={k: k for k in STOCKS}, features=features), STOCKS)  # type: ignore[arg-type]
    return assembly.part("front"), assembly


PLAIN = polygon_of(front()[0].profile).area


def taken(*features: Placed) -> float:
    return PLAIN - polygon_of(front(*features)[0].profile).area


@pytest.mark.parametrize(
    ("feature", "area"),
    [
        (Hole(id="f", panel="front", diameter=8.0), math.pi * 16),
        (Hole(id="f", panel="front", diameter=4.0, columns=3, rows=2), 6 * math.pi * 4),
        (HoleCircle(id="f", panel="front", holes=8, diameter=5.0, radius=25.0), 8 * math.pi * 6.25),
        (Window(id="f", panel="front", width=40.0, height=30.0, radius=3.0), 1200 - (4 - math.pi) * 9),
        (Notch(id="f", panel="front", width=30.0, anchor=Anchor.TOP), math.pi * 225 / 2),
        (Vents(id="f", panel="front", number=4, width=3.0, run=30.0, pitch=8.0), 4 * (27 * 3 + math.pi * 2.25)),
        (Socket(id="f", panel="front", run=30.0), 30.0 * 3.165),
    ],
)
def test_a_feature_takes_exactly_its_area_by_hand(feature: Placed, area: float) -> None:
    assert taken(feature) == pytest.approx(area, rel=3e-3)


def test_circles_stay_circles_in_the_contours_of_the_part() -> None:
    part, _ = front(Hole(id="h", panel="front", diameter=8.0, x=30.0), Keyhole(id="k", panel="front", x=-40.0))
    contours = [contour_of(h, part.profile.circles) for h in part.profile.holes]
    arcs = sorted(round(s.radius, 3) for c in contours for s in c.segments if s.centre is not None)
    assert arcs == [2.25, 4.0, 4.5]


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(list(Anchor)), st.floats(-20, 20), st.floats(-20, 20), st.floats(1.0, 3.0))
def test_a_feature_stands_where_its_anchor_and_offsets_say_also_after_a_change_of_size(anchor: Anchor, x: float, y: float, factor: float) -> None:
    inward = {"left": 40.0, "right": -40.0, "top": -40.0, "bottom": 40.0}
    dx, dy = (sum(v for k, v in inward.items() if k in anchor.value and (k in ("left", "right")) is side) for side in (True, False))
    hole = Hole(id="h", panel="front", diameter=5.0, anchor=anchor, x=x + dx, y=y + dy)
    part, _ = front(hole, width=240 * factor, height=120 * factor)
    w, h = 240 * factor, 120 * factor
    ax = 0.0 if "left" in anchor.value else w if "right" in anchor.value else w / 2
    ay = 0.0 if "bottom" in anchor.value else h if "top" in anchor.value else h / 2
    (only,) = part.profile.holes
    assert Polygon(only).centroid.distance(Point(ax + x + dx, ay + y + dy)) < 1e-6


@settings(max_examples=25, deadline=None)
@given(st.floats(10, 110), st.floats(8, 50), st.floats(4, 40))
def test_no_tab_comes_through_a_window_of_its_face(x: float, width: float, height: float) -> None:
    window = Window(id="w", panel="front", anchor=Anchor.LEFT, x=x, width=width, height=height)
    part, assembly = front(window, columns=3)
    outline = Polygon(part.profile.outer)
    for f in part.features:
        if f.kind is FeatureKind.SLOT:
            slot = Polygon(f.corners)
            others = [Polygon(h) for h in part.profile.holes if not Polygon(h).equals(slot) and Polygon(h).centroid.distance(slot.centroid) > 0.5]
            assert all(o.distance(slot) > 1.0 for o in others)
            assert outline.contains(slot)
    assert [f for f in assembly.findings if f.severity == "must"] == []


def test_shaft_holes_by_hand() -> None:
    ply, board = STOCKS["walls"], make_stock("board", 3.0, family="grey_board")
    assert shaft_hole(8.0, ShaftFit.PRESS, ply).value == pytest.approx(7.95)
    assert shaft_hole(8.0, ShaftFit.SLIP, ply).value == pytest.approx(8.15)
    assert shaft_hole(8.0, ShaftFit.RUNNING, ply).value == pytest.approx(8.5)
    assert shaft_hole(40.0, ShaftFit.RUNNING, board).value == pytest.approx(40.8)  # 2 % of the diameter in board
    part, _ = front(Hole(id="h", panel="front", diameter=8.0, fit=ShaftFit.SLIP))
    (feature,) = [f for f in part.features if f.kind is FeatureKind.HOLE]
    x0, _, x1, _ = bounds_of(part.profile.holes[0])
    assert feature.width.value == pytest.approx(x1 - x0, abs=1e-6)


@pytest.mark.parametrize("face", [Face.SANS, Face.SERIF])
def test_letters_are_as_high_as_asked_and_keep_their_holes(face: Face) -> None:
    shapes = text_outlines("HOB", 12.0, serif=face is Face.SERIF)
    h = shapes[0]
    assert bounds_of(h.outer)[3] - bounds_of(h.outer)[1] == pytest.approx(12.0, abs=0.05)
    assert [len(s.holes) for s in shapes] == [0, 1, 2]
    for s in shapes:
        assert abs(area_of(bridged(s))) == pytest.approx(net_area(s), rel=1e-9)


@pytest.mark.parametrize(("burned", "operation"), [(Burned.ENGRAVE, Operation.ENGRAVE), (Burned.SCORE, Operation.SCORE)])
def test_text_is_burned_on_the_face_and_cut_text_goes_through_it(burned: Burned, operation: Operation) -> None:
    part, _ = front(Text(id="t", panel="front", words="ROW", cap=14.0, burned=burned))
    assert {m.operation for m in part.marks} == {operation}
    assert taken(Text(id="t", panel="front", words="ROW", cap=14.0, burned=burned)) == 0
    assert taken(Text(id="t", panel="front", words="ROW", cap=14.0, burned=Burned.CUT)) > 100


def test_a_ruler_has_a_tick_for_every_step_and_a_number_for_every_tenth() -> None:
    part, _ = front(Scale(id="s", panel="front", anchor=Anchor.BOTTOM_LEFT, x=20, y=50, run=50.0, step=1.0))
    upright = [m for m in part.marks if len(m.line) == 2 and abs(m.line[0][0] - m.line[1][0]) < 1e-9 and m.line[0][1] == pytest.approx(50.0)]
    places = sorted(round(m.line[0][0] - 20, 6) for m in upright)
    assert places == [float(i) for i in range(51)]


@pytest.mark.parametrize(
    ("feature", "code"),
    [
        (Hole(id="f", panel="gone"), "feature_lost"),
        (Hole(id="f", panel="front", x=900.0), "feature_outside"),
        (Text(id="f", panel="front", words="A VERY LONG TEXT FOR SUCH A SMALL FRONT", cap=40.0), "feature_outside"),
        (Window(id="f", panel="front", width=230.0, height=110.0), "feature_too_large"),
    ],
)
def test_a_feature_that_cannot_be_is_told_and_the_rest_is_built(feature: Placed, code: str) -> None:
    part, assembly = front(feature)
    assert [f.code for f in assembly.findings] == [code]
    assert polygon_of(part.profile).area == pytest.approx(PLAIN)


@pytest.mark.parametrize("kind", [t.type for t in FEATURES])
@settings(max_examples=10, deadline=None)
@given(value=st.sampled_from([float("nan"), float("inf"), -1e9, 1e9]))
def test_numbers_that_make_no_sense_are_refused(kind: type, value: float) -> None:
    with pytest.raises(NotchCoreError):
        kind(id="f", panel="front", x=value)
    with pytest.raises(ValueOutside):
        kind(id="f", panel="front", y=value)
