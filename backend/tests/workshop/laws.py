"""What must hold between a design and what the second workshop made of its files. Each law gives the places where it does not.

1  the pieces that come free are the wanted ones, each true to its finished part, none cut into
2  what a part shows is burned on it once, at its place, on its face, and nothing beside it
3  put together, no two pieces want the same place, and joints have the widths of their ledgers
5  inner before outer, what is burned before what is cut, marks before parts come free
8  all formats of a run are the same lines, as long as the plan says, and nothing of no length
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import combinations
from typing import Any

import shapely
from shapely.geometry import LineString, MultiPoint, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Mark, Part
from notchcore.findings import Severity
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, boxes_touch, common_volume, shrunk
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import KerfPlace, Machine
from notchcore.measure.stock import Stock
from tests.workshop.bench import (
    Matrix,
    Pass,
    areas,
    as_move,
    back_again,
    came_free,
    covers,
    inverse,
    moved,
    placed,
    removed,
    what_a_beam_leaves,
)
from tests.workshop.read import Burn, read_dxf, read_gcode, read_pdf, read_svg

TRUE = 0.02  # [mm] a piece may differ from its part
SAME_FILE = 0.0015  # [mm] between two formats, with the readers' own chords
NOISE = 0.01  # [mm2] off the tip of an acute corner: the product's own bound for what is nothing
CRUMB = 1.0  # [mm2] a loose bit smaller than this is no piece
NONE = 0.003  # [mm] the beam where the files are not corrected for its width


@dataclass(frozen=True)
class Violation:
    """One place where a law does not hold."""

    law: int
    what: str


@dataclass
class Lie:
    """How a sheet is said to lie for a run."""

    side: str
    kind: str
    turn: str = ""
    marks: tuple[Vec2, ...] = ()
    turns: tuple[Any, ...] = ()


@dataclass(frozen=True)
class Planned:
    """What the plan says of one stroke."""

    operation: str
    lines: int
    length: float  #: [mm]
    passes: int
    speed: float  #: [mm/s]
    seconds: float  #: of burning


@dataclass
class RunFiles:
    """What leaves the house for one run."""

    number: int  #: of the sheet
    sheet: tuple[Vec2, ...]  #: its outline, front up
    width: float
    height: float
    stock: str
    lie: Lie
    through: bool  #: after it the sheet is cut through
    strokes: list[Planned]
    svg: str
    dxf: str
    gcode: str
    pdf: bytes = b""


@dataclass
class Lying:
    """One piece that a sheet should give."""

    part: Part
    matrix: Matrix
    mirrored: bool
    falls: bool = False


@dataclass
class Job:
    """A job as it leaves the house, and what it should come to."""

    story: str
    assembly: Assembly
    stocks: dict[str, Stock]
    machine: Machine
    place: KerfPlace
    runs: list[RunFiles]
    pieces: dict[int, list[Lying]]  #: by sheet
    wanted: dict[str, int]
    unplaced: dict[str, int]
    locate: bool = False
    one_side: bool = False  #: other faces are left out, as the plan says
    skip: tuple[str, ...] = ()
    found: list[Violation] = field(default_factory=list)

    def says(self, law: int, what: str) -> None:
        self.found.append(Violation(law, what))


def judge(job: Job) -> list[Violation]:
    """Return where a job is not what was designed."""
    made: dict[int, list[tuple[Lying, Polygon | None]]] = {}
    for number in sorted({r.number for r in job.runs}):
        runs = [r for r in job.runs if r.number == number]
        passes = [_as_pass(job, r, runs) for r in runs]
        for run, one in zip(runs, passes, strict=True):
            _order(job, run, one)
        made[number] = _pieces(job, number, runs[0], passes)
        _faces(job, number, runs, passes)
    _counts(job, made)
    _joints(job, made)
    _together(job)
    for run in job.runs:
        _formats(job, run)
    return job.found


# -- reading ---------------------------------------------------------------------------------------------------------


def _operation(job: Job, layer: str) -> str:
    for operation in ("engrave", "score", "inner", "outer"):
        base = getattr(job.machine, operation).layer
        if layer == base or layer.startswith(f"{base} P"):
            return operation
    raise ValueError(f"a layer that the machine does not know: {layer}")


def _as_pass(job: Job, run: RunFiles, runs: Sequence[RunFiles]) -> Pass:
    burns = read_svg(run.svg)
    turns = [r for r in runs if r.lie.kind == "turned"]
    if run.lie.side == "back":
        to = back_again(turns[0].lie.turn if turns else "sideways", run.width, run.height)
        burns = [moved(b, to) for b in burns]
    kinds = [_operation(job, b.layer) for b in burns]
    one = Pass(
        cuts=[b for b, k in zip(burns, kinds, strict=True) if k in ("inner", "outer")],
        marks=[b for b, k in zip(burns, kinds, strict=True) if k in ("engrave", "score")], up=run.lie.side == "front", number=run.number,
        layers={str(id(b)): k for b, k in zip(burns, kinds, strict=True)},
    )  # fmt: skip
    if run.lie.kind == "swapped":
        one.up = False
        one.marks = [_laid_back(job, run, one, b) for b in one.marks]
    return one


def _laid_back(job: Job, run: RunFiles, one: Pass, burn: Burn) -> Burn:
    """Return what was burned on a part that was turned over, seen through from above as the part lay before."""
    spot = MultiPoint(burn.points).centroid
    for lie in job.pieces[run.number]:
        for t in run.lie.turns:
            if t.part != lie.part.id:
                continue
            m = t.move
            side = -1.0 if m.mirrored else 1.0
            matrix: Matrix = (side * m.cos, -m.sin, side * m.sin, m.cos, m.x, m.y)
            region = placed(placed(Polygon(lie.part.profile.outer), lie.matrix), matrix)
            start = placed(Polygon(lie.part.profile.outer), lie.matrix)
            # A picture's frame may reach over its part: the file says whose it is.
            here = burn.name.startswith(f"{t.part}.{t.copy}/") if burn.box is not None else region.buffer(0.5).contains(spot)
            x0, y0, x1, y1 = start.bounds
            if here and math.dist(t.start, ((x0 + x1) / 2, (y0 + y1) / 2)) < 0.5:
                back = moved(burn, as_move(inverse(matrix)))
                one.layers[str(id(back))] = one.layers[str(id(burn))]
                return back
    job.says(2, f"{burn.name} is burned where no part was laid")
    return burn


# -- 1: pieces -------------------------------------------------------------------------------------------------------


def _beam(job: Job, stock: str) -> float:
    return job.stocks[stock].kerf.value if job.place in (KerfPlace.PATHS, KerfPlace.JOINTS) else NONE


def _pieces(job: Job, number: int, run: RunFiles, passes: Sequence[Pass]) -> list[tuple[Lying, Polygon | None]]:
    beam = _beam(job, run.stock)
    through = [p for p in passes if p.cuts]
    sheet = Polygon(run.sheet)
    gone = removed(through[-1].cuts + [c for p in through[:-1] for c in p.cuts], beam) if through else Polygon()
    bad = [c.name for p in passes for c in p.cuts if not sheet.buffer(1e-6).covers(c.line)]
    if bad:
        job.says(1, f"sheet {number}: {bad[0]} runs over the edge of the sheet")
    free = came_free(sheet, gone)
    tree = shapely.STRtree(free)
    taken: set[int] = set()
    found: list[tuple[Lying, Polygon | None]] = []
    loose = beam / 2 if job.place is KerfPlace.JOINTS else 0.0
    for lie in job.pieces[number]:
        part = placed(polygon_of(lie.part.profile), lie.matrix)
        near = [int(i) for i in tree.query(part) if int(i) not in taken]
        best = max(near, key=lambda i: free[i].intersection(part).area, default=None)
        if best is None or free[best].intersection(part).area < 0.5 * part.area:
            if "outer" not in job.skip:
                job.says(1, f"sheet {number}: {lie.part.id} does not come free")
            found.append((lie, None))
            continue
        taken.add(best)
        piece = free[best]
        less = loose + (_beam_truth(job, run.stock) if lie.falls and job.place is not KerfPlace.PATHS else 0.0)
        if not covers(what_a_beam_leaves(part, beam), piece, TRUE + (less if lie.falls else 0.0)):
            over = piece.difference(what_a_beam_leaves(part, beam).buffer(TRUE))
            job.says(1, f"sheet {number}: {lie.part.id} is too large by {over.area:.3f} mm2 near {_spot(over)}")
        part = part.difference(_slits(passes, lie.part.id).buffer(beam / 2 + TRUE))
        if not covers(piece, part, TRUE + less, sharp=True):
            lost = part.difference(piece.buffer(TRUE + less, join_style="mitre"))
            if lost.area > NOISE:
                job.says(1, f"sheet {number}: {lie.part.id} lost {lost.area:.3f} mm2 near {_spot(lost)}")
        found.append((lie, piece))
    around = shapely.unary_union([Polygon(placed(polygon_of(lie.part.profile), lie.matrix).exterior).buffer(beam) for lie in job.pieces[number]])
    discs = [mark for r in passes for mark in r.cuts if mark.name.startswith("registration")]
    for i, piece in enumerate(free):
        if i in taken or piece.area < CRUMB or around.contains(piece.representative_point()):
            continue
        if any(Polygon(d.points).buffer(0.01).contains(piece.representative_point()) for d in discs):
            continue
        if not piece.within(around):  # what lies between parts whose cuts meet is waste as well
            wanted = any(abs(piece.area - polygon_of(lie.part.profile).area) < 0.02 * piece.area for lie in job.pieces[number])
            if wanted:
                job.says(1, f"sheet {number}: a piece of {piece.area:.0f} mm2 that nobody wants comes free near {_spot(piece)}")
    return found


def _beam_truth(job: Job, stock: str) -> float:
    return job.stocks[stock].kerf.value


def _slits(passes: Sequence[Pass], part: str) -> BaseGeometry:
    """Return the lines by which openings narrower than the beam are cut: the plan says that they come out as wide as it."""
    return shapely.union_all([b.line for p in passes for b in p.cuts if b.name.startswith(f"{part}.") and "/inner" in b.name and not b.closed])


def _spot(shape: BaseGeometry) -> str:
    p = shape.representative_point()
    return f"{p.x:.1f}, {p.y:.1f}"


def _counts(job: Job, made: dict[int, list[tuple[Lying, Polygon | None]]]) -> None:
    if "outer" in job.skip:
        return
    got = Counter(lie.part.id for some in made.values() for lie, piece in some if piece is not None)
    for part, count in job.wanted.items():
        falls = any(p.id == part and p.falls_from for p in job.assembly.parts)
        have = got[part] + job.unplaced.get(part, 0)
        if have < count or (have > count and not falls):
            job.says(1, f"{part}: {got[part]} pieces instead of {count} (without a place: {job.unplaced.get(part, 0)})")


# -- 2: faces --------------------------------------------------------------------------------------------------------


def _line(mark: Mark) -> LineString:
    return LineString([*mark.line, mark.line[0]] if mark.closed else mark.line)


def _expected(job: Job, part: Part) -> Iterator[tuple[Mark, bool]]:
    """Yield what is to be burned on a part, and whether that is on its back."""
    for m in part.marks:
        if m.back and not m.feature and not job.locate:
            continue  # places of joints on backs are told as left out
        if m.operation.value not in job.skip:
            yield m, True if part.reverse else m.back


def _faces(job: Job, number: int, runs: Sequence[RunFiles], passes: Sequence[Pass]) -> None:
    bodies = [placed(Polygon(lie.part.profile.outer), lie.matrix) for lie in job.pieces[number]]
    tree = shapely.STRtree(bodies)
    on: dict[tuple[int, bool], list[tuple[str, Burn]]] = {}
    for one in passes:
        for burn in one.marks:
            if "/number" in burn.name:
                continue
            kind = one.layers[str(id(burn))]
            body: BaseGeometry = burn.line if kind == "score" else (areas([burn])[0] if burn.box is None else shapely.box(*burn.box))
            near = [int(i) for i in tree.query(body)]
            measure = (lambda g: g.length) if kind == "score" else (lambda g: g.area)
            best = max(near, key=lambda i: measure(bodies[i].intersection(body)), default=None)
            # A fallen piece lies within its host's outline: the smaller of two that hold it all is meant.
            whole = [i for i in near if measure(body.difference(bodies[i].buffer(TRUE))) < 1e-6]
            best = min(whole, key=lambda i: bodies[i].area, default=best)
            if burn.box is not None:  # the frame of a picture may reach beyond its part, its dots do not: the file says whose it is
                named = [i for i in near if burn.name.startswith(f"{job.pieces[number][i].part.id}.")]
                best = max(named, key=lambda i: (_shown(job, job.pieces[number][i], body), bodies[i].intersection(body).area), default=best)
            if best is None or (burn.box is None and measure(body.difference(bodies[best].buffer(TRUE))) > 0.05):
                job.says(2, f"sheet {number}: {burn.name} ({kind}) is burned beyond its part")
                if best is None:
                    continue
            on.setdefault((best, one.up), []).append((kind, burn))
    for i, lie in enumerate(job.pieces[number]):
        wanted = list(_expected(job, lie.part))
        for up in (True, False):
            back = lie.mirrored if up else not lie.mirrored
            if job.one_side and not up:
                continue
            _face(job, number, lie, [m for m, b in wanted if b is back], on.get((i, up), []), "back" if back else "front")


def _shown(job: Job, lie: Lying, frame: BaseGeometry) -> float:
    """Return how much of a picture's frame lies where one of a piece's own pictures belongs, to a hundredth of a mm2: copies lie side by side."""
    photos = [placed(Polygon(m.line), lie.matrix) for m, _ in _expected(job, lie.part) if m.photo is not None]
    return round(max((p.intersection(frame).area for p in photos), default=0.0), 2)


def _face(job: Job, number: int, lie: Lying, wanted: list[Mark], burned: list[tuple[str, Burn]], face: str) -> None:
    who = f"sheet {number}: {lie.part.id}, {face}"
    lines = [placed(_line(m), lie.matrix) for m in wanted if m.operation.value == "score"]
    scored = [b.line for kind, b in burned if kind == "score"]
    _alike(job, f"{who}, scored", lines, scored, lambda g: g.length)
    areas_wanted = [placed(s, lie.matrix) for s in areas([Burn("", "", list(m.line), True) for m in wanted if m.operation.value == "engrave" and not m.photo])]
    engraved = areas([b for kind, b in burned if kind == "engrave" and b.box is None])
    _alike(job, f"{who}, engraved", areas_wanted, engraved, lambda g: g.area)
    photos = [placed(Polygon(m.line), lie.matrix) for m in wanted if m.photo is not None]
    seen = [shapely.box(*b.box) for kind, b in burned if kind == "engrave" and b.box is not None]
    if len(photos) != len(seen):
        job.says(2, f"{who}: {len(seen)} pictures instead of {len(photos)}")


def _alike(job: Job, who: str, wanted: list[Any], burned: list[Any], measure: Any) -> None:
    if not wanted and not burned:
        return
    a, b = shapely.unary_union(wanted), shapely.unary_union(burned)
    lost, over = measure(a.difference(b.buffer(TRUE))), measure(b.difference(a.buffer(TRUE)))
    if lost > 0.02:
        job.says(2, f"{who}: {lost:.2f} of {measure(a):.2f} is not burned")
    if over > 0.02:
        job.says(2, f"{who}: {over:.2f} too much is burned")
    twice = sum(map(measure, burned)) - sum(map(measure, wanted))
    if lost <= 0.02 and over <= 0.02 and abs(twice) > 0.01 * sum(map(measure, wanted)) + 0.1:
        job.says(2, f"{who}: burned {sum(map(measure, burned)):.2f} instead of {sum(map(measure, wanted)):.2f}")


# -- 3: joints and the whole thing -----------------------------------------------------------------------------------


def _width_at(piece: BaseGeometry, middle: Vec2, axis: Vec2, reach: float, *, gap: bool) -> float | None:
    """Return how wide the gap or the tongue around a place is, along an axis; None where there is none."""
    a = (middle[0] - axis[0] * reach, middle[1] - axis[1] * reach)
    b = (middle[0] + axis[0] * reach, middle[1] + axis[1] * reach)
    line = LineString([a, b])
    inside = piece.intersection(line) if not gap else line.difference(piece)
    for g in getattr(inside, "geoms", [inside]):
        if not g.is_empty and g.distance(shapely.Point(middle)) < 1e-9:
            if shapely.Point(a).distance(g) < 1e-9 or shapely.Point(b).distance(g) < 1e-9:
                return None  # open at an end: nothing to measure against
            return float(g.length)
    return None


def _runs_into_another(f: JointFeature, part: Part) -> bool:
    """Tell whether a feature and one of another meeting touch, so that the two are one gap."""
    own, edge = Polygon(f.corners), polygon_of(part.profile).boundary
    sides = [(f.corners[0], f.corners[3]), (f.corners[1], f.corners[2])]
    if abs((f.corners[1][0] - f.corners[0][0]) * f.axis[0] + (f.corners[1][1] - f.corners[0][1]) * f.axis[1]) < 1e-6:
        sides = [(f.corners[0], f.corners[1]), (f.corners[3], f.corners[2])]
    if any(edge.distance(shapely.Point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) > 0.05 for a, b in sides):
        return True  # the part goes on beside it, or ends before it: there is no edge of the joint's own to measure
    return any(g is not f and g.meeting != f.meeting and own.distance(Polygon(g.corners)) < 1.0 for g in part.features)


def _joints(job: Job, made: dict[int, list[tuple[Lying, Polygon | None]]]) -> None:
    if job.place not in (KerfPlace.PATHS, KerfPlace.JOINTS):
        return
    seen: set[str] = set()
    meetings = {m.id: m for m in job.assembly.meetings}
    parts = {p.id: p for p in job.assembly.parts}
    for some in made.values():
        for lie, piece in some:
            if piece is None or lie.part.id in seen:
                continue
            seen.add(lie.part.id)
            own = placed(piece, inverse(lie.matrix))
            for f in lie.part.features:
                if not f.meeting or f.kind not in (FeatureKind.SLOT, FeatureKind.LAP, FeatureKind.TAB) or _runs_into_another(f, lie.part):
                    continue
                middle = (sum(c[0] for c in f.corners) / 4, sum(c[1] for c in f.corners) / 4)
                places = [(middle[0] - f.axis[1] * f.length * s, middle[1] + f.axis[0] * f.length * s) for s in (-0.3, -0.15, 0.0, 0.15, 0.3)]
                widths = [w for p in places if (w := _width_at(own, p, f.axis, f.width.value + 8.0, gap=f.kind.is_gap)) is not None]
                width = min(widths, key=lambda w: abs(w - f.width.value), default=None)  # an opening of a person's may widen it somewhere
                if len(widths) >= 3 and width is not None and max(widths) - min(widths) < TRUE and abs(width - f.width.value) > TRUE:
                    job.says(3, f"{f.id}: {width:.3f} wide instead of {f.width.value:.3f}")
                m = meetings.get(f.meeting)
                if m is None or m.clearance is None or f.kind is FeatureKind.TAB or abs(m.angle_deg - 90) > 1e-6:
                    continue
                mate = parts.get(m.b if m.a == lie.part.id else m.a)
                if mate is not None and abs(f.width.value - mate.t - m.clearance.value) > TRUE:
                    job.says(3, f"{f.id}: the ledger says {f.width.value:.3f} for a sheet of {mate.t:.3f} with {m.clearance.value:.3f}")


def _together(job: Job) -> None:
    told = {frozenset(f.parts) for f in job.assembly.findings if f.severity is Severity.MUST and len(f.parts) > 1}
    if any(f.severity is Severity.MUST for f in job.assembly.findings):
        return
    press = {frozenset((m.a, m.b)) for m in job.assembly.meetings if m.clearance is not None and m.clearance.value < 0}
    parts = [p for p in job.assembly.parts if not p.helper]
    boxes = [box_of(p.slab()) for p in parts]
    for (a, box_a), (b, box_b) in combinations(zip(parts, boxes, strict=True), 2):
        pair = frozenset((a.id, b.id))
        if pair in press or pair in told or not boxes_touch(box_a, box_b, -0.05):
            continue
        small = shrunk(a.slab(), 0.01)
        volume = common_volume(small, b.slab()) if small is not None else 0.0
        if volume > 0.5:
            job.says(3, f"{a.id} and {b.id} want the same {volume:.2f} mm3")


# -- 5: order --------------------------------------------------------------------------------------------------------


def _order(job: Job, run: RunFiles, one: Pass) -> None:
    burns = read_svg(run.svg)
    kinds = [_operation(job, b.layer) for b in burns]
    cut = False
    freed: list[tuple[BaseGeometry, str]] = []
    parted = False
    for burn, kind in zip(burns, kinds, strict=True):
        if kind in ("engrave", "score") and cut:
            job.says(5, f"sheet {run.number}: {burn.name} is burned after a cut")
        if burn.name.startswith("registration") and parted:
            job.says(5, f"sheet {run.number}: a registration mark is cut after a part came free")
        cut = cut or kind in ("inner", "outer")
        parted = parted or (kind == "outer" and not burn.name.startswith("registration"))
        spot = shapely.Point(burn.points[len(burn.points) // 2])
        for shape, name in freed:
            if run.through and shape.contains(spot) and name != burn.name:
                job.says(5, f"sheet {run.number}: {burn.name} is burned in what {name} has freed already")
        if kind in ("inner", "outer") and len(burn.points) > 2 and (burn.closed or math.dist(burn.points[0], burn.points[-1]) < 1e-3):
            inside = Polygon(burn.points)
            freed.append(((inside if inside.is_valid else inside.buffer(0)).buffer(-0.05), burn.name))


# -- 8: formats ------------------------------------------------------------------------------------------------------


def _apart(a: Burn, b: Burn) -> float:
    """Return how far two lines lie apart at most."""
    la, lb = a.line, b.line
    return max(float(shapely.distance(shapely.points(x.coords), y).max()) for x, y in ((la, lb), (lb, la)))


def _formats(job: Job, run: RunFiles) -> None:
    where = f"sheet {run.number}"
    svg = read_svg(run.svg)
    kinds = [_operation(job, b.layer) for b in svg]
    if any(b.length < 1e-3 and b.box is None for b in svg):
        job.says(8, f"{where}: the SVG burns something of no length")
    lines = [b for b in svg if b.box is None]
    _compare(job, f"{where}, DXF", lines, [b for b in read_dxf(run.dxf) if b.layer != "picture-place-do-not-burn"])
    if run.pdf:
        _compare(job, f"{where}, PDF", lines, read_pdf(run.pdf), reach=0.0025)
    followed = [b for b, k in zip(svg, kinds, strict=True) if k != "engrave" and b.box is None]
    burned = [b for b in read_gcode(run.gcode) if b.layer in ("score", "inner", "outer")]
    cut = [p for p in run.strokes if p.operation != "engrave"]
    once: list[Burn] = []
    it = iter(burned)
    for p in cut:
        every = [b for b in (next(it, None) for _ in range(p.passes * p.lines)) if b is not None]
        once += every[: p.lines]
    _compare(job, f"{where}, G-code", followed, once)
    planned, there = sum(p.length * p.passes for p in cut), sum(b.length for b in burned)
    if abs(planned - there) > 0.01 + 1e-4 * planned:
        job.says(8, f"{where}: G-code burns {there:.2f} mm, the plan {planned:.2f}")
    for p in cut:
        if p.seconds < p.length * p.passes / p.speed * 0.999:
            job.says(8, f"{where}: {p.length:.1f} mm in {p.passes} passes at {p.speed:g} mm/s cannot burn in {p.seconds:.2f} s")


def _compare(job: Job, what: str, some: Sequence[Burn], others: Sequence[Burn], reach: float = SAME_FILE) -> None:
    if len(some) != len(others):
        job.says(8, f"{what}: {len(others)} lines instead of {len(some)}")
        return
    for a, b in zip(some, others, strict=True):
        if b.length == 0 and len(b.points) < 2:
            job.says(8, f"{what}: something of no length")
            continue
        apart = _apart(a, b)
        if apart > reach:
            job.says(8, f"{what}: {a.name} lies {apart:.4f} mm off")
            return
