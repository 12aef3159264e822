"""Parts moved by hand: never where they may not lie, pushed no farther than needed, and left alone when locked."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.errors import NestError
from notchcore.geom.profile import rectangle
from notchcore.nest.gate import faults
from notchcore.nest.manual import FARTHEST, Move, moved, swapped
from notchcore.nest.pack import pack
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind
from tests.core.test_nest import FRAME, OFFCUT, WHOLE, check, ell

PARTS = [
    NestPart(id="ell", stock="ply", profile=ell(90, 60, 20), count=3),
    NestPart(id="plate", stock="ply", profile=rectangle(0, 0, x1=80, y1=40), count=4),
    NestPart(id="frame", stock="ply", profile=FRAME, count=1),
]
BY_ID = {p.id: p for p in PARTS}
SHELF = {k.id: k for k in (WHOLE, OFFCUT)}
RULES = NestRules(spacing=2, margin=3)
PACKED = pack(PARTS, [WHOLE, OFFCUT], rules=RULES, work=Work(5_000))


def lying(nesting: Nesting, part: str, copy: int) -> tuple[str, int, Placement]:
    return next((s.sheet, s.copy, p) for s in nesting.sheets for p in s.placements if (p.part, p.copy) == (part, copy))


def others(nesting: Nesting, part: str, copy: int) -> set[tuple[str, int, Placement]]:
    return {(s.sheet, s.copy, p) for s in nesting.sheets for p in s.placements if (p.part, p.copy) != (part, copy)}


@settings(max_examples=40, deadline=None)
@given(
    st.sampled_from([("ell", 0), ("ell", 2), ("plate", 1), ("plate", 3), ("frame", 0)]),
    st.sampled_from([("whole", 0), ("whole", 1), ("offcut", 0)]),
    st.sampled_from([0, 90, 180, 270]),
    st.floats(-40, 330),
    st.floats(-40, 230),
    st.booleans(),
)
def test_a_part_lies_right_wherever_it_is_put_or_stays_where_it_was(
    which: tuple[str, int], sheet: tuple[str, int], turn: int, x: float, y: float, settle: bool
) -> None:
    move = Move(part=which[0], copy=which[1], sheet=sheet[0], sheet_copy=sheet[1], turn=turn, x=x, y=y)
    try:
        after = moved(PACKED, move, parts=BY_ID, shelf=SHELF, rules=RULES, settle=settle)
    except NestError:
        return
    check(after, PARTS, [WHOLE, OFFCUT], RULES)
    assert others(after, *which) == others(PACKED, *which)
    at = lying(after, *which)
    assert at[:2] == sheet
    assert math.dist((at[2].x, at[2].y), (x, y)) <= (FARTHEST if settle else 0.0)


@settings(max_examples=20, deadline=None)
@given(st.sampled_from([(s.sheet, s.copy) for s in PACKED.sheets]), st.sampled_from([("whole", 0), ("whole", 1), ("whole", 2), ("offcut", 0), ("moon", 0)]))
def test_the_parts_of_a_sheet_lie_on_another_as_they_did_or_nothing_changes(source: tuple[str, int], target: tuple[str, int]) -> None:
    try:
        after = swapped(PACKED, source, target=target, parts=BY_ID, shelf=SHELF, rules=RULES)
    except NestError:
        return
    check(after, PARTS, [WHOLE, OFFCUT], RULES)
    on = {(s.sheet, s.copy): s.placements for s in PACKED.sheets}
    now = {(s.sheet, s.copy): s.placements for s in after.sheets}
    assert now[target] == on[source]
    assert now.get(source, ()) == (on.get(target, ()) if source != target else on[source])


def test_settling_goes_no_farther_than_it_must() -> None:
    alone = pack([NestPart(id="plate", stock="ply", profile=rectangle(0, 0, x1=80, y1=40), count=1)], [WHOLE], rules=RULES, work=Work(1))
    parts = {"plate": NestPart(id="plate", stock="ply", profile=rectangle(0, 0, x1=80, y1=40))}
    after = moved(alone, Move(part="plate", copy=0, sheet="whole", sheet_copy=0, turn=0, x=-4, y=50), parts=parts, shelf=SHELF, rules=RULES, settle=True)
    assert lying(after, "plate", 0)[2].x == pytest.approx(3.0, abs=0.02)
    assert lying(after, "plate", 0)[2].y == pytest.approx(50.0, abs=1e-6)
    same = Move(part="plate", copy=0, sheet="whole", sheet_copy=0, turn=0, x=33.25, y=50)
    assert lying(moved(alone, same, parts=parts, shelf=SHELF, rules=RULES, settle=True), "plate", 0)[2].x == 33.25


@pytest.mark.parametrize(
    ("changes", "told"),
    [
        ({"part": "moon"}, "does not lie on a sheet"),
        ({"copy": 9}, "does not lie on a sheet"),
        ({"sheet": "moon"}, "no such sheet"),
        ({"sheet_copy": 2}, "no such sheet"),
        ({"turn": 45}, "may not be turned"),
        ({"x": -2.0}, "over the margin"),
    ],
)
def test_a_move_that_makes_no_sense_says_why(changes: dict[str, object], told: str) -> None:
    move = {"part": "plate", "copy": 0, "sheet": "whole", "sheet_copy": 1, "turn": 0, "x": 5.0, "y": 5.0} | changes
    with pytest.raises(NestError, match=told):
        moved(PACKED, Move(**move), parts=BY_ID, shelf=SHELF, rules=RULES)  # type: ignore[arg-type]
    other = SheetKind(id="other", stock="felt", name="felt", width=300, height=200)
    with pytest.raises(NestError, match="another stock"):
        moved(PACKED, Move(part="plate", copy=0, sheet="other", sheet_copy=0, turn=0, x=5, y=5), parts=BY_ID, shelf={"other": other}, rules=RULES)


def test_locked_parts_stay_while_the_rest_is_packed_again() -> None:
    before = moved(PACKED, Move(part="plate", copy=2, sheet="whole", sheet_copy=1, turn=90, x=150, y=60), parts=BY_ID, shelf=SHELF, rules=RULES, settle=True)
    where = lying(before, "plate", 2)
    sheet = next(s for s in before.sheets if (s.sheet, s.copy) == where[:2])
    kept = [replace(sheet, placements=(where[2],))]
    after = pack(PARTS, [WHOLE, OFFCUT], rules=RULES, work=Work(8_000), locked=kept)
    check(after, PARTS, [WHOLE, OFFCUT], RULES)
    assert lying(after, "plate", 2) == where
    with pytest.raises(NestError, match="against the rules now"):
        pack(PARTS, [WHOLE, OFFCUT], rules=NestRules(spacing=2, margin=90), work=Work(1), locked=kept)
    with pytest.raises(NestError, match="not on the shelf any more"):
        pack(PARTS, [OFFCUT], rules=RULES, work=Work(1), locked=kept)


def test_everything_locked_is_the_same_packing() -> None:
    after = pack(PARTS, [WHOLE, OFFCUT], rules=RULES, work=Work(1), locked=PACKED.sheets)
    assert {(s.sheet, s.copy, frozenset(s.placements)) for s in after.sheets} == {(s.sheet, s.copy, frozenset(s.placements)) for s in PACKED.sheets}
    assert all(faults(s, BY_ID, rules=RULES) == () for s in after.sheets)
