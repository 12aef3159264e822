"""Where the tabs of a tee stand, and what they keep clear of.

Keep-out   a stretch of the meeting line where no tab may stand: near the face's rim, its holes and other joints' cuts, and
           where the edge has no material behind the tab's root
Dealing    plates that meet one face from both sides on one line take turns: each gets its own part of every tab
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from notchcore.design.joints.layout import Span, cells, tab_spans, without
from notchcore.design.meetings.find import Bar, MeetingKind, Role
from notchcore.design.meetings.frame import Side
from notchcore.design.panel import Panel
from notchcore.geom.cutters import Cutters, Region, missing_in
from notchcore.geom.planar import Polygon, box, pieces, strip_along
from notchcore.geom.vectors import dot
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm

SHARED_LEAST = 1e-3  # [mm2] of two tees' strips, from which on they share them


@dataclass(frozen=True, slots=True, kw_only=True)
class CutSide:
    """One panel of a tee with what other joints have taken from it already."""

    shape: Polygon
    cuts: Cutters


@dataclass(frozen=True, slots=True, kw_only=True)
class Tee:
    """A bar in which the edge of one panel ends in the face of another."""

    bar: Bar
    face: Panel
    edge: Panel
    face_side: CutSide
    edge_side: CutSide
    web: Mm  #: least material between a slot and any other cut in the face
    on_face: list[Bar]  #: all tees in that face


def tabs_of(tee: Tee, free: list[Span], *, wanted: int | None, width: Mm | None = None) -> list[tuple[Span, list[Span]]]:
    """Return each free stretch of a tee with the tabs that stand in it, ascending [mm along the line].

    Args:
        free: stretches that no third panel takes part in
        wanted, width: how many tabs in each stretch, and how wide [mm], a person asked for; None for the shop's rule
    """
    t = max(tee.bar.a.layout_t, tee.bar.b.layout_t)
    place, shares = _dealt(tee)
    found: list[tuple[Span, list[Span]]] = []
    for (start, end), outs in zip(free, _keep_outs(tee, free), strict=True):
        tabs: list[Span] = []
        for s0, s1 in without((start, end), outs):
            tabs += tab_spans(s0, s1, t=t, wanted=wanted, target=width, free_start=s0 > start + COINCIDENT, free_end=s1 < end - COINCIDENT)
        if shares > 1:
            tabs = [cells(*tab, count=shares)[(place + i) % shares] for i, tab in enumerate(tabs)]
        found.append(((start, end), tabs))
    return found


def _keep_outs(tee: Tee, free: list[Span]) -> list[list[Span]]:
    """Return the keep-outs of each free stretch; all stretches are looked at together, which is quick."""
    if not free:
        return []
    assert tee.bar.frame is not None
    side, own, web = tee.bar.frame.side(tee.face), tee.bar.frame.side(tee.edge), tee.web
    regions = [(start, side.strip[0] - web, end, side.strip[1] + web) for start, end in free]
    roots = [_root_of(tee, own, start=start, end=end) for start, end in free]
    wide = zip(
        missing_in(side.seen(tee.face_side.shape), regions),
        tee.face_side.cuts.reach_into(side.to_frame, regions),
        [_folds_in(tee.face, side.seen, region=r) for r in regions],
        [_folds_in(tee.edge, own.seen, region=r) for r in roots],
        strict=True,
    )
    plain = zip(missing_in(own.seen(tee.edge_side.shape), roots), tee.edge_side.cuts.reach_into(own.to_frame, roots), strict=True)
    return [
        [*((a - web, b + web) for spans in near for a, b in spans), *(span for spans in at for span in spans)] for near, at in zip(wide, plain, strict=True)
    ]


def _root_of(tee: Tee, own: Side, *, start: Mm, end: Mm) -> Region:
    """Return the box behind the roots of the tabs, in the meeting's frame."""
    low, high = own.strip
    return (start, low - tee.web, end, low) if tee.bar.role(tee.edge) is Role.EDGE_BELOW else (start, high, end, high + tee.web)


def _folds_in(panel: Panel, seen: Callable[[Polygon], Polygon], *, region: Region) -> list[Span]:
    """Return the stretches of the meeting line that folds of a panel cross within a region."""
    found = []
    for start, end in panel.folds:
        for strip in pieces(strip_along(start, end, half=COINCIDENT)):
            found += [(p.bounds[0], p.bounds[2]) for p in pieces(seen(strip).intersection(box(*region)))]
    return found


def _dealt(tee: Tee) -> tuple[int, int]:
    """Return this bar's place among the tees that share one strip of a face, and how many they are."""
    frame, face = tee.bar.frame, tee.face
    assert frame is not None
    low, high = frame.side(face).strip
    a, b, c, d, e, f = frame.side(face).to_frame
    sharing = []
    for other in tee.on_face:
        if other.frame is None or abs(abs(dot(other.frame.along, frame.along)) - 1) > 1e-9:
            continue
        side = other.frame.side(face)
        (x0, y0), (x1, y1) = side.on_panel(other.start, side.strip[0]), side.on_panel(other.end, side.strip[1])
        ends, heights = sorted((a * x0 + b * y0 + e, a * x1 + b * y1 + e)), sorted((c * x0 + d * y0 + f, c * x1 + d * y1 + f))
        along, across = min(ends[1], tee.bar.end) - max(ends[0], tee.bar.start), min(heights[1], high) - max(heights[0], low)
        if min(along, across) > 0 and along * across > SHARED_LEAST:
            sharing.append(other.id)
    return sorted(sharing).index(tee.bar.id), len(sharing)


def tees_by_face(bars: list[Bar]) -> dict[str, list[Bar]]:
    """Return the tees in each face, by panel."""
    found: dict[str, list[Bar]] = {}
    for bar in bars:
        if bar.kind is MeetingKind.TEE:
            for panel in (bar.a, bar.b):
                if bar.role(panel) is Role.FACE:
                    found.setdefault(panel.id, []).append(bar)
    return found
