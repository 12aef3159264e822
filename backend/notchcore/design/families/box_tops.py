"""What closes a box: a fixed top, a lid that lifts off or slides in, or a sleeve in which the box is a drawer."""

from __future__ import annotations

from dataclasses import replace

from notchcore.design.arrangement import Arranger, Bound, facing_front, facing_right, lying, seen_from_below
from notchcore.design.families.box_room import LID_PLAY, SLIDE_PLAY, Frame, Top
from notchcore.geom.profile import Circle, Profile, circle_ring, rectangle
from notchcore.units import Mm

SLEEVE_PLAY: Mm = 0.75  # per side, so that a drawer runs without catching
WALLS = ("front", "back", "left", "right")


def plate(w: Mm, d: Mm, *, hole: Mm, x0: Mm = 0.0, y0: Mm = 0.0) -> Profile:
    """Return a rectangle with a round hole in the middle of it, when `hole` is a diameter."""
    plain = rectangle(x0, y0, x1=x0 + w, y1=y0 + d)
    if not hole:
        return plain
    circle = Circle(x=x0 + w / 2, y=y0 + d / 2, radius=hole / 2)
    return Profile(outer=plain.outer, holes=(tuple(reversed(circle_ring(circle))),), circles=(circle,))


def close_box(top: Top, f: Frame, *, a: Arranger, hole: Mm) -> None:
    """Add the panels of a top."""
    if top is Top.FIXED:
        wide = plate(2 * f.w, 2 * f.d, hole=0.0, x0=-f.w / 2, y0=-f.d / 2)
        lid = replace(plate(f.w, f.d, hole=hole), outer=wide.outer)
        a.add("lid", "Top", role="lid", envelope=lid, pose=lying(f.h), datum=1.0, rank=2, bounds=tuple(Bound(mate=w) for w in WALLS))
    elif top is Top.LIFT_OFF:
        _lift_off(f, a, hole=hole)
    elif top is Top.SLIDE_IN:
        _slide_in(f, a, hole=hole)
    elif top is Top.DRAWER:
        _sleeve(f, a)


def _lift_off(f: Frame, a: Arranger, *, hole: Mm) -> None:
    # Seen from below, so that the locating outline is scored on the face that touches.
    under = seen_from_below(f.h, f.w)
    a.add("lid", "Lid", role="lid", envelope=plate(f.w, f.d, hole=hole), pose=under, datum=1.0)
    offset = f.wall_t + LID_PLAY
    inset = plate(f.w - 2 * offset, f.d - 2 * offset, hole=hole, x0=offset, y0=offset)
    a.add("lid-key", "Lid key plate", role="lid", envelope=inset, pose=under, datum=0.0)
    a.rest(("lid", "lid-key"), WALLS)


def _slide_in(f: Frame, a: Arranger, *, hole: Mm) -> None:
    """Two rails glued to each side hold the lid between them; the front is low enough to let it out."""
    low, high = f.groove
    inner = (f.wall_t, f.d - f.wall_t)
    rails = []
    for side, name, x, datum in (("left", "Left", f.wall_t, 0.0), ("right", "Right", f.w - f.wall_t, 1.0)):
        for where, bottom in (("upper", high), ("lower", low - f.rail)):
            pid = f"{side}-rail-{where}"
            a.add(
                pid,
                f"{name} rail, {where}",
                role="walls",
                envelope=rectangle(inner[0], bottom, x1=inner[1], y1=bottom + f.rail),
                pose=facing_right(x),
                datum=datum,
            )
            rails.append(pid)
    width = f.w - 2 * f.wall_t - 2 * LID_PLAY
    lid = plate(width, f.d - f.wall_t - LID_PLAY, hole=hole, x0=f.wall_t + LID_PLAY)
    a.add("lid", "Sliding lid", role="lid", envelope=lid, pose=lying(low + SLIDE_PLAY / 2), datum=0.0, loose=True)
    a.rest(("lid",), (*WALLS, *rails))
    a.rest(tuple(rails), ("front", "back"))


def _sleeve(f: Frame, a: Arranger) -> None:
    """Five panels round the box, open at the front."""
    t, p = a.t("lid"), SLEEVE_PLAY
    x0, x1, y1, z0, z1 = -p - t, f.w + p + t, f.d + p + t, -p - t, f.h + p + t
    floor, side = rectangle(x0, 0, x1=x1, y1=y1), rectangle(0, z0, x1=y1, y1=z1)
    a.add("sleeve-base", "Sleeve, bottom", role="lid", envelope=floor, pose=lying(z0), datum=0.0, rank=1)
    a.add("sleeve-top", "Sleeve, top", role="lid", envelope=floor, pose=lying(z1), datum=1.0, rank=1)
    a.add("sleeve-left", "Sleeve, left", role="lid", envelope=side, pose=facing_right(x0), datum=0.0, rank=3)
    a.add("sleeve-right", "Sleeve, right", role="lid", envelope=side, pose=facing_right(x1), datum=1.0, rank=3)
    a.add("sleeve-back", "Sleeve, back", role="lid", envelope=rectangle(x0, z0, x1=x1, y1=z1), pose=facing_front(y1), datum=0.0, rank=4)
