"""Walls round a floor: trays, planters, lanterns with three to twenty-four equal walls, upright or all leaning alike.

The foot stands on z = 0 with its middle at the origin; the first wall looks to the front. Sizes are of the outer faces. Walls end at each
other's outer faces by binding, so that unequal sheets still fit.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from notchcore.design.arrangement import Arrangement, Arranger, Bound, Reach, lying
from notchcore.design.families.box_room import LID_PLAY
from notchcore.design.families.corner_posts import Corners, add_posts
from notchcore.design.families.many_sided_numbers import Fingers, Floor, Lid, ManySidedNumbers, Panes
from notchcore.design.families.outlines import polygon_ring, rounded
from notchcore.design.joints.layout import TAB_END, TAB_LEAST
from notchcore.design.numbers import PanelGroup
from notchcore.design.styles import Style
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, add, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Angle, mm
from notchcore.words.render import say

ROLES = (
    PanelGroup(id="walls", label="Walls"),
    PanelGroup(id="floor", label="Floor"),
    PanelGroup(id="lid", label="Lid"),
    PanelGroup(id="panes", label="Panes"),
)
CAUTION = (
    "If a lamp goes inside: a cool electric one only, never a flame; wood, paper and acrylic burn. Leave a way out for its warmth, and ask "
    "someone qualified where mains current is near. Your local rules come first."
)
FINGERS_FROM = 80.0  # [degrees] between two inner faces: in a sharper corner fingers leave crumbs
FLATTEST = 29.9  # [degrees] between two walls' planes: fingers of a flatter corner are mostly gap, there walls only stand side by side
TAB_ROOM = TAB_LEAST + 2 * TAB_END  # thicknesses of a wall's length in which one tab stands, clear of the corners
STAND_APART: Mm = 0.03  # how much shorter walls without corner joints are at each end, so that a ring of many closes
CORNER: Mm = 2.0  # radius in the corners of openings


@dataclass(frozen=True, slots=True)
class _Shell:
    """The outer faces of the walls, and how thick they are."""

    n: ManySidedNumbers
    t: Mm

    @property
    def lean(self) -> float:
        return math.radians(self.n.lean)

    @property
    def turn(self) -> float:
        """From one wall to the next [radians]."""
        return 2 * math.pi / self.n.sides

    def outer(self, z: Mm) -> Mm:
        """Return how far the outer faces are from the middle at a height."""
        return self.n.width / 2 + z * math.tan(self.lean)

    def inner(self, z: Mm) -> Mm:
        return self.outer(z) - self.t / math.cos(self.lean)

    def side(self, apothem: Mm) -> Mm:
        """Return the length of a side of the polygon at this distance from the middle."""
        return 2 * apothem * math.tan(self.turn / 2)

    def polygon(self, apothem: Mm) -> Profile:
        """Return the polygon of all walls, seen from above."""
        return Profile(outer=polygon_ring(apothem / math.cos(self.turn / 2), self.n.sides))

    def between(self) -> float:
        """Return the angle between the planes of two neighbours [degrees]; 0 where they are one plane."""
        flat = math.cos(self.lean) ** 2 * math.cos(self.turn) + math.sin(self.lean) ** 2
        return math.degrees(math.acos(max(-1.0, min(1.0, flat))))

    def pose(self, k: int, depth: Mm = 0.0) -> Pose:
        """Return the pose of wall k, its front face outside, seen upright from there; `depth` further in."""
        v = -math.pi / 2 + k * self.turn
        out: Vec3 = (math.cos(v), math.sin(v), 0.0)
        up = add(scale(out, math.sin(self.lean)), (0.0, 0.0, math.cos(self.lean)))
        inward = add(scale(out, -math.cos(self.lean)), (0.0, 0.0, math.sin(self.lean)))
        return Pose(origin=add(scale(out, self.n.width / 2), scale(inward, depth)), x=(-math.sin(v), math.cos(v), 0.0), y=up)

    @property
    def ends(self) -> tuple[Mm, Mm]:
        """Where a wall begins and ends along itself, cut square: neither face goes below the foot or above the height."""
        faces = (False, True)
        return max(self.along(0.0, inner=i) for i in faces), min(self.along(self.n.height, inner=i) for i in faces)

    def bound(self, mate: str) -> Bound:
        """Return how an edge ends at a mate that may lean."""
        return Bound(mate=mate, reach=Reach.WITHIN if self.n.fingers is Fingers.WITHIN else Reach.FLUSH)

    @property
    def flat(self) -> bool:
        """Whether neighbours are too nearly one plane to be fingered."""
        return self.between() < FLATTEST

    def half(self, y: Mm, depth: Mm) -> Mm:
        """Return how far the corner is from the middle of a wall, `y` up along it and `depth` below its outer face."""
        return (self.n.width / 2 + y * math.sin(self.lean) - depth * math.cos(self.lean)) * math.tan(self.turn / 2)

    def beside(self, web: Mm) -> Mm:
        """Return how far from a wall's outer corner, level along it, what is cut must stay to leave a web beside the joint."""
        slant = math.hypot(1.0, math.sin(self.lean) * math.tan(self.turn / 2))  # level by square to the corner, which leans too
        inner = self.t * math.cos(self.lean) * math.tan(self.turn / 2)
        taken = 0.0 if self.flat else self.t / math.sin(math.radians(self.between()))
        return max(inner + STAND_APART + web * slant, (taken + web) * slant)

    def along(self, z: Mm, *, inner: bool = False) -> Mm:
        """Return the place along the wall at which its outer (or inner) face has this height."""
        return (z - (self.t * math.sin(self.lean) if inner else 0.0)) / math.cos(self.lean)


def arrange(n: ManySidedNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels round a floor, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    shell = _Shell(n, a.t("walls"))
    _check(shell, a)
    if a.impossible:
        return a.done()
    _walls(shell, a)
    _floor(shell, a)
    _lid(shell, a)
    _panes(shell, a)
    _posts(shell, a)
    _shows(shell, a)
    return a.done()


def _names(n: ManySidedNumbers) -> tuple[str, ...]:
    return tuple(f"wall-{k + 1}" for k in range(n.sides))


def _joins_floor(n: ManySidedNumbers) -> bool:
    """Whether the walls end at the floor, in its corner or on it."""
    return n.floor is Floor.UNDER or (n.floor is Floor.IN and not n.raised)


def _walls(s: _Shell, a: Arranger) -> None:
    n, names = s.n, _names(s.n)
    low, high = s.ends
    below, above = _joins_floor(n), n.lid is Lid.FIXED
    y0, y1 = (low - 4 * s.t - 4 * a.t("floor") if below else low), (high + 4 * s.t + 4 * a.t("lid") if above else high)
    ends = tuple(s.bound(m) for m, there in (("floor", below), ("lid", above)) if there)
    middle = (low + high) / 2
    half = max(s.half(y, 0.0) for y in (y0, y1)) + 4 * s.t
    wide = _pierced(n, _standing(s, y0, y1=y1) if s.flat else rectangle(-half, y0, x1=half, y1=y1))
    for k, name in enumerate(names):
        beside = () if s.flat else tuple(s.bound(names[(k + d) % n.sides]) for d in (-1, 1))
        a.add(
            name,
            f"Wall {k + 1}",
            role="walls",
            envelope=wide,
            pose=s.pose(k),
            datum=1.0,
            rank=4 if k == n.sides - 1 and n.sides % 2 else 2 + k % 2,
            bounds=(*beside, *ends),
            inside=(0.0, middle),
        )
    if s.flat:
        a.rest(names, names)
        a.look("corners_too_flat", say("corners_too_flat", angle=Angle(s.between())), number="sides")
    elif 180 - s.between() < FINGERS_FROM:
        for k, name in enumerate(names):
            a.rule(name, names[(k + 1) % n.sides], style=Style.BUTT)
        a.look("corners_too_sharp", say("corners_too_sharp", angle=Angle(180 - s.between())), number="sides")


def _standing(s: _Shell, y0: Mm, *, y1: Mm) -> Profile:
    """Return a wall that ends where its inner face meets its neighbours': a trapezium, without a joint beside it."""
    low, high = (s.half(y, s.t) - STAND_APART for y in (y0, y1))
    return Profile(outer=((-low, y0), (low, y0), (high, y1), (-high, y1)))


def _level(s: _Shell, low: Mm, *, high: Mm) -> Profile:
    """Return the outline of a sheet between the walls from height `low` to `high`, drawn out to beyond their outer faces.

    Where walls only stand side by side it ends square to each, so that nothing of it comes to lie in the gaps outside the corners.
    """
    out = max(s.outer(low), s.outer(high)) + 2 * s.t
    if not s.flat:
        return s.polygon(out)
    within = min(s.inner(low), s.inner(high))
    half, ring = s.side(within) / 2, []
    for k in range(s.n.sides):
        v = -math.pi / 2 + k * s.turn
        (ox, oy), (ax, ay) = (math.cos(v), math.sin(v)), (-math.sin(v), math.cos(v))
        ring += [(ox * r + ax * h, oy * r + ay * h) for r, h in ((within, -half), (out, -half), (out, half))]
    return Profile(outer=tuple(ring))


def _pierced(n: ManySidedNumbers, wall: Profile) -> Profile:
    if not n.opening_width:
        return wall
    hole = rounded(-n.opening_width / 2, n.sill, x1=n.opening_width / 2, y1=n.sill + n.opening_height, radius=CORNER)
    return Profile(outer=wall.outer, holes=(tuple(reversed(hole.outer)),), circles=hole.circles)


def _floor(s: _Shell, a: Arranger) -> None:
    n, t, names = s.n, a.t("floor"), _names(s.n)
    if n.floor is Floor.NONE:
        return
    if n.floor is Floor.UNDER:
        a.add("floor", "Floor", role="floor", envelope=s.polygon(s.outer(0.0) + n.reach), pose=lying(0.0), datum=0.0, rank=1)
        return
    a.add(
        "floor",
        "Floor",
        role="floor",
        envelope=_level(s, n.raised, high=n.raised + t),
        pose=lying(n.raised),
        datum=0.0,
        rank=1,
        bounds=tuple(s.bound(w) for w in names),
    )
    if not n.raised and 90 + n.lean < FINGERS_FROM:
        _glued(a, names, to="floor", between=90 + n.lean)


def _glued(a: Arranger, names: tuple[str, ...], *, to: str, between: float) -> None:
    """Say that the walls only butt against a sheet that they lean over too far."""
    for name in names:
        a.rule(name, to, style=Style.BUTT)
    a.look("leans_too_far_for_fingers", say(f"leans_too_far_for_fingers.{to}", angle=Angle(between)), number="lean")


def _lid(s: _Shell, a: Arranger) -> None:
    n, t, names = s.n, a.t("lid"), _names(s.n)
    if n.lid is Lid.FIXED:
        a.add(
            "lid",
            "Top",
            role="lid",
            envelope=_level(s, n.height - t, high=n.height),
            pose=lying(n.height),
            datum=1.0,
            rank=1,
            bounds=tuple(s.bound(w) for w in names),
        )
        if 90 - n.lean < FINGERS_FROM:
            _glued(a, names, to="lid", between=90 - n.lean)
    elif n.lid is Lid.LIFT_OFF:
        # Seen from below, so that the locating outline is scored on the face that touches.
        under = Pose(origin=(0.0, 0.0, n.height), x=(-1.0, 0.0, 0.0), y=(0.0, 1.0, 0.0))
        a.add("lid", "Lid", role="lid", envelope=s.polygon(s.outer(n.height)), pose=under, datum=1.0)
        a.add("lid-key", "Lid key plate", role="lid", envelope=s.polygon(_key(s, t)), pose=under, datum=0.0)
        a.rest(("lid", "lid-key"), names)


def _key(s: _Shell, t: Mm) -> Mm:
    """Return how far the plate under a lid reaches from the middle, so that it enters between the walls."""
    return min(s.inner(s.n.height), s.inner(s.n.height - t)) - LID_PLAY


def _pane(n: ManySidedNumbers) -> tuple[Vec2, Vec2]:
    """Return the corners of a pane along a wall."""
    half = n.opening_width / 2 + n.lap
    return (-half, n.sill - n.lap), (half, n.sill + n.opening_height + n.lap)


def _panes(s: _Shell, a: Arranger) -> None:
    n = s.n
    if not n.opening_width or n.panes is Panes.NONE:
        return
    (x0, y0), (x1, y1) = _pane(n)
    panes = tuple(f"pane-{k + 1}" for k in range(n.sides))
    for k, (pane, wall) in enumerate(zip(panes, _names(n), strict=True)):
        a.add(pane, f"Pane {k + 1}", role="panes", envelope=rectangle(x0, y0, x1=x1, y1=y1), pose=s.pose(k, s.t), datum=1.0)
        a.rest((pane,), tuple(w for w in _names(n) if w != wall))
    a.rest(panes, panes)


def _posts(s: _Shell, a: Arranger) -> None:
    n = s.n
    if n.posts_width:
        corners = Corners(
            count=n.sides,
            low=n.raised_floor + a.t("floor"),
            high=n.height - (a.t("lid") if n.lid is not Lid.OPEN else 0.0) - (LID_PLAY if n.lid is Lid.LIFT_OFF else 0.0),
            radius=s.inner(0.0) / math.cos(s.turn / 2),
            slope=math.tan(s.lean) / math.cos(s.turn / 2),
            lean=n.lean,
            width=n.posts_width,
            across=n.width,
            floor="floor",
            top="lid" if n.lid is Lid.FIXED else "",
        )
        add_posts(corners, a, role="walls", walls=_names(n))


def _shows(s: _Shell, a: Arranger) -> None:
    n, foot = s.n, s.outer(0.0)
    side = s.side(foot) / 2
    top = s.pose(0).origin
    a.shows("width", (0.0, -foot, 0.0), end=(0.0, 0.0, 0.0))
    a.shows("sides", (-side, -foot, 0.0), end=(side, -foot, 0.0))
    a.shows("height", (0.0, -foot, 0.0), end=(0.0, -foot, n.height))
    a.shows("lean", top, end=(0.0, -s.outer(n.height), n.height))
    if n.floor is Floor.UNDER:
        a.shows("reach", (0.0, -foot - n.reach, 0.0), end=(0.0, -foot, 0.0))
    if n.floor is Floor.IN and n.raised:
        a.shows("raised", (0.0, -foot, 0.0), end=(0.0, -foot, n.raised))
    if n.opening_width:
        pose = s.pose(0)
        half, low, high = n.opening_width / 2, n.sill, n.sill + n.opening_height
        a.shows("opening_width", pose.to_world((-half, low), 0.0), end=pose.to_world((half, low), 0.0))
        a.shows("opening_height", pose.to_world((half, low), 0.0), end=pose.to_world((half, high), 0.0))
        a.shows("sill", pose.to_world((0.0, 0.0), 0.0), end=pose.to_world((0.0, low), 0.0))
    a.fact("Side at the foot", 2 * side)
    a.fact("Corner to corner, at the foot", 2 * foot / math.cos(s.turn / 2))
    a.fact("Side at the top", s.side(s.outer(n.height)))
    a.fact("Clear inside, at the foot", 2 * s.inner(0.0))


def _check(s: _Shell, a: Arranger) -> None:
    n, web, tf, tl = s.n, a.web("walls"), a.t("floor"), a.t("lid")
    under = (n.raised + tf) if n.floor is Floor.IN else tf if n.floor is Floor.UNDER else 0.0
    over = tl if n.lid is not Lid.OPEN else 0.0
    least = 3 * s.t + 2 * web
    if (short := under + over + least) > n.height:
        a.must("walls_leave_no_room", "height", says=say("walls_leave_no_room.house", least=mm(short)), least_mm=short)
        return
    inside = min(s.inner(0.0), s.inner(n.height), _key(s, tl) if n.lid is Lid.LIFT_OFF else math.inf)
    along = min(s.half(y, 0.0) for y in s.ends) - s.beside(0.0)
    tab = TAB_ROOM / 2 * max(s.t, tf) if n.floor is not Floor.NONE else 0.0
    lacking = max(2 * web - inside, (max(2 * web, tab) - along) / math.tan(s.turn / 2))
    if lacking > 0:
        short = n.width + 2 * lacking
        a.must("walls_meet_inside", "width", says=say("walls_meet_inside", least=mm(short), lean=Angle(n.lean, 0)), least_mm=short)
        return
    if n.floor is Floor.IN and n.raised and n.raised < a.web("walls") + 2 * s.t:
        need = a.web("walls") + 2 * s.t
        a.must("floor_too_near_foot", "raised", says=say("floor_too_near_foot", least=mm(need)), least_mm=need)
    if n.floor is Floor.UNDER and n.reach < (need := a.web("floor") + tf * max(math.tan(s.lean), 0.0) + s.t):
        a.must("floor_reaches_too_little", "reach", says=say("floor_reaches_too_little", least=mm(need)), least_mm=need)
    if n.opening_width:
        _check_openings(s, a, under=under, over=over)


def _check_openings(s: _Shell, a: Arranger, *, under: Mm, over: Mm) -> None:
    n, web = s.n, a.web("walls")
    lap = n.lap if n.panes is Panes.BEHIND else 0.0
    low = s.along(under, inner=s.lean > 0) + (lap + a.t("panes") if lap else web)
    high = s.along(n.height - over, inner=s.lean > 0) - (lap + a.t("panes") if lap else web)
    if n.sill < low:
        a.must("openings_do_not_fit", "sill", says=say("openings_do_not_fit.sill", least=mm(low)), least_mm=low)
    if n.sill + n.opening_height > high:
        most = high - n.sill
        a.must("openings_do_not_fit", "opening_height", says=say("openings_do_not_fit.height", most=mm(max(most, 0.0))), most_mm=most)
    if a.impossible:
        return
    ends = (n.sill - lap, n.sill + n.opening_height + lap)
    most = 2 * (min(s.half(y, 0.0) for y in ends) - s.beside(web))
    if lap:  # a pane ends before its neighbours
        beside = LID_PLAY + (s.t / 2 / math.cos(s.turn / 2) if n.posts_width else 0.0)
        most = min(most, 2 * (min(s.half(y, s.t + a.t("panes")) for y in ends) - lap - beside))
    if n.opening_width > most:
        a.must("openings_do_not_fit", "opening_width", says=say("openings_do_not_fit.width", most=mm(max(most, 0.0))), most_mm=most)
