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


def drawn(page: Page, parts: int = 10) -> None:
    page.locator(f"canvas[data-drawn='{parts}']").wait_for()


def test_take_all(page: Page, laser: str, worker: Worker) -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    take(page, "start")
    page.get_by_role("button", name="Seed packet drawer").click()
    drawn(page)
    take(page, "build")
    page.get_by_label("Pull apart").fill("0.45")
    page.get_by_role("navigation", name="Panels and meetings").get_by_role("button", name="Column divider 1 Front").click()
    expect(page.get_by_text("What to expect")).to_be_visible()
    take(page, "build-why")
    station(page, "Sheets")
    expect(page.get_by_label("Thickness reading")).to_be_visible()
    take(page, "sheets")
    station(page, "Dry fit")
    drawn(page)
    for _ in range(4):
        page.get_by_role("button", name="Step back").click()
    take(page, "dry-fit")
    station(page, "Lay out")
    expect(page.get_by_role("button", name="Pack again")).to_be_visible()
    take(page, "lay-out")
    station(page, "Cut plan")
    expect(page.get_by_role("link", name="Make the files")).to_be_visible()
    take(page, "cut-plan")
    station(page, "Run")
    expect(page.get_by_role("heading", name="Sheet 2 of 2")).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.check()
    page.get_by_role("button", name="Start the simulated laser").click()
    expect(page.get_by_test_id("run-state")).to_have_text("Burning")
    page.get_by_role("button", name="Pause").click()
    expect(page.get_by_test_id("run-state")).to_have_text("Paused")
    take(page, "run")
