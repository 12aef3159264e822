"""The server from a measured sheet to a logged run, and what happens when things change on the way."""

from __future__ import annotations

import io
import zipfile
from collections import OrderedDict
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.utils import timezone
from procrastinate.contrib.django import app as jobs_app
from pydantic import TypeAdapter

from apps.accounts.models import Role
from apps.designs import queries
from apps.designs.models import JobState, Project, StageJob, StageResult
from apps.layouts.tasks import pack_job
from apps.runs import services as runs
from apps.runs.keeping import clear_out
from apps.runs.models import Run, RunState
from apps.sheets.models import Sheet, Stock
from config import shopboard
from notchcore.errors import DesignError
from notchcore.geom.profile import Profile
from tests.apps.conftest import Api
from tests.rows import said, ticks

PROFILE: TypeAdapter[Profile] = TypeAdapter(Profile)


def stations(api: Api, project: Project) -> dict[str, Any]:
    return {s["key"]: s for s in api.ok("get", f"projects/{project.pk}/strip")}


def birch(api: Api) -> Any:
    row = next(s for s in api.ok("get", "rack")["stocks"] if s["name"] == "Birch ply 3, batch 12")
    return api.ok("get", f"stocks/{row['id']}")


def test_the_demo_has_gone_through_all_stations(api: Api, drawer: Project) -> None:
    told = stations(api, drawer)
    assert [s["dot"] for s in told.values()] == ["green"] * 5 + ["grey"]
    assert said(told["build"]["says"]) == "10 parts, 20 joints"
    assert said(told["run"]["says"]) == "1 of 2 cut"


def next_of(api: Api) -> tuple[str, str]:
    told = api.ok("get", "shop-board")[0]["face"]["next"]
    return told["station"], said(told["says"])


def test_the_shop_board_says_what_comes_next(api: Api, drawer: Project) -> None:
    card = api.ok("get", "shop-board")[0]
    assert (card["face"]["next"]["station"], card["pieces_cut"], card["face"]["parts"]) == ("run", 7, 10)
    stock = birch(api)["value"]["id"]
    api.ok("post", f"stocks/{stock}/readings", {"thickness_mm": 3.2})
    assert next_of(api) == ("dry-fit", "dry fit again")
    api.ok("post", f"projects/{drawer.pk}/dry-fit")
    assert next_of(api) == ("lay-out", "lay out again")
    api.ok("post", "projects", {"name": "Row label box"})
    assert next_of(api) == ("dry-fit", "try the dry fit")


def test_the_shop_board_shows_what_it_has_and_builds_at_least_one_more_whenever_it_is_asked(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shopboard, "MOMENT_S", 0.0)
    monkeypatch.setattr(shopboard, "_drawn", {})
    first = api.ok("get", "shop-board")
    for asked in range(1, len(first)):
        assert sum(c["face"] is not None for c in api.ok("get", "shop-board")) == asked + 1
    assert [c["name"] for c in first] == [c["name"] for c in api.ok("get", "shop-board")]


def test_a_project_that_cannot_be_built_is_shown_as_one_to_fix(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    def never(*_: object, **__: object) -> Any:
        raise DesignError("No such panel.")

    monkeypatch.setattr(queries, "build", never)
    monkeypatch.setattr(queries, "_kept", OrderedDict())
    monkeypatch.setattr(shopboard, "_drawn", {})
    for card in api.ok("get", "shop-board"):
        face = card["face"]
        assert face is None or (face["next"]["station"], said(face["next"]["says"]), face["parts"]) == ("build", "1 to fix on Build", 0)
    assert any(c["face"] for c in api.ok("get", "shop-board"))


def test_a_new_reading_recuts_joints_and_marks_later_stations_as_changed_since(api: Api, drawer: Project) -> None:
    before = api.ok("get", f"projects/{drawer.pk}/build")
    stock = birch(api)
    changed = api.ok("post", f"stocks/{stock['value']['id']}/readings", {"thickness_mm": 3.2})
    assert changed["value"]["thickness"]["value"] == pytest.approx((3.06 + 3.11 + 3.08 + 3.05 + 3.10 + 3.2) / 6)
    after = api.ok("get", f"projects/{drawer.pk}/build")
    gain = changed["value"]["thickness"]["value"] - stock["value"]["thickness"]["value"]
    laps = {f["id"]: f["width_mm"] for p in before["parts"] for f in p["features"]}
    moved = {f["id"]: f["width_mm"] - laps[f["id"]] for p in after["parts"] for f in p["features"]}
    # walnut dividers are in birch walls and base: no slot depends on birch; corners of birch keep their cells but where height is shared
    slots = [v for k, v in moved.items() if "/slot" in k]
    assert slots
    assert max(abs(v) for v in slots) == pytest.approx(0, abs=1e-9)
    assert max(abs(v) for v in moved.values()) <= 2 * gain
    told = stations(api, drawer)
    assert [k for k, s in told.items() if s["stale"]] == ["dry-fit", "lay-out", "cut-plan"]
    api.ok("post", f"projects/{drawer.pk}/dry-fit")
    assert not stations(api, drawer)["dry-fit"]["stale"]
    api.ok("put", f"readings/{changed['readings'][-1]['id']}", {"withdrawn": True})
    assert birch(api)["value"] == stock["value"]
    assert not stations(api, drawer)["lay-out"]["stale"]
    api.ok("put", f"readings/{changed['readings'][-1]['id']}", {"withdrawn": False})
    assert birch(api)["value"] == changed["value"]


def test_stale_plans_give_no_files_and_no_run(api: Api, drawer: Project) -> None:
    api.ok("post", f"stocks/{birch(api)['value']['id']}/readings", {"thickness_mm": 3.2})
    response = api("get", f"projects/{drawer.pk}/files/all.zip")
    assert response.status_code == 422
    assert "Plan again" in response.json()["message"]
    response = api("post", f"projects/{drawer.pk}/runs", {"sheet": 2, "ticked": []})
    assert response.status_code == 422
    response = api("post", f"projects/{drawer.pk}/cut-plan")
    assert "Pack again" in response.json()["message"]


def test_two_people_cannot_overwrite_each_other_silently(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    other = someone(Role.DESIGNER)
    mine, theirs = (a.ok("get", f"projects/{drawer.pk}") for a in (api, other))
    theirs["design"]["numbers"]["height"] = 70.0
    other.ok("put", f"projects/{drawer.pk}/design", {"base": theirs["revision"], "design": theirs["design"], "label": "Higher"})
    mine["design"]["numbers"]["width"] = 240.0
    response = api("put", f"projects/{drawer.pk}/design", {"base": mine["revision"], "design": mine["design"], "label": "Wider"})
    assert response.status_code == 409
    told = response.json()
    assert "Higher" in said(told["says"])
    assert told["theirs"]["design"]["numbers"]["height"] == 70.0
    saved = api.ok("put", f"projects/{drawer.pk}/design", {"base": told["theirs"]["revision"], "design": mine["design"], "label": "Wider"})
    assert saved["revision"] == theirs["revision"] + 2


def test_undo_and_redo_walk_the_revisions_and_an_edit_ends_redo(api: Api, drawer: Project) -> None:
    path = f"projects/{drawer.pk}"
    head = api.ok("get", path)["revision"]
    for expected in (head - 1, head - 2):
        assert api.ok("post", f"{path}/undo", {"base": expected + 1})["revision"] == expected
    back = api.ok("post", f"{path}/redo", {"base": head - 2})
    assert (back["revision"], back["can_redo"]) == (head - 1, True)
    back["design"]["numbers"]["depth"] = 133.0
    edited = api.ok("put", f"{path}/design", {"base": head - 1, "design": back["design"], "label": "Deeper"})
    assert (edited["revision"], edited["can_redo"]) == (head + 1, False)
    assert api.ok("post", f"{path}/undo", {"base": head + 1})["revision"] == head - 1


def test_other_shops_see_nothing(drawer: Project, someone: Callable[..., Api], api: Api) -> None:
    stranger = someone(Role.OWNER, elsewhere=True)
    stock = birch(api)["value"]["id"]
    assert stranger.ok("get", "shop-board") == []
    assert stranger.ok("get", "rack")["stocks"] == []
    for path in ("", "/build", "/lay-out", "/cut-plan", "/runs", "/strip", "/files/all.zip"):
        assert stranger("get", f"projects/{drawer.pk}{path}").status_code == 404
    assert stranger("post", f"stocks/{stock}/readings", {"thickness_mm": 3}).status_code == 404
    assert stranger("get", f"runs/{Run.objects.get().pk}").status_code == 404


def test_roles_limit_what_may_be_done(drawer: Project, someone: Callable[..., Api]) -> None:
    viewer, operator = someone(Role.VIEWER), someone(Role.OPERATOR)
    project = viewer.ok("get", f"projects/{drawer.pk}")
    body = {"base": project["revision"], "design": project["design"], "label": "x"}
    assert viewer("put", f"projects/{drawer.pk}/design", body).status_code == 403
    assert operator("put", f"projects/{drawer.pk}/design", body).status_code == 403
    assert viewer("post", f"projects/{drawer.pk}/runs", {"sheet": 1, "ticked": []}).status_code == 403


def test_an_owner_adds_people_and_a_shop_keeps_an_owner(api: Api, someone: Callable[..., Api]) -> None:
    designer = someone(Role.DESIGNER)
    assert designer("post", "people", {"username": "hazel", "password": "a-long-password"}).status_code == 403
    people = {p["username"]: p for p in api.ok("post", "people", {"username": "hazel", "password": "a-long-password", "role": "viewer"})}
    assert people["hazel"]["role"] == "viewer"
    assert api.ok("put", f"people/{people['hazel']['id']}", {"role": "operator"})
    assert "needs an owner" in api("put", f"people/{people['alder']['id']}", {"role": "viewer"}).json()["message"]
    left = api.ok("put", f"people/{people['hazel']['id']}", {"role": None})
    assert "hazel" not in {p["username"] for p in left}
    stranger = someone(Role.OWNER, elsewhere=True)
    assert stranger("put", f"people/{people['alder']['id']}", {"role": None}).status_code == 422


def test_without_signing_in_there_is_nothing(client: Any, drawer: Project) -> None:
    assert client.get(f"/api/projects/{drawer.pk}").status_code == 401
    assert client.post("/api/sign-in", {"username": "alder", "password": "no"}, content_type="application/json").status_code == 401


@pytest.mark.parametrize(
    ("method", "path", "body", "told"),
    [
        ("post", "numbers", {"text": "three", "unit": "mm"}, "not a length"),
        ("post", "numbers", {"text": "1e9", "unit": "mm"}, "not a length"),
        ("post", "numbers", {"text": "3mm"}, "has a unit"),
        ("post", "people", {"username": "alder", "password": "a-long-password"}, "taken"),
        ("post", "people", {"username": "a b", "password": "a-long-password"}, "letters"),
        ("post", "people", {"username": "hazel", "password": "short"}, "too short"),
        ("post", "stocks/{stock}/readings", {"thickness_mm": 0}, "between 0.05 mm and 50"),
        ("post", "stocks/{stock}/readings", {"thickness_mm": -3}, "between"),
        ("post", "stocks/{stock}/readings", {"thickness_mm": "abc"}, "thickness_mm"),
        ("post", "stocks/{stock}/readings", {}, "thickness_mm"),
        ("post", "stocks/{stock}/kerf-tests", {"kind": "gap", "drawn_mm": 5.2, "measured_mm": 5.0}, "not swapped"),
        ("post", "stocks/{stock}/kerf-tests", {"kind": "guess", "drawn_mm": 5, "measured_mm": 5.1}, "kind"),
        ("post", "stocks/{stock}/sheets", {"width_mm": 0, "height_mm": 400}, "sheet width"),
        ("post", "stocks/{stock}/sheets", {"width_mm": 1e9, "height_mm": 400}, "sheet width"),
        ("post", "stocks", {"name": " ", "material": "plywood", "label_mm": 3}, "name"),
        ("post", "stocks", {"name": "x", "material": "cheese", "label_mm": 3}, "material"),
        ("post", "projects", {"name": "", "numbers": {"family": "box", "width": 100}}, "name"),
        ("post", "projects", {"name": "x", "numbers": {"family": "box", "width": 1e9}}, "width"),
        ("post", "projects/{project}/lay-out/pack", {"margin_mm": -1, "spacing_mm": 2, "keep_grain": False, "copies": 1, "seconds": 2}, "margin"),
        ("post", "projects/{project}/lay-out/pack", {"margin_mm": 1, "spacing_mm": 2, "keep_grain": False, "copies": 10**9, "seconds": 2}, "copies"),
        (
            "put",
            "stocks/{stock}/settings",
            {"settings": {"cut": {"power": 400, "speed": 10}, "score": {"power": 10, "speed": 100}, "engrave": {"power": 10, "speed": 100}}, "tried": ["cut"]},
            "power",
        ),
    ],
)
def test_bad_input_is_told_in_words_and_changes_nothing(api: Api, drawer: Project, method: str, path: str, body: Any, told: str) -> None:
    import re

    before = (Stock.objects.count(), Sheet.objects.count(), Project.objects.count(), birch(api))
    response = api(method, path.format(stock=birch(api)["value"]["id"], project=drawer.pk), body)
    assert response.status_code == 422
    assert re.search(told, response.json()["message"]), response.json()
    assert before == (Stock.objects.count(), Sheet.objects.count(), Project.objects.count(), birch(api))


def test_an_impossible_design_is_kept_and_its_number_is_named(api: Api, drawer: Project) -> None:
    project = api.ok("get", f"projects/{drawer.pk}")
    project["design"]["numbers"]["columns"] = 40
    api.ok("put", f"projects/{drawer.pk}/design", {"base": project["revision"], "design": project["design"], "label": "Too many"})
    build = api.ok("get", f"projects/{drawer.pk}/build")
    assert build["parts"] == []
    assert "columns" in {f["field"] for f in build["findings"]}
    assert stations(api, drawer)["build"]["dot"] == "red"
    api.ok("post", f"projects/{drawer.pk}/dry-fit")


def test_a_ledger_goes_from_the_reading_to_the_file(api: Api, drawer: Project) -> None:
    meeting = api.ok("get", f"projects/{drawer.pk}/meetings/column-1+front")
    slot = next(f for f in meeting["features"] if f["feature"]["kind"] == "slot")
    assert [t["kind"] for t in slot["drawn"]["terms"]] == ["measured", "fit", "kerf"]
    assert slot["drawn"]["value"] == pytest.approx(sum(t["value"] for t in slot["drawn"]["terms"]))
    assert sum(meeting["chances"]["chances"][k] for k in ("rattles", "slides", "snug", "mallet", "wont_go")) == pytest.approx(1)


def test_the_zip_holds_files_for_each_sheet(api: Api, drawer: Project) -> None:
    response = api("get", f"projects/{drawer.pk}/files/all.zip")
    names = zipfile.ZipFile(io.BytesIO(response.content)).namelist()
    sheets = [f"sheet{i}.{end}" for i in (1, 2) for end in ("svg", "dxf", "pdf", "gcode")]
    assert names == [f"seed-packet-drawer-r6-{n}" for n in (*sheets, "run-sheet.pdf", "cut-list.csv", "assembly.stl", "assembly.glb")]
    one = api("get", f"projects/{drawer.pk}/files/sheet-2.gcode")
    assert one.content.startswith(b"(Seed packet drawer, revision 6, sheet 2 of 2")
    assert one.content == zipfile.ZipFile(io.BytesIO(response.content)).read(names[7])


def test_cuts_are_put_in_another_order_and_what_is_warned_of_is_accepted_once(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    told = api.ok("get", f"projects/{drawer.pk}/cut-plan")
    ids = [s["path"]["id"] for s in told["plan"]["sheets"][0]["strokes"]]
    ranges = api.ok("get", f"projects/{drawer.pk}/cut-plan/order/0")
    at = next(i for i, (_, last) in enumerate(ranges) if last > i)
    body = {"version": told["version"], "sheet": 0, "path": ids[at], "to": at + 1}
    assert someone(Role.VIEWER)("post", f"projects/{drawer.pk}/cut-plan/move", body).status_code == 403
    assert "so early" in api("post", f"projects/{drawer.pk}/cut-plan/move", body | {"path": ids[-1], "to": 0}).json()["message"]
    after = api.ok("post", f"projects/{drawer.pk}/cut-plan/move", body)
    ids[at], ids[at + 1] = ids[at + 1], ids[at]
    assert [s["path"]["id"] for s in after["plan"]["sheets"][0]["strokes"]] == ids
    assert after["fresh"]
    assert api("post", f"projects/{drawer.pk}/cut-plan/move", body).status_code == 409  # made on what is no more
    assert after["accepted"] is None
    accepted = api.ok("post", f"projects/{drawer.pk}/cut-plan/accept", {"version": after["version"]})
    assert accepted["accepted"]["by"] == "alder"
    again = api.ok("post", f"projects/{drawer.pk}/cut-plan/move", body | {"version": accepted["version"], "path": ids[at]})
    assert again["accepted"] == accepted["accepted"]  # another order warns of nothing new
    assert api.ok("get", f"projects/{drawer.pk}/cut-plan")["accepted"] == accepted["accepted"]
    assert api.ok("post", f"projects/{drawer.pk}/cut-plan")["accepted"] is None  # another plan is read again


PACK = {"margin_mm": 5, "spacing_mm": 2, "keep_grain": False, "copies": 1, "seconds": 0.1, "seed": 1}


def test_a_second_request_for_the_same_packing_joins_the_first(api: Api, drawer: Project) -> None:
    path = f"projects/{drawer.pk}/lay-out/pack"
    api.ok("post", path, PACK)
    api.ok("post", path, PACK)
    assert StageJob.objects.filter(stage="lay-out").count() == 1
    api.ok("post", path, {**PACK, "copies": 2})
    assert [j.state for j in StageJob.objects.filter(stage="lay-out").order_by("pk")] == [JobState.STOPPED, JobState.WAITING]


def test_a_packing_whose_worker_died_ends_properly_when_run_again(api: Api, drawer: Project) -> None:
    api.ok("post", f"projects/{drawer.pk}/lay-out/pack", PACK)
    job = StageJob.objects.get(stage="lay-out")
    StageJob.objects.filter(pk=job.pk).update(state=JobState.RUNNING, attempts=1)  # as a killed worker leaves it
    kept = api.ok("get", f"projects/{drawer.pk}/lay-out")["nesting"]
    assert kept["sheets"]
    pack_job(job_id=job.pk)
    job.refresh_from_db()
    assert (job.state, job.attempts) == (JobState.DONE, 2)
    kept = StageResult.objects.get(project=drawer, stage="lay-out")
    pack_job(job_id=job.pk)  # and a third time changes nothing
    assert StageResult.objects.get(project=drawer, stage="lay-out").created == kept.created
    job.refresh_from_db()
    assert job.attempts == 2


@pytest.mark.django_db(transaction=True)
def test_the_true_worker_packs(api: Api, drawer: Project) -> None:
    api.ok("post", f"projects/{drawer.pk}/lay-out/pack", PACK)
    with jobs_app.replace_connector(jobs_app.connector.get_worker_connector()) as worker:
        worker.run_worker(wait=False, queues=["stage"], install_signal_handlers=False, listen_notify=False)
    out = api.ok("get", f"projects/{drawer.pk}/lay-out")
    assert out["job"]["state"] == "done"
    assert out["fresh"]
    assert sum(len(s["placements"]) for s in out["nesting"]["sheets"]) == 10


def test_stop_before_a_worker_came_ends_the_job(api: Api, drawer: Project) -> None:
    api.ok("post", f"projects/{drawer.pk}/lay-out/pack", PACK)
    assert api.ok("post", f"projects/{drawer.pk}/lay-out/stop")["job"]["state"] == "stopped"


def test_logging_takes_stock_down_and_teaches_the_time(api: Api, drawer: Project) -> None:
    shelf = Sheet.objects.get(name="Walnut 3, 450 × 300")
    before = api.ok("get", f"projects/{drawer.pk}/runs")
    ticked = ticks(before["checklists"]["2"])
    refused = api("post", f"projects/{drawer.pk}/runs", {"sheet": 2, "ticked": ticked[:-1]})
    assert "Tick this first" in refused.json()["message"]
    run = api.ok("post", f"projects/{drawer.pk}/runs", {"sheet": 2, "ticked": ticked})
    busy = api("post", f"projects/{drawer.pk}/runs", {"sheet": 2, "ticked": ticked})
    assert "busy" in busy.json()["message"]
    log = {"actual_s": run["expected_s"] * 1.2, "good": 3, "spoiled": 0, "feel": "snug"}
    assert "not ended" in api("post", f"runs/{run['id']}/log", log).json()["message"]
    Run.objects.filter(pk=run["id"]).update(state=RunState.DONE)
    assert "good pieces" in api("post", f"runs/{run['id']}/log", {**log, "good": 99}).json()["message"]
    stays = api.ok("get", f"projects/{drawer.pk}/runs")["runs"][0]["remains"]
    assert api("post", f"runs/{run['id']}/log", {**log, "keep": [len(stays)]}).status_code == 422
    api.ok("post", f"runs/{run['id']}/log", {**log, "keep": [0]})
    assert api("post", f"runs/{run['id']}/log", log).status_code == 422
    kept = Sheet.objects.get(stock=shelf.stock, is_offcut=True, name__startswith="Offcut")
    assert (kept.width_mm, kept.height_mm) == pytest.approx((stays[0]["width"], stays[0]["height"]))
    assert [tuple(p) for p in kept.outline] == [tuple(p) for p in stays[0]["outline"]]
    assert 0 < kept.price < shelf.price
    shelf.refresh_from_db()
    assert shelf.count == 2
    after = api.ok("get", f"projects/{drawer.pk}/runs")
    assert after["factor_runs"] == before["factor_runs"] + 1
    assert after["factor"] == pytest.approx((before["factor"] + 1.2) / 2, abs=0.01)
    assert said(stations(api, drawer)["run"]["says"]) == "2 of 2 cut"
    Run.objects.filter(pk=run["id"]).update(log={**log, "good": 0, "spoiled": 3})
    told = stations(api, drawer)["run"]
    assert (said(told["says"]), told["dot"]) == ("2 of 2 cut, 3 spoiled", "amber")


def test_a_machine_that_is_not_there_is_said(api: Api, drawer: Project, settings: Any) -> None:
    from apps.runs.tasks import follow_run

    settings.LASER_ADDRESS = "127.0.0.1:1"
    run = api.ok("post", f"projects/{drawer.pk}/runs", {"sheet": 2, "ticked": ticks(runs.checklist_for(drawer, 2))})
    follow_run(run_id=run["id"])
    ended = api.ok("get", f"runs/{run['id']}")
    assert ended["state"] == "failed"
    assert "does not answer" in said(ended["says"])


def test_a_project_that_is_put_away_or_deleted_comes_back_as_it_was_until_it_is_gone_for_good(api: Api, drawer: Project) -> None:
    Run.objects.filter(project=drawer).delete()
    before = api.ok("get", f"projects/{drawer.pk}")
    place = lambda where: api.ok("put", f"projects/{drawer.pk}/place", {"place": where})  # noqa: E731
    assert [(p["id"], p["place"], p["gone_on"]) for p in place("away")] == [(drawer.pk, "away", None)]
    assert drawer.pk not in [c["id"] for c in api.ok("get", "shop-board")]
    (deleted,) = place("deleted")
    assert datetime.fromisoformat(deleted["gone_on"]) - datetime.fromisoformat(deleted["since"]) == timedelta(days=30)
    assert clear_out() == 0
    assert place("board") == []
    assert api.ok("get", f"projects/{drawer.pk}") == before
    place("deleted")
    Project.objects.filter(pk=drawer.pk).update(deleted=timezone.now() - timedelta(days=31))
    run = Run.objects.create(
        project=drawer, plan_print="", revision=1, sheet=0, expected_s=1, moves=[], state=RunState.RUNNING, by=get_user_model().objects.all()[0]
    )
    assert clear_out() == 0  # the log needs it
    assert "on the machine" in api("put", f"projects/{drawer.pk}/place", {"place": "away"}).content.decode()
    run.delete()
    assert clear_out() == 1
    assert api("get", f"projects/{drawer.pk}").status_code == 404
