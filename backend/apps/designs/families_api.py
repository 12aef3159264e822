"""The families over HTTP: what each asks, with its defaults and a picture."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

from django.http import HttpRequest
from ninja import Router, Schema

from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.registry import FAMILIES, Family, Numbers
from notchcore.design.features.registry import FEATURES, Feature, default_feature
from notchcore.design.numbers import Number, PanelGroup, numbers_of
from notchcore.design.picture import Picture, picture_of
from notchcore.measure.stock import StockEvidence, stock_of

router = Router(tags=["designs"])
SHOWN_IN = StockEvidence(id="shown", name="Ply", material="plywood", label=3.0)


class DesignFamily(Schema):
    id: str
    label: str
    says: str
    caution: str
    roles: tuple[PanelGroup, ...]
    first: tuple[str, ...]  #: names of the numbers asked when a project begins
    numbers: tuple[Number, ...]
    defaults: Numbers
    picture: Picture
    colour: str  #: of the sheet that the picture shows


def _shown(f: Family) -> DesignFamily:
    stock = stock_of(SHOWN_IN, today="2026-01-01")
    defaults = f.numbers()
    assembly = build(Design(numbers=defaults, stocks={r.id: stock.id for r in f.roles}), {stock.id: stock})
    return DesignFamily(
        id=f.id,
        label=f.label,
        says=f.says,
        caution=f.caution,
        roles=f.roles,
        first=f.first,
        numbers=numbers_of(f.numbers),
        defaults=defaults,
        picture=picture_of(replace(assembly, dimensions=())),
        colour=stock.colour,
    )


class FeatureTypeOut(Schema):
    id: str
    label: str
    numbers: tuple[Number, ...]
    defaults: Feature  #: its id and panel are placeholders


@router.get("/feature-types", response=list[FeatureTypeOut], operation_id="featureTypes")
def feature_types(request: HttpRequest) -> list[FeatureTypeOut]:
    """Return what can be put on a panel, in the order in which it is offered."""
    return [FeatureTypeOut(id=t.id, label=t.label, numbers=numbers_of(t.type), defaults=default_feature(t)) for t in FEATURES]


@cache
def _all() -> list[DesignFamily]:
    return [_shown(f) for f in FAMILIES.values()]


@router.get("/families", response=list[DesignFamily], operation_id="designFamilies")
def families(request: HttpRequest) -> list[DesignFamily]:
    """Return all families, in the order in which they are offered."""
    return _all()
