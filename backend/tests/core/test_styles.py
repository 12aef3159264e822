"""Ways of joining: each that a meeting offers can be chosen, is cut or said why not, and can be left again."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.dry_fit import dry_fit
from notchcore.check.steps import HintKind, guide
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.shelf import ShelfNumbers
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.styles import ABOUT, Style, named
from notchcore.findings import Severity
from tests.strategies import family_designs, make_stock


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


def test_a_free_edge_ends_at_its_mate_and_nothing_is_cut_scored_or_glued() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in FAMILIES["shelf"].roles}
    design = Design(numbers=ShelfNumbers(), stocks={r: r for r in stocks})
    before = build(design, stocks)
    for meeting in (next(m for m in before.meetings if m.kind == kind) for kind in ("tee", "corner") if kind in {m.kind for m in before.meetings}):
        made = build(replace(design, choices={meeting.id: MeetingChoice(style=Style.REST)}), stocks)
        butted = build(replace(design, choices={meeting.id: MeetingChoice(style=Style.BUTT)}), stocks)
        now = next(m for m in made.meetings if m.id == meeting.id)
        assert (now.style, now.feel, now.holds) == (Style.REST, None, False)
        assert not [f for p in made.parts for f in p.features if f.meeting == meeting.id]
        for part in made.parts:  # no further than an edge that is glued, and no line
            assert (part.profile, part.marks) == (butted.part(part.id).profile, butted.part(part.id).marks)
        fit = dry_fit(made, stocks)
        assert "collision" not in {f.code for f in fit.findings if f.severity is Severity.MUST}
        pair = {meeting.a, meeting.b}
        only = [p for p in pair if all({m.a, m.b} == pair or p not in (m.a, m.b) for m in made.meetings)]
        glued = {p for s in guide(made, fit.order, stocks=stocks) for h in s.hints if h.kind is HintKind.GLUE for p in s.parts}
        assert not glued & set(only)
