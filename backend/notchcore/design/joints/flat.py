"""Joints of sheets in parallel planes: stack, splice, inset; and what is said of those that get no cut.

Stack    faces touch: the smaller outline is scored on the larger, with dowel holes if wanted, or engraved as its seat
Splice   edge to edge in one plane: a puzzle line or a slant divides the overlap
Inset    a piece in an opening of another, in the same plane: smaller by the clearance all round
"""

from __future__ import annotations

from notchcore.design.assembly import FeatureKind, Mark
from notchcore.design.joints.cutting import Bench, ring
from notchcore.design.joints.seats import Seat
from notchcore.design.meetings.find import SHARPEST_DEG, Bar, MeetingKind, radius_of, seen_in
from notchcore.design.panel import Panel
from notchcore.design.styles import Style
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, far_places, inner_lines, pieces, subtract
from notchcore.geom.profile import Circle, Ring, circle_ring, ring_of
from notchcore.geom.vectors import Vec2, dot, sub
from notchcore.ledger import Term, TermKind, Trust, total
from notchcore.units import Mm
from notchcore.words.facts import Angle, Area, mm
from notchcore.words.render import say

SCORE_INSIDE: Mm = 1.0  # a locating line nearer to the edge than this would show and help nobody
HIDDEN: Mm = 0.5  # how far a line that locates a letter lies within it, so that no face shows it
DOWEL: Mm = 4.0
GLUE: Mm = 0.05  # what a pocket is deeper than the piece in it is thick
LEAST_DEPTH: Mm = 0.1
SEAT_PLAY: Mm = 0.2  # what an engraved seat is wider than the sheet in it, both sides together
HEAD_FLARE = 0.16  # of a puzzle head, per side, as a share of its depth
HEADS_MOST = 8


def stack(bench: Bench, bar: Bar) -> None:
    """Score the outline of the smaller sheet on the larger, and drill dowel holes where they are asked for."""
    small, large = sorted((bar.a, bar.b), key=lambda p: (bench.shapes[p.id].area, p.id))
    seen = seen_in(large, small, shape=bench.shapes[small.id])
    style, front = bench.style(bar, allowed=(Style.GLUE, Style.DOWELS, Style.RECESS)), _touches_front(small, large)
    places = _hidden(seen, bench.shapes[large.id]) if small.seat is Style.GLUE else inner_lines(seen, bench.shapes[large.id], inside=SCORE_INSIDE)
    if style is Style.RECESS and (places or small.seat):
        _seat(bench, bar, seen=seen, small=small, large=large, back=not front)
        return
    if style is Style.RECESS:
        bench.look("recess_without_rim", bar, says=say("recess_without_rim", small=small.ref, large=large.ref))
    shows, placed = _shows_through(bench, small, large=large), small.id in large.places or _discs_alike(bench, small, seen=seen, large=large)
    if not shows and not placed:
        bench.cuts[large.id].marks += [Mark(line=line, closed=closed, back=not front) for line, closed in places]
    if style is Style.DOWELS:
        _dowels(bench, bar, small=small, large=large)
    else:
        if shows and places and not placed:
            bench.look("line_would_show", bar, says=say("line_would_show", small=small.ref, large=large.ref))
        elif not places and not placed and style is not Style.RECESS:
            bench.look("no_line_to_locate", bar, says=say("no_line_to_locate", small=small.ref, large=large.ref, least=mm(SCORE_INSIDE, digits=0)))
        bench.meeting(bar, Style.GLUE, count=0, opening_in=None)


def _hidden(seen: Polygon, shape: Polygon) -> list[tuple[Ring, bool]]:
    """Return lines that locate a piece and lie wholly under it."""
    left = pieces(mitred(seen.intersection(shape), -HIDDEN))
    return [(ring_of(r), True) for p in left for r in (p.exterior, *p.interiors)]


def _discs_alike(bench: Bench, small: Panel, *, seen: Polygon, large: Panel) -> bool:
    """Tell whether two round sheets of one size lie edge on edge: no line is needed to find that place."""
    radius = radius_of(bench.shapes[small.id])
    return radius > 0 and seen.exterior.hausdorff_distance(bench.shapes[large.id].exterior) < 0.01


def _shows_through(bench: Bench, small: Panel, *, large: Panel) -> bool:
    """Tell whether a line between two sheets would be seen through one of them."""
    return any(bench.stocks[p.stock].clear for p in (small, large))


def _seat(bench: Bench, bar: Bar, *, seen: Polygon, small: Panel, large: Panel, back: bool) -> None:
    """Engrave where the smaller sheet lies, with play all round; a pocket as deep as that is thick, with room for glue, any other as the settings burn."""
    depth = max(small.t + GLUE - (bench.choice(bar).proud or 0.0), LEAST_DEPTH) if small.seat is Style.RECESS else 0.0
    wanted = mitred(seen, SEAT_PLAY / 2).intersection(bench.shapes[large.id])
    bench.cuts[large.id].seats.append(Seat(wanted, depth, back))
    bench.meeting(bar, Style.RECESS, count=0, opening_in=None)


def _touches_front(small: Panel, large: Panel) -> bool:
    same = dot(small.pose.normal, large.pose.normal) > 0
    height = min(small.low, small.high) if same else min(-small.low, -small.high)
    return abs(dot(large.pose.normal, sub(small.pose.origin, large.pose.origin)) + height - large.high) < 0.01


def _dowels(bench: Bench, bar: Bar, *, small: Panel, large: Panel) -> None:
    choice = bench.choice(bar)
    diameter, wanted = choice.width or DOWEL, choice.count or 2
    common = seen_in(large, small, shape=bench.shapes[small.id]).intersection(bench.shapes[large.id])
    places = far_places(common, wanted, edge=diameter / 2 + bench.web(large))
    for panel in (small, large):
        for place in places:
            x, y = place if panel is large else small.pose.to_plane(large.pose.to_world(place))
            _hole(bench, bar, panel=panel, circle=Circle(x=x, y=y, radius=diameter / 2))
    if len(places) < wanted:
        bench.look("dowels_do_not_fit", bar, says=say("dowels_do_not_fit", fit=len(places), wanted=wanted, small=small.ref, large=large.ref), fits=len(places))
    bench.meeting(bar, Style.DOWELS, count=len(places), opening_in=None)


def _hole(bench: Bench, bar: Bar, *, panel: Panel, circle: Circle) -> None:
    cut = bench.cuts[panel.id]
    polygon = Polygon(circle_ring(circle))
    cut.fitted_shapes.append(polygon)
    cut.nominal_shapes.append(polygon)
    cut.circles.append(circle)
    width = total((Term(kind=TermKind.SIZE, label=say("term.dowel"), value=2 * circle.radius, source=say("from.design"), trust=Trust.CHOSEN),))
    r = circle.radius
    corners = ((circle.x - r, circle.y - r), (circle.x + r, circle.y - r), (circle.x + r, circle.y + r), (circle.x - r, circle.y + r))
    bench.flat_feature(bar.id, panel, kind=FeatureKind.HOLE, corners=corners, axis=(1.0, 0.0), width=width, length=2 * r)


def splice(bench: Bench, bar: Bar) -> None:
    """Divide the overlap of two sheets in one plane by a puzzle line or a slant."""
    a, b = bar.a, bar.b
    shape, other = bench.shapes[a.id], seen_in(a, b, shape=bench.shapes[b.id])
    common = max(pieces(shape.intersection(other)), key=lambda p: p.area, default=None)
    if common is None or common.area < 1.0:
        bench.meeting(bar, Style.BUTT, count=0, opening_in=None, length=bar.amount)
        bench.look("edges_side_by_side", bar, says=say("edges_side_by_side", a=a.ref, b=b.ref))
        return
    style = bench.style(bar, allowed=(Style.BUTT, Style.PUZZLE, Style.SCARF))
    line = _Line(shape, other, common)
    _told_of_joints_in(bench, bar, common=common)
    _, clearance = bench.clearance(bar)
    heads = line.heads(bench.web(a)) if style is Style.PUZZLE else []
    # Only heads can be driven in tight: a plain edge that overlaps its mate would push the two apart.
    fit = clearance.value if heads else max(clearance.value, 0.0)
    for slack, name in ((fit / 4, "fitted_shapes"), (0.0, "nominal_shapes")):
        over = 0.0 if slack else 1e-7
        if style is Style.SCARF:
            taken_a, taken_b = line.slant(slack + over)
        else:
            taken_a, taken_b = line.far_side(heads, slack + over)
        kept_a = [p for who, p in bench.cuts[a.id].kept if who == b.id]
        kept_b = [seen_in(a, b, shape=p) for who, p in bench.cuts[b.id].kept if who == a.id]
        getattr(bench.cuts[a.id], name).extend(subtract(taken_a, kept_a))
        getattr(bench.cuts[b.id], name).extend(seen_in(b, a, shape=p) for p in subtract(taken_b, kept_b))
    for v0, v1 in heads:
        _head_features(bench, bar, line=line, v0=v0, v1=v1)
    if style is Style.PUZZLE and not heads:
        bench.look("joint_too_short", bar, says=say("joint_too_short.puzzle", a=a.ref, b=b.ref))
    length = line.v1 - line.v0
    if heads:
        bench.meeting(bar, Style.PUZZLE, count=len(heads), opening_in=b, kerf_share=2.0, sheet=False, length=length)
    else:
        bench.meeting(bar, Style.SCARF if style is Style.SCARF else Style.BUTT, count=0, opening_in=None, length=length)
        if style is Style.SCARF:
            bench.look("scarf_needs_a_plate", bar, says=say("scarf_needs_a_plate", a=a.ref, b=b.ref))


def _told_of_joints_in(bench: Bench, bar: Bar, *, common: Polygon) -> None:
    """Say so where another sheet stands along the break: no joint can be cut there."""
    x0, y0, x1, y1 = common.bounds
    for other in bench.bars:
        if other.frame is None or bar.a.id not in (other.a.id, other.b.id) or (other.kind is not MeetingKind.TEE and other.kind is not MeetingKind.CORNER):
            continue
        place = Polygon(ring(other.frame.side(bar.a), (other.start, other.end), across=other.frame.side(bar.a).strip))
        b = place.bounds
        along = max(b[2] - b[0], b[3] - b[1]) if place.buffer(1.0).intersection(common).area > 0.5 else 0.0
        lengthwise = (b[3] - b[1] > b[2] - b[0]) is (y1 - y0 > x1 - x0)
        if along and lengthwise:
            third = other.other(bar.a)
            bench.must("split_meets_joint", bar, says=say("split_meets_joint", third=third.ref, a=bar.a.ref, b=bar.b.ref))
            return


class _Line:
    """The line that divides an overlap: u runs from the first sheet to the second, v along the break."""

    def __init__(self, shape: Polygon, other: Polygon, common: Polygon) -> None:
        from_x, from_y = shape.centroid.coords[0]
        to_x, to_y = other.centroid.coords[0]
        self.along_x = abs(to_x - from_x) >= abs(to_y - from_y)
        self.sign = 1.0 if (to_x > from_x if self.along_x else to_y > from_y) else -1.0
        x0, y0, x1, y1 = common.bounds
        self.u0, self.u1 = (x0, x1) if self.along_x else (y0, y1)
        self.v0, self.v1 = (y0, y1) if self.along_x else (x0, x1)
        self.common = common
        self.middle = (self.u0 + self.u1) / 2
        self.depth = 0.8 * (self.u1 - self.u0)

    def point(self, u: Mm, v: Mm) -> Vec2:
        """Return a point of the sheet's plane; `u` counts from the middle towards the second sheet."""
        at = self.middle + self.sign * u
        return (at, v) if self.along_x else (v, at)

    def heads(self, web: Mm) -> list[tuple[Mm, Mm]]:
        """Return the necks of the heads that fit, as ranges of v."""
        run, flare = self.v1 - self.v0, HEAD_FLARE * self.depth
        neck = max(0.9 * self.depth, web)
        number = max(1, min(HEADS_MOST, int(run / (3.2 * (neck + 2 * flare)))))
        found = []
        for i in range(number):
            middle = self.v0 + run * (i + 0.5) / number
            room = Polygon([self.point(u, v) for u, v in self._corners(middle, neck / 2 + flare + web, reach=self.depth / 2)])
            if self.common.buffer(1e-6).contains(room):
                found.append((middle - neck / 2, middle + neck / 2))
        return found

    @staticmethod
    def _corners(v: Mm, half: Mm, *, reach: Mm) -> tuple[Vec2, ...]:
        return (-reach, v - half), (reach, v - half), (reach, v + half), (-reach, v + half)

    def far_side(self, heads: list[tuple[Mm, Mm]], slack: Mm) -> tuple[Polygon, Polygon]:
        """Return what the first and the second sheet lose: each up to the line, and `slack` beyond it.

        Flanks move by `slack` along v, so that head and socket differ by exactly four of them in width.
        """
        h, flare = self.depth / 2, HEAD_FLARE * self.depth
        low, high = self.v0 - 2, self.v1 + 2
        far = h + (self.u1 - self.u0)

        def line(move: Mm) -> list[Vec2]:
            points = [(-h + move, low)]
            side = move * (1 + flare / (2 * h))  # the flanks lean: so that half way they move by exactly `move`
            for n0, n1 in heads:
                points += [(-h + move, n0 - side), (h + move, n0 - flare - side), (h + move, n1 + flare + side), (-h + move, n1 + side)]
            return [*points, (-h + move, high)]

        first = Polygon([self.point(u, v) for u, v in [*line(-slack), (far, high), (far, low)]])
        second = Polygon([self.point(u, v) for u, v in [*line(slack), (-far, high), (-far, low)]])
        return first, second

    def slant(self, slack: Mm) -> tuple[Polygon, Polygon]:
        h, far = self.depth / 2, self.u1 - self.u0
        low, high = self.v0 - 2, self.v1 + 2
        first = Polygon([self.point(u, v) for u, v in ((-h - slack, low), (h - slack, high), (far, high), (far, low))])
        second = Polygon([self.point(u, v) for u, v in ((-h + slack, low), (h + slack, high), (-far, high), (-far, low))])
        return first, second


def _head_features(bench: Bench, bar: Bar, *, line: _Line, v0: Mm, v1: Mm) -> None:
    """Record a head and its socket, each half way of its depth."""
    _, clearance = bench.clearance(bar)
    width = v1 - v0 + HEAD_FLARE * line.depth
    layout = Term(kind=TermKind.LAYOUT, label=say("term.puzzle_head"), value=width, source=say("from.layout"))
    half = [Term(kind=t.kind, label=say("term.half", term=t.label), value=t.value / 2, source=t.source, trust=t.trust) for t in clearance.terms]
    less = [Term(kind=t.kind, label=t.label, value=-t.value, source=t.source, trust=t.trust) for t in half]
    middle, h = (v0 + v1) / 2, line.depth / 2
    axis: Vec2 = (0.0, 1.0) if line.along_x else (1.0, 0.0)
    for panel, kind, terms, grow in ((bar.a, FeatureKind.FINGER, less, -clearance.value / 4), (bar.b, FeatureKind.NOTCH, half, clearance.value / 4)):
        corners = [line.point(u, middle + s * (width / 2 + grow)) for u, s in ((-h, -1), (h, -1), (h, 1), (-h, 1))]
        own_axis = axis
        if panel is bar.b:
            corners = [bar.b.pose.to_plane(bar.a.pose.to_world(c)) for c in corners]
            tip = bar.b.pose.to_plane(bar.a.pose.to_world(axis))
            root = bar.b.pose.to_plane(bar.a.pose.origin)
            own_axis = (tip[0] - root[0], tip[1] - root[1])
        bench.flat_feature(bar.id, panel, kind=kind, corners=tuple(corners), axis=own_axis, width=total((layout, *terms)), length=line.depth)


def inset(bench: Bench, bar: Bar) -> None:
    """Make the piece smaller than its opening by the clearance, all round; one that was drawn smaller keeps the play that it has."""
    piece = bar.a if bar.host == bar.b.id else bar.b
    host = bar.other(piece)
    if bar.play:
        drawn = Term(kind=TermKind.FIT, label=say("term.play_drawn"), value=bar.play, source=say("from.design"), trust=Trust.EXACT)
        bench.meeting(bar, Style.DROP_IN, count=1, opening_in=host, kerf_share=2.0, sheet=False, length=bar.amount, play=total((drawn,)))
        return
    _, clearance = bench.clearance(bar)
    bench.cuts[piece.id].grown -= clearance.value / 2
    x0, y0, x1, y1 = bench.shapes[piece.id].bounds
    size = Term(kind=TermKind.SIZE, label=say("term.opening_across"), value=x1 - x0, source=say("from.design"))
    less = [Term(kind=t.kind, label=t.label, value=-t.value, sd=t.sd, source=t.source, on=t.on, trust=t.trust) for t in clearance.terms]
    bench.flat_feature(
        bar.id,
        piece,
        kind=FeatureKind.PIECE,
        corners=((x0, y0), (x1, y0), (x1, y1), (x0, y1)),
        axis=(1.0, 0.0),
        width=total((size, *less)),
        length=y1 - y0 - clearance.value,
    )
    bench.meeting(bar, Style.DROP_IN, count=1, opening_in=host, kerf_share=2.0, sheet=False, length=bar.amount)


def not_joined(bench: Bench, bar: Bar) -> None:
    """Say what stands in the way of a joint."""
    a, b = bar.a, bar.b
    says = {
        MeetingKind.CLASH: lambda: say("meeting_clash", a=a.ref, b=b.ref, area=Area(bar.amount, 0)),
        MeetingKind.LOCKED: lambda: say("meeting_locked", a=a.ref, b=b.ref),
        MeetingKind.SHORT: lambda: say("meeting_short", gap=mm(bar.amount, digits=2), a=a.ref, b=b.ref),
        MeetingKind.SHARP: lambda: say("meeting_sharp", a=a.ref, b=b.ref, angle=Angle(bar.amount), least=Angle(SHARPEST_DEG)),
    }[bar.kind]()
    bench.must(f"meeting_{bar.kind.value}", bar, says=says, amount=bar.amount)
