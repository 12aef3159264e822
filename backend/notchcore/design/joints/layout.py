"""Where fingers and tabs stand along a meeting, as functions of one length.

Cell     one equal division of a corner; there is always an odd number, so that a part can be flipped
Finger   a cell that keeps its material
Tab      a tongue of one panel's edge that enters a slot in the other's face
"""

from __future__ import annotations

import math

from notchcore.units import Mm

Span = tuple[Mm, Mm]

FINGER_TARGET = 3.0  # widths in sheet thicknesses, see docs/sources.md
FINGER_LEAST = 1.5
FINGER_LEAST_MM: Mm = 4.0
FINGER_MOST = 6.0
TAB_TARGET = 4.0
TAB_LEAST = 2.0
TAB_END = 1.5
TAB_PITCH = 12.0


def least_finger(t: Mm) -> Mm:
    """Return the narrowest finger that a sheet of this thickness should have [mm]."""
    return max(FINGER_LEAST * t, FINGER_LEAST_MM)


def finger_count(length: Mm, t: Mm, *, wanted: int | None = None, target: Mm | None = None) -> int:
    """Return how many cells divide a corner of this length: odd, at least 3, or 1 when three do not fit (a butt).

    Args:
        wanted: how many a person asked for
        target: how wide a person wants them [mm]
    """
    most = int(length / least_finger(t) + 1e-9)
    if most < 3:
        return 1
    by_rule = round(length / target) if target else max(round(length / (FINGER_TARGET * t)), math.ceil(length / (FINGER_MOST * t)))
    count = wanted if wanted is not None else max(by_rule, 3)
    count = min(count, most)
    return max(count if count % 2 else count - 1, 3)


def cells(start: Mm, end: Mm, *, count: int) -> list[Span]:
    """Return `count` equal cells from start to end."""
    edges = [start + (end - start) * i / count for i in range(count)] + [end]
    return [(edges[i], edges[i + 1]) for i in range(count)]


def tab_spans(
    start: Mm, end: Mm, *, t: Mm, wanted: int | None = None, target: Mm | None = None, free_start: bool = False, free_end: bool = False
) -> list[Span]:
    """Return where tabs stand between start and end; none when not even one narrow tab fits.

    Each tab sits in the middle of an equal share of the length, TAB_TARGET thicknesses wide, at most TAB_PITCH apart.

    Args:
        wanted, target: how many tabs, and how wide [mm], a person asked for
        free_start, free_end: that end is clear already (a keep-out lies behind it), so no margin is needed there
    """
    low = start + (0 if free_start else TAB_END * t)
    high = end - (0 if free_end else TAB_END * t)
    room = high - low
    if room < TAB_LEAST * t - 1e-9:
        return []
    length = end - start
    full = max(target, TAB_LEAST * t) if target else TAB_TARGET * t
    width = min(full, room)
    count = wanted if wanted is not None else max(math.ceil(length / (TAB_PITCH * t)), 2)
    while count > 1:
        width = min(full, length / count - 2 * TAB_END * t)
        if width >= TAB_LEAST * t - 1e-9:
            break
        count -= 1
    if count == 1:
        width = min(full, room)
        middle = (low + high) / 2
        return [(middle - width / 2, middle + width / 2)]
    share = length / count
    spans = [(start + share * (i + 0.5) - width / 2, start + share * (i + 0.5) + width / 2) for i in range(count)]
    return [s for s in spans if s[0] >= low - 1e-9 and s[1] <= high + 1e-9]


def without(span: Span, holes: list[Span]) -> list[Span]:
    """Return what is left of a span when holes are taken out of it."""
    left = [span]
    for h0, h1 in sorted(holes):
        rest: list[Span] = []
        for a, b in left:
            if h1 <= a + 1e-6 or h0 >= b - 1e-6:
                rest.append((a, b))
                continue
            if h0 > a + 1e-6:
                rest.append((a, h0))
            if h1 < b - 1e-6:
                rest.append((h1, b))
        left = rest
    return left
