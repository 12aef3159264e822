"""Panels that do not stand square: from an empty project to a dry fit that fits, by clicking."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from processes import Worker
from steps import begin, field, station


def pick(page: Page, *names: str) -> None:
    panels = page.get_by_role("navigation", name="Panels and meetings")
    for i, name in enumerate(names):
        panels.get_by_role("button", name=name, exact=True).click(modifiers=["Control"] if i else [])


def fits(page: Page, parts: int) -> None:
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text(f"{parts} parts")
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name="It fits")).to_be_visible()


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
    for label, mm in (("Where, up", "60"), ("Higher at: right end", "20"), ("Kept back, right end", "40")):
        field(page, label, mm)
    form.get_by_role("button", name="Add the panel").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("6 parts")
    for label, mm in (("Where, up", "125"), ("Higher at: right end", "-20"), ("Kept back, left end", "40"), ("Kept back, right end", "0")):
        field(page, label, mm)
    form.get_by_role("button", name="Add the panel").click()
    expect(page.get_by_role("navigation", name="Stations")).to_contain_text("7 parts")
    pick(page, "Between back and front 2")
    field(page, "Higher at: right end", "-25")  # it stays to be changed
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
    fits(page, 6)

    page.goto("/")
    begin(page, "box", "Tray on a plate")
    pick(page, "Front", "Back", "Left side", "Right side")
    page.get_by_role("button", name="Leave all out").click()
    pick(page, "Base")
    page.get_by_role("button", name="Wall on an edge").click()
    walls = page.get_by_role("form", name="Wall on an edge")
    walls.get_by_label("Edge").select_option(label="all four sides")
    field(page, "Leans outward by", "18")
    walls.get_by_role("button", name="Add the walls").click()
    fits(page, 5)
