"""Parts that may lie on their back: their mirror image is cut, wherever that is allowed and nowhere else."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import scale
from shapely.geometry import LineString, Polygon

from notchcore.design.assembly import Mark, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.families.layered import ROLES, LayeredNumbers
from notchcore.design.features.values import Text
from notchcore.errors import NestError
from notchcore.geom.contours import sampled
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of
from notchcore.geom.slab import Pose
from notchcore.measure.machine import Machine, Operation, default_settings
from notchcore.nest.gate import faults, placed_shape, shape_at
from notchcore.nest.manual import Move, moved
from notchcore.nest.pack import pack
from notchcore.nest.pairs import apart, halves_of, laid_apart, laid_together
from notchcore.nest.rows import in_rows
from notchcore.nest.search import Work
from notchcore.nest.turned import pack_turned
from notchcore.nest.values import BACK, EITHER, EVERY_TURN, FRONT, QUARTER_TURNS, Nesting, NestPart, NestRules, Placement, SheetKind
from notchcore.nest.wanted import Wish, packed_parts
from notchcore.plan.cut_plan import cut_plan
from notchcore.plan.paths import alone, part_paths, placed_paths
from tests.core.test_nest import WHOLE, ell
from tests.strategies import make_box, make_stock

RULES = NestRules(margin=0.0, spacing=0.0)
HAND = ell(60, 80, 20)  # no turn of it is its mirror image
ROUND = Circle(x=10.0, y=10.0, radius=4.0)
HOLED = Profile(outer=HAND.outer, holes=(circle_ring(ROUND)[::-1],), circles=(ROUND,))


def glove() -> SheetKind:
    """An offcut as wide as the mirror image of the part, and a hair more."""
    room = scale(polygon_of(HAND), -1, 1, origin=(30, 40)).buffer(0.05, join_style="mitre")
    x0, y0, _, _ = room.bounds
    return SheetKind(id="s", stock="ply", name="offcut", width=60.1, height=80.1, outline=tuple((x - x0, y - y0) for x, y in room.exterior.coords[:-1][::-1]))


def part(*, backed: bool) -> NestPart:
    return NestPart(id="p", stock="ply", profile=HOLED, sides=EITHER if backed else FRONT, label="Bracket")


@pytest.mark.parametrize("way", [pack, pack_turned])
def test_only_a_part_that_may_lie_on_its_back_fits_the_offcut_of_its_mirror_image(way: object) -> None:
    def packed(backed: bool) -> Nesting:
        return way([part(backed=backed)], [glove()], rules=RULES, work=Work(40_000))  # type: ignore[operator]

    assert packed(backed=False).unplaced[0].count == 1
    (sheet,) = packed(backed=True).sheets
    (place,) = sheet.placements
    assert place.mirrored
    assert not faults(sheet, {"p": part(backed=True)}, rules=RULES)
    stay = pack([part(backed=True)], [glove()], rules=RULES, work=Work(100), locked=[sheet])
    assert stay.sheets[0].placements == (place,)
    only_back = replace(part(backed=True), sides=BACK)
    assert all(p.mirrored for s in way([only_back], [WHOLE], rules=RULES, work=Work(4_000)).sheets for p in s.placements)  # type: ignore[operator]
    assert all(p.mirrored for s in in_rows(only_back, [WHOLE], rules=RULES, parts=[only_back]) for p in s.placements)
    with pytest.raises(NestError, match="may not lie so"):
        pack([part(backed=False)], [glove()], rules=RULES, work=Work(100), locked=[sheet])


def test_a_part_is_laid_on_its_back_by_hand_only_where_it_may() -> None:
    whole = SheetKind(id="w", stock="ply", name="whole", width=300, height=200)
    nesting = pack([part(backed=True)], [whole], rules=RULES, work=Work(2_000))
    move = Move(part="p", copy=0, sheet="w", sheet_copy=0, turn=90, x=200.0, y=100.0, mirrored=True)
    after = moved(nesting, move, parts={"p": part(backed=True)}, shelf={"w": whole}, rules=RULES)
    assert after.sheets[0].placements[0].mirrored
    with pytest.raises(NestError, match="not lie on its back"):
        moved(nesting, move, parts={"p": part(backed=False)}, shelf={"w": whole}, rules=RULES)


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(EVERY_TURN), st.booleans(), st.floats(-50, 50), st.sampled_from([0.0, 0.2]))
def test_what_is_cut_is_what_was_laid(turn: int, mirrored: bool, x: float, kerf: float) -> None:
    """The beam's paths, filled, are the part's own shape where it lies, larger by half the beam: found by another way than the packing's."""
    flat = Part(
        id="p",
        label="p",
        stock="ply",
        pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)),
        low=0,
        high=3,
        profile=HOLED,
        nominal=HOLED,
        marks=(Mark(line=((5, 5), (15, 5), (5, 9)), closed=False),),
        bridges=2,
    )
    place = Placement(part="p", copy=0, turn=turn, x=x, y=7.0, mirrored=mirrored)
    mark, inner, outer = placed_paths(part_paths(flat, kerf), alone(place))
    there = placed_shape(part(backed=True), place)
    cut = Polygon(sampled(outer.contour, sag=1e-4), [sampled(inner.contour, sag=1e-4)])
    assert cut.symmetric_difference(there.buffer(kerf / 2, join_style="mitre")).area < 0.1  # the shape as packed has chords for arcs
    assert inner.contour.segments[0].radius == pytest.approx(4.0 - kerf / 2)
    assert all(LineString(sampled(outer.contour)).distance(LineString([b, b])) < 1e-6 for b in outer.bridges)
    a, b, c = sampled(mark.contour)
    assert math.copysign(1, (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) == (-1 if mirrored else 1)


@settings(max_examples=10, deadline=None)
@given(st.integers(1, 6), st.integers(0, 99))
def test_lying_on_the_back_breaks_no_rule(count: int, seed: int) -> None:
    rules = NestRules(margin=3.0, spacing=2.0, turns=QUARTER_TURNS)
    parts = [NestPart(id="p", stock="ply", profile=HOLED, count=count, sides=EITHER), NestPart(id="q", stock="ply", profile=HAND, count=2)]
    found = pack(parts, [SheetKind(id="w", stock="ply", name="w", width=220, height=180, count=9)], rules=rules, work=Work(6_000), seed=seed)
    lying = [p for s in found.sheets for p in s.placements]
    assert len(lying) == count + 2
    assert not any(p.mirrored for p in lying if p.part == "q")
    assert not [f for s in found.sheets for f in faults(s, {p.id: p for p in parts}, rules=rules)]


def test_what_is_engraved_from_the_back_is_laid_and_burned_mirrored() -> None:
    design = replace(make_box(same_stock=True), features=(Text(id="t", panel="front", words="ROW", cap=12.0),), edits={"front": PanelEdit(reverse=True)})
    stocks = {"ply": make_stock("ply", 3.0)}
    assembly = build(design, stocks)
    front = next(p for p in assembly.parts if p.id == "front")
    assert front.reverse
    parts = packed_parts(assembly.parts, Wish())
    nesting = pack(parts, [WHOLE, replace(WHOLE, id="w2", width=600, height=400, count=9)], rules=NestRules(), work=Work(2_000))
    places = {p.part: p for s in nesting.sheets for p in s.placements}
    assert {k for k, p in places.items() if p.mirrored} == {"front"}
    plan = cut_plan(assembly, nesting, stocks=stocks, machine=Machine(id="m", name="Alder desk laser"), settings={"ply": default_settings(stocks["ply"])})
    engraved = [c for sheet in plan.sheets for s in sheet.strokes if s.path.operation is Operation.ENGRAVE for c in s.path.contours]
    there = [shape_at(Polygon(m.line).buffer(0), places["front"].turn, x=places["front"].x, y=places["front"].y, mirrored=True) for m in front.marks]
    assert len(engraved) == len(there) > 0
    for contour in engraved:
        assert min(Polygon(sampled(contour)).buffer(0).symmetric_difference(shape).area for shape in there) < 1e-3
    assert "on_its_back" in {f.code for f in plan.findings}


def test_a_joint_that_is_scored_on_the_front_forbids_burning_from_the_back() -> None:
    stocks = {"ply": make_stock("ply", 3.0)}
    plain = Design(numbers=LayeredNumbers(), stocks={r.id: "ply" for r in ROLES})
    scored = next(p.id for p in build(plain, stocks).parts if any(not m.feature for m in p.marks))
    told = build(replace(plain, edits={scored: PanelEdit(reverse=True)}), stocks).findings
    assert [f.parts for f in told if f.code == "reverse_and_scored"] == [(scored,)]


@given(st.integers(2, 9), st.integers(1, 3))
@settings(max_examples=10)
def test_parts_in_pairs_are_packed_half_on_their_back_and_come_back_under_one_name(count: int, others: int) -> None:
    hand = NestPart(id="hand", stock="ply", profile=HAND, count=count, label="Hand")
    plain = NestPart(id="plain", stock="ply", profile=HOLED, count=others)
    halves = halves_of([hand, plain], ["hand", "gone"])
    sheet = SheetKind(id="w", stock="ply", name="whole", width=300, height=240, count=4)
    packed = pack(apart([hand, plain], halves), [sheet], rules=RULES, work=Work(1_500))
    whole = laid_together(packed, halves)
    laid = sorted((p.copy, p.mirrored) for s in whole.sheets for p in s.placements if p.part == "hand")
    assert laid == [(k, k >= (count + 1) // 2) for k in range(count)]
    assert all(not p.mirrored for s in whole.sheets for p in s.placements if p.part == "plain")
    assert [laid_apart(s, halves) for s in whole.sheets] == list(packed.sheets)
    kinds = {p.id: p for p in (replace(hand, sides=EITHER), plain)}
    assert not any(faults(s, kinds, rules=RULES) for s in whole.sheets)
    tight = pack(apart([replace(hand, count=40)], halves_of([replace(hand, count=40)], ["hand"])), [replace(sheet, count=1)], rules=RULES, work=Work(500))
    (left,) = laid_together(tight, {"hand": 20}).unplaced
    assert left.part == "hand"
    assert left.count + sum(len(s.placements) for s in tight.sheets) == 40
