"""The features that a panel can have, as plain numbers with a description each, like those of the families.

Anchor   which place of the panel the offsets count from; x to the right, y up, seen from the front
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.features.laid import Lies
from notchcore.design.numbers import angle, check_numbers, choice, count, length, percent, text
from notchcore.errors import DesignError
from notchcore.measure.fit import WANTED, Feel
from notchcore.measure.machine import Operation
from notchcore.units import Mm
from notchcore.words.render import say

FAR: Mm = 3000.0
MOST_NAME = 60
DEEPEST: Mm = 20.0  # that a beam is asked to engrave


class Anchor(StrEnum):
    """A place of a panel's box."""

    CENTRE = "centre"
    LEFT = "left"
    RIGHT = "right"
    TOP = "top"
    BOTTOM = "bottom"
    TOP_LEFT = "top_left"
    TOP_RIGHT = "top_right"
    BOTTOM_LEFT = "bottom_left"
    BOTTOM_RIGHT = "bottom_right"


ANCHORS = {a: a.value.replace("_", " ") for a in Anchor}


class ShaftFit(StrEnum):
    """How a shaft or dowel sits in its hole."""

    FREE = "free"  # the hole has the diameter that is typed
    PRESS = "press"
    SLIP = "slip"
    RUNNING = "running"


class Face(StrEnum):
    """The typefaces that ship with the program."""

    STROKE = "stroke"  # single lines, quick to burn
    SANS = "sans"
    SERIF = "serif"


class Falls(StrEnum):
    """What becomes of the piece that falls out of an opening."""

    WASTE = "waste"
    PART = "part"
    LOOSE = "loose"  # a part that is cut for itself, with play all round


class Tones(StrEnum):
    """Which places of a picture are burned."""

    DARK = "dark"
    LIGHT = "light"  # for stock that turns light where it burns


class OnSide(StrEnum):
    """Which face of a panel is burned."""

    FRONT = "front"
    BACK = "back"  # places are counted as seen from there


class Drawn(StrEnum):
    """Which way round artwork lies."""

    PLAIN = "plain"
    MIRRORED = "mirrored"


class Stands(StrEnum):
    """What of engraved letters or artwork the beam takes away."""

    SUNK = "sunk"
    RAISED = "raised"  # what is round them: they stand out, as on a stamp


class RecessShape(StrEnum):
    """What a recess is as large as."""

    ROUND = "round"
    RECTANGLE = "rectangle"
    PANEL = "panel"  # the outline of a panel, which comes to lie in it


class RulerUnit(StrEnum):
    """What the numbers of a ruler count."""

    MM = "mm"
    INCH = "inch"


class Way(StrEnum):
    """Which way a fold runs."""

    UP = "up"
    ACROSS = "across"


class Burned(StrEnum):
    """What the beam does with artwork and letters."""

    CUT = "cut"
    SCORE = "score"
    ENGRAVE = "engrave"
    GLUED = "glued"  # they are pieces of a stock of their own, glued on the face
    INLAID = "inlaid"  # ... set in an opening
    POCKET = "pocket"  # ... set in an engraved seat


LIES = {Drawn.PLAIN: "to be read", Drawn.MIRRORED: "mirrored"}
STANDS = {Stands.SUNK: "sunk", Stands.RAISED: "raised"}
SIDES = {OnSide.FRONT: "the front", OnSide.BACK: "the back"}
BURNED = {
    Burned.ENGRAVE: "engraved",
    Burned.SCORE: "scored",
    Burned.CUT: "cut out",
    Burned.GLUED: "pieces, glued on",
    Burned.INLAID: "pieces, set through",
    Burned.POCKET: "pieces in a pocket",
}
LAID = {Burned.GLUED: Lies.ON, Burned.INLAID: Lies.THROUGH, Burned.POCKET: Lies.POCKET}
OPERATIONS = {Burned.ENGRAVE: Operation.ENGRAVE, Burned.SCORE: Operation.SCORE}


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceStock:
    """What the pieces of a drawing's layer are cut from."""

    layer: str
    stock: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Where a feature stands."""

    id: str
    panel: str
    name: str = ""  #: what a person calls it
    anchor: Anchor = choice(Anchor.CENTRE, "Counted from", labels=ANCHORS, group="Place")
    x: Mm = length(0.0, "To the right", least=-FAR, most=FAR, group="Place")
    y: Mm = length(0.0, "Up", least=-FAR, most=FAR, group="Place")

    def __post_init__(self) -> None:
        if len(self.name) > MOST_NAME:
            raise DesignError(say("name_too_long", most=MOST_NAME), field="name")
        check_numbers(self)


@dataclass(frozen=True, slots=True, kw_only=True)
class Hole(Placed):
    """One round hole, or rows of them."""

    kind: Literal["hole"] = "hole"
    diameter: Mm = length(6.0, "Diameter", least=0.3, most=500.0, scales=False)
    fit: ShaftFit = choice(
        ShaftFit.FREE, "For a shaft that is", labels={ShaftFit.FREE: "no shaft", ShaftFit.PRESS: "pressed", ShaftFit.SLIP: "slid", ShaftFit.RUNNING: "running"}
    )
    columns: int = count(1, "Side by side", least=1, most=60, group="Rows")
    rows: int = count(1, "One above the other", least=1, most=60, group="Rows")
    pitch_x: Mm = length(15.0, "Distance sideways", least=0.5, group="Rows")
    pitch_y: Mm = length(15.0, "Distance upwards", least=0.5, group="Rows")


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleCircle(Placed):
    """Round holes on a circle or a part of it."""

    kind: Literal["ring"] = "ring"
    diameter: Mm = length(5.0, "Hole, diameter", least=0.3, most=500.0, scales=False)
    holes: int = count(6, "Holes", least=1, most=120)
    radius: Mm = length(25.0, "Circle, radius", least=0.5)
    start: int = count(0, "First hole at, degrees", least=-360, most=360)
    sweep: int = count(360, "Over, degrees", least=1, most=360)


@dataclass(frozen=True, slots=True, kw_only=True)
class Window(Placed):
    """A rectangular opening with round corners."""

    kind: Literal["window"] = "window"
    width: Mm = length(40.0, "Width", least=0.5)
    height: Mm = length(30.0, "Height", least=0.5)
    radius: Mm = length(3.0, "Round corners, radius", scales=False)
    falls: Falls = choice(
        Falls.WASTE,
        "What falls out is",
        labels={Falls.WASTE: "waste", Falls.PART: "a part: pane, flap, door", Falls.LOOSE: "waste, with a loose piece in it"},
    )
    play: Mm = length(0.3, "Play on each side", least=0.02, most=1.5, scales=False, only=("falls", ("loose",)))
    grip: Mm = length(
        0.0,
        "Finger notch at its lower edge, width",
        least=4.0,
        most=60.0,
        none_at_zero=True,
        scales=False,
        only=("falls", ("loose",)),
        says="to lift the piece out; as far as the edge goes straight",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Notch(Placed):
    """A finger notch: a half-round bite out of an edge; anchor it at that edge."""

    kind: Literal["notch"] = "notch"
    width: Mm = length(30.0, "Width", least=3.0, most=500.0, scales=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class Keyhole(Placed):
    """A hanging hole: the head goes over a screw, the neck hangs on it."""

    kind: Literal["keyhole"] = "keyhole"
    head: Mm = length(9.0, "Head, diameter", least=3.0, most=60.0, scales=False)
    neck: Mm = length(4.5, "Neck, width", least=1.0, most=40.0, scales=False)
    rise: Mm = length(9.0, "Neck, length", least=2.0, most=100.0, scales=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class CableSlot(Placed):
    """A slot for a cable, open to the edge it is anchored at."""

    kind: Literal["cable"] = "cable"
    width: Mm = length(8.0, "Width", least=1.0, most=200.0, scales=False)
    depth: Mm = length(14.0, "Depth", least=1.0, most=400.0, scales=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class Vents(Placed):
    """A row of long holes for air."""

    kind: Literal["vents"] = "vents"
    number: int = count(6, "Slits", least=1, most=60)
    width: Mm = length(3.0, "Slit, width", least=0.5, most=100.0, scales=False)
    run: Mm = length(30.0, "Slit, length", least=1.0)
    pitch: Mm = length(8.0, "From slit to slit", least=1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Text(Placed):
    """A line of text."""

    kind: Literal["text"] = "text"
    words: str = text("MOSSGATE", "Text")
    cap: Mm = length(10.0, "Height of a capital", least=1.0, most=500.0)
    face: Face = choice(Face.SANS, "Letters", labels={Face.STROKE: "single lines", Face.SANS: "plain", Face.SERIF: "with serifs"})
    burned: Burned = choice(Burned.ENGRAVE, "Made how", labels=BURNED)
    stock: str = ""  #: of its letters where they are pieces; empty: the panel's own
    depth: Mm = length(0.0, "Depth, 0 as the settings burn", least=0.05, most=DEEPEST, none_at_zero=True, scales=False, only=("burned", ("engrave",)))
    stands: Stands = choice(Stands.SUNK, "Engraved letters are", labels=STANDS, only=("burned", ("engrave",)))
    margin: Mm = length(3.0, "Taken away round them", least=0.5, most=500.0, only=("stands", ("raised",)))
    drawn: Drawn = choice(Drawn.PLAIN, "Lies", labels=LIES, group="Place")
    side: OnSide = choice(OnSide.FRONT, "Burned on", labels=SIDES, group="Place")


@dataclass(frozen=True, slots=True, kw_only=True)
class Scale(Placed):
    """A ruler's graduation along x, its zero at the place."""

    kind: Literal["scale"] = "scale"
    run: Mm = length(100.0, "Length", least=5.0, scales=False)
    step: Mm = length(1.0, "Finest step", least=0.5, most=100.0, scales=False)
    numbers: int = count(10, "A number every so many steps", least=1, most=1000)
    unit: RulerUnit = choice(RulerUnit.MM, "Its numbers are", labels={RulerUnit.MM: "millimetres", RulerUnit.INCH: "inches"})
    side: OnSide = choice(OnSide.FRONT, "Burned on", labels=SIDES, group="Place")


@dataclass(frozen=True, slots=True, kw_only=True)
class Fold(Placed):
    """A scored line from edge to edge along which a thin or bendy sheet is bent; tabs keep clear of it."""

    kind: Literal["fold"] = "fold"
    way: Way = choice(Way.UP, "Runs", labels={Way.UP: "upwards", Way.ACROSS: "sideways"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Artwork(Placed):
    """A drawing that came in from a file; each of its layers is burned as a person says."""

    kind: Literal["artwork"] = "artwork"
    drawing: str = ""  #: which drawing
    width: Mm = length(60.0, "Width", least=0.5)
    turn: float = angle(0.0, "Turned", least=-360.0, most=360.0, group="Place")
    side: OnSide = choice(OnSide.FRONT, "Burned on", labels=SIDES, group="Place")
    drawn: Drawn = choice(Drawn.PLAIN, "Lies", labels={Drawn.PLAIN: "as drawn", Drawn.MIRRORED: "mirrored"}, group="Place")
    depth: Mm = length(0.0, "Depth of what is engraved, 0 as the settings burn", least=0.05, most=DEEPEST, none_at_zero=True, scales=False)
    stands: Stands = choice(Stands.SUNK, "What is engraved is", labels=STANDS)
    margin: Mm = length(3.0, "Taken away round it", least=0.5, most=500.0, only=("stands", ("raised",)))
    stocks: tuple[PieceStock, ...] = ()  #: of layers that are pieces; others are cut from the panel's own
    layers: tuple[tuple[str, Burned | None], ...] = ()  #: what the beam does with a layer; None leaves it out; unnamed ones are engraved


@dataclass(frozen=True, slots=True, kw_only=True)
class GreyImage(Placed):
    """A photo or grey image, engraved dot by dot at the distance of the stock's rows."""

    kind: Literal["picture"] = "picture"
    drawing: str = ""  #: which drawing holds it
    width: Mm = length(60.0, "Width", least=1.0)
    turn: float = angle(0.0, "Turned", least=-360.0, most=360.0, group="Place")
    side: OnSide = choice(OnSide.FRONT, "Burned on", labels=SIDES, group="Place")
    lighter: float = percent(0.0, "Lighter", least=-100.0, most=100.0, group="Tones", says="less than 0: darker")
    contrast: float = percent(0.0, "Contrast", least=-100.0, most=100.0, group="Tones")
    tones: Tones = choice(Tones.DARK, "Burned are the", labels={Tones.DARK: "dark places", Tones.LIGHT: "light places"}, group="Tones")


@dataclass(frozen=True, slots=True, kw_only=True)
class Socket(Placed):
    """A slot for a sheet that stands in it: a panel of the design, or a loose one of the panel's own stock."""

    kind: Literal["socket"] = "socket"
    mate: str = ""  #: the panel that stands in it
    feel: Feel = choice(Feel.SLIDES, "Fit", labels={Feel.SLIDES: "slides", Feel.SNUG: "snug", Feel.MALLET: "mallet"})
    run: Mm = length(30.0, "Length, 0 as wide as its mate", least=1.0, none_at_zero=True)
    upright: int = count(0, "Turned, degrees", least=-360, most=360)

    def __post_init__(self) -> None:
        Placed.__post_init__(self)
        if self.feel not in WANTED:
            raise DesignError(say("socket_feels"), field="feel")


@dataclass(frozen=True, slots=True, kw_only=True)
class Recess(Placed):
    """An engraved area with a depth, for something to lie or stand in: a coin, a label, or the rim of what is stacked."""

    kind: Literal["recess"] = "recess"
    shape: RecessShape = choice(
        RecessShape.ROUND,
        "Shape",
        labels={RecessShape.ROUND: "round", RecessShape.RECTANGLE: "rectangle", RecessShape.PANEL: "as a panel of this design"},
    )
    width: Mm = length(20.0, "Width, or diameter", least=0.5, only=("shape", ("round", "rectangle")))
    height: Mm = length(20.0, "Height", least=0.5, only=("shape", ("rectangle",)))
    mate: str = ""  #: the panel that it is as large as
    play: Mm = length(0.2, "Play on each side", most=5.0, scales=False)
    depth: Mm = length(0.0, "Depth", least=0.05, most=DEEPEST, none_at_zero=True, scales=False, says="none: as thick as that panel is, or as the settings burn")
    push: Mm = length(
        0.0, "Hole through its middle, diameter", least=3.0, most=60.0, none_at_zero=True, scales=False, says="to push out what lies in it, from behind"
    )
    side: OnSide = choice(OnSide.FRONT, "Burned on", labels=SIDES, group="Place")
