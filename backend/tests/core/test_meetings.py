"""Where sheets meet: kinds, frames and slots, for plates at any angle and in any order."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon

from notchcore.check.dry_fit import collisions
from notchcore.check.order import assembly_order
from notchcore.design.assembly import FeatureKind
from notchcore.design.joints.solve import solve
from notchcore.design.meetings.find import MeetingKind, Role, meet
from notchcore.design.meetings.frame import angle_deg, frame_of
from notchcore.design.panel import Bound, Panel, Reach, resolved
from notchcore.findings import Severity
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose, mesh_of
from notchcore.geom.vectors import Vec3, X, Y, Z
from tests.solids import union_volume
from tests.strategies import make_stock

STOCK = {"ply": make_stock("ply", 3.0)}
angles = st.floats(25, 155).map(lambda a: round(a, 2))
sheets = st.floats(0.8, 12).map(lambda t: round(t, 2))


def plate(pid: str, w: float, h: float, pose: Pose, *, t: float = 3.0, datum: float = 0.5, **more: object) -> Panel:
    return Panel(id=pid, label=pid, stock="ply", envelope=rectangle(0, 0, x1=w, y1=h), pose=pose, t=t, layout_t=t, datum=datum, **more)  # type: ignore[arg-type]


def leaning(angle: float, *, at: Vec3 = (50.0, 0.0, 0.0)) -> Pose:
    """A plane along y whose x axis rises from the floor by an angle."""
    a = math.radians(angle)
    return Pose(origin=at, x=(math.cos(a), 0.0, math.sin(a)), y=Y)


FLOOR = Pose(origin=(0, 0, 0), x=X, y=Y)


@given(angles, sheets, sheets)
def test_the_strip_is_as_wide_as_the_section_of_the_two_slabs(angle: float, t_floor: float, t_wall: float) -> None:
    """t / sin a + T |cot a|, measured on the parallelogram that the two slabs cut out of the plane across their line."""
    floor = plate("floor", 200, 100, FLOOR, t=t_floor)
    wall = plate("wall", 80, 100, leaning(angle), t=t_wall)
    frame = frame_of(floor, wall)
    a = math.radians(angle)
    low, high = frame.side(floor).strip
    assert high - low == pytest.approx(t_wall / math.sin(a) + t_floor * abs(math.cos(a) / math.sin(a)))
    section = Polygon([(x, z) for x, _, z in frame.section()])
    assert section.bounds[2] - section.bounds[0] == pytest.approx(high - low, abs=1e-9)
    assert section.area == pytest.approx(t_floor * t_wall / math.sin(a))
    assert angle_deg(frame) == pytest.approx(min(angle, 180 - angle))


@given(angles, sheets, sheets)
def test_the_order_of_two_panels_does_not_matter(angle: float, t_floor: float, t_wall: float) -> None:
    floor, wall = plate("floor", 200, 100, FLOOR, t=t_floor), plate("wall", 80, 100, leaning(angle), t=t_wall)
    assert meet(floor, wall) == meet(wall, floor)


@pytest.mark.parametrize(
    ("other", "kind", "roles"),
    [
        (plate("b", 60, 100, Pose(origin=(50, 0, -1.5), x=Z, y=Y)), MeetingKind.TEE, (Role.FACE, Role.EDGE_ABOVE)),
        (plate("b", 60, 100, Pose(origin=(1.5, 0, -1.5), x=Z, y=Y)), MeetingKind.CORNER, None),
        (plate("b", 60, 100, Pose(origin=(50, 0, -30), x=Z, y=Y)), MeetingKind.CROSSING, (Role.FACE, Role.FACE)),
        (plate("b", 60, 40, Pose(origin=(50, 30, -30), x=Z, y=Y)), MeetingKind.THROUGH, (Role.FACE, Role.FACE)),
        (plate("b", 80, 50, Pose(origin=(0, 0, 3), x=X, y=Y)), MeetingKind.STACK, None),
        (plate("b", 80, 100, Pose(origin=(200, 0, 0), x=X, y=Y)), MeetingKind.SPLICE, None),
        (plate("b", 80, 100, Pose(origin=(100, 0, 1), x=X, y=Y)), MeetingKind.CLASH, None),
        (plate("b", 60, 100, leaning(12.0)), MeetingKind.SHARP, None),
    ],
)
def test_each_kind_of_meeting_is_told_from_where_the_panels_are(other: Panel, kind: MeetingKind, roles: tuple[Role, Role] | None) -> None:
    (bar,) = meet(plate("a", 200, 100, FLOOR), other)
    assert bar.kind is kind
    if roles is not None:
        assert {bar.role(bar.a).is_edge, bar.role(bar.b).is_edge} == {r.is_edge for r in roles}


def test_panels_that_stay_apart_do_not_meet() -> None:
    assert meet(plate("a", 200, 100, FLOOR), plate("b", 60, 100, Pose(origin=(50, 0, 40), x=Z, y=Y))) == []
    assert meet(plate("a", 200, 100, FLOOR), plate("b", 60, 100, Pose(origin=(0, 0, 9), x=X, y=Y))) == []


@settings(max_examples=25, deadline=None)
@given(angles, sheets, sheets)
def test_a_leaning_wall_gets_a_slot_of_the_slanted_width(angle: float, t_floor: float, t_wall: float) -> None:
    """A tee at any angle: no collision, the slot measures the ledger's sum, and it can be put together."""
    stocks = {"floor": make_stock("floor", t_floor), "wall": make_stock("wall", t_wall)}
    floor = replace(plate("floor", 300, 100, FLOOR, t=t_floor), stock="floor", rank=2)
    wall = replace(plate("wall", 90, 100, leaning(angle, at=(150, 0, 0)), t=t_wall, bounds=(Bound(mate="floor", reach=Reach.FLUSH),)), stock="wall", rank=1)
    long = replace(wall, envelope=rectangle(-60, 0, x1=90, y1=100))
    assembly = solve([floor, long], stocks=stocks)
    slots = [f for f in assembly.part("floor").features if f.kind is FeatureKind.SLOT]
    assume(slots)
    a = math.radians(angle)
    clearance = assembly.meetings[0].clearance
    assert clearance is not None
    for slot in slots:
        assert slot.width.value == pytest.approx(t_wall / math.sin(a) + t_floor * abs(math.cos(a) / math.sin(a)) + clearance.value)
    assert collisions(assembly.parts) == ()
    assert [f.code for f in assembly.findings if f.severity is Severity.MUST] == []
    assert assembly_order(assembly.parts).locked == ()


@settings(max_examples=20, deadline=None)
@given(sheets, sheets, st.integers(1, 4), st.integers(1, 4))
def test_an_open_crate_of_ribs_both_ways_is_whole(t_one: float, t_two: float, ones: int, twos: int) -> None:
    """Nothing but crossings: every rib laps every rib of the other way, with nothing lost and nothing twice."""
    stocks = {"one": make_stock("one", t_one), "two": make_stock("two", t_two)}
    across = [replace(plate(f"one-{i}", 300, 40, Pose(origin=(0, 40.0 + 60 * i, 0), x=X, y=Z), t=t_one), stock="one", rank=2) for i in range(ones)]
    along = [replace(plate(f"two-{i}", 300, 40, Pose(origin=(40.0 + 60 * i, 0, 0), x=Y, y=Z), t=t_two), stock="two", rank=1) for i in range(twos)]
    assembly = solve([*across, *along], stocks=stocks)
    assert [m.kind for m in assembly.meetings] == ["crossing"] * ones * twos
    solids = [p.slab(nominal=True) for p in assembly.parts]
    assert sum(mesh_of(s).volume() for s in solids) == pytest.approx(union_volume(solids), abs=0.05)
    assert union_volume([p.slab() for p in (*across, *along)]) == pytest.approx(union_volume(solids), abs=0.05)
    assert assembly_order(assembly.parts).locked == ()


@settings(max_examples=25, deadline=None)
@given(sheets, sheets, st.floats(-3, 3), st.sampled_from(list(Reach)))
def test_a_bound_edge_ends_at_its_mates_face(t_own: float, t_mate: float, proud: float, reach: Reach) -> None:
    floor = plate("floor", 200, 100, FLOOR, t=t_mate)
    wall = plate("wall", 80, 100, Pose(origin=(50, 0, 0), x=Y, y=Z), t=t_own, bounds=(Bound(mate="floor", reach=reach, proud=proud),))
    tall = replace(wall, envelope=rectangle(0, -30, x1=100, y1=80))
    ends = min(y for _, y in resolved(tall, {"floor": floor, "wall": tall}).envelope.outer)
    face = t_mate / 2 if reach is Reach.NEAR else -t_mate / 2  # a sheet square to its mate has both faces there at once
    assert ends == pytest.approx(face - proud, abs=1e-9)
