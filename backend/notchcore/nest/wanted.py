"""What a job asks to be laid out: how many of each part, which openings are taken, and how each part may lie.

Wish    copies of the whole, or single parts and how many of each
Made    what is cut for itself, and what falls out of its host: both are pieces of the part
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field

from notchcore.design.assembly import Part
from notchcore.design.fallen import fallen_on, kept_whole
from notchcore.nest.values import BACK, EITHER, FRONT, NestPart, Sides

MOST = 500  # of one part


@dataclass(frozen=True, slots=True, kw_only=True)
class Wish:
    """How much of a design is wanted."""

    copies: int = 1  #: of the whole
    only: Mapping[str, int] = field(default_factory=dict)  #: how many of which parts, where not all are wanted
    fill: Mapping[str, int] = field(default_factory=dict)  #: how many more of a part may fill the sheets up
    turns: Mapping[str, tuple[int, ...]] = field(default_factory=dict)  #: of a part's own


def wanted_of(part: Part, copies: int) -> int:
    """Return how many pieces of a part so many copies of the whole need: spares and helpers come once."""
    return part.copies if part.helper else part.copies * copies + part.spares


def asked_of(part: Part, wish: Wish) -> int:
    """Return how many pieces of a part are asked for."""
    return min(int(wish.only.get(part.id, 0)), MOST) if wish.only else wanted_of(part, wish.copies)


def laid_of(parts: Sequence[Part], wish: Wish) -> dict[str, int]:
    """Return how many of each part must be laid out: those that fall out of their host are not laid again."""
    by_id = {p.id: p for p in parts}
    found: dict[str, int] = {}

    def made(part: Part) -> int:
        host = by_id.get(part.falls_from)
        fallen = made(host) if host is not None else 0
        found[part.id] = max(asked_of(part, wish) - fallen, 0)
        return found[part.id] + fallen

    for p in parts:
        made(p)
    return found


def two_faced(part: Part) -> bool:
    """Tell whether a person put something on the back of a part."""
    return any(m.back and m.always for m in part.marks) and not part.reverse


def one_faced(part: Part) -> bool:
    """Tell whether a part has something on its front that would then need a second run, and nothing on its back that needs one anyway."""
    return any(not m.back for m in part.marks) and not two_faced(part)


def may_lie_on_back(part: Part, parts: Sequence[Part], *, backs: Collection[str]) -> bool:
    """Tell whether the mirror image of a part may be cut: a person allows it, and nothing is burned on one face only, of what falls from it neither."""
    if part.id not in backs or part.reverse:
        return False
    fallen = set(fallen_on(part.id, parts))
    return not any(one_faced(p) for p in (part, *(p for p in parts if p.id in fallen)))


def sides_of(part: Part, parts: Sequence[Part], *, backs: Collection[str] = (), pairs: Collection[str] = ()) -> Sides:
    """Return on which sides a part may lie.

    Args:
        backs: parts that a person allows to lie on their back
        pairs: parts with two faces that are cut in pairs
    """
    if part.reverse:
        return BACK
    return EITHER if may_lie_on_back(part, parts, backs=backs) or (part.id in pairs and two_faced(part)) else FRONT


def packed_parts(parts: Sequence[Part], wish: Wish, *, backs: Collection[str] = (), pairs: Collection[str] = ()) -> list[NestPart]:
    """Return the parts that are laid out, with how many of each and how they may lie.

    Args:
        backs: parts that may lie on their back
        pairs: parts of which half lie on their back
    """
    laid = laid_of(parts, wish)
    return [
        NestPart(
            id=p.id,
            stock=p.stock,
            profile=kept_whole(p, parts),
            count=laid[p.id],
            turns=tuple(wish.turns.get(p.id, ())),
            sides=sides_of(p, parts, backs=backs, pairs=pairs),
            label=p.label,
        )
        for p in parts
        if laid[p.id] or wish.fill.get(p.id)
    ]


__all__ = ["Wish", "asked_of", "fallen_on", "laid_of", "may_lie_on_back", "one_faced", "packed_parts", "two_faced", "wanted_of"]
