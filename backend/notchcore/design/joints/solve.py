"""The joint solver: every joint is a partition of overlap.

Panels are envelopes that overlap on purpose. Each overlap bar is divided into cells along the meeting line, each cell has
exactly one owner, and every other panel loses it. So finished parts neither collide nor leave a void, and both sides of a
joint agree because they come from one list of cells. Clearance is then taken from the openings (half per side of a slot,
a quarter per side where fingers face fingers, so that opening minus finger is the clearance).
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Mark, Meeting, Part
from notchcore.design.joints.layout import Span, cells, finger_count, least_finger, without
from notchcore.design.joints.ownership import SharedCell, shared_cells
from notchcore.design.joints.tees import CutSide, Tee, tabs_of
from notchcore.design.meetings.find import Bar, MeetingKind, Role, all_meetings
from notchcore.design.meetings.frame import MeetingFrame, angle_deg
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.planar import Cutters, minus, moved, pieces
from notchcore.geom.profile import Circle, polygon_of, profile_of, ring_of
from notchcore.geom.vectors import Vec2, dot, sub
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.families import FAMILIES, minimum_web
from notchcore.measure.fit import NO_FITS, Feel, Fits, clearance_for
from notchcore.measure.stock import Stock
from notchcore.tolerance import LOOSE_PIECE
from notchcore.units import Mm


@dataclass(frozen=True, slots=True, kw_only=True)
class MeetingChoice:
    """A person's choices for one meeting; None means the design's or the shop's default."""

    feel: Feel | None = None
    clearance: Mm | None = None
    count: int | None = None
    butt: bool = False


@dataclass
class _Cut:
    """What one panel loses, with and without clearance, and the features that arise."""

    panel: Panel
    fitted: Cutters = field(default_factory=Cutters)
    nominal: Cutters = field(default_factory=Cutters)
    features: list[JointFeature] = field(default_factory=list)
    count: Counter[str] = field(default_factory=Counter)
    marks: list[Mark] = field(default_factory=list)


class Solver:
    """One solving of an assembly; use `solve`."""

    def __init__(self, panels: list[Panel], rules: tuple[MeetingRule, ...], stocks: dict[str, Stock], choices: dict[str, MeetingChoice], feel: Feel,
                 fits: Fits) -> None:  # fmt: skip
        by_id = {p.id: p for p in panels}
        self.panels = [resolved(p, by_id) for p in sorted(panels, key=lambda p: p.id)]
        self.shapes = {p.id: polygon_of(p.envelope) for p in self.panels}
        self.stocks = stocks
        self.choices = choices
        self.feel = feel
        self.fits = fits
        self.bars = all_meetings(self.panels, self.shapes, apart={frozenset((r.a, r.b)) for r in rules})
        self.cuts = {p.id: _Cut(p) for p in self.panels}
        self.meetings: list[Meeting] = []
        self.findings: list[Finding] = []

    def solve(self) -> Assembly:
        """Cut all joints. Corners and crossings come before tees, whose tabs keep clear of the others' cuts."""
        shared = shared_cells([b for b in self.bars if b.frame is not None], self.shapes)
        order = {MeetingKind.CORNER: 0, MeetingKind.CROSSING: 0, MeetingKind.PIERCE: 0, MeetingKind.TEE: 1}
        for bar in sorted(self.bars, key=lambda b: (order.get(b.kind, 2), b.id)):
            if bar.frame is None or bar.kind is MeetingKind.LOCKED:
                self._not_cut(bar)
                continue
            holes = shared.get(bar.id, [])
            for hole in holes:
                for loser in hole.losers:
                    self._lose(bar, loser, hole.start, hole.end)
            free: list[Span] = []
            for span in without((bar.start, bar.end), [(h.start, h.end) for h in holes]):
                beside = next((h for h in holes if min(abs(h.end - span[0]), abs(h.start - span[1])) < 1e-3), None)
                if beside is not None and beside.third and span[1] - span[0] < max(bar.a.t, bar.b.t) and bar.kind is not MeetingKind.CROSSING:
                    for loser in beside.losers:  # a residue this short would be a sliver: it joins its neighbour's owner
                        self._lose(bar, loser, *span)
                else:
                    free.append(span)
            {
                MeetingKind.CORNER: self._corner,
                MeetingKind.TEE: self._tee,
                MeetingKind.CROSSING: self._crossing,
                MeetingKind.PIERCE: self._pierce,
            }[bar.kind](bar, bar.frame, free)
        parts = tuple(self._part(c) for c in self.cuts.values())
        return Assembly(parts=parts, meetings=tuple(sorted(self.meetings, key=lambda m: m.id)), findings=tuple(self.findings))

    # -- cutting ---------------------------------------------------------------------------------------------------

    def _lose(self, bar: Bar, panel: Panel, start: Mm, end: Mm, *, slack_start: Mm = 0.0, slack_end: Mm = 0.0, across: Mm = 0.0) -> tuple[Vec2, ...]:
        """Take the cell [start, end] from a panel; `across` is the clearance per side through the mate's thickness."""
        frame = bar.frame
        assert frame is not None
        side = frame.side(panel)
        low, high = side.strip
        role = bar.role(panel)
        free_end = 0.5 * min(bar.a.t, bar.b.t) + 0.05  # what stands proud of the mate goes with the cell
        reach_low = free_end if role is Role.EDGE_ABOVE else 0.0
        reach_high = free_end if role is Role.EDGE_BELOW else 0.0
        grow_low = across if role in (Role.FACE, Role.NONE) else 0.0
        grow_high = grow_low

        def ring(s0: Mm, s1: Mm, a0: Mm, a1: Mm) -> tuple[Vec2, ...]:
            return tuple(side.on_panel(s, a) for s, a in ((s0, a0), (s1, a0), (s1, a1), (s0, a1)))

        cut = self.cuts[panel.id]
        fitted = ring(start - slack_start, end + slack_end, low - grow_low - reach_low, high + grow_high + reach_high)
        cut.fitted.add(fitted)
        cut.nominal.add(ring(start, end, low - reach_low, high + reach_high))
        return ring(start - slack_start, end + slack_end, low - grow_low, high + grow_high)

    def _feature(self, bar: Bar, panel: Panel, kind: FeatureKind, corners: tuple[Vec2, ...], *, along: bool, width: Quantity, length: Mm) -> None:
        assert bar.frame is not None
        side = bar.frame.side(panel)
        direction = bar.frame.along if along else side.across
        cut, name = self.cuts[panel.id], f"{panel.id}/{bar.id}/{kind.value}"
        cut.count[name] += 1
        cut.features.append(
            JointFeature(
                id=f"{name}{cut.count[name] - 1}",
                part=panel.id,
                meeting=bar.id,
                kind=kind,
                corners=(corners[0], corners[1], corners[2], corners[3]),
                axis=(dot(direction, panel.pose.x), dot(direction, panel.pose.y)),
                width=width,
                length=length,
            )
        )

    # -- numbers ---------------------------------------------------------------------------------------------------

    def _clearance(self, bar: Bar) -> tuple[Feel, Quantity]:
        choice = self.choices.get(bar.id, MeetingChoice())
        feel = choice.feel or self.feel
        if choice.clearance is not None:
            term = Term(kind=TermKind.FIT, label="Clearance, set by hand", value=choice.clearance, source="this design", trust=Trust.CHOSEN)
            return feel, total((term,))
        return feel, clearance_for(feel, self.fits.between(self.stocks[bar.a.stock].key, self.stocks[bar.b.stock].key))

    def _opening_terms(self, frame: MeetingFrame, own: Panel, mate: Panel) -> tuple[Term, ...]:
        """Return the terms of t_mate / sin(a) + t_own |cot(a)|."""
        thickness = self.stocks[mate.stock].thickness.terms[0]
        terms = [
            Term(
                kind=TermKind.MEASURED,
                label=f"{mate.label}, {'measured' if thickness.trust is Trust.MEASURED else 'from the label'}",
                value=mate.t,
                sd=thickness.sd,
                source=thickness.source,
                on=thickness.on,
                trust=thickness.trust,
            )
        ]
        angle = angle_deg(frame)
        if abs(frame.cos) > 1e-9:
            slant = mate.t * (1 / frame.sin - 1) + own.t * abs(frame.cos) / frame.sin
            terms.append(Term(kind=TermKind.ANGLE, label=f"Angle {angle:.1f}°", value=slant, source="t/sin + T·|cot|"))
        return tuple(terms)

    def _meeting(self, bar: Bar, style: str, count: int, *, opening_in: Panel | None, kerf_share: float = 1.0, sheet: bool = True) -> None:
        feel, clearance = self._clearance(bar) if opening_in is not None else (None, None)
        frame = bar.frame
        mate = bar.other(opening_in) if opening_in is not None else bar.a
        cot = abs(frame.cos) / frame.sin if frame is not None else 0.0
        self.meetings.append(
            Meeting(
                id=bar.id,
                kind=bar.kind.value,
                a=bar.a.id,
                b=bar.b.id,
                style=style,
                angle_deg=angle_deg(frame) if frame else 0.0,
                length=bar.end - bar.start,
                feel=feel,
                clearance=clearance,
                kerf_share=kerf_share,
                thickness_sd=self.stocks[mate.stock].thickness.sd if sheet and opening_in else 0.0,
                kerf_stock=(opening_in or bar.a).stock,
                count=count,
                wedge_void=(bar.end - bar.start) * min(bar.a.t, bar.b.t) ** 2 * cot,
            )
        )

    # -- kinds of meeting ------------------------------------------------------------------------------------------

    def _corner(self, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
        high, low = (bar.a, bar.b) if (bar.a.rank, bar.a.id) > (bar.b.rank, bar.b.id) else (bar.b, bar.a)
        choice = self.choices.get(bar.id, MeetingChoice())
        _, clearance = self._clearance(bar)
        quarter = clearance.value / 4
        t = max(bar.a.layout_t, bar.b.layout_t)
        most = 0
        for start, end in free:
            count = 1 if choice.butt else finger_count(end - start, t, wanted=choice.count)
            most = max(most, count)
            layout = Term(kind=TermKind.LAYOUT, label=f"1 of {count} equal cells of {end - start:.2f}", value=(end - start) / count, source="layout")
            for i, (c0, c1) in enumerate(cells(start, end, count)):
                owner, loser = (high, low) if i % 2 == 0 else (low, high)
                inner = 0 < i < count - 1
                corners = self._lose(bar, loser, c0, c1, slack_start=quarter if i else 0.0, slack_end=quarter if i < count - 1 else 0.0)
                if not inner:
                    continue
                half = [Term(kind=t_.kind, label=t_.label + ", half", value=t_.value / 2, source=t_.source, trust=t_.trust) for t_ in clearance.terms]
                less = [Term(kind=t_.kind, label=t_.label, value=-t_.value, source=t_.source, trust=t_.trust) for t_ in half]
                depth = frame.side(loser).strip[1] - frame.side(loser).strip[0]
                self._feature(bar, loser, FeatureKind.NOTCH, corners, along=True, width=total((layout, *half)), length=depth)
                side = frame.side(owner)
                tongue = tuple(
                    side.on_panel(s, a)
                    for s, a in ((c0 + quarter, side.strip[0]), (c1 - quarter, side.strip[0]), (c1 - quarter, side.strip[1]), (c0 + quarter, side.strip[1]))
                )
                self._feature(bar, owner, FeatureKind.FINGER, tongue, along=True, width=total((layout, *less)), length=side.strip[1] - side.strip[0])
        if most < 3 and not choice.butt and free:
            self._too_short(bar, "fingers", 3 * least_finger(t))
        self._meeting(bar, "fingers" if most >= 3 else "butt", most, opening_in=high if most >= 3 else None, kerf_share=2.0, sheet=False)

    def _tee(self, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
        edge, face = (bar.a, bar.b) if bar.role_b is Role.FACE else (bar.b, bar.a)
        choice = self.choices.get(bar.id, MeetingChoice())
        _, clearance = self._clearance(bar)
        t = max(bar.a.layout_t, bar.b.layout_t)
        count = 0
        edge_side = frame.side(edge)
        for (start, end), tabs in self._tabs(bar, edge, face, free):
            at = start
            for s0, s1 in tabs:
                if s0 > at + 1e-6:
                    self._lose(bar, edge, at, s0)
                half = clearance.value / 2
                corners = self._lose(bar, face, s0, s1, slack_start=half, slack_end=half, across=half)
                slot = total((*self._opening_terms(frame, face, edge), *clearance.terms))
                self._feature(bar, face, FeatureKind.SLOT, corners, along=False, width=slot, length=s1 - s0 + clearance.value)
                layout = Term(kind=TermKind.LAYOUT, label="Tab, 4 × thickness where it fits", value=s1 - s0, source="layout")
                tongue = tuple(
                    edge_side.on_panel(s, a)
                    for s, a in ((s0, edge_side.strip[0]), (s1, edge_side.strip[0]), (s1, edge_side.strip[1]), (s0, edge_side.strip[1]))
                )
                self._feature(bar, edge, FeatureKind.TAB, tongue, along=True, width=total((layout,)), length=edge_side.strip[1] - edge_side.strip[0])
                at = s1
                count += 1
            if at < end - 1e-6:
                self._lose(bar, edge, at, end)
        if count == 0 and not choice.butt:
            self._too_short(bar, "a tab", 5 * t)
        self._meeting(bar, "tabs" if count else "butt", count, opening_in=face if count else None)

    def _tabs(self, bar: Bar, edge: Panel, face: Panel, free: list[Span]) -> list[tuple[Span, list[Span]]]:
        choice = self.choices.get(bar.id, MeetingChoice())
        if choice.butt:
            return [(stretch, []) for stretch in free]
        web = minimum_web(FAMILIES[self.stocks[face.stock].family], face.layout_t)
        face_side = CutSide(shape=self.shapes[face.id], cuts=self.cuts[face.id].nominal)
        edge_side = CutSide(shape=self.shapes[edge.id], cuts=self.cuts[edge.id].nominal)
        tee = Tee(bar=bar, face=face, edge=edge, face_side=face_side, edge_side=edge_side, web=web, shared_with=self.bars)
        return tabs_of(tee, free, wanted=choice.count)

    def _crossing(self, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
        if not free:
            return
        longest = max(free, key=lambda s: s[1] - s[0])
        middle = (longest[0] + longest[1]) / 2
        high, low = (bar.a, bar.b) if (bar.a.rank, bar.a.id) > (bar.b.rank, bar.b.id) else (bar.b, bar.a)
        spans = {bar.a.id: bar.span_a, bar.b.id: bar.span_b}

        def waste(upper: Panel, lower: Panel) -> Mm:
            return (spans[upper.id][1] - bar.end) + (bar.start - spans[lower.id][0])

        # The higher rank is open upward, unless that would cut much more away than the other way round.
        upper, lower = (high, low) if waste(high, low) <= waste(low, high) + 4 * max(bar.a.t, bar.b.t) else (low, high)
        _, clearance = self._clearance(bar)
        half, relief = clearance.value / 2, max(clearance.value, 0.0) / 2
        run_out = 0.5 + max(bar.a.t, bar.b.t)
        lowest, highest = min(s[0] for s in free), max(s[1] for s in free)
        below_open, above_open = lowest <= bar.start + 1e-6, highest >= bar.end - 1e-6
        for panel, s0, s1, bottom_at_start in (
            (upper, middle, max(highest, spans[upper.id][1] + run_out) if above_open else highest, True),
            (lower, min(lowest, spans[lower.id][0] - run_out) if below_open else lowest, middle, False),
        ):
            corners = self._lose(bar, panel, s0, s1, slack_start=relief if bottom_at_start else 0.0, slack_end=0.0 if bottom_at_start else relief, across=half)
            inside = (max(s0, spans[panel.id][0]), min(s1, spans[panel.id][1]))
            mate = bar.other(panel)
            width = total((*self._opening_terms(frame, panel, mate), *clearance.terms))
            side = frame.side(panel)
            trimmed = tuple(
                side.on_panel(s, a)
                for s, a in (
                    (inside[0], side.strip[0] - half), (inside[1], side.strip[0] - half), (inside[1], side.strip[1] + half), (inside[0], side.strip[1] + half)
                )
            )  # fmt: skip
            _ = corners
            self._feature(bar, panel, FeatureKind.LAP, trimmed, along=False, width=width, length=inside[1] - inside[0])
        self._meeting(bar, "lap", 1, opening_in=lower)

    def _pierce(self, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
        host = bar.a if bar.a.id == bar.host else bar.b
        guest = bar.other(host)
        _, clearance = self._clearance(bar)
        half = clearance.value / 2
        for s0, s1 in free:
            corners = self._lose(bar, host, s0, s1, slack_start=half, slack_end=half, across=half)
            width = total((*self._opening_terms(frame, host, guest), *clearance.terms))
            self._feature(bar, host, FeatureKind.SLOT, corners, along=False, width=width, length=s1 - s0 + clearance.value)
        self._meeting(bar, "slot", len(free), opening_in=host)

    def _not_cut(self, bar: Bar) -> None:
        """Record meetings that get no cut, and say so where that is not meant."""
        a, b = bar.a, bar.b
        pair = (a.id, b.id)
        if bar.kind is MeetingKind.STACK:
            self._score_stack(bar)
            self._meeting(bar, "glue face", 0, opening_in=None)
            return
        if bar.kind is MeetingKind.SPLICE:
            self._meeting(bar, "butt", 0, opening_in=None)
            text = f"{a.label} and {b.label} lie edge to edge with nothing to hold them. Add a plate behind them or join them into one panel."
            self.findings.append(Finding(code="edges_side_by_side", severity=Severity.LOOK, message=text, parts=pair, meeting=bar.id))
            return
        text = {
            MeetingKind.CLASH: f"{a.label} and {b.label} want the same place ({bar.amount:.0f} mm²). Move one away.",
            MeetingKind.LOCKED: f"{a.label} and {b.label} cross where neither is open at an end: they cannot be put together. End one at the other.",
            MeetingKind.SHORT: f"An edge stops {bar.amount:.2f} mm short between {a.label} and {b.label}, so no joint was cut. Bind the edge to it.",
            MeetingKind.SHARP: f"{a.label} and {b.label} meet at {bar.amount:.0f}°: too sharp for a cut joint. Use 22° or more, or glue a strip behind.",
        }[bar.kind]  # fmt: skip
        self.findings.append(
            Finding(code=f"meeting_{bar.kind.value}", severity=Severity.MUST, message=text, parts=pair, meeting=bar.id, facts={"amount": bar.amount})
        )

    def _score_stack(self, bar: Bar) -> None:
        """Score the outline of the smaller sheet on the larger, where the larger's front face is the one that touches."""
        small, large = sorted((bar.a, bar.b), key=lambda p: self.shapes[p.id].area)
        touches_front = abs(dot(large.pose.normal, sub(small.pose.origin, large.pose.origin)) + _height(small, large) - large.high) < 0.01
        if not touches_front:
            return
        x, y, d = small.pose.x, small.pose.y, sub(small.pose.origin, large.pose.origin)
        u, v = large.pose.x, large.pose.y
        seen = moved(self.shapes[small.id], (dot(x, u), dot(y, u), dot(x, v), dot(y, v), dot(d, u), dot(d, v)))
        for piece in pieces(seen.intersection(self.shapes[large.id])):
            self.cuts[large.id].marks.append(Mark(line=ring_of(piece.exterior.coords)))

    def _too_short(self, bar: Bar, what: str, least: Mm) -> None:
        self.findings.append(
            Finding(
                code="joint_too_short",
                severity=Severity.LOOK,
                message=f"{bar.a.label} and {bar.b.label} meet over only {bar.end - bar.start:.1f} mm: too short for {what} "
                f"(about {least:.0f} mm needed). They will only butt: glue them, make the box larger or the sheet thinner.",
                parts=(bar.a.id, bar.b.id),
                meeting=bar.id,
                facts={"length_mm": bar.end - bar.start, "least_mm": least},
            )
        )

    # -- result ----------------------------------------------------------------------------------------------------

    def _part(self, cut: _Cut) -> Part:
        panel = cut.panel
        fitted, nominal = minus(self.shapes[panel.id], cut.fitted.rings), minus(self.shapes[panel.id], cut.nominal.rings)
        if not fitted or not nominal:
            self.findings.append(
                Finding(code="part_vanished", severity=Severity.MUST, parts=(panel.id,),
                        message=f"Nothing is left of {panel.label} after its joints are cut. Make the design larger or the sheet thinner.")
            )  # fmt: skip
            fitted = nominal = [self.shapes[panel.id]]
        for piece in fitted[1:]:
            if piece.area > LOOSE_PIECE:
                spot = piece.representative_point()
                self.findings.append(
                    Finding(
                        code="loose_piece", severity=Severity.MUST, parts=(panel.id,), place=Place(part=panel.id, x=spot.x, y=spot.y),
                        message=f"A piece of {piece.area:.1f} mm² falls off {panel.label}. Move the joints apart or make the part larger.",
                        facts={"area_mm2": piece.area},
                    )
                )  # fmt: skip
        circles: tuple[Circle, ...] = panel.envelope.circles
        return Part(
            id=panel.id, label=panel.label, stock=panel.stock, pose=panel.pose, low=panel.low, high=panel.high,
            profile=profile_of(fitted[0], circles=circles), nominal=profile_of(nominal[0], circles=circles),
            marks=tuple(cut.marks), features=tuple(cut.features),
        )  # fmt: skip


def _height(small: Panel, large: Panel) -> Mm:
    """Return the height of the small sheet's nearer face above its own plane, along the large sheet's normal."""
    same = dot(small.pose.normal, large.pose.normal) > 0
    return min(small.low, small.high) if same else min(-small.low, -small.high)


def solve(
    panels: list[Panel],
    *,
    rules: tuple[MeetingRule, ...] = (),
    stocks: dict[str, Stock],
    choices: dict[str, MeetingChoice] | None = None,
    feel: Feel = Feel.SNUG,
    fits: Fits = NO_FITS,
) -> Assembly:
    """Return the assembly with all joints cut.

    Args:
        panels: envelopes in space; their order does not matter
        rules: pairs that the family keeps apart
        stocks: by id, those that the panels name
        choices: by meeting id
        feel: for meetings without a choice of their own
        fits: where the feels change, by pair of stocks
    """
    return Solver(panels, rules, stocks, choices or {}, feel, fits).solve()


__all__ = ["MeetingChoice", "SharedCell", "Solver", "solve"]
