"""Quick answers against sums by hand, and against the solver that makes whole boxes."""

from __future__ import annotations

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.design.answers import joints, sizes
from notchcore.design.answers.values import Answer
from notchcore.design.assembly import FeatureKind, drawn_width
from notchcore.design.building import build
from notchcore.errors import DesignError, NotchCoreError, ValueOutside
from notchcore.measure.fit import NO_FITS, Feel
from notchcore.measure.kerf import KerfTestKind
from tests.strategies import make_box, make_stock, thicknesses

BIRCH, WALNUT = make_stock("birch", 3.08), make_stock("walnut", 3.12, material="solid_wood")


def numbers(answer: Answer) -> list[float]:
    return [r.value for r in answer.results]


def test_slot_by_hand() -> None:
    # 3.12 + 0.015 snug - 0.16 kerf
    found = joints.slot(sheet=BIRCH, mate=WALNUT, feel=Feel.SNUG, fits=NO_FITS)
    assert numbers(found) == pytest.approx([2.975, 3.135, 0.015, 3.12])
    assert found.ledger is not None
    assert [round(t.value, 3) for t in found.ledger.terms] == [3.12, 0.015, -0.16]


def test_a_clearance_set_by_hand_shows_the_chances_of_every_feel() -> None:
    by_hand = joints.slot(sheet=BIRCH, mate=WALNUT, feel=Feel.SNUG, fits=NO_FITS, by_hand=0.4)
    assert by_hand.results[0].value == pytest.approx(3.12 + 0.4 - 0.16)
    assert "rattles in 9" in by_hand.says.text
    assert "snug" not in by_hand.says.text
    usual = joints.slot(sheet=BIRCH, mate=WALNUT, feel=Feel.SNUG, fits=NO_FITS)
    assert sum(int(n) for n in re.findall(r"(\d+)%", usual.says.text)) == pytest.approx(100, abs=3)


def test_the_slot_is_the_one_that_the_solver_cuts() -> None:
    stocks = {"walls": BIRCH, "base": BIRCH, "dividers": WALNUT, "lid": BIRCH}
    stocks = {k: make_stock(k, s.t, material=s.material) for k, s in stocks.items()}
    assembly = build(make_box(width=200, depth=150, height=60, columns=3, rows=1), stocks)
    slots = [(f, p) for p in assembly.parts for f in p.features if f.kind is FeatureKind.SLOT and p.stock == "walls"]
    assert slots
    asked = joints.slot(sheet=stocks["walls"], mate=stocks["dividers"], feel=Feel.SNUG, fits=NO_FITS)
    for feature, part in slots:
        assert drawn_width(feature, stocks[part.stock].kerf).value == pytest.approx(asked.results[0].value, abs=1e-9)


def test_tab_by_hand() -> None:
    found = joints.tab(sheet=BIRCH, mate=WALNUT, width=12, proud=0.5)
    assert numbers(found) == pytest.approx([12.16, 12, 3.62, 12.32])
    assert not found.findings
    assert [f.code for f in joints.tab(sheet=BIRCH, mate=WALNUT, width=6, proud=0).findings] == ["weak_tab"]
    with pytest.raises(ValueOutside):
        joints.tab(sheet=BIRCH, mate=WALNUT, width=12, proud=-4)


def test_angled_slot_by_hand() -> None:
    # 60 degrees: 3.12 / sin 60 = 3.6027, 3.08 / tan 60 = 1.7782, + 0.015 - 0.16
    found = joints.angled_slot(sheet=BIRCH, mate=WALNUT, angle=60, feel=Feel.SNUG, fits=NO_FITS)
    assert numbers(found) == pytest.approx([3.6027 + 1.7782 + 0.015 - 0.16, 3.6027 + 1.7782 + 0.015, 3.6027, 1.7782, 0.015], abs=1e-4)


@given(thicknesses, thicknesses, st.floats(15, 165))
def test_an_angled_slot_lets_the_sheet_through_and_nothing_more(t: float, own: float, angle: float) -> None:
    """Independent: the slanted strip's shadow on the line across the slot, over the whole thickness of the sheet."""
    sheet, mate = make_stock("s", own), make_stock("m", t)
    found = joints.angled_slot(sheet=sheet, mate=mate, angle=angle, feel=Feel.SNUG, fits=NO_FITS)
    a = math.radians(angle)
    faces = []
    for y in (0.0, sheet.t):
        middle = y / math.tan(a)
        faces += [middle - mate.t / math.sin(a) / 2, middle + mate.t / math.sin(a) / 2]
    clearance = joints.slot(sheet=sheet, mate=mate, feel=Feel.SNUG, fits=NO_FITS).results[2].value
    assert found.results[1].value == pytest.approx(max(faces) - min(faces) + clearance, abs=1e-9)
    mirrored = joints.angled_slot(sheet=sheet, mate=mate, angle=180 - angle, feel=Feel.SNUG, fits=NO_FITS)
    assert numbers(mirrored) == pytest.approx(numbers(found))


def test_kerf_roof_and_turned_layer_by_hand() -> None:
    strips = sizes.kerf_answer(kind=KerfTestKind.STRIPS, drawn=10, measured=98.4, count=10)
    assert numbers(strips) == pytest.approx([0.16, 0.08])
    # run 100 at 30 degrees: 100 / cos 30 = 115.470, + 15; ridge 120; gable 57.735; wall 3.12 meets the panel at 60 degrees
    roof = sizes.roof_panel(run=100, angle=30, eaves=15, sheet=BIRCH, wall=WALNUT)
    assert numbers(roof) == pytest.approx([130.4701, 120, 57.7350, 3.12 / math.sin(math.radians(60)) + 3.08 / math.tan(math.radians(60))], abs=1e-4)
    # 13 layers over 90 degrees: 7.5 a layer
    assert numbers(sizes.turned_layer(layer=4, layers=13, twist=90)) == pytest.approx([30, -30, 7.5])


@given(st.integers(2, 60), st.floats(0.5, 20), st.floats(0, 8), st.booleans())
def test_pitch_and_gap_fill_the_length_exactly(count: int, width: float, gap: float, ends: bool) -> None:
    length = count * width + gap * (count + 1 if ends else count - 1)
    if length < 1:
        return
    found = sizes.pitch_and_gap(length=length, count=count, width=width, gaps_at_ends=ends, sheet=None)
    got, pitch, first = numbers(found)
    assert got == pytest.approx(gap, abs=1e-9)
    assert first + (count - 1) * pitch + width == pytest.approx(length - first, abs=1e-6)


def test_pitch_and_gap_says_what_is_too_much_and_what_is_too_thin() -> None:
    with pytest.raises(DesignError, match="do not go into"):
        sizes.pitch_and_gap(length=100, count=30, width=5, gaps_at_ends=True, sheet=None)
    thin = sizes.pitch_and_gap(length=100, count=16, width=5, gaps_at_ends=True, sheet=BIRCH)
    assert [f.code for f in thin.findings] == ["thin_web"]


def test_sheets_needed_by_hand() -> None:
    # 590 x 390 inside the margin; 60 x 40 with 2 between: (592 // 62) * (392 // 42) = 9 * 9 = 81; turned: 14 * 6 = 84
    args = {"width": 60, "height": 40, "count": 100, "sheet_width": 600, "sheet_height": 400, "spacing": 2, "margin": 5, "price": 7.5}
    assert numbers(sizes.sheets_needed(**args, may_turn=False)) == [2, 81, 15.0]
    assert numbers(sizes.sheets_needed(**args, may_turn=True)) == [2, 84, 15.0]
    with pytest.raises(DesignError, match="larger than the sheet"):
        sizes.sheets_needed(**{**args, "width": 700}, may_turn=True)


@given(st.floats(2, 200), st.floats(2, 200), st.integers(1, 500))
def test_sheets_needed_never_overfills(width: float, height: float, count: int) -> None:
    found = sizes.sheets_needed(width=width, height=height, count=count, sheet_width=600, sheet_height=400, spacing=2, margin=5, price=0, may_turn=True)
    sheets, each, _ = numbers(found)
    assert (sheets - 1) * each < count <= sheets * each
    assert each * width * height <= 590 * 390 + 1e-6


def test_scale_answers_both_ways() -> None:
    down = sizes.scale_answer(n=24, real=2400, model=None, wanted=50, stocks=(BIRCH, make_stock("grey", 2.02, material="grey_board")))
    assert numbers(down)[:3] == pytest.approx([100, 2400, 48.48])
    assert numbers(sizes.scale_answer(n=24, real=None, model=100, wanted=None, stocks=()))[:2] == pytest.approx([100, 2400])
    with pytest.raises(DesignError):
        sizes.scale_answer(n=24, real=None, model=None, wanted=None, stocks=())


@given(st.floats(0.1, 2000))
def test_the_nearest_sixty_fourth_is_never_off_by_more_than_half_of_one(length: float) -> None:
    found = sizes.inch_fractions(length=length)
    assert found.results[3].value <= 25.4 / 128 + 1e-9
    assert found.results[1].value * 25.4 == pytest.approx(length, abs=1e-9)


def test_fractions_in_words() -> None:
    assert [sizes.fraction_words(sizes.nearest_fraction(v)) for v in (0.125, 2.25, 3.0, -0.5, 0.0156)] == ["1/8", "2 1/4", "3", "-1/2", "1/64"]


@given(st.floats(allow_nan=True, allow_infinity=True), st.floats(allow_nan=True, allow_infinity=True))
def test_no_number_breaks_an_answer(one: float, two: float) -> None:
    for ask in (
        lambda: joints.tab(sheet=BIRCH, mate=WALNUT, width=one, proud=two),
        lambda: joints.angled_slot(sheet=BIRCH, mate=WALNUT, angle=one, feel=Feel.SNUG, fits=NO_FITS),
        lambda: sizes.roof_panel(run=one, angle=two, eaves=1, sheet=BIRCH, wall=WALNUT),
        lambda: sizes.pitch_and_gap(length=one, count=3, width=two, gaps_at_ends=True, sheet=None),
        lambda: sizes.scale_answer(n=one, real=two, model=None, wanted=None, stocks=()),
        lambda: sizes.inch_fractions(length=one),
    ):
        try:
            found = ask()
        except NotchCoreError:
            continue
        assert all(math.isfinite(r.value) for r in found.results)
