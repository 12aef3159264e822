"""Vectors of the plane and of space as plain tuples: few of them, so clarity before speed."""

from __future__ import annotations

import math

Vec2 = tuple[float, float]
Vec3 = tuple[float, float, float]

X: Vec3 = (1.0, 0.0, 0.0)
Y: Vec3 = (0.0, 1.0, 0.0)
Z: Vec3 = (0.0, 0.0, 1.0)


def dot(a: Vec3, b: Vec3) -> float:
    """Return the scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec3, b: Vec3) -> Vec3:
    """Return the vector product, right-handed."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def add(a: Vec3, b: Vec3) -> Vec3:
    """Return a + b."""
    return (a[0] + b[0], a[1] + b[1], a[2] + b[2])


def sub(a: Vec3, b: Vec3) -> Vec3:
    """Return a - b."""
    return (a[0] - b[0], a[1] - b[1], a[2] - b[2])


def scale(a: Vec3, k: float) -> Vec3:
    """Return k a."""
    return (a[0] * k, a[1] * k, a[2] * k)


def norm(a: Vec3) -> float:
    """Return the length of a vector."""
    return math.sqrt(dot(a, a))


def unit(a: Vec3) -> Vec3:
    """Return the vector of length 1 in the same direction.

    Raises:
        ZeroDivisionError: the vector has no direction
    """
    return scale(a, 1 / norm(a))


def solve3(rows: tuple[Vec3, Vec3, Vec3], right: Vec3) -> Vec3:
    """Return x of `rows · x = right` by Cramer's rule; the rows must be independent."""
    a, b, c = rows
    bc, ca, ab = cross(b, c), cross(c, a), cross(a, b)
    det = dot(a, bc)
    return scale(add(add(scale(bc, right[0]), scale(ca, right[1])), scale(ab, right[2])), 1 / det)
