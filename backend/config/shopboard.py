"""The shop board: every project of the shop with its picture, what comes next, and what is cut so far."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace
from datetime import date, datetime

from django.http import HttpRequest
from ninja import Router, Schema

from apps.accounts.access import mine
from apps.designs import queries
from apps.designs.models import Project, Stage, StageResult
from apps.runs.models import Run, RunState
from notchcore.design.assembly import Assembly
from notchcore.design.design import label_of
from notchcore.design.picture import Picture, picture_of
from notchcore.findings import Severity

router = Router(tags=["shop board"])


class Next(Schema):
    station: str  #: path of the station to go to
    text: str


class ProjectCard(Schema):
    id: int
    name: str
    revision: int
    changed: datetime
    deadline: date | None
    family: str  #: what it began as
    parts: int
    pieces_cut: int
    next: Next
    picture: Picture
    colours: dict[str, str]


def _next(now: queries.Current, made: dict[str, str], cut: bool) -> Next:
    """Return the first station, in the order of the work, that has something left to do."""
    must = sum(f.severity is Severity.MUST for f in now.assembly.findings)
    if must:
        return Next(station="build", text=f"{must} to fix on Build")
    for stage, wanted, station, first, again in (
        (Stage.CHECK, now.checked_from, "dry-fit", "try the dry fit", "dry fit again"),
        (Stage.NEST, now.parts_print, "lay-out", "lay out the parts", "lay out again"),
    ):
        if made.get(stage) != wanted:
            return Next(station=station, text=again if stage in made else first)
    if Stage.PLAN not in made:
        return Next(station="cut-plan", text="plan the cuts")
    return Next(station="run", text="cut the next sheet" if cut else "cut the first sheet")


_pictures: dict[str, Picture] = {}
KEPT_PICTURES = 200


def _picture(built_from: str, assembly: Assembly) -> Picture:
    """Return the picture of an assembly, without its numbers, from memory when it was drawn before."""
    if built_from not in _pictures:
        if len(_pictures) >= KEPT_PICTURES:
            _pictures.pop(next(iter(_pictures)))
        _pictures[built_from] = picture_of(replace(assembly, dimensions=()))
    return _pictures[built_from]


@router.get("/shop-board", response=list[ProjectCard], operation_id="shopBoard")
def shop_board(request: HttpRequest) -> list[ProjectCard]:
    rows = list(mine(request, Project).filter(is_test=False).select_related("machine", "shop").order_by("-changed"))
    made: dict[int, dict[str, str]] = defaultdict(dict)
    for project_id, stage, print_ in StageResult.objects.filter(project__in=rows).values_list("project_id", "stage", "made_from"):
        made[project_id][stage] = print_
    good: dict[int, int] = defaultdict(int)
    for project_id, log in Run.objects.filter(project__in=rows, state=RunState.DONE).values_list("project_id", "log"):
        good[project_id] += int(log.get("good", 0))
    cards = []
    for project in rows:
        now = queries.current(project)
        cards.append(
            ProjectCard(
                id=project.pk, name=project.name, revision=project.head, changed=project.changed, deadline=project.deadline,
                family=label_of(now.design), parts=len(now.assembly.parts),
                pieces_cut=good[project.pk], next=_next(now, made[project.pk], good[project.pk] > 0),
                picture=_picture(now.built_from, now.assembly),
                colours={k: s.colour for k, s in now.stocks.items()},
            )
        )  # fmt: skip
    return cards
