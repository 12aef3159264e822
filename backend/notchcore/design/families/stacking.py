"""Stacking pieces: a body with a recess above, and a foot below that enters the recess of the piece under it.

Engraved   the recess is taken out of the body to a depth; a foot that is thicker keeps two pieces apart by the rest
Ring       the recess is the opening of a ring that is glued on the body: as deep as that is thick

One piece of each kind is shown, beside the others; how many are wanted is its number of copies. The foot's lower side is z = 0.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, lying
from notchcore.design.assembly import Mark
from notchcore.design.families.outlines import polygon_ring
from notchcore.design.numbers import PanelGroup, check_numbers, choice, count, length
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.geom.vectors import Vec2
from notchcore.measure.engraving import TOO_DEEP
from notchcore.measure.machine import Operation
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.language import called
from notchcore.words.render import say

KINDS = 4
MOST = 400  # of one kind
BESIDE: Mm = 8.0  # between the kinds that are shown
LEAST_FOOT: Mm = 4.0
ROLES = tuple(PanelGroup(id=f"pieces_{k + 1}", label=f"Pieces, {nth} kind") for k, nth in enumerate(("first", "second", "third", "fourth")))


class PieceShape(StrEnum):
    """What a piece looks like from above."""

    ROUND = "round"
    SQUARE = "square"
    POLYGON = "polygon"


class Deepened(StrEnum):
    """What makes the recess."""

    ENGRAVED = "engraved"
    RING = "ring"


@dataclass(frozen=True, slots=True, kw_only=True)
class StackingNumbers:
    """The numbers of stacking pieces [mm]."""

    family: Literal["stacking"] = "stacking"
    shape: PieceShape = choice(
        PieceShape.ROUND, "PieceShape", labels={PieceShape.ROUND: "round", PieceShape.SQUARE: "square", PieceShape.POLYGON: "many-sided"}
    )
    across: Mm = length(24.0, "Diameter, or side", least=8.0, most=400.0)
    sides: int = count(6, "Sides", least=3, most=12, only=("shape", ("polygon",)))
    rim: Mm = length(3.0, "Rim, width", least=1.0, most=100.0)
    recess: Deepened = choice(Deepened.ENGRAVED, "Recess", labels={Deepened.ENGRAVED: "engraved", Deepened.RING: "a ring on top"}, group="Recess")
    depth: Mm = length(1.0, "Recess, depth", least=0.2, most=20.0, scales=False, group="Recess", only=("recess", ("engraved",)))
    play: Mm = length(0.4, "Play of the foot", least=0.05, most=5.0, scales=False, group="Recess", says="both sides together")
    many_1: int = count(12, "Pieces, first kind", least=0, most=MOST, group="How many")
    many_2: int = count(12, "Pieces, second kind", least=0, most=MOST, group="How many")
    many_3: int = count(0, "Pieces, third kind", least=0, most=MOST, group="How many")
    many_4: int = count(0, "Pieces, fourth kind", least=0, most=MOST, group="How many")

    def __post_init__(self) -> None:
        check_numbers(self)

    def many(self, kind: int) -> int:
        """Return how many of a kind there are to be, from 0."""
        return (self.many_1, self.many_2, self.many_3, self.many_4)[kind]


def arrange(n: StackingNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return one piece of each kind, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    kinds = [k for k in range(KINDS) if n.many(k)]
    _check(n, a, kinds=kinds)
    if a.impossible:
        return a.done()
    for place, kind in enumerate(kinds):
        _piece(n, a, kind=kind, x=(place + 0.5) * n.across + place * BESIDE)
    thin = min(a.t(ROLES[k].id) for k in kinds)
    tall = max(a.t(ROLES[k].id) for k in kinds)
    deep = n.depth if n.recess is Deepened.ENGRAVED else thin
    a.shows("across", (0, 0, tall), end=(n.across, 0, tall))
    a.fact("Foot, across", n.across - 2 * n.rim)
    a.fact("Recess, across", n.across - 2 * n.rim + n.play)
    a.fact("Gap between two that are stacked, at most", max(tall - deep, 0.0))
    return a.done()


def _check(n: StackingNumbers, a: Arranger, *, kinds: list[int]) -> None:
    """Say which number leaves nothing of a piece."""
    if not kinds:
        a.must("no_pieces_wanted", "many_1", says=say("no_pieces_wanted"))
        return
    most = (n.across - LEAST_FOOT) / 2 * (math.cos(math.pi / n.sides) if n.shape is PieceShape.POLYGON else 1.0)
    if n.rim > most:
        a.must("rim_too_wide", "rim", says=say("rim_too_wide", most=mm(max(most, 0.0))), most_mm=most)
    least = max(a.web(ROLES[k].id) for k in kinds) + n.play / 2
    if n.recess is Deepened.RING and n.rim < least:
        a.must("rim_too_narrow", "rim", says=say("rim_too_narrow.ring", least=mm(least)), least_mm=least)
    deepest = TOO_DEEP * min(a.t(ROLES[k].id) for k in kinds)
    if n.recess is Deepened.ENGRAVED and n.depth > deepest:
        a.must("recess_too_deep", "depth", says=say("recess_too_deep", most=mm(deepest, digits=2)), most_mm=deepest)


def outline_of(n: StackingNumbers, x: Mm, *, less: Mm) -> Profile:
    """Return a piece's outline about a place on the x axis, smaller by `less` all round [mm]."""
    r = n.across / 2 - less
    if n.shape is PieceShape.ROUND:
        circle = Circle(x=x, y=0.0, radius=r)
        return Profile(outer=circle_ring(circle), circles=(circle,))
    if n.shape is PieceShape.SQUARE:
        return rectangle(x - r, -r, x1=x + r, y1=r)
    out: tuple[Vec2, ...] = polygon_ring(n.across / 2 - less / math.cos(math.pi / n.sides), n.sides)
    return Profile(outer=tuple((u + x, v) for u, v in out))


def _piece(n: StackingNumbers, a: Arranger, *, kind: int, x: Mm) -> None:
    """Add the sheets of one piece, its middle at x."""
    role, number, many = ROLES[kind].id, kind + 1, n.many(kind)
    t = a.t(role)
    whole, foot, room = (outline_of(n, x, less=less) for less in (0.0, n.rim, n.rim - n.play / 2))
    engraved = n.recess is Deepened.ENGRAVED
    recess = (Mark(line=room.outer, operation=Operation.ENGRAVE, depth=n.depth),) if engraved else ()
    a.add(f"foot-{number}", called("Foot {number}", number=number), role=role, envelope=foot, pose=lying(0), datum=0.0, copies=many)
    body = called("Body {number}", number=number)
    a.add(f"body-{number}", body, role=role, envelope=whole, pose=lying(t), datum=0.0, marks=recess, copies=many, places=(f"ring-{number}",))
    if not engraved:
        ring = Profile(outer=whole.outer, holes=(tuple(reversed(room.outer)),), circles=(*whole.circles, *room.circles))
        label = called("Ring {number}", number=number)  # as large as the body: they are laid edge on edge
        a.add(f"ring-{number}", label, role=role, envelope=ring, pose=lying(2 * t), datum=0.0, copies=many, places=(f"body-{number}",))
