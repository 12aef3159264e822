"""Sheets over HTTP: evidence that belongs to machine and lens, test cards, hazards, files in and out."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from apps.accounts.models import Role
from apps.designs.models import Project
from apps.sheets import evidence
from apps.sheets.convert import machine_of
from apps.sheets.models import Feel, Machine, Reading, Sheet, Stock
from tests.apps.conftest import Api
from tests.rows import said


def stock_id(name: str) -> int:
    return int(Stock.objects.get(name__startswith=name).pk)


def get(api: Api, name: str, query: str = "") -> Any:
    return api.ok("get", f"stocks/{stock_id(name)}{query}")


def refused(response: Any, words: str) -> None:
    assert response.status_code == 422, response.content
    assert words in response.json()["message"], response.json()


def made(api: Api, name: str, kind: str, tongue: str | None = None) -> Any:
    body = {"kind": kind, **({"tongue": stock_id(tongue)} if tongue else {})}
    return api.ok("post", f"stocks/{stock_id(name)}/cards", body)


# -- evidence -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("mates", ["²", "٣", "1,,x", "9" * 30])
def test_stocks_to_stand_beside_are_numbers_or_nothing(api: Api, mates: str) -> None:
    assert api("get", f"stocks/{stock_id('Walnut')}?mates={mates}").status_code == 200


def test_readings_are_pasted_all_or_none(api: Api) -> None:
    poplar = stock_id("Poplar")
    told = api.ok("post", f"stocks/{poplar}/readings/pasted", {"text": "thickness\n4.05\n4.07\t4.06\n\n4,04", "unit": "mm"})
    assert [r["thickness_mm"] for r in told["readings"]] == [4.05, 4.07, 4.06, 4.04]
    assert told["value"]["thickness"]["value"] == pytest.approx(4.055)
    assert len({(r["x"], r["y"]) for r in told["readings"]}) == 4
    inches = api.ok("post", f"stocks/{poplar}/readings/pasted", {"text": "5/32; 0.16", "unit": "in/64"})
    assert [r["thickness_mm"] for r in inches["readings"][4:]] == pytest.approx([3.96875, 4.064])
    refused(api("post", f"stocks/{poplar}/readings/pasted", {"text": "4.1\nsoft\n4.2"}), "Line 2")
    refused(api("post", f"stocks/{poplar}/readings/pasted", {"text": "4.1\n0"}), "between 0.05 mm and 50")
    refused(api("post", f"stocks/{poplar}/readings/pasted", {"text": "thickness\n"}), "no reading")
    assert Reading.objects.filter(stock=poplar).count() == 6


@pytest.mark.parametrize(
    ("text", "expected"),
    [("3.1, 3.2, 3.3", [3.1, 3.2, 3.3]), ("3,1\n3,2", [3.1, 3.2]), ("a;b\n1;2", [1, 2]), ("1/8in\n120 thou", [3.175, 3.048]), ("", [])],
)
def test_lists_are_read_as_they_are_copied(text: str, expected: list[float]) -> None:
    assert evidence.lengths_in(text, "mm") == pytest.approx(expected)


def test_kerf_belongs_to_the_lens_that_is_in_and_settings_go_with_it(api: Api) -> None:
    machine = Machine.objects.get(name="Alder desk laser")
    birch = stock_id("Birch ply 3, batch 12")
    before = get(api, "Birch ply 3, batch 12")
    assert said(before["value"]["kerf"]["terms"][0]["source"]) == "3 tests"
    api.ok("patch", f"machines/{machine.pk}", {"lens": "four_inch"})
    thick = get(api, "Birch ply 3, batch 12")
    assert thick["value"]["kerf"]["terms"][0]["trust"] == "default"
    assert thick["settings"]["source"] == "default, not tested here"
    assert [f["boundaries"]["answers"] for f in thick["fits"]] == [0, 0]
    api.ok("post", f"stocks/{birch}/kerf-tests", {"kind": "gap", "drawn_mm": 5, "measured_mm": 5.3, "below_mm": 5.22})
    thick = get(api, "Birch ply 3, batch 12")
    assert thick["value"]["kerf"]["value"] == pytest.approx(0.26)
    assert thick["taper_deg"] == pytest.approx(0.744, abs=0.01)  # atan(0.08 / (2 * 3.08))
    api.ok("patch", f"machines/{machine.pk}", {"lens": "two_inch"})
    assert get(api, "Birch ply 3, batch 12")["value"]["kerf"] == before["value"]["kerf"]
    refused(api("patch", f"machines/{machine.pk}", {"lens": "none"}), "which lens")


def test_new_settings_supersede_and_the_old_ones_stay_in_the_record(api: Api) -> None:
    birch = stock_id("Birch ply 3, batch 12")
    before = get(api, "Birch ply 3, batch 12")
    changed = {**before["settings"], "cut": {**before["settings"]["cut"], "power": 70}, "score": {**before["settings"]["score"], "power": 33}}
    after = api.ok("put", f"stocks/{birch}/settings", {"settings": changed, "tried": ["cut"]})
    assert (after["settings"]["cut"]["power"], after["settings"]["score"]) == (70, before["settings"]["score"])  # what was not tried stays as it was
    assert "tried by" in after["settings"]["sources"]["cut"]
    assert [s["settings"]["cut"]["power"] for s in after["settings_history"]] == [70, 62]
    # the kerf tests were made with other settings: they count, with more doubt
    assert after["value"]["kerf"]["sd"] > before["value"]["kerf"]["sd"]
    back = api.ok("put", f"settings/{after['settings_history'][0]['id']}", {"withdrawn": True})
    assert back["settings"] == before["settings"]
    assert back["value"]["kerf"] == before["value"]["kerf"]
    assert [s["withdrawn"] for s in back["settings_history"]] == [True, False]


def test_a_feel_logged_at_a_run_moves_the_boundary_and_can_be_taken_back(api: Api) -> None:
    birch, walnut = stock_id("Birch ply 3, batch 9"), stock_id("Walnut")
    query = f"?mates={walnut}"
    before = get(api, "Birch ply 3, batch 9", query)
    for _ in range(4):
        told = api.ok("post", f"stocks/{birch}/feels", {"entering": walnut, "feel": "rattles", "clearance_mm": 0.12})
    learned = next(f for f in told["fits"] if f["mate"] == str(walnut))
    start = next(f for f in before["fits"] if f["mate"] == str(walnut))
    assert learned["boundaries"]["rattles"] < start["boundaries"]["rattles"]
    assert said(learned["boundaries"]["source"]) == "4 feels"
    for feel in told["feels"]:
        told = api.ok("put", f"feels/{feel['id']}{query}", {"withdrawn": True})
    assert next(f for f in told["fits"] if f["mate"] == str(walnut))["boundaries"] == start["boundaries"]
    assert all(f["withdrawn"] for f in told["feels"])


def test_the_fits_learn_from_a_logged_run_when_a_person_asks(api: Api, drawer: Project) -> None:
    run = drawer.runs.get()
    before = api.ok("get", f"projects/{drawer.pk}/build")
    assert not Feel.objects.filter(clearance_mm__isnull=False).exists()
    told = api.ok("post", f"runs/{run.pk}/learn")
    assert told["log"]["learned"]
    feels = Feel.objects.filter(clearance_mm__isnull=False)
    assert {(f.stock.name, f.entering.name, f.feel) for f in feels} == {("Birch ply 3, batch 12", "Birch ply 3, batch 12", "snug")}
    assert feels.get().clearance_mm == pytest.approx(0.015, abs=0.002)  # what the joints of birch were built for
    assert api.ok("get", f"projects/{drawer.pk}/build")["built_from"] != before["built_from"]
    refused(api("post", f"runs/{run.pk}/learn"), "already")
    itself = get(api, "Birch ply 3, batch 12")["fits"][0]
    assert (itself["boundaries"]["answers"], itself["boundaries"]["trust"]) == (1, "default")  # one feel does not settle it


def test_a_new_batch_borrows_and_gives_way_to_its_own_evidence(api: Api) -> None:
    made = api.ok("post", "stocks", {"name": "Birch ply 3, batch 13", "material": "plywood", "label_mm": 3})
    new, machine = int(made["value"]["id"]), Machine.objects.get(name="Alder desk laser").pk
    told = api.ok("post", f"stocks/{new}/borrow", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine})
    assert told["value"]["thickness"]["value"] == pytest.approx(3.08)
    assert "borrowed from Birch ply 3, batch 12 on Alder desk laser" in said(told["value"]["thickness"]["terms"][0]["source"])
    assert {told["value"][k]["terms"][0]["trust"] for k in ("thickness", "kerf")} == {"default"}
    assert (told["settings"]["cut"]["power"], told["settings"]["borrowed"]) == (62, True)
    rack = next(s for s in api.ok("get", "rack")["stocks"] if s["id"] == str(new))
    assert (rack["guess"], rack["kerf_guess"]) == (True, True)
    own = api.ok("post", f"stocks/{new}/readings", {"thickness_mm": 2.95})
    assert own["value"]["thickness"]["value"] == pytest.approx(2.95)
    refused(api("post", f"stocks/{new}/borrow", {"stock": stock_id("Poplar"), "machine": machine}), "no evidence")
    refused(api("post", f"stocks/{new}/borrow", {"stock": new, "machine": machine}), "from itself")


def test_lent_feels_come_as_clearances_and_do_not_settle_a_pair(api: Api) -> None:
    walnut = stock_id("Walnut")
    new = int(api.ok("post", "stocks", {"name": "Birch ply 3, batch 13", "material": "plywood", "label_mm": 3})["value"]["id"])
    machine = Machine.objects.get(name="Alder desk laser").pk
    told = api.ok("post", f"stocks/{new}/borrow?mates={walnut}", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine})
    lent = next(f for f in told["fits"] if f["mate"] == str(walnut))["boundaries"]
    own = next(f for f in get(api, "Birch ply 3, batch 12")["fits"] if f["mate"] == str(walnut))["boundaries"]
    assert (said(lent["source"]), lent["trust"], lent["anchored"]) == ("11 feels, all borrowed", "default", "")
    assert own["trust"] == "measured"
    assert [lent[k] for k in ("rattles", "slides", "snug", "mallet")] == pytest.approx([own[k] for k in ("rattles", "slides", "snug", "mallet")], abs=0.03)
    assert {f["drawn_mm"] for f in told["feels"]} == {None}
    refused(api("post", f"stocks/{new}/borrow", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine}), "already")


def test_answers_that_cannot_both_be_right_are_named(api: Api) -> None:
    card = made(api, "Poplar", "gauge")
    entries = [{"cell": f"slot{i}", "value": {"feel": feel}} for i, feel in ((2, "snug"), (5, "mallet"), (8, "rattles"))]
    found = api.ok("put", f"cards/{card['id']}/results", {"entries": entries})
    assert found["contradicting"] == [card["cells"][i]["label"] for i in (2, 5)]
    found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot5", "value": {"feel": "slides"}}]})
    assert found["contradicting"] == []


def test_a_new_machine_starts_from_another_marked_as_borrowed(api: Api) -> None:
    like = Machine.objects.get(name="Alder desk laser").pk
    made = api.ok("post", "machines", {"name": "Mossgate floor laser", "like": like, "borrow": True})
    assert (made["bed_width"], made["lens"]) == (620, "two_inch")
    there = get(api, "Birch ply 3, batch 12", f"?machine={made['id']}")
    assert said(there["value"]["kerf"]["terms"][0]["source"]) == "borrowed from Alder desk laser"
    assert there["value"]["thickness"]["terms"][0]["trust"] == "measured"  # a sheet is as thick on any machine
    assert there["settings"]["borrowed"]
    with_walnut = next(f for f in there["fits"] if f["name"].startswith("Walnut"))
    assert said(with_walnut["boundaries"]["source"]) == "11 feels, all borrowed"  # each once, though two stocks know of it
    assert there["value"]["kerf"]["sd"] > get(api, "Birch ply 3, batch 12")["value"]["kerf"]["sd"]
    refused(api("patch", f"machines/{made['id']}", {"score": {"colour": "red", "line_width": 0.1, "layer": "x"}}), "not a colour")
    refused(api("patch", f"machines/{made['id']}", {"bed_width": 3}), "bed width")


# -- what must not be cut --------------------------------------------------------------------------------------------------


def test_a_forbidden_stock_stops_build_plan_and_cards(api: Api, drawer: Project) -> None:
    vinyl = int(api.ok("post", "stocks", {"name": "White vinyl", "material": "plastic", "substance": "plastic.pvc", "label_mm": 3})["value"]["id"])
    api.ok("post", f"stocks/{vinyl}/sheets", {"width_mm": 600, "height_mm": 400, "count": 5})
    refused(api("post", f"stocks/{vinyl}/cards", {"kind": "gauge"}), "must not be cut")
    refused(api("put", f"stocks/{vinyl}/makers-data", {"data": "trust me"}), "Nobody can confirm that away")
    project = api.ok("get", f"projects/{drawer.pk}")
    project["design"]["stocks"] = dict.fromkeys(project["design"]["stocks"], str(vinyl))
    api.ok("put", f"projects/{drawer.pk}/design", {"base": project["revision"], "design": project["design"], "label": "Vinyl"})
    findings = api.ok("get", f"projects/{drawer.pk}/build")["findings"]
    assert ("forbidden_stock", "must") in {(f["code"], f["severity"]) for f in findings}
    from apps.layouts.services import default_request, pack_project
    from apps.plans.services import make_plan

    again = Project.objects.get(pk=drawer.pk)
    pack_project(again, default_request(again, seconds=0.1))
    make_plan(again)
    refused(api("get", f"projects/{drawer.pk}/files/all.zip"), "must not be cut")


def test_a_stock_that_needs_data_waits_for_a_name_and_asks_again_when_it_changes(api: Api) -> None:
    foam = stock_id("White foam")
    refused(api("post", f"stocks/{foam}/cards", {"kind": "strips"}), "Do not start")
    told = api.ok("put", f"stocks/{foam}/makers-data", {"data": "sheet 7: cuts clean at low power"})
    assert (told["confirmed_by"], told["value"]["hazard"]) == ("alder", None)
    assert api.ok("post", f"stocks/{foam}/cards", {"kind": "strips"})["planned"]
    told = api.ok("patch", f"stocks/{foam}", {"substance": "foam.halogenated"})
    assert told["confirmed_by"] == ""
    assert told["value"]["hazard"]["code"] == "forbidden_stock"


def test_a_stock_in_use_is_not_removed_and_says_where(api: Api, someone: Callable[..., Api]) -> None:
    refused(api("delete", f"stocks/{stock_id('Walnut')}"), "Seed packet drawer")
    refused(api("delete", f"stocks/{stock_id('Walnut')}"), "Gauge strip of Birch ply 3, batch 12")
    corrugated = stock_id("Corrugated")
    assert someone(Role.OPERATOR)("delete", f"stocks/{corrugated}").status_code == 403
    assert api("delete", f"stocks/{corrugated}").status_code == 204
    assert not Stock.objects.filter(pk=corrugated).exists()


def test_a_board_larger_than_the_bed_becomes_blanks_on_the_shelf(api: Api, drawer: Project) -> None:
    stock = Stock.objects.get(name="Birch ply 3, batch 12")
    board = Sheet.objects.create(stock=stock, name="Board", width_mm=1250, height_mm=850, count=3, price=24.0, grain="along")
    plan = api.ok("get", f"sheets/{board.pk}/cut-down?saw_mm=3")
    assert len(plan["blanks"]) >= 4
    assert api("get", f"sheets/{board.pk}/cut-down.pdf?saw_mm=3").content.startswith(b"%PDF")
    assert "3 of these boards" in api("post", f"sheets/{board.pk}/cut-down", {"saw_mm": 3, "sheets": 4}).json()["message"]
    before = set(stock.sheets.values_list("pk", flat=True))
    for _ in range(2):
        api.ok("post", f"sheets/{board.pk}/cut-down", {"saw_mm": 3, "sheets": 1})
    blanks = stock.sheets.exclude(pk__in=before)
    assert sum(b.count for b in blanks) == 2 * len(plan["blanks"])
    assert sum(b.count * b.price for b in blanks) == pytest.approx(48.0, abs=0.2)
    machine = machine_of(drawer.machine)
    assert all(b.width_mm <= machine.bed_width and b.height_mm <= machine.bed_height for b in blanks)
    board.refresh_from_db()
    assert board.count == 1
    small = stock.sheets.get(name="Birch ply 3, 600 × 400")
    assert "fits the bed" in api("get", f"sheets/{small.pk}/cut-down").json()["message"]


def test_only_what_was_tried_counts_as_tried_here(api: Api) -> None:
    made = api.ok("post", "stocks", {"name": "New ply", "material": "plywood", "label_mm": "3", "colour": "#c8a064"})
    new = made["value"]["id"]
    assert made["settings"]["source"] == "default, not tested here"
    first = api.ok("put", f"stocks/{new}/settings", {"settings": made["settings"], "tried": ["score"]})
    assert set(first["settings"]["sources"]) == {"score"}
    assert "power" in [a["action"] for a in api.ok("get", f"stocks/{new}")["advice"]]  # cutting is as unknown as it was
    second = api.ok("put", f"stocks/{new}/settings", {"settings": made["settings"], "tried": ["cut"]})
    assert set(second["settings"]["sources"]) == {"cut", "score"}
