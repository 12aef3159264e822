"""Law 2: what a part shows is burned on it once, at its place, on its face."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from notchcore.design.assembly import Mark, Part
from tests.workshop.bench import Pass, areas, placed
from tests.workshop.laws.job import TRUE, Job, Lying, RunFiles
from tests.workshop.read import Burn


def _line(mark: Mark) -> LineString:
    return LineString([*mark.line, mark.line[0]] if mark.closed else mark.line)


def _expected(job: Job, part: Part) -> Iterator[tuple[Mark, bool]]:
    """Yield what is to be burned on a part, and whether that is on its back."""
    for m in part.marks:
        if m.back and not (m.feature or m.depth) and not job.locate:
            continue  # places of joints on backs are told as left out
        if m.operation.value not in job.skip:
            yield m, True if part.reverse else m.back


def check_faces(job: Job, number: int, runs: Sequence[RunFiles], passes: Sequence[Pass]) -> None:
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
