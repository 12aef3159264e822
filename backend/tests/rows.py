"""The demo shop as rows: computed once, put back in an instant whenever a test begins without it."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import chain
from typing import Any

from django.apps import apps
from django.contrib.auth import get_user_model
from django.core import serializers
from django.core.management.color import no_style
from django.db import connection, transaction
from django.db.models import Model

from apps.runs import demo


def _models() -> list[type[Model]]:
    return [m for m in apps.get_models() if m.__module__.startswith("apps.") or m is get_user_model()]


def demo_rows(*, pack_seconds: float) -> str:
    """Return the rows of a freshly loaded demo; the database stays as it was."""
    with transaction.atomic():
        demo.load(pack_seconds=pack_seconds)
        rows = serializers.serialize("json", chain.from_iterable(m._default_manager.order_by("pk") for m in _models()))
        transaction.set_rollback(True)
    return rows


def put_back(rows: str) -> None:
    """Write the rows into empty tables, with the numbers they had."""
    by_model: dict[type[Model], list[Model]] = {}
    for row in serializers.deserialize("json", rows):
        by_model.setdefault(type(row.object), []).append(row.object)
    with transaction.atomic():  # foreign keys are checked at its end
        for model, objects in by_model.items():
            model._default_manager.bulk_create(objects)
        with connection.cursor() as cursor:
            for sql in connection.ops.sequence_reset_sql(no_style(), list(by_model)):
                cursor.execute(sql)


def said(sentence: dict | None) -> str:
    """Return a sentence that came over the wire, or out of a row, as text in mm."""
    return "".join(s["text"] for s in (sentence or {"spans": []})["spans"])


def ticks(checklist: Iterable[Any]) -> list[str]:
    """Return what is sent when all of a checklist is ticked: sentences of the core, or as they came over the wire."""
    return [said(c) if isinstance(c, dict) else c.text for c in checklist]
