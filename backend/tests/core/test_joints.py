"""Joints, for any box: nothing overlaps, nothing is missing, both sides agree, and it can be put together."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon

from notchcore.check.dry_fit import collisions, dry_fit
from notchcore.check.order import assembly_order
from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Part
from notchcore.design.building import build
from notchcore.design.families.box import Top, arrange
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.joints.layout import cells, finger_count, tab_spans
from notchcore.design.joints.solve import solve
from notchcore.design.panel import Bound, Panel, resolved
from notchcore.findings import Severity
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose, mesh_of
from notchcore.geom.vectors import Vec3, X, Y, Z
from notchcore.measure.stock import Stock
from tests.solids import union_volume
from tests.strategies import boxes, make_box, make_stock


def volume(parts: Iterable[Part]) -> float:
    return sum(mesh_of(p.slab(nominal=True)).volume() for p in parts)


def measured_width(polygon: Polygon, feature: JointFeature) -> float:
    """Measure a gap or a tongue on a drawn polygon, along its axis, through its middle."""
    mx, my = (sum(c[k] for c in feature.corners) / 4 for k in (0, 1))
    ax, ay = feature.axis
    line = LineString([(mx - 1e4 * ax, my - 1e4 * ay), (mx + 1e4 * ax, my + 1e4 * ay)])
    crossed = line.difference(polygon) if feature.kind.is_gap else line.intersection(polygon)
    for piece in getattr(crossed, "geoms", [crossed]):
        if piece.distance(Point(mx, my)) < 1e-6:
            return float(piece.length)
    raise AssertionError(f"no {feature.kind} at {feature.id}")


def part_polygon(part: Part) -> Polygon:
    return Polygon(part.profile.outer, part.profile.holes)


@settings(max_examples=40, deadline=None)
@given(boxes())
def test_a_box_has_no_overlap_no_void_and_an_order(case: tuple) -> None:
    design, stocks = case
    assembly = build(design, stocks)
    if not assembly.parts:
        assert all(f.severity is Severity.MUST and f.field for f in assembly.findings)
        return
    arrangement = arrange(design.numbers, design.stocks, stocks)
    by_id = {p.id: p for p in arrangement.panels}
    envelopes = [resolved(p, by_id).slab() for p in arrangement.panels]
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert volume(assembly.parts) == pytest.approx(together, abs=0.05)  # no overlap
    assert union_volume(envelopes) == pytest.approx(together, abs=0.05)  # no void
    assert collisions(assembly.parts) == ()
    assert [f for f in assembly.findings if f.severity is Severity.MUST] == []
    assert assembly_order(assembly.parts).locked == ()


@settings(max_examples=25, deadline=None)
@given(boxes())
def test_every_ledger_tells_the_width_that_stands_on_the_part(case: tuple) -> None:
    assembly = build(*case)
    assume(assembly.parts)
    for part in assembly.parts:
        for feature in part.features:
            assert measured_width(part_polygon(part), feature) == pytest.approx(feature.width.value, abs=1e-5), feature.id


@settings(max_examples=20, deadline=None)
@given(boxes())
def test_both_sides_of_a_joint_agree(case: tuple) -> None:
    """Opening minus what goes in is the clearance, for slots against tabs and notches against fingers."""
    assembly = build(*case)
    assume(assembly.parts)
    parts = {p.id: p for p in assembly.parts}
    for meeting in assembly.meetings:
        features = [f for p in (parts[meeting.a], parts[meeting.b]) for f in p.features if f.meeting == meeting.id]
        slots = [f for f in features if f.kind is FeatureKind.SLOT]
        tabs = [f for f in features if f.kind is FeatureKind.TAB]
        assert len(slots) == len(tabs)
        for slot, tab in zip(slots, tabs, strict=True):
            assert slot.width.value - parts[tab.part].t == pytest.approx(meeting.clearance.value, abs=1e-9)
            assert slot.length - tab.width.value == pytest.approx(meeting.clearance.value, abs=1e-9)
        fingers = [f for f in features if f.kind is FeatureKind.FINGER]
        notches = [f for f in features if f.kind is FeatureKind.NOTCH]
        for notch in notches:
            finger = min(fingers, key=lambda f: math.dist(_middle(parts[f.part], f), _middle(parts[notch.part], notch)))
            assert finger.part != notch.part
            assert notch.width.value - finger.width.value == pytest.approx(meeting.clearance.value, abs=1e-9)
        for lap in (f for f in features if f.kind is FeatureKind.LAP):
            mate = meeting.b if lap.part == meeting.a else meeting.a
            assert lap.width.value - parts[mate].t == pytest.approx(meeting.clearance.value, abs=1e-9)


def _middle(part: Part, feature: JointFeature) -> Vec3:
    x, y = (sum(c[k] for c in feature.corners) / 4 for k in (0, 1))
    return part.pose.to_world((x, y), (part.low + part.high) / 2)


def standard(**stock_changes: float) -> tuple[Assembly, dict[str, Stock]]:
    thickness = {"walls": 3.08, "base": 3.08, "dividers": 2.94, "lid": 3.08} | stock_changes
    stocks = {k: make_stock(k, t, label=3.0) for k, t in thickness.items()}
    return build(make_box(width=214, depth=150, height=62, columns=3, rows=2), stocks), stocks


def test_a_slot_by_hand() -> None:
    """2.94 mm divider in a 3.08 mm wall, snug in wood: 2.94 + 0.015 = 2.955 wide."""
    assembly, _ = standard()
    slot = next(f for f in assembly.part("front").features if f.kind is FeatureKind.SLOT)
    assert [round(t.value, 4) for t in slot.width.terms] == [2.94, 0.015]
    assert slot.width.value == pytest.approx(2.955)


def test_a_new_reading_recuts_the_joints_that_depend_on_it_and_nothing_else() -> None:
    before, _ = standard()
    after, _ = standard(dividers=3.02)
    for old, new in zip(before.parts, after.parts, strict=True):
        assert len(old.features) == len(new.features)
        for f, g in zip(old.features, new.features, strict=True):
            depends = f.kind in (FeatureKind.SLOT, FeatureKind.LAP)
            assert g.width.value - f.width.value == pytest.approx(0.08 if depends else 0.0, abs=1e-9), f.id
            fx, fy = (sum(c[k] for c in f.corners) / 4 for k in (0, 1))
            gx, gy = (sum(c[k] for c in g.corners) / 4 for k in (0, 1))
            assert math.dist((fx, fy), (gx, gy)) < 0.08, f"{f.id} moved"
    assert before.part("base").profile.outer == after.part("base").profile.outer
    assert before.part("left").profile.outer == after.part("left").profile.outer


@settings(max_examples=15, deadline=None)
@given(st.permutations(range(8)), st.permutations(range(8)))
def test_neither_the_order_nor_the_ranks_of_panels_break_a_box(order: list[int], ranks: list[int]) -> None:
    stocks = {k: make_stock(k, t) for k, t in {"walls": 3.1, "base": 4.0, "dividers": 2.0, "lid": 3.0}.items()}
    design = make_box(width=120, depth=90, height=50, columns=2, rows=2, top=Top.FIXED)
    panels = list(arrange(design.numbers, design.stocks, stocks).panels)
    shuffled = [panels[i] for i in order]
    assert solve(shuffled, stocks=stocks).parts == solve(panels, stocks=stocks).parts
    ranked = [replace(p, rank=r) for p, r in zip(panels, ranks, strict=True)]
    parts = solve(ranked, stocks=stocks).parts
    assert volume(parts) == pytest.approx(union_volume([resolved(p, {q.id: q for q in panels}).slab() for p in panels]), abs=0.02)
    assert collisions(parts) == ()


@settings(max_examples=10, deadline=None)
@given(st.floats(0, 6.2), st.floats(0, 6.2))
def test_turned_in_space_a_box_is_cut_the_same(yaw: float, pitch: float) -> None:
    def turned(v: Vec3) -> Vec3:
        x, y, z = v[0] * math.cos(yaw) - v[1] * math.sin(yaw), v[0] * math.sin(yaw) + v[1] * math.cos(yaw), v[2]
        return x, y * math.cos(pitch) - z * math.sin(pitch), y * math.sin(pitch) + z * math.cos(pitch)

    stocks = {k: make_stock(k, 3.0) for k in ("walls", "base", "dividers", "lid")}
    design = make_box(width=100, depth=80, height=50)
    panels = list(arrange(design.numbers, design.stocks, stocks).panels)
    moved = [replace(p, pose=Pose(origin=turned(p.pose.origin), x=turned(p.pose.x), y=turned(p.pose.y))) for p in panels]
    for straight, skew in zip(solve(panels, stocks=stocks).parts, solve(moved, stocks=stocks).parts, strict=True):
        assert part_polygon(straight).symmetric_difference(part_polygon(skew)).area < 1e-3


@pytest.mark.parametrize("sides", [3, 4, 5, 6, 8])
def test_prisms_of_any_number_of_sides_fit(sides: int) -> None:
    """Walls at other than right angles: no overlap; the void is the stated wedge at most."""
    t, r, h = 3.0, 60.0, 50.0
    stocks = {"ply": make_stock("ply", t)}
    panels = []
    for i in range(sides):
        a = 2 * math.pi * i / sides
        along: Vec3 = (-math.sin(a), math.cos(a), 0.0)
        origin: Vec3 = (r * math.cos(a), r * math.sin(a), 0.0)
        half = r * math.tan(math.pi / sides) + t * 4
        mates = (f"wall{(i + 1) % sides}", f"wall{(i - 1) % sides}")
        panels.append(
            Panel(
                id=f"wall{i}",
                label=f"Wall {i}",
                stock="ply",
                envelope=rectangle(-half, 0, x1=half, y1=h),
                pose=Pose(origin=origin, x=along, y=Z),
                t=t,
                layout_t=t,
                datum=1.0,
                rank=i + 1,
                bounds=tuple(Bound(mate=m) for m in mates),
            )
        )
    assembly = solve(panels, stocks=stocks)
    corners = [m for m in assembly.meetings if m.kind == "corner"]
    assert len(corners) == sides
    assert collisions(assembly.parts) == ()
    by_id = {p.id: p for p in panels}
    void = union_volume([resolved(p, by_id).slab() for p in panels]) - union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert void <= sum(m.wedge_void for m in corners) + 0.05
    assert [f for f in assembly.findings if f.code == "loose_piece"] == []


def plate(pid: str, w: float, h: float, pose: Pose, *, datum: float = 0.0, rank: int = 0) -> Panel:
    return Panel(id=pid, label=pid, stock="ply", envelope=rectangle(0, 0, x1=w, y1=h), pose=pose, t=3.0, layout_t=3.0, datum=datum, rank=rank)


def shelf_pair(gap: float) -> list[Panel]:
    return [plate("wall", 100, 100, Pose(origin=(0, 0, 0), x=Y, y=Z)), plate("shelf", 80, 100, Pose(origin=(3.0 + gap, 0, 50), x=X, y=Y))]


@pytest.mark.parametrize("gap", [0.0, 0.04, 0.2, 0.29])
def test_an_edge_that_stops_short_is_never_passed_over_in_silence(gap: float) -> None:
    assembly = solve(shelf_pair(gap), stocks={"ply": make_stock("ply", 3.0)})
    assert [f.code for f in assembly.findings] == ["meeting_short"]
    assert assembly.findings[0].facts["amount"] == pytest.approx(gap, abs=1e-6)


def test_shelves_from_both_sides_share_one_line_of_a_wall() -> None:
    ply = {"ply": make_stock("ply", 3.0)}
    wall = plate("wall", 100, 100, Pose(origin=(0, 0, 0), x=Y, y=Z))
    right = plate("right", 80, 100, Pose(origin=(0, 0, 50), x=X, y=Y))
    left = plate("left", 80, 100, Pose(origin=(-77, 0, 50), x=X, y=Y))
    assembly = solve([wall, right, left], stocks=ply)
    assert collisions(assembly.parts) == ()
    assert {m.style for m in assembly.meetings if "wall" in (m.a, m.b)} == {"tabs"}
    assert assembly_order(assembly.parts).locked == ()


def test_tabs_keep_clear_of_a_hole_in_the_face() -> None:
    wall = plate("wall", 100, 100, Pose(origin=(0, 0, 0), x=Y, y=Z))
    holed = replace(wall, envelope=replace(wall.envelope, holes=(((40, 45), (40, 60), (60, 60), (60, 45)),)))
    shelf = plate("shelf", 80, 100, Pose(origin=(0, 0, 50), x=X, y=Y))
    assembly = solve([holed, shelf], stocks={"ply": make_stock("ply", 3.0)})
    slots = [f for f in assembly.part("wall").features if f.kind is FeatureKind.SLOT]
    assert slots
    for slot in slots:
        assert all(not 40 - 3 < c[0] < 60 + 3 for c in slot.corners)


def test_parallel_sheets_in_one_place_clash() -> None:
    one = plate("one", 50, 50, Pose(origin=(0, 0, 0), x=X, y=Y))
    two = plate("two", 50, 50, Pose(origin=(10, 10, 1), x=X, y=Y))
    assert [f.code for f in solve([one, two], stocks={"ply": make_stock("ply", 3.0)}).findings] == ["meeting_clash"]


def test_a_choice_on_one_meeting_stays_with_it_when_sizes_change() -> None:
    choice = {"front+left": MeetingChoice(clearance=0.3)}
    stocks = {k: make_stock(k, 3.0) for k in ("walls", "base", "dividers", "lid")}
    for width in (120.0, 340.0):
        assembly = build(make_box(choice, width=width, depth=90, height=60), stocks)
        clearances = {m.id: m.clearance.value for m in assembly.meetings if m.clearance}
        assert clearances.pop("front+left") == 0.3
        assert set(clearances.values()) == {0.015}


@pytest.mark.parametrize(
    ("numbers", "field"),
    [
        ({"width": 20.0, "depth": 90.0, "height": 60.0}, "width"),
        ({"width": 100.0, "depth": 90.0, "height": 12.0}, "height"),
        ({"width": 100.0, "depth": 90.0, "height": 60.0, "columns": 12}, "columns"),
        ({"width": 100.0, "depth": 90.0, "height": 60.0, "rows": 2, "divider_drop": 55.0}, "divider_drop"),
        ({"width": 100.0, "depth": 90.0, "height": 60.0, "thumb_notch": 90.0}, "thumb_notch"),
        ({"width": 100.0, "depth": 90.0, "height": 60.0, "top": Top.LIFT_OFF, "lid_hole": 80.0}, "lid_hole"),
    ],
)
def test_an_impossible_wish_names_the_number_to_change(numbers: dict, field: str) -> None:
    stocks = {k: make_stock(k, 9.0) for k in ("walls", "base", "dividers", "lid")}
    assembly = build(make_box(**numbers), stocks)
    assert assembly.parts == ()
    assert [f.field for f in assembly.findings] == [field]


@given(st.floats(1, 800), st.floats(0.8, 12), st.one_of(st.none(), st.integers(1, 30)))
def test_fingers_are_odd_and_never_narrower_than_allowed(length: float, t: float, wanted: int | None) -> None:
    count = finger_count(length, t, wanted=wanted)
    assert count % 2 == 1
    assert count == 1 or length / count >= max(1.5 * t, 4.0) - 1e-9
    spans = cells(0, length, count=count)
    assert spans[0][0] == 0
    assert spans[-1][1] == length


@given(st.floats(1, 800), st.floats(0.8, 12), st.one_of(st.none(), st.integers(1, 30)))
def test_tabs_keep_their_distance_and_width(length: float, t: float, wanted: int | None) -> None:
    spans = tab_spans(0, length, t=t, wanted=wanted)
    for a, b in spans:
        assert b - a >= 2 * t - 1e-6
        assert a >= 1.5 * t - 1e-6
        assert b <= length - 1.5 * t + 1e-6
    for (_, b), (c, _) in pairwise(spans):
        assert c - b >= 1.5 * t - 1e-6


@st.composite
def stars(draw: st.DrawFn) -> tuple[list[Panel], float]:
    """Draw up to seven panels that stand on one line at any angle, some of them leaning, on a floor or not, and by how much all are turned."""
    count, floor = draw(st.integers(2, 7)), draw(st.booleans())
    start = draw(st.sampled_from([0.0, -1.5, 2.0]))
    panels = [plate("floor", 240, 240, Pose(origin=(-120, -120, 0), x=X, y=Y))] if floor else []
    for k in range(count):
        a = 2 * math.pi * (k + draw(st.floats(-0.25, 0.25))) / count
        lean = math.radians(draw(st.sampled_from([0.0, 0.0, 0.0, 12.0, -20.0])))
        along: Vec3 = (math.cos(a), math.sin(a), 0.0)
        up: Vec3 = (-math.sin(a) * math.sin(lean), math.cos(a) * math.sin(lean), math.cos(lean))
        shape = rectangle(start, 0, x1=draw(st.floats(60, 100)), y1=draw(st.floats(40, 80)))
        panels.append(replace(plate(f"fin-{k}", 1, 1, Pose(origin=(0, 0, 0), x=along, y=up), datum=0.5), envelope=shape))
    return panels, draw(st.floats(0, 2 * math.pi))


def turned(panel: Panel, a: float) -> Panel:
    def about(v: Vec3) -> Vec3:
        return (v[0] * math.cos(a) - v[1] * math.sin(a), v[0] * math.sin(a) + v[1] * math.cos(a), v[2])

    return replace(panel, pose=Pose(origin=about(panel.pose.origin), x=about(panel.pose.x), y=about(panel.pose.y)))


@settings(max_examples=25, deadline=None)
@given(stars())
def test_up_to_eight_panels_at_one_corner_share_it_or_it_is_told_which_two_do_not(star: tuple[list[Panel], float]) -> None:
    panels, angle = star
    stocks = {"ply": make_stock("ply", 3.0)}
    assembly = solve(panels, stocks=stocks)
    told = {frozenset(f.parts) for f in assembly.findings if f.code in ("meeting_sharp", "meeting_clash")}
    hits = {frozenset(c.parts) for c in collisions(assembly.parts)}
    assert hits <= told
    whole = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert hits or volume(assembly.parts) == pytest.approx(whole, abs=0.05)
    found = dry_fit(assembly, stocks)
    assert not found.order.locked or [f for f in found.findings if f.severity is Severity.MUST]
    by_id = {p.id: p for p in panels}
    void = union_volume([resolved(p, by_id).slab() for p in panels]) - whole
    proud = sum(1.6 * 3.0 * m.length for m in assembly.meetings if m.kind == "corner")  # what stands out by less than half a sheet goes with the corner
    assert void <= 1.02 * sum(m.wedge_void for m in assembly.meetings) + proud + 0.05
    for other in (solve([turned(p, angle) for p in panels], stocks=stocks), solve(panels[::-1], stocks=stocks)):
        assert {m.id: m.style for m in other.meetings} == {m.id: m.style for m in assembly.meetings}
        for part in assembly.parts:
            assert mesh_of(other.part(part.id).slab()).volume() == pytest.approx(mesh_of(part.slab()).volume(), abs=0.05)
