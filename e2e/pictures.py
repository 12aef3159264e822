"""The pictures in docs/screenshots, from the demo data at 1280 by 800; not a test, run by ./board shots."""

from __future__ import annotations

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from apps.runs import demo
from processes import BACKEND, Worker
from steps import station

PICTURES = BACKEND.parent / "docs" / "screenshots"


@pytest.fixture
def shop(transactional_db: None) -> None:
    """The demo as ./board up loads it: its packing gets its full two seconds."""
    demo.load()


def take(page: Page, name: str) -> None:
    page.mouse.move(0, 0)
    page.wait_for_timeout(900)  # drawings and transitions come to rest
    page.screenshot(path=Path(PICTURES) / f"{name}.png")


def quick_answers(page: Page) -> None:
    here = page.url
    page.goto("/answers?ask=angled")
    page.get_by_label("The slot is cut in").select_option(label="Birch ply 3, batch 12 · 3.08")
    page.get_by_label("What enters").select_option(label="Walnut 3 · 3.12")
    expect(page.get_by_test_id("answer")).to_be_visible()
    take(page, "quick-answers")
    page.goto(here)


def families(page: Page) -> None:
    """The name board with its text, the lantern, and the cabinet with its drawers."""
    here = page.url
    page.goto("/")
    page.get_by_role("button", name="Stall name board").click()
    drawn(page, 9)
    page.get_by_role("button", name="Figure", exact=True).click()
    expect(page.get_by_label("Add to Figure")).to_be_visible()
    take(page, "build-panel")
    page.goto("/")
    page.get_by_role("button", name="Lantern walk").click()
    drawn(page, 27)
    panels = page.get_by_role("navigation", name="Panels and joints")
    panels.get_by_role("button", name="Wall 1 and").click()
    panels.get_by_role("button", name="Wall 1", exact=True).click()
    expect(page.get_by_label("Upper edge to the front")).to_be_visible()
    take(page, "build-lantern")
    page.goto("/")
    page.get_by_role("button", name="Tool cabinet").click()
    drawn(page, 22)
    page.get_by_role("slider", name="Pull apart").fill("0.3")
    take(page, "build-items")
    page.goto(here)
    drawn(page)


def both_sides(page: Page) -> None:
    """Labels turned over in their holes, and thick boards found by their marks."""
    here = page.url
    page.goto("/")
    page.get_by_role("button", name="Row labels").click()
    station(page, "Cut plan")
    page.get_by_role("tab", name="Sheet 1, other faces").click()
    page.get_by_label("Moment of the cut").fill("70")
    take(page, "cut-plan-turned-parts")
    page.goto("/")
    page.get_by_role("button", name="Plant tiers").click()
    station(page, "Run")
    page.get_by_role("tab", name="Sheet 1, front").click()
    page.get_by_role("button", name="Find the marks with the camera").click()
    expect(page.get_by_test_id("marks")).to_be_visible()
    page.get_by_test_id("marks").scroll_into_view_if_needed()
    take(page, "run-marks")
    page.goto(here)
    expect(page.get_by_role("link", name="Make the files")).to_be_visible()


def drawn(page: Page, parts: int = 10) -> None:
    page.locator(f"canvas[data-drawn='{parts}']").wait_for()


def test_take_all(page: Page, laser: str, worker: Worker) -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    drawer = page.get_by_role("button", name="Seed packet drawer")
    expect(drawer).to_be_visible()
    expect(page.get_by_role("radio", name="Stand")).to_be_attached()
    expect(page.get_by_text("drawing …")).to_have_count(0)
    take(page, "start")
    drawer.click()
    drawn(page)
    take(page, "build")
    page.get_by_label("Pull apart").fill("0.45")
    page.get_by_role("navigation", name="Panels and joints").get_by_role("button", name="Column divider 1 Front").click()
    expect(page.get_by_text("What to expect")).to_be_visible()
    take(page, "build-why")
    families(page)
    station(page, "Sheets")
    expect(page.get_by_label("Thickness reading")).to_be_visible()
    take(page, "sheets")
    page.get_by_role("button", name="Test cards").click()
    page.get_by_role("region", name="Test cards").get_by_role("button", name="Gauge strip").click()
    expect(page.get_by_text("11 of 11 entered")).to_be_visible()
    take(page, "sheets-gauge")
    page.get_by_role("button", name="Machine", exact=True).click()
    take(page, "sheets-machine")
    page.get_by_role("button", name="Machine", exact=True).click()
    page.get_by_role("button", name="Poplar ply 4").click()
    page.get_by_text("Power and speed were not tried here.").get_by_role("button", name="Make one").click()
    expect(page.get_by_text("0 of 25 entered")).to_be_visible()
    page.locator("[data-cell]").first.focus()
    page.keyboard.type("22111" + "22211" + "32221" + "43222" + "54332")
    expect(page.get_by_text("Fastest clean square: 72 %")).to_be_visible()
    take(page, "sheets-power")
    quick_answers(page)
    station(page, "Dry fit")
    drawn(page)
    for _ in range(4):
        page.get_by_role("button", name="Step back").click()
    take(page, "dry-fit")
    page.get_by_role("radiogroup", name="Show").get_by_text("Steps", exact=True).click()
    take(page, "dry-fit-steps")
    page.get_by_role("radiogroup", name="Show").get_by_text("Pieces", exact=True).click()
    page.get_by_label("Now, against").select_option(index=2)
    expect(page.get_by_text("parts are others now")).to_be_visible()
    take(page, "dry-fit-pieces")
    station(page, "Lay out")
    expect(page.get_by_role("button", name="Pack again")).to_be_visible()
    take(page, "lay-out")
    station(page, "Cut plan")
    expect(page.get_by_role("link", name="Make the files")).to_be_visible()
    take(page, "cut-plan")
    both_sides(page)
    station(page, "Run")
    expect(page.get_by_role("heading", name="Sheet 2 of 2")).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.check()
    page.get_by_role("button", name="Start the simulated laser").click()
    expect(page.get_by_test_id("run-state")).to_have_text("Burning")
    page.get_by_role("button", name="Pause").click()
    expect(page.get_by_test_id("run-state")).to_have_text("Paused")
    take(page, "run")
