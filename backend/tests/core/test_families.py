"""Every family, whatever its numbers: nothing overlaps, nothing is missing, and it goes together or a finding says why not."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.dry_fit import collisions
from notchcore.check.order import assembly_order
from notchcore.check.strength import long_levers
from notchcore.design.assembly import Assembly, FeatureKind, Part, as_counted
from notchcore.design.building import arranged, build
from notchcore.design.design import Design
from notchcore.design.edges import Edge
from notchcore.design.edits import CopyOf, PanelEdit
from notchcore.design.families.house import Filling, HouseNumbers
from notchcore.design.families.many_sided_numbers import Fingers, Floor, Lid, ManySidedNumbers, Panes
from notchcore.design.families.plate import PlateNumbers, PlateShape
from notchcore.design.families.registry import FAMILIES
from notchcore.design.joints.solve import solve
from notchcore.design.numbers import LARGEST, NumberKind, numbers_of, scaled_numbers
from notchcore.design.panel import Panel, resolved
from notchcore.design.walls import Wall
from notchcore.errors import NotchCoreError
from notchcore.findings import Severity
from notchcore.geom.contours import contour_of
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.profile import bounds_of, net_area, polygon_of
from notchcore.geom.slab import Pose, mesh_of
from notchcore.geom.vectors import Vec3, dot, sub
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.stock import Stock
from tests.solids import union_volume
from tests.strategies import family_designs, make_stock, thicknesses

EACH = sorted(FAMILIES)


def volume(parts: Iterable[Part]) -> float:
    return float(sum(mesh_of(p.slab(nominal=True)).volume() for p in parts))


def envelopes(panels: tuple[Panel, ...]) -> list:
    by_id = {p.id: p for p in panels}
    return [resolved(p, by_id).slab() for p in panels]


def expected_void(assembly: Assembly) -> float:
    return sum(m.wedge_void for m in assembly.meetings)


def _crumbs(n: ManySidedNumbers, parts: tuple[Part, ...]) -> float:
    """Return what corners of leaning walls may leave open beyond what their joints state [mm3]."""
    slope = abs(math.tan(math.radians(n.lean)))
    around = n.sides * (n.width + n.height * slope) * math.tan(math.pi / n.sides)
    tips = sum(p.t**2 for p in parts if p.id in ("floor", "lid")) * around / 2 if n.fingers is Fingers.WITHIN else 0.0  # tabs that end within a wall
    return slope * (sum(p.t**3 for p in parts) + tips)


def lawful(design: Design, stocks: dict[str, Stock]) -> Assembly:
    """Return what was built; it fits without a void and goes together, or it names the number to change."""
    assembly = build(design, stocks)
    must = [f for f in assembly.findings if f.severity is Severity.MUST]
    if not assembly.parts:
        assert must
        assert {f.field for f in must} <= {n.name for n in numbers_of(type(design.numbers))}
        return assembly
    assert must == []
    assert collisions(assembly.parts) == ()
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert volume(assembly.parts) == pytest.approx(together, abs=0.1)
    void = union_volume(envelopes(arranged(design, stocks).panels)) - together
    ends = _crumbs(design.numbers, assembly.parts) if isinstance(design.numbers, ManySidedNumbers) else 0.0
    assert -0.1 < void < expected_void(assembly) + 0.1 + ends
    assert assembly_order(assembly.parts).locked == ()
    return assembly


@pytest.mark.parametrize("family", EACH)
@settings(max_examples=25, deadline=None)
@given(data=st.data())
def test_whatever_its_numbers_it_fits_or_says_what_to_change(family: str, data: st.DataObject) -> None:
    lawful(*data.draw(family_designs(family)))


@settings(max_examples=16, deadline=None)
@given(
    sides=st.integers(3, 24),
    lean=st.one_of(st.just(0.0), st.floats(-50, 50)),
    floor=st.sampled_from(Floor),
    raised=st.sampled_from([0.0, 25.0]),
    lid=st.sampled_from(Lid),
    opening=st.sampled_from([0.0, 8.0, 20.0]),
    panes=st.sampled_from(Panes),
    thickness=st.lists(thicknesses, min_size=4, max_size=4),
    width=st.sampled_from([60.0, 150.0, 320.0]),
    fingers=st.sampled_from(Fingers),
    posts=st.sampled_from([0.0, 0.0, 12.0, 26.0]),
)
def test_any_number_of_walls_stands_round_a_floor_at_any_lean(
    sides: int,
    lean: float,
    floor: Floor,
    raised: float,
    lid: Lid,
    opening: float,
    panes: Panes,
    thickness: list[float],
    width: float,
    fingers: Fingers,
    posts: float,
) -> None:
    stocks = {r.id: make_stock(r.id, t) for r, t in zip(FAMILIES["many_sided"].roles, thickness, strict=True)}
    numbers = ManySidedNumbers(
        sides=sides,
        width=width,
        height=110.0,
        lean=round(lean, 1),
        floor=floor,
        raised=raised,
        reach=45.0,
        lid=lid,
        fingers=fingers,
        opening_width=opening,
        sill=48.0,
        opening_height=14.0,
        panes=panes,
        lap=3.0,
        posts=posts,
    )
    design = Design(numbers=numbers, stocks={k: k for k in stocks})
    for _ in range(8):  # whoever does what the findings say gets there
        told = [f for f in build(design, stocks).findings if f.severity is Severity.MUST]
        if not told or (first := told[0]).field is None:
            break
        value = math.ceil(first.facts["least_mm"] * 10) / 10 if "least_mm" in first.facts else math.floor(first.facts["most_mm"] * 10) / 10
        if not 4.0 <= value <= LARGEST:
            return
        design = replace(design, numbers=replace(design.numbers, **{first.field: value}))
    made = lawful(design, stocks)
    assert made.parts
    numbers = design.numbers
    walls = [p for p in made.parts if p.id.startswith("wall-")]
    assert len(walls) == sides
    stands = [p for p in made.parts if p.id.startswith("post-")]
    assert len(stands) == (sides if numbers.posts_width else 0)
    jointed = {m.a for m in made.meetings if m.holds} | {m.b for m in made.meetings if m.holds}
    crowded = {p for f in made.findings if f.code == "joint_crowded" for p in f.parts}  # in a sharp corner: that is told
    assert {p.id for p in stands} <= jointed | crowded
    heights = [w.pose.to_world(c, h)[2] for w in walls for c in w.nominal.outer for h in (w.low, w.high)]
    if floor is Floor.NONE or (floor is Floor.IN and raised):
        assert min(heights) == pytest.approx(0.0, abs=1e-6)
    web = minimum_web(MATERIALS["plywood"], stocks["walls"].t)
    for w in walls if numbers.opening_width else ():  # what is left between an opening and the joints beside it
        opening = max((Polygon(h) for h in w.nominal.holes), key=lambda h: h.area)
        assert opening.distance(Polygon(w.nominal.outer).exterior) > web - 0.01
    if fingers is Fingers.WITHIN:
        inside = [p for p in made.parts if p.id in ("floor", "lid") and (floor is Floor.IN if p.id == "floor" else lid is Lid.FIXED)]
        points = [p.pose.to_world(c, h) for p in (*walls, *inside) for c in p.nominal.outer for h in (p.low, p.high)]
        assert max(dot(w.pose.normal, sub(q, w.pose.origin)) - w.high for w in walls for q in points) < 1e-6
    if lid is not Lid.FIXED:
        assert max(heights) == pytest.approx(numbers.height, abs=1e-6)


def test_posts_stand_in_the_corners_and_in_the_floor_with_their_sizes_worked_by_hand() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["many_sided"].roles}
    numbers = ManySidedNumbers(sides=8, width=150.0, height=180.0, lid=Lid.FIXED, posts=18.0)
    made = lawful(Design(numbers=numbers, stocks={k: k for k in stocks}), stocks)
    post = made.part("post-3")
    x0, y0, x1, y1 = bounds_of(post.nominal.outer)
    outer = 72 / math.cos(math.pi / 8) - 1.5 * math.tan(math.pi / 8) - 0.02
    assert (x0, x1, y0, y1) == pytest.approx((outer - 18, outer, 0.0, 180.0))  # its tabs go through the floor and the top
    wall = made.part("wall-3")
    gap = [wall.low - dot(wall.pose.normal, sub(post.pose.to_world((outer, 90.0), h), wall.pose.origin)) for h in (post.low, post.high)]
    assert min(gap) == pytest.approx(0.02 * math.cos(math.pi / 8))
    open_ = build(Design(numbers=replace(numbers, lid=Lid.LIFT_OFF), stocks={k: k for k in stocks}), stocks)
    assert long_levers(open_) == ()  # one tab holds each at its foot, and the corner the rest of it
    apart = replace(open_, parts=tuple(p for p in open_.parts if not p.id.startswith("wall-")))
    (lever,) = long_levers(apart)
    assert len(lever.parts) == 8
    (narrow,) = build(Design(numbers=replace(numbers, posts=9.0), stocks={k: k for k in stocks}), stocks).findings
    assert (narrow.code, narrow.field, narrow.facts["least_mm"]) == ("posts_too_narrow", "posts", pytest.approx(15.0))


def test_a_floor_leaves_the_gaps_outside_flat_corners_open() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["many_sided"].roles}
    made = build(Design(numbers=ManySidedNumbers(sides=16, width=260.0, height=80.0, floor=Floor.IN), stocks={k: k for k in stocks}), stocks)
    assert [f.code for f in made.findings] == ["corners_too_flat"]
    floor, corner = Polygon(made.part("floor").profile.outer), 127.0 / math.cos(math.pi / 16)  # where the inner faces of two walls meet
    for k in range(16):
        v = -math.pi / 2 + (k + 0.5) * math.pi / 8
        assert [floor.contains(Point(r * math.cos(v), r * math.sin(v))) for r in (corner - 4.0, corner + 0.8)] == [True, False]


def test_walls_round_a_floor_have_the_sizes_that_are_worked_by_hand() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["many_sided"].roles}
    made = build(Design(numbers=ManySidedNumbers(sides=8, width=150.0, height=180.0, floor=Floor.NONE), stocks={k: k for k in stocks}), stocks)
    wall = next(p for p in made.parts if p.id == "wall-1")
    x0, y0, x1, y1 = bounds_of(wall.nominal.outer)
    # a side of the octagon, and at each end what the square end of a finger needs to reach the neighbour's outer face with its inner edge too
    assert x1 - x0 == pytest.approx(150 * math.tan(math.radians(22.5)) + 2 * 3 / math.tan(math.radians(45)))
    assert (y0, y1) == pytest.approx((0.0, 180.0))
    notches = sorted({round(x - x0, 3) for x, _ in wall.nominal.outer if x - x0 < 12})
    assert notches == pytest.approx([0.0, 3 + 3 / math.sin(math.radians(45))], abs=1e-3)  # a square cut that clears the neighbour's inner face
    wide = build(Design(numbers=ManySidedNumbers(sides=8, width=150.0, height=180.0, opening_width=90.0), stocks={k: k for k in stocks}), stocks)
    (told,) = [f for f in wide.findings if f.severity is Severity.MUST]
    web = minimum_web(MATERIALS["plywood"], 3.0)
    assert told.facts["most_mm"] == pytest.approx(2 * (75 * math.tan(math.radians(22.5)) - 3 / math.sin(math.radians(45)) - web))
    facts = {f.label: f.mm for f in made.facts}
    assert facts["Corner to corner, at the foot"] == pytest.approx((150 / math.cos(math.radians(22.5)),))
    assert facts["Clear inside, at the foot"] == pytest.approx((144.0,))


def turned(v: Vec3, yaw: float, pitch: float) -> Vec3:
    x, y, z = v[0] * math.cos(yaw) - v[1] * math.sin(yaw), v[0] * math.sin(yaw) + v[1] * math.cos(yaw), v[2]
    return x, y * math.cos(pitch) - z * math.sin(pitch), y * math.sin(pitch) + z * math.cos(pitch)


def solved(panels: Iterable[Panel], design: Design, stocks: dict[str, Stock]) -> Assembly:
    return solve(list(panels), rules=arranged(design, stocks).rules, stocks=stocks)


@pytest.mark.parametrize("family", EACH)
@settings(max_examples=6, deadline=None)
@given(yaw=st.floats(0.1, 6.2), pitch=st.floats(0.1, 6.2), random=st.randoms(use_true_random=False))
def test_neither_the_place_in_space_nor_the_order_of_the_list_changes_a_part(family: str, yaw: float, pitch: float, random: Random) -> None:
    f = FAMILIES[family]
    stocks = {r.id: make_stock(r.id, t) for r, t in zip(f.roles, (3.1, 2.6, 3.4, 3.0, 2.9, 3.2, 3.3, 2.8), strict=False)}
    design = Design(numbers=f.numbers(), stocks={k: k for k in stocks})
    panels = list(arranged(design, stocks).panels)
    straight = solved(panels, design, stocks)
    moved = [replace(p, pose=Pose(origin=turned(p.pose.origin, yaw, pitch), x=turned(p.pose.x, yaw, pitch), y=turned(p.pose.y, yaw, pitch))) for p in panels]
    random.shuffle(moved)
    skew = {p.id: p for p in solved(moved, design, stocks).parts}
    for part in straight.parts:
        # Which panel of a lap is open upward may turn with the world: then both lose the same in sum.
        assert polygon_of(skew[part.id].profile).symmetric_difference(polygon_of(part.profile)).area < 1e-2 or family == "crate", part.id
    assert sum(net_area(p.nominal) * p.t for p in straight.parts) == pytest.approx(sum(net_area(p.nominal) * p.t for p in skew.values()), rel=1e-6)


@pytest.mark.parametrize("family", EACH)
def test_scaling_a_family_scales_its_lengths_and_nothing_else(family: str) -> None:
    numbers = FAMILIES[family].numbers()
    larger = scaled_numbers(numbers, 1.5)
    for about in numbers_of(type(numbers)):
        factor = 1.5 if about.kind is NumberKind.LENGTH and about.scales else None
        before, after = getattr(numbers, about.name), getattr(larger, about.name)
        assert after == (pytest.approx(before * factor) if factor else before)


@pytest.mark.parametrize("family", EACH)
def test_numbers_out_of_bounds_are_refused_by_name(family: str) -> None:
    kind = FAMILIES[family].numbers
    for about in numbers_of(kind):
        if about.kind in (NumberKind.CHOICE, NumberKind.TEXT):
            continue
        for wrong in (about.most + 1, about.least - 1 if not (about.least == 0 and about.none_at_zero) else -1, float("nan")):
            with pytest.raises(NotchCoreError) as told:
                kind(**{about.name: wrong})
            assert told.value.facts["field"] == about.name


def test_a_houses_door_that_falls_out_of_the_wall_is_no_drop_out_once_it_is_of_another_stock() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["house"].roles}
    numbers = FAMILIES["house"].numbers(filling=Filling.FALLEN, door_width=30.0, windows=1)
    design = Design(numbers=numbers, stocks={k: k for k in stocks})
    doors = {p.id: p.falls_from for p in build(design, stocks).parts if p.falls_from}
    assert doors == {"front-door": "front", "left-window-1": "left", "right-window-1": "right"}
    copied = build(replace(design, added=(CopyOf(id="d", label="Spare door", of="front-door", move=(0.0, -40.0, 0.0)),)), stocks)
    assert copied.part("d").falls_from == ""
    other = build(replace(design, edits={"front-door": PanelEdit(stock="trim")}), stocks)
    assert [other.part(p).falls_from for p in ("front-door", "left-window-1")] == ["", "left"]


@pytest.mark.parametrize(("bed", "pieces"), [(None, 1), ((600.0, 400.0), 1), ((200.0, 300.0), 2)])
def test_ribs_longer_than_the_bed_are_divided_by_themselves(bed: tuple | None, pieces: int) -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["crate"].roles}
    assembly = build(Design(numbers=FAMILIES["crate"].numbers(), stocks={k: k for k in stocks}), stocks, bed=bed)
    ribs = [p for p in assembly.parts if p.id.partition(".")[0] == "along-1"]
    assert len(ribs) == pieces
    if bed is not None:
        assert all(bounds_of(p.profile.outer)[2] - bounds_of(p.profile.outer)[0] <= max(bed) for p in ribs)


def test_parts_stand_in_the_order_in_which_people_count() -> None:
    names = ["rib 10·1", "Rib 2", "Rib 1·2", "Rib 1·10", "rib a", "Rib"]
    assert sorted(names, key=as_counted) == ["Rib", "Rib 1·2", "Rib 1·10", "Rib 2", "rib 10·1", "rib a"]
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["crate"].roles}
    made = build(Design(numbers=FAMILIES["crate"].numbers(along=3, across=12), stocks={k: k for k in stocks}), stocks)
    assert [p.label for p in made.parts] == [f"Rib {n}" for n in range(1, 13)] + [f"Rib {c}" for c in "ABC"]


def test_the_roofs_slope_is_in_the_width_of_its_slots() -> None:
    """A 3 mm wall meets a 3 mm roof of 35 degrees at 55 degrees between their planes: 3/sin 55 + 3/tan 55 = 5.763, snug + 0.015."""
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["house"].roles}
    assembly = build(Design(numbers=FAMILIES["house"].numbers(), stocks={k: k for k in stocks}), stocks)
    slots = [f for f in assembly.part("roof-left").features if f.kind is FeatureKind.SLOT and f.meeting == "left+roof-left"]
    assert slots
    assert {round(f.width.value, 3) for f in slots} == {round(3 / math.sin(math.radians(55)) + 3 / math.tan(math.radians(55)) + 0.015, 3)}


def test_a_posts_slot_lies_at_minus_the_turn_of_its_layer() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["turned"].roles}
    numbers = FAMILIES["turned"].numbers(layers=10, twist=90.0, posts=1)
    assembly = build(Design(numbers=numbers, stocks={k: k for k in stocks}), stocks)
    for i in range(2, 10):
        part = assembly.part(f"layer-{i}")
        (slot,) = [f for f in part.features if f.kind is FeatureKind.SLOT]
        x, y = (sum(c[k] for c in slot.corners) / 4 for k in (0, 1))
        assert math.degrees(math.atan2(y, x)) == pytest.approx(-(i - 1) * 10.0, abs=1e-6)


LINE = ((0.0, 0.0), (10.0, 0.0), (20.0, 0.0))


@pytest.mark.parametrize(
    "ring", [LINE[:2], LINE, ((5.0, 5.0),) * 4, ((0.0, 0.0), (float("nan"), 1.0), (1.0, 1.0)), ((0.0, 0.0), (float("inf"), 1.0), (1.0, 1.0))]
)
def test_an_outline_that_encloses_nothing_is_refused_in_words(ring: tuple) -> None:
    with pytest.raises(NotchCoreError, match="outline"):
        FAMILIES["stand"].numbers(silhouette=ring)


@pytest.mark.parametrize(
    ("ring", "stands"),
    [(((0.0, 0.0), (10.0, 10.0), (0.0, 10.0), (10.0, 0.0)), True), (((0.0, 0.0), (10.0, 10.0), (10.0, 0.0), (0.0, 10.0)), False)],
)
def test_an_outline_that_crosses_itself_stands_on_its_largest_part_or_says_why_not(ring: tuple, stands: bool) -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["stand"].roles}
    numbers = FAMILIES["stand"].numbers(silhouette=ring, foot=20.0)
    assembly = build(Design(numbers=numbers, stocks={k: k for k in stocks}), stocks)
    assert bool(assembly.parts) is stands
    assert [f.field for f in assembly.findings] == ([] if stands else ["foot"])


@pytest.mark.parametrize(
    ("ring", "filled"),
    [
        # a stem on a ground plate that is wider than the foot: nothing is filled, the gaps beside the stem are the figure's own
        (((10.0, 0.0), (90.0, 0.0), (90.0, 6.0), (55.0, 6.0), (55.0, 100.0), (45.0, 100.0), (45.0, 6.0), (10.0, 6.0)), 0.0),
        # a bare stem of 10 by 100: the foot of 40 is filled up to a plinth of four thicknesses on both sides of it
        (((45.0, 0.0), (55.0, 0.0), (55.0, 50.0), (90.0, 50.0), (90.0, 100.0), (10.0, 100.0), (10.0, 50.0), (45.0, 50.0)), 12.0 * 30.0),
    ],
)
def test_a_foot_fills_only_what_is_open_to_the_ground(ring: tuple, filled: float) -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["stand"].roles}
    numbers = FAMILIES["stand"].numbers(silhouette=ring, width=80.0, height=100.0, foot=40.0, base="single")
    (figure,) = [p for p in build(Design(numbers=numbers, stocks={k: k for k in stocks}), stocks).parts if p.id == "figure"]
    assert polygon_of(figure.nominal).area == pytest.approx(Polygon(ring).area + filled + 40.0 * 3.0, rel=1e-3)


@settings(max_examples=40, deadline=None)
@given(
    shape=st.sampled_from(PlateShape),
    w=st.floats(40, 300),
    h=st.floats(40, 300),
    part=st.floats(0.2, 0.8),
    sweep=st.floats(20, 340),
    sides=st.integers(3, 12),
    radii=st.tuples(*[st.floats(0.5, 19)] * 4),
)
def test_a_plate_is_of_the_shape_that_its_numbers_say(
    shape: PlateShape, w: float, h: float, part: float, sweep: float, sides: int, radii: tuple[float, float, float, float]
) -> None:
    """Areas by their formulas, arcs as arcs, and it can be built on: a wall on one of its edges where that is straight."""
    left = (1 + part) / 2 * w  # with the other two sides it closes
    numbers = PlateNumbers(
        shape=shape,
        width=w,
        height=h,
        upper=part * w,
        shift=10.0,
        left_high=h,
        right_high=max(part * h, 10.0),
        across=w,
        hole=part * w,
        sweep=sweep,
        sides=sides,
        lower_side=w,
        right_side=w,
        left_side=left,
        radius_1=radii[0],
        radius_2=radii[1],
        radius_3=radii[2],
        radius_4=radii[3],
    )
    stocks = {"plate": make_stock("plate", 3.0)}
    design = Design(numbers=numbers, stocks={"plate": "plate"})
    built = build(design, stocks)
    if [f.code for f in built.findings] == ["ring_too_narrow"]:
        return
    assert built.findings == ()
    profile = built.part("sheet").profile
    s = (2 * w + left) / 2
    wanted = {
        PlateShape.RECTANGLE: w * h - (1 - math.pi / 4) * sum(r * r for r in radii),
        PlateShape.ELLIPSE: math.pi * w * h / 4,
        PlateShape.RING: math.pi * w * w * (1 - part**2) / 4,
        PlateShape.SECTOR: math.pi * w * w * (1 - part**2) / 4 * sweep / 360,
        PlateShape.POLYGON: sides * (w / 2) ** 2 * math.sin(2 * math.pi / sides) / 2,
        PlateShape.TRIANGLE: math.sqrt(s * (s - w) ** 2 * (s - left)),
        PlateShape.TRAPEZIUM: h * w * (1 + part) / 2,
        PlateShape.SLOPING: w * (h + numbers.right_high) / 2,
    }
    assert polygon_of(profile).area == pytest.approx(wanted[shape], rel=5e-4)
    assert bounds_of(profile.outer)[:2] == pytest.approx((0, 0), abs=1e-9)
    arcs = sum(x.centre is not None for x in contour_of(profile.outer, profile.circles).segments)
    assert arcs == {PlateShape.RECTANGLE: 4, PlateShape.RING: 1, PlateShape.SECTOR: 2}.get(shape, int(shape is PlateShape.ELLIPSE and w == h))
    rim = Wall(id="rim", label="Rim", stock="plate", host="sheet", edge=Edge.LOWER, height=25.0, inset_low=0.0)
    walled = build(replace(design, added=(rim,)), stocks)
    straight = shape in (PlateShape.RECTANGLE, PlateShape.POLYGON, PlateShape.TRIANGLE, PlateShape.TRAPEZIUM, PlateShape.SLOPING)
    assert ([f.code for f in walled.findings] == ["added_panel_lost"]) != straight or shape is PlateShape.SECTOR
    if straight:
        assert {m.id for m in walled.meetings} == {"rim+sheet"}


def test_a_plate_that_cannot_be_says_which_number_to_change() -> None:
    stocks = {"plate": make_stock("plate", 3.0)}
    for numbers, code, field in (
        (PlateNumbers(width=40, height=40, radius_2=30, radius_3=25), "corner_too_round", "radius_2"),
        (PlateNumbers(shape=PlateShape.RING, across=60, hole=59), "ring_too_narrow", "hole"),
        (PlateNumbers(shape=PlateShape.TRIANGLE, lower_side=200, right_side=90, left_side=100), "triangle_does_not_close", "lower_side"),
    ):
        (found,) = build(Design(numbers=numbers, stocks={"plate": "plate"}), stocks).findings
        assert (found.code, found.field) == (code, field)
        mended = replace(numbers, **{field: found.facts["most_mm"]})
        assert build(Design(numbers=mended, stocks={"plate": "plate"}), stocks).findings == ()


def test_an_entrance_too_high_is_put_lower_and_one_too_large_made_smaller() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["house"].roles}
    numbers = HouseNumbers(width=60.0, depth=60.0, wall=44.0, hole=5.0, hole_height=140.0)
    fields = []
    for start in (numbers, replace(numbers, hole=80.0)):
        numbers = start
        while found := [f for f in build(Design(numbers=numbers, stocks={k: k for k in stocks}), stocks).findings if f.code == "entrance_does_not_fit"]:
            assert len(fields) < 6, fields
            fields.append(found[0].field)
            numbers = replace(numbers, **{str(found[0].field): round(found[0].facts.get("most_mm", found[0].facts.get("least_mm", 0.0)), 1)})
    assert fields == ["hole_height", "hole", "hole_height"]
