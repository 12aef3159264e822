"""Curves as chords: into how many a curve is divided so that none lies farther from it than is asked."""

from __future__ import annotations

import math
from itertools import pairwise

from notchcore.geom.vectors import Vec2

FEWEST = 4  # chords of a curve, however small: its ends alone do not tell how far it reaches


def arc_steps(turn: float, radius: float, *, sag: float) -> int:
    """Return into how many chords an arc is divided. An ellipse's larger half axis serves as `radius`: its chords lie nearer.

    Args:
        turn: angle of the arc [rad]
        radius: [the drawing's units]
        sag: most that a chord may lie off the arc, in the same units

    A chord over the angle a lies r (1 - cos(a / 2)) off its arc.
    """
    half = math.acos(max(1 - sag / radius, -1.0)) if radius > 0 else math.pi
    return max(FEWEST, math.ceil(abs(turn) / max(2 * half, 1e-4)))


def curve_steps(row: tuple[Vec2, ...], sag: float) -> int:
    """Return into how many chords of equal steps of its parameter a Bézier curve of three or four points is divided.

    A chord lies at most a step squared, times the largest second derivative, divided by 8 off its curve; that derivative is at most
    d (d - 1) times the largest second difference of the d + 1 points.
    """
    degree = len(row) - 1
    edges = [(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(row)]
    most = max(math.dist(a, b) for a, b in pairwise(edges))
    steps = math.sqrt(degree * (degree - 1) * most / (8 * sag))
    return max(FEWEST, math.ceil(min(steps, 20_000)))


def curve_points(row: tuple[Vec2, ...], sag: float) -> list[Vec2]:
    """Return the ends of the chords of a Bézier curve of three or four points, without its own beginning."""
    steps = curve_steps(row, sag)
    (ax, ay), (bx, by), (cx, cy), *more = row
    dx, dy = more[0] if more else (cx, cy)
    k = len(row) - 1  # the degree; the curve is a + u t + v t^2 + w t^3
    ux, uy, vx, vy = k * (bx - ax), k * (by - ay), (2 * k - 3) * (ax - 2 * bx + cx), (2 * k - 3) * (ay - 2 * by + cy)
    wx, wy = (dx - ax - ux - vx, dy - ay - uy - vy) if more else (0.0, 0.0)
    inner = (i / steps for i in range(1, steps))
    return [*((ax + t * (ux + t * (vx + t * wx)), ay + t * (uy + t * (vy + t * wy))) for t in inner), (dx, dy)]
