"""What a person does on Cut plan."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from django.db import transaction

from apps.designs import queries
from apps.designs.convert import CHOICES, drawings_for
from apps.designs.models import Project, Stage, StageResult
from apps.designs.services import keep_result
from apps.layouts.convert import NESTING
from apps.plans import convert, gate
from apps.plans.models import TimedRun as TimedRunRow
from apps.sheets.convert import machine_of
from notchcore.check.features import flawed_artwork, small_texts
from notchcore.design.sizes import pinned
from notchcore.errors import PlanError
from notchcore.findings import Finding, Severity
from notchcore.fingerprint import fingerprint
from notchcore.formats.cutlist import cut_list, cut_list_csv
from notchcore.formats.dxf import sheet_dxf
from notchcore.formats.gcode import sheet_gcode
from notchcore.formats.printfile import print_pdf
from notchcore.formats.runsheet import RunSheet, run_sheet_pdf
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.sheetpdf import sheet_pdf
from notchcore.formats.solid import gltf, stl
from notchcore.formats.svg import sheet_svg
from notchcore.measure.machine import Machine, Settings
from notchcore.nest.values import Nesting
from notchcore.plan.choices import AS_USUAL, PlanChoices
from notchcore.plan.cut_plan import CutPlan, cut_plan
from notchcore.run.learn import TimedRun, TimeFactor, time_factor
from notchcore.words.render import say

SHEET_FORMATS: tuple[tuple[str, str, Callable[[SheetFile], str | bytes]], ...] = (
    ("svg", "image/svg+xml", sheet_svg),
    ("dxf", "image/vnd.dxf", sheet_dxf),
    ("pdf", "application/pdf", sheet_pdf),
    ("gcode", "text/x-gcode", sheet_gcode),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanInputs:
    """All that a plan is made from."""

    now: queries.Current
    nesting: Nesting
    layout_fresh: bool
    machine: Machine
    settings: dict[str, Settings]
    choices: PlanChoices
    made_from: str


def inputs_of(project: Project, now: queries.Current | None = None) -> PlanInputs | None:
    """Return what a plan would be made from now; None before anything is laid out.

    Args:
        now: the project as it is, where that is known already
    """
    now = now or queries.current(project)
    row = queries.result_of(now, Stage.LAY_OUT)
    if row is None:
        return None
    nesting = NESTING.validate_python(row.payload["nesting"])
    machine = machine_of(project.machine)
    settings = now.settings
    kerfs = {k: (e.material, e.kerf_tests, now.measured.setups[k], now.stocks[k].hazard) for k, e in now.evidence.items()}
    bridges = {p.id: p.bridges for p in now.assembly.parts if p.bridges}
    choices = choices_of(project)
    chosen = () if choices == AS_USUAL else (choices,)  # plans that were made before there were any choices stay fresh
    made_from = fingerprint(nesting.sheets, now.parts_print, bridges, kerfs, replace(machine, id="", name=""), settings, *chosen)
    return PlanInputs(
        now=now, nesting=nesting, layout_fresh=row.made_from == now.parts_print, machine=machine, settings=settings, choices=choices, made_from=made_from
    )


def choices_of(project: Project) -> PlanChoices:
    """Return what was chosen about the project's plan."""
    return CHOICES.validate_python(project.plan_choices)


@transaction.atomic
def choose(project: Project, changes: Mapping[str, object]) -> None:
    """Change some of what is chosen about the plan.

    Raises:
        ValueOutside: a value makes no sense
    """
    row = Project.objects.select_for_update().get(pk=project.pk)
    wanted = CHOICES.validate_python(CHOICES.dump_python(choices_of(row)) | dict(changes))
    project.plan_choices = CHOICES.dump_python(wanted, mode="json")
    project.save(update_fields=["plan_choices"])


def learned(project: Project) -> TimeFactor:
    """Return the time factor of the project's machine from its newest runs."""
    rows = TimedRunRow.objects.filter(machine=project.machine).order_by("-pk")[:20]
    return time_factor([TimedRun(expected=r.expected_s, actual=r.actual_s) for r in rows])


def _notes(now: queries.Current) -> tuple[Finding, ...]:
    """Return what was found of the design and matters for the cut: texts, and drawings that are cut as they came."""
    drawings = drawings_for(now.project, now.design)
    return (*small_texts(now.assembly, now.stocks, design=now.design), *flawed_artwork(now.assembly, now.design, drawings=drawings))


def make_plan(project: Project) -> CutPlan:
    """Plan the cuts for the layout and keep the plan.

    Raises:
        PlanError: nothing is laid out, or the layout is older than the design
    """
    inputs = inputs_of(project)
    if inputs is None:
        raise PlanError(say("nothing_laid_out"))
    if not inputs.layout_fresh:
        raise PlanError(say("design_changed_plan"))
    factor = learned(project)
    plan = cut_plan(
        inputs.now.assembly,
        inputs.nesting,
        stocks=inputs.now.stocks,
        machine=inputs.machine,
        settings=inputs.settings,
        factor=factor.factor,
        factor_runs=factor.runs,
        images=queries.images_of(inputs.now),
        choices=inputs.choices,
        notes=_notes(inputs.now),
    )
    keep_result(
        project=project,
        stage=Stage.CUT_PLAN,
        made_from=inputs.made_from,
        revision=inputs.now.revision.number,
        payload=convert.PLAN.dump_python(plan, mode="json"),
    )
    return plan


def planned(project: Project) -> tuple[tuple[StageResult, CutPlan] | None, PlanInputs | None]:
    """Return the plan that was made from what is laid out now, else the newest one, and what it would be made from now."""
    inputs = inputs_of(project)
    row = plan_row(project, inputs)
    return None if row is None else (row, plan_of(row)), inputs


def plan_row(project: Project, inputs: PlanInputs | None) -> StageResult | None:
    """Return the row of the plan that was made from what is laid out now, else of the newest one."""
    return queries.kept_for(project, Stage.CUT_PLAN, made_from=lambda: inputs.made_from if inputs else "")


def stored_plan(project: Project) -> tuple[StageResult, CutPlan] | None:
    return planned(project)[0]


def plan_of(row: StageResult) -> CutPlan:
    return convert.PLAN.validate_python({k: v for k, v in row.payload.items() if k != "accepted"})


@dataclass(frozen=True, slots=True, kw_only=True)
class File:
    """A file to hand out."""

    name: str
    kind: str
    write: Callable[[], bytes]  #: only what is asked for is made

    @property
    def content(self) -> bytes:
        return self.write()


def _bytes(written: str | bytes) -> bytes:
    return written.encode() if isinstance(written, str) else written


def files_of(project: Project, unit: str = "mm") -> dict[str, File]:
    """Return all files of the plan by short name: run-sheet.pdf, cut-list.csv, the assembly as a solid, and for each run sheet-1.svg, sheet-1.dxf, ...

    Args:
        unit: that the reader of the papers reads; drawings are in millimetres, as machines read them

    Raises:
        PlanError: there is no plan, it is stale, or an error stops it
    """
    stored, inputs = planned(project)
    if stored is None or inputs is None:
        raise PlanError(say("no_plan"))
    row, plan = stored
    if row.made_from != inputs.made_from or not inputs.layout_fresh:
        raise PlanError(say("plan_outdated.files"))
    stops = [f for f in plan.findings if f.severity is Severity.MUST]
    if stops:
        raise PlanError(say("files_held", why=stops[0].says), reasons=[f.message for f in stops])
    images = queries.images_of(inputs.now)
    sheet_files = tuple(
        SheetFile(project=project.name, revision=row.revision, of=max(s.number for s in plan.sheets), plan=s, machine=inputs.machine, images=images)
        for s in plan.sheets
    )
    found: dict[str, File] = {}
    for number, f in enumerate(sheet_files, start=1):
        for end, kind, write in SHEET_FORMATS:
            found[f"sheet-{number}.{end}"] = File(name=f"{f.stem}.{end}", kind=kind, write=lambda write=write, f=f: _bytes(write(f)))  # type: ignore[misc]
        if f.plan.printed:
            found[f"sheet-{number}-print.pdf"] = File(name=f"{f.stem}-print.pdf", kind="application/pdf", write=lambda f=f: print_pdf(f))  # type: ignore[misc]
    found |= _papers(inputs, plan, files=sheet_files, unit=unit)
    if not inputs.now.design.is_test:
        solid, stem = inputs.now.assembly, sheet_files[0].job_stem
        found["assembly.stl"] = File(name=f"{stem}-assembly.stl", kind="model/stl", write=lambda: stl(solid, name=project.name))
        found["assembly.glb"] = File(name=f"{stem}-assembly.glb", kind="model/gltf-binary", write=lambda: gltf(solid, name=project.name))
    return found


def _papers(inputs: PlanInputs, plan: CutPlan, *, files: tuple[SheetFile, ...], unit: str) -> dict[str, File]:
    """Return the papers of a plan: the run sheet and the cut list."""
    overruled = gate.passed(inputs.now)
    rows = cut_list(inputs.now.assembly, inputs.nesting, stock_names={k: s.name for k, s in inputs.now.stocks.items()})
    stem = files[0].job_stem
    sheet = RunSheet(
        files=files,
        stocks=inputs.now.stocks,
        settings=inputs.settings,
        rows=rows,
        findings=plan.findings,
        seconds=plan.seconds,
        band=plan.band,
        bare=inputs.choices.bare,
        pinned=pinned(inputs.now.assembly, inputs.now.design.pins, stocks=inputs.now.stocks),
        overruled=overruled.says if overruled else None,
        unit=unit,
    )
    return {
        "run-sheet.pdf": File(name=f"{stem}-run-sheet.pdf", kind="application/pdf", write=lambda: run_sheet_pdf(sheet)),
        "cut-list.csv": File(name=f"{stem}-cut-list.csv", kind="text/csv", write=lambda: cut_list_csv(rows, unit).encode()),
    }


def bundle(project: Project, unit: str = "mm") -> File:
    """Return all files as one zip; they are as old as the plan, so that the same plan gives the same zip."""
    out = io.BytesIO()
    files, stored = files_of(project, unit), stored_plan(project)
    assert stored is not None
    made = stored[0].created.timetuple()[:6]
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in files.values():
            archive.writestr(zipfile.ZipInfo(file.name, made), file.content, zipfile.ZIP_DEFLATED)
    return File(name=files["cut-list.csv"].name.replace("-cut-list.csv", ".zip"), kind="application/zip", write=out.getvalue)
