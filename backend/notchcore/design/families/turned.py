"""The turned stack: layers one on the other, each turned a little further, on posts that go through all of them.

The middle of the lowest layer's lower face is the origin. A post stands still while the layers turn: its slot in layer i
lies at minus that layer's turn in the layer's own frame.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger
from notchcore.design.families.outlines import polygon_ring, star
from notchcore.design.numbers import SMALLEST, PanelGroup, angle, check_numbers, choice, count, length, percent
from notchcore.design.styles import Style
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, Z
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

ROLES = (PanelGroup(id="layers", label="Layers"), PanelGroup(id="posts", label="Posts"))


class Plan(StrEnum):
    """The outline of a layer."""

    ROUND = "round"
    WAVES = "waves"
    POLYGON = "polygon"


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnedNumbers:
    """The numbers of a turned stack."""

    family: Literal["turned"] = "turned"
    diameter: Mm = length(140.0, "Diameter of the lowest layer", least=SMALLEST)
    layers: int = count(12, "Layers", least=2, most=120)
    twist: float = angle(90.0, "Turn from lowest to highest", least=-720.0, most=720.0)
    taper: float = percent(100.0, "Highest layer, share of the lowest", least=20.0, most=300.0)
    plan: Plan = choice(Plan.WAVES, "Outline", labels={Plan.ROUND: "round", Plan.WAVES: "waves", Plan.POLYGON: "corners"}, group="Outline")
    waves: int = count(5, "Waves or corners", least=3, most=24, group="Outline", only=("plan", ("waves", "polygon")))
    depth: float = percent(10.0, "Depth of the waves", least=0.0, most=45.0, group="Outline", only=("plan", ("waves",)))
    hollow: float = percent(44.0, "Opening in the middle", least=0.0, most=90.0, group="Outline", says="share of the diameter, 0: none")
    posts: int = count(2, "Posts", least=1, most=8, group="Posts")
    post_width: Mm = length(14.0, "Post, width", least=3.0, group="Posts")
    post_radius: Mm = length(45.0, "Post's middle from the axis", group="Posts")

    def __post_init__(self) -> None:
        check_numbers(self)


def _inner_radius(ring: tuple[Vec2, ...]) -> Mm:
    return float(Polygon(ring).exterior.distance(Polygon([(0, 0), (1e-6, 0), (0, 1e-6)])))


def _outer(n: TurnedNumbers, share: float) -> tuple[tuple[Vec2, ...], tuple[Circle, ...]]:
    radius = n.diameter / 2 * share
    if n.plan is Plan.POLYGON:
        return polygon_ring(radius, n.waves), ()
    if n.plan is Plan.WAVES and n.depth:
        return star(radius, n.waves, depth=n.depth / 100), ()
    circle = Circle(x=0, y=0, radius=radius)
    return circle_ring(circle), (circle,)


def _layer(n: TurnedNumbers, share: float) -> Profile:
    outer, circles = _outer(n, share)
    if not n.hollow:
        return Profile(outer=outer, circles=circles)
    hole = Circle(x=0, y=0, radius=n.diameter / 2 * share * n.hollow / 100)
    return Profile(outer=outer, holes=(tuple(reversed(circle_ring(hole))),), circles=(*circles, hole))


def _share(n: TurnedNumbers, i: int) -> float:
    return 1 + (n.taper / 100 - 1) * i / (n.layers - 1)


def arrange(n: TurnedNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the layers and posts of a turned stack, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    _check(n, a)
    if a.impossible:
        return a.done()
    t = a.t("layers")
    for i in range(n.layers):
        turn = math.radians(n.twist * i / (n.layers - 1))
        x: Vec3 = (math.cos(turn), math.sin(turn), 0.0)
        y: Vec3 = (-math.sin(turn), math.cos(turn), 0.0)
        a.add(f"layer-{i + 1}", f"Layer {i + 1}", role="layers", envelope=_layer(n, _share(n, i)), pose=Pose(origin=(0, 0, i * t), x=x, y=y), datum=0.0, rank=1)
    high = n.layers * t
    for k in range(n.posts):
        at = 2 * math.pi * k / n.posts
        out: Vec3 = (math.cos(at), math.sin(at), 0.0)
        shape = rectangle(n.post_radius - n.post_width / 2, 0, x1=n.post_radius + n.post_width / 2, y1=high)
        a.add(f"post-{k + 1}", f"Post {k + 1}", role="posts", envelope=shape, pose=Pose(origin=(0, 0, 0), x=out, y=Z), datum=0.5, rank=2)
        for end in (1, n.layers):  # the whole post goes through the end layers too
            a.rule(f"layer-{end}", f"post-{k + 1}", style=Style.WHOLE)
    r = n.diameter / 2
    a.shows("diameter", (-r, 0, 0), end=(r, 0, 0))
    a.shows("layers", (r, 0, 0), end=(r, 0, high))
    a.shows("taper", (-r * n.taper / 100, 0, high), end=(r * n.taper / 100, 0, high))
    a.shows("twist", (r, 0, high), end=(r * math.cos(math.radians(n.twist)), r * math.sin(math.radians(n.twist)), high))
    a.shows("hollow", (-r * n.hollow / 100, 0, high), end=(r * n.hollow / 100, 0, high))
    a.shows("post_radius", (0, 0, high), end=(n.post_radius, 0, high))
    a.shows("post_width", (n.post_radius - n.post_width / 2, 0, high), end=(n.post_radius + n.post_width / 2, 0, high))
    a.fact("Height", high)
    return a.done()


def _check(n: TurnedNumbers, a: Arranger) -> None:
    web = a.web("layers")
    half = math.hypot(n.post_width / 2, a.t("posts") / 2)
    least = min(_inner_radius(_outer(n, _share(n, i))[0]) for i in (0, n.layers - 1))
    hole = max(n.diameter / 2 * _share(n, i) * n.hollow / 100 for i in (0, n.layers - 1))
    if n.post_radius + half > least - web:
        most = least - web - half
        a.must("post_leaves_layer", "post_radius", says=say("post_leaves_layer", most=mm(max(most, 0))), most_mm=most)
    elif n.hollow and n.post_radius - half < hole + web:
        need = hole + web + half
        a.must("post_in_opening", "post_radius", says=say("post_in_opening", least=mm(need)), least_mm=need)
    elif n.posts > 1 and 2 * (n.post_radius - n.post_width / 2) * math.sin(math.pi / n.posts) < a.t("posts") + web:
        a.must("posts_too_near", "posts", says=say("posts_too_near"))
    if n.post_width < 2 * a.t("posts"):
        a.must("post_too_narrow", "post_width", says=say("post_too_narrow", least=mm(2 * a.t("posts"))), least_mm=2 * a.t("posts"))
