"""Before anything leaves the house: errors stop the files, warnings ask."""

from __future__ import annotations

from collections.abc import Callable

from notchcore.design.assembly import Assembly, Part
from notchcore.design.edits import HOLDING
from notchcore.findings import Finding, Severity
from notchcore.geom.contours import sampled
from notchcore.geom.profile import bounds_of
from notchcore.ledger import Trust
from notchcore.measure.machine import KerfPlace, Machine, Operation, Settings
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting
from notchcore.plan.paths import CutPath
from notchcore.plan.sharing import beside_each_other
from notchcore.units import Mm

ON_ITS_BACK = "Burned from the back, mirrored ({names}): lay the sheet with the face that will be seen down, its film on, the upper film off."
HELPERS = "Helpers are cut too ({names}): jigs or spacers that are no part of the thing. Take them off on Lay out if you have them."

Sheet = tuple[str, Mm, Mm, list[CutPath]]


def _reach(sheets: list[Sheet], machine: Machine) -> list[Finding]:
    found = []
    for name, width, height, paths in sheets:
        for path in paths:
            x0, y0, x1, y1 = bounds_of(sampled(path.contour, sag=0.05))
            if x0 < 0 or y0 < 0 or x1 > min(width, machine.bed_width) or y1 > min(height, machine.bed_height):
                found.append(
                    Finding(code="outside_bed", severity=Severity.MUST, parts=(path.part,),
                            message=f"{path.part} on {name} reaches outside the sheet or the bed. Pack again with a wider margin.")
                )  # fmt: skip
    return found


def _shapes(sheets: list[Sheet]) -> list[Finding]:
    found = []
    for name, _, _, paths in sheets:
        seen: set[tuple[float, ...]] = set()
        for path in paths:
            key = (*(round(v, 3) for v in bounds_of(sampled(path.contour, sag=0.05))), round(path.contour.length, 3))
            if path.contour.length < 1e-3:
                found.append(Finding(code="zero_length", severity=Severity.MUST, parts=(path.part,), message=f"{path.part} has a line without length."))
            if key in seen and path.operation in (Operation.INNER, Operation.OUTER):
                found.append(
                    Finding(code="cut_twice", severity=Severity.MUST, parts=(path.part,),
                            message=f"On {name} the same line would be cut twice at {path.part}. Pack again.")
                )  # fmt: skip
            seen.add(key)
    return found


def _beside(sheets: list[Sheet]) -> list[Finding]:
    return [
        Finding(code="cuts_beside", severity=Severity.LOOK, parts=(a.part, b.part), facts={"apart_mm": apart},
                message=f"On {name} the cuts of {a.part} and {b.part} run {apart:.2f} mm apart, and what lies between burns away. "
                "Was the kerf another when the parts were packed? Pack again.")
        for name, _, _, paths in sheets for a, b, apart in beside_each_other(paths)
    ]  # fmt: skip


def _small(sheets: list[Sheet], machine: Machine) -> list[Finding]:
    small = []
    for _, _, _, paths in sheets:
        for path in paths:
            x0, y0, x1, y1 = bounds_of(sampled(path.contour, sag=0.05))
            if path.operation is Operation.OUTER and min(x1 - x0, y1 - y0) < machine.slat_pitch and len(path.bridges) < HOLDING:
                small.append(path.part)
    if not small:
        return []
    names = ", ".join(sorted(set(small))[:4])
    return [
        Finding(code="falls_through", severity=Severity.LOOK, parts=tuple(sorted(set(small))),
                message=f"{len(small)} narrow part{'s' if len(small) > 1 else ''} may tip between the slats ({names}). "
                "Hold them by bridges, watch them, or lay a mesh below.")
    ]  # fmt: skip


def _about(nesting: Nesting, assembly: Assembly, is_meant: Callable[[Part], bool], code: str, says: str) -> list[tuple[str, str, list[Finding]]]:
    """Return what is to be known of some of the parts that are laid out; `says` names them at {names}."""
    laid = {p.part for s in nesting.sheets for p in s.placements}
    some = [p for p in assembly.parts if p.id in laid and is_meant(p)]
    if not some:
        return []
    names = ", ".join(sorted(p.label for p in some)[:4])
    return [(code, "", [Finding(code=code, severity=Severity.LOOK, parts=tuple(p.id for p in some), message=says.format(names=names))])]


def preflight(
    sheets: list[Sheet],
    nesting: Nesting,
    used: set[str],
    stocks: dict[str, Stock],
    machine: Machine,
    settings: dict[str, Settings],
    place: KerfPlace,
    assembly: Assembly,
) -> list[Finding]:
    """Return everything to know before the files are made, and what was checked and is fine."""
    guesses = [stocks[s] for s in sorted(used) if stocks[s].kerf.terms[0].trust is Trust.DEFAULT]
    untested = [stocks[s] for s in sorted(used) if not settings[s].tested]
    unplaced = sum(u.count for u in nesting.unplaced)
    groups: list[tuple[str, str, list[Finding]]] = [
        ("outside_bed", "Everything lies on the sheet and inside the bed", _reach(sheets, machine)),
        ("cut_twice", "No line is cut twice, none is without length", _shapes(sheets)),
        ("cuts_beside", "No two cuts run too near beside each other", _beside(sheets)),
        ("falls_through", "No part is narrower than the gap between slats", _small(sheets, machine)),
        ("parts_missing", "Every part has a place", [
            Finding(code="parts_missing", severity=Severity.MUST, parts=tuple(u.part for u in nesting.unplaced),
                    message=f"{unplaced} part{'s have' if unplaced > 1 else ' has'} no place on a sheet. See Lay out for why.")
        ] if unplaced else []),
        ("kerf_guess", "Kerf was measured on this machine", [
            Finding(code="kerf_guess", severity=Severity.LOOK, facts={"stock": s.id},
                    message=f"{s.name}: the kerf of {s.kerf.value:.2f} mm is a default. Cut a strips or gap test first: joints may be {s.kerf.sd:.2f} mm off.")
            for s in guesses
        ]),
        ("settings_guess", "Settings were tried on this machine", [
            Finding(code="settings_guess", severity=Severity.LOOK, facts={"stock": s.id},
                    message=f"{s.name}: power and speed are defaults. Try them on a scrap of the same sheet first.")
            for s in untested
        ]),
    ]  # fmt: skip
    groups += [(f.code, "", [f]) for f in assembly.findings if f.code == "variant_not_chosen"]
    groups += _about(nesting, assembly, lambda p: p.reverse, "on_its_back", ON_ITS_BACK)
    groups += _about(nesting, assembly, lambda p: p.helper, "helpers_cut", HELPERS)
    hazards = [h for s in sorted(used) if (h := stocks[s].hazard) is not None]
    groups.append(("hazard", "No sheet is of a stock that must not be cut", hazards))
    if place is KerfPlace.LINE:
        groups.append(("on_the_line", "", [
            Finding(code="on_the_line", severity=Severity.LOOK,
                    message="This is a test piece: it is cut on its lines, on purpose. Switch off any kerf correction in the machine's own software.")
        ]))  # fmt: skip
    elif place is KerfPlace.MACHINE:
        groups.append(("kerf_in_machine", "", [
            Finding(code="kerf_in_machine", severity=Severity.LOOK,
                    message="These files are not corrected for kerf: the machine's own software must do it, once.")
        ]))  # fmt: skip
    else:
        groups.append(("kerf_once", "Kerf is corrected once, in the paths", []))
    found = [f for _, _, some in groups for f in some]
    fine = [Finding(code=code, severity=Severity.FINE, message=text) for code, text, some in groups if not some]
    return [*sorted(found, key=lambda f: f.severity is not Severity.MUST), *fine]
