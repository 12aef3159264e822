"""The machine: its bed, how it moves, and how its files tell operations apart."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.errors import require
from notchcore.measure.families import FAMILIES
from notchcore.measure.stock import Stock
from notchcore.units import Mm


class Operation(StrEnum):
    """What the beam does, in the order in which it is done."""

    SCORE = "score"
    INNER = "inner"  # cuts whose inside falls out or belongs to a part's inside
    OUTER = "outer"  # cuts that set a part free


class KerfPlace(StrEnum):
    """Where kerf is corrected; never in two places."""

    PATHS = "paths"  # here: our paths are offset by half the kerf
    MACHINE = "machine"  # the machine's own software does it: our files are uncorrected and say so


@dataclass(frozen=True, slots=True, kw_only=True)
class Convention:
    """How one operation looks in files for this machine."""

    colour: str  #: #rrggbb
    line_width: Mm
    layer: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """A laser cutter."""

    id: str
    name: str
    bed_width: Mm = 600.0
    bed_height: Mm = 400.0
    acceleration: float = 3000.0  #: mm/s2
    corner: Mm = 0.02  #: how far it may cut a corner; sets the speed through corners (junction deviation)
    rapid: float = 300.0  #: mm/s
    pierce: float = 0.15  #: s before each cut
    handling: float = 120.0  #: s to load, focus and unload a sheet
    slat_pitch: Mm = 20.0
    kerf_place: KerfPlace = KerfPlace.PATHS
    score: Convention = Convention(colour="#1f6fb2", line_width=0.1, layer="2-score")
    inner: Convention = Convention(colour="#c2410c", line_width=0.05, layer="3-inner-cut")
    outer: Convention = Convention(colour="#7c2d12", line_width=0.05, layer="4-outer-cut")

    def __post_init__(self) -> None:
        require("bed width", self.bed_width, 20, 10_000)
        require("bed height", self.bed_height, 20, 10_000)
        require("acceleration", self.acceleration, 10, 100_000, unit="mm/s²")
        require("corner", self.corner, 0.0005, 5)
        require("rapid speed", self.rapid, 1, 5_000, unit="mm/s")
        require("pierce", self.pierce, 0, 60, unit="s")
        require("slat pitch", self.slat_pitch, 0, 200)

    def convention(self, operation: Operation) -> Convention:
        return {Operation.SCORE: self.score, Operation.INNER: self.inner, Operation.OUTER: self.outer}[operation]


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """How a stock is cut and scored; a default until a test card or a run says better."""

    cut_power: float = 60.0  #: percent
    cut_speed: float = 14.0  #: mm/s
    passes: int = 1
    score_power: float = 12.0
    score_speed: float = 120.0
    air: bool = True
    source: str = "default, not tested here"

    def __post_init__(self) -> None:
        require("cut power", self.cut_power, 1, 100, unit="%")
        require("score power", self.score_power, 1, 100, unit="%")
        require("cut speed", self.cut_speed, 0.1, 1000, unit="mm/s")
        require("score speed", self.score_speed, 0.1, 2000, unit="mm/s")
        require("passes", self.passes, 1, 20, unit="")


def default_settings(stock: Stock) -> Settings:
    """Return settings to start from: speed falls with thickness, thick sheets get a second pass."""
    family = FAMILIES[stock.family]
    passes = 1 if stock.t <= 6 else 2
    return Settings(cut_speed=round(family.cut_speed * 3 / max(stock.t, 0.5) * passes, 1), passes=passes)
