"""How two sheets may be joined where they meet: every way once, with what it is called, what is counted in it, and what keeps it together.

A family or a person asks for a way (`Meeting.asked`); what the place allows is cut (`Meeting.style`), of the ways that it offers
(`Meeting.ways`).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.words.language import Called


class Style(StrEnum):
    """How a meeting is joined."""

    FINGERS = "fingers"
    TABS = "tabs"
    WHOLE = "whole"  # the whole edge is one tab
    BLIND = "blind"  # no tab; the edge's place is scored
    LAP = "lap"
    SLOT = "slot"
    GLUE = "glue"  # face to face, the smaller sheet's place scored
    DOWELS = "dowels"
    RECESS = "recess"  # the smaller sheet lies in an engraved seat of the larger
    PUZZLE = "puzzle"  # a splice with heads that hook into each other
    SCARF = "scarf"  # a splice along a slant
    DROP_IN = "drop-in"
    BUTT = "butt"
    REST = "rest"  # they lie against each other on purpose: nothing is cut, and nothing is told


@dataclass(frozen=True, slots=True, kw_only=True)
class About(Called):
    """What is to know of a style."""

    NAMED = ("label", "one", "counted", "wide")

    label: str
    one: str = ""  #: the same, of a single one
    counted: str = ""  #: of what there may be more or fewer; "" where nothing is counted
    wide: str = ""  #: of what the size may be wished
    proud: bool = False  #: its tabs may stand out of the far face, or end before it
    glued: bool = False  #: without glue it falls apart
    interlocks: bool = False  #: what bends it is carried by its shape
    spliced: bool = False  #: it joins sheets in one plane


ABOUT: dict[Style, About] = {
    Style.FINGERS: About(label="fingers", one="finger", counted="Fingers (odd)", wide="Finger, width", interlocks=True),
    Style.TABS: About(label="tabs", one="tab", counted="Tabs", wide="Tab, width", proud=True, interlocks=True),
    Style.WHOLE: About(label="one wide tab", proud=True, interlocks=True),
    Style.BLIND: About(label="scored place", glued=True),
    Style.LAP: About(label="cross-lap", interlocks=True),
    Style.SLOT: About(label="slot", interlocks=True),
    Style.GLUE: About(label="glue face", glued=True),
    Style.DOWELS: About(label="dowel holes", one="dowel hole", counted="Dowel holes", wide="Dowel, diameter", glued=True),
    Style.RECESS: About(label="engraved seat", glued=True),
    Style.PUZZLE: About(label="puzzle heads", one="puzzle head", spliced=True),
    Style.SCARF: About(label="slant", glued=True, spliced=True),
    Style.DROP_IN: About(label="drop-in"),
    Style.BUTT: About(label="butt", glued=True),
    Style.REST: About(label="free"),
}


def named(style: Style, count: int) -> str:
    """Return what a joint is called, with how many of what makes it where that is counted."""
    about = ABOUT[style]
    if not about.one:
        return about.label
    return f"1 {about.one}" if count == 1 else f"{count} {about.label}"
