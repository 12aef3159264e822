"""Signing in and out."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema, Status

from apps.accounts import services
from apps.accounts.access import Refused, member_of, require_role
from apps.accounts.models import Member, Role
from notchcore.units import Unit
from notchcore.words.facts import Sentence
from notchcore.words.render import say

router = Router(tags=["accounts"])


class Me(Schema):
    username: str | None = None
    shop: str | None = None
    role: str | None = None
    unit: str = "mm"


class SignIn(Schema):
    username: str
    password: str


class Problem(Schema):
    """What a refusal says, as `config/api.py` sends every error of the core."""

    code: str
    message: str
    says: Sentence
    facts: dict[str, object] = {}


class UnitChoice(Schema):
    unit: Unit


class Person(Schema):
    id: int
    username: str
    role: Role


class PersonIn(Schema):
    username: str = Field(max_length=60)
    password: str = Field(max_length=200)
    role: Role = Role.DESIGNER


class RoleIn(Schema):
    role: Role | None  #: None takes the person out of the shop


def _people(request: HttpRequest) -> list[Person]:
    rows = Member.objects.select_related("user").filter(shop=member_of(request).shop_id).order_by("user__username")
    return [Person(id=m.pk, username=m.user.get_username(), role=Role(m.role)) for m in rows]


def _me(request: HttpRequest) -> Me:
    if not request.user.is_authenticated:
        return Me()
    member = Member.objects.select_related("shop").filter(user=request.user).order_by("pk").first()
    if member is None:
        return Me(username=request.user.username)
    return Me(username=request.user.username, shop=member.shop.name, role=member.role, unit=member.unit)


@router.get("/me", auth=None, response=Me, operation_id="me")
def me(request: HttpRequest) -> Me:
    get_token(request)
    return _me(request)


@router.post("/sign-in", auth=None, response={200: Me, 401: Problem, 429: Problem}, operation_id="signIn")
def sign_in(request: HttpRequest, body: SignIn) -> Me:
    user = authenticate(request, username=body.username, password=body.password)
    if user is None and getattr(request, "axes_locked_out", False):
        raise Refused(429, say("sign_in.wait", minutes=round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)), code="accounts.wait")
    if user is None:
        raise Refused(401, say("sign_in.not_known"), code="accounts.not_known")
    login(request, user)
    return _me(request)


@router.post("/sign-out", response=Me, operation_id="signOut")
def sign_out(request: HttpRequest) -> Me:
    logout(request)
    return Me()


@router.put("/me/unit", response=Me, operation_id="chooseUnit")
def choose_unit(request: HttpRequest, body: UnitChoice) -> Me:
    member = member_of(request)
    member.unit = body.unit
    member.save(update_fields=["unit"])
    return _me(request)


@router.get("/people", response=list[Person], operation_id="people")
def people(request: HttpRequest) -> list[Person]:
    return _people(request)


@router.post("/people", response={201: list[Person]}, operation_id="addPerson")
def add_person(request: HttpRequest, body: PersonIn) -> Status[list[Person]]:
    owner = require_role(request, Role.OWNER)
    services.add_member(shop=owner.shop, **body.dict())
    return Status(201, _people(request))


@router.put("/people/{member_id}", response=list[Person], operation_id="setRole")
def set_role(request: HttpRequest, member_id: int, body: RoleIn) -> list[Person]:
    owner = require_role(request, Role.OWNER)
    services.set_role(shop=owner.shop, member_id=member_id, role=body.role)
    return _people(request)
