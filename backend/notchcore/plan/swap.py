"""Second sides without moving the sheet: each part is lifted out, turned over, and laid into a hole that its mirror image fits.

A part whose outline is its own mirror image goes back into its own hole; others go into the hole of a partner whose outline is
their mirror image. It is offered only when every part that needs it finds such a hole and none lies in another's drop-out.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from notchcore.design.assembly import Part
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Ring, bounds_of
from notchcore.geom.rigid import Rigid, coverings
from notchcore.geom.vectors import Vec2
from notchcore.nest.gate import shape_at
from notchcore.nest.values import Placement
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say

FITS: Mm = 0.02  # outlines that differ by less go into each other's holes


@dataclass(frozen=True, slots=True, kw_only=True)
class PartTurn:
    """One part turned over into a hole."""

    part: str
    copy: int
    into: str  #: whose hole
    into_copy: int
    move: Rigid  #: from how it lay, seen through from above, to how it lies then
    start: Vec2  #: middle of the part
    end: Vec2  #: middle of the hole


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """All turns of a sheet, or why there are none."""

    turns: tuple[PartTurn, ...] = ()
    why_not: Sentence | None = None


def ring_at(ring: Ring, placement: Placement) -> Ring:
    """Return a ring of a part's plane where the part lies on its sheet."""
    shape = shape_at(Polygon(ring), placement.turn, x=placement.x, y=placement.y, mirrored=placement.mirrored)
    return tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1])


def outline_at(part: Part, placement: Placement) -> Ring:
    """Return a part's outer line where it lies on its sheet."""
    return ring_at(part.profile.outer, placement)


def _nested(placements: Sequence[Placement], parts: Mapping[str, Part], *, needed: set[tuple[str, int]]) -> str:
    """Return the label of a part that lies in another's opening, where one of the two is to be turned: it falls out, or is in the way."""
    shapes = [(p, Polygon(outline_at(parts[p.part], p))) for p in placements]
    for p, shape in shapes:
        for q, other in shapes:
            if q is not p and {(p.part, p.copy), (q.part, q.copy)} & needed and other.contains(shape):
                return parts[p.part].label
    return ""


def _turn(a: Placement, b: Placement, *, rings: Mapping[tuple[str, int], Ring]) -> PartTurn | None:
    """Return the turn of a part into a hole that keeps what is up in the part as far up as can be in the hole."""
    some = coverings(rings[a.part, a.copy], rings[b.part, b.copy], mirrored=True, reach=FITS)
    if not some:
        return None
    up_a, up_b = _up(a), _up(b)
    move = max(some, key=lambda m: round(m.direction(up_a)[0] * up_b[0] + m.direction(up_a)[1] * up_b[1], 6))
    return PartTurn(
        part=a.part, copy=a.copy, into=b.part, into_copy=b.copy, move=move, start=_middle(rings[a.part, a.copy]), end=_middle(rings[b.part, b.copy])
    )


def _up(p: Placement) -> Vec2:
    """Return where a part's own up shows on the sheet."""
    a = math.radians(p.turn)
    return -math.sin(a), math.cos(a)


def _middle(ring: Ring) -> Vec2:
    x0, y0, x1, y1 = bounds_of(ring)
    return (x0 + x1) / 2, (y0 + y1) / 2


def swap_of(placements: Sequence[Placement], parts: Mapping[str, Part], *, needed: set[tuple[str, int]]) -> Swap:
    """Return how the parts of a sheet are turned over into each other's holes.

    Args:
        needed: parts that are burned on the face that lies down, by part and copy
    """
    some = [p for p in placements if (p.part, p.copy) in needed]
    lying = {(p.part, p.copy) for p in placements}
    fallen = sorted(parts[k].label for k, copy in needed if (k, copy) not in lying)
    if fallen:
        return Swap(why_not=say("not_swapped.falls", part=fallen[0]))
    held = sorted({parts[p.part].label for p in some if parts[p.part].bridges})
    if held:
        return Swap(why_not=say("not_swapped.bridges", part=held[0]))
    nested = _nested(placements, parts, needed=needed)
    if nested:
        return Swap(why_not=say("not_swapped.nested", part=nested))
    rings = {(p.part, p.copy): outline_at(parts[p.part], p) for p in some}
    kinds: defaultdict[tuple[str, bool], list[Placement]] = defaultdict(list)
    for p in some:
        kinds[p.part, p.mirrored].append(p)
    turns: list[PartTurn] = []
    for kind in list(kinds):
        waiting = kinds.pop(kind, [])
        if not waiting:
            continue
        own = [_turn(p, p, rings=rings) for p in waiting]
        if own[0] is not None:  # its own mirror image
            turns += [t for t in own if t is not None]
            continue
        partner = next((k for k, others in kinds.items() if len(others) == len(waiting) and _turn(waiting[0], others[0], rings=rings)), None)
        if partner is None:
            return Swap(why_not=say("not_swapped.no_hole", part=parts[kind[0]].ref))
        for a, b in zip(waiting, kinds.pop(partner), strict=True):
            turns += [t for pair in ((a, b), (b, a)) if (t := _turn(*pair, rings=rings)) is not None]
    return Swap(turns=tuple(turns))
