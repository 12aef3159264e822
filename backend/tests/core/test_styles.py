"""Ways of joining: each that a meeting offers can be chosen, is cut or said why not, and can be left again."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.design.building import build
from notchcore.design.families.registry import FAMILIES
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.styles import ABOUT, Style, named
from tests.strategies import family_designs


@given(st.sampled_from(sorted(FAMILIES)).flatmap(family_designs), st.data())
@settings(max_examples=25, deadline=None)
def test_no_way_of_joining_is_a_dead_end(drawn: tuple, data: st.DataObject) -> None:
    design, stocks = drawn
    before = build(design, stocks)
    offering = [m for m in before.meetings if len(m.ways) > 1]
    if not offering:
        return
    chosen = data.draw(st.sampled_from(offering))
    for way in chosen.ways:
        assembly = build(replace(design, choices={**design.choices, chosen.id: MeetingChoice(style=way)}), stocks)
        now = next(m for m in assembly.meetings if m.id == chosen.id)
        assert (now.asked, now.ways) == (way, chosen.ways)
        assert now.style is way or [f for f in assembly.findings if f.meeting == now.id], (way, now.style)
        assert named(now.style, now.count)
    assert next(m.asked for m in before.meetings if m.id == chosen.id) in chosen.ways


@pytest.mark.parametrize(
    ("style", "count", "name"), [(Style.TABS, 1, "1 tab"), (Style.FINGERS, 5, "5 fingers"), (Style.WHOLE, 1, "one wide tab"), (Style.LAP, 1, "cross-lap")]
)
def test_joints_are_called_by_what_makes_them(style: Style, count: int, name: str) -> None:
    assert named(style, count) == name
    assert set(ABOUT) == set(Style)
