"""Edges of a panel: the straight stretches of its outline, by the side they are on or counted round it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from notchcore.design.panel import Panel
from notchcore.geom.planar import Polygon, points_of, simplified
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

LEAST: Mm = 1.0
STRAIGHT: Mm = 1e-4  # corners that lie nearer to a line than this are none
BOWED: Mm = 0.05  # a stretch whose neighbours turn so little that an arc through them stands out less than this is a chord of a curve
SIDEWAYS = math.cos(math.radians(45.0)) + 1e-9  # so that an edge is of one side only


class Edge(StrEnum):
    """A side of a panel, as its front face is looked at."""

    LEFT = "left"
    RIGHT = "right"
    LOWER = "lower"
    UPPER = "upper"


OUTWARD: dict[Edge, Vec2] = {Edge.LEFT: (-1.0, 0.0), Edge.RIGHT: (1.0, 0.0), Edge.LOWER: (0.0, -1.0), Edge.UPPER: (0.0, 1.0)}


@dataclass(frozen=True, slots=True, kw_only=True)
class StraightEdge:
    """A straight stretch of an outline, in the panel's plane [mm]; the outline runs against the clock."""

    nth: int  #: counted against the clock, from 1, the lowest
    start: Vec2
    end: Vec2
    length: Mm
    side: Edge  #: the side that it looks to most nearly
    before: int  #: the edge that it meets in a corner at its start; 0: an arc comes between
    after: int  #: ... at its end


def straight_edges(panel: Panel) -> tuple[StraightEdge, ...]:
    """Return every straight stretch of a panel's outer outline in order; chords of its curves are none."""
    stretches = _stretches(panel)
    ways = [math.atan2(q[1] - p[1], q[0] - p[0]) for p, q in stretches]
    turns = [abs(math.remainder(way - ways[k - 1], math.tau)) for k, way in enumerate(ways)]  # at the start of each
    n = len(stretches)
    found = [k for k, (p, q) in enumerate(stretches) if math.dist(p, q) >= LEAST and math.dist(p, q) * min(turns[k], turns[(k + 1) % n]) / 8 > BOWED]
    if not found:
        return ()
    first = min(range(len(found)), key=lambda i: _middle(*stretches[found[i]]))
    order = found[first:] + found[:first]
    number = {k: i + 1 for i, k in enumerate(order)}
    made = []
    for i, k in enumerate(order):
        p, q = stretches[k]
        made.append(
            StraightEdge(
                nth=i + 1, start=p, end=q, length=math.dist(p, q), side=side_of(p, q), before=number.get((k - 1) % n, 0), after=number.get((k + 1) % n, 0)
            )
        )
    return tuple(made)


def edge_at(panel: Panel, nth: int) -> StraightEdge | None:
    """Return one of a panel's straight edges; None when it has fewer."""
    edges = straight_edges(panel)
    return edges[nth - 1] if 0 < nth <= len(edges) else None


def side_of(p: Vec2, q: Vec2) -> Edge:
    """Return the side that a stretch of an outline looks to most nearly; the lower or upper one where it is in doubt."""
    x, y = q[1] - p[1], p[0] - q[0]
    if abs(y) >= abs(x) - STRAIGHT:
        return Edge.UPPER if y > 0 else Edge.LOWER
    return Edge.RIGHT if x > 0 else Edge.LEFT


def _middle(p: Vec2, q: Vec2) -> Vec2:
    """Return what edges are compared by: how low their middle is, then how far to the left."""
    return (round((p[1] + q[1]) / 2, 6), round((p[0] + q[0]) / 2, 6))


def _stretches(panel: Panel) -> list[tuple[Vec2, Vec2]]:
    """Return an outline from corner to corner."""
    ring = panel.envelope.outer
    first = min(range(len(ring)), key=lambda i: (ring[i][1], ring[i][0]))  # a corner for certain, where the outline may be opened
    corners = points_of(simplified(Polygon(ring[first:] + ring[:first]), STRAIGHT).exterior)
    return list(pairwise(corners))


def straight_edge(panel: Panel, way: Vec2) -> tuple[Vec2, Vec2] | None:
    """Return the straight stretch of an outline that looks most nearly in a direction and lies farthest out in it; None where none does."""
    best, found = (0.0, 0.0), None
    for p, q in _stretches(panel):
        length = math.dist(p, q)
        if length < LEAST or ((q[1] - p[1]) * way[0] + (p[0] - q[0]) * way[1]) / length < SIDEWAYS:
            continue
        rank = (round(((p[0] + q[0]) * way[0] + (p[1] + q[1]) * way[1]) / 2, 6), length)
        if found is None or rank > best:
            best, found = rank, (p, q)
    return found
