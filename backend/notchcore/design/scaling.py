"""A design in another size."""

from __future__ import annotations

from dataclasses import replace

from notchcore.design.cards.pieces import Card
from notchcore.design.design import Design
from notchcore.design.edits import scaled_edit
from notchcore.design.features.made import scaled_feature
from notchcore.design.numbers import NumberKind, numbers_of, scaled_numbers
from notchcore.design.variations import Alternative
from notchcore.errors import DesignError, require
from notchcore.words.render import say


def scaled(design: Design, factor: float) -> Design:
    """Return the design larger or smaller by a factor: sizes and places change, joints, fits and holes for hands do not.

    Where its sizes come in alternatives, only those of the chosen one change, which stand in the design itself; the play of items in their rooms stays.

    Raises:
        ValueOutside: the factor, or a number after it, lies outside what makes sense
        DesignError: a test card cannot be scaled
    """
    require("factor", factor, least=0.05, most=20.0, unit="")
    if isinstance(design.numbers, Card):
        raise DesignError(say("card_not_scaled"))
    numbers = scaled_numbers(design.numbers, factor)
    larger = replace(in_common_scaled(design, factor), numbers=numbers)
    items = tuple(replace(i, design=scaled(i.design, factor), at=(i.at[0] * factor, i.at[1] * factor, i.at[2] * factor)) for i in design.items)
    return replace(larger, items=items)


def in_common_scaled(design: Design, k: float) -> Design:
    """Return the design with everything larger or smaller but its numbers and the sizes that come in alternatives.

    Raises:
        ValueOutside: a place or size leaves what makes sense
    """
    return replace(
        design,
        scale=design.scale * k,
        edits={p: scaled_edit(e, k) for p, e in design.edits.items()},
        added=tuple(a.scaled(k) for a in design.added),
        splits=tuple(replace(s, at=s.at * k) for s in design.splits),
        features=tuple(scaled_feature(f, k) for f in design.features),
        variations=tuple(replace(v, alternatives=tuple(_larger(a, design, k=k) for a in v.alternatives)) for v in design.variations),
    )


def _larger(a: Alternative, design: Design, *, k: float) -> Alternative:
    """Return an alternative whose single lengths grow with the design."""
    grows = {n.name for n in numbers_of(type(design.numbers)) if n.kind is NumberKind.LENGTH and n.scales}
    return replace(a, numbers={n: round(float(v) * k, 4) if n in grows else v for n, v in a.numbers.items()})
