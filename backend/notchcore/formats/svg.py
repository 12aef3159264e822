"""SVG for a sheet: millimetres at 1:1, one group an operation in the machine's own convention.

Only here (and on the drawing surface) does y point down.
"""

from __future__ import annotations

import base64
import math
from collections import Counter
from xml.sax.saxutils import escape, quoteattr

from notchcore.formats.sheetfile import SheetFile, layers_of
from notchcore.geom.contours import Contour, in_short_arcs
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Operation
from notchcore.plan.cut_plan import Stroke
from notchcore.plan.raster import photo_dots
from notchcore.tolerance import FILE_DIGITS
from notchcore.trace.photo import dots_png
from notchcore.units import Mm
from notchcore.words.render import plain


def _number(value: float) -> str:
    text = f"{value:.{FILE_DIGITS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def path_data(contour: Contour, height: Mm) -> str:
    """Return the `d` of a path, with y turned down on a sheet of this height."""

    def at(p: Vec2) -> str:
        return f"{_number(p[0])} {_number(height - p[1])}"

    out = [f"M{at(contour.segments[0].start)}"]
    for s in in_short_arcs(contour).segments:
        if s.centre is None:
            out.append(f"L{at(s.end)}")
        else:
            large, sweep = int(abs(s.sweep) > math.pi), int(not s.ccw)  # y is mirrored, so the sense of the turn is too
            out.append(f"A{_number(s.radius)} {_number(s.radius)} 0 {large} {sweep} {at(s.end)}")
    return "".join(out) + ("Z" if contour.closed else "")


def _element(contour: Contour, height: Mm, *, name: str) -> str:
    first = contour.segments[0]
    if len(contour.segments) == 1 and first.centre is not None and contour.closed:
        return f'<circle id={quoteattr(name)} cx="{_number(first.centre[0])}" cy="{_number(height - first.centre[1])}" r="{_number(first.radius)}"/>'
    return f'<path id={quoteattr(name)} d="{path_data(contour, height)}"/>'


def _drawn(stroke: Stroke, file: SheetFile) -> str:
    """Return a stroke's element; a photo is an image of its dots, one dot wide as the rows are apart."""
    path = stroke.path
    if path.photo is None:
        lines = path.lines
        return "".join(_element(line, file.plan.height, name=path.id if len(lines) == 1 else f"{path.id}.{k}") for k, line in enumerate(lines))
    dots = photo_dots(stroke.path, stroke.interval, images=file.images)
    rows, columns = dots.burned.shape
    (x, y), w, h = dots.at, columns * dots.pitch, rows * dots.pitch
    data = base64.b64encode(dots_png(dots, "#000000")).decode()
    return (
        f'<image id={quoteattr(path.id)} x="{_number(x)}" y="{_number(file.plan.height - y - h)}" width="{_number(w)}" height="{_number(h)}" '
        f'preserveAspectRatio="none" style="image-rendering:pixelated" href="data:image/png;base64,{data}"/>'
    )


def sheet_svg(file: SheetFile) -> str:
    """Return a sheet as SVG text; title and description say scale, kerf and revision."""
    plan = file.plan
    w, h = _number(plan.width), _number(plan.height)
    groups = []
    seen: Counter[str] = Counter()
    for layer in layers_of(file):
        c, beam = layer.convention, layer.beam
        seen[c.layer] += 1
        name = c.layer if seen[c.layer] == 1 else f"{c.layer}.{seen[c.layer]}"  # no name stands twice in a file
        elements = "".join(f"\n    {_drawn(s, file)}" for s in layer.strokes)
        paint = (
            f'fill="{c.colour}" stroke="none"'
            if layer.operation is Operation.ENGRAVE
            else f'fill="none" stroke="{c.colour}" stroke-width="{_number(c.line_width)}"'
        )
        told = "" if beam is None else f' data-power="{beam.power:g}" data-speed="{beam.speed:g}" data-passes="{beam.passes}"'
        groups.append(f"\n  <g id={quoteattr(name)} data-layer={quoteattr(c.layer)} {paint}{told}>{elements}\n  </g>")
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="{w}mm" height="{h}mm" viewBox="0 0 {w} {h}">\n'
        f"  <title>{escape(file.title)}</title>\n  <desc>{escape(plain(file.statement))}</desc>{''.join(groups)}\n</svg>\n"
    )
