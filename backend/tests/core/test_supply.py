"""What a packing needs, known before it is made: worked by hand, and true of packings."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.geom.profile import rectangle
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.supply import needs
from notchcore.nest.values import NestPart, NestRules, SheetKind

RULES = NestRules(margin=6, spacing=2, bed_width=600, bed_height=400)


def sheet(name: str = "whole", count: int = 1, **more: object) -> SheetKind:
    return SheetKind(id=name, stock="ply", name=name, width=310, height=210, count=count, price=7.5, **more)  # type: ignore[arg-type]


def plates(count: int) -> list[NestPart]:
    return [NestPart(id="p", stock="ply", profile=rectangle(0, 0, x1=98, y1=48), count=count)]


def test_what_is_needed_is_packed_once_and_the_last_sheet_counts_as_far_as_it_is_used() -> None:
    """Twelve plates fill a sheet of 310 x 210 exactly, 3 x 4 with 2 mm between and a margin of 6: areas alone would say 1.2 sheets."""
    (told,) = needs(plates(12), [sheet(count=1)], rules=RULES)
    assert told.sheets == pytest.approx(1.0, abs=0.05)
    assert (told.there, told.buy, told.price, told.sure) == (1, 0, 0.0, False)
    (many,) = needs(plates(40), [sheet(count=1)], rules=RULES)
    assert (many.buy, many.price, many.sure) == (3, 22.5, True)
    assert 3.0 < many.sheets <= 4.0
    (lots,) = needs(plates(1200), [sheet(count=1)], rules=RULES)
    assert 99 <= lots.buy <= 120
    tall = [NestPart(id="p", stock="ply", profile=rectangle(0, 0, x1=160, y1=110), count=9)]  # two a sheet; areas alone would say 3.3 sheets
    assert needs(tall, [sheet(count=2)], rules=RULES)[0].buy == 3


def test_offcuts_count_and_a_stock_without_whole_sheets_says_so() -> None:
    offcut = sheet("offcut", outline=((0.0, 0.0), (310.0, 0.0), (0.0, 210.0)))
    (told,) = needs(plates(12), [sheet(count=1), offcut], rules=RULES)
    assert (told.offcuts, told.buy) == (1, 0)
    (none,) = needs(plates(12), [offcut], rules=RULES)
    assert (none.sheet, none.buy, none.sure) == ("", 0, True)


@settings(max_examples=10, deadline=None)
@given(st.integers(1, 30), st.integers(1, 3))
def test_what_is_surely_short_is_never_packed_whole(count: int, there: int) -> None:
    shelf = [sheet(count=there)]
    (told,) = needs(plates(count), shelf, rules=RULES)
    if told.sure:
        assert pack(plates(count), shelf, rules=RULES, work=Work(500)).unplaced
