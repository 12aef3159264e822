"""A sheet with parts on it: how well it is used, and which rectangle of it stays whole."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from notchcore.geom.leftover import rectangle_left
from notchcore.geom.profile import area_of, net_area
from notchcore.nest.gate import placed_shape
from notchcore.nest.values import NestPart, NestRules, Placement, SheetKind, SheetLayout


def sheet_layout(kind: SheetKind, copy: int, placements: tuple[Placement, ...], parts: Mapping[str, NestPart], rules: NestRules) -> SheetLayout:
    """Return a sheet with these parts on it, and how well it is used."""
    return SheetLayout(
        sheet=kind.id, copy=copy, stock=kind.stock, name=kind.name, width=kind.width, height=kind.height, ring=kind.ring(), placements=placements,
        utilisation=sum(net_area(parts[p.part].profile) for p in placements) / abs(area_of(kind.ring())),
        leftover=None, bad=kind.bad,
    )  # fmt: skip


def with_leftover(sheet: SheetLayout, parts: Mapping[str, NestPart], rules: NestRules) -> SheetLayout:
    """Return a sheet that says which rectangle of it stays whole."""
    gone = [placed_shape(parts[p.part], p) for p in sheet.placements]
    return replace(sheet, leftover=rectangle_left(sheet.ring, sheet.bad, gone, rules.spacing))
