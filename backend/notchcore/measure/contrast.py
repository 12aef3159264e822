"""How different two stocks look side by side.

Lab        lightness 0..100, a towards red, b towards yellow, as a colour meter gives it (D65, 2 degrees)
CIEDE2000  the colour difference of two Lab values; below 10 two stocks side by side are hard to tell apart
Source: docs/sources.md, CIEDE2000 (the formula with its published check values), sRGB.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations

from notchcore.errors import require

HARD_TO_TELL = 10.0

Lab = tuple[float, float, float]

_WHITE = (0.95047, 1.0, 1.08883)  # D65
_TO_XYZ = ((0.4124564, 0.3575761, 0.1804375), (0.2126729, 0.7151522, 0.0721750), (0.0193339, 0.1191920, 0.9503041))


def lab_of(colour: str) -> Lab:
    """Return the Lab value of an sRGB colour, #rrggbb: a stand-in until a swatch is measured."""
    linear = []
    for i in (1, 3, 5):
        v = int(colour[i : i + 2], 16) / 255
        linear.append(v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4)
    f = []
    for row, white in zip(_TO_XYZ, _WHITE, strict=True):
        r = sum(m * v for m, v in zip(row, linear, strict=True)) / white
        f.append(r ** (1 / 3) if r > (6 / 29) ** 3 else r / (3 * (6 / 29) ** 2) + 4 / 29)
    return 116 * f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])


def checked_lab(value: Lab) -> Lab:
    """Return a Lab value when a colour meter could have shown it."""
    require("lightness L", value[0], 0, 100, unit="")
    require("a", value[1], -128, 128, unit="")
    require("b", value[2], -128, 128, unit="")
    return value


def difference(one: Lab, two: Lab) -> float:
    """Return the CIEDE2000 difference of two Lab values; 0 for the same, about 1 for one that is just seen."""
    (l1, a1, b1), (l2, a2, b2) = one, two
    mean_c7 = ((math.hypot(a1, b1) + math.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - math.sqrt(mean_c7 / (mean_c7 + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = math.hypot(a1, b1), math.hypot(a2, b2)
    h1, h2 = (math.degrees(math.atan2(b, a)) % 360 if a or b else 0.0 for a, b in ((a1, b1), (a2, b2)))
    dl, dc = l2 - l1, c2 - c1
    grey = c1 * c2 == 0
    turn = 0.0 if grey else (h2 - h1 + 180) % 360 - 180
    if not grey and h2 - h1 == 180:
        turn = 180.0
    dh = 2 * math.sqrt(c1 * c2) * math.sin(math.radians(turn / 2))
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    if grey:
        mean_h = h1 + h2
    elif abs(h1 - h2) <= 180:
        mean_h = (h1 + h2) / 2
    else:
        mean_h = (h1 + h2 + 360) / 2 if h1 + h2 < 360 else (h1 + h2 - 360) / 2

    def cos(deg: float) -> float:
        return math.cos(math.radians(deg))

    t = 1 - 0.17 * cos(mean_h - 30) + 0.24 * cos(2 * mean_h) + 0.32 * cos(3 * mean_h + 6) - 0.20 * cos(4 * mean_h - 63)
    sl = 1 + 0.015 * (mean_l - 50) ** 2 / math.sqrt(20 + (mean_l - 50) ** 2)
    sc, sh = 1 + 0.045 * mean_c, 1 + 0.015 * mean_c * t
    rotation = -2 * math.sqrt(mean_c**7 / (mean_c**7 + 25.0**7)) * math.sin(math.radians(60 * math.exp(-(((mean_h - 275) / 25) ** 2))))
    return math.sqrt((dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rotation * (dc / sc) * (dh / sh))


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
