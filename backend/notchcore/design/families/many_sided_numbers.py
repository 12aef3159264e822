"""What a person says of walls round a floor."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.numbers import SMALLEST, angle, check_numbers, choice, count, length
from notchcore.units import Mm


class Fingers(StrEnum):
    """How fingers end in corners that are not square."""

    PROUD = "proud"  # a little out of the outer face, to be sanded flush
    WITHIN = "within"  # with one edge in the outer face, nothing out of it


class Floor(StrEnum):
    """Where the floor is."""

    IN = "in"
    UNDER = "under"
    NONE = "none"


class Lid(StrEnum):
    """What closes it."""

    OPEN = "open"
    LIFT_OFF = "lift_off"
    FIXED = "fixed"


class Panes(StrEnum):
    """What is behind the openings."""

    NONE = "none"
    BEHIND = "behind"


@dataclass(frozen=True, slots=True, kw_only=True)
class ManySidedNumbers:
    """The numbers of walls round a floor [mm]."""

    family: Literal["many_sided"] = "many_sided"
    sides: int = count(6, "How many walls", least=3, most=24)
    width: Mm = length(160.0, "Width at the foot", least=SMALLEST, says="from wall to wall; with an odd number of walls, twice from the middle to one")
    height: Mm = length(60.0, "Height", least=SMALLEST)
    lean: float = angle(0.0, "Walls lean out by", least=-50.0, most=50.0, says="below 0 they lean in")
    fingers: Fingers = choice(Fingers.PROUD, "Fingers in corners", labels={Fingers.PROUD: "proud, to sand", Fingers.WITHIN: "nothing stands out"})
    floor: Floor = choice(Floor.IN, "Floor", labels={Floor.IN: "between the walls", Floor.UNDER: "under the walls", Floor.NONE: "none"}, group="Floor")
    raised: Mm = length(0.0, "Floor above the foot", none_at_zero=True, group="Floor", only=("floor", ("in",)))
    reach: Mm = length(8.0, "Floor reaches out by", group="Floor", only=("floor", ("under",)))
    lid: Lid = choice(Lid.OPEN, "Lid", labels={Lid.OPEN: "none", Lid.LIFT_OFF: "lifts off", Lid.FIXED: "fixed"}, group="Lid")
    opening_width: Mm = length(0.0, "Openings, width", none_at_zero=True, least=4.0, group="Openings")
    opening_height: Mm = length(25.0, "Openings, height", least=4.0, group="Openings")
    sill: Mm = length(20.0, "Openings above the foot, along the wall", group="Openings")
    posts: Mm = length(0.0, "Posts in the corners, width", none_at_zero=True, group="Posts", only=("floor", ("in", "under")))
    panes: Panes = choice(Panes.NONE, "Panes", labels={Panes.NONE: "none", Panes.BEHIND: "glued behind"}, group="Openings")
    lap: Mm = length(5.0, "Panes reach beyond the opening by", least=1.0, group="Openings", only=("panes", ("behind",)))

    def __post_init__(self) -> None:
        check_numbers(self)

    @property
    def posts_width(self) -> Mm:
        """Of posts, as far as there is a floor that they stand on."""
        return 0.0 if self.floor is Floor.NONE else self.posts

    @property
    def raised_floor(self) -> Mm:
        return self.raised if self.floor is Floor.IN else 0.0
