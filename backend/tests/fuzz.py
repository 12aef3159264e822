"""Requests that make little sense, drawn from the API's own schema: whatever comes, the answer is no crash.

Calls are sent in this process and rolled back. What the schema allows and what it does not is drawn by a schema-based fuzzer; on top,
values are put in place of others that have broken programs before.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from random import Random
from typing import Any

from django.db import transaction
from django.test import Client
from hypothesis import strategies as st

AWKWARD: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, -1e308, 1e-308, 2**63, 2**31, "", " ", "\x00", "ß" * 300, "9" * 400, "=1+1", "'; --", [], {}, [[]], [None], {"a": None}, "null",
    "1e999", "../..", "2026-13-45", "not base64!", "0", "-0", 0.1, [1e308, 1e308], [[0, 0]], [[0, 0], [1e308, 0], [0, 1]],
)  # fmt: skip
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
