"""What each item takes of a layout: by hand, and always as much in all as there is."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.design.assembly import Part
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose
from notchcore.nest.shares import shares_of
from notchcore.nest.values import Nesting, Placement, SheetLayout

FLAT = Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0))


def plate(name: str, w: float, h: float, item: str = "") -> Part:
    shape = rectangle(0, 0, x1=w, y1=h)
    return Part(id=name, label=name, stock="ply", pose=FLAT, low=0, high=3, profile=shape, nominal=shape, item=item)


def laid(sheet: str, *parts: str) -> SheetLayout:
    places = tuple(Placement(part=p, copy=k, turn=0, x=0.0, y=0.0) for k, p in enumerate(parts))
    return SheetLayout(sheet=sheet, copy=0, stock="ply", name=sheet, width=600, height=400, ring=(), placements=places, utilisation=0.5, leftover=None)


def test_a_sheet_is_shared_by_what_lies_on_it_worked_by_hand() -> None:
    parts = [plate("board", 100, 60), plate("piece:back", 20, 50, "piece"), plate("piece:face", 10, 50, "piece")]
    nesting = Nesting(sheets=(laid("a", "board", "piece:back", "piece:back"), laid("b", "piece:face")), unplaced=(), utilisation=0.5, price=11.0)
    first, more = shares_of(nesting, parts, prices={"a": 8.0, "b": 3.0})
    assert (first.item, first.pieces, first.sheets, first.price) == ("", 1, pytest.approx(0.75), pytest.approx(6.0))
    assert (more.item, more.pieces, more.sheets, more.price) == ("piece", 3, pytest.approx(1.25), pytest.approx(5.0))


@given(st.lists(st.lists(st.integers(0, 5), min_size=1, max_size=8), min_size=1, max_size=5), st.floats(0, 90))
def test_the_shares_of_all_items_are_the_whole(sheets: list[list[int]], price: float) -> None:
    parts = [plate(f"p{k}", 10.0 + 7 * k, 20.0, item=f"i{k % 3}") for k in range(6)]
    layouts = tuple(laid(f"s{n}", *(f"p{k}" for k in some)) for n, some in enumerate(sheets))
    nesting = Nesting(sheets=layouts, unplaced=(), utilisation=0.5, price=price)
    found = shares_of(nesting, parts, prices={f"s{n}": 2.0 + n for n in range(len(sheets) - 1)} | {"s0": 2.0})  # one was taken off the shelf since
    assert sum(s.price for s in found) == pytest.approx(price)
    assert sum(s.sheets for s in found) == pytest.approx(len(sheets))
    assert sum(s.pieces for s in found) == sum(map(len, sheets))
