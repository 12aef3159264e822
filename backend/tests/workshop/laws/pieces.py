"""Law 1: the pieces that come free are the wanted ones, each true to its finished part."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.geom.planar import opened, pieces
from notchcore.geom.profile import polygon_of
from notchcore.measure.machine import KerfPlace
from tests.workshop.bench import Pass, came_free, covers, placed, removed, what_a_beam_leaves
from tests.workshop.laws.job import CRUMB, NOISE, NONE, TRUE, Job, Lying, RunFiles


def _beam(job: Job, stock: str) -> float:
    return job.stocks[stock].kerf.value if job.place in (KerfPlace.PATHS, KerfPlace.JOINTS) else NONE


def pieces_of(job: Job, number: int, run: RunFiles, passes: Sequence[Pass]) -> list[tuple[Lying, Polygon | None]]:
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
        if job.place is KerfPlace.NONE:  # on its own line even the thinnest beam takes what hangs by less
            part = part.difference(shapely.union_all([p.buffer(TRUE) for p in pieces(opened(part, 2 * beam)) if p.area < CRUMB]))
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
            wanted = any(_alike(piece, polygon_of(lie.part.profile)) for lie in job.pieces[number])
            if wanted:
                job.says(1, f"sheet {number}: a piece of {piece.area:.0f} mm2 that nobody wants comes free near {_spot(piece)}")
    return found


def _alike(piece: Polygon, part: Polygon) -> bool:
    """Tell whether a piece may be a part that was cut once too often."""
    return all(abs(a - b) < 0.02 * a for a, b in ((piece.area, part.area), (piece.length, part.length), (piece.convex_hull.area, part.convex_hull.area)))


def _beam_truth(job: Job, stock: str) -> float:
    return job.stocks[stock].kerf.value


def _slits(passes: Sequence[Pass], part: str) -> BaseGeometry:
    """Return the lines by which openings narrower than the beam are cut: the plan says that they come out as wide as it."""
    return shapely.union_all([b.line for p in passes for b in p.cuts if b.name.startswith(f"{part}.") and "/inner" in b.name and not b.closed])


def _spot(shape: BaseGeometry) -> str:
    p = shape.representative_point()
    return f"{p.x:.1f}, {p.y:.1f}"


def check_counts(job: Job, made: dict[int, list[tuple[Lying, Polygon | None]]]) -> None:
    if "outer" in job.skip:
        return
    got = Counter(lie.part.id for some in made.values() for lie, piece in some if piece is not None)
    for part, count in job.wanted.items():
        dropped = sum(lie.falls and lie.part.id == part for some in job.pieces.values() for lie in some)  # they come with their hosts, wanted or not
        have = got[part] + job.unplaced.get(part, 0)
        if not count <= have <= max(count, dropped):
            job.says(1, f"{part}: {got[part]} pieces instead of {count} (without a place: {job.unplaced.get(part, 0)})")
