"""Facts that sentences tell: what they are, not how they are written; the renderer knows the reader's unit and plural."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from notchcore.units import Mm


@dataclass(frozen=True, slots=True)
class Length:
    """One length, or several with a sign of times between them: a size."""

    mm: tuple[Mm, ...]
    digits: int | None = 1  #: in mm; with two and more it is told finely in every unit; None: as many as it has


@dataclass(frozen=True, slots=True)
class Area:
    """An area."""

    mm2: float
    digits: int = 1


@dataclass(frozen=True, slots=True)
class Places:
    """Where several things are: x and y of each."""

    points: tuple[tuple[Mm, Mm], ...]


@dataclass(frozen=True, slots=True)
class Volume:
    """A volume."""

    mm3: float


@dataclass(frozen=True, slots=True)
class Speed:
    """A speed."""

    mm_s: float


@dataclass(frozen=True, slots=True)
class Duration:
    """How long."""

    seconds: float


@dataclass(frozen=True, slots=True)
class Angle:
    """An angle."""

    degrees: float
    digits: int = 0


@dataclass(frozen=True, slots=True)
class Figure:
    """A number that is no length."""

    value: float
    digits: int


@dataclass(frozen=True, slots=True)
class Share:
    """A part of the whole, told in per cent."""

    of_one: float


@dataclass(frozen=True, slots=True)
class Count:
    """How many of what."""

    number: int
    one: str  #: the word for a single one
    many: str


class Kind(StrEnum):
    """What a name leads to."""

    PART = "part"
    MEETING = "meeting"
    FEATURE = "feature"
    STOCK = "stock"


@dataclass(frozen=True, slots=True)
class Ref:
    """Something that has a name, and that one can go to."""

    kind: Kind
    id: str
    label: str


@dataclass(frozen=True, slots=True)
class Names:
    """Several of them, the first few by name."""

    refs: tuple[Ref, ...]
    most: int = 3


class Of(StrEnum):
    """What the figures of a span are, all in millimetres."""

    LENGTH = "length"
    BARE = "bare"  # a length whose unit is told behind a later one
    AREA = "area"
    VOLUME = "volume"
    SPEED = "speed"


@dataclass(frozen=True, slots=True)
class Span:
    """A piece of a sentence: text, or a size, or a name that leads somewhere."""

    text: str  #: with lengths in mm
    mm: tuple[float, ...] = ()
    digits: int | None = 0
    ref: Ref | None = None
    of: Of = Of.LENGTH


@dataclass(frozen=True, slots=True)
class Sentence:
    """A template of the catalogue, with the facts for it, and what both give."""

    key: str
    facts: Mapping[str, Fact] = field(hash=False)
    spans: tuple[Span, ...]  #: kept, for a catalogue changes and the browser has none

    @property
    def text(self) -> str:
        """All of it, in mm."""
        return "".join(s.text for s in self.spans)


@dataclass(frozen=True, slots=True)
class Listed:
    """Several sentences, one after the other."""

    sentences: tuple[Sentence, ...]
    between: str = ", "


TRIMMED = None  # digits: as many as the number has

Fact = (
    Length | Places | Area | Volume | Speed | Duration | Angle | Figure | Share | Count | Ref | Names | Sentence | Listed | int | str
)  # a text is what a person wrote


def mm(*lengths: Mm, digits: int | None = 1) -> Length:
    """Return a length, or a size of several, with so many digits in mm; None: as many as it has."""
    return Length(lengths, digits)
