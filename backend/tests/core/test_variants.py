"""What comes in alternatives: each variation is chosen apart, and what it is not about stays."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from itertools import permutations
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.design.assembly import Assembly
from notchcore.design.building import build
from notchcore.design.design import Design, Item, Loose, as_chosen
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.box_room import Top
from notchcore.design.families.case import CaseNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.values import Hole, Text
from notchcore.design.filling import filled
from notchcore.design.items import build_whole, members_of
from notchcore.design.plates import OnFace
from notchcore.design.scaling import scaled
from notchcore.design.variants import choosable, chosen_now, in_words, together, variants, with_choice, without_lost
from notchcore.design.variations import Alternative, Variation
from notchcore.errors import NotchCoreError
from notchcore.geom.profile import bounds_of
from tests.strategies import make_stock

STOCKS = {k: make_stock(k, t) for k, t in {"ply": 3.1, "board": 4.0, "felt": 2.0}.items()}
SMALL, LARGE = BoxNumbers(width=120, depth=90, height=50), BoxNumbers(width=240, depth=150, height=80)
SIZE = Variation(name="Size", alternatives=(Alternative(name="6 in", sizes=SMALL), Alternative(name="9 in", sizes=LARGE, scale=1.5)), chosen="6 in")
LETTERING = Variation(
    name="Lettering", chosen="engraved", alternatives=(Alternative(name="engraved", panels=("plate",)), Alternative(name="on a plate", features=("words",)))
)
LID = Variation(
    name="Lid",
    chosen="open",
    alternatives=(Alternative(name="open", numbers={"top": Top.OPEN.value}), Alternative(name="lid", numbers={"top": Top.LIFT_OFF.value})),
)
WOOD = Variation(
    name="Wood", chosen="plain", alternatives=(Alternative(name="plain", stocks={"base": "ply"}), Alternative(name="thick", stocks={"base": "board"}))
)
ALL = (SIZE, LETTERING, LID, WOOD)
WORDS = Text(id="words", panel="front", words="BEANS", cap=8.0, x=2.0)
PLATE = OnFace(id="plate", label="Plate", stock="felt", host="front", x=10.0, y=10.0, width=40.0, height=15.0)


def a_box(*variations: Variation, numbers: BoxNumbers = SMALL, **more: Any) -> Design:
    given_more = {"features": (WORDS,), "added": (PLATE,), **more}
    return Design(numbers=numbers, stocks=dict.fromkeys((r.id for r in FAMILIES["box"].roles), "ply"), variations=variations, **given_more)


def sizes(assembly: Assembly) -> dict[str, tuple[float, float, str]]:
    found = {}
    for p in assembly.parts:
        x0, y0, x1, y1 = bounds_of(p.profile.outer)
        found[p.id] = (round(x1 - x0, 3), round(y1 - y0, 3), p.stock)
    return found


def test_size_and_lettering_are_chosen_apart_and_exactly_the_chosen_parts_are_there() -> None:
    design = a_box(*ALL)
    made = build(design, STOCKS)
    assert "plate" not in sizes(made)
    assert made.left_out == {"plate": "Plate"}
    assert any(m.feature == "words" for m in made.part("front").marks)
    other = build(with_choice(design, {"Size": "9 in", "Lettering": "on a plate", "Lid": "lid", "Wood": "thick"}), STOCKS)
    assert sizes(other)["front"][:2] == (240.0, 80.0)
    assert sizes(other)["plate"] == (60.0, 22.5, "felt")  # the plate is common to both sizes, and grows with them
    assert sizes(other)["base"][2] == "board"
    assert "lid" in sizes(other)
    assert not any(m.feature == "words" for m in other.part("front").marks)
    assert made.findings == other.findings == ()


def test_each_variation_that_nobody_chose_is_told_and_everything_is_there() -> None:
    made = build(a_box(replace(SIZE, chosen=""), replace(LETTERING, chosen=""), LID), STOCKS)
    assert [(f.code, f.facts["variation"]) for f in made.findings] == [("variation_not_chosen", "Size"), ("variation_not_chosen", "Lettering")]
    assert "plate" in sizes(made)


@given(st.permutations(ALL), st.permutations([("Size", "9 in"), ("Lettering", "on a plate"), ("Lid", "lid"), ("Wood", "thick")]), st.floats(0.5, 1.6))
def test_the_order_of_choosing_changes_nothing_and_all_comes_back(order: list[Variation], choices: list[tuple[str, str]], factor: float) -> None:
    design = scaled(a_box(*order), factor)
    there = design
    for name, alternative in choices:
        there = with_choice(there, {name: alternative})
    at_once = with_choice(design, dict(choices))
    assert sizes(build(there, STOCKS)) == sizes(build(at_once, STOCKS))
    back = with_choice(there, {v.name: v.chosen for v in ALL})
    assert sizes(build(back, STOCKS)) == sizes(build(design, STOCKS))
    assert chosen_now(back) == chosen_now(design)


def test_what_is_changed_belongs_to_the_alternative_that_is_chosen() -> None:
    design = a_box(SIZE, LID)
    changed = replace(design, numbers=replace(SMALL, width=130.0, top=Top.LIFT_OFF))
    large = with_choice(with_choice(changed, {"Size": "9 in"}), {"Lid": "lid"})
    assert (large.numbers.width, large.numbers.top) == (240.0, Top.LIFT_OFF)  # type: ignore[union-attr]
    again = with_choice(large, {"Size": "6 in", "Lid": "open"})
    assert (again.numbers.width, again.numbers.top) == (130.0, Top.LIFT_OFF)  # type: ignore[union-attr]
    # Scaled while one size is chosen, the other stays as it is; what they have in common comes back to its size with it.
    hole = Hole(id="hole", panel="front", diameter=9.0, x=10.0)
    twice = scaled(a_box(SIZE, features=(hole,)), 2.0)
    back = with_choice(twice, {"Size": "9 in"})
    assert (back.numbers.width, back.features[0].x, with_choice(back, {"Size": "6 in"}).features[0].x) == (240.0, 15.0, 20.0)  # type: ignore[union-attr]


def test_a_single_length_that_another_variation_sets_grows_with_the_size() -> None:
    low = Variation(
        name="Rim", alternatives=(Alternative(name="low", numbers={"height": 50.0}), Alternative(name="high", numbers={"height": 80.0})), chosen="low"
    )
    design = a_box(SIZE, low, features=(), added=())
    every = [with_choice(design, choice).numbers.height for choice in variants(design)]  # type: ignore[union-attr]
    assert every == [50.0, 80.0, 75.0, 120.0]
    assert with_choice(scaled(design, 2.0), {"Rim": "high"}).numbers.height == 160.0  # type: ignore[union-attr]


def a_cabinet() -> Design:
    stocks = {r.id: "ply" for r in FAMILIES["case"].roles}
    plain, fine = Alternative(name="plain", items=("label",), stocks={"back": "ply"}), Alternative(name="fine", stocks={"back": "board"})
    sides = Variation(name="Wood", alternatives=(plain, fine), chosen="plain")
    case = Design(numbers=CaseNumbers(), stocks=stocks, variations=(sides,))
    case = filled(case, members_of(case, lambda b: build(b, STOCKS))[0])
    front = Variation(name="Wood", alternatives=(Alternative(name="plain"), Alternative(name="fine", features=("words",))), chosen="plain")
    items = (replace(case.items[0], design=replace(case.items[0].design, variations=(front,), features=(WORDS,))), *case.items[1:])
    label = Item(id="label", label="Label", design=a_box(features=(), added=()), count=3)
    return replace(case, items=(*items, label), name="Cabinet")


def test_items_follow_a_variation_of_the_same_name_and_may_be_left_out_by_it() -> None:
    project = a_cabinet()
    assert choosable(project) == {"Wood": ("plain", "fine")}
    assert chosen_now(project) == {"Wood": "plain"}
    plain, fine = (build_whole(with_choice(project, {"Wood": name}), STOCKS) for name in ("plain", "fine"))
    assert {i.item for i in plain.parts} | {"label"} == {i.item for i in fine.parts}
    words = [any(m.feature == "words" for p in made.parts for m in p.marks) for made in (plain, fine)]
    assert words == [True, False]
    mixed = replace(project, items=tuple(replace(i, design=with_choice(i.design, {"Wood": "fine"})) if i.design.variations else i for i in project.items))
    assert chosen_now(mixed) == {"Wood": ""}


def counted(assembly: Assembly) -> Counter[tuple[object, ...]]:
    """Return how many there are of each piece, by its size, stock and how much is burned on it."""
    found: Counter[tuple[object, ...]] = Counter()
    for p in assembly.parts:
        x0, y0, x1, y1 = bounds_of(p.profile.outer)
        found[round(x1 - x0, 2), round(y1 - y0, 2), p.stock, len(p.profile.outer), len(p.marks)] += p.copies
    return found


@pytest.mark.parametrize("project", [a_box(*ALL), a_cabinet()], ids=["box", "cabinet"])
def test_variants_made_together_are_the_pieces_of_each_so_many_times(project: Design) -> None:
    wanted = [(choice, 1 + k % 3) for k, choice in enumerate(variants(project))]
    one = together(project, wanted)
    assert not one.variations
    assert not any(i.design.variations for i in one.items)
    alone: Counter[tuple[object, ...]] = Counter()
    for choice, count in wanted:
        for piece, n in counted(build_whole(with_choice(project, choice), STOCKS)).items():
            alone[piece] += n * count
    assert counted(build_whole(one, STOCKS)) == alone
    labels = [one.name, *(i.label for i in one.items)]
    assert len(set(labels)) == len(labels)
    assert one.name.endswith(in_words(wanted[0][0]))
    assert [i.loose.host for i in one.items if isinstance(i.loose, Loose)].count("main") == sum(isinstance(i.loose, Loose) for i in project.items)


def test_what_changes_no_part_leaves_what_was_found_out_as_it_is() -> None:
    design = a_box(SIZE, LETTERING)
    more = replace(design, variations=(replace(SIZE, alternatives=(*SIZE.alternatives, Alternative(name="12 in", sizes=LARGE))), LETTERING))
    assert more.shape == design.shape
    assert with_choice(design, {"Size": "9 in"}).shape != design.shape
    assert as_chosen(design).edits == {"plate": PanelEdit(gone=True)}


def test_what_is_taken_off_is_forgotten_by_the_alternatives_that_went_without_it() -> None:
    project = a_cabinet()
    inner = replace(project.items[0], design=replace(project.items[0].design, features=()))
    fewer = without_lost(replace(project, items=(inner, *project.items[1:-1])), project)
    assert [a.items for a in fewer.variations[0].alternatives] == [(), ()]
    assert [a.features for a in fewer.items[0].design.variations[0].alternatives] == [(), ()]
    box = a_box(LETTERING)
    bare = without_lost(replace(box, features=(), added=()), box)
    assert [(a.features, a.panels) for a in bare.variations[0].alternatives] == [((), ()), ((), ())]
    assert without_lost(box, replace(box, features=(), added=())) == box


ONE = Alternative(name="a")
REFUSED: dict[str, Any] = {
    "no_such_alternative.of": lambda: a_box(replace(SIZE, chosen="moon")),
    "alternatives_most": lambda: Variation(name="Size", alternatives=()),
    "two_alternatives_of_one_name": lambda: Variation(name="Size", alternatives=(ONE, ONE)),
    "alternatives_differ": lambda: Variation(name="Size", alternatives=(ONE, Alternative(name="b", sizes=SMALL))),
    "variation_name": lambda: Alternative(name="  "),
    "two_variations_of_one_name": lambda: a_box(SIZE, replace(LID, name="Size")),
    "set_by_two_variations": lambda: a_box(SIZE, replace(SIZE, name="Size too")),
    "variation_of_nothing": lambda: a_box(Variation(name="Moon", alternatives=(Alternative(name="a", numbers={"moon": 3.0}),))),
    "alternative_value": lambda: a_box(Variation(name="Lid", alternatives=(Alternative(name="a", numbers={"top": "moon"}),))),
    "sizes_of_another_family": lambda: a_box(Variation(name="Size", alternatives=(Alternative(name="a", sizes=CaseNumbers()),))),
    "variations_most": lambda: a_box(*(Variation(name=str(k), alternatives=(ONE,)) for k in range(9))),
    "variants_wanted": lambda: together(a_box(SIZE), [({"Size": "6 in"}, 0)]),
    "variants_most": lambda: variants(a_box(*(Variation(name=str(k), alternatives=tuple(Alternative(name=str(n)) for n in range(9))) for k in range(2)))),
}


@pytest.mark.parametrize("code", sorted(REFUSED))
def test_what_makes_no_sense_is_refused_with_its_reason(code: str) -> None:
    with pytest.raises(NotchCoreError) as refused:
        REFUSED[code]()
    assert refused.value.says.key == code


def test_two_that_set_one_number_are_refused_in_either_order() -> None:
    for some in permutations((LID, replace(LID, name="Cover"))):
        with pytest.raises(NotchCoreError, match="same number"):
            a_box(*some)
    with pytest.raises(NotchCoreError, match="no “moon”"):
        with_choice(a_box(SIZE), {"Size": "moon"})
