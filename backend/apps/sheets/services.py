"""What a person does with stocks, the shelf and machines. For evidence see `evidence`."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from django.db import transaction

from apps.accounts.models import Member, Shop
from apps.sheets import convert
from apps.sheets.models import Film, Machine, Sheet, Stock
from notchcore.errors import MeasureError, require
from notchcore.measure import thickness
from notchcore.measure.contrast import checked_lab
from notchcore.measure.hazards import SUBSTANCES, Verdict, substances_of
from notchcore.measure.materials import MATERIALS
from notchcore.measure.stock import StockEvidence
from notchcore.nest.values import SheetKind
from notchcore.words.render import say

GRAINS = ("along", "across", "none")
MOST_PLACES = 8  # of a stock in use, by name


def _checked(shop: Shop, changes: dict[str, Any], *, row: Stock | None) -> dict[str, Any]:
    """Return what may be written into a stock, or say what is wrong."""
    wanted = {**changes}
    if "name" in wanted:
        wanted["name"] = wanted["name"].strip()
        if not wanted["name"]:
            raise MeasureError(say("stock_name"), field="name")
    material = wanted.get("material", row.material if row else "")
    if material not in MATERIALS:
        raise MeasureError(say("material_lacking"), field="material")
    if row is not None and material != row.material and "substance" not in wanted:
        wanted["substance"] = ""
    substance = wanted.get("substance", row.substance if row else "")
    StockEvidence(id="new", name="new", material=material, label=wanted.get("label_mm", row.label_mm if row else 3.0), substance=substance)
    if wanted.get("look") and wanted["look"] not in MATERIALS[material].looks:
        raise MeasureError(say("look_not_sold", material=MATERIALS[material].label, look=wanted["look"]), field="look")
    if "crush" in wanted:
        require("crush", wanted["crush"], least=0, most=0.5, unit="")
    if "film" in wanted and wanted["film"] not in Film.values:
        raise MeasureError(say("film_face"), field="film")
    for field in ("lab", "lab_finished"):
        if wanted.get(field) is not None:
            wanted[field] = list(checked_lab(tuple(wanted[field])))
    return wanted


@transaction.atomic
def add_stock(*, member: Member, **values: Any) -> Stock:
    """Put a stock on the rack."""
    require("label thickness", values["label_mm"], least=thickness.THINNEST, most=thickness.THICKEST)
    checked = _checked(member.shop, values, row=None)
    film = Film.BOTH if MATERIALS[checked["material"]].filmed else Film.NONE
    return Stock.objects.create(shop=member.shop, **{"film": film, **checked})


@transaction.atomic
def change_stock(*, stock: Stock, changes: dict[str, Any]) -> None:
    """Change what is said about a stock; evidence stays. Another substance ends a confirmation: it was about the old one."""
    row = Stock.objects.select_for_update().get(pk=stock.pk)
    checked = _checked(stock.shop, changes, row=row)
    if checked.get("substance", row.substance) != row.substance:
        checked |= {"confirmed_by": "", "confirmed_on": None, "confirmed_data": ""}
    for field, value in checked.items():
        setattr(row, field, value)
    row.save(update_fields=list(checked) or None)


@transaction.atomic
def confirm_data(*, stock: Stock, member: Member, data: str) -> None:
    """Keep that a named person has the maker's data for this stock; empty data takes it back.

    Raises:
        MeasureError: the stock is forbidden, which nobody can confirm away
    """
    row = Stock.objects.select_for_update().get(pk=stock.pk)
    substance = SUBSTANCES[row.substance] if row.substance else substances_of(row.material)[0]
    if substance.verdict is Verdict.FORBIDDEN:
        raise MeasureError(say("forbidden_not_confirmed", stock=row.name, substance=substance.label, why=substance.why))
    said = data.strip()
    row.confirmed_by, row.confirmed_on, row.confirmed_data = (member.user.username, date.today(), said) if said else ("", None, "")
    row.save(update_fields=["confirmed_by", "confirmed_on", "confirmed_data"])


#: Asked before a stock is taken off the rack; later stations add their own (see their apps.py): stock -> where it is used
USES: list[Callable[[Stock], list[str]]] = []


@transaction.atomic
def remove_stock(*, stock: Stock) -> None:
    """Take a stock off the rack for good, with its evidence.

    Raises:
        MeasureError: it is in use, with where
    """
    row = Stock.objects.select_for_update().get(pk=stock.pk)
    places = [place for uses in USES for place in uses(row)]
    if places:
        told, more = ", ".join(places[:MOST_PLACES]), len(places) - MOST_PLACES
        says = say("stock_in_use.more", stock=row.name, places=told, more=more) if more > 0 else say("stock_in_use", stock=row.name, places=told)
        raise MeasureError(says, uses=places)
    row.delete()


Ring = list[tuple[float, float]]


def _outline(points: Ring, what: str = "outline") -> Ring:
    from notchcore.geom.planar import Polygon

    if points and (len(points) < 3 or not Polygon(points).is_valid or Polygon(points).area < 1):
        name = "outline" if what == "outline" else "bad spot"
        raise MeasureError(say("outline_crosses", name=name), field=what)
    return points


def _bad(rings: list[Ring], at: tuple[float, float] = (0.0, 0.0)) -> list[Ring]:
    return [[(x - at[0], y - at[1]) for x, y in _outline(ring, "bad")] for ring in rings if ring]


@transaction.atomic
def shelve(*, stock: Stock, **values: Any) -> Sheet:
    """Put sheets of a stock on the shelf. An outline of an odd offcut sets its width and height; bad spots move along with it."""
    values["outline"] = _outline(values.get("outline") or [])
    at = (0.0, 0.0)
    if values["outline"]:
        at = min(p[0] for p in values["outline"]), min(p[1] for p in values["outline"])
        values["outline"] = [(x - at[0], y - at[1]) for x, y in values["outline"]]
        values["width_mm"], values["height_mm"] = (max(p[k] for p in values["outline"]) for k in (0, 1))
    values["bad"] = _bad(values.get("bad") or [], at)
    _checked_sheet(stock, values)
    name = values.pop("name", "").strip() or f"{values['width_mm']:.0f} × {values['height_mm']:.0f}"
    return Sheet.objects.create(stock=stock, name=name, **values)


def _checked_sheet(stock: Stock, values: dict[str, Any]) -> None:
    require("price", values.get("price", 0.0), least=0, most=100_000, unit="")
    if values.get("grain", "along") not in GRAINS:
        raise MeasureError(say("grain_lacking"), field="grain")
    SheetKind(id="new", stock=str(stock.pk), name="new", width=values["width_mm"], height=values["height_mm"], count=values.get("count", 1))


@transaction.atomic
def change_sheet(*, sheet: Sheet, changes: dict[str, Any]) -> None:
    """Set how many of these sheets lie on the shelf, their price, place, grain or bad spots."""
    if "bad" in changes:
        changes = changes | {"bad": _bad(changes["bad"])}
    row = Sheet.objects.select_for_update().get(pk=sheet.pk)
    for field, value in changes.items():
        setattr(row, field, value)
    _checked_sheet(row.stock, {"price": row.price, "grain": row.grain, "width_mm": row.width_mm, "height_mm": row.height_mm, "count": row.count})
    row.save(update_fields=list(changes) or None)


@transaction.atomic
def set_machine(*, row: Machine, changes: dict[str, Any]) -> None:
    """Change a machine's profile; all of it is checked before anything is kept."""
    row = Machine.objects.select_for_update().get(pk=row.pk)
    name = str(changes.pop("name", row.name)).strip()[:80]
    if not name:
        raise MeasureError(say("machine_name"), field="name")
    profile = {**row.profile, **changes}
    convert.MACHINE.validate_python({**profile, "id": str(row.pk), "name": name})
    row.profile, row.name = profile, name
    row.save(update_fields=["profile", "name"])


@transaction.atomic
def add_machine(*, member: Member, name: str, like: Machine | None) -> Machine:
    """Put a machine into the shop, with the profile of another or with defaults."""
    if not name.strip():
        raise MeasureError(say("machine_name"), field="name")
    return Machine.objects.create(shop=member.shop, name=name.strip()[:80], profile=dict(like.profile) if like else {})
