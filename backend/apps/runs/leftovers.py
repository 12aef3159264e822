"""What stays of a sheet after a run, and putting it on the shelf as offcuts in its real shape."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import TypeAdapter

from apps.runs.models import Run
from apps.sheets import services as sheets
from apps.sheets.convert import sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.errors import PlanError
from notchcore.geom.contours import sampled
from notchcore.geom.leftover import Remains, remains
from notchcore.geom.planar import Polygon, subtract
from notchcore.geom.profile import area_of
from notchcore.measure.machine import Operation
from notchcore.nest.bed import turned
from notchcore.plan.cut_plan import SheetPlan
from notchcore.words.render import say

REMAINS: TypeAdapter[list[Remains]] = TypeAdapter(list[Remains])
GAP = 2.0  # [mm] a piece is kept so far from every cut: the edge there is burnt, and uneven where parts hung on


def remains_of(runs: Sequence[SheetPlan]) -> list[Remains]:
    """Return the pieces of a sheet that are worth keeping after all its runs.

    Args:
        runs: those of one sheet; the one that cuts parts free says what is left
    """
    target = next((r for r in reversed(runs) if any(s.path.operation is Operation.OUTER and s.path.through for s in r.strokes)), runs[-1])
    outer: dict[tuple[str, int], Polygon] = {}
    inner: dict[tuple[str, int], list[Polygon]] = {}
    for stroke in target.strokes:
        p = stroke.path
        if p.operation not in (Operation.OUTER, Operation.INNER) or not p.contour.closed:
            continue
        shape = Polygon(sampled(p.contour)).buffer(0)
        if p.operation is Operation.OUTER:
            outer[p.part, p.copy] = shape.buffer(target.kerf / 2)
        elif not p.frees:  # what falls out and is a part is no leftover
            inner.setdefault((p.part, p.copy), []).append(shape.buffer(-target.kerf / 2))
    gone = [piece for key, shape in outer.items() for piece in subtract(shape, inner.get(key, []))]
    row = Sheet.objects.filter(pk=int(target.sheet)).first() if target.sheet.isdecimal() else None
    kind = sheet_kind_of(row) if row is not None else None
    if kind is not None and (kind.width, kind.height) != (target.width, target.height):
        kind = turned(kind)  # as it lay on the bed
    return list(remains(target.ring, kind.bad if kind is not None else (), gone=gone, gap=GAP))


def shelve_remains(run: Run, sheet: Sheet, *, keep: Sequence[int]) -> list[Sheet]:
    """Put the pieces of a run that a person keeps on the shelf, at the share of the sheet's price that they are.

    Raises:
        PlanError: there is no such piece, or the sheet was not cut to its end
    """
    found = REMAINS.validate_python(run.remains)
    if len(set(keep)) != len(keep) or not all(0 <= k < len(found) for k in keep):
        raise PlanError(say("no_such_leftover"))
    whole = abs(area_of(sheet_kind_of(sheet).ring()))
    made = []
    for piece in (found[k] for k in keep):
        odd = not piece.is_rectangle
        made.append(
            sheets.shelve(
                stock=sheet.stock,
                name=f"Offcut, {piece.width:.0f} × {piece.height:.0f}{', odd shape' if odd else ''}",
                width_mm=piece.width,
                height_mm=piece.height,
                count=1,
                price=round(sheet.price * piece.area / whole, 2),
                place=sheet.place,
                grain=sheet.grain,
                is_offcut=True,
                outline=[tuple(p) for p in piece.outline] if odd else [],
                bad=[list(b) for b in piece.bad],
            )
        )
    return made
