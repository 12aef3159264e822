"""Dry fit over HTTP: repairs are tried before they are kept, notes of a trial, what-if, the guide, and pieces already cut."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterable
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from pypdf import PdfReader

from apps.accounts.models import Role
from apps.designs.models import Project, Revision, TrialNote
from apps.designs.queries import around_of, current, largest_of
from apps.layouts import services as layouts
from apps.runs.models import Run
from apps.sheets.models import Sheet, Stock
from notchcore.check.around import Around
from tests.apps.conftest import Api
from tests.apps.test_build import PICTURE, fresh, save
from tests.rows import said


def checked(api: Api, row: Project) -> dict[str, Any]:
    return api.ok("post", f"projects/{row.pk}/dry-fit")


def finding(api: Api, row: Project, code: str) -> dict[str, Any]:
    result = checked(api, row)["result"]
    return next(f for f in (*result["findings"], *result["cautions"]) if f["code"] == code and f["severity"] != "fine")


def mend(api: Api, row: Project, found: dict[str, Any], repair: dict[str, Any]) -> Any:
    base = api.ok("get", f"projects/{row.pk}")["revision"]
    return api("post", f"projects/{row.pk}/repair", {"base": base, "finding": found, "repair": repair})


def text(cap: float = 1.2, panel: str = "right") -> dict[str, Any]:
    return {"kind": "text", "id": "t", "panel": panel, "words": "SEED FAIR", "cap": cap, "x": 20.0, "y": 12.0}


def test_a_repair_is_one_step_that_can_be_taken_back(api: Api, drawer: Project) -> None:
    save(api, drawer, lambda d: {**d, "features": [text()]})
    found = finding(api, drawer, "text_too_small")
    saved = mend(api, drawer, found, found["repairs"][0])
    assert saved.status_code == 200
    assert saved.json()["revision_label"] == "Mended: 2.5 mm high"
    assert saved.json()["design"]["features"][0]["cap"] == 2.5
    assert "text_too_small" not in {f["code"] for f in checked(api, drawer)["result"]["findings"] if f["severity"] != "fine"}
    back = api.ok("post", f"projects/{drawer.pk}/undo", {"base": saved.json()["revision"]})
    assert back["design"]["features"][0]["cap"] == 1.2


def test_a_repair_that_does_not_help_or_brings_something_new_changes_nothing(api: Api, drawer: Project) -> None:
    save(api, drawer, lambda d: {**d, "features": [text()]})
    found = finding(api, drawer, "text_too_small")
    head = api.ok("get", f"projects/{drawer.pk}")["revision"]
    for values, why in (({"cap": 1.8}, "does not cure it"), ({"cap": 40.0}, "brings something new")):
        refused = mend(api, drawer, found, {"label": "x", "kind": "feature", "targets": ["t"], "values": values})
        assert refused.status_code == 422
        assert why in refused.json()["message"]
    assert mend(api, drawer, found, {"label": "x", "kind": "number", "targets": ["moon"], "values": {"value": 1.0}}).status_code == 422
    for made_up in ({"key": "moon", "facts": {}}, {"key": "collision", "facts": {"a": {"mm": [1.0], "digits": 10**9}}}):  # nothing that is sent is said
        assert mend(api, drawer, {"code": "x", "says": made_up}, {"label": "x", "kind": "relief", "values": {"value": 1.0}}).status_code == 422
    assert mend(api, drawer, {**found, "code": "moon"}, found["repairs"][0]).status_code == 422
    assert api.ok("get", f"projects/{drawer.pk}")["revision"] == head


def test_a_viewer_mends_nothing_and_a_late_repair_is_told(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    save(api, drawer, lambda d: {**d, "features": [text()]})
    found = finding(api, drawer, "text_too_small")
    assert mend(someone(Role.VIEWER), drawer, found, found["repairs"][0]).status_code == 403
    late = api("post", f"projects/{drawer.pk}/repair", {"base": 1, "finding": found, "repair": found["repairs"][0]})
    assert late.status_code == 409


def test_steps_in_an_own_order_with_notes_make_nothing_stale_and_are_in_the_guide(api: Api, drawer: Project) -> None:
    guide = checked(api, drawer)["guide"]
    keys = [s["key"] for s in guide]
    before = [s["stale"] for s in api.ok("get", f"projects/{drawer.pk}/strip")]
    assert save(api, drawer, lambda d: {**d, "order": keys[::-1], "notes": {keys[0]: "Film off first"}}).status_code == 200
    told = api.ok("get", f"projects/{drawer.pk}/dry-fit")
    assert told["fresh"]
    assert [s["key"] for s in told["guide"]] == keys[::-1]
    assert any(s["problem"] for s in told["guide"])  # the lid cannot be first
    assert [s["stale"] for s in api.ok("get", f"projects/{drawer.pk}/strip")] == before
    pdf = api("get", f"projects/{drawer.pk}/guide.pdf")
    assert pdf["Content-Type"] == "application/pdf"
    assert any("Film off first" in p.extract_text() for p in PdfReader(io.BytesIO(pdf.content)).pages)
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "height": 70.0}})
    assert api("get", f"projects/{drawer.pk}/guide.pdf").status_code == 422


def test_a_machine_that_leaves_kerf_alone_makes_joints_looser_and_the_dry_fit_says_so(api: Api, drawer: Project) -> None:
    machine = api.ok("get", f"projects/{drawer.pk}")["machine"]
    before = {m["id"]: m for m in api.ok("get", f"projects/{drawer.pk}/build")["meetings"]}
    assert checked(api, drawer)["fresh"]
    api.ok("patch", f"machines/{machine}", {"kerf_place": "none"})
    assert not api.ok("get", f"projects/{drawer.pk}/dry-fit")["fresh"]
    assert "nowhere" in said(finding(api, drawer, "kerf_left")["says"])
    after = {m["id"]: m for m in api.ok("get", f"projects/{drawer.pk}/build")["meetings"]}
    felt = [k for k, m in before.items() if m["feel"]]
    assert felt
    assert all(0.05 < after[k]["clearance"] - before[k]["clearance"] < 1 for k in felt)


def test_what_if_moves_the_chances_and_saves_nothing(api: Api, drawer: Project) -> None:
    head = api.ok("get", f"projects/{drawer.pk}")["revision"]
    walnut = str(Stock.objects.get(name="Walnut 3").pk)
    believed = api.ok("post", f"projects/{drawer.pk}/what-if", {"shifts": {}})
    thicker = api.ok("post", f"projects/{drawer.pk}/what-if", {"shifts": {walnut: {"thickness": 0.3}}})
    assert believed["expected_rework"] == pytest.approx(checked(api, drawer)["result"]["expected_rework"])
    assert thicker["expected_rework"] > believed["expected_rework"] + 1
    assert api.ok("get", f"projects/{drawer.pk}")["revision"] == head
    assert api.ok("get", f"projects/{drawer.pk}/test-worth") == sorted(api.ok("get", f"projects/{drawer.pk}/test-worth"), key=lambda w: -w["saves"])


def test_notes_of_a_trial_stay_with_the_project_with_their_photo(api: Api, drawer: Project, someone: Callable[..., Api]) -> None:
    path = f"/api/projects/{drawer.pk}/trial"
    made = api.client.post(path, {"about": "front", "feel": "snug", "text": "Notch lower", "photo": SimpleUploadedFile("t.png", PICTURE)})
    assert made.status_code == 201
    assert api.client.post(path, {"text": "  "}).status_code == 422
    assert api.client.post(path, {"text": "x", "photo": SimpleUploadedFile("t.png", b"no image")}).status_code == 422
    assert api.client.post(path, {"text": "x", "feel": "moon"}).status_code == 422
    assert someone(Role.VIEWER).client.post(path, {"text": "x"}).status_code == 403
    note = api.ok("get", f"projects/{drawer.pk}/trial")[0]
    assert (note["about"], note["feel"], note["photo"], note["revision"]) == ("front", "snug", True, drawer.head)
    photo = api("get", f"projects/{drawer.pk}/trial/{note['id']}/photo.png")
    assert Image.open(io.BytesIO(photo.content)).size == (90, 40)
    stranger = someone(Role.OWNER, elsewhere=True)
    assert stranger("get", f"projects/{drawer.pk}/trial/{note['id']}/photo.png").status_code == 404
    assert api("delete", f"projects/{drawer.pk}/trial/{note['id']}").status_code == 204
    assert not TrialNote.objects.exists()


def test_pieces_cut_are_known_by_their_lines_and_only_what_is_missing_is_packed(api: Api, drawer: Project) -> None:
    def fates() -> dict[str, str]:
        return {r["part"]: r["fate"] for r in api.ok("get", f"projects/{drawer.pk}/recut")["rows"]}

    cut = {p.rpartition(".")[0] for p in Run.objects.get(project=drawer).parts}
    assert {p for p, f in fates().items() if f == "good"} == cut
    save(api, drawer, lambda d: {**d, "edits": {"lid": {"move": [0.0, 0.0, 12.0]}}})
    moved = fates()
    assert moved["base"] == "good"  # it only lies elsewhere
    save(api, drawer, lambda d: {**d, "edits": {}, "numbers": {**d["numbers"], "rows": 1}})
    after = fates()
    assert (after["base"], after["front"], after["left"]) == ("recut", "good", "recut")
    missing = {p: 1 for p, f in after.items() if f != "good"}
    nesting = layouts.pack_project(fresh(drawer), layouts.default_request(fresh(drawer), seconds=0.2, only=missing))
    assert sorted(p.part for s in nesting.sheets for p in s.placements) == sorted(missing)


def test_pieces_named_as_spoiled_do_not_count_and_unnamed_ones_spoil_the_run(api: Api, drawer: Project) -> None:
    run = Run.objects.get(project=drawer)
    first = run.parts[0]

    def good() -> set[str]:
        return {r["part"] for r in api.ok("get", f"projects/{drawer.pk}/recut")["rows"] if r["good"]}

    everything = good()
    Run.objects.filter(pk=run.pk).update(log={**run.log, "spoiled": 1, "bad": [first]})
    assert good() == everything - {first.rpartition(".")[0]}
    Run.objects.filter(pk=run.pk).update(log={**run.log, "spoiled": 1, "bad": []})
    assert good() == set()


def test_two_revisions_are_compared_part_by_part(api: Api, drawer: Project) -> None:
    first = drawer.head
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "rows": 1}}, "One row")
    listed = api.ok("get", f"projects/{drawer.pk}/revisions")
    assert listed[0]["label"] == "One row"
    told = api.ok("get", f"projects/{drawer.pk}/compare/{first}")
    by = {p["part"]: p["change"] for p in told["parts"]}
    assert (by["left"], by["front"], by["row-1"]) == ("changed", "same", "gone")
    left = next(p for p in told["parts"] if p["part"] == "left")
    assert left["edges_then"]  # the slots that are no more
    assert api("get", f"projects/{drawer.pk}/compare/99").status_code == 404
    assert Revision.objects.filter(project=drawer).count() == len(listed)


def test_an_impossible_count_is_mended_to_one_that_is_possible(api: Api, drawer: Project) -> None:
    save(api, drawer, lambda d: {**d, "numbers": {**d["numbers"], "columns": 40, "thumb_notch": 0.0}})
    found = finding(api, drawer, "too_many_compartments")
    wanted = {**found["repairs"][0], "values": {"value": float(found["repairs"][0]["values"]["value"])}}  # as another client may write it
    saved = mend(api, drawer, found, wanted)
    assert saved.status_code == 200, saved.json()
    assert saved.json()["design"]["numbers"]["columns"] < 40
    assert api.ok("get", f"projects/{drawer.pk}/build")["parts"]


sides = st.floats(20, 900)


@given(st.lists(st.tuples(sides, sides), max_size=8), sides, sides)
def test_what_fits_a_sheet_fits_one_of_the_largest(shelf: list[tuple[float, float]], w: float, h: float) -> None:
    def fits(sheets: Iterable[tuple[float, float]]) -> bool:
        return any((w <= a and h <= b) or (h <= a and w <= b) for a, b in sheets)

    largest = largest_of(shelf)
    assert fits(largest) == fits(shelf)
    assert largest_of([*shelf, *((a * 0.9, b * 0.9) for a, b in largest)]) == largest  # smaller offcuts change nothing


def test_the_shelf_and_a_measured_depth_are_part_of_what_was_checked(api: Api, drawer: Project) -> None:
    def fresh_now() -> bool:
        return bool(api.ok("get", f"projects/{drawer.pk}/dry-fit")["fresh"])

    row = Stock.objects.get(pk=int(api.ok("get", f"projects/{drawer.pk}")["design"]["stocks"]["walls"]))
    checked(api, drawer)
    row.sheets.create(name="Offcut", width_mm=90, height_mm=60, is_offcut=True)
    assert fresh_now()  # it fits in the sheets that are there
    row.sheets.create(name="Large", width_mm=1200, height_mm=800)
    assert not fresh_now()
    save(api, drawer, lambda d: {**d, "features": [text(cap=6.0)]})
    checked(api, drawer)
    settings = api.ok("get", f"stocks/{row.pk}?machine={drawer.machine_id}")["settings"]
    settings["engrave"] |= {"passes": 3, "depth": 0.9}
    api.ok("put", f"stocks/{row.pk}/settings?machine={drawer.machine_id}", {"settings": settings, "tried": ["engrave"]})
    assert not fresh_now()
    assert finding(api, drawer, "engraved_too_deep")["facts"]["depth_mm"] == pytest.approx(2.7)


def test_stocks_that_look_alike_are_told_with_what_lies_on_the_shelf_and_one_takes_its_place(api: Api, drawer: Project) -> None:
    """Only a stock that has a swatch and a sheet is offered, and nothing is looked for while all can be told apart."""
    lying = Stock.objects.get(name="Birch ply 3, batch 9")
    assert not around(drawer).others
    Stock.objects.filter(name__in=("Birch ply 3, batch 12", "Walnut 3")).update(lab=[42.5, 13.9, 19.8], lab_finished=None)
    assert [o.ref.label for o in around(drawer).others] == [lying.name]
    found = finding(api, drawer, "stocks_alike")
    assert f"On the shelf, {lying.name} can be told from what stays." in said(found["says"])
    assert {r["values"]["to"] for r in found["repairs"][:2]} == {str(lying.pk)}
    Stock.objects.filter(name="Clear acrylic 3").update(lab=[60.0, 0.0, 0.0])
    assert len(around(drawer).others) == 2
    Sheet.objects.filter(stock=lying).update(count=0)
    assert [o.ref.label for o in around(drawer).others] == ["Clear acrylic 3"]
    assert mend(api, drawer, finding(api, drawer, "stocks_alike"), found["repairs"][0]).status_code == 200
    assert str(lying.pk) in current(fresh(drawer)).design.stock_ids()


def around(row: Project) -> Around:
    now = current(fresh(row))
    return around_of(now.project, now.design, measured=now.measured)
