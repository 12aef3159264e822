"""What a person chooses about a plan, beside what the design and the layout say."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.errors import require
from notchcore.measure.machine import Operation
from notchcore.units import Mm

LEAD_MOST: Mm = 10.0


class SecondSide(StrEnum):
    """How the other face of parts is burned."""

    AUTO = "auto"  # parts turned over in place where their outlines allow it, else the sheet by its marks
    MARKS = "marks"  # the sheet is turned over and found again by registration marks
    NONE = "none"  # only the face that lies up is burned


class Turn(StrEnum):
    """How a sheet is turned over."""

    SIDEWAYS = "sideways"  # like a page: left becomes right
    UPWARDS = "upwards"  # top becomes bottom


class Numbers(StrEnum):
    """Where parts have the numbers of the map."""

    MAP = "map"  # only on the printed map
    FRONT = "front"
    BACK = "back"


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanChoices:
    """All of it; the defaults are what a plan begins with."""

    second: SecondSide = SecondSide.AUTO
    turn: Turn = Turn.SIDEWAYS
    thick: tuple[str, ...] = ()  #: stocks that are cut from both sides
    printed: tuple[str, ...] = ()  #: stocks whose engraving comes printed: it is only cut, by the printed marks
    skip: tuple[Operation, ...] = ()  #: left out of this job
    locate: bool = False  #: places of joints are scored on backs too
    numbers: Numbers = Numbers.MAP
    bare: tuple[str, ...] = ()  #: stocks whose film is taken off before the beam
    lead: Mm = 0.0  #: the beam starts this far off the outline, in what falls away; 0: on it

    def __post_init__(self) -> None:
        require("lead-in", self.lead, least=0, most=LEAD_MOST)


AS_USUAL = PlanChoices()
