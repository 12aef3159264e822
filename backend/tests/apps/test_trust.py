"""Law 7 of the second workshop: "measured" and "tried" stand only where evidence of that very thing exists, by a book of our own."""

from __future__ import annotations

from datetime import date
from random import Random
from typing import Any

import pytest

from apps.designs import queries
from apps.designs.models import Project
from apps.layouts.services import default_request, pack_project
from apps.plans.services import make_plan
from apps.sheets.models import Feel, KerfTest, Machine, Reading, Stock, StockSettings
from tests.apps.conftest import Api
from tests.apps.test_build import fresh
from tests.apps.test_dry_fit import checked
from tests.rows import said

ENOUGH = 3  # readings, as the guide says
OPERATIONS = ("cut", "score", "engrave")
OPERATION_OF = {"score": "score", "engrave": "engrave"}
UNTRIED = "default, not tested here"


def evidence(r: Random, stock: Stock, here: Machine, there: Machine, lens: str) -> dict[str, Any]:
    """Give a stock random evidence; return what of it counts here."""
    for rows in (stock.readings, stock.kerf_tests, stock.feels, stock.feels_in, stock.settings_rows):
        rows.all().delete()
    counts: dict[str, Any] = {"readings": 0, "kerf": False, "tried": set(), "swatch": r.random() < 0.5}

    def stamp() -> dict[str, Any]:
        return {"on": date(2026, 11, r.randint(1, 20)), "by": "alder", "withdrawn": r.random() < 0.25, "borrowed": r.choice(["", "", "Spruce board 12"])}

    for _ in range(r.choice([0, 1, 4, 6, 9])):
        row = Reading.objects.create(stock=stock, thickness_mm=stock.label_mm + r.uniform(-0.03, 0.03), x=r.random(), y=r.random(), **stamp())
        counts["readings"] += not row.withdrawn and not row.borrowed
    for _ in range(r.randint(0, 3)):
        machine, own = r.choice([here, here, there]), r.choice([lens, lens, "other"])
        test = KerfTest.objects.create(stock=stock, machine=machine, lens=own, kind="gap", drawn_mm=6.0, measured_mm=6.16, **stamp())
        counts["kerf"] |= machine == here and own == lens and not test.withdrawn and not test.borrowed
    days = sorted(r.sample(range(1, 20), 3))
    for day in days[: r.randint(0, 3)]:
        machine, own = r.choice([here, here, there]), r.choice([lens, lens, "other"])
        tried = {o for o in OPERATIONS if r.random() < 0.6}
        beam = {"power": 40.0, "speed": 20.0}
        values = {**dict.fromkeys(OPERATIONS, beam), "sources": {o: "power card, 2 Nov" if o in tried else UNTRIED for o in OPERATIONS}}
        row = StockSettings.objects.create(
            stock=stock, machine=machine, lens=own, values=values, source="power card, 2 Nov", **{**stamp(), "on": date(2026, 11, day)}
        )
        if machine == here and own == lens and not row.withdrawn:  # the newest one counts
            counts["tried"] = set() if row.borrowed else tried
    Stock.objects.filter(pk=stock.pk).update(lab=[60.0 + 20 * r.random(), 5.0, 20.0] if counts["swatch"] else None, lab_finished=None)
    return counts


@pytest.mark.parametrize("seed", range(12))
def test_only_what_was_measured_is_called_measured_and_only_what_was_tried_is_called_tried(api: Api, drawer: Project, seed: int) -> None:
    r = Random(f"trust {seed}")
    here = drawer.machine
    lens = str(here.profile.get("lens", "standard"))
    there = Machine.objects.create(shop=drawer.shop, name="Mossgate floor laser", profile=here.profile)
    used = {s: Stock.objects.get(pk=int(s)) for s in queries.current(drawer).design.stock_ids()}
    assert len(used) > 1
    book = {s: evidence(r, stock, here, there, lens) for s, stock in used.items()}
    now = queries.current(fresh(drawer))
    rack = {row["id"]: row for row in api.ok("get", "rack")["stocks"]}
    for s, known in book.items():
        told = api.ok("get", f"stocks/{s}?machine={here.pk}")
        thickness, kerf = told["value"]["thickness"]["terms"][0], told["value"]["kerf"]["terms"][0]
        assert (thickness["trust"] == "measured") == ("measured" in said(thickness["label"])) == (known["readings"] > 0)
        assert (kerf["trust"] == "measured") == ("measured" in said(kerf["label"]).replace("not measured", "")) == known["kerf"]
        assert (rack[s]["guess"], rack[s]["kerf_guess"]) == (known["readings"] < ENOUGH, not known["kerf"])
        assert any(f["code"] == "thickness_guess" for f in told["value"]["findings"]) == (known["readings"] < ENOUGH)
        assert {o for o in OPERATIONS if now.settings[s].tested(o)} == known["tried"]
        assert not Feel.objects.filter(stock_id=int(s)).exists()
        assert {f["boundaries"]["trust"] for f in told["fits"]} <= {"default"}  # nobody felt anything
    strip = {x["key"]: x for x in api.ok("get", f"projects/{drawer.pk}/strip")}
    guesses = sum(known["readings"] < ENOUGH or not known["kerf"] for known in book.values())
    assert ("measured" in said(strip["sheets"]["says"])) == (guesses == 0)
    assert strip["sheets"]["dot"] == ("amber" if guesses else "green")

    dry = checked(api, drawer)["result"]
    swatches = [f for f in dry["findings"] if "told apart" in said(f["says"]) or "tell apart" in said(f["says"])]
    bare = [used[s].name for s, known in book.items() if not known["swatch"]]
    for f in swatches:
        if f["severity"] == "fine":
            assert ("not known" in said(f["says"])) == bool(bare), said(f["says"])
    assert swatches

    pack_project(fresh(drawer), default_request(fresh(drawer), seconds=0.2))
    plan = make_plan(fresh(drawer))
    named = {code: {str(f.facts["stock"]) for f in plan.findings if f.code == code and f.facts.get("stock")} for code in ("kerf_guess", "settings_guess")}
    cut = {s.stock for s in plan.sheets}
    assert named["kerf_guess"] == {s for s in cut if not book[s]["kerf"]}
    burned = {s: {OPERATION_OF.get(k.path.operation, "cut") for sheet in plan.sheets if sheet.stock == s for k in sheet.strokes} for s in cut}
    assert named["settings_guess"] == {s for s in cut if burned[s] - book[s]["tried"]}
