"""A sheet with parts on it: how well it is used, and what stays whole."""

from __future__ import annotations

from collections.abc import Mapping

from notchcore.geom.profile import area_of, net_area
from notchcore.nest.gate import placed_shape
from notchcore.nest.values import NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm


def sheet_layout(kind: SheetKind, copy: int, placements: tuple[Placement, ...], parts: Mapping[str, NestPart], rules: NestRules) -> SheetLayout:
    """Return a sheet with these parts on it, and how well it is used."""
    return SheetLayout(
        sheet=kind.id, copy=copy, stock=kind.stock, name=kind.name, width=kind.width, height=kind.height, ring=kind.ring(), placements=placements,
        utilisation=sum(net_area(parts[p.part].profile) for p in placements) / abs(area_of(kind.ring())),
        leftover=_leftover(kind, placements, parts, rules),
    )  # fmt: skip


def _leftover(kind: SheetKind, placements: tuple[Placement, ...], parts: Mapping[str, NestPart], rules: NestRules) -> tuple[Mm, Mm, Mm, Mm] | None:
    """Return the larger of the strips to the right of and above all parts, on a whole sheet."""
    if kind.outline or not placements:
        return None
    boxes = [placed_shape(parts[p.part], p).bounds for p in placements]
    right = max(b[2] for b in boxes) + rules.spacing
    top = max(b[3] for b in boxes) + rules.spacing
    strips = [(right, 0.0, kind.width, kind.height), (0.0, top, kind.width, kind.height)]
    best = max(strips, key=lambda s: (s[2] - s[0]) * (s[3] - s[1]))
    return best if min(best[2] - best[0], best[3] - best[1]) >= 20 else None
