"""Packing: nothing overlaps, nothing is lost, the same seed gives the same answer."""

from __future__ import annotations

from collections import Counter

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon

from notchcore.errors import NestError
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.nest.gate import faults, placed_shape
from notchcore.nest.pack import pack
from notchcore.nest.values import HALF_TURNS, Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout


def ell(w: float, h: float, arm: float) -> Profile:
    return Profile(outer=((0, 0), (w, 0), (w, arm), (arm, arm), (arm, h), (0, h)))


shapes = st.one_of(
    st.builds(lambda w, h: rectangle(0, 0, w, h), st.floats(8, 120), st.floats(8, 120)),
    st.builds(lambda w, h: ell(w, h, 7.0), st.floats(20, 120), st.floats(20, 120)),
    st.builds(lambda r: Profile(outer=circle_ring(Circle(x=0, y=0, radius=r))), st.floats(5, 40)),
)
WHOLE = SheetKind(id="whole", stock="ply", name="whole", width=300, height=200, count=2)
OFFCUT = SheetKind(id="offcut", stock="ply", name="offcut", width=160, height=120, outline=((0, 0), (160, 0), (160, 50), (90, 120), (0, 120)))


def parts_of(profiles: list[Profile], counts: list[int] | None = None) -> list[NestPart]:
    return [NestPart(id=f"p{i}", stock="ply", profile=p, count=counts[i] if counts else 1) for i, p in enumerate(profiles)]


def check(nesting: Nesting, parts: list[NestPart], sheets: list[SheetKind], rules: NestRules) -> None:
    """Check a packing with another library's plain operations."""
    by_id = {p.id: p for p in parts}
    wanted = Counter({p.id: p.count for p in parts})
    found = Counter(pl.part for s in nesting.sheets for pl in s.placements) + Counter({u.part: u.count for u in nesting.unplaced})
    assert found == wanted
    assert len({(pl.part, pl.copy) for s in nesting.sheets for pl in s.placements}) == sum(len(s.placements) for s in nesting.sheets)
    used = Counter(s.sheet for s in nesting.sheets)
    assert all(used[s.id] <= s.count for s in sheets)
    for sheet in nesting.sheets:
        assert faults(sheet, by_id, rules) == ()
        inside = Polygon(sheet.ring).buffer(-rules.margin + 1e-3, join_style="mitre")
        placed = [placed_shape(by_id[p.part], p) for p in sheet.placements]
        for i, a in enumerate(placed):
            assert inside.covers(a)
            assert all(a.distance(b) >= rules.spacing - 1e-3 and a.intersection(b).area < 1e-3 for b in placed[:i])
        assert all(p.turn in rules.turns for p in sheet.placements)


@settings(max_examples=25, deadline=None)
@given(st.lists(shapes, min_size=1, max_size=7), st.floats(0, 6), st.floats(0, 8), st.sampled_from([(0,), HALF_TURNS, (0, 90, 180, 270)]))
@example(profiles=[rectangle(0, 0, 8, 8)], spacing=5.7e-241, margin=1e-200, turns=(0,))
def test_any_packing_keeps_its_distances_and_loses_nothing(profiles: list[Profile], spacing: float, margin: float, turns: tuple[int, ...]) -> None:
    parts, rules = parts_of(profiles), NestRules(spacing=spacing, margin=margin, turns=turns)
    check(pack(parts, [WHOLE, OFFCUT], rules, rounds=3, seed=1), parts, [WHOLE, OFFCUT], rules)


def test_the_gate_sees_overlap_even_where_no_distance_is_asked_for() -> None:
    parts, rules = {p.id: p for p in parts_of([rectangle(0, 0, 20, 20)])}, NestRules(spacing=0, margin=0)
    for x, wrong in ((20.0, 0), (19.9, 1)):
        placed = tuple(Placement(part="p0", copy=i, turn=0, x=x * i, y=0) for i in range(2))
        layout = SheetLayout(
            sheet="whole", copy=0, stock="ply", name="whole", width=300, height=200, ring=WHOLE.ring(), placements=placed, utilisation=0, leftover=None
        )
        assert len(faults(layout, parts, rules)) == wrong


def test_small_parts_lie_in_the_holes_of_large_ones() -> None:
    ring = Profile(outer=((0, 0), (190, 0), (190, 190), (0, 190)), holes=(((20, 20), (20, 170), (170, 170), (170, 20)),))
    parts = [*parts_of([ring]), NestPart(id="coin", stock="ply", profile=rectangle(0, 0, 60, 60), count=4)]
    sheet = SheetKind(id="s", stock="ply", name="s", width=200, height=200)
    nesting = pack(parts, [sheet], NestRules(margin=2, spacing=2), rounds=8, seed=1)
    assert nesting.unplaced == ()
    check(nesting, parts, [sheet], NestRules(margin=2, spacing=2))


def test_the_same_seed_gives_the_same_packing_and_more_rounds_none_worse() -> None:
    parts = parts_of([ell(90, 60, 20), rectangle(0, 0, 80, 40), rectangle(0, 0, 70, 70)], [3, 4, 2])
    few = pack(parts, [WHOLE], NestRules(), rounds=12, seed=7)
    assert few == pack(parts, [WHOLE], NestRules(), rounds=12, seed=7)
    more = pack(parts, [WHOLE], NestRules(), rounds=40, seed=7)
    assert (sum(u.count for u in more.unplaced), len(more.sheets)) <= (sum(u.count for u in few.unplaced), len(few.sheets))


def test_what_fits_nowhere_says_why() -> None:
    parts = [*parts_of([rectangle(0, 0, 280, 250)]), NestPart(id="many", stock="ply", profile=rectangle(0, 0, 140, 90), count=20)]
    nesting = pack(parts, [WHOLE], NestRules(), rounds=4, seed=1)
    why = {u.part: u.why for u in nesting.unplaced}
    assert "does not fit any sheet" in why["p0"]
    assert "full" in why["many"]


def test_no_sheet_and_no_parts_are_said_not_crashed() -> None:
    assert "no sheet of this stock" in pack(parts_of([rectangle(0, 0, 9, 9)]), [], NestRules(), rounds=1, seed=1).unplaced[0].why
    with pytest.raises(NestError, match="no parts"):
        pack([], [WHOLE], NestRules(), rounds=1, seed=1)


def test_stop_keeps_the_first_answer_and_each_better_one_is_told() -> None:
    told: list[Nesting] = []
    nesting = pack(parts_of([rectangle(0, 0, 50, 40)] * 5), [WHOLE], NestRules(), rounds=100, seed=1, should_stop=lambda: True, on_better=told.append)
    assert (nesting.rounds, len(told)) == (1, 1)
    assert len(nesting.sheets[0].placements) == 5
