"""From a new project to downloaded files and a finished simulated run."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import ezdxf
import pytest
from playwright.sync_api import Page, expect
from svgelements import SVG

from apps.runs.models import Run
from apps.sheets.models import Sheet
from processes import Worker
from steps import field, station, told


def measure_a_new_stock(page: Page) -> None:
    """Put a stock on the rack, read its thickness five times, test its kerf, shelve two sheets."""
    page.get_by_role("button", name="Add a stock").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Birch ply 4, batch 3")
    field(page, "Thickness on the label", "4")
    page.get_by_role("button", name="Put it on the rack").click()
    expect(page.get_by_role("heading", name="Birch ply 4, batch 3")).to_be_visible()
    expect(page.get_by_text("The thickness is a guess")).to_be_visible()
    reading = page.get_by_label("Thickness reading")
    expect(reading).to_be_focused()
    for text in ("3.82", "3.86", "3.84", "3.83", "0.1515in"):
        reading.fill(text)
        reading.press("Enter")
        expect(reading).to_have_value("")
    expect(page.get_by_test_id("thickness")).to_have_text("3.84")
    expect(page.get_by_text("Not what the label says")).to_be_visible()
    page.get_by_role("button", name="Enter a kerf test").click()
    field(page, "Each drawn", "10")
    field(page, "The stack measures", "98.1")
    page.get_by_role("button", name="Keep this test").click()
    expect(page.get_by_text("1 test ·")).to_be_visible()
    page.get_by_role("button", name="Shelf", exact=True).click()
    field(page, "Sheets", "2")
    page.get_by_role("button", name="Put on the shelf").click()
    expect(page.get_by_text("2 whole sheets")).to_be_visible()


def test_from_a_measured_sheet_to_a_logged_run(page: Page, laser: str, worker: Worker, tmp_path: Path) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_label("Name").fill("Row label box")
    field(page, "Width", "6in")
    field(page, "Depth", "62 + 2*14")
    field(page, "Height", "50")
    page.get_by_role("button", name="Start building").click()
    expect(page.get_by_test_id("revision")).to_contain_text("revision 1")

    station(page, "Sheets")
    measure_a_new_stock(page)

    station(page, "Build")
    page.get_by_label("All panels").select_option(label="Birch ply 4, batch 3 · 3.84")
    expect(page.get_by_label("Dividers", exact=True)).to_contain_text("Birch ply 4")
    expect(page.get_by_test_id("revision")).to_have_text("revision 2 · saved")
    field(page, "Columns, side by side", "2")
    field(page, "Rows, front to back", "2")
    expect(page.get_by_text("Panels 7")).to_be_visible()
    page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name=re.compile(r"tee Base\s*Column")).click()
    expect(page.get_by_role("heading", name=re.compile("Why this slot in Base is 3.66"))).to_be_visible()  # 3.84 + 0.015 - 0.19
    page.get_by_role("radio", name="slides").check(force=True)
    expect(page.get_by_role("heading", name=re.compile("Why this slot in Base is 3.8"))).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("heading", name=re.compile("Why this slot in Base is 3.66"))).to_be_visible()

    station(page, "Dry fit")
    expect(page.get_by_role("heading", name=re.compile("It fits|It goes together"))).to_be_visible()
    page.get_by_role("button", name="Step back").click()
    expect(page.get_by_test_id("step")).not_to_have_text("all together")

    station(page, "Lay out")
    expect(page.get_by_role("heading", name=re.compile(r"1 sheet, \d+ %"))).to_be_visible()
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()

    station(page, "Cut plan")
    page.get_by_label("I have read these").click()
    with page.expect_download() as getting:
        page.get_by_role("link", name="Make the files").click()
    read_the_files(Path(getting.value.path()))
    assert "min" in told(page, "Cut plan")

    station(page, "Run")
    expect(page.get_by_role("heading", name="Sheet 1 of 1")).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.check()
    page.get_by_role("button", name="Start the simulated laser").click()
    expect(page.get_by_role("heading", name="Done. What happened?")).to_be_visible()
    field(page, "It took", "9")
    page.get_by_label("snug").check(force=True)
    page.get_by_role("button", name="Write it in the log").click()
    expect(page.get_by_text(re.compile(r", revision \d")).first).to_be_visible()
    assert told(page, "Run") == "1 of 1 cut"
    assert Sheet.objects.get(stock__name="Birch ply 4, batch 3", is_offcut=False).count == 1
    kept = Sheet.objects.get(stock__name="Birch ply 4, batch 3", is_offcut=True)  # what stayed of the sheet was ticked: it is large
    assert (kept.count, kept.name[:6]) == (1, "Offcut")
    assert 100 < kept.width_mm <= 600
    assert Run.objects.filter(project__name="Row label box", log__feel="snug").count() == 1


def read_the_files(archive: Path) -> None:
    """Read the zip with other readers: both drawings hold the same lines, in millimetres, on the sheet."""
    files = {n.rsplit(".", 1)[1]: zipfile.ZipFile(archive).read(n) for n in zipfile.ZipFile(archive).namelist()}
    assert set(files) == {"svg", "dxf", "gcode", "pdf", "csv", "stl", "glb"}
    drawing = SVG.parse(io.BytesIO(files["svg"]), ppi=25.4)
    assert (drawing.width, drawing.height) == pytest.approx((600, 400), abs=1e-3)  # the reader's own inch is rounded
    lines = [e for e in drawing.elements() if type(e).__name__ in ("Path", "Circle")]
    entities = list(ezdxf.read(io.StringIO(files["dxf"].decode())).modelspace())
    assert len(lines) == len(entities) > 7
    assert files["pdf"].startswith(b"%PDF")
    assert files["csv"].decode().count("\n") == 8
