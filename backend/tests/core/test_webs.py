"""Thin places are found, counted and measured as they are."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon, box

from notchcore.geom.webs import thin_places


@given(st.floats(0.3, 2.7), st.integers(1, 4))
def test_a_grid_of_windows_has_a_web_for_each_bar_as_thin_as_the_bar(bar: float, count: int) -> None:
    plate = box(-20, -20, 30 * count + 40, 60)
    windows = [box(i * (20 + bar), 0, i * (20 + bar) + 20, 30) for i in range(count + 1)]
    shape = Polygon(plate.exterior, [list(w.exterior.coords) for w in windows])
    webs = thin_places(shape, 3.0)
    assert len(webs) == count
    assert all(w.width == pytest.approx(bar, abs=1e-6) for w in webs)


@given(st.floats(0.2, 2.9), st.floats(0, 360))
def test_two_round_holes_are_as_far_apart_as_their_centres_less_their_radii(gap: float, turn: float) -> None:
    a, far = math.radians(turn), 8 + gap
    holes = [Point(0, 0).buffer(4, quad_segs=64), Point(far * math.cos(a), far * math.sin(a)).buffer(4, quad_segs=64)]
    shape = Polygon(box(-40, -40, 40, 40).exterior, [list(h.exterior.coords) for h in holes])
    (web,) = thin_places(shape, 3.0)
    assert web.width == pytest.approx(gap, abs=0.02)
    assert math.dist(web.at, (far / 2 * math.cos(a), far / 2 * math.sin(a))) < 0.3


@given(st.floats(0.5, 2.8))
def test_a_bar_between_two_notches_of_one_outline_is_a_web(bar: float) -> None:
    shape = box(0, 0, 60, 30).difference(box(10, 10, 10 + 15, 31)).difference(box(25 + bar, 10, 45, 31))
    (web,) = thin_places(shape, 3.0)
    assert web.width == pytest.approx(bar, abs=0.02)
    assert 25 - 0.1 <= web.at[0] <= 25 + bar + 0.1


def test_what_is_wide_everywhere_has_no_web_and_corners_are_none() -> None:
    assert thin_places(box(0, 0, 60, 30), 3.0) == []
    assert thin_places(Polygon([(0, 0), (60, 0), (30, 25)]), 3.0) == []
    assert thin_places(Polygon(box(0, 0, 60, 30).exterior, [list(box(10, 10, 20, 20).exterior.coords)]), 3.0) == []


@given(st.floats(0.1, 2.2), st.floats(4, 9))
def test_a_neck_between_two_round_bites_is_as_thin_as_it_is_however_wide_the_sheet_wants_it(neck: float, least: float) -> None:
    """Bites of radius 6 from both edges: narrow at one spot only, so that little area is thin."""
    bites = [Point(30, 15 + side * (6 + neck / 2)).buffer(6, quad_segs=64) for side in (-1, 1)]
    shape = box(0, 15 - 6 - neck / 2, 60, 15 + 6 + neck / 2).difference(bites[0]).difference(bites[1])
    web = thin_places(shape, least)[0]
    assert web.width == pytest.approx(neck, abs=0.02)
    assert math.dist(web.at, (30, 15)) < 2


@given(st.floats(0.1, 0.9), st.floats(2, 8), st.floats(3, 11))
def test_a_thin_tongue_at_an_edge_is_told_with_its_own_width(thick: float, long: float, least: float) -> None:
    shape = box(0, 0, 60, 40).union(box(60 - 1e-9, 20, 60 + long, 20 + thick))
    assert thin_places(shape, least)[0].width == pytest.approx(thick, rel=0.05)


def test_a_comb_of_thin_bars_is_counted_bar_by_bar_and_a_tapering_sliver_is_one() -> None:
    comb = box(0, 0, 60, 20)
    for k in range(6):
        comb = comb.difference(box(10 + 3 * k, 8, 12.5 + 3 * k, 21))
    assert [round(w.width, 2) for w in thin_places(comb, 4.0)] == [0.5] * 5
    sliver = box(0, 0, 60, 40).union(Polygon([(60, 10), (60, 26), (60.3, 18)]))
    assert [w.width < 0.3 for w in thin_places(Polygon(sliver.exterior), 5.0)] in ([], [True])
