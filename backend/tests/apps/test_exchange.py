"""A project goes out as one file and comes in elsewhere without loss; what is no project comes in nowhere."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.accounts.models import Member, Role, Shop
from apps.designs import exchange, queries
from apps.designs.models import Drawing, Project, Revision
from apps.plans import services as plans
from apps.sheets.models import KerfTest, Machine, Reading, Stock
from notchcore.measure.materials import MATERIALS
from tests.apps.conftest import Api

DRAWN = b'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><path d="M2 2h30v20h-30z"/></svg>'


def taken_out(api: Api, project: Project) -> bytes:
    response = api("get", f"projects/{project.pk}/bundle")
    assert response.status_code == 200, response.content
    assert "seed-packet-drawer.project.zip" in response["Content-Disposition"]
    return bytes(response.content)


def bring_in(api: Api, data: bytes) -> Any:
    return api.client.post("/api/bundles", {"file": SimpleUploadedFile("a.zip", data)})


@pytest.fixture
def elsewhere(db: None, shop: Shop) -> Api:
    other = Shop.objects.create(name="Another shop")
    user = get_user_model().objects.create_user("elm", password="elm-elm-elm")
    Member.objects.create(shop=other, user=user, role=Role.OWNER)
    return Api("elm")


def parts(project: Project) -> list[Any]:
    now = queries.current(Project.objects.select_related("machine", "shop").get(pk=project.pk))
    return [
        (p.id, p.profile, [(m.line, m.operation) for m in p.marks], p.copies, p.bridges, [(f.id, f.width.value) for f in p.features])
        for p in now.assembly.parts
    ]


def decorated(api: Api, project: Project) -> None:
    """Give the project a drawing on a panel, a bridge, and a note."""
    drawing = api.client.post(f"/api/projects/{project.pk}/drawings", {"file": SimpleUploadedFile("a.svg", DRAWN)}).json()["id"]
    now = api.ok("get", f"projects/{project.pk}")
    design = now["design"]
    layers = [["0", "score"]]
    design["features"].append({"kind": "artwork", "id": "art", "panel": "front", "drawing": drawing, "width": 30.0, "layers": layers})
    design["edits"]["back"] = {"bridges": 2, "copies": 2}
    saved = api("put", f"projects/{project.pk}/design", {"base": now["revision"], "design": design, "label": "drawn on"})
    assert saved.status_code == 200, saved.content
    api.client.post(f"/api/projects/{project.pk}/trial", {"about": "", "feel": "", "text": "goes well"})


def lettered(api: Api, project: Project) -> None:
    """Give a decorated project letters of a stock of their own, and a drawing whose pieces wait."""
    now = api.ok("get", f"projects/{project.pk}")
    design = now["design"]
    grey, clear = (str(Stock.objects.get(name=name).pk) for name in ("Grey board 2", "Clear acrylic 3"))
    letters = {"kind": "text", "id": "letters", "panel": "front", "words": "BO", "cap": 12.0, "y": 12.0, "burned": "glued", "stock": grey}
    idle = design["features"][-1] | {"id": "idle", "panel": "back", "stocks": [{"layer": "0", "stock": clear}]}
    design["features"] += [letters, idle]
    saved = api("put", f"projects/{project.pk}/design", {"base": now["revision"], "design": design, "label": "lettered"})
    assert saved.status_code == 200, saved.content


def test_a_project_comes_in_elsewhere_as_it_was_with_its_history_and_evidence(api: Api, drawer: Project, elsewhere: Api) -> None:
    decorated(api, drawer)
    lettered(api, drawer)
    walnut = str(Stock.objects.get(name="Walnut 3").pk)
    plans.choose(drawer, {"lead": 2.0, "thick": (walnut, "999999"), "turn": "upwards"})
    data = taken_out(api, drawer)
    told = bring_in(elsewhere, data)
    assert told.status_code == 201, told.content
    there = Project.objects.get(pk=told.json()["id"])
    assert there.shop.name == "Another shop"
    assert parts(there) == parts(drawer)
    chosen = plans.choices_of(there)
    assert (chosen.lead, chosen.turn) == (2.0, "upwards")
    assert [Stock.objects.get(pk=int(s)).name for s in chosen.thick] == ["Walnut 3"]  # by its name there; a stock that is not in the file is gone
    assert chosen.thick != (walnut,)
    assert [(r.number, r.parent, r.label, r.created) for r in there.revisions.order_by("number")] == [
        (r.number, r.parent, r.label, r.created) for r in drawer.revisions.order_by("number")
    ]
    here_now, there_now = (queries.current(Project.objects.select_related("machine", "shop").get(pk=p.pk)) for p in (drawer, there))
    for sid, tid in zip(here_now.design.stock_ids(), there_now.design.stock_ids(), strict=True):
        ours, theirs = here_now.stocks[sid], there_now.stocks[tid]
        assert sid != tid
        assert (ours.thickness.value, ours.thickness.sd, ours.kerf.value, ours.kerf.sd) == (
            theirs.thickness.value,
            theirs.thickness.sd,
            theirs.kerf.value,
            theirs.kerf.sd,
        )
        assert here_now.settings[sid] == there_now.settings[tid]
    (letters, idle) = there_now.design.features[-2:]
    assert Stock.objects.get(pk=int(letters.stock)).shop == there.shop  # what pieces are cut from goes along,
    assert Stock.objects.get(pk=int(idle.stocks[0].stock)).name == "Clear acrylic 3"  # also of a layer that is no piece now
    assert [n.text for n in there.trial_notes.all()] == ["goes well"]
    undone = elsewhere.ok("post", f"projects/{there.pk}/undo", {"base": told.json()["revision"]})
    assert undone["revision"] < told.json()["revision"]
    again = bring_in(api, bytes(elsewhere("get", f"projects/{there.pk}/bundle").content))  # and back again
    assert again.status_code == 201
    assert Stock.objects.filter(shop=drawer.shop).count() == Stock.objects.filter(shop=drawer.shop).values("name", "batch").distinct().count()


def test_in_its_own_shop_it_uses_the_stocks_and_machine_that_are_there(api: Api, drawer: Project) -> None:
    before = [m.objects.count() for m in (Stock, Machine, Reading, KerfTest)]
    told = bring_in(api, taken_out(api, drawer)).json()
    assert [m.objects.count() for m in (Stock, Machine, Reading, KerfTest)] == before
    assert parts(Project.objects.get(pk=told["id"])) == parts(drawer)
    names = [told["name"], bring_in(api, taken_out(api, drawer)).json()["name"]]
    assert names == [f"{drawer.name} (2)", f"{drawer.name} (3)"]  # so that they can be told apart


def test_only_designers_bring_in_and_nothing_of_others_goes_out(api: Api, drawer: Project, elsewhere: Api, someone: Callable[..., Api]) -> None:
    data = taken_out(api, drawer)
    assert bring_in(someone(Role.VIEWER), data).status_code == 403
    assert elsewhere("get", f"projects/{drawer.pk}/bundle").status_code == 404


def zipped(**files: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in files.items():
            archive.writestr(name.replace("__", "/") + ".json", text)
    return out.getvalue()


def test_a_file_in_which_materials_are_called_families_comes_in(api: Api, drawer: Project) -> None:
    kept = json.loads(zipfile.ZipFile(io.BytesIO(taken_out(api, drawer))).read("project.json"))
    for stock in kept["stocks"].values():
        for holder in (stock, stock["fields"]):
            holder["family"] = holder.pop("material")
    before = Stock.objects.count()
    told = bring_in(api, zipped(project=json.dumps(kept | {"version": 1})))
    assert told.status_code == 201, told.content
    assert Stock.objects.count() == before  # they are the shop's own
    next(iter(kept["stocks"].values()))["name"] = "Unknown sheet"
    assert bring_in(api, zipped(project=json.dumps(kept))).status_code == 201
    assert Stock.objects.get(name="Unknown sheet").material in MATERIALS


def test_what_is_no_project_is_refused_in_words_and_leaves_nothing(api: Api, drawer: Project, monkeypatch: pytest.MonkeyPatch) -> None:
    decorated(api, drawer)
    data = taken_out(api, drawer)
    good = json.loads(zipfile.ZipFile(io.BytesIO(data)).read("project.json"))
    drawing = next(iter(good["drawings"]))
    payload = zipfile.ZipFile(io.BytesIO(data)).read(f"drawings/{drawing}.json").decode()
    stock = next(iter(good["stocks"]))

    def changed(change: Callable[[dict[str, Any]], Any], lines: str = payload) -> bytes:
        copy = json.loads(json.dumps(good))
        change(copy)
        return zipped(project=json.dumps(copy), **{f"drawings__{drawing}": lines})

    def new_stock(copy: dict[str, Any], **fields: Any) -> None:
        copy["stocks"][stock]["name"] = "Unknown sheet"
        copy["stocks"][stock]["readings"] = [{"on": "2026-01-01", "thickness_mm": 3.1, **fields}]

    before = [m.objects.count() for m in (Project, Revision, Drawing, Stock, Machine, Reading)]
    bad = {
        "no zip": b"PK nothing",
        "empty": b"",
        "no project": zipped(other="{}"),
        "no JSON": zipped(project="{"),
        "a list": zipped(project="[]"),
        "deep": zipped(project="[" * 100_000),
        "newer": changed(lambda c: c.update(version=99)),
        "other format": changed(lambda c: c.update(format="x")),
        "no head": changed(lambda c: c.update(head=77)),
        "no revisions": changed(lambda c: c.update(revisions=[])),
        "bad design": changed(lambda c: c["revisions"][-1]["design"]["numbers"].update(width="wide")),
        "bad drawing": changed(lambda c: None, '{"lines": 7}'),
        "no drawing": changed(lambda c: c["drawings"].update({"999": "gone"})),
        "bad date": changed(lambda c: new_stock(c, on="someday")),
        "bad stock": changed(lambda c: (new_stock(c), c["stocks"][stock].update(label_mm=-3))),
        "not a number": changed(lambda c: new_stock(c, thickness_mm="x")),
        "bad plan": changed(lambda c: c.update(plan={"lead": "far"})),
        "odd plan": changed(lambda c: c.update(plan={"thick": 7})),
        "bad machine": changed(lambda c: c["machine"].update(name="Moon", profile={"bed_width": "wide"})),
    }
    for name, content in bad.items():
        told = bring_in(api, content)
        assert told.status_code == 422, (name, told.content)
        assert "project" in told.json()["message"], name
    monkeypatch.setattr(exchange, "MOST_BYTES", 1000)
    assert "unpacks to more" in bring_in(api, data).json()["message"]
    monkeypatch.setattr(exchange, "MOST_PACKED", 500)
    assert "too many pictures" in bring_in(api, data).json()["message"]
    assert [m.objects.count() for m in (Project, Revision, Drawing, Stock, Machine, Reading)] == before
