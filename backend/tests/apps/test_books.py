"""Law 5 of the second workshop: the books are right after any sequence of runs, good, spoiled, stopped, partly good."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from random import Random

import pytest

from apps.accounts.models import Member
from apps.designs.models import Project
from apps.layouts import services as layouts
from apps.plans.services import make_plan, stored_plan
from apps.runs import demo, services
from apps.runs.models import Run, RunState
from apps.sheets.models import Sheet
from tests.apps.conftest import Api
from tests.apps.test_build import fresh
from tests.apps.test_dry_fit import checked
from tests.rows import ticks

ROUNDS, CALM = 8, 4  # from the fifth round on nothing is spoiled any more
ENDS = ("good", "good", "some bad", "all bad", "stopped, said", "stopped, unsaid", "bad, unnamed")


def burned(run: Run, end: str, r: Random) -> list[str]:
    """Let a run end in a way; return the pieces that then count as good, by a book of our own."""
    pieces = list(run.parts)
    bad = {"some bad": r.sample(pieces, r.randint(0, len(pieces))), "stopped, said": r.sample(pieces, r.randint(1, len(pieces)))}.get(end, [])
    Run.objects.filter(pk=run.pk).update(state=RunState.STOPPED if end.startswith("stopped") else RunState.DONE)
    if end == "stopped, unsaid":
        return []
    spoiled = 1 if end == "bad, unnamed" else len(bad)
    services.log_run(
        run_id=run.pk, actual_s=60, good=len(pieces) - spoiled, spoiled=spoiled, cut_through=100, feel="", note="", bad=bad, sheet_spoiled=end == "all bad"
    )
    return [] if end in ("all bad", "bad, unnamed") else [p for p in pieces if p not in bad]


@pytest.mark.parametrize("seed", [1, 2, 3, 4])
def test_what_is_missing_is_what_is_wanted_less_what_is_good_until_nothing_is(api: Api, drawer: Project, seed: int) -> None:
    r = Random(seed)
    Run.objects.filter(project=drawer).delete()
    Sheet.objects.update(count=30)
    member = Member.objects.get(user__username=demo.USER)
    request = layouts.default_request(fresh(drawer), seconds=0.2, copies=r.choice([1, 2, 3]))
    checked(api, drawer)
    layouts.pack_project(fresh(drawer), request)
    wanted = {row.part: row.wanted for row in services.recut_of(fresh(drawer)).rows}
    assert sum(wanted.values()) == 10 * request.copies
    good: Counter[str] = Counter()
    for number in range(ROUNDS):
        missing = {row.part: row.missing for row in services.recut_of(fresh(drawer)).rows if row.missing}
        assert missing == {p: n - good[p] for p, n in wanted.items() if n > good[p]}
        if not missing:
            break
        if number:
            layouts.pack_project(fresh(drawer), replace(request, only=missing))
        checked(api, drawer)
        make_plan(fresh(drawer))
        stored = stored_plan(fresh(drawer))
        assert stored is not None
        for k, target in enumerate(stored[1].sheets, start=1):
            shelf = Sheet.objects.get(pk=int(target.sheet))
            ticked = ticks(services.checklist_for(fresh(drawer), k))
            run = services.start_run(project=fresh(drawer), member=member, sheet=k, ticked=ticked)
            end = "good" if number >= CALM else r.choice(ENDS)
            good.update(p.rpartition(".")[0] for p in burned(run, end, r))
            taken = 0 if end == "stopped, unsaid" else 1
            assert Sheet.objects.get(pk=shelf.pk).count == shelf.count - taken >= 0
    assert not missing
