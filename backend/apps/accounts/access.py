"""Who is asking, in which shop, and may they. The one place that scopes queries by shop."""

from __future__ import annotations

from typing import TypeVar

from django.db import models
from django.http import HttpRequest

from apps.accounts.models import Member, Role
from notchcore.errors import NotchCoreError
from notchcore.words.facts import Sentence
from notchcore.words.render import say


class Refused(NotchCoreError):
    """Something is not there, not allowed or not possible now; with the status that says so."""

    def __init__(self, status: int, says: Sentence, *, code: str = "") -> None:
        self.status = status
        self.code = code or f"http.{status}"
        super().__init__(says)


Row = TypeVar("Row", bound=models.Model)
RANK = {Role.VIEWER: 0, Role.OPERATOR: 1, Role.DESIGNER: 2, Role.OWNER: 3}


def member_of(request: HttpRequest) -> Member:
    """Return the membership of whoever asks; 403 without a shop."""
    member = getattr(request, "_member", None)
    if member is None:
        user = request.user.pk or 0  # nobody has the number 0
        member = Member.objects.select_related("shop", "user").filter(user_id=user).order_by("pk").first()
        if member is None:
            raise Refused(403, say("no_shop"))
        request._member = member  # type: ignore[attr-defined]
    return member


def require_role(request: HttpRequest, least: Role) -> Member:
    """Return the membership if it reaches the role; 403 else."""
    member = member_of(request)
    if RANK[Role(member.role)] < RANK[least]:
        raise Refused(403, say("role_needed", role=least.value, yours=member.role))
    return member


def mine(request: HttpRequest, model: type[Row], path: str = "shop") -> models.QuerySet[Row]:
    """Return the rows of a table that belong to the asking member's shop."""
    return model._default_manager.filter(**{path: member_of(request).shop_id})
