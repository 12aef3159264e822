"""What once cut good material to scrap without a word, all in one project: by clicking, to the files."""

from __future__ import annotations

import io
import re
import zipfile
from itertools import combinations
from pathlib import Path

import ezdxf
from playwright.sync_api import Page, expect

from apps.designs.models import Project
from apps.designs.queries import Current, current
from apps.layouts.convert import NESTING
from notchcore.geom.profile import Profile
from notchcore.nest.gate import placed_shape
from notchcore.nest.values import NestPart
from processes import Worker
from steps import field, station, varies

NAME = "Bean chest"


def now() -> Current:
    return current(Project.objects.select_related("machine", "shop").get(name=NAME))


def saved(page: Page, number: int) -> None:
    expect(page.get_by_test_id("revision")).to_have_text(f"revision {number} · saved")


def test_what_once_went_wrong_between_features_comes_out_right(page: Page, worker: Worker) -> None:
    form = page.get_by_role("form", name="New project")
    form.get_by_label("Name").fill(NAME)
    for label, size in (("Width", "180"), ("Depth", "120"), ("Height", "90")):
        field(page, label, size)
    page.get_by_role("button", name="Start building").click()
    expect(page.get_by_test_id("revision")).to_contain_text("revision 1")
    variants_keep_their_sizes(page)
    a_door_goes_along(page)
    files = packed_and_written(page)
    whole_circles_are_cut(files)
    undo_brings_the_layout_back(page)


def variants_keep_their_sizes(page: Page) -> None:
    """Scaling the chosen variant leaves the other as it was."""
    field(page, "Width", "200")
    varies(page, "Size", "large, small")
    saved(page, 3)
    page.get_by_role("radiogroup", name="Size", exact=True).get_by_text("small").click()
    saved(page, 4)
    field(page, "Width", "150")
    saved(page, 5)
    field(page, "Scale the design to", "120")
    saved(page, 6)
    expect(page.get_by_label("Width", exact=True)).to_have_value("180.0")
    assert now().design.variations[0].alternative("large").sizes.width == 200.0  # type: ignore[union-attr]


def a_door_goes_along(page: Page) -> None:
    """A window whose piece is a door, and a round hole, go along when their panel is duplicated and mirrored."""
    panels = page.get_by_role("navigation", name="Panels and joints")
    panels.get_by_role("button", name="Front", exact=True).first.click()
    page.get_by_label("Add to Front").select_option("window")
    saved(page, 7)
    page.get_by_role("radio", name="a part: pane, flap, door").check(force=True)
    saved(page, 8)
    page.get_by_label("Add to Front").select_option("hole")
    saved(page, 9)
    field(page, "To the right", "-60")
    saved(page, 10)
    page.get_by_role("button", name="Duplicate", exact=True).last.click()
    page.get_by_role("button", name="Make one more").click()
    saved(page, 11)
    panels.get_by_role("button", name="Front", exact=True).first.click()
    page.get_by_role("button", name="Mirror", exact=True).last.click()
    page.get_by_role("button", name="Mirror beside it").click()
    saved(page, 12)
    parts = now().assembly.parts
    doors = [p for p in parts if p.falls_from]
    hosts = {p.falls_from for p in doors}
    assert len(doors) == len(hosts) == 3
    for host in hosts:
        part = now().assembly.part(host)
        assert len(part.openings) == 2  # the door's and the round one
        assert any(c.radius > 1 for c in part.profile.circles)


def packed_and_written(page: Page) -> dict[str, bytes]:
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name=re.compile("fits|together|look|fix|first", re.I)).first).to_be_visible()
    station(page, "Lay out")
    expect(page.get_by_role("heading", name=re.compile(r"\d+ sheets?, \d+ %"))).to_be_visible()
    expect(page.get_by_role("button", name="Pack again")).to_be_enabled()
    nothing_lies_in_a_door()
    station(page, "Cut plan")
    page.get_by_text(re.compile("^Starts, numbers")).click()
    field(page, "The beam starts beside the edge by", "2")
    expect(page.get_by_label("The beam starts beside the edge by")).to_have_value("2.0")
    for tick in (
        page.get_by_label(re.compile("answer for cutting it all the same")),
        page.get_by_label("I have read these"),
    ):
        if tick.count():
            tick.click()
    with page.expect_download() as getting:
        page.get_by_role("link", name="Make the files").click()
    archive = zipfile.ZipFile(Path(getting.value.path()))
    return {n: archive.read(n) for n in archive.namelist()}


def nothing_lies_in_a_door() -> None:
    """No part lies in an opening whose piece is a part, and what falls out is not laid again."""
    project = Project.objects.get(name=NAME)
    nesting = NESTING.validate_python(project.results.get(stage="lay-out").payload["nesting"])
    parts = {p.id: p for p in now().assembly.parts}
    assert not [p.part for sheet in nesting.sheets for p in sheet.placements if parts[p.part].falls_from]
    whole = {k: NestPart(id=k, stock=p.stock, profile=Profile(outer=p.profile.outer)) for k, p in parts.items()}  # openings filled
    for sheet in nesting.sheets:
        lying = [placed_shape(whole[p.part], p) for p in sheet.placements]
        assert not [1 for one, two in combinations(lying, 2) if one.intersection(two).area > 0.01]


def whole_circles_are_cut(files: dict[str, bytes]) -> None:
    """With a lead-in too, each round hole is burned all the way round: lines that end where they began, or whole circles."""
    drawings = [ezdxf.read(io.StringIO(data.decode())).modelspace() for name, data in files.items() if name.endswith(".dxf")]
    long = [e for space in drawings for e in space.query("LWPOLYLINE") if any(abs(b) > 0.9 for *_, b in e.get_points("xyb"))]
    assert not [b for e in long for *_, b in e.get_points("xyb") if abs(b) > 1.001]  # no arc of more than half a turn, none of nothing


def undo_brings_the_layout_back(page: Page) -> None:
    """Something else is tried and packed; undone, the layout and the plan are there again."""
    station(page, "Build")
    page.get_by_role("button", name="Sizes and stocks").click()
    field(page, "Height", "70")
    saved(page, 13)
    station(page, "Lay out")
    strip = page.get_by_role("navigation", name="Stations").get_by_role("button")
    expect(strip.nth(3)).to_contain_text("changed since")
    page.get_by_role("button", name=re.compile("^Pack (again|the parts)")).click()
    expect(strip.nth(3)).to_contain_text(re.compile(r"sheets?, \d+"))
    page.keyboard.press("Control+z")
    expect(page.get_by_test_id("revision")).to_contain_text("revision 12")
    station(page, "Cut plan")
    expect(page.get_by_role("link", name="Make the files")).to_be_visible()
