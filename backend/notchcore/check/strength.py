"""Where a part is too weak to be handled: thin webs, weak tabs, brittle corners, grain across a neck, long levers."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping

from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Part
from notchcore.design.design import Design
from notchcore.findings import Finding, Place, Repair, RepairKind, Severity
from notchcore.geom.profile import polygon_of
from notchcore.geom.webs import thin_places
from notchcore.measure.families import FAMILIES, Give, minimum_web
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import TRIMMED, Count, Names, mm
from notchcore.words.render import say

WEAK_TAB = 2.0  # a neck below this many thicknesses breaks
MOSTLY = 2  # so many times more tabs across the grain than along it
LEVER = 8.0  # a lone tab holds no more than this many of its widths
RELIEF: Mm = 0.5  # radius that keeps a corner of a brittle sheet whole
SPLITS_ALONG_GRAIN = ("solid_wood", "veneer")


def middle(f: JointFeature) -> tuple[Mm, Mm]:
    """Return the middle of a feature, in its part's plane [mm]."""
    return sum(c[0] for c in f.corners) / 4, sum(c[1] for c in f.corners) / 4


def thin_webs(parts: tuple[Part, ...], stocks: Mapping[str, Stock]) -> tuple[Finding, ...]:
    """Return parts that are somewhere narrower than their stock can hold, each with its thinnest place."""
    found = []
    for part in parts:
        web = minimum_web(FAMILIES[stocks[part.stock].family], part.t)
        places = thin_places(polygon_of(part.profile), web * 0.98)
        if not places:
            continue
        width, spot = places[0].width, places[0].at
        where = say("at.one") if len(places) == 1 else say("at.thinnest", places=Count(len(places), "place", "places"))
        kerf = stocks[part.stock].kerf.value
        burns = width < kerf  # the beam is as wide as what is left
        says = (say("thin_web.burns", part=part.ref, width=mm(width, digits=2), where=where, beam=mm(kerf, digits=2)) if burns
                else say("thin_web", part=part.ref, width=mm(width), where=where, least=mm(web)))  # fmt: skip
        found.append(
            Finding(
                code="thin_web", severity=Severity.MUST if burns else Severity.LOOK, parts=(part.id,), place=Place(part=part.id, x=spot[0], y=spot[1]),
                places=tuple(Place(part=part.id, x=w.at[0], y=w.at[1]) for w in places),
                says=says,
                facts={"width_mm": width, "least_mm": web, "places": len(places)},
            )
        )  # fmt: skip
    return tuple(found)


def weak_tabs(parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Return tabs whose neck is too narrow for their thickness, one finding a meeting."""
    found: dict[str, Finding] = {}
    for part in parts:
        for f in part.features:
            if f.kind is FeatureKind.TAB and f.width.value < WEAK_TAB * part.t - 1e-6 and f.meeting not in found:
                x, y = middle(f)
                found[f.meeting] = Finding(
                    code="weak_tab", severity=Severity.LOOK, parts=(part.id,), meeting=f.meeting, place=Place(part=part.id, x=x, y=y),
                    says=say("weak_tab", part=part.ref, width=mm(f.width.value), least=mm(WEAK_TAB * part.t)),
                    facts={"width_mm": f.width.value, "least_mm": WEAK_TAB * part.t},
                )  # fmt: skip
    return tuple(found.values())


def brittle_corners(assembly: Assembly, stocks: Mapping[str, Stock], design: Design) -> tuple[Finding, ...]:
    """Return one finding for all brittle parts whose joints leave sharp inner corners."""
    if design.relief > 0:
        return ()
    gaps = (FeatureKind.SLOT, FeatureKind.NOTCH, FeatureKind.LAP)
    sharp = [p for p in assembly.parts if FAMILIES[stocks[p.stock].family].give is Give.RIGID and any(f.kind in gaps and f.meeting for f in p.features)]
    if not sharp:
        return ()
    says = (say("brittle_corner", part=sharp[0].ref) if len(sharp) == 1
            else say("brittle_corner.several", parts=Names(tuple(p.ref for p in sharp), most=2)))  # fmt: skip
    return (
        Finding(code="brittle_corner", severity=Severity.LOOK, parts=tuple(p.id for p in sharp), says=says,
                repairs=(Repair(says=say("mend.relief", radius=mm(RELIEF, digits=TRIMMED)), kind=RepairKind.RELIEF, values={"value": RELIEF}),)),
    )  # fmt: skip


def grain_across_necks(assembly: Assembly, stocks: Mapping[str, Stock], design: Design) -> tuple[Finding, ...]:
    """Return parts of solid wood or veneer whose tabs have the grain across their neck: grain runs along a part's own x."""
    found = []
    for part in assembly.parts:
        if stocks[part.stock].family not in SPLITS_ALONG_GRAIN:
            continue
        tabs = [f for f in part.features if f.kind in (FeatureKind.TAB, FeatureKind.FINGER)]
        short = [f for f in tabs if abs(f.axis[0]) > 0.9 and f.width.value < 2 * LEVER * part.t]
        if len(short) <= MOSTLY * (len(tabs) - len(short)):  # with tabs both ways no grain is right for all
            continue
        x, y = middle(short[0])
        panel = part.id
        turned = design.edits[panel].across if panel in design.edits else False
        found.append(
            Finding(code="grain_across_neck", severity=Severity.LOOK, parts=(part.id,), place=Place(part=part.id, x=x, y=y),
                    says=say("grain_across_neck", part=part.ref),
                    repairs=(Repair(says=say("mend.turn_grain"), kind=RepairKind.PANEL, targets=(panel,), values={"across": not turned}),))
        )  # fmt: skip
    return tuple(found)


def long_levers(assembly: Assembly) -> tuple[Finding, ...]:
    """Return parts that only one tab holds and that reach farther from it than it can carry."""
    held: defaultdict[str, list[str]] = defaultdict(list)
    for m in assembly.meetings:
        if m.holds:
            held[m.a].append(m.id)
            held[m.b].append(m.id)
    found = []
    for part in assembly.parts:
        mine = held[part.id]
        tabs = [f for f in part.features if f.kind is FeatureKind.TAB and f.meeting in mine]
        if len(mine) != 1 or len(tabs) != 1 or part.loose:
            continue
        x, y = middle(tabs[0])
        reach = max(math.dist((x, y), p) for p in part.profile.outer)
        width = tabs[0].width.value
        if reach <= LEVER * width:
            continue
        wide = math.ceil(reach / LEVER)
        repairs = (
            Repair(says=say("mend.two_tabs"), kind=RepairKind.CHOICE, targets=(mine[0],), values={"count": 2}),
            Repair(says=say("mend.one_tab", width=mm(wide, digits=0)), kind=RepairKind.CHOICE, targets=(mine[0],), values={"count": 1, "width": float(wide)}),
        )
        found.append(
            Finding(code="long_lever", severity=Severity.LOOK, parts=(part.id,), meeting=mine[0], place=Place(part=part.id, x=x, y=y),
                    says=say("long_lever", width=mm(width), part=part.ref, reach=mm(reach, digits=0)),
                    facts={"width_mm": width, "reach_mm": reach}, repairs=repairs)
        )  # fmt: skip
    return tuple(found)
