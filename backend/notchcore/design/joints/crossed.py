"""Joints of sheets whose planes cross: corner, tee, crossing, one through the other."""

from __future__ import annotations

from notchcore.design.assembly import FeatureKind, Mark
from notchcore.design.joints.cutting import Bench, ring
from notchcore.design.joints.layout import Span, cells, finger_count, least_finger
from notchcore.design.joints.tees import CutSide, Tee, tabs_of
from notchcore.design.meetings.find import Bar, Role
from notchcore.design.meetings.frame import MeetingFrame
from notchcore.design.panel import Panel
from notchcore.design.styles import Style
from notchcore.geom.vectors import dot
from notchcore.ledger import Term, TermKind, total
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

NO_TABS = (Style.BLIND, Style.BUTT, Style.REST)


def _by_rank(bar: Bar) -> tuple[Panel, Panel]:
    """Return the panel that keeps the ends, and the other."""
    return (bar.a, bar.b) if (bar.a.rank, bar.a.id) > (bar.b.rank, bar.b.id) else (bar.b, bar.a)


def corner(bench: Bench, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
    """Divide a corner into an odd number of cells; the higher rank keeps both ends."""
    high, low = _by_rank(bar)
    choice = bench.choice(bar)
    style = bench.style(bar, allowed=(Style.FINGERS, Style.BUTT, Style.REST))
    butt = style is not Style.FINGERS
    _, clearance = bench.clearance(bar)
    quarter = clearance.value / 4
    t = max(bar.a.layout_t, bar.b.layout_t)
    most = 0
    half = [Term(kind=t_.kind, label=say("term.half", term=t_.label), value=t_.value / 2, source=t_.source, trust=t_.trust) for t_ in clearance.terms]
    less = [Term(kind=t_.kind, label=t_.label, value=-t_.value, source=t_.source, trust=t_.trust) for t_ in half]
    for start, end in free:
        count = 1 if butt else finger_count(end - start, t, wanted=choice.count, target=choice.width)
        most = max(most, count)
        layout = Term(
            kind=TermKind.LAYOUT, label=say("term.cell", count=count, length=mm(end - start, digits=2)), value=(end - start) / count, source=say("from.layout")
        )
        for i, (c0, c1) in enumerate(cells(start, end, count=count)):
            owner, loser = (high, low) if i % 2 == 0 else (low, high)
            corners = bench.lose(bar, loser, start=c0, end=c1, slack_start=quarter if i else 0.0, slack_end=quarter if i < count - 1 else 0.0)
            if not 0 < i < count - 1:
                continue
            depth = frame.side(loser).strip[1] - frame.side(loser).strip[0]
            bench.feature(bar, loser, kind=FeatureKind.NOTCH, corners=corners, along=True, width=total((layout, *half)), length=depth)
            side = frame.side(owner)
            tongue = ring(side, (c0 + quarter, c1 - quarter), across=side.strip)
            bench.feature(bar, owner, kind=FeatureKind.FINGER, corners=tongue, along=True, width=total((layout, *less)), length=side.strip[1] - side.strip[0])
    if most < 3 and not butt and (free or bar.end - bar.start >= 3 * least_finger(t)):
        bench.too_short(bar, "joint_too_short.fingers", least=3 * least_finger(t))
    bench.meeting(
        bar, Style.FINGERS if most >= 3 else style if butt else Style.BUTT, count=most, opening_in=high if most >= 3 else None, kerf_share=2.0, sheet=False
    )


def tee(bench: Bench, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
    """Let tabs of the edge into slots of the face; what stands between them ends at the face."""
    edge, face = (bar.a, bar.b) if bar.role_b is Role.FACE else (bar.b, bar.a)
    style = bench.style(bar, allowed=(Style.TABS, Style.WHOLE, Style.BLIND, Style.BUTT, Style.REST))
    _, clearance = bench.clearance(bar)
    half = clearance.value / 2
    t = max(bar.a.layout_t, bar.b.layout_t)
    count = 0
    edge_side = frame.side(edge)
    for (start, end), tabs in _tabs(bench, bar, edge=edge, face=face, free=free, style=style):
        at = start
        for s0, s1 in tabs:
            if s0 > at + 1e-6:
                bench.lose(bar, edge, start=at, end=s0)
            corners = bench.lose(bar, face, start=s0, end=s1, slack_start=half, slack_end=half, across=half)
            slot = total((*bench.opening_terms(frame, face, mate=edge), *clearance.terms))
            bench.feature(bar, face, kind=FeatureKind.SLOT, corners=corners, along=False, width=slot, length=s1 - s0 + clearance.value)
            layout = Term(kind=TermKind.LAYOUT, label=say("term.tab"), value=s1 - s0, source=say("from.layout"))
            tongue = ring(edge_side, (s0, s1), across=edge_side.strip)
            bench.feature(bar, edge, kind=FeatureKind.TAB, corners=tongue, along=True, width=total((layout,)), length=edge_side.strip[1] - edge_side.strip[0])
            at = s1
            count += 1
        if at < end - 1e-6:
            bench.lose(bar, edge, start=at, end=end)
    if style is Style.BLIND:
        _score_place(bench, bar, frame=frame, edge=edge, face=face, free=free)
    elif count == 0 and style not in NO_TABS:
        bench.too_short(bar, "joint_too_short.tab", least=5 * t)
    bench.meeting(bar, style if count or style in NO_TABS else Style.BUTT, count=count, opening_in=face if count else None)


def _tabs(bench: Bench, bar: Bar, *, edge: Panel, face: Panel, free: list[Span], style: Style) -> list[tuple[Span, list[Span]]]:
    if style in NO_TABS:
        return [(stretch, []) for stretch in free]
    if style is Style.WHOLE:
        return [(stretch, [stretch]) for stretch in free]
    choice = bench.choice(bar)
    found = Tee(
        bar=bar,
        face=face,
        edge=edge,
        web=bench.web(face),
        on_face=bench.tees[face.id],
        face_side=CutSide(shape=bench.shapes[face.id], cuts=bench.cuts[face.id].nominal),
        edge_side=CutSide(shape=bench.shapes[edge.id], cuts=bench.cuts[edge.id].nominal),
    )
    return tabs_of(found, free, wanted=choice.count, width=choice.width)


def _score_place(bench: Bench, bar: Bar, *, frame: MeetingFrame, edge: Panel, face: Panel, free: list[Span]) -> None:
    """Score where the edge stands, on the face that it stands on."""
    towards = dot(frame.side(edge).across, face.pose.normal) * (-1.0 if bar.role(edge) is Role.EDGE_BELOW else 1.0)
    behind = towards <= 0
    if behind:
        bench.look("blind_on_the_back", bar, says=say("blind_on_the_back", edge=edge.ref, face=face.ref))
    side = frame.side(face)
    bench.cuts[face.id].marks += [Mark(line=ring(side, (start, end), across=side.strip), back=behind) for start, end in free]


def crossing(bench: Bench, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
    """Slot both panels half way, one from each end."""
    if not free:
        return
    choice = bench.choice(bar)
    longest = max(free, key=lambda s: s[1] - s[0])
    high, low = _by_rank(bar)
    spans = {bar.a.id: bar.span_a, bar.b.id: bar.span_b}

    def waste(upper: Panel, lower: Panel) -> Mm:
        return (spans[upper.id][1] - bar.end) + (bar.start - spans[lower.id][0])

    # The higher rank is open upward, unless that would cut much more away than the other way round.
    upper, lower = (high, low) if waste(high, low) <= waste(low, high) + 4 * max(bar.a.t, bar.b.t) else (low, high)
    if choice.flip:
        upper, lower = lower, upper
    middle = longest[1] - (choice.share or 0.5) * (longest[1] - longest[0])
    _, clearance = bench.clearance(bar)
    half, relief = clearance.value / 2, max(clearance.value, 0.0) / 2
    run_out = 0.5 + max(bar.a.t, bar.b.t)
    lowest, highest = min(s[0] for s in free), max(s[1] for s in free)
    below_open, above_open = lowest <= bar.start + 1e-6, highest >= bar.end - 1e-6
    for panel, s0, s1, bottom_at_start in (
        (upper, middle, max(highest, spans[upper.id][1] + run_out) if above_open else highest, True),
        (lower, min(lowest, spans[lower.id][0] - run_out) if below_open else lowest, middle, False),
    ):
        bench.lose(bar, panel, start=s0, end=s1, slack_start=relief if bottom_at_start else 0.0, slack_end=0.0 if bottom_at_start else relief, across=half)
        inside = (max(s0, spans[panel.id][0]), min(s1, spans[panel.id][1]))
        width = total((*bench.opening_terms(frame, panel, mate=bar.other(panel)), *clearance.terms))
        side = frame.side(panel)
        trimmed = ring(side, inside, across=(side.strip[0] - half, side.strip[1] + half))
        bench.feature(bar, panel, kind=FeatureKind.LAP, corners=trimmed, along=False, width=width, length=inside[1] - inside[0])
    bench.meeting(bar, Style.LAP, count=1, opening_in=lower)


def through(bench: Bench, bar: Bar, frame: MeetingFrame, free: list[Span]) -> None:
    """Open the host where the guest passes through."""
    host = bar.a if bar.a.id == bar.host else bar.b
    guest = bar.other(host)
    _, clearance = bench.clearance(bar)
    half = clearance.value / 2
    for s0, s1 in free:
        corners = bench.lose(bar, host, start=s0, end=s1, slack_start=half, slack_end=half, across=half)
        width = total((*bench.opening_terms(frame, host, mate=guest), *clearance.terms))
        bench.feature(bar, host, kind=FeatureKind.SLOT, corners=corners, along=False, width=width, length=s1 - s0 + clearance.value)
    bench.meeting(bar, Style.SLOT, count=len(free), opening_in=host)
