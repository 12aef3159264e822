"""Why a panel is as large as it is: the shares add up to its size, and say what a change will do."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.design.between import Axis, Between
from notchcore.design.braces import Brace
from notchcore.design.building import build
from notchcore.design.design import Design, Pin
from notchcore.design.edges import Edge
from notchcore.design.families.box import ROLES, BoxNumbers, Sizing
from notchcore.design.families.registry import FAMILIES
from notchcore.design.sizes import Along, drawn_size, pinned, size_ledger, size_of
from notchcore.design.walls import Wall
from notchcore.errors import DesignError
from notchcore.findings import Severity
from tests.strategies import family_designs, make_stock


def a_box(t: float = 3.1, sizing: Sizing = Sizing.INSIDE) -> tuple[Design, dict]:
    stocks = {r.id: make_stock(r.id, t) for r in ROLES}
    return Design(numbers=BoxNumbers(width=100, depth=80, height=50, sizing=sizing), stocks={k: k for k in stocks}), stocks


def test_an_inside_box_is_wider_by_two_walls_and_says_so_by_hand() -> None:
    design, stocks = a_box()
    q = size_ledger(design, build(design, stocks), stocks=stocks, part_id="front", along=Along.X)
    assert [(t.label.text, round(t.value, 4), round(t.sd, 4)) for t in q.terms] == [
        ("Width", 100.0, 0.0),
        ("walls, thickness × 2", 6.2, round(2 * stocks["walls"].thickness.sd, 4)),
    ]
    assert drawn_size(q, stocks["walls"].kerf).value == pytest.approx(106.2 + 0.16)


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(sorted(FAMILIES)), st.data())
def test_the_terms_add_up_to_the_size_of_every_part(family: str, data: st.DataObject) -> None:
    design, stocks = data.draw(family_designs(family))
    assembly = build(design, stocks)
    for part in assembly.parts[:: max(1, len(assembly.parts) // 3)]:
        for along in Along:
            q = size_ledger(design, assembly, stocks=stocks, part_id=part.id, along=along)
            assert q.value == pytest.approx(size_of(part, along), abs=1e-6)
            assert all(t.sd == 0 or "thickness" in t.label.text for t in q.terms)


@settings(max_examples=20, deadline=None)
@given(st.sampled_from(["width", "depth", "height"]), st.floats(0.5, 5.0), st.sampled_from(list(Sizing)))
def test_a_share_says_what_a_change_of_its_number_does(name: str, by: float, sizing: Sizing) -> None:
    design, stocks = a_box(sizing=sizing)
    other = replace(design, numbers=replace(design.numbers, **{name: getattr(design.numbers, name) + by}))
    before, after = build(design, stocks), build(other, stocks)
    label = {"width": "Width", "depth": "Depth", "height": "Height"}[name]
    for part in before.parts:
        for along in Along:
            share = sum(t.value for t in size_ledger(design, before, stocks=stocks, part_id=part.id, along=along).terms if t.label.text == label) / getattr(
                design.numbers, name
            )
            assert size_of(after.part(part.id), along) - size_of(part, along) == pytest.approx(share * by, abs=1e-3)


@settings(max_examples=10, deadline=None)
@given(on=st.tuples(st.floats(25, 36), st.floats(25, 45)), rise=st.floats(-18, 18), kept=st.floats(5, 25))  # clear of the rims, where joints take some
def test_sizes_of_added_panels_come_from_their_lengths_and_nothing_is_left_unsaid(on: tuple[float, float], rise: float, kept: float) -> None:
    design, stocks = a_box(sizing=Sizing.OUTSIDE)
    brace = Brace(id="brace", label="Brace", stock="base", a="left", b="base", on_a=on[0], on_b=on[1], inset_low=kept)
    ramp = Between(id="ramp", label="Ramp", stock="base", a="front", b="back", axis=Axis.Z, at=30.0, rise=rise, inset_high=kept)
    rim = Wall(id="rim", label="Rim", stock="walls", host="back", edge=Edge.UPPER, height=kept)
    for one in (brace, ramp, rim):
        changed = replace(design, added=(one,))
        assembly = build(changed, stocks)
        ledgers = {along: size_ledger(changed, assembly, stocks=stocks, part_id=one.id, along=along) for along in Along}
        told = {t.label.text.split(" × ")[0].removesuffix(", less"): t for q in ledgers.values() for t in q.terms}
        for along, q in ledgers.items():
            assert q.value == pytest.approx(size_of(assembly.part(one.id), along), abs=1e-6)
        if one is rim:
            assert told["Height"].value == pytest.approx(kept)
        else:
            assert abs(told["Kept back, low end" if one is brace else "Kept back, high end"].value) == pytest.approx(kept, rel=0.1)
            assert not [t for t in told.values() if t.label.text.startswith("Fixed")]


def test_pins_follow_the_part_and_lost_ones_are_left_out() -> None:
    design, stocks = a_box()
    assembly = build(design, stocks)
    slot = next(f for f in assembly.part("front").features if f.kind.is_gap)
    pins = (Pin(part="front", what="x"), Pin(part="front", what=slot.id), Pin(part="front", what="gone"), Pin(part="gone", what="y"))
    found = pinned(assembly, pins, stocks=stocks)
    assert [(p.label, round(p.drawn - p.finished, 3)) for p in found] == [("width", 0.16), (slot.kind.value, -0.16)]
    assert not [f for f in build(replace(design, pins=pins), stocks).findings if f.severity is Severity.MUST]


def test_a_panel_that_is_gone_has_no_size() -> None:
    design, stocks = a_box()
    with pytest.raises(DesignError, match="no longer there"):
        size_ledger(design, build(design, stocks), stocks=stocks, part_id="gone", along=Along.X)
