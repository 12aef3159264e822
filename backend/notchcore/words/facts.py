"""Facts that sentences tell: what they are, not how they are written; the renderer knows the reader's unit and plural."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from notchcore.units import Mm


@dataclass(frozen=True, slots=True)
class Length:
    """One length, or several with a sign of times between them: a size."""

    mm: tuple[Mm, ...]
    digits: int = 1  #: in mm; with two and more it is told finely in every unit


@dataclass(frozen=True, slots=True)
class Volume:
    """A volume."""

    mm3: float


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


@dataclass(frozen=True, slots=True)
class Sentence:
    """A template of the catalogue, with the facts for it."""

    key: str
    facts: Mapping[str, Fact]


@dataclass(frozen=True, slots=True)
class Listed:
    """Several sentences, one after the other."""

    sentences: tuple[Sentence, ...]


Fact = Length | Volume | Share | Count | Ref | Names | Sentence | Listed | int | str  # a text is what a person wrote


def say(key: str, /, **facts: Fact) -> Sentence:
    """Return a sentence of the catalogue."""
    return Sentence(key, facts)


def mm(*lengths: Mm, digits: int = 1) -> Length:
    """Return a length, or a size of several."""
    return Length(lengths, digits)
