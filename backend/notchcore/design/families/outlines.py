"""Outlines that families offer: figures of a few named shapes, in a frame of their own.

All are closed rings, counter-clockwise, of the given width and height, standing on y = 0 and centred on x = 0.
"""

from __future__ import annotations

import math
from enum import StrEnum

from notchcore.geom.planar import Polygon, box
from notchcore.geom.profile import Circle, Profile, circle_ring, profile_of, rectangle
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import ARC_SAG
from notchcore.units import Mm


class Outline(StrEnum):
    """A named figure."""

    PLATE = "plate"
    ARCH = "arch"
    OVAL = "oval"
    LEAF = "leaf"
    GABLE = "gable"


LABELS = {Outline.PLATE: "plate", Outline.ARCH: "arch", Outline.OVAL: "oval", Outline.LEAF: "leaf", Outline.GABLE: "gable"}


def rounded(x0: Mm, y0: Mm, *, x1: Mm, y1: Mm, radius: Mm) -> Profile:
    """Return a rectangle with round corners; the radius is at most half the shorter side."""
    r = min(radius, (x1 - x0) / 2, (y1 - y0) / 2)
    return rounded_each(x0, y0, x1=x1, y1=y1, radii=(r, r, r, r))


def rounded_each(x0: Mm, y0: Mm, *, x1: Mm, y1: Mm, radii: tuple[Mm, Mm, Mm, Mm]) -> Profile:
    """Return a rectangle with a radius of its own at each corner: lower left, lower right, upper right, upper left; two at one side fit into it."""
    if max(radii) < 0.05:
        return rectangle(x0, y0, x1=x1, y1=y1)
    inward: tuple[Vec2, ...] = ((1, 1), (-1, 1), (-1, -1), (1, -1))
    ring: list[Vec2] = []
    circles = []
    for k in (1, 2, 3, 0):
        (sx, sy), r = inward[k], radii[k]
        x, y = (x0 if sx > 0 else x1), (y0 if sy > 0 else y1)
        if r < 0.05:
            ring.append((x, y))
            continue
        circle = Circle(x=x + sx * r, y=y + sy * r, radius=r)
        circles.append(circle)
        points = circle_ring(circle)
        quarter = len(points) // 4
        ring += [points[((k + 2) % 4 * quarter + i) % len(points)] for i in range(quarter + 1)]
    return Profile(outer=tuple(_without_doubles(ring)), circles=tuple(circles))


def _without_doubles(ring: list[Vec2]) -> list[Vec2]:
    kept = [p for i, p in enumerate(ring) if math.dist(p, ring[i - 1]) > 1e-9]
    return kept


def _steps(radius: Mm) -> int:
    """Return into how many chords a turn of this radius is divided."""
    return max(24, math.ceil(math.pi / math.acos(max(1 - ARC_SAG / max(radius, 0.1), 0.0))))


def turns(radius: Mm) -> list[float]:
    """Return the angles of a turn's corners [rad] at which chords of this radius are true enough."""
    n = _steps(radius)
    return [2 * math.pi * i / n for i in range(n)]


def star(radius: Mm, lobes: int, *, depth: float) -> tuple[Vec2, ...]:
    """Return a ring whose radius swells and shrinks `lobes` times by the share `depth`; a circle when either is 0."""
    angles = turns(radius)
    radii = [radius * (1 + depth * math.cos(lobes * v)) / (1 + depth) for v in angles]
    return tuple((r * math.cos(v), r * math.sin(v)) for r, v in zip(radii, angles, strict=True))


def polygon_ring(radius: Mm, sides: int) -> tuple[Vec2, ...]:
    """Return a regular polygon inside the circle of this radius, with a flat side towards -y."""
    first = -math.pi / 2 + math.pi / sides
    return tuple((radius * math.cos(first + 2 * math.pi * i / sides), radius * math.sin(first + 2 * math.pi * i / sides)) for i in range(sides))


def outline(kind: Outline, width: Mm, *, height: Mm) -> Profile:
    """Return a named figure of this width and height."""
    half = width / 2
    if kind is Outline.PLATE:
        return rounded(-half, 0, x1=half, y1=height, radius=min(width, height) / 12)
    if kind is Outline.GABLE:
        return Profile(outer=((-half, 0), (half, 0), (half, height * 0.6), (0, height), (-half, height * 0.6)))
    if kind is Outline.ARCH:
        # A bow through both upper corners of the sides; a half circle where there is room for one.
        bow = min(half, 0.6 * height)
        radius = (half**2 + bow**2) / (2 * bow)
        circle = Circle(x=0, y=height - radius, radius=radius)
        above = Polygon(circle_ring(circle)).intersection(box(-half, height - bow, half, height + 1))
        return profile_of(above.union(box(-half, 0, half, height - bow)), circles=(circle,))
    angles = turns(max(half, height / 2))
    if kind is Outline.OVAL:
        return Profile(outer=tuple((half * math.cos(v), height / 2 + height / 2 * math.sin(v)) for v in angles))
    # A leaf: two bows that meet in a point at the top and in a stem at the bottom.
    m = max(60, len(angles) // 2)
    right = [(half * math.sin(math.pi * s) ** 0.8 * (1 - 0.25 * s), height * s) for s in [i / m for i in range(m + 1)]]
    stem = half * 0.12
    sides = [(max(x, stem * (1 - y / height)), y) for x, y in right]
    ring = [*sides, *[(-x, y) for x, y in reversed(sides)]]
    return profile_of(Polygon(_without_doubles(ring)).buffer(0))


def scaled_to(ring: tuple[Vec2, ...], width: Mm, *, height: Mm) -> tuple[Vec2, ...]:
    """Return a ring stretched to this width and height, standing on y = 0 and centred on x = 0."""
    xs, ys = [p[0] for p in ring], [p[1] for p in ring]
    kx, ky = width / (max(xs) - min(xs)), height / (max(ys) - min(ys))
    middle = (max(xs) + min(xs)) / 2
    return tuple(((x - middle) * kx, (y - min(ys)) * ky) for x, y in ring)
