"""Panels: sheets placed in space, before any joint is cut.

Envelope   the profile of a panel drawn out to the far face of its mates, so that slabs overlap on purpose
Datum      where the panel's own plane lies in its thickness: 0 its back face, 1 its front face, 0.5 the middle
Rank       who wins where two edges want the same place: the higher rank keeps the corner
Bound      an edge that ends at a mate instead of at a typed number
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.design.assembly import JointFeature, Mark, Opening
from notchcore.design.styles import Style
from notchcore.geom.planar import half_plane, pieces
from notchcore.geom.profile import Profile, area_of, polygon_of, profile_of
from notchcore.geom.slab import Pose, Slab, corners_of
from notchcore.geom.vectors import Vec2, Vec3, dot, sub
from notchcore.measure.fit import Feel
from notchcore.tolerance import COINCIDENT, PARALLEL
from notchcore.units import Mm
from notchcore.words.facts import Kind, Ref


class Reach(StrEnum):
    """How far a bound edge goes into its mate."""

    FLUSH = "flush"  # to the mate's far face, with both faces: at a slant one of them stands out of it
    WITHIN = "within"  # to the mate's far face, with the face that comes to it first: nothing stands out
    NEAR = "near"  # to the mate's near face: it only touches


@dataclass(frozen=True, slots=True, kw_only=True)
class Bound:
    """One edge of a panel ends at a face of its mate, `proud` of it [mm] (negative: short of it)."""

    mate: str
    reach: Reach = Reach.FLUSH
    proud: Mm = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel:
    """A sheet in space, drawn as its envelope."""

    id: str
    label: str
    stock: str  #: stock id
    envelope: Profile
    pose: Pose
    t: Mm  #: effective thickness
    layout_t: Mm  #: the thickness that spaces its fingers and tabs
    datum: float = 0.0
    rank: int = 0
    bounds: tuple[Bound, ...] = ()
    inside: Vec2 | None = None  #: a place that belongs to it, so that bounds know which side to keep; None: the envelope's middle
    loose: bool = False  #: nothing is meant to hold it
    features: tuple[JointFeature, ...] = ()  #: openings with a ledger that belong to no meeting
    marks: tuple[Mark, ...] = ()  #: what is burned on its front face, in its own plane
    places: tuple[str, ...] = ()  #: the sheets glued on it whose places its own marks show
    openings: tuple[Opening, ...] = ()  #: what features took from it
    folds: tuple[tuple[Vec2, Vec2], ...] = ()  #: lines along which it is bent, in its own plane; no tab crosses them
    falls_from: str = ""  #: the panel out of whose opening it falls, cut with it and not again
    piece_of: str = ""  #: the panel that was divided
    feel: Feel | None = None  #: of joints with others of its item, where the item asks for another than the whole; see `joined`
    relief: Mm | None = None  #: in its inner corners, likewise
    laid_by: str = ""  #: the feature that it is a piece of: it meets what it lies in or on, and nothing that crosses it
    copies: int = 1  #: how many of it belong to the thing
    seat: Style | None = None  #: how it lies on the sheet that it is set on, where nothing else is chosen

    @property
    def ref(self) -> Ref:
        """What a sentence calls it."""
        return Ref(Kind.PART, self.id, self.label)

    @property
    def whole(self) -> str:
        """The panel that it is, or is a piece of."""
        return self.piece_of or self.id

    @property
    def low(self) -> Mm:
        return -self.datum * self.t

    @property
    def high(self) -> Mm:
        return self.low + self.t

    def slab(self) -> Slab:
        return Slab(profile=self.envelope, pose=self.pose, low=self.low, high=self.high)


@dataclass(frozen=True, slots=True, kw_only=True)
class MeetingRule:
    """A family's word about a pair of panels."""

    a: str
    b: str
    style: Style


def range_along(panel: Panel, axis: Vec3) -> tuple[Mm, Mm]:
    """Return the range that a panel's envelope takes along a direction."""
    along = [dot(c, axis) for c in corners_of(panel.slab())]
    return min(along), max(along)


def _centre(panel: Panel) -> Vec2:
    xs, ys = [p[0] for p in panel.envelope.outer], [p[1] for p in panel.envelope.outer]
    return (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2


def resolved(panel: Panel, panels: Mapping[str, Panel], *, proud: Mapping[frozenset[str], Mm] | None = None) -> Panel:
    """Return the panel with its bound edges cut to their mates' faces.

    Each bound keeps the half of the envelope on the side where the panel's inside lies. Oblique mates are reached with
    the farther of the panel's two faces, so that nothing falls short, unless it is to end within. A mate that is not there cuts nothing.

    Args:
        proud: how far a person lets edges stand out of their mate, by pair, instead of what the bound says [mm]
    """
    outline = panel.envelope
    if not panel.bounds and area_of(outline.outer) > 0 and all(area_of(h) < 0 for h in outline.holes):
        return panel
    shape = polygon_of(outline)
    for bound in panel.bounds:
        mate = panels.get(bound.mate)
        if mate is None:
            continue
        n = mate.pose.normal
        across = dot(n, panel.pose.normal)
        middle = panel.pose.to_world(panel.inside or _centre(panel), (panel.low + panel.high) / 2)
        side = 1.0 if dot(n, sub(middle, mate.pose.origin)) > (mate.low + mate.high) / 2 else -1.0
        far, near = (mate.low, mate.high) if side > 0 else (mate.high, mate.low)
        out = (proud or {}).get(frozenset((panel.id, bound.mate)), bound.proud)
        face = (near if bound.reach is Reach.NEAR else far) - side * out
        # keep points with side * (n · (x - o)) >= side * face, for at least one of the panel's faces
        gx, gy = dot(n, panel.pose.x), dot(n, panel.pose.y)
        length = (gx**2 + gy**2) ** 0.5
        if length < 1e-9:
            continue  # parallel to its mate: nothing to cut
        offset = dot(n, sub(panel.pose.origin, mate.pose.origin))
        ends = (side * across * panel.low, side * across * panel.high)
        gain = min(ends) if bound.reach is Reach.WITHIN else max(ends)
        limit = (side * offset + gain - side * face) / length
        left = pieces(shape.intersection(half_plane((-side * gx / length, -side * gy / length), limit)))
        if not left:
            continue
        shape = max(left, key=lambda p: p.area)
    return replace(panel, envelope=profile_of(shape, circles=panel.envelope.circles))


def across_at(panels: Mapping[str, Panel], way: Vec3, *, end: Mm, others: tuple[str, ...]) -> str:
    """Return the panel that stands across a direction with its outer face where a stretch ends; empty when there is none."""
    for p in panels.values():
        if p.id in others or abs(abs(dot(p.pose.normal, way)) - 1) > PARALLEL:
            continue
        if any(abs(face - end) < COINCIDENT for face in range_along(resolved(p, panels), way)):
            return p.id
    return ""
