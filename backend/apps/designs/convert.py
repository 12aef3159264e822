"""Rows to the core's values and back."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import BeforeValidator, TypeAdapter

from apps.designs.models import Drawing as DrawingRow
from apps.designs.models import Project, Revision
from apps.sheets.convert import Measured, machine_of, measured, with_evidence
from apps.sheets.models import Stock as StockRow
from notchcore.check.dry_fit import DryFit
from notchcore.design.design import Design
from notchcore.design.features.drawing import Drawing
from notchcore.design.outlines import REACH
from notchcore.design.plates import LEAST
from notchcore.plan.choices import PlanChoices


def _as_now(design: Any) -> Any:
    """Return an older design as it is written now: numbers had no family when all were boxes, a joint without cut was `butt`,
    places counted from the whole sheet, outlines from its middle, and variants were alternatives of one thing."""
    if not isinstance(design, dict):
        return design
    found = dict(design)
    found.setdefault("places", "envelope")  # features stay where they were put before places counted from what is seen
    if isinstance(found.get("numbers"), dict):
        found["numbers"] = {"family": "box", **found["numbers"]}
    if isinstance(found.get("edits"), dict):
        found["edits"] = {k: _edit_as_now(e) for k, e in found["edits"].items()}
    if isinstance(found.get("choices"), dict):
        found["choices"] = {k: _choice_as_now(c) if isinstance(c, dict) else c for k, c in found["choices"].items()}
    return _variations_as_now(found)


def _variations_as_now(design: dict[str, Any]) -> dict[str, Any]:
    """Return a design whose variants had names, numbers and features that they went without, as one variation; its items too."""
    items = design.get("items")
    if isinstance(items, list | tuple):
        own = [i | {"design": _variations_as_now(i["design"])} if isinstance(i, dict) and isinstance(i.get("design"), dict) else i for i in items]
        design = design | {"items": own}
    if "variants" not in design and "left_out" not in design:
        return design
    kept = {k: v for k, v in design.items() if k not in ("variants", "variant", "left_out")}
    variants, chosen = design.get("variants") or {}, design.get("variant") or ""
    if not isinstance(variants, dict) or not variants:
        if not design.get("left_out"):
            return kept
        # All its variants were removed, and what the last one went without stayed away: it can be ticked again.
        last = {"name": "as it was", "features": list(design["left_out"])}
        return kept | {"variations": [{"name": "Variant", "alternatives": [last], "chosen": "as it was"}]}
    now = {chosen: {"numbers": design.get("numbers"), "left_out": design.get("left_out", ()), "scale": design.get("scale", 1.0)}} if chosen in variants else {}
    alternatives = [
        {"name": name, "sizes": v["numbers"], "scale": v.get("scale", 1.0), "features": list(v.get("left_out", ()))}
        for name, v in {**variants, **now}.items()
        if isinstance(v, dict) and "numbers" in v
    ]
    return kept | {"variations": [{"name": "Variant", "alternatives": alternatives, "chosen": chosen if chosen in variants else ""}]}


def _edit_as_now(edit: Any) -> Any:
    outline = edit.get("outline") if isinstance(edit, dict) else None
    return edit | {"outline": {"seen": False, **outline}} if isinstance(outline, dict) else edit


def _choice_as_now(choice: dict[str, Any]) -> dict[str, Any]:
    kept = {k: v for k, v in choice.items() if k != "butt"}
    return {"style": "butt", **kept} if choice.get("butt") else kept


PLACED = ("at", "rise", "over", "inset_low", "inset_high", "x", "y", "width", "height", "move", "about", "centre")  #: of added panels and divisions [mm]
AnyDesign = Annotated[Design, BeforeValidator(_as_now)]
DESIGN: TypeAdapter[Design] = TypeAdapter(AnyDesign)
DRY_FIT = TypeAdapter(DryFit)
CHOICES: TypeAdapter[PlanChoices] = TypeAdapter(PlanChoices)
DRAWING = TypeAdapter(Drawing)


def drawings_for(project: Project, design: Design) -> dict[str, Drawing]:
    """Return the drawings that a design shows; one of another project is not found."""
    ids = [int(i) for i in design.drawing_ids() if i.isdecimal()]
    return {str(row.pk): DRAWING.validate_python(row.payload) for row in DrawingRow.objects.filter(project=project, pk__in=ids)} if ids else {}


def design_of(row: Revision) -> Design:
    """Return a stored design; places of added panels and divisions that were stored before they had limits are brought within them."""
    design = row.design
    if isinstance(design, dict):
        added = [a | {k: _within(k, v) for k, v in a.items() if k in PLACED} for a in design.get("added", ())]
        splits = [s | {"at": _within("at", s["at"])} for s in design.get("splits", ())]
        design = design | {"added": added, "splits": splits}
    return DESIGN.validate_python(design)


def design_at(project: Project, number: int) -> Design:
    """Return the design of a project at one of its revisions."""
    return design_of(project.revisions.get(number=number))


def _within(name: str, value: Any) -> Any:
    if isinstance(value, list):
        return [_within(name, v) for v in value]
    return min(max(value, LEAST if name in ("width", "height") else -REACH), REACH)


def measured_for(project: Project, design: Design) -> Measured:
    """Return the stocks that a design names, as they are on the project's machine."""
    return measured_stocks(project, [int(i) for i in design.stock_ids() if i.isdecimal()])


def measured_stocks(project: Project, ids: Sequence[int]) -> Measured:
    """Return stocks of the shop, as they are on the project's machine."""
    return measured(with_evidence(StockRow.objects.filter(shop=project.shop_id, pk__in=ids)), machine_of(project.machine))
