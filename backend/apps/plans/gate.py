"""Nothing wrong leaves the house: what was found before the cut stops files and runs until it is mended, or a named person overrules it once."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from django.utils import timezone

from apps.accounts.models import Member
from apps.designs import queries
from apps.designs.convert import DRY_FIT
from apps.designs.models import Project, Stage
from apps.told import all_kept, all_told
from notchcore.errors import PlanError
from notchcore.findings import Finding, Severity
from notchcore.fingerprint import fingerprint
from notchcore.words.facts import Listed, Sentence
from notchcore.words.render import say

UNTRIED = Finding(code="dry_fit_not_tried", severity=Severity.MUST, says=say("dry_fit_not_tried"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Overruled:
    """Who said that it is cut all the same, when, and what was known."""

    by: str
    on: datetime
    known: tuple[Sentence, ...]

    @property
    def says(self) -> Sentence:
        return say("overruled", by=self.by, on=f"{self.on:%d %B %Y}", known=Listed(self.known, between=" "))


def found_before(now: queries.Current) -> tuple[Finding, ...]:
    """Return what Build and Dry fit say must not be cut, and whether the dry fit was tried at all."""
    found = [f for f in now.assembly.findings if f.severity is Severity.MUST]
    if now.design.is_test:
        return tuple(found)
    row = queries.result_of(now, Stage.DRY_FIT)
    if row is None or row.made_from != now.checked_from:
        return (*found, UNTRIED)
    known = {f.key for f in found}
    return (*found, *(f for f in DRY_FIT.validate_python(row.payload).findings if f.severity is Severity.MUST and f.key not in known))


def print_of(now: queries.Current, found: tuple[Finding, ...]) -> str:
    """Return what tells these findings on these parts from any others: what is overruled is overruled for them alone."""
    return fingerprint(now.parts_print, sorted((f.code, f.parts, f.meeting or f.item) for f in found))


def overruled_of(now: queries.Current, found: tuple[Finding, ...]) -> Overruled | None:
    """Return who overruled exactly these findings; None for nobody."""
    seen = print_of(now, found)
    kept = next((said for said in now.project.overruled if said["print"] == seen), None) if found else None
    if kept is None:
        return None
    return Overruled(by=kept["by"], on=datetime.fromisoformat(kept["on"]), known=all_told(kept["known"]))


def passed(now: queries.Current) -> Overruled | None:
    """Return who overruled what was found, None where nothing was.

    Raises:
        PlanError: something was found that nobody overruled
    """
    found = found_before(now)
    said = overruled_of(now, found)
    if found and said is None:
        raise PlanError(say("files_held", why=found[0].says), reasons=[f.message for f in found])
    return said


@transaction.atomic
def overrule(project: Project, member: Member, *, seen: str) -> None:
    """Let a person say that it is cut all the same.

    Args:
        seen: print of what was shown
    Raises:
        PlanError: something else was found meanwhile
    """
    row = Project.objects.select_for_update().select_related("machine", "shop").get(pk=project.pk)
    now = queries.current(row)
    found = found_before(now)
    if not found or print_of(now, found) != seen:
        raise PlanError(say("finding_is_another"))
    said = {
        "print": seen,
        "by": member.user.get_username(),
        "on": timezone.now().isoformat(),
        "known": all_kept(tuple(f.says for f in found)),
    }
    row.overruled = [*(s for s in row.overruled if s["print"] != seen), said]
    row.save(update_fields=["overruled"])
    project.overruled = row.overruled
