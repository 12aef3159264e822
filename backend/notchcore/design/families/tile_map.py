"""A wished map of tiles: what it takes of each thing.

A tile has a column and a row, an edge a number: 0 in front, then round to the right, behind, to the left. Pieces count in squares
of the fields of all tiles, as if the rims were not there.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from typing import Protocol

from notchcore.design.assembly import WishCount
from notchcore.words.language import called

MOST_MAP = 16  # rows, columns
EDGES = 4

Tile = tuple[int, int]
WallAt = tuple[int, int, int]
PieceAt = tuple[int, int, int, int, int]


class Mapped(Protocol):
    """The numbers of a set of tiles that a map needs."""

    @property
    def tiles(self) -> int: ...
    @property
    def full(self) -> int: ...
    @property
    def short(self) -> int: ...
    @property
    def middles(self) -> int: ...
    @property
    def units(self) -> int: ...
    @property
    def pieces(self) -> tuple[tuple[int, int, int, int], ...]: ...
    @property
    def tiles_at(self) -> tuple[Tile, ...]: ...
    @property
    def walls_at(self) -> tuple[WallAt, ...]: ...
    @property
    def pieces_at(self) -> tuple[PieceAt, ...]: ...


def piece_id(columns: int, rows: int, *, kind: int) -> str:
    """Return the name of the part that all pieces of one sort are; kinds count from 0."""
    return f"piece-{columns}-{rows}-{kind + 1}"


def piece_label(columns: int, rows: int, *, kind: int) -> str:
    """Return what pieces of one sort are called."""
    return called("Piece {columns} x {rows}, kind {kind}", columns=columns, rows=rows, kind=kind + 1)


def within_bounds(n: Mapped) -> bool:
    """Tell whether a map has places that there are, none of them twice."""
    there = set(n.tiles_at)
    return (
        len(there) == len(n.tiles_at)
        and all(0 <= c < MOST_MAP and 0 <= r < MOST_MAP for c, r in there)
        and len(set(n.walls_at)) == len(n.walls_at)
        and all((c, r) in there and 0 <= edge < EDGES for c, r, edge in n.walls_at)
        and all(x >= 0 and y >= 0 and columns > 0 and rows > 0 and kind >= 0 for x, y, columns, rows, kind in n.pieces_at)
        and len(n.pieces_at) <= (MOST_MAP * n.units) ** 2
    )


def are_short(walls: Iterable[WallAt]) -> dict[WallAt, bool]:
    """Return whether each wall is one of corner length: where walls meet on one tile, those to the left and right end before the others."""
    walls = list(walls)
    ahead = {(c, r) for c, r, edge in walls if edge % 2 == 0}
    return {(c, r, edge): edge % 2 == 1 and (c, r) in ahead for c, r, edge in walls}


def lies(n: Mapped, piece: PieceAt) -> bool:
    """Tell whether a piece lies in the field of one tile."""
    x, y, columns, rows, _ = piece
    within = (x % n.units) + columns <= n.units and (y % n.units) + rows <= n.units
    return within and (x // n.units, y // n.units) in set(n.tiles_at)


def needs_of(n: Mapped) -> list[WishCount]:
    """Return what a map takes of tiles, walls and pieces; nothing without a map."""
    if not n.tiles_at:
        return []
    short = Counter(are_short(n.walls_at).values())
    laid = Counter(p[2:] for p in n.pieces_at if lies(n, p))
    there = {s[:3]: s[3] for s in n.pieces}
    layers = ("face", *(f"middle-{i + 1}" for i in range(n.middles)), "frame")
    return [
        WishCount(label=called("Tiles"), parts=layers, wished=len(n.tiles_at), there=n.tiles, each=True),
        WishCount(label=called("Walls, full length"), parts=("wall-front", "wall-back"), wished=short[False], there=n.full),
        WishCount(label=called("Walls, corner length"), parts=("wall-left", "wall-right"), wished=short[True], there=n.short),
        *(
            WishCount(
                label=piece_label(columns, rows, kind=kind),
                parts=(piece_id(columns, rows, kind=kind),),
                wished=laid[columns, rows, kind],
                there=there.get((columns, rows, kind), 0),
            )
            for columns, rows, kind in sorted({*there, *laid})
        ),
    ]
