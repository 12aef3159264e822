"""What an owner does about the people of a shop."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction

from apps.accounts.models import Member, Role, Shop
from notchcore.errors import NotchCoreError
from notchcore.words.render import say, written


class PeopleError(NotchCoreError):
    """A change among the people of a shop is not possible."""

    code = "accounts.not_possible"


@transaction.atomic
def add_member(*, shop: Shop, username: str, password: str, role: Role) -> Member:
    """Make a sign-in for somebody new and give them a role in the shop."""
    users = get_user_model().objects
    name = username.strip()
    if not name or not all(c.isalnum() or c in "-_." for c in name):
        raise PeopleError(say("name_letters"), field="username")
    if users.filter(username__iexact=name).exists():
        raise PeopleError(say("name_taken", name=name), field="username")
    try:
        validate_password(password)
    except ValidationError as problem:
        raise PeopleError(written(" ".join(problem.messages)), field="password") from None
    return Member.objects.create(user=users.create_user(name, password=password), shop=shop, role=role)


@transaction.atomic
def set_role(*, shop: Shop, member_id: int, role: Role | None) -> None:
    """Give a member another role, or take them out of the shop (None). A shop keeps an owner."""
    members = {m.pk: m for m in Member.objects.select_for_update().filter(shop=shop)}
    member = members.get(member_id)
    if member is None:
        raise PeopleError(say("nobody_by_number"))
    others = any(m.role == Role.OWNER for m in members.values() if m is not member)
    if member.role == Role.OWNER and role != Role.OWNER and not others:
        raise PeopleError(say("shop_needs_owner"))
    if role is None:
        member.delete()
    else:
        member.role = role
        member.save(update_fields=["role"])
