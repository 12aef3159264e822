"""A plan changed by hand: cuts put in another order, and warnings accepted."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from apps.accounts.models import Member
from apps.designs import queries
from apps.designs.models import Project, Stage, StageResult
from apps.plans import convert, services
from notchcore.errors import PlanError
from notchcore.findings import Severity
from notchcore.plan.reorder import moved_stroke
from notchcore.words.render import say


class PlanMeanwhile(Exception):
    """Somebody else changed the plan first."""


def version_of(row: StageResult | None) -> str:
    """Return what tells one state of a plan from another."""
    return f"{row.made_from}.{row.created.isoformat()}" if row else ""


def _locked(project: Project, version: str) -> tuple[StageResult, services.PlanInputs]:
    """Return the plan locked for a change made on a version of it, and what it was made from."""
    inputs = services.inputs_of(project)
    kept = queries.kept_for(project, Stage.CUT_PLAN, made_from=lambda: inputs.made_from if inputs else "")
    row = StageResult.objects.select_for_update().filter(pk__in=[kept.pk] if kept else []).first()
    if row is None or version_of(row) != version:
        raise PlanMeanwhile
    if inputs is None or row.made_from != inputs.made_from:
        raise PlanError(say("plan_outdated"))
    return row, inputs


@transaction.atomic
def move(project: Project, version: str, *, sheet: int, path: str, to: int) -> None:
    """Put a cut at another place of its sheet's order and keep that.

    Raises:
        PlanMeanwhile: the plan was changed since `version`
        PlanError: it is older than what it was made from, or what must come first would come after
    """
    row, inputs = _locked(project, version)
    plan = moved_stroke(services.plan_of(row), sheet, path=path, to=to, machine=inputs.machine)
    row.payload = convert.PLAN.dump_python(plan, mode="json") | {"accepted": row.payload.get("accepted")}
    row.save()


@transaction.atomic
def accept(project: Project, version: str, *, member: Member) -> None:
    """Remember who read what a plan warns of, and when.

    Raises:
        PlanMeanwhile: the plan was changed since `version`
        PlanError: an error stops it, which nobody can accept
    """
    row, _ = _locked(project, version)
    if any(f.severity is Severity.MUST for f in services.plan_of(row).findings):
        raise PlanError(say("red_not_accepted"))
    row.payload = row.payload | {"accepted": {"by": member.user.username, "on": timezone.now().isoformat()}}
    row.save()
