"""The egg-crate form: ribs both ways that follow a height field, half-lapped into each other.

Ribs longer than the bed are divided; the breaks are staggered, so that no two neighbouring ribs break at the same place,
and both sides of a break carry the same sign. The plan's front left corner is the origin.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, facing_front, facing_right
from notchcore.design.heights import Height, formula, grid
from notchcore.design.lettering import sign_of
from notchcore.design.numbers import SMALLEST, PanelGroup, check_numbers, count, length, text
from notchcore.design.panel import Panel
from notchcore.design.splits import marked, signed, split
from notchcore.design.styles import Style
from notchcore.geom.planar import Polygon, polygon_from, simplified
from notchcore.geom.profile import Profile, profile_of
from notchcore.geom.vectors import Vec2
from notchcore.ids import PieceId
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.language import called
from notchcore.words.render import say

ROLES = (PanelGroup(id="along", label="Ribs along the width"), PanelGroup(id="across", label="Ribs front to back"))
MOST_RIBS = 60
SAMPLE: Mm = 2.5  # distance of the points on a rib's top
TOP_FINE: Mm = 0.005  # points that change the top by less are left out: everything after is quicker
HILL = "0.15 + 0.8*exp(-9*((x-0.38)**2 + (y-0.45)**2)) + 0.35*exp(-22*((x-0.8)**2 + (y-0.7)**2))"
BED_MARGIN: Mm = 8.0  # from a rib's end to the end of the bed
STAGGER = 2  # breaks of neighbouring ribs are at least this many pitches apart, where possible


@dataclass(frozen=True, slots=True, kw_only=True)
class CrateNumbers:
    """The numbers of an egg-crate form [mm]."""

    family: Literal["crate"] = "crate"
    width: Mm = length(360.0, "Width", least=SMALLEST)
    depth: Mm = length(240.0, "Depth", least=SMALLEST)
    low: Mm = length(20.0, "Lowest height", least=4.0)
    rise: Mm = length(80.0, "Rise above it", group="Sizes")
    along: int = count(6, "Ribs along the width", least=1, most=MOST_RIBS, group="Ribs")
    across: int = count(9, "Ribs front to back", least=1, most=MOST_RIBS, group="Ribs")
    longest: Mm = length(0.0, "Divide ribs longer than", none_at_zero=True, least=40.0, scales=False, group="Ribs", says="0: than the bed")
    formula: str = text(HILL, "Height, of x and y from 0 to 1", group="Form")
    grid: tuple[tuple[float, ...], ...] = ()  #: heights as shares of the rise, front row first; instead of the formula

    def __post_init__(self) -> None:
        check_numbers(self)
        _ = self.height  # a formula or grid that gives no heights is told here

    @property
    def height(self) -> Height:
        return grid(self.grid) if self.grid else formula(self.formula)


def for_bed(n: CrateNumbers, bed: tuple[Mm, Mm]) -> CrateNumbers:
    """Return the numbers with ribs divided that no turn lays onto the bed, unless a person says how long they may be."""
    longest = max(bed) - 2 * BED_MARGIN
    return n if n.longest or max(n.width, n.depth) <= longest else replace(n, longest=longest)


def break_places(total: Mm, longest: Mm, *, allowed: Sequence[Mm], pitch: Mm, lap: Mm) -> tuple[tuple[Mm, ...], tuple[Mm, ...]] | None:
    """Return where ribs are divided, every other rib by the first answer and those between by the second; None when it cannot be.

    Each piece with half the lap on both its sides is at most `longest`. No two neighbours break in one line if a way avoids it, with
    a piece more where that helps; then there are as few breaks as possible, as far apart as STAGGER pitches, and pieces as equal as possible.

    Args:
        allowed: places between two crossings, ascending [mm]
        lap: how far both sides of a break reach over each other [mm]
    """
    if total <= longest:
        return (), ()
    least = next(
        (
            k
            for k in range(math.ceil(total / longest) - 1, len(allowed) + 1)
            if _breaks(total, longest, allowed=allowed, taken=(), pitch=pitch, number=k, lap=lap)
        ),
        None,
    )
    if least is None:
        return None
    ways = []
    for first_number, second_number in ((least, least), (least, least + 1)):
        for shift in range(-STAGGER, STAGGER + 1):
            first = _breaks(total, longest, allowed=allowed, taken=(), pitch=pitch, number=first_number, lap=lap, shift=shift * pitch)
            second = _breaks(total, longest, allowed=allowed, taken=first[1], pitch=pitch, number=second_number, lap=lap) if first else None
            if first and second:
                gap = min((abs(a - b) for a in first[1] for b in second[1]), default=math.inf)
                uneven = sum((b - a) ** 2 for one in (first[1], second[1]) for a, b in itertools.pairwise((0.0, *one, total)))
                ways.append((gap < pitch / 2, second_number, -min(gap, STAGGER * pitch), uneven, first[1], second[1]))
    return min(ways)[-2:]


def _breaks(
    total: Mm, longest: Mm, *, allowed: Sequence[Mm], taken: Sequence[Mm], pitch: Mm, number: int, lap: Mm, shift: Mm = 0.0
) -> tuple[float, tuple[Mm, ...]] | None:
    """Return `number` breaks of one rib and what they cost, away from the neighbour's and near equal pieces moved by `shift`; None for no way."""
    best: dict[Mm, tuple[float, tuple[Mm, ...]]] = {0.0: (0.0, ())}
    for k in range(1, number + 1):
        ideal = total * k / (number + 1) + shift
        step: dict[Mm, tuple[float, tuple[Mm, ...]]] = {}
        for at in allowed:
            near = sum(STAGGER - int((abs(at - t) + 1e-6) / pitch) for t in taken if abs(at - t) < STAGGER * pitch - 1e-6)
            for before, (cost, places) in best.items():
                if at <= before or at - before + (lap if before else lap / 2) > longest:
                    continue
                sum_ = cost + 1e6 * near**2 + (at - ideal) ** 2
                if at not in step or sum_ < step[at][0]:
                    step[at] = (sum_, (*places, at))
        best = step
    ends = [found for at, found in best.items() if total - at + lap / 2 <= longest]
    return min(ends) if ends else None


def arrange(n: CrateNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the ribs of a form, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    _check(n, a)
    if a.impossible:
        return a.done()
    height = n.height
    pitch_y, pitch_x = n.depth / n.along, n.width / n.across
    rows = [(i + 0.5) * pitch_y for i in range(n.along)]
    columns = [(j + 0.5) * pitch_x for j in range(n.across)]
    for i, y in enumerate(rows):
        shape = _rib(n, n.width, shares=_shares(height, True, fixed=y / n.depth, steps=_steps(n.width)))
        a.add(f"along-{i + 1}", called("Rib {number}", number=_letter(i)), role="along", envelope=shape, pose=facing_front(y), datum=0.5, rank=2)
    for j, x in enumerate(columns):
        shape = _rib(n, n.depth, shares=_shares(height, False, fixed=x / n.width, steps=_steps(n.depth)))
        a.add(f"across-{j + 1}", f"Rib {j + 1}", role="across", envelope=shape, pose=facing_right(x), datum=0.5, rank=1)
    if n.longest:
        breaks = itertools.count()
        _divide(n, a, family="along", total=n.width, crossings=columns, pitch=pitch_x, breaks=breaks)
        _divide(n, a, family="across", total=n.depth, crossings=rows, pitch=pitch_y, breaks=breaks)
    rooms = {"along": pitch_x / 2 - a.t("across"), "across": pitch_y / 2 - a.t("along")}
    lap = {k: _lap(a.t(k), pitch) if n.longest else 0.0 for k, pitch in (("along", pitch_x), ("across", pitch_y))}
    a.panels = [_named(p, rooms, lap=lap) for p in a.panels]
    a.shows("width", (0, 0, 0), end=(n.width, 0, 0))
    a.shows("depth", (n.width, 0, 0), end=(n.width, n.depth, 0))
    a.shows("low", (0, 0, 0), end=(0, 0, n.low))
    a.shows("rise", (0, n.depth, n.low), end=(0, n.depth, n.low + n.rise))
    a.shows("along", (0, rows[0], n.low), end=(0, rows[1] if len(rows) > 1 else n.depth, n.low))
    a.shows("across", (columns[0], 0, n.low), end=(columns[1] if len(columns) > 1 else n.width, 0, n.low))
    a.fact("From rib to rib", pitch_x, pitch_y)
    return a.done()


def _steps(run: Mm) -> int:
    return max(2, math.ceil(run / SAMPLE))


@lru_cache(maxsize=4096)
def _shares(height: Height, along: bool, *, fixed: float, steps: int) -> tuple[float, ...]:
    """Return the heights along one rib, as shares of the rise; they stay when only sizes change."""
    return tuple(height(k / steps, fixed) if along else height(fixed, k / steps) for k in range(steps + 1))


def _letter(i: int) -> str:
    return chr(65 + i) if i < 26 else chr(64 + i // 26) + chr(65 + i % 26)


def _rib(n: CrateNumbers, run: Mm, *, shares: tuple[float, ...]) -> Profile:
    steps = len(shares) - 1
    top: list[Vec2] = [(run * k / steps, n.low + n.rise * shares[k]) for k in reversed(range(steps + 1))]
    whole = simplified(polygon_from([(0.0, 0.0), (run, 0.0), *top]), TOP_FINE)
    return profile_of(whole) if isinstance(whole, Polygon) and whole.is_valid else Profile(outer=((0.0, 0.0), (run, 0.0), *top))


def _divide(n: CrateNumbers, a: Arranger, *, family: str, total: Mm, crossings: list[Mm], pitch: Mm, breaks: Iterator[int]) -> None:
    """Divide the ribs of one direction that are longer than the bed; both sides of each break carry its sign."""
    lap = _lap(a.t(family), pitch)
    room = (pitch - lap - a.t("across" if family == "along" else "along")) / 2
    between = [(p + q) / 2 for p, q in itertools.pairwise(crossings)]
    ways = break_places(total, n.longest, allowed=between, pitch=pitch, lap=lap)
    if ways is None:
        a.must("rib_cannot_be_divided", "longest", says=say("rib_cannot_be_divided", total=mm(total, digits=0), most=mm(n.longest, digits=0)))
        return
    for panel, places in zip([p for p in a.panels if p.id.startswith(family)], itertools.cycle(ways)):
        a.panels.remove(panel)
        pieces = [panel]
        for place in places:
            left, right = split(pieces[-1], at=place, lap=lap)
            pieces[-1:] = [left, right]
            a.rule(left.id, right.id, style=Style.PUZZLE)
            sign = sign_of(next(breaks))
            pieces[-2:] = [signed(left, sign, left=False, room=room, from_edge=lap), signed(right, sign, left=True, room=room, from_edge=lap)]
        a.panels += pieces


def _named(panel: Panel, rooms: Mapping[str, Mm], *, lap: Mapping[str, Mm]) -> Panel:
    """Return a rib, or a piece of one, with its name scored on it; pieces are told apart by a number, and are panels of their own from here on."""
    kind = panel.id.partition("-")[0]
    later = bool(panel.piece_of) and PieceId.parse(panel.id).number > 1
    return marked(replace(panel, piece_of=""), panel.label.removeprefix("Rib ").replace("·", "."), room=rooms[kind], from_edge=lap[kind] if later else 0.0)


def _lap(t: Mm, pitch: Mm) -> Mm:
    return min(3 * t, 0.4 * pitch)


def _check(n: CrateNumbers, a: Arranger) -> None:
    thick = max(a.t("along"), a.t("across"))
    need = thick + max(a.web("along"), a.web("across"))
    for number, run, ribs in (("along", n.depth, n.along), ("across", n.width, n.across)):
        if run / ribs < need:
            most = max(int(run / need), 1)
            a.must("ribs_too_near", number, says=say("ribs_too_near", ribs=ribs, room=mm(run / ribs), need=mm(need), most=most), most=most)
    if n.low < 4 * thick:
        a.must("ribs_too_low", "low", says=say("ribs_too_low", least=mm(4 * thick)), least_mm=4 * thick)
