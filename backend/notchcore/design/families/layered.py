"""The layered stack: flat sheets glued on each other without tabs, each with its outline scored on the one below; or one sheet alone.

The lowest sheet's lower face is z = 0, its lower left corner the origin; x and y lie in the sheets.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, lying
from notchcore.design.families.outlines import rounded
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, count, length
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

ROLES = (PanelGroup(id="back", label="Back"), PanelGroup(id="middle", label="Middle layers"), PanelGroup(id="face", label="Face"))


@dataclass(frozen=True, slots=True, kw_only=True)
class LayeredNumbers:
    """The numbers of a layered stack [mm]."""

    family: Literal["layered"] = "layered"
    width: Mm = length(240.0, "Width", least=SMALLEST)
    height: Mm = length(120.0, "Height", least=SMALLEST)
    corner: Mm = length(12.0, "Round corners, radius")
    layers: int = count(3, "Layers", least=1, most=30, group="Layers")
    step: Mm = length(6.0, "Each layer smaller all round by", group="Layers")
    border: Mm = length(0.0, "Window in all but the back, border", none_at_zero=True, least=2.0, group="Layers", says="0: no window")
    dowels: int = count(0, "Dowel holes through all layers", least=0, most=8, group="Dowels")
    dowel: Mm = length(4.0, "Dowel, diameter", least=1.0, most=40.0, scales=False, group="Dowels")

    def __post_init__(self) -> None:
        check_numbers(self)


def _dowel_places(n: LayeredNumbers) -> list[tuple[Mm, Mm]]:
    """Return dowels along the middle of the border, or across the middle of a full sheet."""
    inset = (n.layers - 1) * n.step
    at = inset + n.border / 2 if n.border else inset + max(2 * n.dowel, 6.0)
    corners = [(at, at), (n.width - at, n.height - at), (n.width - at, at), (at, n.height - at)]
    middles = [(n.width / 2, at), (n.width / 2, n.height - at), (at, n.height / 2), (n.width - at, n.height / 2)]
    return [*corners, *middles][: n.dowels]


def arrange(n: LayeredNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the sheets of a layered stack, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    _check(n, a)
    if a.impossible:
        return a.done()
    z = 0.0
    for i in range(n.layers):
        role = "back" if i == 0 else "face" if i == n.layers - 1 else "middle"
        label = "Sheet" if n.layers == 1 else "Back" if i == 0 else "Face" if i == n.layers - 1 else f"Layer {i + 1}"
        a.add(f"layer-{i + 1}", label, role=role, envelope=_sheet(n, i), pose=lying(z), datum=0.0, rank=1)
        z += a.t(role)
    a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
    a.shows("height", (n.width, 0, 0), end=(n.width, n.height, 0))
    if n.layers > 1:
        a.shows("step", (0, n.height / 2, z), end=((n.layers - 1) * n.step, n.height / 2, z))
    a.shows("layers", (0, 0, 0), end=(0, 0, z))
    inset = (n.layers - 1) * n.step
    if n.border:
        a.shows("border", (inset, n.height / 2, z), end=(inset + n.border, n.height / 2, z))
    a.fact("Thickness of all layers", z)
    return a.done()


def _sheet(n: LayeredNumbers, i: int) -> Profile:
    inset = i * n.step
    outer = rounded(inset, inset, x1=n.width - inset, y1=n.height - inset, radius=max(n.corner - inset, 0.0))
    holes, circles = [], list(outer.circles)
    if n.border and i:
        deep = (n.layers - 1) * n.step + n.border
        window = rounded(deep, deep, x1=n.width - deep, y1=n.height - deep, radius=max(n.corner - deep, 1.0))
        holes.append(tuple(reversed(window.outer)))
        circles += window.circles
    for x, y in _dowel_places(n):
        circle = Circle(x=x, y=y, radius=n.dowel / 2)
        holes.append(tuple(reversed(circle_ring(circle))))
        circles.append(circle)
    return Profile(outer=outer.outer, holes=tuple(holes), circles=tuple(circles))


def _check(n: LayeredNumbers, a: Arranger) -> None:
    web = max(a.web("back"), a.web("middle"), a.web("face"))
    inset = (n.layers - 1) * n.step
    small = min(n.width, n.height) - 2 * inset
    if small < 4 * web:
        most = max((min(n.width, n.height) - 4 * web) / 2 / max(n.layers - 1, 1), 0)
        if n.layers == 1:
            a.must("layers_shrink_away", "width", says=say("layers_shrink_away.narrow", least=mm(4 * web)))
            return
        a.must("layers_shrink_away", "step", says=say("layers_shrink_away", most=mm(most)), most_mm=most)
        return
    if n.border and (n.border < web or small - 2 * n.border < 2 * web):
        most = small / 2 - web
        a.must("border_does_not_fit", "border", says=say("border_does_not_fit", border=mm(n.border), least=mm(web), most=mm(max(most, web))), most_mm=most)
        return
    if n.dowels:
        face = polygon_of(_sheet(_without_dowels(n), n.layers - 1))
        for x, y in _dowel_places(n):
            if not face.contains(Polygon(circle_ring(Circle(x=x, y=y, radius=n.dowel / 2 + web)))):
                a.must("dowel_does_not_fit", "dowel", says=say("dowel_does_not_fit"))
                return
        places = _dowel_places(n)
        near = min((((p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2) ** 0.5 for i, p in enumerate(places) for q in places[:i]), default=1e9)
        if near < n.dowel + web:
            a.must("dowel_does_not_fit", "dowels", says=say("dowel_does_not_fit.near"))


def _without_dowels(n: LayeredNumbers) -> LayeredNumbers:
    return replace(n, dowels=0)
