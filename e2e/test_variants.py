"""An award in two sizes and two letterings: each chosen apart, looked at beside each other, and several of them made together."""

from __future__ import annotations

from playwright.sync_api import Page, expect
from test_lay_out import packed_by_itself

from apps.designs import queries
from apps.designs.models import Project
from processes import Worker
from steps import field, station, varies


def current(name: str) -> queries.Current:
    return queries.current(Project.objects.select_related("machine", "shop").get(name=name))


def test_sizes_and_lettering_are_chosen_apart_and_made_together(page: Page, worker: Worker) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_label("Name").fill("Award box")
    for label, size in (("Width", "120"), ("Depth", "90"), ("Height", "60")):
        field(page, label, size)
    page.get_by_role("button", name="Start building").click()
    panels = page.get_by_role("navigation", name="Panels and joints")
    panels.get_by_role("button", name="Front", exact=True).first.click()
    page.get_by_label("Add to Front").select_option(label="Text")
    panels.get_by_role("button", name="Sizes and stocks").click()

    varies(page, "Size", "6 in, 9 in")
    varies(page, "Lettering", "plain, engraved", "only what is there")
    sizes, lettering = page.get_by_role("radiogroup", name="Size", exact=True), page.get_by_role("radiogroup", name="Lettering")
    sizes.get_by_text("9 in").click()
    field(page, "Scale the design to", "150")
    expect(page.get_by_label("Width", exact=True)).to_have_value("180.0")
    panels.get_by_role("button", name="Front", exact=True).first.click()
    page.get_by_role("button", name="“MOSSGATE”", exact=True).click()
    page.get_by_role("group", name="Front: “MOSSGATE”, there with Lettering").get_by_label("plain").uncheck()
    expect(page.get_by_test_id("revision")).to_contain_text("revision 7 · saved")
    front = next(p for p in current("Award box").assembly.parts if p.id == "front")
    assert not front.marks  # plain is chosen

    panels.get_by_role("button", name="Sizes and stocks").click()
    lettering.get_by_text("engraved").click()
    page.get_by_role("button", name="Look at all 4 variants").click()
    table = page.get_by_role("dialog", name="All variants")
    expect(table.get_by_role("row")).to_have_count(5)
    expect(table.get_by_text("Looked at")).to_have_count(0)
    expect(table.get_by_role("row").filter(has_text="chosen")).to_contain_text("9 in")
    table.get_by_role("button", name="Choose it: 6 in · engraved").click()
    expect(table.get_by_role("row").filter(has_text="chosen")).to_contain_text("6 in")
    for words, count in (("6 in · plain", "1"), ("9 in · engraved", "2")):
        wanted = table.get_by_label(f"How many of {words}")
        wanted.fill(count)
        wanted.press("Tab")
    table.get_by_role("button", name="Cut these together").click()
    expect(page.get_by_label("Project name")).to_have_value("Award box, together")
    expect(panels.get_by_role("button", name="Box, 9 in, engraved ×2")).to_be_visible()
    together = current("Award box, together").assembly
    assert sorted(p.copies for p in together.parts) == [1] * 5 + [2] * 5
    assert [bool(p.marks) for p in together.parts if p.label.endswith("Front")] == [False, True]
    station(page, "Lay out")
    packed_by_itself(page)
    expect(page.get_by_role("main")).to_contain_text("15 parts placed")
