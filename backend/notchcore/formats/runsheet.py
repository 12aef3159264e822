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
from notchcore.ids import CopyId
from notchcore.measure.machine import Operation, Settings
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import Stock
from notchcore.measure.thickness import how_known
from notchcore.plan.cut_plan import Stroke
from notchcore.plan.swap import PartTurn
from notchcore.units import clock, shown, unit_name
from notchcore.words.facts import Sentence
from notchcore.words.language import called
from notchcore.words.render import plain, say

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
MM = 72 / 25.4  # points
A4_MM = (210.0, 297.0)
FOOT = 24.0  # [mm] kept free for the cautions
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
    overruled: Sentence | None = None  #: who said that it is cut although something was found, and what
    bare: tuple[str, ...] = ()  #: stocks whose film is taken off first
    unit: str = "mm"  #: that its reader reads

    def length(self, mm: float, *, fine: bool = False) -> str:
        return shown(mm, self.unit, fine=fine)

    @property
    def name(self) -> str:
        return unit_name(self.unit)


def run_sheet_pdf(sheet: RunSheet) -> bytes:
    """Return the run sheet as PDF, A4, in its reader's unit: map of the sheet, settings, checklist, cautions, cut list."""
    out = io.BytesIO()
    page = a4_pages(out)
    page.setTitle(called("{project}, run sheet", project=sheet.files[0].project))
    for file in sheet.files:
        flow = _Flow(page, file, sheet)
        flow.head()
        flow.map()
        flow.columns()
        flow.notes()
        flow.pinned()
        flow.table()
        flow.end()
    page.save()
    return out.getvalue()


class _Flow:
    """One run on as many pages as it takes, written from the top down: nothing is printed over anything else."""

    def __init__(self, page: Canvas, file: SheetFile, sheet: RunSheet) -> None:
        self.page, self.file, self.sheet = page, file, sheet
        self.stock = sheet.stocks[file.plan.stock]
        self.width, self.height = A4_MM
        self.y = self.height - 18

    def text(self, x: float, text: str, *, font: str = TEXT, size: float = 9, right: bool = False) -> None:
        self.page.setFont(font, size)
        (self.page.drawRightString if right else self.page.drawString)(x * MM, self.y * MM, text)

    def wrapped(self, x: float, text: str, *, room: float, font: str = TEXT, size: float = 9, step: float = 4.6) -> None:
        from reportlab.lib.utils import simpleSplit

        for line in simpleSplit(text, font, size, room * MM):
            self.room(step)
            self.y -= step
            self.text(x, line, font=font, size=size)

    def room(self, needed: float) -> None:
        """Go on on a new page where this one has no room for so much more [mm]."""
        if self.y - needed < FOOT:
            self.end()
            self.y = self.height - 18
            self.head()

    def head(self) -> None:
        file = self.file
        self.text(18, file.project, font=BOLD, size=15)
        self.text(self.width - 18, called("revision {revision} · {which}", revision=file.revision, which=file.which), right=True)

    def map(self) -> None:
        plan, t, sheet = self.file.plan, self.stock.thickness, self.sheet
        size = f"{sheet.length(plan.width)} × {sheet.length(plan.height)} {sheet.name}"
        known = say(f"known.{how_known(t.terms[0])}").text
        measured = f"{known} {sheet.length(t.value, fine=True)} ± {sheet.length(t.sd, fine=True)} {sheet.name}"
        self.y -= 1
        self.wrapped(18, f"{plan.name} · {size} · {measured} · {self.file.machine.name}", room=self.width - 36)
        self.wrapped(18, plain(self.file.statement, sheet.unit), room=self.width - 36)
        scale = min((self.width - 36) * MM / plan.width, 105 * MM / plan.height)
        self.y -= 4 + plan.height * scale / MM
        self.page.saveState()
        self.page.translate(18 * MM, self.y * MM)
        self.page.setLineWidth(0.6)
        self.page.rect(0, 0, plan.width * scale, plan.height * scale)
        _draw_map(self.page, self.file, scale=scale, rows=[r for r in self.sheet.rows if r.sheet == plan.number])
        self.page.restoreState()
        self.y -= 9

    def columns(self) -> None:
        top = self.y
        self.text(18, "At the machine", font=BOLD, size=10)
        for text in _at_the_machine(self.file, self.sheet, stock=self.stock):
            self.wrapped(18, text, room=88)
        left, self.y = self.y, top
        self.text(112, "Tick before starting", font=BOLD, size=10)
        for text in map(called, CHECKLIST):
            self.page.rect(112 * MM, (self.y - 5) * MM - 0.5, 7, 7)
            self.wrapped(116, text, room=self.width - 134, step=5)
        self.y = min(left, self.y) - 6

    def notes(self) -> None:
        notes = [self.sheet.overruled] if self.sheet.overruled else []
        notes += [f.says for f in self.sheet.findings if f.severity is not Severity.FINE][:4]
        for note in notes:
            self.wrapped(18, f"! {plain(note, self.sheet.unit)}", room=self.width - 36, size=8, step=4)
        self.y -= 5 if notes else 0

    def pinned(self) -> None:
        """Write the sizes that a person pinned, to be held against the caliper."""
        parts = {s.path.part for s in self.file.plan.strokes}
        some = [p for p in self.sheet.pinned if p.pin.part in parts][:PINS_MOST]
        if not some:
            return
        self.room(12)
        for x, text in (
            (18, called("Measure these")),
            (100, called("Finished {unit}", unit=self.sheet.name)),
            (140, called("Drawn {unit}", unit=self.sheet.name)),
        ):
            self.text(x, text, font=BOLD)
        for p in some:
            self.room(4.6)
            self.y -= 4.6
            self.text(18, f"{p.part_label}, {p.label}")
            self.text(120, self.sheet.length(p.finished, fine=True), right=True)
            self.text(157, self.sheet.length(p.drawn, fine=True), right=True)
        self.y -= 8

    def table(self) -> None:
        self.room(12)
        name = self.sheet.name
        for x, text in ((18, "Mark"), (32, "Part"), (100, "Width {unit}"), (125, "Height {unit}"), (150, "Thickness {unit}")):
            self.text(x, called(text, unit=name), font=BOLD)
        for row in (r for r in self.sheet.rows if r.sheet == self.file.plan.number):
            self.room(4.6)
            self.y -= 4.6
            self.text(18, row.mark)
            self.text(32, row.part + (called(" (falls from {part})", part=row.falls_from) if row.falls_from else ""))
            for x, value in ((118, row.width), (145, row.height), (172, row.thickness)):
                self.text(x, self.sheet.length(value, fine=True), right=True)

    def end(self) -> None:
        self.page.setFont(SLANTED, 8)
        self.page.drawString(18 * MM, 15 * MM, MATERIALS[self.stock.material].caution)
        self.page.drawString(18 * MM, 11 * MM, called(RULES_NOTE))
        self.page.showPage()


def _at_the_machine(file: SheetFile, sheet: RunSheet, *, stock: Stock) -> list[str]:
    settings = sheet.settings[file.plan.stock]
    operations = {s.path.operation for s in file.plan.strokes if s.path.beam is None}
    beams = [("Engrave", settings.engrave, Operation.ENGRAVE), ("Score", settings.score, Operation.SCORE), ("Cut", settings.cut, Operation.OUTER)]
    first = stock.kerf.terms[0]
    source = plain(first.source, sheet.unit) if first.source else ""
    mine, off = (f"{v:.3f}" if sheet.unit == "mm" else sheet.length(v, fine=True) for v in (stock.kerf.value, stock.kerf.sd))
    return [
        *(f"{called(name)} {beam.told(sheet.unit)}{'' if beam.air else called(' · air off')}" for name, beam, operation in beams if operation in operations),
        *([called("Squares have settings of their own: see their layers")] if any(s.path.beam for s in file.plan.strokes) else []),
        called("Settings: {source}", source=settings.source),
        *([called("Film off the face that is burned" if stock.id in sheet.bare else "Film left on")] if stock.film else []),
        called("Kerf {width} ± {off} {unit} ({source})", width=mine, off=off, unit=sheet.name, source=source),
        called("This sheet {sheet} · whole job {job} ± {band}", sheet=clock(file.plan.seconds), job=clock(sheet.seconds), band=clock(sheet.band)),
    ]


def _draw_line(page: Canvas, stroke: Stroke, *, contour: Contour, scale: float) -> None:
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


def _draw_map(page: Canvas, file: SheetFile, *, scale: float, rows: list[CutListRow]) -> None:
    placed: dict[str, tuple[float, float, float, float]] = {}
    for stroke in file.plan.strokes:
        for contour in stroke.path.contours:
            _draw_line(page, stroke, contour=contour, scale=scale)
        points = sampled(stroke.path.contour, sag=0.2)
        key = str(CopyId(stroke.path.part, stroke.path.copy))
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
        _turn_arrow(page, turn, scale=scale)
    for row in (r for r in rows if r.placement in placed):
        x0, y0, x1, y1 = placed[row.placement]
        if file.plan.lay.turns:  # the number stands on the line that its part is turned about
            page.setFillGray(1)
            page.circle((x0 + x1) / 2 * scale, (y0 + y1) / 2 * scale, 6, stroke=0, fill=1)
            page.setFillGray(0)
        page.drawCentredString((x0 + x1) / 2 * scale, (y0 + y1) / 2 * scale - 3, row.mark)


def _turn_arrow(page: Canvas, turn: PartTurn, *, scale: float) -> None:
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
