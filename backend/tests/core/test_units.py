"""Lengths as people type them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.errors import LengthNotUnderstood, NumberNotUnderstood
from notchcore.typed import parse_length, parse_number
from notchcore.units import format_length


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("62 - 2*3", "mm", 56.0),
        ("1/8in + 2", "mm", 5.175),
        ("2 1/4 in", "mm", 57.15),
        ("2 1/4", "in", 57.15),
        ("1/2", "in", 12.7),
        ("120 thou", "mm", 3.048),
        ('3/16"', "mm", 4.7625),
        ("4'", "mm", 1219.2),
        ("3,08", "mm", 3.08),
        ("-(2 + 1) cm", "mm", -30.0),
        ("(60 - 2*3)/4", "mm", 13.5),
        ("10 mm / 4", "in", 2.5),
        ("1in × 2", "mm", 50.8),
        ("7'-6 1/2\"", "mm", 90.5 * 25.4),
        ("7' 6\"", "mm", 90 * 25.4),
        ("7' 6", "mm", 90 * 25.4),
        ("7'6\"", "in", 90 * 25.4),
        ("7’-6½”", "in", 90.5 * 25.4),
        ("7ft 6in", "mm", 90 * 25.4),
        ("7 ft 6 1/2 in + 1", "mm", 90.5 * 25.4 + 1),
        ("7' 1/2\"", "mm", 84.5 * 25.4),
        ("7' - 6\"", "mm", 78 * 25.4),
        ("7' - 6", "in", 78 * 25.4),
        ("7' + 6mm", "mm", 84 * 25.4 + 6),
        ("1-1/2in", "mm", 38.1),
        ("1-1/2", "in", 38.1),
        ("1-1/2", "mm", 0.5),
        ("1 - 1/2in", "mm", 1 - 12.7),
        ("3-1/2in", "in", 3.5 * 25.4),
        ("1/64in", "mm", 25.4 / 64),
        ("1/64", "in", 25.4 / 64),
        ("2*1-1/2in", "mm", 76.2),
        (".5", "mm", 0.5),
    ],
)
def test_a_typed_length_is_understood(text: str, unit: str, mm: float) -> None:
    assert parse_length(text, unit=unit) == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "abc",
        "3 mm mm",
        "5 furlong",
        "3 +",
        "(2",
        "2)",
        "1/0",
        "3 4",
        "1e9",
        "9" * 90,
        "2mm*3mm",
        "--",
        "3$",
        "(" * 79,
        "200000",
        "7' 6 mm",
        "7' 6 * 2",
        "6in 7'",
        "7' 6' ",
    ],
)
def test_what_is_no_length_says_so_and_how_to_type_one(text: str) -> None:
    with pytest.raises(LengthNotUnderstood, match="Type for example"):
        parse_length(text)


@given(st.floats(-5000, 5000), st.sampled_from(["mm", "in"]))
def test_what_is_shown_reads_back_within_its_digits(mm: float, unit: str) -> None:
    assert parse_length(format_length(mm, unit=unit, digits=4), unit=unit) == pytest.approx(mm, abs=0.002)


@pytest.mark.parametrize(("mm", "shown"), [(12.7, "1/2"), (57.15, "2 1/4"), (25.4, "1"), (3.08, "1/8"), (-6.35, "-1/4"), (0.0, "0")])
def test_fractions_of_an_inch_are_in_lowest_terms(mm: float, shown: str) -> None:
    assert format_length(mm, unit="in/64") == shown


numbers = st.integers(1, 999).map(str) | st.integers(1, 9999).map(lambda n: f"{n / 100:.2f}")
sums = st.recursive(
    numbers,
    lambda inner: st.one_of(
        st.tuples(inner, st.sampled_from("+-*"), inner).map(lambda p: f"{p[0]} {p[1]} {p[2]}"),
        inner.map(lambda e: f"({e})"),
        inner.map(lambda e: f"-({e})"),
    ),
    max_leaves=5,
)


@given(sums)
def test_a_plain_sum_is_what_arithmetic_says(text: str) -> None:
    expected = eval(text)
    if len(text) > 80:
        return
    assert parse_number(text) == pytest.approx(expected, rel=1e-9, abs=1e-9)
    if abs(expected) <= 100_000:
        assert parse_length(text, unit="mm") == pytest.approx(expected, rel=1e-9, abs=1e-9)
    if abs(expected) * 25.4 <= 100_000:
        assert parse_length(text, unit="in") == pytest.approx(expected * 25.4, rel=1e-9, abs=1e-6)


@given(sums, sums)
def test_a_unit_on_one_part_of_a_sum_leaves_the_other_in_the_persons_own(a: str, b: str) -> None:
    x, y = eval(a), eval(b)
    text = f"({a})in + ({b})"
    if len(text) > 80 or abs(x) * 25.4 + abs(y) > 90_000:
        return
    assert parse_length(text, unit="mm") == pytest.approx(x * 25.4 + y, rel=1e-9, abs=1e-6)


@pytest.mark.parametrize("text", ["", "3 mm", "1/8in", "two", "1/0", "(2", "9" * 90])
def test_what_is_no_plain_number_says_so(text: str) -> None:
    with pytest.raises(NumberNotUnderstood, match=r"is not a number: .* Type for example"):
        parse_number(text)
