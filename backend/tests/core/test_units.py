"""Lengths as people type them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.errors import LengthNotUnderstood
from notchcore.units import format_length, parse_length


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
        (".5", "mm", 0.5),
    ],
)
def test_a_typed_length_is_understood(text: str, unit: str, mm: float) -> None:
    assert parse_length(text, unit=unit) == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    "text", ["", "  ", "abc", "3 mm mm", "5 furlong", "3 +", "(2", "2)", "1/0", "3 4", "1e9", "9" * 90, "2mm*3mm", "--", "3$", "(" * 79, "200000"]
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
