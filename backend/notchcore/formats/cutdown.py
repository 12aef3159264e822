"""The cut-down plan as a page for beside the saw: the board with its cuts in order, and what each is set to."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from notchcore.formats.typeface import BOLD, SLANTED, TEXT, a4_pages
from notchcore.nest.cutdown import CutDown
from notchcore.units import shown, unit_name
from notchcore.words.language import called

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

CAUTION = (
    "Saws injure. Use guards, push sticks and a helper for large boards, keep hands off the line of the blade, wear eye and ear protection. "
    "Your local rules and a qualified person come first."
)


def _cuts(page: Canvas, plan: CutDown, *, x: float, y: float, k: float) -> None:
    """Draw the saw's cuts, numbered in their order, on a board whose corner is at (x, y) [points], k points a millimetre."""
    for number, c in enumerate(plan.cuts, start=1):
        page.setLineWidth(max(plan.saw * k, 0.6))
        page.setStrokeGray(0.35)
        page.line(x + c.x0 * k, y + c.y0 * k, x + c.x1 * k, y + c.y1 * k)
        page.setFillGray(0)
        page.circle(x + c.x0 * k, y + c.y0 * k, 7, fill=1, stroke=0)
        page.setFillGray(1)
        page.setFont(BOLD, 8)
        page.drawCentredString(x + c.x0 * k, y + c.y0 * k - 3, str(number))
        page.setFillGray(0)


def cut_down_pdf(plan: CutDown, *, title: str, sheets: int, unit: str = "mm") -> bytes:
    """Return the plan as PDF, one page of A4, in its reader's unit."""
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm
    from reportlab.lib.utils import simpleSplit

    def say(length: float) -> str:
        return shown(length, unit)

    name = unit_name(unit)
    out = io.BytesIO()
    page = a4_pages(out)
    page.setTitle(called("{title}, cut down", title=title))
    width, height = A4
    page.setFont(BOLD, 14)
    page.drawString(18 * mm, height - 18 * mm, called("{title}: cut down, {boards} boards" if sheets > 1 else "{title}: cut down", title=title, boards=sheets))
    page.setFont(TEXT, 9)
    size, saw = f"{say(plan.width)} x {say(plan.height)} {name}", f"{say(plan.saw)} {name}"
    page.drawString(18 * mm, height - 24 * mm, called("{size}, saw kerf {saw}, waste {waste}", size=size, saw=saw, waste=f"{plan.waste:.1%}"))
    k = min((width - 36 * mm) / plan.width, 120 * mm / plan.height)
    x, y = 18 * mm, height - 32 * mm - plan.height * k
    page.setLineWidth(0.8)
    page.rect(x, y, plan.width * k, plan.height * k)
    page.setFont(TEXT, 8)
    for b in plan.blanks:
        size = f"{say(b.width)} x {say(b.height)}{called(' turned') if b.turned else ''}"
        page.drawCentredString(x + (b.x + b.width / 2) * k, y + (b.y + b.height / 2) * k - 3, size)
    _cuts(page, plan, x=x, y=y, k=k)
    _told(page, plan, unit=unit, y=y - 14 * mm)
    page.setFont(SLANTED, 8)
    for i, line in enumerate(simpleSplit(called(CAUTION), SLANTED, 8, width - 36 * mm)):
        page.drawString(18 * mm, 20 * mm - i * 10, line)
    page.showPage()
    page.save()
    return out.getvalue()


def _told(page: Canvas, plan: CutDown, *, unit: str, y: float) -> None:
    """Write the cuts one under the other, on as many pages as they need."""
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm

    page.setFont(TEXT, 10)
    for number, c in enumerate(plan.cuts, start=1):
        stop, length = (f"{shown(v, unit)} {unit_name(unit)}" for v in (c.stop, abs(c.x1 - c.x0) + abs(c.y1 - c.y0)))
        way = called("up the board" if c.x0 == c.x1 else "across the board")
        page.drawString(18 * mm, y, called("{number}.  Stop at {stop}, cut {length} {way}", number=number, stop=stop, length=length, way=way))
        y -= 6 * mm
        if y < 34 * mm:
            page.showPage()
            y = A4[1] - 24 * mm
            page.setFont(TEXT, 10)
