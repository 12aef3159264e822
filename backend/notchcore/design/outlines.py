"""A panel in the shape of a drawing.

What is seen of it has the drawing's proportions. Ends that stand in other sheets are as deep as those: drawn out or cut off where the sheet is
thicker or thinner than it was, or the design larger.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from notchcore.design.features.drawing import Drawing, outermost, silhouette_of
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.design.visible import Frame, visible_frame
from notchcore.errors import require
from notchcore.findings import Finding, Severity
from notchcore.geom.planar import Affine, Polygon, box, merged, moved, pieces
from notchcore.geom.profile import Circle, bounds_of, circle_ring, profile_of
from notchcore.geom.thinning import smoothed
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm
from notchcore.words.facts import Listed, mm
from notchcore.words.render import say

REACH: Mm = 20_000.0
FAR: Mm = 1e5
HIDDEN: Mm = 0.05  # less than this is no depth
SIDES = ("left", "bottom", "right", "top")  #: in the order of a box
ENDS: Mm = 0.5  # a drawing that reaches at least so far into a sheet is meant to go through


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelOutline:
    """The outer line of a drawing as the shape of a panel, about the panel's middle."""

    drawing: str
    width: Mm
    x: Mm = 0.0  #: to the right of the middle
    y: Mm = 0.0
    turn: float = 0.0  #: [degrees]
    seen: bool = True  #: about the middle of what is seen of the panel, and as deep in other sheets as those are; no: of all of it, as it used to be

    def __post_init__(self) -> None:
        require("width", self.width, 1.0, REACH)
        require("x", self.x, -REACH, REACH)
        require("y", self.y, -REACH, REACH)
        require("turn", self.turn, -360.0, 360.0, unit="°")


def outlined(panel: Panel, o: PanelOutline, panels: Mapping[str, Panel], drawings: Mapping[str, Drawing], findings: list[Finding],
             rules: Sequence[MeetingRule] = ()) -> Panel:  # fmt: skip
    """Return the panel with the outline that a person gave it; its openings stay where they still lie in it.

    Args:
        panels: among which it stands
        rules: pairs that only rest against each other hide nothing of each other
    """
    drawing = drawings.get(o.drawing)
    ring = silhouette_of(drawing) if drawing is not None else ()
    if drawing is None or len(ring) < 3:
        findings.append(Finding(code="drawing_lost", severity=Severity.LOOK, parts=(panel.id,), says=say("drawing_lost.outline", panel=panel.ref)))
        return panel
    whole = bounds_of(resolved(panel, panels).envelope.outer)
    seen = visible_frame(panel, panels, rules) if o.seen else whole
    x0, y0, x1, y1 = seen
    (wide, high), (mx, my) = drawing.size, ((x0 + x1) / 2 + o.x, (y0 + y1) / 2 + o.y)
    k, c, s = o.width / (wide or 1.0), math.cos(math.radians(o.turn)), math.sin(math.radians(o.turn))

    def at(p: Vec2) -> Vec2:
        x, y = (p[0] - wide / 2) * k, (p[1] - high / 2) * k
        return mx + x * c - y * s, my + x * s + y * c

    line, circles = outermost(drawing), panel.envelope.circles
    if line is not None and line.circle is not None:
        x, y = at((line.circle.x, line.circle.y))
        drawn = Circle(x=x, y=y, radius=line.circle.radius * k)
        shape, circles = Polygon(circle_ring(drawn)), (*circles, drawn)
    else:
        shape = Polygon(smoothed(tuple(at(p) for p in ring), closed=True))
    shape, lost = _as_deep(shape, whole, seen)
    if lost:
        ends = Listed(tuple(say(f"outline_ends.{side}", by=mm(by)) for side, by in lost.items()), between=" and ")
        findings.append(Finding(code="outline_cut_off", severity=Severity.LOOK, parts=(panel.id,), says=say("outline_cut_off", panel=panel.ref, ends=ends)))
    for hole in panel.envelope.holes:
        shape = shape.difference(Polygon(hole))
    for inner in drawing.lines:
        if not inner.closed or inner is line:
            continue
        if inner.circle is not None:
            x, y = at((inner.circle.x, inner.circle.y))
            drawn = Circle(x=x, y=y, radius=inner.circle.radius * k)
            shape, circles = shape.difference(Polygon(circle_ring(drawn))), (*circles, drawn)
        else:
            shape = shape.difference(Polygon(smoothed(tuple(at(p) for p in inner.points), closed=True)).buffer(0))
    largest = max(pieces(shape), key=lambda p: p.area, default=None)
    return panel if largest is None else replace(panel, envelope=profile_of(largest, circles=circles), inside=None)


def _as_deep(shape: Polygon, whole: Frame, seen: Frame) -> tuple[Polygon, dict[str, Mm]]:
    """Return a shape whose ends beyond the box of what is seen reach as far as the panel itself does there.

    Also returns how much was cut off where that is more than what stays: a foot that is a little too deep is meant to end with the sheet, a figure
    that goes on beyond it is not [mm].
    """
    lost: dict[str, Mm] = {}
    for k in range(4):
        axis, edge, end = k % 2, seen[k], whole[k]
        depth = abs(end - edge)
        foot = pieces(shape.intersection(_beyond(axis, edge, edge + math.copysign(FAR, k - 1.5))))
        reach = max((abs(p.bounds[k] - edge) for p in foot), default=0.0)
        if depth < HIDDEN or reach < ENDS:
            continue
        if reach > depth:
            if reach - depth > depth + ENDS:
                lost[SIDES[k]] = reach - depth
            foot = [q for p in foot for q in pieces(p.intersection(_beyond(axis, edge, end)))]
        else:
            by = depth / reach
            drawn_out: Affine = (by, 0.0, 0.0, 1.0, edge - by * edge, 0.0) if axis == 0 else (1.0, 0.0, 0.0, by, 0.0, edge - by * edge)
            foot = [moved(p, drawn_out) for p in foot]
        rest = pieces(shape.difference(_beyond(axis, edge, edge + math.copysign(FAR, k - 1.5))))
        shape = max(pieces(merged([*rest, *foot])), key=lambda p: p.area, default=shape)
    return shape, lost


def _beyond(axis: int, edge: Mm, end: Mm) -> Polygon:
    """Return the band from one value of x (or y) to another."""
    low, high = min(edge, end), max(edge, end)
    return box(low, -FAR, high, FAR) if axis == 0 else box(-FAR, low, FAR, high)
