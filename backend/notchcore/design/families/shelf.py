"""The shelf and the tier unit: two sides, boards between them, a back or rails behind.

A shelf's boards lie one above the other; a tier unit's boards step back like stairs. The front is y = 0, the floor z = 0.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, Bound, facing_front, facing_right, lying
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, choice, count, length
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.vectors import Y, scale
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

ROLES = (PanelGroup(id="sides", label="Sides"), PanelGroup(id="boards", label="Boards"), PanelGroup(id="back", label="Back"))
CAUTION = (
    "This program does not certify strength. Load it with care, nothing that lives below it; what people stand, sit or hang on "
    "must be designed or checked by a qualified person."
)


class Form(StrEnum):
    """Whether boards lie above each other or step back."""

    SHELF = "shelf"
    TIERS = "tiers"


class Back(StrEnum):
    """What closes the back."""

    OPEN = "open"
    RAILS = "rails"
    FULL = "full"


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfNumbers:
    """The numbers of a shelf or tier unit [mm]; outer sizes."""

    family: Literal["shelf"] = "shelf"
    width: Mm = length(320.0, "Width", least=SMALLEST)
    depth: Mm = length(150.0, "Depth", least=SMALLEST)
    height: Mm = length(300.0, "Height", least=SMALLEST)
    form: Form = choice(Form.SHELF, "Boards", labels={Form.SHELF: "above each other", Form.TIERS: "in steps"}, group="Boards")
    boards: int = count(3, "Boards", least=1, most=20, group="Boards")
    plinth: Mm = length(20.0, "Lowest board above the floor", group="Boards", only=("form", ("shelf",)))
    overlap: Mm = length(15.0, "Each step reaches under the next by", group="Boards", only=("form", ("tiers",)))
    back: Back = choice(Back.FULL, "Back", labels={Back.OPEN: "open", Back.RAILS: "rails", Back.FULL: "closed"}, group="Back")
    rail: Mm = length(30.0, "Height of a rail", least=6.0, group="Back", only=("back", ("rails",)))

    def __post_init__(self) -> None:
        check_numbers(self)


def _side(n: ShelfNumbers) -> Profile:
    """Return the outline of a side in (y, z): a rectangle, or stairs that rise to the back."""
    if n.form is Form.SHELF:
        return rectangle(0, 0, x1=n.depth, y1=n.height)
    rise, going = n.height / n.boards, n.depth / n.boards
    stairs = [(n.depth, 0.0), (n.depth, n.height)]
    for i in reversed(range(n.boards)):
        stairs += [(i * going, (i + 1) * rise), (i * going, i * rise)]
    return Profile(outer=tuple(dict.fromkeys(stairs)))


def _boards(n: ShelfNumbers, t: Mm) -> list[tuple[Mm, Mm, Mm]]:
    """Return front, back and upper face of each board."""
    if n.form is Form.TIERS:
        rise, going = n.height / n.boards, n.depth / n.boards
        # A tread lies a web below the stair's edge, so that its slot does not break out of it.
        return [(i * going, min((i + 1) * going + n.overlap, n.depth), (i + 1) * rise - 2.5 * t) for i in range(n.boards)]
    first, last = n.plinth + t, n.height - 2.5 * t
    if n.boards == 1:
        return [(0.0, n.depth, first)]
    return [(0.0, n.depth, first + (last - first) * i / (n.boards - 1)) for i in range(n.boards)]


def arrange(n: ShelfNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the panels of a shelf, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    _check(n, a)
    if a.impossible:
        return a.done()
    tb, side = a.t("boards"), _side(n)
    a.add("left", "Left side", role="sides", envelope=side, pose=facing_right(0), datum=0.0, rank=2)
    a.add("right", "Right side", role="sides", envelope=side, pose=facing_right(n.width), datum=1.0, rank=2)
    back: tuple[str, ...] = ()
    if n.back is Back.FULL:
        a.add("back", "Back", role="back", envelope=rectangle(0, 0, x1=n.width, y1=n.height), pose=facing_front(n.depth), datum=0.0, rank=3)
        back = ("back",)
    boards = _boards(n, tb)
    for i, (y0, y1, top) in enumerate(boards, start=1):
        bounds = (Bound(mate="left"), Bound(mate="right"), *(Bound(mate=b) for b in back if y1 >= n.depth - 1e-6))
        a.add(f"board-{i}", f"Board {i}", role="boards", envelope=rectangle(-20, y0, x1=n.width + 20, y1=y1), pose=lying(top), datum=1.0, bounds=bounds)
        if n.back is Back.RAILS and (n.form is Form.SHELF or i == len(boards)):
            z = top - tb
            a.add(
                f"rail-{i}",
                f"Rail {i}",
                role="back",
                envelope=rectangle(-20, z - n.rail, x1=n.width + 20, y1=z),
                pose=facing_front(n.depth - 2 * a.t("back")),
                datum=0.0,
                bounds=(Bound(mate="left"), Bound(mate="right")),
            )
            a.rest((f"rail-{i}",), tuple(f"board-{k}" for k in range(1, len(boards) + 1)))
    a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
    a.shows("depth", (n.width, 0, 0), end=(n.width, n.depth, 0))
    a.shows("height", (0, n.depth, 0), end=(0, n.depth, n.height))
    if n.form is Form.SHELF:
        a.shows("plinth", (n.width, 0, 0), end=(n.width, 0, n.plinth))
    if n.form is Form.SHELF:
        for i, (low, high) in enumerate(pairwise(boards), start=1):
            a.room(f"bay-{i}", f"Bay {i}", within=(n.width / 2, n.depth / 3, (low[2] + high[2] - tb) / 2), mouth=scale(Y, -1.0), thing=f"Box {i}")
    if len(boards) > 1:
        a.shows("boards", (n.width, boards[0][0], boards[0][2]), end=(n.width, boards[0][0], boards[1][2]))
        a.fact("Clear between boards", boards[1][2] - boards[0][2] - tb)
    a.fact("Clear width", n.width - 2 * a.t("sides"))
    return a.done()


def _check(n: ShelfNumbers, a: Arranger) -> None:
    ts, tb, web = a.t("sides"), a.t("boards"), max(a.web("sides"), a.web("boards"))
    if n.width < 2 * ts + 2 * web:
        a.must("sides_leave_no_room", "width", says=say("sides_leave_no_room", least=mm(2 * ts + 2 * web)), least_mm=2 * ts + 2 * web)
    if n.form is Form.SHELF:
        need = n.plinth + 3.5 * tb + (n.boards - 1) * (tb + web)
        if n.height < need:
            a.must("too_many_boards", "boards", says=say("too_many_boards", boards=n.boards, least=mm(need)), least_mm=need)
    else:
        rise, going = n.height / n.boards, n.depth / n.boards
        need = 3.5 * tb + 2 * web
        if rise < need:
            a.must("steps_too_low", "boards", says=say("steps_too_low", rise=mm(rise), least=mm(need)), least_mm=need)
        if going < 4 * tb:
            a.must("steps_too_shallow", "depth", says=say("steps_too_shallow", going=mm(going), least=mm(4 * tb * n.boards)))
    if n.depth < 4 * tb:
        a.must("too_shallow", "depth", says=say("too_shallow", least=mm(4 * tb)), least_mm=4 * tb)
    if n.back is Back.RAILS and n.form is Form.SHELF and n.boards > 1:
        clear = (_boards(n, tb)[1][2] - _boards(n, tb)[0][2]) - tb
        if n.rail > clear - web:
            a.must("rail_too_high", "rail", says=say("rail_too_high", most=mm(max(clear - web, 0))), most_mm=clear - web)
    if n.back is Back.RAILS and n.plinth < n.rail and n.form is Form.SHELF:
        a.must("rail_too_high", "plinth", says=say("rail_too_high.plinth", least=mm(n.rail)), least_mm=n.rail)
