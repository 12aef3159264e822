"""Where a part is too weak to be handled: thin webs, weak tabs, brittle corners, grain across a neck, long levers."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from notchcore.check.propped import propped
from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Meeting, Part
from notchcore.design.design import Design
from notchcore.design.joints.layout import tab_spans
from notchcore.findings import Finding, Place, Plain, Repair, RepairKind, Severity
from notchcore.geom.profile import polygon_of
from notchcore.geom.webs import thin_places
from notchcore.measure.materials import MATERIALS, Give, minimum_web
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import TRIMMED, Count, Names, mm
from notchcore.words.render import say

WEAK_TAB = 2.0  # a neck below this many thicknesses breaks
MOSTLY = 2  # so many times more tabs across the grain than along it
LEVER = 8.0  # a lone tab holds no more than this many of its widths
RELIEF: Mm = 0.5  # radius that keeps a corner of a brittle sheet whole


def middle(f: JointFeature) -> tuple[Mm, Mm]:
    """Return the middle of a feature, in its part's plane [mm]."""
    return sum(c[0] for c in f.corners) / 4, sum(c[1] for c in f.corners) / 4


def thin_webs(parts: tuple[Part, ...], stocks: Mapping[str, Stock]) -> tuple[Finding, ...]:
    """Return parts that are somewhere narrower than their stock can hold, each with its thinnest place."""
    found = []
    for part in parts:
        web = minimum_web(MATERIALS[stocks[part.stock].material], part.t)
        places = thin_places(polygon_of(part.profile), web * 0.98)
        if not places:
            continue
        width, spot = places[0].width, places[0].at
        where = say("at.one") if len(places) == 1 else say("at.thinnest", places=Count(len(places), "place", "places"))
        kerf = stocks[part.stock].kerf.value
        burns = width < kerf  # the beam is as wide as what is left
        says = (
            say("thin_web.burns", part=part.ref, width=mm(width, digits=2), where=where, beam=mm(kerf, digits=2))
            if burns
            else say("thin_web", part=part.ref, width=mm(width), where=where, least=mm(web))
        )
        found.append(
            Finding(
                code="thin_web",
                severity=Severity.MUST if burns else Severity.LOOK,
                parts=(part.id,),
                place=Place(part=part.id, x=spot[0], y=spot[1]),
                places=tuple(Place(part=part.id, x=w.at[0], y=w.at[1]) for w in places),
                says=says,
                facts={"width_mm": width, "least_mm": web, "places": len(places)},
            )
        )
    return tuple(found)


def weak_tabs(parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Return tabs whose neck is too narrow for their thickness, one finding a meeting."""
    found: dict[str, Finding] = {}
    for part in parts:
        for f in part.features:
            if f.kind is FeatureKind.TAB and f.width.value < WEAK_TAB * part.t - 1e-6 and f.meeting not in found:
                x, y = middle(f)
                found[f.meeting] = Finding(
                    code="weak_tab",
                    severity=Severity.LOOK,
                    parts=(part.id,),
                    meeting=f.meeting,
                    place=Place(part=part.id, x=x, y=y),
                    says=say("weak_tab", part=part.ref, width=mm(f.width.value), least=mm(WEAK_TAB * part.t)),
                    facts={"width_mm": f.width.value, "least_mm": WEAK_TAB * part.t},
                )
    return tuple(found.values())


def brittle_corners(assembly: Assembly, stocks: Mapping[str, Stock], *, design: Design) -> tuple[Finding, ...]:
    """Return one finding for all brittle parts whose joints leave sharp inner corners."""
    if design.relief > 0:
        return ()
    gaps = (FeatureKind.SLOT, FeatureKind.NOTCH, FeatureKind.LAP)
    sharp = [p for p in assembly.parts if MATERIALS[stocks[p.stock].material].give is Give.RIGID and any(f.kind in gaps and f.meeting for f in p.features)]
    if not sharp:
        return ()
    says = say("brittle_corner", part=sharp[0].ref) if len(sharp) == 1 else say("brittle_corner.several", parts=Names(tuple(p.ref for p in sharp), most=2))
    return (
        Finding(
            code="brittle_corner",
            severity=Severity.LOOK,
            parts=tuple(p.id for p in sharp),
            says=says,
            repairs=(Repair(says=say("mend.relief", radius=mm(RELIEF, digits=TRIMMED)), kind=RepairKind.RELIEF, values={"value": RELIEF}),),
        ),
    )


def grain_across_necks(assembly: Assembly, stocks: Mapping[str, Stock], *, design: Design) -> tuple[Finding, ...]:
    """Return parts of solid wood or veneer whose tabs have the grain across their neck: grain runs along a part's own x."""
    found = []
    for part in assembly.parts:
        if not MATERIALS[stocks[part.stock].material].splits:
            continue
        tabs = [f for f in part.features if f.kind in (FeatureKind.TAB, FeatureKind.FINGER)]
        short = [f for f in tabs if abs(f.axis[0]) > 0.9 and f.width.value < 2 * LEVER * part.t]
        if len(short) <= MOSTLY * (len(tabs) - len(short)):  # with tabs both ways no grain is right for all
            continue
        x, y = middle(short[0])
        panel = part.id
        turned = design.edits[panel].across if panel in design.edits else False
        found.append(
            Finding(
                code="grain_across_neck",
                severity=Severity.LOOK,
                parts=(part.id,),
                place=Place(part=part.id, x=x, y=y),
                says=say("grain_across_neck", part=part.ref),
                repairs=(Repair(says=say("mend.turn_grain"), kind=RepairKind.PANEL, targets=(panel,), values={"across": not turned}),),
            )
        )
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _Lever:
    """A part that one tab holds."""

    part: Part
    meeting: Meeting
    tab: JointFeature
    reach: Mm  #: from the tab's middle to the farthest corner

    @property
    def wanted(self) -> int:
        """The width that would carry it [mm]."""
        return math.ceil(self.reach / LEVER)

    @property
    def carries(self) -> tuple[bool, bool]:
        """Whether there is room for two tabs, and for one of that width."""
        two = tab_spans(0.0, self.meeting.length, t=self.part.t, wanted=2)
        (low, high), *_ = tab_spans(0.0, self.meeting.length, t=self.part.t, wanted=1, target=float(self.wanted)) or [(0.0, 0.0)]
        return len(two) == 2, high - low > self.wanted - 1e-6

    @property
    def like(self) -> tuple[object, ...]:
        """What is the same for those that are told in one breath."""
        return (self.part.stock, round(self.tab.width.value, 2), round(self.reach, 1), self.carries)


def long_levers(assembly: Assembly) -> tuple[Finding, ...]:
    """Return parts that only one tab holds and that reach farther from it than it can carry; those that are alike are told, and mended, at once."""
    alike: dict[tuple[object, ...], list[_Lever]] = {}
    for lever in _levers(assembly):
        alike.setdefault(lever.like, []).append(lever)
    return tuple(_too_long(some) for some in alike.values())


def _too_long(levers: Sequence[_Lever]) -> Finding:
    first, targets = levers[0], tuple(x.meeting.id for x in levers)
    width, reach = mm(first.tab.width.value), mm(first.reach, digits=0)
    two, wider = first.carries
    repairs = [Repair(says=say("mend.two_tabs"), kind=RepairKind.CHOICE, targets=targets, values={"count": 2, "width": None})] if two else []
    if wider:
        values: dict[str, Plain | tuple[float, ...]] = {"count": 1, "width": float(first.wanted)}
        repairs.append(Repair(says=say("mend.one_tab", width=mm(first.wanted, digits=0)), kind=RepairKind.CHOICE, targets=targets, values=values))
    do = say("long_lever.tabs" if repairs else "long_lever.foot")
    one = say("long_lever", width=width, part=first.part.ref, reach=reach, do=do)
    spots = [Place(part=x.part.id, x=p[0], y=p[1]) for x in levers for p in [middle(x.tab)]]
    return Finding(
        code="long_lever",
        severity=Severity.LOOK,
        parts=tuple(x.part.id for x in levers),
        meeting=first.meeting.id if len(levers) == 1 else None,
        place=spots[0],
        places=tuple(spots) if len(levers) > 1 else (),
        says=one if len(levers) == 1 else say("long_lever.several", width=width, parts=Names(tuple(x.part.ref for x in levers)), reach=reach, do=do),
        facts={"width_mm": first.tab.width.value, "reach_mm": first.reach},
        repairs=tuple(repairs),
    )


def _levers(assembly: Assembly) -> list[_Lever]:
    """Return the parts that a lone tab holds too far from it."""
    held: defaultdict[str, list[Meeting]] = defaultdict(list)
    for m in assembly.meetings:
        if m.holds:
            held[m.a].append(m)
            held[m.b].append(m)
    found = []
    for part in assembly.parts:
        mine = held[part.id]
        tabs = [f for f in part.features if f.kind is FeatureKind.TAB and f.meeting in {m.id for m in mine}]
        if len(mine) != 1 or len(tabs) != 1 or part.loose:
            continue
        x, y = middle(tabs[0])
        reach = max(math.dist((x, y), p) for p in part.profile.outer)
        if reach > LEVER * tabs[0].width.value and not propped(part, assembly.parts, tab=(x, y), reach=reach):
            found.append(_Lever(part, mine[0], tabs[0], reach))
    return found
