"""What a project is right now: its design, stocks, assembly, and the fingerprints that tell what is stale."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass, replace
from datetime import date
from threading import Lock

from apps.designs import convert
from apps.designs.models import Project, Revision, Stage, StageResult
from notchcore.design.assembly import Assembly
from notchcore.design.design import Design, build
from notchcore.fingerprint import fingerprint
from notchcore.measure.stock import Stock, StockEvidence, stock_of

KEPT_ASSEMBLIES = 64
_kept: OrderedDict[str, Assembly] = OrderedDict()
_lock = Lock()
_building: dict[str, Lock] = {}


@dataclass(frozen=True, slots=True, kw_only=True)
class Current:
    """A project at its head revision."""

    project: Project
    revision: Revision
    design: Design
    evidence: dict[str, StockEvidence]
    stocks: dict[str, Stock]
    assembly: Assembly

    @property
    def built_from(self) -> str:
        return _built_from(self.design, self.evidence)

    @property
    def checked_from(self) -> str:
        """Fingerprint of what the dry fit depends on: shapes and how well thickness and kerf are known."""
        return fingerprint(self.design, self.evidence)

    @property
    def parts_print(self) -> str:
        """Fingerprint of the finished parts: what a packing depends on."""
        return fingerprint([(p.id, p.stock, p.profile, p.scores) for p in self.assembly.parts])


def _built_from(design: Design, evidence: dict[str, StockEvidence]) -> str:
    return fingerprint(design, {k: replace(e, kerf_tests=()) for k, e in evidence.items()})


def assembly_for(design: Design, evidence: dict[str, StockEvidence], stocks: dict[str, Stock]) -> Assembly:
    """Return the assembly, from memory when the same was built before in this process."""
    key = _built_from(design, evidence)
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
        mine = _building.setdefault(key, Lock())
    with mine:  # a page asks for several things of a new revision at once: one request builds, the others wait for it
        with _lock:
            if key in _kept:
                return _kept[key]
        assembly = build(design, stocks)
        with _lock:
            _kept[key] = assembly
            _building.pop(key, None)
            while len(_kept) > KEPT_ASSEMBLIES:
                _kept.popitem(last=False)
    return assembly


def current(project: Project) -> Current:
    """Return the project with everything that follows from its head revision and today's evidence."""
    revision = Revision.objects.select_related("author").get(project=project, number=project.head)
    design = convert.design_of(revision)
    evidence = convert.evidence_for(project, design)
    today = date.today().isoformat()
    stocks = {k: stock_of(e, today=today) for k, e in evidence.items()}
    return Current(project=project, revision=revision, design=design, evidence=evidence, stocks=stocks, assembly=assembly_for(design, evidence, stocks))


def result_of(project: Project, stage: Stage) -> StageResult | None:
    return StageResult.objects.filter(project=project, stage=stage).first()
