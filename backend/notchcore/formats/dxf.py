"""DXF for a sheet: millimetres, y up, a layer for each operation; straight lines, bulged arcs and whole circles.

Pictures are not in it: their frames lie on a layer of their own.
"""

from __future__ import annotations

import io
import math

from notchcore.formats.sheetfile import SheetFile, layers_of
from notchcore.geom.contours import Contour, in_short_arcs
from notchcore.tolerance import FILE_DIGITS
from notchcore.words.render import plain

PHOTO_LAYER = "picture-place-do-not-burn"


def _vertices(contour: Contour) -> list[tuple[float, float, float]]:
    """Return x, y and bulge (the tangent of a quarter of the arc's turn) of each vertex."""
    points = [(round(s.start[0], FILE_DIGITS), round(s.start[1], FILE_DIGITS), math.tan(s.sweep / 4)) for s in in_short_arcs(contour).segments]
    if not contour.closed:
        end = contour.segments[-1].end
        points.append((round(end[0], FILE_DIGITS), round(end[1], FILE_DIGITS), 0.0))
    return points


def _index(red: int, green: int, *, blue: int) -> int:
    """Return the numbered colour nearest to a colour, for readers that know no others."""
    from ezdxf.colors import DXF_DEFAULT_COLORS, int2rgb

    def far(k: int) -> int:
        return sum((a - b) ** 2 for a, b in zip(int2rgb(DXF_DEFAULT_COLORS[k]), (red, green, blue), strict=True))

    return min(range(1, 256), key=far)


def sheet_dxf(file: SheetFile) -> str:
    """Return a sheet as DXF text; a note in the header says scale, kerf and revision."""
    import ezdxf
    from ezdxf import units
    from ezdxf.document import Drawing

    ezdxf.options.write_fixed_meta_data_for_testing = True  # type: ignore[attr-defined]  # no time, no random number: the same plan gives the same file
    drawing = Drawing.new("R2010")
    drawing.units = units.MM
    drawing.header.custom_vars.append("Title", file.title)
    drawing.header.custom_vars.append("Statement", plain(file.statement))
    space = drawing.modelspace()
    for each in layers_of(file):
        if each.convention.layer not in drawing.layers:
            red, green, blue = (int(each.convention.colour[i : i + 2], 16) for i in (1, 3, 5))
            layer = drawing.layers.add(each.convention.layer, color=_index(red, green, blue=blue))
            layer.rgb = (red, green, blue)
        attributes = {"layer": each.convention.layer}
        for stroke in each.strokes:
            if stroke.path.photo is not None:  # DXF holds lines only: it shows where the picture lies, and says that it is not in here
                if PHOTO_LAYER not in drawing.layers:
                    drawing.layers.add(PHOTO_LAYER)
                    drawing.header.custom_vars.append("Pictures", "Pictures are only in the SVG file: take it for this sheet.")
                space.add_lwpolyline(
                    [(round(x, FILE_DIGITS), round(y, FILE_DIGITS)) for x, y in stroke.path.frame], close=True, dxfattribs={"layer": PHOTO_LAYER}
                )
                continue
            for contour in stroke.path.lines:
                first = contour.segments[0]
                if len(contour.segments) == 1 and first.centre is not None and contour.closed:
                    space.add_circle(first.centre, round(first.radius, FILE_DIGITS), dxfattribs=attributes)
                else:
                    space.add_lwpolyline(_vertices(contour), format="xyb", close=contour.closed, dxfattribs=attributes)
    drawing.classes.add_required_classes(drawing.dxfversion)
    drawing.classes.classes = dict(sorted(drawing.classes.classes.items()))  # it lists them in the order of a set, another one in every process
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue()
