"""The columns of the tables that go out and come in, and the units in which they may stand.

A column of lengths names its unit: ``thickness_mm`` or ``thickness_in``; without one it is in millimetres. A cell may name another:
``1/8 in`` under ``label_mm``. Speeds are ``speed`` (mm/s) or ``speed_in_s``, pulses ``pulses`` (per mm) or ``pulses_per_in``.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from typing import Any

from notchcore.errors import LengthNotUnderstood, MeasureError
from notchcore.typed import parse_length
from notchcore.units import MM_PER, MM_PER_INCH, unit_name
from notchcore.words.render import say

#: what is said of a stock beside its name, its kind and what is measured; a further one is a field of the model, of both schemas, and a line of the form
SAID = ("look", "batch", "crush", "shelf", "film", "warp", "finish", "lab", "lab_finished")
COLUMNS: dict[str, tuple[str, ...]] = {
    "stocks": ("stock", "material", "substance", "label_mm", "colour", *SAID),
    "sheets": ("stock", "name", "width_mm", "height_mm", "count", "price", "place", "grain", "is_offcut", "outline", "bad"),
    "readings": ("stock", "thickness_mm", "x", "y", "on", "by", "withdrawn", "borrowed"),
    "kerf-tests": ("stock", "machine", "lens", "setting", "kind", "drawn_mm", "measured_mm", "below_mm", "count", "on", "by", "withdrawn", "borrowed"),
    "feels": ("stock", "entering", "machine", "lens", "setting", "feel", "drawn_mm", "clearance_mm", "sd_mm", "on", "by", "withdrawn", "borrowed"),
    "settings": ("stock", "machine", "lens", "operation", "power", "speed", "passes", "pulses", "focus", "air", "interval", "source", "on", "by", "borrowed"),
}
RENAMED = {"family": "material"}  #: heads of tables that earlier landings wrote
NUMBERS = {"crush", "price", "x", "y", "power"}
WHOLE = {"count", "passes"}
YES = {"is_offcut", "withdrawn", "air"}
RINGS = {"outline", "bad"}  # lists of corners [mm]
COLOURS = {"lab", "lab_finished"}
BARE = {"focus", "interval"}  # lengths whose name does not say so
RATES = {"speed": ("speed_in_s", MM_PER_INCH), "pulses": ("pulses_per_in", 1 / MM_PER_INCH)}  # inches a second, pulses an inch
DIGITS = 6  # of an inch, which is finer than anything that is measured
READ_DIGITS = 4  # [mm] of what came in another unit


def _is_length(column: str) -> bool:
    return column.endswith("_mm") or column in BARE


def head_of(column: str, unit: str) -> str:
    """Return what a column is called in a reader's unit."""
    if unit == "mm":
        return column
    name = unit_name(unit)
    if column in RATES:
        return RATES[column][0]
    return f"{column.removesuffix('_mm')}_{name}" if _is_length(column) or column in RINGS else column


def cell_out(column: str, value: Any, *, unit: str) -> Any:
    """Return a value as it stands in a table."""
    if value is None:
        return ""
    per = MM_PER[unit_name(unit)]
    if unit != "mm" and column in RATES:
        value = round(value / RATES[column][1], DIGITS)
    elif unit != "mm" and column in RINGS:
        value = _scaled(value, 1 / per, digits=DIGITS)
    elif unit != "mm" and _is_length(column):
        value = round(value / per, DIGITS)
    return json.dumps(value) if isinstance(value, list) else value


@dataclass(frozen=True, slots=True)
class Column:
    """A column of a table that came in."""

    name: str  #: as it is kept
    unit: str = "mm"  #: of its lengths, a key of MM_PER
    times: float = 1.0  #: of its other numbers


def column_of(head: str, what: str) -> Column:
    """Return which column a head means.

    Raises:
        MeasureError: there is no such column
    """
    known, name = COLUMNS[what], RENAMED.get(head.strip(), head.strip())
    if name in known:
        return Column(name)
    rate = next((c for c, (other, _) in RATES.items() if other == name and c in known), None)
    if rate is not None:
        return Column(rate, times=RATES[rate][1])
    base, _, unit = name.rpartition("_")
    column = next((c for c in (f"{base}_mm", base) if c in known and (_is_length(c) or c in RINGS)), None)
    if column is None or not unit.isalpha() or unit not in MM_PER:
        also = say("column_unknown.lengths") if any(map(_is_length, known)) else ""
        raise MeasureError(say("column_unknown", name=name, known=", ".join(known), also=also))
    return Column(column, unit=unit)


def _number(text: str) -> float:
    value = float(text.replace(",", "."))
    if not math.isfinite(value):
        raise ValueError(text)
    return value


def _length(text: str, unit: str) -> float:
    per = MM_PER[unit]
    try:
        value = _number(text) * per
    except ValueError:
        value = parse_length(text, unit=unit)
        per = 0.0
    return value if per == 1.0 else round(value, READ_DIGITS)


def _scaled(ring: Any, per: float, *, digits: int) -> Any:
    return [_scaled(v, per, digits=digits) for v in ring] if isinstance(ring, list) else round(float(ring) * per, digits)


def _ring(text: str, column: Column) -> Any:
    found = json.loads(text)
    return found if column.unit == "mm" else _scaled(found, MM_PER[column.unit], digits=READ_DIGITS)


def cell_in(column: Column, text: str) -> Any:
    """Return what a cell says, lengths in mm.

    Raises:
        ValueError: it is no number
    """
    text, name = text.strip(), column.name
    if name in RINGS:
        return _ring(text, column) if text else []
    if name in COLOURS:
        return json.loads(text) if text else None
    if name in YES:
        return text.lower() in ("true", "yes", "1")
    if name in WHOLE:
        return int(_number(text)) if text else 1
    try:
        if _is_length(name):
            return _length(text, column.unit) if text else None
    except LengthNotUnderstood as problem:
        raise ValueError(str(problem.facts["why"])) from None
    if name in RATES or name in NUMBERS:
        return round(_number(text) * column.times, READ_DIGITS if column.times != 1.0 else 12) if text else None
    return text
