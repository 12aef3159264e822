"""The variants of a project: one alternative of each variation is chosen; several variants are made together as items of one project."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from enum import Enum
from itertools import product
from typing import Any

from notchcore.design.cards.pieces import Card
from notchcore.design.design import MOST_LABEL, Design, Item, as_chosen
from notchcore.design.filling import first_name, joined_to
from notchcore.design.numbers import scaled_numbers
from notchcore.design.scaling import in_common_scaled
from notchcore.design.variations import Alternative, Value, Variation, value_like
from notchcore.errors import DesignError
from notchcore.words.render import say

MOST_VARIANTS = 64  # that are compared, or made together

Choice = Mapping[str, str]  #: an alternative for each variation, both by name


def choosable(design: Design) -> dict[str, tuple[str, ...]]:
    """Return the alternatives of each variation of a project, by name; variations of its items that have one name are one."""
    found: dict[str, tuple[str, ...]] = {}
    for d in (design, *(i.design for i in design.items)):
        for v in d.variations:
            found[v.name] = tuple(dict.fromkeys((*found.get(v.name, ()), *(a.name for a in v.alternatives))))
    return found


def chosen_now(design: Design) -> dict[str, str]:
    """Return what is chosen of each variation of a project; empty where nothing is, or where its items disagree."""
    found: dict[str, str] = {}
    for d in (design, *(i.design for i in design.items)):
        for v in d.variations:
            found[v.name] = v.chosen if found.get(v.name, v.chosen) == v.chosen else ""
    return found


def variants(design: Design) -> list[dict[str, str]]:
    """Return every variant of a project, in the order of its variations.

    Raises:
        DesignError: there are too many to be looked at
    """
    axes = choosable(design)
    if math.prod(len(names) for names in axes.values()) > MOST_VARIANTS:
        raise DesignError(say("variants_most", most=MOST_VARIANTS))
    return [dict(zip(axes, names, strict=True)) for names in product(*axes.values())]


def with_choice(design: Design, choice: Choice) -> Design:
    """Return the project with an alternative chosen of some variations, in its items too where they have one of these names.

    Raises:
        DesignError: there is no such variation or alternative
        ValueOutside: a number of an alternative lies outside what makes sense now
    """
    known = choosable(design)
    for variation, name in choice.items():
        if name not in known.get(variation, ()):
            names = ", ".join(known.get(variation, ()))
            raise DesignError(say("no_such_alternative.of", variation=variation, wanted=name, names=names), field="variations")
    items = tuple(replace(i, design=_with_own(i.design, choice)) for i in design.items)
    return replace(_with_own(design, choice), items=items)


def _with_own(design: Design, choice: Choice) -> Design:
    for v in design.variations:
        name = choice.get(v.name, v.chosen)
        if name != v.chosen and any(a.name == name for a in v.alternatives):
            design = _with_alternative(design, v.name, name=name)
    return design


def _with_alternative(design: Design, variation: str, *, name: str) -> Design:
    """Return a design with another alternative of one of its variations; the one that was chosen is kept as it is now."""
    assert not isinstance(design.numbers, Card)
    every = tuple(_kept(design, v) for v in design.variations)
    wanted = next(v for v in every if v.name == variation).alternative(name)
    chosen = replace(design, variations=tuple(replace(v, chosen=name) if v.name == variation else v for v in every))
    if wanted.sizes is not None:
        chosen = _with_sizes(chosen, wanted)
    numbers: Any = chosen.numbers
    single = {k: value_like(v, getattr(numbers, k)) for k, v in wanted.numbers.items()}
    return replace(chosen, numbers=replace(numbers, **single), stocks={**chosen.stocks, **wanted.stocks})


def _with_sizes(design: Design, wanted: Alternative) -> Design:
    """Return a design with all numbers of an alternative but for those that other variations set, and what is in common at its scale."""
    k = wanted.scale / design.scale
    if abs(k - 1) > 1e-12:
        common = in_common_scaled(design, k)
        numbers: Any = scaled_numbers(design.numbers, k)
    else:
        common, numbers = design, design.numbers
    others = {n: getattr(numbers, n) for v in design.variations for n in v.numbers}
    sizes: Any = wanted.sizes
    return replace(common, numbers=replace(sizes, **others), scale=wanted.scale)


def stored(value: Any) -> Value:
    """Return the value of a number as an alternative keeps it."""
    plain: Value = value.value if isinstance(value, Enum) else value
    return plain


def _kept(design: Design, v: Variation) -> Variation:
    """Return a variation whose chosen alternative is as the design is now."""
    taken = v.taken
    if taken is None or isinstance(design.numbers, Card):
        return v
    now = replace(
        taken,
        sizes=design.numbers if v.sizes else None,
        scale=design.scale if v.sizes else taken.scale,
        numbers={n: stored(getattr(design.numbers, n)) for n in taken.numbers},
        stocks={r: design.stocks[r] for r in taken.stocks},
    )
    return replace(v, alternatives=tuple(now if a.name == v.chosen else a for a in v.alternatives))


def without_lost(design: Design, before: Design) -> Design:
    """Return a design whose alternatives do not speak of what was taken off it since: what gets its name later is there with all of them."""
    lost = {x.id for x in (*before.features, *before.added, *before.items)} - {x.id for x in (*design.features, *design.added, *design.items)}
    old = {i.id: i.design for i in before.items}
    items = tuple(replace(i, design=without_lost(i.design, old[i.id])) if i.id in old and i.design.variations else i for i in design.items)
    if not lost or not design.variations:
        return design if items == design.items else replace(design, items=items)

    def kept(names: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(n for n in names if n not in lost)

    variations = tuple(
        replace(v, alternatives=tuple(replace(a, features=kept(a.features), panels=kept(a.panels), items=kept(a.items)) for a in v.alternatives))
        for v in design.variations
    )
    return replace(design, variations=variations, items=items)


def in_words(choice: Choice) -> str:
    """Return what a variant is called: its alternatives."""
    return ", ".join(choice.values())


def together(design: Design, wanted: Sequence[tuple[Choice, int]]) -> Design:
    """Return one project in which so many of each of some variants are made: each of their items is an item of it, and nothing of it varies.

    Raises:
        DesignError: none is wanted, or too many
    """
    some = [(choice, count) for choice, count in wanted if count > 0]
    if not some or len(some) > MOST_VARIANTS:
        raise DesignError(say("variants_wanted", most=MOST_VARIANTS))
    made: Design | None = None
    for choice, count in some:
        one = _settled(with_choice(design, choice), in_words(choice), count=count)
        made = one if made is None else joined_to(made, one, label=one.name)
    assert made is not None
    return made


def _settled(design: Design, words: str, *, count: int) -> Design:
    """Return a variant as it is chosen, so many times, with items named for it."""
    now = as_chosen(design)

    def label(name: str) -> str:
        return f"{name[: MOST_LABEL - len(words) - 2]}, {words}"[:MOST_LABEL] if words else name[:MOST_LABEL]

    def own(item: Item) -> Item:
        often = item.count if item.joined is not None else item.count * count  # what is joined comes with its host
        return replace(item, label=label(item.label), count=often, design=replace(as_chosen(item.design), variations=()))

    return replace(now, variations=(), name=label(now.name or first_name(now)), count=now.count * count, items=tuple(own(i) for i in now.items if not i.gone))
