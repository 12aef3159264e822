"""Both faces of a sheet: what is burned on backs lands where it belongs, and a sheet laid wrongly is told by its marks."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely.affinity import affine_transform
from shapely.geometry import Point, Polygon

from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.layered import ROLES, LayeredNumbers
from notchcore.design.features.values import Anchor, OnSide, Text
from notchcore.findings import Finding, Severity
from notchcore.geom.contours import sampled
from notchcore.geom.profile import Profile, Ring, area_of, bounds_of, rectangle
from notchcore.geom.rigid import Rigid, about, coverings, fitted
from notchcore.geom.slab import Pose
from notchcore.measure.machine import Beam, Machine, Operation, default_settings
from notchcore.nest.gate import placed_shape
from notchcore.nest.values import Nesting, NestPart, Placement, SheetLayout
from notchcore.plan.choices import AS_USUAL, PlanChoices, SecondSide, Turn
from notchcore.plan.cut_plan import CutPlan, SheetPlan, cut_plan
from notchcore.plan.paths import REGISTRATION
from notchcore.plan.registration import CLEAR, RADIUS, mark_places, mismatch, read_marks
from notchcore.plan.sides import CUTS, LayKind, Side, shared_passes, turning
from tests.replay import replay
from tests.strategies import make_stock

MACHINE = Machine(id="m", name="Alder desk laser")
FLAT = Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0))
STAKE: Ring = ((0, 0), (8, -14), (16, 0), (40, 0), (40, 20), (-24, 20), (-24, 0))  # its own mirror image
HAND: Ring = ((0, 0), (60, 0), (60, 20), (20, 20), (20, 80), (0, 80))  # not its own
NICK = ((4.0, 4.0), (9.0, 4.0), (9.0, 7.0))  # a mark that no turn or mirror brings onto itself


def a_part(ring: Ring, *, back: bool = True, bridges: int = 0, name: str = "label") -> Part:
    marks = (
        Mark(line=NICK, operation=Operation.ENGRAVE, feature="front"),
        *((Mark(line=NICK, operation=Operation.ENGRAVE, feature="back", back=True),) if back else ()),
    )
    profile = Profile(outer=ring)
    return Part(id=name, label=name.title(), stock="ply", pose=FLAT, low=0, high=3, profile=profile, nominal=profile, marks=marks, bridges=bridges)


def laid(*placements: Placement, width: float = 300.0, height: float = 200.0) -> Nesting:
    ring = ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height))
    sheet = SheetLayout(
        sheet="s", copy=0, stock="ply", name="Ply", width=width, height=height, ring=ring, placements=placements, utilisation=0.1, leftover=None
    )
    return Nesting(sheets=(sheet,), unplaced=(), utilisation=0.1, price=0.0)


def planned(parts: list[Part], nesting: Nesting, choices: PlanChoices = AS_USUAL, *, t: float = 3.0, passes: int = 1) -> CutPlan:
    stock = make_stock("ply", t)
    settings = default_settings(stock)
    settings = replace(settings, cut=replace(settings.cut, passes=passes))
    return cut_plan(
        Assembly(parts=tuple(parts), meetings=(), findings=()), nesting, stocks={"ply": stock}, machine=MACHINE, settings={"ply": settings}, choices=choices
    )


def lines(sheet: SheetPlan, operation: Operation = Operation.ENGRAVE) -> list[Ring]:
    return [sampled(s.path.contour) for s in sheet.strokes if s.path.operation is operation]


def told(plan: CutPlan, code: str) -> Finding:
    return next(f for f in plan.findings if f.code == code)


def same_points(a: Ring, b: Ring, within: float = 1e-6) -> bool:
    return len(a) == len(b) and all(min(math.dist(p, q) for q in b) < within for p in a)


def in_part(place: Placement, ring: Ring) -> Ring:
    """Return points of a sheet in the plane of the part that lies there."""
    a = math.radians(-place.turn)
    back = [(x * math.cos(a) - y * math.sin(a), x * math.sin(a) + y * math.cos(a)) for x, y in ((x - place.x, y - place.y) for x, y in ring)]
    return tuple((-x, y) if place.mirrored else (x, y) for x, y in back)


TWO = (Placement(part="label", copy=0, turn=0, x=60, y=40), Placement(part="label", copy=1, turn=90, x=150, y=70))


def test_parts_that_are_their_own_mirror_image_are_turned_over_in_their_holes() -> None:
    plan = planned([a_part(STAKE)], laid(*TWO))
    first, second = plan.sheets
    assert (first.lay.kind, second.lay.kind, second.side) == (LayKind.FRESH, LayKind.SWAPPED, Side.FRONT)
    assert [(t.into, t.into_copy) for t in second.lay.turns] == [("label", 0), ("label", 1)]
    assert {s.path.operation for s in second.strokes} == {Operation.ENGRAVE}
    # By hand: the stake's mirror line is x = 8, so what lies at x on its back shows at 16 - x when it is turned over.
    for place, line in zip(TWO, sorted(lines(second), key=lambda r: r[0][0]), strict=True):
        assert same_points(in_part(place, line), tuple((16 - x, y) for x, y in NICK))
    assert told(plan, "second_side").facts["mismatch_mm"] == pytest.approx(0.16 * math.sqrt(2) + 2 * MACHINE.position_sd)


def test_a_pair_is_swapped_only_between_a_part_on_its_front_and_one_on_its_back() -> None:
    alone = laid(replace(TWO[0], x=30), replace(TWO[1], x=200))
    assert [s.lay.kind for s in planned([a_part(HAND)], alone).sheets] == [LayKind.FRESH, LayKind.TURNED]
    pair = laid(replace(TWO[0], x=30), replace(TWO[1], x=200, mirrored=True))
    first, second = planned([a_part(HAND)], pair).sheets
    assert {(t.copy, t.into_copy) for t in second.lay.turns} == {(0, 1), (1, 0)}
    # Whatever is engraved first on one place is engraved again there: the partner shows the same face then.
    assert all(any(same_points(a, b, 1e-4) for b in lines(first)) for a in lines(second))
    assert [s.lay.kind for s in planned([a_part(HAND, bridges=2)], pair).sheets][1] is LayKind.TURNED
    assert "bridges" in told(planned([a_part(HAND, bridges=2)], pair), "second_side").message


def test_what_lies_in_an_opening_is_not_turned_over_there() -> None:
    frame = Part(
        id="frame",
        label="Frame",
        stock="ply",
        pose=FLAT,
        low=0,
        high=3,
        nominal=rectangle(0, 0, x1=120, y1=90),
        marks=(),
        profile=Profile(outer=rectangle(0, 0, x1=120, y1=90).outer, holes=(rectangle(10, 10, x1=110, y1=80).outer[::-1],)),
    )
    plan = planned([a_part(STAKE), frame], laid(Placement(part="frame", copy=0, turn=0, x=20, y=20), Placement(part="label", copy=0, turn=0, x=70, y=60)))
    assert plan.sheets[1].lay.kind is LayKind.TURNED
    assert "opening of another" in plan.sheets[1].lay.why.text
    marked = replace(frame, marks=(Mark(line=NICK, operation=Operation.ENGRAVE, feature="back", back=True),))
    around = planned(
        [a_part(STAKE, back=False), marked], laid(Placement(part="frame", copy=0, turn=0, x=20, y=20), Placement(part="label", copy=0, turn=0, x=70, y=60))
    )
    assert around.sheets[1].lay.kind is LayKind.TURNED  # what lies in its opening would be in the way
    alone = planned([marked], laid(Placement(part="frame", copy=0, turn=0, x=20, y=20)))
    assert "fallen from its openings" in alone.sheets[1].lay.words.text


@settings(max_examples=40, deadline=None)
@given(
    turn=st.sampled_from(Turn), spot=st.tuples(st.integers(70, 220), st.integers(40, 140)), quarter=st.sampled_from((0, 90, 180, 270)), mirrored=st.booleans()
)
def test_a_turned_sheet_shows_each_mark_at_its_place_on_the_part(turn: Turn, spot: tuple[int, int], quarter: int, mirrored: bool) -> None:
    place = Placement(part="label", copy=0, turn=quarter, x=spot[0], y=spot[1], mirrored=mirrored)
    plan = planned([a_part(STAKE)], laid(place), PlanChoices(second=SecondSide.MARKS, turn=turn))
    back, front = plan.sheets
    assert (back.side, front.side, back.last, front.last, front.lay.kind) == (Side.BACK, Side.FRONT, False, True, LayKind.TURNED)
    w, h = 300.0, 200.0
    over = {Turn.SIDEWAYS: lambda p: (w - p[0], p[1]), Turn.UPWARDS: lambda p: (p[0], h - p[1])}[turn]
    (on_back,), (on_front,) = lines(back), lines(front)
    assert same_points(in_part(place, tuple(map(over, on_back))), NICK)
    assert same_points(in_part(place, on_front), NICK)
    # A part on its back shows its back on the front of the sheet: both marks are there, one from each run.
    assert not [s for s in back.strokes if s.path.operation in CUTS and s.path.part != REGISTRATION]
    holes = [s.path.contour.segments[0].centre for s in back.strokes if s.path.part == REGISTRATION]
    assert same_points(tuple(over(c) for c in holes if c), front.lay.marks)
    assert len(holes) == 3
    shape = placed_shape(NestPart(id="label", stock="ply", profile=Profile(outer=STAKE)), place)
    assert all(shape.distance(Point(m)) > RADIUS + CLEAR - 1e-6 for m in front.lay.marks)
    assert all(not replay([s.path for s in sheet.strokes]) for sheet in plan.sheets)


@given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 2)), min_size=1, max_size=6, unique=True), st.integers(140, 400), st.integers(110, 300))
def test_marks_tell_every_wrong_way_to_lay_the_sheet(cells: list[tuple[int, int]], width: int, height: int) -> None:
    sheet = rectangle(0, 0, x1=width, y1=height).outer
    taken = [rectangle(x, y, x1=x + width / 5, y1=y + height / 4).outer for x, y in ((8 + c * width / 4, 8 + r * height / 3) for c, r in cells)]
    marks = mark_places(sheet, (600, 400), taken=taken)
    assume(marks)
    assert all(Polygon(r).distance(Point(m)) >= RADIUS + CLEAR - 1e-6 for m in marks for r in taken)
    assert all(RADIUS + CLEAR - 0.01 <= x <= width - RADIUS - CLEAR + 0.01 and RADIUS + CLEAR - 0.01 <= y <= height - RADIUS - CLEAR + 0.01 for x, y in marks)
    askew = about(math.radians(0.4), (0, 0), end=(0.7, -0.5))
    right = read_marks(marks, [askew(m) for m in reversed(marks)])
    assert not right.problem
    assert right.off < 1e-6
    assert right.move.degrees == pytest.approx(0.4, abs=1e-6)
    wrong = {
        "not turned": [(width - x, y) for x, y in marks],
        "not turned, round": [(x, height - y) for x, y in marks],
        "other edge": [(width - x, height - y) for x, y in marks],
        "a quarter": [(height - y, x) for x, y in marks],
    }
    for way, found in wrong.items():
        assert read_marks(marks, [askew(p) for p in found]).problem, way


def test_readings_that_do_not_belong_together_say_which_is_the_matter() -> None:
    marks = ((10.0, 10.0), (290.0, 14.0), (30.0, 180.0))
    assert "2 of 3" in read_marks(marks, marks[:2]).problem.text
    assert "right sheet" in read_marks(marks, [(10.0, 10.0), (290.0, 14.0), (32.7, 180.0)]).problem.text
    assert "wrong edge" in read_marks(marks, [(300 - x, 200 - y) for x, y in marks]).problem.text
    assert "not turned over" in read_marks(marks, [(300 - x, y) for x, y in marks]).problem.text
    stretched = read_marks(marks, [(x * 1.001, y * 1.001) for x, y in marks])
    assert stretched.scale == pytest.approx(1.001)
    assert not stretched.problem


def test_the_mismatch_is_what_many_readings_come_to() -> None:
    """Marks read with normal errors of 0.1 mm, fitted: the farthest corner is off by less than told in about 19 of 20, on one axis."""
    import random

    chance = random.Random(5)
    marks, corner = ((10.0, 10.0), (290.0, 14.0), (30.0, 180.0)), (290.0, 190.0)
    limit = mismatch(marks, [corner], position_sd=0.0)
    off = []
    for _ in range(800):
        move = fitted(marks, [(x + chance.gauss(0, 0.1), y + chance.gauss(0, 0.1)) for x, y in marks])
        off += [abs(a - b) for a, b in zip(move(corner), corner, strict=True)]
    assert 0.93 < sum(o < limit for o in off) / len(off) < 0.99


@given(st.floats(3.0, 30.0), st.integers(1, 12), st.floats(0.0, 4.0))
def test_passes_from_both_sides_reach_a_tenth_deeper_than_the_sheet(t: float, passes: int, depth: float) -> None:
    depth = depth if depth > 0.5 else 0.0
    back, front = shared_passes(Beam(power=60, speed=10, passes=passes, depth=depth), t)
    each = depth or t / passes
    assert (back + front) * each >= 1.1 * t - 1e-6
    assert 0 <= front - back <= 1
    assert back + front == 2 or (back + front - 1) * each < 1.1 * t


def test_a_thick_sheet_is_cut_from_both_sides_and_falls_apart_only_in_the_second_run() -> None:
    place = Placement(part="label", copy=0, turn=0, x=60, y=40)
    plan = planned([a_part(STAKE, back=False)], laid(place), PlanChoices(thick=("ply",)), t=12.0, passes=4)
    back, front = plan.sheets
    cut = {s.path.part: s for s in back.strokes if s.path.operation in CUTS}
    assert (cut["label"].passes, cut["label"].path.through, cut[REGISTRATION].passes, cut[REGISTRATION].path.through) == (2, False, 5, True)
    (outer,) = [s for s in front.strokes if s.path.operation is Operation.OUTER]
    assert (outer.passes, outer.path.through) == (3, True)
    to = turning(Turn.SIDEWAYS, 300, height=200)
    assert Polygon([to(p) for p in sampled(cut["label"].path.contour)]).symmetric_difference(Polygon(sampled(outer.path.contour))).area < 1e-6


def test_without_room_for_marks_the_files_are_held_back() -> None:
    whole = a_part(rectangle(0, 0, x1=64, y1=34).outer)
    tight = laid(Placement(part="label", copy=0, turn=0, x=1, y=1), width=66, height=36)
    plan = planned([whole], tight, PlanChoices(second=SecondSide.MARKS))
    assert told(plan, "no_room_for_marks").severity is Severity.MUST
    assert planned([whole], tight).sheets[1].lay.kind is LayKind.SWAPPED  # which needs no marks


def test_operations_are_left_out_where_a_person_says_so() -> None:
    plan = planned([a_part(STAKE)], laid(*TWO), PlanChoices(skip=(Operation.ENGRAVE,)))
    assert [{s.path.operation for s in sheet.strokes} for sheet in plan.sheets] == [{Operation.OUTER}]
    assert "engraving" in told(plan, "left_out").message
    uncut = planned([a_part(STAKE)], laid(*TWO), PlanChoices(skip=(Operation.OUTER,)))
    assert uncut.sheets[1].lay.kind is LayKind.TURNED  # what is not cut free cannot be turned over by itself
    front = planned([a_part(STAKE)], laid(*TWO), PlanChoices(second=SecondSide.NONE))
    assert len(front.sheets) == 1
    assert "Label" in told(front, "backs_left_out").message


def test_a_printed_sheet_is_only_cut_by_its_marks() -> None:
    (sheet,) = planned([a_part(STAKE, back=False)], laid(*TWO), PlanChoices(printed=("ply",))).sheets
    assert (sheet.lay.kind, len(sheet.lay.marks)) == (LayKind.PRINTED, 3)
    assert {s.path.operation for s in sheet.strokes} == {Operation.OUTER}


corner = st.tuples(st.integers(-40, 40), st.integers(-40, 40))


@given(st.lists(corner, min_size=4, max_size=9, unique=True), st.floats(0, 6.28), st.tuples(st.floats(-90, 90), st.floats(-90, 90)), st.booleans())
def test_coverings_find_the_move_and_never_one_that_does_not_fit(
    points: list[tuple[int, int]], turn: float, shift: tuple[float, float], mirrored: bool
) -> None:
    shape = Polygon(points).convex_hull if len(points) % 2 else Polygon(sorted(points, key=lambda p: math.atan2(p[1] - 0.3, p[0] - 0.2)))
    assume(isinstance(shape, Polygon) and shape.is_valid and shape.area > 40)
    ring: Ring = tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1])
    move = Rigid(cos=math.cos(turn), sin=math.sin(turn), x=shift[0], y=shift[1], mirrored=mirrored)
    other: Ring = tuple(map(move, ring))
    if mirrored:  # turned over about its axis: what runs along it goes on doing so
        assert move.direction(move.axis) == pytest.approx(move.axis, abs=1e-9)
    found = coverings(ring, other, mirrored=mirrored, reach=0.02)
    assert any(all(math.dist(f(p), q) < 0.05 for p, q in zip(ring, other, strict=True)) for f in found)
    for f in coverings(ring, other, mirrored=not mirrored, reach=0.02):  # only when the shape is its own mirror image
        laid_on = affine_transform(shape, (-f.cos if f.mirrored else f.cos, -f.sin, -f.sin if f.mirrored else f.sin, f.cos, f.x, f.y))
        assert laid_on.symmetric_difference(Polygon(other)).area < 0.05 * Polygon(other).length
    x0, y0, x1, y1 = bounds_of(ring)
    assert not coverings(ring, tuple((x * 1.02, y) for x, y in other), mirrored=mirrored, reach=0.02) or abs(area_of(ring)) < 120 or x1 - x0 < 9 or y1 - y0 < 9


def test_a_text_on_the_back_reads_right_from_there() -> None:
    stocks = {"ply": make_stock("ply", 3.0)}
    layered = Design(numbers=LayeredNumbers(), stocks={r.id: "ply" for r in ROLES})
    panel = build(layered, stocks).parts[-1].id
    words = {"id": "t", "panel": panel, "words": "L", "cap": 10.0, "anchor": Anchor.LEFT, "x": 20.0}
    front, back = (
        next(m for p in build(replace(layered, features=(Text(**words, side=side),)), stocks).parts for m in p.marks if m.feature == "t")
        for side in (OnSide.FRONT, OnSide.BACK)
    )
    x0, _, x1, _ = bounds_of(build(layered, stocks).part(panel).profile.outer)
    assert (front.back, back.back) == (False, True)
    assert same_points(tuple((x0 + x1 - x, y) for x, y in back.line), front.line, 1e-3)


def test_three_marks_have_three_different_distances() -> None:
    marks = mark_places(rectangle(0, 0, x1=600, y1=400).outer, (600, 400), taken=[rectangle(40, 40, x1=560, y1=360).outer])
    sides = sorted(math.dist(a, b) for a, b in combinations(marks, 2))
    assert sides[1] - sides[0] > 6
    assert sides[2] - sides[1] > 6
