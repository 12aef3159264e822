"""PDF for a sheet: vectors at true scale on a page as large as the sheet, in the colours and line widths of the machine's convention.

A page knows no arcs: each becomes cubic curves of a sixteenth turn at most, which leave the circle by less than a ten-millionth of its radius.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from typing import TYPE_CHECKING

from notchcore.formats.sheetfile import Layer, SheetFile, layers_of
from notchcore.geom.contours import Contour, Segment
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.raster import photo_dots
from notchcore.trace.photo import dots_png
from notchcore.words.render import plain

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

LONGEST = math.pi / 8  # turn of the longest arc that one curve stands for: off by 2/27 sin^6(a/4) / cos^2(a/4) of its radius


def curves(s: Segment) -> Iterator[tuple[Vec2, Vec2, Vec2]]:
    """Yield an arc as cubic curves: two handles and an end each. The handles lie 4/3 tan(a/4) radii along the tangents, a being the turn of the curve."""
    assert s.centre is not None
    count = max(1, math.ceil(abs(s.sweep) / LONGEST - 1e-9))
    step = s.sweep / count
    handle = 4 / 3 * math.tan(step / 4) * s.radius
    a = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
    cx, cy = s.centre
    for k in range(count):
        b = a + step
        p = cx + s.radius * math.cos(a) - handle * math.sin(a), cy + s.radius * math.sin(a) + handle * math.cos(a)
        end = s.end if k == count - 1 else (cx + s.radius * math.cos(b), cy + s.radius * math.sin(b))
        q = cx + s.radius * math.cos(b) + handle * math.sin(b), cy + s.radius * math.sin(b) - handle * math.cos(b)
        yield p, q, end
        a = b


def _line(page: Canvas, contour: Contour, *, mm: float, filled: bool) -> None:
    path = page.beginPath()
    path.moveTo(contour.segments[0].start[0] * mm, contour.segments[0].start[1] * mm)
    for s in contour.segments:
        if s.centre is None:
            path.lineTo(s.end[0] * mm, s.end[1] * mm)
            continue
        for p, q, end in curves(s):
            path.curveTo(p[0] * mm, p[1] * mm, q[0] * mm, q[1] * mm, end[0] * mm, end[1] * mm)
    if contour.closed:
        path.close()
    page.drawPath(path, stroke=0 if filled else 1, fill=1 if filled else 0)


def _layer(page: Canvas, layer: Layer, *, file: SheetFile, mm: float) -> None:
    from reportlab.lib.colors import HexColor
    from reportlab.lib.utils import ImageReader

    filled = layer.operation is Operation.ENGRAVE
    colour = HexColor(layer.convention.colour)
    page.setFillColor(colour)
    page.setStrokeColor(colour)
    page.setLineWidth(layer.convention.line_width * mm)
    for stroke in layer.strokes:
        if stroke.path.photo is None:
            for contour in stroke.path.lines:
                _line(page, contour, mm=mm, filled=filled)
            continue
        dots = photo_dots(stroke.path, stroke.interval, images=file.images)
        rows, columns = dots.burned.shape
        image = ImageReader(io.BytesIO(dots_png(dots, "#000000")))
        page.drawImage(image, dots.at[0] * mm, dots.at[1] * mm, columns * dots.pitch * mm, rows * dots.pitch * mm, mask="auto")


def sheet_pdf(file: SheetFile) -> bytes:
    """Return a sheet as PDF, one page at 1:1; title and subject say scale, kerf and revision.

    Raises:
        PlanError: the image of a photo is missing
    """
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    page = Canvas(out, pagesize=(file.plan.width * mm, file.plan.height * mm), invariant=1, pageCompression=1)
    page.setTitle(file.title)
    page.setSubject(plain(file.statement))
    for layer in layers_of(file):
        _layer(page, layer, file=file, mm=mm)
    page.showPage()
    page.save()
    return out.getvalue()
