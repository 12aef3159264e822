"""Boards that are larger than the bed: cut down to blanks by saw."""

from __future__ import annotations

from django.db import transaction

from apps.sheets.models import Sheet
from notchcore.errors import MeasureError
from notchcore.measure.machine import Machine
from notchcore.nest.cutdown import CutDown, cut_down
from notchcore.words.render import say

OTHER_WAY = {"along": "across", "across": "along"}  # grain of a blank that lies turned


def cut_down_of(sheet: Sheet, machine: Machine, *, saw_mm: float) -> CutDown:
    """Return how a board is cut into blanks for a machine's bed.

    Raises:
        MeasureError: it has an odd shape
        NestError: it fits the bed as it is
    """
    if sheet.outline:
        raise MeasureError(say("offcut_not_cut_down"))
    return cut_down(sheet.width_mm, sheet.height_mm, bed=(machine.bed_width, machine.bed_height), saw=saw_mm)


@transaction.atomic
def shelve_blanks(*, sheet: Sheet, machine: Machine, saw_mm: float, sheets: int) -> None:
    """Take boards off the shelf and put the blanks that were cut from them on it, as they lie on the bed; equal ones together.

    Raises:
        MeasureError: so many boards are not there
    """
    row = Sheet.objects.select_for_update().get(pk=sheet.pk)
    plan = cut_down_of(row, machine, saw_mm=saw_mm)
    if not 1 <= sheets <= row.count:
        raise MeasureError(say("boards_on_shelf", boards=row.count), field="sheets")
    area = sum(b.width * b.height for b in plan.blanks)
    for blank in plan.blanks:
        w, h = (blank.height, blank.width) if blank.turned else (blank.width, blank.height)
        grain = OTHER_WAY.get(row.grain, row.grain) if blank.turned else row.grain
        size = {"width_mm": round(w, 1), "height_mm": round(h, 1), "grain": grain}
        price = round(row.price * blank.width * blank.height / area, 2)
        same, new = Sheet.objects.get_or_create(
            stock=row.stock, name=f"Blank, {w:.0f} × {h:.0f}", outline=[], bad=[], place=row.place, **size, defaults={"count": sheets, "price": price}
        )
        if not new:
            same.count += sheets
            same.save(update_fields=["count"])
    row.count -= sheets
    row.save(update_fields=["count"])
