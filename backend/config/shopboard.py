"""The shop board: every project of the shop with its picture, what comes next, and what is cut so far.

After a start of the server nothing is in memory: a shop with many large projects would wait for all of them to be built. So the board builds for a
moment, tells what it has, and is asked again for the rest; each time at least one more is ready.
"""

from __future__ import annotations

import time
from collections import defaultdict
from dataclasses import dataclass, replace
from datetime import date, datetime

from django.http import HttpRequest
from ninja import Router, Schema

from apps.accounts.access import mine, require_role
from apps.accounts.models import Role
from apps.designs import queries
from apps.designs.api import project_row
from apps.designs.models import Project, Stage, StageResult
from apps.runs.keeping import ProjectPlace, gone_on, keep, place_of
from apps.runs.models import Run, RunState
from notchcore.design.design import label_of
from notchcore.design.picture import Picture, picture_of
from notchcore.errors import NotchCoreError
from notchcore.findings import Severity
from notchcore.words.facts import Sentence
from notchcore.words.render import say

router = Router(tags=["shop board"])
MOMENT_S = 0.8  # a project that is begun is finished: the answer comes a little later


class Next(Schema):
    station: str  #: the one to go to, by the word in its address
    says: Sentence


class Face(Schema):
    """What a project comes to."""

    family: str  #: what it began as
    parts: int
    next: Next
    picture: Picture
    colours: dict[str, str]


class ProjectCard(Schema):
    id: int
    name: str
    revision: int
    changed: datetime
    deadline: date | None
    pieces_cut: int
    face: Face | None  #: none yet: ask again


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawn:
    """What the board shows of an assembly; small, and kept much longer than the assembly."""

    parts: int
    to_fix: int
    parts_print: str
    picture: Picture


KEPT = 1000
NOTHING = Picture(faces=(), lines=(), bounds=(0.0, 0.0, 1.0, 1.0))
_drawn: dict[str, Drawn] = {}


def _key(now: queries.Current) -> str:
    return f"{now.built_from} of {now.project.pk}"


def _draw(now: queries.Current) -> Drawn:
    """Build a project and keep what the board shows of it; one that cannot be built is to be mended on Build, which says why."""
    try:
        made = now.assembly
        must = sum(f.severity is Severity.MUST for f in made.findings)
        found = Drawn(parts=len(made.parts), to_fix=must, parts_print=now.parts_print, picture=picture_of(replace(made, dimensions=())))
    except NotchCoreError:
        found = Drawn(parts=0, to_fix=1, parts_print="", picture=NOTHING)
    while len(_drawn) >= KEPT:
        _drawn.pop(next(iter(_drawn)), None)
    _drawn[_key(now)] = found
    return found


def _next(now: queries.Current, drawn: Drawn, *, made: dict[str, set[str]], cut: bool) -> Next:
    """Return the first station, in the order of the work, that has something left to do."""
    if drawn.to_fix:
        return Next(station="build", says=say("next.to_fix", number=drawn.to_fix))
    for stage, wanted, first, again in (
        (Stage.DRY_FIT, now.checked_from, "next.dry-fit", "next.dry-fit.again"),
        (Stage.LAY_OUT, drawn.parts_print, "next.lay-out", "next.lay-out.again"),
    ):
        if wanted not in made.get(stage, ()):
            return Next(station=stage, says=say(again if stage in made else first))
    if Stage.CUT_PLAN not in made:
        return Next(station=Stage.CUT_PLAN, says=say("next.cut-plan"))
    return Next(station="run", says=say("next.run.again" if cut else "next.run"))


@router.get("/shop-board", response=list[ProjectCard], operation_id="shopBoard")
def shop_board(request: HttpRequest) -> list[ProjectCard]:
    rows = list(mine(request, Project).filter(is_test=False, put_away=None).select_related("machine", "shop").order_by("-changed"))
    made: dict[int, dict[str, set[str]]] = defaultdict(dict)
    for project_id, stage, print_ in StageResult.objects.filter(project__in=rows).values_list("project_id", "stage", "made_from"):
        made[project_id].setdefault(stage, set()).add(print_)
    good: dict[int, int] = defaultdict(int)
    for project_id, log in Run.objects.filter(project__in=rows, state=RunState.DONE).values_list("project_id", "log"):
        good[project_id] += int(log.get("good", 0))
    cards, started, built = [], time.monotonic(), 0
    for project in rows:
        now = queries.current(project)
        drawn = _drawn.get(_key(now))
        if drawn is None and (not built or time.monotonic() - started < MOMENT_S):
            drawn, built = _draw(now), built + 1
        face = None
        if drawn is not None:
            following = _next(now, drawn, made=made[project.pk], cut=good[project.pk] > 0)
            colours = {k: s.colour for k, s in now.stocks.items()}
            face = Face(family=label_of(now.design), parts=drawn.parts, next=following, picture=drawn.picture, colours=colours)
        cards.append(
            ProjectCard(
                id=project.pk,
                name=project.name,
                revision=project.head,
                changed=project.changed,
                deadline=project.deadline,
                pieces_cut=good[project.pk],
                face=face,
            )
        )
    return cards


class KeptAside(Schema):
    """A project that is not on the board."""

    id: int
    name: str
    place: ProjectPlace
    since: datetime
    gone_on: datetime | None  #: None: it stays


class PlaceIn(Schema):
    place: ProjectPlace


@router.get("/shop-board/aside", response=list[KeptAside], operation_id="keptAside")
def kept_aside(request: HttpRequest) -> list[KeptAside]:
    """Return the projects that were put away or deleted, newest first."""
    rows = mine(request, Project).filter(is_test=False, put_away__isnull=False).order_by("-put_away")
    return [KeptAside(id=p.pk, name=p.name, place=place_of(p), since=p.deleted or p.put_away or p.changed, gone_on=gone_on(p)) for p in rows]


@router.put("/projects/{project_id}/place", response=list[KeptAside], operation_id="keepProject")
def keep_project(request: HttpRequest, project_id: int, body: PlaceIn) -> list[KeptAside]:
    """Put a project away, delete it, or bring it back to the board."""
    require_role(request, Role.DESIGNER)
    keep(project=project_row(request, project_id), place=body.place)
    return kept_aside(request)
