"""A sheet turned over, turned in its plane, tipped, or mirrored: pose, outline and marks go along."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from notchcore.design.panel import Panel
from notchcore.geom.profile import Profile, bounds_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, add, dot, scale, sub
from notchcore.units import Mm

_Map = tuple[tuple[float, float], tuple[float, float]]
_FLIP: _Map = ((-1.0, 0.0), (0.0, 1.0))
_QUARTER: _Map = ((0.0, 1.0), (-1.0, 0.0))


def _point(p: Vec2 | None, to: _Map) -> Vec2 | None:
    return None if p is None else (to[0][0] * p[0] + to[0][1] * p[1], to[1][0] * p[0] + to[1][1] * p[1])


def _mapped(profile: Profile, to: _Map, *, flips: bool) -> Profile:
    (a, b), (c, d) = to

    def ring(points: tuple[Vec2, ...]) -> tuple[Vec2, ...]:
        mapped = tuple((a * x + b * y, c * x + d * y) for x, y in points)
        return tuple(reversed(mapped)) if flips else mapped

    circles = tuple(replace(k, x=a * k.x + b * k.y, y=c * k.x + d * k.y) for k in profile.circles)
    return Profile(outer=ring(profile.outer), holes=tuple(ring(h) for h in profile.holes), circles=circles)


def turned_over(panel: Panel) -> Panel:
    """Return the same sheet in the same place with its other face as the front."""
    pose = replace(panel.pose, x=scale(panel.pose.x, -1.0))
    marks = tuple(replace(m, line=tuple((-x, y) for x, y in m.line)) for m in panel.marks)
    return replace(
        panel, pose=pose, datum=1.0 - panel.datum, envelope=_mapped(panel.envelope, _FLIP, flips=True), marks=marks, inside=_point(panel.inside, _FLIP)
    )


def across(panel: Panel) -> Panel:
    """Return the same sheet with its own x and y exchanged, so that its grain runs the other way."""
    pose = replace(panel.pose, x=panel.pose.y, y=scale(panel.pose.x, -1.0))
    marks = tuple(replace(m, line=tuple((y, -x) for x, y in m.line)) for m in panel.marks)
    return replace(panel, pose=pose, envelope=_mapped(panel.envelope, _QUARTER, flips=False), marks=marks, inside=_point(panel.inside, _QUARTER))


@dataclass(frozen=True, slots=True, kw_only=True)
class Tilt:
    """How a sheet stands otherwise than it was arranged, about its own middle [degrees]; spun first, then swung, then tipped."""

    tip: float = 0.0  #: about its own left-right line: its upper edge comes towards who looks at its front
    swing: float = 0.0  #: about its own up-down line: its right edge goes away from who looks at its front
    spin: float = 0.0  #: in its own plane, against the clock

    def __bool__(self) -> bool:
        return bool(self.tip or self.swing or self.spin)

    def of(self, v: Vec3) -> Vec3:
        """Return a direction of the sheet's own frame after the tilt, in the frame as it was."""
        x, y, z = v
        for angle, at in ((self.spin, 2), (self.swing, 1), (self.tip, 0)):
            c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
            if at == 2:
                x, y = c * x - s * y, s * x + c * y
            elif at == 1:
                x, z = c * x + s * z, -s * x + c * z
            else:
                y, z = c * y - s * z, s * y + c * z
        return x, y, z


def tilted(panel: Panel, tilt: Tilt, *, mates: Mapping[str, Panel]) -> Panel:
    """Return a sheet tilted about the middle of its envelope; edges that end at a mate are drawn out, so that they reach it from there too.

    Args:
        mates: all panels by id, as they stand
    """
    x0, y0, x1, y1 = bounds_of(panel.envelope.outer)
    old = panel.pose
    middle: Vec3 = ((x0 + x1) / 2, (y0 + y1) / 2, (panel.low + panel.high) / 2)

    def world(v: Vec3) -> Vec3:
        return add(add(scale(old.x, v[0]), scale(old.y, v[1])), scale(old.normal, v[2]))

    origin = add(old.origin, world(sub(middle, tilt.of(middle))))
    pose = Pose(origin=origin, x=world(tilt.of((1.0, 0.0, 0.0))), y=world(tilt.of((0.0, 1.0, 0.0))))
    return _drawn_out(replace(panel, pose=pose, inside=panel.inside or middle[:2]), mates)


def _drawn_out(panel: Panel, mates: Mapping[str, Panel]) -> Panel:
    """Return a rectangular sheet whose bound edges reach well into their mates; other outlines stay as they are."""
    ring = panel.envelope.outer
    x0, y0, x1, y1 = bounds_of(ring)
    if len(ring) != 4 or any(x not in (x0, x1) or y not in (y0, y1) for x, y in ring):
        return panel
    assert panel.inside is not None
    inside, more = panel.pose.to_world(panel.inside, (panel.low + panel.high) / 2), max(x1 - x0, y1 - y0)
    for mate in (mates[b.mate] for b in panel.bounds if b.mate in mates):
        n = mate.pose.normal
        ahead = -1.0 if dot(n, sub(inside, mate.pose.origin)) > (mate.low + mate.high) / 2 else 1.0
        u, v = ahead * dot(n, panel.pose.x), ahead * dot(n, panel.pose.y)
        if abs(u) >= abs(v):
            x0, x1 = (x0, x1 + more) if u > 0 else (x0 - more, x1)
        else:
            y0, y1 = (y0, y1 + more) if v > 0 else (y0 - more, y1)
    return replace(panel, envelope=replace(panel.envelope, outer=rectangle(x0, y0, x1=x1, y1=y1).outer))


def mirrored(panel: Panel, normal: Vec3, *, about: Mm) -> Panel:
    """Return the mirror image of a sheet at a plane; its show face becomes the mirrored one."""

    def direction(v: Vec3) -> Vec3:
        return sub(v, scale(normal, 2 * dot(v, normal)))

    origin = sub(panel.pose.origin, scale(normal, 2 * (dot(panel.pose.origin, normal) - about)))
    # A mirrored right-handed frame is left-handed: x is turned round, and the outline with it.
    pose = Pose(origin=origin, x=scale(direction(panel.pose.x), -1.0), y=direction(panel.pose.y))
    marks = tuple(replace(m, line=tuple((-x, y) for x, y in m.line)) for m in panel.marks)
    return replace(panel, pose=pose, envelope=_mapped(panel.envelope, _FLIP, flips=True), marks=marks, inside=_point(panel.inside, _FLIP))
