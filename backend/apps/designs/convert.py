"""Rows to the core's values and back."""

from __future__ import annotations

from pydantic import TypeAdapter

from apps.designs.models import Project, Revision
from apps.sheets import convert as sheets
from apps.sheets.models import Stock as StockRow
from notchcore.check.dryfit import DryFit
from notchcore.design.design import Design
from notchcore.measure.stock import StockEvidence

DESIGN = TypeAdapter(Design)
DRY_FIT = TypeAdapter(DryFit)


def design_of(row: Revision) -> Design:
    return DESIGN.validate_python(row.design)


def evidence_for(project: Project, design: Design) -> dict[str, StockEvidence]:
    """Return the evidence of the stocks that a design names, by id."""
    ids = [int(i) for i in design.stock_ids() if i.isdigit()]
    rows = StockRow.objects.filter(shop=project.shop_id, pk__in=ids).prefetch_related("readings", "kerf_tests")
    return {str(r.pk): sheets.evidence_of(r) for r in rows}
