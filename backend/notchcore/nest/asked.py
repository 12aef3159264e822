"""What a person asks of a packing, checked once: how much of what, how parts may lie, and how long it may take.

The names of its numbers are those in which requests are kept; a request of an earlier release, which lacks some, means their defaults.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from notchcore.design.assembly import Part
from notchcore.errors import require
from notchcore.measure.materials import MATERIALS, part_spacing
from notchcore.measure.stock import Stock
from notchcore.nest.rows import Grid
from notchcore.nest.values import AS_DRAWN, EVERY_TURN, HALF_TURNS, QUARTER_TURNS, NestPart, NestRules
from notchcore.nest.wanted import Wish, may_lie_on_back, packed_parts, two_faced
from notchcore.units import Mm

MOST_SECONDS = 600.0
MOST_COPIES = 500
MOST_GROUPS = 20
OTHERWISE: Mm = 2.0  # between parts of no stock


class Turning(StrEnum):
    """How a part may be turned, apart from what holds for all."""

    FIXED = "fixed"
    HALF = "half"
    QUARTER = "quarter"
    ANY = "any"

    @property
    def turns(self) -> tuple[int, ...]:
        """Degrees, counter-clockwise."""
        return _TURNS[self]


_TURNS = {Turning.FIXED: AS_DRAWN, Turning.HALF: HALF_TURNS, Turning.QUARTER: QUARTER_TURNS, Turning.ANY: EVERY_TURN}


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A packing as it is wanted.

    Raises:
        ValueOutside: a number that makes no sense
    """

    margin_mm: Mm = 5.0  #: kept free at the edges of sheets
    spacing_mm: Mm = OTHERWISE  #: between parts of a stock that has none of its own
    spacing: dict[str, Mm] = field(default_factory=dict)  #: between parts, by stock
    keep_grain: bool = False
    copies: int = 1
    seconds: float = 4.0
    seed: int = 1
    only: dict[str, int] = field(default_factory=dict)  #: how many of which parts, where not all are wanted
    turns: dict[str, Turning] = field(default_factory=dict)  #: of a part of its own
    fill: dict[str, int] = field(default_factory=dict)  #: how many more of a part may fill the sheets up
    rows: tuple[str, ...] = ()  #: parts that are laid in rows at one pitch
    grids: dict[str, Grid] = field(default_factory=dict)  #: how those rows are to be
    backs: tuple[str, ...] = ()  #: parts that may lie on their back, where nothing is burned on their face
    pairs: tuple[str, ...] = ()  #: parts of which half lie on their back, so that they can be turned over into each other's holes
    together: tuple[tuple[str, ...], ...] = ()  #: parts that stay on one sheet
    go_on: bool = False  #: from the layout that is there
    common: bool = False  #: parts lie a beam's width apart, so that straight edges share their cut
    kerfs: dict[str, Mm] = field(default_factory=dict)  #: that width, by stock

    def __post_init__(self) -> None:
        require("margin", self.margin_mm, least=0, most=100)
        for spacing in (self.spacing_mm, *self.spacing.values()):
            require("spacing", spacing, least=0, most=100)
        require("copies", self.copies, least=1, most=MOST_COPIES, unit="")
        require("seconds", self.seconds, least=0.1, most=MOST_SECONDS, unit="s")
        require("seed", self.seed, least=-(2**53), most=2**53, unit="")
        for number in self.fill.values():
            require("how many more", number, least=0, most=MOST_COPIES, unit="")
        require("groups that stay together", len(self.together), least=0, most=MOST_GROUPS, unit="")

    @property
    def wish(self) -> Wish:
        """How much of the design is wanted."""
        return Wish(copies=self.copies, only=self.only, fill=self.fill, turns={k: t.turns for k, t in self.turns.items()})

    @property
    def turns_of_all(self) -> tuple[int, ...]:
        """Degrees, for parts without turns of their own."""
        return HALF_TURNS if self.keep_grain else QUARTER_TURNS

    def turns_of(self, part: str) -> tuple[int, ...]:
        """Return in which turns a part may lie [degrees]."""
        return self.turns[part].turns if part in self.turns else self.turns_of_all

    def rules(self, bed: tuple[Mm, Mm], stock: str = "") -> NestRules:
        """Return how parts of a stock may lie on a machine with such a bed."""
        own = self.kerfs if self.common else self.spacing
        return NestRules(
            margin=self.margin_mm,
            spacing=own.get(stock, self.spacing_mm),
            turns=self.turns_of_all,
            bed_width=bed[0],
            bed_height=bed[1],
        )

    def in_pairs(self, part: Part) -> bool:
        """Tell whether half of a part lie on their back: a person wants that, and both faces are burned."""
        return part.id in self.pairs and two_faced(part)

    def may_be_turned_over(self, part: Part, parts: Sequence[Part]) -> bool:
        """Tell whether a part, or half of its copies, may lie on its back."""
        return may_lie_on_back(part, parts, backs=self.backs) or self.in_pairs(part)

    def parts(self, parts: Sequence[Part]) -> list[NestPart]:
        """Return the parts that are laid out, with how many of each and the turns they may have."""
        return packed_parts(parts, self.wish, backs=self.backs, pairs=self.pairs)


def nothing_said(stocks: Mapping[str, Stock]) -> Asked:
    """Return what a packing starts from when nobody chose: each stock's own spacing, one copy, four seconds."""
    own = {k: round(part_spacing(MATERIALS[s.material], s.t), 2) for k, s in stocks.items()}
    return Asked(spacing_mm=max(own.values(), default=OTHERWISE), spacing=own)
