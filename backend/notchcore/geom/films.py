"""Tongues and cracks of no width, which rounding errors leave at the edges of shapes."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Polygon

from notchcore.tolerance import FILM
from notchcore.units import Mm

SAME: Mm = 1e-9  # points nearer than this are one, computed twice


def without_films(shape: Polygon) -> Polygon:
    """Return a shape without points that stand twice, and without tongues and cracks of no width, which cutters that end beside an edge leave."""
    rings = [shape.exterior, *shape.interiors]
    clean = [_without_films(shapely.get_coordinates(r)[:-1]) for r in rings]
    if all(c is None for c in clean):
        return shape
    outer, *holes = [shapely.get_coordinates(r) if c is None else c for r, c in zip(rings, clean, strict=True)]
    found = Polygon(outer, holes)
    return found if found.is_valid else shape


def _without_films(corners: np.ndarray) -> np.ndarray | None:
    """Return a ring without its films; None where it has none: a step narrower than one, between lines that run opposite ways."""
    found = None
    again = np.hypot(*(corners - np.roll(corners, 1, axis=0)).T) < SAME
    if again.any() and (~again).sum() > 2:
        found = corners = corners[~again]
    while len(corners) > 4:
        step = np.roll(corners, -1, axis=0) - corners
        length = np.hypot(step[:, 0], step[:, 1])
        way = step / np.maximum(length, 1e-12)[:, None]
        turned = (np.roll(way, 1, axis=0) * np.roll(way, -1, axis=0)).sum(axis=1)
        long = np.minimum(np.roll(length, 1), np.roll(length, -1)) > FILM
        films = np.flatnonzero((length < FILM) & (turned < -0.999) & long)
        if not len(films):
            break
        found = corners = np.delete(corners, [films[0], (films[0] + 1) % len(corners)], axis=0)
    return found
