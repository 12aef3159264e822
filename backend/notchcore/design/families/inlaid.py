"""The inlaid board: squares of several stocks in a lattice, on a base.

Sheet    the lattice is one sheet with an opening for each square, which drops in with the feel of every other joint
Strips   the lattice is made of strips on edge, lapped where they cross; squares lie loose between them

The base's lower face is z = 0, its lower left corner the origin; columns run to the right, rows to the back.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, facing_front, facing_right, lying
from notchcore.design.assembly import Mark
from notchcore.design.families.outlines import rounded
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, choice, count, length
from notchcore.design.panel import Bound
from notchcore.design.styles import Style
from notchcore.errors import DesignError
from notchcore.geom.profile import Profile, rectangle
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.language import called
from notchcore.words.render import say

MOST = 24  # rows, columns
KINDS = 4
SQUARES = tuple(f"squares_{k + 1}" for k in range(KINDS))
ROLES = (
    PanelGroup(id="base", label="Base"),
    PanelGroup(id="lattice", label="Lattice"),
    PanelGroup(id="squares_1", label="Squares, first kind"),
    PanelGroup(id="squares_2", label="Squares, second kind"),
    PanelGroup(id="squares_3", label="Squares, third kind"),
    PanelGroup(id="squares_4", label="Squares, fourth kind"),
)
LEAST_SQUARE: Mm = 5.0


class Sized(StrEnum):
    """What is given; the rest follows."""

    SQUARE = "square"
    FIELD = "field"  # all squares with the lattice between them
    BOARD = "board"  # out to the outer edge


class Lattice(StrEnum):
    """What lies between the squares."""

    SHEET = "sheet"
    STRIPS = "strips"


class Pattern(StrEnum):
    """Which square is of which kind."""

    CHEQUERED = "chequered"
    COLUMNS = "columns"
    ROWS = "rows"
    RINGS = "rings"
    PAINTED = "painted"


class Base(StrEnum):
    """What all of it lies on."""

    GLUED = "glued"
    NONE = "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class InlaidNumbers:
    """The numbers of an inlaid board [mm]."""

    family: Literal["inlaid"] = "inlaid"
    columns: int = count(8, "Columns", least=1, most=MOST)
    rows: int = count(8, "Rows", least=1, most=MOST)
    sized: Sized = choice(
        Sized.SQUARE, "The size is that of", labels={Sized.SQUARE: "one square", Sized.FIELD: "all squares together", Sized.BOARD: "the whole board"}
    )
    square: Mm = length(28.0, "Square", least=LEAST_SQUARE, only=("sized", ("square",)))
    across: Mm = length(280.0, "Width", least=SMALLEST, only=("sized", ("field", "board")))
    lattice: Lattice = choice(Lattice.SHEET, "Lattice", labels={Lattice.SHEET: "one sheet", Lattice.STRIPS: "strips on edge"}, group="Lattice")
    bar: Mm = length(4.0, "Between two squares", least=1.0, most=100.0, group="Lattice", only=("lattice", ("sheet",)))
    strip: Mm = length(10.0, "Strips, height", least=4.0, most=200.0, scales=False, group="Lattice", only=("lattice", ("strips",)))
    ends: Mm = length(12.0, "Strips go beyond the last crossing by", least=5.0, most=200.0, group="Lattice", only=("lattice", ("strips",)))
    play: Mm = length(0.3, "Play of the squares", most=5.0, scales=False, group="Lattice", only=("lattice", ("strips",)), says="both sides together")
    border: Mm = length(16.0, "Border", none_at_zero=True, least=2.0, group="Border")
    corner: Mm = length(4.0, "Round corners, radius", group="Border")
    base: Base = choice(Base.GLUED, "Base", labels={Base.GLUED: "glued below", Base.NONE: "none"}, group="Base", only=("lattice", ("sheet",)))
    pattern: Pattern = choice(
        Pattern.CHEQUERED,
        "Pattern",
        labels={
            Pattern.CHEQUERED: "chequered",
            Pattern.COLUMNS: "columns",
            Pattern.ROWS: "rows",
            Pattern.RINGS: "rings",
            Pattern.PAINTED: "painted",
        },
        group="Pattern",
    )
    kinds: int = count(2, "Kinds of squares", least=1, most=KINDS, group="Pattern", only=("pattern", ("chequered", "columns", "rows", "rings")))
    painted: tuple[tuple[int, ...], ...] = ()  #: kind of each square from 0, front row first; where there is none, as if chequered

    def __post_init__(self) -> None:
        check_numbers(self)
        if len(self.painted) > MOST or any(len(row) > MOST or not all(0 <= k < KINDS for k in row) for row in self.painted):
            raise DesignError(say("painted_wrong", most=MOST, kinds=KINDS), field="painted")


def kind_of(n: InlaidNumbers, *, row: int, column: int) -> int:
    """Return the kind of a square, from 0."""
    if n.pattern is Pattern.PAINTED:
        return n.painted[row][column] if row < len(n.painted) and column < len(n.painted[row]) else (row + column) % 2
    way = {
        Pattern.CHEQUERED: row + column,
        Pattern.COLUMNS: column,
        Pattern.ROWS: row,
        Pattern.RINGS: min(row, column, n.rows - 1 - row, n.columns - 1 - column),
    }
    return way[n.pattern] % n.kinds


@dataclass(frozen=True, slots=True)
class _Grid:
    """Where squares are [mm]: rooms of `clear`, `between` apart, the first at `start`, on a board of `width` by `height`."""

    clear: Mm
    between: Mm
    start: Mm
    width: Mm
    height: Mm

    def at(self, i: int) -> Mm:
        """Return where a square's room begins."""
        return self.start + i * (self.clear + self.between)


def grid_of(n: InlaidNumbers, between: Mm, *, start: Mm) -> _Grid:
    """Return where the squares are.

    Args:
        between: two rooms [mm]
        start: from the board's edge to the first room [mm]
    """
    bars = (n.columns - 1) * between
    clear = {
        Sized.SQUARE: n.square,
        Sized.FIELD: (n.across - bars) / n.columns,
        Sized.BOARD: (n.across - bars - 2 * start) / n.columns,
    }[n.sized]
    width, height = (k * clear + (k - 1) * between + 2 * start for k in (n.columns, n.rows))
    return _Grid(clear=clear, between=between, start=start, width=width, height=height)


def arrange(n: InlaidNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the sheets of an inlaid board, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    strips = n.lattice is Lattice.STRIPS
    # Labels, not readings, lay the strips out, so that a reading moves none of them; squares fill what is there.
    between = a.stock("lattice").layout_t if strips else n.bar
    grid = grid_of(n, between, start=between + n.ends + n.border if strips else n.border)
    _check(n, grid, a=a)
    if a.impossible:
        return a.done()
    if strips:
        _on_strips(n, grid, a=a)
    else:
        _in_sheet(n, grid, a=a)
    _shown(n, grid, a=a, top=a.t("base") if strips or n.base is Base.GLUED else 0.0)
    last = grid.at(n.columns - 1)
    a.fact("Room of a square", grid.clear)
    a.fact("All squares together", last + grid.clear - grid.at(0))
    a.fact("The whole board", grid.width, grid.height)
    return a.done()


def _shown(n: InlaidNumbers, grid: _Grid, *, a: Arranger, top: Mm) -> None:
    """Note where the numbers that count can be seen."""
    first, last = grid.at(0), grid.at(n.columns - 1) + grid.clear
    if n.sized is Sized.SQUARE:
        a.shows("square", (first, first, top), end=(first + grid.clear, first, top))
    else:
        low, high = (first, last) if n.sized is Sized.FIELD else (0.0, grid.width)
        a.shows("across", (low, 0, top), end=(high, 0, top))
    if n.border:
        a.shows("border", (0, first, top), end=(n.border, first, top))
    if n.lattice is Lattice.SHEET:
        a.shows("bar", (first + grid.clear, first, top), end=(first + grid.clear + grid.between, first, top))
    else:
        a.shows("strip", (0, 0, top), end=(0, 0, top + n.strip))


def _check(n: InlaidNumbers, grid: _Grid, *, a: Arranger) -> None:
    number = "square" if n.sized is Sized.SQUARE else "across"
    if grid.clear < LEAST_SQUARE or grid.clear - n.play < LEAST_SQUARE / 2:
        more = n.columns * (LEAST_SQUARE - grid.clear)
        least = LEAST_SQUARE + n.play if n.sized is Sized.SQUARE else n.across + more
        a.must("squares_vanish", number, says=say("squares_vanish", least=mm(least)), least_mm=least)
        return
    web = a.web("lattice")
    if n.lattice is Lattice.SHEET and n.bar < web:
        a.must("lattice_too_thin", "bar", says=say("lattice_too_thin", least=mm(web)), least_mm=web)
    if n.lattice is Lattice.SHEET and n.border < web:
        a.must("lattice_too_thin", "border", says=say("lattice_too_thin", least=mm(web)), least_mm=web)
    if n.lattice is Lattice.STRIPS and n.strip < 2 * web:
        a.must("lattice_too_thin", "strip", says=say("lattice_too_thin", least=mm(2 * web)), least_mm=2 * web)
    if n.lattice is Lattice.STRIPS and n.ends < web:
        a.must("lattice_too_thin", "ends", says=say("lattice_too_thin", least=mm(web)), least_mm=web)


def _squares(n: InlaidNumbers, grid: _Grid, *, a: Arranger, z: Mm, off: Mm) -> list[str]:
    """Add every square, `off` smaller than its room on each side [mm]; return their names."""
    names = []
    for row in range(n.rows):
        for column in range(n.columns):
            x, y, side = grid.at(column) + off, grid.at(row) + off, grid.clear - 2 * off
            name = f"square-{column + 1}-{row + 1}"
            label = called("Square {column}.{row}", column=column + 1, row=row + 1)
            role = SQUARES[kind_of(n, row=row, column=column)]
            a.add(name, label, role=role, envelope=rectangle(x, y, x1=x + side, y1=y + side), pose=lying(z), datum=0.0, loose=off > 0)
            names.append(name)
    return names


def _in_sheet(n: InlaidNumbers, grid: _Grid, *, a: Arranger) -> None:
    outer = rounded(0, 0, x1=grid.width, y1=grid.height, radius=min(n.corner, n.border))
    holes = []
    for row in range(n.rows):
        for column in range(n.columns):
            x, y = grid.at(column), grid.at(row)
            holes.append(tuple(reversed(rectangle(x, y, x1=x + grid.clear, y1=y + grid.clear).outer)))
    z = 0.0
    if n.base is Base.GLUED:
        z = a.t("base")
        marks = _lines_below(n, grid)
        a.add("base", "Base", role="base", envelope=outer, pose=lying(0), datum=0.0, marks=marks, places=("lattice",))
    a.add("lattice", "Lattice", role="lattice", envelope=Profile(outer=outer.outer, holes=tuple(holes), circles=outer.circles), pose=lying(z), datum=0.0)
    names = _squares(n, grid, a=a, z=z, off=0.0)
    if n.base is Base.GLUED:
        a.rest(("base",), tuple(names))


def _lines_below(n: InlaidNumbers, grid: _Grid) -> tuple[Mark, ...]:
    """Return lines on the base along the middles of the lattice's bars, which hide them."""
    half = grid.between / 2
    first, right, top = grid.at(0), grid.at(n.columns - 1) + grid.clear, grid.at(n.rows - 1) + grid.clear
    upright = [(grid.at(i) - half, first, grid.at(i) - half, top) for i in range(1, n.columns)]
    level = [(first, grid.at(i) - half, right, grid.at(i) - half) for i in range(1, n.rows)]
    return tuple(Mark(line=((x0, y0), (x1, y1)), closed=False) for x0, y0, x1, y1 in (*upright, *level))


def _on_strips(n: InlaidNumbers, grid: _Grid, *, a: Arranger) -> None:
    z = a.t("base")
    a.add("base", "Base", role="base", envelope=rounded(0, 0, x1=grid.width, y1=grid.height, radius=n.corner), pose=lying(0), datum=0.0)
    half = grid.between / 2
    upright = [(f"strip-{i + 1}", called("Strip {number}", number=i + 1), facing_right(grid.at(i) - half), grid.height) for i in range(n.columns + 1)]
    level = [(f"cross-strip-{i + 1}", called("Strip across {number}", number=i + 1), facing_front(grid.at(i) - half), grid.width) for i in range(n.rows + 1)]
    for name, label, pose, long in (*upright, *level):
        shape = rectangle(n.border, 0, x1=long - n.border, y1=z + n.strip)
        a.add(name, label, role="lattice", envelope=shape, pose=pose, datum=0.5, rank=1, bounds=(Bound(mate="base"),))
        a.rule("base", name, style=Style.BLIND)
    # A board that is not as thick as its label leaves more or less room.
    squares = _squares(n, grid, a=a, z=z, off=(n.play + a.t("lattice") - grid.between) / 2)
    a.rest((*(name for name, *_ in (*upright, *level)), "base"), tuple(squares))
