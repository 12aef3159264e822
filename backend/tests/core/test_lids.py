"""Items that go over another one like a lid, upside down: sized from it, and with their play all round."""

from __future__ import annotations

from dataclasses import replace
from random import Random
from statistics import mean
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.check.play import LEAST_RATTLE
from notchcore.check.whatif import Shift, shifted_plays
from notchcore.check.whole import between_items, plays_of, whole_fit
from notchcore.design.design import Design, Item, Loose
from notchcore.design.edits import CopyOf, PanelEdit
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.many_sided_numbers import ManySidedNumbers
from notchcore.design.filling import empty_rooms, taken_rooms
from notchcore.design.placing import standing
from notchcore.findings import Severity
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import cross
from tests.core.test_items import BOARD, PLY, STOCKS, members, of, single_like

LID = BoxNumbers(width=100, depth=100, height=25)


def with_lid(box: Any, lid: Any = LID, stock: str = "ply", *, turn: float = 0.0, **loose: Any) -> Design:
    room = "room-1"
    item = Item(id="lid", label="Lid", design=of(lid, stock), turn=turn, loose=Loose(room=room, over=True, **loose))
    return replace(of(box), items=(item,), name="Box")


def test_a_lid_worked_by_hand() -> None:
    """A box of 180 x 120 x 60 in 3.1 mm under a lid of 4.05 mm board with 0.5 mm of play: 180 + 1 + 8.1 wide, its bottom on the rim."""
    found = members(with_lid(BoxNumbers(width=180, depth=120, height=60), stock="board"))
    lid = found["lid"]
    assert lid.bound == pytest.approx({"width": 189.1, "depth": 129.1}, abs=1e-4)
    boxes = [box_of(replace(p, pose=lid.placing.pose(p.pose)).slab()) for p in lid.assembly.parts]
    ends = [*(min(b[k] for b in boxes) for k in range(3)), *(max(b[k + 3] for b in boxes) for k in range(3))]
    assert ends == pytest.approx([-4.55, -4.55, 60 + 4.05 - 25, 184.55, 124.55, 64.05], abs=1e-3)
    (play,) = plays_of(tuple(found.values()), STOCKS)
    assert [(p.axis, round(p.play.value, 3), round(p.wanted, 3)) for p in play.plays] == [("sideways", 1.0, 1.0), ("deep", 1.0, 1.0)]
    assert {t.label.text.split(" of ")[0] for p in play.plays for t in p.play.terms} >= {"Room", "Item", "Thickness"}
    fit = whole_fit(tuple(found.values()), STOCKS)
    assert not [f for f in fit.findings if f.severity is Severity.MUST]
    assert any("Lid goes over Box with" in f.message for f in fit.findings)
    assert fit.order.steps[-1].parts == tuple(f"lid:{p.id}" for p in lid.assembly.parts)
    assert fit.order.steps[-1].direction == (0.0, 0.0, -1.0)


@given(
    st.floats(60, 220),
    st.floats(60, 220),
    st.floats(40, 90),
    st.floats(0.1, 2.0),
    st.sampled_from([0.0, 90.0, 180.0, 270.0]),
    st.sampled_from(["ply", "board"]),
)
def test_a_lid_keeps_its_play_whatever_it_goes_over(width: float, depth: float, height: float, play: float, turn: float, stock: str) -> None:
    for box in (BoxNumbers(width=width, depth=depth, height=height), ManySidedNumbers(width=width, height=height)):
        found = members(with_lid(box, stock=stock, turn=turn, play=play))
        (kept,) = plays_of(tuple(found.values()), STOCKS)
        assert [p.play.value for p in kept.plays] == pytest.approx([2 * play] * 2, abs=2e-3)
        assert not between_items(tuple(found.values()))


def test_a_lid_does_not_go_over_what_is_only_there_while_things_are_built() -> None:
    jig = CopyOf(id="jig", label="Jig", of="front", move=(0.0, -30.0, 0.0))
    plain = with_lid(BoxNumbers(width=180, depth=120, height=60))
    for helper, depth in ((True, 127.2), (False, 157.2)):
        found = members(replace(plain, added=(jig,), edits={"jig": PanelEdit(helper=helper)}))
        assert found["lid"].bound["depth"] == pytest.approx(depth, abs=1e-3)


def test_the_chances_of_a_lid_agree_with_cuts_drawn_at_random() -> None:
    """Both are pressed against shoulders from outside: a wide beam brings the lid's walls nearer, and the box's too; the box is as thick again outside."""
    ply = replace(PLY, kerf=single_like(PLY.kerf.value, 0.05), thickness=replace(PLY.thickness, sd=0.06))
    board = replace(BOARD, kerf=single_like(BOARD.kerf.value, 0.04), thickness=replace(BOARD.thickness, sd=0.09))
    stocks = {"ply": ply, "board": board}
    r = Random(7)
    for stock in ("board", "ply"):
        found = members(with_lid(BoxNumbers(width=180, depth=120, height=60), stock=stock, play=0.08), stocks)
        (told,) = plays_of(tuple(found.values()), stocks)
        trials = []
        for _ in range(40_000):
            beam_box, beam_board, thick = r.gauss(0, 0.05), r.gauss(0, 0.04), r.gauss(0, 0.06)
            beam_lid = beam_box if stock == "ply" else beam_board
            trials.append(0.16 - beam_lid - (2 * thick - beam_box))
        for p in told.plays:
            assert p.sticks == pytest.approx(mean(t < 0 for t in trials), abs=0.03)
            assert p.rattles == pytest.approx(mean(t > 0.16 + LEAST_RATTLE for t in trials), abs=0.03)


def test_what_if_moves_the_play_of_a_lid() -> None:
    """The box in a sheet 0.1 thicker takes 0.1 on either side; a beam 0.04 wider brings the lid's walls nearer by as much, and the box's."""
    found = members(with_lid(BoxNumbers(width=180, depth=120, height=60), stock="board", play=0.3))
    plays = plays_of(tuple(found.values()), STOCKS)
    for shifts, by in (
        ({"ply": Shift(thickness=0.1)}, -0.2),
        ({"board": Shift(kerf=0.04)}, -0.04),
        ({"ply": Shift(kerf=0.04)}, 0.04),
        ({"board": Shift(thickness=0.5)}, 0.0),
        ({"ply": Shift(thickness=0.4)}, -0.8),
    ):
        (moved,) = shifted_plays(plays, shifts)
        assert [p.play.value for p in moved.plays] == pytest.approx([0.6 + by] * 2, abs=1e-6)
        assert [p.sticks > 0.99 for p in moved.plays] == [by < -0.6] * 2
    assert shifted_plays(plays, {}) == plays


def test_walls_that_stand_askew_are_not_known_better_than_their_thickness() -> None:
    thick = {"ply": replace(PLY, thickness=replace(PLY.thickness, sd=0.06))}
    (told,) = plays_of(tuple(members(with_lid(ManySidedNumbers(width=160, height=60)), thick).values()), thick)
    for p in told.plays:  # square walls at two of the sides, corners at the others
        assert 0.06 < p.play.sd <= 2 * 0.06 + 1e-9


def test_a_lids_own_room_is_taken_by_what_it_goes_over() -> None:
    design = with_lid(BoxNumbers(columns=2))
    assert taken_rooms(design.items) == {("lid", "room-1"): "main"}
    found = members(design)
    assert (len(empty_rooms(design, found["main"])), empty_rooms(design, found["lid"])) == (2, [])


def test_what_cannot_go_over_stands_beside_and_says_why() -> None:
    turned = members(with_lid(BoxNumbers(), turn=45.0))["lid"]
    assert ([f.code for f in turned.findings], turned.over) == (["no_room_to_go_over"], None)
    tight = members(with_lid(BoxNumbers(width=180, depth=120, height=60), replace(LID, width=185.0, depth=140.0), sized=False))
    told = {f.code: f.message for f in whole_fit(tuple(tight.values()), STOCKS).findings if f.severity is not Severity.FINE}
    assert told["item_too_large"] == "Lid is 1.20 mm too small to go over Box from side to side. Let its size follow, or make it larger."
    assert "item_rattles" in told


@given(st.floats(-360, 360), st.floats(-180, 180), st.booleans(), st.floats(-360, 360), st.floats(-180, 180), st.booleans())
def test_placings_follow_each_other(a: float, tip: float, over: bool, b: float, tilt: float, back: bool) -> None:
    one = replace(standing(a, tip=tip, flipped=over), shift=(1.0, 2.0, 3.0))
    two = replace(standing(b, tip=tilt, flipped=back), shift=(-4.0, 0.5, 7.0))
    for p in ((0.0, 0.0, 0.0), (3.0, -2.0, 5.0)):
        assert one.after(two)(p) == pytest.approx(one(two(p)), abs=1e-9)
    for frame in (one, two):  # a turn, no mirror: x, y and z stay square to each other, in their order
        assert cross(frame.x, frame.y) == pytest.approx(frame.z, abs=1e-9)


def test_a_thing_lies_as_it_is_tipped() -> None:
    """A box of 100 x 60 x 40, tipped to its front: 100 wide, 40 deep, 60 high, its mouth to the front, its base behind."""
    box = Item(id="box", label="Box", design=of(BoxNumbers(width=100, depth=60, height=40)), tip=90.0)
    lying = members(replace(of(BoxNumbers()), items=(box,), name="Bin"))["box"]
    boxes = [box_of(replace(p, pose=lying.placing.pose(p.pose)).slab()) for p in lying.assembly.parts]
    size = [max(b[k + 3] for b in boxes) - min(b[k] for b in boxes) for k in range(3)]
    assert size == pytest.approx([100, 40, 60])
    assert min(b[2] for b in boxes) == pytest.approx(0.0)
    base = lying.placing.pose(lying.assembly.part("base").pose)
    assert abs(base.normal[1]) == pytest.approx(1.0)
    assert base.origin[1] > min(b[1] for b in boxes) + 30
    room = replace(box, loose=Loose(room="room-1", play=0.5))  # in a room it is sized as it lies there
    inside = members(replace(of(BoxNumbers(width=180, depth=120, height=70)), items=(room,), name="Bin"))["box"]
    assert (inside.bound["width"], inside.bound["height"], inside.bound["depth"]) == pytest.approx((172.8, 112.8, 66.4))
    shut = members(replace(with_lid(BoxNumbers()), items=(replace(with_lid(BoxNumbers()).items[0], tip=30.0),)))["lid"]
    assert [f.code for f in shut.findings] == ["no_room_to_go_over"]
