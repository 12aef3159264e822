"""The time that is told beside the simulated machine's own motion: eleven jobs of different kinds, nothing fitted."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box
from shapely.ops import unary_union

from devices.laser import SLOWNESS, job_seconds
from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.geom.contours import contour_of
from notchcore.geom.fonts import text_outlines
from notchcore.geom.profile import Circle, Profile, Ring, circle_ring, rectangle
from notchcore.geom.slab import Pose
from notchcore.measure.machine import Machine, Operation, Settings, default_settings
from notchcore.nest.values import Nesting, Placement, SheetLayout
from notchcore.plan.cut_plan import CutPlan, cut_plan
from notchcore.plan.hints import engraving_hints
from notchcore.plan.motion import sweep_time
from notchcore.plan.moves import moves_of
from notchcore.plan.paths import CutPath
from notchcore.plan.raster import burned_rows, engraving_time
from notchcore.plan.rows import raster_rows, raster_time, sweeps_of
from notchcore.plan.together import engraved_together
from notchcore.trace.photo import Photo
from tests.core.test_photo import CORNER
from tests.strategies import make_stock

MACHINE = Machine(id="m", name="Alder desk laser")
STOCKS = {"ply": make_stock("ply", 3.08)}
SETTINGS = default_settings(STOCKS["ply"])


def polygon(count: int, radius: float, at: tuple[float, float] = (100.0, 100.0), inner: float | None = None) -> Ring:
    """A regular polygon, or a star when `inner` is given."""
    radii = [radius, radius if inner is None else inner]
    return tuple((at[0] + radii[i % 2] * math.cos(2 * math.pi * i / count), at[1] + radii[i % 2] * math.sin(2 * math.pi * i / count)) for i in range(count))


def plate(profile: Profile, *marks: Mark) -> Part:
    return Part(
        id="p", label="p", stock="ply", pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3, profile=profile, nominal=profile, marks=marks
    )


def planned(part: Part, turn: int = 0, settings: Settings = SETTINGS) -> CutPlan:
    place = Placement(part="p", copy=0, turn=turn, x=10.0 if turn == 0 else 390.0, y=10.0)
    sheet = SheetLayout(
        sheet="s",
        copy=0,
        stock="ply",
        name="s",
        width=600,
        height=400,
        ring=((0, 0), (600, 0), (600, 400), (0, 400)),
        placements=(place,),
        utilisation=0.5,
        leftover=None,
    )
    nesting = Nesting(sheets=(sheet,), unplaced=(), utilisation=0.5, price=1.0)
    return cut_plan(
        Assembly(parts=(part,), meetings=(), findings=()), nesting, stocks=STOCKS, machine=MACHINE, settings={"ply": settings}, images={"7": CORNER}
    )


def engraved(*rings: Ring) -> list[Mark]:
    return [Mark(line=r, operation=Operation.ENGRAVE) for r in rings]


BLANK = rectangle(0, 0, x1=200, y1=180)
TEETH = tuple(p for i in range(23, -1, -1) for p in ((8.0 * i + 6, 70.0), (8.0 * i + 6, 30.0), (8.0 * i + 2, 30.0), (8.0 * i + 2, 70.0)))
HOLES = [Circle(x=15 + 19 * (i % 10), y=15 + 19 * (i // 10), radius=3 + i % 5) for i in range(80)]
RANDOM = Random(5)
FRAME = ((30.0, 30.0), (90.0, 30.0), (90.0, 80.0), (30.0, 80.0))
JOBS = {
    "straight": plate(BLANK),
    "comb": plate(Profile(outer=((0.0, 0.0), (200.0, 0.0), (200.0, 70.0), *TEETH, (0.0, 70.0)))),
    "round": plate(Profile(outer=circle_ring(Circle(x=90, y=90, radius=85)), circles=(Circle(x=90, y=90, radius=85),))),
    "holes": plate(Profile(outer=BLANK.outer, holes=tuple(circle_ring(c)[::-1] for c in HOLES), circles=tuple(HOLES))),
    "star": plate(Profile(outer=polygon(60, 80, inner=60))),
    "engraved disc": plate(BLANK, *engraved(polygon(90, 60))),
    "engraved triangle": plate(BLANK, *engraved(((20.0, 20.0), (180.0, 30.0), (40.0, 150.0)))),
    "engraved bar, upright": plate(BLANK, *engraved(((20.0, 10.0), (32.0, 10.0), (32.0, 170.0), (20.0, 170.0)))),
    "scored": plate(BLANK, *(Mark(line=tuple((RANDOM.uniform(5, 195), RANDOM.uniform(5, 175)) for _ in range(9)), closed=False) for _ in range(12))),
    "words": plate(BLANK, *engraved(*(tuple((x + 100, y + 60) for x, y in s.outer) for s in text_outlines("PEAS AND BEANS", 9.0, serif=False)))),
    "picture": plate(BLANK, Mark(line=FRAME, operation=Operation.ENGRAVE, photo=Photo(image="7"))),
}


@pytest.mark.parametrize("turn", [0, 90])
@pytest.mark.parametrize("name", JOBS)
def test_the_time_told_is_the_machines_own_within_three_percent(name: str, turn: int) -> None:
    plan = planned(JOBS[name], turn)
    moves = [
        {"path": m.path, "points": m.points, "speed": m.speed, "power": m.power, "passes": m.passes, "overscan": m.overscan}
        for m in moves_of(plan.sheets[0], {"7": CORNER})
    ]
    assert job_seconds(moves) / SLOWNESS == pytest.approx(plan.sheets[0].seconds, rel=0.03)


@given(st.integers(3, 40), st.floats(2, 90), st.floats(0.2, 1.0), st.booleans())
def test_rows_fill_their_area_and_the_faster_way_is_taken(corners: int, radius: float, inner: float, upright: bool) -> None:
    ring = polygon(2 * corners, radius, inner=inner * radius)
    rows = raster_rows([ring], 0.25, upright=upright)
    area = abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], ring[0]), strict=True))) / 2
    burned = math.fsum(math.dist(a, b) for a, b in zip(rows[::2], rows[1::2], strict=True)) * 0.25
    assert burned == pytest.approx(area, rel=0.02, abs=0.6 * radius)
    by_rows = {way: sweep_time(sweeps_of(raster_rows([ring], 0.25, upright=way)), 250.0, machine=MACHINE) for way in (True, False)}
    seconds, way = raster_time([ring], 250.0, interval=0.25, machine=MACHINE)
    assert seconds == pytest.approx(by_rows[way])
    assert seconds <= 1.03 * min(by_rows.values())


def engraving(x: float, y: float, w: float, h: float, name: str, copy: int = 0) -> CutPath:
    return CutPath(
        id=f"{name}.{copy}/engrave", part=name, copy=copy, operation=Operation.ENGRAVE, contour=contour_of(rectangle(x, y, x1=x + w, y1=y + h).outer)
    )


def sweeps(paths: list[CutPath]) -> float:
    return math.fsum(engraving_time(p, 250.0, interval=0.1, machine=MACHINE, images={})[0] + MACHINE.pierce for p in paths)


def burned_area(paths: list[CutPath], interval: float = 0.1) -> float:
    rows = [burned_rows(p, interval, images={}, upright=engraving_time(p, 250.0, interval=interval, machine=MACHINE, images={})[1]) for p in paths]
    return math.fsum(math.dist(a, b) * interval for r in rows for a, b in zip(r[::2], r[1::2], strict=True))


boxes = st.tuples(st.integers(0, 300), st.integers(0, 200), st.integers(2, 40), st.integers(2, 40))


@given(st.lists(st.tuples(boxes, st.integers(0, 2)), min_size=1, max_size=9))
def test_areas_engraved_together_lose_nothing_and_take_no_longer(some: list[tuple[tuple[int, int, int, int], int]]) -> None:
    paths = [replace(engraving(*box, name="abc"[part], copy=i)) for i, (box, part) in enumerate(some)]
    joined = engraved_together(paths, SETTINGS, machine=MACHINE)
    assert sorted(c.segments[0].start for p in joined for c in p.contours) == sorted(p.contour.segments[0].start for p in paths)
    whole = unary_union([box(x, y, x + w, y + h) for (x, y, w, h), _ in some]).area
    apart = sum(w * h for (_, _, w, h), _ in some)
    assert 0.97 * whole <= burned_area(joined) <= 1.03 * apart  # what overlaps is burned once when it is burned together
    way = math.fsum(math.dist(a.contour.segments[0].start, b.contour.segments[0].start) for a, b in pairwise(paths)) / MACHINE.rapid
    assert sweeps(joined) <= sweeps(paths) + way + len(paths) * 0.3  # a merger may count on the way that it saves


def test_a_line_of_letters_is_one_engraving_and_two_corners_of_a_sheet_are_two() -> None:
    letters = [engraving(10 + 6 * i, 20, 4, 5, name="a", copy=0) for i in range(10)]
    far = engraving(500, 20, 4, 5, name="b")
    joined = engraved_together([*letters, far], SETTINGS, machine=MACHINE)
    assert sorted(len(p.contours) for p in joined) == [1, 10]
    # By hand: 50 rows, each 58 mm wide, 5 mm of overscan at either end, 250 mm/s, turned in 2 * 250 / 3000 s.
    assert sweeps(joined[:1]) == pytest.approx(50 * (68 / 250 + 500 / 3000) + MACHINE.pierce, rel=1e-6)
    assert sweeps(letters) > 4 * sweeps(joined[:1])


def hints(*paths: CutPath) -> dict[str, float]:
    found = engraving_hints([(p, 250.0, 0.1, 1) for p in paths], MACHINE, images={}, labels={"a": "Lid"})
    return {f.code: f.facts["seconds"] for f in found}


def test_a_frame_that_crosses_an_empty_middle_is_better_divided_and_the_saving_is_true() -> None:
    """By hand: two bars 210 mm apart, 60 rows; each row crosses the gap, which takes longer than two more turns."""
    bars = engraving(20, 20, 30, 6, name="a"), engraving(260, 20, 30, 6, name="a")
    joined = replace(bars[0], rest=(bars[1].contour,))
    one = 60 * (280 / 250 + 500 / 3000)
    two = 2 * 60 * (40 / 250 + 500 / 3000) + MACHINE.pierce
    assert hints(joined)["engraving_divided"] == pytest.approx(one - two, rel=1e-6)
    assert not hints(*bars)
    assert len(engraved_together(bars, SETTINGS, machine=MACHINE)) == 2  # which the plan does by itself where they are areas of their own


def test_tall_engravings_tell_what_upright_rows_save() -> None:
    tall = engraving(20, 20, 12, 200, name="a")
    flat = 2000 * (22 / 250 + 500 / 3000)
    upright = 120 * (210 / 250 + 500 / 3000)
    assert hints(tall) == {"rows_upright": pytest.approx(flat - upright, rel=1e-6)}
    assert not hints(engraving(20, 20, 200, 12, name="a"))
