"""Two browsers on one project, a line that is lost, and input that makes no sense."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from apps.designs.models import Project, Revision
from steps import field, sign_in, station


def open_drawer(page: Page) -> None:
    page.get_by_role("button", name="Seed packet drawer").click()
    expect(page.get_by_test_id("revision")).to_have_text("revision 6 · saved")
    expect(page.get_by_label("Width", exact=True)).to_be_visible()


def test_neither_of_two_people_overwrites_the_other_in_silence(loud_page: Page, new_page: Callable[..., Page]) -> None:
    mine, theirs = loud_page, sign_in(new_page(quiet=False), "mossgate")
    open_drawer(mine)
    open_drawer(theirs)
    # Both look at revision 6; the other saves first, before this browser has looked again.
    mine.route(
        "**/api/projects/*",
        lambda route: route.abort() if route.request.method == "GET" else route.continue_(),
    )
    field(theirs, "Height", "70")
    expect(theirs.get_by_test_id("revision")).to_have_text("revision 7 · saved")
    field(mine, "Width", "240")
    dialog = mine.get_by_role("dialog")
    expect(dialog).to_contain_text("mossgate saved revision 7")
    dialog.get_by_role("button", name="Save mine on top").click()
    expect(mine.get_by_test_id("revision")).to_have_text("revision 8 · saved")
    expect(mine.get_by_label("Height", exact=True)).to_have_value("70.0")  # theirs stands
    expect(mine.get_by_label("Width", exact=True)).to_have_value("240.0")  # and so does mine
    expect(theirs.get_by_role("status")).to_contain_text("alder saved revision 8")
    expect(theirs.get_by_label("Width", exact=True)).to_have_value("240.0")
    head = Revision.objects.get(
        project__name="Seed packet drawer",
        number=Project.objects.get(name="Seed packet drawer").head,
    )
    assert (head.design["numbers"]["width"], head.design["numbers"]["height"]) == (
        240.0,
        70.0,
    )


def test_what_is_typed_while_the_line_is_lost_stays_and_can_be_saved_later(
    loud_page: Page,
) -> None:
    page = loud_page
    open_drawer(page)
    page.context.set_offline(True)
    field(page, "Width", "250")
    width = page.get_by_label("Width", exact=True)
    expect(page.get_by_text("The server does not answer").first).to_be_visible()
    expect(width).to_have_value("250")
    page.context.set_offline(False)
    width.press("Enter")
    expect(page.get_by_test_id("revision")).to_have_text("revision 7 · saved")
    expect(width).to_have_value("250.0")


def test_input_that_makes_no_sense_is_told_beside_the_field_and_nothing_is_lost(
    loud_page: Page,
) -> None:
    page = loud_page
    open_drawer(page)
    width = page.get_by_label("Width", exact=True)
    for text, told in (
        ("wide", "a number should stand where “wide” is"),
        ("-5", "width is -5 mm; it must lie between 10 mm and 3000 mm"),
        ("1e9", "is not a length"),
        ("", "it is empty"),
        ("5 kg", "“kg” is not a unit"),
        ("0", "it must lie between 10 mm and 3000"),
    ):
        field(page, "Width", text)
        expect(page.get_by_role("alert").filter(has_text=told)).to_be_visible()
        expect(width).to_have_value(text)
    width.press("Escape")
    expect(width).to_have_value("214.0")
    field(page, "Columns, side by side", "2.5")
    expect(page.get_by_text("Type a whole number")).to_be_visible()
    field(page, "Columns, side by side", "90")
    expect(page.get_by_text("columns is 90; it must lie between 1 and 41")).to_be_visible()
    expect(page.get_by_test_id("revision")).to_have_text("revision 6 · saved")
    # An impossible wish is kept, says which number to change, and undo brings the box back.
    field(page, "Columns, side by side", "40")
    expect(page.get_by_text(re.compile(r"Use \d+ or fewer")).first).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Columns, side by side")).to_have_value("3")

    station(page, "Sheets")
    reading = page.get_by_label("Thickness reading")
    for text, told in (
        ("0", "thickness is 0 mm"),
        ("thin", "a number should stand"),
        ("3.1 kg", "is not a unit"),
    ):
        reading.fill(text)
        reading.press("Enter")
        expect(page.get_by_role("alert").filter(has_text=told)).to_be_visible()
        if text == "0":  # it could be read, but not be kept: the field is free for the next, and this one can be mended
            page.get_by_role("button", name="Type it again").click()
        expect(reading).to_have_value(text)
    reading.fill("3.08")
    reading.press("Enter")
    expect(page.get_by_text("6 readings ·")).to_be_visible()
