"""Uprights: sheets that stand on the face of another panel, on a line of it, and are joined to it there."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.outlines import REACH
from notchcore.design.panel import Bound, Panel, Reach, resolved
from notchcore.errors import require
from notchcore.geom.planar import Point
from notchcore.geom.profile import Profile, polygon_of
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, add, cross, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LEAST: Mm = 1.0
STEEPEST = 60.0  # [degrees] that an upright leans
LENGTHS = {"x": "From its left edge", "y": "From its lower edge", "width": "Width at its foot", "upper": "Width at its other end", "height": "Height"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Upright:
    """A sheet whose middle plane meets its host's face in a line [mm, degrees]: legs, fins, dividers, posts."""

    kind: Literal["upright"] = "upright"
    id: str
    label: str
    stock: str
    host: str
    back: bool = False  #: it stands on the host's back face
    x: Mm = 0.0  #: the middle of its foot, from the lower left corner of what is seen of the host
    y: Mm = 0.0
    along: float = 0.0  #: which way its foot runs, against the clock from the host's own right
    width: Mm = 60.0
    upper: Mm = 60.0
    height: Mm = 60.0  #: along its own face, from the face of the host
    lean: float = 0.0  #: how far it leans towards its front

    def __post_init__(self) -> None:
        for name, label in LENGTHS.items():
            require(label, getattr(self, name), least=-REACH if name in "xy" else LEAST, most=REACH)
        require("the angle", self.lean, least=-STEEPEST, most=STEEPEST, unit="°")
        require("the angle", self.along, least=-360.0, most=360.0, unit="°")

    @property
    def mates(self) -> tuple[str, ...]:
        return (self.host,)

    @property
    def lengths(self) -> Mapping[str, str]:
        return LENGTHS

    def scaled(self, k: float) -> Upright:
        return replace(self, **{name: getattr(self, name) * k for name in LENGTHS})


def upright(item: Upright, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock], corner: Vec2) -> Panel | None:
    """Return the sheet; None when its host is gone, or ends before the middle of its foot.

    Args:
        corner: the lower left corner of what is seen of the host, in the host's plane
    """
    host, stock = panels.get(item.host), stocks.get(item.stock)
    if host is None or stock is None:
        return None
    host = resolved(host, panels)
    at = (item.x + corner[0], item.y + corner[1])
    if not polygon_of(host.envelope).contains(Point(at)):
        return None
    turn, lean = math.radians(item.along), math.radians(item.lean)
    foot = add(scale(host.pose.x, math.cos(turn)), scale(host.pose.y, math.sin(turn)))
    up = scale(host.pose.normal, -1.0 if item.back else 1.0)
    front = cross(foot, up)
    rising = add(scale(up, math.cos(lean)), scale(front, math.sin(lean)))
    # As far down as its bound may want it: through the host, and what a leaning sheet's faces reach farther than its middle.
    below = (2 * host.t + stock.t) / math.cos(lean) + 1.0
    half, top = item.width / 2, item.upper / 2
    outline = ((-half, -below), (half, -below), (half, 0.0), (top, item.height), (-top, item.height), (-half, 0.0))
    origin = host.pose.to_world(at, host.low if item.back else host.high)
    return Panel(
        id=item.id,
        label=item.label,
        stock=stock.id,
        envelope=Profile(outer=outline),
        pose=Pose(origin=origin, x=foot, y=rising),
        t=stock.t,
        layout_t=stock.layout_t,
        datum=0.5,
        bounds=(Bound(mate=host.id, reach=Reach.WITHIN),),
        inside=(0.0, item.height / 2),
    )
