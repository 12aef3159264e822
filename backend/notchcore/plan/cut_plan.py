"""The cut plan: what is burned when, run by run; a sheet has one run, or two where its other face is burned too."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from types import MappingProxyType

from notchcore.design.assembly import Assembly, Part
from notchcore.errors import PlanError
from notchcore.findings import Finding
from notchcore.geom.profile import Ring
from notchcore.geom.vectors import Vec2
from notchcore.measure.engraving import passes_for
from notchcore.measure.machine import KerfPlace, Machine, Operation, Settings
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting, SheetLayout
from notchcore.plan.choices import AS_USUAL, Numbers, PlanChoices
from notchcore.plan.hints import engraving_hints
from notchcore.plan.jointkerf import DropIns, drop_ins
from notchcore.plan.leads import with_leads
from notchcore.plan.marking import number_mark
from notchcore.plan.motion import path_time, rapid_time
from notchcore.plan.order import HEAT, HOME, Rules, cutting_order
from notchcore.plan.paths import CutPath, Laid, PartPaths, laid_out, part_paths, piece_numbers, placed_paths
from notchcore.plan.preflight import Run, preflight
from notchcore.plan.raster import engraving_time
from notchcore.plan.sharing import cut_once
from notchcore.plan.sides import Lay, Side, SideRun, side_runs
from notchcore.plan.tips import bent_round_tips
from notchcore.plan.together import engraved_together
from notchcore.units import Mm
from notchcore.words.render import say

AS_IT_COMES = Lay()
NO_IMAGES: Mapping[str, str] = MappingProxyType({})


@dataclass(frozen=True, slots=True, kw_only=True)
class Stroke:
    """One path on the clock of its sheet [s]: first the head travels, then the beam is on until `end`."""

    path: CutPath
    travel_from: float
    burn_from: float
    end: float
    passes: int
    speed: float
    power: float
    interval: Mm = 0.1  #: between rows, where it is engraved
    upright: bool = False  #: those rows run along y


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPlan:
    """All strokes of one run over a sheet, in order."""

    sheet: str
    copy: int
    number: int = 1  #: of the sheet in the layout, from 1
    name: str
    stock: str
    width: Mm
    height: Mm
    ring: tuple[Vec2, ...]
    strokes: tuple[Stroke, ...]
    travel: Mm
    seconds: float
    by_operation: dict[str, float]  #: seconds for engrave, score, inner, outer and travel
    kerf: Mm  #: full width that the paths are corrected for; 0 where the machine does it, or nobody
    kerf_place: KerfPlace
    overscan: Mm = 5.0  #: of the machine, for engraved rows
    side: Side = Side.FRONT  #: that lies up
    lay: Lay = AS_IT_COMES
    last: bool = True  #: no other run of this sheet comes after it
    run: str = ""  #: tells it from the sheet's other run
    hints: tuple[Finding, ...] = ()  #: what would be faster
    printed: tuple[CutPath, ...] = ()  #: what is printed instead of burned
    outlines: tuple[Ring, ...] = ()  #: of parts as they lie, where the run does not cut them


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlan:
    """The plan of a whole job."""

    sheets: tuple[SheetPlan, ...]  #: run by run
    findings: tuple[Finding, ...]
    seconds: float  #: estimate with the learned factor and handling
    band: float  #: plus or minus this [s]
    factor: float  #: learned from runs on this machine
    handling: float
    kerf_place: KerfPlace


@dataclass(frozen=True, slots=True, kw_only=True)
class _Bench:
    """What all runs of a plan have in common."""

    machine: Machine
    settings: Mapping[str, Settings]
    stocks: Mapping[str, Stock]
    place: KerfPlace
    factor: float
    images: Mapping[str, str]
    joined: DropIns | None  #: where kerf is corrected in joints only

    def kerf(self, stock: str) -> Mm:
        """Return the width that paths are corrected for."""
        return self.stocks[stock].kerf.value if self.place.is_ours else 0.0


def _stroke(path: CutPath, at: Vec2, *, clock: float, settings: Settings, bench: _Bench) -> Stroke:
    """Return a path on the clock, from where the head is."""
    machine, factor = bench.machine, bench.factor
    beam = path.beam or settings.beam(path.operation)
    passes = path.passes or (passes_for(path.depth, beam.depth) if path.depth and beam.depth else beam.passes)
    speed = min(beam.speed, machine.raster_speed) if path.operation is Operation.ENGRAVE else beam.speed
    lines, upright = path.lines, False
    move = rapid_time(at, lines[0].segments[0].start, machine=machine) * factor
    if path.operation is Operation.ENGRAVE:
        once, upright = engraving_time(path, speed, interval=beam.interval, machine=machine, images=bench.images)
        burn = (once + machine.pierce) * passes * factor
    else:
        across = sum(rapid_time(a.segments[-1].end, b.segments[0].start, machine=machine) for a, b in pairwise(lines))  # over the bridges
        burn = (sum(path_time(c, speed, machine=machine) + machine.pierce for c in lines) * passes + across) * factor
    return Stroke(
        path=path,
        travel_from=clock,
        burn_from=clock + move,
        end=clock + move + burn,
        passes=passes,
        speed=speed,
        power=beam.power,
        interval=beam.interval,
        upright=upright,
    )


def _sheet_plan(layout: SheetLayout, run: SideRun, *, bench: _Bench, number: int, last: bool) -> SheetPlan:
    stock, settings, machine = bench.stocks[layout.stock], bench.settings[layout.stock], bench.machine
    rules = Rules(slat_pitch=machine.slat_pitch, heat=HEAT if MATERIALS[stock.material].flares else 0.0)
    ordered, travel = cutting_order(engraved_together(run.paths, settings, machine=machine), rules)
    at: Vec2 = HOME
    clock = 0.0
    spent = {"engrave": 0.0, "score": 0.0, "inner": 0.0, "outer": 0.0, "travel": 0.0}
    strokes: list[Stroke] = []
    for path in ordered:
        stroke = _stroke(path, at, clock=clock, settings=settings, bench=bench)
        strokes.append(stroke)
        spent["travel"] += stroke.burn_from - clock
        spent[path.operation.value] += stroke.end - stroke.burn_from
        clock, at = stroke.end, path.lines[-1].segments[-1].end
    return SheetPlan(
        sheet=layout.sheet,
        copy=layout.copy,
        number=number,
        name=layout.name,
        stock=layout.stock,
        width=layout.width,
        height=layout.height,
        ring=run.ring,
        strokes=tuple(strokes),
        travel=travel,
        seconds=clock,
        by_operation=spent,
        kerf=bench.kerf(layout.stock),
        kerf_place=bench.place,
        overscan=machine.overscan,
        side=run.side,
        lay=run.lay,
        last=last,
        run=run.name,
        outlines=run.outlines,
        printed=run.printed,
    )


def _numbers(laid: Sequence[Laid], parts: Mapping[str, Part], *, choices: PlanChoices, first: int) -> list[CutPath]:
    """Return the scored numbers of parts, as they stand on the map of the sheet."""
    if choices.numbers is Numbers.MAP:
        return []
    back = choices.numbers is Numbers.BACK
    return [m for n, p in enumerate(laid, start=first) if (m := number_mark(parts[p.part], p, text=str(n), back=back))]


def _runs(
    layout: SheetLayout,
    laid: Sequence[Laid],
    *,
    paths: Mapping[str, PartPaths],
    parts: Mapping[str, Part],
    choices: PlanChoices,
    bench: _Bench,
    number: int,
    first: int,
) -> tuple[list[SheetPlan], list[Finding]]:
    """Return the runs of one sheet, those without anything to burn left out.

    Args:
        laid: its pieces
        number: of the sheet, from 1
        first: number of its first piece on the map
    """
    kerf = bench.kerf(layout.stock)
    placed = [p for piece in laid for p in placed_paths(paths[piece.part], piece, locate=choices.locate)]
    if kerf:
        placed = bent_round_tips(placed, laid, parts=parts, kerf=kerf)
    if bench.place is KerfPlace.PATHS:  # only where the files hold the beam's own lines can two parts share one
        placed = [p for p in cut_once(placed) if p.lines]
    placed += _numbers(laid, parts, choices=choices, first=first)
    stock = bench.stocks[layout.stock]
    if choices.lead and kerf:
        faces = {(p.part, p.copy): [tuple(map(p.to, f.corners)) for f in parts[p.part].features if f.meeting] for p in laid}
        placed = with_leads(placed, faces, sheet=layout.ring, length=choices.lead, beam=kerf)
    runs, found = side_runs(
        layout, placed, parts=parts, choices=choices, machine=bench.machine, beam=bench.settings[layout.stock].cut, kerf=stock.kerf.value, t=stock.t
    )
    runs = [r for r in runs if r.paths]
    return [_sheet_plan(layout, r, bench=bench, number=number, last=r is runs[-1]) for r in runs], found


def _all_runs(nesting: Nesting, parts: Mapping[str, Part], *, choices: PlanChoices, bench: _Bench) -> tuple[list[SheetPlan], list[Finding]]:
    """Return the runs of all sheets, and what was found of their parts."""
    sheets: list[SheetPlan] = []
    findings: list[Finding] = []
    known: dict[str, PartPaths] = {}
    first, numbers = 1, piece_numbers(nesting)
    for number, layout in enumerate(nesting.sheets, start=1):
        laid = laid_out(layout.placements, parts, numbers=numbers)
        for piece in laid:
            if piece.part not in known:
                known[piece.part] = part_paths(parts[piece.part], bench.kerf(layout.stock), beam=bench.stocks[layout.stock].kerf.value, joined=bench.joined)
                findings += known[piece.part].findings
        runs, found = _runs(layout, laid, paths=known, parts=parts, choices=choices, bench=bench, number=number, first=first)
        first += len(laid)
        sheets += runs
        findings += found
    return sheets, findings


def cut_plan(
    assembly: Assembly,
    nesting: Nesting,
    *,
    stocks: dict[str, Stock],
    machine: Machine,
    settings: dict[str, Settings],
    factor: float = 1.0,
    factor_runs: int = 0,
    images: Mapping[str, str] = NO_IMAGES,
    choices: PlanChoices = AS_USUAL,
    notes: Sequence[Finding] = (),
) -> CutPlan:
    """Return the plan for a packing.

    Args:
        settings: by stock id
        factor: learned ratio of true to estimated time on this machine
        factor_runs: how many runs it was learned from; the band narrows with them
        images: by drawing, those that photos are engraved from
        notes: what was found of the design and matters for the cut
    Raises:
        PlanError: nothing is laid out, a part on a sheet is not in the design any more, or everything is left out
    """
    if not nesting.sheets:
        raise PlanError(say("nothing_laid_out"))
    parts = {p.id: p for p in assembly.parts}
    gone = {pl.part for s in nesting.sheets for pl in s.placements} - set(parts)
    if gone:
        raise PlanError(say("layout_of_other_design"), parts=sorted(gone))
    place = KerfPlace.LINE if assembly.on_line else machine.kerf_place
    joined = drop_ins(assembly) if place is KerfPlace.JOINTS else None
    bench = _Bench(machine=machine, settings=settings, stocks=stocks, place=place, factor=factor, images=images, joined=joined)
    sheets, findings = _all_runs(nesting, parts, choices=choices, bench=bench)
    if not sheets:
        raise PlanError(say("nothing_left_to_burn"))
    burning = sum(s.seconds for s in sheets)
    labels = {p.id: p.label for p in assembly.parts}
    looked_at = [
        Run(name=s.name, stock=s.stock, width=s.width, height=s.height, lay=s.lay, labels=labels, paths=tuple(k.path for k in s.strokes)) for s in sheets
    ]
    findings += preflight(looked_at, nesting, stocks=stocks, machine=machine, settings=settings, place=place, assembly=assembly, choices=choices, notes=notes)
    sheets = [
        replace(s, hints=tuple(engraving_hints([(k.path, k.speed, k.interval, k.passes) for k in s.strokes], machine, images=images, labels=labels)))
        for s in sheets
    ]
    handling = machine.handling * len(sheets)
    return CutPlan(
        sheets=tuple(sheets),
        findings=tuple(findings),
        seconds=burning + handling,
        band=burning * (0.15 if factor_runs < 3 else 0.06),
        factor=factor,
        handling=handling,
        kerf_place=place,
    )
