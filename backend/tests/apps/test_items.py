"""Projects of several items over HTTP: they begin with drawers, are opened alone, mended, joined, packed, planned and taken elsewhere."""

from __future__ import annotations

from typing import Any

import pytest

from apps.accounts.models import Role
from apps.designs import queries
from apps.designs.models import Drawing, Project
from apps.layouts import services as layouts
from apps.plans import services as plans
from tests.apps.conftest import Api
from tests.apps.test_build import save
from tests.apps.test_dry_fit import checked, finding, mend, text
from tests.apps.test_exchange import bring_in, decorated, parts


@pytest.fixture
def cabinet(api: Api) -> Project:
    body = {"name": "Tool case", "numbers": {"family": "case", "width": 120.0, "depth": 90.0, "height": 80.0, "drawers": 2}, "feel": "snug"}
    return Project.objects.get(pk=api.ok("post", "projects", body)["id"])


def build(api: Api, row: Project, item: str = "") -> dict[str, Any]:
    found: dict[str, Any] = api.ok("get", f"projects/{row.pk}/build?item={item}")
    return found


def change(api: Api, row: Project, item: str, **changes: Any) -> None:
    save(api, row, lambda d: {**d, "items": [i | changes if i["id"] == item else i for i in d["items"]]})


def test_a_case_begins_with_its_drawers_and_each_is_opened_alone(api: Api, cabinet: Project) -> None:
    whole = build(api, cabinet)
    assert [(i["id"], i["label"], i["parts"], i["host"]) for i in whole["items"]] == [
        ("main", "Case", 6, ""),
        ("drawer-1", "Drawer 1", 5, "main"),
        ("drawer-2", "Drawer 2", 5, "main"),
    ]
    assert {p["item"] for p in whole["parts"]} == {"", "drawer-1", "drawer-2"}
    assert [r["taken_by"] for r in whole["rooms"] if r["host"] == "main"] == ["drawer-1", "drawer-2"]
    alone = build(api, cabinet, "drawer-2")
    assert {p["id"] for p in alone["parts"]} == {"base", "front", "back", "left", "right"}
    assert sorted(whole["items"][2]["bound"]) == ["depth", "height", "width"]
    assert alone["numbers"]["width"] == pytest.approx(whole["rooms"][1]["size"][0] - 1.0, abs=2e-3)
    assert len(build(api, cabinet, "main")["parts"]) == 6
    meeting = alone["meetings"][0]["id"]
    there = next(m["id"] for m in whole["meetings"] if m["id"].startswith("drawer-2:"))
    inside = api.ok("get", f"projects/{cabinet.pk}/meetings/{meeting.replace('#', '%23')}?item=drawer-2")
    outside = api.ok("get", f"projects/{cabinet.pk}/meetings/{there.replace('#', '%23')}")
    assert inside["features"][0]["drawn"]["value"] == outside["features"][0]["drawn"]["value"]
    size = api.ok("get", f"projects/{cabinet.pk}/parts/drawer-2:front/size?along=x")
    assert size == api.ok("get", f"projects/{cabinet.pk}/parts/front/size?along=x&item=drawer-2")
    assert api("get", f"projects/{cabinet.pk}/build?item=nobody").status_code == 422


def test_all_items_are_checked_packed_planned_and_counted_together(api: Api, cabinet: Project) -> None:
    change(api, cabinet, "drawer-1", count=2, spares=1)
    fit = checked(api, cabinet)
    assert fit["fresh"]
    assert not [f for f in fit["result"]["findings"] if f["severity"] == "must"]
    assert [p["item"] for p in fit["result"]["plays"]] == ["drawer-1", "drawer-2"]
    assert {s["within"] for s in fit["guide"]} >= {"drawer-1:back+drawer-1:base+drawer-1:front+drawer-1:left+drawer-1:right"}
    row = Project.objects.get(pk=cabinet.pk)
    layouts.pack_project(row, layouts.default_request(row, seconds=0.3))
    plan = plans.make_plan(row)
    free = [s.path.id for sheet in plan.sheets for s in sheet.strokes if "/outer" in s.path.id]
    assert sum(i.startswith("drawer-1:front.") for i in free) == 3
    assert sum(i.startswith("front.") for i in free) == 0
    assert sum(i.startswith("drawer-2:front.") for i in free) == 1


def test_a_repair_changes_the_item_that_it_is_about(api: Api, cabinet: Project) -> None:
    save(
        api,
        cabinet,
        lambda d: {**d, "items": [i | {"design": i["design"] | {"features": [text(panel="front")]}} if i["id"] == "drawer-2" else i for i in d["items"]]},
    )
    found = finding(api, cabinet, "text_too_small")
    assert found["item"] == "drawer-2"
    assert found["parts"] == ["drawer-2:front"]
    saved = mend(api, cabinet, found, found["repairs"][0]).json()
    assert saved["design"]["items"][1]["design"]["features"][0]["cap"] == 2.5
    assert saved["design"]["features"] == []
    assert "text_too_small" not in {f["code"] for f in checked(api, cabinet)["result"]["findings"] if f["severity"] != "fine"}


def test_scale_and_variants_of_one_item_leave_the_others(api: Api, cabinet: Project) -> None:
    change(api, cabinet, "drawer-1", loose=None)
    before = {p["id"]: p["profile"] for p in build(api, cabinet)["parts"]}
    base = api.ok("get", f"projects/{cabinet.pk}")["revision"]
    larger = api.ok("post", f"projects/{cabinet.pk}/scale", {"base": base, "factor": 1.5, "item": "drawer-1"})
    after = {p["id"]: p["profile"] for p in build(api, cabinet)["parts"]}
    assert {i for i in before if before[i] != after[i]} == {i for i in before if i.startswith("drawer-1:")}
    all_larger = api.ok("post", f"projects/{cabinet.pk}/scale", {"base": larger["revision"], "factor": 2.0, "item": ""})
    assert all_larger["design"]["numbers"]["width"] == 240.0
    widths = [d["design"]["items"][0]["design"]["numbers"]["width"] for d in (larger, all_larger)]
    assert widths[1] == pytest.approx(2 * widths[0])


def test_an_empty_room_is_filled_and_a_full_case_says_so(api: Api, cabinet: Project) -> None:
    save(api, cabinet, lambda d: {**d, "items": d["items"][:1]})
    base = api.ok("get", f"projects/{cabinet.pk}")["revision"]
    told = api.ok("post", f"projects/{cabinet.pk}/items/fill", {"base": base, "host": "main", "play": 0.3, "rooms": []})
    assert [(i["id"], i["loose"]["play"]) for i in told["design"]["items"]] == [("drawer-1", 0.5), ("drawer-2", 0.3)]
    assert told["revision_label"] == "Drawer 2 added"
    again = api("post", f"projects/{cabinet.pk}/items/fill", {"base": told["revision"], "host": "main", "play": 0.3, "rooms": []})
    assert again.status_code == 422
    assert "no empty room" in str(again.json())
    stale = api("post", f"projects/{cabinet.pk}/items/fill", {"base": base, "host": "drawer-1", "play": 0.3, "rooms": []})
    assert stale.status_code == 409


def test_another_project_comes_in_with_its_drawings_and_goes_elsewhere_with_the_rest(api: Api, cabinet: Project, drawer: Project) -> None:
    decorated(api, drawer)
    base = api.ok("get", f"projects/{cabinet.pk}")["revision"]
    told = api.ok("post", f"projects/{cabinet.pk}/items/bring", {"base": base, "project": drawer.pk})
    item = told["design"]["items"][-1]
    assert item["label"] == "Seed packet drawer"
    art = next(f for f in item["design"]["features"] if f["kind"] == "artwork")
    assert Drawing.objects.get(pk=int(art["drawing"])).project_id == cabinet.pk
    here = {p[0]: p[1:] for p in parts(cabinet)}
    alone = {p[0]: p[1:] for p in parts(drawer)}
    assert {i: here[f"seed-packet-drawer:{i}"] for i in alone} == alone
    out = bytes(api("get", f"projects/{cabinet.pk}/bundle").content)
    back = Project.objects.get(pk=bring_in(api, out).json()["id"])
    assert parts(back) == parts(cabinet)
    assert queries.current(Project.objects.select_related("machine", "shop").get(pk=back.pk)).design.drawing_ids() != (art["drawing"],)
    itself = api("post", f"projects/{cabinet.pk}/items/bring", {"base": told["revision"], "project": cabinet.pk})
    assert itself.status_code == 422


def test_an_item_is_laid_on_another_one_and_nothing_else_moves(api: Api, cabinet: Project, someone: Any) -> None:
    def now() -> dict[str, Any]:
        found: dict[str, Any] = api.ok("get", f"projects/{cabinet.pk}")
        return found

    sheet = {"numbers": {"family": "plate", "width": 50.0, "height": 30.0}, "stocks": {"plate": now()["design"]["stocks"]["case"]}}
    save(api, cabinet, lambda d: {**d, "items": [*d["items"], {"id": "tile", "label": "Tile", "design": sheet, "turn": 40.0}]})
    before = {p["id"]: p["pose"] for p in build(api, cabinet)["parts"]}
    told = api.ok("post", f"projects/{cabinet.pk}/lay-on", {"base": now()["revision"], "part": "tile:sheet", "onto": "top"})
    assert told["revision_label"] == "Tile: Plate laid on Case: Top"
    after = {p["id"]: p["pose"] for p in build(api, cabinet)["parts"]}
    assert {k: v for k, v in after.items() if k != "tile:sheet"} == {k: v for k, v in before.items() if k != "tile:sheet"}
    assert after["tile:sheet"]["origin"][2] >= 80.0 - 1e-6
    refused = api("post", f"projects/{cabinet.pk}/lay-on", {"base": now()["revision"], "part": "drawer-1:front", "onto": "top"})
    assert (refused.status_code, "another item holds it" in refused.content.decode()) == (422, True)
    assert api("post", f"projects/{cabinet.pk}/lay-on", {"base": 1, "part": "tile:sheet", "onto": "top"}).status_code == 409
    assert someone(Role.VIEWER)("post", f"projects/{cabinet.pk}/lay-on", {"base": 1, "part": "tile:sheet", "onto": "top"}).status_code == 403


def test_an_item_follows_the_project_that_it_came_from_when_it_is_asked_to(api: Api, cabinet: Project, drawer: Project, someone: Any) -> None:
    decorated(api, drawer)

    def now() -> Any:
        return api.ok("get", f"projects/{cabinet.pk}")

    def source() -> Any:
        return api.ok("get", f"projects/{cabinet.pk}/build")["items"][-1]["source"]

    api.ok("post", f"projects/{cabinet.pk}/items/bring", {"base": now()["revision"], "project": drawer.pk})
    save(api, cabinet, lambda d: {**d, "items": [*d["items"][:-1], {**d["items"][-1], "count": 3, "turn": 90.0}]})
    taken = source()["revision"]
    assert source() == {"project": drawer.pk, "name": "Seed packet drawer", "revision": taken, "changed": False}
    save(api, drawer, lambda d: {**d, "notes": {"base": "Sand it."}})
    save(api, drawer, lambda d: {**d, "notes": {}})
    assert source() == {"project": drawer.pk, "name": "Seed packet drawer", "revision": taken, "changed": False}
    before = parts(cabinet)
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "width": 240.0}})
    assert (source()["changed"], parts(cabinet)) == (True, before)  # nothing changes by itself

    told = api.ok("post", f"projects/{cabinet.pk}/items/seed-packet-drawer/follow", {"base": now()["revision"]})
    item = told["design"]["items"][-1]
    assert (told["revision_label"], item["count"], item["turn"], item["design"]["numbers"]["width"]) == (
        "Seed packet drawer: as Seed packet drawer is now",
        3,
        90.0,
        240.0,
    )
    assert source()["changed"] is False
    assert {p[0] for p in parts(cabinet)} == {p[0] for p in before}
    art = next(f for f in item["design"]["features"] if f["kind"] == "artwork")
    assert Drawing.objects.get(pk=int(art["drawing"])).project_id == cabinet.pk
    assert api("post", f"projects/{cabinet.pk}/items/seed-packet-drawer/follow", {"base": 1}).status_code == 409
    assert api("post", f"projects/{cabinet.pk}/items/drawer-1/follow", {"base": now()["revision"]}).status_code == 422
    assert someone(Role.VIEWER)("post", f"projects/{cabinet.pk}/items/seed-packet-drawer/follow", {"base": 1}).status_code == 403

    def followed(**other: object) -> Any:
        kept = now()
        items = [*kept["design"]["items"][:-1], {**item, "source": {"project": str(drawer.pk), "revision": 1, **other}}]
        return api("put", f"projects/{cabinet.pk}/design", {"base": kept["revision"], "design": {**kept["design"], "items": items}, "label": "Followed"})

    for wrong in ({"project": "abc"}, {"project": "9" * 30}, {"revision": 0}):
        assert followed(**wrong).status_code == 422
    assert followed(revision=99_999).status_code == 200  # of a revision that is not there: it is another thing now
    assert source()["changed"] is True
    base = api.ok("get", f"projects/{drawer.pk}")["revision"]
    back = api.ok("post", f"projects/{drawer.pk}/items/bring", {"base": base, "project": cabinet.pk})
    assert [i["source"] and i["source"]["project"] for i in back["design"]["items"]][-1] is None  # nothing follows the project that it is in
    out = bytes(api("get", f"projects/{cabinet.pk}/bundle").content)
    assert api.ok("get", f"projects/{bring_in(api, out).json()['id']}/build")["items"][-1]["source"] is None  # it may be another shop's
    drawer.delete()
    assert source()["name"] == ""


def test_nothing_of_another_shop_becomes_an_item(api: Api, cabinet: Project, someone: Any) -> None:
    stranger = someone(Role.OWNER, elsewhere=True)
    assert stranger("post", f"projects/{cabinet.pk}/items/bring", {"base": 1, "project": cabinet.pk}).status_code == 404
    assert someone(Role.VIEWER)("post", f"projects/{cabinet.pk}/items/fill", {"base": 1}).status_code == 403
