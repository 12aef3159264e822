"""Two revisions side by side: which parts are others, and along which edges."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from notchcore.design.assembly import Part
from notchcore.geom.planar import lines_off
from notchcore.geom.profile import Profile, Ring, bounds_of

SEEN = 0.01  # [mm] a smaller difference is none


class Change(StrEnum):
    """What became of a part."""

    SAME = "same"
    CHANGED = "changed"
    ADDED = "added"
    GONE = "gone"


@dataclass(frozen=True, slots=True, kw_only=True)
class PartChange:
    """A part then and now, both with their lower left corner at the origin; the edges of each that the other has not."""

    part: str
    label: str
    change: Change
    then: Profile | None
    now: Profile | None
    edges_then: tuple[Ring, ...] = ()
    edges_now: tuple[Ring, ...] = ()
    stock_changed: bool = False


def _at_origin(profile: Profile) -> Profile:
    x0, y0, _, _ = bounds_of(profile.outer)

    def moved(ring: Ring) -> Ring:
        return tuple((x - x0, y - y0) for x, y in ring)

    return Profile(outer=moved(profile.outer), holes=tuple(moved(h) for h in profile.holes))


def _rings(profile: Profile) -> list[Ring]:
    return [profile.outer, *profile.holes]


def changes_between(then: Iterable[Part], now: Iterable[Part]) -> tuple[PartChange, ...]:
    """Return every part of either revision with what changed of it, those that changed first."""
    before, after = {p.id: p for p in then}, {p.id: p for p in now}
    found = []
    for pid in {**after, **before}:
        old, new = before.get(pid), after.get(pid)
        was, is_ = _at_origin(old.profile) if old else None, _at_origin(new.profile) if new else None
        label = (new or old).label if new or old else pid  # type: ignore[union-attr]
        if was is None or is_ is None:
            found.append(PartChange(part=pid, label=label, change=Change.ADDED if was is None else Change.GONE, then=was, now=is_))
            continue
        gone, added = lines_off(_rings(was), _rings(is_), reach=SEEN), lines_off(_rings(is_), _rings(was), reach=SEEN)
        other_stock = old is not None and new is not None and old.stock != new.stock
        change = Change.CHANGED if gone or added or other_stock else Change.SAME
        found.append(PartChange(part=pid, label=label, change=change, then=was, now=is_, edges_then=gone, edges_now=added, stock_changed=other_stock))
    return tuple(sorted(found, key=lambda c: (c.change is Change.SAME, c.label)))
