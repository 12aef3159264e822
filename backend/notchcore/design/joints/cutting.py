"""The bench of the solver: what each panel has lost so far, the features that arose, and the numbers behind them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field

from notchcore.design.assembly import FeatureKind, JointFeature, Mark, Meeting
from notchcore.design.joints.choice import NOTHING_CHOSEN, MeetingChoice
from notchcore.design.joints.seats import Seat
from notchcore.design.meetings.find import Bar, Role
from notchcore.design.meetings.frame import MeetingFrame, Side, angle_deg
from notchcore.design.panel import MeetingRule, Panel
from notchcore.design.styles import Style
from notchcore.findings import Finding, Severity
from notchcore.geom.cutters import Cutters
from notchcore.geom.planar import Polygon
from notchcore.geom.profile import Circle
from notchcore.geom.vectors import Vec2, dot
from notchcore.ids import cut_id, item_of
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.fit import Feel, Fits, clearance_for
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.stock import Stock
from notchcore.measure.thickness import how_known
from notchcore.units import Mm
from notchcore.words.facts import Angle, Sentence, mm
from notchcore.words.render import say


@dataclass
class Cut:
    """What one panel loses, with and without clearance, and the features that arise."""

    panel: Panel
    fitted: Cutters = field(default_factory=Cutters)
    nominal: Cutters = field(default_factory=Cutters)
    fitted_shapes: list[Polygon] = field(default_factory=list)  #: cutters that are not bars: splices, dowel holes
    nominal_shapes: list[Polygon] = field(default_factory=list)
    kept: list[tuple[str, Polygon]] = field(default_factory=list)  #: by the other side of a splice: what the splice must leave
    circles: list[Circle] = field(default_factory=list)
    grown: Mm = 0.0  #: an inset piece is this much larger (smaller when negative) all round
    features: list[JointFeature] = field(default_factory=list)
    count: Counter[str] = field(default_factory=Counter)
    marks: list[Mark] = field(default_factory=list)
    seats: list[Seat] = field(default_factory=list)


class Bench:
    """Everything that the kinds of meeting work on."""

    def __init__(
        self,
        *,
        panels: list[Panel],
        shapes: dict[str, Polygon],
        rules: tuple[MeetingRule, ...],
        stocks: Mapping[str, Stock],
        choices: Mapping[str, MeetingChoice],
        feel: Feel,
        fits: Fits,
    ) -> None:
        self.shapes = shapes
        self.stocks = stocks
        self.choices = choices
        self.feel = feel
        self.fits = fits
        self.rules = {frozenset((r.a, r.b)): r.style for r in rules}
        self.cuts = {p.id: Cut(p) for p in panels}
        self.bars: list[Bar] = []
        self.tees: dict[str, list[Bar]] = {}  #: by the panel in whose face they are
        self.meetings: list[Meeting] = []
        self.wedges: defaultdict[str, float] = defaultdict(float)  #: [mm3] by bar: what stays open where planes are not square
        self.findings: list[Finding] = []
        self.ways: dict[str, tuple[Style, ...]] = {}  #: what each meeting may be, by id
        self._clearances: dict[tuple[Feel, str, str], Quantity] = {}

    # -- choices ---------------------------------------------------------------------------------------------------

    def choice(self, bar: Bar) -> MeetingChoice:
        return self.choices.get(bar.id, NOTHING_CHOSEN)

    def style(self, bar: Bar, *, allowed: tuple[Style, ...]) -> Style:
        """Return the chosen style where it is allowed, else the material's, else the first of the allowed ones; they are what the meeting offers."""
        self.ways[bar.id] = allowed
        wanted = self.choice(bar).style
        if wanted in allowed:
            return wanted
        rule = self.rules.get(frozenset((bar.a.id, bar.b.id)))
        rule = rule or bar.a.seat or bar.b.seat
        return rule if rule in allowed else allowed[0]

    def clearance(self, bar: Bar) -> tuple[Feel, Quantity]:
        choice = self.choice(bar)
        own = bar.a.feel if item_of(bar.a.id) == item_of(bar.b.id) else None
        feel = choice.feel or own or self.feel
        if falls_from(bar.a, bar.b) or falls_from(bar.b, bar.a):  # nothing can be chosen: the beam alone makes the gap
            kerf = self.stocks[bar.a.stock].kerf
            first = kerf.terms[0]
            gap = Term(
                kind=TermKind.FIT,
                label=say("term.beam_round_piece"),
                value=2 * kerf.value,
                sd=2 * kerf.sd,
                source=first.source,
                on=first.on,
                trust=first.trust,
            )
            return feel, total((gap,))
        if choice.clearance is not None:
            term = Term(kind=TermKind.FIT, label=say("term.clearance.by_hand"), value=choice.clearance, source=say("from.design"), trust=Trust.CHOSEN)
            return feel, total((term,))
        asked = (feel, bar.a.stock, bar.b.stock)
        if asked not in self._clearances:
            self._clearances[asked] = clearance_for(feel, self.fits.between(self.stocks[bar.a.stock].key, self.stocks[bar.b.stock].key))
        return feel, self._clearances[asked]

    def web(self, panel: Panel) -> Mm:
        """Return the least web between two cuts in a panel."""
        return minimum_web(MATERIALS[self.stocks[panel.stock].material], panel.layout_t)

    # -- cutting ---------------------------------------------------------------------------------------------------

    def lose(self, bar: Bar, panel: Panel, *, start: Mm, end: Mm, slack_start: Mm = 0.0, slack_end: Mm = 0.0, across: Mm = 0.0) -> tuple[Vec2, ...]:
        """Take the cell [start, end] from a panel; `across` is the clearance per side through the mate's thickness."""
        assert bar.frame is not None
        side = bar.frame.side(panel)
        low, high = side.strip
        role = bar.role(panel)
        free_end = max(0.5 * min(bar.a.t, bar.b.t), self.choice(bar).proud or 0.0) + 0.05  # what stands proud of the mate goes with the cell
        reach_low = free_end if role is Role.EDGE_ABOVE else 0.0
        reach_high = free_end if role is Role.EDGE_BELOW else 0.0
        grow = across if role in (Role.FACE, Role.NONE) else 0.0
        cut = self.cuts[panel.id]
        self.wedges[bar.id] += (end - start) * panel.t**2 * abs(bar.frame.cos) / bar.frame.sin
        along = (start - slack_start, end + slack_end)
        cut.fitted.add(ring(side, along, across=(low - grow - reach_low, high + grow + reach_high)))
        cut.nominal.add(ring(side, (start, end), across=(low - reach_low, high + reach_high)))
        return ring(side, along, across=(low - grow, high + grow))

    def feature(self, bar: Bar, panel: Panel, *, kind: FeatureKind, corners: tuple[Vec2, ...], along: bool, width: Quantity, length: Mm) -> None:
        assert bar.frame is not None
        direction = bar.frame.along if along else bar.frame.side(panel).across
        axis = (dot(direction, panel.pose.x), dot(direction, panel.pose.y))
        self.flat_feature(bar.id, panel, kind=kind, corners=corners, axis=axis, width=width, length=length)

    def flat_feature(self, meeting: str, panel: Panel, *, kind: FeatureKind, corners: tuple[Vec2, ...], axis: Vec2, width: Quantity, length: Mm) -> None:
        cut, name = self.cuts[panel.id], cut_id(panel.id, meeting, kind.value)
        cut.count[name] += 1
        four = (corners[0], corners[1], corners[2], corners[3])
        cut.features.append(
            JointFeature(id=f"{name}{cut.count[name] - 1}", part=panel.id, meeting=meeting, kind=kind, corners=four, axis=axis, width=width, length=length)
        )

    # -- numbers ---------------------------------------------------------------------------------------------------

    def opening_terms(self, frame: MeetingFrame, own: Panel, *, mate: Panel) -> tuple[Term, ...]:
        """Return the terms of t_mate / sin(a) + t_own |cot(a)|."""
        thickness = self.stocks[mate.stock].thickness.terms[0]
        terms = [
            Term(
                kind=TermKind.MEASURED,
                label=say(f"term.mate.{how_known(thickness)}", mate=mate.label),
                value=mate.t,
                sd=thickness.sd,
                source=thickness.source,
                on=thickness.on,
                trust=thickness.trust,
            )
        ]
        if abs(frame.cos) > 1e-9:
            slant = mate.t * (1 / frame.sin - 1) + own.t * abs(frame.cos) / frame.sin
            terms.append(
                Term(
                    kind=TermKind.ANGLE,
                    label=say("term.angle", angle=Angle(angle_deg(frame), 1)),
                    value=slant,
                    source=say("from.formula", formula="t/sin + T·|cot|"),
                )
            )
        return tuple(terms)

    def meeting(
        self,
        bar: Bar,
        style: Style,
        *,
        count: int,
        opening_in: Panel | None,
        kerf_share: float = 1.0,
        sheet: bool = True,
        length: Mm = 0.0,
        play: Quantity | None = None,
    ) -> None:
        feel, clearance = self.clearance(bar) if opening_in is not None else (None, None)
        if falls_from(bar.a, bar.b) or falls_from(bar.b, bar.a):
            feel, kerf_share = None, 0.0  # nobody asks how it feels: it is as loose as two beams, whatever is corrected
        if play is not None:
            feel, clearance = None, play  # ... or as it was drawn
        frame = bar.frame
        mate = bar.other(opening_in) if opening_in is not None else bar.a
        # Where an open slot runs out past a mate whose end slopes or ends lower.
        open_end = sum(abs(p - q) for p, q in zip(bar.span_a, bar.span_b, strict=True)) + bar.dip_a + bar.dip_b if style is Style.LAP else 0.0
        self.meetings.append(
            Meeting(
                id=bar.id,
                kind=bar.kind.value,
                a=bar.a.id,
                b=bar.b.id,
                style=style,
                asked=self.style(bar, allowed=ways) if (ways := self.ways.get(bar.id, ())) else style,
                ways=ways,
                angle_deg=angle_deg(frame) if frame else 0.0,
                length=length or bar.end - bar.start,
                feel=feel,
                clearance=clearance,
                kerf_share=kerf_share,
                thickness_sd=self.stocks[mate.stock].thickness.sd if sheet and opening_in else 0.0,
                kerf_stock=(opening_in or bar.a).stock,
                count=count,
                wedge_void=self.wedges[bar.id] + bar.a.t * bar.b.t * open_end,
            )
        )

    def look(self, code: str, bar: Bar, *, says: Sentence, **facts: float) -> None:
        self.findings.append(Finding(code=code, severity=Severity.LOOK, says=says, parts=(bar.a.id, bar.b.id), meeting=bar.id, facts=dict(facts)))

    def must(self, code: str, bar: Bar, *, says: Sentence, **facts: float) -> None:
        self.findings.append(Finding(code=code, severity=Severity.MUST, says=says, parts=(bar.a.id, bar.b.id), meeting=bar.id, facts=dict(facts)))

    def too_short(self, bar: Bar, what: str, *, least: Mm) -> None:
        """Say why two panels only butt: they meet over too little, or others take the place."""
        length = bar.end - bar.start
        if length >= least:
            self.look("joint_crowded", bar, says=say("joint_crowded", a=bar.a.ref, b=bar.b.ref, what=say(what)))
            return
        self.look(
            "joint_too_short",
            bar,
            says=say("joint_too_short", a=bar.a.ref, b=bar.b.ref, length=mm(length), what=say(what), least=mm(least, digits=0)),
            length_mm=length,
            least_mm=least,
        )


def falls_from(piece: Panel, host: Panel) -> bool:
    """Return whether a piece is what falls out of an opening of the other panel."""
    return piece.falls_from in (host.id, host.whole)


def ring(side: Side, along: tuple[Mm, Mm], *, across: tuple[Mm, Mm]) -> tuple[Vec2, ...]:
    """Return a rectangle of the meeting frame, from and to along it and across, in the panel's plane."""
    (s0, s1), (a0, a1) = along, across
    a, b, c, d, e, f = side.to_panel  # as Side.on_panel has it, four times at once: this runs for every cut of every joint
    x0, x1, y0, y1 = a * s0 + e, a * s1 + e, c * s0 + f, c * s1 + f
    return (x0 + b * a0, y0 + d * a0), (x1 + b * a0, y1 + d * a0), (x1 + b * a1, y1 + d * a1), (x0 + b * a1, y0 + d * a1)
