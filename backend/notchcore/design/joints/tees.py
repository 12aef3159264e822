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
from notchcore.geom.planar import Cutters, Polygon, box, pieces, strip_along
from notchcore.geom.vectors import dot
from notchcore.tolerance import COINCIDENT
from notchcore.units import Mm


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
    shared_with: list[Bar]  #: all bars of the assembly


def tabs_of(tee: Tee, free: list[Span], *, wanted: int | None, width: Mm | None = None) -> list[tuple[Span, list[Span]]]:
    """Return each free stretch of a tee with the tabs that stand in it, ascending [mm along the line].

    Args:
        free: stretches that no third panel takes part in
        wanted, width: how many tabs in each stretch, and how wide [mm], a person asked for; None for the shop's rule
    """
    t = max(tee.bar.a.layout_t, tee.bar.b.layout_t)
    place, shares = _dealt(tee)
    found: list[tuple[Span, list[Span]]] = []
    for start, end in free:
        tabs: list[Span] = []
        for s0, s1 in without((start, end), _keep_outs(tee, start, end)):
            tabs += tab_spans(s0, s1, t, wanted=wanted, target=width, free_start=s0 > start + COINCIDENT, free_end=s1 < end - COINCIDENT)
        if shares > 1:
            tabs = [cells(*tab, shares)[(place + i) % shares] for i, tab in enumerate(tabs)]
        found.append(((start, end), tabs))
    return found


def _keep_outs(tee: Tee, start: Mm, end: Mm) -> list[Span]:
    assert tee.bar.frame is not None
    side, own, web = tee.bar.frame.side(tee.face), tee.bar.frame.side(tee.edge), tee.web
    seen_face, seen = side.seen(tee.face_side.shape), own.seen(tee.edge_side.shape)
    region = (start, side.strip[0] - web, end, side.strip[1] + web)
    spans = [(p.bounds[0] - web, p.bounds[2] + web) for p in pieces(box(*region).difference(seen_face)) if p.area > 1e-6]
    spans += [(a - web, b + web) for a, b in tee.face_side.cuts.reaches_into(side.to_frame, region)]
    spans += [(a - web, b + web) for a, b in (*_folds_in(tee.face, side.seen, region), *_folds_in(tee.edge, own.seen, _root_of(tee, own, start, end)))]
    root = _root_of(tee, own, start, end)
    spans += [(p.bounds[0], p.bounds[2]) for p in pieces(box(*root).difference(seen)) if p.area > 1e-6]
    return spans + tee.edge_side.cuts.reaches_into(own.to_frame, root)


def _root_of(tee: Tee, own: Side, start: Mm, end: Mm) -> tuple[Mm, Mm, Mm, Mm]:
    """Return the box behind the roots of the tabs, in the meeting's frame."""
    low, high = own.strip
    return (start, low - tee.web, end, low) if tee.bar.role(tee.edge) is Role.EDGE_BELOW else (start, high, end, high + tee.web)


def _folds_in(panel: Panel, seen: Callable[[Polygon], Polygon], region: tuple[Mm, Mm, Mm, Mm]) -> list[Span]:
    """Return the stretches of the meeting line that folds of a panel cross within a region."""
    found = []
    for start, end in panel.folds:
        for strip in pieces(strip_along(start, end, COINCIDENT)):
            found += [(p.bounds[0], p.bounds[2]) for p in pieces(seen(strip).intersection(box(*region)))]
    return found


def _dealt(tee: Tee) -> tuple[int, int]:
    """Return this bar's place among the tees that share one strip of a face, and how many they are."""
    frame, face = tee.bar.frame, tee.face
    assert frame is not None
    strip = frame.side(face).strip
    own = box(tee.bar.start, strip[0], tee.bar.end, strip[1])
    sharing = []
    for other in tee.shared_with:
        if other.kind is not MeetingKind.TEE or other.frame is None or face.id not in (other.a.id, other.b.id) or other.role(face) is not Role.FACE:
            continue
        if abs(abs(dot(other.frame.along, frame.along)) - 1) > 1e-9:
            continue
        side = other.frame.side(face)
        corners = [side.on_panel(s, a) for s in (other.start, other.end) for a in side.strip]
        seen = frame.side(face).seen(Polygon([corners[0], corners[1], corners[3], corners[2]]))
        if own.intersection(seen).area > 1e-3:
            sharing.append(other.id)
    return sorted(sharing).index(tee.bar.id), len(sharing)
