"""Carrying out a repair: a finding's proposal becomes a design that no longer has the finding."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from enum import Enum
from typing import Any

from notchcore.design.cards.pieces import Card
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit, Split, restocked
from notchcore.design.features.registry import Feature, restocked_pieces
from notchcore.design.features.values import Hole
from notchcore.design.gussets import Gusset
from notchcore.design.joints.choice import NOTHING_CHOSEN
from notchcore.design.plates import OnFace
from notchcore.design.styles import Style
from notchcore.design.variants import with_choice
from notchcore.errors import DesignError
from notchcore.findings import Repair, RepairKind
from notchcore.measure.fit import Feel
from notchcore.words.render import say

_AS_ARRANGED = PanelEdit()


def fresh_name(stem: str, taken: set[str]) -> str:
    """Return a name that nothing has yet: stem-1, stem-2, ..."""
    number = 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def _number(d: Design, r: Repair) -> Design:
    if isinstance(d.numbers, Card) or not hasattr(d.numbers, r.target):
        raise DesignError(say("no_such_number", target=r.target))
    numbers: Any = d.numbers
    value: Any = r.values["value"]
    if isinstance(getattr(numbers, r.target), int) and isinstance(value, float):
        value = int(value)  # a count may have come as 3.0
    return replace(d, numbers=replace(numbers, **{r.target: value}))


def _choice(d: Design, r: Repair) -> Design:
    values: dict[str, Any] = dict(r.values)
    if isinstance(values.get("style"), str):
        values["style"] = Style(values["style"])
    if isinstance(values.get("feel"), str):
        values["feel"] = Feel(values["feel"])
    choices = d.choices | {m: replace(d.choices.get(m, NOTHING_CHOSEN), **values) for m in r.targets}
    return replace(d, choices={m: c for m, c in choices.items() if m not in r.targets or c != NOTHING_CHOSEN})


def _feels(d: Design, r: Repair) -> Design:
    for meeting in r.targets:
        d = _choice(d, replace(r, targets=(meeting,)))
    return d


def _stock(d: Design, r: Repair) -> Design:
    """Everything of one stock becomes another: what the roles say, panels with a stock of their own, and added panels."""
    new = str(r.values["to"])

    def swapped(stock: str | None) -> str | None:
        return new if stock == r.target else stock

    return replace(
        d,
        stocks={role: swapped(s) or s for role, s in d.stocks.items()},
        edits={p: replace(e, stock=swapped(e.stock)) for p, e in d.edits.items()},
        added=tuple(restocked(a, lambda s: swapped(s) or s) for a in d.added),
        features=tuple(restocked_pieces(f, lambda s: swapped(s) or s) for f in d.features),
    )


def _panel(d: Design, r: Repair) -> Design:
    """One panel, or several, become otherwise."""
    values: dict[str, Any] = dict(r.values)
    for panel in r.targets:
        edit = replace(d.edits.get(panel, _AS_ARRANGED), **values)
        others = {k: e for k, e in d.edits.items() if k != panel}
        d = replace(d, edits=others if edit == _AS_ARRANGED else {**others, panel: edit})
    return d


def _feature(d: Design, r: Repair) -> Design:
    def changed(f: Feature) -> Feature:
        # What is an enumeration in the feature comes as its plain value.
        values: dict[str, Any] = {k: type(getattr(f, k))(v) if isinstance(getattr(f, k), Enum) else v for k, v in r.values.items()}
        return replace(f, **values)

    return replace(d, features=tuple(changed(f) if f.id == r.target else f for f in d.features))


def _divide(d: Design, r: Repair) -> Design:
    places = r.values.get("at")
    if not isinstance(places, tuple | list):
        raise DesignError(say("divide_where"))
    return replace(d, splits=(*d.splits, *(Split(panel=r.target, at=float(at)) for at in places)))


def _variant(d: Design, r: Repair) -> Design:
    variation, name = r.targets
    return with_choice(d, {variation: name})


def _names(d: Design) -> set[str]:
    return {a.id for a in d.added}


def _plate(d: Design, r: Repair) -> Design:
    v: dict[str, Any] = r.values
    plate = OnFace(
        id=fresh_name("doubler", _names(d)),
        label=str(v["label"]),
        stock=str(v["stock"]),
        host=r.target,
        back=bool(v["back"]),
        x=float(v["x"]),
        y=float(v["y"]),
        width=float(v["width"]),
        height=float(v["height"]),
    )
    return replace(d, added=(*d.added, plate))


def _gusset(d: Design, r: Repair) -> Design:
    v: dict[str, Any] = r.values
    plate = Gusset(id=fresh_name("gusset", _names(d)), label=str(v["label"]), stock=str(v["stock"]), a=r.target, b=str(v["to"]), size=float(v["size"]))
    return replace(d, added=(*d.added, plate))


def _holes(d: Design, r: Repair) -> Design:
    v: dict[str, Any] = r.values
    taken = {f.id for f in d.features}
    made = []
    for panel, at in ((r.target, v["at"]), (str(v["to"]), v["at_to"])):
        (x, y, dx, dy), name = at, fresh_name("bracket", taken)
        taken.add(name)
        across = abs(dx) > abs(dy)
        made.append(
            Hole(
                id=name,
                panel=panel,
                diameter=float(v["diameter"]),
                x=round(x, 2),
                y=round(y, 2),
                columns=2 if across else 1,
                rows=1 if across else 2,
                pitch_x=float(v["pitch"]),
                pitch_y=float(v["pitch"]),
            )
        )
    return replace(d, features=(*d.features, *made))


_KINDS: dict[RepairKind, Callable[[Design, Repair], Design]] = {
    RepairKind.NUMBER: _number,
    RepairKind.CHOICE: _choice,
    RepairKind.FEELS: _feels,
    RepairKind.STOCK: _stock,
    RepairKind.PANEL: _panel,
    RepairKind.FEATURE: _feature,
    RepairKind.DROP_FEATURE: lambda d, r: replace(d, features=tuple(f for f in d.features if f.id != r.target)),
    RepairKind.DROP_ADDED: lambda d, r: replace(d, added=tuple(a for a in d.added if a.id != r.target)),
    RepairKind.WHOLE: lambda d, r: replace(d, splits=tuple(s for s in d.splits if s.panel != r.target)),
    RepairKind.DIVIDE: _divide,
    RepairKind.FORGET: lambda d, r: replace(d, choices={k: c for k, c in d.choices.items() if k != r.target}),
    RepairKind.VARIANT: _variant,
    RepairKind.RELIEF: lambda d, r: replace(d, relief=float(str(r.values["value"]))),
    RepairKind.PLATE: _plate,
    RepairKind.GUSSET: _gusset,
    RepairKind.HOLES: _holes,
}


def applied(design: Design, repair: Repair) -> Design:
    """Return the design with a repair carried out.

    Raises:
        DesignError: the repair does not belong to this design
        ValueOutside: its values lie outside what makes sense
    """
    try:
        return _KINDS[repair.kind](design, repair)
    except (KeyError, TypeError, ValueError) as problem:
        raise DesignError(say("repair_of_other_design")) from problem
