"""Parts one beam apart share their cut: every line is burned once, and every part still comes out whole and true."""

from __future__ import annotations

import math
from random import Random

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import unary_union
from shapely.affinity import translate
from shapely.geometry import LineString, Polygon, box

from notchcore.design.assembly import Assembly, Part
from notchcore.geom.contours import sampled
from notchcore.geom.planar import pieces
from notchcore.geom.profile import Circle, Profile, polygon_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import KerfPlace, Machine, default_settings
from notchcore.nest.flush import pushed_together
from notchcore.nest.gate import faults, shape_at
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.plan.cut_plan import SheetPlan, cut_plan
from notchcore.plan.paths import alone, part_paths, placed_paths
from notchcore.plan.sharing import LEAST, OVER, beside_each_other
from tests.replay import replay
from tests.strategies import make_stock

KERF = 0.2
STOCKS = {"ply": make_stock("ply", 3.0, kerf=KERF)}
RING = ((0, 0), (600, 0), (600, 400), (0, 400))


def plate(name: str, profile: Profile, bridges: int = 0) -> Part:
    return Part(
        id=name,
        label=name,
        stock="ply",
        pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)),
        low=0,
        high=3,
        profile=profile,
        nominal=profile,
        bridges=bridges,
    )


def planned(parts: list[Part], places: list[Placement], place: KerfPlace = KerfPlace.PATHS) -> SheetPlan:
    sheet = SheetLayout(sheet="s", copy=0, stock="ply", name="s", width=600, height=400, ring=RING, placements=tuple(places), utilisation=0.5, leftover=None)
    nesting = Nesting(sheets=(sheet,), unplaced=(), utilisation=0.5, price=1.0)
    machine = Machine(id="m", name="Alder desk laser", kerf_place=place)
    return cut_plan(
        Assembly(parts=tuple(parts), meetings=(), findings=()), nesting, stocks=STOCKS, machine=machine, settings={"ply": default_settings(STOCKS["ply"])}
    ).sheets[0]


def burned(plan: SheetPlan) -> list[LineString]:
    lines = []
    for s in plan.strokes:
        for c in s.path.lines:
            points = list(sampled(c))
            lines.append(LineString([*points, points[0]] if c.closed else points))
    return lines


def grid(random: Random, gap: float, bridges: int = 0) -> tuple[list[Part], list[Placement]]:
    """Rectangles of one height a row, side by side, each so far from the next."""
    parts, places, y = [], [], 10.0
    for row in range(random.randint(1, 3)):
        x, high = 10.0, random.uniform(15, 60)
        for column in range(random.randint(1, 4)):
            wide = random.uniform(15, 90)
            parts.append(plate(f"{row}-{column}", rectangle(0, 0, x1=wide, y1=high), bridges))
            places.append(Placement(part=f"{row}-{column}", copy=0, turn=0, x=x, y=y))
            x += wide + gap
        y += high + gap
    return parts, places


def short_ones(parts: list[Part], places: list[Placement]) -> float:
    """Return how long the stretches are that two rows have in common and that are too short to be one line."""
    reach = {p.part: (p.x - KERF / 2, p.x + max(x for x, _ in part.profile.outer) + KERF / 2) for p, part in zip(places, parts, strict=True)}
    rows = [(a.part, b.part) for a in places for b in places if int(a.part[0]) + 1 == int(b.part[0])]
    common = [min(reach[a][1], reach[b][1]) - max(reach[a][0], reach[b][0]) for a, b in rows]
    return sum(c for c in common if 0 < c < LEAST + 2 * OVER)


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10**6))
def test_parts_one_beam_apart_are_cut_by_common_lines_and_come_out_true(seed: int) -> None:
    parts, places = grid(Random(seed), KERF)
    plan = planned(parts, places)
    lines = burned(plan)
    whole = unary_union(lines)
    ends = sum(len(s.path.left_out) for s in plan.strokes)
    twice = sum(line.length for line in lines) - whole.length
    assert -1e-6 <= twice <= 0.11 * ends + short_ones(parts, places) + 1e-6  # nothing twice but the ends, and what is too short to be left to the other
    assert replay([s.path for s in plan.strokes]) == []
    left = pieces(box(0, 0, 600, 400).difference(whole.buffer(KERF / 2, quad_segs=16)))
    for part, place in zip(parts, places, strict=True):
        true = shape_at(polygon_of(part.profile), 0, x=place.x, y=place.y)
        got = max(left, key=lambda p: p.intersection(true).area)
        assert got.symmetric_difference(true).area < 4 * KERF**2, part.id
        left.remove(got)  # each part is a piece of its own


def test_only_what_lies_one_beam_apart_is_shared_and_only_where_the_files_hold_the_beams_lines() -> None:
    parts, places = grid(Random(3), KERF)
    apart = [Placement(part=p.part, copy=0, turn=0, x=p.x * 1.01, y=p.y * 1.02) for p in places]
    assert any(s.path.left_out for s in planned(parts, places).strokes)
    assert not any(s.path.left_out for s in planned(parts, apart).strokes)
    assert not any(s.path.left_out for s in planned(parts, places, KerfPlace.MACHINE).strokes)


def test_a_part_in_the_middle_of_others_is_cut_by_theirs_alone() -> None:
    side = rectangle(0, 0, x1=30, y1=30)
    step = 30 + KERF
    parts = [plate(f"{i}{j}", side) for i in range(3) for j in range(3)]
    places = [Placement(part=f"{i}{j}", copy=0, turn=0, x=10 + step * i, y=10 + step * j) for i in range(3) for j in range(3)]
    places.append(places.pop(4))  # the middle one comes last: all of its sides are others'
    plan = planned(parts, places)
    whole = unary_union(burned(plan)).buffer(KERF / 2)
    middle = shape_at(polygon_of(side), 0, x=10 + step, y=10 + step)
    assert whole.intersection(middle).area < KERF**2
    assert [p for p in pieces(box(0, 0, 600, 400).difference(whole)) if p.symmetric_difference(middle).area < KERF**2]


def test_bridges_on_a_common_line_hold_both_parts() -> None:
    parts, places = grid(Random(8), KERF, bridges=2)
    plan = planned(parts, places)
    left = pieces(box(0, 0, 600, 400).difference(unary_union(burned(plan)).buffer(KERF / 2)))
    assert len([p for p in left if p.area > 1]) == 1


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6))
def test_pushing_together_breaks_no_rule_and_brings_edges_one_beam_apart(seed: int) -> None:
    random = Random(seed)
    rules = NestRules(margin=5.0, spacing=KERF)
    shapes = [rectangle(0, 0, x1=random.uniform(20, 80), y1=random.choice([30.0, 45.0])) for _ in range(3)]
    parts = {f"p{i}": NestPart(id=f"p{i}", stock="ply", profile=s, count=3) for i, s in enumerate(shapes)}
    (sheet,) = pack(list(parts.values()), [SheetKind(id="s", stock="ply", name="s", width=600, height=400)], rules=rules, work=Work(4_000), seed=seed).sheets
    first = sheet.placements[0]
    held = {(first.part, first.copy)}
    pushed = pushed_together(sheet, parts, rules=rules, stay=held)
    assert faults(pushed, parts, rules=rules) == ()
    assert [(p.part, p.copy, p.turn) for p in pushed.placements] == [(p.part, p.copy, p.turn) for p in sheet.placements]
    assert pushed.placements[0] == first
    assert all(q.x <= p.x + 1e-6 and q.y <= p.y + 1e-6 for p, q in zip(sheet.placements, pushed.placements, strict=True))
    plates = [plate(k, p.profile) for k, p in parts.items()]
    loosely, closely = (sum(len(s.path.left_out) for s in planned(plates, list(x.placements)).strokes) for x in (sheet, pushed))
    assert closely >= max(loosely, 1)


@pytest.mark.parametrize("gap", [KERF - 0.05, KERF + 0.05])
def test_parts_packed_for_another_kerf_are_told(gap: float) -> None:
    parts, places = grid(Random(3), gap)
    paths = [p for part, place in zip(parts, places, strict=True) for p in placed_paths(part_paths(part, KERF), alone(place))]
    told = beside_each_other(paths)
    assert told
    assert all(apart == pytest.approx(0.05, abs=1e-6) for _, _, apart in told)
    for right in (KERF, KERF + 1.5):
        parts, places = grid(Random(3), right)
        assert beside_each_other([p for part, place in zip(parts, places, strict=True) for p in placed_paths(part_paths(part, KERF), alone(place))]) == []


@settings(max_examples=40, deadline=None)
@given(half=st.floats(8, 60), lean=st.floats(-25, 25), curved=st.booleans(), gap=st.sampled_from([KERF, 0.3, 0.45]), step=st.sampled_from([0.0, 0.3, 0.7]))
def test_a_sharp_corner_one_beam_beside_another_part_does_not_nick_it(half: float, lean: float, curved: bool, gap: float, step: float) -> None:
    ends = [(40 * math.sin(math.radians(lean + side * half)), -40 * math.cos(math.radians(lean + side * half))) for side in (1, -1)]
    right, left = ends
    circles: tuple[Circle, ...] = ()
    side: tuple[Vec2, ...] = ()
    if curved:  # the way up to the tip is an arc, of a circle whose middle lies on the part's side
        (cx, cy), radius = ((right[0] - right[1] * 1.2) / 2, (right[1] + right[0] * 1.2) / 2), math.hypot(*right) / 2 * math.sqrt(1 + 1.2**2)
        circles = (Circle(x=cx, y=cy, radius=radius),)
        first, last = math.atan2(right[1] - cy, right[0] - cx), math.atan2(-cy, -cx)
        turn = (last - first) % (2 * math.pi)
        side = tuple((cx + radius * math.cos(first + turn * k / 200), cy + radius * math.sin(first + turn * k / 200)) for k in range(1, 200))
        assume(turn < math.pi and Polygon([right, *side, (0, 0), left]).is_valid and max(y for _, y in side) < 0)
    # Near its tip the other side may turn a little: a first edge that is shorter than what the corner takes of it.
    far = step * KERF / 2 / math.tan(math.radians(half)) / 40
    elbow: tuple[Vec2, ...] = ((left[0] * far + left[1] * far * 0.01, left[1] * far - left[0] * far * 0.01),) if step else ()
    tip = plate("tip", Profile(outer=(right, *side, (0.0, 0.0), *elbow, left), circles=circles))
    bar = plate("bar", rectangle(0, 0, x1=120, y1=20))
    plan = planned([tip, bar], [Placement(part="tip", copy=0, turn=0, x=160, y=150), Placement(part="bar", copy=0, turn=0, x=100, y=150 + gap)])
    gone = unary_union(burned(plan)).buffer(KERF / 2, quad_segs=64)
    free = pieces(box(0, 0, 600, 400).difference(gone))
    for part, x, y in ((tip, 160, 150), (bar, 100, 150 + gap)):
        wanted = translate(polygon_of(part.profile), x, y)
        got = max(free, key=lambda p: p.intersection(wanted).area)
        assert wanted.difference(got.buffer(0.006, join_style="mitre")).area < 1e-4
        assert got.difference(wanted.buffer(0.006, join_style="mitre")).area < 2e-3
