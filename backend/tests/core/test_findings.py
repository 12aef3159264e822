"""Every finding of the dry fit appears where it is planted and nowhere else; every repair removes it and adds none."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.check.around import Around, OnShelf
from notchcore.check.dry_fit import DryFit, dry_fit
from notchcore.design.between import Axis, Between
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit, Split
from notchcore.design.families.box import ROLES, BoxNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.features.values import Anchor, Face, Fold, Hole, Keyhole, Text, Window
from notchcore.design.gussets import Gusset
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.outlines import PanelOutline
from notchcore.design.plates import OnFace
from notchcore.design.repairs import applied
from notchcore.design.styles import Style
from notchcore.design.uprights import Upright
from notchcore.design.variations import Alternative, Variation
from notchcore.errors import NotchCoreError
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.measure.contrast import lab_of
from notchcore.measure.fit import Feel
from notchcore.words.facts import Kind, Ref
from notchcore.words.render import written
from tests.strategies import family_designs, make_stock

STOCKS = {r.id: make_stock(r.id, 3.1) for r in ROLES} | {
    "acrylic": make_stock("acrylic", 3.0, material="cast_acrylic"),
    "oak": make_stock("oak", 3.0, material="solid_wood"),
    "coarse": make_stock("coarse", 3.1, kerf=0.6),
    **{r.id: make_stock(r.id, 3.0) for r in (*FAMILIES["shelf"].roles, *FAMILIES["layered"].roles)},
}
PLAIN = BoxNumbers(width=180, depth=120, height=60, columns=2)
HEIGHTS = Variation(name="Height", alternatives=(Alternative(name="low", sizes=PLAIN), Alternative(name="high", sizes=replace(PLAIN, height=90))))


def a_box(stock: str | None = None, numbers: BoxNumbers = PLAIN, **more: Any) -> Design:
    return Design(numbers=numbers, stocks={r.id: stock or r.id for r in ROLES}, **more)


def a(family: str, **numbers: Any) -> Design:
    kind = FAMILIES[family]
    return Design(numbers=kind.numbers(**numbers), stocks={r.id: r.id for r in kind.roles})


def on_front(feature: Any, **more: Any) -> Design:
    return a_box(features=(replace(feature, panel="front"),), **more)


def without(*panels: str) -> dict[str, PanelEdit]:
    return {p: PanelEdit(gone=True) for p in panels}


@dataclass
class Planted:
    """A design with one mistake in it, and what is needed around it."""

    code: str
    design: Design
    around: dict[str, Any] = field(default_factory=dict)
    repairs: int = 1  #: how many are offered at least
    caution: bool = False


BOARD = CopyOf(id="board", label="Board", of="base", move=(0.0, 0.0, 40.0))
SIX = {"bed": (150.0, 100.0)}
butts = {m: MeetingChoice(style=Style.BUTT) for m in ("column-1+front", "back+column-1", "base+column-1")}
LACE = Hole(id="l", panel="front", anchor=Anchor.LEFT, x=9.0, diameter=3.0, rows=5, pitch_y=9.0)
POSTS = tuple(
    Upright(id=f"post-{i}", label=f"Post {i}", stock="walls", host="base", x=x, y=60.0, width=30.0, upper=30.0, height=130.0)
    for i, x in enumerate((40.0, 140.0))
)
SEAT = {"layer-1+layer-2": MeetingChoice(style=Style.RECESS)}
PLANTED = [
    Planted("larger_than_bed", a_box(), SIX),
    Planted("larger_than_sheet", a_box(), {"sheets": {"walls": ((160.0, 140.0),)}}),
    Planted("orphan_choice", a_box(choices={"front+moon": MeetingChoice(count=3)})),
    Planted("helper_holds", a_box(edits={"left": PanelEdit(helper=True)})),
    Planted("text_too_small", on_front(Text(id="t", panel="", cap=1.5)), repairs=2),
    Planted("letters_lacking", on_front(Text(id="t", panel="", cap=8.0, words="箱 OF BEANS")), repairs=1),
    Planted("letters_lacking", on_front(Text(id="t", panel="", cap=8.0, words="Café", face=Face.STROKE)), repairs=3),
    Planted("text_too_small", replace(on_front(Text(id="t", panel="", cap=4.0, face=Face.SERIF)), stocks={r.id: "coarse" for r in ROLES}), repairs=2),
    Planted("wrong_face", on_front(Text(id="t", panel=""), edits={"front": PanelEdit(turned=True)})),
    Planted("brittle_corner", a_box("acrylic")),
    Planted(
        "grain_across_neck",
        replace(
            a_box(edits={"column-1": PanelEdit(across=True)}, numbers=replace(PLAIN, height=200)),
            stocks={r.id: "oak" if r.id == "dividers" else r.id for r in ROLES},
        ),
    ),
    Planted("opening_below_beam", replace(on_front(Window(id="w", panel="", width=0.5, height=20.0, radius=0.0)), stocks={r.id: "coarse" for r in ROLES})),
    Planted("unheld_part", a_box(choices=butts)),
    Planted("variation_not_chosen", a_box(variations=(HEIGHTS,)), repairs=2),
    Planted("feature_outside", on_front(Hole(id="h", panel="", x=500.0)), repairs=2),
    Planted("feature_lost", a_box(features=(Hole(id="h", panel="moon"),))),
    Planted("feature_across_joint", on_front(Text(id="t", panel="", cap=12.0, words="SEED FAIR", y=20.0)), repairs=2),
    Planted("feature_across_fold", a_box(features=(Fold(id="f", panel="front"), Window(id="w", panel="front", width=20.0, height=10.0)))),
    Planted("fold_in_stiff_sheet", on_front(Fold(id="f", panel=""))),
    Planted("collision", a_box(added=(CopyOf(id="c", label="Copy", of="left", move=(1.0, 0.0, 0.0)),))),
    Planted("meeting_clash", a_box(edits={"column-1": PanelEdit(move=(-88.0, 0.0, 0.0))})),
    Planted("too_many_compartments", a_box(numbers=replace(PLAIN, columns=40))),
    Planted("split_outside", a_box(splits=(Split(panel="front", at=500.0),))),
    Planted("split_meets_joint", a_box(splits=(Split(panel="front", at=90.0),))),
    Planted("added_panel_lost", a_box(added=(Between(id="b", label="B", stock="walls", a="moon", b="front", axis=Axis.X, at=20.0),))),
    Planted("drawing_lost", a_box(edits={"back": PanelEdit(outline=PanelOutline(drawing="9", width=50.0))})),
    Planted("stocks_alike", a("layered"), {"swatches": {"back": lab_of("#c69a6b"), "middle": lab_of("#c69a6b"), "face": lab_of("#222222")}}, repairs=2),
    Planted("engraved_too_deep", on_front(Text(id="t", panel="", words="SEED", cap=9.0)), {"depths": {"walls": 1.9}}, repairs=2),
    Planted("recess_too_shallow", replace(a("layered"), choices=SEAT), {"depths": {"layer-1": 0.12}}, repairs=2),
    Planted("laces_unequal", a_box(features=(LACE, replace(LACE, id="m", panel="left", rows=6, pitch_y=7.5))), repairs=2),
    Planted("fit_not_sure", a_box("acrylic", feel=Feel.MALLET, relief=0.5), repairs=2),
    Planted("thin_web", on_front(Window(id="w", panel="", width=30.0, height=10.0, y=23.0)), repairs=2),
    Planted("part_below_slats", a_box(numbers=replace(PLAIN, height=18))),
    Planted("long_lever", a_box(numbers=replace(PLAIN, columns=1), added=POSTS[:1]), repairs=1),
    Planted("long_lever", a_box(numbers=replace(PLAIN, columns=1), added=POSTS), repairs=1),
    Planted("caution_hangs", on_front(Keyhole(id="k", panel="")), repairs=0, caution=True),
    Planted("caution_sags", a("shelf", width=320.0), caution=True),
    Planted("caution_warps", a_box(numbers=BoxNumbers(width=400, depth=300, height=60), edits=without("left", "right")), repairs=0, caution=True),
    Planted(
        "caution_cantilever",
        a_box(numbers=replace(PLAIN, columns=1), edits=without("left", "right", "back"), added=(BOARD,)),
        caution=True,
    ),
]


def checked(design: Design, **around: Any) -> DryFit:
    return dry_fit(build(design, STOCKS), STOCKS, around=Around(design=design, **{"bed": (900.0, 600.0), **around}))


def told(fit: DryFit) -> tuple[Finding, ...]:
    return tuple(f for f in fit.findings if f.severity is not Severity.FINE) + fit.cautions


def test_a_sound_box_has_nothing_to_tell() -> None:
    fit = checked(a_box(), sheets={r.id: ((600.0, 400.0),) for r in ROLES}, swatches={"walls": lab_of("#ffffff"), "base": lab_of("#000000")})
    assert told(fit) == ()
    fine = {f.code for f in fit.findings}
    assert {"larger_than_bed", "orphan_choice", "wrong_face", "text_too_small", "collision", "locked_assembly"} <= fine


@pytest.mark.parametrize(
    ("code", "design", "around"),
    [
        ("recess_too_shallow", replace(a("layered"), choices=SEAT), {"depths": {s: 0.31 for s in ("back", "middle", "face")}}),
        ("laces_unequal", a_box(features=(LACE, replace(LACE, id="m", panel="left"))), {}),
        ("laces_unequal", a_box(features=(LACE, replace(LACE, id="m", panel="left", rows=2))), {}),  # two holes are no row
        ("engraved_too_deep", on_front(Text(id="t", panel="", words="SEED", cap=9.0)), {"depths": {"walls": 0.9}}),
        ("thin_web", on_front(Window(id="w", panel="", width=30.0, height=10.0, y=5.0)), {}),
        ("part_below_slats", a_box(), {}),
        ("stocks_alike", a("layered"), {"swatches": dict(zip(("back", "middle", "face"), map(lab_of, ("#111111", "#888888", "#eeeeee")), strict=True))}),
    ],
)
def test_what_comes_near_a_mistake_but_is_none_is_not_told(code: str, design: Design, around: dict[str, Any]) -> None:
    assert code not in {f.code for f in told(checked(design, **around))}


@pytest.mark.parametrize("case", PLANTED, ids=lambda c: c.code)
def test_a_planted_mistake_is_found_and_each_repair_removes_it_and_adds_none(case: Planted) -> None:
    fit = checked(case.design, **case.around)
    found = [f for f in (fit.cautions if case.caution else fit.findings) if f.code == case.code and f.severity is not Severity.FINE]
    assert found
    before = {f.key for f in told(fit)}
    for finding in found:
        assert len(finding.repairs) >= case.repairs
        for repair in finding.repairs:
            after = {f.key for f in told(checked(applied(case.design, repair), **case.around))}
            assert finding.key not in after
            assert {f for f in after if f[0] != "only_slides"} <= before  # who lets a joint slide is told that it wants glue then


def test_posts_that_are_alike_are_told_in_one_breath_and_a_tab_is_not_asked_wider_than_its_post() -> None:
    def levers(*posts: Upright) -> list[Finding]:
        return [f for f in checked(a_box(numbers=replace(PLAIN, columns=1), added=posts)).findings if f.code == "long_lever" and f.severity is Severity.LOOK]

    (both,) = levers(*POSTS)
    assert both.parts == ("post-0", "post-1")
    assert [r.targets for r in both.repairs] == [("base+post-0", "base+post-1")]
    assert len(levers(POSTS[0], replace(POSTS[1], height=160.0))) == 2
    (narrow,) = levers(replace(POSTS[0], width=16.0, upper=16.0))
    assert (narrow.repairs, "make the foot wider" in narrow.says.text) == ((), True)


@settings(max_examples=25, deadline=None)
@given(st.sampled_from(sorted(FAMILIES)), st.data())
def test_a_repair_of_an_impossible_number_names_one_that_is_possible(family: str, data: st.DataObject) -> None:
    design, stocks = data.draw(family_designs(family))
    for _ in range(6):  # one number at a time, as a person would
        fit = dry_fit(build(design, stocks), stocks, around=Around(design=design))
        first = next((f for f in fit.findings if f.severity is Severity.MUST and f.field and f.repairs), None)
        if first is None:
            return
        design = applied(design, first.repairs[0])
        after = dry_fit(build(design, stocks), stocks, around=Around(design=design))
        assert first.key not in {f.key for f in after.findings if f.severity is Severity.MUST}


def test_stocks_that_look_alike_are_told_with_the_nearest_on_the_shelf_that_differs() -> None:
    """Of what is about as thick and differs from all that stays, what looks most like the one whose place it takes."""
    swatches = dict(zip(("back", "middle", "face"), map(lab_of, ("#c69a6b", "#c49868", "#222222")), strict=True))

    def shelf(name: str, colour: str, t: float = 3.2) -> OnShelf:
        return OnShelf(ref=Ref(Kind.STOCK, name, name.capitalize()), look=lab_of(colour), t=t)

    too_alike, too_dark, too_thick = shelf("maple", "#c99d70"), shelf("ebony", "#252525"), shelf("birch", "#e2c9a0", t=6.0)
    white, walnut = shelf("white", "#ffffff"), shelf("walnut", "#8a5a3c")
    (told_of,) = told(checked(a("layered"), swatches=swatches, others=(too_alike, too_dark, too_thick, white, walnut)))
    assert told_of.says.text.endswith("On the shelf, Walnut can be told from what stays.")
    assert [(r.says.text, r.targets, r.values["to"]) for r in told_of.repairs][:2] == [
        ("Walnut instead of middle", ("middle",), "walnut"),
        ("Walnut instead of back", ("back",), "walnut"),
    ]
    assert [r.says.text for r in told_of.repairs][2:] == ["All of middle", "All of back"]
    after = applied(a("layered"), told_of.repairs[0])
    assert set(after.stocks.values()) == {"back", "face", "walnut"}
    (plain,) = told(checked(a("layered"), swatches=swatches, others=(too_alike, too_dark, too_thick)))
    assert len(plain.repairs) == 2
    assert "On the shelf" not in plain.says.text


def test_a_gusset_goes_into_the_corner_of_both_and_follows_their_size() -> None:
    for width in (180.0, 260.0):
        design = a_box(
            numbers=replace(PLAIN, columns=1, width=width), added=(Gusset(id="g", label="Gusset", stock="walls", a="base", b="front", size=34.0, at=20.0),)
        )
        assembly = build(design, STOCKS)
        meetings = {m.a if m.b == "g" else m.b: m.style for m in assembly.meetings if "g" in (m.a, m.b)}
        assert meetings == {"base": "tabs", "front": "tabs"}
        assert [f for f in told(checked(design)) if f.severity is Severity.MUST] == []
    lost = build(a_box(added=(Gusset(id="g", label="Gusset", stock="walls", a="left", b="right"),)), STOCKS)
    assert [f.code for f in lost.findings] == ["added_panel_lost"]


@pytest.mark.parametrize(
    "repair",
    [
        Repair(says=written("x"), kind=RepairKind.NUMBER, targets=("moon",), values={"value": 3.0}),
        Repair(says=written("x"), kind=RepairKind.NUMBER, targets=("width",), values={}),
        Repair(says=written("x"), kind=RepairKind.NUMBER, targets=("width",), values={"value": -3.0}),
        Repair(says=written("x"), kind=RepairKind.CHOICE, targets=("m",), values={"moon": 1}),
        Repair(says=written("x"), kind=RepairKind.CHOICE, targets=("m",), values={"style": "moon"}),
        Repair(says=written("x"), kind=RepairKind.PLATE, targets=("front",), values={}),
        Repair(says=written("x"), kind=RepairKind.DIVIDE, targets=("front",), values={}),
        Repair(says=written("x"), kind=RepairKind.VARIANT, targets=("Size", "moon")),
    ],
)
def test_a_repair_that_does_not_belong_is_refused(repair: Repair) -> None:
    with pytest.raises(NotchCoreError):
        applied(a_box(), repair)


def test_a_plate_named_like_another_gets_a_name_of_its_own() -> None:
    repair = next(r for f in checked(a("shelf", width=320.0)).cautions for r in f.repairs)
    twice = applied(applied(a("shelf", width=320.0), repair), repair)
    assert [x.id for x in twice.added] == ["doubler-1", "doubler-2"]
    assert all(isinstance(x, OnFace) for x in twice.added)
