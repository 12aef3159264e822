"""Beside the rack over HTTP: files in and out, the caliper, quick answers, contrast, odd sheets, a full rack."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from apps.accounts.models import Member, Role, Shop
from apps.sheets import caliper
from apps.sheets.models import Machine, Reading, Stock
from devices.caliper import Caliper, hidden_thickness
from devices.line import DeviceNotThere
from devices.serving import answer
from notchcore.errors import MeasureError
from tests.apps.conftest import Api
from tests.apps.test_sheets import refused, stock_id


def test_everything_goes_out_and_comes_in_again(api: Api, someone: Callable[..., Api]) -> None:
    whole = json.loads(api.client.get("/api/exchange/all.json").content)
    other = someone(Role.OWNER, elsewhere=True)
    elsewhere = Shop.objects.get(name="Elsewhere")
    Machine.objects.create(shop=elsewhere, name="Alder desk laser", profile=Machine.objects.get(shop__name="Alder Row Workshop").profile)
    kept = other.ok("post", "exchange", {"what": "all", "text": json.dumps(whole)})["kept"]
    assert kept["stocks"] == len(whole["stocks"]) == 9
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


@pytest.mark.parametrize("unit", ["in", "in/64", "thou"])
@pytest.mark.parametrize("what", ["sheets", "readings", "kerf-tests", "feels", "settings"])
def test_a_table_in_another_unit_says_so_and_comes_in_as_it_went_out(api: Api, what: str, unit: str) -> None:
    before = json.loads(api.client.get("/api/exchange/all.json").content)[what]
    Member.objects.update(unit=unit)
    text = api.client.get(f"/api/exchange/{what}.csv").content.decode()
    assert ("_thou" if unit == "thou" else "_in") in text.split("\n")[0]
    assert "_mm" not in text
    api.ok("post", "exchange", {"what": what, "text": text})
    added = json.loads(api.client.get("/api/exchange/all.json").content)[what][len(before) :]
    near = [{k: pytest.approx(v, abs=1e-4) if isinstance(v, float) else v for k, v in row.items() if k not in ("outline", "bad")} for row in before]
    assert [{k: v for k, v in row.items() if k not in ("outline", "bad")} for row in added] == near
    for a, b in zip(before, added, strict=True):
        assert [v for p in b.get("outline", []) for v in p] == pytest.approx([v for p in a.get("outline", []) for v in p], abs=1e-3)


@pytest.mark.parametrize(
    ("head", "cell", "mm"),
    [
        ("thickness_mm", "3.1", 3.1),
        ("thickness_in", "0.122", 3.0988),
        ("thickness_in", '"1/8"', 3.175),
        ("thickness_thou", "122", 3.0988),
        ("thickness_mm", '"1/8 in"', 3.175),
        ("thickness_in", "3.1 mm", 3.1),
        ("thickness_cm", "0.31", 3.1),
        ("thickness_in", '"0,122"', 3.0988),
    ],
)
def test_a_table_is_read_in_the_unit_that_its_head_or_its_cell_names(api: Api, head: str, cell: str, mm: float) -> None:
    api.ok("post", "exchange", {"what": "readings", "text": f"stock, {head} ,on\nWalnut 3,{cell},2026-11-10"})
    row = Reading.objects.order_by("-pk").first()
    assert row is not None
    assert row.thickness_mm == pytest.approx(mm, abs=1e-4)


@pytest.mark.parametrize(
    ("what", "text", "told"),
    [
        ("all", "{}", "not an export"),
        ("all", "nonsense", "not an export"),
        ("readings", "thickness_mm\n3.1", "“stock” is missing"),
        ("readings", "stock,thickness_mm\nWalnut 3,thick", "no number"),
        ("readings", "stock,thickness_mm\nOak,3", "no stock “Oak”"),
        ("readings", "stock,thickness_mm\nWalnut 3,3.1\nWalnut 3,0", "row 2"),
        ("readings", "stock,x\nWalnut 3,0.5", "cannot be read"),
        ("kerf-tests", "stock,machine,kind,drawn_mm,measured_mm\nWalnut 3,Alder desk laser,gap,5,4", "not swapped"),
        ("kerf-tests", "stock,machine,kind,drawn_mm,measured_mm\nWalnut 3,Far laser,gap,5,5.1", "no machine"),
        ("settings", "stock,machine,operation,power,speed\nWalnut 3,Alder desk laser,cut,400,10", "power"),
        ("readings", "stock,thickness_ell\nWalnut 3,3", "“thickness_ell”, which is not known"),
        ("readings", "stock,thikness_mm\nWalnut 3,3", "thikness"),
        ("readings", "stock,thickness_mm,thickness_in\nWalnut 3,3,0.1", "twice"),
        ("readings", "stock,thickness_mm\nWalnut 3,3 bananas", "not a unit"),
        ("readings", "stock,thickness_mm\nWalnut 3,nan", "no number"),
        ("stocks", "stock,material,label_mm\nNew,cheese,3", "material"),
        ("stocks", "stock,family,label_mm\nNew,cheese,3", "material"),  # as earlier landings wrote it
        ("sheets", "stock,width_mm,height_mm\nWalnut 3,1,1", "sheet width"),
    ],
)
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
        ({"kind": "turned", "count": 13, "layer": 4, "twist": 90}, 30.0),
        ({"kind": "pitch", "length": 100, "count": 4, "width": 10}, 12.0),
        ({"kind": "sheets", "count": 1000, "width": 60, "height": 40}, 12.0),
        ({"kind": "scale", "n": 24, "real": 2400, "wanted": 50}, 100.0),
        ({"kind": "inches", "length": 25.4}, 25.4),
    ],
)
def test_quick_answers_come_with_words_ledger_and_drawing(api: Api, ask: dict[str, Any], first: float) -> None:
    body = ask | ({"count": 10} if ask["kind"] == "kerf" else {}) | {k: stock_id(ask[k]) for k in ("sheet", "mate") if k in ask}
    told = api.ok("post", "answers", body)
    assert told["results"][0]["value"] == pytest.approx(first, abs=1e-6)
    assert told["shapes"]
    assert told["ledger"]["terms"]
    if told["results"][0]["kind"] == "mm":  # the sentence tells the number that was asked for
        assert any(s["mm"] and s["mm"][0] == pytest.approx(first, abs=1e-6) for s in told["says"]["spans"])


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
        ({"width_mm": 300, "height_mm": 200, "grain": "up"}, "grain"),
        ({"outline": [[0, 0], [10, 10], [10, 0], [0, 10]]}, "crosses itself"),
        ({"outline": [[0, 0], [10, 0]]}, "crosses itself"),
        ({"width_mm": 300, "height_mm": 200, "price": -1}, "price"),
    ],
)
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
    Stock.objects.bulk_create(Stock(shop=shop, name=f"Sheet {i}", material="plywood", label_mm=3) for i in range(300))
    rows = list(Stock.objects.filter(name__startswith="Sheet "))
    day = Reading.objects.values_list("on", flat=True)[0]
    Reading.objects.bulk_create(Reading(stock=rows[i % 300], thickness_mm=3 + i % 7 / 100, on=day) for i in range(5000))
    with CaptureQueriesContext(connection) as many:
        told = api.ok("get", "rack")
    assert len(told["stocks"]) == 309
    assert len(many) == len(few)
