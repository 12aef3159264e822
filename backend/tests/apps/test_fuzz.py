"""Whatever is sent, the server answers with words, never with a crash (`./board bench fuzz` sends many more)."""

from __future__ import annotations

import os
from random import Random
from typing import Any

import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from apps.designs.models import Project
from tests import fuzz
from tests.apps.conftest import Api

A_CALL = int(os.environ.get("FUZZ_CALLS", "4"))  # drawn for each operation
AWKWARD = 150 * A_CALL

pytestmark = pytest.mark.filterwarnings("ignore::DeprecationWarning")


def drawn(cases: st.SearchStrategy[Any], number: int) -> list[Any]:
    found: list[Any] = []

    @seed(number)
    @settings(max_examples=A_CALL, deadline=None, database=None, suppress_health_check=list(HealthCheck), phases=[Phase.generate])
    @given(case=cases)
    def draw(case: Any) -> None:
        found.append(case)

    draw()
    return found


def test_nothing_that_the_schema_allows_or_forbids_breaks_the_server(api: Api, drawer: Project) -> None:
    known, wrong, calls = fuzz.known_of(api.client), [], 0
    for number, op in enumerate(fuzz.operations()):
        r = Random(f"{op.name} {os.environ.get('FUZZ_SEED', '')}")
        for case in drawn(op.cases, number):
            call = fuzz.call_of(op, case, known, r)
            calls += 1
            what = fuzz.broken(api.client, call)
            if what:
                wrong.append(f"{op.name}: {what} {str(call)[:300]}")
    assert calls > 100
    assert wrong == []


def test_nothing_that_makes_nearly_sense_breaks_the_server(api: Api, drawer: Project) -> None:
    known, r = fuzz.known_of(api.client), Random(f"awkward {os.environ.get('FUZZ_SEED', '')}")
    wrong = []
    for _ in range(AWKWARD):
        call = fuzz.awkward_call(known, r)
        what = fuzz.broken(api.client, call)
        if what:
            wrong.append(f"{what} {str(call)[:400]}")
    assert wrong == []


def test_no_file_breaks_the_server(api: Api, drawer: Project) -> None:
    assert fuzz.broken_uploads(api.client, fuzz.known_of(api.client)) == []
