"""Tiles: squares of glued layers that lie side by side, with loose walls that plug into sockets and loose pieces that lie in a frame.

Layer     face below, one or several in the middle with the sockets, a frame on top; pegs pass the frame with room, so that
          only the middle says how tightly a wall stands
Socket    as many on each edge, mirrored about its middle, so that a tile may be turned and rows of sockets go on in its neighbours
Length    a full wall is as long as a tile; one of corner length ends before a wall on the next edge, so that both fit one tile

One tile is shown with a wall on each edge; what is wanted of each is its number of copies. The face's lower side is z = 0.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, facing_front, facing_right, lying
from notchcore.design.assembly import Mark
from notchcore.design.families.outlines import rounded
from notchcore.design.families.tile_map import MOST_MAP, lies, needs_of, piece_id, piece_label, within_bounds
from notchcore.design.numbers import PanelGroup, check_numbers, choice, count, length
from notchcore.design.styles import Style
from notchcore.errors import DesignError
from notchcore.geom.profile import Profile, Ring, rectangle
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.language import called
from notchcore.words.render import say

KINDS = 4
PIECES = tuple(f"pieces_{k + 1}" for k in range(KINDS))
ROLES = (
    PanelGroup(id="face", label="Face"),
    PanelGroup(id="middle", label="Middle layers"),
    PanelGroup(id="frame", label="Frame"),
    PanelGroup(id="walls", label="Walls"),
    PanelGroup(id="pieces_1", label="Pieces, first kind"),
    PanelGroup(id="pieces_2", label="Pieces, second kind"),
    PanelGroup(id="pieces_3", label="Pieces, third kind"),
    PanelGroup(id="pieces_4", label="Pieces, fourth kind"),
)
MOST_SORTS = 24  # of pieces
MOST_UNITS = 12  # of the field, each way
MOST = 400  # of one thing
ROOM: Mm = 0.6  # round a peg where it only passes a layer
CORNER: Mm = 0.5  # between a wall of corner length and the wall on the next edge
GLUE_FREE: Mm = 1.5  # round a socket, where glue would run into it
BESIDE: Mm = 6.0  # between pieces that are shown in front of the tile
LEAST_PIECE: Mm = 4.0

Sort = tuple[int, int, int, int]


class Walls(StrEnum):
    """What stands on the tiles."""

    LOOSE = "loose"
    NONE = "none"


class Sockets(StrEnum):
    """From where walls are plugged in."""

    ABOVE = "above"
    BOTH = "both"


@dataclass(frozen=True, slots=True, kw_only=True)
class TilesNumbers:
    """The numbers of a set of tiles [mm]."""

    family: Literal["tiles"] = "tiles"
    tiles: int = count(9, "Tiles", least=1, most=MOST)
    pitch: Mm = length(96.0, "From tile to tile", least=30.0)
    gap: Mm = length(0.3, "Play between two tiles", most=5.0, scales=False)
    rim: Mm = length(14.0, "Rim, width", least=4.0)
    corner: Mm = length(1.0, "Round corners, radius")
    middles: int = count(1, "Middle layers", least=1, most=4)
    walls: Walls = choice(Walls.LOOSE, "Walls", labels={Walls.LOOSE: "loose, plugged in", Walls.NONE: "none"}, group="Walls")
    full: int = count(8, "Walls, full length", least=2, most=MOST, group="Walls", only=("walls", ("loose",)))
    short: int = count(8, "Walls, corner length", least=2, most=MOST, group="Walls", only=("walls", ("loose",)))
    height: Mm = length(24.0, "Walls, height above the tile", least=4.0, group="Walls", only=("walls", ("loose",)))
    pegs: int = count(2, "Pegs of a wall", least=1, most=8, group="Walls", only=("walls", ("loose",)))
    peg: Mm = length(12.0, "Peg, width", least=3.0, group="Walls", only=("walls", ("loose",)))
    sockets: Sockets = choice(
        Sockets.ABOVE, "Sockets are open", labels={Sockets.ABOVE: "above", Sockets.BOTH: "on both faces"}, group="Walls", only=("walls", ("loose",))
    )
    units: int = count(4, "Squares of the field, each way", least=1, most=MOST_UNITS, group="Loose pieces")
    play: Mm = length(0.4, "Play of the pieces", most=5.0, scales=False, group="Loose pieces", says="both sides together")
    pieces: tuple[Sort, ...] = ((1, 1, 0, 24), (2, 1, 1, 12), (2, 2, 1, 6))  #: columns, rows, kind from 0, how many
    tiles_at: tuple[tuple[int, int], ...] = ()  #: of a wished map: column and row of each tile
    walls_at: tuple[tuple[int, int, int], ...] = ()  #: column and row of the tile that each wall stands on, and its edge: front, right, back, left
    pieces_at: tuple[tuple[int, int, int, int, int], ...] = ()  #: where each piece lies, in squares of all fields, then its columns, rows, kind

    def __post_init__(self) -> None:
        check_numbers(self)
        within = len(self.pieces) <= MOST_SORTS and all(
            1 <= c <= MOST_UNITS and 1 <= r <= MOST_UNITS and 0 <= k < KINDS and 1 <= many <= MOST for c, r, k, many in self.pieces
        )
        if not within or len({s[:3] for s in self.pieces}) < len(self.pieces):
            raise DesignError(say("pieces_wrong", sorts=MOST_SORTS, units=MOST_UNITS, kinds=KINDS, most=MOST), field="pieces")
        if not within_bounds(self):
            raise DesignError(say("map_wrong", most=MOST_MAP), field="tiles_at")

    @property
    def side(self) -> Mm:
        """A tile's own side."""
        return self.pitch - self.gap

    @property
    def field(self) -> Mm:
        """The side of what the frame leaves open."""
        return self.side - 2 * self.rim

    @property
    def middle_of_rim(self) -> Mm:
        """How far the middle of a wall is from the edge that it stands on."""
        return self.rim / 2

    def short_from(self, t: Mm) -> Mm:
        """Return where a wall of corner length begins, from the tile's edge [mm].

        Args:
            t: thickness of the walls [mm]
        """
        return self.middle_of_rim + t / 2 + CORNER

    def places(self, t: Mm) -> list[Mm]:
        """Return the middles of the pegs along an edge [mm]: equal shares of the length of a wall of corner length."""
        start = self.short_from(t)
        share = (self.side - 2 * start) / self.pegs
        return [start + (i + 0.5) * share for i in range(self.pegs)]


def arrange(n: TilesNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return a tile with its walls and pieces, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    _check(n, a)
    if a.impossible:
        return a.done()
    top = a.t("face") + n.middles * a.t("middle") + a.t("frame")
    layers = _layers(n, a)
    if n.walls is Walls.LOOSE:
        _walls(n, a, top=top)
    _pieces(n, a, floor=top - a.t("frame"), layers=layers)
    a.shows("pitch", (0, 0, top), end=(n.side, 0, top))
    a.shows("rim", (0, n.side / 2, top), end=(n.rim, n.side / 2, top))
    a.needs += needs_of(n)
    if beyond := sum(not lies(n, p) for p in n.pieces_at):
        a.look("map_piece_beyond", say("map_piece_beyond", count=beyond), number="pieces_at")
    a.fact("A tile", n.side, n.side)
    a.fact("Field within the frame", n.field)
    a.fact("One square of the field", n.field / n.units)
    return a.done()


def _check(n: TilesNumbers, a: Arranger) -> None:
    """Say which number leaves too little material or room."""
    t, web = a.stock("walls").layout_t, max(a.web("middle"), a.web("frame"))
    need = 2 * web + (t + 2 * ROOM if n.walls is Walls.LOOSE else 0.0)
    if n.rim < need:
        a.must("rim_too_narrow", "rim", says=say("rim_too_narrow", least=mm(need)), least_mm=need)
    least = n.gap + 2 * n.rim + n.units * (LEAST_PIECE + n.play)
    if n.pitch < least:
        a.must("field_vanishes", "pitch", says=say("field_vanishes", least=mm(least)), least_mm=least)
        return
    if n.walls is Walls.LOOSE:
        share = (n.side - 2 * n.short_from(t)) / n.pegs
        most = share - 2 * (web + ROOM)
        if n.peg > most:
            number = "pegs" if n.pegs > 1 else "peg"
            a.must("pegs_too_near", number, says=say("pegs_too_near", most=mm(max(most, 0.0))), most_mm=most)
    for columns, rows, _, _ in n.pieces:
        if max(columns, rows) > n.units:
            a.must("piece_beyond_field", "pieces", says=say("piece_beyond_field", columns=columns, rows=rows, units=n.units))


def _ways_through(n: TilesNumbers, t: Mm) -> Iterator[tuple[Mm, Mm, Mm, Mm]]:
    """Yield the boxes in which pegs stand, of a wall so thick, on all four edges: x0, y0, x1, y1."""
    if n.walls is Walls.NONE:
        return
    for across in (n.middle_of_rim, n.side - n.middle_of_rim):
        for middle in n.places(t):
            yield middle - n.peg / 2, across - t / 2, middle + n.peg / 2, across + t / 2
            yield across - t / 2, middle - n.peg / 2, across + t / 2, middle + n.peg / 2


def _boxes(n: TilesNumbers, t: Mm, *, grown: Mm) -> tuple[Ring, ...]:
    return tuple(rectangle(x0 - grown, y0 - grown, x1=x1 + grown, y1=y1 + grown).outer for x0, y0, x1, y1 in _ways_through(n, t))


def _layers(n: TilesNumbers, a: Arranger) -> tuple[str, ...]:
    """Add a tile's layers; return the names of all."""
    t = a.stock("walls").layout_t
    outer = rounded(0, 0, x1=n.side, y1=n.side, radius=n.corner)
    passes = tuple(tuple(reversed(ring)) for ring in _boxes(n, t, grown=ROOM))
    window = tuple(reversed(rectangle(n.rim, n.rim, x1=n.side - n.rim, y1=n.side - n.rim).outer))
    names = ["face", *(f"middle-{i + 1}" for i in range(n.middles)), "frame"]
    both = n.sockets is Sockets.BOTH
    keep = () if both else tuple(Mark(line=ring) for ring in _boxes(n, t, grown=GLUE_FREE))
    face = Profile(outer=outer.outer, holes=passes if both else (), circles=outer.circles)
    a.add("face", "Face", role="face", envelope=face, pose=lying(0), datum=0.0, marks=keep, places=(names[1],), copies=n.tiles)
    z = a.t("face")
    for i in range(n.middles):
        label = "Middle" if n.middles == 1 else called("Middle {number}", number=i + 1)
        beside = (names[i], names[i + 2])  # all alike at the edge: they are laid edge on edge
        a.add(names[i + 1], label, role="middle", envelope=outer, pose=lying(z), datum=0.0, rank=1, places=beside, copies=n.tiles)
        z += a.t("middle")
    frame = Profile(outer=outer.outer, holes=(window, *passes), circles=outer.circles)
    a.add("frame", "Frame", role="frame", envelope=frame, pose=lying(z), datum=0.0, places=(names[-2],), copies=n.tiles)
    return tuple(names)


def _walls(n: TilesNumbers, a: Arranger, *, top: Mm) -> None:
    """Stand a wall on each edge: full ones in front and behind, those of corner length left and right."""
    t, foot = a.stock("walls").layout_t, a.t("face")
    start, near, far = n.short_from(t), n.middle_of_rim, n.side - n.middle_of_rim
    full = _wall(n, t, ends=(0.0, n.side), foot=foot, top=top)
    short = _wall(n, t, ends=(start, n.side - start), foot=foot, top=top)
    standing = (
        ("wall-front", "Wall in front", full, facing_front(near), (n.full + 1) // 2),
        ("wall-back", "Wall behind", full, facing_front(far), n.full // 2),
        ("wall-left", "Corner wall, left", short, facing_right(near), (n.short + 1) // 2),
        ("wall-right", "Corner wall, right", short, facing_right(far), n.short // 2),
    )
    names = tuple(name for name, *_ in standing)
    for name, label, shape, pose, copies in standing:
        a.add(name, label, role="walls", envelope=shape, pose=pose, datum=0.5, rank=2, copies=copies)
        for i in range(n.middles):
            a.rule(name, f"middle-{i + 1}", style=Style.WHOLE)
    a.rest(names, ("face", "frame"))
    a.rest(names[:2], names[2:])
    a.shows("height", (0, near, top), end=(0, near, top + n.height))
    a.fact("Full wall", n.side)
    a.fact("Wall of corner length", n.side - 2 * start)


def _wall(n: TilesNumbers, t: Mm, *, ends: tuple[Mm, Mm], foot: Mm, top: Mm) -> Profile:
    """Return the outline of a wall, pegs down to `foot`, its body on `top`."""
    low, high = ends
    edge = [(low, top)]
    for middle in n.places(t):
        x0, x1 = middle - n.peg / 2, middle + n.peg / 2
        edge += [(x0, top), (x0, foot), (x1, foot), (x1, top)]
    return Profile(outer=(*edge, (high, top), (high, top + n.height), (low, top + n.height)))


def _pieces(n: TilesNumbers, a: Arranger, *, floor: Mm, layers: tuple[str, ...]) -> None:
    """Lay one piece of each sort in the field as far as there is room, the others in front of the tile."""
    unit, taken = n.field / n.units, set[tuple[int, int]]()
    x, names = 0.0, []
    for columns, rows, kind, many in n.pieces:
        wide, high = columns * unit - n.play, rows * unit - n.play
        cell = _free(n.units, columns, rows=rows, taken=taken)
        if cell is not None:
            taken |= {(cell[0] + i, cell[1] + j) for i in range(columns) for j in range(rows)}
            at = (n.rim + cell[0] * unit + n.play / 2, n.rim + cell[1] * unit + n.play / 2, floor)
        else:
            at, x = (x, -BESIDE - high, 0.0), x + wide + BESIDE
        name = piece_id(columns, rows, kind=kind)
        shape = rectangle(at[0], at[1], x1=at[0] + wide, y1=at[1] + high)
        a.add(name, piece_label(columns, rows, kind=kind), role=PIECES[kind], envelope=shape, pose=lying(at[2]), datum=0.0, loose=True, copies=many)
        names.append(name)
    a.rest(tuple(names), layers)
    for i, name in enumerate(names):
        a.rest((name,), tuple(names[i + 1 :]))


def _free(units: int, columns: int, *, rows: int, taken: set[tuple[int, int]]) -> tuple[int, int] | None:
    """Return the first free place of a piece in the field; None where there is none."""
    for row in range(units - rows + 1):
        for column in range(units - columns + 1):
            if not any((column + i, row + j) in taken for i in range(columns) for j in range(rows)):
                return column, row
    return None
