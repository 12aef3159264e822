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
