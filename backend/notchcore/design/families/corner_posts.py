"""Posts that stand in the corners between walls, jointed to the floor and to a fixed top: sheets on edge that look to the middle."""

from __future__ import annotations

import math
from dataclasses import dataclass

from notchcore.design.arrangement import Arranger, Bound, Reach
from notchcore.design.joints.layout import TAB_END, TAB_LEAST
from notchcore.geom.profile import Profile
from notchcore.geom.slab import Pose
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm
from notchcore.words.facts import Angle, mm
from notchcore.words.render import say

STEEPEST, STEEPEST_OF_MANY = 30.0, 5.0  # [degrees] that walls lean where posts stand in their corners: of so many walls, and of more
MANY = 12
LEAST_WALLS = 4  # in sharper corners a post's tab stands too near the walls' own joints
STEP: Mm = 0.1  # of a width that is asked for
HAIR: Mm = 0.02  # between a post and the walls that it stands against


@dataclass(frozen=True, slots=True, kw_only=True)
class Corners:
    """The corners that posts stand in: where the inner faces of two walls meet, which may lean [mm]."""

    count: int
    low: Mm  #: height from which they stand
    high: Mm  #: and up to which
    radius: Mm  #: of the corners at height 0, from the middle
    slope: float  #: how much farther they are from there with every mm of height
    lean: float  #: of the walls [degrees]
    width: Mm  #: of a post
    across: Mm  #: from wall to wall, at the foot
    floor: str
    top: str = ""  #: what they are jointed to above, if anything

    @property
    def half(self) -> float:
        """Half of the turn from one wall to the next [radians]."""
        return math.pi / self.count

    def outer(self, z: Mm, *, t: Mm) -> Mm:
        """Return how far the outer edge of a post is from the middle: as far as its two faces find room in the corner."""
        return self.radius + z * self.slope - t / 2 * math.tan(self.half) - HAIR

    def pose(self, k: int) -> Pose:
        """Return the pose of a post: upright, its x from the middle to its corner."""
        v = -math.pi / 2 + (2 * k + 1) * self.half
        return Pose(origin=(0.0, 0.0, 0.0), x=(math.cos(v), math.sin(v), 0.0), y=(0.0, 0.0, 1.0))


def add_posts(c: Corners, a: Arranger, *, role: str, walls: tuple[str, ...]) -> None:
    """Add a post for every corner, or say which width it must have."""
    t = a.t(role)
    # Tabs are spaced by the thickness that stocks are laid out with.
    thick = max(max(a.t(r), a.stock(r).layout_t) for r in (role, c.floor, c.top) if r)
    least = math.ceil((TAB_LEAST + 2 * TAB_END) * thick / STEP - COINCIDENT) * STEP
    # Side by side round the middle, a web apart.
    most = min(c.outer(z, t=t) for z in (c.low, c.high)) - (t + a.web(role)) / (2 * math.sin(c.half))
    steepest = STEEPEST if c.count <= MANY else STEEPEST_OF_MANY
    if abs(c.lean) > steepest or c.count < LEAST_WALLS:
        a.must("posts_stand_nowhere", "posts", says=say("posts_stand_nowhere", walls=LEAST_WALLS, most=Angle(steepest, 0)), most_mm=0.0)
        return
    if most < least - COINCIDENT:
        wider = c.across + 2 * (least - most) * math.cos(c.half)
        a.must("posts_have_no_room", "width", says=say("posts_have_no_room", least=mm(wider)), least_mm=wider)
        return
    if c.width < least - COINCIDENT:
        a.must("posts_too_narrow", "posts", says=say("posts_too_narrow", least=mm(least)), least_mm=least)
        return
    if c.width > most + COINCIDENT:
        a.must("posts_too_wide", "posts", says=say("posts_too_wide", most=mm(most)), most_mm=most)
        return
    foot, head = c.low - 4 * a.t(c.floor) - t, c.high + (4 * a.t(c.top) + t if c.top else 0.0)
    r0, r1 = c.outer(foot, t=t), c.outer(head, t=t)
    outline = Profile(outer=((r0 - c.width, foot), (r0, foot), (r1, head), (r1 - c.width, head)))
    names = tuple(f"post-{k + 1}" for k in range(c.count))
    for k, name in enumerate(names):
        a.add(
            name,
            f"Post {k + 1}",
            role=role,
            envelope=outline,
            pose=c.pose(k),
            datum=0.5,
            bounds=tuple(Bound(mate=m, reach=Reach.WITHIN) for m in (c.floor, c.top) if m),
            inside=((c.outer((c.low + c.high) / 2, t=t) - c.width / 2), (c.low + c.high) / 2),
        )
    a.rest(names, walls)
    outer = c.outer(c.high, t=t)
    a.shows("posts", c.pose(0).to_world((outer - c.width, c.high)), end=c.pose(0).to_world((outer, c.high)))
