"""A plan put in another order, its files, and the whole project taken out and brought in again."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect

from steps import box_of, station, told


def order(page: Page) -> list[str]:
    return page.get_by_role("list", name="Order of cuts").get_by_role("button").all_inner_texts()


def test_cuts_are_put_in_another_order_and_the_project_goes_out_and_comes_in(loud_page: Page, tmp_path: Path) -> None:
    page = loud_page
    page.get_by_text("Seed packet drawer").first.click()
    station(page, "Cut plan")
    cuts = page.get_by_role("list", name="Order of cuts").get_by_role("button")
    expect(cuts.first).to_contain_text("Lid, score")
    before = order(page)
    second, third = (re.sub(r"\s*\d+$", "", t) for t in before[1:3])
    cuts.nth(1).click()
    cuts.nth(1).press("Alt+ArrowDown")
    expect(cuts.nth(2)).to_contain_text(second)
    expect(cuts.nth(1)).to_contain_text(third)
    cuts.first.press("Alt+ArrowDown")  # a score after a cut
    expect(page.get_by_role("alert").filter(has_text="cannot go farther")).to_be_visible()
    box, to = box_of(page.locator(".grip").nth(2)), box_of(page.locator(".grip").nth(1))
    page.mouse.move(box["x"] + 5, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(to["x"] + 5, to["y"] + 8, steps=4)
    page.mouse.up()
    expect(cuts.nth(1)).to_contain_text(second)
    page.reload()
    expect(cuts.nth(1)).to_contain_text(second)
    assert [re.sub(r"\s*\d+$", "", t) for t in order(page)] == [re.sub(r"\s*\d+$", "", t) for t in before]
    with page.expect_download() as getting:
        page.get_by_role("link", name="G-code").first.click()
    assert "G21" in Path(getting.value.path()).read_text()

    station(page, "Build")
    with page.expect_download() as getting:
        page.get_by_role("link", name="the whole project").click()
    kept = tmp_path / "drawer.project.zip"
    getting.value.save_as(kept)
    assert "project.json" in zipfile.ZipFile(kept).namelist()
    parts = told(page, "Build")
    page.goto("/")
    (tmp_path / "wrong.zip").write_bytes(b"not a zip")
    page.get_by_label("Bring one in").set_input_files(tmp_path / "wrong.zip")
    expect(page.get_by_role("alert")).to_contain_text("not a project")
    page.get_by_label("Bring one in").set_input_files(kept)
    expect(page.locator("canvas[data-drawn='10']")).to_be_visible()
    assert told(page, "Build") == parts
    page.goto("/")
    for name in ("Seed packet drawer", "Seed packet drawer (2)"):
        expect(page.get_by_text(name, exact=True)).to_have_count(1)
