"""Letters and drawings that are pieces of another stock: from an empty project to a plan, by clicking."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from processes import Worker
from steps import begin, field, station

FLOWER = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">'
    '<rect x="2" y="2" width="56" height="56" fill="#208040"/><circle cx="30" cy="30" r="18" fill="#c02020"/></svg>'
)


def pick(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name=name, exact=True).first.click()


def fits(page: Page, parts: int) -> None:
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text(f"{parts} parts")
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name="It goes together").or_(page.get_by_role("heading", name="It fits"))).to_be_visible()


def test_letters_are_glued_on_a_smaller_plate_on_a_larger_one(page: Page, worker: Worker) -> None:
    begin(page, "plate", "Stall sign")
    pick(page, "Plate")
    page.get_by_role("button", name="Plate on it").click()
    form = page.get_by_role("form", name="Plate on it")
    for label, mm in (("Width", "150"), ("Height", "70")):
        form.get_by_role("textbox", name=label, exact=True).fill(mm)
        form.get_by_role("textbox", name=label, exact=True).press("Enter")
    page.get_by_role("button", name="Add the plate").click()
    pick(page, "Plate on plate")
    page.get_by_label("Add to Plate on plate").select_option(label="Text")
    field(page, "Text", "SEEDS")
    field(page, "Height of a capital", "24")
    page.get_by_label("Made how").select_option(label="pieces, glued on")
    page.get_by_label("Its pieces are cut from").select_option(label="Walnut 3 · 3.12")
    fits(page, 7)
    page.get_by_text("Steps", exact=True).click()
    expect(page.get_by_text("SEEDS 5").first).to_be_visible()
    station(page, "Lay out")
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("2 sheets")
    expect(page.get_by_text("Walnut 3, 450").first).to_be_visible()


def test_a_drawing_of_two_colours_is_inlaid_and_its_lid_has_a_pocket_for_letters(page: Page, worker: Worker, tmp_path: Path) -> None:
    flower = tmp_path / "flower.svg"
    flower.write_text(FLOWER)
    begin(page, "plate", "Inlaid tile")
    pick(page, "Plate")
    page.get_by_label("Add to Plate").select_option("artwork")
    page.get_by_label("SVG, DXF, PNG or JPEG").set_input_files(flower)
    page.get_by_role("button", name="Put it on the panel").click()
    for layer in ("#208040 1", "#c02020 1"):
        page.get_by_label(layer).select_option(label="pieces, set through")
    stocks = page.get_by_label("Its pieces are cut from")
    stocks.first.select_option(label="Walnut 3 · 3.12")
    expect(page.get_by_test_id("revision")).to_contain_text("saved")
    fits(page, 3)
    expect(page.get_by_text("2 joints with a fit")).to_be_visible()  # the disc in the square, the square in the plate
    station(page, "Build")
    pick(page, "Plate")
    page.get_by_label("Add to Plate").select_option(label="Text")
    field(page, "To the right", "50")
    field(page, "Text", "O")
    field(page, "Height of a capital", "30")
    page.get_by_label("Made how").select_option(label="pieces in a pocket")
    fits(page, 4)
    expect(page.get_by_text("lies in a pocket of Plate that shall be")).to_be_visible()
    station(page, "Build")
    page.get_by_role("button", name="Add an item").click()
    page.get_by_label("Begin with").select_option(label="A sheet by the outline of a drawing")
    page.get_by_label("SVG, DXF, PNG or JPEG").set_input_files(flower)
    page.get_by_role("button", name="Add it", exact=True).click()
    expect(page.get_by_label("Name of this item")).to_have_value("flower")
    expect(page.get_by_text("56.00", exact=True).first).to_be_visible()  # its outer line, as large as the file says


def test_tiles_are_laid_out_on_a_map_and_as_many_are_made(page: Page, worker: Worker) -> None:
    begin(page, "tiles", "Small bed plan")
    board = page.get_by_role("application", name=re.compile("^Map of"))
    board.focus()
    for key in ("Enter", "ArrowRight", "Enter", "ArrowUp", "Enter"):  # three tiles in an angle
        board.press(key)
    for key in ("Shift+ArrowUp", "Shift+ArrowRight", "ArrowDown", "Shift+ArrowDown"):  # a corner of two walls, and one alone
        board.press(key)
    expect(page.get_by_role("row", name="Tiles")).to_have_text("Tiles390")
    page.get_by_role("form", name="Another sort of piece").get_by_label("Count").fill("5")
    for label, size in (("Wide", "3"), ("Deep", "2")):
        page.get_by_role("form", name="Another sort of piece").get_by_label(label).fill(size)
    page.get_by_role("button", name="Add this sort").click()
    page.get_by_role("radiogroup", name="Lay on the map").get_by_text("3 × 2, kind 1").click()
    board.press("Enter")  # where the keys have walked to
    board.press("ArrowRight")
    board.press("Enter")  # across the first one: it does not fit
    expect(page.get_by_role("row", name="Piece 3 x 2, kind 1")).to_have_text("Piece 3 x 2, kind 1150")
    page.get_by_role("button", name="Make as many as the map takes").click()
    expect(page.get_by_role("row", name="Tiles")).to_have_text("Tiles330")
    expect(page.get_by_role("row", name="Piece 3 x 2, kind 1")).to_have_text("Piece 3 x 2, kind 1110")
    expect(page.get_by_label("Walls, corner length")).to_have_value("2")  # one that is needed, and its like on the tile that is shown
    pick(page, "Middle ×3")
    expect(page.get_by_role("region", name="Flat")).to_be_visible()
    fits(page, 56)
