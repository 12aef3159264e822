"""What a person does with files that come in: drawings, outlines of images, heights of images and solids."""

from __future__ import annotations

from dataclasses import dataclass

from apps.designs import convert
from apps.designs.models import Drawing as DrawingRow
from apps.designs.models import Project
from notchcore.design.features.drawing import Drawing, DrawnLine, Note, closed_within, tidied
from notchcore.errors import MeasureError, require
from notchcore.formats.dxfin import read_dxf
from notchcore.formats.svgin import read_svg
from notchcore.trace.image import heights_of_image, outline_of
from notchcore.trace.photo import kept_image
from notchcore.trace.solid import heights_of_solid
from notchcore.words.facts import Figure, Listed
from notchcore.words.render import say

MOST_BYTES = 8_000_000
MOST_DRAWINGS = 200
PNG, JPEG = b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff"


@dataclass(frozen=True, slots=True, kw_only=True)
class Tracing:
    """How an image becomes an outline."""

    threshold: float = 0.5
    smoothing: float = 1.5
    simplify: float = 0.6

    def __post_init__(self) -> None:
        require("threshold", self.threshold, least=0.02, most=0.98, unit="")
        require("smoothing", self.smoothing, least=0.0, most=20.0, unit="pixels")
        require("simplify", self.simplify, least=0.05, most=20.0, unit="pixels")


def _checked(data: bytes) -> bytes:
    if not data:
        raise MeasureError(say("file_empty"))
    if len(data) > MOST_BYTES:
        raise MeasureError(say("file_too_large", size=Figure(len(data) / 1000000.0, 1), most=Figure(MOST_BYTES / 1000000.0, 0)))
    return data


def is_image(data: bytes) -> bool:
    return data.startswith((PNG, JPEG))


def read(data: bytes, tracing: Tracing) -> Drawing:
    """Return the drawing in a file, told by what it holds, not by its name.

    Raises:
        MeasureError: the file is empty, too large, of no kind that is read, or holds no line
    """
    _checked(data)
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    if is_image(data):
        drawing = _traced(data, tracing)
    elif head.startswith(b"<") or b"<svg" in head:
        drawing = read_svg(data)
    elif head[:1] in (b"0", b"9") or b"SECTION" in head or data.startswith(b"AutoCAD Binary DXF"):
        drawing = read_dxf(data)
    else:
        raise MeasureError(say("file_of_no_kind"))
    if not drawing.lines:
        notes = Listed(tuple(n.says for n in drawing.notes), between=" ")
        raise MeasureError(say("nothing_from_file", why=notes if drawing.notes else say("nothing_from_file.lines")))
    return drawing


def read_picture(data: bytes) -> Drawing:
    """Return an image as a drawing that is engraved dot by dot: its frame is its only line.

    Raises:
        MeasureError: the file is empty, too large, or no image
    """
    if not is_image(_checked(data)):
        raise MeasureError(say("picture_to_engrave"))
    image, (w, h) = kept_image(data)
    frame = DrawnLine(layer="picture", points=((0.0, 0.0), (w, 0.0), (w, h), (0.0, h)), closed=True)
    return Drawing(lines=(frame,), mm_per_unit=None, image=image)


def _traced(data: bytes, tracing: Tracing) -> Drawing:
    found = outline_of(data, threshold=tracing.threshold, smoothing=tracing.smoothing, simplify=tracing.simplify)
    says = say("traced", off=Figure(found.deviation, 1), points=len(found.outer))
    return tidied([DrawnLine(layer="outline", points=found.outer, closed=True)], None, notes=[Note(code="traced", says=says)])


def keep(*, project: Project, name: str, drawing: Drawing) -> DrawingRow:
    if project.drawings.count() >= MOST_DRAWINGS:
        raise MeasureError(say("drawings_most", most=MOST_DRAWINGS))
    return DrawingRow.objects.create(project=project, name=(name.strip() or "drawing")[:80], payload=convert.DRAWING.dump_python(drawing, mode="json"))


def closed(*, row: DrawingRow, gap: float) -> DrawingRow:
    """Return a new drawing with ends up to `gap` [units of the drawing] apart joined."""
    require("gap", gap, least=0.0, most=50.0, unit="units")
    drawing = closed_within(convert.DRAWING.validate_python(row.payload), gap)
    return keep(project=row.project, name=row.name, drawing=drawing)


def heights(data: bytes, *, dark_is_high: bool) -> tuple[tuple[tuple[float, ...], ...], tuple[float, float, float] | None]:
    """Return a height grid of an image or a solid, and the solid's size in its own units."""
    _checked(data)
    if is_image(data):
        return heights_of_image(data, dark_is_high=dark_is_high), None
    return heights_of_solid(data)
