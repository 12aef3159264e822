"""A design in another size, and its kept variants."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from notchcore.design.cards.pieces import Card
from notchcore.design.design import Design, Variant, arranged
from notchcore.design.edits import scaled_added, scaled_edit
from notchcore.design.features.made import scaled_feature
from notchcore.design.numbers import scaled_numbers
from notchcore.design.panel import resolved
from notchcore.errors import DesignError, require
from notchcore.geom.profile import bounds_of
from notchcore.measure.stock import Stock
from notchcore.units import Mm


def scaled(design: Design, factor: float, stocks: Mapping[str, Stock] | None = None) -> Design:
    """Return the design larger or smaller by a factor: sizes and places change, joints, fits and holes for hands do not.

    Other variants than the chosen one keep their sizes.

    Args:
        stocks: with them, the outlines that panels took from drawings grow as the panels would have grown without: not where a sheet's thickness counts

    Raises:
        ValueOutside: the factor, or a number after it, lies outside what makes sense
        DesignError: a test card cannot be scaled
    """
    require("factor", factor, 0.05, 20.0, unit="")
    if isinstance(design.numbers, Card):
        raise DesignError("A test card has its sizes for a reason: it is not scaled.")
    numbers = scaled_numbers(design.numbers, factor)
    larger = replace(_in_common_scaled(design, factor), numbers=numbers)
    own = {design.variant: replace(design.variants[design.variant], numbers=numbers, scale=larger.scale)} if design.variant else {}
    larger = replace(larger, variants={**design.variants, **own})
    return larger if stocks is None else _with_outlines(design, larger, factor, stocks)


def _with_outlines(before: Design, after: Design, factor: float, stocks: Mapping[str, Stock]) -> Design:
    """Return the larger design with outlines as wide as their panels became.

    A panel that reaches through others is inner size + thicknesses: of its width w0 only w0 - T grows, so w1 = k (w0 - T) + T. An outline of width w
    keeps what it has more or less than its panel's own: k w + (w1 - k w0).
    """
    shaped = {p: e.outline for p, e in after.edits.items() if e.outline is not None}
    if not shaped:
        return after
    small, large = _sizes(before, stocks), _sizes(after, stocks)
    edits = dict(after.edits)
    for panel, outline in shaped.items():
        if panel in small and panel in large:
            across = abs(math.sin(math.radians(outline.turn))) > math.sqrt(0.5)  # a drawing that lies across is as wide as its panel is high
            width = outline.width + large[panel][across] - factor * small[panel][across]
            edits[panel] = replace(edits[panel], outline=replace(outline, width=max(width, 1.0)))
    return replace(after, edits=edits)


def _sizes(design: Design, stocks: Mapping[str, Stock]) -> dict[str, tuple[Mm, Mm]]:
    """Return width and height of each panel in its own shape [mm]."""
    plain = replace(design, edits={p: replace(e, outline=None) for p, e in design.edits.items()}, features=())
    panels = {p.id: p for p in arranged(plain, stocks).panels}
    bounds = {k: bounds_of(resolved(p, panels).envelope.outer) for k, p in panels.items()}
    return {k: (x1 - x0, y1 - y0) for k, (x0, y0, x1, y1) in bounds.items()}


def _in_common_scaled(design: Design, k: float) -> Design:
    """Return the design with what all its variants have in common larger or smaller."""
    return replace(
        design,
        scale=design.scale * k,
        edits={p: scaled_edit(e, k) for p, e in design.edits.items()},
        added=tuple(scaled_added(a, k) for a in design.added),
        splits=tuple(replace(s, at=s.at * k) for s in design.splits),
        features=tuple(scaled_feature(f, k) for f in design.features),
    )


def with_variant(design: Design, name: str) -> Design:
    """Return the design with another variant chosen; the one that was chosen is kept as it is now.

    Raises:
        DesignError: there is no such variant
    """
    if name not in design.variants:
        raise DesignError(f"There is no variant “{name}”.", field="variant")
    kept = {}
    if design.variant and not isinstance(design.numbers, Card):
        kept = {design.variant: Variant(numbers=design.numbers, left_out=design.left_out, scale=design.scale)}
    every = {**design.variants, **kept}
    chosen = every[name]
    k = chosen.scale / design.scale
    common = design if abs(k - 1) < 1e-12 else _in_common_scaled(design, k)
    return replace(common, variants=every, variant=name, numbers=chosen.numbers, left_out=chosen.left_out, scale=chosen.scale)
