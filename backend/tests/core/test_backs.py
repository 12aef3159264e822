"""Parts that may lie on their back: their mirror image is cut, wherever that is allowed and nowhere else."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import scale
from shapely.geometry import LineString, Polygon

from notchcore.design.assembly import Mark, Part
from notchcore.errors import NestError
from notchcore.geom.contours import sampled
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of
from notchcore.geom.slab import Pose
from notchcore.nest.gate import faults, placed_shape
from notchcore.nest.manual import Move, moved
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.turned import pack_turned
from notchcore.nest.values import EVERY_TURN, QUARTER_TURNS, Nesting, NestPart, NestRules, Placement, SheetKind
from notchcore.plan.paths import part_paths, placed_paths
from tests.core.test_nest import ell

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
    return NestPart(id="p", stock="ply", profile=HOLED, backed=backed, label="Bracket")


@pytest.mark.parametrize("way", [pack, pack_turned])
def test_only_a_part_that_may_lie_on_its_back_fits_the_offcut_of_its_mirror_image(way: object) -> None:
    def packed(backed: bool) -> Nesting:
        return way([part(backed=backed)], [glove()], RULES, Work(40_000))  # type: ignore[operator]

    assert packed(backed=False).unplaced[0].count == 1
    (sheet,) = packed(backed=True).sheets
    (place,) = sheet.placements
    assert place.mirrored
    assert not faults(sheet, {"p": part(backed=True)}, RULES)
    stay = pack([part(backed=True)], [glove()], RULES, Work(100), locked=[sheet])
    assert stay.sheets[0].placements == (place,)
    with pytest.raises(NestError, match="may not lie so"):
        pack([part(backed=False)], [glove()], RULES, Work(100), locked=[sheet])


def test_a_part_is_laid_on_its_back_by_hand_only_where_it_may() -> None:
    whole = SheetKind(id="w", stock="ply", name="whole", width=300, height=200)
    nesting = pack([part(backed=True)], [whole], RULES, Work(2_000))
    move = Move(part="p", copy=0, sheet="w", sheet_copy=0, turn=90, x=200.0, y=100.0, mirrored=True)
    after = moved(nesting, move, {"p": part(backed=True)}, {"w": whole}, RULES)
    assert after.sheets[0].placements[0].mirrored
    with pytest.raises(NestError, match="not lie on its back"):
        moved(nesting, move, {"p": part(backed=False)}, {"w": whole}, RULES)


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(EVERY_TURN), st.booleans(), st.floats(-50, 50), st.sampled_from([0.0, 0.2]))
def test_what_is_cut_is_what_was_laid(turn: int, mirrored: bool, x: float, kerf: float) -> None:
    """The beam's paths, filled, are the part's own shape where it lies, larger by half the beam: found by another way than the packing's."""
    flat = Part(id="p", label="p", stock="ply", pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3, profile=HOLED, nominal=HOLED,
                marks=(Mark(line=((5, 5), (15, 5), (5, 9)), closed=False),), bridges=2)  # fmt: skip
    place = Placement(part="p", copy=0, turn=turn, x=x, y=7.0, mirrored=mirrored)
    mark, inner, outer = placed_paths(part_paths(flat, kerf), place)
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
    parts = [NestPart(id="p", stock="ply", profile=HOLED, count=count, backed=True), NestPart(id="q", stock="ply", profile=HAND, count=2)]
    found = pack(parts, [SheetKind(id="w", stock="ply", name="w", width=220, height=180, count=9)], rules, Work(6_000), seed=seed)
    lying = [p for s in found.sheets for p in s.placements]
    assert len(lying) == count + 2
    assert not any(p.mirrored for p in lying if p.part == "q")
    assert not [f for s in found.sheets for f in faults(s, {p.id: p for p in parts}, rules)]
