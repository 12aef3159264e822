"""Inlaid boards: sizes by hand, which square is of which kind, and squares that drop in with the play that was asked for."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.design.assembly import Assembly, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.inlaid import Base, InlaidNumbers, Lattice, Pattern, Sized, kind_of
from notchcore.design.families.registry import FAMILIES
from notchcore.errors import DesignError, NotchCoreError
from notchcore.geom.profile import bounds_of, polygon_of
from notchcore.measure.fit import Feel
from tests.strategies import make_stock, thicknesses

ROLES = [r.id for r in FAMILIES["inlaid"].roles]


def board(numbers: InlaidNumbers, *, t: dict[str, float] | None = None, feel: Feel = Feel.SLIDES) -> Assembly:
    stocks = {r: make_stock(r, (t or {}).get(r, 3.0)) for r in ROLES}
    return build(Design(numbers=numbers, stocks={r: r for r in ROLES}, feel=feel), stocks)


def side(part: Part) -> float:
    x0, _, x1, _ = bounds_of(part.profile.outer)
    return x1 - x0


def parts(assembly: Assembly, begins: str) -> list[Part]:
    return [p for p in assembly.parts if p.id.startswith(begins)]


def test_sizes_by_hand_whichever_is_given() -> None:
    # 4 squares of 30, 3 bars of 4 between them, a border of 15: 120 + 12 + 30
    by_square = InlaidNumbers(columns=4, rows=3, square=30.0, bar=4.0, border=15.0)
    for numbers in (by_square, replace(by_square, sized=Sized.FIELD, across=132.0), replace(by_square, sized=Sized.BOARD, across=162.0)):
        made = board(numbers)
        (lattice,) = parts(made, "lattice")
        assert bounds_of(lattice.profile.outer) == pytest.approx((0.0, 0.0, 162.0, 128.0))
        assert len(lattice.profile.holes) == 12
        assert {round(b[2] - b[0], 6) for b in map(bounds_of, lattice.profile.holes)} == {30.0}
        assert [f.mm for f in made.facts] == [pytest.approx((30.0,)), pytest.approx((132.0,)), pytest.approx((162.0, 128.0))]
    (base,) = parts(board(by_square), "base")
    assert sorted(m.line[0][0] for m in base.marks if m.line[0][0] == m.line[1][0]) == [47.0, 81.0, 115.0]  # the middles of three bars, which hide them


@pytest.mark.parametrize(
    ("pattern", "wanted"),
    [
        (Pattern.CHEQUERED, ["012012", "120120", "201201"]),
        (Pattern.COLUMNS, ["012012", "012012", "012012"]),
        (Pattern.ROWS, ["000000", "111111", "222222"]),
        (Pattern.RINGS, ["000000", "011110", "000000"]),
        (Pattern.PAINTED, ["330101", "103010", "010101"]),
    ],
)
def test_which_square_is_of_which_kind(pattern: Pattern, wanted: list[str]) -> None:
    numbers = InlaidNumbers(columns=6, rows=3, kinds=3, pattern=pattern, painted=((3, 3), (1, 0, 3)))
    assert ["".join(str(kind_of(numbers, row=r, column=c)) for c in range(6)) for r in range(3)] == wanted
    made = board(replace(numbers, kinds=3))
    assert Counter(p.stock for p in parts(made, "square")) == Counter(f"squares_{int(k) + 1}" for k in "".join(wanted))


@settings(max_examples=12, deadline=None)
@given(
    columns=st.integers(1, 9),
    rows=st.integers(1, 9),
    square=st.floats(8, 60),
    bar=st.floats(3, 9),
    thick=st.lists(thicknesses, min_size=len(ROLES), max_size=len(ROLES)),
    feel=st.sampled_from([Feel.SLIDES, Feel.SNUG]),
    base=st.sampled_from(Base),
)
def test_every_square_is_smaller_than_its_opening_by_its_joints_clearance(
    columns: int, rows: int, square: float, bar: float, thick: list[float], feel: Feel, base: Base
) -> None:
    numbers = InlaidNumbers(columns=columns, rows=rows, square=round(square, 2), bar=round(bar, 2), base=base)
    made = board(numbers, t=dict(zip(ROLES, thick, strict=True)), feel=feel)
    if not made.parts:
        assert {f.field for f in made.findings} <= {"square", "bar", "border"}
        return
    squares, joints = parts(made, "square"), {m.b if m.b.startswith("square") else m.a: m for m in made.meetings if m.kind == "inset"}
    assert len(squares) == len(joints) == columns * rows
    for p in squares:
        assert numbers.square - side(p) == pytest.approx(joints[p.id].clearance.value, abs=1e-4)
    (lattice,) = parts(made, "lattice")
    inside = polygon_of(lattice.nominal)
    assert all(polygon_of(p.nominal).intersection(inside).area < 1e-6 for p in squares)
    assert [m.style for m in made.meetings if m.kind == "stack"] == ["glue"] * (base is Base.GLUED)
    assert made.findings == ()


@settings(max_examples=10, deadline=None)
@given(columns=st.integers(1, 7), rows=st.integers(1, 7), square=st.floats(12, 50), t=thicknesses, play=st.floats(0, 1.5))
def test_strips_are_lapped_wherever_they_cross_and_squares_keep_their_play(columns: int, rows: int, square: float, t: float, play: float) -> None:
    numbers = InlaidNumbers(columns=columns, rows=rows, square=round(square, 2), lattice=Lattice.STRIPS, strip=14.0, ends=15.0, play=round(play, 2))
    made = board(numbers, t={"lattice": t})
    if not made.parts:
        assert {f.field for f in made.findings} <= {"square", "strip", "ends"}
        return
    kinds = Counter((m.kind, m.style) for m in made.meetings)
    assert kinds == {("crossing", "lap"): (columns + 1) * (rows + 1), ("tee", "blind"): columns + rows + 2}
    # Between two strips is what the square's room is, and what a sheet off its label leaves more or less.
    clear = numbers.square + make_stock("lattice", t).layout_t - t
    assert {round(side(p), 4) for p in parts(made, "square")} == {round(clear - numbers.play, 4)}


def test_what_cannot_be_names_its_number() -> None:
    def told(**numbers: object) -> set[str | None]:
        made = board(InlaidNumbers(**numbers))  # type: ignore[arg-type]
        assert not made.parts
        return {f.field for f in made.findings}

    assert told(sized=Sized.BOARD, across=60.0) == {"across"}
    assert told(sized=Sized.FIELD, across=40.0) == {"across"}
    assert told(square=5.0, play=4.0, lattice=Lattice.STRIPS) == {"square"}
    assert told(bar=1.0, border=2.0) == {"bar", "border"}
    with pytest.raises(NotchCoreError):
        InlaidNumbers(columns=25)
    for painted in (((4,),), ((-1,),), ((0,) * 25,), ((0,),) * 25):
        with pytest.raises(DesignError):
            InlaidNumbers(painted=painted)
