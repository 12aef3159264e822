"""Drawings from files: a figure of one's own, artwork on a panel, heights for a hill; and files that are none."""

from __future__ import annotations

import io
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from apps.designs.models import Project
from apps.designs.queries import current
from notchcore.measure.machine import Operation
from steps import field, station, told

LEAF = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 80"><path stroke="green" d="M50 0C90 10 100 50 50 80C0 50 10 10 50 0Z"/>'
    '<path stroke="red" d="M50 5L50 70"/></svg>'
)


def test_a_figure_and_its_decoration_come_from_files(loud_page: Page, tmp_path: Path) -> None:
    page = loud_page
    leaf, broken = tmp_path / "leaf.svg", tmp_path / "broken.dxf"
    leaf.write_text(LEAF)
    broken.write_text("not a drawing at all")
    page.get_by_role("button", name="Stall name board").click()
    station(page, "Build")
    page.get_by_role("button", name="Outline from a file").click()
    page.get_by_label("SVG, DXF, PNG or JPEG").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("neither SVG, DXF, PNG nor JPEG")
    page.get_by_label("SVG, DXF, PNG or JPEG").set_input_files(leaf)
    expect(page.get_by_text("The file does not say how large it is.")).to_be_visible()
    field(page, "Width: give it", "150")
    page.get_by_role("button", name="Take its outer line").click()
    expect(page.get_by_text("The figure has an outline of its own.")).to_be_visible()
    expect(page.get_by_label("Figure's width")).to_have_value("150.0")

    panels = page.get_by_role("navigation", name="Panels and meetings")
    panels.get_by_role("button", name="Base", exact=True).first.click()
    page.get_by_label("Add to Base").select_option("artwork")
    page.get_by_label("SVG, DXF, PNG or JPEG").set_input_files(leaf)
    page.get_by_role("button", name="mm", exact=True).click()
    field(page, "Width", "30")
    page.get_by_role("button", name="Put it on the panel").click()
    expect(page.get_by_label("red 1")).to_have_value("score")
    page.get_by_label("green 1").select_option(label="scored")
    field(page, "To the right", "-60")
    expect(page.get_by_test_id("revision")).to_contain_text("saved")
    base = current(Project.objects.select_related("machine", "shop").get(name="Stall name board")).assembly.part("base")
    assert [m.operation for m in base.marks] == [Operation.SCORE] * 2
    xs = [x for m in base.marks for x, _ in m.line]
    assert round(max(xs) - min(xs), 3) == 30.0
    assert round((max(xs) + min(xs)) / 2, 3) == -60.0
    assert "joint" in told(page, "Build")


def test_a_hill_takes_its_heights_from_a_grey_image(page: Page, tmp_path: Path) -> None:
    out = io.BytesIO()
    Image.radial_gradient("L").resize((90, 60)).save(out, "PNG")
    (tmp_path / "hill.png").write_bytes(out.getvalue())
    page.get_by_role("button", name="Contour hill").click()
    station(page, "Build")
    page.get_by_label("in images, dark is high").check()
    page.get_by_label("Heights from a grey image or an STL solid").set_input_files(tmp_path / "hill.png")
    expect(page.get_by_text("The heights come from a file; the formula waits.")).to_be_visible()
    page.get_by_role("button", name="Back to the formula").click()
    expect(page.get_by_label("Heights from a grey image or an STL solid")).to_be_visible()
