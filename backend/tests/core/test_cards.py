"""Test cards: every one is cuttable as drawn, its labels are true, and the plan cuts it on its lines."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon, box

from notchcore.check.dry_fit import dry_fit
from notchcore.design.assembly import Assembly
from notchcore.design.building import build
from notchcore.design.cards.pieces import Card, GapCard, GaugeStrip, Piece, PowerCard, StepCard, StripsCard, card_assembly, piece_of
from notchcore.design.cards.proposed import KINDS, proposed_card
from notchcore.design.design import Design
from notchcore.design.lettering import lettered, text_width
from notchcore.errors import DesignError, NotchCoreError
from notchcore.findings import Severity
from notchcore.formats.dxf import sheet_dxf
from notchcore.formats.sheetfile import SheetFile, layers_of
from notchcore.formats.svg import sheet_svg
from notchcore.geom.contours import sampled
from notchcore.geom.profile import polygon_of
from notchcore.measure.machine import KerfPlace, Machine, Operation, default_settings
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.stock import Stock
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import NestPart, NestRules, SheetKind
from notchcore.plan.cut_plan import CutPlan, cut_plan
from notchcore.plan.moves import moves_of
from notchcore.plan.rows import raster_rows, raster_time
from notchcore.units import DISPLAY_UNITS, MM_PER_INCH
from tests.strategies import make_stock, thicknesses

BIRCH, WALNUT = make_stock("birch", 3.08), make_stock("walnut", 3.12, material="solid_wood")
MACHINE = Machine(id="m", name="Alder desk laser")


def made(kind: str, sheet: Stock = BIRCH, tongue: Stock = BIRCH, unit: str = "mm") -> tuple[Card, Piece]:
    card = proposed_card(kind, sheet, tongue=tongue, settings=default_settings(sheet), unit=unit)
    return card, piece_of(card, sheet, tongue=tongue)


def planned(assembly: Assembly, machine: Machine = MACHINE) -> CutPlan:
    stocks = {s.id: s for s in (BIRCH, WALNUT)}
    parts = [NestPart(id=p.id, stock=p.stock, profile=p.profile) for p in assembly.parts if p.stock == "birch"]
    sheets = [SheetKind(id="s", stock="birch", name="Birch", width=300, height=200)]
    nesting = pack(parts, sheets, rules=NestRules(), work=Work(1))
    assert not nesting.unplaced
    return cut_plan(assembly, nesting, stocks=stocks, machine=machine, settings={k: default_settings(s) for k, s in stocks.items()})


@settings(max_examples=25, deadline=None)
@given(st.sampled_from(KINDS), thicknesses, thicknesses, st.sampled_from(["plywood", "cast_acrylic", "grey_board", "foam"]), st.sampled_from(DISPLAY_UNITS))
def test_every_card_of_any_stock_can_be_cut_as_drawn(kind: str, t: float, mate: float, family: str, unit: str) -> None:
    sheet, tongue = make_stock("sheet", t, material=family), make_stock("tongue", mate)
    _, piece = made(kind, sheet, tongue, unit)
    web = 1.0 if kind == "legibility" else min(minimum_web(MATERIALS[family], t), 1.5 * t)
    for part in piece.parts:
        shape = polygon_of(part.profile)
        assert shape.is_valid
        for mark in part.marks:
            line = (Polygon(mark.line) if mark.closed else LineString(mark.line)).buffer(-1e-6 if mark.closed else 1e-6)
            assert shape.buffer(0.01).contains(line), (part.id, mark)
    cells = [next(p for p in piece.parts if p.id == c.part) for c in piece.cells]
    assert len({c.id for c in piece.cells}) == len(piece.cells)
    for cell, part in zip(piece.cells, cells, strict=True):
        assert polygon_of(part.profile).envelope.buffer(1.6).contains(box(*cell.box))
    slots = sorted((c.box[0], c.box[2]) for c in piece.cells if c.what == "slot")
    assert all(b[0] - a[1] >= web - 1e-6 for a, b in pairwise(slots))


@given(st.floats(0.3, 30), st.floats(0.01, 0.3), st.integers(3, 25), thicknesses)
def test_a_gauge_slot_is_as_wide_as_its_label_says(first: float, step: float, count: int, t: float) -> None:
    card = GaugeStrip(first=round(first, 2), step=round(step, 2), count=count)
    piece = piece_of(card, make_stock("sheet", t), tongue=make_stock("sheet", t))
    widths = [c.box[2] - c.box[0] for c in piece.cells]
    assert widths == pytest.approx(list(card.widths()), abs=1e-6)
    assert [float(c.label) for c in piece.cells] == pytest.approx(widths, abs=0.0051)
    shape = polygon_of(piece.parts[0].profile)
    for cell in piece.cells:
        assert shape.intersection(box(*cell.box).buffer(-1e-6)).area == pytest.approx(0, abs=1e-9)


def test_a_gauge_is_centred_where_the_feels_are() -> None:
    # birch: 3.08 + (0.25 - 0.20) / 2 - 0.16 = 2.945 in the middle, five steps of 0.05 to either side
    card, _ = made("gauge")
    assert isinstance(card, GaugeStrip)
    assert (card.count, card.step) == (11, 0.05)
    assert card.widths()[5] == pytest.approx(2.945, abs=0.006)
    soft, _ = made("gauge", make_stock("board", 4.0, material="corrugated"), BIRCH)
    assert isinstance(soft, GaugeStrip)
    assert (soft.count, soft.step) == (9, 0.2)


def test_strips_come_free_by_lines_from_edge_to_edge() -> None:
    card, piece = made("strips")
    assert isinstance(card, StripsCard)
    cuts = [m for m in piece.parts[0].marks if m.operation is Operation.INNER]
    assert len(cuts) == card.count - 1
    assert {m.line[0][1] for m in cuts} | {m.line[1][1] for m in cuts} == {0.0, card.length}
    from shapely.ops import split

    rest = [polygon_of(piece.parts[0].profile)]
    for m in cuts:
        rest = [g for r in rest for g in split(r, LineString(m.line)).geoms]
    assert sorted(round(g.area, 6) for g in rest) == [card.width * card.length] * card.count


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("place", [KerfPlace.PATHS, KerfPlace.MACHINE])
def test_a_card_is_cut_on_its_lines_whatever_the_machine_corrects(kind: str, place: KerfPlace) -> None:
    card, piece = made(kind)
    assembly = build(Design(numbers=card, stocks={"sheet": "birch", "tongue": "birch"}), {"birch": BIRCH})
    assert assembly == card_assembly(card, BIRCH, tongue=BIRCH)
    plan = planned(assembly, Machine(id="m", name="m", kerf_place=place))
    assert (plan.kerf_place, plan.sheets[0].kerf) == (KerfPlace.LINE, 0.0)
    assert {f.code for f in plan.findings if f.severity is Severity.MUST} == set()
    assert "on_the_line" in {f.code for f in plan.findings}
    outlines = sorted(s.path.contour.length for s in plan.sheets[0].strokes if s.path.operation is Operation.OUTER)
    assert outlines == pytest.approx(sorted(polygon_of(p.profile).exterior.length for p in piece.parts), abs=1e-6)
    file = SheetFile(project="Card", revision=1, of=1, plan=plan.sheets[0], machine=MACHINE)
    assert "switch off any kerf correction" in file.statement.text
    ranks = [{Operation.ENGRAVE: 0, Operation.SCORE: 1}.get(s.path.operation, 2) for s in plan.sheets[0].strokes]
    assert ranks == sorted(ranks)


def test_each_square_of_a_power_card_has_its_own_settings_in_plan_and_files() -> None:
    card, piece = made("power")
    assert isinstance(card, PowerCard)
    plan = planned(card_assembly(card, BIRCH, tongue=BIRCH)).sheets[0]
    squares = [s for s in plan.strokes if s.path.beam is not None]
    assert {(s.power, s.speed) for s in squares} == {(p, v) for p in card.powers for v in card.speeds}
    assert {(c.second, c.value) for c in piece.cells} == {(s.power, s.speed) for s in squares}
    file = SheetFile(project="Card", revision=1, of=1, plan=plan, machine=MACHINE)
    layers = layers_of(file)
    assert len({each.convention.colour for each in layers}) == len({each.convention.layer for each in layers}) == len(layers) == 25 + 2
    assert sum(len(each.strokes) for each in layers) == len(plan.strokes)
    svg, dxf = sheet_svg(file), sheet_dxf(file)
    for power, speed in {(s.power, s.speed) for s in squares}:
        assert f'data-power="{power:g}" data-speed="{speed:g}"' in svg
        assert f"3-inner-cut P{power:g} S{speed:g} x1" in dxf


def test_rows_of_an_engraving_fill_its_area_and_take_their_time() -> None:
    card, _ = made("steps")
    assert isinstance(card, StepCard)
    plan = planned(card_assembly(card, BIRCH, tongue=BIRCH)).sheets[0]
    engraved = [s for s in plan.strokes if s.path.operation is Operation.ENGRAVE]
    assert sorted(s.passes for s in engraved) == list(card.passes)
    moves = {m.path: m for m in moves_of(plan, {})}
    for stroke in engraved:
        points = moves[stroke.path.id].points
        assert len(points) == 2 * 120  # 12 mm in rows of 0.1
        burned = math.fsum(math.dist(points[i], points[i + 1]) for i in range(0, len(points), 2))
        assert burned * card.interval == pytest.approx(card.square**2, rel=1e-6)
    # by hand: 120 rows, (12 + 10) / 250 s each and 2 * 250 / 3000 s for the turn
    seconds, upright = raster_time([sampled(engraved[0].path.contour)], 250.0, interval=0.1, machine=MACHINE)
    assert seconds == pytest.approx(120 * (22 / 250 + 500 / 3000), rel=0.01)
    assert not upright
    triangle = ((0.0, 0.0), (10.0, 0.0), (0.0, 6.0))
    rows = raster_rows([triangle], 0.5, upright=False)
    assert math.fsum(abs(rows[i][0] - rows[i + 1][0]) for i in range(0, len(rows), 2)) * 0.5 == pytest.approx(30, rel=0.01)


def test_letters_stay_in_their_room() -> None:
    text = "0123456789 ABCDEFGHIJKLMNOPQRSTUVWXYZ .,-+/%:="
    marks = lettered(text, 10, y=5, height=3.0)
    xs = [p[0] for m in marks for p in m.line]
    ys = [p[1] for m in marks for p in m.line]
    assert 10 - 1e-9 <= min(xs)
    assert max(xs) <= 10 + text_width(text, 3.0) + 1e-9
    assert (min(ys), max(ys)) == (5.0, 8.0)
    assert {len(lettered(c, 0, y=0, height=3)) > 0 for c in text if c != " "} == {True}
    assert lettered("a", 0, y=0, height=3) == lettered("A", 0, y=0, height=3)


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: StripsCard(count=1),
        lambda: GapCard(widths=()),
        lambda: GaugeStrip(step=0),
        lambda: PowerCard(powers=(50, 50)),
        lambda: PowerCard(powers=(400,)),
        lambda: StepCard(passes=(0,)),
        lambda: proposed_card("wishes", BIRCH, tongue=BIRCH, settings=default_settings(BIRCH)),
    ],
)
def test_a_card_that_makes_no_sense_is_refused_in_words(wrong: object) -> None:
    assert callable(wrong)
    with pytest.raises(NotchCoreError) as told:
        wrong()
    assert len(told.value.message) > 10


def test_a_card_needs_its_stocks_and_no_dry_fit_complains_of_it() -> None:
    card, _ = made("gauge", BIRCH, WALNUT)
    with pytest.raises(DesignError, match="tongue"):
        Design(numbers=card, stocks={"sheet": "birch"})
    assembly = build(Design(numbers=card, stocks={"sheet": "birch", "tongue": "walnut"}), {"birch": BIRCH, "walnut": WALNUT})
    assert {p.stock for p in assembly.parts} == {"birch", "walnut"}
    found = dry_fit(assembly, {"birch": BIRCH, "walnut": WALNUT})
    assert {f.code for f in found.findings if f.severity is not Severity.FINE} == set()


@pytest.mark.parametrize("kind", KINDS)
def test_the_time_of_a_card_is_what_the_simulated_machine_takes(kind: str) -> None:
    """Independent: the machine steps through its moves with a motion of its own, and is 4 % slower than its data sheet."""
    from devices.laser import job_seconds

    _, piece = made(kind)
    plan = planned(Assembly(parts=piece.parts, meetings=(), findings=(), on_line=True)).sheets[0]
    moves = [{"path": m.path, "points": m.points, "speed": m.speed, "power": m.power, "passes": m.passes, "overscan": m.overscan} for m in moves_of(plan, {})]
    assert job_seconds(moves) / plan.seconds == pytest.approx(1.04, abs=0.09)


def test_the_simulated_machine_goes_over_dots_of_one_row_in_one_sweep() -> None:
    from devices.laser import job_seconds

    def seconds(*points: tuple[float, float]) -> float:
        return job_seconds([{"path": "p/engrave0", "points": points, "speed": 100.0, "power": 20, "passes": 1, "overscan": 5.0}])

    whole, dotted = seconds((0, 5), (100, 5)), seconds(*((x + d, 5.0) for x in range(0, 100, 2) for d in (0.0, 1.0)), (99.0, 5.0), (100.0, 5.0))
    assert dotted == pytest.approx(whole)
    two_rows = seconds((0, 5), (100, 5), (100, 6), (0, 6))
    assert two_rows - whole == pytest.approx(1.04 * ((100 + 10) / 100 + 2 * 100 / 3000), abs=0.02)


@pytest.mark.parametrize("kind", KINDS)
def test_an_inch_shops_cards_are_round_in_inches_and_say_so(kind: str) -> None:
    card, piece = made(kind, unit="in/64")
    assert card.unit == "in"
    for cell in piece.cells:
        said = cell.label.split(", ")[-1].removesuffix(" in").removesuffix(" in/s").split(" × ")[-1]
        if cell.what in ("slot", "peg", "strips", "text", "web") or kind == "power":
            assert float(said) * MM_PER_INCH == pytest.approx(cell.value, abs=0.02)
    if isinstance(card, GaugeStrip):
        steps = [w / MM_PER_INCH * 1000 for w in card.widths()]
        assert all(abs(s - round(s)) < 0.01 for s in steps)
        assert [round(b - a) for a, b in pairwise(steps)] == [2] * (card.count - 1)
        assert made(kind, unit="thou")[1].cells[0].label == f"{steps[0]:.1f}"
