"""Valid values for property tests, and builders that fix what a test does not care about."""

from __future__ import annotations

from hypothesis import strategies as st

from notchcore.design.design import Design
from notchcore.design.families.box import ROLES, BoxNumbers, Sizing, Top
from notchcore.design.joints.solve import MeetingChoice
from notchcore.measure.kerf import KerfTest, KerfTestKind
from notchcore.measure.stock import Stock, StockEvidence, stock_of
from notchcore.measure.thickness import Reading

TODAY = "2026-11-24"


def make_stock(sid: str = "ply", t: float = 3.0, *, kerf: float = 0.16, family: str = "plywood", label: float | None = None) -> Stock:
    """Return a stock of this thickness and kerf, both measured."""
    return stock_of(
        StockEvidence(
            id=sid,
            name=sid,
            family=family,
            label=label or round(t, 1) or 0.5,
            readings=tuple(Reading(thickness=t + d, on="2026-11-10") for d in (-0.01, 0.0, 0.01)),
            kerf_tests=(KerfTest(kind=KerfTestKind.STRIPS, drawn=10.0, measured=10 * (10.0 - kerf), count=10, on="2026-11-10"),),
        ),
        today=TODAY,
    )


def make_box(choices: dict[str, MeetingChoice] | None = None, *, same_stock: bool = False, **numbers: object) -> Design:
    stocks = {role: "ply" if same_stock else role for role in ROLES}
    return Design(numbers=BoxNumbers(**numbers), stocks=stocks, choices=choices or {})  # type: ignore[arg-type]


thicknesses = st.floats(0.8, 12.0).map(lambda t: round(t, 2))
sizes = st.floats(20.0, 600.0).map(lambda v: round(v, 1))


@st.composite
def boxes(draw: st.DrawFn) -> tuple[Design, dict[str, Stock]]:
    """Any box with unequal stocks; not every wish is possible."""
    stocks = {name: make_stock(name, draw(thicknesses)) for name in ("walls", "base", "dividers", "lid")}
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
