"""The cut plan: what is burned when, sheet by sheet."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from types import MappingProxyType

from notchcore.design.assembly import Assembly
from notchcore.errors import PlanError
from notchcore.findings import Finding
from notchcore.geom.vectors import Vec2
from notchcore.measure.families import FAMILIES
from notchcore.measure.machine import KerfPlace, Machine, Operation, Settings
from notchcore.measure.stock import Stock
from notchcore.nest.values import Nesting, SheetLayout
from notchcore.plan.motion import path_time, rapid_time
from notchcore.plan.order import HEAT, HOME, Rules, cutting_order
from notchcore.plan.paths import CutPath, PartPaths, part_paths, placed_paths
from notchcore.plan.preflight import preflight
from notchcore.plan.raster import engraving_time
from notchcore.plan.sharing import cut_once
from notchcore.units import Mm

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
    """All strokes of one sheet, in order."""

    sheet: str
    copy: int
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


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlan:
    """The plan of a whole job."""

    sheets: tuple[SheetPlan, ...]
    findings: tuple[Finding, ...]
    seconds: float  #: estimate with the learned factor and handling
    band: float  #: plus or minus this [s]
    factor: float  #: learned from runs on this machine
    handling: float
    kerf_place: KerfPlace


def _sheet_plan(
    layout: SheetLayout, paths: dict[str, PartPaths], settings: Settings, machine: Machine, stock: Stock, kerf: Mm, place: KerfPlace, factor: float,
    images: Mapping[str, str],
) -> SheetPlan:  # fmt: skip
    rules = Rules(slat_pitch=machine.slat_pitch, heat=HEAT if FAMILIES[stock.family].flares else 0.0)
    placed = [p for placement in layout.placements for p in placed_paths(paths[placement.part], placement)]
    if kerf:  # only where the files hold the beam's own lines can two parts share one
        placed = [p for p in cut_once(placed) if p.lines]
    ordered, travel = cutting_order(placed, rules)
    at: Vec2 = HOME
    clock = 0.0
    spent = {"engrave": 0.0, "score": 0.0, "inner": 0.0, "outer": 0.0, "travel": 0.0}
    strokes: list[Stroke] = []
    for path in ordered:
        beam = path.beam or settings.beam(path.operation)
        speed = min(beam.speed, machine.raster_speed) if path.operation is Operation.ENGRAVE else beam.speed
        lines, upright = path.lines, False
        move = rapid_time(at, lines[0].segments[0].start, machine) * factor
        if path.operation is Operation.ENGRAVE:
            once, upright = engraving_time(path, speed, beam.interval, machine, images)
            burn = (once + machine.pierce) * beam.passes * factor
        else:
            across = sum(rapid_time(a.segments[-1].end, b.segments[0].start, machine) for a, b in pairwise(lines))  # over the bridges
            burn = (sum(path_time(c, speed, machine) + machine.pierce for c in lines) * beam.passes + across) * factor
        strokes.append(
            Stroke(path=path, travel_from=clock, burn_from=clock + move, end=clock + move + burn, passes=beam.passes, speed=speed, power=beam.power,
                   interval=beam.interval, upright=upright)
        )  # fmt: skip
        spent["travel"] += move
        spent[path.operation.value] += burn
        clock += move + burn
        at = lines[-1].segments[-1].end
    return SheetPlan(
        sheet=layout.sheet, copy=layout.copy, name=layout.name, stock=layout.stock, width=layout.width, height=layout.height, ring=layout.ring,
        strokes=tuple(strokes), travel=travel, seconds=clock, by_operation=spent, kerf=kerf, kerf_place=place, overscan=machine.overscan,
    )  # fmt: skip


def cut_plan(
    assembly: Assembly,
    nesting: Nesting,
    stocks: dict[str, Stock],
    machine: Machine,
    settings: dict[str, Settings],
    *,
    factor: float = 1.0,
    factor_runs: int = 0,
    images: Mapping[str, str] = NO_IMAGES,
) -> CutPlan:
    """Return the plan for a packing.

    Args:
        settings: by stock id
        factor: learned ratio of true to estimated time on this machine
        factor_runs: how many runs it was learned from; the band narrows with them
        images: by drawing, those that photos are engraved from
    Raises:
        PlanError: nothing is laid out, or a part on a sheet is not in the design any more
    """
    if not nesting.sheets:
        raise PlanError("Nothing is laid out yet. Pack the parts on Lay out first.")
    parts = {p.id: p for p in assembly.parts}
    gone = {pl.part for s in nesting.sheets for pl in s.placements} - set(parts)
    if gone:
        raise PlanError("The layout holds parts that the design no longer has. Pack again on Lay out.", parts=sorted(gone))
    sheets = []
    findings: list[Finding] = []
    known: dict[str, PartPaths] = {}
    place = KerfPlace.LINE if assembly.on_line else machine.kerf_place
    for layout in nesting.sheets:
        kerf = stocks[layout.stock].kerf.value if place is KerfPlace.PATHS else 0.0
        for placement in layout.placements:
            if placement.part not in known:
                known[placement.part] = part_paths(parts[placement.part], kerf, stocks[layout.stock].kerf.value)
                findings += known[placement.part].findings
        sheets.append(_sheet_plan(layout, known, settings[layout.stock], machine, stocks[layout.stock], kerf, place, factor, images))
    seconds = sum(s.seconds + machine.handling for s in sheets)
    findings += preflight(
        [(s.name, s.width, s.height, [k.path for k in s.strokes]) for s in sheets],
        nesting,
        {s.stock for s in sheets},
        stocks,
        machine,
        settings,
        place,
        assembly,
    )
    burning = sum(s.seconds for s in sheets)
    return CutPlan(
        sheets=tuple(sheets), findings=tuple(findings), seconds=seconds, band=burning * (0.15 if factor_runs < 3 else 0.06), factor=factor,
        handling=machine.handling * len(sheets), kerf_place=place,
    )  # fmt: skip
