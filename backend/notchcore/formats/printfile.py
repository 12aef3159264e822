"""What is printed on a sheet before it is cut: artwork in black and the marks by which the cut finds it, true to scale."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from notchcore.formats.sheetfile import SheetFile
from notchcore.geom.contours import sampled
from notchcore.plan.cut_plan import SheetPlan
from notchcore.plan.raster import photo_dots
from notchcore.plan.registration import RADIUS
from notchcore.trace.photo import dots_png
from notchcore.units import Mm

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

SAG: Mm = 0.02
DOT: Mm = 0.1  # of a printed picture


def _artwork(page: Canvas, plan: SheetPlan, *, file: SheetFile, mm: float) -> None:
    from reportlab.lib.utils import ImageReader

    for path in plan.printed:
        if path.photo is not None:
            dots = photo_dots(path, DOT, images=file.images)
            rows, columns = dots.burned.shape
            image = ImageReader(io.BytesIO(dots_png(dots, "#000000")))
            page.drawImage(image, dots.at[0] * mm, dots.at[1] * mm, columns * dots.pitch * mm, rows * dots.pitch * mm, mask="auto")
            continue
        points = sampled(path.contour, sag=SAG)
        area = page.beginPath()
        area.moveTo(points[0][0] * mm, points[0][1] * mm)
        for x, y in points[1:]:
            area.lineTo(x * mm, y * mm)
        area.close()
        page.drawPath(area, stroke=0, fill=1)


def print_pdf(file: SheetFile) -> bytes:
    """Return a page as large as the sheet, to be printed at 100 %: what is not burned but printed, and a black ring with a dot for each mark."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    plan = file.plan
    out = io.BytesIO()
    page = Canvas(out, pagesize=(plan.width * mm, plan.height * mm), invariant=1)
    page.setTitle(f"{file.title}: to be printed at 100 %")
    _artwork(page, plan, file=file, mm=mm)
    for x, y in plan.lay.marks:
        page.setLineWidth(0.4 * mm)
        page.circle(x * mm, y * mm, RADIUS * mm)
        page.circle(x * mm, y * mm, 0.25 * mm, stroke=0, fill=1)
    page.showPage()
    page.save()
    return out.getvalue()
