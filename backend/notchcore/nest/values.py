"""What a packing starts from and comes to.

NestPart     a kind of part and how many are wanted
SheetKind    a sheet or offcut on the shelf, and how many there are
Placement    one part on one sheet: mirrored where it lies on its back, turned counter-clockwise about its own origin, then moved
Nesting      all sheets used, and what found no place and why
"""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.errors import NestError, require
from notchcore.geom.profile import Profile, Ring, bounds_of
from notchcore.units import Mm
from notchcore.words.facts import Kind, Ref, Sentence
from notchcore.words.render import say

QUARTER_TURNS = (0, 90, 180, 270)
HALF_TURNS = (0, 180)
AS_DRAWN = (0,)
EVERY_TURN = tuple(range(0, 360, 15))
Sides = tuple[bool, ...]
FRONT: Sides = (False,)
EITHER: Sides = (False, True)
BACK: Sides = (True,)


@dataclass(frozen=True, slots=True, kw_only=True)
class NestPart:
    """A kind of part, finished size, and how many are wanted."""

    id: str
    stock: str
    profile: Profile
    count: int = 1
    turns: tuple[int, ...] = ()  #: allowed turns of its own [degrees]; empty: as the rules say
    sides: Sides = FRONT  #: whether it lies on its front (False) or on its back (True), where its mirror image is cut
    label: str = ""  #: what a person calls it

    @property
    def name(self) -> str:
        return self.label or self.id

    @property
    def ref(self) -> Ref:
        """What a sentence calls it."""
        return Ref(Kind.PART, self.id, self.name)

    def may_turn(self, rules: NestRules) -> tuple[int, ...]:
        return self.turns or rules.turns

    def may_lie(self, place: Placement, rules: NestRules) -> bool:
        """Tell whether it may be turned so, and lie on its back where it does."""
        return place.turn % 360 in {t % 360 for t in self.may_turn(rules)} and place.mirrored in self.sides


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetKind:
    """Equal sheets of one stock; an offcut has an outline of its own."""

    id: str
    stock: str
    name: str
    width: Mm
    height: Mm
    count: int = 1
    price: float = 0.0
    outline: Ring = ()  #: counter-clockwise; empty for a whole rectangle
    bad: tuple[Ring, ...] = ()  #: knots, dents, burns: parts keep clear of them as of each other

    def __post_init__(self) -> None:
        require("sheet width", self.width, least=5.0, most=10_000.0)
        require("sheet height", self.height, least=5.0, most=10_000.0)
        require("sheets", self.count, least=0, most=1000, unit="")

    def ring(self) -> Ring:
        return self.outline or ((0.0, 0.0), (self.width, 0.0), (self.width, self.height), (0.0, self.height))


@dataclass(frozen=True, slots=True, kw_only=True)
class NestRules:
    """How parts may lie."""

    margin: Mm = 5.0  #: part to sheet edge
    spacing: Mm = 2.0  #: part to part
    turns: tuple[int, ...] = QUARTER_TURNS  #: allowed turns [degrees]
    bed_width: Mm = 600.0
    bed_height: Mm = 400.0

    def __post_init__(self) -> None:
        require("margin", self.margin, least=0.0, most=100.0)
        require("spacing", self.spacing, least=0.0, most=100.0)
        if not self.turns:
            raise NestError(say("no_way_to_lie"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Placement:
    """One part on a sheet; `copy` tells equal parts apart."""

    part: str
    copy: int
    turn: int  #: degrees, counter-clockwise
    x: Mm
    y: Mm
    mirrored: bool = False  #: it lies on its back


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetLayout:
    """One sheet with parts on it."""

    sheet: str  #: SheetKind id
    copy: int
    stock: str
    name: str
    width: Mm
    height: Mm
    ring: Ring
    placements: tuple[Placement, ...]
    utilisation: float  #: net part area / sheet area
    leftover: tuple[Mm, Mm, Mm, Mm] | None  #: largest rectangle that stays whole: x0, y0, x1, y1
    bad: tuple[Ring, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Unplaced:
    """Parts that found no place."""

    part: str
    count: int
    why: Sentence


@dataclass(frozen=True, slots=True, kw_only=True)
class Nesting:
    """A whole packing."""

    sheets: tuple[SheetLayout, ...]
    unplaced: tuple[Unplaced, ...]
    utilisation: float
    price: float


def size_of(profile: Profile) -> tuple[Mm, Mm]:
    """Return width and height of a profile [mm]."""
    x0, y0, x1, y1 = bounds_of(profile.outer)
    return x1 - x0, y1 - y0
