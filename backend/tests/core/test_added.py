"""Panels that a person adds: they stand where they say, are joined to all that they meet, share no place, and follow."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.dry_fit import collisions
from notchcore.check.order import assembly_order
from notchcore.design.adding import corner_of, edges_of, lattice_of
from notchcore.design.assembly import Assembly
from notchcore.design.between import AXES, Axis, Between
from notchcore.design.braces import Brace
from notchcore.design.building import arranged, build
from notchcore.design.design import Design
from notchcore.design.edges import OUTWARD, Edge
from notchcore.design.edits import CopyOf, PanelEdit
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.plate import PlateNumbers, PlateShape
from notchcore.design.panel import range_along, resolved
from notchcore.design.plates import SPACER, OnFace
from notchcore.design.scaling import scaled
from notchcore.design.sizes import Along, size_ledger
from notchcore.design.slats import Slat
from notchcore.design.styles import Style
from notchcore.design.uprights import Upright
from notchcore.design.walls import Wall
from notchcore.errors import DesignError, NotchCoreError
from notchcore.geom.slab import corners_of, mesh_of
from notchcore.geom.vectors import Vec3, add, cross, dot, scale, sub
from tests.core.test_edits import STOCKS, a_box, shelf, sizes
from tests.solids import union_volume

T = STOCKS["walls"].t
FRAME = ("left", "front", "right", "back")


def stand_together(assembly: Assembly) -> None:
    """No two parts want the same place, and no material is there twice."""
    assert collisions(assembly.parts) == ()
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert sum(mesh_of(p.slab(nominal=True)).volume() for p in assembly.parts) == pytest.approx(together, abs=0.1)


def a_plate(**more: object) -> Design:
    numbers = {k: more.pop(k) for k in list(more) if k in PlateNumbers.__dataclass_fields__}
    return Design(numbers=PlateNumbers(**numbers), stocks={"plate": "walls"}, **more)  # type: ignore[arg-type]


def walls_round(design: Design, **more: object) -> Design:
    edges = edges_of(design, STOCKS, panel="sheet").edges
    named = {0: ""} | {e.nth: f"wall-{e.nth}" for e in edges}
    walls = [
        Wall(id=named[e.nth], label=named[e.nth], stock="walls", host="sheet", edge=e.side, nth=e.nth, beside=(named[e.before], named[e.after]), **more)
        for e in edges
    ]  # type: ignore[arg-type]
    return replace(design, added=tuple(walls))


@settings(max_examples=25, deadline=None)
@given(
    pair=st.sampled_from([("left", "right", Axis.Z), ("front", "back", Axis.Z), ("right", "left", Axis.Y), ("back", "front", Axis.X)]),
    columns=st.integers(1, 2),
    rise=st.floats(-0.2, 0.2),
    over=st.floats(-0.2, 0.2),
    back=st.sampled_from([(0.0, 0.0), (20.0, 0.0), (15.0, 25.0)]),
    turned=st.booleans(),
)
def test_a_panel_from_line_to_line_slopes_as_it_says_and_is_joined_to_all_that_it_meets(
    pair: tuple[str, str, Axis], columns: int, rise: float, over: float, back: tuple[float, float], turned: bool
) -> None:
    a, b, axis = pair
    size = {Axis.X: 180.0, Axis.Y: 120.0, Axis.Z: 170.0}[axis]
    ramp = Between(
        id="ramp", label="Ramp", stock="base", a=a, b=b, axis=axis, at=0.45 * size, rise=rise * size, over=over * size, inset_low=back[0], inset_high=back[1]
    )
    numbers = BoxNumbers(width=180, depth=120, height=170, columns=columns)
    design = a_box(numbers=numbers, added=(ramp,), edits={"ramp": PanelEdit(turned=turned)})
    assembly = build(design, STOCKS)
    if [f for f in assembly.findings if f.severity == "must"]:  # it meets something too sharply: that is told
        return
    stand_together(assembly)
    panels = {p.id: p for p in arranged(design, STOCKS).panels}
    sheet, n = panels["ramp"], panels[a].pose.normal
    third, way = cross(AXES[axis], n), AXES[axis]
    spans = [range_along(resolved(panels[p], panels), third) for p in (a, b)]
    low, high = max(s[0] for s in spans) + back[0], min(s[1] for s in spans) - back[1]
    towards = 1.0 if sum(range_along(panels[b], n)) > sum(range_along(panels[a], n)) else -1.0
    for host, more, inner in ((a, 0.0, towards), (b, ramp.over, -towards)):
        face = max(range_along(panels[host], n), key=lambda u: inner * u)
        for end, height in ((low, ramp.at + more), (high, ramp.at + more + ramp.rise)):
            place = add(add(scale(n, face), scale(third, end)), scale(way, height))
            x, y = sheet.pose.to_plane(place)
            assert sub(place, sheet.pose.to_world((x, y))) == pytest.approx((0, 0, 0), abs=1e-6)  # in its middle plane
    joined = {p for m in assembly.meetings if "ramp" in (m.a, m.b) for p in (m.a, m.b)}
    assert {a, b} <= joined
    assert {m.style for m in assembly.meetings if {m.a, m.b} in ({"ramp", a}, {"ramp", b})} == {Style.TABS}


@settings(max_examples=20, deadline=None)
@given(
    pair=st.sampled_from([("left", "base"), ("front", "left"), ("base", "back"), ("right", "front")]),
    on=st.tuples(st.floats(30, 60), st.floats(30, 60)),
    back=st.sampled_from([(0.0, 0.0), (20.0, 0.0), (15.0, 25.0)]),
    width=st.floats(150, 260),
)
def test_a_brace_goes_across_the_corner_from_line_to_line_and_is_joined_at_both_ends(
    pair: tuple[str, str], on: tuple[float, float], back: tuple[float, float], width: float
) -> None:
    brace = Brace(id="brace", label="Brace", stock="base", a=pair[0], b=pair[1], on_a=on[0], on_b=on[1], inset_low=back[0], inset_high=back[1])
    design = a_box(numbers=BoxNumbers(width=width, depth=120, height=150, columns=1), added=(brace,))
    assembly = build(design, STOCKS)
    assert [f.code for f in assembly.findings if f.severity == "must"] == []
    stand_together(assembly)
    by = {p.id: p for p in assembly.parts}
    sheet = by["brace"].pose
    for host, other, far in ((pair[0], pair[1], on[0]), (pair[1], pair[0], on[1])):
        # the inner faces of a box look at its middle: where the brace's middle plane meets one, it is this far from the other
        wall, base = by["left"].t, by["base"].t
        inner = {"left": (wall, 0), "right": (width - wall, 0), "front": (wall, 1), "back": (120 - wall, 1), "base": (base, 2)}
        (face, k), (start, j) = inner[host], inner[other]
        middle = (width / 2, 60.0, 75.0)
        place = list(middle)
        place[k], place[j] = face, start + math.copysign(far, middle[j] - start)
        assert dot(sub(tuple(place), sheet.origin), sheet.normal) == pytest.approx(0, abs=1e-6)  # type: ignore[arg-type]
    assert {m.style for m in assembly.meetings if {m.a, m.b} in ({"brace", pair[0]}, {"brace", pair[1]})} == {Style.TABS}
    assert assembly_order(assembly.parts).locked == ()
    room = corner_of(design, STOCKS, a=pair[0], b=pair[1])
    assert room is not None
    for span, side in ((room.on_a, "on_a"), (room.on_b, "on_b")):  # just within it, it stands; beyond it, it is told how far it may go
        for share, stands in ((0.02, True), (0.98, True), (1.02, False)):
            there = replace(brace, **{side: span[0] + share * (span[1] - span[0])})
            found = build(replace(design, added=(there,)), STOCKS)
            told = [f.says.text for f in found.findings if f.code == "added_panel_lost"]
            assert (told == []) is stands
            assert stands or (f"{span[0]:.1f} mm to {span[1]:.1f} mm" in told[0] and "beyond" in told[0])


def test_a_sheet_between_two_that_would_end_beyond_them_is_told_how_far_they_reach() -> None:
    ramp = Between(id="ramp", label="Ramp", stock="base", a="left", b="right", axis=Axis.Z, at=45.0, rise=15.0)

    def told(**more: object) -> str:
        findings = build(a_box(numbers=BoxNumbers(width=180, depth=120, height=60, columns=1), added=(replace(ramp, **more),)), STOCKS).findings  # type: ignore[arg-type]
        return " ".join(f.says.text for f in findings if f.code == "added_panel_lost")

    assert told(rise=14.0) == ""
    assert "beyond" in told()
    assert "from 0.0 mm to 60.0 mm" in told()
    assert "do not face each other" in told(b="front")


ROUND = (Edge.LOWER, Edge.RIGHT, Edge.UPPER, Edge.LEFT)


@settings(max_examples=20, deadline=None)
@given(
    edges=st.sampled_from([ROUND, *((e,) for e in Edge)]),
    lean=st.sampled_from([0.0, 15.0, -15.0, 35.0]),
    back=st.booleans(),
    turned=st.booleans(),
    height=st.floats(20, 60),
    kept=st.sampled_from([(0.0, 0.0), (15.0, 0.0)]),
)
def test_walls_on_edges_stand_flush_with_them_and_are_joined_to_their_host_and_to_each_other(
    edges: tuple[Edge, ...], lean: float, back: bool, turned: bool, height: float, kept: tuple[float, float]
) -> None:
    low, high = (0.0, 0.0) if len(edges) > 1 else kept
    names = [f"wall-{e}" for e in edges]
    walls = tuple(
        Wall(
            id=n,
            label=n,
            stock="walls",
            host="base",
            edge=e,
            back=back,
            height=height,
            lean=lean,
            inset_low=low,
            inset_high=high,
            beside=(names[k - 1], names[(k + 1) % 4]) if len(edges) > 1 else (),
        )
        for k, (n, e) in enumerate(zip(names, edges, strict=True))
    )
    edits = {k: PanelEdit(gone=True) for k in ("front", "back", "left", "right")} | {"base": PanelEdit(turned=turned)}
    design = a_box(numbers=BoxNumbers(width=180, depth=120, height=60, columns=1), edits=edits, added=walls)
    assembly = build(design, STOCKS)
    assert [f.code for f in assembly.findings if f.severity == "must"] == []
    stand_together(assembly)
    host, by = assembly.part("base"), {p.id: p for p in assembly.parts}
    up = scale(host.pose.normal, -1.0 if back else 1.0)
    for one in walls:
        sheet = by[one.id]
        outward = add(scale(host.pose.x, OUTWARD[one.edge][0]), scale(host.pose.y, OUTWARD[one.edge][1]))
        assert dot(sheet.pose.normal, outward) == pytest.approx(math.cos(math.radians(lean)))  # its front looks outward
        assert dot(sheet.pose.y, up) == pytest.approx(math.cos(math.radians(lean)))
        assert dot(sheet.pose.y, outward) == pytest.approx(math.sin(math.radians(lean)))
        top = max(dot(c, sheet.pose.y) for c in corners_of(sheet.slab()))
        face = max(dot(up, c) for c in corners_of(host.slab()))
        edge = max(dot(outward, c) for c in corners_of(host.slab()))
        rim = add(
            scale(up, face + height * math.cos(math.radians(lean))),
            scale(outward, edge + (height if lean > 0 else height + host.t / math.cos(math.radians(lean))) * math.sin(math.radians(lean))),
        )
        assert top == pytest.approx(dot(rim, sheet.pose.y), abs=1e-6)
        if len(edges) == 1:
            across = "width" if one.edge in (Edge.LOWER, Edge.UPPER) else "depth"
            assert sizes(assembly)[one.id][0] == pytest.approx({"width": 180.0, "depth": 120.0}[across] - low, abs=1e-3)
    styles = {frozenset((m.a, m.b)): m.style for m in assembly.meetings}
    assert styles == {
        frozenset(pair): Style.FINGERS for pair in (*(("base", n) for n in names), *(zip(names, (*names[1:], names[0]), strict=True) if len(names) > 1 else ()))
    }


def test_a_panel_between_two_others_is_joined_to_all_that_it_meets_and_follows_their_size() -> None:
    assembly = build(a_box(added=(shelf,)), STOCKS)
    kinds = {m.id: m.kind for m in assembly.meetings if "shelf" in m.id}
    assert {k: kinds[k] for k in ("left+shelf", "right+shelf", "front+shelf", "back+shelf")} == dict.fromkeys(
        ("left+shelf", "right+shelf", "front+shelf", "back+shelf"), "tee"
    )
    wider = build(a_box(added=(shelf,), numbers=BoxNumbers(width=250, depth=100, height=60)), STOCKS)
    assert sizes(wider)["shelf"] == (250.0, 100.0)


def test_what_an_added_panel_stood_on_may_go_and_come_back() -> None:
    tag = OnFace(id="tag", label="Tag", stock="lid", host="column-1")
    gone = a_box(added=(tag,), numbers=BoxNumbers(columns=1))
    found = build(gone, STOCKS)
    assert "tag" not in {p.id for p in found.parts}
    assert [f.code for f in found.findings] == ["added_panel_lost"]
    assert "tag" in {p.id for p in build(replace(gone, numbers=BoxNumbers(columns=2)), STOCKS).parts}


SHAPES: list[Mapping[str, object]] = [
    {"shape": PlateShape.POLYGON, "sides": 3},
    {"shape": PlateShape.POLYGON, "sides": 6},
    {"shape": PlateShape.POLYGON, "sides": 9, "across": 260.0},
    {"shape": PlateShape.TRIANGLE},
    {"shape": PlateShape.TRIANGLE, "lower_side": 90.0, "right_side": 150.0, "left_side": 120.0},
    {"shape": PlateShape.TRAPEZIUM},
    {"shape": PlateShape.SLOPING},
    {"shape": PlateShape.TRAPEZIUM, "shift": 0.0, "upper": 90.0},
    {"radius_2": 25.0, "radius_4": 12.0},
    {},
]
ROUNDED = {8: 2}  # corners that are arcs, by place in the list: walls do not meet there


@settings(max_examples=30, deadline=None)
@given(which=st.integers(0, len(SHAPES) - 1), lean=st.sampled_from([0.0, 12.0, 30.0, -8.0]), back=st.booleans(), height=st.floats(25, 45), turned=st.booleans())
def test_walls_on_every_edge_of_any_outline_meet_where_its_edges_do(which: int, lean: float, back: bool, height: float, turned: bool) -> None:
    design = a_plate(**SHAPES[which], edits={"sheet": PanelEdit(turned=turned)})
    design = walls_round(design, height=height, lean=lean, back=back)
    edges, count = edges_of(design, STOCKS, panel="sheet").edges, len(design.added)
    assembly = build(design, STOCKS)
    assert [f.code for f in assembly.findings if f.severity == "must"] == []
    stand_together(assembly)
    host, by = assembly.part("sheet"), {p.id: p for p in assembly.parts}
    assert len(by) == count + 1
    styles = {frozenset((m.a, m.b)): m.style for m in assembly.meetings}
    assert {pair for pair in styles if "sheet" not in pair} == {frozenset((f"wall-{e.nth}", f"wall-{e.after}")) for e in edges if e.after}
    assert sum(not e.after for e in edges) == ROUNDED.get(which, 0)
    assert {styles[frozenset(("sheet", f"wall-{e.nth}"))] for e in edges} == {Style.FINGERS}
    if lean >= 0:
        assert set(styles.values()) == {Style.FINGERS}
    # The outer face of each goes through its edge, on the face of the host that keeps all of the wall within it.
    level = (host.low if back else host.high) if lean > 0 else (host.high if back else host.low)
    for e in edges:
        sheet = by[f"wall-{e.nth}"].pose
        for corner in (e.start, e.end):
            assert dot(sub(host.pose.to_world(corner, level), sheet.origin), sheet.normal) == pytest.approx(0, abs=1e-6)


def test_edges_are_counted_from_the_lowest_and_curves_have_none() -> None:
    def told(**more: object) -> list[tuple[str, float, int, int]]:
        return [(e.side.value, round(e.length, 3), e.before, e.after) for e in edges_of(a_plate(**more), STOCKS, panel="sheet").edges]

    assert told(width=90.0, height=40.0) == [("lower", 90, 4, 2), ("right", 40, 1, 3), ("upper", 90, 2, 4), ("left", 40, 3, 1)]
    assert told(shape=PlateShape.POLYGON, sides=6, across=120.0)[0] == ("lower", 60, 6, 2)  # a hexagon's side is its radius
    assert told(shape=PlateShape.ELLIPSE) == [] == told(shape=PlateShape.RING)
    assert told(shape=PlateShape.SECTOR, across=200.0, hole=80.0) == [("lower", 60, 0, 0), ("lower", 60, 0, 0)]
    rounded = told(width=90.0, height=40.0, radius_1=10.0)
    assert rounded == [("lower", 80, 0, 2), ("right", 40, 1, 3), ("upper", 90, 2, 4), ("left", 30, 3, 0)]
    with pytest.raises(DesignError, match="no longer there"):
        edges_of(a_plate(), STOCKS, panel="lid")


def test_a_wall_without_its_neighbour_ends_with_its_edge_and_one_without_its_edge_is_left_out() -> None:
    design = walls_round(a_plate(shape=PlateShape.POLYGON, sides=6), height=30.0)
    alone = replace(design, added=design.added[:1])
    assert sizes(build(alone, STOCKS))["wall-1"][0] == pytest.approx(60)
    fewer = replace(design, numbers=replace(design.numbers, sides=5))  # type: ignore[type-var]
    assembly = build(fewer, STOCKS)
    assert [f.facts["panel"] for f in assembly.findings if f.code == "added_panel_lost"] == ["wall-6"]
    stand_together(assembly)
    side = 2 * 60 * math.sin(math.pi / 5)
    assert side <= sizes(assembly)["wall-5"][0] < side + T  # it met wall 6, which is gone; at its other end the corner is still there


@settings(max_examples=30, deadline=None)
@given(
    place=st.tuples(st.floats(45, 115), st.floats(40, 60)),
    along=st.floats(-180, 180),
    lean=st.sampled_from([0.0, 20.0, -35.0]),
    back=st.booleans(),
    upper=st.floats(12, 70),
    height=st.floats(20, 80),
    turned=st.booleans(),
)
def test_an_upright_stands_on_its_line_and_its_tabs_go_through_and_end_flush(
    place: tuple[float, float], along: float, lean: float, back: bool, upper: float, height: float, turned: bool
) -> None:
    fin = Upright(
        id="fin", label="Fin", stock="base", host="sheet", back=back, x=place[0], y=place[1], along=along, width=40.0, upper=upper, height=height, lean=lean
    )
    assembly = build(a_plate(added=(fin,), edits={"fin": PanelEdit(turned=turned)}), STOCKS)
    assert [f.code for f in assembly.findings if f.severity == "must"] == []
    stand_together(assembly)
    (joint,) = assembly.meetings
    assert joint.style is Style.TABS
    assert assembly_order(assembly.parts).locked == ()
    sheet, up = assembly.part("fin"), -1.0 if back else 1.0
    face, far = (0.0, T) if back else (T, 0.0)
    turn, tip = math.radians(along), math.radians(lean)
    way: Vec3 = (math.cos(turn), math.sin(turn), 0.0)
    front: Vec3 = cross(way, (0.0, 0.0, up))
    for s in (-20.0, 20.0):  # its middle plane goes through its line on the face
        foot = add((*place, face), scale(way, s))
        assert dot(sub(foot, sheet.pose.to_world((0.0, 0.0), (sheet.low + sheet.high) / 2)), sheet.pose.normal) == pytest.approx(0, abs=1e-6)
    rising = add(scale((0.0, 0.0, up), math.cos(tip)), scale(front, math.sin(tip)))
    reach = [dot(sub(sheet.pose.to_world(p, (sheet.low + sheet.high) / 2), (*place, face)), rising) for p in sheet.profile.outer]
    assert max(reach) == pytest.approx(height, abs=1e-3)
    depth = [up * sheet.pose.to_world(p, h)[2] for p in sheet.profile.outer for h in (sheet.low, sheet.high)]
    assert min(depth) == pytest.approx(up * far, abs=1e-3)
    lost = build(a_plate(added=(replace(fin, x=400.0),)), STOCKS)
    assert [f.code for f in lost.findings] == ["added_panel_lost"]


@settings(max_examples=25, deadline=None)
@given(
    size=st.tuples(st.floats(140, 260), st.floats(110, 200)),
    turn=st.sampled_from([0.0, 90.0, 45.0, 135.0, 30.0, -60.0]),
    share=st.floats(-0.3, 0.3),
    kept=st.sampled_from([(0.0, 0.0), (8.0, 0.0), (5.0, 10.0)]),
    first=st.integers(0, 3),
)
def test_a_slat_goes_across_the_room_at_its_angle_and_is_joined_where_it_ends(
    size: tuple[float, float], turn: float, share: float, kept: tuple[float, float], first: int
) -> None:
    walls = FRAME[first:] + FRAME[:first]
    w, d = size
    offset = share * min(w, d)
    one = Slat(id="slat", label="Slat", stock="base", walls=walls, turn=turn, offset=offset, inset_low=kept[0], inset_high=kept[1])
    frame = a_box(numbers=BoxNumbers(width=w, depth=d, height=60, columns=1), edits={"base": PanelEdit(gone=True)})
    assembly = build(replace(frame, added=(one,)), STOCKS)
    assert [f.code for f in assembly.findings if f.severity == "must"] == []
    stand_together(assembly)
    sheet = assembly.part("slat")
    middle = (w / 2, d / 2, 30.0)
    assert abs(dot(sub(middle, sheet.pose.origin), sheet.pose.normal)) == pytest.approx(abs(offset), abs=1e-6)
    # Its direction is turned from that of the first wall, which runs along y for the sides.
    wall = (0.0, 1.0, 0.0) if walls[0] in ("left", "right") else (1.0, 0.0, 0.0)
    assert abs(dot(sheet.pose.x, wall)) == pytest.approx(abs(math.cos(math.radians(turn))), abs=1e-9)
    heights = [c[2] for c in corners_of(sheet.slab())]
    assert (min(heights), max(heights)) == pytest.approx((kept[0], 60 - kept[1]))
    ends = [m for m in assembly.meetings if "slat" in (m.a, m.b)]
    crowded = {f.meeting for f in assembly.findings if f.code in ("joint_crowded", "meeting_short", "joint_too_short")}
    assert len(ends) >= 2
    assert all(
        m.style is Style.TABS or m.id in crowded or min(math.dist(c[:2], q) for c in corners_of(sheet.slab()) for q in ((0, 0), (w, 0), (0, d), (w, d))) < 6 * T
        for m in ends
    )


@pytest.mark.parametrize(("size", "pitch"), [((180, 120), 40.0), ((300, 200), 60.0), ((240, 90), 60.0), ((150, 150), 40.0)])
def test_a_lattice_at_45_degrees_is_joined_at_every_end(size: tuple[float, float], pitch: float) -> None:
    frame = a_box(numbers=BoxNumbers(width=size[0], depth=size[1], height=40, columns=1), edits={"base": PanelEdit(gone=True)})
    places = lattice_of(frame, STOCKS, walls=FRAME, stock="walls", pitch=pitch, turn=45.0, crossed=True)
    slats = tuple(Slat(id=f"slat-{k}", label=f"Slat {k}", stock="walls", walls=FRAME, turn=p.turn, offset=p.offset) for k, p in enumerate(places))
    for turn in (45.0, 135.0):
        steps = [b.offset - a.offset for a, b in pairwise(p for p in places if p.turn == turn)]
        assert steps == pytest.approx([steps[0]] * len(steps))
        assert abs(steps[0] / pitch - 1) < 0.125
    assembly = build(replace(frame, added=slats), STOCKS)
    assert [f.code for f in assembly.findings] == []
    stand_together(assembly)
    joined = [m for m in assembly.meetings if ("slat" in m.a) != ("slat" in m.b)]
    assert len(joined) == 2 * len(slats)
    assert {m.style for m in joined} == {Style.TABS}
    assert assembly_order(assembly.parts).locked == ()
    for asked, words in (
        ({"pitch": 1.0}, "must lie between"),
        ({"walls": ("left", "right", "base")}, "do not stand round"),
        ({"walls": ("left", "right")}, "3 to 12"),
    ):
        with pytest.raises(NotchCoreError, match=words):
            lattice_of(frame, STOCKS, walls=asked.get("walls", FRAME), stock="walls", pitch=asked.get("pitch", pitch), turn=45.0, crossed=True)  # type: ignore[arg-type]


@settings(max_examples=20, deadline=None)
@given(layers=st.integers(1, 3), back=st.booleans(), across=st.floats(8, 20), inset=st.floats(12, 18), move=st.sampled_from([0.0, 6.0]))
def test_a_plate_on_spacers_stands_off_by_whole_sheets(layers: int, back: bool, across: float, inset: float, move: float) -> None:
    sign = OnFace(
        id="sign",
        label="Sign",
        stock="lid",
        host="sheet",
        back=back,
        from_corner=True,
        x=20.0,
        y=15.0,
        width=110.0,
        height=60.0,
        layers=layers,
        spacer_across=across,
        spacer_inset=inset,
    )
    # The first layer is of another stock.
    edits = {f"sign{SPACER}{k}": PanelEdit(stock="base") for k in range(1, 5)} | {"sign": PanelEdit(move=(move, 0.0, 0.0))}
    design = a_plate(added=(sign,), edits=edits)
    assembly = build(design, STOCKS)
    stand_together(assembly)
    spacers = [p for p in assembly.parts if SPACER in p.id]
    assert len(spacers) == 4 * layers
    assert sorted(p.stock for p in spacers) == ["base"] * 4 + ["lid"] * 4 * (layers - 1)
    heights = [c[2] for c in corners_of(assembly.part("sign").slab())]
    off = STOCKS["base"].t + (layers - 1) * STOCKS["lid"].t
    assert (min(heights), max(heights)) == pytest.approx((-off - 3.0, -off) if back else (T + off, T + off + 3.0))
    middles = {(round(c.x + p.pose.origin[0], 3), round(c.y + p.pose.origin[1], 3)) for p in spacers for c in p.profile.circles}
    assert middles == {(round(x + move, 3), round(y, 3)) for x in (20 + inset, 130 - inset) for y in (15 + inset, 75 - inset)}
    assert {round(c.radius, 6) for p in spacers for c in p.profile.circles} == {round(across / 2, 6)}
    assert {m.style for m in assembly.meetings} == {Style.GLUE}
    assert [f for f in assembly.findings if f.code == "no_line_to_locate"] == []  # round ones of a size are laid edge on edge
    width = size_ledger(design, assembly, stocks=STOCKS, part_id=spacers[0].id, along=Along.X)
    assert [t.label.text for t in width.terms] == ["Sign: Diameter of the spacers"]
    assert {p.stock for p in build(replace(design, prototype="scrap"), STOCKS).parts} == {"scrap"}
    if not move:  # another sign beside it stands off as far, on spacers of its own
        twin = build(replace(design, added=(sign, CopyOf(id="twin", label="Twin", of="sign", mirror=Axis.X, about=-10.0))), STOCKS)
        again = [p for p in twin.parts if p.id.startswith(f"twin{SPACER}")]
        assert sorted(p.stock for p in again) == sorted(p.stock for p in spacers)
        assert twin.part("twin").pose.origin[2] == pytest.approx(assembly.part("sign").pose.origin[2])
        assert all(max(c[0] for c in corners_of(p.slab())) < 0 for p in again)
    assert len(build(replace(design, edits={"sign": PanelEdit(gone=True)}), STOCKS).parts) == 1
    assert {round(c.radius, 6) for p in build(scaled(design, 2.0), STOCKS).parts if SPACER in p.id for c in p.profile.circles} == {round(across, 6)}
