"""What a person does on Run."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import timedelta
from statistics import fmean
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from pydantic import TypeAdapter

from apps.accounts.models import Member
from apps.designs.models import Project, Stage
from apps.designs.queries import current, images_of, result_of
from apps.plans import gate
from apps.plans.models import TimedRun
from apps.plans.services import choices_of, files_of, planned, stored_plan
from apps.runs import registration
from apps.runs.leftovers import REMAINS, remains_of, shelve_remains
from apps.runs.models import Run, RunState
from apps.sheets.convert import machine_of
from apps.sheets.evidence import Here, record_feel
from apps.sheets.models import Sheet
from apps.sheets.models import Stock as StockRow
from apps.told import keeps, kept
from notchcore.check.dry_fit import meeting_chances
from notchcore.errors import PlanError, require
from notchcore.geom.vectors import Vec2
from notchcore.ids import CopyId
from notchcore.measure.fit import Chances
from notchcore.measure.materials import MATERIALS
from notchcore.nest.wanted import wanted_of
from notchcore.plan.cut_plan import SheetPlan
from notchcore.plan.moves import moves_of
from notchcore.run.recut import Piece, Recut, as_burned, piece_of, recut
from notchcore.words.facts import Sentence
from notchcore.words.render import plain, say, written

PIECE: TypeAdapter[Piece] = TypeAdapter(Piece)
OPEN = (RunState.WAITING, RunState.RUNNING, RunState.PAUSED, RunState.FAULT)
FOLLOWED = (*OPEN, RunState.INTERRUPTED)  # as long as the machine may still have it
LOST_S = 30  # without a word from machine or worker: nobody knows what the beam does
LOOKED, FROM_THE_START, NO_SHEET = say("tick.looked"), say("tick.from_the_start"), say("tick.no_sheet")
CHECKS = (say("tick.right_sheet"), say("tick.flat"), say("tick.air"), say("tick.extinguisher"))


def checklist_for(project: Project, sheet: int) -> list[Sentence]:
    """Return what must be ticked before a sheet runs."""
    stored, inputs = planned(project)
    if stored is None or inputs is None or not 1 <= sheet <= len(stored[1].sheets):
        return list(CHECKS)
    target = stored[1].sheets[sheet - 1]
    stock = inputs.now.stocks[target.stock]
    material = MATERIALS[stock.material]
    film = []
    if stock.film:
        bare = target.stock in inputs.choices.bare
        film = [say("tick.film_off" if bare else "tick.film_on")]
    there = [] if on_shelf(target.sheet, project) else [NO_SHEET]
    lay = [target.lay.words] if target.lay.words else []
    return [*CHECKS, *there, *film, *lay, say("tick.material", material=material.label, caution=material.caution)]


def _must_be_ticked(checks: Sequence[Sentence], ticked: Sequence[str]) -> None:
    missing = [c for c in checks if plain(c) not in ticked]
    if missing:
        raise PlanError(say("tick_first", missing=missing[0]), missing=[plain(c) for c in missing])


def on_shelf(sheet: str, project: Project) -> bool:
    """Tell whether the shelf has a sheet for a run: those that were cut and are not in the log yet are gone too."""
    row = Sheet.objects.filter(pk=int(sheet)).first() if sheet.isdecimal() else None
    if row is None:
        return False
    used = Run.objects.filter(project__shop_id=project.shop_id, shelf_sheet=sheet, logged__isnull=True, last=True)
    return row.count - used.exclude(state__in=(RunState.FAILED, RunState.STOPPED)).count() > 0


def pieces_freed(plan: SheetPlan) -> list[str]:
    """Return the pieces that come free in a run, as part and copy: those that are cut out, and those that fall out of an opening."""
    through = [s.path for s in plan.strokes if s.path.through]
    cut = [str(CopyId(p.part, p.copy)) for p in through if p.operation == "outer"]
    return list(dict.fromkeys([*cut, *(p.frees for p in through if p.frees)]))


@transaction.atomic
def start_run(*, project: Project, member: Member, sheet: int, ticked: list[str], fault: str = "", found: Sequence[Vec2] = ()) -> Run:
    """Send one run of the plan to the machine.

    Args:
        sheet: number of the run in the plan, from 1
        ticked: what was ticked, as it is told in mm
        found: its registration marks as they were read, where it has some
    Raises:
        PlanError: no fresh plan, something not ticked, marks not read, or another run is open on this machine
    """
    files_of(project)  # the same gate as for files: a plan that must not be cut is not run either
    stored = stored_plan(project)
    assert stored is not None
    row, plan = stored
    if not 1 <= sheet <= len(plan.sheets):
        raise PlanError(say("no_such_run.of", runs=len(plan.sheets), run=sheet))
    _must_be_ticked(checklist_for(project, sheet), ticked)
    _must_be_free(project)
    target = plan.sheets[sheet - 1]
    now = current(project)
    said = gate.passed(now)
    moves = registration.moved(moves_of(target, images_of(now)), target, found=found)
    freed = pieces_freed(target)
    cut = {s.path.part for s in target.strokes} | {CopyId.parse(p).of for p in freed}
    same_sheet = [s for s in plan.sheets if (s.sheet, s.copy) == (target.sheet, target.copy)]
    pieces = {p.id: PIECE.dump_python(piece_of(p, target.kerf, locate=choices_of(project).locate), mode="json") for p in now.assembly.parts if p.id in cut}
    return Run.objects.create(
        project=project,
        plan_print=row.made_from,
        revision=row.revision,
        sheet=sheet,
        shelf_sheet=target.sheet,
        last=target.last,
        sheet_name=target.name + (f", {target.run}" if target.run else ""),
        expected_s=max(target.seconds / plan.factor, 0.001),
        moves=[asdict(m) for m in moves],
        pieces=pieces,
        parts=freed,
        checklist=[*ticked, *([plain(said.says)] if said else [])],
        fault=fault,
        by=member.user,
        remains=REMAINS.dump_python(remains_of(same_sheet) if target.last else [], mode="json"),
    )


def interrupt(run_id: int, why: Sentence) -> None:
    """Say that nobody knows how far a run came: a person looks at the sheet first."""
    Run.objects.filter(pk=run_id, state__in=OPEN).update(
        state=RunState.INTERRUPTED,
        command="",
        says=keeps("run.look_first", why=why),
    )


def settle_lost() -> int:
    """End runs that nobody has heard of for a while honestly; return how many. Those never started failed, others are interrupted."""
    since = timezone.now() - timedelta(seconds=LOST_S)
    silent = Run.objects.filter(state__in=OPEN).filter(Q(seen__lt=since) | Q(seen__isnull=True, created__lt=since))
    lost = 0
    for run in silent.only("pk", "started"):
        if run.started is None:
            never = Run.objects.filter(pk=run.pk, state__in=OPEN, started__isnull=True)
            lost += never.update(state=RunState.FAILED, says=keeps("run.not_taken"))
        else:
            interrupt(run.pk, say("run.line_lost"))
            lost += 1
    return lost


def command(*, run: Run, name: str) -> None:
    """Ask for pause, resume or stop; the worker passes it on to the machine.

    Raises:
        PlanError: the run has ended
    """
    settle_lost()
    run.refresh_from_db(fields=["state"])
    if run.state == RunState.INTERRUPTED and name == "stop":
        Run.objects.filter(pk=run.pk).update(state=RunState.STOPPED, command="stop", says=keeps("run.given_up"))
        return
    if run.state not in OPEN:
        raise PlanError(say("run_interrupted" if run.state == RunState.INTERRUPTED else "run_ended"))
    Run.objects.filter(pk=run.pk).update(command=name)


def before_going_on(run: Run) -> list[Sentence]:
    """Return what must be ticked before an interrupted run goes on; nothing for others."""
    if run.state != RunState.INTERRUPTED:
        return []
    return [*checklist_for(run.project, run.sheet), LOOKED, *([] if run.progress.get("path") else [FROM_THE_START])]


def rest_of(run: Run) -> list[dict[str, Any]]:
    """Return the moves of an interrupted run from the one that it stood at: what was begun is burned anew, so that nothing stays uncut."""
    at = str(run.progress.get("path", ""))
    first = next((k for k, m in enumerate(run.moves) if m["path"] == at), 0)
    return list(run.moves[first:])


@transaction.atomic
def go_on(*, run: Run, member: Member, ticked: list[str]) -> Run:
    """Burn the rest of an interrupted run, as a run of its own, after a person has looked.

    Raises:
        PlanError: it is not interrupted, something is not ticked, or the machine is busy
    """
    run = Run.objects.select_for_update().select_related("project").get(pk=run.pk)
    if run.state != RunState.INTERRUPTED:
        raise PlanError(say("run_not_interrupted"))
    _must_be_ticked(before_going_on(run), ticked)
    _must_be_free(run.project, but=run.pk)
    rest = rest_of(run)
    Run.objects.filter(pk=run.pk).update(state=RunState.STOPPED, says=keeps("run.gone_on"), logged=timezone.now())
    return Run.objects.create(
        project=run.project,
        plan_print=run.plan_print,
        revision=run.revision,
        sheet=run.sheet,
        shelf_sheet=run.shelf_sheet,
        last=run.last,
        sheet_name=run.sheet_name,
        expected_s=max(run.expected_s * len(rest) / max(len(run.moves), 1), 0.001),
        moves=rest,
        pieces=run.pieces,
        parts=run.parts,
        checklist=ticked,
        by=member.user,
        remains=run.remains,
        goes_on=run,
    )


def _must_be_free(project: Project, but: int = 0) -> None:
    settle_lost()
    Project.objects.select_for_update().filter(machine=project.machine).first()
    if Run.objects.filter(project__machine=project.machine, state__in=OPEN).exists():
        raise PlanError(say("machine_busy"))
    if Run.objects.filter(project__machine=project.machine, state=RunState.INTERRUPTED).exclude(pk=but).exists():
        raise PlanError(say("machine_interrupted"))


@transaction.atomic
def log_run(
    *,
    run_id: int,
    actual_s: float,
    good: int,
    spoiled: int,
    cut_through: int,
    feel: str,
    note: str,
    bad: Sequence[str] = (),
    keep: Sequence[int] = (),
    sheet_spoiled: bool = False,
) -> Run:
    """Write down what happened: stock goes down, what is kept of the sheet goes on the shelf, and the machine's time factor learns.

    Args:
        cut_through: percent of the parts that fell free without help
        bad: which pieces were spoiled, where that was said
        keep: which of the pieces that stay of the sheet become offcuts
        sheet_spoiled: nothing of this sheet is good, whichever of its runs this was
    """
    run = Run.objects.select_for_update().select_related("project").get(pk=run_id)
    if run.logged is not None:
        raise PlanError(say("run_logged"))
    if run.state in FOLLOWED:
        raise PlanError(say("run_not_ended"))
    sheet_spoiled = sheet_spoiled or bool(run.log.get("sheet_spoiled"))  # a later run of it may have been logged before
    if sheet_spoiled:
        good, spoiled, bad, keep = 0, len(run.parts), run.parts, ()
        _spoil_earlier(run)
    require("actual time", actual_s, least=1, most=1e6, unit="s")
    require("good pieces", good, least=0, most=len(run.parts), unit="")
    require("spoiled pieces", spoiled, least=0, most=len(run.parts) - good, unit="")
    require("cut through", cut_through, least=0, most=100, unit="%")
    if len(set(bad)) != len(bad) or not set(bad) <= set(run.parts) or len(bad) > spoiled:
        raise PlanError(say("spoiled_of_other_run"))
    run.log = {
        "bad": list(bad),
        "actual_s": actual_s,
        "good": good,
        "spoiled": spoiled,
        "cut_through": cut_through,
        "feel": feel,
        "note": note,
        "sheet_spoiled": sheet_spoiled,
    }
    run.logged = timezone.now()
    run.save(update_fields=["log", "logged"])
    if run.state == RunState.DONE:
        TimedRun.objects.create(machine_id=run.project.machine_id, expected_s=run.expected_s, actual_s=actual_s)
    sheet = Sheet.objects.select_for_update().filter(pk=int(run.shelf_sheet)).first()
    if sheet is not None and sheet.count > 0 and (run.last or sheet_spoiled):
        sheet.count -= 1
        sheet.save(update_fields=["count"])
    if keep:
        if run.state != RunState.DONE or sheet is None:
            raise PlanError(say("leftovers_of_whole_sheet"))
        shelve_remains(run, sheet, keep=keep)
    return run


def _spoil_earlier(run: Run) -> None:
    """Say of the runs of the same sheet before this one that nothing of them is good either."""
    for number in range(run.sheet - 1, 0, -1):
        before = Run.objects.select_for_update().filter(project=run.project_id, plan_print=run.plan_print, state=RunState.DONE, pk__lt=run.pk)
        earlier = before.filter(sheet=number).order_by("-pk").first()
        if earlier is None or earlier.last:
            return  # that was another sheet
        said = {"actual_s": earlier.expected_s} | earlier.log  # nobody may have written it down yet
        earlier.log = {**said, "good": 0, "spoiled": len(earlier.parts), "bad": list(earlier.parts), "sheet_spoiled": True}
        earlier.save(update_fields=["log"])


@transaction.atomic
def learn_from(*, run_id: int, member: Member) -> Run:
    """Let the fits learn from the feel of a logged run: one feel for each pair of stocks whose joints are cut by now.

    A person asks for it: a new boundary changes the joints of every design that is not cut yet.

    Raises:
        PlanError: the run has no feel in the log, has taught already, or no joint of it is whole
    """
    run = Run.objects.select_for_update().select_related("project__machine", "project__shop").get(pk=run_id)
    feel = str(run.log.get("feel") or "")
    if not feel or run.log.get("learned"):
        raise PlanError(say("learned_already" if feel else "no_feel_to_learn"))
    now = current(run.project)
    rows = Run.objects.filter(project=run.project, state=RunState.DONE, plan_print=run.plan_print)
    cut = {CopyId.parse(p).of for r in rows for p in r.parts}
    chances = {o.meeting: o.chances for o in meeting_chances(now.assembly, now.stocks, fits=now.fits)}
    stock = {p.id: p.stock for p in now.assembly.parts}
    pairs: dict[tuple[str, str], list[Chances]] = {}
    for m in now.assembly.meetings:
        if m.id in chances and {m.a, m.b} <= cut:
            other = stock[m.b] if stock[m.a] == m.kerf_stock else stock[m.a]
            pairs.setdefault((m.kerf_stock, other), []).append(chances[m.id])
    if not pairs:
        raise PlanError(say("no_joint_whole"))
    here = Here(member=member, machine=run.project.machine)
    rows_by_id = {str(s.pk): s for s in StockRow.objects.filter(shop=run.project.shop_id)}
    for (opening, entering), some in pairs.items():
        believed, sd = fmean(o.clearance for o in some), fmean(o.sd for o in some)
        record_feel(stock=rows_by_id[opening], entering=rows_by_id[entering], here=here, feel=feel, clearance_mm=believed, sd_mm=sd)
    run.log = {**run.log, "learned": True}
    run.save(update_fields=["log"])
    return run


def recut_of(project: Project) -> Recut:
    """Return what of the pieces already cut still serves, and what must be cut again.

    As many are wanted as the batch that is laid out needs. A piece counts once its run is done, or once the log of a run that was stopped says that
    it is good; those that are named as spoiled do not. Where pieces were spoiled without being named, none of that run counts: better one cut
    twice than one missing.
    """
    now = current(project)
    row = result_of(now, Stage.LAY_OUT)
    copies = int(row.payload["request"]["copies"]) if row is not None else 1
    locate = choices_of(project).locate
    kerfs = {k: s.kerf.value if machine_of(project.machine).kerf_place.is_ours else 0.0 for k, s in now.stocks.items()}
    wanted = [(piece_of(p, kerfs[p.stock], locate=locate), wanted_of(p, copies)) for p in now.assembly.parts]
    cut: list[Piece] = []
    for run in Run.objects.filter(project=project, state__in=(RunState.DONE, RunState.STOPPED)).defer("moves"):
        bad = run.log.get("bad", [])
        said = run.log.get("good", 0) + len(bad) == len(run.parts)
        if run.log.get("spoiled", 0) > len(bad) or (run.state == RunState.STOPPED and not (run.log and said)):
            continue
        known = {k: as_burned(PIECE.validate_python(v), locate=locate) for k, v in run.pieces.items()}
        cut += [known[part] for p in run.parts if p not in bad and (part := CopyId.parse(p).of) in known]
    return recut(wanted, cut)


def follow(run: Run, status: dict[str, Any]) -> None:
    """Write what the machine said into the run, unless a person ended it meanwhile."""
    before = run.state
    states = {"running": RunState.RUNNING, "paused": RunState.PAUSED, "fault": RunState.FAULT, "done": RunState.DONE, "stopped": RunState.STOPPED}
    run.state = states.get(str(status["state"]), run.state)
    run.progress = {k: status[k] for k in ("clock", "seconds", "x", "y", "burning", "path")}
    fault = str(status.get("fault", ""))
    run.says, run.seen = kept(written(fault)) if fault else None, timezone.now()
    written_down = Run.objects.filter(pk=run.pk, state=before).update(state=run.state, progress=run.progress, says=run.says, seen=run.seen)
    if not written_down:
        run.refresh_from_db(fields=["state"])
