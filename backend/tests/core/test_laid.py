"""What goes into what: letters and drawings as pieces, through their panel, in a pocket or glued on; and recesses for rims."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Point, box
from shapely.geometry import Polygon as Shape
from shapely.ops import unary_union

from notchcore.check.around import Around
from notchcore.check.choices import mended
from notchcore.check.dry_fit import collisions
from notchcore.check.features import too_deep, wrong_faces
from notchcore.check.seats import shallow_seats, wished_depths
from notchcore.design.assembly import Assembly, Part
from notchcore.design.between import Axis
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit
from notchcore.design.families.box import ROLES, BoxNumbers, Top
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.features.drawing import Drawing, DrawnLine
from notchcore.design.features.registry import Feature
from notchcore.design.features.values import Artwork, Burned, OnSide, PieceStock, Recess, RecessShape, Text
from notchcore.design.plates import OnFace
from notchcore.design.repairs import applied
from notchcore.findings import Repair, RepairKind, Severity
from notchcore.geom.planar import moved
from notchcore.geom.profile import area_of, bounds_of, polygon_of, rectangle
from notchcore.geom.slab import mesh_of
from notchcore.measure.machine import Beam, Machine, Operation, default_settings
from notchcore.measure.stock import Stock
from notchcore.nest.laid import Nesting, Placement, SheetLayout
from notchcore.plan.cut_plan import cut_plan
from notchcore.words.render import say
from tests.solids import union_volume
from tests.strategies import make_stock

STOCKS = {"ply": make_stock("ply", 3.0), "walnut": make_stock("walnut", 2.0), "maple": make_stock("maple", 3.0), "thick": make_stock("thick", 6.0)}


def plate(*features: Feature, stock: str = "ply", drawing: Drawing | None = None, **more: object) -> Assembly:
    design = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": stock}, features=features, **more)  # type: ignore[arg-type]
    return build(design, STOCKS, drawings={"7": drawing} if drawing else {})


def words(text: str, how: Burned, **more: object) -> Text:
    return Text(id="t", panel="sheet", words=text, cap=30.0, burned=how, stock="maple", **more)  # type: ignore[arg-type]


def laid(assembly: Assembly) -> list[Part]:
    return [p for p in assembly.parts if p.laid_by == "t"]


def seen(part: Part) -> Shape:
    """Return a lying part in the world's plane."""
    shape = polygon_of(part.nominal)
    return Shape([part.pose.to_world(c)[:2] for c in shape.exterior.coords], [[part.pose.to_world(c)[:2] for c in h.coords] for h in shape.interiors])


@settings(max_examples=25, deadline=None)
@given(st.text("ABDOPQRSX8%", min_size=1, max_size=5), st.sampled_from(list(OnSide)))
def test_letters_that_are_set_through_fill_what_they_took_and_what_stands_in_them_is_of_the_panel(text: str, side: OnSide) -> None:
    assembly = plate(words(text, Burned.INLAID, side=side))
    whole = sum(mesh_of(p.slab(nominal=True)).volume() for p in assembly.parts)
    assert whole == pytest.approx(240 * 120 * 3, abs=0.5)
    assert union_volume([p.slab(nominal=True) for p in assembly.parts]) == pytest.approx(240 * 120 * 3, abs=0.5)
    assert collisions(assembly.parts) == ()
    pieces = laid(assembly)
    assert {p.stock for p in pieces if "inside" not in p.id} == {"maple"}
    assert {p.stock for p in pieces if "inside" in p.id} <= {"ply"}
    assert len([p for p in pieces if "inside" in p.id]) == sum({"A": 1, "B": 2, "D": 1, "O": 1, "P": 1, "Q": 1, "R": 1, "8": 2, "%": 2}.get(c, 0) for c in text)
    fits = {frozenset((m.a, m.b)) for m in assembly.meetings if m.kind == "inset" and m.clearance is not None}
    assert len(fits) == len(pieces)  # each in one opening: of the panel, or of the letter round it


@pytest.mark.parametrize("side", list(OnSide))
@pytest.mark.parametrize(("how", "style"), [(Burned.GLUED, "glue"), (Burned.POCKET, "recess")])
def test_letters_lie_on_the_face_that_they_are_read_from(how: Burned, style: str, side: OnSide) -> None:
    assembly = plate(words("BOR", how, side=side))
    sheet, pieces = assembly.part("sheet"), laid(assembly)
    assert {m.style for m in assembly.meetings} == {style}
    assert len(pieces) == len(assembly.meetings) == 3
    for p in pieces:
        low, high = sorted(p.pose.to_world((0, 0), h)[2] for h in (p.low, p.high))
        assert (low, high) == ((3.0, 6.0) if side is OnSide.FRONT else (-3.0, 0.0))
        assert (p.pose.normal[2] > 0) is (side is OnSide.FRONT)  # its show face looks out
    plain = plate(words("BOR", how))
    for p, q in zip(pieces, laid(plain), strict=True):  # and it is cut the same way round
        x0, y0, _, _ = bounds_of(p.profile.outer)
        u0, v0, _, _ = bounds_of(q.profile.outer)
        there = moved(polygon_of(p.profile), (1.0, 0.0, 0.0, 1.0, u0 - x0, v0 - y0))
        assert there.symmetric_difference(polygon_of(q.profile)).area < 1e-6
    under = unary_union([seen(p) for p in pieces])
    for m in sheet.marks:
        assert m.back is (side is OnSide.BACK)
        ring = Shape([sheet.pose.to_world(c)[:2] for c in m.line])
        if how is Burned.GLUED:
            assert under.buffer(-0.4).contains(ring.exterior)  # no face shows the line
        else:
            assert m.operation is Operation.ENGRAVE
    if how is Burned.POCKET:
        engraved = unary_union([Shape([sheet.pose.to_world(c)[:2] for c in m.line]).buffer(0) for m in sheet.marks])
        assert engraved.contains(under)
        assert engraved.area - under.area == pytest.approx(0.1 * under.length, rel=0.05)  # play all round, within the letters too


def ring(layer: str, shape: Shape) -> DrawnLine:
    return DrawnLine(points=tuple((x, y) for x, y in list(shape.exterior.coords)[:-1]), closed=True, layer=layer)


def test_a_layer_that_lies_on_others_is_cut_out_of_them_and_neighbours_end_before_their_common_line() -> None:
    petals, middle, left, right = box(0, 0, 40, 40), Point(20, 20).buffer(10, quad_segs=32), box(50, 0, 70, 40), box(70, 0, 90, 40)
    drawing = Drawing(lines=(ring("petals", petals), ring("a", left), ring("b", right), ring("middle", middle)), mm_per_unit=1.0)
    how = tuple((k, Burned.INLAID) for k in ("petals", "middle", "a", "b"))
    stocks = (PieceStock(layer="petals", stock="maple"), PieceStock(layer="middle", stock="walnut"), PieceStock(layer="a", stock="maple"))
    art = Artwork(id="t", panel="sheet", drawing="7", width=drawing.size[0], layers=how, stocks=stocks)
    assembly = plate(art, drawing=drawing)
    areas = sorted((p.stock, round(seen(p).area, 1)) for p in laid(assembly))
    half = (20 - 0.1) * (40 - 0.1)
    assert areas == sorted([("maple", round(1600 - middle.area, 1)), ("walnut", round(middle.area, 1)), ("maple", round(half, 1)), ("ply", round(half, 1))])
    insets = {(m.a, m.b): m.feel for m in assembly.meetings if m.kind == "inset"}
    assert len(insets) == 4
    assert [pair for pair, feel in insets.items() if feel is not None] == [("sheet", "t-piece-1"), ("t-piece-1", "t-piece-4")]  # the others' play is drawn
    assert len(assembly.part("sheet").profile.holes) == 2
    assert collisions(assembly.parts) == ()


def test_a_mirrored_copy_has_its_own_letters_readable_and_mirrored_drawings() -> None:
    copy = CopyOf(id="again", label="Again", of="sheet", mirror=Axis.X, about=300.0)
    leaf = Drawing(lines=(ring("leaf", Shape([(0, 0), (30, 0), (30, 10), (10, 30)])),), mm_per_unit=1.0)
    art = Artwork(id="u", panel="sheet", drawing="7", width=30.0, x=60.0, layers=(("leaf", Burned.GLUED),))
    assembly = plate(words("BOR", Burned.GLUED, x=-40.0), art, drawing=leaf, added=(copy,))
    own, again = (assembly.part(k) for k in ("t-piece-1", "again-t-piece-1"))
    x0, y0, x1, y1 = seen(own).bounds
    at = {p.id: seen(p).centroid.x for p in assembly.parts}
    assert at["again-t-piece-3"] == pytest.approx(600 - at["t-piece-1"], abs=6)  # the word stands at the mirrored place ...
    assert at["again-t-piece-1"] < at["again-t-piece-2"] < at["again-t-piece-3"]  # ... and reads
    assert {m.style for m in assembly.meetings} == {"glue"}
    assert len(assembly.meetings) == 2 * 4
    assert again.stock == "maple"
    mirror = moved(seen(assembly.part("u-piece-1")), (-1.0, 0.0, 0.0, 1.0, 600.0, 0.0))
    assert mirror.symmetric_difference(seen(assembly.part("again-u-piece-1"))).area < 1e-3
    assert (x1 - x0, y1 - y0) == pytest.approx(tuple(b - a for a, b in zip(seen(again).bounds[:2], seen(again).bounds[2:], strict=True)))


def test_pieces_are_cut_from_the_prototype_too_and_follow_a_stock_that_is_exchanged() -> None:
    design = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "ply"}, features=(words("BO", Burned.POCKET),))
    assert set(design.stock_ids()) == {"ply", "maple"}
    trial = replace(design, prototype="walnut")
    assert {p.stock for p in build(trial, STOCKS).parts} == {"walnut"}
    assert {p.t for p in build(trial, STOCKS).parts} == {2.0}
    swap = Repair(says=say("mend.take_off"), kind=RepairKind.STOCK, targets=("maple",), values={"to": "walnut"})
    assert set(applied(design, swap).stock_ids()) == {"ply", "walnut"}
    assert replace(design, features=(words("BO", Burned.CUT),)).stock_ids() == ("ply",)  # nothing is cut from it then


def passes(part: Part, stock: Stock, engrave: Beam) -> set[int]:
    """Return how often what is engraved on a part is burned."""
    sheet = SheetLayout(
        sheet="s",
        copy=0,
        stock=part.stock,
        name="s",
        width=600,
        height=400,
        ring=rectangle(0, 0, x1=600, y1=400).outer,
        placements=(Placement(part=part.id, copy=0, turn=0, x=10.0, y=10.0),),
        utilisation=0.5,
        leftover=None,
    )
    plan = cut_plan(
        Assembly(parts=(part,), meetings=(), findings=()),
        Nesting(sheets=(sheet,), unplaced=(), utilisation=0.5, price=1.0),
        stocks={part.stock: stock},
        machine=Machine(id="m", name="m"),
        settings={part.stock: replace(default_settings(stock), engrave=engrave)},
    )
    return {s.passes for sheet in plan.sheets for s in sheet.strokes if s.path.operation is Operation.ENGRAVE}


@settings(max_examples=20, deadline=None)
@given(st.floats(0.05, 1.2), st.floats(0.8, 4.0))
def test_a_pocket_is_as_deep_as_its_piece_and_its_passes_follow_from_one(per_pass: float, thick: float) -> None:
    stocks = STOCKS | {"thick": make_stock("thick", 6.0), "maple": make_stock("maple", thick)}
    design = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "thick"}, features=(words("O", Burned.POCKET),))
    assembly = build(design, stocks)
    (mark,) = assembly.part("sheet").marks
    assert mark.depth == pytest.approx(thick + 0.05)
    part = replace(assembly.part("sheet"), stock="thick")
    engrave = Beam(power=30, speed=300, passes=2, depth=per_pass)
    assert passes(part, stocks["thick"], engrave) == {math.ceil((thick + 0.05) / per_pass - 1e-9)}
    assert passes(part, stocks["thick"], replace(engrave, depth=0.0)) == {2}  # as the settings say: nobody measured it


def test_what_is_not_known_of_a_pocket_or_leaves_too_little_is_told() -> None:
    def told(piece: str, depths: dict[str, float]) -> list[tuple[str, Severity]]:
        f = replace(words("O", Burned.POCKET), stock=piece)
        design = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "ply"}, features=(f,))
        around = Around(design=design, depths=depths)
        return [(f.code, f.severity) for f in shallow_seats(build(design, STOCKS), STOCKS, around=around)]

    deep = ("engraved_too_deep", Severity.LOOK)
    assert told("walnut", {}) == [("pocket_depth_unknown", Severity.LOOK), deep]
    assert told("walnut", {"ply": 0.1}) == [deep]  # it is known, and the plan burns as often as it takes
    assert told("thick", {"ply": 0.1}) == [("engraved_too_deep", Severity.MUST)]


def stacked(**more: object) -> Design:
    """Return a piece of two layers whose rim enters a recess under the next one."""
    rim = OnFace(id="rim", label="Rim", stock="walnut", host="sheet", from_corner=True, x=10.0, y=10.0, width=60.0, height=30.0)
    recess = Recess(id="r", panel="sheet", shape=RecessShape.PANEL, mate="rim", side=OnSide.BACK, x=-80.0, **more)  # type: ignore[arg-type]
    return Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "ply"}, added=(rim,), features=(recess,))


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 200).map(lambda k: k / 100), st.floats(0.0, 2.9), st.sampled_from([0.0, 12.0]))
def test_a_recess_takes_the_rim_of_the_next_piece_with_play_and_is_deep_enough_or_it_is_told(play: float, depth: float, push: float) -> None:
    depth = 0.0 if depth < 0.05 else depth
    design = stacked(play=play, depth=depth, push=push)
    assembly = build(design, STOCKS)
    (mark,) = [m for m in assembly.part("sheet").marks if m.depth]
    x0, y0, x1, y1 = bounds_of(mark.line)
    assert (x1 - x0, y1 - y0) == pytest.approx((60 + 2 * play, 30 + 2 * play), abs=1e-6)
    assert mark.back
    assert mark.depth == pytest.approx(depth or 2.1)
    sheet = assembly.part("sheet").profile
    assert [c.radius for c in sheet.circles] == ([push / 2] if push else [])  # a hole through its middle, and nothing is engraved there
    assert abs(area_of(mark.line)) == pytest.approx((60 + 2 * play) * (30 + 2 * play) - math.pi * push**2 / 4, rel=2e-3)
    assert {f.code for f in assembly.findings} <= {"no_line_to_locate"}
    found = [f for f in wished_depths(assembly, design, stocks=STOCKS, around=Around(design=design, depths={"ply": 0.2})) if f.code == "recess_too_shallow"]
    assert len(found) == (0 < depth < 2.0)
    for f in found:
        again = applied(design, f.repairs[0])
        assert wished_depths(build(again, STOCKS), again, stocks=STOCKS, around=Around(design=again, depths={"ply": 0.2})) == ()


def test_a_wished_depth_is_asked_of_evidence_and_a_recess_for_what_is_gone_is_told() -> None:
    deep = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "ply"}, features=(replace(words("BO", Burned.ENGRAVE), depth=0.6),))
    assert {m.depth for m in build(deep, STOCKS).part("sheet").marks} == {0.6}
    assert [f.code for f in wished_depths(build(deep, STOCKS), deep, stocks=STOCKS, around=Around(design=deep))] == ["engraving_depth_unknown"]
    assert wished_depths(build(deep, STOCKS), deep, stocks=STOCKS, around=Around(design=deep, depths={"ply": 0.3})) == ()
    assert "engraved_too_deep" in {
        f.code for f in too_deep(build(replace(deep, features=(replace(deep.features[0], depth=2.0),)), STOCKS), deep, around=Around(design=deep))
    }  # type: ignore[arg-type]
    assert [f.code for f in build(replace(stacked(), added=()), STOCKS).findings] == ["recess_for_nothing"]


def test_pockets_of_two_depths_are_burned_as_often_as_each_needs() -> None:
    texts = [Text(id=k, panel="sheet", words="O", cap=20.0, x=x, depth=d) for k, x, d in (("a", -20.0, 0.5), ("b", 20.0, 1.0), ("c", 60.0, 0.0))]
    assert passes(plate(*texts).part("sheet"), STOCKS["ply"], Beam(power=30, speed=300, passes=3, depth=0.25)) == {2, 4, 3}


def test_letters_where_a_sheet_stands_change_no_joint_and_are_told_to_want_its_place() -> None:
    box_ = Design(numbers=BoxNumbers(width=120, depth=90, height=60, columns=1, rows=2, top=Top.OPEN), stocks={r.id: "ply" for r in ROLES})
    letters = Text(id="t", panel="left", words="BBB", cap=30.0, burned=Burned.GLUED)
    plain, lettered = build(box_, STOCKS), build(replace(box_, features=(letters,)), STOCKS)
    behind = build(replace(box_, features=(replace(letters, side=OnSide.BACK),)), STOCKS)
    for assembly in (lettered, behind):
        assert {(m.a, m.b) for m in assembly.meetings if "t-piece" in m.b} == {("left", f"t-piece-{k}") for k in (1, 2, 3)}
        assert {p.id: p.profile for p in assembly.parts if p in plain.parts} == {p.id: p.profile for p in plain.parts if p.id != "left"}
    hit = {p for a in (lettered, behind) for f in collisions(a.parts) for p in f.parts}
    assert "row-1" in hit


def test_letters_under_a_lid_are_told_to_look_inwards_and_come_up_when_it_is_turned_over() -> None:
    text = Text(id="t", panel="lid", words="BO", cap=20.0, burned=Burned.GLUED)
    lidded = Design(numbers=BoxNumbers(top=Top.LIFT_OFF), stocks={r.id: "ply" for r in ROLES}, features=(text,))
    assembly = build(lidded, STOCKS)
    (told,) = wrong_faces(assembly, lidded)
    assert told.facts["feature"] == "t"
    over = applied(lidded, told.repairs[0])
    again = build(over, STOCKS)
    assert wrong_faces(again, over) == ()
    assert collisions(again.parts) == ()
    assert min(seen_at(again.part("t-piece-1"))) == pytest.approx(max(seen_at(again.part("lid"))))


def seen_at(part: Part) -> list[float]:
    """Return the heights that a lying part reaches."""
    return sorted(part.pose.to_world((0, 0), h)[2] for h in (part.low, part.high))


@settings(max_examples=20, deadline=None)
@given(st.floats(0.0, 30.0), st.floats(-6.0, 20.0), st.sampled_from([("maple", "maple"), ("maple", "walnut"), ("walnut", "maple")]))
def test_nothing_is_burned_twice_where_pockets_meet(apart: float, up: float, stocks: tuple[str, str]) -> None:
    drawing = Drawing(lines=(ring("a", box(0, 0, 20, 20)), ring("b", box(apart, up, apart + 20, up + 20))), mm_per_unit=1.0)
    layers = (("a", Burned.POCKET), ("b", Burned.POCKET))
    of = tuple(PieceStock(layer=k, stock=s) for k, s in zip("ab", stocks, strict=True))
    art = Artwork(id="t", panel="sheet", drawing="7", width=drawing.size[0], layers=layers, stocks=of)
    assembly = plate(art, drawing=drawing, stock="thick")
    pockets = [(m.depth, Shape(m.line).buffer(0)) for m in assembly.part("sheet").marks if m.depth]
    assert sum(p.area for _, p in pockets) == pytest.approx(unary_union([p for _, p in pockets]).area, abs=1e-3)
    for p in laid(assembly):  # each lies in what is as deep as it needs, or deeper by another's
        assert unary_union([q for depth, q in pockets if depth >= p.t + 0.049]).buffer(1e-6).contains(seen(p))


def test_a_drawing_of_too_many_pieces_is_told_and_makes_none() -> None:
    squares = [ring("a", box(x, y, x + 3, y + 3)) for x in range(0, 100, 5) for y in range(0, 80, 5)]
    art = Artwork(id="t", panel="sheet", drawing="7", width=100.0, layers=(("a", Burned.INLAID),))
    many, few = (plate(art, drawing=Drawing(lines=tuple(lines), mm_per_unit=1.0)) for lines in (squares, squares[:300]))
    assert [f.code for f in many.findings] == ["pieces_too_many"]
    assert (len(laid(many)), len(laid(few))) == (0, 300)


@pytest.mark.parametrize("how", [Burned.GLUED, Burned.INLAID, Burned.POCKET])
def test_letters_that_hang_over_the_edge_are_told_and_brought_to_the_middle(how: Burned) -> None:
    design = Design(numbers=PlateNumbers(width=240, height=120), stocks={"plate": "thick"}, features=(words("BO", how, x=105.0),))
    found = next(f for f in build(design, STOCKS).findings if f.code == "pieces_over_edge")
    repair = mended(found, build(design, STOCKS), design=design).repairs[0]
    assert "pieces_over_edge" not in {f.code for f in build(applied(design, repair), STOCKS).findings}
    assert "pieces_over_edge" not in {f.code for f in plate(words("BO", how), stock="thick").findings}


def test_pieces_come_as_often_as_the_panel_that_they_lie_on() -> None:
    made = plate(words("AB", Burned.GLUED), edits={"sheet": PanelEdit(copies=3)})
    assert [p.copies for p in made.parts] == [3, 3, 3]
    twice = plate(words("AB", Burned.GLUED), edits={"sheet": PanelEdit(copies=3), "t-piece-1": PanelEdit(copies=2)})
    assert {p.id: p.copies for p in twice.parts} == {"sheet": 3, "t-piece-1": 6, "t-piece-2": 3}
    again = plate(words("AB", Burned.GLUED), edits={"sheet": PanelEdit(copies=3)}, added=(CopyOf(id="c", label="C", of="sheet", move=(300.0, 0.0, 0.0)),))
    assert again.part("c").copies == 1  # a copy is counted for itself
