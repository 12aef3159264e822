"""Cut plans and files: order, time, and widths read back from the written files."""

from __future__ import annotations

import io
import itertools
import math
from dataclasses import replace
from itertools import pairwise

import ezdxf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon
from svgelements import SVG, Circle, Path

from notchcore.design.assembly import Assembly, drawn_width
from notchcore.design.building import build
from notchcore.design.families.box import Top
from notchcore.design.families.registry import FAMILIES
from notchcore.errors import PlanError
from notchcore.formats.cutlist import cut_list, cut_list_csv
from notchcore.formats.dxf import sheet_dxf
from notchcore.formats.runsheet import RunSheet, run_sheet_pdf
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.svg import sheet_svg
from notchcore.geom.contours import Contour, Segment, contour_of, sampled
from notchcore.measure.machine import KerfPlace, Machine, Operation, default_settings
from notchcore.measure.stock import Stock
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind
from notchcore.plan.cut_plan import CutPlan, cut_plan
from notchcore.plan.motion import path_time, stretch_time
from notchcore.plan.moves import moves_of
from notchcore.plan.order import HOME, cutting_order
from notchcore.plan.paths import CutPath, part_paths
from notchcore.run.learn import TimedRun, time_factor
from tests.core.test_joints import measured_width
from tests.replay import replay
from tests.strategies import boxes, make_box, make_stock

MACHINE = Machine(id="m", name="Alder desk laser")


def job(machine: Machine = MACHINE, kerf: float = 0.16) -> tuple[Assembly, Nesting, CutPlan, dict[str, Stock]]:
    stocks = {"ply": make_stock("ply", 3.08, kerf=kerf, label=3.0)}
    design = make_box(same_stock=True, width=160, depth=110, height=60, columns=3, rows=2, top=Top.LIFT_OFF, lid_hole=20, thumb_notch=24)
    assembly = build(design, stocks)
    parts = [NestPart(id=p.id, stock="ply", profile=p.profile) for p in assembly.parts]
    nesting = pack(parts, [SheetKind(id="s", stock="ply", name="Ply", width=600, height=400, count=2)], rules=NestRules(), work=Work(1))
    return assembly, nesting, cut_plan(assembly, nesting, stocks=stocks, machine=machine, settings={"ply": default_settings(stocks["ply"])}), stocks


@pytest.fixture(scope="module")
def planned() -> tuple[Assembly, Nesting, CutPlan, dict[str, Stock]]:
    return job()


def sheet_file(plan: CutPlan, machine: Machine = MACHINE) -> SheetFile:
    return SheetFile(project="Seed packet drawer", revision=3, of=len(plan.sheets), plan=plan.sheets[0], machine=machine)


def test_inner_comes_before_outer_and_score_before_all(planned: tuple) -> None:
    _, _, plan, _ = planned
    assert replay([s.path for s in plan.sheets[0].strokes]) == []
    assert plan.sheets[0].strokes[0].path.operation is Operation.SCORE


@settings(max_examples=40, deadline=None)
@given(long=st.floats(0.3, 30.0), wide=st.floats(0.01, 0.15), turn=st.floats(0, 3), kerf=st.floats(0.16, 0.4))
def test_a_slit_narrower_than_the_beam_comes_out_as_long_as_it_was_drawn(long: float, wide: float, turn: float, kerf: float) -> None:
    part = build(make_box(), {r.id: make_stock(r.id, 3.0) for r in FAMILIES["box"].roles}).parts[0]
    (cx, cy), u = Polygon(part.profile.outer).representative_point().coords[0], (math.cos(turn), math.sin(turn))
    slit = tuple(
        (cx + a * long / 2 * u[0] - b * wide / 2 * u[1], cy + a * long / 2 * u[1] + b * wide / 2 * u[0]) for a, b in ((-1, 1), (1, 1), (1, -1), (-1, -1))
    )
    paths = part_paths(replace(part, profile=replace(part.profile, holes=(slit,))), kerf)
    ((_, line),) = paths.inner
    assert math.dist(line.segments[0].start, line.segments[0].end) == pytest.approx(max(long - kerf, 0.05 * long))
    assert "opening_below_kerf" in {f.code for f in paths.findings}


def square(name: str, x: float, y: float, size: float, operation: Operation = Operation.OUTER) -> CutPath:
    ring = ((x, y), (x + size, y), (x + size, y + size), (x, y + size))
    return CutPath(id=name, part=name, copy=0, operation=operation, contour=contour_of(ring))


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 6), st.integers(0, 3)), min_size=1, max_size=14, unique=True))
def test_nested_is_cut_before_its_host_and_travel_is_no_worse_than_nearest_first(places: list[tuple[int, int, int]]) -> None:
    """Squares inside squares on a grid: level 3 is the smallest and innermost."""
    paths = [square(f"{x}-{y}-{n}", 50 * x + 6 * n, 50 * y + 6 * n, 42 - 12 * n) for x, y, n in places]
    ordered, travel = cutting_order(paths)
    assert sorted(p.id for p in ordered) == sorted(p.id for p in paths)
    assert replay(ordered) == []
    starts = [p.contour.segments[0].start for p in ordered]
    walked = math.dist(HOME, starts[0]) + sum(math.dist(a.contour.segments[-1].end, b) for a, b in zip(ordered, starts[1:], strict=False))
    assert walked == pytest.approx(travel, abs=1e-6)
    assert travel <= nearest_first(paths) + 1e-6


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 20), st.integers(0, 14), st.integers(1, 3)), min_size=2, max_size=5, unique=True))
def test_travel_of_a_few_paths_is_near_the_best_there_is(places: list[tuple[int, int, int]]) -> None:
    """Against every order and every start corner, for squares that do not lie in each other."""
    paths = [square(f"{i}", 40 * x, 40 * y, 10.0 * size) for i, (x, y, size) in enumerate(places)]
    _, travel = cutting_order(paths)
    corners = [[s.start for s in p.contour.segments] for p in paths]
    best = math.inf
    for order in itertools.permutations(range(len(paths))):
        costs = {c: math.dist(HOME, c) for c in corners[order[0]]}
        for i in order[1:]:
            costs = {c: min(cost + math.dist(p, c) for p, cost in costs.items()) for c in corners[i]}
        best = min(best, *costs.values())
    assert travel <= 1.15 * best + 1e-6


def nearest_first(paths: list[CutPath]) -> float:
    """Return the travel of the plain rule: always the nearest corner that may be begun."""
    areas = {p.id: Polygon(sampled(p.contour)) for p in paths}
    left, at, total = list(paths), HOME, 0.0
    while left:
        free = [p for p in left if not any(areas[p.id].contains(areas[q.id]) for q in left if q is not p)]
        distance, _, start = min((math.dist(at, s.start), p.id, s.start) for p in free for s in p.contour.segments)
        chosen = next(p for p in free if any(s.start == start for s in p.contour.segments))
        left.remove(chosen)
        at, total = start, total + distance
    return total


def svg_polygons(text: str) -> dict[str, Polygon]:
    """Read closed paths of an SVG with an independent reader, y turned up again."""
    drawing = SVG.parse(io.StringIO(text), ppi=25.4)  # so that its pixels are millimetres
    height = drawing.height
    found = {}
    for element in drawing.elements():
        if isinstance(element, Circle):
            found[element.id] = Point(element.cx, height - element.cy).buffer(element.rx, quad_segs=256)
        elif isinstance(element, Path):
            points = []
            for segment in element:
                count = 40 if type(segment).__name__ == "Arc" else 1
                points += [segment.point(k / count) for k in range(1, count + 1)] if segment.start is not None else [segment.end]
            found[element.id] = Polygon([(p.x, height - p.y) for p in points if p is not None])
    return found


def back_on_part(shape: Polygon, placement: object) -> Polygon:
    from shapely.affinity import rotate, translate

    return rotate(translate(shape, -placement.x, -placement.y), -placement.turn, origin=(0, 0))  # type: ignore[attr-defined]


@settings(max_examples=20, deadline=None)
@given(boxes(), st.floats(0.05, 0.4))
def test_the_beam_gives_back_every_part_of_any_box(case: tuple, kerf: float) -> None:
    """The path grown by half a round beam and taken away leaves the finished part, but for the beam's radius in inner corners."""
    for part in build(*case).parts:
        paths = part_paths(part, kerf)
        if paths.findings:  # an opening narrower than the beam, and said so
            continue
        (outer,) = paths.outer
        inside = Polygon(sampled(outer), [sampled(c) for _, c in paths.inner])
        left = inside.difference(inside.boundary.buffer(kerf / 2, quad_segs=32))
        finished = Polygon(part.profile.outer, part.profile.holes)
        corners = sum(len(r) for r in (part.profile.outer, *part.profile.holes))
        chords = 0.004 * sum(2 * math.pi * c.radius for c in part.profile.circles)  # circles are sampled that finely
        assert finished.difference(left).area <= chords + 1e-6 * finished.length, part.id
        assert left.difference(finished).area <= chords + corners * (1 - math.pi / 4) * (kerf / 2) ** 2 + 1e-4 * kerf * finished.length, part.id


def dxf_entities(text: str) -> list[tuple[str, list[tuple[int, str]]]]:
    """Read the entities of a DXF from its group codes alone, as any other program would: type, then (code, value) pairs."""
    lines = text.splitlines()
    pairs = [(int(code), value.strip()) for code, value in zip(lines[::2], lines[1::2], strict=True)]
    start = next(i for i, p in enumerate(pairs) if p == (2, "ENTITIES") and pairs[i - 1] == (0, "SECTION"))
    found: list[tuple[str, list[tuple[int, str]]]] = []
    for code, value in pairs[start + 1 :]:
        if (code, value) == (0, "ENDSEC"):
            break
        if code == 0:
            found.append((value, []))
        else:
            found[-1][1].append((code, value))
    return found


def dxf_polygons(text: str) -> list[Polygon]:
    """Return the closed lines of a DXF; a bulge is the tangent of a quarter of an arc's turn."""
    found = []
    for kind, pairs in dxf_entities(text):
        values = {code: float(v) for code, v in pairs if code in (10, 20, 40)}
        if kind == "CIRCLE":
            found.append(Point(values[10], values[20]).buffer(values[40], quad_segs=256))
            continue
        assert kind == "LWPOLYLINE"
        corners: list[list[float]] = []
        for code, v in pairs:
            if code == 10:
                corners.append([float(v), 0.0, 0.0])
            elif code in (20, 42):
                corners[-1][1 if code == 20 else 2] = float(v)
        points: list[tuple[float, float]] = []
        for (x0, y0, bulge), (x1, y1, _) in pairwise([*corners, corners[0]]):
            points.append((x0, y0))
            turn = 4 * math.atan(bulge)
            for k in range(1, 120 if bulge else 0):
                # half the chord over the tangent of half the turn leads from the chord's middle to the centre
                h = 0.5 / math.tan(turn / 2)
                cx, cy = (x0 + x1) / 2 - (y1 - y0) * h, (y0 + y1) / 2 + (x1 - x0) * h
                c, s = math.cos(turn * k / 120), math.sin(turn * k / 120)
                points.append((cx + (x0 - cx) * c - (y0 - cy) * s, cy + (x0 - cx) * s + (y0 - cy) * c))
        found.append(Polygon(points))
    return found


def test_the_dxf_holds_the_same_lines_as_the_svg(planned: tuple) -> None:
    _, _, plan, _ = planned
    left = dxf_polygons(sheet_dxf(sheet_file(plan)))
    for name, shape in svg_polygons(sheet_svg(sheet_file(plan))).items():
        twin = min(left, key=lambda p: p.centroid.distance(shape.centroid) + abs(p.area - shape.area))
        assert twin.symmetric_difference(shape).area < 5e-4 * shape.length, name
        left.remove(twin)
    assert left == []


@pytest.mark.parametrize("kerf", [0.08, 0.16, 0.25])
def test_every_width_read_back_from_the_svg_is_its_ledgers_sum(kerf: float) -> None:
    assembly, nesting, plan, stocks = job(kerf=kerf)
    polygons = svg_polygons(sheet_svg(sheet_file(plan)))
    checked = 0
    for placement in nesting.sheets[0].placements:
        own = {k: back_on_part(v, placement) for k, v in polygons.items() if k.startswith(f"{placement.part}.")}
        path = own[f"{placement.part}.0/outer0"]
        for name, hole in own.items():
            if "/inner" in name:
                path = path.difference(hole)
        for feature in assembly.part(placement.part).features:
            ledger = drawn_width(feature, stocks["ply"].kerf)
            assert measured_width(path, feature) == pytest.approx(ledger.value, abs=5e-4), feature.id
            assert ledger.value == pytest.approx(sum(t.value for t in ledger.terms))
            checked += 1
    assert checked > 100


def test_svg_says_scale_kerf_and_revision_and_keeps_circles(planned: tuple) -> None:
    _, _, plan, _ = planned
    text = sheet_svg(sheet_file(plan))
    assert 'width="600mm" height="400mm" viewBox="0 0 600 400"' in text
    assert "Scale 1:1" in text
    assert "Kerf 0.160 mm is corrected" in text
    assert "revision 3" in text
    assert text.count("<circle") == 2  # the finger hole, in lid and key plate
    assert 'r="9.92"' in text  # 10 mm less half of 0.16
    for operation in (Operation.SCORE, Operation.INNER, Operation.OUTER):
        assert MACHINE.convention(operation).colour in text


def test_dxf_opens_elsewhere_at_full_size_with_arcs_and_layers(planned: tuple) -> None:
    _, _, plan, _ = planned
    drawing = ezdxf.read(io.StringIO(sheet_dxf(sheet_file(plan))))
    assert drawing.header["$INSUNITS"] == 4  # millimetres
    assert not drawing.audit().has_errors
    entities = list(drawing.modelspace())
    assert len(entities) == len(plan.sheets[0].strokes)
    assert {e.dxf.layer for e in entities} == {"2-score", "3-inner-cut", "4-outer-cut"}
    assert [round(e.dxf.radius, 4) for e in entities if e.dxftype() == "CIRCLE"] == [9.92, 9.92]
    bulged = [e for e in entities if e.dxftype() == "LWPOLYLINE" and any(abs(p[4]) > 1e-9 for p in e.get_points())]
    assert len(bulged) == 1  # the thumb notch
    total = sum(s.path.contour.length for s in plan.sheets[0].strokes)
    assert sum(_length(e) for e in entities) == pytest.approx(total, abs=0.05)  # vertices are written to 0.0001 mm


def _length(entity: object) -> float:
    from ezdxf import path as dxf_path

    points = list(dxf_path.make_path(entity).flattening(0.0005))  # type: ignore[arg-type]
    return sum(a.distance(b) for a, b in pairwise(points))


def test_kerf_left_to_the_machine_is_not_in_the_paths_and_is_said() -> None:
    machine = Machine(id="m", name="m", kerf_place=KerfPlace.MACHINE)
    assembly, nesting, plan, _ = job(machine)
    polygons = svg_polygons(sheet_svg(sheet_file(plan, machine)))
    placement = nesting.sheets[0].placements[0]
    drawn = back_on_part(polygons[f"{placement.part}.0/outer0"], placement)
    part = assembly.part(placement.part)
    assert drawn.symmetric_difference(Polygon(part.profile.outer)).area < 0.2
    assert "NOT corrected" in sheet_svg(sheet_file(plan, machine))
    assert any(f.code == "kerf_in_machine" for f in plan.findings)


def test_run_sheet_and_cut_list_name_every_part(planned: tuple) -> None:
    from pypdf import PdfReader

    assembly, nesting, plan, stocks = planned
    rows = cut_list(assembly, nesting, stock_names={"ply": "Birch ply"})
    sheet = RunSheet(
        files=(sheet_file(plan),),
        stocks=stocks,
        settings={"ply": default_settings(stocks["ply"])},
        rows=rows,
        findings=plan.findings,
        seconds=plan.seconds,
        band=plan.band,
    )
    pdf = run_sheet_pdf(sheet)
    text = PdfReader(io.BytesIO(pdf)).pages[0].extract_text()
    for part in assembly.parts:
        assert part.label in text
    assert "Extinguisher at hand" in text
    odd = SheetFile(project="箱 Žitný Ящик Κουτί €", revision=3, of=1, plan=plan.sheets[0], machine=replace(MACHINE, name="Laser " * 20))
    assert odd.stem == "zitny-r3-sheet1"
    named = PdfReader(io.BytesIO(run_sheet_pdf(replace(sheet, files=(odd,))))).pages[0].extract_text()  # any name and any length of it gives a page
    assert "Žitný Ящик Κουτί €" in named
    assert replace(odd, project="箱").stem == "project-r3-sheet1"
    lines = cut_list_csv(rows).strip().splitlines()
    assert len(lines) == 1 + len(assembly.parts)
    assert lines[0].split(",")[4] == "width_mm"


def test_a_layout_without_sheets_or_of_another_design_is_refused(planned: tuple) -> None:
    assembly, nesting, _, stocks = planned
    with pytest.raises(PlanError, match="Nothing is laid out"):
        cut_plan(assembly, Nesting(sheets=(), unplaced=(), utilisation=0, price=0), stocks=stocks, machine=MACHINE, settings={})
    fewer = Assembly(parts=assembly.parts[:3], meetings=(), findings=())
    with pytest.raises(PlanError, match="no longer has"):
        cut_plan(fewer, nesting, stocks=stocks, machine=MACHINE, settings={"ply": default_settings(stocks["ply"])})


def test_times_by_hand() -> None:
    # 300 mm from rest to rest at most 100 mm/s and 1000 mm/s2: 0.1 s up over 5 mm, 290 mm run, 0.1 s down
    assert stretch_time(300, 0, v_top=100, v_out=0, a=1000) == pytest.approx(0.1 + 2.9 + 0.1)
    # 2 mm never reaches 100 mm/s: a triangle, 2 sqrt(s / a)
    assert stretch_time(2, 0, v_top=100, v_out=0, a=1000) == pytest.approx(2 * math.sqrt(0.002))


@settings(max_examples=60)
@given(st.floats(0.1, 300), st.floats(1, 200), st.floats(200, 8000), st.floats(0, 1), st.floats(0, 1))
def test_time_over_a_stretch_agrees_with_small_steps(length: float, top: float, a: float, share_in: float, share_out: float) -> None:
    limit = math.sqrt(2 * a * length)
    v_in, v_out = share_in * min(top, limit / 2), share_out * min(top, limit / 2)
    steps = 20000
    d = length / steps
    seconds = sum(d / min(top, math.sqrt(v_in**2 + 2 * a * d * (k + 0.5)), math.sqrt(v_out**2 + 2 * a * d * (steps - k - 0.5))) for k in range(steps))
    assert stretch_time(length, v_in, v_top=top, v_out=v_out, a=a) == pytest.approx(seconds, rel=0.01)


def test_a_cornered_path_takes_longer_than_a_straight_one_of_its_length() -> None:
    corners = path_time(contour_of(((0, 0), (30, 0), (30, 30), (0, 30))), 100, machine=MACHINE)
    straight = path_time(Contour(segments=(Segment(start=(0, 0), end=(120, 0)),), closed=False), 100, machine=MACHINE)
    assert straight < corners < straight + 1


def test_moves_carry_every_stroke_in_order(planned: tuple) -> None:
    _, _, plan, _ = planned
    moves = moves_of(plan.sheets[0], {})
    assert [m.path for m in moves] == [s.path.id for s in plan.sheets[0].strokes]
    for move, stroke in zip(moves, plan.sheets[0].strokes, strict=True):
        assert LineString(move.points).length == pytest.approx(stroke.path.contour.length, rel=1e-3)
    assert plan.sheets[0].seconds == pytest.approx(sum(plan.sheets[0].by_operation.values()))


def test_the_factor_is_the_median_and_ignores_interrupted_runs() -> None:
    runs = [TimedRun(expected=100, actual=a) for a in (115, 110, 120, 1000)]
    learned = time_factor(runs)
    assert (learned.factor, learned.runs) == (pytest.approx(1.15), 3)
    assert time_factor([]).factor == 1.0


def test_corrected_nowhere_the_files_and_the_preflight_say_so() -> None:
    _, _, plan, _ = job(replace(MACHINE, kerf_place=KerfPlace.NONE))
    assert plan.sheets[0].kerf == 0
    assert next(f for f in plan.findings if f.code == "kerf_nowhere").severity == "look"
    assert "by choice" in sheet_file(plan).statement.text
