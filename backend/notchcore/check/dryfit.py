"""The dry fit: everything that can be found out before the fire."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

from notchcore.check.order import AssemblyOrder, assembly_order
from notchcore.design.assembly import Assembly, FeatureKind, Meeting, Part
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.planar import narrow_places
from notchcore.geom.profile import polygon_of
from notchcore.geom.slab import box_of, boxes_touch, common_volume, shrunk
from notchcore.measure.families import FAMILIES, minimum_web
from notchcore.measure.fit import NO_FITS, Boundaries, Fits, Odds, clearance_sd, odds_of
from notchcore.measure.stock import Stock
from notchcore.tolerance import SHRINK, VOLUME_NOISE
from notchcore.units import Mm

WEAK_TAB = 2.0  # a neck below this many thicknesses breaks
REWORK_LOOK = 0.15  # a joint that fails more often than this is worth a test cut


@dataclass(frozen=True, slots=True, kw_only=True)
class MeetingOdds:
    """How one meeting will feel."""

    meeting: str
    odds: Odds
    rework: float  #: chance that it rattles or will not go


@dataclass(frozen=True, slots=True, kw_only=True)
class DryFit:
    """What was checked and what was found."""

    findings: tuple[Finding, ...]
    order: AssemblyOrder
    odds: tuple[MeetingOdds, ...]
    expected_rework: float  #: joints


def collisions(parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Return pairs of parts that want the same place, by mesh boolean on nominal geometry shrunk by a hair.

    Clearance is left out: the overlap of a wanted press fit is not a mistake.
    """
    found = []
    boxes = {p.id: box_of(p.slab(nominal=True)) for p in parts}
    small = {p.id: shrunk(p.slab(nominal=True), SHRINK) for p in parts}
    for a, b in combinations(parts, 2):
        if not boxes_touch(boxes[a.id], boxes[b.id], -SHRINK):
            continue
        thin = small[a.id]
        volume = common_volume(thin, b.slab(nominal=True)) if thin is not None else 0.0
        if volume > VOLUME_NOISE:
            found.append(
                Finding(
                    code="collision", severity=Severity.MUST, parts=(a.id, b.id), facts={"volume_mm3": volume},
                    message=f"{a.label} and {b.label} share {volume:.1f} mm³. Move one, or let the program cut a joint between them.",
                )
            )  # fmt: skip
    return tuple(found)


def thin_webs(parts: tuple[Part, ...], stocks: dict[str, Stock]) -> tuple[Finding, ...]:
    """Return parts that are somewhere narrower than their stock can hold, each with its thinnest place."""
    found = []
    for part in parts:
        web = minimum_web(FAMILIES[stocks[part.stock].family], part.t)
        places = narrow_places(polygon_of(part.profile), web * 0.98, least_area=0.25 * web**2)
        if not places:
            continue
        width, spot = min((min(p.bounds[2] - p.bounds[0], p.bounds[3] - p.bounds[1]), p.representative_point().coords[0]) for p in places)
        where = "at one place" if len(places) == 1 else f"at the thinnest of {len(places)} places"
        found.append(
            Finding(
                code="thin_web", severity=Severity.LOOK, parts=(part.id,), place=Place(part=part.id, x=spot[0], y=spot[1]),
                message=f"{part.label} is only {width:.1f} mm wide {where}; this stock wants {web:.1f}. Move the slots apart or make the part larger.",
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
                x, y = (sum(c[k] for c in f.corners) / 4 for k in (0, 1))
                found[f.meeting] = Finding(
                    code="weak_tab", severity=Severity.LOOK, parts=(part.id,), meeting=f.meeting, place=Place(part=part.id, x=x, y=y),
                    message=f"A tab of {part.label} is {f.width.value:.1f} mm wide; below {WEAK_TAB * part.t:.1f} it breaks easily. "
                    "Ask for fewer tabs, or make the edge longer.",
                    facts={"width_mm": f.width.value, "least_mm": WEAK_TAB * part.t},
                )  # fmt: skip
    return tuple(found.values())


def unheld_parts(assembly: Assembly) -> tuple[Finding, ...]:
    """Return parts that nothing holds: no meeting with a joint or a glue face."""
    held = {x for m in assembly.meetings if m.style != "butt" for x in (m.a, m.b)}
    return tuple(
        Finding(
            code="unheld_part", severity=Severity.LOOK, parts=(p.id,),
            message=f"Nothing holds {p.label} but glue on its edges. Make it reach into a neighbour, or mean it so.",
        )
        for p in assembly.parts
        if p.id not in held and not p.loose and len(assembly.parts) > 1
    )  # fmt: skip


def meeting_sd(meeting: Meeting, stocks: Mapping[str, Stock], boundaries: Boundaries, fits: Fits) -> Mm:
    """Return the spread of a meeting's clearance [mm]."""
    return clearance_sd(
        kerf_sd=stocks[meeting.kerf_stock].kerf.sd, thickness_sd=meeting.thickness_sd, boundaries=boundaries, kerf_share=meeting.kerf_share,
        machine_sd=fits.machine_sd, opening=meeting.kerf_stock,
    )  # fmt: skip


def meeting_odds(assembly: Assembly, stocks: dict[str, Stock], fits: Fits = NO_FITS) -> tuple[MeetingOdds, ...]:
    """Return how each joint will feel, given how well thickness, kerf and the boundaries between feels are known."""
    stock_of_part = {p.id: stocks[p.stock] for p in assembly.parts}
    found = []
    for m in assembly.meetings:
        if m.clearance is None:
            continue
        boundaries = fits.between(stock_of_part[m.a].key, stock_of_part[m.b].key)
        sd = meeting_sd(m, stocks, boundaries, fits)
        odds = odds_of(clearance=m.clearance.value, sd=sd, boundaries=boundaries)
        found.append(MeetingOdds(meeting=m.id, odds=odds, rework=odds.rattles + odds.wont_go))
    return tuple(found)


def _risky(assembly: Assembly, odds: tuple[MeetingOdds, ...]) -> tuple[Finding, ...]:
    risky = [o for o in odds if o.rework > REWORK_LOOK]
    if not risky:
        return ()
    worst = max(risky, key=lambda o: o.rework)
    meeting = next(m for m in assembly.meetings if m.id == worst.meeting)
    names = {p.id: p.label for p in assembly.parts}
    return (
        Finding(
            code="fit_not_sure", severity=Severity.LOOK, parts=(meeting.a, meeting.b), meeting=meeting.id,
            message=f"{len(risky)} of {len(odds)} joints may rattle or not go in; worst {names[meeting.a]} with {names[meeting.b]} "
            f"({worst.rework:.0%}). Take more readings or a kerf test on Sheets first.",
            facts={"joints": len(risky), "worst": worst.rework},
        ),
    )  # fmt: skip


def _locked(order: AssemblyOrder, parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    if not order.locked:
        return ()
    names = [p.label for p in parts if p.id in order.locked]
    return (
        Finding(
            code="locked_assembly", severity=Severity.MUST, parts=order.locked,
            message=f"No straight moves put {', '.join(names[:4])}{' and others' if len(names) > 4 else ''} together. Open one joint: let a part butt instead.",
        ),
    )  # fmt: skip


def dry_fit(assembly: Assembly, stocks: dict[str, Stock], fits: Fits = NO_FITS) -> DryFit:
    """Return all findings, gravest first, an assembly order and the odds of every joint."""
    checks = {
        "collision": ("No two parts want the same place", collisions(assembly.parts)),
        "thin_web": ("No web is thinner than its stock can hold", thin_webs(assembly.parts, stocks)),
        "weak_tab": ("Every tab is wide enough for its thickness", weak_tabs(assembly.parts)),
        "unheld_part": ("Every part is held by a joint or a glue face", () if assembly.on_line else unheld_parts(assembly)),
    }
    order = assembly_order(assembly.parts) if not checks["collision"][1] else AssemblyOrder(steps=())
    checks["locked_assembly"] = ("The parts go together by straight moves", _locked(order, assembly.parts) if not checks["collision"][1] else ())
    odds = meeting_odds(assembly, stocks, fits)
    checks["fit_not_sure"] = ("Every joint is likely to fit", _risky(assembly, odds))
    found = [*assembly.findings, *(f for _, some in checks.values() for f in some)]
    fine = [Finding(code=code, severity=Severity.FINE, message=text) for code, (text, some) in checks.items() if not some and assembly.parts]
    rank = {Severity.MUST: 0, Severity.LOOK: 1, Severity.FINE: 2}
    return DryFit(
        findings=tuple(sorted((*found, *fine), key=lambda f: rank[f.severity])),
        order=order,
        odds=odds,
        expected_rework=sum(o.rework for o in odds),
    )
