"""Units of length, and lengths as people read them. Inside, all is millimetres; how people type them stands in `typed`."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal, get_args

Mm = float
MM_PER_INCH = 25.4
MM_PER: dict[str, float] = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "″": MM_PER_INCH,
    "''": MM_PER_INCH,
    "ft": 12 * MM_PER_INCH,
    "foot": 12 * MM_PER_INCH,
    "feet": 12 * MM_PER_INCH,
    "'": 12 * MM_PER_INCH,
    "thou": MM_PER_INCH / 1000,
    "mil": MM_PER_INCH / 1000,
}
Unit = Literal["mm", "in", "in/64", "thou"]  #: in which a person reads lengths
DISPLAY_UNITS: tuple[Unit, ...] = get_args(Unit)


def format_length(mm: Mm, *, unit: str = "mm", digits: int | None = None) -> str:
    """Return a length for display; stored values are never rounded by it.

    Args:
        unit: one of DISPLAY_UNITS
        digits: decimals; by default two for mm, three for inches, none for thou
    """
    if unit == "mm":
        return f"{mm:.{2 if digits is None else digits}f}"
    if unit == "in":
        return f"{mm / MM_PER_INCH:.{3 if digits is None else digits}f}"
    if unit == "thou":
        return f"{mm / MM_PER_INCH * 1000:.{0 if digits is None else digits}f}"
    sixty_fourths = round(mm / MM_PER_INCH * 64)
    whole, rest = divmod(abs(sixty_fourths), 64)
    sign = "-" if sixty_fourths < 0 else ""
    if rest == 0:
        return f"{sign}{whole}"
    part = Fraction(rest, 64)
    return f"{sign}{f'{whole} ' if whole else ''}{part.numerator}/{part.denominator}"


def shown(mm: Mm, unit: str, *, fine: bool = False) -> str:
    """Return a length as a person reads it, without its unit; `fine` is for widths of joints, where hundredths matter.

    Fractions are rounded to the nearest sixty-fourth; fine lengths are decimal for those who read fractions too.
    """
    if unit == "mm":
        return f"{mm:.{2 if fine else 1}f}"
    if unit == "in/64":
        return f"{mm / MM_PER_INCH:.4f}" if fine else format_length(mm, unit=unit)
    if unit == "thou":
        return f"{mm / MM_PER_INCH * 1000:.{1 if fine else 0}f}"
    return f"{mm / MM_PER_INCH:.{4 if fine else 3}f}"


def unit_name(unit: str) -> str:
    """Return the short name of a unit."""
    return "in" if unit in ("in", "in/64") else unit


def clock(seconds: float) -> str:
    """Return seconds as minutes and seconds, or hours and minutes from an hour on."""
    whole = round(seconds)
    if whole < 3600:
        return f"{whole // 60}:{whole % 60:02d} min"
    return f"{whole // 3600}:{whole % 3600 // 60:02d} h"


def shown_speed(mm_s: float, unit: str) -> str:
    """Return a speed with its unit, in mm/s or in/s."""
    return f"{mm_s:g} mm/s" if unit == "mm" else f"{mm_s / MM_PER_INCH:.4g} in/s"
