"""Both sides on the simulated machine: by parts turned over in their holes, by a sheet turned over and found by its marks, by a print."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from apps.designs.models import Project
from apps.runs.models import Run
from apps.sheets.models import Sheet
from processes import Worker
from steps import station, told


def tick_all(page: Page) -> None:
    for box in page.get_by_role("complementary").get_by_role("checkbox").all():
        box.check()


def burn_and_log(page: Page) -> None:
    page.get_by_role("button", name="Start the simulated laser").click()
    expect(page.get_by_role("heading", name="Done. What happened?")).to_be_visible(timeout=90_000)
    page.get_by_role("button", name="Write it in the log").click()


def test_labels_are_burned_on_both_faces_and_a_sheet_laid_wrongly_never_burns(page: Page, laser: str, worker: Worker) -> None:
    page.get_by_role("button", name="Row labels").click()
    station(page, "Cut plan")
    runs = page.get_by_role("tab")
    expect(runs).to_have_text(["Sheet 1, first faces", "Sheet 1, other faces"])
    expect(page.get_by_text("Each part fits a hole of this sheet").first).to_be_visible()
    page.get_by_role("combobox", name="Backs").select_option("marks")
    expect(runs).to_have_text(["Sheet 1, back", "Sheet 1, front"])
    runs.nth(1).click()
    expect(runs.nth(1)).to_have_attribute("aria-selected", "true")
    page.get_by_label("Engrave", exact=True).click()  # the front goes without its words this time, and so does the back
    expect(runs).to_have_text(["Sheet 1"])
    page.get_by_label("Engrave", exact=True).click()
    expect(runs).to_have_count(2)
    page.get_by_label("I have read these").click()
    with page.expect_download() as getting:
        page.get_by_role("link", name="Make the files").click()
    names = zipfile.ZipFile(Path(getting.value.path())).namelist()
    assert {"row-labels-r3-sheet1-back.svg", "row-labels-r3-sheet1-front.gcode"} <= {re.sub(r"-r\d+-", "-r3-", n) for n in names}

    station(page, "Run")
    before = Sheet.objects.get(name="Offcut 17").count
    expect(page.get_by_role("heading", name="Sheet 1 of 1, back")).to_be_visible()
    tick_all(page)
    burn_and_log(page)
    expect(page.get_by_role("heading", name="Sheet 1 of 1, front")).to_be_visible()
    assert Sheet.objects.get(name="Offcut 17").count == before  # it is on the bed, and not used up
    assert told(page, "Run") == "1 of 2 runs"
    tick_all(page)
    start = page.get_by_role("button", name="Start the simulated laser")
    expect(start).to_be_disabled()
    look = page.get_by_role("button", name="Find the marks with the camera")
    page.get_by_text("Practise a sheet laid wrongly").click()
    for wrong, says in (
        ("not turned over", "was not turned over"),
        ("over the other edge", "wrong edge"),
    ):
        page.get_by_label(wrong).check()
        look.click()
        expect(page.get_by_role("alert").filter(has_text=says)).to_be_visible()
        expect(start).to_be_disabled()
    page.get_by_label("laid right").check()
    look.click()
    expect(page.get_by_test_id("marks")).to_contain_text("the cuts are moved there")
    burn_and_log(page)
    expect(page.get_by_text("Sheet 1, back is done")).to_be_visible()
    assert told(page, "Run") == "2 of 2 runs"
    assert Sheet.objects.get(name="Offcut 17").count == before - 1
    project = Project.objects.get(name="Row labels")
    back, front = Run.objects.filter(project=project).order_by("pk")
    assert (len(back.parts), len(front.parts)) == (0, 8)
    plan = {m["path"]: m["points"] for m in back.moves if m["path"].startswith("registration")}
    assert len(plan) == 3


def test_thick_boards_are_cut_from_both_sides_and_a_print_is_cut_by_its_marks(
    page: Page,
) -> None:
    page.get_by_role("button", name="Plant tiers").click()
    station(page, "Cut plan")
    expect(page.get_by_role("tab").first).to_have_text("Sheet 1, back")
    expect(page.get_by_text("so large a step may show")).to_be_visible()
    thick = page.get_by_label("from both sides, where one does not")
    thick.uncheck()
    expect(page.get_by_role("tab").first).to_have_text("Sheet 1")
    page.goto("/")
    page.get_by_role("button", name="Row labels").click()
    station(page, "Cut plan")
    page.get_by_label("comes printed").check()
    expect(page.get_by_role("tab")).to_have_text(["Sheet 1"])
    page.get_by_label("I have read these").click()
    with page.expect_download() as getting:
        page.get_by_role("link", name="to print, PDF").click()
    (sheet,) = PdfReader(io.BytesIO(Path(getting.value.path()).read_bytes())).pages
    width, height = (float(v) * 25.4 / 72 for v in sheet.mediabox[2:])
    assert (round(width, 2), round(height, 2)) == (310, 220)
