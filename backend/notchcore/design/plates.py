"""Plates: sheets that lie on a face of another panel, or stand off from it on spacers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.outlines import REACH
from notchcore.design.panel import Panel
from notchcore.errors import require
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.geom.vectors import Vec2
from notchcore.measure.stock import Stock
from notchcore.units import Mm

LEAST: Mm = 0.1
LEAST_SPACER: Mm = 3.0
MOST_LAYERS = 20
SPACER = "-spacer-"  #: between a plate's name and the number of a spacer
LENGTHS = {"x": "From its left edge", "y": "From its lower edge", "width": "Width", "height": "Height"}
OF_SPACERS = {"spacer_across": "Diameter of the spacers", "spacer_inset": "From the plate's edges to the spacers' middles"}


@dataclass(frozen=True, slots=True, kw_only=True)
class OnFace:
    """A rectangle on the front or back face of another panel [mm]; with round spacers under its corners where there are layers of them."""

    kind: Literal["on_face"] = "on_face"
    id: str
    label: str
    stock: str
    host: str
    back: bool = False
    from_corner: bool = False  #: x and y count from the lower left corner of what is seen of the host; else from its own plane's origin
    x: Mm = 0.0
    y: Mm = 0.0
    width: Mm = 40.0
    height: Mm = 30.0
    layers: int = 0  #: of spacers between the two
    spacer_across: Mm = 16.0
    spacer_inset: Mm = 16.0

    def __post_init__(self) -> None:
        for name in ("x", "y"):
            require(name, getattr(self, name), least=-REACH, most=REACH)
        for name in ("width", "height"):
            require(name, getattr(self, name), least=LEAST, most=REACH)
        require("layers", self.layers, least=0, most=MOST_LAYERS, unit="")
        require(OF_SPACERS["spacer_across"], self.spacer_across, least=LEAST_SPACER, most=REACH)
        require(OF_SPACERS["spacer_inset"], self.spacer_inset, least=LEAST, most=REACH)

    @property
    def mates(self) -> tuple[str, ...]:
        return (self.host,)

    @property
    def lengths(self) -> Mapping[str, str]:
        return {**LENGTHS, **OF_SPACERS} if self.layers else LENGTHS

    def scaled(self, k: float) -> OnFace:
        return replace(self, **{name: getattr(self, name) * k for name in (*LENGTHS, *OF_SPACERS)})


def plate(item: OnFace, panels: Mapping[str, Panel], *, stocks: Mapping[str, Stock], chosen: Mapping[str, str], corner: Vec2) -> list[Panel]:
    """Return the plate, then its spacers, layer by layer; nothing when its host is gone.

    Args:
        chosen: stocks that a person chose for single panels; a layer is as high as the thickest of its spacers
        corner: the lower left corner of what is seen of the host, in the host's plane, from which a place may count
    """
    host, stock = panels.get(item.host), stocks.get(item.stock)
    if host is None or stock is None:
        return []
    face, datum = (host.low, 1.0) if item.back else (host.high, 0.0)
    up = -1.0 if item.back else 1.0

    def sheet(name: str, label: str, *, own: Stock, off: Mm, outline: Profile) -> Panel:
        # The front of what is added looks the same way as its host's; its plane is where it touches what it lies on.
        pose = replace(host.pose, origin=host.pose.to_world((0.0, 0.0), face + up * off))
        return Panel(id=name, label=label, stock=own.id, envelope=outline, pose=pose, t=own.t, layout_t=own.layout_t, datum=datum)

    x, y = (item.x + corner[0], item.y + corner[1]) if item.from_corner else (item.x, item.y)
    inset = item.spacer_inset
    places = sorted({(u, v) for u in (x + inset, x + item.width - inset) for v in (y + inset, y + item.height - inset)})
    off, spacers = 0.0, list[Panel]()
    for _ in range(item.layers):
        layer: list[Panel] = []
        for u, v in places:
            name = f"{item.id}{SPACER}{len(spacers) + len(layer) + 1}"
            own = stocks.get(chosen.get(name, ""), stock)
            layer.append(sheet(name, spacer_label(item.label, name), own=own, off=off, outline=_disc(u, v, radius=item.spacer_across / 2)))
        off += max(p.t for p in layer)
        spacers += layer
    return [sheet(item.id, item.label, own=stock, off=off, outline=rectangle(x, y, x1=x + item.width, y1=y + item.height)), *spacers]


def _disc(x: Mm, y: Mm, *, radius: Mm) -> Profile:
    circle = Circle(x=x, y=y, radius=radius)
    return Profile(outer=circle_ring(circle), circles=(circle,))


def spacer_label(plate: str, spacer: str) -> str:
    """Return what a spacer is called, after its plate and its own number."""
    return f"{plate}, spacer {spacer.rpartition(SPACER)[2]}"


def of_plate(panel: str) -> str:
    """Return the plate under which a panel is a spacer; its own name where it is none."""
    return panel.rpartition(SPACER)[0] or panel
