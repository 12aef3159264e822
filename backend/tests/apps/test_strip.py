"""What each station says of itself in a few words, as the work goes on and things go wrong."""

from __future__ import annotations

from typing import Any

import pytest

from apps.designs import jobs
from apps.designs.models import JobState, Project, Stage, StageJob, StageResult
from apps.runs.models import Run, RunState
from apps.sheets.models import KerfTest, Reading, Sheet
from tests.apps.conftest import Api
from tests.rows import said


def told(api: Api, project: Project, station: str) -> dict[str, Any]:
    return next(s for s in api.ok("get", f"projects/{project.pk}/strip") if s["key"] == station)


def changed(api: Api, project: Project, **numbers: Any) -> None:
    now = api.ok("get", f"projects/{project.pk}")
    now["design"]["numbers"].update(numbers)
    api.ok("put", f"projects/{project.pk}/design", {"base": now["revision"], "design": now["design"], "label": "changed"})


def test_a_new_project_has_nothing_yet_beyond_build(api: Api, drawer: Project) -> None:
    project = api.ok("post", "projects", {"name": "Row label box"})
    stations = {s["key"]: (s["dot"], said(s["says"])) for s in api.ok("get", f"projects/{project['id']}/strip")}
    assert stations == {
        "sheets": ("green", "1 stock, measured"),
        "build": ("green", "5 parts, 8 joints"),
        "dry-fit": ("grey", "not tried yet"),
        "lay-out": ("grey", "not packed yet"),
        "cut-plan": ("grey", "not planned yet"),
        "run": ("grey", "not started"),
    }


def test_a_guess_in_thickness_or_kerf_is_counted(api: Api, drawer: Project) -> None:
    KerfTest.objects.filter(stock__name="Walnut 3").delete()
    assert said(told(api, drawer, "sheets")["says"]) == "2 stocks, 1 guess"
    Reading.objects.filter(stock__name="Birch ply 3, batch 12").delete()
    assert (told(api, drawer, "sheets")["dot"], said(told(api, drawer, "sheets")["says"])) == ("amber", "2 stocks, 2 guesses")


def test_an_impossible_wish_is_red_and_everything_after_it_is_stale(api: Api, drawer: Project) -> None:
    changed(api, drawer, columns=40)
    assert (told(api, drawer, "build")["dot"], said(told(api, drawer, "build")["says"])) == ("red", "2 to fix")
    for station in ("dry-fit", "lay-out", "cut-plan"):
        assert told(api, drawer, station)["stale"]
    api.ok("post", f"projects/{drawer.pk}/dry-fit")
    assert told(api, drawer, "dry-fit")["dot"] == "red"


def test_joints_that_will_only_butt_are_looked_at(api: Api, drawer: Project) -> None:
    changed(api, drawer, height=14.0, top="open", thumb_notch=0.0, columns=1, rows=1)
    assert told(api, drawer, "build")["dot"] == "amber"
    api.ok("post", f"projects/{drawer.pk}/dry-fit")
    assert said(told(api, drawer, "dry-fit")["says"]).endswith("to look at")


@pytest.mark.parametrize(
    ("stage", "station", "text"), [(Stage.DRY_FIT, "dry-fit", "checking"), (Stage.LAY_OUT, "lay-out", "packing"), (Stage.CUT_PLAN, "cut-plan", "planning")]
)
def test_work_in_the_worker_shows_until_it_ends(api: Api, drawer: Project, stage: Stage, station: str, text: str) -> None:
    job = jobs.request_job(project=drawer, stage=stage, made_from="x", request={}, defer=lambda _: None)
    assert said(told(api, drawer, station)["says"]) == text
    jobs.begin(job.pk)
    assert said(told(api, drawer, station)["says"]) == text
    jobs.finish(job.pk, JobState.DONE)
    assert said(told(api, drawer, station)["says"]) != text
    assert StageJob.objects.filter(project=drawer, state=JobState.DONE).count() == 1


def test_parts_without_a_place_are_red_and_stop_the_files(api: Api, drawer: Project) -> None:
    from apps.layouts.services import default_request, pack_project

    Sheet.objects.filter(stock__name="Walnut 3").update(count=0)
    pack_project(drawer, default_request(drawer, seconds=0.1))
    assert (told(api, drawer, "lay-out")["dot"], said(told(api, drawer, "lay-out")["says"])) == ("red", "3 parts left over")
    assert told(api, drawer, "cut-plan")["stale"]
    api.ok("post", f"projects/{drawer.pk}/cut-plan")
    assert told(api, drawer, "cut-plan")["dot"] == "red"
    refused = api("get", f"projects/{drawer.pk}/files/all.zip")
    assert refused.status_code == 422
    assert "no place on a sheet" in refused.json()["message"]


@pytest.mark.parametrize(
    ("state", "dot", "text"),
    [
        (RunState.RUNNING, "amber", "sheet 1 running"),
        (RunState.PAUSED, "amber", "sheet 1 paused"),
        (RunState.FAULT, "red", "sheet 1 fault"),
        (RunState.DONE, "grey", "1 of 2 cut"),
        (RunState.STOPPED, "grey", "0 of 2 cut"),
    ],
)
def test_the_run_says_how_the_machine_is(api: Api, drawer: Project, state: RunState, dot: str, text: str) -> None:
    Run.objects.filter(project=drawer).update(state=state)
    assert (told(api, drawer, "run")["dot"], said(told(api, drawer, "run")["says"])) == (dot, text)


def test_a_new_plan_makes_the_runs_before_it_a_thing_of_the_past(api: Api, drawer: Project) -> None:
    StageResult.objects.filter(project=drawer, stage=Stage.CUT_PLAN).update(made_from="another")
    run = told(api, drawer, "run")
    assert (run["dot"], said(run["says"]), run["stale"]) == ("grey", "changed since", True)
