"""Step and repeat: equal parts in rows at one pitch, for batches that are easy to jig, to count and to lift out.

Pitch   from one part to the next in a row, and from row to row; every other row may be moved by half a pitch
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from notchcore.errors import NestError, require
from notchcore.geom.near import Near
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import area_of, polygon_of
from notchcore.nest.gate import SLACK, bad_spots, faults, placed_shape, shape_at, touches_bad
from notchcore.nest.laid import sheet_layout
from notchcore.nest.values import NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

STEPS = 60  # places tried between no pitch and the part's own box
CLOSE: Mm = 0.005
MOST_SIDE_BY_SIDE = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class Grid:
    """How a person wants the rows: so many columns and rows on each sheet, so far apart; what is not said is as many or as near as it goes."""

    columns: int = 0
    rows: int = 0
    gap_x: Mm | None = None  #: between the parts' boxes
    gap_y: Mm | None = None

    def __post_init__(self) -> None:
        require("columns", self.columns, least=0, most=MOST_SIDE_BY_SIDE, unit="")
        require("rows", self.rows, least=0, most=MOST_SIDE_BY_SIDE, unit="")
        for gap in (self.gap_x, self.gap_y):
            if gap is not None:
                require("gap", gap, least=0, most=1000)

    @property
    def is_plain(self) -> bool:
        return self == Grid()


@dataclass(frozen=True, slots=True)
class Pattern:
    """How a part is repeated: its turn, the pitches, and how far every other row is moved."""

    turn: int
    along: Mm
    across: Mm
    shift: Mm


def _apart(a: Polygon, others: Sequence[Polygon], *, spacing: Mm) -> bool:
    return not any(a.distance(o) < spacing - SLACK or a.intersection(o).area > SLACK for o in others)


def _moved(shape: Polygon, dx: Mm, *, dy: Mm) -> Polygon:
    return shape_at(shape, 0, x=dx, y=dy)


def _least(most: Mm, is_free: Callable[[Mm], bool]) -> Mm:
    """Return the least distance from which on everything up to `most` is free, to a few thousandths."""
    step = most / STEPS
    free = most
    while free - step > 0 and is_free(free - step):
        free -= step
    bad = max(free - step, 0.0)
    while free - bad > CLOSE:
        middle = (free + bad) / 2
        free, bad = (middle, bad) if is_free(middle) else (free, middle)
    return free


def patterns(part: NestPart, rules: NestRules, *, grid: Grid = Grid()) -> list[Pattern]:
    """Return ways to repeat a part, in each turn that it may have: straight rows, and rows moved by half a pitch where nobody said how.

    Raises:
        NestError: a gap is less than the parts need between them
    """
    some = [p for turn in dict.fromkeys(t % 180 for t in part.may_turn(rules)) for p in _in_turn(part, turn, spacing=rules.spacing)]
    return some if grid.is_plain else [_gapped(part, p, grid=grid, rules=rules) for p in some if not p.shift]


def _gapped(part: NestPart, pattern: Pattern, *, grid: Grid, rules: NestRules) -> Pattern:
    x0, y0, x1, y1 = shape_at(polygon_of(part.profile), pattern.turn, x=0.0, y=0.0, mirrored=part.sides[0]).bounds
    for gap in (grid.gap_x, grid.gap_y):
        if gap is not None and gap < rules.spacing - SLACK:
            raise NestError(say("row_gap_below_spacing", gap=mm(gap), spacing=mm(rules.spacing)), field="gap")
    along = pattern.along if grid.gap_x is None else x1 - x0 + grid.gap_x
    across = pattern.across if grid.gap_y is None else y1 - y0 + grid.gap_y
    return replace(pattern, along=along, across=across)


def _in_turn(part: NestPart, turn: int, *, spacing: Mm) -> list[Pattern]:
    shape = shape_at(polygon_of(part.profile), turn, x=0.0, y=0.0, mirrored=part.sides[0])
    x0, y0, x1, y1 = shape.bounds

    def beside(d: Mm) -> bool:
        return _apart(shape, [_moved(shape, d, dy=0.0)], spacing=spacing)

    along = _least(x1 - x0 + spacing, beside)
    found = []
    for shift in (0.0, along / 2):
        row = [_moved(shape, k * along + shift, dy=0.0) for k in (-2, -1, 0, 1, 2)]

        def above(d: Mm, row: Sequence[Polygon] = row) -> bool:
            return _apart(_moved(shape, 0.0, dy=d), row, spacing=spacing)

        found.append(Pattern(turn, along, _least(y1 - y0 + spacing, above), shift))
    return found


def _filled(
    part: NestPart, pattern: Pattern, *, usable: Polygon, bad: Sequence[Polygon], rules: NestRules, others: Near, most: int, grid: Grid
) -> list[Placement]:
    """Return the places of a pattern on a sheet, row by row from below, around what lies there."""
    shape = shape_at(polygon_of(part.profile), pattern.turn, x=0.0, y=0.0, mirrored=part.sides[0])
    x0, y0, x1, y1 = shape.bounds
    a0, b0, a1, b1 = usable.bounds
    found: list[Placement] = []
    row = 0
    while b0 + row * pattern.across + (y1 - y0) <= b1 + SLACK and (not grid.rows or row < grid.rows):
        x, column = a0 + (pattern.shift if row % 2 else 0.0), 0
        while x + (x1 - x0) <= a1 + SLACK and len(found) < most and (not grid.columns or column < grid.columns):
            place = Placement(part=part.id, copy=len(found), turn=pattern.turn, x=x - x0, y=b0 + row * pattern.across - y0, mirrored=part.sides[0])
            there = placed_shape(part, place)
            if (
                usable.covers(there)
                and not any(touches_bad(there, b, spacing=rules.spacing) for b in bad)
                and others.within(there, rules.spacing - SLACK, touch=SLACK) is None
            ):
                found.append(place)
            x, column = x + pattern.along, column + 1
        row += 1
    return found


def in_rows(
    part: NestPart,
    sheets: Sequence[SheetKind],
    *,
    rules: NestRules,
    parts: Sequence[NestPart],
    locked: Sequence[SheetLayout] = (),
    grid: Grid = Grid(),
) -> list[SheetLayout]:
    """Return the locked sheets with the copies of a part in rows: on what lies there first, then on the cheapest sheets.

    Copies for which no sheet has a place stay out: the packing tells what became of them.

    Raises:
        NestError: a gap of the grid is too narrow
    """
    laid, by_id, kinds = list(locked), {p.id: p for p in parts}, {k.id: k for k in sheets}
    lying = {(p.part, p.copy) for s in laid for p in s.placements}
    free = [c for c in range(part.count) if (part.id, c) not in lying]
    used = {(s.sheet, s.copy) for s in laid}
    fresh = sorted(sheets, key=lambda k: (k.price or abs(area_of(k.ring())), k.id))
    bed = Polygon(((0, 0), (rules.bed_width, 0), (rules.bed_width, rules.bed_height), (0, rules.bed_height)))
    ways = patterns(part, rules, grid=grid)
    for kind_id, copy in [*((s.sheet, s.copy) for s in laid), *((k.id, c) for k in fresh for c in range(k.count) if (k.id, c) not in used)]:
        if not free:
            break
        kind = kinds[kind_id]
        there = next((s.placements for s in laid if (s.sheet, s.copy) == (kind_id, copy)), ())
        usable = mitred(mitred(Polygon(kind.ring()).intersection(bed), -rules.margin), SLACK / 2)
        if usable.is_empty or usable.geom_type != "Polygon":
            continue
        near = Near([placed_shape(by_id[p.part], p) for p in there])
        tried = sorted(
            (_filled(part, w, usable=usable, bad=bad_spots(kind.bad), rules=rules, others=near, most=len(free), grid=grid) for w in ways), key=len, reverse=True
        )
        new = next((t for t in tried if not faults(sheet_layout(kind, copy, placements=tuple(t), parts=by_id, rules=rules), by_id, rules=rules)), [])
        if new:
            numbered = tuple(replace(p, copy=free[p.copy]) for p in new)
            free = free[len(new) :]
            laid = [s for s in laid if (s.sheet, s.copy) != (kind_id, copy)]
            laid.append(sheet_layout(kind, copy, placements=(*there, *numbered), parts=by_id, rules=rules))
    return laid
