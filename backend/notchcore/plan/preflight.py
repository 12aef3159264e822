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
from notchcore.measure.machine import OPERATIONS, KerfPlace, Machine, Operation, Settings
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting
from notchcore.plan.choices import AS_USUAL, PlanChoices, SecondSide, Turn
from notchcore.plan.paths import CutPath
from notchcore.plan.sharing import beside_each_other
from notchcore.plan.sides import Lay, LayKind
from notchcore.units import Mm
from notchcore.words.facts import Count, Fact, Kind, Listed, Names, Ref, mm
from notchcore.words.render import say

Group = tuple[str, str, list[Finding]]  # code, key of what to say when nothing was found ("": nothing), what was found


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

    def ref(self, path: CutPath) -> Ref:
        """Return what a sentence calls the part that a path belongs to."""
        return Ref(Kind.PART, path.part, self.labels.get(path.part, path.part))


def _reach(runs: Sequence[Run], machine: Machine) -> list[Finding]:
    found = []
    for run in runs:
        name = run.name
        for path in run.paths:
            x0, y0, x1, y1 = bounds_of(tuple(p for c in path.contours for p in sampled(c, sag=0.05)))
            if x0 < 0 or y0 < 0 or x1 > min(run.width, machine.bed_width) or y1 > min(run.height, machine.bed_height):
                found.append(Finding(code="outside_bed", severity=Severity.MUST, parts=(path.part,), says=say("outside_bed", path=run.ref(path), name=name)))
    return found


def _shapes(runs: Sequence[Run]) -> list[Finding]:
    found = []
    for run in runs:
        name = run.name
        seen: set[tuple[float, ...]] = set()
        for path in run.paths:
            key = (*(round(v, 3) for v in bounds_of(sampled(path.contour, sag=0.05))), round(path.contour.length, 3))
            if path.contour.length < 1e-3:
                found.append(Finding(code="zero_length", severity=Severity.MUST, parts=(path.part,), says=say("zero_length", path=run.ref(path))))
            if key in seen and path.operation in (Operation.INNER, Operation.OUTER):
                found.append(Finding(code="cut_twice", severity=Severity.MUST, parts=(path.part,), says=say("cut_twice", name=name, path=run.ref(path))))
            seen.add(key)
    return found


def _open(runs: Sequence[Run]) -> list[Finding]:
    """Return outlines that do not close: their part would hang on."""
    return [
        Finding(code="open_outline", severity=Severity.MUST, parts=(path.part,), says=say("open_outline", path=run.ref(path), run=run.name))
        for run in runs
        for path in run.paths
        if path.operation is Operation.OUTER and not path.contour.closed
    ]


def _beside(runs: Sequence[Run]) -> list[Finding]:
    return [
        Finding(
            code="cuts_beside",
            severity=Severity.LOOK,
            parts=(a.part, b.part),
            facts={"apart_mm": apart},
            says=say("cuts_beside", run=run.name, a=run.ref(a), b=run.ref(b), apart=mm(apart, digits=2)),
        )
        for run in runs
        for a, b, apart in beside_each_other(run.paths)
    ]


def _small(runs: Sequence[Run], machine: Machine) -> list[Finding]:
    small, refs = [], dict[str, Ref]()
    for run in runs:
        for path in run.paths:
            x0, y0, x1, y1 = bounds_of(sampled(path.contour, sag=0.05))
            if path.operation is Operation.OUTER and path.through and min(x1 - x0, y1 - y0) < machine.slat_pitch and len(path.bridges) < HOLDING:
                small.append(path.part)
                refs[path.part] = run.ref(path)
    if not small:
        return []
    return [
        Finding(
            code="falls_through",
            severity=Severity.LOOK,
            parts=tuple(sorted(set(small))),
            says=say("falls_through", small=Count(len(small), "narrow part", "narrow parts"), names=Names(tuple(refs.values()), 4)),
        )
    ]


def _engraved_in_front(part: Part) -> bool:
    return not part.reverse and any(m.operation is Operation.ENGRAVE and not m.back for m in part.marks)


def _about(nesting: Nesting, assembly: Assembly, *, is_meant: Callable[[Part], bool], code: str) -> list[Group]:
    """Return what is to be known of some of the parts that are laid out; the sentence of the code names them at {names}."""
    laid = {p.part for s in nesting.sheets for p in s.placements}
    some = [p for p in assembly.parts if p.id in laid and is_meant(p)]
    if not some:
        return []
    names = Names(tuple(sorted((p.ref for p in some), key=lambda r: r.label)), 4)
    return [(code, "", [Finding(code=code, severity=Severity.LOOK, parts=tuple(p.id for p in some), says=say(code, names=names))])]


def _second_sides(runs: Sequence[Run]) -> list[Finding]:
    """Return how sheets come to lie for their second runs, and how well both agree."""
    found = []
    for run in runs:
        lay = run.lay
        if lay.kind is LayKind.TURNED and lay.turn is not None:
            over = say("over.page" if lay.turn is Turn.SIDEWAYS else "over.top")
            facts: dict[str, Fact] = {"over": over, "marks": len(lay.marks)}
        elif lay.kind is LayKind.SWAPPED:
            facts = {"parts": Count(len(lay.turns), "part is", "parts are")}
        elif lay.kind is LayKind.PRINTED:
            facts = {"marks": len(lay.marks)}
        else:
            continue
        says = say(f"second_side.{lay.kind}", run=run.name, why=lay.why or "", mismatch=mm(lay.mismatch, digits=2), **facts)
        found.append(Finding(code="second_side", severity=Severity.LOOK, facts={"mismatch_mm": lay.mismatch}, says=says))
    return found


def _across_grain(nesting: Nesting, assembly: Assembly, *, stocks: Mapping[str, Stock]) -> list[Finding]:
    """Return the parts that lie across the grain of a stock that breaks easily along it."""
    labels = {p.id: p.label for p in assembly.parts}
    across = [p.part for s in nesting.sheets if MATERIALS[stocks[s.stock].material].splits for p in s.placements if p.turn % 180 == 90 and p.part in labels]
    if not across:
        return []
    names = Names(tuple(Ref(Kind.PART, p, labels[p]) for p in sorted(set(across), key=lambda p: labels[p])), 4)
    return [
        Finding(
            code="across_grain",
            severity=Severity.LOOK,
            parts=tuple(sorted(set(across))),
            says=say("across_grain", across=Count(len(across), "part lies", "parts lie"), names=names),
        )
    ]


def _extra(nesting: Nesting, assembly: Assembly) -> list[Finding]:
    """Return what is cut more often than as many of the thing need as can be made of all parts, with the spares that the design has."""
    laid = Counter(p.part for s in nesting.sheets for p in s.placements)
    whole = max(1, min(((laid[p.id] - p.spares) // p.copies for p in assembly.parts if laid[p.id] and not p.helper), default=1))
    needed = {p.id: p.copies * (1 if p.helper else whole) + p.spares for p in assembly.parts}
    more = [(p, laid[p.id] - needed[p.id]) for p in assembly.parts if laid[p.id] > needed[p.id]]
    if not more:
        return []
    most = 4
    listed = [say("extra_copies.one", part=p.ref, more=n) for p, n in more[:most]] + ([say("extra_copies.others")] if len(more) > most else [])
    says = say("extra_copies", needed=say("needed.one") if whole == 1 else say("needed.several", things=whole), names=Listed(tuple(listed)))
    return [Finding(code="extra_copies", severity=Severity.LOOK, parts=tuple(p.id for p, _ in more), says=says)]


def _pictures(runs: Sequence[Run]) -> list[Finding]:
    """Return that lines alone cannot hold a picture."""
    if not any(path.photo for run in runs for path in run.paths):
        return []
    return [Finding(code="picture_not_in_dxf", severity=Severity.LOOK, says=say("picture_not_in_dxf"))]


def _left_out(nesting: Nesting, assembly: Assembly, *, choices: PlanChoices) -> list[Group]:
    """Return what the design has and this job does not burn."""
    groups = []
    if choices.skip:
        names = Listed(tuple(say(f"operation.{o}") for o in choices.skip))
        groups.append(("left_out", "", [Finding(code="left_out", severity=Severity.LOOK, says=say("left_out", names=names))]))
    if choices.second is SecondSide.NONE:
        groups += _about(nesting, assembly, is_meant=lambda p: any(m.back and m.always for m in p.marks), code="backs_left_out")
    return groups


SETTING_OF = {Operation.SCORE: "score", Operation.ENGRAVE: "engrave"}


def _evidence(runs: Sequence[Run], stocks: Mapping[str, Stock], *, settings: Mapping[str, Settings]) -> list[Group]:
    """Return which numbers of the job are guesses."""
    used = sorted({r.stock for r in runs})
    guesses = [stocks[s] for s in used if stocks[s].kerf.terms[0].trust is Trust.DEFAULT]
    burned = {s: {SETTING_OF.get(p.operation, "cut") for r in runs if r.stock == s for p in r.paths} for s in used}
    untested = [(stocks[s], found) for s in used if (found := [o for o in OPERATIONS if o in burned[s] and not settings[s].tested(o)])]
    return [
        (
            "kerf_guess",
            "fine.kerf_guess",
            [
                Finding(
                    code="kerf_guess",
                    severity=Severity.LOOK,
                    facts={"stock": s.id},
                    says=say("kerf_guess", stock=s.ref, kerf=mm(s.kerf.value, digits=2), sd=mm(s.kerf.sd, digits=2)),
                )
                for s in guesses
            ],
        ),
        (
            "settings_guess",
            "fine.settings_guess",
            [
                Finding(
                    code="settings_guess",
                    severity=Severity.LOOK,
                    facts={"stock": s.id},
                    says=say("settings_guess", stock=s.ref, found=Listed(tuple(say(f"operation.of.{o}") for o in found), between=" and ")),
                )
                for s, found in untested
            ],
        ),
        ("hazard", "fine.hazard", [h for s in used if (h := stocks[s].hazard) is not None]),
    ]


CORRECTED = {  # what is to be known of each place but the usual one
    KerfPlace.LINE: "on_the_line",
    KerfPlace.MACHINE: "kerf_in_machine",
    KerfPlace.NONE: "kerf_nowhere",
    KerfPlace.JOINTS: "kerf_in_joints",
}


def _corrected(place: KerfPlace) -> Group:
    """Return where kerf is corrected, which is never in two places."""
    if place not in CORRECTED:
        return "kerf_once", "fine.kerf_once", []
    code = CORRECTED[place]
    return code, "", [Finding(code=code, severity=Severity.LOOK, says=say(code))]


def _missing(nesting: Nesting) -> list[Finding]:
    unplaced = sum(u.count for u in nesting.unplaced)
    if not unplaced:
        return []
    says = say("parts_missing", parts=Count(unplaced, "part has", "parts have"))
    return [Finding(code="parts_missing", severity=Severity.MUST, parts=tuple(u.part for u in nesting.unplaced), says=says)]


def preflight(
    runs: Sequence[Run],
    nesting: Nesting,
    *,
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
        ("outside_bed", "fine.outside_bed", _reach(runs, machine)),
        ("cut_twice", "fine.cut_twice", _shapes(runs)),
        ("cuts_beside", "fine.cuts_beside", _beside(runs)),
        ("open_outline", "fine.open_outline", _open(runs)),
        ("text_too_small", "fine.text_too_small", [f for f in notes if f.code == "text_too_small"]),
        ("artwork_flawed", "fine.artwork_flawed", [f for f in notes if f.code == "artwork_flawed"]),
        ("falls_through", "fine.falls_through", _small(runs, machine)),
        ("parts_missing", "fine.parts_missing", _missing(nesting)),
        *_evidence(runs, stocks, settings=settings),
        *((f.code, "", [f]) for f in assembly.findings if f.code == "variation_not_chosen"),
        *((f.code, "", [f]) for f in (*_extra(nesting, assembly), *_across_grain(nesting, assembly, stocks=stocks), *_pictures(runs))),
        *_about(nesting, assembly, is_meant=lambda p: p.reverse and bool(p.marks), code="on_its_back"),
        *_about(nesting, assembly, is_meant=lambda p: p.reverse and not p.marks, code="face_down"),
        *_about(nesting, assembly, is_meant=lambda p: p.helper, code="helpers_cut"),
        *_about(nesting, assembly, is_meant=lambda p: stocks[p.stock].clear and _engraved_in_front(p), code="clear_from_front"),
        *((f.code, "", [f]) for f in _second_sides(runs)),
        *_left_out(nesting, assembly, choices=choices),
        _corrected(place),
    ]
    found = [f for _, _, some in groups for f in some]
    fine = [Finding(code=code, severity=Severity.FINE, says=say(key)) for code, key, some in groups if not some and key]
    return [*sorted(found, key=lambda f: f.severity is not Severity.MUST), *fine]
