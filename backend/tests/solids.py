"""Solids swept straight through space, as meshes: the slow and independent way to tell whether something is in the way."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Any

import manifold3d as m3
import numpy as np
from shapely import constrained_delaunay_triangles

from notchcore.geom.planar import pieces
from notchcore.geom.profile import polygon_of, profile_of
from notchcore.geom.slab import Slab, mesh_of, swept_flat
from notchcore.geom.vectors import Vec3, add, dot, scale
from notchcore.units import Mm

FLATWISE = 1e-9  # a direction this near to a plane or its normal lies in it


def _oblique(slab: Slab, direction: Vec3) -> bool:
    rise = abs(dot(direction, slab.pose.normal))
    return FLATWISE <= rise <= 1 - FLATWISE


@lru_cache(maxsize=512)
def _swept(mover: Slab, direction: Vec3, distance: Mm) -> Any:
    """Return the solid that a slab passes through when it moves straight.

    Along its own plane or normal the sweep is an extrusion; else it is put together from triangles.
    """
    rise = dot(direction, mover.pose.normal)
    if abs(abs(rise) - 1) < FLATWISE:
        low, high = (mover.low, mover.high + distance) if rise > 0 else (mover.low - distance, mover.high)
        return mesh_of(replace(mover, low=low, high=high))
    if abs(rise) < FLATWISE:
        way = (dot(direction, mover.pose.x) * distance, dot(direction, mover.pose.y) * distance)
        return mesh_of(replace(mover, profile=profile_of(swept_flat(polygon_of(mover.profile), way))))
    solids = []
    for tri in pieces(constrained_delaunay_triangles(polygon_of(mover.profile))):
        base = [mover.pose.to_world(p, h) for p in list(tri.exterior.coords)[:3] for h in (mover.low, mover.high)]
        solids.append(m3.Manifold.hull_points(np.array(base + [add(p, scale(direction, distance)) for p in base])))
    return m3.Manifold.batch_boolean(solids, m3.OpType.Add)


def swept_hits(mover: Slab, direction: Vec3, distance: Mm, other: Slab) -> bool:
    """Tell whether a slab that moves straight by `distance` hits another (mesh route; exact for any direction)."""
    if _oblique(mover, direction) and not _oblique(other, direction):
        mover, other, direction = other, mover, scale(direction, -1.0)
    return bool((_swept(mover, direction, distance) ^ mesh_of(other)).volume() > 1e-3)


def union_volume(slabs: list[Slab]) -> float:
    """Return the volume of the union of slabs [mm3]."""
    return float(m3.Manifold.batch_boolean([mesh_of(s) for s in slabs], m3.OpType.Add).volume())
