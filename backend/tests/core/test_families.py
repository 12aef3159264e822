"""Every family, whatever its numbers: nothing overlaps, nothing is missing, and it goes together or a finding says why not."""

from __future__ import annotations

from collections.abc import Iterable

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.dryfit import collisions
from notchcore.check.order import assembly_order
from notchcore.design.assembly import Assembly, Part
from notchcore.design.design import arranged, build
from notchcore.design.families.registry import FAMILIES
from notchcore.design.numbers import numbers_of
from notchcore.design.panel import Panel, resolved
from notchcore.findings import Severity
from notchcore.geom.slab import mesh_of, union_volume
from tests.strategies import family_designs

EACH = sorted(FAMILIES)


def volume(parts: Iterable[Part]) -> float:
    return float(sum(mesh_of(p.slab(nominal=True)).volume() for p in parts))


def envelopes(panels: tuple[Panel, ...]) -> list:
    by_id = {p.id: p for p in panels}
    return [resolved(p, by_id).slab() for p in panels]


def expected_void(assembly: Assembly) -> float:
    return sum(m.wedge_void for m in assembly.meetings)


@pytest.mark.parametrize("family", EACH)
@settings(max_examples=25, deadline=None)
@given(data=st.data())
def test_whatever_its_numbers_it_fits_or_says_what_to_change(family: str, data: st.DataObject) -> None:
    design, stocks = data.draw(family_designs(family))
    assembly = build(design, stocks)
    names = {n.name for n in numbers_of(type(design.numbers))}
    if not assembly.parts:
        assert [f for f in assembly.findings if f.severity is Severity.MUST]
        assert all(f.field in names for f in assembly.findings)
        return
    must = [f for f in assembly.findings if f.severity is Severity.MUST]
    assert must == []
    assert collisions(assembly.parts) == ()
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert volume(assembly.parts) == pytest.approx(together, abs=0.1)
    void = union_volume(envelopes(arranged(design, stocks).panels)) - together
    assert -0.1 < void < expected_void(assembly) + 0.1
    assert assembly_order(assembly.parts).locked == ()
