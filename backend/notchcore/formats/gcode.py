"""Plain G-code for a sheet: millimetres, absolute, y up from the lower left of the bed; straight moves and true arcs, strokes in the plan's order.

G0           the head moves with the beam off
M3 S..  M5   beam on, with power in thousandths, and off
G1 G2 G3     a straight cut, an arc clockwise, an arc counter-clockwise about the centre at I J from its start
Rows         engraved on a beam that stays on: S0 between the stretches and over the ends
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from itertools import groupby

from notchcore.formats.names import ascii_only
from notchcore.formats.sheetfile import SheetFile
from notchcore.geom.contours import Contour, Segment
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.cut_plan import Stroke
from notchcore.plan.raster import burned_rows
from notchcore.tolerance import FILE_DIGITS
from notchcore.units import Mm
from notchcore.words.render import plain

FULL_POWER = 1000  # S of all the power there is
SECONDS = 60.0  # feeds are by the minute


def _number(value: float) -> str:
    text = f"{value:.{FILE_DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def _note(text: str) -> str:
    return f"({re.sub('[()]', ',', ascii_only(text))})"  # controllers read plain letters, and no brackets in brackets


def _to(p: Vec2) -> str:
    return f"X{_number(p[0])} Y{_number(p[1])}"


def _step(s: Segment) -> str:
    if s.centre is None:
        return f"G1 {_to(s.end)}"
    return f"{'G3' if s.ccw else 'G2'} {_to(s.end)} I{_number(s.centre[0] - s.start[0])} J{_number(s.centre[1] - s.start[1])}"


def _cut(contour: Contour, feed: str, *, power: str) -> Iterator[str]:
    yield f"G0 {_to(contour.segments[0].start)}"
    yield f"M3 {power}"
    for k, s in enumerate(contour.segments):
        yield _step(s) + (f" {feed}" if k == 0 else "")
    if contour.closed and math.dist(contour.segments[-1].end, contour.segments[0].start) > 10**-FILE_DIGITS:
        yield f"G1 {_to(contour.segments[0].start)}"
    yield "M5"


def _row(ends: list[Vec2], overscan: Mm, *, feed: str, power: str) -> Iterator[str]:
    """Yield one sweep over burning stretches that lie on one line, two points each."""
    length = math.dist(ends[0], ends[-1]) or 1.0
    ux, uy = (ends[-1][0] - ends[0][0]) / length * overscan, (ends[-1][1] - ends[0][1]) / length * overscan
    yield f"G0 {_to((ends[0][0] - ux, ends[0][1] - uy))}"
    yield f"G1 {_to(ends[0])} S0 {feed}"
    for k, p in enumerate(ends[1:]):
        yield f"G1 {_to(p)} {power if k % 2 == 0 else 'S0'}"
    yield f"G1 {_to((ends[-1][0] + ux, ends[-1][1] + uy))} S0"


def _engraved(stroke: Stroke, file: SheetFile, *, feed: str, power: str) -> Iterator[str]:
    rows = burned_rows(stroke.path, stroke.interval, images=file.images, upright=stroke.upright)
    stretches = list(zip(rows[::2], rows[1::2], strict=True))
    yield "M3 S0"
    for _, row in groupby(stretches, key=lambda ab: ab[0][0] if stroke.upright else ab[0][1]):
        yield from _row([p for ab in row for p in ab], file.plan.overscan, feed=feed, power=power)
    yield "M5"


def sheet_gcode(file: SheetFile) -> str:
    """Return a sheet as G-code text; notes at its head say scale, kerf and revision.

    Raises:
        PlanError: the image of a photo is missing
    """
    corner = f"Sheet {file.plan.width:g} x {file.plan.height:g} mm, its lower left corner at X0 Y0."
    lines = [
        _note(file.title),
        _note(plain(file.statement)),
        _note(f"{corner} S{FULL_POWER} is all the power there is: set the machine to that."),
        _note("Stay with the machine, extraction on. Try it with the beam off first."),
        "G21",
        "G90",
        "G17",
        "M5",
    ]
    for stroke in file.plan.strokes:
        feed, power = f"F{_number(stroke.speed * SECONDS)}", f"S{round(stroke.power / 100 * FULL_POWER)}"
        lines.append(_note(f"{stroke.path.operation.value} {stroke.path.id}"))
        for _ in range(stroke.passes):
            if stroke.path.operation is Operation.ENGRAVE:
                lines += _engraved(stroke, file, feed=feed, power=power)
            else:
                lines += [line for contour in stroke.path.lines for line in _cut(contour, feed, power=power)]
    return "\n".join([*lines, "M5", "G0 X0 Y0", "M2", ""])
