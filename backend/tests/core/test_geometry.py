"""Contours: true arcs survive cuts and offsets; the beam gives back the part."""

from __future__ import annotations

import math
from random import Random

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from shapely.affinity import rotate
from shapely.geometry import LineString, Point, Polygon, box

from notchcore.fingerprint import fingerprint
from notchcore.geom.contours import contour_of, grown_ring, sampled, transformed
from notchcore.geom.offset import beside, mitred
from notchcore.geom.planar import minus, pieces
from notchcore.geom.profile import Circle, Profile, circle_ring, profile_of, rectangle, ring_of
from notchcore.geom.relief import relieved

CIRCLE = Circle(x=20, y=30, radius=12)


def notched_plate() -> tuple[Polygon, tuple[Circle, ...]]:
    """A plate with half a circle cut from its rim."""
    cut = Polygon(circle_ring(CIRCLE))
    return box(0, 0, 50, 30).difference(cut), (CIRCLE,)


def test_a_whole_circle_is_one_arc_of_exact_length() -> None:
    contour = contour_of(circle_ring(CIRCLE), (CIRCLE,))
    assert len(contour.segments) == 1
    assert contour.length == pytest.approx(2 * math.pi * 12)


def test_a_cut_circle_is_one_arc_that_ends_where_the_true_curves_meet() -> None:
    plate, circles = notched_plate()
    contour = contour_of(profile_of(plate).outer, circles)
    arcs = [s for s in contour.segments if s.centre]
    assert len(arcs) == 1
    assert arcs[0].length == pytest.approx(math.pi * 12, abs=1e-6)
    for end in (arcs[0].start, arcs[0].end):
        assert end[1] == pytest.approx(30)
        assert math.dist(end, (20, 30)) == pytest.approx(12)


@given(st.floats(0.01, 0.5))
def test_an_offset_changes_radii_and_keeps_arcs(half_kerf: float) -> None:
    plate, circles = notched_plate()
    (grown,) = grown_ring(profile_of(plate).outer, circles, by=half_kerf)
    arcs = [s for s in grown.segments if s.centre]
    assert [round(a.radius, 9) for a in arcs] == [round(12 - half_kerf, 9)]
    exact = box(0, 0, 50, 30).difference(Point(20, 30).buffer(12, quad_segs=2000)).buffer(half_kerf, join_style="mitre", quad_segs=2000)
    assert Polygon(sampled(grown, sag=0.0005)).symmetric_difference(exact).area < 0.05


@settings(max_examples=60)
@given(st.floats(0.05, 0.4), st.floats(1.0, 8.0), st.floats(2.0, 20.0))
def test_what_the_beam_leaves_is_the_part(kerf: float, notch: float, depth: float) -> None:
    """A round beam along the path removes everything outside the part and nothing of it, but for inner corners."""
    part = box(0, 0, 60, 40).difference(box(20, 40 - depth, 20 + notch, 41))
    (path,) = grown_ring(profile_of(part).outer, (), by=kerf / 2)
    inside_path = Polygon(sampled(path))
    left = inside_path.difference(inside_path.exterior.buffer(kerf / 2, quad_segs=64))
    assert part.difference(left).area < 1e-6
    in_corners = 4 * (1 - math.pi / 4) * (kerf / 2) ** 2
    assert left.difference(part).area <= in_corners


def test_an_opening_narrower_than_the_beam_vanishes_from_the_offset() -> None:
    assert grown_ring(ring_of(box(0, 0, 0.1, 9).exterior), (), by=-0.08) == []


@given(st.floats(0, 6.3), st.floats(-50, 50), st.booleans())
def test_turning_mirroring_and_moving_keeps_lengths_and_arcs(angle: float, dx: float, mirrored: bool) -> None:
    plate, circles = notched_plate()
    contour = contour_of(profile_of(plate).outer, circles)
    cos, sin, side = math.cos(angle), math.sin(angle), -1 if mirrored else 1

    def to(p: tuple[float, float]) -> tuple[float, float]:
        return side * p[0] * cos - p[1] * sin + dx, side * p[0] * sin + p[1] * cos + 3.0

    moved = transformed(contour, to, mirrored=mirrored)
    assert moved.length == pytest.approx(contour.length, abs=1e-6)
    assert Polygon(sampled(moved)).symmetric_difference(Polygon([to(p) for p in sampled(contour)])).area < 1e-6


POINTS = st.lists(st.tuples(st.floats(-1e6, 1e6), st.floats(-1e6, 1e6)), min_size=3, max_size=40).map(tuple)


@given(POINTS, st.data())
def test_fingerprints_are_equal_exactly_when_the_values_are(points: tuple[tuple[float, float], ...], data: st.DataObject) -> None:
    value = {"ring": points, "of": Profile(outer=points), "names": tuple(("a", "b") for _ in range(20))}
    zeros = tuple(tuple(-0.0 if v == 0 else v for v in p) for p in points)
    assert fingerprint(value) == fingerprint(value | {"ring": zeros, "of": Profile(outer=zeros)})  # type: ignore[arg-type]
    k = data.draw(st.integers(0, len(points) - 1))
    moved = (*points[:k], (points[k][0], points[k][1] + 0.001), *points[k + 1 :])
    assert (fingerprint(value) == fingerprint(value | {"ring": moved})) is (points == moved)
    assert fingerprint(points) != fingerprint(points[1:] + points[:1]) or points[1:] + points[:1] == points
    assert fingerprint(points) != fingerprint(points[:-1])


def test_an_edge_of_float_noise_makes_no_spike_and_an_acute_tip_is_not_cut_off() -> None:
    noisy = ((0.0, 0.0), (40.0, 0.0), (40.0, 20.0), (40.0 - 1e-6, 20.0 + 4e-7), (0.0, 20.0))
    (grown,) = grown_ring(noisy, (), by=0.1)
    xs, ys = [p[0] for p in sampled(grown)], [p[1] for p in sampled(grown)]
    assert (min(xs), max(xs), min(ys), max(ys)) == pytest.approx((-0.1, 40.1, -0.1, 20.1), abs=1e-4)
    tip = ((0.0, 0.0), (40.0, -3.0), (40.0, 3.0))  # 8.6 degrees
    (around,) = grown_ring(tip, (), by=0.1)
    assert Polygon(sampled(around)).buffer(-0.1 + 1e-3).buffer(1e-3).distance(Point(0, 0)) < 0.01
    assert Polygon(sampled(around)).exterior.distance(Point(0, 0)) == pytest.approx(0.1, abs=0.002)


@settings(max_examples=120, deadline=None)
@example(radius=4.620940892132919, count=5, pitch=0.15351712112163307, way=4.214471530398114, by=0.07453576709204628, sign=1, up=-0.11473124017887637)
@given(
    st.floats(0.5, 12.0),
    st.integers(2, 7),
    st.floats(0.001, 0.6),
    st.floats(0, 6.3),
    st.floats(0.02, 0.2),
    st.sampled_from([1, -1]),
    st.floats(-0.9, 0.9),
)
def test_a_row_of_holes_that_nearly_coincide_at_an_edge_grows_to_what_lies_that_far_from_it(
    radius: float, count: int, pitch: float, way: float, by: float, sign: int, up: float
) -> None:
    """An edge bitten by a row of holes a hair apart: the path is a clean ring, as large as the shape grown by polygons."""
    circles = tuple(
        Circle(x=30 + k * pitch * math.cos(way + k * 0.01), y=40 + up * radius + k * pitch * math.sin(way + k * 0.01), radius=radius) for k in range(count)
    )
    shape = Polygon(rectangle(0, 0, x1=60, y1=40).outer)
    for c in circles:
        shape = shape.difference(Polygon(circle_ring(c)))
    ring = ring_of(max(pieces(shape), key=lambda p: p.area).exterior)
    for contour in grown_ring(ring, circles, by=sign * by):
        path = Polygon(sampled(contour))
        assert path.is_valid
        grown = Polygon(ring).buffer(sign * by, join_style="mitre", mitre_limit=5.0)
        near = [p for p in pieces(grown) if p.intersection(path).area > 0.5 * min(p.area, path.area)]
        assert near
        assert path.symmetric_difference(near[0]).area < 0.02 * path.length


def test_four_holes_a_hair_apart_at_an_edge_leave_a_path_that_does_not_cross_itself() -> None:
    """As a random project had them: the arc between two of them became a full turn."""
    at = [(99.1, 105.1), (99.0998866149469, 105.13897880007845), (99.09954646362522, 105.17795628086935), (99.09897955754782, 105.2169311231298)]
    circles = tuple(Circle(x=x, y=y, radius=5.1) for x, y in at)
    shape = Polygon(rectangle(12, 12, x1=228, y1=108).outer)
    for c in circles:
        shape = shape.difference(Polygon(circle_ring(c)))
    ring = ring_of(max(pieces(shape), key=lambda p: p.area).exterior)
    (path,) = (Polygon(sampled(c)) for c in grown_ring(ring, circles, by=0.037))
    assert path.is_valid
    assert path.area == pytest.approx(Polygon(ring).buffer(0.037, join_style="mitre").area, abs=0.5)


@pytest.mark.parametrize(
    ("slot", "relief", "by"),
    [
        (box(114.6, 19.8, 135.39999999999998, 25.32), 0.5, -0.1595),
        (box(30.759, 176.656, 30.759 + 24.604956241047116, 176.656 + 4.928772959774271), 0.3, -0.25478569639085497 / 2),
    ],
)
def test_an_offset_that_the_library_loses_is_found(slot: Polygon, relief: float, by: float) -> None:
    whole, _ = relieved(slot.buffer(50, join_style="mitre").difference(slot), relief)
    hole = Polygon(whole.interiors[0])
    assert mitred(hole, by).area == pytest.approx(hole.buffer(by, quad_segs=64).area, abs=0.01)
    [contour] = grown_ring(tuple(hole.exterior.coords)[:-1], (), by=by)
    assert Polygon(sampled(contour)).area == pytest.approx(mitred(hole, by).area, abs=0.01)


def test_sharp_offsets_are_as_the_library_has_them_where_it_is_right() -> None:
    r = Random(7)
    for _ in range(80):
        shape, by, limit = box(0, 0, 60, 40), r.choice([-1, 1]) * r.uniform(0.01, 2), r.choice([1.5, 5.0])
        for _ in range(r.randint(0, 6)):
            x, y, a = r.uniform(0, 60), r.uniform(0, 40), r.uniform(0, 90)
            some = rotate(box(x, y, x + r.uniform(1, 15), y + r.uniform(1, 15)), a) if r.random() < 0.6 else Point(x, y).buffer(r.uniform(1, 8))
            shape = shape.difference(some)
        assert mitred(shape, by, limit=limit).symmetric_difference(shape.buffer(by, join_style="mitre", mitre_limit=limit)).area < 1e-6


def test_a_band_along_a_closed_line_is_not_filled() -> None:
    ring = [
        (88.4329, 428.1518),
        (89.3857, 426.9933),
        (111.8284, 424.8067),
        (134.3159, 388.6785),
        (155.277, 360.0734),
        (137.4788, 331.7513),
        (104.6616, 309.0578),
        (67.3563, 313.5956),
        (35.8004, 314.5843),
        (19.6729, 342.7607),
        (5.277, 377.8866),
        (35.66, 406.7623),
        (66.9429, 429.1799),
        (89.3857, 426.9933),
    ]
    line = LineString(ring)
    for reach in (0.169, 0.1, 1.0):
        band = beside(line, reach)
        assert band.area == pytest.approx(2 * reach * line.length, rel=0.01)
        assert not band.contains(Point(80, 370))


@pytest.mark.parametrize("noise", [6e-7, 3e-6, 5e-5])
def test_no_film_stands_where_cutters_end_a_rounding_error_beside_an_edge(noise: float) -> None:
    cells = [((x, 10.0), (x + 6.0, 10.0), (x + 6.0, 20.0 - noise), (x, 20.0 - noise)) for x in (-1.0, 35.0)]
    (left,) = minus(box(0, 0, 40, 20), cells)
    upper = left.intersection(box(0, 10.5, 40, 20))
    assert (upper.bounds[0], upper.bounds[2]) == pytest.approx((5.0, 35.0), abs=1e-6)
    assert left.area == pytest.approx(40 * 10 + 30 * 10, abs=0.01)
