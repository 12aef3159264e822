"""The case with drawers: sides, top and bottom, a board or two runners below each drawer, a back. Each drawer is an item of its own in its room.

The front is y = 0, the floor z = 0.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, Bound, Reach, facing_front, facing_right, lying
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, choice, count, length
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.vectors import Vec2, Y, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.language import called
from notchcore.words.render import say

ROLES = (PanelGroup(id="case", label="Case"), PanelGroup(id="boards", label="Boards"), PanelGroup(id="back", label="Back"))
MOST_DRAWERS = 12
LEAST_ROOM: Mm = 15.0  # for one drawer, high


class CaseBack(StrEnum):
    """What closes the back."""

    OPEN = "open"
    FULL = "full"


class Under(StrEnum):
    """What a drawer stands on, but for the lowest."""

    BOARD = "board"
    RUNNERS = "runners"


class Rooms(StrEnum):
    """How high the drawers are."""

    EQUAL = "equal"
    RISING = "rising"


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseNumbers:
    """The numbers of a case with drawers [mm]; outer sizes."""

    family: Literal["case"] = "case"
    width: Mm = length(220.0, "Width", least=SMALLEST)
    depth: Mm = length(160.0, "Depth", least=SMALLEST)
    height: Mm = length(180.0, "Height", least=SMALLEST)
    drawers: int = count(3, "Drawers", least=1, most=MOST_DRAWERS, group="Drawers")
    rooms: Rooms = choice(Rooms.EQUAL, "Their heights", labels={Rooms.EQUAL: "equal", Rooms.RISING: "the lowest is highest"}, group="Drawers")
    lowest: Mm = length(70.0, "Height of the lowest room", group="Drawers", only=("rooms", ("rising",)))
    under: Under = choice(Under.BOARD, "They stand on", labels={Under.BOARD: "boards", Under.RUNNERS: "runners"}, group="Drawers")
    runner: Mm = length(18.0, "Runners, width", least=5.0, scales=False, group="Drawers", only=("under", ("runners",)))
    back: CaseBack = choice(CaseBack.FULL, "Back", labels={CaseBack.FULL: "closed", CaseBack.OPEN: "open"}, group="Back")

    def __post_init__(self) -> None:
        check_numbers(self)


def heights(n: CaseNumbers, clear: Mm) -> list[Mm]:
    """Return the heights of the rooms, from below; `clear` is what all of them have together [mm].

    Those above the lowest grow lower by equal steps.
    """
    if n.rooms is Rooms.EQUAL or n.drawers == 1:
        return [clear / n.drawers] * n.drawers
    # The heights fall from `lowest` by equal steps and add up to `clear`.
    step = (n.lowest * n.drawers - clear) / (n.drawers * (n.drawers - 1) / 2)
    return [n.lowest - i * step for i in range(n.drawers)]


def arrange(n: CaseNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels of a case and the rooms of its drawers, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    t = a.t("case")
    # Labels, not readings, lay the boards out, so that a reading moves none of them.
    clear = n.height - 2 * a.stock("case").layout_t - (n.drawers - 1) * a.stock("boards").layout_t
    rooms = heights(n, clear)
    _check(n, rooms, a=a)
    if a.impossible:
        return a.done()
    ends = (Bound(mate="left"), Bound(mate="right"))
    back: tuple[Bound, ...] = (Bound(mate="back"),) if n.back is CaseBack.FULL else ()
    inside = (n.depth / 2, n.height / 2)
    side = rectangle(0, -n.height / 2, x1=1.5 * n.depth if back else n.depth, y1=1.5 * n.height)
    level = (Bound(mate="bottom"), Bound(mate="top"))
    a.add("left", "Left side", role="case", envelope=side, pose=facing_right(0), datum=0.0, rank=3, bounds=(*level, *back), inside=inside)
    a.add("right", "Right side", role="case", envelope=side, pose=facing_right(n.width), datum=1.0, rank=3, bounds=(*level, *back), inside=inside)
    flat = rectangle(-n.width / 2, 0, x1=1.5 * n.width, y1=1.5 * n.depth if back else n.depth)
    across = (n.width / 2, n.depth / 2)
    a.add("bottom", "Bottom", role="case", envelope=flat, pose=lying(0), datum=0.0, rank=2, bounds=(*ends, *back), inside=across)
    a.add("top", "Top", role="case", envelope=flat, pose=lying(n.height), datum=1.0, rank=2, bounds=(*ends, *back), inside=across)
    if back:
        upright = rectangle(-n.width / 2, -n.height / 2, x1=1.5 * n.width, y1=1.5 * n.height)
        a.add(
            "back",
            "Back",
            role="back",
            envelope=upright,
            pose=facing_front(n.depth),
            datum=0.0,
            rank=4,
            bounds=(*ends, *level),
            inside=(n.width / 2, n.height / 2),
        )
    _rooms(n, a, rooms=rooms, flat=flat, bounds=(*ends, *back), across=across)
    a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
    a.shows("depth", (n.width, 0, 0), end=(n.width, n.depth, 0))
    a.shows("height", (0, n.depth, 0), end=(0, n.depth, n.height))
    a.shows("lowest", (n.width, 0, t), end=(n.width, 0, t + rooms[0]))
    a.fact("Clear in a room", n.width - 2 * t, n.depth - (a.t("back") if back else 0.0), min(rooms))
    return a.done()


def _rooms(n: CaseNumbers, a: Arranger, *, rooms: Sequence[Mm], flat: Profile, bounds: tuple[Bound, ...], across: Vec2) -> None:
    """Add what the drawers run on, and note their rooms from the bottom up."""
    z = a.stock("case").layout_t
    on_runners = n.under is Under.RUNNERS
    middle = a.t("case") + n.runner / 2 if on_runners else n.width / 2  # of a room: over what its drawer stands on
    for i, room in enumerate(rooms, start=1):
        a.room(f"drawer-{i}", f"Room {i}", within=(middle, n.depth / 2, z + room / 2), mouth=scale(Y, -1.0), thing=f"Drawer {i}")
        z += room
        if i < n.drawers:
            if on_runners:
                _runners(a, n, i=i, z=z)
            else:
                a.add(f"board-{i}", f"Board {i}", role="boards", envelope=flat, pose=lying(z), datum=0.0, bounds=bounds, inside=across)
            z += a.stock("boards").layout_t


def _runners(a: Arranger, n: CaseNumbers, *, i: int, z: Mm) -> None:
    """Add the strips on both sides on which a drawer slides; they end before the back, which holds none of them."""
    t = a.t("case")
    there = n.back is CaseBack.FULL
    back = (Bound(mate="back", reach=Reach.NEAR),) if there else ()
    for side, low, high in (("left", -n.width / 2, t + n.runner), ("right", n.width - t - n.runner, 1.5 * n.width)):
        inside = (t + n.runner / 2 if side == "left" else n.width - t - n.runner / 2, n.depth / 2)
        strip = rectangle(low, 0, x1=high, y1=1.5 * n.depth if there else n.depth)
        name = f"runner-{i}-{side}"
        a.add(
            name,
            called("Runner {number}, {side}", number=i, side=called(side)),
            role="boards",
            envelope=strip,
            pose=lying(z),
            datum=0.0,
            bounds=(Bound(mate=side), *back),
            inside=inside,
        )
        if there:
            a.rest((name,), ("back",))


def _check(n: CaseNumbers, rooms: list[Mm], *, a: Arranger) -> None:
    t, web = a.t("case"), max(a.web("case"), a.web("boards"))
    between = max(LEAST_ROOM, 2 * n.runner + 2 * web if n.under is Under.RUNNERS else 0.0)
    if n.width < 2 * t + 2 * web + between:
        least = 2 * t + 2 * web + between
        a.must("sides_leave_no_room", "width", says=say("sides_leave_no_room", least=mm(least)), least_mm=least)
    if n.depth < 4 * t + LEAST_ROOM:
        a.must("case_too_shallow", "depth", says=say("case_too_shallow", least=mm(4 * t + LEAST_ROOM)), least_mm=4 * t + LEAST_ROOM)
    least = max(LEAST_ROOM, 2 * web)
    if min(rooms) < least:
        a.must(
            "no_room_for_drawers",
            "drawers" if n.rooms is Rooms.EQUAL else "lowest",
            says=say("no_room_for_drawers", drawers=n.drawers, room=mm(max(min(rooms), 0.0)), least=mm(least)),
            least_mm=least,
        )
