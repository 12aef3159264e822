"""The page, its policy, signing in and out, and addresses that lead nowhere."""

from __future__ import annotations

import gzip
import time
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from apps.designs.models import Project
from apps.runs import demo
from config import idle as idle_module
from tests.apps.conftest import Api


@pytest.fixture
def built(settings: Any, tmp_path: Path) -> str:
    settings.FRONTEND_DIST = tmp_path
    (tmp_path / "index.html").write_text("<title>Notch Board</title>")
    return "<title>Notch Board</title>"


@pytest.mark.parametrize("path", ["/", "/projects/1/build", "/anything/at/all"])
def test_every_address_of_the_front_end_gives_the_one_page(client: Client, built: str, path: str) -> None:
    response = client.get(path)
    assert (response.status_code, response.content.decode()) == (200, built)
    assert response["Cache-Control"] == "no-cache"
    assert "csrftoken" in response.cookies


def test_a_page_loads_only_what_this_server_ships(client: Client, built: str) -> None:
    policy = client.get("/")["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "unsafe-eval" not in policy
    assert "http" not in policy.replace("http-equiv", "")
    assert client.get("/")["X-Frame-Options"] == "DENY"


def test_a_front_end_that_is_not_built_says_what_to_do(client: Client, settings: Any, tmp_path: Path) -> None:
    settings.FRONTEND_DIST = tmp_path
    response = client.get("/")
    assert response.status_code == 503
    assert "./board up" in response.content.decode()


def test_signing_in_and_out(drawer: Project) -> None:
    client = Client()
    assert client.get("/api/me").json()["username"] is None
    signed = client.post("/api/sign-in", {"username": demo.USER, "password": demo.PASSWORD}, content_type="application/json")
    assert signed.json() == {"username": "alder", "shop": "Alder Row Workshop", "role": "owner", "unit": "mm"}
    assert client.get(f"/api/projects/{drawer.pk}").status_code == 200
    assert client.post("/api/sign-out").json()["username"] is None
    assert client.get(f"/api/projects/{drawer.pk}").status_code == 401


def test_a_wrong_password_says_no_more_than_that(drawer: Project) -> None:
    answers = [Client().post("/api/sign-in", {"username": name, "password": "wrong"}, content_type="application/json").json() for name in (demo.USER, "nobody")]
    assert answers[0] == answers[1]


def test_a_name_waits_after_several_wrong_passwords_and_no_other_does(drawer: Project, settings: Any) -> None:
    def sign_in(name: str, password: str) -> tuple[int, str]:
        answer = Client().post("/api/sign-in", {"username": name, "password": password}, content_type="application/json")
        return answer.status_code, answer.json().get("code", "")

    settings.AXES_COOLOFF_TIME = timedelta(seconds=1)
    assert sign_in(demo.USER, demo.PASSWORD)[0] == 200
    tried = [sign_in(demo.USER, f"guess {i}") for i in range(settings.AXES_FAILURE_LIMIT + 1)]
    assert tried[0] == (401, "accounts.not_known")
    assert tried[-1] == sign_in(demo.USER, demo.PASSWORD) == (429, "accounts.wait")  # the right one has to wait too
    assert sign_in("nobody", "x")[0] == 401
    time.sleep(1.2)
    assert sign_in(demo.USER, demo.PASSWORD)[0] == 200


def test_a_write_without_the_pages_token_is_refused(drawer: Project) -> None:
    client = Client(enforce_csrf_checks=True)
    client.force_login(drawer.shop.members.get(user__username=demo.USER).user)
    path = f"/api/projects/{drawer.pk}/name"
    assert client.put(path, {"name": "Other"}, content_type="application/json").status_code == 403
    token = client.get("/api/me").cookies["csrftoken"].value
    assert client.put(path, {"name": "Other"}, content_type="application/json", headers={"X-CSRFToken": token}).status_code == 200


def test_the_unit_is_each_persons_own(api: Api, shop: Any) -> None:
    assert api.ok("put", "me/unit", {"unit": "in/64"})["unit"] == "in/64"
    assert Api("mossgate").ok("get", "me")["unit"] == "mm"
    assert api("put", "me/unit", {"unit": "cubits"}).status_code == 422


@pytest.mark.parametrize(
    "path",
    ["projects/999999", "projects/999999/build", "projects/{project}/meetings/front+moon", "projects/{project}/files/sheet-9.svg", "runs/999999", "nothing"],
)
def test_what_is_not_there_is_told_as_not_there(api: Api, drawer: Project, path: str) -> None:
    assert api("get", path.format(project=drawer.pk)).status_code == 404


@pytest.mark.parametrize("body", ["", "{", "[]", '"text"', "null", '{"base": "six"}', '{"base": 6, "design": {}, "label": ""}'])
def test_a_body_that_makes_no_sense_is_refused_not_crashed_on(api: Api, drawer: Project, body: str) -> None:
    response = api.client.put(f"/api/projects/{drawer.pk}/design", body, content_type="application/json")
    assert response.status_code in (400, 422)
    assert Project.objects.get(pk=drawer.pk).head == drawer.head


def test_files_carry_their_names_and_kinds(api: Api, drawer: Project) -> None:
    for name, kind, start in (
        ("sheet-1.svg", "image/svg+xml", b"<?xml"),
        ("sheet-1.dxf", "image/vnd.dxf", b"  0"),
        ("run-sheet.pdf", "application/pdf", b"%PDF"),
        ("cut-list.csv", "text/csv", b"mark,part"),
        ("all.zip", "application/zip", b"PK"),
    ):
        response = api("get", f"projects/{drawer.pk}/files/{name}")
        assert response["Content-Type"] == kind
        assert response.content.startswith(start)
        assert 'filename="seed-packet-drawer-r6' in response["Content-Disposition"]


def test_garbage_is_looked_for_only_when_the_server_is_still(monkeypatch: pytest.MonkeyPatch) -> None:
    seen: list[int] = []
    monkeypatch.setattr("config.idle.gc.collect", seen.append)
    monkeypatch.setattr("config.idle.gc.get_count", lambda: (idle_module.WORTH, 0, 0))
    idle = idle_module.Idle()
    assert not idle.look()
    idle.last -= idle_module.STILL_S
    assert idle.look()
    idle.touched(sender=None)
    assert not idle.look()
    for _ in range(idle_module.OLD_EVERY):
        idle.last = -1e9
        idle.look()
    assert seen.count(2) == 1


def test_large_answers_are_packed_for_whoever_can_unpack_them(api: Api, drawer: Project) -> None:
    path = f"/api/projects/{drawer.pk}/build"
    plain, packed = api.client.get(path), api.client.get(path, headers={"accept-encoding": "gzip"})
    assert "Content-Encoding" not in plain
    assert (packed["Content-Encoding"], packed["Content-Length"]) == ("gzip", str(len(packed.content)))
    assert "Accept-Encoding" in packed["Vary"]
    assert gzip.decompress(packed.content) == plain.content
    assert len(packed.content) < len(plain.content) / 3
