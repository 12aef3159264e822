"""Sheets over HTTP: evidence that belongs to machine and lens, test cards, hazards, files in and out."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from apps.accounts.models import Role, Shop
from apps.cards.models import CardResult
from apps.designs.models import Project, Stage, StageResult
from apps.plans.services import stored_plan
from apps.sheets import caliper, evidence
from apps.sheets.models import Feel, KerfTest, Machine, Reading, Sheet, Stock
from devices.caliper import Caliper, hidden_thickness
from devices.line import DeviceNotThere
from devices.serving import answer
from notchcore.errors import MeasureError
from tests.apps.conftest import Api


def stock_id(name: str) -> int:
    return int(Stock.objects.get(name__startswith=name).pk)


def get(api: Api, name: str, query: str = "") -> Any:
    return api.ok("get", f"stocks/{stock_id(name)}{query}")


def refused(response: Any, words: str) -> None:
    assert response.status_code == 422, response.content
    assert words in response.json()["message"], response.json()


# -- evidence -------------------------------------------------------------------------------------------------------------


def test_readings_are_pasted_all_or_none(api: Api) -> None:
    poplar = stock_id("Poplar")
    told = api.ok("post", f"stocks/{poplar}/readings/pasted", {"text": "thickness\n4.05\n4.07\t4.06\n\n4,04", "unit": "mm"})
    assert [r["thickness_mm"] for r in told["readings"]] == [4.05, 4.07, 4.06, 4.04]
    assert told["value"]["thickness"]["value"] == pytest.approx(4.055)
    assert len({(r["x"], r["y"]) for r in told["readings"]}) == 4
    inches = api.ok("post", f"stocks/{poplar}/readings/pasted", {"text": "5/32; 0.16", "unit": "in/64"})
    assert [r["thickness_mm"] for r in inches["readings"][4:]] == pytest.approx([3.96875, 4.064])
    refused(api("post", f"stocks/{poplar}/readings/pasted", {"text": "4.1\nsoft\n4.2"}), "Line 2")
    refused(api("post", f"stocks/{poplar}/readings/pasted", {"text": "4.1\n0"}), "between 0.05 and 50")
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
    assert before["value"]["kerf"]["terms"][0]["source"] == "3 tests"
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
    changed = {**before["settings"], "cut": {**before["settings"]["cut"], "power": 70}}
    after = api.ok("put", f"stocks/{birch}/settings", {"settings": changed})
    assert after["settings"]["cut"]["power"] == 70
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
    assert learned["boundaries"]["source"] == "4 feels"
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
    made = api.ok("post", "stocks", {"name": "Birch ply 3, batch 13", "family": "plywood", "label_mm": 3})
    new, machine = int(made["value"]["id"]), Machine.objects.get(name="Alder desk laser").pk
    told = api.ok("post", f"stocks/{new}/borrow", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine})
    assert told["value"]["thickness"]["value"] == pytest.approx(3.08)
    assert "borrowed from Birch ply 3, batch 12 on Alder desk laser" in told["value"]["thickness"]["terms"][0]["source"]
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
    new = int(api.ok("post", "stocks", {"name": "Birch ply 3, batch 13", "family": "plywood", "label_mm": 3})["value"]["id"])
    machine = Machine.objects.get(name="Alder desk laser").pk
    told = api.ok("post", f"stocks/{new}/borrow?mates={walnut}", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine})
    lent = next(f for f in told["fits"] if f["mate"] == str(walnut))["boundaries"]
    own = next(f for f in get(api, "Birch ply 3, batch 12")["fits"] if f["mate"] == str(walnut))["boundaries"]
    assert (lent["source"], lent["trust"], lent["anchored"]) == ("11 feels, all borrowed", "default", "")
    assert own["trust"] == "measured"
    assert [lent[k] for k in ("rattles", "slides", "snug", "mallet")] == pytest.approx([own[k] for k in ("rattles", "slides", "snug", "mallet")], abs=0.03)
    assert {f["drawn_mm"] for f in told["feels"]} == {None}
    refused(api("post", f"stocks/{new}/borrow", {"stock": stock_id("Birch ply 3, batch 12"), "machine": machine}), "already")


def test_answers_that_cannot_both_be_right_are_named(api: Api) -> None:
    card = made(api, "Poplar", "gauge")
    entries = [{"cell": f"slot{i}", "value": {"feel": feel}} for i, feel in ((2, "snug"), (5, "mallet"), (8, "rattles"))]
    found = api.ok("put", f"cards/{card['id']}/results", {"entries": entries})
    assert found["contradicting"] == [card["places"][i]["label"] for i in (2, 5)]
    found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot5", "value": {"feel": "slides"}}]})
    assert found["contradicting"] == []


def test_a_new_machine_starts_from_another_marked_as_borrowed(api: Api) -> None:
    like = Machine.objects.get(name="Alder desk laser").pk
    made = api.ok("post", "machines", {"name": "Mossgate floor laser", "like": like, "borrow": True})
    assert (made["bed_width"], made["lens"]) == (620, "two_inch")
    there = get(api, "Birch ply 3, batch 12", f"?machine={made['id']}")
    assert there["value"]["kerf"]["terms"][0]["source"] == "borrowed from Alder desk laser"
    assert there["value"]["thickness"]["terms"][0]["trust"] == "measured"  # a sheet is as thick on any machine
    assert there["settings"]["borrowed"]
    with_walnut = next(f for f in there["fits"] if f["name"].startswith("Walnut"))
    assert with_walnut["boundaries"]["source"] == "11 feels, all borrowed"  # each once, though two stocks know of it
    assert there["value"]["kerf"]["sd"] > get(api, "Birch ply 3, batch 12")["value"]["kerf"]["sd"]
    refused(api("patch", f"machines/{made['id']}", {"score": {"colour": "red", "line_width": 0.1, "layer": "x"}}), "not a colour")
    refused(api("patch", f"machines/{made['id']}", {"bed_width": 3}), "bed width")


# -- what must not be cut --------------------------------------------------------------------------------------------------


def test_a_forbidden_stock_stops_build_plan_and_cards(api: Api, drawer: Project) -> None:
    vinyl = int(api.ok("post", "stocks", {"name": "White vinyl", "family": "plastic", "substance": "plastic.pvc", "label_mm": 3})["value"]["id"])
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
    pack_project(again, default_request(again) | {"seconds": 0.1})
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
    grey = stock_id("Grey board")
    assert someone(Role.OPERATOR)("delete", f"stocks/{grey}").status_code == 403
    assert api("delete", f"stocks/{grey}").status_code == 204
    assert not Stock.objects.filter(pk=grey).exists()


# -- test cards --------------------------------------------------------------------------------------------------------------


def made(api: Api, name: str, kind: str, tongue: str | None = None) -> Any:
    body = {"kind": kind, **({"tongue": stock_id(tongue)} if tongue else {})}
    return api.ok("post", f"stocks/{stock_id(name)}/cards", body)


def test_a_gauge_strip_is_a_project_and_its_feels_move_the_box(api: Api, drawer: Project) -> None:
    before = api.ok("get", f"projects/{drawer.pk}/build")
    card = made(api, "Birch ply 3, batch 12", "gauge", "Walnut")
    assert card["planned"]
    project = Project.objects.get(pk=card["project"])
    assert project.is_test
    stored = stored_plan(project)
    assert stored is not None
    assert stored[1].kerf_place == "line"
    assert api("get", f"projects/{project.pk}/files/all.zip").status_code == 200
    assert {c["name"] for c in api.ok("get", "shop-board")} == {"Seed packet drawer"}
    feels = ["wont_go"] * 2 + ["mallet"] * 3 + ["snug"] * 2 + ["slides"] * 2 + ["rattles"] * 2
    for place, feel in zip(card["places"], feels, strict=True):
        found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": place["id"], "value": {"feel": feel}}]})
    assert found["entered"] == 11
    learned = next(f for f in get(api, "Birch ply 3, batch 12")["fits"] if f["name"].startswith("Walnut"))
    assert learned["boundaries"]["source"] == "22 feels, gauge strip"  # with those of the demo's own strip
    after = api.ok("get", f"projects/{drawer.pk}/build")
    widths = [{f["id"]: f["width_mm"] for p in b["parts"] for f in p["features"] if f["kind"] == "slot"} for b in (before, after)]
    assert widths[0].keys() == widths[1].keys()
    assert [k for k, v in widths[0].items() if widths[1][k] != pytest.approx(v, abs=1e-6)] == list(widths[0])  # all of walnut in birch
    assert before["built_from"] != after["built_from"]
    assert api.ok("get", f"projects/{drawer.pk}/strip")[1]["dot"] == "green"


def test_a_correction_supersedes_and_keeps_the_history(api: Api) -> None:
    card = made(api, "Birch ply 3, batch 12", "gauge")
    for feel in ("snug", "mallet"):
        found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot4", "value": {"feel": feel}}]})
    assert [(r["value"]["feel"], r["withdrawn"]) for r in found["results"]] == [("snug", True), ("mallet", False)]
    rows = Feel.objects.filter(stock__name="Birch ply 3, batch 12", entering__name="Birch ply 3, batch 12").order_by("pk")
    assert [(f.feel, f.withdrawn) for f in rows] == [("snug", True), ("mallet", False)]
    found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot4", "value": None}]})
    assert found["entered"] == 0
    assert not rows.filter(withdrawn=False).exists()
    refused(api("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot99", "value": {"feel": "snug"}}]}), "no such place")
    refused(api("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot4", "value": {"feel": "lovely"}}]}), "rattles, slides")
    assert CardResult.objects.filter(card=card["id"]).count() == 2


def test_kerf_cards_become_kerf_tests_of_the_lens_they_were_made_for(api: Api) -> None:
    strips, gaps = made(api, "Walnut", "strips"), made(api, "Walnut", "gaps")
    machine = Machine.objects.get(name="Alder desk laser")
    api.ok("patch", f"machines/{machine.pk}", {"lens": "four_inch"})
    api.ok("put", f"cards/{strips['id']}/results", {"entries": [{"cell": "stack", "value": {"measured_mm": 98.2}}]})
    api.ok("put", f"cards/{gaps['id']}/results", {"entries": [{"cell": "slot0", "value": {"measured_mm": 4.2, "below_mm": 4.16}}]})
    api.ok("put", f"cards/{gaps['id']}/results", {"entries": [{"cell": "peg1", "value": {"measured_mm": 5.82}}]})
    tests = KerfTest.objects.filter(stock__name="Walnut 3").order_by("pk")
    assert [(t.kind, t.lens) for t in tests] == [("gap", "two_inch"), ("strips", "two_inch"), ("gap", "two_inch"), ("peg", "two_inch")]
    assert {t.setting for t in tests} == {"70 % · 11 mm/s"}
    refused(api("put", f"cards/{gaps['id']}/results", {"entries": [{"cell": "slot1", "value": {"measured_mm": 2}}]}), "not swapped")
    refused(api("put", f"cards/{gaps['id']}/results", {"entries": [{"cell": "slot1", "value": {}}]}), "Type what you measured")


def test_a_power_card_finds_the_settings(api: Api) -> None:
    card = made(api, "Poplar", "power")
    refused(api("post", f"cards/{card['id']}/settings", {}), "Mark at least one square")
    for place in card["places"]:
        through = place["value"] * 2 <= place["second"] / 4  # speed against power: what this sheet would do
        value = {"through": through, "char": 3 if place["second"] > 80 else 1}
        found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": place["id"], "value": value}]})
    best = found["best"]
    assert best["char"] == 1
    assert found["best_by_char"] == [None, best, best]
    assert best["speed"] == max(p["value"] for p in card["places"] if p["second"] <= 80 and p["value"] * 2 <= p["second"] / 4)
    api.ok("post", f"cards/{card['id']}/settings", {})
    settings = get(api, "Poplar")["settings"]
    assert (settings["cut"]["power"], settings["cut"]["speed"]) == (best["power"], best["speed"])
    assert settings["source"].startswith("power card")
    assert "power" not in {a["action"] for a in api.ok("get", f"stocks/{stock_id('Poplar')}/advice")}


def test_step_and_legibility_cards_say_what_they_show(api: Api) -> None:
    steps = made(api, "Clear acrylic", "steps")
    for n, depth in ((1, 0.2), (2, 0.4), (3, 0.6)):
        found = api.ok("put", f"cards/{steps['id']}/results", {"entries": [{"cell": f"n{n}", "value": {"depth_mm": depth}}]})
    assert found["depth"]["per_pass"] == pytest.approx(0.2)
    assert found["depths"] == [[0.25, 2, False], [0.5, 3, False], [1.0, 5, False]]
    api.ok("post", f"cards/{steps['id']}/settings", {})
    assert get(api, "Clear acrylic")["settings"]["source"].startswith("step card")
    words = made(api, "Clear acrylic", "legibility")
    for cell, good in (("t2.5", True), ("t2", True), ("t1.5", False), ("w1", True), ("w0.7", False)):
        found = api.ok("put", f"cards/{words['id']}/results", {"entries": [{"cell": cell, "value": {"good": good}}]})
    assert (found["least_text_mm"], found["least_web_mm"]) == (2, 1)
    refused(api("post", f"cards/{words['id']}/settings", {}), "power cards and step cards")


def test_a_card_without_a_sheet_waits_for_one(api: Api) -> None:
    Sheet.objects.filter(stock=stock_id("Poplar")).update(count=0)
    card = made(api, "Poplar", "gauge")
    assert (card["planned"], card["minutes"]) == (False, None)
    assert not StageResult.objects.filter(project=card["project"], stage=Stage.PLAN).exists()


def test_advice_names_what_would_help_most_and_its_cost(api: Api) -> None:
    advice = {a["action"]: a for a in api.ok("get", f"stocks/{stock_id('Poplar')}/advice")}
    assert list(advice) == ["reading", "power", "strips", "gauge"]
    assert advice["reading"]["what"] == "3 more readings"
    assert 2 < advice["gauge"]["minutes"] < 10
    width, height = advice["strips"]["size_mm"]
    assert (width, height) == (110, 60)
    assert api.ok("get", f"stocks/{stock_id('White foam')}/advice") == []


# -- files, caliper, answers -------------------------------------------------------------------------------------------------


def test_everything_goes_out_and_comes_in_again(api: Api, someone: Callable[..., Api]) -> None:
    whole = json.loads(api.client.get("/api/exchange/all.json").content)
    other = someone(Role.OWNER, elsewhere=True)
    elsewhere = Shop.objects.get(name="Elsewhere")
    Machine.objects.create(shop=elsewhere, name="Alder desk laser", profile=Machine.objects.get(shop__name="Alder Row Workshop").profile)
    kept = other.ok("post", "exchange", {"what": "all", "text": json.dumps(whole)})["kept"]
    assert kept["stocks"] == len(whole["stocks"]) == 8
    assert kept["readings"] == len(whole["readings"])
    again = json.loads(other.client.get("/api/exchange/all.json").content)
    assert again["readings"] == whole["readings"]
    assert again["kerf-tests"] == whole["kerf-tests"]
    assert again["feels"] == whole["feels"]
    assert again["settings"] == whole["settings"]
    assert again["sheets"] == whole["sheets"]
    assert again["stocks"] == whole["stocks"]


@pytest.mark.parametrize("what", ["stocks", "sheets", "readings", "kerf-tests", "feels", "settings"])
def test_a_table_goes_out_and_comes_in(api: Api, what: str) -> None:
    text = api.client.get(f"/api/exchange/{what}.csv").content.decode()
    assert len(text.splitlines()) > 2
    kept = api.ok("post", "exchange", {"what": what, "text": text})["kept"]
    assert kept[what] > 1
    twice = api.client.get(f"/api/exchange/{what}.csv").content.decode()
    assert len(twice.splitlines()) == (len(text.splitlines()) if what == "stocks" else 2 * len(text.splitlines()) - 1)


@pytest.mark.parametrize(
    ("what", "text", "told"),
    [
        ("all", "{}", "not an export"), ("all", "nonsense", "not an export"), ("readings", "thickness_mm\n3.1", "“stock” is missing"),
        ("readings", "stock,thickness_mm\nWalnut 3,thick", "no number"), ("readings", "stock,thickness_mm\nOak,3", "no stock “Oak”"),
        ("readings", "stock,thickness_mm\nWalnut 3,3.1\nWalnut 3,0", "row 2"), ("readings", "stock,x\nWalnut 3,0.5", "cannot be read"),
        ("kerf-tests", "stock,machine,kind,drawn_mm,measured_mm\nWalnut 3,Alder desk laser,gap,5,4", "not swapped"),
        ("kerf-tests", "stock,machine,kind,drawn_mm,measured_mm\nWalnut 3,Far laser,gap,5,5.1", "no machine"),
        ("settings", "stock,machine,operation,power,speed\nWalnut 3,Alder desk laser,cut,400,10", "power"),
        ("stocks", "stock,family,label_mm\nNew,cheese,3", "family"), ("sheets", "stock,width_mm,height_mm\nWalnut 3,1,1", "sheet width"),
    ],
)  # fmt: skip
def test_a_file_with_a_mistake_changes_nothing(api: Api, what: str, text: str, told: str) -> None:
    before = api.client.get("/api/exchange/all.json").content
    refused(api("post", "exchange", {"what": what, "text": text}), told)
    assert api.client.get("/api/exchange/all.json").content == before


def test_the_caliper_streams_a_hidden_sheet(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    device = Caliper()

    def say(**message: Any) -> dict[str, Any]:
        told = answer(device.reply, json.dumps(message).encode())
        if not told["ok"]:
            raise MeasureError(told["why"])
        return told

    monkeypatch.setattr(caliper, "_say", say)
    poplar, walnut = stock_id("Poplar"), stock_id("Walnut")
    api.ok("post", f"stocks/{poplar}/caliper")
    for _ in range(100):
        device.tick(0.1)
    first = api.ok("get", f"stocks/{poplar}/caliper?seq=0")["readings"]
    assert len(first) > 5
    assert api.ok("get", f"stocks/{poplar}/caliper?seq=3")["readings"] == first[3:]
    true = hidden_thickness("Poplar ply 4", 4.0)
    assert sum(r["mm"] for r in first) / len(first) == pytest.approx(true, abs=0.02)
    api.ok("post", f"stocks/{walnut}/caliper")
    assert api.ok("get", f"stocks/{poplar}/caliper?seq=0")["readings"] == []  # it has gone on to another sheet
    api.ok("delete", f"stocks/{walnut}/caliper")
    assert device.sheet == ""


def test_without_a_caliper_it_says_what_to_do(api: Api, settings: Any) -> None:
    settings.CALIPER_ADDRESS = "127.0.0.1:9"
    refused(api("post", f"stocks/{stock_id('Poplar')}/caliper"), "type the readings")
    assert issubclass(DeviceNotThere, Exception)


@pytest.mark.parametrize("line", [b"", b"[]", b'{"do": "open"}', b'{"do": "open", "sheet": "x", "label": 900}', b'{"do": "dance"}', b'{"do": "since"}'])
def test_the_caliper_refuses_what_it_does_not_understand(line: bytes) -> None:
    assert answer(Caliper().reply, line)["ok"] is False


@pytest.mark.parametrize(
    ("ask", "first"),
    [
        ({"kind": "slot", "sheet": "Birch ply 3, batch 9", "mate": "Poplar"}, 4.0 + 0.015 - 0.17),
        ({"kind": "tab", "sheet": "Birch ply 3, batch 9", "mate": "Poplar", "width": 12}, 12.17),
        ({"kind": "kerf"}, 0.16),
        ({"kind": "angled", "sheet": "Birch ply 3, batch 9", "mate": "Poplar", "angle": 90}, 4.0 + 0.015 - 0.17),
        ({"kind": "roof", "sheet": "Birch ply 3, batch 9", "mate": "Poplar", "length": 100, "angle": 60, "eaves": 0}, 200.0),
        ({"kind": "turned", "count": 13, "layer": 4, "twist": 90}, 30.0), ({"kind": "pitch", "length": 100, "count": 4, "width": 10}, 12.0),
        ({"kind": "sheets", "count": 1000, "width": 60, "height": 40}, 12.0), ({"kind": "scale", "n": 24, "real": 2400, "wanted": 50}, 100.0),
        ({"kind": "inches", "length": 25.4}, 25.4),
    ],
)  # fmt: skip
def test_quick_answers_come_with_words_ledger_and_drawing(api: Api, ask: dict[str, Any], first: float) -> None:
    body = ask | ({"count": 10} if ask["kind"] == "kerf" else {}) | {k: stock_id(ask[k]) for k in ("sheet", "mate") if k in ask}
    told = api.ok("post", "answers", body)
    assert told["results"][0]["value"] == pytest.approx(first, abs=1e-6)
    assert told["shapes"]
    assert told["ledger"]["terms"]
    numbers = [int(c) for i, c in enumerate(told["words"]) if c.isdigit() and told["words"][i - 1] == "{"]
    assert all(n < len(told["results"]) for n in numbers)


def test_answers_say_what_is_missing(api: Api) -> None:
    refused(api("post", "answers", {"kind": "slot"}), "Choose the stock")
    refused(api("post", "answers", {"kind": "pitch", "length": 10, "count": 30, "width": 5}), "do not go into")
    assert api("post", "answers", {"kind": "slot", "sheet": 10**6}).status_code == 404


def test_contrast_takes_measured_swatches_and_says_which_are_not(api: Api) -> None:
    ids = [stock_id(n) for n in ("Birch ply 3, batch 12", "Birch ply 3, batch 9", "Grey board")]
    told = api.ok("post", "contrast", {"stocks": ids})
    assert [told["measured"][str(i)] for i in ids] == [True, True, False]
    assert told["pairs"][0]["hard_to_tell"]
    assert {told["pairs"][0]["a"], told["pairs"][0]["b"]} == {str(ids[0]), str(ids[1])}
    finished = api.ok("post", "contrast", {"stocks": ids, "finished": True})
    assert not any(finished["measured"].values())  # nobody measured a finished face yet
    refused(api("patch", f"stocks/{ids[0]}", {"lab": [120, 0, 0]}), "lightness")


@pytest.mark.parametrize(
    ("body", "told"),
    [
        ({"width_mm": 300, "height_mm": 200, "grain": "up"}, "grain"), ({"outline": [[0, 0], [10, 10], [10, 0], [0, 10]]}, "crosses itself"),
        ({"outline": [[0, 0], [10, 0]]}, "crosses itself"), ({"width_mm": 300, "height_mm": 200, "price": -1}, "price"),
    ],
)  # fmt: skip
def test_a_sheet_that_makes_no_sense_is_refused(api: Api, body: dict[str, Any], told: str) -> None:
    refused(api("post", f"stocks/{stock_id('Walnut')}/sheets", body), told)


def test_an_odd_offcut_keeps_its_shape(api: Api) -> None:
    told = api.ok("post", f"stocks/{stock_id('Walnut')}/sheets", {"is_offcut": True, "outline": [[10, 10], [210, 10], [60, 130]]})
    offcut = told["sheets"][-1]
    assert (offcut["width_mm"], offcut["height_mm"], offcut["outline"]) == (200, 120, [[0, 0], [200, 0], [50, 120]])


def test_a_full_rack_takes_few_queries(api: Api, shop: Shop) -> None:
    """300 stocks and 5,000 readings list with as many queries as three stocks; how fast is ./board bench's to say."""
    with CaptureQueriesContext(connection) as few:
        api.ok("get", "rack")
    Stock.objects.bulk_create(Stock(shop=shop, name=f"Sheet {i}", family="plywood", label_mm=3) for i in range(300))
    rows = list(Stock.objects.filter(name__startswith="Sheet "))
    day = Reading.objects.values_list("on", flat=True)[0]
    Reading.objects.bulk_create(Reading(stock=rows[i % 300], thickness_mm=3 + i % 7 / 100, on=day) for i in range(5000))
    with CaptureQueriesContext(connection) as many:
        told = api.ok("get", "rack")
    assert len(told["stocks"]) == 308
    assert len(many) == len(few)
