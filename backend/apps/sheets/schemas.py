"""What Sheets sends and takes."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from ninja import Field, Schema

from notchcore.measure import machine as core_machine
from notchcore.measure import stock as core_stock
from notchcore.measure.fit import Boundaries, Feel
from notchcore.measure.hazards import Substance
from notchcore.measure.kerf import KerfTestKind
from notchcore.units import Unit
from notchcore.words.facts import Sentence

COLOUR = r"^(#[0-9a-fA-F]{6})?$"


class On(Schema):
    """On which machine a stock is asked for, and with which other stocks to show its fit."""

    machine: int | None = None
    mates: str = Field(default="", max_length=400)  #: ids, parted by commas


class ReadingOut(Schema):
    id: int
    thickness_mm: float
    x: float
    y: float
    on: date
    by: str
    withdrawn: bool
    borrowed: str


class SpreadOut(Schema):
    count: int
    range_mm: float
    mean_sd_mm: float  #: how far the mean may be off


class KerfTestOut(Schema):
    id: int
    kind: str
    drawn_mm: float
    measured_mm: float
    below_mm: float | None
    count: int
    kerf_mm: float
    pooled_mm: float  #: the kerf as it was known after this test
    pooled_sd_mm: float
    setting: Sentence  #: how it was cut
    on: date
    by: str
    withdrawn: bool
    borrowed: str


class FeelOut(Schema):
    id: int
    opening: str
    entering: str
    feel: str
    drawn_mm: float | None
    clearance_mm: float  #: as it is reckoned today
    on: date
    by: str
    withdrawn: bool
    borrowed: str


class FitOut(Schema):
    mate: str  #: stock id
    name: str
    colour: str
    boundaries: Boundaries
    targets: dict[str, float]  #: clearance aimed at, by feel [mm]
    chance: float  #: that a slot asked to be snug is snug
    sd_mm: float  #: of its clearance
    drawn_mm: float  #: how wide a snug slot for the mate is drawn in this stock


class SettingsOut(Schema):
    id: int
    settings: core_machine.Settings
    by: str
    on: date
    borrowed: str
    withdrawn: bool


class SheetOut(Schema):
    id: int
    name: str
    width_mm: float
    height_mm: float
    count: int
    price: float
    place: str
    grain: str
    is_offcut: bool
    outline: list[tuple[float, float]]
    bad: list[list[tuple[float, float]]]


class AdviceOut(Schema):
    """What would make a number better, and what it costs."""

    what: Sentence
    why: Sentence
    action: str  #: reading, or the kind of a test card
    minutes: float
    size_mm: tuple[float, float] | None = None


class StockOut(Schema):
    value: core_stock.Stock
    shelf: str
    batch: str
    look: str
    film: str
    warp: str
    finish: str
    crush: float
    lab: tuple[float, float, float] | None
    lab_finished: tuple[float, float, float] | None
    material_label: str
    substance: Substance
    confirmed_by: str
    confirmed_on: date | None
    confirmed_data: str
    caution: str
    flares: bool
    readings: list[ReadingOut]
    spread: SpreadOut | None
    kerf_tests: list[KerfTestOut]
    taper_deg: float | None
    feels: list[FeelOut]
    fits: list[FitOut]
    sheets: list[SheetOut]
    settings: core_machine.Settings
    settings_history: list[SettingsOut]
    default_kerf_mm: float
    machine: str
    advice: list[AdviceOut]
    row: RackRow  #: as the rack lists it


class RackRow(Schema):
    id: str
    name: str
    material: str
    material_label: str
    colour: str
    label_mm: float
    thickness_mm: float
    guess: bool
    kerf_guess: bool
    kerf_on: date | None  #: of the newest kerf test of its own
    verdict: str
    shelf: str
    batch: str
    whole: int
    offcuts: int


class MaterialOut(Schema):
    id: str
    label: str
    colour: str
    looks: dict[str, str]  #: what each is called, by the word that is kept
    soft: bool
    flares: bool
    grained: bool
    plies: bool  #: its edge shows layers
    caution: str
    substances: tuple[Substance, ...]


class Rack(Schema):
    stocks: list[RackRow]
    materials: list[MaterialOut]
    machines: list[core_machine.Machine]


class StockIn(Schema):
    name: str = Field(max_length=80)
    material: str
    label_mm: float
    substance: str = Field(default="", max_length=40)
    look: str = Field(default="", max_length=20)
    batch: str = Field(default="", max_length=40)
    colour: str = Field(default="", pattern=COLOUR)
    shelf: str = Field(default="", max_length=40)


class StockChange(Schema):
    name: str | None = Field(default=None, max_length=80)
    substance: str | None = Field(default=None, max_length=40)
    look: str | None = Field(default=None, max_length=20)
    batch: str | None = Field(default=None, max_length=40)
    label_mm: float | None = None
    colour: str | None = Field(default=None, pattern=COLOUR)
    lab: tuple[float, float, float] | None = None
    lab_finished: tuple[float, float, float] | None = None
    finish: str | None = Field(default=None, max_length=60)
    crush: float | None = None
    shelf: str | None = Field(default=None, max_length=40)
    film: str | None = None
    warp: str | None = Field(default=None, max_length=120)


class ConfirmIn(Schema):
    data: str = Field(max_length=200)  #: which sheet of maker's data; empty takes the confirmation back


class ReadingIn(Schema):
    thickness_mm: float
    x: float = Field(default=0.5, ge=0, le=1)
    y: float = Field(default=0.5, ge=0, le=1)


class PasteIn(Schema):
    text: str = Field(max_length=20_000)
    unit: Unit = "mm"


class KerfTestIn(Schema):
    kind: KerfTestKind
    drawn_mm: float
    measured_mm: float
    below_mm: float | None = None
    count: int = 1


class FeelIn(Schema):
    entering: int  #: stock id
    feel: Feel
    clearance_mm: float
    sd_mm: float = Field(default=0.05, ge=0, le=2)


class WithdrawnIn(Schema):
    withdrawn: bool  #: false puts the evidence back


class BorrowIn(Schema):
    stock: int
    machine: int


class SheetIn(Schema):
    name: str = Field(default="", max_length=80)
    width_mm: float = 600.0
    height_mm: float = 400.0
    count: int = 1
    price: float = 0.0
    place: str = Field(default="", max_length=40)
    grain: str = "along"
    is_offcut: bool = False
    outline: list[tuple[float, float]] = Field(default=[], max_length=500)
    bad: list[Annotated[list[tuple[float, float]], Field(max_length=500)]] = Field(default=[], max_length=100)


class CutDownIn(Schema):
    saw_mm: float = 3.0
    sheets: int = 1


class SheetChange(Schema):
    count: int | None = None
    price: float | None = None
    place: str | None = Field(default=None, max_length=40)
    grain: str | None = None
    bad: list[Annotated[list[tuple[float, float]], Field(max_length=500)]] | None = Field(default=None, max_length=100)


class SettingsIn(Schema):
    settings: core_machine.Settings
    tried: list[Literal["cut", "score", "engrave"]] = Field(min_length=1)  #: only these are kept, as tried here


class TypedIn(Schema):
    text: str
    unit: Unit | None = None  #: of a length; None for a plain number


class TypedOut(Schema):
    value: float  #: a length in mm, or the plain number


class LensIn(Schema):
    id: str = Field(max_length=40)
    name: str = Field(max_length=60)
    spot: float = Field(default=0.1, gt=0, le=5)


class MachineChange(Schema):
    name: str | None = Field(default=None, max_length=80)
    bed_width: float | None = None
    bed_height: float | None = None
    pass_through: bool | None = None
    acceleration: float | None = None
    corner: float | None = None
    rapid: float | None = None
    pierce: float | None = None
    handling: float | None = None
    slat_pitch: float | None = None
    position_sd: float | None = None
    overscan: float | None = None
    raster_speed: float | None = None
    lenses: list[LensIn] | None = Field(default=None, max_length=12)
    lens: str | None = Field(default=None, max_length=40)
    kerf_place: core_machine.KerfPlace | None = None
    convention_name: str | None = Field(default=None, max_length=60)
    engrave: core_machine.Convention | None = None
    score: core_machine.Convention | None = None
    inner: core_machine.Convention | None = None
    outer: core_machine.Convention | None = None


class MachineIn(Schema):
    name: str = Field(max_length=80)
    like: int | None = None
    borrow: bool = False  #: kerf and settings of all stocks, marked as borrowed


class NeighbourOut(Schema):
    a: str
    b: str
    difference: float
    hard_to_tell: bool


class ContrastIn(Schema):
    stocks: list[int] = Field(max_length=24)
    finished: bool = False


class ContrastOut(Schema):
    pairs: list[NeighbourOut]
    measured: dict[str, bool]  #: whether a colour meter was used, by stock
    lab: dict[str, tuple[float, float, float]]


class ExchangeIn(Schema):
    what: Literal["stocks", "sheets", "readings", "kerf-tests", "feels", "settings", "all"]
    text: str = Field(max_length=1_900_000)


class ExchangeOut(Schema):
    kept: dict[str, int]  #: rows by kind
