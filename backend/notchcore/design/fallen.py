"""Pieces that fall out of openings and are parts themselves: which of them the beam really frees when it cuts the opening.

A piece is freed by its host only while an opening of the finished host is the piece's outline, one beam wider all round; where a
joint, a slope or a division changed the opening, or a person moved or turned the piece, it is a part like any other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from notchcore.design.assembly import Part
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.profile import Profile, Ring
from notchcore.geom.rigid import Rigid
from notchcore.geom.vectors import dot
from notchcore.units import Mm

SAME: Mm = 0.02  # an opening and the piece in it agree so far
LEVEL: Mm = 0.01  # faces lie in one plane


def in_plane_of(piece: Part, host: Part) -> Rigid | None:
    """Return the move from a part's plane to that of another in the same sheet, the same face up; None for another sheet."""
    if dot(piece.pose.normal, host.pose.normal) < 1 - 1e-6:
        return None
    height = dot(host.pose.normal, tuple(p - h for p, h in zip(piece.pose.origin, host.pose.origin, strict=True)))  # type: ignore[arg-type]
    if abs(height + piece.low - host.low) > LEVEL or abs(height + piece.high - host.high) > LEVEL:
        return None
    (x, y), (ax, ay) = (host.pose.to_plane(piece.pose.to_world(p)) for p in ((0.0, 0.0), (1.0, 0.0)))
    return Rigid(cos=ax - x, sin=ay - y, x=x, y=y)


def opening_of(host: Part, piece: Part) -> int | None:
    """Return which hole of its host a piece lies in, None for none."""
    to = in_plane_of(piece, host)
    if to is None:
        return None
    spot = to(piece_spot(piece))
    return next((k for k, hole in enumerate(host.profile.holes) if _holds(hole, spot)), None)


def piece_spot(piece: Part) -> tuple[float, float]:
    """Return a place that surely lies in a piece, in its own plane [mm]."""
    p = Polygon(piece.profile.outer).representative_point()
    return float(p.x), float(p.y)


def _holds(hole: Ring, spot: tuple[float, float]) -> bool:
    return bool(Polygon(hole).contains(Point(spot)))


def frees(host: Part, piece: Part, *, kerf: Mm) -> bool:
    """Tell whether the piece is what a beam of width `kerf` frees when it cuts an opening of its host."""
    k, to = opening_of(host, piece), in_plane_of(piece, host)
    if k is None or to is None or host.stock != piece.stock:
        return False
    left = mitred(Polygon(host.profile.holes[k]), -kerf)
    own = Polygon(tuple(map(to, piece.profile.outer)))
    return bool(left.buffer(SAME).covers(own) and own.buffer(SAME).covers(left))


def misnamed(parts: Sequence[Part], kerfs: dict[str, Mm]) -> dict[str, str]:
    """Return for each piece that is said to fall from a panel the part that frees it: another one after a division, "" for none."""
    found: dict[str, str] = {}
    for piece in (p for p in parts if p.falls_from):
        hosts = [h for h in parts if h.id != piece.id and piece.falls_from in (h.id, h.panel)]
        found[piece.id] = next((h.id for h in hosts if frees(h, piece, kerf=kerfs[piece.stock])), "")
    return found


def fallen_on(host: str, parts: Sequence[Part]) -> tuple[str, ...]:
    """Return the parts that fall out of a part, and out of those in turn, by id."""
    own = [p.id for p in parts if p.falls_from == host]
    return tuple(own + [deeper for p in own for deeper in fallen_on(p, parts)])


def kept_whole(part: Part, parts: Sequence[Part]) -> Profile:
    """Return a part's profile for the packing: openings whose piece is a part are not free for others."""
    taken = {opening_of(part, p) for p in parts if p.falls_from == part.id}
    if not taken - {None}:
        return part.profile
    return replace(part.profile, holes=tuple(h for k, h in enumerate(part.profile.holes) if k not in taken))


def falling_out(part: Part, parts: Sequence[Part]) -> dict[str, Ring]:
    """Return the openings of a part whose pieces are parts, by the piece: where it lies until it is cut."""
    at = {p.id: opening_of(part, p) for p in parts if p.falls_from == part.id}
    return {piece: part.profile.holes[k] for piece, k in at.items() if k is not None}
