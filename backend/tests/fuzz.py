"""Requests that make little sense, drawn from the API's own schema: whatever comes, the answer is no crash.

Calls are sent in this process and rolled back. What the schema allows and what it does not is drawn by a schema-based fuzzer; on top,
values are put in place of others that have broken programs before.
"""

from __future__ import annotations

import json
import struct
from dataclasses import dataclass
from itertools import product
from random import Random
from typing import Any

from django.db import transaction
from django.test import Client
from hypothesis import strategies as st

AWKWARD: tuple[Any, ...] = (
    None,
    True,
    0,
    -1,
    1e308,
    -1e308,
    1e-308,
    2**63,
    2**31,
    "",
    " ",
    "\x00",
    "ß" * 300,
    "9" * 400,
    "=1+1",
    "'; --",
    [],
    {},
    [[]],
    [None],
    {"a": None},
    "null",
    "1e999",
    "²",
    "٣",
    "../..",
    "2026-13-45",
    "not base64!",
    "0",
    "-0",
    0.1,
    [1e308, 1e308],
    [[0, 0]],
    [[0, 0], [1e308, 0], [0, 1]],
)
NEVER = {"signOut", "signIn", "restoreAll", "deleteProject"}  # they end what the others need


@dataclass(frozen=True)
class Operation:
    """One operation of the API, with a way to draw requests for it."""

    name: str
    method: str
    path: str
    cases: st.SearchStrategy[Any]


@dataclass(frozen=True)
class Call:
    """One request as it is sent."""

    method: str
    path: str
    body: Any
    query: dict[str, Any]


def operations() -> list[Operation]:
    """Return all operations of the API."""
    import schemathesis
    from schemathesis import GenerationMode

    from config.api import api

    schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema(), default=str)))
    found = []
    for result in schema.get_all_operations():
        op = result.ok()
        name = op.definition.raw.get("operationId", op.label)
        if name in NEVER:
            continue
        modes = [op.as_strategy(generation_mode=m) for m in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)]
        found.append(Operation(name=name, method=op.method.lower(), path=op.path, cases=st.one_of(modes)))
    return sorted(found, key=lambda o: o.name)


def _spoiled(value: Any, r: Random) -> Any:
    """Return a body with one value in it replaced by an awkward one."""
    if isinstance(value, dict) and value and r.random() < 0.9:
        key = r.choice(sorted(value, key=str))
        return {**value, key: _spoiled(value[key], r)}
    if isinstance(value, list) and value and r.random() < 0.8:
        k = r.randrange(len(value))
        return [*value[:k], _spoiled(value[k], r), *value[k + 1 :]]
    return r.choice(AWKWARD)


def call_of(op: Operation, case: Any, known: dict[str, Any], r: Random) -> Call:
    """Return a drawn case as a request: ids mostly of things that are there, bodies now and then spoiled."""
    path = op.path
    for name, value in (case.path_parameters or {}).items():
        there = known.get(name)
        chosen = r.choice(there) if there and r.random() < 0.9 else value
        path = path.replace(f"{{{name}}}", str(chosen).replace("/", "%2F") or "0")
    body = case.body if not type(case.body).__name__.startswith("NotSet") else None
    if isinstance(body, bytes) or (body is not None and not _is_json(body)):
        body = None
    if isinstance(body, dict) and r.random() < 0.5 and known.get(f"body {op.name}"):
        body = r.choice(known[f"body {op.name}"])
    if body is not None and r.random() < 0.5:
        body = _spoiled(body, r)
    query = {k: v for k, v in (case.query or {}).items() if v is not None and not isinstance(v, dict | list)}
    return Call(method=op.method, path=path, body=body, query=query)


def _is_json(value: Any) -> bool:
    try:
        json.dumps(value)
    except (TypeError, ValueError):
        return False
    return True


def broken(client: Client, call: Call) -> str:
    """Send a request, take back what it did, and return what broke; empty when nothing did."""
    try:
        with transaction.atomic():
            send = getattr(client, call.method)
            path = call.path + ("?" + "&".join(f"{k}={v}" for k, v in call.query.items()) if call.query else "")
            answer = send(path.replace(" ", "%20"), json.dumps(call.body), content_type="application/json") if call.body is not None else send(path)
            status = answer.status_code
            transaction.set_rollback(True)
    except Exception as problem:  # noqa: BLE001  (whatever it is, it is what we look for)
        return f"{type(problem).__name__}: {str(problem)[:200]}"
    return f"status {status}" if status >= 500 else ""


def known_of(client: Client) -> dict[str, list[Any]]:
    """Return ids of things that are there, and bodies that make sense, for calls that get further than the first check."""
    from apps.designs.models import Project
    from apps.runs.models import Run
    from apps.sheets.models import Machine, Sheet, Stock

    projects = list(Project.objects.all())
    heads = [(p, client.get(f"/api/projects/{p.pk}").json()) for p in projects]
    layouts = [client.get(f"/api/projects/{p.pk}/lay-out").json()["request"] for p in projects if not p.is_test]
    return {
        "project_id": [p.pk for p in projects],
        "stock_id": [s.pk for s in Stock.objects.all()],
        "sheet_id": [s.pk for s in Sheet.objects.all()],
        "run_id": [r.pk for r in Run.objects.all()],
        "machine_id": [m.pk for m in Machine.objects.all()],
        "sheet": [0, 1, 2],
        "part_id": ["front", "base"],
        "name": ["all.zip", "sheet-1.svg"],
        "number": [1, 2],
        "body saveDesign": [{"base": h["revision"], "design": h["design"], "label": "x"} for _, h in heads],
        "body pack": layouts,
        "body sheetsNeeded": layouts,
        "body choosePlan": [{"lead": 2.0, "thick": [], "second": "auto", "turn": "sideways", "numbers": "front"}],
        "body startRun": [{"sheet": 1, "ticked": ["a"], "fault": "", "found": [[1, 2], [3, 4], [5, 6]]}],
        "body readRegistration": [{"sheet": 1, "found": [[1, 2], [3, 4], [5, 6]], "practise": ""}],
    }


def awkward_call(known: dict[str, list[Any]], r: Random) -> Call:
    """Return a call whose body made sense but for one value or two."""
    paths = {
        "saveDesign": ("put", "projects/{}/design"),
        "pack": ("post", "projects/{}/lay-out/pack"),
        "sheetsNeeded": ("post", "projects/{}/lay-out/need"),
        "choosePlan": ("patch", "projects/{}/cut-plan/choices"),
        "startRun": ("post", "projects/{}/runs"),
        "readRegistration": ("post", "projects/{}/runs/registration"),
    }
    name = r.choice(sorted(paths))
    k = r.randrange(len(known[f"body {name}"]))
    body = known[f"body {name}"][k]
    for _ in range(r.choice((1, 1, 2))):
        body = _spoiled(body, r)
    method, path = paths[name]
    project = known["project_id"][k] if name == "saveDesign" else r.choice(known["project_id"])
    return Call(method=method, path="/api/" + path.format(project), body=body, query={})


def _stl(value: float) -> bytes:
    return b"x" * 80 + struct.pack("<I", 2) + 2 * struct.pack("<12fH", *[value] * 12, 0)


FILES: tuple[tuple[str, bytes], ...] = (
    ("a.stl", _stl(1e38)),
    ("a.stl", _stl(float("nan"))),
    ("a.stl", _stl(float("inf"))),
    ("a.stl", b""),
    ("a.svg", b"<svg"),
    ("a.dxf", b"\x00\xff" * 50),
    ("a.stl", b"solid x\nfacet normal 0 0 1\nouter loop\nvertex 1e308 0 0\nvertex 0 1e308 0\nvertex 0 0 -1e308\nendloop\nendfacet\nendsolid"),
    ("a.svg", b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 1e308 1e308' width='1e308mm' height='10mm'><path d='M0 0L1e308 1e308L5 1e308Z'/></svg>"),
    ("a.svg", b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='a b c d'><rect width='nan' height='inf'/><circle r='-1'/><path d='M M L'/></svg>"),
    ("a.dxf", b"0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n1e308\n20\n0\n11\nnan\n21\n1\n0\nENDSEC\n0\nEOF\n"),
    ("a.png", b"\x89PNG\r\n\x1a\n" + b"x" * 50),
    ("a.jpg", b"\xff\xd8\xff\xe0" + b"x" * 99),
    ("a.zip", b"PK\x03\x04xxxx"),
    ("a.json", b'{"stocks": [null]}'),
)


def broken_uploads(client: Client, known: dict[str, list[Any]]) -> list[str]:
    """Send files that are none to everything that takes one, and return what broke."""
    from django.core.files.uploadedfile import SimpleUploadedFile

    from config.api import api

    schema = json.loads(json.dumps(api.get_openapi_schema(), default=str))
    found = []
    for path, methods in schema["paths"].items():
        for method, operation in methods.items():
            form = operation.get("requestBody", {}).get("content", {}).get("multipart/form-data")
            if form is None:
                continue
            fields = form["schema"].get("properties", {})
            where = path.replace("{project_id}", str(known["project_id"][0]))
            for (name, data), filling in product(FILES, (None, "1e308", "nan", "\x00", "")):
                body: dict[str, Any] = {} if filling is None else dict.fromkeys(fields, filling)
                for field in fields:
                    if "binary" in json.dumps(fields[field]):
                        body[field] = SimpleUploadedFile(name, data)
                what = _broken_form(client, method, where, body)
                if what:
                    found.append(f"{method} {path} {name} {data[:30]!r} {filling!r}: {what}")
    return found


def _broken_form(client: Client, method: str, path: str, body: dict[str, Any]) -> str:
    try:
        with transaction.atomic():
            status = getattr(client, method)(path, body).status_code
            transaction.set_rollback(True)
    except Exception as problem:  # noqa: BLE001  (whatever it is, it is what we look for)
        return f"{type(problem).__name__}: {str(problem)[:200]}"
    return f"status {status}" if status >= 500 else ""
