"""The demo shop and signed-in clients."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth import get_user_model
from django.test import Client

from apps.accounts.models import Member, Role, Shop
from apps.designs.models import Project
from apps.runs import demo
from tests.rows import demo_rows, put_back


def pytest_configure() -> None:
    """Passwords of tests need no slow hash."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


class Api:
    """A signed-in browser's way to the API."""

    def __init__(self, username: str) -> None:
        self.client = Client()
        self.client.force_login(get_user_model().objects.get(username=username))

    def __call__(self, method: str, path: str, body: Any = None) -> Any:
        return (
            getattr(self.client, method)(f"/api/{path}", body, content_type="application/json")
            if body is not None
            else getattr(self.client, method)(f"/api/{path}")
        )

    def ok(self, method: str, path: str, body: Any = None) -> Any:
        response = self(method, path, body)
        assert response.status_code in (200, 201), response.content
        return response.json()


@pytest.fixture(scope="session")
def rows(django_db_setup: None, django_db_blocker: Any) -> str:
    """The demo, loaded once and written down; tests roll their own changes back."""
    with django_db_blocker.unblock():
        written = demo_rows(pack_seconds=0.3)
        put_back(written)
    return written


@pytest.fixture
def shop(rows: str, db: None) -> Shop:
    if not Shop.objects.filter(name="Alder Row Workshop").exists():  # a transactional test has emptied the tables
        put_back(rows)
    return Shop.objects.get(name="Alder Row Workshop")


@pytest.fixture
def api(shop: Shop) -> Api:
    return Api(demo.USER)


@pytest.fixture
def drawer(shop: Shop) -> Project:
    return Project.objects.get(name="Seed packet drawer")


@pytest.fixture
def someone(shop: Shop) -> Callable[..., Api]:
    """Return an API of a new member with a role, in this shop or another."""

    def make(role: Role, *, elsewhere: bool = False) -> Api:
        home = Shop.objects.create(name="Elsewhere") if elsewhere else shop
        user = get_user_model().objects.create_user(f"{role}{elsewhere}", password="a-long-password")
        Member.objects.create(user=user, shop=home, role=role)
        return Api(user.username)

    return make
