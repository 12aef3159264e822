"""Packing by construction: parts are laid one after the other into the first free place, for many orders of the parts.

Anytime: the first order gives a legal answer, better ones replace it. The same seed and number of rounds give the same
answer; the clock (through `should_stop`) only cuts the search off.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass

from notchcore.errors import NestError
from notchcore.geom.planar import Polygon, moved, pieces
from notchcore.geom.profile import area_of, net_area, polygon_of
from notchcore.nest.gate import faults, placed_shape
from notchcore.nest.raster import Board, Stamp, blocked_outside, stamp_of
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout, Unplaced, size_of
from notchcore.units import Mm

CELLS_ALONG = 640  # finest grid along the longest sheet side
FINEST: Mm = 0.5
NO_SPACING: Mm = 1e-6  # a distance below this is none, and no library grows a shape by it
MITRE = 1.5  # grown corners are cut here: never under-grown, and right corners get no extra points


@dataclass(frozen=True, slots=True)
class _Ready:
    """A sheet kind with its grid: cells cover the outline shrunk by margin less half the spacing."""

    kind: SheetKind
    x0: Mm
    y0: Mm
    columns: int
    rows: int
    blocked: int


@dataclass(frozen=True, slots=True)
class _Answer:
    score: tuple[float, ...]
    layouts: list[tuple[_Ready, int, list[tuple[str, int, Stamp, int, int]]]]
    left: list[tuple[str, int]]


def _ready(kind: SheetKind, rules: NestRules, cell: Mm) -> _Ready | None:
    """Return a sheet cut down to the bed, with its grid; None when nothing usable is left."""
    ring = Polygon(kind.ring()).intersection(Polygon([(0, 0), (rules.bed_width, 0), (rules.bed_width, rules.bed_height), (0, rules.bed_height)]))
    inset = rules.margin - rules.spacing / 2
    usable = pieces(ring if abs(inset) < NO_SPACING else ring.buffer(-inset, join_style="mitre"))
    if not usable:
        return None
    shape = max(usable, key=lambda p: p.area)
    x0, y0, x1, y1 = shape.bounds
    columns, rows = int((x1 - x0) / cell + 1e-6), int((y1 - y0) / cell + 1e-6)
    if columns < 1 or rows < 1:
        return None
    at_zero = moved(shape, (1.0, 0.0, 0.0, 1.0, -x0, -y0))
    whole = abs(at_zero.area - (x1 - x0) * (y1 - y0)) < 1e-6
    return _Ready(kind, x0, y0, columns, rows, 0 if whole else blocked_outside(at_zero, columns=columns, rows=rows, cell=cell))


def _stamps(part: NestPart, rules: NestRules, cell: Mm) -> list[Stamp]:
    """Return the part in each allowed turn, without turns that look the same."""
    found: list[Stamp] = []
    shape = polygon_of(part.profile)
    grown = shape if rules.spacing < NO_SPACING else pieces(shape.buffer(rules.spacing / 2, join_style="mitre", mitre_limit=MITRE))[0]
    for turn in rules.turns:
        a = math.radians(turn)
        cos, sin = round(math.cos(a), 12), round(math.sin(a), 12)
        stamp = stamp_of(moved(grown, (cos, -sin, sin, cos, 0.0, 0.0)), turn=turn, cell=cell)
        if not any((s.columns, s.rows, s.blocks) == (stamp.columns, stamp.rows, stamp.blocks) for s in found):
            found.append(stamp)
    return found


def _fill(
    order: list[tuple[str, int]], stamps: dict[str, list[Stamp]], sheets: list[_Ready]
) -> tuple[list[tuple[_Ready, int, list[tuple[str, int, Stamp, int, int]]]], list[tuple[str, int]]]:
    """Lay the parts in this order, each into the first sheet that takes it, opening sheets as needed."""
    supply = [(s, copy) for s in sheets for copy in range(s.kind.count)]
    open_sheets: list[tuple[_Ready, int, Board, list[tuple[str, int, Stamp, int, int]]]] = []
    left: list[tuple[str, int]] = []
    full: set[tuple[int, str, int]] = set()  # sheets only fill up: what found no place there once never will
    for part, copy in order:
        placed = False
        at = 0
        while not placed:
            if at == len(open_sheets):
                if at == len(supply):
                    break
                ready, sheet_copy = supply[at]
                open_sheets.append((ready, sheet_copy, Board(columns=ready.columns, rows=ready.rows, blocked=ready.blocked), []))
            board = open_sheets[at][2]
            options = []
            for i, s in enumerate(stamps[part]):
                if (at, part, i) in full:
                    continue
                spot = board.place_for(s)
                if spot is None:
                    full.add((at, part, i))
                else:
                    options.append((spot[0] + s.columns, spot[0], spot[1], i))
            if options:
                _, column, row, i = min(options)
                stamp = stamps[part][i]
                board.put(stamp, column, row)
                open_sheets[at][3].append((part, copy, stamp, column, row))
                placed = True
            at += 1
        if not placed:
            left.append((part, copy))
    return [(r, c, done) for r, c, _, done in open_sheets if done], left


def _score(layouts: list[tuple[_Ready, int, list[tuple[str, int, Stamp, int, int]]]], left: list[tuple[str, int]]) -> tuple[float, ...]:
    """Lower is better: unplaced parts, price (area where none is given), then how far the last sheet is used."""
    price = sum(r.kind.price or abs(area_of(r.kind.ring())) * 1e-6 for r, _, _ in layouts)
    tail = max((column + s.columns for _, _, s, column, _ in layouts[-1][2]), default=0) if layouts else 0
    return float(len(left)), round(price, 6), float(len(layouts)), float(tail)


def _orders(parts: list[NestPart], seed: int) -> list[list[tuple[str, int]]]:
    """Return the orders to begin with: by area, longer side, box and shorter side, large first."""
    copies = [(p, i) for p in parts for i in range(p.count)]
    keys: list[Callable[[NestPart], float]] = [
        lambda p: size_of(p.profile)[0] * size_of(p.profile)[1],
        lambda p: max(size_of(p.profile)),
        lambda p: net_area(p.profile),
        lambda p: min(size_of(p.profile)),
    ]
    return [[(p.id, i) for p, i in sorted(copies, key=lambda c: (-key(c[0]), c[0].id, c[1]))] for key in keys]


def _too_large(part: NestPart, stamps: list[Stamp], sheets: list[_Ready]) -> bool:
    return not any(Board(columns=s.columns, rows=s.rows, blocked=s.blocked).place_for(st) is not None for s in sheets for st in stamps)


def pack(
    parts: list[NestPart],
    sheets: list[SheetKind],
    rules: NestRules,
    *,
    rounds: int,
    seed: int,
    should_stop: Callable[[], bool] = lambda: False,
    on_better: Callable[[Nesting], None] = lambda _: None,
) -> Nesting:
    """Return the best packing found.

    Args:
        rounds: how many orders to try at most
        should_stop: asked between orders; the first order is always finished
        on_better: called with each improvement, already checked
    Raises:
        NestError: there is nothing to pack, or a packing fails the exact check (a fault of ours, never published)
    """
    if not parts:
        raise NestError("There are no parts to lay out. Build something first.")
    longest = max([s.width for s in sheets] + [s.height for s in sheets] + [1.0])
    cell = max(FINEST, longest / CELLS_ALONG)
    ready = [r for s in sheets if s.count > 0 and (r := _ready(s, rules, cell)) is not None]
    ready.sort(key=lambda r: (r.kind.price or abs(area_of(r.kind.ring())) * 1e-6, r.kind.id))  # offcuts and cheap sheets first
    by_id = {p.id: p for p in parts}
    stamps = {p.id: _stamps(p, rules, cell) for p in parts}
    reasons: dict[str, str] = {}
    for p in parts:
        if not ready:
            reasons[p.id] = "there is no sheet of this stock; buy one or choose another stock"
        elif _too_large(p, stamps[p.id], ready):
            w, h = size_of(p.profile)
            reasons[p.id] = f"{w:.0f} × {h:.0f} mm does not fit any sheet inside margin and bed"
    packable = [p for p in parts if p.id not in reasons]
    chance = random.Random(seed)
    best: _Answer | None = None
    tried = 0
    starts = _orders(packable, seed) if packable else []
    flips = [ready, list(reversed(ready))] if len(ready) > 1 else [ready]
    current = starts[0] if starts else []
    while packable and tried < rounds:
        if tried < len(starts) * len(flips):
            order, supply = starts[tried // len(flips)], flips[tried % len(flips)]
        else:
            order, supply = _shuffled(current, chance), flips[tried % len(flips)]
        layouts, left = _fill(order, stamps, supply)
        tried += 1
        score = _score(layouts, left)
        if best is None or score < best.score:
            best = _Answer(score, layouts, left)
            current = order
            on_better(_nesting(best, by_id, rules, cell, reasons, tried))
        if should_stop():
            break
    return _nesting(best or _Answer((), [], []), by_id, rules, cell, reasons, tried)


def _shuffled(order: list[tuple[str, int]], chance: random.Random) -> list[tuple[str, int]]:
    """Return the order with a few parts moved elsewhere."""
    changed = list(order)
    for _ in range(chance.randint(1, max(1, len(order) // 4))):
        changed.insert(chance.randrange(len(changed)), changed.pop(chance.randrange(len(changed))))
    return changed


def _nesting(answer: _Answer, parts: dict[str, NestPart], rules: NestRules, cell: Mm, reasons: dict[str, str], tried: int) -> Nesting:
    """Return an answer as a value, after the exact check."""
    layouts = []
    for ready, copy, done in answer.layouts:
        placements = tuple(
            Placement(part=part, copy=c, turn=s.turn, x=ready.x0 + column * cell + s.dx, y=ready.y0 + row * cell + s.dy) for part, c, s, column, row in done
        )
        kind = ready.kind
        area = abs(area_of(kind.ring()))
        layout = SheetLayout(
            sheet=kind.id, copy=copy, stock=kind.stock, name=kind.name, width=kind.width, height=kind.height, ring=kind.ring(), placements=placements,
            utilisation=sum(net_area(parts[p.part].profile) for p in placements) / area, leftover=_leftover(kind, placements, parts, rules),
        )  # fmt: skip
        wrong = faults(layout, parts, rules)
        if wrong:
            raise NestError("A packing failed its own check and was thrown away.", faults=[f.message for f in wrong[:5]])
        layouts.append(layout)
    left: dict[str, int] = {}
    for part, _ in answer.left:
        left[part] = left.get(part, 0) + 1
    unplaced = [Unplaced(part=p, count=n, why="the sheets on the shelf are full; add a sheet") for p, n in sorted(left.items())]
    unplaced += [Unplaced(part=p, count=parts[p].count, why=why) for p, why in sorted(reasons.items())]
    used = sum(abs(area_of(s.ring)) for s in layouts)
    net = sum(net_area(parts[p.part].profile) for s in layouts for p in s.placements)
    return Nesting(
        sheets=tuple(layouts),
        unplaced=tuple(unplaced),
        utilisation=net / used if used else 0.0,
        price=sum(r.kind.price for r, _, _ in answer.layouts),
        rounds=tried,
    )


def _leftover(kind: SheetKind, placements: tuple[Placement, ...], parts: dict[str, NestPart], rules: NestRules) -> tuple[Mm, Mm, Mm, Mm] | None:
    """Return the larger of the strips to the right of and above all parts, on a whole sheet."""
    if kind.outline or not placements:
        return None
    boxes = [placed_shape(parts[p.part], p).bounds for p in placements]
    right = max(b[2] for b in boxes) + rules.spacing
    top = max(b[3] for b in boxes) + rules.spacing
    strips = [(right, 0.0, kind.width, kind.height), (0.0, top, kind.width, kind.height)]
    best = max(strips, key=lambda s: (s[2] - s[0]) * (s[3] - s[1]))
    return best if min(best[2] - best[0], best[3] - best[1]) >= 20 else None


def joined(nestings: list[Nesting]) -> Nesting:
    """Return the packings of several stocks as one."""
    sheets = tuple(s for n in nestings for s in n.sheets)
    used = sum(abs(area_of(s.ring)) for s in sheets)
    net = sum(s.utilisation * abs(area_of(s.ring)) for s in sheets)
    return Nesting(
        sheets=sheets,
        unplaced=tuple(u for n in nestings for u in n.unplaced),
        utilisation=net / used if used else 0.0,
        price=sum(n.price for n in nestings),
        rounds=sum(n.rounds for n in nestings),
    )
