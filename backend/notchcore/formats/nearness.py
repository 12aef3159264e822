"""Drawings read with chords as near to their curves as a placed drawing needs, whatever unit the file is in."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol, TypeVar

from notchcore.design.features.drawing import MOST_POINTS, DrawnLine, Note, extent_of
from notchcore.words.facts import Sentence
from notchcore.words.render import say

#: of a drawing's extent: how near chords lie to curves, the next when there are too many points. The first is 0.008 mm of a metre.
NEARNESS = (8e-6, 8e-5, 8e-4, 4e-3)
ROUGHEST = 0.1  # of the extent: four chords, the fewest of a curve, lie 0.29 radii off a circle, whose extent is 2.8 radii

Dropped = tuple[str, str]  #: a key of the catalogue, and the name of what is not taken


class Reading(Protocol):
    """What was read of a file."""

    limit: Sentence | None  #: what there is more of than is read
    full: bool  #: there are more points than are taken

    @property
    def taken(self) -> list[tuple[str, DrawnLine]]: ...


R = TypeVar("R", bound=Reading)


def read_near(read: Callable[[float], R], rough: float) -> tuple[R, list[Note]]:
    """Read a drawing twice or more: roughly, to know its extent, then with chords as near as that asks for and as points suffice for.

    Args:
        read: reads it with chords up to so far off their curves [the drawing's units]
        rough: how far they may lie off when only the extent is wanted

    Returns:
        the reading, and what is to be said of it
    """
    r = first = read(rough)
    extent = extent_of(line for _, line in first.taken)
    share = NEARNESS[0]
    for share in NEARNESS if extent > 0 and not first.full else ():
        r = read(share * extent)
        if not r.full:
            break
    notes = []
    if r.full and not first.full:
        r, share = first, ROUGHEST
    if share > NEARNESS[0]:
        notes.append(Note(code="coarse", says=say("coarse", share=f"{100 * share:.2g} %")))
    limit = say("limit.points", most=MOST_POINTS) if r.full else r.limit
    if limit:
        notes.append(Note(code="too_large", says=say("too_large", limit=limit)))
    return r, notes


def dropped_notes(dropped: Mapping[Dropped, int]) -> list[Note]:
    """Return what is to be said of what a file holds and is not taken."""
    return [Note(code="left_out", says=say(key, count=n, name=name)) for (key, name), n in sorted(dropped.items())]
