"""The order of cuts: what must come first is never broken, and travel is kept short within that.

Before    engrave before score, score before registration marks, marks before cuts; whatever lies inside a closed contour before that contour
          (holes before outlines, parts nested in a drop-out before the drop-out falls)
Late      parts that may tip between the slats, and slivers, after all others: so that the head does not pass over them again
Heat      in stocks that burn or melt the next cut begins away from where the last one ended, where that costs little
Travel    moves with the beam off: see `tour`
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from notchcore.design.edits import HOLDING
from notchcore.geom.contours import Contour, Segment, sampled
from notchcore.geom.cutters import innermost
from notchcore.geom.profile import bounds_of
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.paths import REGISTRATION, CutPath
from notchcore.plan.tour import Gate, shortest
from notchcore.units import Mm

STARTS = 16  # start points tried on a contour
HOME: Vec2 = (0.0, 0.0)
HEAT: Mm = 15.0  # between the end of a cut and the start of the next, in stocks that burn or melt
SLIVER = 10.0  # times longer than wide

_ENGRAVE, _SCORE, _MARK, _CUT, _LATE = range(5)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rules:
    """What an order minds beside travel."""

    slat_pitch: Mm = 0.0  #: a loose part narrower than this may tip between the slats
    heat: Mm = 0.0  #: how far from the last cut's end the next one should begin


NO_RULES = Rules()


def kind_rank(path: CutPath) -> int:
    """Return 0 for engraving, 1 for scoring, 2 for registration marks, 3 for cuts: all of one before any of the next."""
    if path.part == REGISTRATION:
        return _MARK
    return {Operation.ENGRAVE: _ENGRAVE, Operation.SCORE: _SCORE}.get(path.operation, _CUT)


def _small(path: CutPath, rules: Rules) -> bool:
    """Tell whether what a path frees may tip, or is a sliver."""
    x0, y0, x1, y1 = bounds_of(sampled(path.contour, sag=0.05))
    narrow, wide = sorted((x1 - x0, y1 - y0))
    loose = path.operation is Operation.OUTER and len(path.bridges) < HOLDING and rules.slat_pitch > 0
    return loose and (narrow < rules.slat_pitch or narrow < wide / SLIVER)


def _phases(paths: list[CutPath], parent: list[int], *, rules: Rules) -> list[int]:
    """Return for each path whether it is engraved, scored, cut, or cut late: all of one before any of the next.

    What lies in another's drop-out must come before that is cut, so it is late only when that is late too.
    """
    ranks = map(kind_rank, paths)
    return [_LATE if rank == _CUT and parent[i] < 0 and _small(paths[i], rules) else rank for i, rank in enumerate(ranks)]


def parents_of(paths: list[CutPath]) -> list[int]:
    """Return for each cut the innermost closed cut around it, -1 for none: it must come after."""
    cuts = [i for i, p in enumerate(paths) if p.operation in (Operation.INNER, Operation.OUTER)]
    around = innermost([(sampled(paths[i].contour, sag=0.05), paths[i].contour.closed) for i in cuts])
    parent = [-1] * len(paths)
    for i, k in zip(cuts, around, strict=True):
        parent[i] = cuts[k] if k >= 0 else -1
    return parent


def _gates(path: CutPath) -> list[tuple[Gate, int, bool]]:
    """Return where the beam may enter a path and where it then leaves it; with the segment it begins at, and whether it runs backwards."""
    contour = path.contour
    if path.lead is not None:
        return [((path.lead, contour.segments[0].start), 0, False)]
    if not contour.closed:
        start, end = contour.segments[0].start, contour.segments[-1].end
        return [((start, end), 0, False), ((end, start), 0, True)]
    count = len(contour.segments)
    if count == 1 and contour.segments[0].centre is not None:
        (cx, cy), r = contour.segments[0].centre, contour.segments[0].radius
        return [((p, p), k, False) for k, p in enumerate(((cx + r, cy), (cx, cy + r), (cx - r, cy), (cx, cy - r)))]
    step = max(1, math.ceil(count / STARTS))
    return [((contour.segments[k].start,) * 2, k, False) for k in range(0, count, step)]


def _entered(contour: Contour, gate: tuple[Gate, int, bool]) -> Contour:
    """Return the contour begun at a gate."""
    (enter, _), segment, backwards = gate
    if backwards:
        return replace(contour, segments=tuple(replace(s, start=s.end, end=s.start, ccw=not s.ccw) for s in reversed(contour.segments)))
    if len(contour.segments) == 1 and contour.closed:
        return Contour(segments=(replace(contour.segments[0], start=enter, end=enter),))
    segments: tuple[Segment, ...] = contour.segments[segment:] + contour.segments[:segment]
    return replace(contour, segments=segments)


def cutting_order(paths: list[CutPath], rules: Rules = NO_RULES) -> tuple[list[CutPath], Mm]:
    """Return the paths in cutting order, each begun at its chosen start, and the travel between them [mm]."""
    if not paths:
        return [], 0.0
    gates = [_gates(p) for p in paths]
    parent = parents_of(paths)
    order, chosen = shortest(
        [[g[0] for g in some] for some in gates], [p.contour.closed for p in paths], parent=parent, phase=_phases(paths, parent, rules=rules), heat=rules.heat
    )
    picked = [(i, gates[i][g]) for i, g in zip(order, chosen, strict=True)]
    at, travel = HOME, 0.0
    for _, ((enter, leave), _, _) in picked:
        travel += math.dist(at, enter)
        at = leave
    return [paths[i] if paths[i].lead else replace(paths[i], contour=_entered(paths[i].contour, g)) for i, g in picked], travel
