"""A problem in flat arrays, and the searchers that work on it."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, box, pieces
from notchcore.nest.prepare import Prepared, Wanted, prepared
from notchcore.nest.problem import Answer, Placed, Problem, nowhere, same_turn
from notchcore.nest.search import Fixed, Search, Snapshot, Work
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.render import say

LANES = 2  # searchers
MOST_SEPARATED = 1500  # parts and things that do not move


@dataclass(frozen=True, slots=True)
class UsableSheet:
    """One sheet, shrunk by the margin less half the spacing: its corner and size, and which kind and copy it is."""

    kind: int
    copy: int
    x: Mm
    y: Mm
    width: Mm
    height: Mm
    area: float
    cost: float


@dataclass(frozen=True, slots=True)
class Task:
    """A problem in flat arrays."""

    problem: Problem
    prepared: Prepared
    items: list[int]
    sheets: list[UsableSheet]
    fixed: list[Fixed]
    left: list[tuple[int, int, Sentence]]
    held: frozenset[int] = frozenset()  #: sheets on which locked parts lie

    def answer(self, kept: Snapshot, width: Mm) -> Answer:
        """Return where everything lies as a value; what lies on no sheet is left."""
        placed, missing = list(self.problem.locked), dict[int, int]()
        inset = self.problem.margin - self.problem.spacing / 2
        for kind, t, x, y, s in zip(self.items if len(kept[0]) else (), *kept, strict=True):
            if s < 0:
                missing[kind] = missing.get(kind, 0) + 1
                continue
            sheet, corner = self.sheets[s], self.prepared.corner[t]
            placed.append(
                Placed(
                    part=kind,
                    sheet=sheet.kind,
                    copy=sheet.copy,
                    turn=float(self.prepared.degrees[t]),
                    x=float(x + sheet.x - corner[0]),
                    y=float(y + sheet.y - corner[1]),
                    mirrored=bool(self.prepared.mirrored[t]),
                )
            )
        left = (*self.left, *((k, n, say("unplaced.full")) for k, n in sorted(missing.items())))
        net = float(sum(self.prepared.area[p.part] for p in placed))
        if self.problem.strip_height is not None:
            length = float(width + 2 * inset) if placed else 0.0
            density = net / (length * self.problem.strip_height) if placed else 0.0
            return Answer(placed=tuple(placed), left=left, length=length, density=density, sheets=1 if placed else 0)
        used = {(p.sheet, p.copy) for p in placed}
        area = sum(self.problem.sheets[k].polygon().area for k, _ in used)
        cost = sum(self.problem.sheets[k].cost for k, _ in used)
        return Answer(placed=tuple(placed), left=left, density=net / area if area else 0.0, cost=cost, sheets=len(used))

    def taken_up(self, placed: tuple[Placed, ...]) -> Snapshot:
        """Return parts that lie already as searchers know them; one that is not named, or not on a sheet that is there, lies on none."""
        at = {(s.kind, s.copy): i for i, s in enumerate(self.sheets)}
        waiting: dict[int, list[Placed]] = {}
        for p in placed:
            if (p.sheet, p.copy) in at:
                waiting.setdefault(p.part, []).append(p)
        shapes, ready = self.prepared.shapes, self.prepared
        kept = (
            np.array([shapes.first[k] for k in self.items], np.int64),
            np.zeros(len(self.items)),
            np.zeros(len(self.items)),
            np.full(len(self.items), -1, np.int64),
        )
        for i, k in enumerate(self.items):
            ways = range(shapes.first[k], shapes.first[k] + shapes.turns[k])
            while waiting.get(k):
                p = waiting[k].pop()
                turned = next((t for t in ways if same_turn(ready.degrees[t], p.turn) and ready.mirrored[t] == p.mirrored), None)
                if turned is not None:
                    s = at[p.sheet, p.copy]
                    kept[0][i], kept[3][i] = turned, s
                    kept[1][i], kept[2][i] = p.x + ready.corner[turned][0] - self.sheets[s].x, p.y + ready.corner[turned][1] - self.sheets[s].y
                    break
        return kept

    def used_width(self, kept: Snapshot, sheet: int) -> Mm:
        """Return how far to the right a sheet is used."""
        mine = np.asarray(kept[3]) == sheet
        ends = (kept[1] + self.prepared.shapes.width[kept[0]])[mine]
        locked = [f.x + self.prepared.shapes.width[self.prepared.shapes.first[f.kind]] for f in self.fixed[: len(self.problem.locked)] if f.sheet == sheet]
        return float(max([*ends, *locked], default=0.0))


Score = tuple[float, ...]  #: lower is better; of a strip its width, of sheets: parts left, price, sheets, how far the emptiest is used
Found = tuple[Score, Snapshot]


class Lane:
    """One searcher of several. All begin from the best that any has found; what they find is exchanged when all pause."""

    def __init__(self, task: Task, number: int, of: int, seed: int, work: Work) -> None:
        self.task, self.number, self.of, self.work = task, number, of, work
        self.random = np.random.default_rng((seed, number))
        self.seed = seed * LANES + number + 1
        self.best: Found | None = None

    @cached_property
    def search(self) -> Search:
        """Separation, with a table of all pairs."""
        task = self.task
        return Search(
            task.prepared,
            task.items,
            task.fixed,
            [s.width for s in task.sheets],
            [s.height for s in task.sheets],
            self.seed,
            self.work,
            len(task.problem.locked),
        )

    @property
    def few(self) -> bool:
        """Whether a table of all pairs is affordable; with more parts the grid alone serves."""
        return len(self.task.items) + len(self.task.fixed) <= MOST_SEPARATED

    def found(self, score: Score, kept: Snapshot) -> bool:
        """Keep what was found when it is better; tell whether it is."""
        if self.best is not None and score >= self.best[0]:
            return False
        self.best = (score, kept)
        return True

    def beaten(self, score: Score) -> bool:
        return self.best is not None and self.best[0] < score


def task_of(problem: Problem) -> Task:
    """Return a problem in flat arrays."""
    kinds = [Wanted(shape=p.polygon(), turns=p.turns, mirrored=p.sides) for p in problem.parts]
    sheets, hazards = _strip_sheet(problem) if problem.strip_height is not None else _usable_sheets(problem)
    at = {(s.kind, s.copy): i for i, s in enumerate(sheets)}
    stay = [Wanted(shape=problem.parts[p.part].polygon(), turns=(p.turn,), mirrored=(p.mirrored,)) for p in problem.locked]
    ready = prepared([*kinds, *stay, *(Wanted(shape=shape, fixed=True) for _, shape in hazards)], problem.spacing)
    fixed = []
    for i, p in enumerate(problem.locked):
        sheet, corner = at[p.sheet, p.copy], ready.corner[ready.shapes.first[len(kinds) + i]]
        fixed.append(Fixed(kind=len(kinds) + i, sheet=sheet, x=p.x + corner[0] - sheets[sheet].x, y=p.y + corner[1] - sheets[sheet].y))
    for i, (s, shape) in enumerate(hazards):
        fixed.append(Fixed(kind=len(kinds) + len(stay) + i, sheet=s, x=shape.bounds[0] - sheets[s].x, y=shape.bounds[1] - sheets[s].y))
    items, left = [], []
    lying = Counter(p.part for p in problem.locked)
    for k, part in enumerate(problem.parts):
        wanted = part.count - lying[k]
        why = _why_nowhere(k, ready, sheets=sheets, problem=problem)
        if why and wanted > 0:
            left.append((k, wanted, why))
        else:
            items += [k] * wanted
    return Task(problem, ready, items, sheets, fixed, left, frozenset(f.sheet for f in fixed[: len(stay)]))


def _why_nowhere(kind: int, ready: Prepared, *, sheets: list[UsableSheet], problem: Problem) -> Sentence | None:
    """Tell why a part fits no sheet at all; None when its box fits one."""
    shapes = ready.shapes
    turned = range(shapes.first[kind], shapes.first[kind] + shapes.turns[kind])
    strip = problem.strip_height is not None
    if any((strip or shapes.width[t] <= s.width) and shapes.height[t] <= s.height for t in turned for s in sheets):
        return None
    return nowhere(problem.parts[kind])


def _strip_sheet(problem: Problem) -> tuple[list[UsableSheet], list[tuple[int, Polygon]]]:
    inset = problem.margin - problem.spacing / 2
    height = (problem.strip_height or 0.0) - 2 * inset
    return [UsableSheet(0, 0, inset, inset, 1e6, height, 1e6 * height, 0.0)], []


def _usable_sheets(problem: Problem) -> tuple[list[UsableSheet], list[tuple[int, Polygon]]]:
    """Return every sheet as a box, and what of each box nothing may lie on."""
    inset = problem.margin - problem.spacing / 2
    sheets: list[UsableSheet] = []
    hazards: list[tuple[int, Polygon]] = []
    for k, spec in enumerate(problem.sheets):
        room = pieces(mitred(spec.polygon(), -inset))
        if not room:
            continue
        usable = max(room, key=lambda p: p.area)
        x0, y0, x1, y1 = usable.bounds
        around = box(x0, y0, x1, y1)
        blocked = [p for p in pieces(around.difference(usable)) if p.area > 1e-3]
        blocked += [p for b in spec.bad for p in pieces(mitred(Polygon(b), problem.spacing / 2).intersection(around)) if p.area > 1e-6]
        for copy in range(spec.count):
            hazards += [(len(sheets), p) for p in blocked]
            sheets.append(UsableSheet(k, copy, x0, y0, x1 - x0, y1 - y0, usable.area - sum(Polygon(b).area for b in spec.bad), spec.cost))
    return sheets, hazards
