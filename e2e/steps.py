"""What a person does again and again, in the words of the screen."""

from __future__ import annotations

import time

from playwright.sync_api import FloatRect, Locator, Page, expect

from apps.runs import demo
from notchcore.design.families.registry import FAMILIES


def sign_in(page: Page, name: str = demo.USER) -> Page:
    page.goto("/")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(demo.PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("What the shop must know")).to_be_visible()
    return page


STATIONS = ("Sheets", "Build", "Dry fit", "Lay out", "Cut plan", "Run")


def _on_the_strip(page: Page, name: str) -> Locator:
    return page.get_by_role("navigation", name="Stations").get_by_role("button").nth(STATIONS.index(name))


def station(page: Page, name: str) -> None:
    _on_the_strip(page, name).click()


def told(page: Page, name: str) -> str:
    """Return what a station says of itself on the strip, once it says something."""
    words = _on_the_strip(page, name).locator(".told")
    expect(words).not_to_be_empty()
    return words.inner_text()


def field(page: Page, label: str, text: str) -> None:
    """Type into a number field and keep it."""
    box = page.get_by_label(label, exact=True)
    box.fill(text)
    box.press("Enter")


def box_of(part: Locator) -> FloatRect:
    """Return where a thing stands on the page, once it stands still: what was just read anew is drawn anew."""
    before, deadline = None, time.monotonic() + 10
    while time.monotonic() < deadline:
        now = part.bounding_box()
        if now is not None and now == before:
            return now
        before = now
        part.page.wait_for_timeout(100)
    raise AssertionError(f"{part} does not come to rest")


def begin(page: Page, family: str, name: str) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_role("radio", name=FAMILIES[family].label).check(force=True)
    form.get_by_label("Name").fill(name)
    page.get_by_role("button", name="Start building").click()
    expect(page.get_by_test_id("revision")).to_contain_text("revision 1")


def varies(page: Page, name: str, alternatives: str, sets: str = "") -> None:
    """Let something of what is open vary."""
    page.get_by_role("button", name="Something varies …").click()
    form = page.get_by_role("form", name="Something varies …")
    form.get_by_label("What varies").fill(name)
    form.get_by_label("Its alternatives, with commas").fill(alternatives)
    if sets:
        form.get_by_label("It sets").select_option(label=sets)
    form.get_by_role("button", name="Let it vary").click()
    expect(page.get_by_role("radiogroup", name=name, exact=True)).to_be_visible()
