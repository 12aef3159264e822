"""Engraving in common sweeps: what lies side by side is burned together where that is faster than one after the other.

A sweep runs past both its ends and turns there. Two areas on the same rows share that, at the price of the way between them.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

from notchcore.geom.profile import bounds_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Beam, Machine, Operation, Settings
from notchcore.plan.motion import rapid_time, sweep_time
from notchcore.plan.paths import CutPath
from notchcore.plan.raster import areas_of
from notchcore.plan.rows import rows_over
from notchcore.units import Mm

ROUNDS = 4  # of merging over a whole sheet

Reach = dict[int, tuple[Mm, Mm]]  # by row: from its first to its last burning place


@dataclass(frozen=True, slots=True)
class _Group:
    """Areas that are engraved together, with the reach of their rows both ways, and how long that takes [s]."""

    paths: tuple[CutPath, ...]
    reach: tuple[Reach, Reach]
    middle: Vec2
    seconds: float


def _joined(a: Reach, b: Reach) -> Reach:
    found = dict(a)
    for k, (low, high) in b.items():
        other = found.get(k)
        found[k] = (low, high) if other is None else (min(low, other[0]), max(high, other[1]))
    return found


def _seconds(reach: tuple[Reach, Reach], beam: Beam, *, machine: Machine) -> float:
    speed = min(beam.speed, machine.raster_speed)
    return min(sweep_time([high - low for low, high in way.values()], speed, machine=machine) for way in reach) + machine.pierce


def _group(path: CutPath, beam: Beam, *, machine: Machine) -> _Group:
    rings = areas_of(path)
    ways = [rows_over(rings, beam.interval, upright=upright, low=0.0) for upright in (False, True)]
    flat, upright = ({k: (some[0][0], some[-1][1]) for k, some in rows.items()} for rows in ways)
    x0, y0, x1, y1 = bounds_of(tuple(p for ring in rings for p in ring))
    return _Group((path,), (flat, upright), ((x0 + x1) / 2, (y0 + y1) / 2), _seconds((flat, upright), beam, machine=machine))


def _merged(groups: list[_Group], axis: int, *, beam: Beam, machine: Machine) -> list[_Group]:
    """Return the groups with neighbours along an axis joined wherever that is faster."""
    found: list[_Group] = []
    for g in sorted(groups, key=lambda g: (round(g.middle[1 - axis]), g.middle[axis])):
        last = found[-1] if found else None
        if last is not None:
            reach = (_joined(last.reach[0], g.reach[0]), _joined(last.reach[1], g.reach[1]))
            seconds = _seconds(reach, beam, machine=machine)
            if seconds < last.seconds + g.seconds + rapid_time(last.middle, g.middle, machine=machine):
                found[-1] = _Group((*last.paths, *g.paths), reach, g.middle, seconds)
                continue
        found.append(g)
    return found


def _all_merged(groups: list[_Group], beam: Beam, *, machine: Machine) -> list[_Group]:
    for _ in range(ROUNDS):
        before = len(groups)
        for axis in (0, 1):
            groups = _merged(groups, axis, beam=beam, machine=machine)
        if len(groups) == before:
            break
    return groups


def engraved_together(paths: Sequence[CutPath], settings: Settings, *, machine: Machine) -> list[CutPath]:
    """Return the paths of a run with engraved areas joined where common sweeps are faster.

    Pictures, and the squares of a test card with settings of their own, stay by themselves; pockets of one depth go together.
    """
    beam = settings.engrave
    parts: defaultdict[Mm, defaultdict[tuple[str, int], list[_Group]]] = defaultdict(lambda: defaultdict(list))
    others = []
    for path in paths:
        if path.operation is Operation.ENGRAVE and path.photo is None and path.beam is None:
            parts[path.depth][path.part, path.copy].append(_group(path, beam, machine=machine))
        else:
            others.append(path)
    for alike in parts.values():
        by_part = [g for groups in alike.values() for g in _all_merged(groups, beam, machine=machine)]
        for g in _all_merged(by_part, beam, machine=machine):
            first, *rest = g.paths
            others.append(replace(first, rest=(*first.rest, *(c for p in rest for c in p.contours))))
    return others
