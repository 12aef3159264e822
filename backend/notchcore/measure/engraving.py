"""How deep the beam engraves, from a step card; and what a power card and a legibility card say."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.errors import MeasureError, require
from notchcore.findings import Finding, Severity
from notchcore.units import Mm
from notchcore.words.facts import Share, mm
from notchcore.words.render import say

TOO_DEEP = 0.6  # share of the thickness
WORST_CHAR = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthRead:
    """A measured square of the step card."""

    passes: int
    depth: Mm

    def __post_init__(self) -> None:
        require("passes", self.passes, least=1, most=50, unit="")
        require("depth", self.depth, least=0, most=50)


@dataclass(frozen=True, slots=True, kw_only=True)
class Depth:
    """Depth of one pass [mm], with its standard deviation."""

    per_pass: Mm
    sd: Mm
    squares: int


def depth_per_pass(read: Sequence[DepthRead]) -> Depth:
    """Return the depth of one pass from the squares of a card: least squares through the origin, d = sum(n D) / sum(n n).

    Raises:
        MeasureError: nothing was measured, or nothing was engraved
    """
    if not read or all(r.depth == 0 for r in read):
        raise MeasureError(say("squares_without_depth"))
    nn = math.fsum(r.passes**2 for r in read)
    d = math.fsum(r.passes * r.depth for r in read) / nn
    rest = math.fsum((r.depth - d * r.passes) ** 2 for r in read)
    own = max(math.sqrt(rest / (len(read) - 1)) if len(read) > 1 else 0.0, 0.02)  # a depth is read to a few hundredths at best
    return Depth(per_pass=d, sd=own / math.sqrt(nn), squares=len(read))


def passes_for(depth: Mm, per_pass: Mm) -> int:
    """Return how many passes reach a depth: ceil(depth / per pass)."""
    require("depth", depth, least=0.001, most=50)
    require("depth of one pass", per_pass, least=0.001, most=50)
    return max(1, math.ceil(depth / per_pass - 1e-9))


def depth_finding(depth: Mm, thickness: Mm) -> Finding | None:
    """Return the warning of an engraving that leaves too little of the sheet, or nothing."""
    if depth <= TOO_DEEP * thickness + 1e-9:
        return None
    most = mm(TOO_DEEP * thickness, digits=2)
    says = say("engraved_too_deep.share", depth=mm(depth, digits=2), share=Share(TOO_DEEP), thickness=mm(thickness, digits=2), most=most)
    severity = Severity.MUST if depth >= thickness else Severity.LOOK
    return Finding(code="engraved_too_deep", severity=severity, facts={"depth_mm": depth, "thickness_mm": thickness}, says=says)


@dataclass(frozen=True, slots=True, kw_only=True)
class SquareSeen:
    """A square of the power card: how it was cut, and what became of it."""

    power: float  #: percent
    speed: float  #: mm/s
    through: bool
    char: int = 0  #: 0 clean .. 3 burnt

    def __post_init__(self) -> None:
        require("char", self.char, least=0, most=WORST_CHAR, unit="")


def best_square(seen: Sequence[SquareSeen], *, accepted_char: int = 1) -> SquareSeen:
    """Return the fastest square that fell out with at most the accepted char; of equally fast ones the one with least power.

    Raises:
        MeasureError: no square cut through, or each that did is burnt more
    """
    through = [s for s in seen if s.through]
    if not through:
        raise MeasureError(say("no_square_through"))
    good = [s for s in through if s.char <= accepted_char]
    if not good:
        raise MeasureError(say("all_squares_burnt"))
    return min(good, key=lambda s: (-s.speed, s.power, s.char))
