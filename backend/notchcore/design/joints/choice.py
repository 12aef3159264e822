"""What a person, a family or the shop decides about one meeting."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.design.styles import Style
from notchcore.errors import require
from notchcore.measure.fit import Feel
from notchcore.units import Mm

SHARE_LEAST, SHARE_MOST = 0.1, 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class MeetingChoice:
    """A person's choices for one meeting; None means the design's or the shop's default."""

    feel: Feel | None = None
    clearance: Mm | None = None
    count: int | None = None
    style: Style | None = None
    width: Mm | None = None  #: wished width of fingers and tabs, diameter of dowels [mm]
    proud: Mm | None = None  #: how far tabs stand out of the far face; negative: how far they end before it
    share: float | None = None  #: of a crossing, how much of it is cut from the panel that is open upward
    flip: bool = False  #: of a crossing, the other panel is open upward

    def __post_init__(self) -> None:
        if self.clearance is not None:
            require("clearance", self.clearance, least=-2.0, most=5.0)
        if self.count is not None:
            require("count", self.count, least=1, most=200, unit="")
        if self.width is not None:
            require("width", self.width, least=1.0, most=500.0)
        if self.proud is not None:
            require("proud", self.proud, least=-50.0, most=50.0)
        if self.share is not None:
            require("share", self.share, least=SHARE_LEAST, most=SHARE_MOST, unit="")


NOTHING_CHOSEN = MeetingChoice()
