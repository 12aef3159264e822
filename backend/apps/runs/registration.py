"""Reading registration marks before a run: by the machine's camera, or typed by a person."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.conf import settings

from apps.designs.models import Project
from apps.plans.services import stored_plan
from devices.line import DeviceLine, DeviceNotThere
from notchcore.errors import PlanError
from notchcore.geom.vectors import Vec2
from notchcore.plan.cut_plan import SheetPlan
from notchcore.plan.moves import Move
from notchcore.plan.registration import MarksRead, read_marks
from notchcore.words.render import say


def run_of(project: Project, number: int) -> SheetPlan:
    """Return a run of the plan by its number from 1.

    Raises:
        PlanError: there is no such run
    """
    stored = stored_plan(project)
    if stored is None or not 1 <= number <= len(stored[1].sheets):
        raise PlanError(say("no_such_run"))
    return stored[1].sheets[number - 1]


def looked_up(project: Project, number: int, *, practise: str) -> list[Vec2]:
    """Return the marks of a run as the machine's camera finds them.

    Args:
        practise: a wrong way to lay the sheet, for practice on the simulated machine
    Raises:
        PlanError: the run has no marks, or the machine does not answer
    """
    sheet = run_of(project, number)
    if not sheet.lay.marks:
        raise PlanError(say("no_marks_needed"))
    try:
        with DeviceLine("laser", settings.LASER_ADDRESS, timeout=3.0) as laser:
            told = laser.say(do="look", marks=sheet.lay.marks, width=sheet.width, height=sheet.height, lies=practise, seed=project.pk * 100 + number)
    except DeviceNotThere as problem:
        raise PlanError(say("marks_by_pointer", why=str(problem))) from problem
    if not told["ok"]:
        raise PlanError(say("camera_finds_nothing", why=told["why"]))
    return [(float(x), float(y)) for x, y in told["found"]]


def read(project: Project, number: int, *, found: Sequence[Vec2]) -> MarksRead:
    return read_marks(run_of(project, number).lay.marks, found)


def moved(moves: Sequence[Move], sheet: SheetPlan, *, found: Sequence[Vec2]) -> list[Move]:
    """Return a run's moves where its sheet really lies.

    Raises:
        PlanError: marks are needed and were not read, or tell that the sheet lies wrongly
    """
    if not sheet.lay.marks:
        return list(moves)
    if not found:
        raise PlanError(say("marks_first"))
    seen = read_marks(sheet.lay.marks, found)
    if seen.problem:
        raise PlanError(seen.problem)
    return [replace(m, points=tuple(map(seen.move, m.points))) for m in moves]
