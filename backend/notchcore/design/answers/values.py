"""What an answer is made of.

Result   a number with its name; the first is the one that was asked for
Shape    a line or area of the drawing [mm], y up
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from notchcore.findings import Finding
from notchcore.geom.vectors import Vec2
from notchcore.ledger import Quantity, Term
from notchcore.words.facts import Sentence

Kind = Literal["mm", "deg", "count", "number"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Result:
    """One number of an answer."""

    label: Sentence
    value: float
    kind: Kind = "mm"
    name: str = ""  #: of the field that it is what goes without saying for


@dataclass(frozen=True, slots=True, kw_only=True)
class Shape:
    """Something drawn: a sheet in its colour, a cut, a line of measure with its label."""

    points: tuple[Vec2, ...]
    style: Literal["sheet", "mate", "gap", "cut", "measure", "guide"]
    closed: bool = True
    label: str = ""
    times: int = 1  #: drawn so many times larger than it is


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """An answer with its ledger, its words and its drawing."""

    says: Sentence
    results: tuple[Result, ...]
    shapes: tuple[Shape, ...]
    ledger: Quantity | None = None
    findings: tuple[Finding, ...] = ()


def renamed(quantity: Quantity, label: Sentence) -> Term:
    """Return the one term of a measured quantity under another name."""
    return replace(quantity.terms[0], label=label)


def box(x0: float, y0: float, *, x1: float, y1: float) -> tuple[Vec2, ...]:
    """Return the corners of a rectangle, counter-clockwise [mm]."""
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def measure(a: Vec2, b: Vec2, *, times: int = 1) -> Shape:
    """Return a dimension line from one point to another [mm]; times: drawn so many times larger than it is."""
    return Shape(points=(a, b), style="measure", closed=False, times=times)
