"""Build over HTTP: families, edits, drawings and solids, with their rights and their mistakes."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdf import PdfReader

from apps.accounts.models import Role
from apps.designs import dry_fit
from apps.designs.models import Drawing, Project, Revision
from apps.layouts import services
from apps.plans.services import files_of, make_plan
from apps.sheets.models import Stock
from notchcore.design.families.registry import FAMILIES
from notchcore.geom.profile import bounds_of
from notchcore.nest.values import Nesting
from notchcore.plan.moves import moves_of
from tests.apps.conftest import Api
from tests.rows import said

LEAF = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="50mm" viewBox="0 0 100 60"><path stroke="red" d="M0 0H100V60H0Z"/>'
    b'<circle stroke="blue" cx="50" cy="30" r="10"/></svg>'
)


def grey_image() -> bytes:
    out = io.BytesIO()
    Image.linear_gradient("L").resize((90, 40)).save(out, "PNG")
    return out.getvalue()


PICTURE = grey_image()


def project(name: str) -> Project:
    return Project.objects.get(name=name)


def upload(api: Api, path: str, data: bytes, name: str = "leaf.svg", **more: Any) -> Any:
    return api.client.post(f"/api/{path}", {"file": SimpleUploadedFile(name, data), **more})


def fresh(row: Project) -> Project:
    return Project.objects.get(pk=row.pk)


def packed(row: Project) -> Nesting:
    return services.pack_project(fresh(row), services.default_request(fresh(row), seconds=0.2))


def save(api: Api, row: Project, change: Callable[[dict], dict], label: str = "a change") -> Any:
    now = api.ok("get", f"projects/{row.pk}")
    return api("put", f"projects/{row.pk}/design", {"base": now["revision"], "design": change(now["design"]), "label": label})


def test_every_family_is_offered_with_its_numbers_a_picture_and_what_it_begins_with(api: Api) -> None:
    families = api.ok("get", "families")
    assert [f["id"] for f in families] == list(FAMILIES)
    for f in families:
        names = {n["name"] for n in f["numbers"]}
        assert set(f["first"]) <= names <= set(f["defaults"])
        assert f["picture"]["faces"]
        begun = api.ok("post", "projects", {"name": f"A {f['id']}", "numbers": f["defaults"]})
        built = api.ok("get", f"projects/{begun['id']}/build")
        assert len(built["parts"]) >= (1 if f["id"] == "plate" else 2)
        assert [x for x in built["findings"] if x["severity"] == "must"] == []
        assert built["size_mm"] > 50
        drawn = api.ok("get", f"projects/{begun['id']}/picture")
        assert drawn["faces"]
        assert {line["name"] for line in drawn["lines"]} <= names


def test_every_kind_of_feature_can_be_put_on_a_panel_as_it_is_offered(api: Api, drawer: Project) -> None:
    types = api.ok("get", "feature-types")
    drawing = upload(api, f"projects/{drawer.pk}/drawings", LEAF).json()
    image = upload(api, f"projects/{drawer.pk}/drawings", PICTURE, as_picture="true").json()
    shown = {"artwork": drawing["id"], "picture": image["id"]}
    for t in types:
        feature = {**t["defaults"], "id": "f", "panel": "base"} | ({"drawing": shown[t["id"]]} if t["id"] in shown else {})
        assert save(api, drawer, lambda d, f=feature: {**d, "features": [f]}).status_code == 200
        assert [f for f in api.ok("get", f"projects/{drawer.pk}/build")["findings"] if "lost" in f["code"]] == []


def test_edits_of_panels_are_steps_that_can_be_undone_and_their_openings_asked_why(api: Api, drawer: Project) -> None:
    before = api.ok("get", f"projects/{drawer.pk}/build")
    walnut = str(Stock.objects.get(name="Walnut 3").pk)
    hole = {"kind": "hole", "id": "h", "panel": "front", "diameter": 8.0, "fit": "slip", "x": 60.0, "y": -8.0}
    response = save(api, drawer, lambda d: {**d, "edits": {"front": {"stock": walnut, "copies": 2, "spares": 1}}, "features": [hole]}, "Front in walnut")
    assert response.json()["revision_label"] == "Front in walnut"
    front = next(p for p in api.ok("get", f"projects/{drawer.pk}/build")["parts"] if p["id"] == "front")
    assert (front["stock"], front["copies"], front["spares"]) == (walnut, 2, 1)
    why = api.ok("get", f"projects/{drawer.pk}/parts/front/why?feature=h/0")
    assert [t["kind"] for t in why["drawn"]["terms"]] == ["size", "fit", "kerf"]
    assert why["drawn"]["value"] == pytest.approx(8.15 - 0.19, abs=1e-6)
    assert api("get", f"projects/{drawer.pk}/parts/front/why?feature=h/9").status_code == 404
    api.ok("post", f"projects/{drawer.pk}/undo", {"base": response.json()["revision"]})
    assert api.ok("get", f"projects/{drawer.pk}/build")["built_from"] == before["built_from"]


def test_choices_of_panels_that_no_longer_meet_wait_as_orphans(api: Api, drawer: Project) -> None:
    save(api, drawer, lambda d: {**d, "choices": {"column-2+front": {"feel": "slides"}}})
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "columns": 1}})
    assert api.ok("get", f"projects/{drawer.pk}/build")["orphans"] == [{"id": "column-2+front", "label": "what was column 2 with Front"}]
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "columns": 3}})
    built = api.ok("get", f"projects/{drawer.pk}/build")
    assert built["orphans"] == []
    assert next(m for m in built["meetings"] if m["id"] == "column-2+front")["feel"] == "slides"


def test_scaling_is_one_revision_and_a_conflict_is_told(api: Api, drawer: Project) -> None:
    base = api.ok("get", f"projects/{drawer.pk}")["revision"]
    made = api.ok("post", f"projects/{drawer.pk}/scale", {"base": base, "factor": 0.5})
    assert (made["design"]["numbers"]["width"], made["design"]["numbers"]["lid_hole"]) == (107.0, 24.0)
    assert api("post", f"projects/{drawer.pk}/scale", {"base": base, "factor": 2}).status_code == 409
    assert api("post", f"projects/{drawer.pk}/scale", {"base": made["revision"], "factor": 900}).status_code == 422


def test_a_drawing_is_read_kept_with_its_project_and_shown_on_a_panel(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    found = upload(api, f"projects/{drawer.pk}/drawings", LEAF)
    assert found.status_code == 201
    drawing = found.json()
    assert (drawing["mm_per_unit"], drawing["size"]) == (0.5, [100.0, 60.0])
    assert [(x["name"], x["lines"], x["open"]) for x in drawing["layers"]] == [("red", 1, 0), ("blue", 1, 0)]
    art = {"kind": "artwork", "id": "a", "panel": "lid", "drawing": drawing["id"], "width": 40.0, "layers": [["red", "score"], ["blue", None]]}
    save(api, drawer, lambda d: {**d, "features": [art]})
    lid = next(p for p in api.ok("get", f"projects/{drawer.pk}/build")["parts"] if p["id"] == "lid")
    assert sum(m["operation"] == "score" and len(m["line"]) == 4 for m in lid["marks"]) >= 1
    other = project("Nesting box")
    save(api, other, lambda d: {**d, "features": [{**art, "panel": "front"}]})
    assert "drawing_lost" in {f["code"] for f in api.ok("get", f"projects/{other.pk}/build")["findings"]}
    assert upload(someone(Role.VIEWER), f"projects/{drawer.pk}/drawings", LEAF).status_code == 403


@pytest.mark.parametrize(
    ("data", "told"),
    [
        (b"", "empty"),
        (b"PK\x03\x04 a zip", "neither SVG"),
        (b"<svg></svg>", "Nothing could be taken"),
        (b"x" * 8_000_001, "at most 8 MB"),
        (b"\x89PNG\r\n\x1a\nbroken", "not an image"),
    ],
)
def test_a_file_that_shows_nothing_is_refused_in_words(api: Api, drawer: Project, data: bytes, told: str) -> None:
    response = upload(api, f"projects/{drawer.pk}/drawings", data)
    assert response.status_code == 422
    assert told in response.json()["message"]
    assert Drawing.objects.filter(project=drawer).count() == 0


def test_gaps_are_closed_on_request_and_the_first_drawing_stays(api: Api, drawer: Project) -> None:
    data = b'<svg xmlns="http://www.w3.org/2000/svg"><path stroke="red" d="M0 0H50V40H0V0.3"/></svg>'
    loose = upload(api, f"projects/{drawer.pk}/drawings", data).json()
    assert loose["silhouette"] == []
    whole = api.ok("post", f"projects/{drawer.pk}/drawings/{loose['id']}/close", {"gap": 0.5})
    assert len(whole["silhouette"]) == 4
    assert [d["id"] for d in api.ok("get", f"projects/{drawer.pk}/drawings")] == [whole["id"], loose["id"]]


def test_heights_come_from_a_grey_image(api: Api, drawer: Project) -> None:
    hill = project("Contour hill")
    found = upload(api, f"projects/{hill.pk}/heights", PICTURE, "hill.png").json()
    assert found["size"] is None
    assert found["grid"][0][0] > found["grid"][-1][0]  # the lowest row of the image is light, and the front
    assert save(api, hill, lambda d: {**d, "numbers": {**d["numbers"], "grid": found["grid"]}}).status_code == 200
    assert Revision.objects.filter(project=hill).latest("number").design["numbers"]["grid"]


def test_the_assembly_comes_as_solids(api: Api, drawer: Project) -> None:
    for kind, begins in (("stl", b"Notch Board, Seed packet drawer"), ("glb", b"glTF")):
        response = api("get", f"projects/{drawer.pk}/assembly.{kind}")
        assert response.content.startswith(begins)
        assert f'filename="seed-packet-drawer.{kind}"' in response["Content-Disposition"]
    assert api("get", f"projects/{drawer.pk}/assembly.exe").status_code == 404


def test_helpers_and_spares_are_cut_once_for_all_copies(drawer: Project) -> None:
    from dataclasses import replace

    from apps.designs.queries import current
    from notchcore.nest.wanted import Wish, laid_of, wanted_of

    part = current(drawer).assembly.parts[0]
    assert wanted_of(replace(part, copies=2, spares=1), 3) == 7
    assert wanted_of(replace(part, copies=2, spares=1, helper=True), 3) == 2
    piece = replace(part, id="piece", copies=2, spares=1, falls_from=part.id)  # one falls out of each of the three hosts
    assert laid_of((part, piece), Wish(copies=3)) == {part.id: 3, "piece": 4}
    assert laid_of((part, piece), Wish(only={part.id: 2, "piece": 2})) == {part.id: 2, "piece": 0}


def test_a_picture_is_seen_as_it_is_burned_goes_into_the_plan_and_its_file_and_to_the_machine(api: Api, drawer: Project) -> None:
    image = upload(api, f"projects/{drawer.pk}/drawings", PICTURE, "hill.png", as_picture="true").json()
    feature = {"kind": "picture", "id": "p", "panel": "base", "drawing": image["id"], "width": 45.0}
    assert save(api, drawer, lambda d: {**d, "features": [feature]}).status_code == 200
    base = next(p for p in api.ok("get", f"projects/{drawer.pk}/build")["parts"] if p["id"] == "base")
    mark = next(i for i, m in enumerate(base["marks"]) if m["photo"])
    dots = np.asarray(Image.open(io.BytesIO(api("get", f"projects/{drawer.pk}/parts/base/pictures/{mark}.png").content)).convert("RGBA"))[..., 3] > 0
    assert dots.shape == (200, 450)  # 45 by 20 mm at the stock's 0.1 mm
    assert dots[:50].mean() > 0.8
    assert dots[-50:].mean() < 0.2
    for wrong in (f"parts/base/pictures/{mark + 1}.png", "parts/gone/pictures/0.png"):
        assert api("get", f"projects/{drawer.pk}/{wrong}").status_code == 404
    dry_fit.check(fresh(drawer))
    packed(drawer)
    plan = make_plan(fresh(drawer))
    photos = [(s, k) for s in plan.sheets for k in s.strokes if k.path.photo]
    assert [(k.path.part, k.path.mark) for _, k in photos] == [("base", mark)]
    files = files_of(fresh(drawer))
    assert sum(b"<image " in f.content for f in files.values()) == 1
    move = next(m for m in moves_of(photos[0][0], {image["id"]: Drawing.objects.get(pk=image["id"]).payload["image"]}) if m.path == photos[0][1].path.id)
    assert sum(math.dist(a, b) for a, b in zip(move.points[::2], move.points[1::2], strict=True)) * 0.1 == pytest.approx(dots.sum() * 0.01, rel=0.02)


def test_a_size_says_where_it_comes_from_and_a_pin_makes_nothing_stale(api: Api, drawer: Project) -> None:
    why = api.ok("get", f"projects/{drawer.pk}/parts/front/size?along=x")
    assert why["drawn"]["value"] - why["finished"]["value"] == pytest.approx(0.158, abs=0.001)
    assert [said(t["label"]) for t in why["finished"]["terms"]] == ["Width"]
    assert api("get", f"projects/{drawer.pk}/parts/gone/size?along=x").status_code == 422
    before = [s["stale"] for s in api.ok("get", f"projects/{drawer.pk}/strip")]
    built = api.ok("get", f"projects/{drawer.pk}/build")
    pins = [{"part": "front", "what": "x"}, {"part": "front", "what": built["parts"][0]["id"]}, {"part": "gone", "what": "y"}]
    assert save(api, drawer, lambda d: {**d, "pins": pins}).status_code == 200
    after = api.ok("get", f"projects/{drawer.pk}/build")
    assert [(p["part_label"], p["label"]) for p in after["pins"]] == [("Front", "width")]
    assert after["built_from"] == built["built_from"]
    assert [s["stale"] for s in api.ok("get", f"projects/{drawer.pk}/strip")] == before
    pdf = PdfReader(io.BytesIO(files_of(fresh(drawer))["run-sheet.pdf"].content))
    assert any("Measure these" in p.extract_text() and "Front, width" in p.extract_text() for p in pdf.pages)


def test_what_falls_out_of_a_wall_is_not_laid_out(api: Api, drawer: Project) -> None:
    window = {"kind": "window", "id": "w", "panel": "base", "width": 30.0, "height": 20.0, "falls": "part"}
    assert save(api, drawer, lambda d: {**d, "features": [window]}).status_code == 200
    piece = next(p for p in api.ok("get", f"projects/{drawer.pk}/build")["parts"] if p["id"] == "w-piece")
    assert piece["falls_from"] == "base"
    nesting = packed(drawer)
    placed = [p.part for s in nesting.sheets for p in s.placements]
    assert "base" in placed
    assert "w-piece" not in placed
    base = next(p for p in api.ok("get", f"projects/{drawer.pk}/lay-out")["parts"] if p["id"] == "base")
    x0, y0, x1, y1 = bounds_of(base["falling"]["w-piece"])  # where it lies until it is cut; nothing is laid there
    assert (x1 - x0, y1 - y0) == pytest.approx((30.0, 20.0))
    assert base["falling"]["w-piece"] not in base["profile"]["holes"]


def test_squares_of_an_inlaid_board_begin_in_a_stock_that_can_be_told_from_the_lattice(api: Api, drawer: Project) -> None:
    made = api.ok("post", "projects", {"name": "Game board", "numbers": {"family": "inlaid", "columns": 3, "rows": 2}})
    named = made["design"]["stocks"]
    first, other = (Stock.objects.get(pk=named[role]) for role in ("lattice", "squares_1"))
    assert named["squares_2"] == named["base"] == named["lattice"]
    assert named["squares_3"] == named["squares_1"] != named["lattice"]
    assert (first.name, other.name) == ("Birch ply 3, batch 12", "Walnut 3")
    Stock.objects.exclude(pk=first.pk).update(label_mm=18)  # nothing else is as thick
    again = api.ok("post", "projects", {"name": "Game board", "numbers": {"family": "inlaid"}})["design"]["stocks"]
    assert len(set(again.values())) == 1


def test_how_far_from_their_corner_a_brace_may_stand_is_told_before_it_is_there(api: Api, drawer: Project) -> None:
    path = f"projects/{drawer.pk}"
    room = api.ok("post", f"{path}/corner", {"a": "left", "b": "base"})
    assert room["on_a"][0] == 1.0
    assert room["on_b"][1] > room["on_a"][1] > 10.0  # a drawer is wider than it is high
    assert api.ok("post", f"{path}/corner", {"a": "left", "b": "right"}) is None
    assert api("post", f"{path}/corner", {"a": "left", "b": "moon"}).status_code == 422


def test_a_stamp_begins_with_the_rubber_of_the_rack(api: Api, drawer: Project) -> None:
    stamp = {"name": "Seed stamp", "numbers": {"family": "stamp", "words": "BEANS"}}
    assert len(set(api.ok("post", "projects", stamp)["design"]["stocks"].values())) == 1  # there is none yet
    rubber = api.ok("post", "stocks", {"name": "Stamp rubber 2.3", "material": "rubber", "label_mm": 2.3})["value"]["id"]
    named = api.ok("post", "projects", stamp)["design"]["stocks"]
    assert named["face"] == rubber
    assert named["plate"] == named["grip"] != rubber
