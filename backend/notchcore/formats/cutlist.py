"""The cut list: every part on every sheet, as rows and as CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from notchcore.design.assembly import Assembly
from notchcore.geom.profile import bounds_of
from notchcore.ids import CopyId
from notchcore.nest.values import Nesting
from notchcore.plan.paths import laid_out, piece_numbers
from notchcore.units import Mm, format_length, unit_name


@dataclass(frozen=True, slots=True, kw_only=True)
class CutListRow:
    """One part on one sheet."""

    placement: str  #: part id and copy, as in the plan: "front.0"
    mark: str  #: short mark that stands on the map of the sheet
    part: str
    sheet: int
    stock: str
    width: Mm
    height: Mm
    thickness: Mm
    falls_from: str = ""  #: the part out of whose opening it falls: it is not cut again


def cut_list(assembly: Assembly, nesting: Nesting, *, stock_names: dict[str, str]) -> tuple[CutListRow, ...]:
    """Return a row for each piece, in the order of sheets, those that fall out of others after their host; marks run through the job."""
    rows: list[CutListRow] = []
    parts, numbers = {p.id: p for p in assembly.parts}, piece_numbers(nesting)
    for number, sheet in enumerate(nesting.sheets, start=1):
        for laid in laid_out(sheet.placements, parts, numbers=numbers):
            part = parts[laid.part]
            x0, y0, x1, y1 = bounds_of(part.profile.outer)
            rows.append(
                CutListRow(
                    placement=str(CopyId(laid.part, laid.copy)),
                    mark=f"{len(rows) + 1}",
                    part=part.label,
                    sheet=number,
                    stock=stock_names[part.stock],
                    width=x1 - x0,
                    height=y1 - y0,
                    thickness=part.t,
                    falls_from=parts[part.falls_from].label if laid.falls else "",
                )
            )
    return tuple(rows)


def _plain(text: str) -> str:
    """Return a name so that no spreadsheet takes it for a formula."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def cut_list_csv(rows: tuple[CutListRow, ...], unit: str = "mm") -> str:
    """Return the cut list as CSV with units in the head row; figures are decimal, so that a spreadsheet can reckon with them."""
    decimal = unit_name(unit)

    def say(length: Mm) -> str:
        return format_length(length, unit=decimal, digits={"mm": 2, "in": 4, "thou": 1}[decimal])

    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(["mark", "part", "sheet", "stock", f"width_{decimal}", f"height_{decimal}", f"thickness_{decimal}", "falls_from"])
    for r in rows:
        writer.writerow([r.mark, _plain(r.part), r.sheet, _plain(r.stock), say(r.width), say(r.height), say(r.thickness), _plain(r.falls_from)])
    return text.getvalue()
