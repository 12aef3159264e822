"""Thickness, kerf and fit: known answers worked by hand, and laws."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.errors import MeasureError, ValueOutside
from notchcore.ledger import Trust
from notchcore.measure.fit import Feel, boundaries_for, chances_of, clearance_for, clearance_sd
from notchcore.measure.kerf import KerfTest, KerfTestKind, kerf_of, pooled_kerf
from notchcore.measure.stock import StockEvidence, stock_of
from notchcore.measure.thickness import Reading, effective_thickness
from tests.strategies import TODAY


def readings(*values: float) -> tuple[Reading, ...]:
    return tuple(Reading(thickness=v) for v in values)


def codes(values: tuple[float, ...], label: float = 3.0) -> set[str]:
    return {f.code for f in effective_thickness(material_id="plywood", label=label, readings=readings(*values))[1]}


def test_thickness_is_the_mean_and_its_spread_the_sample_sd() -> None:
    quantity, _ = effective_thickness(material_id="plywood", label=3.0, readings=readings(3.06, 3.11, 3.08, 3.05, 3.10))
    assert quantity.value == pytest.approx(3.08)
    assert quantity.sd == pytest.approx(0.025495, abs=1e-6)
    assert quantity.terms[0].trust is Trust.MEASURED


def test_without_readings_the_label_stands_in_as_a_guess() -> None:
    quantity, findings = effective_thickness(material_id="plywood", label=3.0, readings=())
    assert (quantity.value, quantity.terms[0].trust) == (3.0, Trust.DEFAULT)
    assert [f.code for f in findings] == ["thickness_guess"]


def test_flags_say_what_is_odd_about_a_sheet() -> None:
    assert codes((3.0, 3.01, 2.99)) == set()
    assert codes((3.0, 3.01)) == {"thickness_guess"}
    assert codes((2.9, 3.0, 3.1)) == {"sheet_uneven"}
    assert codes((3.2, 3.21, 3.2)) == {"not_what_the_label_says"}


def test_soft_stock_counts_as_crushed() -> None:
    quantity, _ = effective_thickness(material_id="corrugated", label=4.0, readings=readings(4, 4, 4), crush=0.1)
    assert quantity.value == pytest.approx(3.6)


@pytest.mark.parametrize("value", [0.0, -3.0, 1e9, float("nan")])
def test_an_impossible_reading_is_refused_with_its_limits(value: float) -> None:
    with pytest.raises(ValueOutside, match=r"between 0.05 mm and 50"):
        Reading(thickness=value)


def test_three_kinds_of_test_show_the_same_kerf() -> None:
    assert kerf_of(KerfTest(kind=KerfTestKind.STRIPS, drawn=10, measured=98.4, count=10)) == pytest.approx(0.16)
    assert kerf_of(KerfTest(kind=KerfTestKind.GAP, drawn=5, measured=5.16)) == pytest.approx(0.16)
    assert kerf_of(KerfTest(kind=KerfTestKind.PEG, drawn=5, measured=4.84)) == pytest.approx(0.16)


def test_swapped_numbers_are_no_kerf() -> None:
    with pytest.raises(MeasureError, match="not swapped"):
        KerfTest(kind=KerfTestKind.GAP, drawn=5.16, measured=5.0)


def test_old_tests_count_less_and_weights_halve_in_180_days() -> None:
    new = KerfTest(kind=KerfTestKind.GAP, drawn=5, measured=5.18, on=TODAY)
    old = KerfTest(kind=KerfTestKind.GAP, drawn=5, measured=5.12, on="2026-05-28")  # 180 days before
    pooled = pooled_kerf(material_id="plywood", thickness=3, tests=(new, old), today=TODAY)
    assert pooled.value == pytest.approx((2 * 0.18 + 0.12) / 3)


@given(st.lists(st.floats(0.05, 0.4), min_size=1, max_size=6))
def test_pooled_kerf_lies_among_its_tests_and_is_never_surer_than_it_may(kerfs: list[float]) -> None:
    tests = tuple(KerfTest(kind=KerfTestKind.GAP, drawn=5, measured=5 + k, on=TODAY) for k in kerfs)
    pooled = pooled_kerf(material_id="plywood", thickness=3, tests=tests, today=TODAY)
    assert min(kerfs) - 1e-9 <= pooled.value <= max(kerfs) + 1e-9
    assert pooled.sd >= 0.01


@given(st.floats(-1, 1), st.floats(0, 0.1), st.floats(0, 0.1))
def test_chances_add_up_to_one(clearance: float, kerf_sd: float, thickness_sd: float) -> None:
    boundaries = boundaries_for("plywood", "plywood")
    chances = chances_of(clearance=clearance, sd=clearance_sd(kerf_sd=kerf_sd, thickness_sd=thickness_sd, boundaries=boundaries), boundaries=boundaries)
    assert chances.rattles + chances.slides + chances.snug + chances.mallet + chances.wont_go == pytest.approx(1)


def test_chances_by_hand() -> None:
    # sd = sqrt(0.04^2 + 0.03^2) = 0.05, snug from -0.05 to 0.08 about 0.015: +-1.3 sd holds 80.6 %
    sharp = replace(boundaries_for("plywood", "plywood"), sds=(0, 0, 0, 0))
    sd = clearance_sd(kerf_sd=0.0, thickness_sd=0.04, boundaries=sharp)
    chances = chances_of(clearance=0.015, sd=sd, boundaries=sharp)
    assert chances.sd == pytest.approx(0.05)
    assert chances.snug == pytest.approx(0.8064, abs=1e-4)


def test_the_less_forgiving_stock_rules_a_pair() -> None:
    assert boundaries_for("plywood", "cast_acrylic") == boundaries_for("cast_acrylic", "cast_acrylic")
    assert boundaries_for("cast_acrylic", "corrugated") == boundaries_for("corrugated", "corrugated")
    assert clearance_for(Feel.SNUG, boundaries_for("plywood", "plywood")).value == pytest.approx(0.015)
    assert clearance_for(Feel.SNUG, boundaries_for("cast_acrylic", "plywood")).value > 0


def test_a_label_that_is_far_off_does_not_space_joints() -> None:
    stock = stock_of(StockEvidence(id="x", name="x", material="plywood", label=3.0, readings=readings(6.1, 6.1, 6.1)), today=TODAY)
    assert stock.layout_t == pytest.approx(6.1)
