"""At the machine: a beam never starts without a person, what is lost is told honestly, and the books agree with what was cut."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from apps.designs import jobs
from apps.designs.models import JobState, Project, Revision, Stage, StageJob, StageResult
from apps.runs import services, tasks
from apps.runs.models import Run, RunState
from apps.sheets.models import Sheet
from devices.laser import Laser, reply
from devices.line import DeviceNotThere
from notchcore.words.render import plain
from tests.apps.conftest import Api
from tests.rows import said, ticks

LONG_AGO = timedelta(seconds=services.LOST_S + 5)


class Line:
    """A line to a laser in this process; `cut_after` messages it breaks."""

    def __init__(self, laser: Laser, cut_after: int = 10_000) -> None:
        self.laser, self.left, self.said = laser, cut_after, []

    def __enter__(self) -> Line:
        return self

    def __exit__(self, *_: object) -> None:
        return None

    def say(self, **message: Any) -> dict[str, Any]:
        self.left -= 1
        if self.left < 0:
            raise DeviceNotThere("The line to the laser broke.")
        self.said.append(message["do"])
        self.laser.tick(0.4)
        return reply(self.laser, message)


@pytest.fixture
def line(monkeypatch: pytest.MonkeyPatch) -> Line:
    made = Line(Laser(pace=60.0))
    monkeypatch.setattr(tasks, "DeviceLine", lambda *_: made)
    monkeypatch.setattr(tasks, "POLL_S", 0.0)
    monkeypatch.setattr("apps.runs.api.follow_run.defer", lambda **_: None)
    return made


def started(api: Api, project: Project, sheet: int = 1) -> Run:
    checklist = api.ok("get", f"projects/{project.pk}/runs")["checklists"][str(sheet)]
    return Run.objects.get(pk=api.ok("post", f"projects/{project.pk}/runs", {"sheet": sheet, "ticked": ticks(checklist)})["id"])


def now(run: Run) -> Run:
    return Run.objects.get(pk=run.pk)


def test_a_half_cut_sheet_is_never_started_again_by_itself(api: Api, drawer: Project, line: Line) -> None:
    run = started(api, drawer)
    line.left = 6
    tasks.follow_run(run_id=run.pk)
    assert now(run).state == RunState.INTERRUPTED
    # Both come back: the worker takes the run up again, and the machine has forgotten everything.
    line.left, line.laser, line.said = 10_000, Laser(pace=60.0), []
    tasks.follow_run(run_id=run.pk)
    assert "start" not in line.said
    assert "load" not in line.said
    told = next(r for r in api.ok("get", f"projects/{drawer.pk}/runs")["runs"] if r["id"] == run.pk)
    assert (told["state"], "Look first" in said(told["says"])) == ("interrupted", True)
    assert plain(services.LOOKED) in map(said, told["going_on"])
    assert plain(services.FROM_THE_START) not in map(said, told["going_on"])
    now_lost = Run(state=RunState.INTERRUPTED, project=run.project, sheet=run.sheet, progress={})
    assert services.before_going_on(now_lost)[-1] == services.FROM_THE_START  # the machine never said where it stood
    # Nothing else starts on that machine, and the beam goes on only with the list ticked anew.
    checklist = api.ok("get", f"projects/{drawer.pk}/runs")["checklists"]["1"]
    assert api("post", f"projects/{drawer.pk}/runs", {"sheet": 1, "ticked": ticks(checklist)}).status_code == 422
    assert api("post", f"runs/{run.pk}/go-on", {"ticked": ticks(told["going_on"])[:-1]}).status_code == 422
    rest = Run.objects.get(pk=api.ok("post", f"runs/{run.pk}/go-on", {"ticked": ticks(told["going_on"])})["id"])
    assert rest.moves[0]["path"] == told["progress"]["path"]
    assert [m["path"] for m in rest.moves] == [m["path"] for m in run.moves][-len(rest.moves) :]
    tasks.follow_run(run_id=rest.pk)
    assert (now(rest).state, line.said.count("start")) == (RunState.DONE, 1)
    assert now(run).state == RunState.STOPPED


def test_an_interrupted_run_can_be_given_up_from_the_screen(api: Api, drawer: Project, line: Line) -> None:
    run = started(api, drawer)
    line.left = 5
    tasks.follow_run(run_id=run.pk)
    assert api.ok("post", f"runs/{run.pk}/command", {"command": "stop"})["state"] == "stopped"
    api.ok("post", f"runs/{run.pk}/log", {"actual_s": 60, "good": 0, "sheet_spoiled": True})


def test_a_machine_refuses_a_job_that_it_has_seen() -> None:
    laser = Laser()
    move = {"path": "a", "points": [[0, 0], [5, 0]], "speed": 20, "power": 50, "passes": 1}
    assert reply(laser, {"do": "load", "job": "run-1", "moves": [move]})["ok"]
    reply(laser, {"do": "start"})
    laser.tick(1000)
    assert "was here already" in reply(laser, {"do": "load", "job": "run-1", "moves": [move]})["why"]


@pytest.mark.parametrize(("started_at", "ends"), [(None, RunState.FAILED), (timezone.now() - LONG_AGO, RunState.INTERRUPTED)])
def test_a_run_that_nobody_hears_of_ends_honestly_and_can_be_ended(api: Api, drawer: Project, line: Line, started_at: Any, ends: RunState) -> None:
    run = started(api, drawer)
    silent = timezone.now() - LONG_AGO
    state = RunState.RUNNING if started_at else RunState.WAITING
    Run.objects.filter(pk=run.pk).update(created=silent, started=started_at, seen=silent if started_at else None, state=state)
    told = next(r for r in api.ok("get", f"projects/{drawer.pk}/runs")["runs"] if r["id"] == run.pk)
    assert told["state"] == ends
    if ends is RunState.INTERRUPTED:
        assert api.ok("post", f"runs/{run.pk}/command", {"command": "stop"})["state"] == "stopped"


def test_a_job_whose_worker_is_gone_ends_honestly_and_begins_again_with_the_next(drawer: Project) -> None:
    job = jobs.request_job(project=drawer, stage=Stage.DRY_FIT, made_from="x", request={}, defer=lambda _: None)
    assert jobs.begin(job.pk) is not None
    StageJob.objects.filter(pk=job.pk).update(seen=timezone.now() - timedelta(seconds=jobs.LOST_S + 1))
    told = jobs.latest(drawer, Stage.DRY_FIT)
    assert told is not None
    assert (told.state, "lost" in said(told.says)) == (JobState.FAILED, True)
    again = jobs.begin(job.pk)  # its worker's queue gives it out once more
    assert again is not None
    assert (again.state, again.attempts) == (JobState.RUNNING, 2)


def test_a_job_that_breaks_off_says_so(drawer: Project) -> None:
    job = jobs.request_job(project=drawer, stage=Stage.DRY_FIT, made_from="x", request={}, defer=lambda _: None)
    jobs.begin(job.pk)
    with pytest.raises(ZeroDivisionError), jobs.at_work(job.pk):
        raise ZeroDivisionError
    job.refresh_from_db()
    assert (job.state, "broke off" in said(job.says)) == (JobState.FAILED, True)


def test_a_waiting_job_says_how_many_are_before_it_in_its_lane(drawer: Project) -> None:
    others = [p for p in Project.objects.exclude(pk=drawer.pk)[:2]]
    for k, project in enumerate(others):
        jobs.request_job(project=project, stage=Stage.LAY_OUT, made_from=str(k), request={}, defer=lambda _: None, lane=jobs.LONG)
    mine = jobs.request_job(project=drawer, stage=Stage.LAY_OUT, made_from="m", request={}, defer=lambda _: None, lane=jobs.LONG)
    short = jobs.request_job(project=drawer, stage=Stage.CUT_PLAN, made_from="m", request={}, defer=lambda _: None)
    assert (jobs.before(mine), jobs.before(short)) == (2, 0)


def test_a_run_without_a_sheet_on_the_shelf_asks(api: Api, drawer: Project, line: Line) -> None:
    plan = api.ok("get", f"projects/{drawer.pk}/cut-plan")["plan"]["sheets"][0]
    assert plain(services.NO_SHEET) not in map(said, api.ok("get", f"projects/{drawer.pk}/runs")["checklists"]["1"])
    Sheet.objects.filter(pk=plan["sheet"]).update(count=0)
    checklist = ticks(api.ok("get", f"projects/{drawer.pk}/runs")["checklists"]["1"])
    assert plain(services.NO_SHEET) in checklist
    ticked = [c for c in checklist if c != plain(services.NO_SHEET)]
    assert api("post", f"projects/{drawer.pk}/runs", {"sheet": 1, "ticked": ticked}).status_code == 422


def test_a_spoiled_sheet_is_said_in_whichever_run_and_gives_no_pieces(api: Api, drawer: Project, line: Line) -> None:
    def good() -> int:
        return sum(r["good"] for r in api.ok("get", f"projects/{drawer.pk}/recut")["rows"])

    before = good()
    run = started(api, drawer)
    Run.objects.filter(pk=run.pk).update(state=RunState.DONE, last=False)  # as the first of two runs of its sheet
    count = Sheet.objects.get(pk=run.shelf_sheet).count
    api.ok("post", f"runs/{run.pk}/log", {"actual_s": 100, "good": len(run.parts), "sheet_spoiled": True})
    assert Sheet.objects.get(pk=run.shelf_sheet).count == count - 1
    assert good() == before


def test_a_sheet_that_is_spoiled_in_its_second_run_has_no_pieces_of_its_first(api: Api, drawer: Project, line: Line) -> None:
    def good() -> int:
        return sum(r["good"] for r in api.ok("get", f"projects/{drawer.pk}/recut")["rows"])

    Run.objects.all().delete()
    for logged in (True, False):
        first = started(api, drawer)
        Run.objects.filter(pk=first.pk).update(state=RunState.DONE, last=False)  # as the first of two runs of its sheet
        if logged:
            api.ok("post", f"runs/{first.pk}/log", {"actual_s": 100, "good": len(first.parts)})
        assert good() == len(first.parts)
        second = started(api, drawer, 2)
        Run.objects.filter(pk=second.pk).update(state=RunState.DONE, parts=[], pieces={})
        log = {"actual_s": 50, "good": 0, "sheet_spoiled": True}
        api.ok("post", f"runs/{second.pk}/log", log)
        assert good() == 0
        if not logged:  # whoever writes the first run down afterwards cannot make its pieces good again
            api.ok("post", f"runs/{first.pk}/log", {"actual_s": 100, "good": len(first.parts)})
            assert good() == 0
        told = next(r["log"] for r in api.ok("get", f"projects/{drawer.pk}/runs")["runs"] if r["id"] == first.pk)
        assert (told["good"], told["spoiled"], told["actual_s"]) == (0, len(first.parts), 100)


def test_what_dry_fit_finds_stops_files_and_runs_until_a_named_person_answers_for_it(api: Api, drawer: Project, line: Line) -> None:
    path = f"projects/{drawer.pk}"
    assert api.ok("get", f"{path}/cut-plan")["stops"] is None
    StageResult.objects.filter(project=drawer, stage=Stage.DRY_FIT).delete()
    stops = api.ok("get", f"{path}/cut-plan")["stops"]
    assert [f["code"] for f in stops["findings"]] == ["dry_fit_not_tried"]
    assert api("get", f"{path}/files/all.zip").status_code == 422
    checklist = api.ok("get", f"{path}/runs")["checklists"]["1"]
    assert api("post", f"{path}/runs", {"sheet": 1, "ticked": ticks(checklist)}).status_code == 422
    assert api("post", f"{path}/cut-plan/overrule", {"print": "other"}).status_code == 422
    said = api.ok("post", f"{path}/cut-plan/overrule", {"print": stops["print"]})["stops"]["overruled"]
    assert said["by"] == "alder"
    assert api("get", f"{path}/files/run-sheet.pdf").status_code == 200
    assert any("Overruled by alder" in c for c in started(api, drawer).checklist)


def test_what_was_overruled_is_asked_again_once_something_else_is_found(api: Api, drawer: Project) -> None:
    path = f"projects/{drawer.pk}"
    StageResult.objects.filter(project=drawer, stage=Stage.DRY_FIT).delete()
    stops = api.ok("get", f"{path}/cut-plan")["stops"]
    api.ok("post", f"{path}/cut-plan/overrule", {"print": stops["print"]})
    head = Revision.objects.get(project=drawer, number=drawer.head)
    design = api.ok("get", path)["design"]
    design["numbers"]["width"] += 10
    api.ok("put", f"{path}/design", {"base": head.number, "design": design, "label": "wider"})
    assert api.ok("get", f"{path}/cut-plan")["stops"]["overruled"] is None


def test_a_dry_fit_of_earlier_rules_holds_files_back(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    api.ok("post", f"projects/{drawer.pk}/dry-fit")
    assert api.ok("get", f"projects/{drawer.pk}/dry-fit")["fresh"]
    monkeypatch.setattr("apps.designs.queries.RULES", 10**6)
    assert not api.ok("get", f"projects/{drawer.pk}/dry-fit")["fresh"]
    assert "dry fit" in api("get", f"projects/{drawer.pk}/files/all.zip").json()["message"].lower()
