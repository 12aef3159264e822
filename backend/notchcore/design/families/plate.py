"""The plate: one sheet of a plain shape, to be cut as it is or to be built on.

It lies on z = 0, its front face up; the shape's box begins at the origin.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, lying
from notchcore.design.families.outlines import polygon_ring, rounded_each, turns
from notchcore.design.numbers import SMALLEST, PanelGroup, angle, check_numbers, choice, count, length
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle, Profile, bounds_of, circle_ring, profile_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say

ROLES = (PanelGroup(id="plate", label="Plate"),)


class PlateShape(StrEnum):
    """What the sheet is cut to."""

    RECTANGLE = "rectangle"
    ELLIPSE = "ellipse"
    RING = "ring"
    SECTOR = "sector"
    POLYGON = "polygon"
    TRIANGLE = "triangle"
    TRAPEZIUM = "trapezium"
    SLOPING = "sloping"


LABELS = {
    PlateShape.RECTANGLE: "rectangle",
    PlateShape.ELLIPSE: "ellipse or circle",
    PlateShape.RING: "ring",
    PlateShape.SECTOR: "sector",
    PlateShape.POLYGON: "regular polygon",
    PlateShape.TRIANGLE: "triangle",
    PlateShape.TRAPEZIUM: "trapezium",
    PlateShape.SLOPING: "sloping top",
}
_BOXED = ("rectangle", "ellipse", "trapezium")
_ROUND = ("ring", "sector", "polygon")
_RADII = ("radius_1", "radius_2", "radius_3", "radius_4")


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateNumbers:
    """The numbers of a plate [mm, degrees]; those of other shapes are kept."""

    family: Literal["plate"] = "plate"
    shape: PlateShape = choice(PlateShape.RECTANGLE, "Shape", labels=LABELS)
    width: Mm = length(160.0, "Width", least=SMALLEST, only=("shape", (*_BOXED, "sloping")))
    height: Mm = length(100.0, "Height", least=SMALLEST, only=("shape", _BOXED))
    upper: Mm = length(100.0, "Upper side", least=1.0, only=("shape", ("trapezium",)))
    shift: Mm = length(30.0, "Upper side begins from the left at", only=("shape", ("trapezium",)))
    left_high: Mm = length(100.0, "Height on the left", least=SMALLEST, only=("shape", ("sloping",)))
    right_high: Mm = length(60.0, "Height on the right", least=SMALLEST, only=("shape", ("sloping",)))
    across: Mm = length(120.0, "Diameter", least=SMALLEST, only=("shape", _ROUND))
    hole: Mm = length(60.0, "Inner diameter", none_at_zero=True, least=2.0, only=("shape", ("ring", "sector")))
    sweep: float = angle(90.0, "Angle of the sector", least=5.0, most=350.0, only=("shape", ("sector",)))
    sides: int = count(6, "Sides", least=3, most=48, only=("shape", ("polygon",)))
    lower_side: Mm = length(120.0, "Lower side", least=SMALLEST, only=("shape", ("triangle",)))
    right_side: Mm = length(100.0, "Right side", least=SMALLEST, only=("shape", ("triangle",)))
    left_side: Mm = length(80.0, "Left side", least=SMALLEST, only=("shape", ("triangle",)))
    radius_1: Mm = length(0.0, "Round, lower left", group="Corners", only=("shape", ("rectangle",)))
    radius_2: Mm = length(0.0, "Round, lower right", group="Corners", only=("shape", ("rectangle",)))
    radius_3: Mm = length(0.0, "Round, upper right", group="Corners", only=("shape", ("rectangle",)))
    radius_4: Mm = length(0.0, "Round, upper left", group="Corners", only=("shape", ("rectangle",)))

    def __post_init__(self) -> None:
        check_numbers(self)


def arrange(n: PlateNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the one panel, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    if problem := impossible(n, a.web("plate")):
        a.must(problem.code, problem.number, says=problem.says, most_mm=problem.most)
        return a.done()
    shape = shape_of(n)
    a.add("sheet", "Plate", role="plate", envelope=shape, pose=lying(0), datum=0.0)
    _, _, w, h = bounds_of(shape.outer)
    if n.shape.value in _BOXED:
        a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
        a.shows("height", (w, 0, 0), end=(w, h, 0))
    elif n.shape is PlateShape.SLOPING:
        a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
        a.shows("left_high", (0, 0, 0), end=(0, n.left_high, 0))
        a.shows("right_high", (w, 0, 0), end=(w, n.right_high, 0))
    elif n.shape is PlateShape.TRIANGLE:
        a.shows("lower_side", (0, 0, 0), end=(n.lower_side, 0, 0))
    else:
        a.shows("across", (0, h / 2, 0), end=(w, h / 2, 0))
    a.fact("Width and height", w, h)
    return a.done()


@dataclass(frozen=True, slots=True, kw_only=True)
class Impossible:
    """Why a shape cannot be, and the number to change."""

    code: str
    number: str
    says: Sentence
    most: Mm


def impossible(n: PlateNumbers, web: Mm) -> Impossible | None:
    """Tell why a shape cannot be cut.

    Args:
        web: least distance of two cuts in its stock [mm]
    """
    if n.shape is PlateShape.RECTANGLE:
        r = [getattr(n, name) for name in _RADII]
        for k, side in enumerate((n.width, n.height, n.width, n.height)):
            if r[k] + r[(k + 1) % 4] > side + 1e-9:
                largest = max((k, (k + 1) % 4), key=lambda i: r[i])
                most = side - min(r[k], r[(k + 1) % 4])
                return Impossible(code="corner_too_round", number=_RADII[largest], says=say("corner_too_round", side=mm(side), most=mm(most)), most=most)
    if n.shape in (PlateShape.RING, PlateShape.SECTOR) and n.hole and n.across - n.hole < 2 * web:
        most = n.across - 2 * web
        return Impossible(code="ring_too_narrow", number="hole", says=say("ring_too_narrow", most=mm(max(most, 0.0))), most=most)
    if n.shape is PlateShape.TRIANGLE:
        sides = {"lower_side": n.lower_side, "right_side": n.right_side, "left_side": n.left_side}
        longest = max(sides, key=lambda k: sides[k])
        most = 0.98 * (sum(sides.values()) - sides[longest])
        if sides[longest] > most:
            return Impossible(code="triangle_does_not_close", number=longest, says=say("triangle_does_not_close", most=mm(most)), most=most)
    return None


def shape_of(n: PlateNumbers) -> Profile:
    """Return a shape with the lower left corner of its box at the origin; one that cannot be is `impossible`."""
    return _at_origin(_OUTLINES[n.shape](n))


def _rectangle(n: PlateNumbers) -> Profile:
    return rounded_each(0.0, 0.0, x1=n.width, y1=n.height, radii=(n.radius_1, n.radius_2, n.radius_3, n.radius_4))


def _ellipse(n: PlateNumbers) -> Profile:
    if n.width == n.height:
        circle = Circle(x=0.0, y=0.0, radius=n.width / 2)
        return Profile(outer=circle_ring(circle), circles=(circle,))
    steps = 4 * math.ceil(len(turns(max(n.width, n.height) / 2)) / 4)  # corners at its four ends, so that it is as large as it says
    angles = [2 * math.pi * i / steps for i in range(steps)]
    return Profile(outer=tuple((n.width / 2 * math.cos(v), n.height / 2 * math.sin(v)) for v in angles))


def _ring(n: PlateNumbers) -> Profile:
    outer, inner = Circle(x=0.0, y=0.0, radius=n.across / 2), Circle(x=0.0, y=0.0, radius=n.hole / 2)
    holes = (tuple(reversed(circle_ring(inner))),) if n.hole else ()
    return Profile(outer=circle_ring(outer), holes=holes, circles=(outer, inner) if n.hole else (outer,))


def _sector(n: PlateNumbers) -> Profile:
    """Return a sector about the upright, with its bow up; cut off inside where there is an inner diameter."""
    half = math.radians(n.sweep) / 2

    def bow(radius: Mm) -> list[Vec2]:
        steps = max(math.ceil(len(turns(radius)) * n.sweep / 360), 2)
        return [(radius * math.sin(half - 2 * half * i / steps), radius * math.cos(half - 2 * half * i / steps)) for i in range(steps + 1)]

    inside = list(reversed(bow(n.hole / 2))) if n.hole else [(0.0, 0.0)]
    radii = (n.across / 2, n.hole / 2) if n.hole else (n.across / 2,)
    return Profile(outer=(*bow(n.across / 2), *inside), circles=tuple(Circle(x=0.0, y=0.0, radius=r) for r in radii))


def _polygon(n: PlateNumbers) -> Profile:
    return Profile(outer=polygon_ring(n.across / 2, n.sides))


def _triangle(n: PlateNumbers) -> Profile:
    """Return the triangle by the law of cosines; its lower side lies level."""
    x = (n.lower_side**2 + n.left_side**2 - n.right_side**2) / (2 * n.lower_side)
    return Profile(outer=((0.0, 0.0), (n.lower_side, 0.0), (x, math.sqrt(n.left_side**2 - x**2))))


def _trapezium(n: PlateNumbers) -> Profile:
    return Profile(outer=((0.0, 0.0), (n.width, 0.0), (n.shift + n.upper, n.height), (n.shift, n.height)))


def _sloping(n: PlateNumbers) -> Profile:
    return Profile(outer=((0.0, 0.0), (n.width, 0.0), (n.width, n.right_high), (0.0, n.left_high)))


_OUTLINES = {
    PlateShape.RECTANGLE: _rectangle,
    PlateShape.ELLIPSE: _ellipse,
    PlateShape.RING: _ring,
    PlateShape.SECTOR: _sector,
    PlateShape.POLYGON: _polygon,
    PlateShape.TRIANGLE: _triangle,
    PlateShape.TRAPEZIUM: _trapezium,
    PlateShape.SLOPING: _sloping,
}


def _at_origin(shape: Profile) -> Profile:
    x, y, _, _ = bounds_of(shape.outer)
    whole = profile_of(Polygon([(a - x, b - y) for a, b in shape.outer], [[(a - x, b - y) for a, b in h] for h in shape.holes]))
    return Profile(outer=whole.outer, holes=whole.holes, circles=tuple(Circle(x=c.x - x, y=c.y - y, radius=c.radius) for c in shape.circles))
