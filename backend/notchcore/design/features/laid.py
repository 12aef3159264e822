"""Letters and drawings as pieces of their own: set through their panel, set into a pocket of it, or glued on.

Laid     one piece, about its feature's own place
Inside   what stands within a letter that is set through: a piece of the panel's own stock again
Apart    pieces that share a line, neither within the other: each ends a little before it, and nothing holds them but glue
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.design.panel import Panel
from notchcore.design.styles import Style
from notchcore.geom.areas import sharing_lines
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, merged, moved, pieces
from notchcore.geom.profile import Profile, polygon_of, profile_of
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, scale
from notchcore.measure.stock import Stock
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm
from notchcore.words.language import called

SHARED: Mm = 0.05  # how far a piece ends before a line that it shares with another one
LEAST = 0.01  # [mm2] of a piece
MOST_PIECES = 300  # of one drawing


class Lies(StrEnum):
    """How a piece lies in or on its panel."""

    THROUGH = "through"  # in an opening, the faces flush
    POCKET = "pocket"  # in an engraved seat
    ON = "on"  # glued on the face


SEATS = {Lies.POCKET: Style.RECESS, Lies.ON: Style.GLUE}


@dataclass(frozen=True, slots=True, kw_only=True)
class Region:
    """An area of a feature that becomes a piece; a later one lies on top of those before it."""

    area: Polygon
    layer: str  #: whose stock it is cut from
    lies: Lies
    letter: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """A piece, about its feature's own place, seen from the face that it shows."""

    shape: Profile
    lies: Lies
    layer: str = ""
    inside: bool = False  #: within a letter, of the panel's own stock
    apart: bool = False  #: it shares a line with another piece
    number: int = 1
    letter: str = ""
    stock: Stock | None = None  #: None: the panel's own


def taken_apart(regions: Sequence[Region]) -> tuple[list[Profile], list[Laid]]:
    """Return the openings that regions need, and the pieces that they come to, with what stands within those that go through."""
    seen: list[Region] = []
    for k, region in enumerate(regions):
        above = [r.area for r in regions[k + 1 :] if r.layer != region.layer]
        left = region.area.difference(merged(above)) if above else region.area
        seen += [replace(region, area=p) for p in sorted(pieces(left), key=_from_the_left) if p.area > LEAST]
    beside = sharing_lines([r.area for r in seen])
    laid: list[Laid] = []
    for k, region in enumerate(seen):
        for shape in pieces(mitred(region.area, -SHARED)) if k in beside else [region.area]:
            laid.append(Laid(shape=profile_of(shape), lies=region.lies, layer=region.layer, apart=k in beside, number=len(laid) + 1, letter=region.letter))
    through = [r.area for r in seen if r.lies is Lies.THROUGH]
    together = pieces(merged(through)) if through else []
    within = sorted((Polygon(h) for p in together for h in p.interiors), key=_from_the_left)
    loose = [any(seen[k].area.distance(w) < COINCIDENT for k in beside) for w in within]
    laid += [Laid(shape=profile_of(w), lies=Lies.THROUGH, inside=True, apart=a, number=k + 1) for k, (w, a) in enumerate(zip(within, loose, strict=True))]
    return [Profile(outer=profile_of(p).outer) for p in together], laid


def _from_the_left(area: Polygon) -> tuple[float, float]:
    """Return what brings areas into the same order whatever the noise of numbers."""
    x0, y0, _, _ = area.bounds
    return round(x0, 2), round(y0, 2)


def mirrored(piece: Laid) -> Laid:
    """Return the mirror image of a piece."""
    return replace(piece, shape=profile_of(moved(polygon_of(piece.shape), (-1.0, 0.0, 0.0, 1.0, 0.0, 0.0))))


def laid_on(panel: Panel, laid: Sequence[Laid], *, feature: str, called_after: str, at: Vec2, own: bool, behind: bool) -> list[Panel]:
    """Return pieces as panels where they lie.

    Args:
        called_after: what the feature is called
        at: its place on the panel, seen from the front
        own: it is the feature's own panel, not a copy
        behind: they lie on its back, and show that way
    """
    return [_panel(panel, piece, feature=feature, own=own, label=called_after, at=at, behind=behind) for piece in laid]


def _panel(panel: Panel, piece: Laid, *, feature: str, own: bool, label: str, at: Vec2, behind: bool) -> Panel:
    name = feature if own else f"{panel.id}-{feature}"  # a copy of the panel has pieces of its own
    x, y = (-at[0] if behind else at[0]), at[1]
    flush = piece.lies is Lies.THROUGH
    letter = f" ({piece.letter})" if piece.letter and piece.letter != label else ""
    numbered = called("{name}, inside {number}", name=label, number=piece.number) if piece.inside else f"{label} {piece.number}{letter}"
    return replace(
        panel,
        id=f"{name}-{'inside' if piece.inside else 'piece'}-{piece.number}",
        label=numbered,
        stock=piece.stock.id if piece.stock else panel.stock,
        t=piece.stock.t if piece.stock else panel.t,
        layout_t=piece.stock.layout_t if piece.stock else panel.layout_t,
        envelope=profile_of(moved(polygon_of(piece.shape), (1.0, 0.0, 0.0, 1.0, x, y))),
        pose=Pose(
            origin=panel.pose.to_world((0.0, 0.0), panel.low if behind else panel.high),
            x=scale(panel.pose.x, -1.0) if behind else panel.pose.x,
            y=panel.pose.y,
        ),
        datum=1.0 if flush else 0.0,
        rank=0,
        bounds=(),
        inside=None,
        features=(),
        marks=(),
        places=(),
        openings=(),
        folds=(),
        falls_from="",
        loose=piece.apart,
        laid_by=feature,
        seat=SEATS.get(piece.lies),
    )
