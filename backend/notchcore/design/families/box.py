"""The box: walls, base, a top if wanted, dividers both ways. It only arranges panels; joints follow.

World: x to the right along the front, y to the back, z up. The front's outer face is y = 0.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.panel import Bound, MeetingRule, Panel, Reach, RuleKind
from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of, profile_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import X, Y, Z, scale
from notchcore.measure.families import FAMILIES, minimum_web
from notchcore.measure.stock import Stock
from notchcore.units import Mm

SMALLEST: Mm = 10.0
LARGEST: Mm = 3000.0
MOST_DIVIDERS = 40
TOP_GAP: Mm = 0.5  # air between dividers and whatever closes the box
LID_PLAY: Mm = 0.5  # per side, so that a lid lifts off without catching


class Sizing(StrEnum):
    """What the three sizes mean."""

    OUTSIDE = "outside"
    INSIDE = "inside"


class Top(StrEnum):
    """What closes the box."""

    OPEN = "open"
    FIXED = "fixed"
    LIFT_OFF = "lift_off"


ROLES = ("walls", "base", "dividers", "lid")  # groups of panels that have a stock of their own


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxNumbers:
    """The numbers of a box [mm]."""

    family: Literal["box"] = "box"
    width: Mm = 180.0
    depth: Mm = 120.0
    height: Mm = 60.0
    sizing: Sizing = Sizing.OUTSIDE
    top: Top = Top.OPEN
    columns: int = 1  #: compartments side by side
    rows: int = 1  #: compartments front to back
    divider_drop: Mm = 0.0  #: how far dividers end below the rim
    thumb_notch: Mm = 0.0  #: width of a round notch in the front's rim, 0 for none
    lid_hole: Mm = 0.0  #: diameter of a finger hole in the lid, 0 for none

    def __post_init__(self) -> None:
        for name in ("width", "depth", "height"):
            require(name, getattr(self, name), SMALLEST, LARGEST)
        require("columns", self.columns, 1, MOST_DIVIDERS + 1, unit="")
        require("rows", self.rows, 1, MOST_DIVIDERS + 1, unit="")
        require("divider_drop", self.divider_drop, 0.0, LARGEST)
        require("thumb_notch", self.thumb_notch, 0.0, LARGEST)
        require("lid_hole", self.lid_hole, 0.0, LARGEST)


@dataclass(frozen=True, slots=True, kw_only=True)
class Arrangement:
    """What a family gives to the solver."""

    panels: tuple[Panel, ...]
    rules: tuple[MeetingRule, ...] = ()
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """The box's outer size and the room inside [mm]."""

    w: Mm
    d: Mm
    h: Mm
    base_t: Mm
    wall_t: Mm
    top_t: Mm


def _frame(n: BoxNumbers, walls: Stock, base: Stock, lid: Stock) -> _Frame:
    top_t = lid.t if n.top is Top.FIXED else 0.0
    if n.sizing is Sizing.INSIDE:
        return _Frame(w=n.width + 2 * walls.t, d=n.depth + 2 * walls.t, h=n.height + base.t + top_t, base_t=base.t, wall_t=walls.t, top_t=top_t)
    return _Frame(w=n.width, d=n.depth, h=n.height, base_t=base.t, wall_t=walls.t, top_t=top_t)


def _must(code: str, field: str, message: str, **facts: float) -> Finding:
    return Finding(code=code, severity=Severity.MUST, message=message, field=field, facts=dict(facts))


def _check(n: BoxNumbers, f: _Frame, walls: Stock, dividers: Stock, lid: Stock) -> list[Finding]:
    """Return what makes the wish impossible, naming the number to change."""
    found: list[Finding] = []
    least = minimum_web(FAMILIES[walls.family], walls.t)
    for field, outer, taken in (("width", f.w, 2 * f.wall_t), ("depth", f.d, 2 * f.wall_t), ("height", f.h, f.base_t + f.top_t)):
        if outer - taken < least:
            found.append(
                _must("walls_leave_no_room", field,
                      f"The sheets take {taken:.1f} mm of the {field} of {outer:.1f}. Make the {field} at least {taken + least:.1f}, or use a thinner sheet.",
                      least_mm=taken + least)
            )  # fmt: skip
    if found:
        return found
    web = max(minimum_web(FAMILIES[walls.family], walls.t), minimum_web(FAMILIES[dividers.family], dividers.t))
    for field, count, inside in (("columns", n.columns, f.w - 2 * f.wall_t), ("rows", n.rows, f.d - 2 * f.wall_t)):
        room = (inside - (count - 1) * dividers.t) / count
        if count > 1 and room < web:
            most = max(int((inside + dividers.t) / (web + dividers.t)), 1)
            found.append(
                _must("too_many_compartments", field,
                      f"{count} {field} leave {max(room, 0):.1f} mm each; the sheet needs {web:.1f} between two slots. Use {most} or fewer.",
                      most=most, room_mm=room)
            )  # fmt: skip
    if n.columns > 1 or n.rows > 1:
        height = _divider_height(n, f, lid)
        if height < max(2 * dividers.t, 4.0):
            found.append(
                _must("dividers_too_low", "divider_drop",
                      f"The dividers would be {max(height, 0):.1f} mm high. Let them end less far below the rim, or make the height larger.",
                      height_mm=height)
            )  # fmt: skip
    if n.thumb_notch:
        found += _check_notch(n, f, walls, dividers, least)
    if n.lid_hole and n.top is not Top.OPEN:
        most_hole = min(f.w, f.d) - 2 * f.wall_t - 2 * LID_PLAY - 4 * least
        if n.lid_hole > most_hole:
            found.append(
                _must("hole_too_large", "lid_hole", f"A hole of {n.lid_hole:.1f} mm does not fit the lid. Use {max(most_hole, 0):.1f} or less.",
                      most_mm=most_hole)
            )  # fmt: skip
    if n.top is Top.LIFT_OFF and min(f.w, f.d) - 2 * f.wall_t - 2 * LID_PLAY < 2 * least:
        found.append(_must("lid_too_small", "width", "There is no room for the lid's locating plate. Make the box larger or leave it open."))
    return found


def _check_notch(n: BoxNumbers, f: _Frame, walls: Stock, dividers: Stock, least: Mm) -> list[Finding]:
    """A thumb notch needs an open rim, room in the front, and no divider behind it."""
    if n.top is Top.FIXED:
        return [_must("notch_too_large", "thumb_notch", "A thumb notch needs an open rim: choose an open or lift-off top, or no notch.")]
    room = min(f.w - 2 * f.wall_t, 2 * (f.h - f.base_t)) - 4 * least
    beside = [2 * (abs(at - f.w / 2) - dividers.t / 2 - least) for at in _positions(n.columns, f.w, walls, dividers)]
    most = max(min([room, *beside]), 0.0)
    if n.thumb_notch <= most:
        return []
    why = "a divider stands behind it" if beside and min(beside) < room else "it does not fit the front"
    return [
        _must(
            "notch_too_large",
            "thumb_notch",
            f"A thumb notch of {n.thumb_notch:.1f} mm is too wide: {why}. Use {most:.1f} or less, or an odd number of columns.",
            most_mm=most,
        )
    ]


def _divider_height(n: BoxNumbers, f: _Frame, lid: Stock) -> Mm:
    closed = {Top.OPEN: 0.0, Top.FIXED: f.top_t + TOP_GAP, Top.LIFT_OFF: lid.t + TOP_GAP}[n.top]
    return f.h - f.base_t - max(n.divider_drop, closed)


def _positions(count: int, outer: Mm, wall: Stock, divider: Stock) -> list[Mm]:
    """Return the middles of dividers for equal compartments. Labels, not readings, so that a reading moves nothing."""
    inside = outer - 2 * wall.layout_t
    room = (inside - (count - 1) * divider.layout_t) / count
    return [wall.layout_t + i * room + (i - 0.5) * divider.layout_t for i in range(1, count)]


def _with_notch(front: Profile, width: Mm, middle: Mm, rim: Mm) -> Profile:
    """Return the front with a half-round notch cut into its rim."""
    circle = Circle(x=middle, y=rim, radius=width / 2)
    cut = polygon_of(front).difference(Polygon(circle_ring(circle)))
    return profile_of(cut, circles=(circle,))


def _plate(w: Mm, d: Mm, hole: Mm, *, x0: Mm = 0.0, y0: Mm = 0.0) -> Profile:
    """Return a rectangle with a round hole in the middle of it, when `hole` is a diameter."""
    plain = rectangle(x0, y0, x0 + w, y0 + d)
    if not hole:
        return plain
    circle = Circle(x=x0 + w / 2, y=y0 + d / 2, radius=hole / 2)
    return Profile(outer=plain.outer, holes=(tuple(reversed(circle_ring(circle))),), circles=(circle,))


def arrange(n: BoxNumbers, ids: Mapping[str, str], stocks: dict[str, Stock]) -> Arrangement:
    """Return the panels of a box, or findings that name the number to change."""
    walls, base, dividers, lid = stocks[ids["walls"]], stocks[ids["base"]], stocks[ids["dividers"]], stocks[ids["lid"]]
    f = _frame(n, walls, base, lid)
    findings = _check(n, f, walls, dividers, lid)
    if any(x.severity is Severity.MUST for x in findings):
        return Arrangement(panels=(), findings=tuple(findings))

    def panel(pid: str, label: str, stock: Stock, envelope: Profile, pose: Pose, datum: float, rank: int, bounds: tuple[Bound, ...] = ()) -> Panel:
        return Panel(id=pid, label=label, stock=stock.id, envelope=envelope, pose=pose, t=stock.t, layout_t=stock.layout_t,
                     datum=datum, rank=rank, bounds=bounds)  # fmt: skip

    front = rectangle(0, 0, f.w, f.h)
    if n.thumb_notch:
        front = _with_notch(front, n.thumb_notch, f.w / 2, f.h)
    # An upright panel along x has its normal towards -y, so the front's slab grows inward with datum 1.
    panels = [
        panel("base", "Base", base, rectangle(0, 0, f.w, f.d), Pose(origin=(0, 0, 0), x=X, y=Y), 0.0, 1),
        panel("front", "Front", walls, front, Pose(origin=(0, 0, 0), x=X, y=Z), 1.0, 4),
        panel("back", "Back", walls, rectangle(0, 0, f.w, f.h), Pose(origin=(0, f.d, 0), x=X, y=Z), 0.0, 4),
        panel("left", "Left side", walls, rectangle(0, 0, f.d, f.h), Pose(origin=(0, 0, 0), x=Y, y=Z), 0.0, 3),
        panel("right", "Right side", walls, rectangle(0, 0, f.d, f.h), Pose(origin=(f.w, 0, 0), x=Y, y=Z), 1.0, 3),
    ]
    rules: list[MeetingRule] = []
    top_of_dividers = f.base_t + _divider_height(n, f, lid)
    walls_bound = {"x": ("left", "right"), "y": ("front", "back")}
    for axis, count, outer, origin, x in (("y", n.columns, f.w, X, Y), ("x", n.rows, f.d, Y, X)):
        run = f.d if axis == "y" else f.w
        for i, at in enumerate(_positions(count, outer, walls, dividers), start=1):
            bounds = (*(Bound(mate=m) for m in walls_bound[axis]), Bound(mate="base", reach=Reach.FLUSH))
            name = ("column", "Column") if axis == "y" else ("row", "Row")
            panels.append(
                panel(f"{name[0]}-{i}", f"{name[1]} divider {i}", dividers, rectangle(-1, -1, run + 1, top_of_dividers),
                      Pose(origin=scale(origin, at), x=x, y=Z), 0.5, 6 if axis == "x" else 5, bounds)
            )  # fmt: skip
    if n.top is Top.FIXED:
        panels.append(panel("lid", "Top", lid, _plate(f.w, f.d, n.lid_hole), Pose(origin=(0, 0, f.h), x=X, y=Y), 1.0, 2))
    if n.top is Top.LIFT_OFF:
        # Seen from below (normal down), so that the locating outline is scored on the face that touches.
        under = Pose(origin=(f.w, 0, f.h), x=scale(X, -1.0), y=Y)
        panels.append(panel("lid", "Lid", lid, _plate(f.w, f.d, n.lid_hole), under, 1.0, 0))
        inset_w, inset_d = f.w - 2 * f.wall_t - 2 * LID_PLAY, f.d - 2 * f.wall_t - 2 * LID_PLAY
        offset = f.wall_t + LID_PLAY
        panels.append(panel("lid-key", "Lid key plate", lid, _plate(inset_w, inset_d, n.lid_hole, x0=offset, y0=offset), under, 0.0, 0))
        rules += [MeetingRule(a=p, b=wall, kind=RuleKind.REST) for p in ("lid", "lid-key") for wall in ("front", "back", "left", "right")]
    return Arrangement(panels=tuple(panels), rules=tuple(rules), findings=tuple(findings))


def inside_size(n: BoxNumbers, ids: Mapping[str, str], stocks: dict[str, Stock]) -> tuple[Mm, Mm, Mm]:
    """Return the clear width, depth and height inside [mm]."""
    f = _frame(n, stocks[ids["walls"]], stocks[ids["base"]], stocks[ids["lid"]])
    return f.w - 2 * f.wall_t, f.d - 2 * f.wall_t, f.h - f.base_t - f.top_t


def outside_size(n: BoxNumbers, ids: Mapping[str, str], stocks: dict[str, Stock]) -> tuple[Mm, Mm, Mm]:
    """Return the outer width, depth and height without a lift-off lid [mm]."""
    f = _frame(n, stocks[ids["walls"]], stocks[ids["base"]], stocks[ids["lid"]])
    return f.w, f.d, f.h


__all__ = ["ROLES", "Arrangement", "BoxNumbers", "Sizing", "Top", "arrange", "inside_size", "outside_size"]
