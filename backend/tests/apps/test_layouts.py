"""Packings over HTTP: wishes, ways, shared cuts, and parts moved by hand."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from pydantic import TypeAdapter

from apps.accounts.models import Role
from apps.designs.models import JobState, Project, StageJob
from apps.designs.queries import current
from apps.layouts.convert import ASKED, NESTING
from apps.layouts.services import pack_project
from apps.sheets.models import Machine, Stock
from notchcore.geom.profile import Profile
from notchcore.nest.gate import faults
from notchcore.nest.turned import pack_turned
from notchcore.nest.values import Nesting, NestPart, NestRules
from tests.apps.conftest import Api
from tests.rows import said

PROFILE: TypeAdapter[Profile] = TypeAdapter(Profile)
PACK = {"margin_mm": 5, "spacing_mm": 2, "keep_grain": False, "copies": 1, "seconds": 0.1, "seed": 1}


def test_a_part_is_moved_locked_and_stays_when_the_rest_is_packed_again(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    def layout() -> dict[str, Any]:
        return api.ok("get", f"projects/{drawer.pk}/lay-out")

    def move(told: dict[str, Any], **changes: Any) -> Any:
        sheet = told["nesting"]["sheets"][0]
        at = sheet["placements"][0]
        body = {"version": told["version"], "part": at["part"], "number": at["copy"], "sheet": sheet["sheet"], "sheet_copy": sheet["copy"]}
        body |= {"turn": at["turn"], "x": at["x"], "y": at["y"]} | changes
        return api("post", f"projects/{drawer.pk}/lay-out/move", body)

    def place(told: dict[str, Any], key: tuple[str, int]) -> Any:
        return next((s["sheet"], s["copy"], p) for s in told["nesting"]["sheets"] for p in s["placements"] if (p["part"], p["copy"]) == key)

    before = layout()
    refused = move(before, x=-500.0)
    assert refused.status_code == 422
    assert "over the margin" in refused.json()["message"]
    first = before["nesting"]["sheets"][0]["placements"][0]
    key = (first["part"], first["copy"])
    after = move(before, x=first["x"] + 7.0, y=first["y"] + 3.0, settle=True).json()
    assert place(after, key) != place(before, key)
    assert after["version"] != before["version"]
    assert move(before, settle=True).status_code == 409  # made on what is no more
    lock = {"version": after["version"], "parts": [{"part": key[0], "number": key[1]}], "locked": True}
    assert someone(Role.VIEWER)("post", f"projects/{drawer.pk}/lay-out/lock", lock).status_code == 403
    kept = api.ok("post", f"projects/{drawer.pk}/lay-out/lock", lock)
    assert kept["locked"] == [{"part": key[0], "number": key[1]}]
    assert api("post", f"projects/{drawer.pk}/lay-out/lock", {**lock, "version": kept["version"], "parts": [{"part": "moon", "number": 0}]}).status_code == 422
    pack_project(Project.objects.select_related("machine", "shop").get(pk=drawer.pk), ASKED.validate_python(PACK))
    again = layout()
    assert place(again, key) == place(after, key)
    assert again["locked"] == kept["locked"]
    free = api.ok("post", f"projects/{drawer.pk}/lay-out/lock", {**lock, "version": again["version"], "locked": False})
    assert free["locked"] == []


def test_what_is_missing_on_the_shelf_is_known_before_packing(api: Api, drawer: Project) -> None:
    def told(copies: int) -> dict[str, Any]:
        every = api.ok("post", f"projects/{drawer.pk}/lay-out/need", PACK | {"copies": copies})
        return next(n for n in every if Stock.objects.get(pk=int(n["stock"])).name.startswith("Birch"))

    few, many = told(1), told(60)
    assert few["buy"] == 0
    assert many["buy"] > 0
    assert many["sure"]
    assert many["price"] == pytest.approx(many["buy"] * 7.5)
    assert api("post", f"projects/{drawer.pk}/lay-out/need", PACK | {"copies": 0}).status_code == 422


def test_wishes_for_a_packing_together_turned_filled_up_and_clear_of_bad_spots(api: Api, drawer: Project) -> None:
    birch_row = Stock.objects.get(name="Birch ply 3, batch 12")
    spot = [[560, 370], [590, 370], [590, 390], [560, 390]]
    birch_row.sheets.all().delete()
    sheet = {"name": "Knotty", "width_mm": 600, "height_mm": 400, "count": 4, "price": 5.0, "bad": [spot]}
    assert "bad spot" in api("post", f"stocks/{birch_row.pk}/sheets", {**sheet, "bad": [[[0, 0], [9, 9]]]}).json()["message"]
    api.ok("post", f"stocks/{birch_row.pk}/sheets", sheet)
    wish = PACK | {
        "only": {},
        "seconds": 0.6,
        "together": [["front", "back"]],
        "turns": {"lid": "fixed"},
        "fill": {"left": 2},
        "spacing": {str(birch_row.pk): 3.5},
        "backs": ["right", "lid", "front"],
    }
    for wrong in ({"turns": {"lid": "often"}}, {"fill": {"lid": -1}}, {"spacing": {"1": 1e9}}):
        assert api("post", f"projects/{drawer.pk}/lay-out/pack", wish | wrong).status_code == 422
    pack_project(Project.objects.select_related("machine", "shop").get(pk=drawer.pk), ASKED.validate_python(wish))
    told = api.ok("get", f"projects/{drawer.pk}/lay-out")
    sheets = [s for s in told["nesting"]["sheets"] if s["stock"] == str(birch_row.pk)]
    on = {p["part"]: k for k, s in enumerate(sheets) for p in s["placements"]}
    assert on["front"] == on["back"]
    assert {p["turn"] for s in sheets for p in s["placements"] if p["part"] == "lid"} == {0}
    assert sum(p["part"] == "left" for s in sheets for p in s["placements"]) in (2, 3)
    parts = {p["id"]: NestPart(id=p["id"], stock=p["stock"], profile=PROFILE.validate_python(p["profile"])) for p in told["parts"]}
    assert all(p["backed"] == (p["id"] in wish["backs"] and not p["marked"]) for p in told["parts"])
    assert not any(p["mirrored"] for s in sheets for p in s["placements"] if p["part"] not in wish["backs"])
    for s in sheets:
        assert s["bad"] == [spot]
        assert s["leftover"] is None or min(s["leftover"][2] - s["leftover"][0], s["leftover"][3] - s["leftover"][1]) >= 20
        layout = NESTING.validate_python({**told["nesting"], "sheets": [s]}).sheets[0]
        assert faults(layout, parts, rules=NestRules(margin=5, spacing=3.5)) == ()
    lid = next(p for s in sheets for p in s["placements"] if p["part"] == "lid")
    s = sheets[on["lid"]]
    body = {"version": told["version"], "part": "lid", "number": 0, "sheet": s["sheet"], "sheet_copy": s["copy"], "settle": False}
    over = {**body, "turn": 0, "x": 300.0, "y": 200.0, "mirrored": True, "settle": True}
    assert "on its back" in api("post", f"projects/{drawer.pk}/lay-out/move", over).json()["message"]  # the lid is marked
    over |= {"part": "right", "sheet_copy": 3}  # an empty one
    back = api("post", f"projects/{drawer.pk}/lay-out/move", over)
    assert next(p for s in back.json()["nesting"]["sheets"] for p in s["placements"] if p["part"] == "right")["mirrored"]
    plan = api.ok("get", f"projects/{drawer.pk}/cut-plan")
    assert {f["severity"] for f in plan["plan"]["findings"] if f["code"] in ("outside_bed", "cut_twice")} == {"fine"}
    body["version"] = back.json()["version"]
    assert "turned" in api("post", f"projects/{drawer.pk}/lay-out/move", {**body, "turn": 90, "x": lid["x"], "y": lid["y"]}).json()["message"]


def test_parts_share_their_cuts_a_beam_apart_while_kerf_is_in_our_paths(api: Api, drawer: Project) -> None:
    wish = PACK | {"only": {}, "common": True}
    assert api.ok("get", f"projects/{drawer.pk}/lay-out")["may_share"]
    asked = api.ok("post", f"projects/{drawer.pk}/lay-out/pack", wish)["job"]
    assert asked["state"] == "waiting"
    row = StageJob.objects.get(project=drawer, state=JobState.WAITING)
    kerfs = {k: round(s.kerf.value, 4) for k, s in current(drawer).stocks.items()}
    assert row.request["kerfs"] == kerfs
    assert row.request["spacing"] == {}  # what was typed is there again once cuts are not shared
    pack_project(Project.objects.select_related("machine", "shop").get(pk=drawer.pk), ASKED.validate_python(row.request))
    plan = api.ok("post", f"projects/{drawer.pk}/cut-plan")["plan"]
    assert sum(len(s["path"]["left_out"]) for sheet in plan["sheets"] for s in sheet["strokes"]) > 0
    machine = Machine.objects.get(pk=drawer.machine_id)
    machine.profile = {**machine.profile, "kerf_place": "machine"}
    machine.save()
    told = api("post", f"projects/{drawer.pk}/lay-out/pack", wish)
    assert "kerf is corrected in our paths" in told.json()["message"]
    assert not api.ok("get", f"projects/{drawer.pk}/lay-out")["may_share"]


def test_the_cheapest_way_and_the_one_with_the_fewest_sheets_are_kept_beside_each_other(api: Api, drawer: Project) -> None:
    birch_row = Stock.objects.get(name="Birch ply 3, batch 12")
    birch_row.sheets.update(count=0)
    for name, size, count, price in (("Half", (330, 230), 6, 1.0), ("Large", (600, 400), 1, 9.0)):
        birch_row.sheets.create(name=name, width_mm=size[0], height_mm=size[1], count=count, price=price)
    pack_project(Project.objects.select_related("machine", "shop").get(pk=drawer.pk), ASKED.validate_python(PACK | {"seconds": 0.6}))
    told = api.ok("get", f"projects/{drawer.pk}/lay-out")
    cheap, few = (next(w for w in told["ways"] if w["name"] == name) for name in ("cheapest", "fewest sheets"))
    assert (cheap["taken"], few["taken"]) == (True, False)
    assert all(w["left_mm"][0] > 0 for w in told["ways"])
    assert cheap["price"] < few["price"]
    assert cheap["sheets"] > few["sheets"]
    taken = api.ok("post", f"projects/{drawer.pk}/lay-out/way", {"version": told["version"], "name": few["name"]})
    assert [w["name"] for w in taken["ways"] if w["taken"]] == ["fewest sheets"]
    assert len(taken["nesting"]["sheets"]) == few["sheets"]
    assert api("post", f"projects/{drawer.pk}/lay-out/way", {"version": taken["version"], "name": "moon"}).status_code == 422


def test_with_far_too_few_sheets_nothing_is_lost_and_no_other_way_is_tried(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    tried: list[str] = []

    def noted(parts: list[NestPart], *given: Any, **named: Any) -> Nesting:
        tried.extend(sorted({p.stock for p in parts}))
        return pack_turned(parts, *given, **named)

    monkeypatch.setattr("notchcore.nest.ways.pack_turned", noted)
    birch_row = Stock.objects.get(name="Birch ply 3, batch 12")
    birch_row.sheets.update(count=0)
    for name, size in (("Half", (330, 230)), ("Strip", (300, 90))):
        birch_row.sheets.create(name=name, width_mm=size[0], height_mm=size[1], count=1, price=1.0)
    pack_project(Project.objects.select_related("machine", "shop").get(pk=drawer.pk), ASKED.validate_python(PACK | {"copies": 6, "seconds": 0.6}))
    told = api.ok("get", f"projects/{drawer.pk}/lay-out")
    left = told["nesting"]["unplaced"]
    assert sum(len(s["placements"]) for s in told["nesting"]["sheets"]) + sum(u["count"] for u in left) == 60
    assert {said(u["why"]) for u in left} >= {"the sheets are full; add a sheet"}
    assert str(birch_row.pk) not in tried
    assert str(Stock.objects.get(name="Walnut 3").pk) in tried  # of which there is enough


def test_a_sheet_is_swapped_for_another_of_its_stock_as_its_parts_lie(api: Api, drawer: Project) -> None:
    told = api.ok("get", f"projects/{drawer.pk}/lay-out")
    first = next(s for s in told["nesting"]["sheets"] if s["name"].startswith("Birch"))
    birch_row = Stock.objects.get(pk=int(first["stock"]))
    large = birch_row.sheets.create(name="Larger", width_mm=620, height_mm=410, count=1, price=9.0)
    small = birch_row.sheets.create(name="Small", width_mm=120, height_mm=110, count=1, price=1.0)
    body = {"version": told["version"], "sheet": first["sheet"], "sheet_copy": first["copy"], "to_copy": 0}
    assert "do not fit Small" in api("post", f"projects/{drawer.pk}/lay-out/swap", {**body, "to_sheet": str(small.pk)}).json()["message"]
    after = api.ok("post", f"projects/{drawer.pk}/lay-out/swap", {**body, "to_sheet": str(large.pk)})
    (lies,) = [s for s in after["nesting"]["sheets"] if s["name"] == "Larger"]
    assert lies["placements"] == first["placements"]
    assert api("post", f"projects/{drawer.pk}/lay-out/swap", {**body, "to_sheet": str(large.pk)}).status_code == 409
