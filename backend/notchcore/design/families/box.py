"""The box: walls, base, dividers both ways, and what closes it. It only arranges panels; joints follow.

The front's outer face is y = 0.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, Bound, Reach, facing_front, facing_right, lying
from notchcore.design.families.box_room import TOP_GAP, Frame, Sizing, Top, check_box, divider_height, frame_of, positions
from notchcore.design.families.box_tops import close_box
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, choice, count, length
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of, profile_of, rectangle
from notchcore.geom.vectors import Z
from notchcore.measure.stock import Stock
from notchcore.units import Mm

MOST_DIVIDERS = 40
ROLES = (
    PanelGroup(id="walls", label="Walls"),
    PanelGroup(id="base", label="Base"),
    PanelGroup(id="dividers", label="Dividers"),
    PanelGroup(id="lid", label="Lid or sleeve"),
)
_CLOSED = ("fixed", "lift_off", "slide_in")


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxNumbers:
    """The numbers of a box [mm]."""

    family: Literal["box"] = "box"
    width: Mm = length(180.0, "Width", least=SMALLEST)
    depth: Mm = length(120.0, "Depth", least=SMALLEST)
    height: Mm = length(60.0, "Height", least=SMALLEST)
    sizing: Sizing = choice(Sizing.OUTSIDE, "Sizes are", labels={Sizing.OUTSIDE: "outside", Sizing.INSIDE: "inside", Sizing.CENTRE: "middles"})
    columns: int = count(1, "Columns, side by side", least=1, most=MOST_DIVIDERS + 1, group="Compartments")
    rows: int = count(1, "Rows, front to back", least=1, most=MOST_DIVIDERS + 1, group="Compartments")
    divider_drop: Mm = length(0.0, "Dividers below the rim", group="Compartments")
    top: Top = choice(
        Top.OPEN,
        "Top",
        labels={Top.OPEN: "open", Top.LIFT_OFF: "lift-off lid", Top.SLIDE_IN: "slide-in lid", Top.FIXED: "fixed", Top.DRAWER: "drawer in a sleeve"},
        group="Top",
    )
    lid_hole: Mm = length(0.0, "Finger hole in the lid", scales=False, group="Top", only=("top", _CLOSED))
    thumb_notch: Mm = length(0.0, "Thumb notch in the front", scales=False, group="Top")

    def __post_init__(self) -> None:
        check_numbers(self)


def _with_notch(front: Profile, width: Mm, *, middle: Mm, rim: Mm) -> Profile:
    """Return the front with a half-round notch cut into its rim."""
    circle = Circle(x=middle, y=rim, radius=width / 2)
    cut = polygon_of(front).difference(Polygon(circle_ring(circle)))
    return profile_of(cut, circles=(circle,))


def arrange(n: BoxNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels of a box, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    f = frame_of(n, a)
    check_box(n, f, a=a)
    if a.impossible:
        return a.done()
    # Walls end at a fixed top, so that they follow it where it is tilted.
    topped = n.top is Top.FIXED
    above = (Bound(mate="lid"),) if topped else ()
    rim, high = (2 * f.h, 2 * f.h) if topped else (f.front_h, f.h)
    front = rectangle(-f.w / 2, -f.h / 2, x1=1.5 * f.w, y1=rim)
    if n.thumb_notch:
        front = _with_notch(front, n.thumb_notch, middle=f.w / 2, rim=rim)
    # Walls and base reach out beyond their mates and are bound to them: when one is moved, the others follow.
    ends = tuple(Bound(mate=m) for m in ("left", "right")), tuple(Bound(mate=m) for m in ("front", "back"))
    below, middle = (Bound(mate="base"), *above), (f.base_t + f.front_h - f.top_t) / 2
    deep = rectangle(-f.d / 2, -f.h / 2, x1=1.5 * f.d, y1=high)
    a.add(
        "base",
        "Base",
        role="base",
        envelope=rectangle(-f.w / 2, -f.d / 2, x1=1.5 * f.w, y1=1.5 * f.d),
        pose=lying(0),
        datum=0.0,
        rank=1,
        bounds=(*ends[0], *ends[1]),
    )
    a.add("front", "Front", role="walls", envelope=front, pose=facing_front(0), datum=1.0, rank=4, bounds=(*ends[0], *below), inside=(f.w / 2, middle))
    back = rectangle(-f.w / 2, -f.h / 2, x1=1.5 * f.w, y1=high)
    a.add("back", "Back", role="walls", envelope=back, pose=facing_front(f.d), datum=0.0, rank=4, bounds=(*ends[0], *below), inside=(f.w / 2, middle))
    a.add("left", "Left side", role="walls", envelope=deep, pose=facing_right(0), datum=0.0, rank=3, bounds=(*ends[1], *below), inside=(f.d / 2, middle))
    a.add("right", "Right side", role="walls", envelope=deep, pose=facing_right(f.w), datum=1.0, rank=3, bounds=(*ends[1], *below), inside=(f.d / 2, middle))
    _dividers(n, f, a=a)
    close_box(n.top, f, a=a, hole=n.lid_hole)
    _dimensions(n, f, a=a)
    _rooms(n, f, a=a)
    return a.done()


def _dividers(n: BoxNumbers, f: Frame, *, a: Arranger) -> None:
    top = f.base_t + divider_height(n, f)
    clear = (Bound(mate="lid", reach=Reach.NEAR, proud=-TOP_GAP),) if n.top is Top.FIXED else ()
    for axis, number, outer, run, mates in (("y", n.columns, f.w, f.d, ("front", "back")), ("x", n.rows, f.d, f.w, ("left", "right"))):
        bounds = (*(Bound(mate=m) for m in mates), Bound(mate="base"), *clear)
        for i, at in enumerate(positions(number, outer, a=a), start=1):
            pose = facing_right(at) if axis == "y" else facing_front(at)
            name = ("column", "Column") if axis == "y" else ("row", "Row")
            a.add(
                f"{name[0]}-{i}",
                f"{name[1]} divider {i}",
                role="dividers",
                envelope=rectangle(-run / 2, -top / 2, x1=1.5 * run, y1=top),
                pose=pose,
                datum=0.5,
                rank=6 if axis == "x" else 5,
                bounds=bounds,
                inside=(run / 2, top / 2),
            )


def _rooms(n: BoxNumbers, f: Frame, *, a: Arranger) -> None:
    """Note the compartments, from the front left one on, which things are set in from above."""
    edges_x = [0.0, *positions(n.columns, f.w, a=a), f.w]
    edges_y = [0.0, *positions(n.rows, f.d, a=a), f.d]
    for j, (y0, y1) in enumerate(pairwise(edges_y)):
        for i, (x0, x1) in enumerate(pairwise(edges_x)):
            k = j * n.columns + i + 1
            label, thing = ("Inside", "Insert") if n.columns * n.rows == 1 else (f"Compartment {k}", f"Insert {k}")
            a.room(f"room-{k}", label, within=((x0 + x1) / 2, (y0 + y1) / 2, f.base_t + divider_height(n, f) / 3), mouth=Z, thing=thing)


def _dimensions(n: BoxNumbers, f: Frame, *, a: Arranger) -> None:
    less = {Sizing.OUTSIDE: (0.0, 0.0, 0.0), Sizing.INSIDE: (f.wall_t, f.base_t, f.top_t), Sizing.CENTRE: (f.wall_t / 2, f.base_t / 2, f.top_t / 2)}
    side, low, high = less[n.sizing]
    a.shows("width", (side, 0, 0), end=(f.w - side, 0, 0))
    a.shows("depth", (f.w, side, 0), end=(f.w, f.d - side, 0))
    a.shows("height", (0, 0, low), end=(0, 0, f.h - high))
    if n.thumb_notch:
        a.shows("thumb_notch", (f.w / 2 - n.thumb_notch / 2, 0, f.front_h), end=(f.w / 2 + n.thumb_notch / 2, 0, f.front_h))
    if n.lid_hole and n.top.value in _CLOSED:
        a.shows("lid_hole", (f.w / 2 - n.lid_hole / 2, f.d / 2, f.h), end=(f.w / 2 + n.lid_hole / 2, f.d / 2, f.h))
    for name, number, outer in (("columns", n.columns, f.w), ("rows", n.rows, f.d)):
        at = [0.0, *positions(number, outer, a=a), outer][:2]
        a.shows(name, (at[0], 0, f.h) if name == "columns" else (0, at[0], f.h), end=(at[1], 0, f.h) if name == "columns" else (0, at[1], f.h))
    if n.columns * n.rows > 1:
        a.shows("divider_drop", (f.w, f.d / 2, f.base_t + divider_height(n, f)), end=(f.w, f.d / 2, f.h))
    if n.sizing is not Sizing.INSIDE:
        a.fact("Clear inside", f.w - 2 * f.wall_t, f.d - 2 * f.wall_t, f.h - f.base_t - f.top_t)
    if n.sizing is not Sizing.OUTSIDE:
        a.fact("Outside", f.w, f.d, f.h)


__all__ = ["ROLES", "BoxNumbers", "Sizing", "Top", "arrange"]
