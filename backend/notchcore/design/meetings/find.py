"""Finding where sheets meet, and what kind of meeting it is.

Bar    one overlap of two slabs along their meeting line
Role   what a panel does there: its inside passes (face) or it ends there (edge), with its bulk below or above the strip

corner   both end                tee       one ends in the other's face
crossing both pass               pierce    one passes through a closed opening of the other
stack    faces touch             splice    edges touch in one plane
inset    a piece fills an opening of another in its plane
clash    parallel sheets overlap locked    both pass, neither is open at an end
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache
from itertools import combinations

from notchcore.design.meetings.frame import MeetingFrame, Side, angle_deg, frame_of
from notchcore.design.panel import Panel
from notchcore.geom.planar import Polygon, covers_more_than, made_ready, moved, spans_in, strip_pieces
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, boxes_touch
from notchcore.geom.vectors import cross, dot, norm, sub
from notchcore.tolerance import BAR_LEAST, COINCIDENT, PARALLEL, SHORT_OF_MATE
from notchcore.units import Mm

SHARPEST_DEG = 22.0  # below this a joint's slots grow without bound
PROUD_MOST = 0.5  # tabs may stand out by this share of the thinner sheet and still count as ending there
ROLE_SHARE = 0.05  # material along more than this share of the bar counts
FILM = 1e-6  # [mm] what only touches the strip from outside, but for the noise of numbers, is not in it
STACK_LEAST = 1.0  # [mm2] common area that makes a stack


class MeetingKind(StrEnum):
    """How two sheets meet."""

    CORNER = "corner"
    TEE = "tee"
    CROSSING = "crossing"
    PIERCE = "pierce"
    STACK = "stack"
    SPLICE = "splice"
    INSET = "inset"  # a piece in an opening of another, in one plane
    CLASH = "clash"
    LOCKED = "locked"
    SHORT = "short"  # an edge stops just before its mate
    SHARP = "sharp"  # the planes are too nearly parallel


class Role(StrEnum):
    """What a panel does at a bar."""

    FACE = "face"
    EDGE_BELOW = "edge_below"  # the bulk lies at smaller alpha, the free end at larger
    EDGE_ABOVE = "edge_above"
    NONE = "none"

    @property
    def is_edge(self) -> bool:
        return self in (Role.EDGE_BELOW, Role.EDGE_ABOVE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """One meeting of two panels; `a` has the smaller id."""

    a: Panel
    b: Panel
    kind: MeetingKind
    ordinal: int = 0
    start: Mm = 0.0
    end: Mm = 0.0
    frame: MeetingFrame | None = None
    role_a: Role = Role.NONE
    role_b: Role = Role.NONE
    span_a: tuple[Mm, Mm] = (0.0, 0.0)  #: sigma range of a's material in the strip, beyond the bar too
    span_b: tuple[Mm, Mm] = (0.0, 0.0)
    dip_a: Mm = 0.0  #: how far the ends of a's material in the strip slope, top and bottom together
    dip_b: Mm = 0.0
    host: str = ""  #: for a pierce or an inset: the panel with the closed opening
    amount: float = 0.0  #: common area [mm2] of a stack or clash, gap [mm] of a short edge, angle of a sharp one

    @property
    def id(self) -> str:
        return f"{self.a.id}+{self.b.id}" + (f"#{self.ordinal}" if self.ordinal else "")

    def role(self, panel: Panel) -> Role:
        return self.role_a if panel.id == self.a.id else self.role_b

    def other(self, panel: Panel) -> Panel:
        return self.b if panel.id == self.a.id else self.a


def seen_in(a: Panel, b: Panel, shape: Polygon) -> Polygon:
    """Return a shape of b's plane in the plane of a parallel panel a."""
    x, y, d = b.pose.x, b.pose.y, sub(b.pose.origin, a.pose.origin)
    u, v = a.pose.x, a.pose.y
    return moved(shape, (dot(x, u), dot(y, u), dot(x, v), dot(y, v), dot(d, u), dot(d, v)))


def _parallel(a: Panel, b: Panel, own: Polygon, other: Polygon, *, spliced: bool) -> list[Bar]:
    """Meetings of sheets in parallel planes."""
    gap = dot(a.pose.normal, sub(b.pose.origin, a.pose.origin))
    sign = 1.0 if dot(a.pose.normal, b.pose.normal) > 0 else -1.0
    b_low, b_high = sorted((gap + sign * b.low, gap + sign * b.high))
    apart = min(b_high, a.high) - max(b_low, a.low)
    if apart < -COINCIDENT:
        return []
    seen = seen_in(a, b, other)
    if abs(b_low - a.high) < COINCIDENT or abs(b_high - a.low) < COINCIDENT:
        area = own.intersection(seen).area
        return [Bar(a=a, b=b, kind=MeetingKind.STACK, amount=area)] if area > STACK_LEAST else []
    if apart > COINCIDENT:
        area = own.intersection(seen).area
        if area > STACK_LEAST:
            return [Bar(a=a, b=b, kind=MeetingKind.SPLICE if spliced else MeetingKind.CLASH, amount=area)]
        touching = own.buffer(COINCIDENT).intersection(seen.buffer(COINCIDENT)).area / (2 * COINCIDENT)
        if touching > 1:
            for host, hole_side, piece in ((a.id, own, seen), (b.id, seen, own)):
                if any(Polygon(h).buffer(COINCIDENT).contains(piece) for h in hole_side.interiors):
                    return [Bar(a=a, b=b, kind=MeetingKind.INSET, amount=touching, host=host)]
            return [Bar(a=a, b=b, kind=MeetingKind.SPLICE, amount=touching)]
    return []


def _role(side: Side, shape: Polygon, start: Mm, end: Mm, probe: Mm) -> Role:
    """Return where a panel has material just outside its strip, along the bar."""
    inset = 0.02 * (end - start)
    least = ROLE_SHARE * (end - start)
    below, above = (
        covers_more_than(shape, side.on_panel(start + inset, level), side.on_panel(end - inset, level), least)
        for level in (side.strip[0] - probe, side.strip[1] + probe)
    )
    if below and above:
        return Role.FACE
    if below:
        return Role.EDGE_BELOW
    return Role.EDGE_ABOVE if above else Role.NONE


def _kind(bar: Bar) -> Bar:
    """Return the bar with its kind told from the roles."""
    roles = (bar.role_a, bar.role_b)
    faces = [r is Role.FACE for r in roles]
    if not all(faces):
        kind = MeetingKind.TEE if any(faces) else MeetingKind.CORNER
        return _with(bar, kind)
    before = {p.id: bar.start - s[0] for p, s in ((bar.a, bar.span_a), (bar.b, bar.span_b))}
    after = {p.id: s[1] - bar.end for p, s in ((bar.a, bar.span_a), (bar.b, bar.span_b))}
    wall = 1.5 * max(bar.a.layout_t, bar.b.layout_t)
    for host, guest in ((bar.a, bar.b), (bar.b, bar.a)):
        if min(before[host.id], after[host.id]) >= host.layout_t - COINCIDENT and max(before[guest.id], after[guest.id]) < COINCIDENT:
            return _with(bar, MeetingKind.PIERCE, host=host.id)
    # A lap needs one panel open upward and the other downward; what the slots waste beyond the bar tells if that can be.
    waste = min(after[bar.a.id] + before[bar.b.id], before[bar.a.id] + after[bar.b.id])
    locked = waste > 0.5 * (bar.end - bar.start) + 4 * wall
    return _with(bar, MeetingKind.LOCKED if locked else MeetingKind.CROSSING)


def _with(bar: Bar, kind: MeetingKind, *, host: str = "") -> Bar:
    return replace(bar, kind=kind, host=host)


def _short(side: Side, mate: Side, shape: Polygon, mate_shape: Polygon) -> Mm | None:
    """Return by how much an edge falls short of its mate's face, None when it is not near."""
    low, high = side.strip
    for near, far in ((low - SHORT_OF_MATE, low), (high, high + SHORT_OF_MATE)):
        for piece in strip_pieces(shape, near, far):
            x0, y0, x1, y1 = piece.bounds
            met = strip_pieces(mate_shape, *mate.strip)
            if any(min(x1, m.bounds[2]) - max(x0, m.bounds[0]) > BAR_LEAST for m in met):
                return float(max(low - y1, y0 - high, 0.0))
    return None


def _crossing_planes(a: Panel, b: Panel, plane_a: Polygon, plane_b: Polygon) -> list[Bar]:
    """Meetings of sheets whose planes cross."""
    frame = frame_of(a, b)
    in_a, in_b = (
        spans_in(shape, side.to_frame, side.to_panel, side.strip[0] + FILM, side.strip[1] - FILM) for shape, side in ((plane_a, frame.a), (plane_b, frame.b))
    )
    if not in_a or not in_b:
        gaps = []
        shape_a, shape_b = frame.a.seen(plane_a), frame.b.seen(plane_b)
        if in_b and not in_a:
            gaps.append(_short(frame.a, frame.b, shape_a, shape_b))
        if in_a and not in_b:
            gaps.append(_short(frame.b, frame.a, shape_b, shape_a))
        gap = next((g for g in gaps if g is not None), None)
        return [] if gap is None else [Bar(a=a, b=b, kind=MeetingKind.SHORT, amount=gap)]
    probe = PROUD_MOST * min(a.t, b.t) + 0.02
    bars = []
    for piece_a in in_a:
        for piece_b in in_b:
            start, end = max(piece_a.start, piece_b.start), min(piece_a.end, piece_b.end)
            if end - start < BAR_LEAST:
                continue
            if angle_deg(frame) < SHARPEST_DEG:
                return [Bar(a=a, b=b, kind=MeetingKind.SHARP, amount=angle_deg(frame))]
            bars.append(
                _kind(
                    Bar(
                        a=a,
                        b=b,
                        kind=MeetingKind.CORNER,
                        start=start,
                        end=end,
                        frame=frame,
                        role_a=_role(frame.a, plane_a, start, end, probe),
                        role_b=_role(frame.b, plane_b, start, end, probe),
                        span_a=(piece_a.start, piece_a.end),
                        span_b=(piece_b.start, piece_b.end),
                        dip_a=piece_a.dip,
                        dip_b=piece_b.dip,
                    )
                )
            )
    return bars


class _Known:
    """A panel as it was seen before, with its shape and box: equal panels share one, so that pairs are looked up by identity."""

    __slots__ = ("box", "panel", "shape")

    def __init__(self, panel: Panel) -> None:
        self.panel = panel
        self.shape = made_ready(polygon_of(panel.envelope))
        self.box = box_of(panel.slab())


_known = lru_cache(maxsize=4096)(_Known)


@lru_cache(maxsize=1 << 15)
def _met(one: _Known, two: _Known, spliced: bool) -> tuple[Bar, ...]:
    """Return all meetings of a pair; after a change only pairs with a changed panel are looked at again."""
    (a, shape_a), (b, shape_b) = sorted(((one.panel, one.shape), (two.panel, two.shape)), key=lambda p: p[0].id)
    if norm(cross(a.pose.normal, b.pose.normal)) < PARALLEL:
        bars = _parallel(a, b, shape_a, shape_b, spliced=spliced)
    else:
        bars = _crossing_planes(a, b, shape_a, shape_b)
    return tuple(replace(bar, ordinal=i) for i, bar in enumerate(sorted(bars, key=lambda bar: bar.start)))


def meet(one: Panel, two: Panel, *, spliced: bool = False) -> list[Bar]:
    """Return all meetings of two panels, in order along their line; the order of the panels does not matter.

    Args:
        spliced: they are two sides of one divided sheet, so that their overlap in one plane is meant
    """
    return list(_met(_known(one), _known(two), spliced))


def all_meetings(panels: list[Panel], *, apart: set[frozenset[str]], spliced: set[frozenset[str]]) -> list[Bar]:
    """Return every meeting among the panels; pairs in `apart` are left out, pairs in `spliced` are sides of one divided sheet."""
    known = [_known(p) for p in panels]
    found: list[Bar] = []
    for one, two in combinations(known, 2):
        if not boxes_touch(one.box, two.box, SHORT_OF_MATE):
            continue
        pair = frozenset((one.panel.id, two.panel.id))
        if pair not in apart:
            found.extend(_met(one, two, pair in spliced))
    return _without_covered(found)


def _without_covered(bars: list[Bar]) -> list[Bar]:
    """Return the bars without edges that seem short of a sheet only because it lies on the one in which they end."""
    stacked = {frozenset((b.a.id, b.b.id)) for b in bars if b.kind is MeetingKind.STACK}
    joined: dict[str, set[str]] = {}
    for bar in bars:
        if bar.frame is not None:
            joined.setdefault(bar.a.id, set()).add(bar.b.id)
            joined.setdefault(bar.b.id, set()).add(bar.a.id)

    def covered(bar: Bar) -> bool:
        return any(frozenset((q, mate)) in stacked for edge, mate in ((bar.a.id, bar.b.id), (bar.b.id, bar.a.id)) for q in joined.get(edge, ()))

    return [b for b in bars if b.kind is not MeetingKind.SHORT or not covered(b)]
