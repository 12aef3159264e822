"""A sheet with parts on it: how well it is used, and which rectangle of it stays whole."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from notchcore.geom.leftover import rectangle_left
from notchcore.geom.profile import area_of, net_area
from notchcore.nest.gate import placed_shape
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm


def sheet_layout(kind: SheetKind, copy: int, *, placements: tuple[Placement, ...], parts: Mapping[str, NestPart], rules: NestRules) -> SheetLayout:
    """Return a sheet with these parts on it, and how well it is used."""
    return SheetLayout(
        sheet=kind.id,
        copy=copy,
        stock=kind.stock,
        name=kind.name,
        width=kind.width,
        height=kind.height,
        ring=kind.ring(),
        placements=placements,
        utilisation=sum(net_area(parts[p.part].profile) for p in placements) / abs(area_of(kind.ring())),
        leftover=None,
        bad=kind.bad,
    )


def with_leftover(sheet: SheetLayout, parts: Mapping[str, NestPart], *, rules: NestRules) -> SheetLayout:
    """Return a sheet that says which rectangle of it stays whole."""
    gone = [placed_shape(parts[p.part], p) for p in sheet.placements]
    return replace(sheet, leftover=rectangle_left(sheet.ring, sheet.bad, gone=gone, gap=rules.spacing))


def travel(nesting: Nesting) -> Mm:
    """Return how far the head goes from part to part at least, roughly: to the nearest one not yet cut, sheet by sheet [mm]."""
    gone = 0.0
    for sheet in nesting.sheets:
        at, waiting = (0.0, 0.0), [(p.x, p.y) for p in sheet.placements]
        while waiting:
            nearest = min(waiting, key=lambda p: math.dist(at, p))
            gone += math.dist(at, nearest)
            waiting.remove(nearest)
            at = nearest
    return gone
