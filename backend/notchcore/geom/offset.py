"""Shapes grown and shrunk with sharp corners, and the result looked at.

The library's offset with mitred corners loses all or part of a shape now and then (one in some thousand relieved slots), where short edges meet at its
corners. Its round offset does not, and the two can differ only beside corners: that is asked of every answer. A band along a closed line is filled now
and then: that is seen by its area.
"""

from __future__ import annotations

import math

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from notchcore.units import Mm

LIMIT = 5.0  # a mitre ends so many times the offset from its corner
CHORDS, FEW = 24, 4  # of a quarter of a round corner: to be cut, and to compare with
OFF = 0.02  # by which few chords are too small, as a share of the turn
GRIDS = (1e-6, 1e-5)  # [mm] on which points are put where an answer was wrong
ROUNDING = 2e-3  # share of offset times outline by which chords and rounding change areas


def mitred(shape: BaseGeometry, by: Mm, *, limit: float = LIMIT) -> BaseGeometry:
    """Return a shape grown by a distance (shrunk when negative) with sharp corners, those beyond the limit cut off.

    Where no way gives that, corners are round, which is as true beside the edges.

    Args:
        limit: how many times the distance a corner's tip may lie from the corner
    """
    if by == 0 or shape.is_empty:
        return shape
    area = shape.buffer(by, quad_segs=FEW).area
    differs = by**2 * _corners(shape, limit) + ROUNDING * abs(by) * shape.length
    for grid in (0.0, *GRIDS):
        sharp = (shapely.set_precision(shape, grid) if grid else shape).buffer(by, join_style="mitre", mitre_limit=limit)
        if abs(sharp.area - area) <= differs:
            return sharp
    return shape.buffer(by, quad_segs=CHORDS)


def beside(lines: BaseGeometry, reach: Mm) -> BaseGeometry:
    """Return what lies within a distance of lines; step by step where the library fills what they go round."""
    at_once = lines.buffer(reach)
    parts = shapely.get_parts(lines)
    if at_once.area <= 2 * reach * lines.length + len(parts) * 4 * reach**2:
        return at_once
    ends = [shapely.get_coordinates(p) for p in parts]
    steps = np.concatenate([np.stack([some[:-1], some[1:]], axis=1) for some in ends])
    return shapely.union_all(shapely.buffer(shapely.linestrings(steps), reach))


def _corners(shape: BaseGeometry, limit: float) -> float:
    """Return how much larger sharp corners are than round ones at most, in squares of the offset: tan(a/2) - a/2 for each turn a."""
    most = 2 * math.acos(1 / limit)
    rings = shapely.get_rings(shapely.get_parts(shape))
    points, ring = shapely.get_coordinates(rings, return_index=True)
    way = np.diff(points, axis=0)
    heading = np.arctan2(way[:, 1], way[:, 0])[ring[1:] == ring[:-1]]
    turns = np.abs((heading - np.roll(heading, 1) + math.pi) % (2 * math.pi) - math.pi)
    held = np.minimum(turns, most)
    closing = len(rings)  # the turn where a ring closes is taken from its neighbour: a right angle's for each, and more
    return float(np.sum(np.tan(held / 2) - held / 2 + OFF * turns) + (np.sum(turns > most) + closing) * 2 * limit)
