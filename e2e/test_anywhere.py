"""Panels that do not stand square: from an empty project to a dry fit that fits, by clicking."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from processes import Worker
from steps import begin, field, station


def pick(page: Page, *names: str) -> None:
    panels = page.get_by_role("navigation", name="Panels and joints")
    for i, name in enumerate(names):
        panels.get_by_role("button", name=name, exact=True).click(modifiers=["Control"] if i else [])


def fits(page: Page, parts: int) -> None:
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text(f"{parts} parts")
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name="It fits")).to_be_visible()


def grip(page: Page, label: str, which: str) -> Locator:
    """Return the grip of an added panel on the flat one that it stands on."""
    return page.get_by_role("application", name=re.compile(f"^{label}, where .*: {which}"))


def pulled(page: Page, what: Locator, *, up: float) -> None:
    box = what.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - up, steps=3)
    page.mouse.up()


def test_leaning_walls_a_brace_and_a_sloping_top_fit(page: Page, worker: Worker) -> None:
    begin(page, "many_sided", "Hexagonal tray")
    field(page, "Walls lean out by", "18")
    fits(page, 7)

    page.goto("/")
    begin(page, "shelf", "Braced shelf")
    page.get_by_role("radiogroup", name="Back").get_by_text("open", exact=True).click()
    pick(page, "Left side", "Right side")
    form = page.get_by_role("form", name="Panel between")
    form.get_by_text("to the back", exact=True).click()
    field(page, "Kept back, lower end", "135")
    field(page, "Kept back, upper end", "135")
    form.get_by_role("button", name="Add the panel").click()
    pick(page, "Between left side and right side")
    field(page, "Turned in its plane", "30")
    field(page, "Kept back, upper end", "130")  # it stays to be changed
    fits(page, 6)

    page.goto("/")
    begin(page, "box", "Sloping box")
    page.get_by_label("Top", exact=True).select_option("fixed")
    pick(page, "Top")
    field(page, "Upper edge to the front", "14")
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("6 parts")
    pick(page, "Front")
    expect(page.get_by_title("Why this height?")).not_to_have_text("60.00")  # the walls end at the sloping top
    fits(page, 6)


def test_ramps_a_brace_and_walls_round_a_floor_say_what_they_stand_to(page: Page, worker: Worker) -> None:
    begin(page, "box", "Seed run")
    field(page, "Height", "160")
    pick(page, "Front", "Back")
    form = page.get_by_role("form", name="Panel between")
    form.get_by_text("up", exact=True).click()
    for label, mm in (("Where, up", "60"), ("Higher at: right end", "20"), ("Kept back, right end", "40"), ("How many", "2")):
        field(page, label, mm)
    field(page, "Each next one farther by", "45")
    form.get_by_text("slopes the other way", exact=True).click()
    form.get_by_role("button", name="Add 2 panels").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("7 parts")
    pick(page, "Between back and front 2")
    field(page, "Kept back, right end", "41")
    field(page, "Higher at: right end", "-5*5")  # it stays to be changed, also when another is picked at once
    pick(page, "Front")
    grip(page, "Between back and front 2", "one end").press("ArrowUp")  # or is moved where it stands
    pick(page, "Between back and front 2")
    expect(page.get_by_label("Higher at: right end")).to_have_value("-26.0")
    pick(page, "Front")
    pulled(page, grip(page, "Between back and front 2", "all of it"), up=10)
    pick(page, "Between back and front 2")
    expect(page.get_by_label("Higher at: Front")).not_to_have_value("0.0")  # it slopes to the front now
    pick(page, "Sizes and stocks")
    field(page, "Width", "220")  # and follows
    fits(page, 7)

    page.goto("/")
    begin(page, "shelf", "Braced shelf")
    page.get_by_role("radiogroup", name="Back").get_by_text("open", exact=True).click()
    pick(page, "Left side", "Board 1")
    corner = page.get_by_role("form", name="Gusset")
    corner.get_by_text("Brace", exact=True).click()
    for label, mm in (
        ("From the corner, on: Left side", "70"),
        ("From the corner, on: Board 1", "60"),
        ("Kept back, front end", "20"),
        ("Kept back, back end", "20"),
    ):
        field(page, label, mm)
    page.get_by_role("button", name="Add the brace").click()
    pick(page, "Left side")
    grip(page, "Brace of board 1 and left side", "all of it").press("ArrowUp")
    pick(page, "Brace of board 1 and left side")
    expect(page.get_by_label("From the corner, on: Left side")).to_have_value("71.0")
    fits(page, 6)


def test_walls_legs_slats_and_spacers_stand_on_edges_faces_and_across_rooms(page: Page, worker: Worker) -> None:
    begin(page, "plate", "Six-sided tray")
    page.get_by_label("Shape", exact=True).select_option("polygon")
    pick(page, "Plate")
    page.get_by_role("button", name="Wall on an edge").click()
    walls = page.get_by_role("form", name="Wall on an edge")
    walls.get_by_label("Edge").select_option(label="every edge")
    field(page, "Leans outward by", "18")
    walls.get_by_role("button", name="Add the walls").click()
    fits(page, 7)

    page.goto("/")
    begin(page, "plate", "Held-off sign")
    pick(page, "Plate")
    page.get_by_role("button", name="Plate on it").click()
    for label, mm in (("Layers of spacers under it", "1"), ("Width", "130"), ("Height", "70")):
        field(page, label, mm)
    page.get_by_role("button", name="Add the plate").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("6 parts")
    pick(page, "Plate on plate")
    field(page, "Layers of spacers under it", "2")  # it stays to be changed
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("10 parts")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("6 parts")
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name="It goes together")).to_be_visible()

    page.goto("/")
    begin(page, "plate", "Stool")
    page.get_by_label("Shape", exact=True).select_option("ellipse")
    field(page, "Width", "240")
    field(page, "Height", "240")
    pick(page, "Plate")
    page.get_by_role("button", name="Upright on it").click()
    legs = page.get_by_role("form", name="Upright on it")
    legs.get_by_text("back face", exact=True).click()
    for label, mm in (
        ("Its foot from the lower edge", "60"),
        ("Turned by", "90"),
        ("Width at its foot", "70"),
        ("Height", "160"),
        ("How many, round the middle", "3"),
    ):
        field(page, label, mm)
    legs.get_by_role("button", name="Add 3 uprights").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("4 parts")
    pick(page, "Upright on plate", "Upright on plate 2")
    for label, mm in (
        ("From the corner, on: Upright on plate", "60"),
        ("From the corner, on: Upright on plate 2", "60"),
        ("Kept back, lower end", "60"),
        ("Kept back, upper end", "60"),
    ):
        field(page, label, mm)
    page.get_by_role("button", name="Add the brace").click()
    fits(page, 5)

    page.goto("/")
    begin(page, "box", "Lattice in a frame")
    field(page, "Height", "40")
    pick(page, "Base")
    page.get_by_role("button", name="Leave out").click()
    pick(page, "Front", "Right side", "Back", "Left side")
    page.get_by_role("button", name="Add the slats").click()
    fits(page, 14)
