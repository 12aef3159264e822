"""The assembly as solids, read back by another library: closed bodies of the right volume, none inside another."""

from __future__ import annotations

import io
from itertools import combinations

import numpy as np
import pytest
import trimesh

from notchcore.design.assembly import Assembly
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.registry import FAMILIES
from notchcore.formats.solid import gltf, stl
from notchcore.geom.profile import net_area
from tests.strategies import make_stock


def made(family: str) -> Assembly:
    f = FAMILIES[family]
    stocks = {r.id: make_stock(r.id, t) for r, t in zip(f.roles, (3.1, 2.8, 3.4, 3.0, 2.9, 3.2, 3.3, 2.7), strict=False)}
    return build(Design(numbers=f.numbers(), stocks={k: k for k in stocks}), stocks)


@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_parts_are_closed_bodies_that_share_no_place(family: str) -> None:
    assembly = made(family)
    scene = trimesh.load(io.BytesIO(gltf(assembly, name=family)), file_type="glb")
    bodies = list(scene.geometry.values())
    assert len(bodies) == len(assembly.parts)
    for body, part in zip(bodies, assembly.parts, strict=True):
        assert body.is_watertight
        assert body.volume * 1e9 == pytest.approx(net_area(part.nominal) * part.t, rel=1e-3)
    for a, b in combinations(bodies, 2):
        if (a.bounds[0] < b.bounds[1] - 1e-6).all() and (b.bounds[0] < a.bounds[1] - 1e-6).all():
            shared = trimesh.boolean.intersection([a, b], engine="manifold")
            # float32 coordinates of touching faces leave a film of a thousandth of a millimetre
            if shared.is_empty:
                continue
            with np.errstate(all="ignore"):  # the centre of a film of no thickness is not a number
                volume = shared.volume
            assert volume * 1e9 < 1e-3 * min(a.area, b.area) * 1e6


def test_the_stl_holds_every_part_in_millimetres() -> None:
    assembly = made("box")
    whole = trimesh.load(io.BytesIO(stl(assembly, name="box")), file_type="stl")
    assert whole.volume == pytest.approx(sum(net_area(p.nominal) * p.t for p in assembly.parts), rel=1e-3)
    assert whole.extents == pytest.approx((180, 120, 60), abs=1e-3)
