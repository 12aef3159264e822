"""The whole board without a mouse, in inches, on a narrow screen."""

from __future__ import annotations

from collections.abc import Callable

from playwright.sync_api import Page, expect

from apps.runs import demo

STATIONS = ("sheets", "build", "dry-fit", "lay-out", "cut-plan", "run")


def tab_to(page: Page, name: str, *, most: int = 60) -> None:
    """Press Tab until the control with this name has the focus."""
    script = """() => { const e = document.activeElement
        return e === document.body ? '' : e.getAttribute('aria-label') || e.labels?.[0]?.innerText || e.innerText || '' }"""
    for _ in range(most):
        if name in page.evaluate(script):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"Tab never comes to {name}")


def enter_a_gauge_strip(page: Page) -> None:
    """Make a card, say how each slot felt, correct one, and go back to the sheet."""
    tab_to(page, "Test cards")
    page.keyboard.press("Enter")
    tab_to(page, "Make it", most=90)
    page.keyboard.press("Enter")
    expect(page.get_by_text("0 of 11 entered")).to_be_visible()
    page.get_by_role("button", name="← sheet").focus()  # where a person is who has just opened it
    tab_to(page, "nothing entered")
    page.keyboard.type("5443322211")
    page.keyboard.press("1")
    expect(page.get_by_text("11 of 11 entered")).to_be_visible()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Backspace")
    expect(page.get_by_text("10 of 11 entered")).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_text("11 of 11 entered")).to_be_visible()
    page.get_by_role("button", name="← sheet").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Walnut 3")).to_be_visible()
    expect(page.get_by_label("Thickness reading")).to_be_focused()
    page.keyboard.press("Escape")  # out of the field, so that 1 to 6 switch stations


def test_everything_can_be_done_by_keyboard(shop: None, new_page: Callable[..., Page]) -> None:
    page = new_page()
    page.goto("/")
    expect(page.get_by_label("Name")).to_be_focused()
    page.keyboard.type(demo.USER)
    tab_to(page, "Password")
    page.keyboard.type(demo.PASSWORD + "\n")
    expect(page.get_by_text("What the shop must know")).to_be_visible()
    expect(page.get_by_role("button", name="Seed packet drawer")).to_be_visible()
    tab_to(page, "Seed packet drawer\n")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("revision")).to_have_text("revision 6 · saved")

    expect(page.get_by_label("Height", exact=True)).to_be_visible()  # the form is there: now it can be reached
    tab_to(page, "Height")
    page.keyboard.type("65\n")
    expect(page.get_by_test_id("revision")).to_have_text("revision 7 · saved")
    page.keyboard.press("Alt+3")
    expect(page.get_by_role("heading", name="It fits")).to_be_visible()
    expect(page.get_by_test_id("step")).to_have_text("all together")
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_test_id("step")).not_to_have_text("all together")
    page.keyboard.press("/")
    page.keyboard.type("walnut")
    expect(page.get_by_role("listbox", name="Found").get_by_role("option")).to_have_count(1)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Walnut 3")).to_be_visible()
    expect(page.get_by_label("Thickness reading")).to_be_focused()
    page.keyboard.type("3.13\n")
    expect(page.get_by_text("4 readings ·")).to_be_visible()
    page.keyboard.press("Escape")
    enter_a_gauge_strip(page)
    page.keyboard.press("5")
    expect(page.get_by_text("Something changed since this plan was made")).to_be_visible()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog").get_by_text("go to a station")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("2")
    expect(page.get_by_label("Width", exact=True)).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Height", exact=True)).to_have_value("62.0")


def past_the_edge(page: Page) -> list[str]:
    """Return the classes of elements that reach beyond the right edge of the window."""
    script = """() => [...document.querySelectorAll('body *')].filter(e => !e.closest('svg') && e.getBoundingClientRect().width
        && e.getBoundingClientRect().right > innerWidth + 1).map(e => e.className)"""
    return list(page.evaluate(script))


def test_an_inch_project_on_a_narrow_screen_hides_nothing(page: Page) -> None:
    page.set_viewport_size({"width": 1024, "height": 700})
    page.get_by_role("button", name="Seed packet drawer").click()
    page.get_by_label("Units").select_option("in/64")
    expect(page.get_by_label("Height", exact=True)).to_have_value("2 7/16")
    page.get_by_label("Height", exact=True).fill("2 1/2")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("revision")).to_have_text("revision 7 · saved")
    page.get_by_label("Units").select_option("mm")
    expect(page.get_by_label("Height", exact=True)).to_have_value("63.5")
    page.get_by_label("Units").select_option("in")
    project = page.url.rsplit("/", 1)[0]
    for station in STATIONS:
        page.goto(f"{project}/{station}")
        expect(page.get_by_role("navigation", name="Stations")).to_be_visible()
        page.wait_for_load_state("networkidle")
        assert past_the_edge(page) == [], station
    page.goto(f"{project}/sheets")
    for tool in (
        "Machine",
        "Side by side",
        "In and out",
        "Test cards",
        "Settings",
        "Shelf",
        "About it",
        "Borrow",
    ):
        page.get_by_role("button", name=tool, exact=True).click()
        page.wait_for_load_state("networkidle")
        assert past_the_edge(page) == [], tool
        if tool == "In and out":
            page.get_by_role("button", name=tool, exact=True).click()
    page.goto("/answers?ask=sheets")
    expect(page.get_by_test_id("answer")).to_be_visible()
    assert past_the_edge(page) == []
