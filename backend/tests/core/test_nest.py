"""Packing: nothing overlaps, nothing is lost, the same seed and budget give the same answer; what makes no sense is told."""

from __future__ import annotations

import json
import math
import os
import subprocess
import sys
from collections import Counter
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Polygon, box

from notchcore.errors import NestError
from notchcore.formats.nesting import read_problem, solution_data
from notchcore.geom.near import Near
from notchcore.geom.planar import flaw_of
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.nest import overlaps
from notchcore.nest.engine import solve
from notchcore.nest.gate import SLACK, answer_faults, faults, placed_shape, too_near
from notchcore.nest.pack import pack
from notchcore.nest.prepare import Wanted, prepared
from notchcore.nest.problem import MOST_CORNERS, Answer, PartKind, Placed, Prefer, Problem, SheetSpec, checked, outsized
from notchcore.nest.search import Work
from notchcore.nest.values import HALF_TURNS, Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout

SCRIPT = Path(__file__).resolve().parents[3] / "scripts" / "nest.py"


def ell(w: float, h: float, arm: float) -> Profile:
    return Profile(outer=((0, 0), (w, 0), (w, arm), (arm, arm), (arm, h), (0, h)))


shapes = st.one_of(
    st.builds(lambda w, h: rectangle(0, 0, x1=w, y1=h), st.floats(8, 120), st.floats(8, 120)),
    st.builds(lambda w, h: ell(w, h, 7.0), st.floats(20, 120), st.floats(20, 120)),
    st.builds(lambda r: Profile(outer=circle_ring(Circle(x=0, y=0, radius=r))), st.floats(5, 40)),
    st.builds(lambda r, n: Profile(outer=star(r, n)), st.floats(10, 50), st.integers(5, 9)),
)
WHOLE = SheetKind(id="whole", stock="ply", name="whole", width=300, height=200, count=2)
OFFCUT = SheetKind(id="offcut", stock="ply", name="offcut", width=160, height=120, outline=((0, 0), (160, 0), (160, 50), (90, 120), (0, 120)))
FRAME = Profile(outer=((0, 0), (190, 0), (190, 190), (0, 190)), holes=(((20, 20), (20, 170), (170, 170), (170, 20)),))


def star(r: float, n: int) -> tuple[tuple[float, float], ...]:
    return tuple((r * (1 + k % 2) / 2 * math.cos(math.pi * k / n) + r, r * (1 + k % 2) / 2 * math.sin(math.pi * k / n) + r) for k in range(2 * n))


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
        assert faults(sheet, by_id, rules=rules) == ()
        inside = Polygon(sheet.ring).buffer(-rules.margin + 1e-3, join_style="mitre")
        placed = [placed_shape(by_id[p.part], p) for p in sheet.placements]
        for i, a in enumerate(placed):
            assert inside.covers(a)
            assert all(a.distance(b) >= rules.spacing - 1e-3 and a.intersection(b).area < 0.02 for b in placed[:i])
        assert all(p.turn in rules.turns for p in sheet.placements)


@settings(max_examples=25, deadline=None)
@given(st.lists(shapes, min_size=1, max_size=7), st.floats(0, 6), st.floats(0, 8), st.sampled_from([(0,), HALF_TURNS, (0, 90, 180, 270)]))
@example(profiles=[rectangle(0, 0, x1=8, y1=8)], spacing=5.7e-241, margin=1e-200, turns=(0,))
def test_any_packing_keeps_its_distances_and_loses_nothing(profiles: list[Profile], spacing: float, margin: float, turns: tuple[int, ...]) -> None:
    parts, rules = parts_of(profiles), NestRules(spacing=spacing, margin=margin, turns=turns)
    check(pack(parts, [WHOLE, OFFCUT], rules=rules, work=Work(8_000)), parts, [WHOLE, OFFCUT], rules)


def legal(problem: Problem, answer: Answer) -> None:
    """Check an answer by turning and moving polygons with another library."""
    counts = Counter(p.part for p in answer.placed) + Counter({k: n for k, n, _ in answer.left})
    assert counts == Counter({k: p.count for k, p in enumerate(problem.parts)})
    on: dict[tuple[int, int], list[Polygon]] = {}
    for p in answer.placed:
        assert p.turn in problem.parts[p.part].turns
        shape = affinity.translate(affinity.rotate(problem.parts[p.part].polygon(), p.turn, origin=(0, 0)), p.x, p.y)
        on.setdefault((p.sheet, p.copy), []).append(shape)
    for (kind, copy), placed in on.items():
        if problem.strip_height is None:
            sheet = problem.sheets[kind]
            assert copy < sheet.count
            room = sheet.polygon().buffer(-problem.margin, join_style="mitre").buffer(1e-3)
            assert all(Polygon(b).distance(a) >= problem.spacing - 1e-3 for b in sheet.bad for a in placed)
        else:
            room = box(problem.margin, problem.margin, answer.length - problem.margin, problem.strip_height - problem.margin).buffer(1e-3)
        for i, a in enumerate(placed):
            assert room.covers(a)
            assert all(a.distance(b) >= problem.spacing - 1e-3 and a.intersection(b).area < 0.02 for b in placed[:i])


@settings(max_examples=20, deadline=None)
@given(
    st.lists(st.tuples(shapes, st.integers(1, 3), st.sampled_from([(0.0,), (0.0, 180.0), (0.0, 37.5, 90.0)])), min_size=1, max_size=5),
    st.floats(0, 5),
    st.floats(0, 6),
    st.booleans(),
    st.integers(0, 99),
)
def test_any_answer_is_legal_on_strips_and_on_sheets_with_bad_spots(
    wanted: list[tuple[Profile, int, tuple[float, ...]]], spacing: float, margin: float, strip: bool, seed: int
) -> None:
    parts = tuple(PartKind(id=f"p{i}", outer=p.outer, holes=p.holes, count=n, turns=turns) for i, (p, n, turns) in enumerate(wanted))
    whole = SheetSpec(id="w", outer=((0, 0), (260, 0), (260, 180), (120, 180), (120, 240), (0, 240)), bad=(((60, 60), (90, 60), (75, 95)),), count=2, cost=3.0)
    small = SheetSpec(id="s", outer=((0, 0), (150, 0), (150, 150), (0, 150)), count=2, cost=1.0)
    rules: dict[str, Any] = {"strip_height": 170.0} if strip else {"sheets": (whole, small)}
    problem = Problem(name="x", parts=parts, spacing=spacing, margin=margin, **rules)
    told: list[Answer] = []
    answer = solve(problem, Work(8_000), seed=seed, on_better=told.append)
    assert told == [] or told[-1].placed == answer.placed
    for a in (*told, answer):
        legal(problem, a)
        assert answer_faults(problem, a) == []


@settings(max_examples=60, deadline=None)
@given(shapes, shapes, st.floats(-140, 140), st.floats(-140, 140), st.sampled_from([0.0, 30.0, 90.0]))
def test_the_kernel_sees_the_overlaps_that_another_library_sees(one: Profile, other: Profile, dx: float, dy: float, turn: float) -> None:
    ready = prepared([Wanted(shape=Polygon(p.outer, p.holes), turns=(0.0, turn)) for p in (one, other)], 0.0)
    near = np.zeros((4, 201))
    turned = [affinity.rotate(Polygon(p.outer), t, origin=(0, 0)) for p, t in ((one, 0.0), (other, turn))]
    a, b = (affinity.translate(s, -s.bounds[0] + x, -s.bounds[1] + y) for s, x, y in ((turned[0], 0, 0), (turned[1], dx, dy)))
    seen = overlaps.overlap(ready.shapes, 0, 3, dx, dy, near)
    if a.buffer(-1e-3).intersects(b.buffer(-1e-3)):
        assert seen
    if a.distance(b) > 1e-3:
        assert not seen
    assert (overlaps.pair_loss(ready.shapes, 0, 3, dx, dy, 1e150, near) > 0) == seen


@settings(max_examples=40, deadline=None)
@given(shapes, st.floats(0.2, 6))
def test_shapes_are_never_grown_too_little_and_their_circles_lie_inside(profile: Profile, spacing: float) -> None:
    ready = prepared([Wanted(shape=Polygon(profile.outer, profile.holes))], spacing)
    s = ready.shapes
    grown = affinity.translate(Polygon(s.edges[:2].T), *ready.corner[0])
    assert grown.buffer(1e-6).covers(Polygon(profile.outer).buffer(spacing / 2 * 0.999))
    assert grown.hausdorff_distance(Polygon(profile.outer).buffer(spacing / 2)) < 0.6 * spacing + 0.5
    for x, y, r in s.circles.T:
        assert grown.buffer(1e-6).covers(affinity.translate(Polygon(circle_ring(Circle(x=x, y=y, radius=max(r, 1e-3)))), *ready.corner[0]))


def test_the_gate_sees_overlap_even_where_no_distance_is_asked_for() -> None:
    parts, rules = {p.id: p for p in parts_of([rectangle(0, 0, x1=20, y1=20)])}, NestRules(spacing=0, margin=0)
    for x, wrong in ((20.0, 0), (19.9, 1)):
        placed = tuple(Placement(part="p0", copy=i, turn=0, x=x * i, y=0) for i in range(2))
        layout = SheetLayout(
            sheet="whole", copy=0, stock="ply", name="whole", width=300, height=200, ring=WHOLE.ring(), placements=placed, utilisation=0, leftover=None
        )
        assert len(faults(layout, parts, rules=rules)) == wrong


def test_the_gate_names_each_fault_of_an_answer() -> None:
    square = PartKind(id="square", outer=((0, 0), (20, 0), (20, 20), (0, 20)), count=2)
    sheet = SheetSpec(id="s", outer=((0, 0), (100, 0), (100, 60), (0, 60)), bad=(((80, 0), (90, 0), (90, 10)),))
    problem = Problem(name="x", parts=(square,), sheets=(sheet,), spacing=2, margin=3)

    def told(*at: tuple[float, float, float, int]) -> list[str]:
        return answer_faults(problem, Answer(placed=tuple(Placed(part=0, sheet=0, copy=c, turn=t, x=x, y=y) for x, y, t, c in at)))

    assert told((3, 3, 0, 0), (25, 3, 0, 0)) == []
    assert told((3, 3, 0, 0)) == ["square: 1 of 2"]
    assert told((3, 3, 0, 0), (24, 3, 0, 0)) == ["square is too near to square"]
    assert told((2, 3, 0, 0), (30, 3, 0, 0)) == ["square reaches over the margin"]
    assert told((3, 3, 0, 0), (62, 3, 0, 0)) == ["square is too near to a bad spot"]
    assert told((3, 3, 0, 0), (50, 3, 90, 0)) == ["square: turned by 90"]
    assert told((3, 3, 0, 0), (3, 3, 0, 1)) == ["s: there is no sheet 1"]


@settings(max_examples=40, deadline=None)
@given(shapes, shapes, st.floats(-150, 150), st.floats(-150, 150), st.sampled_from([0.0, 2.0]))
def test_nearness_is_the_same_to_the_gate_and_to_the_hand(one: Profile, other: Profile, dx: float, dy: float, spacing: float) -> None:
    a, b = Polygon(one.outer), affinity.translate(Polygon(other.outer), dx, dy)
    near = Near([a]).within(b, spacing - SLACK if spacing else 0.0, touch=SLACK) is not None
    assert near == bool(too_near([a, b], spacing))
    if spacing:
        assert near == (a.distance(b) <= spacing - SLACK)
    elif a.buffer(-0.01).intersects(b.buffer(-0.01)):
        assert near


def test_a_crooked_outline_is_told_with_its_place() -> None:
    assert flaw_of(Polygon([(0, 0), (10, 0), (10, 10), (0, 10)])) == ""
    assert flaw_of(Polygon([(0, 0), (10, 10), (10, 0), (0, 10)])) == "self-intersection near 5.00, 5.00"


def test_small_parts_lie_in_the_holes_of_large_ones() -> None:
    parts = [*parts_of([FRAME]), NestPart(id="coin", stock="ply", profile=rectangle(0, 0, x1=60, y1=60), count=4)]
    sheet = SheetKind(id="s", stock="ply", name="s", width=200, height=200)
    nesting = pack(parts, [sheet], rules=NestRules(margin=2, spacing=2), work=Work(40_000))
    assert nesting.unplaced == ()
    check(nesting, parts, [sheet], NestRules(margin=2, spacing=2))


def test_squares_fill_a_strip_to_the_last_millimetre() -> None:
    square = PartKind(id="s", outer=((0, 0), (100, 0), (100, 100), (0, 100)), count=6)
    answer = solve(Problem(name="x", parts=(square,), strip_height=200.0), Work(60_000))
    assert answer.length == pytest.approx(300.0, abs=2e-3)
    assert answer.density == pytest.approx(1.0, abs=1e-4)
    apart = solve(Problem(name="x", parts=(square,), strip_height=212.0, spacing=4.0, margin=4.0), Work(60_000))
    assert apart.length == pytest.approx(4 + 100 + 4 + 100 + 4 + 100 + 4, abs=2e-3)


def test_the_same_seed_and_budget_give_the_same_answer_and_more_work_none_worse() -> None:
    parts = parts_of([ell(90, 60, 20), rectangle(0, 0, x1=80, y1=40), rectangle(0, 0, x1=70, y1=70)], [3, 4, 2])
    few = pack(parts, [WHOLE], rules=NestRules(), work=Work(60_000), seed=7)
    assert few == pack(parts, [WHOLE], rules=NestRules(), work=Work(60_000), seed=7)
    first = pack(parts, [WHOLE], rules=NestRules(), work=Work(1), seed=7)
    assert (sum(u.count for u in few.unplaced), len(few.sheets)) <= (sum(u.count for u in first.unplaced), len(first.sheets))
    strip = Problem(name="x", parts=tuple(PartKind(id=p.id, outer=p.profile.outer, count=p.count, turns=(0.0, 90.0)) for p in parts), strip_height=150.0)
    lengths = [solve(strip, Work(n), seed=3).length for n in (1, 60_000, 60_000)]
    assert lengths[1] == lengths[2] < lengths[0]


def test_cheap_sheets_that_do_are_taken_and_no_more_of_them_than_needed() -> None:
    part = PartKind(id="p", outer=((0, 0), (90, 0), (90, 40), (0, 40)), count=8, turns=(0.0, 90.0))
    dear = SheetSpec(id="dear", outer=((0, 0), (400, 0), (400, 200), (0, 200)), count=2, cost=9.0)
    cheap = SheetSpec(id="cheap", outer=((0, 0), (200, 0), (200, 100), (0, 100)), count=4, cost=2.0)
    answer = solve(Problem(name="x", parts=(part,), sheets=(dear, cheap), spacing=1.0, margin=1.0), Work(60_000))
    assert (answer.cost, answer.sheets, answer.left) == (4.0, 2, ())
    few = solve(Problem(name="x", parts=(part,), sheets=(dear, cheap), spacing=1.0, margin=1.0, prefer=Prefer.SHEETS), Work(60_000))
    assert (few.cost, few.sheets, few.left) == (9.0, 1, ())


def test_what_fits_nowhere_says_why() -> None:
    parts = [*parts_of([rectangle(0, 0, x1=280, y1=250)]), NestPart(id="many", stock="ply", profile=rectangle(0, 0, x1=140, y1=90), count=20)]
    nesting = pack(parts, [WHOLE], rules=NestRules(), work=Work(5_000))
    why = {u.part: u.why.text for u in nesting.unplaced}
    assert "280.0 × 250.0 mm does not fit any sheet" in why["p0"]
    assert why["many"] == "the sheets are full; add a sheet"
    corner = NestPart(id="corner", stock="ply", profile=rectangle(0, 0, x1=150, y1=110), count=1)  # fits the offcut's box, not its outline
    assert "does not fit any sheet" in pack([corner], [OFFCUT], rules=NestRules(margin=1), work=Work(5_000)).unplaced[0].why.text


def test_no_sheet_and_no_parts_are_said_not_crashed() -> None:
    assert "no sheet of this stock" in pack(parts_of([rectangle(0, 0, x1=9, y1=9)]), [], rules=NestRules(), work=Work(1)).unplaced[0].why.text
    with pytest.raises(NestError, match="no parts"):
        pack([], [WHOLE], rules=NestRules(), work=Work(1))


def test_stop_keeps_the_best_so_far_and_one_wished_before_the_start_leaves_all() -> None:
    parts = parts_of([rectangle(0, 0, x1=50, y1=40)], [5])
    told: list[Nesting] = []
    asked = Work(10**9, ends=lambda: bool(told))
    nesting = pack(parts, [WHOLE], rules=NestRules(), work=asked, on_better=told.append)
    assert told[-1] == nesting
    assert len(nesting.sheets[0].placements) == 5
    over = Work(10**9)
    over.stop[0] = 1
    assert pack(parts, [WHOLE], rules=NestRules(), work=over).unplaced[0].count == 5


def test_very_many_parts_are_laid_on_the_grid_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("notchcore.nest.task.MOST_SEPARATED", 10)
    part = PartKind(id="p", outer=star(20, 5), count=40, turns=(0.0, 90.0))
    sheet = SheetSpec(id="s", outer=((0, 0), (300, 0), (300, 200), (0, 200)), count=3, cost=1.0)
    for rules in ({"strip_height": 120.0}, {"sheets": (sheet,)}):
        problem = Problem(name="x", parts=(part,), spacing=1.0, margin=1.0, **rules)  # type: ignore[arg-type]
        answer = solve(problem, Work(20_000))
        legal(problem, answer)
        assert len(answer.placed) == 40


def test_an_answer_that_fails_the_gate_is_never_told(monkeypatch: pytest.MonkeyPatch) -> None:
    part = PartKind(id="p", outer=star(20, 5), count=6, turns=(0.0, 90.0))
    monkeypatch.setattr("notchcore.nest.engine.answer_faults", lambda *_: ["broken"])
    for rules in ({"strip_height": 120.0}, {"sheets": (SheetSpec(id="s", outer=((0, 0), (300, 0), (300, 200), (0, 200))),)}):
        told: list[Answer] = []
        answer = solve(Problem(name="x", parts=(part,), **rules), Work(20_000), on_better=told.append)  # type: ignore[arg-type]
        assert (told, answer.placed, answer.left[0][1]) == ([], (), 6)


RING = [[0, 0], [30, 0], [30, 20], [0, 20]]
SHEET = {"id": "s", "outer": [[0, 0], [100, 0], [100, 80], [0, 80]], "bad": [], "count": 2, "cost": 1}
PART = {"id": "a", "outer": RING, "holes": [], "qty": 2, "rotations": [0, 90]}
SOUND = {"name": "x", "kind": "bin", "units": "mm", "spacing": 1, "margin": 2, "sheets": [SHEET], "parts": [PART]}


def part(**changes: Any) -> dict[str, Any]:
    return {"parts": [{**PART, **changes}]}


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"kind": "moon"}, "kind"),
        ({"parts": 3}, "parts"),
        ({"parts": []}, "parts"),
        ({"parts": [PART, PART]}, "parts[1].id"),
        ({"units": "in"}, "units"),
        ({"sheets": []}, "sheets"),
        ({"sheets": [{**SHEET, "count": 0}]}, "sheets"),
        ({"sheets": [{**SHEET, "count": 0.5}]}, "sheets[0].count"),
        ({"sheets": [{**SHEET, "cost": -1}]}, "sheets[0].cost"),
        ({"sheets": [{**SHEET, "bad": [[[0, 0], [1, 1]]]}]}, "sheets[0].bad[0]"),
        ({"kind": "strip"}, "strip"),
        ({"kind": "strip", "strip": {"height": -4}}, "strip.height"),
        ({"spacing": -1}, "spacing"),
        ({"margin": math.nan}, "margin"),
        (part(outer=[[0, 0], [10, 10], [20, 20]]), "parts[0].outer"),
        (part(outer=[[0, 0], [10, 10], [10, 0], [0, 10]]), "parts[0].outer"),
        (part(outer=[[0, 0], [math.inf, 0], [10, 10]]), "parts[0].outer"),
        (part(outer=[[0, 0], "x", [10, 10]]), "parts[0].outer"),
        (part(outer=[[0, 0], [1e9, 0], [10, 10]]), "parts[0].outer"),
        (part(outer=[[math.cos(k), math.sin(k)] for k in np.linspace(0, 6, MOST_CORNERS + 1)]), "parts[0].outer"),
        (part(holes=[[[-5, 5], [-5, 10], [5, 10], [5, 5]]]), "parts[0].holes"),
        (part(qty=-1), "parts[0].qty"),
        (part(qty="two"), "parts[0].qty"),
        (part(qty=10**9), "parts"),
        (part(rotations=[]), "parts[0].rotations"),
        (part(rotations=["x"]), "parts[0].rotations[0]"),
        (part(outer=[[0, 0]] * 900_000), "parts"),
    ],
)
def test_a_problem_that_makes_no_sense_names_its_field(changes: dict[str, Any], field: str) -> None:
    with pytest.raises(NestError) as told:
        checked(read_problem(json.dumps(SOUND | changes)))
    assert told.value.facts["field"] == field
    assert told.value.message.startswith(field)


@pytest.mark.parametrize("text", ["", "[]", "{", "[" * 100_000, '{"kind": "bin"}', "null"])
def test_a_file_that_is_no_problem_is_refused(text: str) -> None:
    with pytest.raises(NestError):
        read_problem(text)


def run(tmp_path: Path, data: object, *more: str) -> tuple[subprocess.CompletedProcess[str], Path]:
    (tmp_path / "problem.json").write_text(json.dumps(data))
    out = tmp_path / "solution.json"
    command = [sys.executable, str(SCRIPT), str(tmp_path / "problem.json"), "--seconds", "0.3", "--seed", "2", "--out", str(out), *more]
    env = os.environ | {"PYTHONPATH": str(SCRIPT.parent.parent / "backend")}
    return subprocess.run(command, capture_output=True, text=True, env=env, check=False), out


def test_the_command_writes_a_solution_and_tells_of_what_got_better(tmp_path: Path) -> None:
    large = {"id": "large", "outer": [[0, 0], [300, 0], [300, 300], [0, 300]], "qty": 1, "rotations": None}
    done, out = run(tmp_path, SOUND | {"parts": [PART, large]})
    assert done.returncode == 0
    solution = json.loads(out.read_text())
    assert [(p["part"], p["sheet"]) for p in solution["placements"]] == [("a", "s#0")] * 2
    assert [(u["part"], u["qty"]) for u in solution["unplaced"]] == [("large", 1)]
    lines = [json.loads(line) for line in done.stderr.splitlines()]
    assert [(x.get("unplaced"), set(x)) for x in lines[:2]] == [("large", {"unplaced", "qty", "why"}), (None, {"t", "density", "sheets", "cost"})]
    problem = read_problem((tmp_path / "problem.json").read_text())
    again = solve(problem, Work(2_000), seed=2)
    assert solution_data(problem, again)["instance"] == solution["instance"] == "x"


def test_parts_larger_than_every_sheet_are_told_without_a_search(tmp_path: Path) -> None:
    long = {"id": "long", "outer": [[0, 0], [150, 0], [150, 3], [0, 3]], "qty": 3, "rotations": [0, 90]}
    done, out = run(tmp_path, SOUND | {"parts": [long]})
    assert done.returncode == 0
    assert json.loads(out.read_text())["unplaced"][0]["qty"] == 3
    problem = checked(read_problem(json.dumps(SOUND | {"parts": [long | {"rotations": [30]}, PART]})))
    assert outsized(problem)[0][:2] == (0, 3)
    steep = checked(
        read_problem(
            json.dumps(SOUND | {"margin": 0, "sheets": [{**SHEET, "outer": [[0, 0], [132, 0], [132, 80], [0, 80]]}], "parts": [long | {"rotations": [30]}]})
        )
    )
    assert outsized(steep) == ()  # 150 cos 30 + 3 sin 30 = 131.4 wide, 77.6 high


def test_the_command_gives_the_same_answer_for_the_same_work(tmp_path: Path) -> None:
    comb = {"id": "comb", "outer": [[0, 0], [40, 0], [40, 6], [8, 6], [8, 26], [0, 26]], "qty": 9, "rotations": [0, 90, 180, 270]}
    problem = {"kind": "strip", "strip": {"height": 70}, "spacing": 0.8, "parts": [comb, PART]}
    answers = []
    for seed in ("3", "3", "4"):
        done, out = run(tmp_path, problem, "--seconds", "60", "--places", "15000", "--seed", seed)
        assert done.returncode == 0
        answers.append(json.loads(out.read_text()))
    assert answers[0] == answers[1] != answers[2]
    for answer in answers:
        legal_lines = [Polygon(comb["outer"]) if p["part"] == "comb" else Polygon(RING) for p in answer["placements"]]
        lying = [
            affinity.translate(affinity.rotate(s, p["rotation"], origin=(0, 0)), p["x"], p["y"]) for s, p in zip(legal_lines, answer["placements"], strict=True)
        ]
        assert all(a.distance(b) >= 0.8 - 1e-3 for i, a in enumerate(lying) for b in lying[:i])
        assert max(s.bounds[2] for s in lying) <= answer["length"] + 1e-6
    assert len(answers[0]["placements"]) == 11


def test_the_command_refuses_what_makes_no_sense(tmp_path: Path) -> None:
    done, out = run(tmp_path, SOUND | {"sheets": []})
    assert done.returncode == 2
    assert done.stderr.startswith("sheets: there is no sheet")
    assert not out.exists()


def test_a_sheet_that_fits_the_bed_only_lying_is_turned_and_so_is_what_is_bad_on_it() -> None:
    from notchcore.nest.bed import TURNED, laid_on_bed

    rules = NestRules(bed_width=600.0, bed_height=400.0)
    tall = SheetKind(id="s", stock="ply", name="Ply", width=380.0, height=590.0, bad=(((10.0, 20.0), (30.0, 20.0), (30.0, 50.0)),))
    lying = laid_on_bed(tall, rules)
    assert (lying.width, lying.height, lying.name) == (590.0, 380.0, f"Ply{TURNED}")
    assert lying.bad == (((570.0, 10.0), (570.0, 30.0), (540.0, 30.0)),)
    found = pack([NestPart(id="p", stock="ply", profile=rectangle(0, 0, x1=560, y1=300))], [lying], rules=rules, work=Work(2_000))
    assert not found.unplaced
    assert laid_on_bed(tall, replace(rules, turns=(0, 180))) is tall  # parts keep their grain: the sheet's runs as it lies
    long = SheetKind(id="l", stock="ply", name="Long", width=1000.0, height=300.0)
    assert laid_on_bed(long, rules) is long
    (left,) = pack([NestPart(id="p", stock="ply", profile=rectangle(0, 0, x1=900, y1=200))], [long], rules=rules, work=Work(500)).unplaced
    assert "the bed, 600 × 400 mm" in left.why.text
