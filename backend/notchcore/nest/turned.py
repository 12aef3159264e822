"""The same packing with every sheet turned by a quarter: a sheet is emptied from another side, which may leave a larger piece whole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from notchcore.geom.profile import Ring, bounds_of
from notchcore.nest.laid import sheet_layout
from notchcore.nest.pack import on_bed, pack
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm


def _turned_ring(ring: Ring, height: Mm) -> Ring:
    """Return a ring turned by a quarter counter-clockwise, on the sheet that was so high."""
    return tuple((height - y, x) for x, y in ring)


def _turned(p: Placement, height: Mm) -> Placement:
    return replace(p, turn=(p.turn + 90) % 360, x=height - p.y, y=p.x)


def _back(p: Placement, height: Mm) -> Placement:
    return replace(p, turn=(p.turn - 90) % 360, x=p.y, y=height - p.x)


def pack_turned(
    parts: Sequence[NestPart], sheets: Sequence[SheetKind], *, rules: NestRules, work: Work, seed: int = 1, locked: Sequence[SheetLayout] = ()
) -> Nesting:
    """Return a packing that empties sheets along their height instead of their width. Arguments and errors as of `pack`."""
    by_id, kinds = {p.id: p for p in parts}, {k.id: k for k in sheets}
    turned_parts = [replace(p, turns=tuple((t + 90) % 360 for t in p.may_turn(rules))) for p in parts]
    turned_kinds = [
        replace(k, width=k.height, height=k.width, outline=_turned_ring(ring, k.height), bad=tuple(_turned_ring(b, k.height) for b in k.bad))
        for k in sheets
        if (ring := on_bed(k, rules))
    ]
    wide = max((max(bounds_of(k.outline)) for k in turned_kinds), default=0.0)
    stay = [
        replace(
            s,
            width=s.height,
            height=s.width,
            ring=_turned_ring(s.ring, s.height),
            bad=tuple(_turned_ring(b, s.height) for b in s.bad),
            placements=tuple(_turned(p, s.height) for p in s.placements),
        )
        for s in locked
    ]
    found = pack(turned_parts, turned_kinds, rules=replace(rules, bed_width=wide + 1, bed_height=wide + 1), work=work, seed=seed, locked=stay)
    laid = tuple(
        sheet_layout(kinds[s.sheet], s.copy, placements=tuple(_back(p, kinds[s.sheet].height) for p in s.placements), parts=by_id, rules=rules)
        for s in found.sheets
    )
    return replace(found, sheets=laid)
