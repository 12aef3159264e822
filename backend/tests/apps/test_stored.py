"""Law 4 of the second workshop for what is stored: undo gives the same files byte for byte, and a project taken out and in loses nothing.

The projects are the second workshop's random ones, on the demo shop's stocks.
"""

from __future__ import annotations

import importlib
import os
from collections.abc import Callable
from dataclasses import replace
from random import Random

from django.apps import apps
from pydantic import TypeAdapter

from apps.accounts.models import Member
from apps.designs import exchange, queries, services
from apps.designs.convert import DESIGN, DRAWING, design_of
from apps.designs.models import Drawing, Project, Revision, Stage, StageJob, StageResult
from apps.layouts.services import default_request, pack_project
from apps.plans import gate
from apps.plans.services import bundle, files_of, make_plan
from apps.runs import demo
from apps.sheets.models import Sheet, Stock
from notchcore.design.carrying import Places
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit
from notchcore.design.outlines import PanelOutline
from notchcore.design.scaling import scaled
from notchcore.design.variations import Alternative, Variation
from notchcore.errors import NotchCoreError
from notchcore.findings import Finding
from notchcore.ledger import Quantity
from notchcore.plan.sides import Lay
from tests.apps.conftest import Api
from tests.apps.test_build import fresh
from tests.apps.test_dry_fit import checked
from tests.apps.test_exchange import bring_in, parts
from tests.rows import said
from tests.workshop.projects import Refused, drawn

WANTED = int(os.environ.get("STORED_PROJECTS", "2"))


def test_a_design_of_before_stays_as_it_was() -> None:
    old = {
        "numbers": {"width": 120},
        "stocks": dict.fromkeys(("walls", "base", "dividers", "lid"), "1"),
        "edits": {"front": {"outline": {"drawing": "3", "width": 90}}},
    }
    read = DESIGN.validate_python(old)
    assert (read.places, read.edits["front"].outline) == (Places.ENVELOPE, PanelOutline(drawing="3", width=90.0, seen=False))
    again = DESIGN.validate_json(DESIGN.dump_json(replace(read, edits={"front": PanelEdit(outline=PanelOutline(drawing="3", width=90.0))})))
    assert again.edits["front"].outline == PanelOutline(drawing="3", width=90.0, seen=True)


def test_a_design_stored_before_places_had_limits_is_read_still() -> None:
    plate = {"kind": "on_face", "id": "p", "label": "P", "stock": "1", "host": "front", "x": 1e9, "width": 0.0}
    copy = {"kind": "copy", "id": "c", "label": "C", "of": "front", "move": [-1e9, 0.0, 5.0]}
    old = {"numbers": {"width": 120}, "stocks": dict.fromkeys(("walls", "base", "dividers", "lid"), "1"), "added": [plate, copy]}
    read = design_of(Revision(design=old | {"splits": [{"panel": "front", "at": 1e9}]}))
    (a, b), (split,) = read.added, read.splits
    assert (a.x, a.width, a.height) == (20_000, 0.1, 30.0)  # type: ignore[union-attr]
    assert (b.move, split.at) == ((-20_000, 0, 5), 20_000)  # type: ignore[union-attr]


def kept_project(seed: int) -> Project:
    """Return the random project of a seed as a row of the demo shop.

    Raises:
        Refused: it makes no sense
    """
    made, member = drawn(seed), Member.objects.get(user__username=demo.USER)
    rack = list(Stock.objects.filter(shop=member.shop).order_by("pk"))
    stocks = {sid: rack[k % len(rack)] for k, sid in enumerate(made.stocks)}
    row = services.start_project(member=member, name=f"Project {seed}")
    drawings = {k: Drawing.objects.create(project=row, name=k, payload=DRAWING.dump_python(d, mode="json")) for k, d in made.drawings.items()}
    saved(row, DESIGN.validate_python(exchange.renamed(made.design, stocks, drawings=drawings)))
    return fresh(row)


def saved(row: Project, design: Design) -> Project:
    row = fresh(row)
    return services.save_design(project_id=row.pk, member=Member.objects.get(user__username=demo.USER), base=row.head, design=design, label="Changed")


def all_files(row: Project) -> dict[str, bytes]:
    return {name: file.content for name, file in files_of(fresh(row)).items()} | {"all.zip": bundle(fresh(row)).content}


def cut(api: Api, row: Project) -> dict[str, bytes]:
    """Take a project from its design to its files, overruling what holds them back.

    Raises:
        NotchCoreError: it cannot be made
    """
    checked(api, row)
    nesting = pack_project(fresh(row), default_request(fresh(row), seconds=0.1))
    if nesting.unplaced:
        raise Refused("no room")
    make_plan(fresh(row))
    now = queries.current(fresh(row))
    found = gate.found_before(now)
    if found:
        gate.overrule(fresh(row), Member.objects.get(user__username=demo.USER), seen=gate.print_of(now, found))
    return all_files(row)


def changes(r: Random, design: Design, panels: list[str], other: str) -> list[Callable[[], Design]]:
    panel = r.choice(panels)
    alternatives = (Alternative(name="plain", features=tuple(f.id for f in design.features)), Alternative(name="all"))
    plainer = Variation(name="Lettering", chosen="plain", alternatives=alternatives)
    return [
        lambda: replace(design, prototype=other),
        lambda: scaled(design, 1.1),
        lambda: replace(design, added=(*design.added, CopyOf(id="twin", label="Twin", of=panel, move=(2000.0, 0.0, 0.0)))),
        lambda: replace(design, edits={**design.edits, panel: PanelEdit(copies=2)}),
        lambda: replace(design, stocks=dict.fromkeys(design.stocks, other)),
        lambda: replace(design, features=design.features[1:]),
        lambda: replace(design, variations=(plainer,)),
    ]


def test_undo_and_redo_give_the_same_files_byte_for_byte_after_other_designs_were_packed_and_planned(api: Api) -> None:
    Sheet.objects.update(count=40)
    seen: list[str] = []
    for seed in range(60):
        if len(seen) == WANTED:
            break
        try:
            row = kept_project(seed)
            before = cut(api, row)
        except (Refused, NotchCoreError, AssertionError):
            continue
        now, r = queries.current(row), Random(seed)
        panels = [p.id for p in now.assembly.parts if not p.falls_from]
        if not panels:
            continue
        other = r.choice([s for s in map(str, Stock.objects.filter(shop=row.shop_id).values_list("pk", flat=True)) if s not in now.design.stock_ids()])
        after: dict[str, bytes] | None = None
        for change in r.sample(changes(r, now.design, panels, other), 1):
            try:
                saved(row, change())
                after = cut(api, row) if queries.current(fresh(row)).parts_print != now.parts_print else None  # the same parts packed again are a new layout
            except (Refused, NotchCoreError, AssertionError):
                after = None
            base = fresh(row).head
            if base != row.head:
                services.step(project_id=row.pk, base=base, back=True)
            assert all_files(row) == before, f"seed {seed}, {fresh(row).redo}"
            if after is not None and base != row.head:
                services.step(project_id=row.pk, base=row.head, back=False)
                assert all_files(row) == after
                services.step(project_id=row.pk, base=base, back=True)
        seen.append(str(seed))
    assert len(seen) == WANTED


def test_a_project_taken_out_and_in_gives_the_same_files_from_the_same_layout(api: Api) -> None:
    Sheet.objects.update(count=40)
    seen = 0
    for seed in range(100, 160):
        try:
            row = kept_project(seed)
            before = cut(api, row)
        except (Refused, NotchCoreError, AssertionError):
            continue
        told = bring_in(api, exchange.taken_out(fresh(row)))
        assert told.status_code == 201, told.content
        there = Project.objects.get(pk=told.json()["id"])
        assert parts(there) == parts(row)
        checked(api, there)
        for kept in StageResult.objects.filter(project=row, stage="lay-out"):  # the layout does not travel: it is for the shop's own sheets
            StageResult.objects.create(project=there, stage="lay-out", made_from=kept.made_from, revision=kept.revision, payload=kept.payload)
        Project.objects.filter(pk=there.pk).update(name=row.name, overruled=fresh(row).overruled)
        make_plan(fresh(there))
        assert {k: v for k, v in all_files(there).items() if k != "all.zip"} == {k: v for k, v in before.items() if k != "all.zip"}, seed
        seen += 1
        if seen == WANTED:
            return
    raise AssertionError("too few projects can be made")


def test_what_one_person_overruled_before_becomes_the_first_of_a_list() -> None:
    as_list = importlib.import_module("apps.designs.migrations.0009_results_of_the_same").as_list
    said = {"print": "a", "by": "alder", "on": "2026-11-28T10:00:00+00:00", "messages": ["x"]}
    assert (as_list({}), as_list(said), as_list([said])) == ([], [said], [said])


def test_what_a_repair_changed_becomes_a_list_and_names_with_blanks_stay_whole() -> None:
    with_targets = importlib.import_module("apps.designs.migrations.0010_repair_targets").with_targets

    def stored(kind: str, **target: object) -> dict:
        return {"findings": [{"code": "x", "repairs": [{"label": "Do it", "kind": kind, "values": {}, **target}]}]}

    for kind, before, after in (("feels", "a+b a+c", ["a+b", "a+c"]), ("variant", "Long one", ["Long one"]), ("relief", "", [])):
        assert with_targets(stored(kind, target=before)) == stored(kind, targets=after) == with_targets(stored(kind, targets=after))


def test_what_was_said_becomes_sentences_that_say_the_same() -> None:
    moved = importlib.import_module("apps.designs.migrations.0011_sentences")
    span = {"text": "3.0 mm", "mm": [3.0], "digits": 1, "ref": None}
    finding = {
        "code": "x",
        "severity": "look",
        "message": "It is 3.0 mm wide.",
        "parts": ["a"],
        "repairs": [{"label": "Wider", "kind": "number", "targets": ["w"], "values": {"value": 4.0}}],
    }
    told = {**finding, "says": {"key": "weak_tab", "facts": {"width": {"mm": [3.0], "digits": 1}}}, "segments": [span]}
    lay = {"kind": "turned", "turn": "sideways", "marks": [], "turns": [], "mismatch": 0.1, "why": "So.", "words": ""}
    stored = {
        "findings": [finding, told],
        "sheets": [{"lay": lay}],
        "unplaced": [{"part": "a", "count": 2, "why": "full"}],
        "notes": [{"code": "coarse", "message": "Rough.", "place": None}],
    }
    now = moved.with_sentences(stored)
    found = TypeAdapter(list[Finding]).validate_python(now["findings"])
    assert [(f.message, f.says.key, f.repairs[0].says.text) for f in found] == [("It is 3.0 mm wide.", "as_written", "Wider"), ("3.0 mm", "weak_tab", "Wider")]
    assert found[1].says.spans[0].mm == (3.0,)
    ways = TypeAdapter(Lay).validate_python(now["sheets"][0]["lay"])
    assert (ways.why.text, ways.words) == ("So.", None)
    assert (said(now["unplaced"][0]["why"]), said(now["notes"][0]["says"])) == ("full", "Rough.")
    assert moved.with_sentences(now) == now
    line = {"kind": "fit", "label": "Clearance, snug", "value": 0.02, "sd": 0.03, "source": "2 feels", "on": None, "trust": "measured"}
    kept = moved.with_sentences({"plays": [{"play": {"value": 0.02, "sd": 0.03, "terms": [line, {**line, "source": ""}]}}]})
    first, second = TypeAdapter(Quantity).validate_python(kept["plays"][0]["play"]).terms
    assert (first.label.text, first.source and first.source.text, second.source) == ("Clearance, snug", "2 feels", None)
    assert [said(s) for s in moved.overruled({"print": "p", "messages": ["a", "b"]})["known"]] == ["a", "b"]


def test_kept_results_and_jobs_take_the_names_of_their_stations(api: Api) -> None:
    named = importlib.import_module("apps.designs.migrations.0013_stations")
    row = kept_project(100)
    for before in named.NAMES:
        StageResult.objects.create(project=row, stage=before, made_from=before, revision=1, payload={})
        StageJob.objects.create(project=row, stage=before, made_from=before)
    named.forwards(apps, None)
    assert dict(StageResult.objects.filter(project=row).values_list("made_from", "stage")) == named.NAMES
    assert set(StageJob.objects.filter(project=row).values_list("stage", flat=True)) == set(Stage.values)
    named.backwards(apps, None)
    assert all(r.stage == r.made_from for r in StageResult.objects.filter(project=row))


def test_chances_of_a_kept_dry_fit_are_called_so(api: Api, drawer: Project) -> None:
    moved = importlib.import_module("apps.designs.migrations.0014_chances")
    kept = StageResult.objects.get(project=drawer, stage=Stage.DRY_FIT)
    now = kept.payload
    assert now["chances"]
    assert "chances" in now["chances"][0]
    before = now | {"odds": [{"odds" if k == "chances" else k: v for k, v in one.items()} for one in now["chances"]]}
    del before["chances"]
    StageResult.objects.filter(pk=kept.pk).update(payload=before)
    moved.forwards(apps, None)
    assert StageResult.objects.get(pk=kept.pk).payload == now
