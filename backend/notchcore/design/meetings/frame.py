"""The frame of a meeting: the line along which two sheets cross, and both panels seen from it.

sigma   along the meeting line [mm]
alpha   in a panel's own plane, across the line [mm]
Strip   the range of alpha in which a panel lies inside its mate's slab: its width is the slot that the mate casts,
        t_mate / sin(a) + t_own |cot(a)| for an angle a between the planes
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol

from notchcore.geom.planar import Affine, Polygon, moved
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, add, cross, dot, norm, scale, solve3, sub
from notchcore.units import Mm


class Plate(Protocol):
    """Whatever has a place in space and a thickness: a panel or a finished part."""

    @property
    def id(self) -> str: ...
    @property
    def pose(self) -> Pose: ...
    @property
    def low(self) -> Mm: ...
    @property
    def high(self) -> Mm: ...


@dataclass(frozen=True, slots=True)
class Lying:
    """Where a sheet lies and how thick it is: all that a frame depends on."""

    id: str
    pose: Pose
    low: Mm
    high: Mm


@dataclass(frozen=True, slots=True)
class Side:
    """One panel as seen from the meeting line."""

    panel: Lying
    across: Vec3  #: unit vector of alpha in space
    strip: tuple[Mm, Mm]
    to_frame: Affine
    to_panel: Affine

    def seen(self, shape: Polygon) -> Polygon:
        """Return a shape of the panel's plane in (sigma, alpha)."""
        return moved(shape, self.to_frame)

    def on_panel(self, sigma: Mm, alpha: Mm) -> Vec2:
        a, b, c, d, e, f = self.to_panel
        return a * sigma + b * alpha + e, c * sigma + d * alpha + f


@dataclass(frozen=True, slots=True)
class MeetingFrame:
    """The meeting line of two panels that are not parallel."""

    along: Vec3
    origin: Vec3
    sin: float
    cos: float
    a: Side
    b: Side

    def side(self, panel: Plate) -> Side:
        return self.a if panel.id == self.a.panel.id else self.b

    def section(self) -> tuple[Vec3, Vec3, Vec3, Vec3]:
        """Return the corners of the cross-section of both slabs at sigma = 0, in order round it."""
        a, b = self.a.panel, self.b.panel
        rows = (a.pose.normal, b.pose.normal, self.along)
        heights = ((a.low, b.low), (a.high, b.low), (a.high, b.high), (a.low, b.high))
        corners = [add(self.origin, solve3(rows, (ha, hb, 0.0))) for ha, hb in heights]
        return corners[0], corners[1], corners[2], corners[3]


def _side(own: Lying, mate: Lying, *, along: Vec3, origin: Vec3, cos: float) -> Side:
    across = cross(own.pose.normal, along)
    g = dot(mate.pose.normal, across)
    casts = [(zm - zo * cos) / g for zm in (mate.low, mate.high) for zo in (own.low, own.high)]
    x, y, d = own.pose.x, own.pose.y, sub(own.pose.origin, origin)
    return Side(
        panel=own,
        across=across,
        strip=(min(casts), max(casts)),
        to_frame=(dot(x, along), dot(y, along), dot(x, across), dot(y, across), dot(d, along), dot(d, across)),
        to_panel=(dot(along, x), dot(across, x), dot(along, y), dot(across, y), -dot(d, x), -dot(d, y)),
    )


def frame_of(a: Plate, b: Plate) -> MeetingFrame:
    """Return the meeting frame of two panels whose planes cross.

    The direction of the line is chosen by its largest component, so that the order of the panels does not matter.
    """
    return _frame_of(Lying(a.id, a.pose, a.low, a.high), Lying(b.id, b.pose, b.low, b.high))


@lru_cache(maxsize=1 << 14)  # most edits change outlines, not where sheets lie
def _frame_of(a: Lying, b: Lying) -> MeetingFrame:
    line = cross(a.pose.normal, b.pose.normal)
    sin = norm(line)
    along = scale(line, 1 / sin)
    leading = max(range(3), key=lambda k: round(abs(along[k]), 9))
    if along[leading] < 0:
        along = scale(along, -1.0)
    cos = dot(a.pose.normal, b.pose.normal)
    middle = scale(add(a.pose.origin, b.pose.origin), 0.5)
    origin = solve3(
        (a.pose.normal, b.pose.normal, along),
        (dot(a.pose.normal, a.pose.origin), dot(b.pose.normal, b.pose.origin), dot(along, middle)),
    )
    return MeetingFrame(
        along=along, origin=origin, sin=sin, cos=cos, a=_side(a, b, along=along, origin=origin, cos=cos), b=_side(b, a, along=along, origin=origin, cos=cos)
    )


def angle_deg(frame: MeetingFrame) -> float:
    """Return the angle between the two planes, 0..90 degrees."""
    return math.degrees(math.atan2(frame.sin, abs(frame.cos)))
