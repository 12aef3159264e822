"""What stays together lies on one sheet, what fills up only adds, and what is left of a sheet is really free."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import replace
from itertools import pairwise
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from notchcore.errors import NestError
from notchcore.geom.leftover import largest_rectangle, rectangle_left, remains
from notchcore.geom.profile import Profile, area_of, rectangle
from notchcore.nest.batch import filled, kept_together
from notchcore.nest.gate import faults, placed_shape
from notchcore.nest.laid import travel, with_leftover
from notchcore.nest.pack import pack
from notchcore.nest.rows import Grid, in_rows
from notchcore.nest.search import Work
from notchcore.nest.turned import pack_turned
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from tests.core.test_nest import FRAME, OFFCUT, WHOLE, ell

RULES = NestRules(spacing=2, margin=3)
SPOT = ((120.0, 80.0), (150.0, 80.0), (150.0, 110.0), (120.0, 110.0))
SPOTTED = SheetKind(id="spotted", stock="ply", name="spotted", width=300, height=200, count=2, price=3.0, bad=(SPOT,))


def some_parts(random: Random) -> list[NestPart]:
    shapes = [ell(random.uniform(40, 90), random.uniform(40, 70), 20), rectangle(0, 0, x1=random.uniform(20, 80), y1=40), FRAME, rectangle(0, 0, x1=30, y1=30)]
    return [NestPart(id=f"p{i}", stock="ply", profile=s, count=random.randint(1, 3)) for i, s in enumerate(shapes)]


def sound(sheets: list[SheetLayout] | tuple[SheetLayout, ...], parts: list[NestPart], rules: NestRules = RULES) -> Counter[str]:
    """Return how often each part lies there, after checking that nothing is wrong and no piece lies twice."""
    lying = [(p.part, p.copy) for s in sheets for p in s.placements]
    assert len(set(lying)) == len(lying)
    assert not [f for s in sheets for f in faults(s, {p.id: p for p in parts}, rules=rules)]
    return Counter(part for part, _ in lying)


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6))
def test_a_group_lies_on_one_sheet_and_the_rest_around_it(seed: int) -> None:
    random = Random(seed)
    parts, sheets = some_parts(random), [WHOLE, OFFCUT, SPOTTED]
    groups = [["p0", "p3"], ["p1"]]
    stay = kept_together(groups, parts, sheets=sheets, rules=RULES, work=lambda: Work(4_000))
    counts = {p.id: p.count for p in parts}
    assert sound(stay, parts) == {k: counts[k] for g in groups for k in g}
    whole = pack(parts, sheets, rules=RULES, work=Work(4_000), locked=stay)
    assert sound(whole.sheets, parts) + Counter({u.part: u.count for u in whole.unplaced}) == counts
    for group in groups:
        assert len({(s.sheet, s.copy) for s in whole.sheets for p in s.placements if p.part in group}) == 1


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6), st.booleans())
def test_sheets_emptied_from_another_side_are_packed_as_lawfully(seed: int, grain: bool) -> None:
    random = Random(seed)
    parts, sheets = some_parts(random), [OFFCUT, SPOTTED]
    rules = NestRules(spacing=2, margin=3, turns=(0, 180) if grain else (0, 90, 180, 270))
    first = pack(parts, sheets, rules=rules, work=Work(3_000))
    stay = [replace(first.sheets[0], placements=first.sheets[0].placements[:1])]
    found = pack_turned(parts, sheets, rules=rules, work=Work(3_000), locked=stay)
    assert sound(found.sheets, parts, rules) + Counter({u.part: u.count for u in found.unplaced}) == {p.id: p.count for p in parts}
    assert {p.turn for s in found.sheets for p in s.placements} <= set(rules.turns)
    kept = next(s for s in found.sheets if (s.sheet, s.copy) == (stay[0].sheet, stay[0].copy))
    old, new = (next(p for p in s.placements if (p.part, p.copy) == (stay[0].placements[0].part, stay[0].placements[0].copy)) for s in (stay[0], kept))
    assert (old.turn, old.x, old.y) == pytest.approx((new.turn, new.x, new.y))


@settings(max_examples=10, deadline=None)
@given(st.integers(0, 10**6))
def test_going_on_never_comes_to_worse_and_takes_up_what_lies(seed: int) -> None:
    parts, sheets = some_parts(Random(seed)), [WHOLE, SPOTTED]
    first = pack(parts, sheets, rules=RULES, work=Work(6_000))
    told: list[Nesting] = []
    after = pack(parts, sheets, rules=RULES, work=Work(2), start=first, on_better=told.append, seed=seed)
    assert sound(after.sheets, parts) + Counter({u.part: u.count for u in after.unplaced}) == {p.id: p.count for p in parts}
    lost = [sum(u.count for u in n.unplaced) for n in (after, first)]
    assert (lost[0], after.price, len(after.sheets)) <= (lost[1], first.price, len(first.sheets))
    mixed = replace(first, sheets=(*first.sheets, replace(first.sheets[0], sheet="moon")))
    sound(pack([replace(p, turns=(0,)) for p in parts], sheets, rules=RULES, work=Work(2_000), start=mixed).sheets, parts)


@settings(max_examples=15, deadline=None)
@given(st.integers(0, 10**6), st.integers(1, 30))
def test_rows_are_lawful_and_at_one_pitch_around_what_lies(seed: int, count: int) -> None:
    random = Random(seed)
    parts, sheets = some_parts(random), [SPOTTED, WHOLE]
    part = replace(parts[random.randint(0, 3)], count=count)
    parts = [part if p.id == part.id else p for p in parts]
    before = pack([p for p in parts if p.id != part.id][:1], sheets, rules=RULES, work=Work(1_000)).sheets
    laid = in_rows(part, sheets, rules=RULES, parts=parts, locked=before)
    assert {(s.sheet, s.copy, p) for s in before for p in s.placements} <= {(s.sheet, s.copy, p) for s in laid for p in s.placements}
    assert 0 < sound(laid, parts)[part.id] <= count
    for s in laid:
        mine = [p for p in s.placements if p.part == part.id]
        assert len({p.turn for p in mine}) <= 1
        heights = sorted({round(p.y, 3) for p in mine})
        rows = [sorted(p.x for p in mine if round(p.y, 3) == y) for y in heights]
        steps = [b - a for row in rows for a, b in pairwise(row)]
        assert all(round(d / min(steps), 3) == round(d / min(steps)) for d in steps)  # gaps only where something lies
    whole = pack(parts, sheets, rules=RULES, work=Work(1_000), locked=laid)
    assert sound(whole.sheets, parts) + Counter({u.part: u.count for u in whole.unplaced}) == {p.id: p.count for p in parts}


@pytest.mark.parametrize(
    ("grid", "columns", "rows", "gaps"),
    [
        (Grid(columns=3, rows=2), 3, 2, (3.0, 3.0)),
        (Grid(columns=4, gap_x=12.0), 4, 5, (12.0, 3.0)),
        (Grid(rows=1, gap_y=20.0), 7, 1, (3.0, None)),
        (Grid(gap_x=30.0, gap_y=40.0), 4, 3, (30.0, 40.0)),
    ],
)
def test_rows_and_columns_are_as_many_and_as_far_apart_as_asked(grid: Grid, columns: int, rows: int, gaps: tuple[float, float | None]) -> None:
    """Plates of 40 x 30 on 320 x 180 with a margin of 5 and 3 mm between parts."""
    kind = SheetKind(id="k", stock="ply", name="k", width=320, height=180, count=9)
    part = NestPart(id="p", stock="ply", profile=rectangle(0, 0, x1=40, y1=30), count=99, turns=(0,))
    sheets = in_rows(part, [kind], rules=NestRules(margin=5, spacing=3, bed_width=600, bed_height=400), parts=[part], grid=grid)
    full = sheets[0].placements
    xs, ys = sorted({round(p.x, 3) for p in full}), sorted({round(p.y, 3) for p in full})
    assert (len(xs), len(ys), len(full)) == (columns, rows, columns * rows)
    assert sum(len(s.placements) for s in sheets) == min(99, 9 * columns * rows)
    assert xs[1] - xs[0] - 40 == pytest.approx(gaps[0], abs=0.02)
    if gaps[1] is not None:
        assert ys[1] - ys[0] - 30 == pytest.approx(gaps[1], abs=0.02)
    with pytest.raises(NestError, match=r"less than the 3\.0 mm"):
        in_rows(part, [kind], rules=NestRules(margin=5, spacing=3, bed_width=600, bed_height=400), parts=[part], grid=Grid(gap_x=1.0))


def test_interlocking_parts_in_rows_take_less_than_their_boxes() -> None:
    wide = SheetKind(id="wide", stock="ply", name="wide", width=600, height=66)
    chevron = Profile(outer=((0.0, 0.0), (10.0, 0.0), (30.0, 30.0), (10.0, 60.0), (0.0, 60.0), (20.0, 30.0)))
    part = NestPart(id="v", stock="ply", profile=chevron, count=99, turns=(0,))
    (sheet,) = in_rows(part, [wide], rules=RULES, parts=[part])
    assert len(sheet.placements) > (600 - 6) / 32 * 1.8


def test_a_group_that_fits_on_no_sheet_names_its_parts() -> None:
    parts = [NestPart(id=f"half {k}", stock="ply", profile=rectangle(0, 0, x1=250, y1=150), count=1) for k in "ab"]
    with pytest.raises(NestError, match="half a and half b"):
        kept_together([["half a", "half b", "moon"]], parts, sheets=[WHOLE], rules=RULES, work=lambda: Work(2_000))


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6))
def test_filling_up_adds_what_is_asked_where_there_is_room_and_moves_nothing(seed: int) -> None:
    random = Random(seed)
    parts, sheets = some_parts(random), [WHOLE, SPOTTED]
    before = pack(parts, sheets, rules=RULES, work=Work(4_000))
    after = filled(before, {"p3": 5, "p1": 2, "moon": 3}, parts=parts, sheets=sheets, rules=RULES, work=Work(4_000))
    there = {(s.sheet, s.copy, p) for s in before.sheets for p in s.placements}
    added = {(s.sheet, s.copy, p) for s in after.sheets for p in s.placements} - there
    assert there <= {(s.sheet, s.copy, p) for s in after.sheets for p in s.placements}
    more = Counter(p.part for _, _, p in added)
    assert more["p3"] <= 5
    assert more["p1"] <= 2
    assert set(more) <= {"p3", "p1"}
    sound(after.sheets, parts)
    assert after.utilisation >= before.utilisation
    assert len(after.sheets) == len(before.sheets)


def test_tokens_fill_the_holes_of_what_lies() -> None:
    ring = Profile(outer=rectangle(0, 0, x1=180, y1=180).outer, holes=(tuple(reversed(rectangle(20, 20, x1=160, y1=160).outer)),))
    parts = [NestPart(id="ring", stock="ply", profile=ring, count=1), NestPart(id="token", stock="ply", profile=rectangle(0, 0, x1=40, y1=40), count=0)]
    small = SheetKind(id="small", stock="ply", name="small", width=190, height=190)
    before = pack(parts[:1], [small], rules=RULES, work=Work(2_000))
    assert sound(filled(before, {"token": 99}, parts=parts, sheets=[small], rules=RULES, work=Work(8_000)).sheets, parts)["token"] == 9


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10**6))
def test_what_is_left_is_free_and_nothing_larger_is(seed: int) -> None:
    """Boxes on whole millimetres; another way to the largest rectangle: every pair of lines tried."""
    random = Random(seed)
    gone = []
    for _ in range(random.randint(1, 5)):
        x, y = random.randint(0, 260), random.randint(0, 160)
        gone.append(box(x, y, x + random.randint(10, 120), y + random.randint(10, 90)))
    ring = WHOLE.ring()
    found = rectangle_left(ring, (SPOT,), gone=gone, gap=2.0)
    blocks = [g.buffer(2.0, join_style="mitre") for g in gone] + [Polygon(SPOT)]
    xs = sorted({0.0, 300.0, *(min(max(v, 0.0), 300.0) for b in blocks for v in (b.bounds[0], b.bounds[2]))})
    ys = sorted({0.0, 200.0, *(min(max(v, 0.0), 200.0) for b in blocks for v in (b.bounds[1], b.bounds[3]))})
    inner = [b.buffer(-1e-6) for b in blocks]
    best = max(
        (
            (x1 - x0) * (y1 - y0)
            for x0 in xs
            for x1 in xs
            if x1 > x0
            for y0 in ys
            for y1 in ys
            if y1 > y0
            if not any(b.intersects(box(x0, y0, x1, y1)) for b in inner)
        ),
        default=0.0,
    )
    if found is None:
        assert best < 20 * 300
    else:
        x0, y0, x1, y1 = found
        assert not any(b.intersects(box(*found)) for b in inner)
        assert (x1 - x0) * (y1 - y0) == pytest.approx(best)
    for piece in remains(ring, (SPOT,), gone=gone, gap=2.0):
        assert abs(area_of(piece.outline)) - sum(abs(area_of(h)) for h in piece.bad) == pytest.approx(piece.area)
        assert min(piece.width, piece.height) >= 40
        assert piece.area < 300 * 200


def test_an_l_shaped_rest_is_kept_in_its_shape() -> None:
    (piece,) = remains(WHOLE.ring(), (), gone=[box(0, 0, 198, 118)], gap=2.0)
    assert Polygon(piece.outline).symmetric_difference(box(0, 0, 300, 200).difference(box(0, 0, 200, 120))).area < 1e-6
    assert piece.rectangle == (0.0, 120.0, 300.0, 200.0)
    assert not piece.is_rectangle
    (whole,) = remains(WHOLE.ring(), (), gone=[box(0, 0, 148, 200)], gap=2.0)
    assert whole.is_rectangle
    assert (whole.width, whole.height) == (150.0, 200.0)


def test_the_rectangle_left_does_not_touch_a_slanted_part() -> None:
    triangle = Profile(outer=((0.0, 0.0), (200.0, 0.0), (0.0, 150.0)))
    part = NestPart(id="t", stock="ply", profile=triangle)
    packed: Nesting = pack([part], [WHOLE], rules=RULES, work=Work(1_000))
    told = with_leftover(packed.sheets[0], {"t": part}, rules=RULES)
    assert told.leftover is not None
    assert placed_shape(part, told.placements[0]).distance(box(*told.leftover)) >= RULES.spacing - 1e-2
    assert largest_rectangle([Polygon(((0, 0), (15, 0), (15, 400), (0, 400)))]) is None


@settings(max_examples=20, deadline=None)  # 4,200 teeth each
@given(st.integers(0, 10**6))
def test_below_parts_with_many_teeth_the_whole_strip_is_left(seed: int) -> None:
    """Parts of many teeth stand on one level, at no round number: the strip below them is the largest, and it is told to its edge."""
    random = Random(seed)
    level = random.uniform(90, 140)
    teeth = [(x / 7 + random.uniform(0, 0.1), 260 + 6 * (x % 2)) for x in range(7 * 600)]
    comb = Polygon([(10.0, level), (590.0, level), *reversed([(x, y) for x, y in teeth if 10 < x < 590])])
    x0, y0, x1, y1 = rectangle_left(((0, 0), (600, 0), (600, 300), (0, 300)), (), gone=[comb], gap=2.0) or (0, 0, 0, 0)
    assert (x0, y0, x1) == (0, 0, 600)
    assert level - 2 - 2e-3 < y1 <= level - 2 + 2e-3


def test_travel_goes_to_the_nearest_part_sheet_by_sheet() -> None:
    def laid(*at: tuple[float, float]) -> SheetLayout:
        places = tuple(Placement(part="p", copy=i, turn=0, x=x, y=y) for i, (x, y) in enumerate(at))
        return SheetLayout(sheet="s", copy=0, stock="ply", name="s", width=300, height=200, ring=(), placements=places, utilisation=0, leftover=None)

    nesting = Nesting(sheets=(laid((30, 40), (3, 4), (3, 44)), laid((0, 7))), unplaced=(), utilisation=0, price=0)
    assert travel(nesting) == pytest.approx(5 + 40 + math.dist((3, 44), (30, 40)) + 7)
