"""How different two stocks look side by side.

Lab        lightness 0..100, a towards red, b towards yellow, as a colour meter gives it (D65, 2 degrees)
CIEDE2000  the colour difference of two Lab values; below 10 two stocks side by side are hard to tell apart
Both are computed by a colour library; the tests hold it to the published check values (docs/sources.md, CIEDE2000).
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from coloraide import Color

from notchcore.errors import require

HARD_TO_TELL = 10.0

Lab = tuple[float, float, float]


def lab_of(colour: str) -> Lab:
    """Return the Lab value of an sRGB colour, #rrggbb: a stand-in until a swatch is measured."""
    lightness, a, b = Color(colour).convert("lab-d65").coords()
    return lightness, a, b


def checked_lab(value: Lab) -> Lab:
    """Return a Lab value when a colour meter could have shown it."""
    require("lightness L", value[0], least=0, most=100, unit="")
    require("a", value[1], least=-128, most=128, unit="")
    require("b", value[2], least=-128, most=128, unit="")
    return value


def difference(one: Lab, two: Lab) -> float:
    """Return the CIEDE2000 difference of two Lab values; 0 for the same, about 1 for one that is just seen."""
    return Color("lab-d65", one).delta_e(Color("lab-d65", two), method="2000")


@dataclass(frozen=True, slots=True, kw_only=True)
class Neighbours:
    """Two stocks side by side."""

    a: str
    b: str
    difference: float
    hard_to_tell: bool


def neighbours(swatches: dict[str, Lab]) -> tuple[Neighbours, ...]:
    """Return every pair of swatches with its difference, the most alike first."""
    found = []
    for a, b in combinations(swatches, 2):
        d = difference(swatches[a], swatches[b])
        found.append(Neighbours(a=a, b=b, difference=d, hard_to_tell=d < HARD_TO_TELL))
    return tuple(sorted(found, key=lambda n: n.difference))
