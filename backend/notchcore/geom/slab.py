"""Slabs: flat parts with thickness in space, and their meshes for independent checks.

Pose   where a panel's own plane lies: origin, x axis, y axis; the normal is x cross y
Slab   a profile between two heights along that normal
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from typing import Any

from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, merged, pieces
from notchcore.geom.profile import Profile, Ring, area_of, polygon_of, profile_of, ring_of
from notchcore.geom.vectors import Vec2, Vec3, add, cross, dot, scale, sub
from notchcore.tolerance import EXPORT_GRID
from notchcore.units import Mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Pose:
    """A plane in space; `x` and `y` are unit vectors at right angles."""

    origin: Vec3
    x: Vec3
    y: Vec3

    @property
    def normal(self) -> Vec3:
        return cross(self.x, self.y)

    def to_world(self, p: Vec2, height: Mm = 0.0) -> Vec3:
        return add(add(self.origin, scale(self.x, p[0])), add(scale(self.y, p[1]), scale(self.normal, height)))

    def to_plane(self, w: Vec3) -> Vec2:
        d = sub(w, self.origin)
        return dot(d, self.x), dot(d, self.y)


@dataclass(frozen=True, slots=True, kw_only=True)
class Slab:
    """A flat part in space: the profile, extruded from height `low` to `high` [mm] along the pose's normal."""

    profile: Profile
    pose: Pose
    low: Mm
    high: Mm


Box = tuple[float, float, float, float, float, float]


def box_of(slab: Slab) -> Box:
    """Return the axis-parallel box of a slab: least x, y, z, greatest x, y, z [mm]."""
    low, high = [], []
    pose, normal = slab.pose, slab.pose.normal
    for k in range(3):
        a, b = pose.x[k], pose.y[k]
        flat = [a * x + b * y for x, y in slab.profile.outer]
        thick = (normal[k] * slab.low, normal[k] * slab.high)
        low.append(pose.origin[k] + min(flat) + min(thick))
        high.append(pose.origin[k] + max(flat) + max(thick))
    return (low[0], low[1], low[2], high[0], high[1], high[2])


def corners_of(slab: Slab) -> list[Vec3]:
    """Return the eight corners of the smallest box in the slab's own directions that holds it."""
    xs, ys = [p[0] for p in slab.profile.outer], [p[1] for p in slab.profile.outer]
    return [slab.pose.to_world((x, y), h) for x in (min(xs), max(xs)) for y in (min(ys), max(ys)) for h in (slab.low, slab.high)]


def boxes_touch(a: Box, b: Box, *, reach: Mm) -> bool:
    """Tell whether two boxes come nearer than `reach` along every axis [mm]; a negative reach asks for an overlap."""
    a0, a1, a2, a3, a4, a5 = a
    b0, b1, b2, b3, b4, b5 = b
    return a0 < b3 + reach and b0 < a3 + reach and a1 < b4 + reach and b1 < a4 + reach and a2 < b5 + reach and b2 < a5 + reach


def _ccw(ring: Ring, *, wanted: bool) -> list[Vec2]:
    return list(ring) if (area_of(ring) > 0) is wanted else list(reversed(ring))


@lru_cache(maxsize=2048)
def mesh_of(slab: Slab) -> Any:
    """Return the slab as a manifold3d solid."""
    import manifold3d as m3
    import numpy as np

    rings = [_ccw(slab.profile.outer, wanted=True), *(_ccw(h, wanted=False) for h in slab.profile.holes)]
    flat = m3.Manifold.extrude(m3.CrossSection(rings, m3.FillRule.Positive), slab.high - slab.low)
    n = slab.pose.normal
    origin = add(slab.pose.origin, scale(n, slab.low))
    return flat.transform(np.column_stack([slab.pose.x, slab.pose.y, n, origin]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Triangles:
    """A closed surface in space [mm]; faces turn counter-clockwise seen from outside."""

    points: tuple[Vec3, ...]
    faces: tuple[tuple[int, int, int], ...]


def triangles_of(slab: Slab) -> Triangles:
    """Return the surface of a slab as triangles, its outline on the grid of files: other programs stumble over smaller steps."""
    from shapely import set_precision

    whole = max(pieces(set_precision(polygon_of(slab.profile), EXPORT_GRID)), key=lambda p: p.area)
    mesh = mesh_of(replace(slab, profile=profile_of(whole))).to_mesh64()
    return Triangles(
        points=tuple((float(x), float(y), float(z)) for x, y, z in mesh.vert_properties[:, :3]),
        faces=tuple((int(a), int(b), int(c)) for a, b, c in mesh.tri_verts),
    )


def shrunk(slab: Slab, by: Mm) -> Slab | None:
    """Return the slab smaller by `by` on every face, None when nothing is left."""
    inner = pieces(mitred(polygon_of(slab.profile), -by))
    if not inner or slab.high - slab.low <= 2 * by:
        return None
    largest = max(inner, key=lambda p: p.area)
    return Slab(profile=profile_of(largest), pose=slab.pose, low=slab.low + by, high=slab.high - by)


def common_volume(a: Slab, b: Slab) -> float:
    """Return the volume that two slabs share [mm3], by mesh boolean."""
    return float((mesh_of(a) ^ mesh_of(b)).volume())


def extent_of_common(slabs: tuple[Slab, ...], direction: Vec3, *, origin: Vec3) -> tuple[Mm, Mm] | None:
    """Return the range that the common part of several slabs takes along a direction; None when they share nothing."""
    solid = mesh_of(slabs[0])
    for other in slabs[1:]:
        solid = solid ^ mesh_of(other)
    if solid.volume() < 1e-3:
        return None
    along = [dot(sub((float(v[0]), float(v[1]), float(v[2])), origin), direction) for v in solid.to_mesh64().vert_properties]
    return min(along), max(along)


def swept_flat(shape: Polygon, way: Vec2) -> Polygon:
    """Return what a flat shape passes over when it moves straight within its plane."""
    dx, dy = way
    rings = [r for g in (shape.exterior, *shape.interiors) for r in ring_edges(ring_of(g))]
    trails = [Polygon([a, b, (b[0] + dx, b[1] + dy), (a[0] + dx, a[1] + dy)]) for a, b in rings]
    return max(pieces(merged([shape, *(t for t in trails if t.area > 1e-9)])), key=lambda p: p.area)


def ring_edges(ring: Ring) -> list[tuple[Vec2, Vec2]]:
    """Return the edges of a ring, the last one back to its start."""
    return list(pairwise((*ring, ring[0])))
