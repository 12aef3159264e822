"""Dry fit over HTTP: findings and their repairs, steps and the guide, what-if, the trial in scrap, two revisions side by side."""

from __future__ import annotations

import base64
from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile

from apps.accounts.access import Refused, member_of, require_role
from apps.accounts.models import Role
from apps.designs import convert, dry_fit, jobs, queries, services
from apps.designs.api import Conflict, JobOut, ProjectOut, conflict, job_out, project_out, project_row
from apps.designs.drawings import MOST_BYTES
from apps.designs.models import Project, Revision, Stage, TrialNote
from apps.designs.tasks import check_job
from notchcore.check.compare import PartChange, changes_between
from notchcore.check.dry_fit import DryFit, MeetingChances
from notchcore.check.play import ItemPlay
from notchcore.check.steps import GuideStep
from notchcore.check.whatif import Shift, TestWorth, shifted_chances, shifted_plays, worth_of_tests
from notchcore.check.whole import plays_of
from notchcore.findings import Finding, Plain, Repair, RepairKind, Severity
from notchcore.formats.guide import guide_pdf
from notchcore.formats.names import file_stem
from notchcore.measure.fit import Boundaries
from notchcore.words.facts import Figure
from notchcore.words.render import say, written

router = Router(tags=["designs"])
PARTS_AT_ONCE = 16  # dry fits of more parts go to the worker


class CheckOut(Schema):
    fresh: bool
    revision: int | None
    result: DryFit | None
    guide: list[GuideStep]
    boundaries: dict[str, Boundaries]
    job: JobOut | None


class MeantFinding(Schema):
    """What tells one finding from another; the rest of it is the server's own to say."""

    code: str
    parts: tuple[str, ...] = ()
    meeting: str | None = None
    field: str | None = None
    facts: dict[str, float | int | str] = {}
    item: str = ""


class MeantRepair(Schema):
    """What a repair changes; what it is called is the server's own to say."""

    kind: RepairKind
    targets: tuple[str, ...] = ()
    values: dict[str, Plain | tuple[float, ...]] = {}


class RepairIn(Schema):
    base: int
    finding: MeantFinding
    repair: MeantRepair


class WhatIfIn(Schema):
    shifts: dict[str, Shift]


class WhatIfOut(Schema):
    chances: list[MeetingChances]
    expected_rework: float
    plays: list[ItemPlay]


class TrialOut(Schema):
    id: int
    about: str
    feel: str
    text: str
    photo: bool
    revision: int
    author: str
    created: datetime


class CompareOut(Schema):
    revision: int
    label: str
    parts: list[PartChange]


class RevisionOut(Schema):
    number: int
    label: str
    author: str
    created: datetime


def _boundaries(now: queries.Current) -> dict[str, Boundaries]:
    """Return the boundaries between feels of every meeting that has a clearance."""
    key = {p.id: now.stocks[p.stock].key for p in now.assembly.parts}
    return {m.id: now.fits.between(key[m.a], key[m.b]) for m in now.assembly.meetings if m.clearance}


def _check_out(project: Project) -> CheckOut:
    job = jobs.latest(project, Stage.DRY_FIT)  # before its result: a job that has ended has left its last one
    now = queries.current(project)
    row = queries.result_of(now, Stage.DRY_FIT)
    result = convert.DRY_FIT.validate_python(row.payload) if row else None
    fresh = row is not None and row.made_from == now.checked_from
    return CheckOut(
        fresh=fresh,
        revision=row.revision if row else None,
        result=result,
        guide=list(dry_fit.guide_of(now, result)) if fresh and result is not None else [],
        boundaries=_boundaries(now),
        job=job_out(job),
    )


@router.get("/projects/{project_id}/dry-fit", response=CheckOut, operation_id="dryFit")
def get_check(request: HttpRequest, project_id: int) -> CheckOut:
    return _check_out(project_row(request, project_id))


@router.post("/projects/{project_id}/dry-fit", response=CheckOut, operation_id="runDryFit")
def run_check(request: HttpRequest, project_id: int) -> CheckOut:
    """Run the dry fit: at once for a few parts, in the worker for many."""
    member_of(request)
    row = project_row(request, project_id)
    now = queries.current(row)
    if len(now.assembly.parts) <= PARTS_AT_ONCE:
        dry_fit.check(row)
    else:
        jobs.request_job(project=row, stage=Stage.DRY_FIT, made_from=now.checked_from, request={}, lane=jobs.LONG, defer=lambda pk: check_job.defer(job_id=pk))
    return _check_out(row)


@router.post("/projects/{project_id}/dry-fit/stop", response=CheckOut, operation_id="stopDryFit")
def stop_check(request: HttpRequest, project_id: int) -> CheckOut:
    """Take a dry fit back that waits, or let one that runs tell what it has found."""
    member_of(request)
    row = project_row(request, project_id)
    jobs.ask_stop(project=row, stage=Stage.DRY_FIT)
    return _check_out(row)


@router.post("/projects/{project_id}/repair", response={200: ProjectOut, 409: Conflict}, operation_id="repair")
def repair(request: HttpRequest, project_id: int, body: RepairIn) -> Status[ProjectOut] | Status[Conflict]:
    """Carry out a repair that a finding offers, as one step that can be taken back."""
    member = require_role(request, Role.DESIGNER)
    row = project_row(request, project_id)
    try:
        nothing = written("")
        finding = Finding(severity=Severity.LOOK, says=nothing, **body.finding.dict())
        wanted = Repair(says=nothing, **body.repair.dict())
        row = dry_fit.repair(project=row, member=member, base=body.base, finding=finding, wanted=wanted)
    except services.SavedMeanwhile as problem:
        return conflict(project_id, problem)
    return Status(200, project_out(row))


@router.post("/projects/{project_id}/what-if", response=WhatIfOut, operation_id="whatIf")
def what_if(request: HttpRequest, project_id: int, body: WhatIfIn) -> WhatIfOut:
    """Tell how the joints would feel if sheets and beam were other than believed; nothing is saved."""
    now = queries.current(project_row(request, project_id))
    chances = shifted_chances(now.assembly, now.stocks, shifts=body.shifts, fits=now.fits)
    plays = shifted_plays(plays_of(now.members, now.stocks), body.shifts)
    return WhatIfOut(chances=list(chances), expected_rework=sum(o.rework for o in chances), plays=list(plays))


@router.get("/projects/{project_id}/test-worth", response=list[TestWorth], operation_id="testWorth")
def test_worth(request: HttpRequest, project_id: int) -> list[TestWorth]:
    """Tell which test would spare the most rework."""
    now = queries.current(project_row(request, project_id))
    return list(worth_of_tests(now.assembly, now.stocks, fits=now.fits))


@router.get("/projects/{project_id}/guide.pdf", operation_id="guidePdf")
def guide_file(request: HttpRequest, project_id: int) -> HttpResponse:
    """Return the assembly guide: a picture for each step, and a page of parts with their marks."""
    row = project_row(request, project_id)
    now = queries.current(row)
    kept = queries.result_of(now, Stage.DRY_FIT)
    if kept is None or kept.made_from != now.checked_from:
        raise Refused(422, say("design_changed_since_fit"))
    steps = dry_fit.guide_of(now, convert.DRY_FIT.validate_python(kept.payload))
    if not steps:
        raise Refused(422, say("no_order_yet"))
    content = guide_pdf(
        now.assembly, steps, colours={k: s.colour for k, s in now.stocks.items()}, title=row.name, revision=now.revision.number, unit=member_of(request).unit
    )
    name = f"{file_stem(row.name)}-guide.pdf"
    return HttpResponse(content, content_type="application/pdf", headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _trial_out(row: TrialNote) -> TrialOut:
    return TrialOut(
        id=row.pk,
        about=row.about,
        feel=row.feel,
        text=row.text,
        photo=bool(row.photo),
        revision=row.revision,
        author=row.author.get_username(),
        created=row.created,
    )


@router.get("/projects/{project_id}/trial", response=list[TrialOut], operation_id="trialNotes")
def trial(request: HttpRequest, project_id: int) -> list[TrialOut]:
    return [_trial_out(n) for n in project_row(request, project_id).trial_notes.select_related("author").order_by("-pk")]


@router.post("/projects/{project_id}/trial", response={201: TrialOut}, operation_id="noteTrial")
def note_trial(
    request: HttpRequest,
    project_id: int,
    about: Annotated[str, Form()] = "",
    feel: Annotated[Literal["", "rattles", "slides", "snug", "mallet", "wont_go"], Form()] = "",
    text: Annotated[str, Form()] = "",
    photo: Annotated[UploadedFile | None, File()] = None,
) -> Status[TrialOut]:
    """Write down what was felt, seen or changed on a trial in scrap."""
    member = require_role(request, Role.OPERATOR)
    data = photo.read(MOST_BYTES + 1) if photo is not None else None
    if data is not None and len(data) > MOST_BYTES:
        raise Refused(422, say("photo_too_large", most=Figure(MOST_BYTES / 1000000.0, 0)))
    row = dry_fit.note(project=project_row(request, project_id), member=member, about=about, feel=feel, text=text, photo=data)
    return Status(201, _trial_out(row))


@router.get("/projects/{project_id}/trial/{note_id}/photo.png", operation_id="trialPhoto")
def trial_photo(request: HttpRequest, project_id: int, note_id: int) -> HttpResponse:
    row = get_object_or_404(TrialNote, project=project_row(request, project_id), pk=note_id)
    if not row.photo:
        raise Refused(404, say("note_without_photo"))
    return HttpResponse(base64.b64decode(row.photo), content_type="image/png")


@router.delete("/projects/{project_id}/trial/{note_id}", response={204: None}, operation_id="dropTrialNote")
def drop_trial(request: HttpRequest, project_id: int, note_id: int) -> Status[None]:
    require_role(request, Role.OPERATOR)
    get_object_or_404(TrialNote, project=project_row(request, project_id), pk=note_id).delete()
    return Status(204, None)


@router.get("/projects/{project_id}/revisions", response=list[RevisionOut], operation_id="revisions")
def revisions(request: HttpRequest, project_id: int) -> list[RevisionOut]:
    rows = Revision.objects.filter(project=project_row(request, project_id)).select_related("author").defer("design").order_by("-number")[:60]
    return [RevisionOut(number=r.number, label=r.label, author=r.author.get_username(), created=r.created) for r in rows]


@router.get("/projects/{project_id}/compare/{number}", response=CompareOut, operation_id="compareRevisions")
def compare(request: HttpRequest, project_id: int, number: int) -> CompareOut:
    """Tell which parts are others now than in an earlier revision, with the edges that changed; both with today's evidence."""
    row = project_row(request, project_id)
    old = get_object_or_404(Revision, project=row, number=number)
    now = queries.current(row)
    design = convert.design_of(old)
    then = queries.assembly_for(row, design, measured=convert.measured_for(row, design))
    return CompareOut(revision=number, label=old.label, parts=list(changes_between(then.parts, now.assembly.parts)))
