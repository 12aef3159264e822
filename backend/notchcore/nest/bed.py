"""How a sheet is laid on the machine's bed."""

from __future__ import annotations

from dataclasses import replace

from notchcore.geom.profile import Ring
from notchcore.nest.values import NestRules, SheetKind

TURNED = ", turned on the bed"


def laid_on_bed(kind: SheetKind, rules: NestRules) -> SheetKind:
    """Return a sheet as it is laid on the bed: turned by a quarter where it lies on the bed so, and would reach over it otherwise.

    Its grain turns with it: while parts keep theirs along the sheet, it stays as it is.
    """
    fits = kind.width <= rules.bed_width and kind.height <= rules.bed_height
    turns = kind.height <= rules.bed_width and kind.width <= rules.bed_height
    if fits or not turns or set(rules.turns) <= {0, 180}:
        return kind

    return turned(kind)


def turned(kind: SheetKind) -> SheetKind:
    """Return a sheet turned by a quarter, counter-clockwise."""

    def ring(points: Ring) -> Ring:
        return tuple((kind.height - y, x) for x, y in points)

    return replace(kind, name=f"{kind.name}{TURNED}", width=kind.height, height=kind.width, outline=ring(kind.outline), bad=tuple(map(ring, kind.bad)))
