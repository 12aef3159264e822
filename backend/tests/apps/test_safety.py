"""Every write is safe under two people at once, and everybody may do what their role says, no more."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import Any

import pytest
from django.db import connection

from apps.accounts.models import Role
from apps.designs import jobs
from apps.designs.models import JobState, Project, Revision, Stage, StageJob
from apps.designs.services import SavedMeanwhile, save_design
from apps.runs import demo
from apps.runs.models import Run, RunState
from apps.runs.services import checklist_for, log_run
from apps.sheets.models import Sheet
from notchcore.errors import NotchCoreError
from tests.apps.conftest import Api
from tests.rows import put_back, ticks


def at_once(work: Callable[[int], Any], count: int = 4) -> list[Any]:
    """Run the same thing in several threads, started together; return results or errors."""
    gate = Barrier(count)

    def one(i: int) -> Any:
        try:
            gate.wait(10)
            return work(i)
        except (SavedMeanwhile, NotchCoreError) as problem:
            return problem
        finally:
            connection.close()

    with ThreadPoolExecutor(count) as pool:
        return list(pool.map(one, range(count)))


@pytest.fixture
def committed(rows: str, transactional_db: None) -> Project:
    if not Project.objects.exists():
        put_back(rows)
    return Project.objects.select_related("shop", "machine").get(name="Seed packet drawer")


@pytest.mark.django_db(transaction=True)
def test_of_several_saves_on_one_revision_exactly_one_counts(committed: Project) -> None:
    from dataclasses import replace

    from apps.accounts.models import Member
    from apps.designs.convert import design_of

    member = Member.objects.select_related("user", "shop").get(user__username=demo.USER)
    base = committed.head
    design = design_of(Revision.objects.get(project=committed, number=base))
    wider = [replace(design, numbers=replace(design.numbers, width=220.0 + i)) for i in range(4)]
    done = at_once(lambda i: save_design(project_id=committed.pk, member=member, base=base, design=wider[i], label=f"{i}"))
    assert sum(isinstance(d, SavedMeanwhile) for d in done) == 3
    committed.refresh_from_db()
    assert committed.head == base + 1
    assert Revision.objects.filter(project=committed).count() == base + 1


@pytest.mark.django_db(transaction=True)
def test_of_several_requests_for_one_packing_one_job_is_made(committed: Project) -> None:
    queued: list[int] = []

    def ask(_: int) -> int:
        return jobs.request_job(project=committed, stage=Stage.LAY_OUT, made_from="same", request={"seed": 1}, defer=queued.append).pk

    assert len(set(at_once(ask))) == 1
    assert len(queued) == 1
    assert StageJob.objects.filter(project=committed, stage=Stage.LAY_OUT, state=JobState.WAITING).count() == 1


@pytest.mark.django_db(transaction=True)
def test_a_run_is_logged_once_and_takes_one_sheet(committed: Project) -> None:
    from apps.accounts.models import Member
    from apps.runs.services import start_run

    member = Member.objects.select_related("user", "shop").get(user__username=demo.USER)
    run = start_run(project=committed, member=member, sheet=1, ticked=ticks(checklist_for(committed, 1)))
    Run.objects.filter(pk=run.pk).update(state=RunState.DONE)
    shelf = Sheet.objects.get(pk=int(run.shelf_sheet))
    before = shelf.count
    log = {"actual_s": 100.0, "good": 1, "spoiled": 0, "cut_through": 100, "feel": "", "note": ""}
    done = at_once(lambda _: log_run(run_id=run.pk, **log))
    assert sum(isinstance(d, NotchCoreError) for d in done) == 3
    shelf.refresh_from_db()
    assert shelf.count == max(before - 1, 0)


def test_a_job_that_was_replaced_can_neither_keep_nor_end(drawer: Project) -> None:
    queued: list[int] = []
    first = jobs.request_job(project=drawer, stage=Stage.LAY_OUT, made_from="a", request={}, defer=queued.append)
    assert jobs.begin(first.pk) is not None
    assert jobs.may_keep(first.pk)
    second = jobs.request_job(project=drawer, stage=Stage.LAY_OUT, made_from="b", request={}, defer=queued.append)
    assert jobs.stop_wanted(first.pk)
    assert not jobs.may_keep(first.pk)
    jobs.finish(first.pk, JobState.DONE)
    first.refresh_from_db()
    assert first.state == JobState.STOPPED
    assert jobs.begin(first.pk) is None
    assert jobs.latest(drawer, Stage.LAY_OUT) == second
    assert queued == [first.pk, second.pk]


WRITES: list[tuple[str, str, Any, Role]] = [
    ("post", "projects", {"name": "Row label box"}, Role.DESIGNER),
    ("put", "projects/{project}/name", {"name": "Drawer"}, Role.DESIGNER),
    ("post", "projects/{project}/undo", {"base": 6}, Role.DESIGNER),
    ("post", "projects/{project}/redo", {"base": 6}, Role.DESIGNER),
    ("post", "projects/{project}/lay-out/stop", None, Role.DESIGNER),
    ("post", "projects/{project}/cut-plan", None, Role.OPERATOR),
    ("post", "stocks", {"name": "Poplar ply 4", "material": "plywood", "label_mm": 4}, Role.DESIGNER),
    ("post", "stocks/{stock}/readings", {"thickness_mm": 3.1}, Role.OPERATOR),
    ("post", "stocks/{stock}/kerf-tests", {"kind": "gap", "drawn_mm": 5, "measured_mm": 5.15}, Role.OPERATOR),
    ("post", "stocks/{stock}/sheets", {"width_mm": 300, "height_mm": 200}, Role.OPERATOR),
    (
        "put",
        "stocks/{stock}/settings",
        {"settings": {"cut": {"power": 50, "speed": 10}, "score": {"power": 10, "speed": 100}, "engrave": {"power": 10, "speed": 100}}, "tried": ["cut"]},
        Role.OPERATOR,
    ),
    ("patch", "sheets/{sheet}", {"count": 3}, Role.OPERATOR),
    ("patch", "stocks/{stock}", {"batch": "14"}, Role.OPERATOR),
    ("put", "stocks/{stock}/makers-data", {"data": "sheet 7"}, Role.DESIGNER),
    ("post", "stocks/{stock}/readings/pasted", {"text": "3.1"}, Role.OPERATOR),
    ("post", "stocks/{stock}/cards", {"kind": "gauge"}, Role.OPERATOR),
    ("post", "machines", {"name": "Mossgate floor laser"}, Role.DESIGNER),
    ("post", "exchange", {"what": "stocks", "text": "stock,family,label_mm\nOak,solid_wood,4"}, Role.DESIGNER),
    ("patch", "machines/{machine}", {"kerf_place": "paths"}, Role.DESIGNER),
    ("post", "people", {"username": "hazel", "password": "a-long-password"}, Role.OWNER),
]
ORDER = [Role.VIEWER, Role.OPERATOR, Role.DESIGNER, Role.OWNER]


@pytest.mark.parametrize(("method", "path", "body", "least"), WRITES, ids=[f"{m} {p}" for m, p, _, _ in WRITES])
def test_each_write_takes_the_role_it_says_and_no_other_shops_rows(
    drawer: Project, someone: Callable[..., Api], method: str, path: str, body: Any, least: Role
) -> None:
    stock = Sheet.objects.filter(stock__shop=drawer.shop).order_by("pk").first()
    assert stock is not None
    address = path.format(project=drawer.pk, stock=stock.stock_id, sheet=stock.pk, machine=drawer.machine_id)
    for role in ORDER:
        status = someone(role)(method, address, body).status_code
        allowed = ORDER.index(role) >= ORDER.index(least)
        assert (status != 403) is allowed, (role, status)
        assert status < 500
        if allowed:
            assert status in (200, 201), status
            break
    if "{" in path:
        assert someone(Role.OWNER, elsewhere=True)(method, address, body).status_code == 404
