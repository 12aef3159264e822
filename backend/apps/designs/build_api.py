"""Build over HTTP: what a design comes to, and why."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from apps.accounts.access import Refused
from apps.designs import convert, queries
from apps.designs.api import project_row
from apps.designs.built import BuildOut, build_out
from notchcore.check.dry_fit import MeetingChances, meeting_chances
from notchcore.design.assembly import JointFeature, Meeting, drawn_width
from notchcore.design.picture import Picture, picture_of
from notchcore.design.sizes import Along, drawn_size, size_ledger
from notchcore.design.styles import ABOUT, Style, named
from notchcore.formats.names import file_stem
from notchcore.formats.solid import gltf, stl
from notchcore.ledger import Quantity
from notchcore.measure.fit import Boundaries
from notchcore.words.render import say

router = Router(tags=["designs"])


class FeatureLedger(Schema):
    feature: JointFeature
    part_label: str
    drawn: Quantity


class SizeLedger(Schema):
    part_label: str
    finished: Quantity
    drawn: Quantity


class StyleOut(Schema):
    """A way in which a meeting may be joined."""

    style: Style
    label: str
    counted: str  #: what there may be more or fewer of; "" for nothing
    wide: str  #: what the size may be wished of
    proud: bool  #: how far tabs stand out may be wished


class MeetingOut(Schema):
    meeting: Meeting
    name: str  #: what makes the joint, in words
    ways: list[StyleOut]
    chances: MeetingChances | None
    boundaries: Boundaries
    features: list[FeatureLedger]


@router.get("/projects/{project_id}/parts/{part_id}/why", response=FeatureLedger, operation_id="whyFeature")
def why_feature(request: HttpRequest, project_id: int, part_id: str, feature: str, item: str = "") -> FeatureLedger:
    """Return the ledger of one opening that belongs to no meeting, up to the width in the file."""
    now, part_id = queries.current(project_row(request, project_id)).of(item).of_part(part_id)
    for part in now.assembly.parts:
        for f in part.features:
            if part.id == part_id and f.id == feature:
                return FeatureLedger(feature=f, part_label=part.label, drawn=drawn_width(f, now.stocks[part.stock].kerf))
    raise Refused(404, say("no_such_opening"))


@router.get("/projects/{project_id}/parts/{part_id}/size", response=SizeLedger, operation_id="whySize")
def why_size(request: HttpRequest, project_id: int, part_id: str, along: Along, item: str = "") -> SizeLedger:
    """Return the ledger of a part's width or height: which numbers and thicknesses it follows."""
    now, part_id = queries.current(project_row(request, project_id)).of(item).of_part(part_id)
    finished = size_ledger(
        now.design, now.assembly, stocks=now.stocks, part_id=part_id, along=along, drawings=convert.drawings_for(now.project, now.design), bed=now.measured.bed
    )
    part = now.assembly.part(part_id)
    return SizeLedger(part_label=part.label, finished=finished, drawn=drawn_size(finished, now.stocks[part.stock].kerf))


@router.get("/projects/{project_id}/build", response=BuildOut, operation_id="build")
def build(request: HttpRequest, project_id: int, item: str = "") -> HttpResponse:
    """Return what the project comes to, or one item of it alone."""
    return HttpResponse(build_out(queries.current(project_row(request, project_id)), item).model_dump_json(), content_type="application/json")


@router.get("/projects/{project_id}/meetings/{meeting_id}", response=MeetingOut, operation_id="meeting")
def meeting(request: HttpRequest, project_id: int, meeting_id: str, item: str = "") -> MeetingOut:
    """Return everything about one meeting: choices, chances, and the ledger of each feature up to the width in the file."""
    now = queries.current(project_row(request, project_id)).of(item)
    found = next((m for m in now.assembly.meetings if m.id == meeting_id), None)
    if found is None:
        raise Refused(404, say("no_longer_meet"))
    parts = {p.id: p for p in now.assembly.parts}
    ledgers = [
        FeatureLedger(feature=f, part_label=p.label, drawn=drawn_width(f, now.stocks[p.stock].kerf))
        for p in (parts[found.a], parts[found.b])
        for f in p.features
        if f.meeting == meeting_id
    ]
    pair = (now.stocks[parts[found.a].stock].key, now.stocks[parts[found.b].stock].key)
    chances = next((o for o in meeting_chances(now.assembly, now.stocks, fits=now.fits) if o.meeting == meeting_id), None)
    ways = [StyleOut(style=s, label=a.label, counted=a.counted, wide=a.wide, proud=a.proud) for s in found.ways or (found.style,) for a in [ABOUT[s]]]
    return MeetingOut(meeting=found, name=named(found.style, found.count), ways=ways, chances=chances, boundaries=now.fits.between(*pair), features=ledgers)


@router.get("/projects/{project_id}/picture", response=Picture, operation_id="picture")
def picture(request: HttpRequest, project_id: int, item: str = "") -> Picture:
    """Return the drawn picture of the assembly with the family's numbers; apart from Build, which need not wait for it."""
    return picture_of(queries.current(project_row(request, project_id)).of(item).assembly)


SOLIDS = {"stl": (stl, "model/stl"), "glb": (gltf, "model/gltf-binary")}


@router.get("/projects/{project_id}/assembly.{kind}", operation_id="assemblySolid")
def assembly_solid(request: HttpRequest, project_id: int, kind: str) -> HttpResponse:
    """Return the assembly as it goes together, as STL or binary glTF."""
    if kind not in SOLIDS:
        raise Refused(404, say("solid_kinds"))
    project = project_row(request, project_id)
    now = queries.current(project)
    if not now.assembly.parts:
        raise Refused(422, say("no_parts_to_show"))
    write, mime = SOLIDS[kind]
    name = f"{file_stem(project.name, otherwise='assembly')}.{kind}"
    return HttpResponse(write(now.assembly, name=project.name), content_type=mime, headers={"Content-Disposition": f'attachment; filename="{name}"'})
