"""Five planted faults are all told before anything leaves the house, and go away when they are mended."""

from __future__ import annotations

from dataclasses import replace

from playwright.sync_api import Locator, Page, expect
from test_lay_out import pack, packed_by_itself

from apps.accounts.models import Member
from apps.designs import services
from apps.designs.models import Project
from apps.designs.queries import current
from apps.runs import demo
from apps.sheets.models import Stock
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers
from notchcore.design.features.values import Text
from notchcore.design.variations import Alternative, Variation
from processes import Worker
from steps import field, station


def planted() -> None:
    """A box in a stock of unknown kerf, with a tiny text, a jig among its parts, a choice nobody made, and more lids than the shelf has room for."""
    member = Member.objects.get(user__username=demo.USER)
    project = services.start_project(
        member=member,
        name="Seed tray",
        numbers=BoxNumbers(width=160, depth=110, height=50),
        stock_id=Stock.objects.get(name="Poplar ply 4").pk,
    )
    design = current(Project.objects.select_related("machine", "shop").get(pk=project.pk)).design
    design = replace(
        design,
        features=(Text(id="text-1", panel="front", words="BEANS", cap=1.6),),
        edits={"left": PanelEdit(helper=True), "base": PanelEdit(copies=60)},
        variations=(
            Variation(
                name="Size",
                alternatives=(Alternative(name="small", sizes=design.numbers), Alternative(name="large", sizes=replace(design.numbers, width=200))),
            ),
        ),
    )
    services.save_design(project_id=project.pk, member=member, base=1, design=design, label="Faults")


def told(page: Page) -> Locator:
    return page.get_by_role("complementary").get_by_role("listitem")


def test_five_planted_faults_are_told_and_mended(page: Page, worker: Worker) -> None:
    planted()
    page.reload()
    page.get_by_role("button", name="Seed tray").click()
    station(page, "Lay out")
    packed_by_itself(page)
    station(page, "Cut plan")
    for says in (
        "no place on a sheet",
        "were not tried here",
        "“BEANS” on Front is 1.6 mm high",
        "none is chosen",
        "Helpers are cut too",
        "the kerf of",
    ):
        expect(told(page).filter(has_text=says)).to_be_visible()
    expect(page.get_by_role("button", name="Make the files")).to_be_disabled()
    expect(page.get_by_label("I have read these")).to_have_count(0)  # what is red cannot be accepted

    station(page, "Build")
    panels = page.get_by_role("navigation", name="Panels and joints")
    panels.get_by_role("button", name="Base", exact=False).first.click()
    field(page, "In the thing", "1")
    panels.get_by_role("button", name="Front", exact=False).first.click()
    page.get_by_role("button", name="“BEANS”", exact=True).click()
    field(page, "Height of a capital", "12")
    panels.get_by_role("button", name="Sizes and stocks").click()
    page.get_by_role("radiogroup", name="Size", exact=True).get_by_text("small").click()
    station(page, "Lay out")
    pack(page)
    station(page, "Cut plan")
    page.get_by_role("button", name="Plan again").click()
    expect(told(page).filter(has_text="no place on a sheet")).to_have_count(0)
    for gone in ("mm high", "none is chosen"):
        expect(told(page).filter(has_text=gone)).to_have_count(0)
    for stays in ("the kerf of", "Helpers are cut too"):
        expect(told(page).filter(has_text=stays)).to_be_visible()
    page.get_by_label("I have read these").click()
    expect(page.get_by_text("Read by alder")).to_be_visible()
    expect(page.get_by_role("button", name="Make the files")).to_be_disabled()  # nobody tried the dry fit
    page.get_by_label("answer for cutting it all the same").click()
    expect(page.get_by_text("Cut all the same: alder")).to_be_visible()
    with page.expect_download() as getting:
        page.get_by_role("link", name="Make the files").click()
    assert getting.value.suggested_filename.endswith(".zip")
