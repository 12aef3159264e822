"""A panel in the shape of a drawing, or in a plain one by its numbers.

What is seen of it has that shape. Ends that stand in other sheets are as deep as those: drawn out or cut off where the sheet is
thicker or thinner than it was, or the design larger.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from notchcore.design.families.plate import PlateNumbers, impossible, shape_of
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
        require("width", self.width, least=1.0, most=REACH)
        require("x", self.x, least=-REACH, most=REACH)
        require("y", self.y, least=-REACH, most=REACH)
        require("turn", self.turn, least=-360.0, most=360.0, unit="°")


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelShape:
    """A plain shape as the shape of a panel, about the middle of what is seen of it, or on its lower edge."""

    numbers: PlateNumbers
    x: Mm = 0.0  #: to the right of the middle
    y: Mm = 0.0
    turn: float = 0.0  #: [degrees]
    standing: bool = False  #: on the lower edge of what is seen, where it stays when its height changes; y counts from there

    def __post_init__(self) -> None:
        require("x", self.x, least=-REACH, most=REACH)
        require("y", self.y, least=-REACH, most=REACH)
        require("turn", self.turn, least=-360.0, most=360.0, unit="°")


def outlined(
    panel: Panel, o: PanelOutline, *, panels: Mapping[str, Panel], drawings: Mapping[str, Drawing], findings: list[Finding], rules: Sequence[MeetingRule] = ()
) -> Panel:
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
    seen = visible_frame(panel, panels, rules=rules) if o.seen else whole
    (wide, high), k = drawing.size, o.width / (drawing.size[0] or 1.0)
    put = _put(seen, o)

    def at(p: Vec2) -> Vec2:
        return put(((p[0] - wide / 2) * k, (p[1] - high / 2) * k))

    line, circles = outermost(drawing), panel.envelope.circles
    if line is not None and line.circle is not None:
        x, y = at((line.circle.x, line.circle.y))
        drawn = Circle(x=x, y=y, radius=line.circle.radius * k)
        shape, circles = Polygon(circle_ring(drawn)), (*circles, drawn)
    else:
        shape = Polygon(smoothed(tuple(at(p) for p in ring), closed=True))
    shape = _with_ends(panel, shape, whole=whole, seen=seen, findings=findings, going_on=False)
    for inner in drawing.lines:
        if not inner.closed or inner is line:
            continue
        if inner.circle is not None:
            x, y = at((inner.circle.x, inner.circle.y))
            drawn = Circle(x=x, y=y, radius=inner.circle.radius * k)
            shape, circles = shape.difference(Polygon(circle_ring(drawn))), (*circles, drawn)
        else:
            shape = shape.difference(Polygon(smoothed(tuple(at(p) for p in inner.points), closed=True)).buffer(0))
    return _cut_to(panel, shape, circles=circles)


def shaped(panel: Panel, o: PanelShape, *, panels: Mapping[str, Panel], web: Mm, findings: list[Finding], rules: Sequence[MeetingRule] = ()) -> Panel:
    """Return the panel in a plain shape; where the shape ends at another sheet that it stood in, it still stands in it.

    Args:
        panels: among which it stands
        web: least distance of two cuts in its stock [mm]
        rules: pairs that only rest against each other hide nothing of each other
    """
    if problem := impossible(o.numbers, web):
        findings.append(Finding(code=problem.code, severity=Severity.MUST, parts=(panel.id,), says=problem.says, facts={"most_mm": problem.most}))
        return panel
    whole, seen = bounds_of(resolved(panel, panels).envelope.outer), visible_frame(panel, panels, rules=rules)
    plain = shape_of(o.numbers)
    _, _, wide, high = bounds_of(plain.outer)
    put = _put(seen, replace(o, y=o.y + (high - (seen[3] - seen[1])) / 2) if o.standing else o)

    def at(p: Vec2) -> Vec2:
        return put((p[0] - wide / 2, p[1] - high / 2))

    def circle(c: Circle) -> Circle:
        x, y = at((c.x, c.y))
        return Circle(x=x, y=y, radius=c.radius)

    shape = _with_ends(panel, Polygon([at(p) for p in plain.outer]), whole=whole, seen=seen, findings=findings, going_on=True)
    for hole in plain.holes:
        shape = shape.difference(Polygon([at(p) for p in hole]))
    return _cut_to(panel, shape, circles=(*panel.envelope.circles, *map(circle, plain.circles)))


def _put(seen: Frame, o: PanelOutline | PanelShape) -> Callable[[Vec2], Vec2]:
    """Return where a place of a shape comes to lie on a panel; both count from their middles."""
    mx, my = (seen[0] + seen[2]) / 2 + o.x, (seen[1] + seen[3]) / 2 + o.y
    c, s = math.cos(math.radians(o.turn)), math.sin(math.radians(o.turn))
    return lambda p: (mx + p[0] * c - p[1] * s, my + p[0] * s + p[1] * c)


def _with_ends(panel: Panel, shape: Polygon, *, whole: Frame, seen: Frame, findings: list[Finding], going_on: bool) -> Polygon:
    """Return a shape with its ends in other sheets as deep as those, and without the panel's openings; tell what was cut off."""
    shape, lost = _as_deep(shape, whole, seen=seen, going_on=going_on)
    if lost:
        ends = Listed(tuple(say(f"outline_ends.{side}", by=mm(by)) for side, by in lost.items()), between=" and ")
        findings.append(Finding(code="outline_cut_off", severity=Severity.LOOK, parts=(panel.id,), says=say("outline_cut_off", panel=panel.ref, ends=ends)))
    for hole in panel.envelope.holes:
        shape = shape.difference(Polygon(hole))
    return shape


def _cut_to(panel: Panel, shape: Polygon, *, circles: tuple[Circle, ...]) -> Panel:
    largest = max(pieces(shape), key=lambda p: p.area, default=None)
    return panel if largest is None else replace(panel, envelope=profile_of(largest, circles=circles), inside=None)


def _as_deep(shape: Polygon, whole: Frame, *, seen: Frame, going_on: bool) -> tuple[Polygon, dict[str, Mm]]:
    """Return a shape whose ends beyond the box of what is seen reach as far as the panel itself does there.

    Also returns how much was cut off where that is more than what stays: a foot that is a little too deep is meant to end with the sheet, a figure
    that goes on beyond it is not [mm].

    Args:
        going_on: what ends at the edge of what is seen goes on straight from there; a drawing ends where it was drawn to end
    """
    lost: dict[str, Mm] = {}
    for k in range(4):
        axis, edge, end = k % 2, seen[k], whole[k]
        depth = abs(end - edge)
        foot = pieces(shape.intersection(_beyond(axis, edge, end=edge + math.copysign(FAR, k - 1.5))))
        reach = max((abs(p.bounds[k] - edge) for p in foot), default=0.0)
        if depth < HIDDEN:
            continue
        if reach < ENDS:
            if going_on:
                shape = max(pieces(merged([shape, *_going_on(shape, axis, edge=edge, end=end)])), key=lambda p: p.area, default=shape)
            continue
        if reach > depth:
            if reach - depth > depth + ENDS:
                lost[SIDES[k]] = reach - depth
            foot = [q for p in foot for q in pieces(p.intersection(_beyond(axis, edge, end=end)))]
        else:
            by = depth / reach
            drawn_out: Affine = (by, 0.0, 0.0, 1.0, edge - by * edge, 0.0) if axis == 0 else (1.0, 0.0, 0.0, by, 0.0, edge - by * edge)
            foot = [moved(p, drawn_out) for p in foot]
        rest = pieces(shape.difference(_beyond(axis, edge, end=edge + math.copysign(FAR, k - 1.5))))
        shape = max(pieces(merged([*rest, *foot])), key=lambda p: p.area, default=shape)
    return shape, lost


def _going_on(shape: Polygon, axis: int, *, edge: Mm, end: Mm) -> list[Polygon]:
    """Return the stretches by which a shape that ends at an edge goes on to where the panel ends."""
    at_edge = pieces(shape.intersection(_beyond(axis, edge + math.copysign(HIDDEN, edge - end), end=end)))
    spans = [(p.bounds[1 - axis], p.bounds[3 - axis]) for p in at_edge]
    inner = edge + math.copysign(HIDDEN, edge - end)
    return [box(min(inner, end), a, max(inner, end), b) if axis == 0 else box(a, min(inner, end), b, max(inner, end)) for a, b in spans if b - a > ENDS]


def _beyond(axis: int, edge: Mm, *, end: Mm) -> Polygon:
    """Return the band from one value of x (or y) to another."""
    low, high = min(edge, end), max(edge, end)
    return box(low, -FAR, high, FAR) if axis == 0 else box(-FAR, low, FAR, high)
