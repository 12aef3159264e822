"""An item laid with a face of its own on a face of another one."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from notchcore.design.building import build
from notchcore.design.design import Design, Item, Loose
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.many_sided_numbers import ManySidedNumbers
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.items import build_whole, members_of
from notchcore.design.laying import laid_on, turned_to
from notchcore.design.placing import standing
from notchcore.errors import DesignError
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import dot
from tests.core.test_items import STOCKS, of

BOX = of(BoxNumbers(width=120, depth=80, height=50))
TRAY = of(ManySidedNumbers(sides=6, width=90, height=40, lean=15))
TILE = of(PlateNumbers(width=60, height=30))


def laid(design: Design, part: str, *, onto: str) -> Design:
    return laid_on(design, part=part, onto=onto, built=lambda body: build(body, STOCKS))


def beside(design: Design, **more: object) -> Item:
    return Item(id="it", label="It", design=design, **more)  # type: ignore[arg-type]


@given(st.floats(-180, 180), st.floats(-180, 180), st.floats(0, 180), st.floats(-180, 180), st.floats(-180, 180), st.floats(-180, 180))
def test_a_direction_is_turned_to_where_it_is_wanted(turn: float, tip: float, high: float, round_: float, was: float, tipped: float) -> None:
    a, b = math.radians(high), math.radians(round_)
    own = (math.sin(a) * math.cos(b), math.sin(a) * math.sin(b), math.cos(a))
    wanted = standing(turn, tip=tip).turned(own)  # somewhere that it can come to
    found = turned_to(own, wanted, now=(was, tipped))
    assert found is not None
    got = standing(found[0], tip=found[1]).turned(own)
    assert dot(got, wanted) > 1 - 1e-9
    assert all(-180 <= v <= 180 for v in found)


def test_a_direction_along_the_line_from_left_to_right_cannot_look_up() -> None:
    assert turned_to((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)) is None
    assert turned_to((0.0, 0.0, 1.0), (0.0, 0.0, 1.0), now=(30.0, 0.0)) == (30.0, 0.0)  # it looks there already: nothing is turned


def test_a_tile_laid_on_the_front_of_a_box_by_hand() -> None:
    design = laid(replace(BOX, items=(beside(TILE, turn=20.0, at=(7.0, 8.0, 9.0)),)), "it:sheet", onto="front")
    (item,) = design.items
    assert item.tip in (-90.0, 90.0)
    (tile,) = (p for p in build_whole(design, STOCKS).parts if p.id == "it:sheet")
    low_x, low_y, low_z, high_x, high_y, high_z = box_of(tile.slab())
    assert (low_y, high_y) == pytest.approx((-3.1, 0.0), abs=1e-3)  # before the front, whose outer face is y = 0
    assert ((low_x + high_x) / 2, (low_z + high_z) / 2) == pytest.approx((60.0, 25.0), abs=0.2)  # middle on middle
    assert (high_x - low_x, high_z - low_z) == pytest.approx((60.0, 30.0), abs=1e-3)


@settings(max_examples=12)
@given(st.sampled_from([BOX, TRAY]), st.sampled_from([BOX, TRAY, TILE]), st.floats(-180, 180), st.sampled_from([-90.0, 0.0, 25.0, 90.0, 180.0]), st.data())
def test_faces_lie_on_each_other_wherever_both_stood(host: Design, guest: Design, turn: float, tip: float, data: st.DataObject) -> None:
    design = replace(host, items=(beside(guest, turn=turn, tip=tip), replace(beside(BOX), id="third", at=(5.0, 6.0, 7.0), tip=30.0)))
    parts = {m.id: [p.id for p in m.assembly.parts] for m in members_of(design, lambda body: build(body, STOCKS))}
    part = data.draw(st.sampled_from(parts["it"]))
    to = data.draw(st.sampled_from(["main", "third"]))
    onto = data.draw(st.sampled_from(parts[to]))
    try:
        after = laid(design, f"it:{part}", onto=onto if to == "main" else f"{to}:{onto}")
    except DesignError:
        assume(False)
    parts_after = {p.id: p for p in build_whole(after, STOCKS).parts}
    own, there = parts_after[f"it:{part}"], parts_after[onto if to == "main" else f"{to}:{onto}"]
    assert abs(dot(own.pose.normal, there.pose.normal)) > 1 - 1e-7
    heights = [sorted(dot(p.pose.to_world((0.0, 0.0), z), there.pose.normal) for z in (p.low, p.high)) for p in (own, there)]
    touch = min(abs(heights[0][1] - heights[1][0]), abs(heights[0][0] - heights[1][1]))
    assert touch < 2e-3
    before = {p.id: p for p in build_whole(design, STOCKS).parts}
    assert {k: p.profile for k, p in parts_after.items()} == {k: p.profile for k, p in before.items()}  # nothing is cut otherwise
    still = [k for k in before if not k.startswith("it:")]  # and nothing else has moved
    assert max(math.dist(before[k].pose.origin, parts_after[k].pose.origin) for k in still) < 2e-3


def test_what_cannot_be_laid_is_told_and_nothing_is_lost() -> None:
    held = replace(BOX, items=(beside(TILE), replace(beside(TILE), id="drawer", loose=Loose(host="main", room="compartment-1"))))
    for part, onto, key in (
        ("front", "it:sheet", "not_laid.held"),  # the first stands as it stands
        ("drawer:sheet", "front", "not_laid.held"),
        ("it:sheet", "it:sheet", "not_laid.itself"),
        ("it:gone", "front", "no_such_panel"),
    ):
        with pytest.raises(DesignError) as told:
            laid(held, part, onto=onto)
        assert told.value.says.key == key
