"""Which part stands in the way of which, when one moves straight away for ever.

Removing parts never adds a blockage, so greedy removal finds an order of single-part moves whenever there is one.
Pairs of parallel or square plates are decided in the plane, exactly; other pairs by their convex prisms.
Everything runs on nominal geometry, shrunk by a hair: with a press fit all parts would look stuck.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from notchcore.design.assembly import Part
from notchcore.design.meetings.frame import MeetingFrame, frame_of
from notchcore.geom.planar import Polygon, Strip, half_plane, moved, pieces, spans_in
from notchcore.geom.prismkernels import NEVER, Prisms
from notchcore.geom.prisms import prisms_of, way
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, shrunk, swept_flat
from notchcore.geom.vectors import Vec3, dot, norm, scale, sub
from notchcore.tolerance import SHRINK

E = SHRINK
Span = tuple[float, float]


@dataclass(frozen=True, slots=True)
class _Body:
    """A part made ready: its nominal shape shrunk, and the box it fills."""

    part: Part
    shape: Polygon
    box: tuple[float, ...]


def _merged(spans: list[Span]) -> list[Span]:
    out: list[Span] = []
    for low, high in sorted(spans):
        if out and low <= out[-1][1]:
            out[-1] = (out[-1][0], max(out[-1][1], high))
        else:
            out.append((low, high))
    return out


@dataclass
class Blocking:
    """Answers `is i, moving along d, stopped by j?` and remembers the answers."""

    parts: tuple[Part, ...]
    bodies: list[_Body] = field(init=False)
    span: float = field(init=False)
    _memo: dict[tuple[int, int, Vec3], bool] = field(default_factory=dict)
    _frames: dict[tuple[int, int], MeetingFrame] = field(default_factory=dict)
    _strips: dict[tuple[int, int], Span | None] = field(default_factory=dict)
    _prisms: dict[int, Prisms] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.bodies = []
        for part in self.parts:
            nominal = part.slab(nominal=True)
            small = shrunk(nominal, E) or nominal
            self.bodies.append(_Body(part=part, shape=polygon_of(small.profile), box=box_of(nominal)))
        low = [min(b.box[k] for b in self.bodies) for k in range(3)]
        high = [max(b.box[k + 3] for b in self.bodies) for k in range(3)]
        self.span = norm(sub((high[0], high[1], high[2]), (low[0], low[1], low[2]))) + 1

    def blocks(self, i: int, j: int, *, d: Vec3) -> bool:
        """Tell whether part i, moving along the unit vector d to infinity, hits part j."""
        if not self._boxes_cross(i, j, d=d):
            return False
        key = (i, j, d)
        if key not in self._memo:
            answer = self._decide(i, j, d=d)
            self._memo[key] = answer
            self._memo[(j, i, (-d[0], -d[1], -d[2]))] = answer
        return self._memo[key]

    def _boxes_cross(self, i: int, j: int, *, d: Vec3) -> bool:
        a, b = self.bodies[i].box, self.bodies[j].box
        for k in range(3):
            reach = d[k] * self.span
            if a[k] + min(reach, 0) >= b[k + 3] - E or b[k] >= a[k + 3] + max(reach, 0) - E:
                return False
        return True

    def _decide(self, i: int, j: int, *, d: Vec3) -> bool:
        a, b = self.bodies[i].part, self.bodies[j].part
        across = abs(dot(a.pose.normal, b.pose.normal))
        along_a, along_b = dot(d, a.pose.normal), dot(d, b.pose.normal)
        if across < 1e-9:
            if abs(abs(along_a) - 1) < 1e-9:
                return self._moves_flatwise(i, j, sign=1.0 if along_a > 0 else -1.0)
            if abs(abs(along_b) - 1) < 1e-9:
                return self._moves_flatwise(j, i, sign=-1.0 if along_b > 0 else 1.0)
            if abs(along_a) < 1e-9 and abs(along_b) < 1e-9:
                return self._moves_along_line(i, j, d=d)
        elif across > 1 - 1e-9:
            offset = dot(a.pose.normal, sub(b.pose.origin, a.pose.origin))
            sign = 1.0 if dot(a.pose.normal, b.pose.normal) > 0 else -1.0
            low, high = sorted((offset + sign * b.low, offset + sign * b.high))
            if abs(abs(along_a) - 1) < 1e-9:
                ahead = high > a.low + E if along_a > 0 else low < a.high - E
                return ahead and bool(self.bodies[i].shape.intersection(self._seen_from(i, j)).area > 1e-4)
            if abs(along_a) < 1e-9:
                return min(a.high, high) - max(a.low, low) >= E and self._slides_into(i, j, d=d)
        return way(self._body(i), self._body(j), d=d) < NEVER

    def _body(self, i: int) -> Prisms:
        if i not in self._prisms:
            self._prisms[i] = prisms_of(self.parts[i].slab(nominal=True))
        return self._prisms[i]

    def _seen_from(self, i: int, j: int) -> Polygon:
        """Return part j's shape in the plane of a parallel part i."""
        a, b = self.bodies[i].part.pose, self.bodies[j].part.pose
        d = sub(b.origin, a.origin)
        return moved(self.bodies[j].shape, (dot(b.x, a.x), dot(b.y, a.x), dot(b.x, a.y), dot(b.y, a.y), dot(d, a.x), dot(d, a.y)))

    def _slides_into(self, i: int, j: int, *, d: Vec3) -> bool:
        """Part i moves within the plane that it shares with part j."""
        pose = self.bodies[i].part.pose
        way = (dot(d, pose.x) * self.span, dot(d, pose.y) * self.span)
        return bool(swept_flat(self.bodies[i].shape, way).intersection(self._seen_from(i, j)).area > 1e-4)

    def _frame(self, i: int, j: int) -> MeetingFrame:
        key = (min(i, j), max(i, j))
        if key not in self._frames:
            self._frames[key] = frame_of(self.bodies[key[0]].part, self.bodies[key[1]].part)
        return self._frames[key]

    def _strip(self, i: int, j: int) -> Span | None:
        """Return the range along the meeting line that part i takes inside part j's slab; those of all that stand square to i come at once."""
        if (i, j) not in self._strips:
            n = self.bodies[i].part.pose.normal
            square = [k for k, b in enumerate(self.bodies) if k != i and (i, k) not in self._strips and abs(dot(n, b.part.pose.normal)) < 1e-9]
            pairs = [pair for k in square for pair in ((i, k), (k, i))]
            strips = []
            for a, b in pairs:
                side = self._frame(a, b).side(self.bodies[a].part)
                strips.append(Strip(self.bodies[a].shape, side.to_frame, side.to_panel, side.strip[0] + E, side.strip[1] - E))
            for pair, found in zip(pairs, spans_in(strips), strict=True):
                self._strips[pair] = (min(s.start for s in found), max(s.end for s in found)) if found else None
        return self._strips[(i, j)]

    def _moves_along_line(self, i: int, j: int, *, d: Vec3) -> bool:
        mine, others = self._strip(i, j), self._strip(j, i)
        if mine is None or others is None:
            return False
        forward = dot(d, self._frame(i, j).along) > 0
        return mine[0] + E < others[1] if forward else others[0] + E < mine[1]

    def _moves_flatwise(self, i: int, j: int, *, sign: float) -> bool:
        """Part i moves along its own normal; part j stands square to it: compare j's front against i's shape."""
        a, b = self.bodies[i].part, self.bodies[j].part
        heading = (dot(a.pose.normal, b.pose.x) * sign, dot(a.pose.normal, b.pose.y) * sign)
        trailing = a.low + E if sign > 0 else -(a.high - E)
        limit = trailing + sign * dot(a.pose.normal, sub(a.pose.origin, b.pose.origin))
        ahead = self.bodies[j].shape.difference(half_plane(heading, limit))
        tangent = (-heading[1], heading[0])
        spans = []
        for piece in pieces(ahead):
            if piece.area > 1e-6:
                along = [x * tangent[0] + y * tangent[1] for x, y in piece.exterior.coords]
                spans.append((min(along), max(along)))
        line = (
            b.pose.x[0] * tangent[0] + b.pose.y[0] * tangent[1],
            b.pose.x[1] * tangent[0] + b.pose.y[1] * tangent[1],
            b.pose.x[2] * tangent[0] + b.pose.y[2] * tangent[1],
        )
        u, n, o = a.pose, b.pose.normal, sub(b.pose.origin, a.pose.origin)
        la, na, oa = (dot(line, u.x), dot(line, u.y)), (dot(n, u.x), dot(n, u.y)), (dot(o, u.x), dot(o, u.y))
        for low, high in _merged(spans):
            if high - low < 2 * E:
                continue
            front = [
                (oa[0] + la[0] * s + na[0] * h, oa[1] + la[1] * s + na[1] * h)
                for s, h in ((low + E, b.low + E), (high - E, b.low + E), (high - E, b.high - E), (low + E, b.high - E))
            ]
            if self.bodies[i].shape.intersects(Polygon(front)):
                return True
        return False


def directions_of(parts: tuple[Part, ...]) -> list[Vec3]:
    """Return the directions worth trying, each with its opposite: up first, then the axes, then the parts' own."""
    wanted: list[Vec3] = [(0.0, 0.0, 1.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)]
    for part in parts:
        wanted += [part.pose.normal, part.pose.x, part.pose.y]
    kept: list[Vec3] = []
    for d in wanted:
        if not any(abs(abs(dot(d, k)) - 1) < 1e-6 for k in kept):
            kept.append(d)
    return [v for d in kept for v in (d, scale(d, -1.0))]
