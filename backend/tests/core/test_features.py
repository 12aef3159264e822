"""Features on panels: each is where it says, as large as it says, and joints keep clear of it."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon

from notchcore.check.dry_fit import dry_fit
from notchcore.check.freedom import held_parts
from notchcore.design.assembly import Assembly, FeatureKind, Meeting
from notchcore.design.between import Axis
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit, Split
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.made import shaft_hole
from notchcore.design.features.registry import FEATURES
from notchcore.design.features.values import (
    Anchor,
    Burned,
    Face,
    Falls,
    Fold,
    Hole,
    HoleCircle,
    Keyhole,
    Notch,
    Placed,
    RulerUnit,
    Scale,
    ShaftFit,
    Socket,
    Text,
    Vents,
    Way,
    Window,
)
from notchcore.design.joints.choice import MeetingChoice
from notchcore.errors import NotchCoreError, ValueOutside
from notchcore.geom.contours import contour_of
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import area_of, bounds_of, bridged, net_area, polygon_of
from notchcore.geom.slab import common_volume
from notchcore.measure.fit import Feel
from notchcore.measure.machine import Operation
from notchcore.nest.wanted import Wish, packed_parts
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


JOINT_DEEP = 6.0  # [mm] from the front's end: the notches of its corner, and the web that they need


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
    must = {f.code for f in assembly.findings if f.severity == "must"}
    assert must <= ({"loose_piece"} if x - width / 2 < JOINT_DEEP else set())  # what the corner's notches leave beside a window there falls off


def test_shaft_holes_by_hand() -> None:
    ply, board = STOCKS["walls"], make_stock("board", 3.0, material="grey_board")
    assert shaft_hole(8.0, ShaftFit.PRESS, stock=ply).value == pytest.approx(7.95)
    assert shaft_hole(8.0, ShaftFit.SLIP, stock=ply).value == pytest.approx(8.15)
    assert shaft_hole(8.0, ShaftFit.RUNNING, stock=ply).value == pytest.approx(8.5)
    assert shaft_hole(40.0, ShaftFit.RUNNING, stock=board).value == pytest.approx(40.8)  # 2 % of the diameter in board
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
        (Window(id="f", panel="front", width=900.0, height=900.0), "feature_too_large"),
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


@settings(max_examples=20, deadline=None)
@given(st.floats(-100, 100), st.sampled_from([Way.UP, Way.ACROSS]))
def test_no_tab_comes_through_a_fold_and_the_fold_is_scored_from_edge_to_edge(x: float, way: Way) -> None:
    part, assembly = front(Fold(id="f", panel="front", x=x if way is Way.UP else 0.0, y=x / 3, way=way), columns=3)
    fold = part.marks[-1].line
    at = 0 if way is Way.UP else 1
    assert fold[0][at] == pytest.approx(fold[1][at])
    for slot in (f for f in part.features if f.kind is FeatureKind.SLOT):
        span = [c[at] for c in slot.corners]
        assert min(span) > fold[0][at] + 1.9 or max(span) < fold[0][at] - 1.9 or way is Way.ACROSS
    assert [f.code for f in assembly.findings if f.code.startswith("fold")] == ["fold_in_stiff_sheet"]


@settings(max_examples=15, deadline=None)
@given(st.floats(12, 80), st.floats(10, 50), st.floats(0.05, 0.5))
def test_what_falls_out_of_a_window_is_a_part_two_beams_smaller_and_needs_no_place(width: float, height: float, kerf: float) -> None:
    stocks = {r.id: make_stock(r.id, 3.0, kerf=kerf) for r in ROLES}
    window = Window(id="w", panel="front", width=width, height=height, radius=2.0, falls=Falls.PART)
    design = Design(numbers=BoxNumbers(width=240, depth=160, height=120), stocks={k: k for k in stocks}, features=(window,))
    assembly = build(design, stocks)
    piece = assembly.part("w-piece")
    x0, y0, x1, y1 = bounds_of(piece.profile.outer)
    assert (x1 - x0, y1 - y0) == pytest.approx((width - 2 * kerf, height - 2 * kerf), abs=1e-3)
    assert (piece.falls_from, design.uses_kerf) == ("front", True)
    meeting = next(m for m in assembly.meetings if "w-piece" in (m.a, m.b))
    assert meeting.clearance is not None
    assert meeting.clearance.value == pytest.approx(2 * kerf, abs=1e-3)
    laid = {p.id: p for p in packed_parts(assembly.parts, Wish(copies=3))}
    assert "w-piece" not in laid  # three hosts free three panes
    assert not laid["front"].profile.holes  # and nothing is laid where they come from
    again = {p.id: p.count for p in packed_parts(assembly.parts, Wish(only={"w-piece": 2}))}
    assert again == {"w-piece": 2}  # cut anew without its host, it is laid like any part


@settings(max_examples=15, deadline=None)
@given(st.floats(12, 80), st.floats(10, 50), st.floats(0.02, 1.5), st.sampled_from([0.0, 0.4, 4.0]), st.sampled_from([0.0, 9.0, 40.0]), st.booleans())
def test_a_piece_of_its_own_lies_in_a_window_with_the_play_that_was_asked_for(
    width: float, height: float, play: float, radius: float, grip: float, other: bool
) -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in ROLES} | {"pane": make_stock("pane", 2.0)}
    window = Window(id="w", panel="front", width=width, height=height, radius=radius, falls=Falls.LOOSE, play=play, grip=grip)
    edits = {"w-piece": PanelEdit(stock="pane")} if other else {}
    design = Design(numbers=BoxNumbers(width=240, depth=160, height=120), stocks={r.id: r.id for r in ROLES}, features=(window,), edits=edits)
    assembly = build(design, stocks)
    piece, host = assembly.part("w-piece"), assembly.part("front")
    x0, y0, x1, y1 = bounds_of(piece.profile.outer)
    assert (x1 - x0, y1 - y0) == pytest.approx((width - 2 * play, height - 2 * play), abs=1e-3)
    (opening,) = (Polygon(h) for h in host.profile.holes if Polygon(h).contains(Point((x0 + x1) / 2, (y0 + y1) / 2)))
    assert opening.exterior.distance(Polygon(piece.profile.outer)) == pytest.approx(play, abs=0.005)
    bite = min(grip, width - 2 * radius)  # a half-round one out of the lower edge, between the corners
    assert y0 - play - opening.bounds[1] == pytest.approx(bite / 2, abs=1e-3)
    assert opening.bounds[3] - y1 == pytest.approx(play, abs=1e-3)
    assert (piece.falls_from, design.uses_kerf, piece.loose, piece.stock) == ("", False, True, "pane" if other else "walls")
    meeting = next(m for m in assembly.meetings if "w-piece" in (m.a, m.b))
    assert meeting.clearance is not None
    assert meeting.clearance.value == pytest.approx(2 * play, abs=2e-3)
    laid = {p.id: p.count for p in packed_parts(assembly.parts, Wish(copies=3))}
    assert laid["w-piece"] == 3  # cut for itself
    tile = Design(numbers=PlateNumbers(width=120.0), stocks={"plate": "walls"}, features=(replace(window, panel="sheet"),))
    assert held_parts(build(tile, stocks)) == ()  # the plate is what the piece lies in


@settings(max_examples=15, deadline=None)
@given(st.floats(-60, 60), st.floats(-60, -20), st.floats(20, 90))
def test_a_piece_that_is_pressed_into_its_opening_grows_into_nothing_else(x: float, y: float, height: float) -> None:
    """Where a window reaches into the corner of two panels, what is cut from its piece there is cut from what the press fit adds too."""
    stocks = {r.id: make_stock(r.id, 5.0, material="corrugated") for r in ROLES}
    window = Window(id="w", panel="front", width=40.0, height=height, radius=100.0, x=x, y=y, falls=Falls.PART)
    numbers = BoxNumbers(width=240, depth=160, height=120)
    assembly = build(Design(numbers=numbers, stocks={k: k for k in stocks}, features=(window,), feel=Feel.MALLET), stocks)
    piece = next((p for p in assembly.parts if p.id == "w-piece"), None)
    press = {p for m in assembly.meetings if "w-piece" in (m.a, m.b) and m.clearance is not None and m.clearance.value < 0 for p in (m.a, m.b)}
    for other in assembly.parts if piece else ():
        if other.id not in {"w-piece", *press}:
            assert common_volume(piece.slab(), other.slab()) < 0.01, other.id


@pytest.mark.parametrize("cap", [2.0, 30.0, 400.0])
@pytest.mark.parametrize("serif", [True, False])
def test_letters_of_any_size_are_as_true_as_the_beam(cap: float, serif: bool) -> None:
    some, best = (text_outlines("Oak & 8", cap, serif=serif, **how) for how in ({}, {"sag": cap * 1e-6}))
    for a, b in zip(some, best, strict=True):
        assert polygon_of(a).boundary.hausdorff_distance(polygon_of(b).boundary) < 0.006


@pytest.mark.parametrize("base_t", [2.0, 3.0, 6.2])
def test_what_stands_on_a_figure_stays_on_what_is_seen_of_it_whatever_the_base_is_cut_from(base_t: float) -> None:
    stocks = {"figure": make_stock("figure", 3.0), "base": make_stock("base", base_t), "strut": make_stock("strut", 3.0)}
    figure = FAMILIES["stand"].numbers(base="double")
    for anchor, y in ((Anchor.CENTRE, 70.0), (Anchor.BOTTOM, 10.0), (Anchor.TOP, 130.0)):
        hole = Hole(id="h", panel="figure", anchor=anchor, y={Anchor.BOTTOM: 10.0, Anchor.TOP: -10.0}.get(anchor, 0.0), diameter=5.0)
        part = build(Design(numbers=figure, stocks={r: r for r in ("figure", "base", "strut")}, features=(hole,)), stocks).part("figure")
        (ring,) = part.profile.holes
        assert sum(p[1] for p in ring) / len(ring) == pytest.approx(y, abs=0.01)


def test_what_hangs_below_a_gables_top_hangs_below_what_is_seen_of_it() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["house"].roles}
    design = Design(numbers=FAMILIES["house"].numbers(hole=0.0, door_width=0.0), stocks={r: r for r in stocks})
    plain = build(design, stocks).part("front")
    hole = Hole(id="h", panel="front", anchor=Anchor.TOP, y=-20.0, diameter=4.0)
    part = build(replace(design, features=(hole,)), stocks).part("front")
    ring = next(r for r in part.profile.holes if len(r) > 8)
    roof = 110.0 + 60.0 * math.tan(math.radians(35.0))  # where the lower faces of both roof panels meet, by hand
    assert sum(p[1] for p in ring) / len(ring) == pytest.approx(roof - 20.0, abs=0.05)
    assert bounds_of(part.profile.outer) == pytest.approx(bounds_of(plain.profile.outer))


def test_a_ruler_in_inches_has_a_long_mark_at_each_inch_and_sixteenths_between() -> None:
    ruler = Scale(id="s", panel="front", anchor=Anchor.BOTTOM_LEFT, x=20, y=20, run=101.6, step=25.4 / 16, numbers=16, unit=RulerUnit.INCH)
    part, _ = front(ruler)
    x0, y0 = part.marks[0].line[0]
    upright = [m.line for m in part.marks if len(m.line) == 2 and abs(m.line[0][0] - m.line[1][0]) < 1e-9 and abs(m.line[0][1] - y0) < 1e-9]
    assert sorted(round((a[0] - x0) / 25.4, 6) for a, b in upright if b[1] - a[1] > 5) == [0.0, 1.0, 2.0, 3.0, 4.0]
    assert len(upright) == 65


def test_shapes_that_are_lost_are_counted_and_ringed_and_openings_that_merge_are_told() -> None:
    rows = Hole(id="rows", panel="front", diameter=4.0, columns=5, rows=1, pitch_x=60.0)  # 240 wide in a panel of 240: the outer two miss it
    _, assembly = front(replace(rows, pitch_x=64.0))
    lost = next(f for f in assembly.findings if f.code == "feature_outside")
    assert "loses 2 of its 5 shapes" in lost.message
    assert sorted(round(p.x) for p in lost.places) == [-8, 248]
    assert not [f for f in front(Hole(id="a", panel="front"), Hole(id="b", panel="front", x=6.2))[1].findings if f.code == "feature_merges"]
    merged = [f for f in front(Hole(id="a", panel="front"), Hole(id="b", panel="front", x=5.0))[1].findings if f.code == "feature_merges"]
    assert len(merged) == 1
    assert merged[0].facts["feature"] == "b"


def chosen_meeting(assembly: Assembly) -> Meeting:
    return next(m for m in assembly.meetings if m.kind == "socket")


def test_a_socket_is_cut_for_its_mate_with_a_feel_and_chances_like_any_joint() -> None:
    stocks = {**STOCKS, "dividers": make_stock("dividers", 4.2)}
    socket = Socket(id="s", panel="front", mate="column-1", run=0.0)

    def built(*features: Socket, **more: object):
        numbers = BoxNumbers(width=240, depth=160, height=120, columns=2)
        return build(Design(numbers=numbers, stocks={k: k for k in stocks}, features=features, **more), stocks)  # type: ignore[arg-type]

    def width(assembly) -> float:
        return next(f for f in assembly.part("front").features if f.id == "s/0").width.value

    slides = built(socket)
    meeting = next(m for m in slides.meetings if m.kind == "socket")
    assert (meeting.a, meeting.b, meeting.feel, meeting.kerf_stock) == ("front", "column-1", Feel.SLIDES, "walls")
    assert width(slides) == pytest.approx(4.2 + meeting.clearance.value)  # of its mate's sheet, not of its own
    assert meeting.length == pytest.approx(160 + meeting.clearance.value)  # as wide as its mate, which reaches from wall to wall
    assert width(built(replace(socket, feel=Feel.MALLET))) < width(built(replace(socket, feel=Feel.SNUG))) < width(slides)
    chosen = built(socket, choices={meeting.id: MeetingChoice(feel=Feel.SNUG)})
    assert width(chosen) == pytest.approx(width(built(replace(socket, feel=Feel.SNUG))))
    by_hand = built(socket, choices={meeting.id: MeetingChoice(clearance=0.25)})
    assert (width(by_hand), chosen_meeting(by_hand).clearance.value) == pytest.approx((4.45, 0.25))  # type: ignore[union-attr]
    fit = dry_fit(chosen, stocks)
    assert next(o for o in fit.chances if o.meeting == meeting.id).chances.snug > 0.5
    # Copies and pieces of divided panels have it too, with the choices of the original.
    more = CopyOf(id="twin", label="Twin", of="front", mirror=Axis.Y, about=-300.0)
    twice = built(socket, added=(more,), splits=(Split(panel="front", at=80.0),), choices={meeting.id: MeetingChoice(feel=Feel.SNUG)})
    hosts = {m.a: m for m in twice.meetings if m.kind == "socket"}
    assert set(hosts) == {"front.1", "front.2", "twin"}  # the division runs through it
    assert [(m.follows, m.feel, m.clearance) for m in hosts.values()] == [(meeting.id, Feel.SNUG, chosen_meeting(chosen).clearance)] * 3
    cut = next(o for o in twice.part("twin").openings if o.feature == "s").ring
    across = min(max(p[k] for p in cut) - min(p[k] for p in cut) for k in (0, 1))
    assert across == pytest.approx(width(chosen))
    assert "socket_mate_lost" in {f.code for f in built(replace(socket, mate="moon")).findings}
    assert not [m for m in built(replace(socket, mate="")).meetings if m.kind == "socket"]
    with pytest.raises(NotchCoreError):
        replace(socket, feel=Feel.RATTLES)


def test_what_lies_beyond_the_slope_of_a_gable_is_told() -> None:
    """What counts is the panel as it ends at its roof, not the box around it."""
    kind = FAMILIES["house"]
    stocks = {role.id: make_stock(role.id, 3.0) for role in kind.roles}
    window = Window(id="w", panel="back", anchor=Anchor.TOP_LEFT, x=6.0, y=-5.0, width=12.0, height=12.0)
    design = Design(numbers=kind.numbers(), stocks={role.id: role.id for role in kind.roles}, features=(window,))
    made = build(design, stocks)
    assert [f.parts for f in made.findings if f.code == "feature_outside"] == [("back",)]
    assert made.part("back").openings == ()
