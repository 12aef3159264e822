"""Who is asking, in which shop, and may they. The one place that scopes queries by shop."""

from __future__ import annotations

from typing import TypeVar

from django.db import models
from django.http import HttpRequest
from ninja.errors import HttpError

from apps.accounts.models import Member, Role

Row = TypeVar("Row", bound=models.Model)
RANK = {Role.VIEWER: 0, Role.OPERATOR: 1, Role.DESIGNER: 2, Role.OWNER: 3}


def member_of(request: HttpRequest) -> Member:
    """Return the membership of whoever asks; 403 without a shop."""
    member = getattr(request, "_member", None)
    if member is None:
        user = request.user.pk or 0  # nobody has the number 0
        member = Member.objects.select_related("shop", "user").filter(user_id=user).order_by("pk").first()
        if member is None:
            raise HttpError(403, "You do not belong to a shop yet. Ask its owner to add you.")
        request._member = member  # type: ignore[attr-defined]
    return member


def require_role(request: HttpRequest, least: Role) -> Member:
    """Return the membership if it reaches the role; 403 else."""
    member = member_of(request)
    if RANK[Role(member.role)] < RANK[least]:
        raise HttpError(403, f"This needs the role {least.value}; yours is {member.role}. Ask the shop's owner.")
    return member


def mine(request: HttpRequest, model: type[Row], path: str = "shop") -> models.QuerySet[Row]:
    """Return the rows of a table that belong to the asking member's shop."""
    return model._default_manager.filter(**{path: member_of(request).shop_id})
