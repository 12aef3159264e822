"""Laws 5 and 8: what comes before what, and all formats of a run are the same lines."""

from __future__ import annotations

import math
from collections.abc import Sequence

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from tests.workshop.bench import Pass
from tests.workshop.laws.job import SAME_FILE, Job, RunFiles
from tests.workshop.laws.lay import operation_of
from tests.workshop.read import Burn, read_dxf, read_gcode, read_pdf, read_svg


def check_order(job: Job, run: RunFiles, one: Pass) -> None:
    burns = read_svg(run.svg)
    kinds = [operation_of(job, b.layer) for b in burns]
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


def _apart(a: Burn, b: Burn) -> float:
    """Return how far two lines lie apart at most."""
    la, lb = a.line, b.line
    return max(float(shapely.distance(shapely.points(x.coords), y).max()) for x, y in ((la, lb), (lb, la)))


def check_formats(job: Job, run: RunFiles) -> None:
    where = f"sheet {run.number}"
    svg = read_svg(run.svg)
    kinds = [operation_of(job, b.layer) for b in svg]
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
