"""The room in a box: its outer size, what its sheets take from it, and which wishes do not fit."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol

from notchcore.design.arrangement import Arranger
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

TOP_GAP: Mm = 0.5  # air between dividers and whatever closes the box
LID_PLAY: Mm = 0.5  # per side, so that a lid lifts off without catching
SLIDE_PLAY: Mm = 0.4  # air in the groove of a sliding lid
RAIL_LEAST: Mm = 6.0  # a rail lower than this is no longer glued well


class Sizing(StrEnum):
    """What the three sizes mean."""

    OUTSIDE = "outside"
    INSIDE = "inside"
    CENTRE = "centre"  # from middle to middle of the sheets


class Top(StrEnum):
    """What closes the box."""

    OPEN = "open"
    FIXED = "fixed"
    LIFT_OFF = "lift_off"
    SLIDE_IN = "slide_in"
    DRAWER = "drawer"  # the box is a drawer; a sleeve goes round it


class Wish(Protocol):
    """What is asked of a box; see BoxNumbers."""

    @property
    def width(self) -> Mm: ...
    @property
    def depth(self) -> Mm: ...
    @property
    def height(self) -> Mm: ...
    @property
    def sizing(self) -> Sizing: ...
    @property
    def top(self) -> Top: ...
    @property
    def columns(self) -> int: ...
    @property
    def rows(self) -> int: ...
    @property
    def divider_drop(self) -> Mm: ...
    @property
    def thumb_notch(self) -> Mm: ...
    @property
    def lid_hole(self) -> Mm: ...


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame:
    """The box's outer size and what its sheets take [mm]."""

    w: Mm
    d: Mm
    h: Mm
    base_t: Mm
    wall_t: Mm
    top_t: Mm  #: of a fixed top, 0 else
    lid_t: Mm
    rail: Mm  #: height of one rail of a slide-in lid, 0 else
    top: Top

    @property
    def groove(self) -> tuple[Mm, Mm]:
        """Return the heights between which a sliding lid runs."""
        return self.h - self.rail - self.lid_t - SLIDE_PLAY, self.h - self.rail

    @property
    def front_h(self) -> Mm:
        """Return the height of the front: a sliding lid passes over it."""
        return self.groove[0] if self.top is Top.SLIDE_IN else self.h


def frame_of(n: Wish, a: Arranger) -> Frame:
    """Return what the walls, base and lid of a box make of its typed sizes, which may be outside, inside or to the middle of the sheets."""
    wall_t, base_t, lid_t = a.t("walls"), a.t("base"), a.t("lid")
    top_t = lid_t if n.top is Top.FIXED else 0.0
    share = {Sizing.OUTSIDE: 0.0, Sizing.INSIDE: 1.0, Sizing.CENTRE: 0.5}[n.sizing]
    return Frame(
        w=n.width + 2 * share * wall_t,
        d=n.depth + 2 * share * wall_t,
        h=n.height + share * (base_t + top_t),
        base_t=base_t,
        wall_t=wall_t,
        top_t=top_t,
        lid_t=lid_t,
        top=n.top,
        rail=max(2 * wall_t, RAIL_LEAST) if n.top is Top.SLIDE_IN else 0.0,
    )


def divider_height(n: Wish, f: Frame) -> Mm:
    """Return how high dividers stand above the base, clear of whatever closes the box [mm]."""
    closed = {Top.FIXED: f.top_t + TOP_GAP, Top.LIFT_OFF: f.lid_t + TOP_GAP, Top.SLIDE_IN: f.h - f.groove[0] + f.rail + TOP_GAP}.get(n.top, 0.0)
    return f.h - f.base_t - max(n.divider_drop, closed)


def positions(number: int, outer: Mm, *, a: Arranger) -> list[Mm]:
    """Return the middles of dividers for equal compartments. Labels, not readings, so that a reading moves nothing."""
    wall, divider = a.stock("walls").layout_t, a.stock("dividers").layout_t
    room = (outer - 2 * wall - (number - 1) * divider) / number
    return [wall + i * room + (i - 0.5) * divider for i in range(1, number)]


def check_box(n: Wish, f: Frame, *, a: Arranger) -> None:
    """Note what makes the wish impossible, naming the number to change."""
    least = a.web("walls")
    for number, outer, taken in (("width", f.w, 2 * f.wall_t), ("depth", f.d, 2 * f.wall_t), ("height", f.h, f.base_t + f.top_t)):
        if outer - taken < least:
            a.must(
                "walls_leave_no_room",
                number,
                says=say("walls_leave_no_room", taken=mm(taken), number=number, outer=mm(outer), least=mm(taken + least)),
                least_mm=taken + least,
            )
    if a.impossible:
        return
    _check_compartments(n, f, a=a)
    if n.thumb_notch:
        _check_notch(n, f, a=a, least=least)
    _check_top(n, f, a=a, least=least)


def _check_compartments(n: Wish, f: Frame, *, a: Arranger) -> None:
    t, web = a.t("dividers"), max(a.web("walls"), a.web("dividers"))
    for number, wanted, inside in (("columns", n.columns, f.w - 2 * f.wall_t), ("rows", n.rows, f.d - 2 * f.wall_t)):
        room = (inside - (wanted - 1) * t) / wanted
        if wanted > 1 and room < web:
            most = max(int((inside + t) / (web + t)), 1)
            a.must(
                "too_many_compartments",
                number,
                says=say("too_many_compartments", wanted=wanted, number=number, room=mm(max(room, 0)), web=mm(web), most=most),
                most=most,
                room_mm=room,
            )
    if n.columns > 1 or n.rows > 1:
        height = divider_height(n, f)
        if height < max(2 * t, 4.0):
            a.must(
                "dividers_too_low",
                "divider_drop",
                says=say("dividers_too_low", height=mm(max(height, 0))),
                height_mm=height,
            )


def _check_notch(n: Wish, f: Frame, *, a: Arranger, least: Mm) -> None:
    """A thumb notch needs an open rim, room in the front, and no divider behind it."""
    if n.top is Top.FIXED:
        a.must("notch_too_large", "thumb_notch", says=say("notch_too_large.closed"))
        return
    room = min(f.w - 2 * f.wall_t, 2 * (f.front_h - f.base_t)) - 4 * least
    beside = [2 * (abs(at - f.w / 2) - a.t("dividers") / 2 - least) for at in positions(n.columns, f.w, a=a)]
    most = max(min([room, *beside]), 0.0)
    if n.thumb_notch > most:
        why = say("notch_too_large.divider" if beside and min(beside) < room else "notch_too_large.front")
        a.must(
            "notch_too_large",
            "thumb_notch",
            says=say("notch_too_large", thumb_notch=mm(n.thumb_notch), why=why, most=mm(most)),
            most_mm=most,
        )


def _check_top(n: Wish, f: Frame, *, a: Arranger, least: Mm) -> None:
    inside = min(f.w, f.d) - 2 * f.wall_t
    if n.lid_hole and n.top in (Top.FIXED, Top.LIFT_OFF, Top.SLIDE_IN):
        most = inside - 2 * LID_PLAY - 4 * least
        if n.lid_hole > most:
            a.must("hole_too_large", "lid_hole", says=say("hole_too_large", hole=mm(n.lid_hole), most=mm(max(most, 0))), most_mm=most)
    if n.top is Top.LIFT_OFF and inside - 2 * LID_PLAY < 2 * least:
        a.must("lid_too_small", "width", says=say("lid_too_small"))
    if n.top is Top.SLIDE_IN:
        need = f.base_t + least + 2 * f.rail + f.lid_t + SLIDE_PLAY
        if f.h < need:
            a.must("no_room_for_rails", "height", says=say("no_room_for_rails.height", least=mm(need)), least_mm=need)
        if f.w - 4 * f.wall_t < 2 * least:
            need = 4 * f.wall_t + 2 * least
            a.must("no_room_for_rails", "width", says=say("no_room_for_rails.width", least=mm(need)), least_mm=need)
