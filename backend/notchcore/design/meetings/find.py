"""Finding where sheets meet, and what kind of meeting it is.

Bar    one overlap of two slabs along their meeting line
Role   what a panel does there: its inside passes (face) or it ends there (edge), with its bulk below or above the strip

corner   both end                tee       one ends in the other's face
crossing both pass               through   one passes through a closed opening of the other
stack    faces touch             splice    edges touch in one plane
inset    a piece fills an opening of another in its plane
clash    parallel sheets overlap locked    both pass, neither is open at an end
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property, lru_cache

from notchcore.design.meetings.frame import MeetingFrame, Side, angle_deg, frame_of
from notchcore.design.panel import Panel
from notchcore.geom.areas import holes_round
from notchcore.geom.planar import Polygon, Span, Strip, box, cover_more_than, made_ready, moved, spans_in, strip_pieces
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, extent_of_common
from notchcore.geom.vectors import Vec2, cross, dot, norm, sub
from notchcore.ids import MeetingId
from notchcore.tolerance import BAR_LEAST, COINCIDENT, PARALLEL, SHORT_OF_MATE
from notchcore.units import Mm

SHARPEST_DEG = 22.0  # below this a joint's slots grow without bound
PROUD_MOST = 0.5  # tabs may stand out by this share of the thinner sheet and still count as ending there
ROLE_SHARE = 0.05  # material along more than this share of the bar counts
FILM = 1e-6  # [mm] what only touches the strip from outside, but for the noise of numbers, is not in it
MOST_KEPT = 1 << 15  # pairs of panels whose meetings are kept
PLAY_MOST: Mm = 3.0  # a piece with more play, both sides together, lies in an opening by chance
PLAY_LEAST: Mm = 0.02  # with less, it was drawn as large as its opening
ROUND = 24  # corners and more, all as far from the middle: a circle
ALONG: Mm = 0.02  # so much deeper than its foremost place, an edge still runs along
RUNS_LEAST: Mm = 1.0  # an edge that runs along for less is a corner
TOUCHING: Mm = 12.0  # one that touches for less is too short to be joined anyway: the end of a foot beside a wall
STACK_LEAST = 1.0  # [mm2] common area that makes a stack


class MeetingKind(StrEnum):
    """How two sheets meet."""

    CORNER = "corner"
    TEE = "tee"
    CROSSING = "crossing"
    THROUGH = "through"
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
    host: str = ""  #: where one goes through it, and for an inset: the panel with the closed opening
    play: Mm = 0.0  #: of an inset that was drawn smaller than its opening, both sides together
    amount: float = 0.0  #: common area [mm2] of a stack or clash, gap [mm] of a short edge, angle of a sharp one

    @property
    def id(self) -> str:
        return str(MeetingId(self.a.id, self.b.id, str(self.ordinal or "")))

    def role(self, panel: Panel) -> Role:
        return self.role_a if panel.id == self.a.id else self.role_b

    def other(self, panel: Panel) -> Panel:
        return self.b if panel.id == self.a.id else self.a


def seen_in(a: Panel, b: Panel, *, shape: Polygon) -> Polygon:
    """Return a shape of b's plane in the plane of a parallel panel a."""
    x, y, d = b.pose.x, b.pose.y, sub(b.pose.origin, a.pose.origin)
    u, v = a.pose.x, a.pose.y
    return moved(shape, (dot(x, u), dot(y, u), dot(x, v), dot(y, v), dot(d, u), dot(d, v)))


def _parallel(one: _Known, two: _Known, *, spliced: bool) -> list[Bar]:
    """Meetings of sheets in parallel planes."""
    a, b, own, other = one.panel, two.panel, one.shape, two.shape
    gap = dot(a.pose.normal, sub(b.pose.origin, a.pose.origin))
    sign = 1.0 if dot(a.pose.normal, b.pose.normal) > 0 else -1.0
    b_low, b_high = sorted((gap + sign * b.low, gap + sign * b.high))
    apart = min(b_high, a.high) - max(b_low, a.low)
    if apart < -COINCIDENT:
        return []
    seen = seen_in(a, b, shape=other)
    if abs(b_low - a.high) < COINCIDENT or abs(b_high - a.low) < COINCIDENT:
        area = own.intersection(seen).area
        return [Bar(a=a, b=b, kind=MeetingKind.STACK, amount=area)] if area > STACK_LEAST else []
    if apart > COINCIDENT:
        area = own.intersection(seen).area
        if area > STACK_LEAST:
            return [Bar(a=a, b=b, kind=MeetingKind.SPLICE if spliced else MeetingKind.CLASH, amount=area)]
        touching = one.grown.intersection(seen.buffer(COINCIDENT)).area / (2 * COINCIDENT)
        if touching > 1:
            for host, hole_side, piece in ((a.id, own, seen), (b.id, seen, own)):
                around = next(
                    (o for h in holes_round(hole_side, piece, slack=COINCIDENT) if (o := h.buffer(COINCIDENT, join_style="mitre")).contains(piece)), None
                )
                if around is not None:
                    play = _play(around, piece) - 2 * COINCIDENT  # drawn smaller, it may touch its opening on one side or two
                    if play > PLAY_MOST:
                        continue  # the opening is another thing's, which it only touches: its own ran into it
                    play = play if PLAY_LEAST < play else 0.0
                    return [Bar(a=a, b=b, kind=MeetingKind.INSET, amount=touching, host=host, play=play)]
            return [Bar(a=a, b=b, kind=MeetingKind.SPLICE, amount=touching)]
        for host, hole_side, piece in ((a.id, own, seen), (b.id, seen, own)):
            for hole in holes_round(hole_side, piece, slack=COINCIDENT):
                play = _play(hole, piece)
                if 0 < play <= PLAY_MOST:
                    return [Bar(a=a, b=b, kind=MeetingKind.INSET, host=host, amount=float(piece.exterior.length), play=play)]
    return []


def _play(opening: Polygon, piece: Polygon) -> Mm:
    """Return how much smaller a piece is than the opening that it lies in, both sides together where it lies in the middle; 0 where it does not."""
    if not opening.contains(piece):
        return 0.0
    outer, inner = radius_of(opening), radius_of(piece)
    if outer and inner:
        return 2 * (outer - inner)
    (x, y), (u, v) = opening.centroid.coords[0], piece.centroid.coords[0]
    # In the middle of its opening; or where it was drawn, should that be farther from the rim: a finger notch takes the middle elsewhere.
    places = [moved(Polygon(piece.exterior), (1.0, 0.0, 0.0, 1.0, dx, dy)) for dx, dy in ((x - u, y - v), (0.0, 0.0))]
    return max((2 * float(opening.exterior.distance(p.exterior)) for p in places if opening.contains(p)), default=0.0)


def radius_of(shape: Polygon) -> Mm:
    """Return the radius of a round shape, on whose rim all its corners lie; 0 for any other."""
    (x, y), corners = shape.centroid.coords[0], shape.exterior.coords
    away = [math.dist((x, y), c) for c in corners]
    return max(away) if len(corners) >= ROUND and max(away) - min(away) < COINCIDENT / 10 else 0.0


def _probes(side: Side, start: Mm, *, end: Mm, probe: Mm) -> list[tuple[Vec2, Vec2]]:
    """Return the lines just below and just above a panel's strip, along the bar."""
    inset = 0.02 * (end - start)
    levels = (side.strip[0] - probe, side.strip[1] + probe)
    return [(side.on_panel(start + inset, level), side.on_panel(end - inset, level)) for level in levels]


def _role(below: bool, above: bool) -> Role:
    """Return what a panel does that has material just below and above its strip."""
    if below and above:
        return Role.FACE
    if below:
        return Role.EDGE_BELOW
    return Role.EDGE_ABOVE if above else Role.NONE


def _kind(bar: Bar, role_a: Role, *, role_b: Role) -> Bar:
    """Return the bar with its roles, and its kind told from them; what only comes near stays what it is."""
    if bar.kind is not MeetingKind.CORNER:
        return bar
    faces = [r is Role.FACE for r in (role_a, role_b)]

    def told(kind: MeetingKind, host: str = "") -> Bar:
        return replace(bar, kind=kind, host=host, role_a=role_a, role_b=role_b)

    if not all(faces):
        return told(MeetingKind.TEE if any(faces) else MeetingKind.CORNER)
    before = {p.id: bar.start - s[0] for p, s in ((bar.a, bar.span_a), (bar.b, bar.span_b))}
    after = {p.id: s[1] - bar.end for p, s in ((bar.a, bar.span_a), (bar.b, bar.span_b))}
    wall = 1.5 * max(bar.a.layout_t, bar.b.layout_t)
    for host, guest in ((bar.a, bar.b), (bar.b, bar.a)):
        if min(before[host.id], after[host.id]) >= host.layout_t - COINCIDENT and max(before[guest.id], after[guest.id]) < COINCIDENT:
            return told(MeetingKind.THROUGH, host.id)
    # A lap needs one panel open upward and the other downward; what the slots waste beyond the bar tells if that can be.
    waste = min(after[bar.a.id] + before[bar.b.id], before[bar.a.id] + after[bar.b.id])
    locked = waste > 0.5 * (bar.end - bar.start) + 4 * wall
    return told(MeetingKind.LOCKED if locked else MeetingKind.CROSSING)


def _short(side: Side, mate: Side, *, shape: Polygon, mate_shape: Polygon) -> Mm | None:
    """Return by how much an edge falls short of its mate's face, None when none runs near to it: one that only comes near with a corner is no edge of it."""
    low, high = side.strip
    for near, far in ((low - SHORT_OF_MATE, low), (high, high + SHORT_OF_MATE)):
        for piece in strip_pieces(shape, near, high=far):
            _, y0, _, y1 = piece.bounds
            foremost = (y1 - ALONG, y1) if far == low else (y0, y0 + ALONG)
            x0, _, x1, _ = piece.intersection(box(piece.bounds[0] - 1, foremost[0], piece.bounds[2] + 1, foremost[1])).bounds
            gap = float(max(low - y1, y0 - high, 0.0))
            least = TOUCHING if gap < COINCIDENT else RUNS_LEAST
            if any(min(x1, m.bounds[2]) - max(x0, m.bounds[0]) > least for m in strip_pieces(mate_shape, mate.strip[0], high=mate.strip[1])):
                return gap
    return None


@dataclass(frozen=True, slots=True)
class _Pair:
    """Two sheets whose planes cross, with their shapes."""

    a: Panel
    b: Panel
    shape_a: Polygon
    shape_b: Polygon


def _crossing_planes(pairs: Sequence[_Pair]) -> list[list[Bar]]:
    """Meetings of sheets whose planes cross, pair by pair; all pairs are looked at together, which is quick."""
    frames = [frame_of(p.a, p.b) for p in pairs]
    spans = spans_in(
        [
            Strip(shape, side.to_frame, side.to_panel, side.strip[0] + FILM, side.strip[1] - FILM)
            for p, f in zip(pairs, frames, strict=True)
            for shape, side in ((p.shape_a, f.a), (p.shape_b, f.b))
        ]
    )
    found = [_overlaps(p, f, in_a=spans[2 * k], in_b=spans[2 * k + 1]) for k, (p, f) in enumerate(zip(pairs, frames, strict=True))]
    shapes: list[Polygon] = []
    lines: list[tuple[Vec2, Vec2]] = []
    least: list[Mm] = []
    for p, f, bars in zip(pairs, frames, found, strict=True):
        probe = PROUD_MOST * min(p.a.t, p.b.t) + 0.02
        for bar in bars:
            lines += (*_probes(f.a, bar.start, end=bar.end, probe=probe), *_probes(f.b, bar.start, end=bar.end, probe=probe))
            shapes += (p.shape_a, p.shape_a, p.shape_b, p.shape_b)
            least += [ROLE_SHARE * (bar.end - bar.start)] * 4
    seen = iter(cover_more_than(shapes, lines, least=least))
    return [[_kind(bar, _role(next(seen), next(seen)), role_b=_role(next(seen), next(seen))) for bar in bars] for bars in found]


def _overlaps(pair: _Pair, frame: MeetingFrame, *, in_a: list[Span], in_b: list[Span]) -> list[Bar]:
    """Return where the material of both overlaps along their line; what each does there is not told yet."""
    a, b = pair.a, pair.b
    if not in_a or not in_b:
        return _nearly(pair, frame, edge_a=bool(in_b) and not in_a, edge_b=bool(in_a) and not in_b)
    bars = []
    for piece_a in in_a:
        for piece_b in in_b:
            start, end = max(piece_a.start, piece_b.start), min(piece_a.end, piece_b.end)
            if end - start < BAR_LEAST:
                continue
            # Ends that slope may pass each other in the strip and not touch.
            if end - start < piece_a.dip + piece_b.dip and not _common(pair, frame, start=start, end=end):
                continue
            if angle_deg(frame) < SHARPEST_DEG:
                return [Bar(a=a, b=b, kind=MeetingKind.SHARP, amount=angle_deg(frame))]
            bars.append(
                Bar(
                    a=a,
                    b=b,
                    kind=MeetingKind.CORNER,
                    start=start,
                    end=end,
                    frame=frame,
                    span_a=(piece_a.start, piece_a.end),
                    span_b=(piece_b.start, piece_b.end),
                    dip_a=piece_a.dip,
                    dip_b=piece_b.dip,
                )
            )
    return bars


def _common(pair: _Pair, frame: MeetingFrame, *, start: Mm, end: Mm) -> bool:
    """Tell whether two sheets share something on a stretch of their line."""
    extent = extent_of_common((pair.a.slab(), pair.b.slab()), frame.along, origin=frame.origin)
    return extent is not None and extent[0] < end and start < extent[1]


def _nearly(pair: _Pair, frame: MeetingFrame, *, edge_a: bool, edge_b: bool) -> list[Bar]:
    """Return the meeting of an edge that stops just before the other sheet."""
    if not (edge_a or edge_b):
        return []
    shape_a, shape_b = frame.a.seen(pair.shape_a), frame.b.seen(pair.shape_b)
    gap = _short(frame.a, frame.b, shape=shape_a, mate_shape=shape_b) if edge_a else _short(frame.b, frame.a, shape=shape_b, mate_shape=shape_a)
    return [] if gap is None else [Bar(a=pair.a, b=pair.b, kind=MeetingKind.SHORT, amount=gap)]


class _Known:
    """A panel as it was seen before, with its shape and box: equal panels share one, so that pairs are looked up by identity."""

    __slots__ = ("__dict__", "box", "panel", "shape")

    def __init__(self, panel: Panel) -> None:
        self.panel = panel
        self.shape = made_ready(polygon_of(panel.envelope))
        self.box = box_of(panel.slab())

    @cached_property
    def grown(self) -> Polygon:
        """The shape with what touches it from outside; one with many openings is asked about each piece in them."""
        return self.shape.buffer(COINCIDENT)


known = lru_cache(maxsize=4096)(_Known)


def shape_of(panel: Panel) -> Polygon:
    """Return the envelope of a panel as a polygon, made ready for many questions."""
    return known(panel).shape


Asked = tuple[_Known, _Known, bool]  # two panels, and whether they are sides of one divided sheet
_met: dict[Asked, tuple[Bar, ...]] = {}


def meetings_of(asked: Sequence[Asked]) -> list[tuple[Bar, ...]]:
    """Return all meetings of each pair; after a change only pairs with a changed panel are looked at again."""
    found = {pair: bars for pair in asked if (bars := _met.get(pair)) is not None}
    crossed: dict[Asked, _Pair] = {}
    for one, two, spliced in (new := [p for p in asked if p not in found]):
        a, b = sorted((one, two), key=lambda k: k.panel.id)
        if norm(cross(a.panel.pose.normal, b.panel.pose.normal)) < PARALLEL:
            found[one, two, spliced] = _in_order(_parallel(a, b, spliced=spliced))
        elif a.panel.laid_by or b.panel.laid_by:
            found[one, two, spliced] = ()
        else:
            crossed[one, two, spliced] = _Pair(a.panel, b.panel, a.shape, b.shape)
    found |= zip(crossed, map(_in_order, _crossing_planes(list(crossed.values()))), strict=True)
    if len(_met) + len(new) > MOST_KEPT:
        _met.clear()
    _met.update((pair, found[pair]) for pair in new)
    return [found[pair] for pair in asked]


def _in_order(bars: list[Bar]) -> tuple[Bar, ...]:
    if len(bars) < 2:
        return tuple(bars)
    return tuple(replace(bar, ordinal=i) for i, bar in enumerate(sorted(bars, key=lambda bar: bar.start)))


def meet(one: Panel, two: Panel, *, spliced: bool = False) -> list[Bar]:
    """Return all meetings of two panels, in order along their line; the order of the panels does not matter.

    Args:
        spliced: they are two sides of one divided sheet, so that their overlap in one plane is meant
    """
    return list(meetings_of([(known(one), known(two), spliced)])[0])
