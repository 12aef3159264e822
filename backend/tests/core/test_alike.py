"""Parts that are alike: told whatever their place, gathered in the order of assembly, drawn together in the guide."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from notchcore.check.blocking import Blocking
from notchcore.check.dry_fit import dry_fit
from notchcore.check.gather import gathered
from notchcore.check.order import AssemblyOrder, Step
from notchcore.check.steps import guide
from notchcore.design.alike import counted, likes_of
from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.families.inlaid import InlaidNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.formats.guide import drawn_together, guide_pdf
from notchcore.geom.planar import moved
from notchcore.geom.profile import Profile, polygon_of, profile_of
from notchcore.geom.vectors import scale
from tests.strategies import family_designs, make_stock

ROLES = [r.id for r in FAMILIES["inlaid"].roles]
STOCKS = {r: make_stock(r, 3.0) for r in ROLES}


def board(**edits: PanelEdit) -> Assembly:
    return build(Design(numbers=InlaidNumbers(columns=4, rows=3), stocks={r: r for r in ROLES}, edits=edits), STOCKS)


def test_squares_are_alike_by_stock_and_by_what_is_chosen_of_one() -> None:
    groups = likes_of(board().parts)
    kinds = [sum(like == first for like in groups.values()) for first in set(groups.values())]
    assert sorted(kinds) == [1, 1, 6, 6]
    for edit in (PanelEdit(bridges=2), PanelEdit(stock="base"), PanelEdit(helper=True)):
        other = likes_of(board(**{"square-2-2": edit}).parts)
        assert other["square-2-2"] == "square-2-2"
        assert "square-2-2" not in {k for k, v in other.items() if v != k}
    assert counted(["a", "b", "c", "d", "e"], dict.fromkeys("abcd", "a") | {"e": "e"}) == [["a", "b", "c", "d"], ["e"]]
    assert counted(["a", "b", "c"], dict.fromkeys("abc", "a")) == [["a"], ["b"], ["c"]]


@given(st.integers(0, 10_000))
@settings(max_examples=40)
def test_a_part_is_alike_wherever_it_lies_and_whatever_its_outline_begins_with(seed: int) -> None:
    r = Random(seed)
    part = replace(board().part("lattice"), marks=(Mark(line=((1.0, 1.0), (9.0, 1.0), (9.0, 7.5))),))
    dx, dy = r.uniform(-500, 500), r.uniform(-500, 500)

    def there(ring: tuple[tuple[float, float], ...], turn: int) -> tuple[tuple[float, float], ...]:
        return tuple((x + dx, y + dy) for x, y in (*ring[turn:], *ring[:turn]))

    holes = [there(h, r.randrange(4)) for h in part.profile.holes]
    r.shuffle(holes)
    outer = there(part.profile.outer, r.randrange(len(part.profile.outer)))
    moved_there = replace(
        part, id="there", profile=Profile(outer=outer, holes=tuple(holes)), marks=(replace(part.marks[0], line=there(part.marks[0].line, 0)),)
    )
    assert likes_of([part, moved_there]) == {"lattice": "lattice", "there": "lattice"}
    mirrored = replace(moved_there, marks=(replace(part.marks[0], line=there(((1.0, 1.0), (9.0, 1.0), (9.0, 7.6)), 0)),))
    assert likes_of([part, mirrored])["there"] == "there"
    longer = profile_of(moved(polygon_of(part.profile), (1.01, 0.0, 0.0, 1.0, 0.0, 0.0)))
    assert likes_of([part, replace(part, id="there", profile=longer)])["there"] == "there"


def test_alike_squares_follow_each_other_and_are_one_picture() -> None:
    made = board()
    fit = dry_fit(made, STOCKS)
    steps = guide(made, fit.order, stocks=STOCKS)
    assert [s.like[:6] for s in steps[:2]] == ["base", "lattic"]
    shown, numbers = drawn_together(steps)
    assert (numbers, [len(s.parts) for s in shown]) == (["1", "2", "3–8", "9–14"], [1, 1, 6, 6])
    noted = guide(made, fit.order, stocks=STOCKS, notes={steps[4].key: "the dark one with the knot"})
    assert drawn_together(noted)[1] == ["1", "2", "3", "4", "5", "6", "7", "8", "9–14"]  # runs of two and three are few
    pdf = guide_pdf(made, steps, colours={}, title="Seed board", revision=1)
    assert pdf.count(b"/Type /Page\n") < guide_pdf(made, noted, colours={}, title="Seed board", revision=1).count(b"/Type /Page\n")


@given(st.sampled_from(sorted(set(FAMILIES) - {"crate"})).flatmap(family_designs))
@settings(max_examples=25, deadline=None)
def test_a_gathered_order_can_be_done(drawn: tuple[Design, dict[str, object]]) -> None:
    design, stocks = drawn
    made = build(design, stocks)  # type: ignore[arg-type]
    assume(made.parts)
    fit = dry_fit(made, stocks)  # type: ignore[arg-type]
    blocking, at = Blocking(made.parts), {p.id: i for i, p in enumerate(made.parts)}
    steps = fit.order.steps
    for k, step in enumerate(steps):
        if len(step.parts) > 1 or any(len(s.parts) > 1 for s in steps) or step.last is not None or step.tip is not None or k == 0:
            continue
        there = [p for s in steps[:k] for p in s.parts]
        assert not any(blocking.blocks(at[step.parts[0]], at[p], d=scale(step.direction, -1.0)) for p in there)


def test_alike_parts_pass_nothing_that_is_in_their_way_or_that_they_rest_on() -> None:
    base = board().part("base")
    down = (0.0, 0.0, -1.0)

    def at(name: str, x: float, z: float) -> Part:
        return replace(base, id=name, pose=replace(base.pose, origin=(x, 0.0, z)))

    def order_of(parts: tuple[Part, ...], *met: tuple[str, str]) -> list[str]:
        likes = {p.id: p.id[0] for p in parts}
        order = AssemblyOrder(steps=tuple(Step(parts=(p.id,), direction=down) for p in parts))
        return [s.parts[0] for s in gathered(order, parts, likes=likes, met=met).steps]

    one, above, beside = at("a1", 0.0, 0.0), at("b1", 0.0, 20.0), at("b1", 900.0, 0.0)
    assert order_of((one, beside, at("a2", 0.0, 40.0))) == ["a1", "a2", "b1"]
    assert order_of((one, above, at("a2", 0.0, 40.0))) == ["a1", "b1", "a2"]  # b1 would come down on it
    assert order_of((one, beside, at("a2", 0.0, 40.0)), ("a2", "b1")) == ["a1", "b1", "a2"]  # it may rest on b1
