"""Projects as an earlier landing took them out open, and the beam draws the same lines to the last byte.

`frozen/` holds such projects, and `files.json` what their parts came to, each on a sheet of its own, in every format. Where that changes on purpose,
write it anew and say so: `FREEZE=1` keeps the projects and writes their files, `FREEZE=all` takes the demo's and some random projects out anew too.
"""

from __future__ import annotations

import json
import os
from datetime import date
from hashlib import sha256
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth import get_user_model

from apps.accounts.models import Member, Role, Shop
from apps.designs import exchange, queries
from apps.designs.models import Project
from apps.sheets.convert import machine_of
from notchcore.design.assembly import Part
from notchcore.formats.dxf import sheet_dxf
from notchcore.formats.gcode import sheet_gcode
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.svg import sheet_svg
from notchcore.geom.profile import bounds_of
from notchcore.nest.values import Nesting, Placement, SheetLayout
from notchcore.plan.cut_plan import cut_plan
from tests.apps.test_stored import kept_project
from tests.workshop.projects import Refused

FROZEN = Path(__file__).parent / "frozen"
FILES = FROZEN / "files.json"
RANDOM = range(300, 312)  # seeds of the second workshop
RIM = 10.0
FORMATS = {"svg": sheet_svg, "dxf": sheet_dxf, "gcode": sheet_gcode}


class Then(date):
    """The day on which the projects were frozen: evidence ages."""

    @classmethod
    def today(cls) -> Then:
        return cls(2026, 11, 29)


def on_its_own(part: Part) -> SheetLayout:
    """Return a sheet with one part on it."""
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    w, h = x1 - x0 + 2 * RIM, y1 - y0 + 2 * RIM
    return SheetLayout(
        sheet=part.id,
        copy=0,
        stock=part.stock,
        name="Sheet",
        width=w,
        height=h,
        ring=((0, 0), (w, 0), (w, h), (0, h)),
        utilisation=0.5,
        leftover=None,
        placements=(Placement(part=part.id, copy=0, turn=0, x=RIM - x0, y=RIM - y0),),
    )


def files_of(project: Project) -> dict[str, str]:
    """Return the hashes of the files of a project, its parts each on a sheet of its own."""
    now = queries.current(project)
    lying = [p for p in now.assembly.parts if not p.falls_from]
    nesting = Nesting(sheets=tuple(map(on_its_own, lying)), unplaced=(), utilisation=0.5, price=0.0)
    machine, settings = machine_of(project.machine), now.measured.settings
    plan = cut_plan(now.assembly, nesting, stocks=now.stocks, machine=machine, settings=settings, images=queries.images_of(now))
    found = {}
    for number, sheet in enumerate(plan.sheets, start=1):
        file = SheetFile(project="Frozen", revision=1, of=len(plan.sheets), plan=sheet, machine=machine, images=queries.images_of(now))
        for kind, write in FORMATS.items():
            found[f"{number}.{kind}"] = sha256(write(file).encode()).hexdigest()[:16]
    return found


@pytest.fixture
def elsewhere(db: None) -> Member:
    user = get_user_model().objects.create_user("elm", password="elm-elm-elm")
    return Member.objects.create(shop=Shop.objects.create(name="Another shop"), user=user, role=Role.OWNER)


def freeze() -> None:
    for project in Project.objects.filter(is_test=False, deleted__isnull=True):
        (FROZEN / f"{project.name.lower().replace(' ', '-')}.zip").write_bytes(exchange.taken_out(project))
    for seed in RANDOM:
        try:
            (FROZEN / f"random-{seed}.zip").write_bytes(exchange.taken_out(kept_project(seed)))
        except Refused:
            continue


def test_projects_that_were_taken_out_before_open_and_give_the_same_files(shop: Shop, elsewhere: Member, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("apps.sheets.convert.date", Then)
    if os.environ.get("FREEZE") == "all":
        freeze()
    made: dict[str, Any] = {}
    for path in sorted(FROZEN.glob("*.zip")):
        project = exchange.brought_in(path.read_bytes(), elsewhere)
        made[path.stem] = files_of(project)
    if os.environ.get("FREEZE"):
        FILES.write_text(json.dumps(made, indent=1) + "\n")
    wanted = json.loads(FILES.read_text())
    assert len(wanted) >= 10
    assert {k: sorted(n for n in v if v[n] != made[k].get(n)) for k, v in wanted.items() if v != made.get(k)} == {}
