"""Sheets as PDF: read back by another library, and by another program where one is installed."""

from __future__ import annotations

import io
import math
import shutil
import subprocess
from pathlib import Path

import pytest
from pypdf import PdfReader
from pypdf.generic import ContentStream
from shapely.geometry import LineString, Polygon

from notchcore.formats.printfile import print_pdf
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.sheetpdf import curves, sheet_pdf
from notchcore.geom.contours import Segment, sampled
from notchcore.plan.choices import PlanChoices
from notchcore.plan.cut_plan import CutPlan
from tests.core.test_plan import MACHINE, job
from tests.core.test_sides import STAKE, TWO, a_part, laid, planned

MM = 72 / 25.4
Point = tuple[float, float]


def bezier(a: Point, p: Point, q: Point, b: Point, t: float) -> Point:
    u = 1 - t
    return tuple(u**3 * a[k] + 3 * u * u * t * p[k] + 3 * u * t * t * q[k] + t**3 * b[k] for k in (0, 1))  # type: ignore[return-value]


def read(data: bytes) -> list[tuple[list[Point], tuple[float, ...], float]]:
    """Return each path of the page: its points [mm], its colour, and its line width [mm]; curves by 64 points each."""
    page = PdfReader(io.BytesIO(data)).pages[0]
    content = ContentStream(page.get_contents(), page.pdf if hasattr(page, "pdf") else None)
    found: list[tuple[list[Point], tuple[float, ...], float]] = []
    points: list[Point] = []
    colour: tuple[float, ...] = ()
    width = 0.0
    for operands, operator in content.operations:
        n = [float(v) for v in operands if not isinstance(v, str)] if operator in (b"m", b"l", b"c", b"RG", b"w") else []
        if operator == b"m":
            points = [(n[0] / MM, n[1] / MM)]
        elif operator == b"l":
            points.append((n[0] / MM, n[1] / MM))
        elif operator == b"c":
            a, (p, q, b) = points[-1], [(n[k] / MM, n[k + 1] / MM) for k in (0, 2, 4)]
            points += [bezier(a, p, q, b, t / 64) for t in range(1, 65)]
        elif operator in (b"h", b"s"):
            points.append(points[0])
        elif operator == b"RG":
            colour = tuple(n)
        elif operator == b"w":
            width = n[0] / MM
        if operator in (b"S", b"s", b"f", b"f*", b"B"):
            found.append((points, colour, width))
    return found


@pytest.fixture(scope="module")
def plan() -> CutPlan:
    return job()[2]


def sheet_file(plan: CutPlan) -> SheetFile:
    return SheetFile(project="Seed packet drawer", revision=3, of=1, plan=plan.sheets[0], machine=MACHINE)


def test_the_page_is_the_sheet_and_its_lines_are_the_paths(plan: CutPlan) -> None:
    data = sheet_pdf(sheet_file(plan))
    reader = PdfReader(io.BytesIO(data))
    assert [float(v) / MM for v in reader.pages[0].mediabox[2:]] == pytest.approx([600, 400], abs=1e-3)
    assert reader.metadata is not None
    assert "Kerf 0.160 mm is corrected" in str(reader.metadata.subject)
    assert "revision 3" in str(reader.metadata.title)
    lines = [(points, width) for points, _, width in read(data)]
    strokes = [s for s in plan.sheets[0].strokes]
    assert len(lines) == len(strokes)
    for stroke in strokes:
        wanted = sampled(stroke.path.contour, sag=1e-4)
        whole = LineString([*wanted, wanted[0]] if stroke.path.contour.closed else wanted)
        assert any(LineString(points).hausdorff_distance(whole) < 2e-3 and LineString(points).buffer(3e-4).covers(whole) for points, _ in lines)
        convention = MACHINE.convention(stroke.path.operation)
        assert any(width == pytest.approx(convention.line_width, abs=1e-4) for _, width in lines)
    assert len({colour for _, colour, _ in read(data)}) == len({s.path.operation for s in strokes})


@pytest.mark.parametrize("turn", [0.3, 1.5, -2.0, 3.1, -6.0])
def test_curves_keep_to_their_circle(turn: float) -> None:
    radius, end = 40.0, (40 * math.cos(turn), 40 * math.sin(turn))
    s = Segment(start=(radius, 0.0), end=end, centre=(0.0, 0.0), radius=radius, ccw=turn > 0)
    at: Point = s.start
    for p, q, b in curves(s):
        assert all(math.dist(bezier(at, p, q, b, t / 20), (0, 0)) == pytest.approx(radius, abs=radius * 5e-6) for t in range(21))
        at = b
    assert at == end


def test_a_print_holds_the_artwork_and_three_marks() -> None:
    printed = planned([a_part(STAKE, back=False)], laid(*TWO), PlanChoices(printed=("ply",)))
    file = SheetFile(project="Row labels", revision=1, of=1, plan=printed.sheets[0], machine=MACHINE)
    shapes = [points for points, _, _ in read(print_pdf(file))]
    middles = [Polygon(points).centroid.coords[0] for points in shapes if len(points) > 30]
    for mark in printed.sheets[0].lay.marks:
        assert sum(math.dist(m, mark) < 0.05 for m in middles) >= 2  # a ring and its dot
    assert sum(len(points) == 4 for points in shapes) == 2  # the engraved corner of both labels


@pytest.mark.skipif(shutil.which("pdftocairo") is None, reason="poppler-utils is not installed")
def test_another_program_draws_the_page_with_ink_where_the_cuts_are(plan: CutPlan, tmp_path: Path) -> None:
    from PIL import Image

    (tmp_path / "sheet.pdf").write_bytes(sheet_pdf(sheet_file(plan)))
    subprocess.run(["pdftocairo", "-png", "-singlefile", "-r", "254", str(tmp_path / "sheet.pdf"), str(tmp_path / "sheet")], check=True, timeout=60)
    with Image.open(tmp_path / "sheet.png") as drawn:
        assert drawn.size == (6000, 4000)  # ten dots a millimetre
        grey = drawn.convert("L")
        for stroke in plan.sheets[0].strokes:
            for x, y in sampled(stroke.path.contour)[:3]:
                box = grey.crop((round(x * 10) - 2, 4000 - round(y * 10) - 2, round(x * 10) + 3, 4000 - round(y * 10) + 3))
                assert box.getextrema()[0] < 200
