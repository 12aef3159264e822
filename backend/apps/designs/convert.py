"""Rows to the core's values and back."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator, TypeAdapter

from apps.designs.models import Project, Revision
from apps.sheets.convert import Measured, machine_of, measured, with_evidence
from apps.sheets.models import Stock as StockRow
from notchcore.check.dryfit import DryFit
from notchcore.design.design import Design


def _with_family(design: Any) -> Any:
    """Say of numbers without a family that they are a box's: designs were boxes before there were families."""
    if isinstance(design, dict) and isinstance(design.get("numbers"), dict):
        return {**design, "numbers": {"family": "box", **design["numbers"]}}
    return design


AnyDesign = Annotated[Design, BeforeValidator(_with_family)]
DESIGN: TypeAdapter[Design] = TypeAdapter(AnyDesign)
DRY_FIT = TypeAdapter(DryFit)


def design_of(row: Revision) -> Design:
    return DESIGN.validate_python(row.design)


def measured_for(project: Project, design: Design) -> Measured:
    """Return the stocks that a design names, as they are on the project's machine."""
    ids = [int(i) for i in design.stock_ids() if i.isdigit()]
    return measured(with_evidence(StockRow.objects.filter(shop=project.shop_id, pk__in=ids)), machine_of(project.machine))
