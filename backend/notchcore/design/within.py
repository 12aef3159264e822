"""What is burned on a part ends where the part ends: lines and areas over its edges, joints and openings are cut off there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from notchcore.design.assembly import Mark, Part
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.clipping import area_within, grown, lines_within_shape
from notchcore.geom.planar import Polygon, made_ready
from notchcore.geom.profile import bridged, polygon_of, profile_of, ring_of
from notchcore.measure.machine import Operation
from notchcore.units import Mm
from notchcore.words.render import say

HAIR: Mm = 1e-4  # over the edge: float noise
LOST: Mm = 0.5  # of lines, or square millimetres of areas, that are worth telling


def kept_within(part: Part) -> tuple[Part, tuple[Finding, ...]]:
    """Return the part with its marks cut off where it ends, and what a person put on it that loses more than a trace by that."""
    if not part.marks:
        return part, ()
    body = polygon_of(part.profile)
    ready = made_ready(grown(body, HAIR))
    marks: list[Mark] = []
    losers: dict[str, Mark] = {}
    for m in part.marks:
        kept, lost = _kept(m, body, ready=ready)
        marks += kept
        if lost > LOST and m.feature:
            losers.setdefault(m.feature, m)
    if marks == list(part.marks):
        return part, ()
    found = tuple(
        Finding(
            code="mark_over_edge",
            severity=Severity.LOOK,
            parts=(part.id,),
            place=Place(part=part.id, x=m.line[0][0], y=m.line[0][1]),
            facts={"feature": feature},
            says=say("mark_over_edge", part=part.ref),
        )
        for feature, m in losers.items()
    )
    return replace(part, marks=tuple(marks)), found


def _kept(m: Mark, body: Polygon, *, ready: Polygon) -> tuple[list[Mark], float]:
    """Return what stays of a mark, and how much of it is lost [mm or mm2]."""
    line = m.line if not m.closed else (*m.line, m.line[0])
    if m.operation is not Operation.ENGRAVE:
        kept, lost = lines_within_shape(line, body, ready=ready)
        return ([m], 0.0) if not lost else ([replace(m, line=piece, closed=False) for piece in kept], lost)
    shapes, lost = area_within(m.line, body, ready=ready)
    if not lost:
        return [m], 0.0
    if m.photo is not None:
        clip = tuple(ring for s in shapes for ring in _rings(s))
        return ([replace(m, clip=clip)] if shapes else []), lost
    return [replace(m, line=bridged(profile_of(s))) for s in shapes], lost


def _rings(shape: Polygon) -> Iterator[tuple[tuple[float, float], ...]]:
    yield ring_of(shape.exterior)
    for hole in shape.interiors:
        yield ring_of(hole)
