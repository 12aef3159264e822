"""Lay out by hand: a part is dragged where it may not lie, settles, is locked, and stays while the rest is packed again."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from apps.designs.models import Project, Stage, StageResult
from processes import Worker
from steps import field, station


def lid(project: Project) -> tuple[float, float]:
    nesting = StageResult.objects.get(project=project, stage=Stage.NEST).payload["nesting"]
    return next((p["x"], p["y"]) for s in nesting["sheets"] for p in s["placements"] if p["part"] == "lid")


def test_a_part_is_moved_by_hand_and_stays_where_it_is_locked(worker: Worker, loud_page: Page) -> None:
    page = loud_page
    project = Project.objects.get(name="Seed packet drawer")
    page.get_by_role("button", name="Seed packet drawer").click()
    station(page, "Lay out")
    part = page.get_by_role("button", name="Lid", exact=True)
    expect(part).to_be_visible()
    box = part.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] * 0.3, box["y"] + box["height"] * 0.3

    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 24, y + 30, steps=4)
    page.mouse.up()
    picked = page.get_by_role("group", name="Picked part")
    expect(picked.get_by_role("alert")).to_contain_text("It cannot lie there")
    picked.get_by_role("button", name="Settle it near by").click()
    expect(picked.get_by_role("button", name="Lock")).to_be_visible()

    part.focus()
    page.keyboard.press("l")
    expect(page.get_by_role("button", name="Lid, locked", exact=True)).to_be_visible()
    settled = lid(project)
    page.keyboard.press("ArrowRight")  # what is locked does not move
    field(page, "Time to try", "3")  # long enough for its progress to be seen, which tells that it began
    page.get_by_role("button", name="Pack again").click()
    expect(page.get_by_role("button", name="Stop, keep the best")).to_be_visible()
    expect(picked).to_contain_text("once the packing has ended")
    expect(page.get_by_role("button", name="Stop, keep the best")).to_have_count(0, timeout=30_000)
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled(timeout=30_000)
    assert lid(project) == settled
    page.get_by_role("button", name="Lid, locked", exact=True).focus()
    page.keyboard.press("l")
    free = page.get_by_role("button", name="Lid", exact=True)
    free.focus()
    for key in ("ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight"):  # one of the four ways is free, or it says why not
        page.keyboard.press(key)
        expect(free.or_(picked.get_by_role("button", name="Put it back"))).to_be_visible()
        if picked.get_by_role("button", name="Put it back").is_visible():
            picked.get_by_role("button", name="Put it back").click()
        expect(free).to_be_visible()
        free.focus()
    expect(page.get_by_role("heading", name=re.compile(r"\d+ sheets, \d+ %"))).to_be_visible()
