"""Kerf corrected in joints only: outlines stay on the line, and slots, laps and tabs come out with their widths all the same.

Where a gap of a joint has material beside it, half the kerf is added there; a tab grows by half the kerf to either free side; a piece that drops
into an opening grows all round. Everything else is cut where it is drawn, so the part comes out half the kerf smaller on every other side.
"""

from __future__ import annotations

from collections.abc import Iterator

from notchcore.design.assembly import FeatureKind, JointFeature, Part
from notchcore.geom.contours import Contour, contour_of, grown_ring
from notchcore.geom.planar import Point, Polygon, merged, pieces
from notchcore.geom.profile import Ring, polygon_of, ring_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

BESIDE: Mm = 0.02  # where material is looked for beside a feature
HAIR: Mm = 1e-5  # cracks of float noise between a strip and the part
MOST_OF = 0.3  # of a hole that a joint's opening covers: then the hole is that opening


def is_joints(hole: Ring, part: Part) -> bool:
    """Tell whether a hole of a part is the opening of a joint."""
    shape = Polygon(hole)
    return any(shape.intersection(Polygon(f.corners)).area > MOST_OF * shape.area for f in part.features if f.meeting and f.kind.is_gap)


def _sides(f: JointFeature) -> Iterator[tuple[Vec2, Vec2, Vec2]]:
    """Yield both sides of a feature across its width: their ends, and the direction out of the feature."""
    (ax, ay), (mx, my) = f.axis, (sum(c[k] for c in f.corners) / 4 for k in (0, 1))
    along = [((c[0] - mx) * ax + (c[1] - my) * ay, c) for c in f.corners]
    for sign in (-1.0, 1.0):
        a, b = (c for _, c in sorted(along, key=lambda ac: sign * ac[0], reverse=True)[:2])
        yield a, b, (sign * ax, sign * ay)


def _strip(a: Vec2, b: Vec2, way: Vec2, by: Mm) -> Polygon:
    """Return what lies between a side and the same side moved, and a hair of what is behind it, so that the two join."""
    back, on = -BESIDE, by
    return Polygon([(p[0] + way[0] * d, p[1] + way[1] * d) for p, d in ((a, back), (b, back), (b, on), (a, on))]).buffer(0)


def _has_material(solid: Polygon, a: Vec2, b: Vec2, way: Vec2) -> bool:
    middle = (a[0] + b[0]) / 2 + way[0] * BESIDE, (a[1] + b[1]) / 2 + way[1] * BESIDE
    return bool(solid.contains(Point(middle)))


def outer_contours(part: Part, kerf: Mm) -> list[Contour]:
    """Return the outer lines of a part for the beam, corrected where joints are and nowhere else.

    Args:
        kerf: full width [mm]
    """
    profile = part.profile
    joints = [f for f in part.features if f.meeting]
    if any(f.kind is FeatureKind.PIECE for f in joints):
        return grown_ring(profile.outer, profile.circles, kerf / 2)
    solid = polygon_of(profile)
    strips = []
    for f in joints:
        for a, b, out in _sides(f):
            if f.kind.is_gap and _has_material(solid, a, b, out):
                strips.append(_strip(a, b, (-out[0], -out[1]), kerf / 2))
            elif f.kind is FeatureKind.TAB and not _has_material(solid, a, b, out):
                strips.append(_strip(a, b, out, kerf / 2))
    joined = merged([Polygon(profile.outer), *strips]).buffer(HAIR, join_style="mitre").buffer(-HAIR, join_style="mitre")
    whole = max(pieces(joined), key=lambda p: p.area)
    return [contour_of(ring_of(whole.exterior), profile.circles)]
