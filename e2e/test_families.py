"""Every family from an empty project to its files; and a design that stays right through changes of stock, size and scale."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from apps.designs.models import Project
from apps.designs.queries import current
from notchcore.design.assembly import FeatureKind
from notchcore.design.families.registry import FAMILIES
from processes import Worker
from steps import begin, field, station, told


@pytest.mark.parametrize("family", list(FAMILIES))
def test_a_family_goes_from_an_empty_project_to_files(page: Page, worker: Worker, family: str) -> None:
    begin(page, family, f"Mossgate {family}")
    parts = page.get_by_role("navigation", name="Panels and joints")
    expect(parts.get_by_text(re.compile(r"^Panels \d+$"))).to_be_visible()
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name=re.compile("It fits|It goes together"))).to_be_visible()
    station(page, "Lay out")
    expect(page.get_by_role("heading", name=re.compile(r"\d+ sheets?, \d+ %"))).to_be_visible()
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()
    station(page, "Cut plan")
    read = page.get_by_label("I have read these")
    link = page.get_by_role("link", name="Make the files")
    expect(link.or_(page.get_by_role("button", name="Make the files"))).to_be_visible()
    if read.count():
        read.click()
    with page.expect_download() as getting:
        link.click()
    names = zipfile.ZipFile(Path(getting.value.path())).namelist()
    assert {n.rsplit(".", 1)[1] for n in names} == {
        "svg",
        "dxf",
        "gcode",
        "pdf",
        "csv",
        "stl",
        "glb",
    }


def slots_of(name: str) -> dict[str, float]:
    """Return what the width of every slot is off: its finished width less the sheet that enters it and the wanted clearance."""
    now = current(Project.objects.select_related("machine", "shop").get(name=name))
    t = {p.id: p.t for p in now.assembly.parts}
    found = {}
    for meeting in now.assembly.meetings:
        for part in (meeting.a, meeting.b):
            mate = meeting.b if part == meeting.a else meeting.a
            for f in now.assembly.part(part).features:
                if f.meeting == meeting.id and f.kind in (
                    FeatureKind.SLOT,
                    FeatureKind.LAP,
                ):
                    found[f.id] = abs(
                        round(
                            f.width.value - t[mate] - (meeting.clearance.value if meeting.clearance else 0),
                            6,
                        )
                    )
    return found


def test_every_joint_stays_right_through_another_stock_another_size_and_another_scale(
    page: Page,
) -> None:
    begin(page, "box", "Row label tray")
    revision = page.get_by_test_id("revision")
    field(page, "Columns, side by side", "3")
    expect(revision).to_contain_text("revision 2")
    before = slots_of("Row label tray")
    assert len(before) > 10
    assert set(before.values()) == {0.0}

    page.get_by_label("Dividers", exact=True).select_option(label="Walnut 3 · 3.12")
    expect(revision).to_contain_text("revision 3")
    assert set(slots_of("Row label tray")) == set(before)  # every slot is still there, and right for the walnut
    assert set(slots_of("Row label tray").values()) == {0.0}

    field(page, "Width", "260")
    expect(revision).to_contain_text("revision 4")
    field(page, "Scale the design to", "150")
    expect(revision).to_contain_text("revision 5")
    expect(page.get_by_label("Width", exact=True)).to_have_value("390.0")
    assert set(slots_of("Row label tray").values()) == {0.0}

    panels = page.get_by_role("navigation", name="Panels and joints")
    panels.get_by_role("button", name="Left side", exact=True).click()
    panels.get_by_role("button", name="Right side", exact=True).click(modifiers=["Control"])
    between = page.get_by_role("form", name="Panel between")
    between.get_by_role("radio", name="up").check(force=True)
    field(page, "Where, up", "40")
    between.get_by_role("button", name="Add the panel").click()
    expect(panels.get_by_role("button", name="Between left side and right side", exact=True)).to_be_visible()
    assert set(slots_of("Row label tray").values()) == {0.0}
    page.keyboard.press("Control+z")
    expect(panels.get_by_role("button", name="Between left side and right side", exact=True)).to_have_count(0)

    panels.get_by_role("button", name="Front", exact=True).click()
    page.get_by_label("Add to Front").select_option("text")
    expect(page.get_by_role("button", name="“MOSSGATE”", exact=True)).to_be_visible()
    field(page, "Height of a capital", "14")
    expect(revision).to_contain_text("saved")
    assert "part" in told(page, "Build")
