"""Lay out by hand: a part is dragged where it may not lie, settles, is locked, and stays while the rest is packed again."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from apps.designs.models import Project, Stage, StageResult
from apps.layouts.convert import NESTING
from apps.sheets.models import Stock
from notchcore.nest.values import Nesting
from processes import Worker
from steps import box_of, field, station


def packed(project: Project) -> Nesting:
    return NESTING.validate_python(StageResult.objects.get(project=project, stage=Stage.LAY_OUT).payload["nesting"])


def pack(page: Page, name: str = "Pack again") -> None:
    """Pack and wait for the end; what it shows meanwhile tells that it began."""
    page.get_by_role("button", name=name).click()
    going = page.get_by_role("button", name=re.compile("Stop, keep the best|Take it back"))  # a short packing may only be seen waiting
    expect(going).to_be_visible()
    expect(going).to_have_count(0, timeout=60_000)


def packed_by_itself(page: Page) -> None:
    """Wait for the end of the packing that begins where nothing was packed yet."""
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled(timeout=60_000)


def lid(project: Project) -> tuple[float, float]:
    nesting = StageResult.objects.get(project=project, stage=Stage.LAY_OUT).payload["nesting"]
    return next((p["x"], p["y"]) for s in nesting["sheets"] for p in s["placements"] if p["part"] == "lid")


def test_a_part_is_moved_by_hand_and_stays_where_it_is_locked(worker: Worker, loud_page: Page) -> None:
    page = loud_page
    project = Project.objects.get(name="Seed packet drawer")
    page.get_by_role("button", name="Seed packet drawer").click()
    station(page, "Lay out")
    part = page.get_by_role("button", name="Lid", exact=True)
    expect(part).to_be_visible()
    box = box_of(part)
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
    pack(page)
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()
    assert lid(project) == settled
    page.get_by_role("button", name="Lid, locked", exact=True).focus()
    page.keyboard.press("l")
    free = page.get_by_role("button", name="Lid", exact=True)
    free.focus()
    for key in (
        "ArrowUp",
        "ArrowDown",
        "ArrowLeft",
        "ArrowRight",
    ):  # one of the four ways is free, or it says why not
        page.keyboard.press(key)
        expect(free.or_(picked.get_by_role("button", name="Put it back"))).to_be_visible()
        if picked.get_by_role("button", name="Put it back").is_visible():
            picked.get_by_role("button", name="Put it back").click()
        expect(free).to_be_visible()
        free.focus()
    expect(page.get_by_role("heading", name=re.compile(r"\d+ sheets, \d+ %"))).to_be_visible()


def test_a_batch_of_mixed_parts_goes_over_two_offcuts_and_a_sheet(worker: Worker, loud_page: Page) -> None:
    page = loud_page
    project = Project.objects.get(name="Seed packet drawer")
    birch = Stock.objects.get(name="Birch ply 3, batch 12")
    birch.sheets.all().delete()
    birch.sheets.create(name="Whole", width_mm=600, height_mm=400, count=1, price=9.0)
    page.get_by_role("button", name="Seed packet drawer").click()
    station(page, "Sheets")
    page.get_by_role("button", name="Shelf", exact=True).click()
    shelf = page.get_by_role("region", name="Shelf")
    shelf.get_by_label("an offcut").check()
    for corners in ("0,0 560,0 560,250 320,380 0,380", "0,0 520,0 460,300 0,300"):
        shelf.get_by_label("Corners of an odd shape, mm").fill(corners)
        shelf.get_by_label("Corners of an odd shape, mm").press("Tab")
        expect(shelf.get_by_role("img", name=re.compile(r"Offcut, [45] corners"))).to_be_visible()
        pad = shelf.get_by_role("img", name=re.compile("Offcut"))
        shelf.get_by_role("button", name="Put on the shelf").click()
        expect(pad).to_have_attribute("aria-label", "Offcut, 0 corners, 0 bad spots")
    assert birch.sheets.filter(is_offcut=True).count() == 2

    station(page, "Lay out")
    field(page, "Copies of everything", "2")
    field(page, "Time to try", "3")
    tray = page.get_by_role("list", name="Parts to lay out")
    tray.get_by_role("button", name=re.compile("Right side")).click()
    tray.get_by_label("May turn").select_option("half")
    tray.get_by_label("Stays on one sheet with").select_option("A")
    tray.get_by_role("button", name=re.compile("Left side")).click()
    tray.get_by_label("Stays on one sheet with").select_option("A")
    field(page, "Fill up with, at most", "3")
    pack(page)
    nesting = packed(project)
    assert nesting.unplaced == ()
    mine = [s for s in nesting.sheets if s.stock == str(birch.pk)]
    assert any(s.name.startswith("Offcut") for s in mine)
    on = {(p.part, p.copy): k for k, s in enumerate(mine) for p in s.placements}
    assert len({on[part, copy] for part in ("left", "right") for copy in (0, 1)}) == 1
    assert all(p.turn in (0, 180) for s in mine for p in s.placements if p.part == "right")
    assert 2 <= sum(part == "left" for part, _ in on) <= 5
    expect(page.get_by_text(re.compile("Offcut, odd shape")).first).to_be_visible()
    before = nesting.price
    page.get_by_role("button", name="Go on from here").click()
    expect(page.get_by_role("button", name="Stop, keep the best")).to_be_visible()
    page.get_by_role("button", name="Stop, keep the best").click()
    expect(page.get_by_role("button", name="Stop, keep the best")).to_have_count(0)
    assert packed(project).price <= before


def test_a_shortage_is_said_before_packing_and_named_after_it(worker: Worker, loud_page: Page) -> None:
    page = loud_page
    project = Project.objects.get(name="Seed packet drawer")
    birch = Stock.objects.get(name="Birch ply 3, batch 12")
    birch.sheets.update(count=0)
    birch.sheets.filter(is_offcut=False).update(count=1)
    page.get_by_role("button", name="Seed packet drawer").click()
    station(page, "Lay out")
    field(page, "Copies of everything", "3")
    field(page, "Time to try", "2")
    expect(page.get_by_text(re.compile(r"The shelf has too few: buy \d"))).to_be_visible()
    pack(page)
    expect(page.get_by_text("add a sheet").first).to_be_visible()
    nesting = packed(project)
    lying = sum(len(s.placements) for s in nesting.sheets)
    assert lying + sum(u.count for u in nesting.unplaced) == 30
    tray = page.get_by_role("list", name="Parts to lay out")
    first = tray.get_by_role("button").first
    expect(first).to_contain_text(re.compile(r"[012] / 3"))  # what is missing comes first
    assert sum(u.count for u in nesting.unplaced) > 0
