"""What would engrave faster: rows the other way, or an engraving divided where a wide gap is crossed row by row."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence

from notchcore.findings import Finding, Severity
from notchcore.measure.machine import Machine, Operation
from notchcore.plan.motion import sweep_time
from notchcore.plan.paths import CutPath
from notchcore.plan.raster import areas_of, photo_dots
from notchcore.plan.rows import Rows, lowest, raster_times, rows_over
from notchcore.trace.photo import rows_of
from notchcore.units import Mm
from notchcore.words.facts import Duration, Kind, Ref
from notchcore.words.render import say

WORTH = 30.0  # seconds that a hint saves at least
SHARE = 0.1  # of the engraving


def _photo_rows(path: CutPath, interval: Mm, *, images: Mapping[str, str]) -> Rows:
    """Return the burning stretches of a picture by row."""
    rows = rows_of(photo_dots(path, interval, images=images))
    tall = len(rows) > 1 and rows[0][0] == rows[1][0]
    found: Rows = {}
    for a, b in zip(rows[::2], rows[1::2], strict=True):
        (s, k), (e, _) = ((a[1], a[0]), (b[1], b[0])) if tall else (a, b)
        found.setdefault(round(k / interval), []).append((min(s, e), max(s, e)))
    return {k: sorted(some) for k, some in found.items()}


def _gaps(rows: Rows) -> list[Mm]:
    """Return the middles of gaps that every row has in common, the widest first: where an engraving may be divided."""
    ends = sorted((low, high) for some in rows.values() for low, high in some)
    reach, found = -math.inf, []
    for low, high in ends:
        if low > reach > -math.inf:
            found.append((low - reach, (low + reach) / 2))
        reach = max(reach, high)
    return [middle for _, middle in sorted(found, reverse=True)[:4]]


def divided_time(rows: Rows, at: Mm, *, speed: float, machine: Machine) -> float:
    """Return the time of rows engraved in two halves, one on either side of a place along them [s]."""
    widths = []
    for some in rows.values():
        for half in ([s for s in some if s[1] <= at], [s for s in some if s[0] >= at]):
            if half:
                widths.append(half[-1][1] - half[0][0])
    return sweep_time(widths, speed, machine=machine) + machine.pierce


def _hints(path: CutPath, beam_speed: float, *, interval: Mm, passes: int, machine: Machine, images: Mapping[str, str]) -> Iterator[tuple[str, float]]:
    """Yield code and saving [s] of what would be faster for one engraving."""
    speed = min(beam_speed, machine.raster_speed)
    if path.photo is None:
        rings = areas_of(path)
        times = raster_times(rings, speed, interval=interval, machine=machine)
        saved = (times[False] - times[True]) * passes
        if saved > max(WORTH, SHARE * times[False] * passes):
            yield "rows_upright", saved
        upright = times[True] < times[False]
        rows = rows_over(rings, interval, upright=upright, low=lowest(rings, upright=upright))
    else:
        rows = _photo_rows(path, interval, images=images)
    whole = sweep_time([some[-1][1] - some[0][0] for some in rows.values()], speed, machine=machine)
    best = min((divided_time(rows, at, speed=speed, machine=machine) for at in _gaps(rows)), default=whole)
    saved = (whole - best) * passes
    if saved > max(WORTH, SHARE * whole * passes):
        yield "engraving_divided", saved


def engraving_hints(
    strokes: Sequence[tuple[CutPath, float, Mm, int]], machine: Machine, *, images: Mapping[str, str], labels: Mapping[str, str]
) -> list[Finding]:
    """Return what would engrave faster on a run, with the saving.

    Args:
        strokes: path, speed [mm/s], distance of rows [mm] and passes of each
        labels: of parts by id
    """
    found = []
    for path, speed, interval, passes in strokes:
        if path.operation is not Operation.ENGRAVE:
            continue
        for code, saved in _hints(path, speed, interval=interval, passes=passes, machine=machine, images=images):
            found.append(
                Finding(
                    code=code,
                    severity=Severity.LOOK,
                    parts=(path.part,),
                    facts={"seconds": saved},
                    says=say(code, part=Ref(Kind.PART, path.part, labels.get(path.part, path.part)), saved=Duration(saved)),
                )
            )
    return found
