"""Every screen in a language that the tests make: nothing of the interface is left in English, and nothing longer is cut off."""

from __future__ import annotations

from playwright.sync_api import Page, expect
from pseudo import Listener, said

from processes import Worker

STATIONS = ("sheets", "build", "dry-fit", "lay-out", "cut-plan", "run")

SHEETS = (
    "test-cards",
    "enter-a-kerf-test",
    "settings",
    "shelf",
    "about-it",
    "borrow",
    "the-whole-record",
    "machine",
    "side-by-side",
    "in-and-out",
    "add-a-stock",
)


def test_no_label_is_left_in_english_and_none_is_cut_off(page: Page, worker: Worker) -> None:
    listener = Listener(page)
    left: dict[str, list[str]] = {}

    def look(where: str) -> None:
        page.wait_for_timeout(400)
        if wrong := listener.foreign() + [f"CUT {c}" for c in listener.cut_off()]:
            left[where] = wrong

    def press(*keys: str) -> None:
        for key in keys:
            button = page.get_by_role("button", name=said(key), exact=True).first
            button.click()
            look(key)

    page.reload()
    expect(page.locator("html")).to_have_attribute("lang", "en-XA")
    drawer = page.get_by_role("button", name="Seed packet drawer")
    expect(drawer).to_be_visible()
    press("start.add-a-person")
    drawer.click()
    page.wait_for_url("**/build")
    base = page.url.removesuffix("/build")
    for station in STATIONS:
        page.goto(f"{base}/{station}")
        page.wait_for_timeout(1500)
        for fold in page.locator("summary").all():
            if fold.is_visible():
                fold.click()
        look(station)
        if station == "sheets":
            press(*(f"sheets.{k}" for k in SHEETS))
        elif station == "build":
            lists = page.get_by_role("navigation", name=said("build.panels-and-meetings"))
            lists.get_by_role("button", name="Front", exact=True).click()
            press(*(f"build.{k}" for k in ("duplicate", "mirror", "plate-on-it", "divide")))
            page.get_by_label(said("build.add-to").replace("{label}", "Front")).select_option("text")
            look("text")
            lists.get_by_role("button", name="Column divider 1 Front").click()
            look("joint")
        elif station == "dry-fit":
            for n, choice in enumerate(page.get_by_role("radiogroup").first.locator("label").all()):
                choice.click()
                look(f"dry fit {n}")
    page.goto("/")
    page.get_by_role("button", name="Tool cabinet").click()
    page.wait_for_url("**/build")
    items = page.get_by_role("group", name=said("build.items"))
    items.get_by_role("button", name="Drawer 1").click()
    page.get_by_text(said("build.move-and-turn-it")).click()
    look("an item")
    press("build.all-of-it")
    page.get_by_role("button", name="Drawer 1: Front", exact=True).click()
    look("a part of an item")
    page.goto("/answers")
    look("answers")
    assert left == {}
