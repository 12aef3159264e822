"""Bridges hold a part in its sheet, by as much material as is meant, clear of corners and joints; files and machine leave them out."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import unary_union

from notchcore.design.assembly import Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.families.outlines import rounded
from notchcore.geom.contours import Contour, sampled
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.slab import Pose
from notchcore.nest.values import Placement
from notchcore.plan.bridges import BRIDGE, CLEAR, gap_for
from notchcore.plan.moves import MOVE_SAG
from notchcore.plan.paths import CutPath, alone, part_paths, placed_paths
from tests.strategies import make_stock

KERF = 0.2


def a_part(profile: Profile, bridges: int) -> Part:
    return Part(
        id="p", label="P", stock="ply", pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3, profile=profile, nominal=profile, bridges=bridges
    )


def regular(corners: int, radius: float) -> Profile:
    turns = [2 * math.pi * k / corners for k in range(corners)]
    return Profile(outer=tuple((radius * math.cos(a), radius * math.sin(a)) for a in turns))


def outer_of(part: Part, turn: int = 0) -> CutPath:
    paths = placed_paths(part_paths(part, KERF), alone(Placement(part="p", copy=0, turn=turn, x=100.0, y=100.0)))
    (path,) = [p for p in paths if p.operation == "outer"]
    return path


def left_of(path: CutPath) -> list[Polygon]:
    """Return the pieces into which a round beam on its lines cuts a sheet; an independent route: areas, not lengths."""

    def burnt(line: Contour) -> Any:
        points = sampled(line, sag=MOVE_SAG / 4)
        return LineString((*points, points[0]) if line.closed else points).buffer(KERF / 2)

    sheet = Point(100, 100).buffer(400).difference(unary_union([burnt(line) for line in path.lines]))
    return list(getattr(sheet, "geoms", [sheet]))


@settings(max_examples=40, deadline=None)
@given(
    st.one_of(
        st.builds(lambda w, h: rectangle(0, 0, x1=w, y1=h), st.floats(12, 90), st.floats(12, 90)),
        st.builds(lambda w, h, r: rounded(0, 0, x1=w, y1=h, radius=r), st.floats(20, 90), st.floats(20, 90), st.floats(1, 6)),
        st.builds(regular, st.integers(3, 9), st.floats(14, 60)),
    ),
    st.integers(0, 5),
    st.integers(0, 23).map(lambda k: 15 * k),
)
def test_a_part_stays_in_its_sheet_exactly_when_it_has_bridges(profile: Profile, count: int, turn: int) -> None:
    path = outer_of(a_part(profile, count), turn)
    pieces = left_of(path)
    assert len(path.bridges) == count
    assert len(pieces) == (1 if count else 2)
    if count:
        whole, gap = path.contour.length, gap_for(KERF)
        assert sum(line.length for line in path.lines) == pytest.approx(whole - count * gap)
        corners = [s.start for s in path.contour.segments]
        assert min(math.dist(b, c) for b in path.bridges for c in corners) >= gap / 2 + CLEAR - 1e-6
        holding = pieces[0].intersection(LineString((*sampled(path.contour), sampled(path.contour)[0])))
        assert holding.length == pytest.approx(count * BRIDGE, abs=0.02 * count)


def test_bridges_keep_clear_of_joints_and_say_when_there_is_no_room() -> None:
    stocks = {r.id: make_stock(r.id, 3.0) for r in ROLES}
    design = Design(numbers=BoxNumbers(width=180, depth=120, height=60), stocks={r.id: r.id for r in ROLES}, edits={"front": PanelEdit(bridges=3)})
    front = build(design, stocks).part("front")
    paths = part_paths(front, KERF)
    assert len(paths.bridges) == 3
    joints = [Polygon(f.corners) for f in front.features if f.meeting]
    assert min(j.distance(Point(b)) for b in paths.bridges for j in joints) >= gap_for(KERF) / 2 + CLEAR
    tiny = replace(a_part(rectangle(0, 0, x1=3.5, y1=3.5), 9))
    assert [f.code for f in part_paths(tiny, KERF).findings] == ["bridges_do_not_fit"]


def test_a_disc_is_held_too_and_its_lines_are_arcs() -> None:
    from notchcore.geom.profile import Circle, circle_ring

    circle = Circle(x=0.0, y=0.0, radius=15.0)
    path = outer_of(a_part(Profile(outer=circle_ring(circle), circles=(circle,)), 2))
    assert len(left_of(path)) == 1
    assert all(s.centre is not None for line in path.lines for s in line.segments)
