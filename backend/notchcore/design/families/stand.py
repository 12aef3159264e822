"""The stand: one or several figures that stand in the slots of a base, with a strut behind if wanted.

The base's upper face is z = 0 and the first figure's middle plane is y = 0; further ones follow to the back.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, Bound, facing_front, facing_right, lying
from notchcore.design.families.outlines import LABELS, Outline, outline, rounded, scaled_to
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, choice, count, length
from notchcore.design.styles import Style
from notchcore.errors import DesignError
from notchcore.geom.planar import Polygon, box, holds_area, pieces
from notchcore.geom.profile import Profile, polygon_of, profile_of
from notchcore.geom.thinning import smoothed
from notchcore.geom.vectors import Vec2
from notchcore.measure.stock import Stock
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

MOST_POINTS = 4000
ROLES = (PanelGroup(id="figure", label="Figure"), PanelGroup(id="base", label="Base"), PanelGroup(id="strut", label="Strut"))


class Base(StrEnum):
    """How many sheets the base is made of."""

    SINGLE = "single"
    DOUBLE = "double"


@dataclass(frozen=True, slots=True, kw_only=True)
class StandNumbers:
    """The numbers of a stand [mm]."""

    family: Literal["stand"] = "stand"
    width: Mm = length(160.0, "Figure's width", least=SMALLEST, group="Figure")
    height: Mm = length(140.0, "Figure's height", least=SMALLEST, group="Figure")
    shape: Outline = choice(Outline.ARCH, "Figure", labels=LABELS, group="Figure")
    silhouette: tuple[Vec2, ...] = ()  #: an outline of one's own, stretched to width and height; empty for the named shape
    stretch: bool = False  #: width and height of an outline of one's own change one without the other
    figures: int = count(1, "Figures, one behind the other", least=1, most=12, group="Figure")
    pitch: Mm = length(30.0, "From figure to figure", least=4.0, group="Figure")
    base_width: Mm = length(150.0, "Base, width", least=SMALLEST, group="Base")
    base_depth: Mm = length(70.0, "Base, depth", least=SMALLEST, group="Base")
    base_corner: Mm = length(10.0, "Round corners, radius", group="Base")
    base: Base = choice(Base.DOUBLE, "Base of", labels={Base.SINGLE: "one sheet", Base.DOUBLE: "two sheets"}, group="Base")
    foot: Mm = length(60.0, "Foot in the base, width", least=4.0, group="Base")
    strut: Mm = length(0.0, "Strut behind, height", none_at_zero=True, least=SMALLEST, group="Base")

    def __post_init__(self) -> None:
        check_numbers(self)
        if self.silhouette and not 3 <= len(self.silhouette) <= MOST_POINTS:
            raise DesignError(say("outline_points", most=MOST_POINTS), field="silhouette")
        if self.silhouette and not holds_area(self.silhouette):
            raise DesignError(say("outline_without_area"), field="silhouette")


def _figure(n: StandNumbers) -> Profile:
    if not n.silhouette:
        return outline(n.shape, n.width, height=n.height)
    own = Polygon(smoothed(scaled_to(n.silhouette, n.width, height=n.height), closed=True))
    return profile_of(max(pieces(own.buffer(0)), key=lambda p: p.area))


def _plinth(body: Polygon, foot: Mm, *, most: Mm) -> Mm:
    """Return how far up a foot must fill a figure: past the gaps that open to the ground, never those that the figure itself closes below."""
    gaps = [g.bounds for g in pieces(box(-foot / 2, 0, foot / 2, most).difference(body))]
    open_below = [b[3] for b in gaps if b[1] < COINCIDENT]
    return float(max(open_below, default=min((b[1] for b in gaps), default=most)))


def arrange(n: StandNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels of a stand, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    tf, tb = a.t("figure"), a.t("base")
    layers = 2 if n.base is Base.DOUBLE else 1
    depth = layers * tb
    _check(n, a)
    if a.impossible:
        return a.done()
    first = -n.base_depth / 2 + (n.base_depth - (n.figures - 1) * n.pitch) / 2 if n.figures > 1 else 0.0
    if n.strut:
        first = -n.base_depth / 4
    plate = rounded(-n.base_width / 2, -n.base_depth / 2, x1=n.base_width / 2, y1=n.base_depth / 2, radius=n.base_corner)
    a.add("base", "Base", role="base", envelope=plate, pose=lying(0), datum=1.0, rank=1)
    if layers == 2:
        a.add("base-lower", "Base, lower sheet", role="base", envelope=plate, pose=lying(-tb), datum=1.0)
    body = polygon_of(_figure(n))
    foot = box(-n.foot / 2, -depth, n.foot / 2, _plinth(body, n.foot, most=min(n.height * 0.25, max(n.foot / 4, 4 * tf))))
    standing = pieces(body.union(foot))
    if len(standing) > 1:
        a.must("figure_misses_foot", "foot", says=say("figure_misses_foot"))
        return a.done()
    whole = profile_of(standing[0], circles=_figure(n).circles)
    names = []
    for i in range(n.figures):
        pid = f"figure-{i + 1}" if n.figures > 1 else "figure"
        label = f"Figure {i + 1}" if n.figures > 1 else "Figure"
        a.add(pid, label, role="figure", envelope=whole, pose=facing_front(first + i * n.pitch), datum=0.5, rank=2)
        a.rule(pid, "base-lower" if layers == 2 else "base", style=Style.WHOLE)
        names.append(pid)
    if n.strut:
        _strut(n, a, figure=names[-1], y=first + (n.figures - 1) * n.pitch, tf=tf)
    _dimensions(n, a, first=first, depth=depth, tf=tf)
    a.fact("Overall height", n.height + depth)
    return a.done()


def _dimensions(n: StandNumbers, a: Arranger, *, first: Mm, depth: Mm, tf: Mm) -> None:
    """Show the numbers where they are; `first` is the place of the figure in front."""
    a.shows("width", (-n.width / 2, first, n.height), end=(n.width / 2, first, n.height))
    a.shows("height", (-n.width / 2, first, 0), end=(-n.width / 2, first, n.height))
    a.shows("base_width", (-n.base_width / 2, -n.base_depth / 2, 0), end=(n.base_width / 2, -n.base_depth / 2, 0))
    a.shows("base_depth", (n.base_width / 2, -n.base_depth / 2, 0), end=(n.base_width / 2, n.base_depth / 2, 0))
    a.shows("foot", (-n.foot / 2, first, -depth), end=(n.foot / 2, first, -depth))
    if n.figures > 1:
        a.shows("pitch", (n.base_width / 2, first, 0), end=(n.base_width / 2, first + n.pitch, 0))
    if n.strut:
        back = first + (n.figures - 1) * n.pitch + tf / 2
        a.shows("strut", (0, back, 0), end=(0, back, n.strut))


def _strut(n: StandNumbers, a: Arranger, *, figure: str, y: Mm, tf: Mm) -> None:
    """A three-cornered sheet behind the last figure, in the base and in the figure."""
    reach = n.base_depth / 2 - y - 2 * a.t("base")
    low = -a.t("base")
    shape = Profile(outer=((y - tf / 2, low), (y + reach, low), (y + reach, a.t("strut")), (y + 2 * tf, n.strut), (y - tf / 2, n.strut)))
    a.add("strut", "Strut", role="strut", envelope=shape, pose=facing_right(0), datum=0.5, rank=3, bounds=(Bound(mate=figure), Bound(mate="base")))
    if n.base is Base.DOUBLE:
        a.rest(("strut",), ("base-lower",))


def _check(n: StandNumbers, a: Arranger) -> None:
    tf, web = a.t("figure"), max(a.web("base"), a.web("figure"))
    if n.foot > n.base_width - 2 * web:
        most = n.base_width - 2 * web
        a.must("foot_too_wide", "foot", says=say("foot_too_wide", most=mm(most)), most_mm=most)
    if n.foot < 2 * tf:
        a.must("foot_too_narrow", "foot", says=say("foot_too_narrow", foot=mm(n.foot), least=mm(2 * tf)), least_mm=2 * tf)
    if n.foot > n.width:
        a.must("foot_too_wide", "foot", says=say("foot_too_wide.figure", most=mm(n.width)), most_mm=n.width)
    need = (n.figures - 1) * n.pitch + tf + 2 * web
    if n.base_depth < need:
        a.must("base_too_shallow", "base_depth", says=say("base_too_shallow.figures", figures=n.figures, least=mm(need)), least_mm=need)
    if n.figures > 1 and n.pitch < tf + web:
        a.must("figures_too_near", "pitch", says=say("figures_too_near", least=mm(tf + web)), least_mm=tf + web)
    if n.strut:
        if n.figures > 1:
            a.must("strut_is_in_the_way", "strut", says=say("strut_is_in_the_way"))
        if n.strut > 0.9 * n.height:
            a.must("strut_too_high", "strut", says=say("strut_too_high", most=mm(0.9 * n.height)), most_mm=0.9 * n.height)
        if n.base_depth * 0.75 - 2 * a.t("base") < 8 * tf:
            a.must("base_too_shallow", "base_depth", says=say("base_too_shallow"))
