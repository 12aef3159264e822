"""A project of several items: a case that begins with its drawers, a box in a box, another project beside it; opened, changed, packed, taken back."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect
from test_anywhere import fits

from processes import Worker
from steps import begin, field, station


def item(page: Page, name: str) -> Locator:
    return page.get_by_role("group", name="Items").get_by_role("button", name=name)


def panel(page: Page, name: str) -> Locator:
    return page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name=name, exact=True)


def test_a_case_with_drawers_from_nothing_to_a_packed_sheet(page: Page, worker: Worker) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_role("radio", name="Case with drawers").check(force=True)
    field(page, "Width", "120")
    field(page, "Depth", "90")
    field(page, "Height", "80")
    field(page, "Drawers", "2")
    begin(page, "case", "Peg case")  # five actions from the shop board
    fits(page, 16)
    fine = page.get_by_text("checks fine")
    if not page.get_by_text("Drawer 1 goes into Room 1").is_visible():
        fine.click()
    expect(page.get_by_text("Drawer 1 goes into Room 1")).to_be_visible()

    station(page, "Build")
    item(page, "Drawer 2").click()
    expect(page.get_by_label("Name of this item")).to_have_value("Drawer 2")
    expect(page.get_by_text("follows its room")).to_have_count(3)
    field(page, "Play on either side", "0.8")
    expect(page.get_by_label("Play of Drawer 2")).to_contain_text("1.60")
    item(page, "All of it").click()
    panel(page, "Drawer 2: Front").click()
    page.get_by_role("button", name="Open Drawer 2 to change it").click()
    expect(page.get_by_label("Name of this panel")).to_have_value("Front")
    page.get_by_role("button", name="Undo").click()
    panel(page, "Sizes and stocks").click()
    expect(page.get_by_label("Play of Drawer 2")).to_contain_text("1.00")

    panel(page, "Back").click()
    page.get_by_role("button", name="Leave out", exact=True).click()
    item(page, "All of it").click()
    expect(panel(page, "Drawer 2: Back")).to_have_count(0)
    page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name="Drawer 2: Back").click()  # put back
    expect(panel(page, "Drawer 2: Back")).to_be_visible()

    station(page, "Lay out")
    expect(page.get_by_role("button", name="Drawer 2: Front", exact=True)).to_be_visible(timeout=60_000)
    expect(page.get_by_label("What each item takes")).to_contain_text("Drawer 2")
    page.get_by_label("What is packed").select_option(label="only Drawer 2")
    page.get_by_role("button", name="Pack again").click()
    expect(page.get_by_text("5 parts placed")).to_be_visible(timeout=60_000)


def test_a_box_in_a_box_and_another_project_beside_it(page: Page, worker: Worker) -> None:
    begin(page, "box", "Gift box")
    item(page, "Add an item").click()
    page.get_by_role("button", name="A box in the empty room of Box").click()
    expect(item(page, "Insert")).to_be_visible()
    item(page, "Box").click()
    page.get_by_label("Top", exact=True).select_option(label="lift-off lid")
    fits(page, 12)  # a lid that comes off shuts nothing in
    page.get_by_role("button", name="Undo").click()
    fits(page, 10)

    station(page, "Build")
    item(page, "Add an item").click()
    add = page.get_by_role("form", name="Add an item")
    add.get_by_label("Begin with").select_option(label="Turned stack")
    add.get_by_label("Name").fill("Counter")
    add.get_by_role("button", name="Add it").click()
    expect(page.get_by_label("Name of this item")).to_have_value("Counter")
    field(page, "How many", "3")
    expect(item(page, "Counter")).to_contain_text("×3")
    page.get_by_role("button", name="Leave out").click()
    expect(item(page, "Counter")).to_contain_text("put back")
    item(page, "Counter").click()
    expect(item(page, "Counter")).to_contain_text("×3")

    item(page, "Add an item").click()
    add.get_by_label("Begin with").select_option(label="Stall name board")
    add.get_by_role("button", name="Add it").click()
    expect(page.get_by_label("Name of this item")).to_have_value("Stall name board")
    page.get_by_label("Name of this item").fill("Sign")
    page.get_by_label("Name of this item").press("Enter")
    expect(item(page, "Sign")).to_be_visible()
    page.reload()
    expect(panel(page, "Sign: Figure")).to_be_visible()
    page.get_by_role("button", name="Open Insert").click()
    page.get_by_role("combobox", name="It stands").select_option(label="beside the rest")
    expect(page.get_by_text("follows its room")).to_have_count(0)

    item(page, "Add an item").click()
    add.get_by_label("Begin with").select_option(label="Box")
    add.get_by_label("Name").fill("Cover")
    add.get_by_role("button", name="Add it").click()
    page.get_by_role("combobox", name="It stands").select_option(label="over Box, like a lid")
    expect(item(page, "Cover")).to_contain_text("over Box")
    expect(page.get_by_label("Play of Cover")).to_contain_text("1.00")
    expect(page.get_by_text("follows its room")).to_have_count(2)

    item(page, "Add an item").click()
    add.get_by_label("Begin with").select_option(label="Plate")
    add.get_by_label("Name").fill("Label")
    add.get_by_role("button", name="Add it").click()
    expect(page.get_by_label("Name of this item")).to_have_value("Label")
    item(page, "All of it").click()
    panel(page, "Label: Plate").click()
    panel(page, "Box: Front").click(modifiers=["Control"])
    page.get_by_role("button", name="Lay Label: Plate on Box: Front").click()
    item(page, "Label").click()
    page.get_by_text("Move and turn it").click()
    expect(page.get_by_role("textbox", name="Tipped to the front")).to_have_value(re.compile("^-?90$"))


def test_a_tray_is_joined_to_the_top_of_a_bin(page: Page, worker: Worker) -> None:
    begin(page, "box", "Seed bin")
    page.get_by_label("Top", exact=True).select_option(label="fixed")
    expect(panel(page, "Top")).to_be_visible()
    item(page, "Add an item").click()
    add = page.get_by_role("form", name="Add an item")
    add.get_by_label("Name").fill("Tray")
    add.get_by_role("button", name="Add it").click()
    for name, size in (("Width", "90"), ("Depth", "70"), ("Height", "40")):
        field(page, name, size)
    page.get_by_role("combobox", name="It stands").select_option(label="joined to Box")
    expect(item(page, "Tray")).to_contain_text("joined to Box")
    expect(page.get_by_text("Tray: Base is not made: Top serves for both.")).to_be_visible()
    expect(page.get_by_label("How many")).to_have_count(0)
    page.get_by_role("button", name="See both together").click()
    panel(page, "Tray: Front").click()
    page.get_by_role("button", name="Open Tray to change it").click()
    expect(page.get_by_label("Name of this panel")).to_have_value("Front")
    page.get_by_role("group", name="Items").get_by_role("button", name="Box", exact=True).click()
    joint = page.get_by_role("navigation", name="Panels and joints").get_by_role("button").filter(has_text="Tray: Front").filter(has_text="Top")
    joint.click()
    field(page, "Tabs", "2")
    expect(page.get_by_text("tee · 2 tabs")).to_be_visible()
    fits(page, 10)

    station(page, "Build")
    item(page, "Tray").click()
    page.get_by_role("combobox", name="Into its").select_option(label="right side")
    expect(page.get_by_text("Tray: Base is not made")).to_have_count(0)
    page.get_by_label("Right through the panel there").uncheck()
    field(page, "How far in", "-20")
    expect(page.get_by_text("Tray meets nothing of what it is joined to")).to_be_visible()
    page.get_by_role("combobox", name="It stands").select_option(label="beside the rest")
    expect(item(page, "Tray")).not_to_contain_text("joined")
