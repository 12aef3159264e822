"""A sheet turned over, turned in its plane, or mirrored: pose, outline and marks go along."""

from __future__ import annotations

from dataclasses import replace

from notchcore.design.panel import Panel
from notchcore.geom.profile import Profile
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, dot, scale, sub
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
    return replace(panel, pose=pose, datum=1.0 - panel.datum, envelope=_mapped(panel.envelope, _FLIP, flips=True), marks=marks,
                   inside=_point(panel.inside, _FLIP))  # fmt: skip


def across(panel: Panel) -> Panel:
    """Return the same sheet with its own x and y exchanged, so that its grain runs the other way."""
    pose = replace(panel.pose, x=panel.pose.y, y=scale(panel.pose.x, -1.0))
    marks = tuple(replace(m, line=tuple((y, -x) for x, y in m.line)) for m in panel.marks)
    return replace(panel, pose=pose, envelope=_mapped(panel.envelope, _QUARTER, flips=False), marks=marks, inside=_point(panel.inside, _QUARTER))


def mirrored(panel: Panel, normal: Vec3, about: Mm) -> Panel:
    """Return the mirror image of a sheet at a plane; its show face becomes the mirrored one."""

    def direction(v: Vec3) -> Vec3:
        return sub(v, scale(normal, 2 * dot(v, normal)))

    origin = sub(panel.pose.origin, scale(normal, 2 * (dot(panel.pose.origin, normal) - about)))
    # A mirrored right-handed frame is left-handed: x is turned round, and the outline with it.
    pose = Pose(origin=origin, x=scale(direction(panel.pose.x), -1.0), y=direction(panel.pose.y))
    marks = tuple(replace(m, line=tuple((-x, y) for x, y in m.line)) for m in panel.marks)
    return replace(panel, pose=pose, envelope=_mapped(panel.envelope, _FLIP, flips=True), marks=marks, inside=_point(panel.inside, _FLIP))
