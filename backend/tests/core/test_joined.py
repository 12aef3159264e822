"""Items that are joined to another one: their panels meet those of their host, joints are cut across them, and both follow each other."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.around import Around
from notchcore.check.whole import whole_fit
from notchcore.design.assembly import FeatureKind, box_round
from notchcore.design.building import as_one, build
from notchcore.design.design import Design, Item, Loose
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers, Top
from notchcore.design.families.case import CaseNumbers
from notchcore.design.families.many_sided_numbers import ManySidedNumbers
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.families.stand import StandNumbers
from notchcore.design.features.values import Hole, Socket
from notchcore.design.filling import joined_to
from notchcore.design.items import build_whole, whole_of
from notchcore.design.joined import Joined, JoinSide
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.mending import mended_project
from notchcore.design.scaling import scaled
from notchcore.design.styles import Style
from notchcore.design.variations import Alternative, Variation
from notchcore.errors import DesignError
from notchcore.findings import Repair, RepairKind, Severity
from notchcore.geom.profile import area_of, bounds_of
from notchcore.ids import MAIN, item_of
from notchcore.measure.fit import Feel
from notchcore.words.render import say
from tests.core.test_added import stand_together
from tests.core.test_items import DESIGN, PLY, STOCKS, members, of
from tests.strategies import make_stock

BIN = BoxNumbers(width=180, depth=120, height=60, top=Top.FIXED)
TRAY = BoxNumbers(width=90, depth=70, height=40)


def tray(numbers: Any = TRAY, stock: str = "ply", *, host: str = MAIN, side: JoinSide = JoinSide.ABOVE, into: float | None = None, **more: Any) -> Item:
    name = more.pop("id", "tray")
    design = of(numbers, stock, **more.pop("body", {}))
    return Item(id=name, label=name.capitalize(), design=design, joined=Joined(host=host, side=side, into=into), **more)


def joined(*items: Item, host: Any = BIN, **more: Any) -> Design:
    return replace(of(host, **more), items=items, name="Bin")


def across(design: Design) -> list[str]:
    return [m.id for m in build_whole(design, STOCKS).meetings if item_of(m.a) != item_of(m.b) and m.style is not Style.BUTT]


def test_a_tray_on_a_bin_worked_by_hand() -> None:
    """Its walls go through the bin's top of 3.1 mm, in the middle of 180 x 120; the top is its floor too."""
    design = joined(tray())
    assert not design.several
    made = build_whole(design, STOCKS)
    ours = [p for p in made.parts if p.item == "tray"]
    assert sorted(p.label for p in ours) == ["Tray: Back", "Tray: Front", "Tray: Left side", "Tray: Right side"]
    assert box_round(ours) == pytest.approx((45.0, 25.0, 60 - 3.1, 135.0, 95.0, 60 - 3.1 + 40))
    assert across(design) == [f"lid+tray:{wall}" for wall in ("back", "front", "left", "right")]
    slots = [f for f in made.part("lid").features if f.meeting == "lid+tray:front" and f.kind is FeatureKind.SLOT]
    assert {round(f.width.value, 6) for f in slots} == {round(3.1 + f.clearance.value, 6) for f in made.meetings if f.id == "lid+tray:front" and f.clearance}
    front = [bounds_of(f.corners) for f in slots]  # the sheet of the tray's front: 25 to 28.1 from the bin's front
    assert {(round((y0 + y1) / 2, 3)) for _, y0, _, y1 in front} == {round(25 + 1.55, 3)}
    fit = whole_fit(tuple(members(design).values()), STOCKS, around=Around(design=design))
    assert not [f for f in fit.findings if f.severity is Severity.MUST]
    assert "Tray: Base is not made: Top serves for both." in [f.message for f in made.findings]


@settings(max_examples=30, deadline=None)
@given(
    host=st.sampled_from([BIN, CaseNumbers(), BoxNumbers(width=160, depth=140, height=80)]),
    guest=st.sampled_from([TRAY, ManySidedNumbers(width=80, height=50), StandNumbers(width=60, height=70), CaseNumbers(width=100, depth=80, height=70)]),
    side=st.sampled_from(JoinSide),
    into=st.sampled_from([None, 0.0, 3.1, 1.5]),
    turn=st.sampled_from([0.0, 90.0, 20.0]),
    tip=st.sampled_from([0.0, 0.0, 90.0, 15.0]),
    at=st.tuples(st.sampled_from([0.0, 12.0]), st.sampled_from([0.0, -9.0]), st.sampled_from([0.0, 7.0])),
    stock=st.sampled_from(["ply", "board"]),
)
def test_what_is_joined_shares_no_place_or_says_so(
    host: Any, guest: Any, side: JoinSide, into: float | None, turn: float, tip: float, at: tuple[float, float, float], stock: str
) -> None:
    design = joined(tray(guest, stock, side=side, into=into, turn=turn, tip=tip, at=at), host=host)
    made = build_whole(design, STOCKS)
    assert all(area_of(p.profile.outer) > 0 for p in made.parts)
    told = {f.code for f in made.findings if f.severity is not Severity.FINE}
    if not told:
        stand_together(made)
        assert across(design)
    glued = any(m.style is Style.GLUE for m in made.meetings)
    assert across(design) or glued or told & {"joined_nowhere", "edges_side_by_side", "joint_crowded", "joint_too_short", "meeting_short"}


def test_it_follows_its_host_and_its_order_in_the_list_does_not_count() -> None:
    thick = {**STOCKS, "ply": make_stock("ply", 4.2, label=4.0)}
    for design, stocks in ((joined(tray(at=(5.0, 0.0, 0.0)), host=replace(BIN, width=220, height=75)), thick), (joined(tray()), STOCKS)):
        made, t = build_whole(design, stocks), stocks["ply"].t
        lid = bounds_of(made.part("lid").profile.outer)
        ours = box_round(p for p in made.parts if p.item == "tray")
        assert ours[2] == pytest.approx(design.numbers.height - t)  # type: ignore[union-attr]
        assert (ours[0] + ours[3]) / 2 == pytest.approx((lid[2] - lid[0]) / 2 + design.items[0].at[0])
        for m in made.meetings:
            if m.a == "lid" and item_of(m.b):
                assert next(f.width.value for f in made.part("lid").features if f.meeting == m.id and f.kind is FeatureKind.SLOT) == pytest.approx(
                    t + (m.clearance.value if m.clearance else 0.0)
                )
    two = tray(), tray(id="rack", at=(0.0, 0.0, 0.0), side=JoinSide.BELOW)
    assert build_whole(joined(*two, host=CaseNumbers()), STOCKS).parts == build_whole(joined(*reversed(two), host=CaseNumbers()), STOCKS).parts


def test_one_is_joined_to_what_is_joined_and_stands_where_its_host_stands() -> None:
    on_top = tray(BoxNumbers(width=40, depth=30, height=20), id="cup", host="tray")
    chain = joined(on_top, tray(replace(TRAY, top=Top.FIXED)))
    assert {m.partition("+")[0] for m in across(chain)} == {"lid", "cup:back", "cup:front", "cup:left", "cup:right"}
    stand_together(build_whole(chain, STOCKS))
    hosted = replace(of(CaseNumbers()), items=(Item(id="bin", label="Bin", count=2, design=of(BIN), turn=90.0), tray(host="bin")), name="Case")
    assert [m.count for m in members(hosted).values()] == [1, 2]
    made = build_whole(hosted, STOCKS)
    assert {(p.item, p.copies) for p in made.parts} == {("", 1), ("bin", 2), ("tray", 2)}
    assert {m.id for m in made.meetings if item_of(m.a) != item_of(m.b)} == {f"bin:lid+tray:{w}" for w in ("back", "front", "left", "right")}
    assert [(f.item, f.parts, f.message) for f in made.findings] == [
        ("tray", ("bin:lid",), "Tray: Base is not made: Bin: Top serves for both."),
    ]
    assert made.items == {"bin": "Bin", "tray": "Tray"}
    stand_together(made)
    fit = whole_fit(tuple(members(hosted).values()), STOCKS)
    assert not [f.message for f in fit.findings if f.severity is Severity.MUST]
    assert {p for s in fit.order.steps for p in s.parts} == {p.id for p in made.parts}
    brought = joined_to(of(TRAY), chain, label="Chain")
    assert [brought.root_of(i.id) for i in brought.items] == ["chain"] * 3


def test_rooms_of_what_is_joined_take_things_and_what_stands_nowhere_is_told() -> None:
    inside = Item(id="box", label="Box", design=of(BoxNumbers()), loose=Loose(room="room-1", host="tray"))
    there = members(joined(tray(), inside))["box"]
    assert there.room is not None
    assert there.bound["width"] == pytest.approx(90 - 2 * 3.1 - 1.0)
    ring = members(joined(tray(host="rack"), tray(id="rack", host="tray")))
    lost = members(joined(replace(tray(), gone=True), tray(id="rack", host="tray")))
    for found, name in ((ring["tray"], "tray"), (ring["rack"], "rack"), (lost["rack"], "rack")):
        assert ([f.code for f in found.findings], found.id) == (["joined_to_nothing"], name)
    far = whole_of(tuple(members(joined(tray(at=(0.0, 0.0, 50.0)))).values()))
    assert [(f.code, f.item) for f in far.findings if f.severity is not Severity.FINE] == [("joined_nowhere", "tray")]
    flat = build_whole(joined(tray(PlateNumbers(width=60, height=40))), STOCKS)
    assert [m.style for m in flat.meetings if "tray:sheet" in (m.a, m.b)] == [Style.GLUE]
    for wrong in ({"count": 2}, {"loose": Loose(room="room-1")}):
        with pytest.raises(DesignError, match="joined to another item"):
            replace(tray(), **wrong)  # type: ignore[arg-type]


def test_each_keeps_what_was_chosen_of_it() -> None:
    choices = {"front+left": MeetingChoice(count=3), "base+front": MeetingChoice(feel=Feel.SLIDES)}
    socket = Socket(id="peg", panel="front", mate="left")
    body = {"feel": Feel.MALLET, "choices": choices, "features": (Hole(id="hole", panel="back", diameter=6.0), socket), "edits": {"right": PanelEdit(copies=2)}}
    design = joined(tray(body=body), choices={"lid+tray:front": MeetingChoice(count=1)}, edits={"lid": PanelEdit(spares=1)})
    made = {m.id: m for m in build_whole(design, STOCKS).meetings}
    assert (made["lid+tray:front"].count, made["lid+tray:front"].feel, made["lid+tray:back"].feel) == (1, Feel.SNUG, Feel.SNUG)
    assert (made["tray:front+tray:left"].feel, made["tray:front+tray:left"].count) == (Feel.MALLET, 3)
    assert made["front+left"].feel is Feel.SNUG
    parts = {p.id: p for p in build_whole(design, STOCKS).parts}
    assert (parts["tray:right"].copies, parts["lid"].spares) == (2, 1)
    assert [o.feature for o in parts["tray:back"].openings] == ["tray:hole"]
    found = whole_fit(tuple(members(design).values()), STOCKS, around=Around(design=design)).findings
    told = {f.code for f in found if f.severity is not Severity.FINE}
    assert "orphan_choice" not in told  # what was chosen for the tray's base waits until it is made again
    one = as_one(design)
    assert {f.id for f in one.features} == {"tray:hole", "tray:peg"}
    assert set(one.choices) == {"tray:front+tray:left", "tray:base+tray:front", "lid+tray:front"}
    assert DESIGN.validate_json(DESIGN.dump_json(design)) == design
    assert box_round(p for p in build_whole(scaled(design, 2.0), STOCKS).parts if p.item)[5] == pytest.approx(120 - 3.1 + 80)
    variation = Variation(name="Tray", chosen="without", alternatives=(Alternative(name="with"), Alternative(name="without", items=("tray",))))
    alone = build_whole(replace(design, variations=(variation,)), STOCKS)
    assert {p.id for p in alone.parts} == {p.id for p in build(of(BIN), STOCKS).parts}


def test_a_repair_changes_the_item_that_it_is_about() -> None:
    hole = Hole(id="hole", panel="back", diameter=6.0)
    design = joined(tray(body={"features": (hole,), "edits": {"front": PanelEdit(move=(0.0, 1.0, 0.0))}}))

    def mended(kind: RepairKind, *targets: str, **values: Any) -> Design:
        return mended_project(design, "", repair=Repair(says=say("mend.asked"), kind=kind, targets=targets, values=values))

    shallow = joined(tray(CaseNumbers(width=60.0, height=60.0, depth=20.0)), host=ManySidedNumbers(width=160))
    (must,) = [f for f in whole_fit(tuple(members(shallow).values()), STOCKS, around=Around(design=shallow)).findings if f.severity is Severity.MUST]
    assert (must.item, must.field, must.message[:6]) == ("tray", "depth", "Tray: ")
    after = mended_project(shallow, must.item, repair=must.repairs[0])  # by the tray's own number: its host has none of that name
    assert (after.numbers, after.items[0].design.numbers.depth > 20) == (shallow.numbers, True)  # type: ignore[union-attr]
    assert not [f for f in build_whole(after, STOCKS).findings if f.severity is Severity.MUST]
    open_ = Variation(name="Wood", alternatives=(Alternative(name="thin"), Alternative(name="thick")))
    undecided = build_whole(joined(tray(body={"variations": (open_,)})), STOCKS)
    assert [(f.code, f.item) for f in undecided.findings if f.code == "variation_not_chosen"] == [("variation_not_chosen", "tray")]
    prefixed = Repair(says=say("mend.asked"), kind=RepairKind.PANEL, targets=("tray:front",), values={"move": (0.0, 0.0, 0.0)})
    assert mended_project(design, "tray", repair=prefixed).items[0].design.edits == {}
    assert mended(RepairKind.DROP_FEATURE, "tray:hole").items[0].design.features == ()
    back = mended(RepairKind.PANEL, "tray:front", "lid", move=(0.0, 0.0, 0.0))
    assert (back.items[0].design.edits, back.edits) == ({}, {})
    feels = mended(RepairKind.FEELS, "lid+tray:back", "tray:front+tray:left", "back+left", feel="mallet")
    assert (set(feels.choices), set(feels.items[0].design.choices)) == ({"lid+tray:back", "back+left"}, {"front+left"})
    other = mended(RepairKind.STOCK, "ply", to="board")
    assert {*other.stocks.values(), *other.items[0].design.stocks.values()} == {"board"}
    assert mended(RepairKind.RELIEF, value=1.0).items[0].design.relief == 1.0
    assert PLY.t == 3.1
