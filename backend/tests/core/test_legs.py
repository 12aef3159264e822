"""Ways in that are not one straight move: against voxels, and by hand; what tipping finds is swept with solids."""

from __future__ import annotations

import itertools
import math
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.blocking import directions_of
from notchcore.check.dry_fit import dry_fit
from notchcore.check.freedom import Hold, held_parts, told_moves
from notchcore.check.legs import Legs
from notchcore.check.order import AssemblyOrder, assembly_order
from notchcore.design.assembly import Assembly, Meeting, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.registry import FAMILIES
from notchcore.geom.planar import Polygon, box, merged, pieces
from notchcore.geom.prisms import turned
from notchcore.geom.profile import Profile, profile_of, rectangle
from notchcore.geom.slab import Pose, Slab, common_volume, shrunk
from notchcore.geom.vectors import Vec3, add, dot, scale, sub
from notchcore.words.render import plain as worded
from tests.solids import swept_hits
from tests.strategies import make_stock

Cell = tuple[int, int, int]
SIZE = 6  # cells of 3 mm, as thick as a sheet
MM = 3.0
POSES = {
    0: Pose(origin=(0, 0, 0), x=(0, 1, 0), y=(0, 0, 1)),
    1: Pose(origin=(0, 0, 0), x=(0, 0, 1), y=(1, 0, 0)),
    2: Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)),
}
WAYS: list[Cell] = [(1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0), (0, 0, 1), (0, 0, -1)]


def plain(name: str, profile: Profile, pose: Pose, low: float = 0.0, high: float = MM) -> Part:
    return Part(id=name, label=name, stock="ply", pose=pose, low=low, high=high, profile=profile, nominal=profile)


def interlocked(seed: int) -> tuple[list[set[Cell]], tuple[Part, ...]]:
    """Return sheets one cell thick that fill what earlier ones left free, as cells and as parts."""
    r = Random(seed)
    taken: set[Cell] = set()
    cells, parts = [], []
    for n in range(r.randint(2, 4)):
        axis = r.randrange(3)
        u, v, level = (axis + 1) % 3, (axis + 2) % 3, r.randrange(SIZE)
        (u0, u1), (v0, v1) = (sorted(r.sample(range(SIZE + 1), 2)) for _ in range(2))
        flat = [box(p * MM, q * MM, (p + 1) * MM, (q + 1) * MM) for p in range(u0, u1) for q in range(v0, v1) if _cell(axis, u, v, level, p, q) not in taken]
        whole = max(pieces(merged(flat)), key=lambda s: s.area, default=None) if flat else None
        if whole is None or whole.area < 3 * MM * MM:
            continue
        mine = {
            _cell(axis, u, v, level, p, q) for p in range(u0, u1) for q in range(v0, v1) if whole.contains(box(p * MM + 1, q * MM + 1, p * MM + 2, q * MM + 2))
        }
        taken |= mine
        cells.append(mine)
        parts.append(plain(f"part-{n}", profile_of(Polygon(whole.exterior, whole.interiors)), POSES[axis], level * MM, (level + 1) * MM))
    return cells, tuple(parts)


def in_a_corridor(seed: int) -> tuple[list[set[Cell]], tuple[Part, ...]]:
    """Return a piece between a floor and a cover, with walls all round but for a corridor of two legs; sometimes something stands in it."""
    r = Random(seed)
    piece = {(2 + x, 2 + y) for x, y in r.sample([(0, 0), (1, 0), (0, 1), (1, 1)], 3)} | {(2, 2), (3, 2)}
    first, out = r.choice([((1, 0), (0, 1)), ((-1, 0), (0, 1)), ((0, 1), (1, 0)), ((0, -1), (1, 0))])
    s = r.choice([1, 2])
    way = [(x + first[0] * k, y + first[1] * k) for k in range(s + 1) for x, y in piece]
    way += [(x + first[0] * s + out[0] * k, y + first[1] * s + out[1] * k) for k in range(SIZE) for x, y in piece]
    free = set(way) - ({r.choice(sorted(set(way) - piece))} if r.random() < 0.3 else set())
    walls = merged([box(x * MM, y * MM, (x + 1) * MM, (y + 1) * MM) for x in range(SIZE) for y in range(SIZE) if (x, y) not in free])
    mine = merged([box(x * MM, y * MM, (x + 1) * MM, (y + 1) * MM) for x, y in piece])
    flat, whole = POSES[2], {(x, y) for x in range(SIZE) for y in range(SIZE)}
    cells, parts = [{(x, y, 2) for x, y in piece}], [plain("piece", profile_of(pieces(mine)[0]), flat, 2 * MM, 3 * MM)]
    for level, name in ((1, "floor"), (3, "cover")):
        cells.append({(x, y, level) for x, y in whole})
        parts.append(plain(name, rectangle(0, 0, x1=SIZE * MM, y1=SIZE * MM), flat, level * MM, (level + 1) * MM))
    for n, wall in enumerate(pieces(walls)):
        cells.append({(x, y, 2) for x, y in whole if wall.contains(box(x * MM + 1, y * MM + 1, x * MM + 2, y * MM + 2))})
        parts.append(plain(f"wall-{n}", profile_of(wall), flat, 2 * MM, 3 * MM))
    return cells, tuple(parts)


def _cell(axis: int, u: int, v: int, level: int, p: int, q: int) -> Cell:
    at = {axis: level, u: p, v: q}
    return at[0], at[1], at[2]


def moved(cells: set[Cell], d: Cell, s: int) -> set[Cell]:
    return {(x + d[0] * s, y + d[1] * s, z + d[2] * s) for x, y, z in cells}


def leaves(cells: set[Cell], others: set[Cell]) -> bool:
    """Try every whole shift along every way, then every way out: no geometry but cells."""

    def out(some: set[Cell]) -> bool:
        return any(all(not moved(some, d, s) & others for s in range(1, SIZE + 1)) for d in WAYS)

    for d in WAYS:
        for s in range(SIZE + 1):
            there = moved(cells, d, s)
            if there & others:
                break
            if out(there):
                return True
    return False


def by_legs(cells: list[set[Cell]], parts: tuple[Part, ...], fewest: int) -> int:
    """Compare what is found with cells, for each part among all and then among fewer; return how often two legs were it."""
    ways = directions_of(parts)
    legs, found = Legs(parts, ways), 0
    # All first, then fewer: what is remembered of little room must serve when there is more.
    for count in range(len(parts), fewest - 1, -1):
        for some in itertools.combinations(range(len(parts)), count):
            for i in some:
                others = set().union(*(cells[j] for j in some if j != i))
                straight = any(all(legs.bodies.travel(i, j, d=d) > 1e8 for j in some if j != i) for d in ways)
                two = None if straight else legs.single(i, set(some))
                found += two is not None
                assert (straight or two is not None) is leaves(cells[i], others), (parts[i].id, some)
    return found


@settings(max_examples=100, deadline=None)
@given(st.integers(0, 10**9))
def test_ways_are_found_exactly_when_cells_find_them(seed: int) -> None:
    cells, parts = interlocked(seed)
    if len(parts) > 1:
        by_legs(cells, parts, fewest=2)


def test_two_legs_are_found_exactly_when_cells_find_them() -> None:
    assert sum(by_legs(*in_a_corridor(seed), fewest=3) for seed in range(60)) > 40  # most corridors are of two legs


def there(slab: Slab, by: Vec3) -> Slab:
    return Slab(profile=slab.profile, pose=Pose(origin=add(slab.pose.origin, by), x=slab.pose.x, y=slab.pose.y), low=slab.low, high=slab.high)


def swept_in(parts: tuple[Part, ...], found: AssemblyOrder) -> None:
    """Move every step's parts as it says, as solids, past what stands already."""
    by, standing = {p.id: p for p in parts}, list[str]()
    for step in found.steps:
        for mover, other in itertools.product(step.parts, standing):
            solid, obstacle = shrunk(by[mover].slab(nominal=True), 0.01), by[other].slab(nominal=True)
            assert solid is not None
            if step.last is not None:
                assert not swept_hits(solid, scale(step.last, -1.0), step.last_mm, obstacle), (mover, other)
                solid = there(solid, scale(step.last, -step.last_mm))
            if step.tip is not None:
                for degrees in range(round(abs(step.tip.degrees)) + 1):
                    tilted = tilt(solid, step.tip.point, step.tip.axis, math.copysign(degrees, step.tip.degrees))
                    assert common_volume(tilted, obstacle) < 3.0, (mover, other, degrees)
                solid = shrunk(tilted, 0.1) or tilted
            assert not swept_hits(solid, scale(step.direction, -1.0), 500.0, obstacle), (mover, other)
        standing += step.parts
    assert sorted(standing) == sorted(by)


def tilt(slab: Slab, point: Vec3, axis: Vec3, degrees: float) -> Slab:
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))

    def turn(v: Vec3) -> Vec3:
        x = (axis[1] * v[2] - axis[2] * v[1], axis[2] * v[0] - axis[0] * v[2], axis[0] * v[1] - axis[1] * v[0])
        return add(add(scale(v, c), scale(x, s)), scale(axis, dot(axis, v) * (1 - c)))

    pose = Pose(origin=add(point, turn(sub(slab.pose.origin, point))), x=turn(slab.pose.x), y=turn(slab.pose.y))
    return Slab(profile=slab.profile, pose=pose, low=slab.low, high=slab.high)


def test_a_post_that_goes_inward_and_then_up_stands_in_a_tower_of_plates() -> None:
    """Two posts with combs that point outwards, in plates whose windows are 6 mm wider than the posts: each goes 6 mm inward, then up."""
    levels = [10.0 + 12 * k for k in range(4)]
    window = Polygon(box(-40, -40, 40, 40)).difference(merged([box(-24, -10, 24, 10), box(-30, -1.5, -24, 1.5), box(24, -1.5, 30, 1.5)]))
    flat = Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0))
    parts = [plain(f"plate-{n}", profile_of(window), flat, z, z + 3) for n, z in enumerate(levels)]
    up = Pose(origin=(0, -1.5, 0), x=(0, 0, 1), y=(1, 0, 0))
    for name, (a, b, c, d) in {"right": (18, 36, 30, 36), "left": (-36, -18, -36, -30)}.items():
        comb = box(0, a, 60, b).difference(merged([box(z, c, z + 3, d) for z in levels]))
        parts.append(plain(name, profile_of(max(pieces(comb), key=lambda p: p.area)), up))
    found = assembly_order(tuple(parts))
    assert (found.locked, found.unknown) == ((), ())
    legs = [s for s in found.steps if s.last is not None]
    assert legs
    assert all(5.9 < s.last_mm < 6.1 and abs(s.last[0]) == 1 and abs(s.direction[2]) == 1 for s in legs if s.last)
    swept_in(tuple(parts), found)


def test_a_lid_that_hooks_into_the_back_wall_is_tipped() -> None:
    """A hook of 4 mm reaches through the back wall and upwards behind it, so that the lid neither lifts nor slides out."""
    flat = Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0))
    wall = Pose(origin=(0, 60, 0), x=(1, 0, 0), y=(0, 0, 1))  # its normal looks to the front
    slot = ((10.0, 40.0), (10.0, 49.0), (50.0, 49.0), (50.0, 40.0))
    back = plain("back", Profile(outer=rectangle(0, 0, x1=60, y1=60).outer, holes=(slot,)), wall, -3.0, 0.0)
    hook = Pose(origin=(28.5, 0, 0), x=(0, 1, 0), y=(0, 0, 1))
    # A lever in the middle plane: along the bottom of the slot, then up behind the wall.
    lever = plain("lever", Profile(outer=((20, 40), (67, 40), (67, 53), (63.2, 53), (63.2, 44), (59.8, 44), (59.8, 44), (20, 44))), hook)
    stop = plain("stop", rectangle(0, 0, x1=60, y1=60), flat, 37.0, 40.0)
    found = assembly_order((back, lever, stop))
    assert found.locked == ()
    swept_in((back, lever, stop), found)


def test_turning_a_body_back_gives_it_again() -> None:
    _, parts = interlocked(3)
    body = Legs(parts, directions_of(parts)).bodies.bodies[0]
    again = turned(turned(body, (1, 2, 3), axis=(0, 0, 1), angle=0.7), (1, 2, 3), axis=(0, 0, 1), angle=-0.7)
    assert again.corners == pytest.approx(body.corners)


def whole(*parts: Part, meetings: tuple[Meeting, ...] = ()) -> Assembly:
    return Assembly(parts=parts, meetings=meetings, findings=())


FLAT = Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0))


def test_what_holds_a_part_is_told_and_how_it_moves_otherwise() -> None:
    """Worked by hand: plates on a plain post, a rotor in the air, a drawer, a plate on a peg."""
    window = Profile(outer=rectangle(0, 0, x1=60, y1=60).outer, holes=(rectangle(20, 20, x1=40, y1=23).outer[::-1],))
    post = plain("post", rectangle(20, 0, x1=40, y1=90), Pose(origin=(0, 23, 0), x=(1, 0, 0), y=(0, 0, 1)))
    plates = [plain(f"plate-{n}", window, FLAT, z, z + 3) for n, z in enumerate((20.0, 50.0))]
    held = {h.part: h for h in held_parts(whole(post, *plates))}
    assert held["plate-0"].by is Hold.NOTHING
    assert {m.direction: round(m.far) for m in held["plate-0"].moves} == {(0, 0, 1): 27, (0, 0, -1): 20}
    assert worded(told_moves(held["plate-1"].moves)) == "it moves up and down"

    rotor = plain("rotor", rectangle(-10, -10, x1=10, y1=10), FLAT, 100, 103)
    assert worded(told_moves(next(h for h in held_parts(whole(post, rotor)) if h.part == "rotor").moves)) == "it moves every way"

    floor, cover = plain("floor", rectangle(0, 0, x1=60, y1=60), FLAT), plain("cover", rectangle(0, 0, x1=60, y1=60), FLAT, 30, 33)
    walls = [plain(f"wall-{n}", rectangle(0, 3, x1=60, y1=30), Pose(origin=(x, 0, 0), x=(0, 1, 0), y=(0, 0, 1))) for n, x in enumerate((0, 57))]
    drawer = plain("drawer", rectangle(3, 0, x1=57, y1=60), FLAT, 3, 30)
    found = {h.part: h for h in held_parts(whole(floor, cover, *walls, drawer))}
    assert worded(told_moves(found["drawer"].moves)) == "it moves to the back and to the front"

    peg = plain("peg", rectangle(27, 0, x1=33, y1=6), Pose(origin=(0, 31.5, 0), x=(1, 0, 0), y=(0, 0, 1)))
    hole = Profile(outer=rectangle(0, 0, x1=60, y1=60).outer, holes=(rectangle(27, 28.5, x1=33, y1=31.5).outer[::-1],))
    lies = {h.part: h for h in held_parts(whole(peg, plain("plate", hole, FLAT)))}
    assert (lies["plate"].by, worded(told_moves(lies["plate"].moves))) == (Hold.WEIGHT, "it moves up")


def test_a_part_turns_where_no_straight_move_is_free() -> None:
    """A square on its corner in a square pocket with a floor and a cover: only its corners touch, so it turns; with flat sides it does not."""
    pocket = plain("pocket", Profile(outer=rectangle(-30, -30, x1=30, y1=30).outer, holes=(rectangle(-20, -20, x1=20, y1=20).outer[::-1],)), FLAT)
    floor, cover = (plain(name, rectangle(-30, -30, x1=30, y1=30), FLAT, z, z + 3) for name, z in (("floor", -3.0), ("cover", 3.0)))
    found = []
    for shape in (Profile(outer=((20, 0), (0, 20), (-20, 0), (0, -20))), rectangle(-20, -20, x1=20, y1=20)):
        found.append({h.part: h for h in held_parts(whole(floor, pocket, cover, plain("piece", shape, FLAT)))}["piece"])
    assert [(h.by, [m.turn for m in h.moves]) for h in found] == [(Hold.NOTHING, [True]), (Hold.NEIGHBOURS, [])]
    assert abs(found[0].moves[0].direction[2]) == pytest.approx(1.0)


def test_divided_ribs_are_put_together_first_and_then_go_in_course_by_course() -> None:
    stocks = {"ribs": make_stock("ribs", 3.7)}
    crate = FAMILIES["crate"]
    design = Design(numbers=crate.numbers(longest=150), stocks={r.id: "ribs" for r in crate.roles})
    assembly = build(design, stocks, bed=(900.0, 600.0))
    found = dry_fit(assembly, stocks).order
    assert (found.locked, found.unknown) == ((), ())
    whole = [s.parts for s in found.steps if len(s.parts) > 1]
    ribs = {p.id.partition(".")[0] for p in assembly.parts}
    first = found.steps[0].parts[0].partition(".")[0]  # it is put together where it stands
    assert sorted(w[0].partition(".")[0] for w in whole) == sorted(ribs - {first})
    assert all(len({p.partition(".")[0] for p in w}) == 1 for w in whole)
    course = [w[0].partition("-")[0] for w in whole]
    assert course == sorted(course)[::-1] or course == sorted(course)
    there: set[str] = set()
    for s in found.steps:
        assert len(s.parts) == 1 or set(s.parts) <= there  # pieces before the rib
        there |= set(s.parts)
    for step in found.steps:
        if len(step.parts) > 1 or step.parts[0].partition(".")[0] == first:
            standing = [p.id for p in assembly.parts if any(p.id in s.parts for s in found.steps[: found.steps.index(step)] if len(s.parts) > 1)]
            pairs = [(assembly.part(a), assembly.part(b)) for a in step.parts for b in standing]
            assert not [
                1
                for a, b in pairs
                if (thin := shrunk(a.slab(nominal=True), 0.01)) and swept_hits(thin, scale(step.direction, -1.0), 900.0, b.slab(nominal=True))
            ]


def test_where_a_line_would_show_or_cannot_lie_that_is_told() -> None:
    def told(family: str, step: float) -> tuple[set[str], int]:
        layers = FAMILIES["layered"]
        stocks = {"a": make_stock("a", 3.0, material=family)}
        made = build(Design(numbers=layers.numbers(step=step), stocks={r.id: "a" for r in layers.roles}), stocks)
        return {f.code for f in made.findings}, sum(not m.feature for p in made.parts for m in p.marks)

    assert told("plywood", 6.0)[0] == set()
    assert told("plywood", 6.0)[1] > 0
    assert told("plywood", 0.5) == ({"no_line_to_locate"}, 0)
    assert told("cast_acrylic", 6.0) == ({"line_would_show"}, 0)
