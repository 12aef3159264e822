"""The design document: numbers and choices, from which everything else follows.

A design is one frozen value. Each change makes a new one; the server keeps them all as revisions.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from notchcore.design.assembly import Assembly
from notchcore.design.families.box import BoxNumbers, BoxStocks, arrange
from notchcore.design.joints.solve import MeetingChoice, solve
from notchcore.errors import DesignError
from notchcore.measure.fit import WANTED, Feel
from notchcore.measure.stock import Stock


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """A project's numbers and choices."""

    numbers: BoxNumbers
    stocks: BoxStocks
    feel: Feel = Feel.SNUG  #: for joints without a choice of their own
    choices: dict[str, MeetingChoice] = field(default_factory=dict)  #: by meeting id; survives changes of size

    def __post_init__(self) -> None:
        if self.feel not in WANTED:
            raise DesignError(f"A joint can be asked to feel {', '.join(WANTED)}; not {self.feel.value}.")

    def stock_ids(self) -> tuple[str, ...]:
        """Return the stocks that the design names, each once."""
        return tuple(dict.fromkeys((self.stocks.walls, self.stocks.base, self.stocks.dividers, self.stocks.lid)))


def build(design: Design, stocks: dict[str, Stock]) -> Assembly:
    """Return the assembly that a design comes to with these stocks.

    Impossible wishes give an assembly without parts and findings that name the number to change.

    Raises:
        DesignError: a stock that the design names is not among `stocks`
    """
    missing = [s for s in design.stock_ids() if s not in stocks]
    if missing:
        raise DesignError("A stock of this design is no longer on the rack. Choose another in Build.", missing=missing)
    arrangement = arrange(design.numbers, design.stocks, stocks)
    if not arrangement.panels:
        return Assembly(parts=(), meetings=(), findings=arrangement.findings)
    solved = solve(list(arrangement.panels), rules=arrangement.rules, stocks=stocks, choices=design.choices, feel=design.feel)
    return Assembly(parts=solved.parts, meetings=solved.meetings, findings=(*arrangement.findings, *solved.findings))
