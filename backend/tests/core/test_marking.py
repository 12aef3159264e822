"""Numbers on parts: on the part, clear of everything else, and reading right on their face."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from notchcore.design.assembly import Mark
from notchcore.geom.contours import sampled
from notchcore.geom.profile import rectangle
from notchcore.measure.machine import Operation, default_settings
from notchcore.nest.values import Placement
from notchcore.plan.choices import Numbers, PlanChoices
from notchcore.plan.cut_plan import cut_plan
from notchcore.plan.marking import CLEAR, number_mark
from notchcore.plan.paths import CutPath, alone
from notchcore.plan.sides import LayKind
from tests.core.test_plan import MACHINE, job
from tests.core.test_sides import HAND, STAKE, a_part, in_part
from tests.replay import replay


def strokes(path: CutPath, place: Placement) -> list[tuple[tuple[float, float], ...]]:
    return [in_part(place, sampled(c)) for c in path.contours]


@given(st.sampled_from((STAKE, HAND)), st.integers(1, 240), st.sampled_from((0, 90, 180, 270)), st.booleans(), st.booleans())
def test_a_number_stands_on_its_part_and_reads_right_on_its_face(
    ring: tuple[tuple[float, float], ...], number: int, turn: int, mirrored: bool, back: bool
) -> None:
    part, place = a_part(ring), Placement(part="label", copy=3, turn=turn, x=200, y=150, mirrored=mirrored)
    path = number_mark(part, alone(place), text=str(number), back=back)
    assert path is not None
    assert path.down == (back != mirrored)
    lines = strokes(path, place)
    assert all(Polygon(ring).buffer(-CLEAR + 0.01).contains(LineString(line)) for line in lines)
    assert all(Polygon(m.line).distance(LineString(line)) > 0.5 for m in part.marks for line in lines)
    still = replace(place, turn=0, x=0, y=0, mirrored=False)
    plain = number_mark(part, alone(still), text=str(number), back=False)
    assert plain is not None
    front = strokes(plain, still)
    side = -1 if back else 1

    def shape(some: list[tuple[tuple[float, float], ...]], way: int) -> list[tuple[float, float]]:
        x, y = some[0][0]
        return [(round(way * (p - x), 3), round(q - y, 3)) for line in some for p, q in line]

    assert shape(lines, side) == [pytest.approx(p, abs=2e-3) for p in shape(front, 1)]


def test_a_part_without_room_has_its_number_only_on_the_map() -> None:
    small = a_part(rectangle(0, 0, x1=6, y1=3).outer, back=False)
    assert number_mark(small, Placement(part="label", copy=0, turn=0, x=0, y=0), text="12", back=False) is None
    full = a_part(rectangle(0, 0, x1=40, y1=30).outer, back=False)
    covered = Mark(line=rectangle(1, 1, x1=39, y1=29).outer, operation=Operation.ENGRAVE)
    assert number_mark(replace(full, marks=(covered,)), Placement(part="label", copy=0, turn=0, x=0, y=0), text="1", back=False) is None


def test_a_job_has_each_number_once_and_backs_make_a_second_run() -> None:
    assembly, nesting, plain, stocks = job()
    settings = {"ply": default_settings(stocks["ply"])}
    plan = cut_plan(assembly, nesting, stocks=stocks, machine=MACHINE, settings=settings, choices=PlanChoices(numbers=Numbers.FRONT))
    (sheet,) = plan.sheets
    numbered = [s.path for s in sheet.strokes if s.path.id.endswith("/number")]
    assert {(p.part, p.copy) for p in numbered} <= {(p.part, p.copy) for p in nesting.sheets[0].placements}
    assert len(numbered) >= len(assembly.parts) - 1
    assert replay([s.path for s in sheet.strokes]) == []
    assert len(sheet.strokes) == len(plain.sheets[0].strokes) + len(numbered)
    behind = cut_plan(assembly, nesting, stocks=stocks, machine=MACHINE, settings=settings, choices=PlanChoices(numbers=Numbers.BACK))
    assert [s.lay.kind for s in behind.sheets] == [LayKind.FRESH, LayKind.SWAPPED]  # every panel of this box fits a hole when it is turned over
