"""Files in over HTTP: drawings for panels, and heights for ribbed forms."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile

from apps.accounts.access import Refused, require_role
from apps.accounts.models import Role
from apps.designs import convert, drawings, exchange, queries
from apps.designs.api import ProjectOut, project_out, project_row
from apps.designs.models import Drawing
from notchcore.design.features.drawing import Note, silhouette_of
from notchcore.formats.names import file_stem
from notchcore.geom.profile import Ring
from notchcore.geom.thinning import thinned
from notchcore.geom.vectors import Vec2
from notchcore.trace.photo import dots_png, dotted
from notchcore.words.render import say

router = Router(tags=["designs"])
SHOWN_POINTS = 4000  # a preview needs no more


class LayerOut(Schema):
    name: str
    lines: int
    open: int  #: of these, how many are not closed


class DrawingOut(Schema):
    id: str
    name: str
    mm_per_unit: float | None  #: None: the file does not say how large it is
    size: Vec2  #: in its units
    layers: list[LayerOut]
    notes: tuple[Note, ...]
    lines: list[Ring]  #: for the preview, thinned out
    silhouette: Ring  #: outer line of its largest closed line


class GapIn(Schema):
    gap: float


class HeightsOut(Schema):
    grid: tuple[tuple[float, ...], ...]
    size: tuple[float, float, float] | None  #: of a solid, in its own units


def _out(row: Drawing) -> DrawingOut:
    d = convert.DRAWING.validate_python(row.payload)
    layers = [
        LayerOut(name=name, lines=sum(x.layer == name for x in d.lines), open=sum(x.layer == name and not x.closed for x in d.lines))
        for name in d.layers()[:40]
    ]
    thin = max(1, sum(len(x.points) for x in d.lines) // SHOWN_POINTS)
    lines = [(*x.points[:-1:thin], x.points[-1], *((x.points[0],) if x.closed else ())) for x in d.lines[:SHOWN_POINTS]]
    return DrawingOut(
        id=str(row.pk),
        name=row.name,
        mm_per_unit=d.mm_per_unit,
        size=d.size,
        layers=layers,
        notes=d.notes,
        lines=lines,
        silhouette=thinned(silhouette_of(d), SHOWN_POINTS),
    )


@router.get("/projects/{project_id}/drawings", response=list[DrawingOut], operation_id="drawings")
def list_drawings(request: HttpRequest, project_id: int) -> list[DrawingOut]:
    return [_out(row) for row in project_row(request, project_id).drawings.order_by("-pk")[:20]]


@router.post("/projects/{project_id}/drawings", response={201: DrawingOut}, operation_id="addDrawing")
def add_drawing(
    request: HttpRequest,
    project_id: int,
    file: Annotated[UploadedFile, File()],
    threshold: Annotated[float, Form()] = 0.5,
    smoothing: Annotated[float, Form()] = 1.5,
    simplify: Annotated[float, Form()] = 0.6,
    as_picture: Annotated[bool, Form()] = False,
) -> Status[DrawingOut]:
    """Read a drawing (SVG, DXF), trace the outline of an image (PNG, JPEG), or take an image as a picture to engrave."""
    require_role(request, Role.DESIGNER)
    project = project_row(request, project_id)
    tracing = drawings.Tracing(threshold=threshold, smoothing=smoothing, simplify=simplify)
    data = file.read(drawings.MOST_BYTES + 1)
    drawing = drawings.read_picture(data) if as_picture else drawings.read(data, tracing)
    return Status(201, _out(drawings.keep(project=project, name=file.name or "", drawing=drawing)))


@router.get("/projects/{project_id}/parts/{part_id}/pictures/{number}.png", operation_id="pictureDots")
def picture_dots(request: HttpRequest, project_id: int, part_id: str, number: int) -> HttpResponse:
    """Return the dots that a part's mark burns, as they come out with its stock's rows; clear where nothing is burned."""
    now = queries.current(project_row(request, project_id))
    part = next((p for p in now.assembly.parts if p.id == part_id), None)
    mark = part.marks[number] if part is not None and 0 <= number < len(part.marks) else None
    images = queries.images_of(now)
    if part is None or mark is None or mark.photo is None or mark.photo.image not in images:
        raise Refused(404, say("no_such_picture"))
    dots = dotted(mark.photo, images[mark.photo.image], frame=mark.line, interval=now.settings[part.stock].engrave.interval, clip=mark.clip)
    return HttpResponse(dots_png(dots), content_type="image/png")


@router.post("/projects/{project_id}/drawings/{drawing_id}/close", response={201: DrawingOut}, operation_id="closeDrawing")
def close_drawing(request: HttpRequest, project_id: int, drawing_id: int, body: GapIn) -> Status[DrawingOut]:
    """Make a drawing anew with lines closed whose ends are near to each other."""
    require_role(request, Role.DESIGNER)
    row = get_object_or_404(Drawing, project=project_row(request, project_id), pk=drawing_id)
    return Status(201, _out(drawings.closed(row=row, gap=body.gap)))


@router.post("/projects/{project_id}/heights", response=HeightsOut, operation_id="readHeights")
def read_heights(request: HttpRequest, project_id: int, file: Annotated[UploadedFile, File()], dark_is_high: Annotated[bool, Form()] = False) -> HeightsOut:
    """Read a height grid from a grey image or an STL solid; nothing is kept."""
    require_role(request, Role.DESIGNER)
    project_row(request, project_id)
    grid, size = drawings.heights(file.read(drawings.MOST_BYTES + 1), dark_is_high=dark_is_high)
    return HeightsOut(grid=grid, size=size)


@router.get("/projects/{project_id}/bundle", operation_id="takeOut")
def take_out(request: HttpRequest, project_id: int) -> HttpResponse:
    """Return the whole project as one file, to keep or to take to another shop."""
    project = project_row(request, project_id)
    headers = {"Content-Disposition": f'attachment; filename="{file_stem(project.name)}.project.zip"'}
    return HttpResponse(exchange.taken_out(project), content_type="application/zip", headers=headers)


@router.post("/bundles", response={201: ProjectOut}, operation_id="bringIn")
def bring_in(request: HttpRequest, file: Annotated[UploadedFile, File()]) -> Status[ProjectOut]:
    """Make a project from a file that was taken out."""
    member = require_role(request, Role.DESIGNER)
    return Status(201, project_out(exchange.brought_in(file.read(exchange.MOST_PACKED + 1), member)))
