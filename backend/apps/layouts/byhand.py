"""Moving and locking parts on a packing that is there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from apps.designs import jobs, queries
from apps.designs.models import JobState, Project, Stage, StageResult
from apps.layouts import convert
from apps.layouts.services import Lock, rules_of
from apps.sheets.convert import sheet_kind_of
from apps.sheets.models import Sheet
from notchcore.errors import NestError
from notchcore.fingerprint import fingerprint
from notchcore.nest.asked import Asked
from notchcore.nest.bed import laid_on_bed
from notchcore.nest.manual import Move, moved, swapped
from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind
from notchcore.words.render import say


class LayoutMeanwhile(Exception):
    """Somebody else changed the packing first."""


def version_of(row: StageResult | None) -> str:
    """Return what tells one state of a packing from another."""
    return fingerprint(row.payload) if row else ""


def _locked_row(project: Project, version: str) -> tuple[StageResult, queries.Current]:
    """Return the packing locked for a change made on a version of it.

    Raises:
        LayoutMeanwhile: it was changed since
        NestError: it is being packed, or was made from other parts
    """
    job = jobs.latest(project, Stage.LAY_OUT)
    if job is not None and job.state in (JobState.WAITING, JobState.RUNNING):
        raise NestError(say("being_packed"))
    now = queries.current(project)
    kept = queries.result_of(now, Stage.LAY_OUT)
    row = StageResult.objects.select_for_update().filter(pk__in=[kept.pk] if kept else []).first()
    if row is None or version_of(row) != version:
        raise LayoutMeanwhile
    if row.made_from != now.parts_print:
        raise NestError(say("design_changed_pack"))
    return row, now


@dataclass(frozen=True, slots=True, kw_only=True)
class _Mat:
    """A packing that is being changed, with the parts and sheets that it may use."""

    row: StageResult
    asked: Asked
    project: Project
    nesting: Nesting
    parts: dict[str, NestPart]
    shelf: dict[str, SheetKind]

    def rules(self, stock: str) -> NestRules:
        return rules_of(self.project, self.asked, stock=stock)

    def keep(self, changed: Nesting) -> None:
        self.row.payload = self.row.payload | {"nesting": convert.NESTING.dump_python(changed, mode="json")}
        self.row.save(update_fields=["payload"])


def _mat(project: Project, version: str) -> _Mat:
    row, now = _locked_row(project, version)
    asked = convert.ASKED.validate_python(row.payload["request"])
    rows = Sheet.objects.filter(stock__shop=project.shop_id)
    kinds = [laid_on_bed(sheet_kind_of(s), rules_of(project, asked, stock=str(s.stock_id))) for s in rows]
    return _Mat(
        row=row,
        asked=asked,
        project=project,
        nesting=convert.NESTING.validate_python(row.payload["nesting"]),
        parts={p.id: p for p in asked.parts(now.assembly.parts)},
        shelf={k.id: k for k in kinds},
    )


@transaction.atomic
def move(project: Project, version: str, *, wanted: Move, settle: bool) -> None:
    """Move a part by hand and keep that.

    Raises:
        LayoutMeanwhile: the packing was changed since `version`
        NestError: the part may not lie there
    """
    mat = _mat(project, version)
    stock = mat.parts[wanted.part].stock if wanted.part in mat.parts else ""
    mat.keep(moved(mat.nesting, wanted, parts=mat.parts, shelf=mat.shelf, rules=mat.rules(stock), settle=settle))


@transaction.atomic
def swap(project: Project, version: str, *, source: tuple[str, int], target: tuple[str, int]) -> None:
    """Lay all parts of a sheet on another one of its stock and keep that.

    Raises:
        LayoutMeanwhile: the packing was changed since `version`
        NestError: they do not fit there as they lie
    """
    mat = _mat(project, version)
    stock = next((s.stock for s in mat.nesting.sheets if (s.sheet, s.copy) == source), "")
    mat.keep(swapped(mat.nesting, source, target=target, parts=mat.parts, shelf=mat.shelf, rules=mat.rules(stock)))


@transaction.atomic
def lock(project: Project, version: str, *, parts: Sequence[Lock], locked: bool) -> None:
    """Let parts stay where they lie when the rest is packed again, or let go of them.

    Raises:
        LayoutMeanwhile: the packing was changed since `version`
        NestError: such a part does not lie on a sheet
    """
    row, _ = _locked_row(project, version)
    lying = {(p.part, p.copy) for s in convert.NESTING.validate_python(row.payload["nesting"]).sheets for p in s.placements}
    if not set(parts) <= lying:
        raise NestError(say("part_not_laid"))
    before = {(str(p), int(c)) for p, c in row.payload.get("locked", [])} & lying
    row.payload = row.payload | {"locked": sorted(before | set(parts) if locked else before - set(parts))}
    row.save(update_fields=["payload"])


@transaction.atomic
def take_way(project: Project, version: str, *, name: str) -> None:
    """Take another of the ways that a packing has found.

    Raises:
        LayoutMeanwhile: the packing was changed since `version`
        NestError: there is no such way
    """
    row, _ = _locked_row(project, version)
    way = next((w for w in row.payload.get("ways", []) if w["name"] == name), None)
    if way is None:
        raise NestError(say("laying_not_kept"))
    row.payload = row.payload | {"nesting": way["nesting"], "way": name}
    row.save(update_fields=["payload"])
