"""Projects of several items: each is built by itself, follows the room that it stands in, and is told of by name."""

from __future__ import annotations

from dataclasses import replace
from random import Random
from statistics import mean
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from notchcore.check.around import Around
from notchcore.check.play import LEAST_RATTLE, findings_of
from notchcore.check.steps import guide
from notchcore.check.whole import between_items, plays_of, ways_blocked, whole_fit
from notchcore.design.building import build
from notchcore.design.design import Design, Item, Loose
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers, Top
from notchcore.design.families.case import CaseNumbers, Rooms, Under
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.shelf import ShelfNumbers
from notchcore.design.families.turned import TurnedNumbers
from notchcore.design.filling import filled, joined_to
from notchcore.design.items import Member, body_of, build_whole, members_of, with_body
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.rooms import Room, rooms_of
from notchcore.design.scaling import scaled
from notchcore.design.styles import Style
from notchcore.errors import DesignError
from notchcore.findings import Severity
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of
from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.stock import Stock
from tests.strategies import make_stock

PLY = make_stock("ply", 3.1)
BOARD = make_stock("board", 4.05, kerf=0.2)
STOCKS = {s.id: s for s in (PLY, BOARD)}
DESIGN: TypeAdapter[Design] = TypeAdapter(Design)


def of(numbers: Any, stock: str = "ply", **more: Any) -> Design:
    return Design(numbers=numbers, stocks={r.id: stock for r in FAMILIES[numbers.family].roles}, **more)


def members(design: Design, stocks: dict[str, Stock] | None = None) -> dict[str, Member]:
    known = stocks or STOCKS
    return {m.id: m for m in members_of(design, lambda body: build(body, known))}


def with_drawers(design: Design, play: float = 0.5) -> Design:
    return filled(design, members(design)["main"], play=play)


def in_room(member: Member) -> tuple[list[float], list[float]]:
    """Return how far a member's box lies within its room, at the low and at the high ends, where its host stands as it was built."""
    assert member.room is not None
    boxes = [box_of(replace(p, pose=member.placing.pose(p.pose)).slab()) for p in member.assembly.parts]
    low = [min(b[k] for b in boxes) - member.room.low[k] for k in range(3)]
    return low, [member.room.high[k] - max(b[k + 3] for b in boxes) for k in range(3)]


def test_a_drawer_worked_by_hand() -> None:
    """A case of 200 x 150 x 130 in 3.1 mm: two rooms 193.8 wide, 146.9 deep, and (130 - 2*3.1 - 3.1)/2 = 60.35 high."""
    design = with_drawers(of(CaseNumbers(width=200, depth=150, height=130, drawers=2)), play=0.4)
    found = members(design)
    for name in ("drawer-1", "drawer-2"):
        m = found[name]
        assert m.room is not None
        assert m.room.size == pytest.approx((193.8, 146.9, 60.35), abs=1e-6)
        assert m.bound == pytest.approx({"width": 193.0, "depth": 146.5, "height": 59.55}, abs=1e-6)
        low, high = in_room(m)
        assert low == pytest.approx([0.4, 0.0, 0.0], abs=1e-3)  # even with the mouth, on its floor
        assert high == pytest.approx([0.4, 0.4, 0.8], abs=1e-3)
    assert build_whole(design, STOCKS).part("drawer-2:front").label == "Drawer 2: Front"
    fit = whole_fit(tuple(found.values()), STOCKS)
    assert not [f for f in fit.findings if f.severity is not Severity.FINE]
    told = [f.message for f in fit.findings if f.code == "item_play"]
    assert told[0].startswith("Drawer 1 goes into Room 1 with 0.80 mm from side to side, 0.40 mm from front to back, 0.80 mm up and down of play")


def test_drawers_slide_on_runners() -> None:
    """Strips of 18 mm, tabbed to the sides and clear of the back: what stands on them has the same room as on boards, and goes in and out."""
    case = CaseNumbers(width=200, depth=150, height=130, drawers=2, under=Under.RUNNERS)
    found = members(with_drawers(of(case)))
    made = {p.id: p for p in found["main"].assembly.parts}
    assert {"runner-1-left", "runner-1-right"} == {i for i in made if i.startswith("runner")}
    x0, y0, x1, y1 = bounds_of(made["runner-1-left"].profile.outer)
    assert (x1 - x0, y1 - y0) == pytest.approx((18 + 3.1, 150 - 3.1))
    assert {m.id: m.style for m in found["main"].assembly.meetings if "runner" in m.id} == {f"{s}+runner-1-{s}": Style.TABS for s in ("left", "right")}
    boards = members(with_drawers(of(replace(case, under=Under.BOARD))))
    assert [found[k].bound for k in ("drawer-1", "drawer-2")] == [boards[k].bound for k in ("drawer-1", "drawer-2")]
    fit = whole_fit(tuple(found.values()), STOCKS, around=Around(design=of(case)))
    assert [f.message for f in fit.findings if f.severity is not Severity.FINE] == []
    wide = build(of(replace(case, runner=95.0)), STOCKS)
    assert [(f.code, f.field) for f in wide.findings] == [("sides_leave_no_room", "width")]


@st.composite
def hosts(draw: st.DrawFn) -> Design:
    size = draw(st.tuples(st.floats(120, 300), st.floats(110, 220), st.floats(120, 240)))
    w, d, h = (round(v, 1) for v in size)
    kind = draw(st.sampled_from(["case", "box", "shelf"]))
    numbers: Any = {
        "case": lambda: CaseNumbers(
            width=w,
            depth=d,
            height=h,
            drawers=draw(st.integers(1, 3)),
            rooms=draw(st.sampled_from(list(Rooms))),
            lowest=h / 3,
            under=draw(st.sampled_from(list(Under))),
        ),
        "box": lambda: BoxNumbers(width=w, depth=d, height=h / 2, columns=draw(st.integers(1, 2)), rows=draw(st.integers(1, 2))),
        "shelf": lambda: ShelfNumbers(width=w, depth=d, height=h),
    }[kind]()
    return of(numbers, draw(st.sampled_from(["ply", "board"])))


@given(host=hosts(), play=st.sampled_from([0.2, 0.5, 1.0]), factor=st.sampled_from([0.9, 1.0, 1.3]), t=st.floats(2.8, 4.4))
def test_what_follows_its_room_keeps_its_play_through_every_change(host: Design, play: float, factor: float, t: float) -> None:
    design = scaled(with_drawers(host, play), factor)
    stocks = {**STOCKS, "ply": make_stock("ply", round(t, 2), label=3.0)}
    found = members(design, stocks)
    inside = [m for m in found.values() if m.room is not None]
    assert len(inside) == len(rooms_of(found["main"].assembly.parts, found["main"].assembly.rooms))
    for m in inside:
        assert m.room is not None
        low, high = in_room(m)
        for k in range(3):
            sides = 1 if k == m.room.mouth_axis else 2
            assert low[k] + high[k] == pytest.approx(sides * play, abs=2e-3), (m.id, k)
    everything = tuple(found.values())
    told = [f for p in plays_of(everything, stocks) for f in findings_of(p, found[p.item])]
    assert not [f.message for f in (*told, *between_items(everything)) if f.code in ("collision", "item_too_large", "item_off_size")]


def test_an_edit_of_the_room_is_followed() -> None:
    design = with_drawers(of(CaseNumbers()))
    before = members(design)
    lifted = replace(design, edits={"board-1": PanelEdit(move=(0, 0, 7.5))})
    after = members(lifted)
    assert after["drawer-1"].bound["height"] == pytest.approx(before["drawer-1"].bound["height"] + 7.5, abs=1e-3)
    assert after["drawer-2"].bound["height"] == pytest.approx(before["drawer-2"].bound["height"] - 7.5, abs=1e-3)
    gone = members(replace(design, edits={"board-1": PanelEdit(gone=True)}))
    assert gone["drawer-1"].room is not None  # up to the next board
    assert gone["drawer-1"].bound["height"] > 100


def test_the_chances_of_sticking_and_rattling_agree_with_cuts_drawn_at_random() -> None:
    """The drawer's walls are pressed against the shoulders of its front from outside; the case's stand at the shoulders of its top from inside."""
    ply = replace(PLY, kerf=single_like(PLY.kerf.value, 0.05), thickness=replace(PLY.thickness, sd=0.09))
    board = replace(BOARD, kerf=single_like(BOARD.kerf.value, 0.04), thickness=replace(BOARD.thickness, sd=0.06))
    stocks = {"ply": ply, "board": board}
    case = of(CaseNumbers(width=200, depth=150, height=130, drawers=1))
    design = filled(case, members(case, stocks)["main"], play=0.08)
    design = replace(design, items=tuple(replace(i, design=replace(i.design, stocks=dict.fromkeys(i.design.stocks, "board"))) for i in design.items))
    found = members(design, stocks)
    (told,) = plays_of(tuple(found.values()), stocks)
    across = next(p for p in told.plays if p.axis == "sideways")
    assert across.play.value == pytest.approx(0.16, abs=1e-3)
    r = Random(4)
    trials = []
    for _ in range(40_000):
        beam_ply, beam_board, thick = r.gauss(0, 0.05), r.gauss(0, 0.04), r.gauss(0, 0.06)
        room = 193.8 - beam_ply  # between the shoulders of the top, of which a wider beam takes more
        drawer = (193.8 - 0.16) - beam_board + 2 * thick
        trials.append(room - drawer)
    assert across.sticks == pytest.approx(mean(p < 0 for p in trials), abs=0.03)
    assert across.rattles == pytest.approx(mean(p > 0.16 + LEAST_RATTLE for p in trials), abs=0.03)


def single_like(value: float, sd: float) -> Quantity:
    return single(TermKind.KERF, "Kerf", value=value, sd=sd, trust=Trust.MEASURED)


def test_items_that_stand_beside_each_other_are_made_together_and_counted() -> None:
    game = of(BoxNumbers(), name="Board")
    piece = of(TurnedNumbers(layers=2, twist=0))
    design = replace(game, items=(Item(id="piece", label="Piece", design=piece, count=24, spares=2),))
    whole = build_whole(design, STOCKS)
    alone = build(piece, STOCKS)
    pieces = [p for p in whole.parts if p.item == "piece"]
    assert [(p.copies, p.spares) for p in pieces] == [(24 * p.copies, p.spares + 2 * p.copies) for p in alone.parts]
    assert [p.profile for p in pieces] == [p.profile for p in alone.parts]
    assert {p.id for p in whole.parts if not p.item} == {p.id for p in build(game, STOCKS).parts}  # nothing of the first loses its name
    right = max(box_of(p.slab())[3] for p in whole.parts if not p.item)
    assert min(box_of(p.slab())[0] for p in pieces) > right + 30
    names = {m.id for m in whole.meetings}
    assert all(f.part == p.id and f.meeting in {*names, ""} for p in whole.parts for f in p.features)
    larger = [p for p in build_whole(scaled(design, 2.0), STOCKS).parts if p.item == "piece"]
    assert [p.profile for p in larger] == [p.profile for p in build(scaled(piece, 2.0), STOCKS).parts]
    everything_gone = replace(design, items=(replace(design.items[0], gone=True),))
    assert build_whole(everything_gone, STOCKS).parts == tuple(replace(p, label=f"Board: {p.label}") for p in build(game, STOCKS).parts)


def test_only_the_touched_item_is_built_again() -> None:
    design = with_drawers(of(CaseNumbers()))
    known: dict[str, Any] = {}
    asked: list[str] = []

    def built(body: Design) -> Any:
        key = repr(body)
        if key not in known:
            asked.append(key)
            known[key] = build(body, STOCKS)
        return known[key]

    members_of(design, built)
    first = len(asked)
    touched = with_body(design, "drawer-2", body=replace(body_of(design, "drawer-2"), edits={"front": PanelEdit(label="Face")}))
    members_of(touched, built)
    assert len(asked) - first <= 2  # as it was typed, and as it follows


def test_steps_put_each_item_together_and_set_it_in_last() -> None:
    found = tuple(members(with_drawers(of(CaseNumbers(drawers=2)))).values())
    fit = whole_fit(found, STOCKS)
    whole = build_whole(with_drawers(of(CaseNumbers(drawers=2))), STOCKS)
    steps = guide(whole, fit.order, stocks=STOCKS)
    last = [s for s in steps if len(s.parts) == 5]
    assert [s.direction for s in last] == [(0.0, 1.0, 0.0)] * 2
    assert [s.label for s in last] == ["Drawer 1", "Drawer 2"]
    inside = [s for s in steps if s.within]
    assert {s.within for s in inside} == {s.key for s in last}
    assert {p for s in steps if not s.within and s not in last for p in s.parts} == {p.id for p in whole.parts if not p.item}
    assert sorted(p for s in steps if s not in last for p in s.parts) == sorted(p.id for p in whole.parts)


def test_what_stands_in_an_item_goes_into_it_before_it_goes_to_its_place() -> None:
    cabinet = with_drawers(of(CaseNumbers(drawers=2, height=160)))
    nested = filled(cabinet, members(cabinet)["drawer-1"], play=1.0)
    steps = guide(build_whole(nested, STOCKS), whole_fit(tuple(members(nested).values()), STOCKS).order, stocks=STOCKS)
    at = {s.label: i for i, s in enumerate(steps)}
    assert at["Drawer 1: Right side"] < at["Insert"] < at["Drawer 1"] < at["Drawer 2"]
    together = {s.label: s for s in steps}
    assert together["Insert"].direction == (0.0, 0.0, -1.0)
    assert together["Insert"].within == together["Drawer 1"].key
    assert together["Insert: Base"].within == together["Insert"].key
    assert len(together["Drawer 1"].parts) == 10


def test_what_shuts_an_item_in_is_named_and_what_stands_in_it_moves_along() -> None:
    open_box = with_drawers(of(BoxNumbers()))
    assert not ways_blocked(tuple(members(open_box).values()))
    shut = replace(open_box, numbers=BoxNumbers(top=Top.FIXED))
    (told,) = ways_blocked(tuple(members(shut).values()))
    assert told.message == "Insert does not come out of Inside: Box: Top is in the way. Set it in before that part, or mean it so."
    cabinet = with_drawers(of(CaseNumbers(drawers=2, height=160)))
    nested = filled(cabinet, members(cabinet)["drawer-1"], play=1.0)
    assert not ways_blocked(tuple(members(nested).values()))  # the drawer comes out first


@pytest.mark.parametrize(
    ("top", "closing"), [(Top.LIFT_OFF, ["Box: Lid key plate", "Box: Lid"]), (Top.FIXED, ["Box: Top"]), (Top.SLIDE_IN, ["Box: Sliding lid"])]
)
def test_what_stands_in_a_box_goes_in_before_it_is_closed_and_a_lid_that_comes_off_shuts_nothing_in(top: Top, closing: list[str]) -> None:
    box = with_drawers(of(BoxNumbers(top=top)))
    found = tuple(members(box).values())
    fit = whole_fit(found, STOCKS)
    labels = [s.label for s in guide(build_whole(box, STOCKS), fit.order, stocks=STOCKS)]
    assert all(labels.index("Insert") < labels.index(c) for c in closing)
    assert labels.index("Box: Right side") < labels.index("Insert")
    assert [f.code for f in fit.findings if f.severity is not Severity.FINE] == (["item_shut_in"] if top is Top.FIXED else [])


def test_a_top_that_only_lies_on_the_walls_shuts_nothing_in_and_one_that_is_glued_does() -> None:
    shut = with_drawers(of(BoxNumbers(top=Top.FIXED)))
    edges = [m.id for m in members(shut)["main"].assembly.meetings if "lid" in (m.a, m.b)]
    assert len(edges) == 4

    def found(style: Style) -> list[str]:
        return [f.code for f in ways_blocked(tuple(members(replace(shut, choices={e: MeetingChoice(style=style) for e in edges})).values()))]

    assert found(Style.REST) == []
    assert found(Style.BUTT) == ["item_shut_in"]


def test_what_goes_over_a_box_goes_on_after_what_stands_in_it() -> None:
    cover = Item(id="cover", label="Cover", loose=Loose(room="room-1", over=True), design=of(BoxNumbers(width=200, depth=140, height=30)))
    found = tuple(members(with_drawers(replace(of(BoxNumbers()), name="Box", items=(cover,)))).values())
    assert [m.id for m in found if m.over is not None] == ["cover"]
    assert not ways_blocked(found)
    steps = whole_fit(found, STOCKS).order.steps
    last = {item: max(i for i, s in enumerate(steps) if all(p.startswith(item) for p in s.parts)) for item in ("insert", "cover")}
    assert last["insert"] < last["cover"] == len(steps) - 1


def test_a_room_ends_at_what_reaches_into_it() -> None:
    def room(numbers: BoxNumbers) -> Room:
        made = members(of(numbers))["main"].assembly
        return rooms_of(made.parts, made.rooms)[0]

    plain, railed = room(BoxNumbers()), room(BoxNumbers(top=Top.SLIDE_IN))
    assert plain.size[0] - railed.size[0] == pytest.approx(2 * PLY.thickness.value)  # a rail on either side, all along it
    assert railed.low[2] == pytest.approx(plain.low[2])


def test_what_is_wrong_is_told_of_its_item() -> None:
    design = with_drawers(of(CaseNumbers()))
    tight = replace(design.items[0], loose=Loose(room="drawer-1", sized=False), design=of(BoxNumbers(width=214.6, depth=100, height=30)))
    found = members(replace(design, items=(tight, *design.items[1:])))
    fit = whole_fit(tuple(found.values()), STOCKS)
    codes = {f.code: f for f in fit.findings if f.severity is not Severity.FINE}
    assert codes["item_too_large"].message == "Drawer 1 is 0.80 mm too large for Room 1 from side to side. Let it follow its room, or make it smaller."
    assert codes["item_too_large"].item == "drawer-1"
    assert any("Drawer 1: " in f.message and "Case: " in f.message for f in fit.findings if f.code == "collision")
    bad = replace(design, items=(replace(design.items[0], design=of(BoxNumbers(columns=40))), *design.items[1:]))
    whole = build_whole(bad, STOCKS)
    told = next(f for f in whole.findings if f.code == "too_many_compartments")
    assert (told.item, told.field) == ("drawer-1", "columns")
    assert told.message.startswith("Drawer 1: 40 columns leave")
    assert whole.parts  # the others are there all the same


def test_a_room_that_is_gone_leaves_its_item_beside_the_rest() -> None:
    design = with_drawers(of(CaseNumbers(drawers=3)))
    fewer = replace(design, numbers=CaseNumbers(drawers=2))
    found = members(fewer)
    assert [f.code for f in found["drawer-3"].findings] == ["room_lost"]
    assert found["drawer-3"].room is None
    ring = replace(
        design,
        items=(
            replace(design.items[0], loose=Loose(room="room-1", host="drawer-2")),
            replace(design.items[1], loose=Loose(room="room-1", host="drawer-1")),
            design.items[2],
        ),
    )
    codes = {m.id: [f.code for f in m.findings] for m in members(ring).values()}
    assert codes["drawer-1"] == ["items_in_a_ring"]
    assert codes["drawer-3"] == []


def test_an_item_stands_in_an_item_of_an_item() -> None:
    design = with_drawers(of(CaseNumbers(drawers=2, height=160)))
    first = members(design)["drawer-1"]
    nested = filled(design, first, play=1.0)
    found = members(nested)
    insert = found["insert"]
    assert insert.room is not None
    assert insert.item is not None
    assert insert.item.loose == Loose(room="room-1", host="drawer-1", play=1.0)
    inside = [box_of(p.slab()) for p in build_whole(nested, STOCKS).parts if p.item == "insert"]
    around = [box_of(p.slab()) for p in build_whole(nested, STOCKS).parts if p.item == "drawer-1"]
    for k in range(3):
        assert min(b[k] for b in inside) >= min(b[k] for b in around)
        assert max(b[k + 3] for b in inside) <= max(b[k + 3] for b in around)


def test_a_project_goes_into_another_with_its_items_as_they_stand() -> None:
    cabinet = with_drawers(of(CaseNumbers(drawers=2)))
    both = joined_to(with_drawers(of(CaseNumbers(drawers=1))), cabinet, label="Cabinet")
    found = members(both)
    assert list(found) == ["main", "drawer-1", "cabinet", "drawer-1-2", "drawer-2"]
    assert found["drawer-1-2"].item is not None
    assert found["drawer-1-2"].item.loose == Loose(room="drawer-1", host="cabinet")
    alone = members(cabinet)
    assert [p.profile for p in found["drawer-2"].assembly.parts] == [p.profile for p in alone["drawer-2"].assembly.parts]


@pytest.mark.parametrize(
    "wrong",
    [
        {"id": "main"},
        {"id": "A b"},
        {"label": " "},
        {"count": 0},
        {"turn": 400.0},
        {"at": (0.0, float("nan"), 0.0)},
        {"design": of(BoxNumbers(), items=(Item(id="x", label="X", design=of(BoxNumbers())),))},
    ],
)
def test_items_that_make_no_sense_are_refused(wrong: dict[str, Any]) -> None:
    with pytest.raises(Exception, match=r"\w"):
        Item(**{"id": "lid", "label": "Lid", "design": of(BoxNumbers()), **wrong})


def test_two_items_of_one_name_are_refused_and_what_is_written_is_read_again() -> None:
    one = Item(id="lid", label="Lid", design=of(BoxNumbers(top=Top.FIXED)), count=3, at=(1.0, 2.0, 3.0), turn=90.0)
    with pytest.raises(DesignError, match="same short name"):
        replace(of(BoxNumbers()), items=(one, one))
    design = replace(of(BoxNumbers()), items=(one, replace(one, id="other", loose=Loose(room="room-1"))), name="Box")
    assert DESIGN.validate_json(DESIGN.dump_json(design)) == design
