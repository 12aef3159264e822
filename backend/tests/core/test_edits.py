"""What a person changes about single panels: it keeps fitting, it follows changes of size, and nothing is lost."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from copy import deepcopy
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from notchcore.check.dry_fit import collisions
from notchcore.check.order import assembly_order
from notchcore.design.assembly import Assembly, FeatureKind, Mark, Part
from notchcore.design.between import Axis, Between
from notchcore.design.building import arranged, build
from notchcore.design.copies import copied
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit, Split
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.families.box_room import Top
from notchcore.design.families.crate import CrateNumbers, break_places
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.registry import FEATURES
from notchcore.design.features.values import Burned, Falls, Text, Window
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.panel import resolved
from notchcore.design.plates import OnFace
from notchcore.design.scaling import scaled
from notchcore.design.styles import Style
from notchcore.design.turning import Tilt, mirrored, turned_over
from notchcore.design.visible import Frame, visible_frame
from notchcore.errors import DesignError, NotchCoreError
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of, common_volume, mesh_of
from notchcore.geom.vectors import Vec2, dot
from notchcore.measure.stock import Stock
from tests.solids import union_volume
from tests.strategies import make_stock
from tests.workshop.covariance import same_size
from tests.workshop.projects import drawn

STOCKS = {k: make_stock(k, t) for k, t in {"walls": 3.1, "base": 4.0, "dividers": 2.0, "lid": 3.0, "scrap": 2.4}.items()}


def a_box(**more: object) -> Design:
    numbers = more.pop("numbers", None) or BoxNumbers(width=180, depth=120, height=60, columns=2)
    return Design(numbers=numbers, stocks={r.id: r.id for r in ROLES}, **more)  # type: ignore[arg-type]


def sizes(assembly: Assembly) -> dict[str, tuple[float, float]]:
    found = {}
    for p in assembly.parts:
        x0, y0, x1, y1 = bounds_of(p.profile.outer)
        found[p.id] = (round(x1 - x0, 3), round(y1 - y0, 3))
    return found


shelf = Between(id="shelf", label="Shelf", stock="base", a="left", b="right", axis=Axis.Z, at=30.0)


@st.composite
def changes(draw: st.DrawFn) -> dict[str, object]:
    """Some changes to a box of 180 x 120 x 60 that leave room for everything."""
    moves = draw(st.dictionaries(st.sampled_from(["front", "right", "base"]), st.floats(0, 12), max_size=3))
    way = {"front": (0, -1, 0), "right": (1, 0, 0), "base": (0, 0, -1)}
    edits = {k: PanelEdit(move=tuple(v * w for w in way[k])) for k, v in moves.items()}  # type: ignore[arg-type]
    for panel in draw(st.sets(st.sampled_from(["left", "right", "back", "column-1", "base"]), max_size=3)):
        edits[panel] = replace(edits.get(panel, PanelEdit()), turned=draw(st.booleans()), across=draw(st.booleans()))
    added: list[object] = []
    if draw(st.booleans()):
        added.append(replace(shelf, at=draw(st.floats(18, 45))))
    if draw(st.booleans()):
        added.append(CopyOf(id="again", label="Again", of="column-1", move=(draw(st.floats(15, 60)), 0, 0)))
    if draw(st.booleans()):
        added.append(OnFace(id="tag", label="Tag", stock="lid", host="front", back=False, x=20, y=20, width=40, height=20))
    splits = tuple(
        Split(panel=p, at=draw(st.floats(40, 60)), scarf=draw(st.booleans())) for p in draw(st.sets(st.sampled_from(["front", "base", "back"]), max_size=2))
    )
    return {"edits": edits, "added": tuple(added), "splits": splits}


@settings(max_examples=40, deadline=None)
@given(changes())
def test_an_edited_box_still_fits(change: dict[str, object]) -> None:
    design = a_box(**change)
    assembly = build(design, STOCKS)
    must = [f.code for f in assembly.findings if f.severity == "must"]
    if "split_meets_joint" in must:  # a person is told to divide the sheet elsewhere
        return
    assert must == []
    assert collisions(assembly.parts) == ()
    plan = arranged(design, STOCKS)
    everything = {p.id: p for p in (*plan.ghosts, *plan.panels)}
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert sum(mesh_of(p.slab(nominal=True)).volume() for p in assembly.parts) == pytest.approx(together, abs=0.1)
    assert union_volume([resolved(p, everything).slab() for p in plan.panels]) == pytest.approx(together, abs=0.1)
    if len(assembly.parts) < 9:
        assert assembly_order(assembly.parts).locked == ()


@settings(max_examples=25, deadline=None)
@given(panel=st.sampled_from(["shelf", "column-1", "back", "front"]), how=st.sampled_from(["tip", "swing"]), degrees=st.floats(-24, 24), turned=st.booleans())
def test_joints_follow_a_panel_that_is_tilted(panel: str, how: str, degrees: float, turned: bool) -> None:
    edit = PanelEdit(tilt=Tilt(**{how: degrees}), turned=turned)
    numbers = BoxNumbers(width=180, depth=120, height=170, columns=1 if panel == "shelf" else 2)
    design = a_box(numbers=numbers, edits={panel: edit}, added=(replace(shelf, at=85.0),) if panel == "shelf" else ())
    straight, assembly = build(replace(design, edits={}), STOCKS), build(design, STOCKS)
    if [f for f in assembly.findings if f.severity == "must"]:  # it leans out of where it stood: that is told
        return
    assert collisions(assembly.parts) == ()
    together = union_volume([p.slab(nominal=True) for p in assembly.parts])
    assert sum(mesh_of(p.slab(nominal=True)).volume() for p in assembly.parts) == pytest.approx(together, abs=0.1)
    before, after = straight.part(panel).pose.normal, assembly.part(panel).pose.normal
    assert abs(dot(before, after)) == pytest.approx(math.cos(math.radians(degrees)))
    mates = {frozenset((m.a, m.b)): m for m in assembly.meetings if panel in (m.a, m.b)}
    assert set(mates) == {frozenset((m.a, m.b)) for m in straight.meetings if panel in (m.a, m.b)}  # it still reaches all that it ended at
    assert all(m.style is not Style.BUTT or abs(degrees) > 5 for m in mates.values())


def test_neighbours_follow_a_panel_that_is_moved() -> None:
    before, after = sizes(build(a_box(), STOCKS)), sizes(build(a_box(edits={"front": PanelEdit(move=(0, -20, 0))}), STOCKS))
    assert after["left"][0] == pytest.approx(before["left"][0] + 20)
    assert after["base"][1] == pytest.approx(before["base"][1] + 20)
    assert after["column-1"][0] == pytest.approx(before["column-1"][0] + 20)
    assert after["front"] == before["front"]


def test_a_panel_left_out_leaves_its_neighbours_as_they_were() -> None:
    whole, open_front = build(a_box(), STOCKS), build(a_box(edits={"front": PanelEdit(gone=True)}), STOCKS)
    assert "front" not in {p.id for p in open_front.parts}
    assert sizes(open_front)["left"] == sizes(whole)["left"]


def test_the_prototype_is_one_sheet_and_swapping_back_gives_the_same_parts() -> None:
    design = a_box(added=(shelf,), edits={"front": PanelEdit(stock="lid")})
    scrap = build(replace(design, prototype="scrap"), STOCKS)
    assert {p.stock for p in scrap.parts} == {"scrap"}
    slots = [f for p in scrap.parts for f in p.features if f.kind is FeatureKind.SLOT]
    assert {round(f.width.terms[0].value, 3) for f in slots} == {2.4}
    assert build(replace(replace(design, prototype="scrap"), prototype=None), STOCKS) == build(design, STOCKS)


@settings(max_examples=15, deadline=None)
@given(st.floats(0.7, 3.0))
def test_scaling_changes_sizes_but_no_joint(factor: float) -> None:
    design = a_box(added=(shelf,), edits={"column-1": PanelEdit(move=(10, 0, 0))})
    before, after = build(design, STOCKS), build(scaled(design, factor), STOCKS)
    assert sizes(after)["front"][0] == pytest.approx(180 * factor, abs=0.01)
    for part in after.parts:
        for f in part.features:
            if f.kind in (FeatureKind.SLOT, FeatureKind.LAP):
                alike = next(g for p in before.parts if p.id == part.id for g in p.features if g.meeting == f.meeting and g.kind is f.kind)
                assert f.width.value == pytest.approx(alike.width.value, abs=1e-9)


@settings(max_examples=30, deadline=None)
@given(st.sampled_from(["front", "left", "base", "column-1"]), st.sampled_from([(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]), st.floats(-300, 300))
def test_a_sheet_turned_over_lies_where_it_lay_and_a_mirrored_one_mirrors_back(name: str, normal: tuple, about: float) -> None:
    panel = next(p for p in arranged(a_box(), STOCKS).panels if p.id == name)
    volume = mesh_of(panel.slab()).volume()
    assert common_volume(panel.slab(), turned_over(panel).slab()) == pytest.approx(volume, rel=1e-6)
    twice = mirrored(mirrored(panel, normal, about=about), normal, about=about)
    assert common_volume(panel.slab(), twice.slab()) == pytest.approx(volume, rel=1e-6)
    assert mesh_of(mirrored(panel, normal, about=about).slab()).volume() == pytest.approx(volume, rel=1e-9)


def test_copies_spares_and_helpers_are_counted_on_the_part() -> None:
    part = build(a_box(edits={"front": PanelEdit(copies=3, spares=2, helper=True)}), STOCKS).part("front")
    assert (part.copies, part.spares, part.helper) == (3, 2, True)


@pytest.mark.parametrize(
    "change",
    [
        {"added": (shelf, shelf)},
        {"added": (replace(shelf, id="front"),)},
        {"features": (FEATURES[0].type(id="a", panel="front"), FEATURES[0].type(id="a", panel="back"))},
    ],
)
def test_two_things_of_one_name_are_refused(change: dict) -> None:
    with pytest.raises(DesignError, match="same name"):
        build(a_box(**change), STOCKS)


@pytest.mark.parametrize("wrong", [{"copies": 0}, {"spares": -1}, {"move": (float("nan"), 0, 0)}, {"move": (1e9, 0, 0)}])
def test_edits_that_make_no_sense_are_refused(wrong: dict) -> None:
    with pytest.raises(NotchCoreError):
        PanelEdit(**wrong)


def test_a_chosen_style_layout_and_share_of_a_meeting_are_kept_through_a_change_of_size() -> None:
    choices = {"front+left": MeetingChoice(width=8.0), "base+column-1": MeetingChoice(style=Style.WHOLE)}
    for width in (180, 260):
        assembly = build(a_box(choices=choices, numbers=BoxNumbers(width=width, depth=120, height=60, columns=2)), STOCKS)
        meetings = {m.id: m for m in assembly.meetings}
        assert meetings["front+left"].count == 7  # 60 mm in cells of about 8, an odd number
        assert meetings["base+column-1"].count == 1


@settings(max_examples=40, deadline=None)
@given(st.integers(6, 40), st.floats(8, 40), st.floats(0.15, 0.9))
def test_ribs_are_divided_into_pieces_that_fit_the_bed_and_neighbours_break_elsewhere(ribs: int, pitch: float, share: float) -> None:
    total, lap = ribs * pitch, min(9.0, 0.4 * pitch)
    longest = max(total * share, 3 * pitch + lap)
    allowed = [pitch * (i + 1) for i in range(ribs - 1)]
    ways = break_places(total, longest, allowed=allowed, pitch=pitch, lap=lap)
    assert ways is not None
    first, second = ways
    for places in (first, second):
        ends = [0.0, *places, total]
        for i, (a, b) in enumerate(itertools.pairwise(ends)):
            laps = (i > 0) * lap / 2 + (i < len(ends) - 2) * lap / 2
            assert b - a + laps <= longest + 1e-9
    gap = min((abs(a - b) for a in first for b in second), default=total)
    if longest > total / (len(first) + 1) + 5 * pitch:  # there is room to stagger
        assert gap >= 2 * pitch - 1e-6
        assert len(second) == len(first)
    if longest >= 4 * pitch + lap:  # in halves that only just fit the bed, a piece more keeps the breaks apart
        assert gap >= pitch - 1e-6


def _signs_on(part: Part) -> set[tuple[tuple[float, float], ...]]:
    """Closed strokes of three, four or eight corners, from their first one: triangles, squares, circles."""
    closed = [m.line for m in part.marks if len(m.line) in (4, 5, 9) and m.line[0] == m.line[-1]]
    return {tuple((round(x - line[0][0], 3), round(y - line[0][1], 3)) for x, y in line) for line in closed}


def test_every_piece_of_a_divided_rib_carries_a_mark_of_its_own() -> None:
    stocks = {k: make_stock(k, 3.0) for k in ("along", "across")}
    design = Design(numbers=CrateNumbers(width=400, depth=300, longest=180.0), stocks={"along": "along", "across": "across"})
    assembly = build(design, stocks)
    assert max(max(s) for s in sizes(assembly).values()) <= 180.0 + 1e-6
    for i, j in ((m.a, m.b) for m in assembly.meetings if m.kind == "splice"):  # the same sign on both sides of a break
        assert _signs_on(assembly.part(i)) & _signs_on(assembly.part(j)), (i, j)
    long = [bounds_of(p.profile.outer) for p in assembly.parts if p.id.startswith("along") and p.id.endswith(".1")]
    assert all(abs((a[2] - a[0]) - (b[2] - b[0])) > 40 for a, b in itertools.pairwise(long))  # no two neighbours break in one line
    marks = [tuple((round(x - m.line[0][0], 3), round(y - m.line[0][1], 3)) for m in p.marks for x, y in m.line) for p in assembly.parts]
    assert all(marks)
    labels = [p.label for p in assembly.parts]
    assert len(set(labels)) == len(labels)
    splices = [m for m in assembly.meetings if m.kind == "splice"]
    assert splices
    assert all(m.style == "puzzle" and m.count >= 1 for m in splices)
    assert all(p.panel == p.id for p in assembly.parts)  # they are panels of their own, which are edited and divided like any other
    again = build(replace(design, splits=(Split(panel="along-2.1", at=35.0),), edits={"along-2.1": PanelEdit(spares=2)}), stocks)
    assert {p.id: p.spares for p in again.parts if p.panel == "along-2.1"} == {"along-2.1.1": 2, "along-2.1.2": 2}


def visible_of(design: Design, stocks: dict[str, Stock]) -> Frame:
    plan = arranged(design, stocks)
    panels = {p.id: p for p in plan.panels}
    return visible_frame(panels["figure"], panels, rules=plan.rules)


def test_a_plate_keeps_its_place_on_what_is_seen_of_its_host_whatever_is_hidden() -> None:
    def above_the_base(base: float, *, corner: bool) -> float:
        plate = OnFace(id="plate", label="Plate", stock="lid", host="column-1", x=5.0, y=8.0, width=10.0, height=6.0, from_corner=corner)
        made = build(a_box(added=(plate,)), {**STOCKS, "base": make_stock("base", base)})
        on = made.part("plate")
        return min(on.pose.to_world(p)[2] for p in on.profile.outer) - box_of(made.part("base").slab())[5]

    assert [above_the_base(t, corner=True) for t in (3.0, 6.0)] == pytest.approx([8.0, 8.0])
    assert above_the_base(6.0, corner=False) != pytest.approx(8.0)  # designs made before: from the plane's own origin


WAYS: list[dict[str, object]] = [
    {"move": (700.0, 0.0, 0.0)},
    {"move": (0.0, 700.0, 0.0)},
    {"move": (0.0, 0.0, 700.0)},
    {"move": (-650.0, 40.0, 0.0)},
    {"mirror": Axis.X, "about": 700.0},
    {"mirror": Axis.Y, "about": -700.0},
    {"mirror": Axis.Z, "about": 700.0},
    {"round": Axis.Z, "turn": 155.0, "centre": (900.0, 40.0, 0.0)},
    {"round": Axis.X, "turn": -120.0, "centre": (0.0, 900.0, 900.0)},
]


@pytest.mark.parametrize("family", list(FAMILIES))
def test_a_copy_of_any_panel_is_as_large_as_its_original_wherever_it_stands(family: str) -> None:
    f = FAMILIES[family]
    stocks = {role.id: make_stock(role.id, 3.0) for role in f.roles}
    design = Design(numbers=f.numbers(), stocks={role.id: role.id for role in f.roles})
    panels = arranged(design, stocks).panels[:8]
    for panel in panels:
        for k, way in enumerate(WAYS):
            with_copy = replace(design, added=(CopyOf(id="twin", label="Twin", of=panel.id, **way),))  # type: ignore[arg-type]
            mates = [b.mate for b in panel.bounds]
            if mates:  # also where one that it ends at was taken away
                with_copy = replace(with_copy, edits={mates[k % len(mates)]: PanelEdit(gone=k % 2 > 0)})
            assert same_size(with_copy, panel.id, "twin", stocks, {}), (panel.id, way)


@settings(max_examples=15, deadline=None)
@given(axis=st.sampled_from(list(Axis)), turns=st.integers(2, 8), centre=st.tuples(*[st.floats(-100, 100)] * 3))
def test_copies_round_a_line_come_back_to_their_original(axis: Axis, turns: int, centre: tuple[float, float, float]) -> None:
    """Each a turn on from the one before; the last lies where the first does, and a quarter turn is known by hand."""
    chain: list[CopyOf] = []
    for k in range(turns):
        of = chain[-1].id if chain else "base"
        chain.append(CopyOf(id=f"c{k}", label=f"C{k}", of=of, round=axis, turn=360.0 / turns, centre=centre))
    panels = {p.id: p for p in arranged(a_box(added=tuple(chain)), STOCKS).panels}
    first, last = panels["base"].pose, panels[chain[-1].id].pose
    assert [*last.origin, *last.normal] == pytest.approx([*first.origin, *first.normal], abs=1e-6)
    lying = replace(panels["base"], pose=replace(first, origin=(2.0, 1.0, 3.0)))
    quarter = {Axis.Z: (-1.0, 2.0, 3.0), Axis.X: (2.0, -3.0, 1.0), Axis.Y: (3.0, 1.0, -2.0)}
    assert copied(CopyOf(id="q", label="Q", of="base", round=axis, turn=90.0), lying, panels={}).pose.origin == pytest.approx(quarter[axis])


@pytest.mark.parametrize("mirror", [None, Axis.X])
def test_a_copy_has_the_words_of_its_original_to_be_read_the_same_way(mirror: Axis | None) -> None:
    """Also the copy of a piece that falls out of a window, whose words are put on it after the window."""
    door = Window(id="w", panel="front", width=60.0, height=40.0, x=-30.0, falls=Falls.PART)
    words = (Text(id="t", panel="lid", words="ROW 7", cap=8.0, burned=Burned.SCORE), Text(id="p", panel="w-piece", words="BEAN", cap=6.0, burned=Burned.SCORE))
    numbers = BoxNumbers(width=180, depth=120, height=60, top=Top.LIFT_OFF)
    twins = tuple(
        CopyOf(id=f"twin-{k}", label=f"Twin {k}", of=of, mirror=mirror, about=900.0, move=(0.0 if mirror else 900.0, 0.0, 0.0))
        for k, of in enumerate(("w-piece", "lid"))
    )
    made = build(a_box(numbers=numbers, features=(door, *words), added=twins), STOCKS)
    for k, of in enumerate(("w-piece", "lid")):
        mine, its = made.part(f"twin-{k}").marks, [m for m in made.part(of).marks if m.feature]
        assert len(its) > 3

        def from_corner(marks: Sequence[Mark]) -> list[list[Vec2]]:
            x, y = min(p[0] for m in marks for p in m.line), min(p[1] for m in marks for p in m.line)
            return sorted(sorted((round(px - x, 3), round(py - y, 3)) for px, py in m.line) for m in marks)

        assert from_corner(mine) == from_corner(its)


@pytest.mark.parametrize("value", [math.inf, -math.inf, math.nan])
def test_no_number_of_a_design_may_be_none(value: float) -> None:
    """Whatever a design holds that is a number, at whatever depth, refuses what no number is: nothing like it is ever stored."""
    written: TypeAdapter[Design] = TypeAdapter(Design)

    def places(x: Any, way: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
        if isinstance(x, dict | list):
            for k, v in x.items() if isinstance(x, dict) else enumerate(x):
                yield from places(v, (*way, k))
        elif isinstance(x, int | float) and not isinstance(x, bool):
            yield way

    kept = []
    for seed in (6, 20, 36, 39, 65):
        plain = written.dump_python(drawn(seed).design, mode="json")
        for way in places(plain):
            changed = deepcopy(plain)
            inner = changed
            for k in way[:-1]:
                inner = inner[k]
            inner[way[-1]] = value
            try:
                written.validate_python(changed)
            except (NotchCoreError, ValidationError):
                continue
            kept.append(way)
    assert kept == []
