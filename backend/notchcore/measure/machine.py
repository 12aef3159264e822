"""The machine: its bed, how it moves, its lenses, and how its files tell operations apart."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.errors import MeasureError, require
from notchcore.measure.fit import MACHINE_SD
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import Stock
from notchcore.units import Mm, shown_speed
from notchcore.words.facts import Sentence, Speed
from notchcore.words.render import say, written

NOT_IN_LAYERS = '<>/\\":;?*|=,`'  # no file format of ours can hold them in a name
LONGEST_LAYER = 80


class Operation(StrEnum):
    """What the beam does, in the order in which it is done."""

    ENGRAVE = "engrave"  # areas, row by row
    SCORE = "score"
    INNER = "inner"  # cuts whose inside falls out or belongs to a part's inside
    OUTER = "outer"  # cuts that set a part free


class KerfPlace(StrEnum):
    """Where kerf is corrected; never in two places."""

    PATHS = "paths"  # here: our paths are offset by half the kerf
    JOINTS = "joints"  # here, but only where joints are: outlines stay on the line
    MACHINE = "machine"  # the machine's own software does it: our files are uncorrected and say so
    NONE = "none"  # nowhere, by choice: the kerf is the clearance, and glue fills it
    LINE = "line"  # nowhere, on purpose: a test piece is cut on its lines

    @property
    def is_ours(self) -> bool:
        """Whether our paths hold a correction."""
        return self in (KerfPlace.PATHS, KerfPlace.JOINTS)


@dataclass(frozen=True, slots=True, kw_only=True)
class Convention:
    """How one operation looks in files for this machine."""

    colour: str  #: #rrggbb
    line_width: Mm
    layer: str

    def __post_init__(self) -> None:
        digits = self.colour[1:]
        if len(self.colour) != 7 or self.colour[0] != "#" or any(c not in "0123456789abcdefABCDEF" for c in digits):
            raise MeasureError(say("no_colour", colour=self.colour), field="colour")
        require("line width", self.line_width, least=0.001, most=5)
        if not self.layer.strip() or len(self.layer) > LONGEST_LAYER or not set(self.layer).isdisjoint(NOT_IN_LAYERS) or not self.layer.isascii():
            raise MeasureError(say("layer_name", most=LONGEST_LAYER, without=NOT_IN_LAYERS), field="layer")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lens:
    """A lens of the machine: kerf and settings belong to it."""

    id: str
    name: str
    spot: Mm = 0.1  #: the finest line it burns [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """A laser cutter."""

    id: str
    name: str
    bed_width: Mm = 600.0
    bed_height: Mm = 400.0
    pass_through: bool = False  #: a longer sheet may reach through it
    acceleration: float = 3000.0  #: mm/s2
    corner: Mm = 0.02  #: how far it may cut a corner; sets the speed through corners (junction deviation)
    rapid: float = 300.0  #: mm/s
    pierce: float = 0.15  #: s before each cut
    handling: float = 120.0  #: s to load, focus and unload a sheet
    slat_pitch: Mm = 20.0
    position_sd: Mm = MACHINE_SD  #: how far a cut may lie off, sheet held flat
    overscan: Mm = 5.0  #: the head runs on past each engraved row
    raster_speed: float = 400.0  #: fastest along an engraved row [mm/s]
    lenses: tuple[Lens, ...] = (Lens(id="standard", name="standard lens"),)
    lens: str = "standard"  #: the one that is in
    kerf_place: KerfPlace = KerfPlace.PATHS
    convention_name: str = "shop convention"
    engrave: Convention = Convention(colour="#5b4a8a", line_width=0.05, layer="1-engrave")
    score: Convention = Convention(colour="#1f6fb2", line_width=0.1, layer="2-score")
    inner: Convention = Convention(colour="#c2410c", line_width=0.05, layer="3-inner-cut")
    outer: Convention = Convention(colour="#7c2d12", line_width=0.05, layer="4-outer-cut")

    def __post_init__(self) -> None:
        require("bed width", self.bed_width, least=20, most=10_000)
        require("bed height", self.bed_height, least=20, most=10_000)
        require("acceleration", self.acceleration, least=10, most=100_000, unit="mm/s²")
        require("corner", self.corner, least=0.0005, most=5)
        require("rapid speed", self.rapid, least=1, most=5_000, unit="mm/s")
        require("pierce", self.pierce, least=0, most=60, unit="s")
        require("handling", self.handling, least=0, most=36_000, unit="s")
        require("slat pitch", self.slat_pitch, least=0, most=200)
        require("position spread", self.position_sd, least=0, most=1)
        require("overscan", self.overscan, least=0, most=100)
        require("engraving speed", self.raster_speed, least=1, most=10_000, unit="mm/s")
        if self.lens not in {lens.id for lens in self.lenses}:
            raise MeasureError(say("which_lens"), field="lens")
        layers = [c.layer for c in (self.engrave, self.score, self.inner, self.outer)]
        if len(set(layers)) < len(layers):
            raise MeasureError(say("layers_of_one_name"), field="layer")

    def convention(self, operation: Operation) -> Convention:
        return {Operation.ENGRAVE: self.engrave, Operation.SCORE: self.score, Operation.INNER: self.inner, Operation.OUTER: self.outer}[operation]


@dataclass(frozen=True, slots=True, kw_only=True)
class Beam:
    """How the beam is set for one operation."""

    power: float  #: percent
    speed: float  #: mm/s
    passes: int = 1
    pulses: float = 0.0  #: per mm; 0 leaves it to the machine
    focus: Mm = 0.0  #: offset from the sheet's top face, up is positive
    air: bool = True
    interval: Mm = 0.1  #: between engraved rows
    depth: Mm = 0.0  #: that one pass engraves, measured with these settings; 0: not known

    def __post_init__(self) -> None:
        require("power", self.power, least=1, most=100, unit="%")
        require("speed", self.speed, least=0.1, most=5000, unit="mm/s")
        require("passes", self.passes, least=1, most=20, unit="")
        require("pulses", self.pulses, least=0, most=1000, unit="a mm")
        require("focus offset", self.focus, least=-50, most=50)
        require("interval", self.interval, least=0.01, most=2)
        require("depth of one pass", self.depth, least=0, most=50)

    @property
    def words(self) -> str:
        """As a maker says it, and the same for the same beam."""
        return self.told("mm")

    def told(self, unit: str) -> str:
        """The same in a reader's unit."""
        text = f"{self.power:g} % · {shown_speed(self.speed, unit)}"
        return text + (f" · {self.passes} passes" if self.passes > 1 else "") + (f" · focus {self.focus:+g}" if self.focus else "")


def setting_said(words: str) -> Sentence:
    """Return what was kept of a beam (see `Beam.words`) as a sentence: its speed is read in a unit."""
    found = [w.removesuffix(" mm/s") if w.endswith(" mm/s") else w for w in words.split(" · ")]
    if len(found) < 2 or found[1] == words.split(" · ")[1]:
        return written(words)
    return say("setting", power=found[0], speed=Speed(float(found[1])), more="".join(f" · {w}" for w in found[2:]))


UNTESTED = "default, not tested here"
OPERATIONS = ("cut", "score", "engrave")


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """How a stock is cut, scored and engraved; a default until a test card or a run says better."""

    cut: Beam
    score: Beam
    engrave: Beam
    source: str = UNTESTED
    on: str | None = None  #: ISO date
    borrowed: bool = False  #: tried on another stock or machine
    sources: dict[str, str] | None = None  #: of each of OPERATIONS that was tried; None: all were, as `source` says

    def source_of(self, operation: str) -> str:
        """Return where the settings of an operation are known from: cut, score or engrave."""
        known = self.source if self.sources is None else self.sources.get(operation, UNTESTED)
        return self.source if self.borrowed and known != UNTESTED else known

    def tested(self, operation: str = "cut") -> bool:
        """Tell whether somebody tried the settings of an operation with this stock on this machine."""
        return self.source_of(operation) != UNTESTED and not self.borrowed

    def beam(self, operation: Operation) -> Beam:
        return {Operation.ENGRAVE: self.engrave, Operation.SCORE: self.score}.get(operation, self.cut)


def default_settings(stock: Stock) -> Settings:
    """Return settings to start from: speed falls with thickness, thick sheets get a second pass."""
    material = MATERIALS[stock.material]
    passes = 1 if stock.t <= 6 else 2
    return Settings(
        cut=Beam(power=60.0, speed=round(material.cut_speed * 3 / max(stock.t, 0.5) * passes, 1), passes=passes),
        score=Beam(power=12.0, speed=120.0),
        engrave=Beam(power=20.0, speed=250.0),
    )
