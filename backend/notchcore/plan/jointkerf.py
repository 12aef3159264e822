"""Kerf corrected in joints only: outlines stay on the line, and slots, laps and tabs come out with their widths all the same.

The edges of a joint's gaps move by half the kerf into the gap, those of its tongues by as much to either free side; a piece that drops into an
opening grows all round. Everything else is cut where it is drawn, so the part comes out half the kerf smaller on every other side.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from notchcore.design.assembly import Assembly, JointFeature, Part
from notchcore.geom.contours import Contour, contour_of, grown_ring
from notchcore.geom.offset import mitred
from notchcore.geom.planar import LinearRing, Point, Polygon, merged, pieces
from notchcore.geom.profile import Ring, ring_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

BESIDE: Mm = 0.02  # edges of a feature lie so near to what it says
LEAN = 0.1  # of its depth that a leaning flank lies off at most half way
HAIR: Mm = 1e-5  # cracks of float noise between a strip and the part
MOST_OF = 0.3  # of a hole that a joint's opening covers: then the hole is that opening


@dataclass(frozen=True, slots=True)
class DropIns:
    """Pieces that lie in openings of others, and what of each host they fill, in the host's plane."""

    pieces: frozenset[str]
    filled: Mapping[str, tuple[Polygon, ...]]


def drop_ins(assembly: Assembly) -> DropIns:
    """Return the pieces that are joints all round: also those that fall out of their opening, for a spare of one is cut for itself."""
    parts = {p.id: p for p in assembly.parts}
    inside: set[str] = set()
    filled: defaultdict[str, list[Polygon]] = defaultdict(list)
    for m in assembly.meetings:
        a, b = parts.get(m.a), parts.get(m.b)
        if m.kind != "inset" or a is None or b is None:
            continue
        host, piece = (a, b) if Polygon(a.profile.outer).area > Polygon(b.profile.outer).area else (b, a)
        inside.add(piece.id)
        seen = [host.pose.to_plane(piece.pose.to_world(p)) for p in piece.profile.outer]
        filled[host.id].append(Polygon(seen))
    return DropIns(frozenset(inside), {k: tuple(v) for k, v in filled.items()})


def is_joints(hole: Ring, part: Part, *, filled: tuple[Polygon, ...] = ()) -> bool:
    """Tell whether a hole of a part is the opening of a joint, or is filled by a piece."""
    shape = Polygon(hole)
    if any(shape.intersection(p).area > MOST_OF * shape.area for p in filled):
        return True
    return any(shape.intersection(Polygon(f.corners)).area > MOST_OF * shape.area for f in part.features if f.meeting and f.kind.is_gap)


def _middle(f: JointFeature) -> Vec2:
    return sum(c[0] for c in f.corners) / 4, sum(c[1] for c in f.corners) / 4


def _zone(f: JointFeature, edge: LinearRing, *, kerf: Mm) -> Polygon:
    """Return where the edges of a feature are corrected: the gap itself, or the tongue and half a beam to either side.

    The flanks of a puzzle head lean: they are looked for as far as they lean.
    """
    (ax, ay), (mx, my) = f.axis, _middle(f)
    bx, by = -ay, ax
    wide = max(abs((c[0] - mx) * ax + (c[1] - my) * ay) for c in f.corners)
    long = max(abs((c[0] - mx) * bx + (c[1] - my) * by) for c in f.corners)

    def at(u: Mm, v: Mm) -> Vec2:
        return mx + ax * u + bx * v, my + ay * u + by * v

    square = any(edge.distance(Point(at(side * wide, 0.0))) < BESIDE and edge.distance(Point(at(side * wide, long / 2))) < BESIDE for side in (-1.0, 1.0))
    lean = 0.0 if square else LEAN * 2 * long
    reach = wide + lean + (BESIDE if f.kind.is_gap else kerf / 2)
    deep = long + (BESIDE if f.kind.is_gap else 0.0)
    return Polygon([at(-reach, -deep), at(reach, -deep), at(reach, deep), at(-reach, deep)])


def hole_contours(hole: Ring, part: Part, *, kerf: Mm, joined: DropIns) -> list[Contour]:
    """Return the lines of a hole for the beam: shrunk all round where it is a joint's opening, else only along what of a joint opens into it."""
    if is_joints(hole, part, filled=joined.filled.get(part.id, ())):
        return grown_ring(hole, part.profile.circles, by=-kerf / 2)
    shape = Polygon(hole)
    zones = [_zone(f, shape.exterior, kerf=kerf) for f in part.features if f.meeting and f.kind.is_gap and shape.intersects(Polygon(f.corners))]
    if not zones:
        return grown_ring(hole, part.profile.circles, by=0.0)
    rim = shape.difference(mitred(shape, -kerf / 2))
    left = pieces(shape.difference(mitred(rim.intersection(merged(zones)), HAIR)))
    return [contour_of(ring_of(p.exterior), part.profile.circles) for p in left if p.area > kerf**2]


def outer_contours(part: Part, kerf: Mm, *, joined: DropIns) -> list[Contour]:
    """Return the outer lines of a part for the beam, corrected where joints are and nowhere else.

    Args:
        kerf: full width [mm]
    """
    profile = part.profile
    joints = [f for f in part.features if f.meeting]
    if part.id in joined.pieces:
        return grown_ring(profile.outer, profile.circles, by=kerf / 2)
    outline = Polygon(profile.outer)
    around = mitred(outline, kerf / 2).difference(outline)
    zones = merged([_zone(f, outline.exterior, kerf=kerf) for f in joints])
    joined = mitred(mitred(merged([outline, *pieces(around.intersection(zones))]), HAIR), -HAIR)
    whole = max(pieces(joined), key=lambda p: p.area)
    return [contour_of(ring_of(whole.exterior), profile.circles)]
