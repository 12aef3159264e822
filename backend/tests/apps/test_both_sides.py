"""What is chosen about a plan is kept, and a sheet that lies wrongly is never burned, whatever a browser sends."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from apps.accounts.models import Role
from apps.designs.models import Project
from apps.plans import services as plans
from apps.runs import registration
from apps.runs.services import checklist_for
from devices.laser import look
from notchcore.errors import PlanError
from notchcore.plan.moves import moves_of
from tests.apps.conftest import Api
from tests.rows import said, ticks


@pytest.fixture
def labels(shop: None) -> Project:
    return Project.objects.get(name="Row labels")


def turned(api: Api, labels: Project) -> dict[str, object]:
    told = api.ok("patch", f"projects/{labels.pk}/cut-plan/choices", {"second": "marks"})
    labels.refresh_from_db()  # what is chosen says which plan counts
    return dict(told)


def test_choices_are_kept_one_by_one_and_make_a_fresh_plan(api: Api, labels: Project, someone: Callable[..., Api]) -> None:
    first = api.ok("get", f"projects/{labels.pk}/cut-plan")
    assert [s["run"] for s in first["plan"]["sheets"]] == ["first faces", "other faces"]
    told = turned(api, labels)
    assert told["fresh"]
    assert [s["run"] for s in told["plan"]["sheets"]] == ["back", "front"]  # type: ignore[index]
    told = api.ok("patch", f"projects/{labels.pk}/cut-plan/choices", {"lead": 2.5, "numbers": "front"})
    assert (told["choices"]["second"], told["choices"]["lead"]) == ("marks", 2.5)
    assert any(s["path"]["lead"] for s in told["plan"]["sheets"][1]["strokes"])
    for wrong in ({"lead": -1}, {"lead": 99}, {"second": "sideways"}):
        assert api("patch", f"projects/{labels.pk}/cut-plan/choices", wrong).status_code == 422
    assert someone(Role.VIEWER)("patch", f"projects/{labels.pk}/cut-plan/choices", {"lead": 1}).status_code == 403
    assert someone(Role.OWNER, elsewhere=True)("patch", f"projects/{labels.pk}/cut-plan/choices", {"lead": 1}).status_code == 404
    assert api.ok("get", f"projects/{labels.pk}/cut-plan")["choices"]["lead"] == 2.5
    assert api("patch", f"projects/{labels.pk}/cut-plan/choices", {"skip": ["engrave", "outer", "inner", "score"]}).status_code == 422
    assert api.ok("get", f"projects/{labels.pk}/cut-plan")["fresh"]  # what leaves nothing to burn is not kept


def test_a_run_by_marks_needs_them_and_refuses_a_sheet_that_lies_wrongly(api: Api, labels: Project) -> None:
    told = turned(api, labels)
    front = told["plan"]["sheets"][1]  # type: ignore[index]
    planned = [tuple(m) for m in front["lay"]["marks"]]
    body = {"sheet": 2, "ticked": ticks(checklist_for(labels, 2)), "found": []}
    assert "Read the marks first" in api("post", f"projects/{labels.pk}/runs", body).json()["message"]
    for lies, says in (("not_turned", "not turned over"), ("other_edge", "wrong edge")):
        found = look({"marks": planned, "width": front["width"], "height": front["height"], "lies": lies, "seed": 3})["found"]
        answer = api("post", f"projects/{labels.pk}/runs", {**body, "found": found})
        assert answer.status_code == 422
        assert says in answer.json()["message"]
        read = api.ok("post", f"projects/{labels.pk}/runs/registration", {"sheet": 2, "found": found})
        assert says in said(read["read"]["problem"])
    assert api("post", f"projects/{labels.pk}/runs/registration", {"sheet": 9, "found": planned}).status_code == 422
    assert api("post", f"projects/{labels.pk}/runs/registration", {"sheet": 1, "found": []}).status_code == 422  # the first run has none


def test_moves_follow_the_sheet_as_it_lies(api: Api, labels: Project) -> None:
    turned(api, labels)
    stored = plans.stored_plan(labels)
    assert stored is not None
    sheet = stored[1].sheets[1]
    moves = moves_of(sheet, {})
    shifted = [(x + 0.8, y - 0.3) for x, y in sheet.lay.marks]
    there = registration.moved(moves, sheet, found=shifted)
    for a, b in zip(moves, there, strict=True):
        assert all(q == pytest.approx((p[0] + 0.8, p[1] - 0.3), abs=1e-6) for p, q in zip(a.points, b.points, strict=True))
    with pytest.raises(PlanError, match="Read the marks"):
        registration.moved(moves, sheet, found=[])
    assert registration.moved(moves, stored[1].sheets[0], found=[]) == list(moves)


def test_only_the_last_run_of_a_sheet_uses_it_up_and_only_cut_parts_are_counted(api: Api, labels: Project) -> None:
    plan = turned(api, labels)["plan"]
    back, front = plan["sheets"]  # type: ignore[index]
    assert (back["last"], front["last"]) == (False, True)
    assert "back up" in checklist_for(labels, 1)[-2].text
    run = api("post", f"projects/{labels.pk}/runs", {"sheet": 1, "ticked": ticks(checklist_for(labels, 1))}).json()
    assert (run["parts"], run["last"], run["remains"], run["sheet_name"]) == ([], False, [], "Offcut 17, back")
