"""Orders of many paths: what must come first does, whatever the job; and travel is as short as plain ways of finding one make it, or shorter."""

from __future__ import annotations

import itertools
import math
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.errors import PlanError
from notchcore.geom.contours import Contour, Segment, contour_of
from notchcore.measure.machine import Operation
from notchcore.plan.order import HOME, Rules, cutting_order
from notchcore.plan.paths import CutPath
from notchcore.plan.reorder import moved_stroke, ranges_of
from notchcore.plan.tour import Gate, shortest
from tests.core.test_plan import MACHINE, job
from tests.replay import replay


def some_paths(random: Random, count: int) -> tuple[list[list[Gate]], list[bool], list[int], list[int]]:
    """Paths at random places: open and closed, in families, in up to four phases."""
    gates, closed, parent, phase = [], [], [], []
    for i in range(count):
        here = [(random.uniform(0, 500), random.uniform(0, 300)) for _ in range(random.randint(1, 5))]
        is_open = random.random() < 0.3
        ends = [(here[0], here[-1]), (here[-1], here[0])] if is_open else [(p, p) for p in here]
        gates.append(ends)
        closed.append(not is_open)
        later = random.randrange(i) if i and random.random() < 0.5 else -1
        parent.append(later if later >= 0 and closed[later] else -1)
        phase.append(min(random.randrange(4), phase[later]) if parent[-1] >= 0 else random.choice((0, 1, 3, 7)))
    return gates, closed, parent, phase


def walked(order: list[int], chosen: list[int], gates: list[list[Gate]], heat: float = 0.0) -> float:
    at, total = HOME, 0.0
    for k, (i, g) in enumerate(zip(order, chosen, strict=True)):
        d = math.dist(at, gates[i][g][0])
        total += 2 * heat - d if k and d < heat else d
        at = gates[i][g][1]
    return total


def nearest(gates: list[list[Gate]], parent: list[int], phase: list[int]) -> float:
    """The travel of always going to the nearest path that is free."""
    left, at, total = set(range(len(gates))), HOME, 0.0
    while left:
        now = min(phase[i] for i in left)
        free = [i for i in left if phase[i] == now and not any(parent[j] == i for j in left)]
        d, i, g = min((math.dist(at, e), i, g) for i in free for g, (e, _) in enumerate(gates[i]))
        left.remove(i)
        total, at = total + d, gates[i][g][1]
    return total


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10**6), st.integers(1, 40))
def test_whatever_the_job_what_must_come_first_does_and_the_nearest_way_is_not_beaten_by(seed: int, count: int) -> None:
    gates, closed, parent, phase = some_paths(Random(seed), count)
    order, chosen = shortest(gates, closed, parent=parent, phase=phase)
    assert sorted(order) == list(range(count))
    place = {i: k for k, i in enumerate(order)}
    assert all(p < 0 or place[i] < place[p] for i, p in enumerate(parent))
    assert [phase[i] for i in order] == sorted(phase)
    assert all(0 <= g < len(gates[i]) for i, g in zip(order, chosen, strict=True))
    assert walked(order, chosen, gates) <= nearest(gates, parent, phase) + 1e-6
    assert shortest(gates, closed, parent=parent, phase=phase) == (order, chosen)


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10**6), st.sampled_from([0.0, 40.0]))
def test_of_a_few_paths_the_shortest_way_of_all_is_found(seed: int, heat: float) -> None:
    """Against every order and every gate, with what must come first and with places that are hot."""
    random = Random(seed)
    gates, closed, parent, phase = some_paths(random, 6)
    order, chosen = shortest(gates, closed, parent=parent, phase=phase, heat=heat)
    best = math.inf
    for tried in itertools.permutations(range(6)):
        place = {i: k for k, i in enumerate(tried)}
        if [phase[i] for i in tried] != sorted(phase) or any(p >= 0 and place[i] > place[p] for i, p in enumerate(parent)):
            continue
        best = min(best, *(walked(list(tried), list(g), gates, heat) for g in itertools.product(*(range(len(gates[i])) for i in tried))))
    assert walked(order, chosen, gates, heat) == pytest.approx(best, abs=1e-6)


def test_many_paths_are_far_better_than_nearest_first() -> None:
    """By a seventh in the mean: one job alone may lie some hundredths off."""
    shares = []
    for seed in range(1, 5):
        random = Random(seed)
        at = [(random.uniform(0, 600), random.uniform(0, 400)) for _ in range(300)]
        gates = [[(p, p)] for p in at]
        parent, phase = [-1] * 300, [0] * 300
        order, chosen = shortest(gates, [True] * 300, parent=parent, phase=phase)
        shares.append(walked(order, chosen, gates) / nearest(gates, parent, phase))
    assert sum(shares) / len(shares) < 0.86, shares


# -- whole paths ---------------------------------------------------------------------------------------------------------------


def rectangle(name: str, x: float, y: float, w: float, h: float, operation: Operation = Operation.OUTER, bridges: int = 0) -> CutPath:
    contour = contour_of(((x, y), (x + w, y), (x + w, y + h), (x, y + h)))
    return CutPath(id=name, part=name, copy=0, operation=operation, contour=contour, bridges=((x, y),) * bridges)


def test_small_parts_and_slivers_are_cut_late_but_not_after_what_they_lie_in() -> None:
    paths = [
        rectangle("small", 5, 5, 12, 60),
        rectangle("sliver", 30, 5, 25, 280),
        rectangle("large", 100, 5, 80, 80),
        rectangle("host", 200, 5, 90, 90),
        rectangle("drop", 210, 15, 60, 60, Operation.INNER),
        rectangle("in drop", 215, 20, 10, 10),
        rectangle("held", 60, 5, 12, 60, bridges=2),
        CutPath(id="line", part="line", copy=0, operation=Operation.SCORE, contour=Contour(segments=(Segment(start=(1, 1), end=(9, 9)),), closed=False)),
    ]
    order = [p.id for p in cutting_order(paths, Rules(slat_pitch=20))[0]]
    assert order[0] == "line"
    assert set(order[-2:]) == {"small", "sliver"}
    assert order.index("in drop") < order.index("drop") < order.index("host") < 6
    assert replay(cutting_order(paths, Rules(slat_pitch=20))[0]) == []


def test_lines_from_edge_to_edge_are_cut_before_the_outline_that_they_divide() -> None:
    lines = [
        CutPath(id=f"{y}", part="p", copy=0, operation=Operation.INNER, contour=Contour(segments=(Segment(start=(10, y), end=(90, y)),), closed=False))
        for y in range(20, 80, 10)
    ]
    ordered, _ = cutting_order([rectangle("outline", 10, 10, 80, 80), *lines])
    assert ordered[-1].id == "outline"


def test_where_it_is_hot_the_next_cut_begins_elsewhere() -> None:
    """Slots in rows 8 mm apart: cut one after the other in plain stock, with a distance between in stock that burns."""
    paths = [rectangle(f"{i}-{j}", 10 + 8 * i, 10 + 60 * j, 3, 3, Operation.INNER) for i in range(8) for j in range(5)]

    def hot(rules: Rules) -> int:
        ordered, _ = cutting_order(paths, rules)
        ends = [(a.contour.segments[-1].end, b.contour.segments[0].start) for a, b in itertools.pairwise(ordered)]
        return sum(math.dist(a, b) < 15 for a, b in ends)

    assert hot(Rules()) > 30
    assert hot(Rules(heat=15)) < 10


@settings(max_examples=15, deadline=None)
@given(st.integers(0, 10**6))
def test_nested_paths_of_all_kinds_replay_without_fault(seed: int) -> None:
    random = Random(seed)
    paths = []
    for i in range(random.randint(1, 8)):
        x, y, size = 100.0 * (i % 4), 100.0 * (i // 4), random.uniform(30, 90)
        for depth in range(random.randint(1, 4)):
            inset = depth * size / 9
            paths.append(rectangle(f"{i}/{depth}", x + inset, y + inset, size - 2 * inset, size - 2 * inset, random.choice(list(Operation))))
    random.shuffle(paths)
    ordered, _ = cutting_order(paths, Rules(slat_pitch=random.choice([0, 20, 60]), heat=random.choice([0, 15])))
    assert sorted(p.id for p in ordered) == sorted(p.id for p in paths)
    assert replay(ordered) == []


# -- by hand -------------------------------------------------------------------------------------------------------------------


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 10**6))
def test_a_cut_may_be_moved_exactly_to_where_the_order_still_holds(seed: int) -> None:
    random = Random(seed)
    paths = []
    for i in range(3):
        for depth in range(random.randint(1, 3)):
            paths.append(rectangle(f"{i}/{depth}", 100.0 * i + 9 * depth, 9.0 * depth, 80 - 18 * depth, 80 - 18 * depth, random.choice(list(Operation))))
    ordered, _ = cutting_order(paths)
    for i, (first, last) in enumerate(ranges_of(ordered)):
        for to in range(len(ordered)):
            tried = [p for k, p in enumerate(ordered) if k != i]
            tried.insert(to, ordered[i])
            assert (replay(tried) == []) == (first <= to <= last), (i, to)


def test_a_moved_cut_keeps_its_time_and_the_clock_runs_on() -> None:
    _, _, plan, _ = job()
    strokes = plan.sheets[0].strokes
    at, last = next((i, r[1]) for i, r in enumerate(ranges_of([s.path for s in strokes])) if r[1] > i)
    after = moved_stroke(plan, 0, path=strokes[at].path.id, to=last, machine=MACHINE)
    moved = after.sheets[0].strokes
    assert [s.path.id for s in moved[:at]] == [s.path.id for s in strokes[:at]]
    assert moved[last].path == strokes[at].path
    assert all(a.end == pytest.approx(b.travel_from) for a, b in itertools.pairwise(moved))
    assert sum(s.end - s.burn_from for s in moved) == pytest.approx(sum(s.end - s.burn_from for s in strokes))
    assert after.sheets[0].seconds == pytest.approx(sum(after.sheets[0].by_operation.values()))
    assert after.seconds - plan.seconds == pytest.approx(after.sheets[0].seconds - plan.sheets[0].seconds)
    back = moved_stroke(after, 0, path=strokes[at].path.id, to=at, machine=MACHINE)
    assert back.sheets[0].travel == pytest.approx(plan.sheets[0].travel)
    assert [s.path.id for s in back.sheets[0].strokes] == [s.path.id for s in strokes]
    outer = next(s.path.id for s in strokes if s.path.operation is Operation.OUTER)
    with pytest.raises(PlanError, match="so early"):
        moved_stroke(plan, 0, path=outer, to=0, machine=MACHINE)
    with pytest.raises(PlanError, match="no such cut"):
        moved_stroke(plan, 0, path="moon", to=0, machine=MACHINE)
