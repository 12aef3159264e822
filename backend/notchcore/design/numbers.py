"""How a family describes its numbers, so that one check and one form serve all families.

Number      what a field of a family's numbers means: its kind, bounds and when it counts
PanelGroup  a group of panels that has a stock of its own
"""

from __future__ import annotations

import dataclasses
import math
from dataclasses import dataclass, field, fields
from enum import StrEnum
from typing import Any, cast

from notchcore.errors import DesignError, ValueOutside, require
from notchcore.units import Mm
from notchcore.words.language import Called
from notchcore.words.render import say

SMALLEST: Mm = 10.0
LARGEST: Mm = 3000.0
MOST_TEXT = 200


class NumberKind(StrEnum):
    """What a field holds."""

    LENGTH = "length"
    COUNT = "count"
    ANGLE = "angle"
    PERCENT = "percent"
    CHOICE = "choice"
    TEXT = "text"


@dataclass(frozen=True, slots=True, kw_only=True)
class Option(Called):
    """One of a few."""

    value: str
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Number(Called):
    """One field of a family, as a form shows it."""

    NAMED = ("label", "group", "says")

    name: str = ""
    label: str
    kind: NumberKind
    group: str = "Sizes"
    least: float = 0.0
    most: float = LARGEST
    none_at_zero: bool = False  #: 0 means: there is none
    scales: bool = True  #: grows with the design; sizes of hands, beds and holes for rods do not
    options: tuple[Option, ...] = ()
    only: tuple[str, tuple[str, ...]] | None = None  #: counts only while another field has one of these values
    says: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelGroup(Called):
    """A group of panels with a stock of its own."""

    id: str
    label: str


KEY = "number"


def length(default: Mm, label: str, *, least: Mm = 0.0, most: Mm = LARGEST, none_at_zero: bool = False, scales: bool = True, **more: Any) -> Any:
    """Declare a length [mm]; with `none_at_zero` the bounds hold for other values than 0 only."""
    about = Number(label=label, kind=NumberKind.LENGTH, least=least, most=most, none_at_zero=none_at_zero, scales=scales, **more)
    return field(default=default, metadata={KEY: about})


def count(default: int, label: str, *, least: int, most: int, **more: Any) -> Any:
    """Declare a whole number of a family or feature, with its label and limits."""
    return field(default=default, metadata={KEY: Number(label=label, kind=NumberKind.COUNT, least=least, most=most, **more)})


def angle(default: float, label: str, *, least: float, most: float, **more: Any) -> Any:
    """Declare an angle [degrees]."""
    return field(default=default, metadata={KEY: Number(label=label, kind=NumberKind.ANGLE, least=least, most=most, **more)})


def percent(default: float, label: str, *, least: float, most: float, **more: Any) -> Any:
    """Declare a share in per cent, with its label and limits."""
    return field(default=default, metadata={KEY: Number(label=label, kind=NumberKind.PERCENT, least=least, most=most, **more)})


def choice(default: StrEnum, label: str, *, labels: dict[Any, str], **more: Any) -> Any:
    """Declare a choice between the members of an enumeration, each with its label."""
    options = tuple(Option(value=k.value, label=v) for k, v in labels.items())
    return field(default=default, metadata={KEY: Number(label=label, kind=NumberKind.CHOICE, options=options, **more)})


def text(default: str, label: str, **more: Any) -> Any:
    """Declare words that a person writes."""
    return field(default=default, metadata={KEY: Number(label=label, kind=NumberKind.TEXT, **more)})


def numbers_of(family: type) -> tuple[Number, ...]:
    """Return the described fields of a family's numbers, in their order."""
    return tuple(dataclasses.replace(cast(Number, f.metadata[KEY]), name=f.name) for f in fields(family) if KEY in f.metadata)


def check_numbers(values: Any) -> None:
    """Check every described field against its bounds.

    Raises:
        ValueOutside: a number lies outside them
        DesignError: a text is too long
    """
    for about in numbers_of(type(values)):
        value = getattr(values, about.name)
        if about.kind is NumberKind.TEXT:
            if len(value) > MOST_TEXT:
                raise DesignError(say("text_too_long", number=about.label, most=MOST_TEXT), field=about.name)
        elif about.kind is NumberKind.CHOICE or (about.none_at_zero and value == 0):
            continue
        else:
            unit = {NumberKind.LENGTH: "mm", NumberKind.ANGLE: "°", NumberKind.PERCENT: "%"}.get(about.kind, "")
            require(about.name, value, least=about.least, most=about.most, unit=unit)
            if about.kind is NumberKind.COUNT and value != math.floor(value):
                raise ValueOutside(field=about.name, value=value, least=about.least, most=about.most, unit=unit)


def scaled_numbers(values: Any, factor: float) -> Any:
    """Return the numbers with every length that grows with the design multiplied; counts, angles and choices stay.

    Raises:
        ValueOutside: a length leaves its bounds
    """
    changes = {
        about.name: round(getattr(values, about.name) * factor, 4) for about in numbers_of(type(values)) if about.kind is NumberKind.LENGTH and about.scales
    }
    return dataclasses.replace(values, **changes)
