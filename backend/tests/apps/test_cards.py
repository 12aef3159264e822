"""Test cards over HTTP: made as small projects, entered cell by cell, and what they come to."""

from __future__ import annotations

import pytest

from apps.cards.models import CardResult
from apps.designs.models import Project, Stage, StageResult
from apps.plans.services import stored_plan
from apps.sheets.advice import cost_of
from apps.sheets.models import Feel, KerfTest, Machine, Sheet
from notchcore.design.cards.pieces import Piece
from notchcore.design.joints.solve import solve
from notchcore.geom.profile import Profile, rectangle
from notchcore.measure.machine import Machine as Laser
from notchcore.measure.machine import default_settings
from tests.apps.conftest import Api
from tests.apps.test_sheets import get, made, refused, stock_id
from tests.core.test_kinds import plate
from tests.rows import said
from tests.strategies import make_stock


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
    assert not any("Gauge" in c["name"] for c in api.ok("get", "shop-board"))
    feels = ["wont_go"] * 2 + ["mallet"] * 3 + ["snug"] * 2 + ["slides"] * 2 + ["rattles"] * 2
    for cell, feel in zip(card["cells"], feels, strict=True):
        found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": cell["id"], "value": {"feel": feel}}]})
    assert found["entered"] == 11
    learned = next(f for f in get(api, "Birch ply 3, batch 12")["fits"] if f["name"].startswith("Walnut"))
    assert said(learned["boundaries"]["source"]) == "22 feels, gauge strip"  # with those of the demo's own strip
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
    refused(api("put", f"cards/{card['id']}/results", {"entries": [{"cell": "slot99", "value": {"feel": "snug"}}]}), "no such cell")
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
    for cell in card["cells"]:
        through = cell["value"] * 2 <= cell["second"] / 4  # speed against power: what this sheet would do
        value = {"through": through, "char": 3 if cell["second"] > 80 else 1}
        found = api.ok("put", f"cards/{card['id']}/results", {"entries": [{"cell": cell["id"], "value": value}]})
    best = found["best"]
    assert best["char"] == 1
    assert found["best_by_char"] == [None, best, best]
    assert best["speed"] == max(p["value"] for p in card["cells"] if p["second"] <= 80 and p["value"] * 2 <= p["second"] / 4)
    api.ok("post", f"cards/{card['id']}/settings", {})
    settings = get(api, "Poplar")["settings"]
    assert (settings["cut"]["power"], settings["cut"]["speed"]) == (best["power"], best["speed"])
    assert settings["source"].startswith("power card")
    assert "power" not in {a["action"] for a in api.ok("get", f"stocks/{stock_id('Poplar')}")["advice"]}


def test_step_and_legibility_cards_say_what_they_show(api: Api) -> None:
    steps = made(api, "Clear acrylic", "steps")
    for n, depth in ((1, 0.2), (2, 0.4), (3, 0.6)):
        found = api.ok("put", f"cards/{steps['id']}/results", {"entries": [{"cell": f"n{n}", "value": {"depth_mm": depth}}]})
    assert found["depth"]["per_pass"] == pytest.approx(0.2)
    assert found["depths"] == [[0.25, 2, False], [0.5, 3, False], [1.0, 5, False]]
    api.ok("post", f"cards/{steps['id']}/settings", {})
    kept = get(api, "Clear acrylic")["settings"]
    assert kept["source"].startswith("step card")
    assert (kept["engrave"]["passes"], kept["engrave"]["depth"]) == (1, pytest.approx(0.2))
    words = made(api, "Clear acrylic", "legibility")
    for cell, good in (("t2.5", True), ("t2", True), ("t1.5", False), ("w1", True), ("w0.7", False)):
        found = api.ok("put", f"cards/{words['id']}/results", {"entries": [{"cell": cell, "value": {"good": good}}]})
    assert (found["least_text_mm"], found["least_web_mm"]) == (2, 1)
    refused(api("post", f"cards/{words['id']}/settings", {}), "power cards and step cards")


def test_a_card_without_a_sheet_waits_for_one(api: Api) -> None:
    Sheet.objects.filter(stock=stock_id("Poplar")).update(count=0)
    card = made(api, "Poplar", "gauge")
    assert (card["planned"], card["minutes"]) == (False, None)
    assert not StageResult.objects.filter(project=card["project"], stage=Stage.CUT_PLAN).exists()


def test_a_card_with_a_hole_costs_the_cutting_of_its_hole() -> None:
    stock = make_stock("ply")
    machine, settings = Laser(id="m", name="Alder desk laser"), default_settings(stock)
    whole = rectangle(0, 0, x1=100, y1=60)
    holed = Profile(outer=whole.outer, holes=(tuple(reversed(rectangle(30, 20, x1=70, y1=40).outer)),))

    def cost(profile: Profile) -> tuple[float, tuple[float, float]]:
        return cost_of(Piece(parts=solve([plate("card", profile)], stocks={"ply": stock}, rules=()).parts, cells=()), settings, machine=machine)

    (short, _), (long, size) = cost(whole), cost(holed)
    assert long - short == pytest.approx((120 / settings.cut.speed + machine.pierce) / 60, abs=0.02)
    assert size == (110, 70)


def test_advice_names_what_would_help_most_and_its_cost(api: Api) -> None:
    advice = {a["action"]: a for a in api.ok("get", f"stocks/{stock_id('Poplar')}")["advice"]}
    assert list(advice) == ["reading", "power", "strips", "gauge"]
    assert said(advice["reading"]["what"]) == "3 more readings"
    assert 2 < advice["gauge"]["minutes"] < 10
    width, height = advice["strips"]["size_mm"]
    assert (width, height) == (110, 60)
    assert api.ok("get", f"stocks/{stock_id('White foam')}")["advice"] == []
