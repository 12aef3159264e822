"""The run sheet: one page for each sheet of the job, to lie beside the machine."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from notchcore.design.sizes import Pinned
from notchcore.findings import Finding, Severity
from notchcore.formats.cutlist import CutListRow
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.typeface import BOLD, SLANTED, TEXT, a4_pages
from notchcore.geom.contours import Contour, sampled
from notchcore.geom.profile import bounds_of
from notchcore.measure.families import FAMILIES
from notchcore.measure.machine import Operation, Settings
from notchcore.measure.stock import Stock
from notchcore.plan.cutplan import Stroke
from notchcore.plan.swap import PartTurn

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

CHECKLIST = (
    "Right sheet, measured thickness agrees",
    "Flat: weights outside the head's path",
    "Focus set, lens clean",
    "Extraction and air assist on, lid shut",
    "Extinguisher at hand; nobody leaves while it runs",
)
PINS_MOST = 12
AWAY = 1.0  # [mm] a part that moves less is turned over where it lies
RULES_NOTE = "Your local rules and the machine's maker come before anything on this page."


@dataclass(frozen=True, slots=True, kw_only=True)
class RunSheet:
    """Everything that the pages show."""

    files: tuple[SheetFile, ...]
    stocks: dict[str, Stock]
    settings: dict[str, Settings]
    rows: tuple[CutListRow, ...]
    findings: tuple[Finding, ...]
    seconds: float
    band: float
    pinned: tuple[Pinned, ...] = ()
    bare: tuple[str, ...] = ()  #: stocks whose film is taken off first


def clock(seconds: float) -> str:
    """Return seconds as minutes and seconds, or hours and minutes from an hour on."""
    whole = round(seconds)
    if whole < 3600:
        return f"{whole // 60}:{whole % 60:02d} min"
    return f"{whole // 3600}:{whole % 3600 // 60:02d} h"


def run_sheet_pdf(sheet: RunSheet) -> bytes:
    """Return the run sheet as PDF, A4: map of the sheet, settings, checklist, cautions, cut list."""
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm
    from reportlab.lib.utils import simpleSplit

    out = io.BytesIO()
    page = a4_pages(out)
    page.setTitle(sheet.files[0].project + ", run sheet")
    width, height = A4
    for file in sheet.files:
        plan, settings = file.plan, sheet.settings[file.plan.stock]
        stock = sheet.stocks[plan.stock]
        y = height - 18 * mm
        page.setFont(BOLD, 15)
        page.drawString(18 * mm, y, file.project)
        page.setFont(TEXT, 9)
        page.drawRightString(width - 18 * mm, y, f"revision {file.revision} · {file.which}")
        y -= 6 * mm
        page.drawString(
            18 * mm, y, f"{plan.name} · {plan.width:.0f} × {plan.height:.0f} mm · measured {stock.t:.2f} ± {stock.thickness.sd:.2f} mm · {file.machine.name}"
        )
        for line in simpleSplit(file.statement, TEXT, 9, width - 36 * mm):
            y -= 5 * mm
            page.drawString(18 * mm, y, line)
        scale = min((width - 36 * mm) / plan.width, 105 * mm / plan.height)
        y -= 4 * mm + plan.height * scale
        page.saveState()
        page.translate(18 * mm, y)
        page.setLineWidth(0.6)
        page.rect(0, 0, plan.width * scale, plan.height * scale)
        _draw_map(page, file, scale, [r for r in sheet.rows if r.sheet == plan.number])
        page.restoreState()
        y -= 9 * mm
        y = _columns(page, y, width, file, settings, sheet, stock)
        y = _pinned(page, y, sheet, {s.path.part for s in plan.strokes})
        _table(page, y, [r for r in sheet.rows if r.sheet == plan.number])
        page.setFont(SLANTED, 8)
        page.drawString(18 * mm, 15 * mm, FAMILIES[stock.family].caution)
        page.drawString(18 * mm, 11 * mm, RULES_NOTE)
        page.showPage()
    page.save()
    return out.getvalue()


def _draw_line(page: Canvas, stroke: Stroke, contour: Contour, scale: float) -> None:
    points = sampled(contour, sag=0.2)
    line = page.beginPath()
    line.moveTo(points[0][0] * scale, points[0][1] * scale)
    for x, y in points[1:]:
        line.lineTo(x * scale, y * scale)
    if contour.closed:
        line.close()
    page.setLineWidth(0.7 if stroke.path.operation is Operation.OUTER else 0.35)
    page.setDash([2, 2] if stroke.path.operation is Operation.SCORE else [])
    page.drawPath(line)


def _draw_map(page: Canvas, file: SheetFile, scale: float, rows: list[CutListRow]) -> None:
    placed: dict[str, tuple[float, float, float, float]] = {}
    for stroke in file.plan.strokes:
        for contour in stroke.path.contours:
            _draw_line(page, stroke, contour, scale)
        points = sampled(stroke.path.contour, sag=0.2)
        key = f"{stroke.path.part}.{stroke.path.copy}"
        if stroke.path.operation is Operation.OUTER or key not in placed:
            placed[key] = bounds_of(points)
        if stroke.path.frees:
            placed[stroke.path.frees] = bounds_of(points)
    page.setDash([])
    page.setFont(BOLD, 9)
    page.setLineWidth(0.25)
    for ring in file.plan.outlines:
        outline = page.beginPath()
        outline.moveTo(ring[0][0] * scale, ring[0][1] * scale)
        for x, y in ring[1:]:
            outline.lineTo(x * scale, y * scale)
        outline.close()
        page.drawPath(outline)
    for mark in file.plan.lay.marks:
        page.circle(mark[0] * scale, mark[1] * scale, 2.2)
    for turn in file.plan.lay.turns:
        _turn_arrow(page, turn, scale)
    for row in (r for r in rows if r.placement in placed):
        x0, y0, x1, y1 = placed[row.placement]
        if file.plan.lay.turns:  # the number stands on the line that its part is turned about
            page.setFillGray(1)
            page.circle((x0 + x1) / 2 * scale, (y0 + y1) / 2 * scale, 6, stroke=0, fill=1)
            page.setFillGray(0)
        page.drawCentredString((x0 + x1) / 2 * scale, (y0 + y1) / 2 * scale - 3, row.mark)


def _turn_arrow(page: Canvas, turn: PartTurn, scale: float) -> None:
    """Draw how a part is turned over: the line it is turned about, and the way to its hole where that is another's."""
    (x0, y0), (x1, y1) = ((x * scale, y * scale) for x, y in (turn.start, turn.end))
    page.saveState()
    page.setStrokeGray(0.35)
    page.setLineWidth(0.7)
    if math.dist(turn.start, turn.end) > AWAY:
        path, bend = page.beginPath(), ((x0 + x1) / 2 - (y1 - y0) / 6, (y0 + y1) / 2 + (x1 - x0) / 6)
        path.moveTo(x0, y0)
        path.curveTo(*bend, *bend, x1, y1)
        page.drawPath(path)
        page.circle(x0, y0, 1.6)
    page.translate(x1, y1)
    page.rotate(math.degrees(math.atan2(turn.move.axis[1], turn.move.axis[0])))
    page.setDash([3, 2])
    page.line(-18, 0, 18, 0)
    page.setDash([])
    over = page.beginPath()
    over.moveTo(10, -7)
    over.curveTo(17, -5, 17, 5, 10, 7)
    over.moveTo(13.5, 7.5)
    over.lineTo(10, 7)
    over.lineTo(11.5, 3.8)
    page.drawPath(over)
    page.restoreState()


def _columns(page: Canvas, y: float, width: float, file: SheetFile, settings: Settings, sheet: RunSheet, stock: Stock) -> float:
    from reportlab.lib.units import mm
    from reportlab.lib.utils import simpleSplit

    operations = {s.path.operation for s in file.plan.strokes if s.path.beam is None}
    beams = [("Engrave", settings.engrave, Operation.ENGRAVE), ("Score", settings.score, Operation.SCORE), ("Cut", settings.cut, Operation.OUTER)]
    left = [
        *(f"{name} {beam.words}{'' if beam.air else ' · air off'}" for name, beam, operation in beams if operation in operations),
        *(["Squares have settings of their own: see their layers"] if any(s.path.beam for s in file.plan.strokes) else []),
        f"Settings: {settings.source}",
        *([f"Film {'off the face that is burned' if stock.id in sheet.bare else 'left on'}"] if stock.film else []),
        f"Kerf {stock.kerf.value:.3f} ± {stock.kerf.sd:.3f} mm ({stock.kerf.terms[0].source})",
        f"This sheet {clock(file.plan.seconds)} · whole job {clock(sheet.seconds)} ± {clock(sheet.band)}",
    ]
    notes = [f.message for f in sheet.findings if f.severity is not Severity.FINE][:4]
    page.setFont(BOLD, 10)
    page.drawString(18 * mm, y, "At the machine")
    page.drawString(110 * mm, y, "Tick before starting")
    page.setFont(TEXT, 9)
    for i, text in enumerate(left):
        page.drawString(18 * mm, y - (i + 1) * 5 * mm, text)
    for i, text in enumerate(CHECKLIST):
        page.rect(110 * mm, y - (i + 1) * 5 * mm - 0.5, 7, 7)
        page.drawString(114 * mm, y - (i + 1) * 5 * mm, text)
    y -= 7 * 5 * mm
    page.setFont(TEXT, 8)
    for note in notes:
        for line in simpleSplit(f"! {note}", TEXT, 8, width - 36 * mm):
            page.drawString(18 * mm, y, line)
            y -= 4 * mm
    return float(y - 4 * mm)


def _pinned(page: Canvas, y: float, sheet: RunSheet, parts: set[str]) -> float:
    """Write the sizes that a person pinned, to be held against the caliper."""
    from reportlab.lib.units import mm

    some = [p for p in sheet.pinned if p.pin.part in parts][:PINS_MOST]
    if not some:
        return y
    page.setFont(BOLD, 9)
    page.drawString(18 * mm, y, "Measure these")
    page.drawString(100 * mm, y, "Finished mm")
    page.drawString(140 * mm, y, "Drawn mm")
    page.setFont(TEXT, 9)
    for p in some:
        y -= 4.6 * mm
        page.drawString(18 * mm, y, f"{p.part_label}, {p.label}")
        page.drawRightString(120 * mm, y, f"{p.finished:.2f}")
        page.drawRightString(157 * mm, y, f"{p.drawn:.2f}")
    return float(y - 8 * mm)


def _table(page: Canvas, y: float, rows: list[CutListRow]) -> None:
    from reportlab.lib.units import mm

    page.setFont(BOLD, 9)
    for x, head in ((18, "Mark"), (32, "Part"), (100, "Width mm"), (125, "Height mm"), (150, "Thickness mm")):
        page.drawString(x * mm, y, head)
    page.setFont(TEXT, 9)
    for row in rows:
        y -= 4.6 * mm
        if y < 20 * mm:
            page.drawString(18 * mm, y, "… see the CSV cut list for the rest")
            return
        page.drawString(18 * mm, y, row.mark)
        page.drawString(32 * mm, y, row.part)
        for x, value in ((118, row.width), (145, row.height), (172, row.thickness)):
            page.drawRightString(x * mm, y, f"{value:.2f}")
