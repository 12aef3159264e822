"""Stacking pieces: the foot enters the recess with the play that was asked for, whatever the shape; floors stay whole."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from notchcore.check.dry_fit import dry_fit
from notchcore.design.assembly import Assembly
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.stacking import ROLES, Deepened, PieceShape, StackingNumbers
from notchcore.findings import Severity
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import polygon_of
from notchcore.measure.machine import Operation
from tests.strategies import make_stock

IDS = [r.id for r in ROLES]


def made(numbers: StackingNumbers, *t: float) -> Assembly:
    stocks = {r: make_stock(r, k) for r, k in zip(IDS, t or (3.0,) * 4, strict=True)}
    return build(Design(numbers=numbers, stocks={r: r for r in IDS}), stocks)


def recess_of(pieces: Assembly, kind: int) -> Polygon:
    """The outline of what is taken away, or left open, of one piece."""
    there = {p.id: p for p in pieces.parts}
    if f"ring-{kind}" in there:
        return Polygon(there[f"ring-{kind}"].profile.holes[0])
    (mark,) = [m for m in there[f"body-{kind}"].marks if m.operation is Operation.ENGRAVE]
    return Polygon(mark.line)


@given(
    shape=st.sampled_from(PieceShape),
    recess=st.sampled_from(Deepened),
    across=st.floats(16.0, 90.0),
    rim=st.floats(3.5, 6.0),
    play=st.floats(0.1, 1.5),
    sides=st.integers(3, 12),
)
def test_a_foot_has_its_play_all_round_in_the_recess_of_any_other(
    shape: PieceShape, recess: Deepened, across: float, rim: float, play: float, sides: int
) -> None:
    numbers = StackingNumbers(shape=shape, recess=recess, across=across, rim=rim, play=play, sides=sides, many_3=2)
    pieces = made(numbers, 3.0, 3.2, 2.9, 4.0)
    assume(pieces.parts)
    for kind in (1, 2, 3):
        foot = polygon_of(pieces.part(f"foot-{kind}").profile)
        for other in (1, 2, 3):
            room = recess_of(pieces, other)
            x = (room.bounds[0] + room.bounds[2]) / 2 - (foot.bounds[0] + foot.bounds[2]) / 2
            there = Polygon([(u + x, v) for u, v in foot.exterior.coords])
            assert room.contains(there)
            assert room.exterior.distance(there) == pytest.approx(play / 2, abs=0.02)
        body = polygon_of(pieces.part(f"body-{kind}").profile)
        assert body.exterior.distance(foot) == pytest.approx(rim, abs=0.02)


def test_counts_gaps_and_joints_by_hand() -> None:
    pieces = made(StackingNumbers(many_1=12, many_2=7, depth=1.2))
    assert {p.id: p.copies for p in pieces.parts} == {"foot-1": 12, "body-1": 12, "foot-2": 7, "body-2": 7}
    assert [(f.label, f.mm) for f in pieces.facts] == [
        ("Foot, across", (18.0,)),
        ("Recess, across", (pytest.approx(18.4),)),
        ("Gap between two that are stacked, at most", (pytest.approx(1.8),)),
    ]
    assert [m.style for m in pieces.meetings] == ["glue", "glue"]
    ring = made(StackingNumbers(many_2=0, rim=4.0, recess=Deepened.RING))
    assert [p.id for p in ring.parts] == ["body-1", "foot-1", "ring-1"]
    assert ring.facts[2].mm == (0.0,)
    fit = dry_fit(ring, {r: make_stock(r, 3.0) for r in IDS})
    assert [f.code for f in fit.findings if f.severity is Severity.MUST] == []
    assert [s.parts for s in fit.order.steps] == [("foot-1",), ("body-1",), ("ring-1",)]


@pytest.mark.parametrize(
    ("numbers", "field", "code"),
    [
        (StackingNumbers(many_1=0, many_2=0), "many_1", "no_pieces_wanted"),
        (StackingNumbers(rim=11.0), "rim", "rim_too_wide"),
        (StackingNumbers(rim=1.0, recess=Deepened.RING), "rim", "rim_too_narrow"),
        (StackingNumbers(depth=2.0), "depth", "recess_too_deep"),
    ],
)
def test_what_leaves_nothing_is_told_at_its_number(numbers: StackingNumbers, field: str, code: str) -> None:
    pieces = made(numbers)
    assert not pieces.parts
    (told,) = pieces.findings
    assert (told.code, told.field) == (code, field)
    better = told.facts.get("most_mm", told.facts.get("least_mm"))
    if better is not None:
        assert made(replace(numbers, **{field: better})).parts
