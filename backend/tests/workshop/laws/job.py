"""What leaves the house for a job, and what it should come to."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from notchcore.design.assembly import Assembly, Part
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import KerfPlace, Machine
from notchcore.measure.stock import Stock
from tests.workshop.bench import Matrix

TRUE = 0.02  # [mm] a piece may differ from its part
SAME_FILE = 0.0015  # [mm] between two formats, with the readers' own chords
NOISE = 0.01  # [mm2] off the tip of an acute corner: the product's own bound for what is nothing
CRUMB = 1.0  # [mm2] a loose bit smaller than this is no piece
NONE = 0.003  # [mm] the beam where the files are not corrected for its width


@dataclass(frozen=True)
class Violation:
    """One place where a law does not hold."""

    law: int
    what: str


@dataclass
class Lie:
    """How a sheet is said to lie for a run."""

    side: str
    kind: str
    turn: str = ""
    marks: tuple[Vec2, ...] = ()
    turns: tuple[Any, ...] = ()


@dataclass(frozen=True)
class Planned:
    """What the plan says of one stroke."""

    operation: str
    lines: int
    length: float  #: [mm]
    passes: int
    speed: float  #: [mm/s]
    seconds: float  #: of burning


@dataclass
class RunFiles:
    """What leaves the house for one run."""

    number: int  #: of the sheet
    sheet: tuple[Vec2, ...]  #: its outline, front up
    width: float
    height: float
    stock: str
    lie: Lie
    through: bool  #: after it the sheet is cut through
    strokes: list[Planned]
    svg: str
    dxf: str
    gcode: str
    pdf: bytes = b""


@dataclass
class Lying:
    """One piece that a sheet should give."""

    part: Part
    matrix: Matrix
    mirrored: bool
    falls: bool = False


@dataclass(frozen=True)
class InRoom:
    """An item that stands in a room of another one."""

    item: str
    mouth: tuple[float, float, float]  #: the way out of it
    play: float  #: [mm] on either side
    closed: bool  #: something shuts it in
    within: str  #: the item that it stands in, where that stands in a room itself: it comes out first


@dataclass
class Job:
    """A job as it leaves the house, and what it should come to."""

    story: str
    assembly: Assembly
    stocks: dict[str, Stock]
    machine: Machine
    place: KerfPlace
    runs: list[RunFiles]
    pieces: dict[int, list[Lying]]  #: by sheet
    wanted: dict[str, int]
    unplaced: dict[str, int]
    locate: bool = False
    one_side: bool = False  #: other faces are left out, as the plan says
    skip: tuple[str, ...] = ()
    rooms: list[InRoom] = field(default_factory=list)
    found: list[Violation] = field(default_factory=list)

    def says(self, law: int, what: str) -> None:
        self.found.append(Violation(law, what))
