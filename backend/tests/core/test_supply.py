"""What a packing needs, known before it is made: worked by hand, and true of packings."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.geom.profile import rectangle
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.supply import FILLED, needs
from notchcore.nest.values import NestPart, NestRules, SheetKind

RULES = NestRules(margin=6, spacing=2, bed_width=600, bed_height=400)


def sheet(name: str = "whole", count: int = 1, **more: object) -> SheetKind:
    return SheetKind(id=name, stock="ply", name=name, width=310, height=210, count=count, price=7.5, **more)  # type: ignore[arg-type]


def plates(count: int) -> list[NestPart]:
    return [NestPart(id="p", stock="ply", profile=rectangle(0, 0, 98, 48), count=count)]


def test_what_is_needed_is_reckoned_with_spacing_margin_and_waste() -> None:
    each = 100 * 50  # with half the spacing around it
    usable = (310 - 10) * (210 - 10)  # without the margin, but for half the spacing
    (told,) = needs(plates(12), [sheet(count=1)], RULES)
    assert told.sheets == pytest.approx(12 * each / FILLED / usable)
    assert (told.there, told.buy, told.price, told.sure) == (1, 1, 7.5, False)  # 1.2 sheets, as a rule
    (many,) = needs(plates(40), [sheet(count=1)], RULES)
    assert (many.buy, many.price, many.sure) == (4, 30.0, True)
    (fine,) = needs(plates(8), [sheet(count=1)], RULES)
    assert fine.buy == 0


def test_offcuts_count_and_a_stock_without_whole_sheets_says_so() -> None:
    offcut = sheet("offcut", outline=((0.0, 0.0), (310.0, 0.0), (0.0, 210.0)))
    (told,) = needs(plates(12), [sheet(count=1), offcut], RULES)
    assert (told.offcuts, told.buy) == (1, 0)
    (none,) = needs(plates(12), [offcut], RULES)
    assert (none.sheet, none.buy, none.sure) == ("", 0, True)


@settings(max_examples=10, deadline=None)
@given(st.integers(1, 30), st.integers(1, 3))
def test_what_is_surely_short_is_never_packed_whole(count: int, there: int) -> None:
    shelf = [sheet(count=there)]
    (told,) = needs(plates(count), shelf, RULES)
    if told.sure:
        assert pack(plates(count), shelf, RULES, Work(500)).unplaced
