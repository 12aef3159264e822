"""Shops and who works in them."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Shop(models.Model):
    """Owns sheets, machines and projects; nothing is shared between shops."""

    name = models.CharField(max_length=80)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    """What a member may do; each may do all that those below may."""

    OWNER = "owner"
    DESIGNER = "designer"
    OPERATOR = "operator"
    VIEWER = "viewer"


class Member(models.Model):
    """A user in a shop."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="members")
    role = models.CharField(max_length=10, choices=Role, default=Role.DESIGNER)
    unit = models.CharField(max_length=6, default="mm")  #: how this person reads and types lengths

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "shop"], name="one_membership_a_shop")]
