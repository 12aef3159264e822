"""Valid values for property tests, and builders that fix what a test does not care about."""

from __future__ import annotations

from dataclasses import fields
from enum import Enum

from hypothesis import strategies as st

from notchcore.design.design import Design
from notchcore.design.families.box import ROLES, BoxNumbers, Sizing, Top
from notchcore.design.families.registry import FAMILIES
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.numbers import Number, NumberKind, numbers_of
from notchcore.measure.kerf import KerfTest, KerfTestKind
from notchcore.measure.stock import Stock, StockEvidence, stock_of
from notchcore.measure.thickness import Reading

TODAY = "2026-11-24"


CLEAR = ("cast_acrylic", "extruded_acrylic")


def make_stock(sid: str = "ply", t: float = 3.0, *, kerf: float = 0.16, material: str = "plywood", label: float | None = None) -> Stock:
    """Return a stock of this thickness and kerf, both measured."""
    return stock_of(
        StockEvidence(
            id=sid,
            name=sid,
            material=material,
            label=label or round(t, 1) or 0.5,
            readings=tuple(Reading(thickness=t + d, on="2026-11-10") for d in (-0.01, 0.0, 0.01)),
            clear=material in CLEAR,
            film=material in CLEAR,
            kerf_tests=(KerfTest(kind=KerfTestKind.STRIPS, drawn=10.0, measured=10 * (10.0 - kerf), count=10, on="2026-11-10"),),
        ),
        today=TODAY,
    )


def make_box(choices: dict[str, MeetingChoice] | None = None, *, same_stock: bool = False, **numbers: object) -> Design:
    stocks = {role.id: "ply" if same_stock else role.id for role in ROLES}
    return Design(numbers=BoxNumbers(**numbers), stocks=stocks, choices=choices or {})  # type: ignore[arg-type]


thicknesses = st.floats(0.8, 12.0).map(lambda t: round(t, 2))
sizes = st.floats(20.0, 600.0).map(lambda v: round(v, 1))


@st.composite
def boxes(draw: st.DrawFn) -> tuple[Design, dict[str, Stock]]:
    """Any box with unequal stocks; not every wish is possible."""
    stocks = {role.id: make_stock(role.id, draw(thicknesses)) for role in ROLES}
    top = draw(st.sampled_from(Top))
    design = make_box(
        width=draw(sizes),
        depth=draw(sizes),
        height=draw(sizes),
        sizing=draw(st.sampled_from(Sizing)),
        top=top,
        columns=draw(st.integers(1, 5)),
        rows=draw(st.integers(1, 4)),
        thumb_notch=draw(st.sampled_from([0.0, 0.0, 12.0])) if top is not Top.FIXED else 0.0,
        lid_hole=draw(st.sampled_from([0.0, 10.0])) if top is not Top.OPEN else 0.0,
    )
    return design, stocks


def _values(about: Number, default: object) -> st.SearchStrategy[object]:
    if about.kind is NumberKind.CHOICE:
        return st.sampled_from(list(type(default))) if isinstance(default, Enum) else st.just(default)
    if about.kind is NumberKind.TEXT:
        return st.just(default)
    if about.kind is NumberKind.COUNT:
        return st.integers(int(about.least), int(min(about.most, max(about.least + 6, 6))))
    if about.kind is NumberKind.LENGTH:
        near = float(default) or 12.0  # type: ignore[arg-type]
        low = max(about.least, near * 0.4)
        some = st.floats(low, min(about.most, max(near * 2.0, low * 8))).map(lambda v: round(v, 1))
        return st.one_of(st.just(0.0), some) if about.none_at_zero or about.least == 0 else some
    return st.floats(about.least, about.most).map(lambda v: round(v, 1))


@st.composite
def family_designs(draw: st.DrawFn, family: str) -> tuple[Design, dict[str, Stock]]:
    """Any design of a family, with unequal stocks; not every wish is possible. Numbers stay near their defaults in turn."""
    f = FAMILIES[family]
    changed = draw(st.sets(st.sampled_from([n.name for n in numbers_of(f.numbers)]), max_size=5))
    defaults = {d.name: d.default for d in fields(f.numbers)}
    numbers = {n.name: draw(_values(n, defaults[n.name])) for n in numbers_of(f.numbers) if n.name in changed}
    stocks = {r.id: make_stock(r.id, draw(thicknesses)) for r in f.roles}
    return Design(numbers=f.numbers(**numbers), stocks={r.id: r.id for r in f.roles}), stocks
