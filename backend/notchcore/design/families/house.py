"""The pitched-roof building: walls slotted to a roof of two panels, with openings, windows and a door.

The ridge runs from front to back; the gables are the front (y = 0) and the back. The roof's lower face meets the outer
face of a side wall at the wall height. Walls end at the roof's upper face by binding, so that unequal sheets still fit.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, Bound, facing_front, facing_right, lying
from notchcore.design.families.outlines import rounded
from notchcore.design.numbers import SMALLEST, PanelGroup, angle, check_numbers, choice, count, length
from notchcore.design.styles import Style
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Point, Polygon
from notchcore.geom.profile import Circle, Profile, circle_ring, polygon_of, profile_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, Y, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Angle, mm
from notchcore.words.language import called
from notchcore.words.render import say

ROLES = (
    PanelGroup(id="walls", label="Walls"),
    PanelGroup(id="roof", label="Roof"),
    PanelGroup(id="floor", label="Floor"),
    PanelGroup(id="trim", label="Frames, door and panes"),
)
RIDGE_SHARPEST = 80.0  # [degrees] between the roof panels: below this fingers at the ridge leave crumbs
CORNER: Mm = 2.0  # radius in the corners of windows and doors


class Floor(StrEnum):
    """Whether the house has a floor."""

    YES = "yes"
    NO = "no"


class Filling(StrEnum):
    """What goes with the openings."""

    NONE = "none"
    FRAMES = "frames"  # glued round the opening, outside
    PANES = "panes"  # windows and door are filled with pieces of their own
    FALLEN = "fallen"  # ... with what falls out of the walls: no more stock, but a gap as wide as two beams


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseNumbers:
    """The numbers of a pitched-roof building [mm]."""

    family: Literal["house"] = "house"
    width: Mm = length(120.0, "Width", least=SMALLEST)
    depth: Mm = length(140.0, "Depth", least=SMALLEST)
    wall: Mm = length(110.0, "Height of the side walls", least=SMALLEST)
    pitch: float = angle(35.0, "Roof's slope", least=12.0, most=65.0, group="Roof")
    eaves: Mm = length(18.0, "Eaves beyond the side walls", group="Roof")
    verge: Mm = length(15.0, "Roof beyond the gables", group="Roof")
    floor: Floor = choice(Floor.YES, "Floor", labels={Floor.YES: "with floor", Floor.NO: "open below"}, group="Walls")
    hole: Mm = length(0.0, "Round entrance, diameter", scales=False, none_at_zero=True, least=3.0, group="Openings")
    hole_height: Mm = length(90.0, "Entrance's middle above the base", group="Openings")
    door_width: Mm = length(0.0, "Door, width", none_at_zero=True, least=4.0, group="Openings")
    door_height: Mm = length(60.0, "Door, height", least=4.0, group="Openings")
    windows: int = count(0, "Windows in each side wall", least=0, most=12, group="Openings")
    window_width: Mm = length(24.0, "Window, width", least=4.0, group="Openings")
    window_height: Mm = length(30.0, "Window, height", least=4.0, group="Openings")
    filling: Filling = choice(
        Filling.NONE,
        "With",
        labels={Filling.NONE: "nothing", Filling.FRAMES: "frames", Filling.PANES: "door and panes", Filling.FALLEN: "what falls out"},
        group="Openings",
    )
    frame: Mm = length(5.0, "Frame's width", least=3.0, group="Openings", only=("filling", ("frames",)))

    def __post_init__(self) -> None:
        check_numbers(self)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Opening:
    """One opening of a wall, in the wall's plane."""

    name: str
    label: str
    shape: Profile


def _round(x: Mm, y: Mm, *, diameter: Mm) -> Profile:
    circle = Circle(x=x, y=y, radius=diameter / 2)
    return Profile(outer=circle_ring(circle), circles=(circle,))


def _front_openings(n: HouseNumbers, floor_t: Mm, *, web: Mm) -> list[_Opening]:
    found, middle = [], n.width / 2
    if n.hole:
        found.append(_Opening(name="entrance", label="Entrance", shape=_round(middle, n.hole_height, diameter=n.hole)))
    if n.door_width:
        sill = floor_t + web
        shape = rounded(middle - n.door_width / 2, sill, x1=middle + n.door_width / 2, y1=sill + n.door_height, radius=CORNER)
        found.append(_Opening(name="door", label="Door", shape=shape))
    return found


def _side_openings(n: HouseNumbers) -> list[_Opening]:
    low = (n.wall - n.window_height) / 2
    share = n.depth / max(n.windows, 1)
    return [
        _Opening(
            name=f"window-{i + 1}",
            label=f"Window {i + 1}",
            shape=rounded(share * (i + 0.5) - n.window_width / 2, low, x1=share * (i + 0.5) + n.window_width / 2, y1=low + n.window_height, radius=CORNER),
        )
        for i in range(n.windows)
    ]


def _pierced(wall: Profile, openings: list[_Opening]) -> Profile:
    holes = tuple(tuple(reversed(o.shape.outer)) for o in openings)
    return Profile(outer=wall.outer, holes=holes, circles=tuple(c for o in openings for c in o.shape.circles))


def arrange(n: HouseNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels of a house, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    slope = math.radians(n.pitch)
    rise = n.width / 2 * math.tan(slope)
    floor_t = a.t("floor") if n.floor is Floor.YES else 0.0
    _check(n, a, floor_t=floor_t, rise=rise)
    if a.impossible:
        return a.done()
    cos, tw, tr = math.cos(slope), a.t("walls"), a.t("roof")
    high = n.wall + rise + 2 * tr / cos + 10
    low = n.wall + tr / cos + tw * math.tan(slope) + 3
    front, side = _front_openings(n, floor_t, web=a.web("walls")), _side_openings(n)
    under = (Bound(mate="roof-left"), Bound(mate="roof-right"))
    a.add("front", "Front", role="walls", envelope=_pierced(rectangle(0, 0, x1=n.width, y1=high), front), pose=facing_front(0), datum=1.0, rank=4, bounds=under)
    a.add("back", "Back", role="walls", envelope=rectangle(0, 0, x1=n.width, y1=high), pose=facing_front(n.depth), datum=0.0, rank=4, bounds=under)
    wall = _pierced(rectangle(0, 0, x1=n.depth, y1=low), side)
    a.add("left", "Left wall", role="walls", envelope=wall, pose=facing_right(0), datum=0.0, rank=3, bounds=under[:1])
    a.add("right", "Right wall", role="walls", envelope=wall, pose=facing_right(n.width), datum=1.0, rank=3, bounds=under[1:])
    if n.floor is Floor.YES:
        a.add("floor", "Floor", role="floor", envelope=rectangle(0, 0, x1=n.width, y1=n.depth), pose=lying(0), datum=0.0, rank=1)
    _roof(n, a, slope=slope)
    for where, openings, pose, datum in (
        ("front", front, facing_front(0), 1.0),
        ("left", side, facing_right(0), 0.0),
        ("right", side, facing_right(n.width), 1.0),
    ):
        _fill(n, a, where=where, openings=openings, pose=pose, datum=datum)
    _dimensions(n, a, floor_t=floor_t, rise=rise)
    return a.done()


def _roof(n: HouseNumbers, a: Arranger, *, slope: float) -> None:
    """Add both sides of the roof, which meet at the ridge."""
    cos, sin, tr = math.cos(slope), math.sin(slope), a.t("roof")
    reach = n.width / 2 / cos + tr * math.tan(slope) + 3
    sheet = rectangle(-n.depth - n.verge, -n.eaves, x1=n.verge, y1=reach)
    back_to_front = scale(Y, -1.0)
    left_up: Vec3 = (cos, 0.0, sin)
    right_up: Vec3 = (-cos, 0.0, sin)
    a.add(
        "roof-left",
        "Roof, left",
        role="roof",
        envelope=sheet,
        pose=Pose(origin=(0, 0, n.wall), x=back_to_front, y=left_up),
        datum=0.0,
        rank=6,
        bounds=(Bound(mate="roof-right"),),
    )
    a.add(
        "roof-right",
        "Roof, right",
        role="roof",
        envelope=_mirrored(sheet),
        pose=Pose(origin=(n.width, 0, n.wall), x=Y, y=right_up),
        datum=0.0,
        rank=5,
        bounds=(Bound(mate="roof-left"),),
    )
    if 180 - 2 * n.pitch < RIDGE_SHARPEST:
        a.rule("roof-left", "roof-right", style=Style.BUTT)
        a.look("ridge_butts", say("ridge_butts", pitch=Angle(180 - 2 * n.pitch)), number="pitch")


def _mirrored(profile: Profile) -> Profile:
    return Profile(outer=tuple((-x, y) for x, y in reversed(profile.outer)))


def _fill(n: HouseNumbers, a: Arranger, *, where: str, openings: list[_Opening], pose: Pose, datum: float) -> None:
    """Add the frames or the pieces that fill the openings of one wall."""
    for o in openings:
        if n.filling is Filling.PANES and o.name != "entrance":
            a.add(f"{where}-{o.name}", f"{o.label}, {where}", role="trim", envelope=o.shape, pose=pose, datum=datum)
        if n.filling is Filling.FALLEN and o.name != "entrance":
            a.add(f"{where}-{o.name}", f"{o.label}, {where}", role="walls", envelope=o.shape, pose=pose, datum=datum, falls_from=where)
        if n.filling is Filling.FRAMES:
            outer = mitred(polygon_of(o.shape), n.frame)
            ring = profile_of(outer.difference(polygon_of(o.shape)), circles=o.shape.circles)
            a.add(
                f"{where}-{o.name}-frame",
                called("Frame of {opening}, {wall}", opening=called(o.label).lower(), wall=called(where)),
                role="trim",
                envelope=ring,
                pose=pose,
                datum=1.0 - datum,
            )


def _dimensions(n: HouseNumbers, a: Arranger, *, floor_t: Mm, rise: Mm) -> None:
    w, middle = n.width, n.width / 2
    a.shows("width", (0, 0, 0), end=(w, 0, 0))
    a.shows("depth", (w, 0, 0), end=(w, n.depth, 0))
    a.shows("wall", (0, 0, 0), end=(0, 0, n.wall))
    a.shows("pitch", (0, 0, n.wall), end=(middle, 0, n.wall + rise))
    slope = math.radians(n.pitch)
    edge = (w + n.eaves * math.cos(slope), n.wall - n.eaves * math.sin(slope))
    a.shows("eaves", (w, n.depth / 2, n.wall), end=(edge[0], n.depth / 2, edge[1]))
    a.shows("verge", (middle, -n.verge, n.wall + rise), end=(middle, 0, n.wall + rise))
    if n.hole:
        a.shows("hole", (middle - n.hole / 2, 0, n.hole_height), end=(middle + n.hole / 2, 0, n.hole_height))
        a.shows("hole_height", (middle, 0, 0), end=(middle, 0, n.hole_height))
    if n.door_width:
        sill = floor_t + a.web("walls")
        a.shows("door_width", (middle - n.door_width / 2, 0, sill), end=(middle + n.door_width / 2, 0, sill))
        a.shows("door_height", (middle - n.door_width / 2, 0, sill), end=(middle - n.door_width / 2, 0, sill + n.door_height))
    if n.windows:
        y, z = n.depth / n.windows / 2, (n.wall - n.window_height) / 2
        a.shows("window_width", (w, y - n.window_width / 2, z), end=(w, y + n.window_width / 2, z))
        a.shows("window_height", (w, y - n.window_width / 2, z), end=(w, y - n.window_width / 2, z + n.window_height))
    a.fact("Height at the ridge", n.wall + rise + a.t("roof") / math.cos(slope))
    a.fact("Clear inside", w - 2 * a.t("walls"), n.depth - 2 * a.t("walls"), n.wall - floor_t)


def _check_entrance(n: HouseNumbers, gable: Polygon, *, a: Arranger) -> None:
    """Say where an entrance of this size fits the gable, or how large one may be."""

    def fits(height: Mm) -> bool:
        return bool(gable.contains(Polygon(_round(n.width / 2, height, diameter=n.hole).outer)))

    if fits(n.hole_height):
        return
    says = say("entrance_does_not_fit", entrance=mm(n.hole))
    heights = [k / 2 for k in range(math.ceil(2 * gable.bounds[1]), math.floor(2 * gable.bounds[3]) + 1)]
    if high := [h for h in heights if fits(h)]:
        near = min(high, key=lambda h: abs(h - n.hole_height))
        a.must("entrance_does_not_fit", "hole_height", says=says, **{"most_mm" if near < n.hole_height else "least_mm": near})
        return
    inside = [p for p in (Point(n.width / 2, h) for h in heights) if gable.contains(p)]
    a.must("entrance_does_not_fit", "hole", says=says, most_mm=1.9 * max((p.distance(gable.exterior) for p in inside), default=0.0))


def _check(n: HouseNumbers, a: Arranger, *, floor_t: Mm, rise: Mm) -> None:
    tw, web = a.t("walls"), a.web("walls")
    for number, outer, taken in (("width", n.width, 2 * tw), ("depth", n.depth, 2 * tw), ("wall", n.wall, floor_t)):
        if outer - taken < 2 * web + tw:
            need = taken + 2 * web + tw
            a.must("walls_leave_no_room", number, says=say("walls_leave_no_room.house", least=mm(need)), least_mm=need)
    if a.impossible:
        return
    room = n.width - 2 * tw - 2 * web
    if n.hole:
        gable = polygon_of(
            Profile(
                outer=(
                    (tw + web, floor_t + web),
                    (n.width - tw - web, floor_t + web),
                    (n.width - tw - web, n.wall - web),
                    (n.width / 2, n.wall + rise - 3 * web),
                    (tw + web, n.wall - web),
                )
            )
        )
        _check_entrance(n, gable, a=a)
    if n.door_width:
        if n.door_width > room:
            a.must("door_does_not_fit", "door_width", says=say("door_does_not_fit.width", most=mm(max(room, 0))), most_mm=room)
        top = floor_t + web + n.door_height
        if top > n.wall - web:
            most = n.wall - floor_t - 2 * web
            a.must("door_does_not_fit", "door_height", says=say("door_does_not_fit.height", most=mm(max(most, 0))), most_mm=most)
        if n.hole and n.hole_height - n.hole / 2 < top + web:
            a.must("entrance_meets_door", "hole_height", says=say("entrance_meets_door"), least_mm=top + web)
    if n.windows:
        _check_windows(n, a, floor_t=floor_t)


def _check_windows(n: HouseNumbers, a: Arranger, *, floor_t: Mm) -> None:
    tw, web = a.t("walls"), a.web("walls")
    extra = n.frame if n.filling is Filling.FRAMES else 0.0
    room = n.depth / n.windows - web - 2 * extra
    if n.windows == 1:
        room = min(room, n.depth - 2 * tw - 2 * web - 2 * extra)
    elif n.depth / n.windows - n.window_width < 2 * (tw + web):
        room = min(room, n.depth / n.windows - 2 * (tw + web))
    if n.window_width > room:
        a.must("windows_do_not_fit", "window_width", says=say("windows_do_not_fit.width", most=mm(max(room, 0))), most_mm=room)
    most = n.wall - 2 * max(floor_t + web, web + 2 * tw) - 2 * extra
    if n.window_height > most:
        a.must("windows_do_not_fit", "window_height", says=say("windows_do_not_fit.height", most=mm(max(most, 0))), most_mm=most)
