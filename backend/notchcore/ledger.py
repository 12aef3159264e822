"""A number that knows where it comes from.

Quantity   a value with its uncertainty, the sum of its terms
Term       one contribution: what it is, how much, how sure, from where, since when
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from notchcore.units import Mm
from notchcore.words.facts import Sentence


class TermKind(StrEnum):
    """Why a contribution is there."""

    MEASURED = "measured"
    ANGLE = "angle"
    FIT = "fit"
    LAYOUT = "layout"
    SIZE = "size"
    KERF = "kerf"


class Trust(StrEnum):
    """How well a number is known."""

    MEASURED = "measured"
    DEFAULT = "default"
    CHOSEN = "chosen"
    EXACT = "exact"


@dataclass(frozen=True, slots=True, kw_only=True)
class Term:
    """One contribution to a quantity."""

    kind: TermKind
    label: Sentence
    value: Mm
    sd: Mm = 0.0
    source: Sentence | None = None
    on: str | None = None  #: ISO date of the newest evidence behind it
    trust: Trust = Trust.EXACT


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """A value [mm] with its standard deviation and the terms it is the sum of."""

    value: Mm
    sd: Mm
    terms: tuple[Term, ...]


def total(terms: Iterable[Term]) -> Quantity:
    """Return the sum of independent terms: values add, variances add."""
    kept = tuple(terms)
    return Quantity(
        value=math.fsum(t.value for t in kept),
        sd=math.sqrt(math.fsum(t.sd**2 for t in kept)),
        terms=kept,
    )


def plus(quantity: Quantity, *more: Term) -> Quantity:
    """Return the quantity with further terms added."""
    return total((*quantity.terms, *more))


def single(kind: TermKind, label: Sentence, *, value: Mm, sd: Mm = 0.0, source: Sentence | None = None, on: str | None = None, trust: Trust) -> Quantity:
    """Return a quantity of one term."""
    return total((Term(kind=kind, label=label, value=value, sd=sd, source=source, on=on, trust=trust),))
