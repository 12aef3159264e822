"""Before anything leaves the house: errors stop the files, warnings ask."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from notchcore.design.assembly import Assembly, Part
from notchcore.design.edits import HOLDING
from notchcore.findings import Finding, Severity
from notchcore.geom.contours import sampled
from notchcore.geom.profile import bounds_of
from notchcore.ledger import Trust
from notchcore.measure.families import FAMILIES
from notchcore.measure.machine import OPERATIONS, KerfPlace, Machine, Operation, Settings
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting
from notchcore.plan.choices import AS_USUAL, PlanChoices, SecondSide, Turn
from notchcore.plan.paths import CutPath
from notchcore.plan.sharing import beside_each_other
from notchcore.plan.sides import Lay, LayKind
from notchcore.units import Mm

ON_ITS_BACK = ("Burned from the back, mirrored ({names}): lay the sheet with the face that will be seen down, its film on. "
               "Whether the upper face keeps its film stands on the run sheet.")  # fmt: skip
FACE_DOWN = "Cut face down, mirrored ({names}): lay the sheet with the face that will be seen down, so that sloping edges close the seam."
HELPERS = "Helpers are cut too ({names}): jigs or spacers that are no part of the thing. Take them off on Lay out if you have them."

CLEAR_FROM_FRONT = ("Clear sheet is engraved on the face that is seen ({names}): it looks brighter and keeps clean when it is burned mirrored on its back. "
                    "Tick that on Build, or go on.")  # fmt: skip


Group = tuple[str, str, list[Finding]]  # code, what to say when nothing was found, what was found


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """What is looked at of one run over a sheet."""

    name: str
    stock: str
    width: Mm
    height: Mm
    paths: tuple[CutPath, ...]
    lay: Lay
    labels: Mapping[str, str] = field(default_factory=dict)  #: of parts

    def said(self, path: CutPath) -> str:
        """Return the name of the part that a path belongs to."""
        return self.labels.get(path.part, path.part)


def _reach(runs: Sequence[Run], machine: Machine) -> list[Finding]:
    found = []
    for run in runs:
        name = run.name
        for path in run.paths:
            x0, y0, x1, y1 = bounds_of(tuple(p for c in path.contours for p in sampled(c, sag=0.05)))
            if x0 < 0 or y0 < 0 or x1 > min(run.width, machine.bed_width) or y1 > min(run.height, machine.bed_height):
                found.append(
                    Finding(code="outside_bed", severity=Severity.MUST, parts=(path.part,),
                            message=f"{run.said(path)} on {name} reaches outside the sheet or the bed. Pack again with a wider margin.")
                )  # fmt: skip
    return found


def _shapes(runs: Sequence[Run]) -> list[Finding]:
    found = []
    for run in runs:
        name = run.name
        seen: set[tuple[float, ...]] = set()
        for path in run.paths:
            key = (*(round(v, 3) for v in bounds_of(sampled(path.contour, sag=0.05))), round(path.contour.length, 3))
            if path.contour.length < 1e-3:
                found.append(Finding(code="zero_length", severity=Severity.MUST, parts=(path.part,), message=f"{run.said(path)} has a line without length."))
            if key in seen and path.operation in (Operation.INNER, Operation.OUTER):
                found.append(
                    Finding(code="cut_twice", severity=Severity.MUST, parts=(path.part,),
                            message=f"On {name} the same line would be cut twice at {run.said(path)}. Pack again.")
                )  # fmt: skip
            seen.add(key)
    return found


def _open(runs: Sequence[Run]) -> list[Finding]:
    """Return outlines that do not close: their part would hang on."""
    return [
        Finding(code="open_outline", severity=Severity.MUST, parts=(path.part,),
                message=f"The outline of {run.said(path)} on {run.name} does not close: it would not come free. Close it on Build, or bring its drawing "
                        "in again.")
        for run in runs for path in run.paths if path.operation is Operation.OUTER and not path.contour.closed
    ]  # fmt: skip


def _beside(runs: Sequence[Run]) -> list[Finding]:
    return [
        Finding(code="cuts_beside", severity=Severity.LOOK, parts=(a.part, b.part), facts={"apart_mm": apart},
                message=f"On {run.name} the cuts of {run.said(a)} and {run.said(b)} run {apart:.2f} mm apart, and what lies between burns away. "
                "Was the kerf another when the parts were packed? Pack again.")
        for run in runs for a, b, apart in beside_each_other(run.paths)
    ]  # fmt: skip


def _small(runs: Sequence[Run], machine: Machine) -> list[Finding]:
    small = []
    for run in runs:
        for path in run.paths:
            x0, y0, x1, y1 = bounds_of(sampled(path.contour, sag=0.05))
            if path.operation is Operation.OUTER and path.through and min(x1 - x0, y1 - y0) < machine.slat_pitch and len(path.bridges) < HOLDING:
                small.append(path.part)
    if not small:
        return []
    names = ", ".join(sorted(set(small))[:4])
    return [
        Finding(code="falls_through", severity=Severity.LOOK, parts=tuple(sorted(set(small))),
                message=f"{len(small)} narrow part{'s' if len(small) > 1 else ''} may tip between the slats ({names}). "
                "Hold them by bridges, watch them, or lay a mesh below.")
    ]  # fmt: skip


def _engraved_in_front(part: Part) -> bool:
    return not part.reverse and any(m.operation is Operation.ENGRAVE and not m.back for m in part.marks)


def _about(nesting: Nesting, assembly: Assembly, is_meant: Callable[[Part], bool], code: str, says: str) -> list[Group]:
    """Return what is to be known of some of the parts that are laid out; `says` names them at {names}."""
    laid = {p.part for s in nesting.sheets for p in s.placements}
    some = [p for p in assembly.parts if p.id in laid and is_meant(p)]
    if not some:
        return []
    names = ", ".join(sorted(p.label for p in some)[:4])
    return [(code, "", [Finding(code=code, severity=Severity.LOOK, parts=tuple(p.id for p in some), message=says.format(names=names))])]


def _second_sides(runs: Sequence[Run]) -> list[Finding]:
    """Return how sheets come to lie for their second runs, and how well both agree."""
    found = []
    for run in runs:
        lay = run.lay
        if lay.kind is LayKind.TURNED and lay.turn is not None:
            over = "left to right, like a page" if lay.turn is Turn.SIDEWAYS else "top to bottom"
            what = f"{run.name} is burned from its back first, then turned over {over}, and found by its {len(lay.marks)} marks. {lay.why}"
        elif lay.kind is LayKind.SWAPPED:
            parts = "1 part is" if len(lay.turns) == 1 else f"{len(lay.turns)} parts are"
            what = (
                f"{run.name} stays on the bed after its first run while {parts} lifted out and turned over. "
                f"Lay it on a flat board, so that they lie level. {lay.why}"
            )
        elif lay.kind is LayKind.PRINTED:
            what = f"{run.name} comes printed, and its cuts follow {len(lay.marks)} printed marks."
        else:
            continue
        found.append(
            Finding(code="second_side", severity=Severity.LOOK, facts={"mismatch_mm": lay.mismatch}, message=f"{what} Both agree within {lay.mismatch:.2f} mm.")
        )
    return found  # fmt: skip


def _across_grain(nesting: Nesting, assembly: Assembly, stocks: Mapping[str, Stock]) -> list[Finding]:
    """Return the parts that lie across the grain of a stock that breaks easily along it."""
    labels = {p.id: p.label for p in assembly.parts}
    across = [p.part for s in nesting.sheets if FAMILIES[stocks[s.stock].family].splits for p in s.placements if p.turn % 180 == 90 and p.part in labels]
    if not across:
        return []
    names = ", ".join(sorted({labels[p] for p in across})[:4])
    return [Finding(code="across_grain", severity=Severity.LOOK, parts=tuple(sorted(set(across))),
                    message=f"{len(across)} part{'s lie' if len(across) > 1 else ' lies'} across the grain of the sheet ({names}). "
                            "It breaks easily along that: keep the grain on Lay out where they are long or thin.")]  # fmt: skip


def _extra(nesting: Nesting, assembly: Assembly) -> list[Finding]:
    """Return what is cut more often than as many of the thing need as can be made of all parts, with the spares that the design has."""
    laid = Counter(p.part for s in nesting.sheets for p in s.placements)
    whole = max(1, min(((laid[p.id] - p.spares) // p.copies for p in assembly.parts if laid[p.id] and not p.helper), default=1))
    needed = {p.id: p.copies * (1 if p.helper else whole) + p.spares for p in assembly.parts}
    more = [(p, laid[p.id] - needed[p.id]) for p in assembly.parts if laid[p.id] > needed[p.id]]
    if not more:
        return []
    names = ", ".join(f"{p.label} {n} more" for p, n in more[:4]) + (" ..." if len(more) > 4 else "")
    for_them = "one of the thing needs" if whole == 1 else f"{whole} of the thing need"
    text = f"Some parts are cut more often than {for_them} ({names}). Mean it so, or pack again."
    return [Finding(code="extra_copies", severity=Severity.LOOK, parts=tuple(p.id for p, _ in more), message=text)]


def _pictures(runs: Sequence[Run]) -> list[Finding]:
    """Return that lines alone cannot hold a picture."""
    if not any(path.photo for run in runs for path in run.paths):
        return []
    text = "A picture is engraved, which DXF cannot hold: take SVG, PDF or G-code for that sheet."
    return [Finding(code="picture_not_in_dxf", severity=Severity.LOOK, message=text)]


def _left_out(nesting: Nesting, assembly: Assembly, choices: PlanChoices) -> list[Group]:
    """Return what the design has and this job does not burn."""
    groups = []
    if choices.skip:
        names = ", ".join(
            {Operation.ENGRAVE: "engraving", Operation.SCORE: "scores", Operation.INNER: "inner cuts", Operation.OUTER: "outer cuts"}[o] for o in choices.skip
        )
        groups.append(("left_out", "", [Finding(code="left_out", severity=Severity.LOOK, message=f"Left out of this job, as you chose: {names}.")]))
    if choices.second is SecondSide.NONE:
        groups += _about(
            nesting, assembly, lambda p: any(m.back and m.feature for m in p.marks), "backs_left_out", "What is on the back of {names} is not burned."
        )
    return groups  # fmt: skip


SETTING_OF = {Operation.SCORE: "score", Operation.ENGRAVE: "engrave"}


def _evidence(runs: Sequence[Run], stocks: Mapping[str, Stock], settings: Mapping[str, Settings]) -> list[Group]:
    """Return which numbers of the job are guesses."""
    used = sorted({r.stock for r in runs})
    guesses = [stocks[s] for s in used if stocks[s].kerf.terms[0].trust is Trust.DEFAULT]
    burned = {s: {SETTING_OF.get(p.operation, "cut") for r in runs if r.stock == s for p in r.paths} for s in used}
    untested = [(stocks[s], found) for s in used if (found := [o for o in OPERATIONS if o in burned[s] and not settings[s].tested(o)])]
    return [
        ("kerf_guess", "Kerf was measured on this machine", [
            Finding(code="kerf_guess", severity=Severity.LOOK, facts={"stock": s.id},
                    message=f"{s.name}: the kerf of {s.kerf.value:.2f} mm is a default. Cut a strips or gap test first: joints may be {s.kerf.sd:.2f} mm off.")
            for s in guesses
        ]),
        ("settings_guess", "Settings were tried on this machine", [
            Finding(code="settings_guess", severity=Severity.LOOK, facts={"stock": s.id},
                    message=f"{s.name}: power and speed to {' and '.join(found)} were not tried here. Try them on a scrap of the same sheet first.")
            for s, found in untested
        ]),
        ("hazard", "No sheet is of a stock that must not be cut", [h for s in used if (h := stocks[s].hazard) is not None]),
    ]  # fmt: skip


CORRECTED = {  # what is to be known of each place but the usual one
    KerfPlace.LINE: ("on_the_line", "This is a test piece: it is cut on its lines, on purpose. "
                                    "Switch off any kerf correction in the machine's own software."),
    KerfPlace.MACHINE: ("kerf_in_machine", "These files are not corrected for kerf: the machine's own software must do it, once."),
    KerfPlace.NONE: ("kerf_nowhere", "Nothing is corrected for kerf, as this machine is set: every slot comes out a beam wider than drawn, every tab a beam "
                                     "narrower. Choose another place under Kerf is corrected if that is not meant."),
    KerfPlace.JOINTS: ("kerf_in_joints", "Kerf is corrected in joints only, as this machine is set: outlines lie on the line, "
                                         "and parts come out a beam smaller across."),
}  # fmt: skip


def _corrected(place: KerfPlace) -> Group:
    """Return where kerf is corrected, which is never in two places."""
    if place not in CORRECTED:
        return "kerf_once", "Kerf is corrected once, in the paths", []
    code, text = CORRECTED[place]
    return code, "", [Finding(code=code, severity=Severity.LOOK, message=text)]


def _missing(nesting: Nesting) -> list[Finding]:
    unplaced = sum(u.count for u in nesting.unplaced)
    if not unplaced:
        return []
    text = f"{unplaced} part{'s have' if unplaced > 1 else ' has'} no place on a sheet. See Lay out for why."
    return [Finding(code="parts_missing", severity=Severity.MUST, parts=tuple(u.part for u in nesting.unplaced), message=text)]


def preflight(
    runs: Sequence[Run],
    nesting: Nesting,
    stocks: Mapping[str, Stock],
    machine: Machine,
    settings: Mapping[str, Settings],
    place: KerfPlace,
    assembly: Assembly,
    choices: PlanChoices = AS_USUAL,
    notes: Sequence[Finding] = (),
) -> list[Finding]:
    """Return everything to know before the files are made, and what was checked and is fine.

    Args:
        notes: what was found of the design before and matters for the cut
    """
    groups: list[Group] = [
        ("outside_bed", "Everything lies on the sheet and inside the bed", _reach(runs, machine)),
        ("cut_twice", "No line is cut twice, none is without length", _shapes(runs)),
        ("cuts_beside", "No two cuts run too near beside each other", _beside(runs)),
        ("open_outline", "Every outline closes", _open(runs)),
        ("text_too_small", "No text is too small to read", [f for f in notes if f.code == "text_too_small"]),
        ("artwork_flawed", "No drawing that is cut has a flaw", [f for f in notes if f.code == "artwork_flawed"]),
        ("falls_through", "No part is narrower than the gap between slats", _small(runs, machine)),
        ("parts_missing", "Every part has a place", _missing(nesting)),
        *_evidence(runs, stocks, settings),
        *((f.code, "", [f]) for f in assembly.findings if f.code == "variant_not_chosen"),
        *((f.code, "", [f]) for f in (*_extra(nesting, assembly), *_across_grain(nesting, assembly, stocks), *_pictures(runs))),
        *_about(nesting, assembly, lambda p: p.reverse and bool(p.marks), "on_its_back", ON_ITS_BACK),
        *_about(nesting, assembly, lambda p: p.reverse and not p.marks, "face_down", FACE_DOWN),
        *_about(nesting, assembly, lambda p: p.helper, "helpers_cut", HELPERS),
        *_about(nesting, assembly, lambda p: stocks[p.stock].clear and _engraved_in_front(p), "clear_from_front", CLEAR_FROM_FRONT),
        *((f.code, "", [f]) for f in _second_sides(runs)),
        *_left_out(nesting, assembly, choices),
        _corrected(place),
    ]
    found = [f for _, _, some in groups for f in some]
    fine = [Finding(code=code, severity=Severity.FINE, message=text) for code, text, some in groups if not some]
    return [*sorted(found, key=lambda f: f.severity is not Severity.MUST), *fine]
