"""The runs of a job as their sheets lay under the beam."""

from __future__ import annotations

import math
from collections.abc import Sequence

from shapely.geometry import MultiPoint, Polygon

from tests.workshop.bench import Matrix, Pass, as_move, back_again, inverse, moved, placed
from tests.workshop.laws.job import Job, RunFiles
from tests.workshop.read import Burn, read_svg


def operation_of(job: Job, layer: str) -> str:
    for operation in ("engrave", "score", "inner", "outer"):
        base = getattr(job.machine, operation).layer
        if layer == base or layer.startswith(f"{base} P"):
            return operation
    raise ValueError(f"a layer that the machine does not know: {layer}")


def as_pass(job: Job, run: RunFiles, runs: Sequence[RunFiles]) -> Pass:
    burns = read_svg(run.svg)
    turns = [r for r in runs if r.lie.kind == "turned"]
    if run.lie.side == "back":
        to = back_again(turns[0].lie.turn if turns else "sideways", run.width, run.height)
        burns = [moved(b, to) for b in burns]
    kinds = [operation_of(job, b.layer) for b in burns]
    one = Pass(
        cuts=[b for b, k in zip(burns, kinds, strict=True) if k in ("inner", "outer")],
        marks=[b for b, k in zip(burns, kinds, strict=True) if k in ("engrave", "score")],
        up=run.lie.side == "front",
        number=run.number,
        layers={str(id(b)): k for b, k in zip(burns, kinds, strict=True)},
    )
    if run.lie.kind == "swapped":
        one.up = False
        one.marks = [_laid_back(job, run, one, b) for b in one.marks]
    return one


def _laid_back(job: Job, run: RunFiles, one: Pass, burn: Burn) -> Burn:
    """Return what was burned on a part that was turned over, seen through from above as the part lay before."""
    spots = MultiPoint(burn.points)
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
            here = burn.name.startswith(f"{t.part}.{t.copy}/") if burn.box is not None else region.buffer(0.5).covers(spots)
            x0, y0, x1, y1 = start.bounds
            if here and math.dist(t.start, ((x0 + x1) / 2, (y0 + y1) / 2)) < 0.5:
                back = moved(burn, as_move(inverse(matrix)))
                one.layers[str(id(back))] = one.layers[str(id(burn))]
                return back
    job.says(2, f"{burn.name} is burned where no part was laid")
    return burn
