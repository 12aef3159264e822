"""What of the pieces already cut is still good for a revision, what must be cut again, and what is no longer needed.

A piece is its line for the beam: finished outline, burned marks and the kerf that was corrected, in its own plane. Where it
stands in the thing does not matter. Two are the same when no point of one line lies more than SAME from the other.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.design.assembly import Mark, Part
from notchcore.geom.planar import lines_within
from notchcore.geom.profile import Profile, Ring, bounds_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

SAME: Mm = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A part as it is cut, or was."""

    part: str
    label: str
    stock: str
    profile: Profile
    marks: tuple[Mark, ...]
    kerf: Mm  #: that its path is corrected for


class Fate(StrEnum):
    """What becomes of a part of the new revision."""

    GOOD = "good"  # pieces that were cut serve
    RECUT = "recut"  # it was cut, but is another now
    NEW = "new"  # it was never cut


@dataclass(frozen=True, slots=True, kw_only=True)
class RecutRow:
    """One part of the revision."""

    part: str
    label: str
    fate: Fate
    wanted: int
    good: int  #: pieces that are there and serve

    @property
    def missing(self) -> int:
        return max(self.wanted - self.good, 0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Recut:
    """All parts of a revision against the pieces that were cut."""

    rows: tuple[RecutRow, ...]
    left_over: tuple[tuple[str, int], ...]  #: label and count of pieces that serve nothing any more


def piece_of(part: Part, kerf: Mm, *, locate: bool = False) -> Piece:
    """Return a part as it is cut; `locate` says whether the places of joints on backs are burned."""
    return as_burned(Piece(part=part.id, label=part.label, stock=part.stock, profile=part.profile, marks=part.marks, kerf=kerf), locate=locate)


def as_burned(piece: Piece, *, locate: bool) -> Piece:
    """Return a piece without what no plan burns: a line that nobody burned is no reason to cut again."""
    return piece if locate else replace(piece, marks=tuple(m for m in piece.marks if m.always))


def _moved(ring: Ring, by: Vec2) -> Ring:
    return tuple((x - by[0], y - by[1]) for x, y in ring)


def _lines(piece: Piece) -> tuple[list[tuple[Ring, bool]], list[tuple[Ring, bool]]]:
    x0, y0, _, _ = bounds_of(piece.profile.outer)
    cuts = [(_moved(r, (x0, y0)), True) for r in (piece.profile.outer, *piece.profile.holes)]
    return cuts, [(_moved(m.line, (x0, y0)), m.closed) for m in piece.marks]


def same_cut(a: Piece, b: Piece) -> bool:
    """Tell whether one piece serves for the other: same stock, same lines within SAME, kerf counted, same ways of burning."""
    left = SAME - abs(a.kerf - b.kerf) / 2
    if a.stock != b.stock or left <= 0 or len(a.profile.holes) != len(b.profile.holes) or len(a.marks) != len(b.marks):
        return False
    (cuts_a, marks_a), (cuts_b, marks_b) = _lines(a), _lines(b)
    ways = {_how(m) for m in (*a.marks, *b.marks)}
    for way in ways:  # each way of burning by itself: what was scored must not be engraved now
        mine, others = ([line for line, m in zip(lines, p.marks, strict=True) if _how(m) == way] for lines, p in ((marks_a, a), (marks_b, b)))
        if len(mine) != len(others) or not lines_within(mine, others, reach=SAME):
            return False
    return lines_within(cuts_a, cuts_b, reach=left)


def _how(m: Mark) -> str:
    turned = "" if m.photo is None else f"{math.degrees(math.atan2(m.line[1][1] - m.line[0][1], m.line[1][0] - m.line[0][0])):.1f}"
    return f"{m.operation} {m.beam} {m.photo} {turned} {m.back} {m.depth:.2f}"  # a photo that is turned in its frame is another


def recut(wanted: Sequence[tuple[Piece, int]], cut: Sequence[Piece]) -> Recut:
    """Return the fate of every part, pieces being given to parts of their own name first.

    Args:
        wanted: parts of the revision with how many of each
        cut: every good piece there is
    """
    free = list(cut)
    rows = []
    known = {c.part for c in cut}
    good: dict[str, int] = {}
    for own in (True, False):
        for piece, count in wanted:
            have = good.get(piece.part, 0)
            for c in [c for c in free if (c.part == piece.part) is own]:
                if have >= count:
                    break
                if same_cut(c, piece):
                    free.remove(c)
                    have += 1
            good[piece.part] = have
    for piece, count in wanted:
        have = good[piece.part]
        fate = Fate.GOOD if have >= count else Fate.RECUT if piece.part in known and not have else Fate.NEW
        rows.append(RecutRow(part=piece.part, label=piece.label, fate=fate, wanted=count, good=have))
    over: dict[str, int] = {}
    for c in free:
        over[c.label] = over.get(c.label, 0) + 1
    return Recut(rows=tuple(rows), left_over=tuple(sorted(over.items())))
