"""The design document: numbers and choices, from which everything else follows.

A design is one frozen value. Each change makes a new one; the server keeps them all as revisions.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from notchcore.design.assembly import Assembly
from notchcore.design.cards import pieces
from notchcore.design.cards.pieces import Card, card_assembly
from notchcore.design.families import box
from notchcore.design.families.box import BoxNumbers, arrange
from notchcore.design.joints.solve import MeetingChoice, solve
from notchcore.errors import DesignError
from notchcore.measure.fit import NO_FITS, WANTED, Feel, Fits
from notchcore.measure.stock import Stock


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """A project's numbers and choices."""

    numbers: BoxNumbers | Card
    stocks: dict[str, str]  #: stock id by role; the roles are those of the family
    feel: Feel = Feel.SNUG  #: for joints without a choice of their own
    choices: dict[str, MeetingChoice] = field(default_factory=dict)  #: by meeting id; survives changes of size

    def __post_init__(self) -> None:
        if self.feel not in WANTED:
            raise DesignError(f"A joint can be asked to feel {', '.join(WANTED)}; not {self.feel.value}.")
        missing = [r for r in self.roles() if r not in self.stocks]
        if missing:
            raise DesignError(f"Choose a stock for: {', '.join(missing)}.", field="stocks")

    def roles(self) -> tuple[str, ...]:
        return box.ROLES if isinstance(self.numbers, BoxNumbers) else pieces.ROLES

    def stock_ids(self) -> tuple[str, ...]:
        """Return the stocks that the design names, each once."""
        return tuple(dict.fromkeys(self.stocks[r] for r in self.roles()))

    @property
    def is_test(self) -> bool:
        """Whether this is a test piece of Sheets."""
        return not isinstance(self.numbers, BoxNumbers)


def build(design: Design, stocks: dict[str, Stock], fits: Fits = NO_FITS) -> Assembly:
    """Return the assembly that a design comes to with these stocks.

    Impossible wishes give an assembly without parts and findings that name the number to change. A stock that must not be
    cut is a finding here already, where it is chosen.

    Raises:
        DesignError: a stock that the design names is not among `stocks`
    """
    missing = [s for s in design.stock_ids() if s not in stocks]
    if missing:
        raise DesignError("A stock of this design is no longer on the rack. Choose another in Build.", missing=missing)
    used = [stocks[s] for s in design.stock_ids()]
    hazards = tuple(s.hazard for s in used if s.hazard is not None)
    if isinstance(design.numbers, BoxNumbers):
        made = _box(design, design.numbers, stocks, fits)
    else:
        made = card_assembly(design.numbers, stocks[design.stocks["sheet"]], stocks[design.stocks["tongue"]])
    return replace(made, findings=(*hazards, *made.findings))


def _box(design: Design, numbers: BoxNumbers, stocks: dict[str, Stock], fits: Fits) -> Assembly:
    arrangement = arrange(numbers, design.stocks, stocks)
    if not arrangement.panels:
        return Assembly(parts=(), meetings=(), findings=arrangement.findings)
    solved = solve(list(arrangement.panels), rules=arrangement.rules, stocks=stocks, choices=design.choices, feel=design.feel, fits=fits)
    return replace(solved, findings=(*arrangement.findings, *solved.findings))
