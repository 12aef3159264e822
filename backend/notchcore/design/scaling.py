"""A design in another size, and its kept variants."""

from __future__ import annotations

from dataclasses import replace

from notchcore.design.cards.pieces import Card
from notchcore.design.design import Design, Variant
from notchcore.design.edits import scaled_edit
from notchcore.design.features.made import scaled_feature
from notchcore.design.numbers import scaled_numbers
from notchcore.errors import DesignError, require
from notchcore.words.render import say


def scaled(design: Design, factor: float) -> Design:
    """Return the design larger or smaller by a factor: sizes and places change, joints, fits and holes for hands do not.

    Other variants than the chosen one keep their sizes; the play of items in their rooms stays.

    Raises:
        ValueOutside: the factor, or a number after it, lies outside what makes sense
        DesignError: a test card cannot be scaled
    """
    require("factor", factor, 0.05, 20.0, unit="")
    if isinstance(design.numbers, Card):
        raise DesignError(say("card_not_scaled"))
    numbers = scaled_numbers(design.numbers, factor)
    larger = replace(_in_common_scaled(design, factor), numbers=numbers)
    own = {design.variant: replace(design.variants[design.variant], numbers=numbers, scale=larger.scale)} if design.variant else {}
    items = tuple(replace(i, design=scaled(i.design, factor), at=(i.at[0] * factor, i.at[1] * factor, i.at[2] * factor)) for i in design.items)
    return replace(larger, variants={**design.variants, **own}, items=items)


def _in_common_scaled(design: Design, k: float) -> Design:
    """Return the design with what all its variants have in common larger or smaller."""
    return replace(
        design,
        scale=design.scale * k,
        edits={p: scaled_edit(e, k) for p, e in design.edits.items()},
        added=tuple(a.scaled(k) for a in design.added),
        splits=tuple(replace(s, at=s.at * k) for s in design.splits),
        features=tuple(scaled_feature(f, k) for f in design.features),
    )


def with_variant(design: Design, name: str) -> Design:
    """Return the design with another variant chosen; the one that was chosen is kept as it is now.

    Raises:
        DesignError: there is no such variant
    """
    if name not in design.variants:
        raise DesignError(say("no_such_variant", name=name), field="variant")
    kept = {}
    if design.variant and not isinstance(design.numbers, Card):
        kept = {design.variant: Variant(numbers=design.numbers, left_out=design.left_out, scale=design.scale)}
    every = {**design.variants, **kept}
    chosen = every[name]
    k = chosen.scale / design.scale
    common = design if abs(k - 1) < 1e-12 else _in_common_scaled(design, k)
    return replace(common, variants=every, variant=name, numbers=chosen.numbers, left_out=chosen.left_out, scale=chosen.scale)
