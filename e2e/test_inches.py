"""An inch shop's way from a new sheet to paper: no millimetre is shown unless a person asks for one."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import dataclass
from dataclasses import field as dataclass_field
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from apps.accounts.models import Member
from processes import Worker
from steps import field, station

METRIC = re.compile(r".{0,40}(?:\bmm\b|\dmm\b|\d m\b|millimet|\d ?cm\b).{0,30}", re.S)
FINE = re.compile(r"1:1 in millimetres|1:76.2, 4 mm a foot")  # said on purpose: what a drawing file is in, and what a scale is called
CHOICE = re.compile(r"\bmm\s+inch, decimal")  # whoever chooses a unit
SHOWN = """() => [document.body.innerText, ...[...document.querySelectorAll('[placeholder],[title],[aria-label]')]
  .filter(e => e.checkVisibility()).flatMap(e => [e.placeholder, e.title, e.getAttribute('aria-label')])].filter(Boolean).join('\\n')"""


def metric(text: str) -> list[str]:
    """Return the places of a text that tell something in millimetres."""
    return [" ".join(m[0].split()) for m in METRIC.finditer(CHOICE.sub("", text)) if not FINE.search(m[0])]


def text_of(pdf: bytes) -> str:
    return "\n".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf)).pages)


@dataclass
class Look:
    """A reader of inches: what is told in millimetres, by where it was seen. All places at once: who mends one, mends them all."""

    page: Page
    found: dict[str, list[str]] = dataclass_field(default_factory=dict)

    def at(self, where: str, text: str | None = None) -> None:
        if told := metric(self.page.evaluate(SHOWN) if text is None else text):
            self.found[where] = told


def test_an_inch_shop_sees_no_millimetre_from_a_new_sheet_to_paper(page: Page, laser: str, worker: Worker) -> None:
    Member.objects.update(unit="in/64")
    page.reload()
    look = Look(page)
    look.at("shop board")
    begin(page, look)
    measure(page, look)
    look_at_tools(page, look)
    design(page, look)
    lay_out_and_print(page, look)
    ask(page, look)
    assert look.found == {}


def begin(page: Page, look: Look) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_label("Name").fill("Bean tray")
    field(page, "Width", "7 1/2")
    field(page, "Depth", "4-3/4")
    field(page, "Height", "2in")
    look.at("new project")
    page.get_by_role("button", name="Start building").click()
    expect(page.get_by_test_id("revision")).to_contain_text("revision 1")
    expect(page.get_by_label("Width", exact=True)).to_have_value("7 1/2")


def measure(page: Page, look: Look) -> None:
    """Put a stock on the rack, with readings in inches and one in millimetres, a kerf test and two sheets."""
    station(page, "Sheets")
    page.get_by_role("button", name="Add a stock").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Birch ply eighth")
    look.at("add a stock")
    field(page, "Thickness on the label", "1/8")
    page.get_by_role("button", name="Put it on the rack").click()
    reading = page.get_by_label("Thickness reading")
    expect(page.get_by_role("heading", name="Birch ply eighth")).to_be_visible()
    expect(reading).to_be_focused()
    for text in (".121", "0.122", "3.08 mm", ".1215", "0.1210"):
        reading.fill(text)
        reading.press("Enter")
        expect(reading).to_have_value("")
    expect(page.get_by_test_id("thickness")).to_have_text("0.1214")
    page.get_by_role("button", name="Enter a kerf test").click()
    field(page, "Each drawn", "3/8")
    field(page, "The stack measures", "3.69")
    page.get_by_role("button", name="Keep this test").click()
    expect(page.get_by_text("1 test ·")).to_be_visible()
    page.get_by_role("button", name="Shelf", exact=True).click()
    field(page, "Width", "24")
    field(page, "Height", "12")
    field(page, "Sheets", "2")
    page.get_by_role("button", name="Put on the shelf").click()
    expect(page.get_by_text("2 whole sheets")).to_be_visible()
    look.at("sheets")


def look_at_tools(page: Page, look: Look) -> None:
    for k in range(2):  # a power card, a gauge strip
        page.get_by_role("button", name="Make one").nth(k).click()
        expect(page.get_by_role("img", name="Test card").or_(page.get_by_label("Test card")).first).to_be_visible()
        look.at(f"test card {k}")
        page.get_by_role("button", name="Birch ply eighth").first.click()
        expect(page.get_by_label("Thickness reading")).to_be_visible()
    for name, shown in (
        ("Machine", "Machine profile"),
        ("In and out", "Files in and out"),
    ):
        page.get_by_role("button", name=name, exact=True).click()
        expect(page.get_by_role("group", name=shown)).to_be_visible()
        look.at(name)
    assert "inch" in page.get_by_text("Tables for a spreadsheet").inner_text()


def design(page: Page, look: Look) -> None:
    station(page, "Build")
    panels = page.get_by_label("All panels")
    panels.select_option(panels.locator("option", has_text="Birch ply eighth").get_attribute("value"))
    expect(page.get_by_test_id("revision")).to_have_text("revision 2 · saved")
    look.at("build")
    page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name=re.compile(r"corner Front\s*Left")).click()
    expect(page.get_by_role("heading", name=re.compile("Why this"))).to_be_visible()
    look.at("a joint's ledger")
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name=re.compile("It fits|It goes together"))).to_be_visible()
    look.at("dry fit")


def lay_out_and_print(page: Page, look: Look) -> None:
    station(page, "Lay out")
    expect(page.get_by_role("heading", name=re.compile(r"1 sheet, \d+ %"))).to_be_visible()
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()
    look.at("lay out")
    station(page, "Cut plan")
    page.get_by_label("I have read these").click()
    with page.expect_download() as getting:
        page.get_by_role("link", name="Make the files").click()
    look.at("cut plan")
    archive = zipfile.ZipFile(Path(getting.value.path()))
    papers = {n.rsplit(".", 1)[1]: archive.read(n) for n in archive.namelist() if n.endswith(("run-sheet.pdf", ".csv"))}
    project = page.url.split("/projects/")[1].split("/")[0]
    look.at("run sheet", text_of(papers["pdf"]))
    look.at("guide", text_of(page.request.get(f"/api/projects/{project}/guide.pdf").body()))
    look.at("cut list", papers["csv"].decode())
    rows = list(csv.DictReader(io.StringIO(papers["csv"].decode())))
    assert any(abs(float(v) - 7.5) < 0.01 for row in rows for v in row.values() if re.fullmatch(r"[\d.]+", v or ""))
    station(page, "Run")
    expect(page.get_by_role("heading", name="Sheet 1 of 1")).to_be_visible()
    look.at("run")


def ask(page: Page, look: Look) -> None:
    page.goto("/answers")
    questions = page.get_by_role("navigation", name="Questions").get_by_role("button")
    expect(questions.first).to_be_visible()
    for k in range(questions.count()):
        questions.nth(k).click()
        expect(page.get_by_test_id("answer")).to_be_visible()
        if "nch" not in questions.nth(k).inner_text():  # whoever asks what an inch is wants millimetres
            look.at(questions.nth(k).inner_text())
