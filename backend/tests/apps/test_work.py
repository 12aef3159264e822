"""What the worker does: long work ends as done, stopped or failed with words, and leaves what was there when it fails."""

from __future__ import annotations

import asyncio
import importlib
from types import SimpleNamespace
from typing import Any

import pytest

from apps.cards import services as cards
from apps.cards.making import laid_out
from apps.cards.models import Card, CardResult
from apps.designs import jobs, queries
from apps.designs.models import JobState, Project, Revision, Stage, StageJob, StageResult
from apps.designs.services import start_project
from apps.designs.tasks import check_job, rescue_stalled
from apps.layouts.convert import ASKED, NESTING
from apps.layouts.services import default_request
from apps.layouts.tasks import pack_job
from apps.plans.services import stored_plan
from apps.plans.tasks import plan_job
from apps.sheets import convert, services
from apps.sheets.models import Machine, Sheet, Stock
from notchcore.errors import MeasureError
from tests.apps.conftest import Api
from tests.replay import replay
from tests.rows import said


def asked(project: Project, stage: Stage, **request: Any) -> StageJob:
    return jobs.request_job(project=project, stage=stage, made_from="now", request=request, defer=lambda _: None)


def test_a_check_in_the_worker_keeps_what_a_check_in_the_request_would(api: Api, drawer: Project) -> None:
    before = api.ok("get", f"projects/{drawer.pk}/dry-fit")["result"]
    StageResult.objects.filter(project=drawer, stage=Stage.DRY_FIT).delete()
    job = asked(drawer, Stage.DRY_FIT)
    check_job(job_id=job.pk)
    job.refresh_from_db()
    assert (job.state, job.attempts) == (JobState.DONE, 1)
    assert api.ok("get", f"projects/{drawer.pk}/dry-fit")["result"] == before
    check_job(job_id=job.pk)  # the queue may hand out ended work once more
    job.refresh_from_db()
    assert (job.state, job.attempts) == (JobState.DONE, 1)


@pytest.mark.parametrize(("task", "stage"), [(check_job, Stage.DRY_FIT), (plan_job, Stage.CUT_PLAN), (pack_job, Stage.LAY_OUT)])
def test_work_that_cannot_be_done_fails_in_words_and_leaves_the_last_result(drawer: Project, task: Any, stage: Stage) -> None:
    before = list(StageResult.objects.filter(project=drawer).order_by("pk").values_list("stage", "payload"))
    row = Revision.objects.get(project=drawer, number=drawer.head)
    row.design["stocks"] = dict.fromkeys(row.design["stocks"], "999999")  # a stock that somebody took off the rack by other means
    row.save()
    job = asked(drawer, stage, **(default_request_of(drawer) if stage is Stage.LAY_OUT else {}))
    task(job_id=job.pk)
    job.refresh_from_db()
    assert job.state == JobState.FAILED
    assert "no longer on the rack" in said(job.says)
    assert list(StageResult.objects.filter(project=drawer).order_by("pk").values_list("stage", "payload")) == before


def default_request_of(project: Project) -> dict[str, Any]:
    return {"margin_mm": 5.0, "spacing_mm": 2.0, "keep_grain": False, "copies": 1, "seconds": 0.1, "seed": 1}


def test_a_packing_reports_each_better_answer_and_keeps_the_last(drawer: Project) -> None:
    job = asked(drawer, Stage.LAY_OUT, **ASKED.dump_python(default_request(drawer, seconds=0.3), mode="json"))
    pack_job(job_id=job.pk)
    job.refresh_from_db()
    assert job.state == JobState.DONE
    trace = job.progress["trace"]
    assert [t[0] for t in trace] == sorted(t[0] for t in trace)
    kept = NESTING.validate_python(StageResult.objects.get(project=drawer, stage=Stage.LAY_OUT).payload["nesting"])
    assert kept.utilisation == pytest.approx(trace[-1][1], abs=1e-4)
    assert sum(len(s.placements) for s in kept.sheets) == len(queries.current(drawer).assembly.parts)


def test_a_stopped_packing_says_so_and_keeps_its_best(drawer: Project) -> None:
    job = asked(drawer, Stage.LAY_OUT, **ASKED.dump_python(default_request(drawer, seconds=60.0), mode="json"))
    StageJob.objects.filter(pk=job.pk).update(stop_wanted=True)
    pack_job(job_id=job.pk)
    job.refresh_from_db()
    assert job.state == JobState.STOPPED
    assert not NESTING.validate_python(StageResult.objects.get(project=drawer, stage=Stage.LAY_OUT).payload["nesting"]).unplaced


def test_a_plan_in_the_worker_is_the_plan_of_the_request(drawer: Project) -> None:
    before = stored_plan(drawer)
    assert before is not None
    job = asked(drawer, Stage.CUT_PLAN)
    plan_job(job_id=job.pk)
    job.refresh_from_db()
    after = stored_plan(drawer)
    assert after is not None
    assert (job.state, after[0].made_from) == (JobState.DONE, before[0].made_from)
    paths = [[s.path.id for s in sheet.strokes] for sheet in after[1].sheets]
    assert paths == [[s.path.id for s in sheet.strokes] for sheet in before[1].sheets]


def test_the_rescue_puts_stalled_jobs_back(monkeypatch: pytest.MonkeyPatch) -> None:
    retried: list[str] = []

    class Jobs:
        async def get_stalled_jobs(self, *, seconds_since_heartbeat: int) -> list[str]:
            assert seconds_since_heartbeat == 30
            return ["a", "b"]

        async def retry_job(self, job: str) -> None:
            retried.append(job)

    monkeypatch.setattr("apps.designs.tasks.app", SimpleNamespace(job_manager=Jobs()))
    asyncio.run(rescue_stalled(SimpleNamespace(), 0))
    assert retried == ["a", "b"]


# -- cards under the same rules ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", cards.NAMES)
def test_every_card_is_planned_in_an_order_that_holds(drawer: Project, kind: str) -> None:
    """An independent replay: nothing is cut before what must precede it, and every mark of the card is burned once."""
    here = cards.Here(member=drawer.shop.members.get(user__username="alder"), machine=drawer.machine)
    birch = Stock.objects.get(name="Birch ply 3, batch 12")
    card = cards.make_card(stock=birch, tongue=birch, here=here, kind=kind)
    minutes = laid_out(card.project, make=True)
    assert minutes is not None
    stored = stored_plan(card.project)
    assert stored is not None
    strokes = [s for sheet in stored[1].sheets for s in sheet.strokes]
    paths = [s.path for s in strokes]
    assert replay(paths) == []
    assembly = queries.current(card.project).assembly
    wanted = sum(len(p.marks) + 1 + len(p.profile.holes) for p in assembly.parts)
    assert len(paths) == len({p.id for p in paths}) == wanted
    assert stored[1].sheets[0].name == "Offcut 17"  # the cheapest sheet that holds it


def test_two_people_cannot_leave_two_results_at_one_place(drawer: Project) -> None:
    card = Card.objects.get(kind="gauge")
    here = cards.Here(member=drawer.shop.members.get(user__username="alder"), machine=drawer.machine)
    for feel in ("snug", "slides", "snug"):
        cards.enter(card=card, here=here, entries=[("slot3", {"feel": feel})])
    rows = CardResult.objects.filter(card=card, cell="slot3").order_by("pk")
    assert [r.withdrawn for r in rows] == [True, True, True, False]
    assert [bool(r.feel and r.feel.withdrawn) for r in rows] == [True, True, True, False]


def test_a_list_with_one_wrong_entry_changes_nothing(drawer: Project) -> None:
    card = Card.objects.get(kind="gauge")
    here = cards.Here(member=drawer.shop.members.get(user__username="alder"), machine=drawer.machine)
    before = list(CardResult.objects.order_by("pk").values_list("pk", "withdrawn"))
    with pytest.raises(MeasureError, match="no such cell"):
        cards.enter(card=card, here=here, entries=[("slot3", {"feel": "snug"}), ("slot77", {"feel": "snug"})])
    assert list(CardResult.objects.order_by("pk").values_list("pk", "withdrawn")) == before


def test_a_card_is_left_as_it_was_cut_when_evidence_changes(api: Api, drawer: Project) -> None:
    card = Card.objects.get(kind="gauge")
    before = [(c.id, c.label, c.value) for c in cards.drawn(card).piece.cells]
    birch = Stock.objects.get(name="Birch ply 3, batch 12")
    api.ok("post", f"stocks/{birch.pk}/kerf-tests", {"kind": "gap", "drawn_mm": 5, "measured_mm": 5.3})
    api.ok("post", f"stocks/{Stock.objects.get(name='Walnut 3').pk}/readings", {"thickness_mm": 3.6})
    assert [(c.id, c.label, c.value) for c in cards.drawn(card).piece.cells] == before


# -- data of the version before -------------------------------------------------------------------------------------------------


def test_settings_of_the_version_before_become_three_beams() -> None:
    moved = importlib.import_module("apps.sheets.migrations.0002_evidence").beams(
        {"cut_power": 62, "cut_speed": 14, "passes": 2, "score_power": 12, "score_speed": 120, "air": False, "source": "power card, 12 May"}
    )
    settings = convert.SETTINGS.validate_python(moved)
    assert (settings.cut.power, settings.cut.speed, settings.cut.passes, settings.cut.air) == (62, 14, 2, False)
    assert (settings.score.power, settings.score.speed, settings.source) == (12, 120, "power card, 12 May")
    assert not convert.SETTINGS.validate_python(importlib.import_module("apps.sheets.migrations.0002_evidence").beams({})).tested()


def test_a_card_of_the_version_before_counts_for_its_own_operation_only() -> None:
    by_operation = importlib.import_module("apps.sheets.migrations.0004_settings_by_operation").by_operation
    beam = {"power": 60.0, "speed": 10.0}
    beams = {"cut": beam, "score": beam, "engrave": beam}
    card = convert.SETTINGS.validate_python({**by_operation(beams, "power card, 2026-05-12"), "source": "power card, 2026-05-12"})
    assert [card.tested(o) for o in ("cut", "score", "engrave")] == [True, False, False]
    kept = convert.SETTINGS.validate_python({**by_operation(beams, "tried by alder, 2026-05-12"), "source": "tried by alder"})
    assert all(kept.tested(o) for o in ("cut", "score", "engrave"))
    lent = convert.SETTINGS.validate_python({**by_operation(beams, "power card, 2026-05-12"), "source": "borrowed from Walnut 3", "borrowed": True})
    assert (lent.source_of("cut"), lent.tested("cut")) == ("borrowed from Walnut 3", False)


def test_a_design_of_the_version_before_still_opens_and_saves(api: Api, drawer: Project) -> None:
    row = Revision.objects.get(project=drawer, number=drawer.head)
    before = queries.current(drawer).design
    del row.design["numbers"]["family"]
    row.save()
    assert queries.current(drawer).design == before
    row.design["numbers"]["height"] = 70.0
    body = {"base": row.number, "design": row.design, "label": "Higher, by an old page"}
    assert api.ok("put", f"projects/{drawer.pk}/design", body)["design"]["numbers"]["height"] == 70.0


def test_a_project_starts_in_the_stock_and_feel_that_it_was_carried_from(drawer: Project) -> None:
    member = drawer.shop.members.get(user__username="alder")
    from notchcore.measure.fit import Feel

    walnut = Stock.objects.get(name="Walnut 3")
    made = start_project(member=member, name="Row label box", stock_id=walnut.pk, feel=Feel.SLIDES)
    design = queries.current(made).design
    assert (set(design.stocks.values()), design.feel) == ({str(walnut.pk)}, Feel.SLIDES)


def test_a_stock_that_nobody_uses_goes_with_its_evidence_and_sheets(drawer: Project) -> None:
    corrugated = Stock.objects.get(name="Corrugated 4")
    services.remove_stock(stock=corrugated)
    assert not Sheet.objects.filter(stock_id=corrugated.pk).exists()
    assert Machine.objects.filter(shop=drawer.shop).count() == 1


def test_a_job_that_ends_while_the_page_is_read_is_not_told_as_ended_with_an_old_layout(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    """The worker publishes and ends between the two reads: the page must then look once more, so the job is still told as open."""
    job = asked(drawer, Stage.LAY_OUT, **ASKED.dump_python(default_request(drawer, seconds=0.1), mode="json"))
    assert jobs.begin(job.pk) is not None
    real = queries.result_of

    def meanwhile(now: queries.Current, stage: Stage) -> StageResult | None:
        row = real(now, stage)
        jobs.finish(job.pk, JobState.STOPPED)
        return row

    monkeypatch.setattr(queries, "result_of", meanwhile)
    assert api.ok("get", f"projects/{drawer.pk}/lay-out")["job"]["state"] == "running"
    monkeypatch.undo()
    assert api.ok("get", f"projects/{drawer.pk}/lay-out")["job"]["state"] == "stopped"
