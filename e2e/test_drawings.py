"""Drawings from files: a figure of one's own, artwork on a panel, heights for a hill; and files that are none."""

from __future__ import annotations

import io
from pathlib import Path
from random import Random

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from apps.designs.models import Project
from apps.designs.queries import current
from notchcore.formats.svgin import read_svg
from notchcore.measure.machine import Operation
from steps import field, station, told

REACH = """(source) => {
    document.body.innerHTML = source;
    const root = document.querySelector('svg'), back = root.getScreenCTM().inverse(), xs = [], ys = [];
    for (const e of root.querySelectorAll('path, rect, ellipse, polygon')) {
        const m = back.multiply(e.getScreenCTM()), length = e.getTotalLength();
        for (let i = 0; i <= 1500; i++) {
            const p = e.getPointAtLength((length * i) / 1500).matrixTransform(m);
            xs.push(p.x); ys.push(p.y);
        }
    }
    return [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
}"""
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

    panels = page.get_by_role("navigation", name="Panels and joints")
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


def _drawn(random: Random, depth: int = 0) -> str:
    """Return shapes, groups and frames in each other, all placed at random."""

    def some(kind: str, count: int, low: float = -50, high: float = 50) -> str:
        return f"{kind}{' '.join(str(round(random.uniform(low, high), 2)) for _ in range(count))}"

    def placed() -> str:
        ways = (
            some("matrix(", 6, -2, 2),
            some("rotate(", 3),
            some("scale(", 2, 0.2, 3),
            some("skewX(", 1, -40, 40),
            some("translate(", 2),
        )
        return f'transform="{random.choice(ways)})" stroke="red"'

    def box(low: float = 1) -> str:
        return " ".join(f'{k}="{round(random.uniform(low, 60), 2)}"' for k in ("width", "height", "rx", "ry"))

    shapes = (
        f"<rect {box()} {placed()}/>",
        f"<ellipse {box()} {placed()}/>",
        f'<polygon points="{some("", 6)}" {placed()}/>',
        f'<path d="{some("M", 2)}{some("c", 6)}{some("s", 4)}{some("q", 4)}{some("t", 2)}z" {placed()}/>',
        f'<path d="{some("M", 2)}{some("a", 3, 1, 60)} {random.choice(("01", "10", "11"))}{some(" ", 2)}" {placed()}/>',
    )
    found = "".join(random.sample(shapes, 2))
    if depth < 2:
        fit = random.choice(("xMidYMid", "xMinYMax meet", "xMaxYMin slice", "none"))
        frame = f'{box(10)} viewBox="{some("", 2)} {some("", 2, 10, 200)}" preserveAspectRatio="{fit}"'
        found += f"<g {placed()}>{_drawn(random, depth + 1)}</g><svg {frame}>{_drawn(random, depth + 1)}</svg>"
    return found


def test_a_drawing_is_as_large_as_the_browser_shows_it(browser: Browser) -> None:
    page = browser.new_page()
    page.set_content("<body></body>")
    for seed in range(15):
        source = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100">{_drawn(Random(seed))}</svg>'
        size = read_svg(source.encode()).size
        shown = page.evaluate(REACH, source)
        assert size == pytest.approx(shown, abs=2e-3 * max(shown)), source
    page.close()
