"""The dry fit: each finding appears where it must and nowhere else, and the assembly order can really be performed."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from notchcore.check.dry_fit import collisions, dry_fit, meeting_chances, thin_webs, weak_tabs
from notchcore.check.order import assembly_order
from notchcore.check.told_together import told_together
from notchcore.design.assembly import Assembly, FeatureKind, Part
from notchcore.design.building import build
from notchcore.design.families.box import Top
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.styles import Style
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.slab import Pose, shrunk
from notchcore.geom.vectors import X, Y, Z, add, scale
from notchcore.ledger import TermKind, Trust, single
from notchcore.measure.stock import Stock, StockEvidence, stock_of
from notchcore.words.facts import Kind, Ref, mm
from notchcore.words.render import say
from tests.solids import swept_hits
from tests.strategies import TODAY, make_box, make_stock

STOCKS = {"ply": make_stock("ply", 3.0)}
FAR = 1000.0


def drawer(choices: dict[str, MeetingChoice] | None = None) -> Assembly:
    return build(make_box(choices, same_stock=True, width=180, depth=120, height=60, columns=3, rows=2, top=Top.LIFT_OFF), STOCKS)


def codes(assembly: Assembly, stocks: dict[str, Stock] = STOCKS) -> set[str]:
    return {f.code for f in dry_fit(assembly, stocks).findings if f.severity is not Severity.FINE}


def with_part(assembly: Assembly, part: Part) -> Assembly:
    return replace(assembly, parts=tuple(part if p.id == part.id else p for p in assembly.parts))


def plain(pid: str, outline: Profile, pose: Pose) -> Part:
    return Part(id=pid, label=pid, stock="ply", pose=pose, low=-1.5, high=1.5, profile=outline, nominal=outline)


def test_a_sound_box_has_nothing_to_fix_and_says_what_was_checked() -> None:
    found = dry_fit(drawer(), STOCKS)
    assert {f.severity for f in found.findings} == {Severity.FINE}
    assert {"collision", "thin_web", "weak_tab", "locked_assembly"} <= {f.code for f in found.findings}
    assert len(found.order.steps) == len(drawer().parts)


def test_a_part_out_of_its_place_collides() -> None:
    left = drawer().part("left")
    moved = replace(left, pose=replace(left.pose, origin=add(left.pose.origin, (0.5, 0, 0))))
    assert "collision" in codes(with_part(drawer(), moved))
    away = replace(left, pose=replace(left.pose, origin=add(left.pose.origin, (-FAR, 0, 0))))
    assert collisions(with_part(drawer(), away).parts) == ()


def test_a_hole_too_near_to_the_rim_leaves_a_thin_web() -> None:
    base = drawer().part("base")
    for distance, found in ((1.2, 1), (6.0, 0)):
        hole = ((40.0, distance), (40.0, distance + 8), (60.0, distance + 8), (60.0, distance))
        part = replace(base, profile=Profile(outer=rectangle(0, 0, x1=180, y1=120).outer, holes=(hole,)))
        webs = thin_webs((part,), STOCKS)
        assert len(webs) == found
    assert thin_webs((replace(base, profile=rectangle(0, 0, x1=180, y1=2.5)),), STOCKS)[0].facts["least_mm"] == 3.0


def test_what_is_thinner_than_the_beam_is_a_must_and_every_place_is_ringed() -> None:
    base = drawer().part("base")
    holes = tuple(((40.0, y), (40.0, y + 8), (60.0, y + 8), (60.0, y)) for y in (40.0, 48.12, 80.0, 88.6))  # webs of 0.12 and 0.6
    (found,) = thin_webs((replace(base, profile=Profile(outer=rectangle(0, 0, x1=180, y1=120).outer, holes=holes)),), STOCKS)
    assert (found.severity, len(found.places)) == (Severity.MUST, 2)  # the beam is 0.16
    assert sorted(round(p.y, 1) for p in found.places) == [48.1, 88.3]
    (look,) = thin_webs((replace(base, profile=Profile(outer=rectangle(0, 0, x1=180, y1=120).outer, holes=holes[2:])),), STOCKS)
    assert look.severity is Severity.LOOK


def test_a_narrow_tab_is_weak() -> None:
    part = drawer().part("column-1")
    tab = next(f for f in part.features if f.kind is FeatureKind.TAB)
    for width, found in ((5.9, 1), (6.0, 0)):  # twice the sheet of 3 mm
        narrow = replace(tab, width=single(TermKind.LAYOUT, "tab", value=width, trust=Trust.EXACT))
        assert len(weak_tabs((replace(part, features=(narrow,)),))) == found


def test_a_part_that_only_butts_is_held_by_nothing_but_glue() -> None:
    walls = build(make_box(same_stock=True, width=100, depth=80, height=50), STOCKS)
    butted = build(make_box({m.id: MeetingChoice(style=Style.BUTT) for m in walls.meetings}, same_stock=True, width=100, depth=80, height=50), STOCKS)
    assert "unheld_part" not in codes(walls)
    assert "unheld_part" in codes(butted)


@pytest.mark.parametrize(("apart", "held"), [(200.0, None), (0.5, False)])
def test_plates_of_which_none_is_near_another_are_no_assembly(apart: float, held: bool | None) -> None:
    plates = (
        plain("a", rectangle(0, 0, x1=50, y1=40), Pose(origin=(0, 0, 0), x=X, y=Y)),
        plain("b", rectangle(0, 0, x1=50, y1=40), Pose(origin=(50 + apart, 0, 0), x=X, y=Y)),
    )
    found = dry_fit(Assembly(parts=plates, meetings=(), findings=()), STOCKS)
    assert ("unheld_part" in [f.code for f in found.findings if f.severity is Severity.LOOK]) is (held is False)
    assert not [f for f in found.findings if f.severity is Severity.FINE and "held" in f.message]


def test_unmeasured_stock_makes_fits_unsure() -> None:
    guess = {"ply": stock_of(StockEvidence(id="ply", name="ply", material="cast_acrylic", label=3.0), today=TODAY)}
    assert "fit_not_sure" in codes(build(make_box(same_stock=True, width=180, depth=120, height=60, columns=2), guess), guess)
    for chances in meeting_chances(drawer(), STOCKS):
        o = chances.chances
        assert o.rattles + o.slides + o.snug + o.mallet + o.wont_go == pytest.approx(1)
        assert chances.rework == pytest.approx(o.rattles + o.wont_go)


def test_a_plate_with_heads_on_both_sides_of_a_hole_is_locked_and_named() -> None:
    opening = ((-1.6, -10.0), (-1.6, 10.0), (1.6, 10.0), (1.6, -10.0))
    wall = plain("wall", replace(rectangle(-30, -30, x1=30, y1=30), holes=(opening,)), Pose(origin=(0, 0, 0), x=X, y=Y))
    through = Pose(origin=(0, 0, 0), x=Y, y=Z)
    right = ((20, -20), (20, -4), (9.9, -4), (9.9, 4), (20, 4), (20, 20))
    two_heads = Profile(outer=(*right, *((-x, -y) for x, y in right)))
    assert assembly_order((wall, plain("pin", rectangle(-9.9, -20, x1=9.9, y1=20), through))).locked == ()
    assert set(assembly_order((wall, plain("dumbbell", two_heads, through))).locked) == {"wall", "dumbbell"}


@pytest.mark.parametrize("top", list(Top))
def test_every_step_of_the_order_is_free_when_swept_as_a_solid(top: Top) -> None:
    """Another route than the one the order was found by: meshes, swept straight in from afar."""
    assembly = build(make_box(same_stock=True, width=150, depth=100, height=50, columns=3, rows=2, top=top), STOCKS)
    parts = {p.id: p for p in assembly.parts}
    standing: list[str] = []
    for step in assembly_order(assembly.parts).steps:
        for mover in step.parts:
            solid = shrunk(parts[mover].slab(nominal=True), 0.01)
            assert solid is not None
            for other in standing:
                assert not swept_hits(solid, scale(step.direction, -1.0), FAR, parts[other].slab(nominal=True)), (mover, other)
        standing += step.parts
    assert sorted(standing) == sorted(parts)


def test_what_is_said_of_many_alike_is_said_once_and_what_a_button_mends_stays_by_itself() -> None:
    """Eight posts that are too narrow for a tab are one thing to look at."""

    def short(post: int, **more: Any) -> Finding:
        a, b = Ref(Kind.PART, "floor", "Floor"), Ref(Kind.PART, f"post-{post}", f"Post {post}")
        says = say("joint_too_short", a=a, b=b, length=mm(12.0), what=say("joint_too_short.tab"), least=mm(15.0, digits=0))
        return Finding(code="joint_too_short", severity=Severity.LOOK, says=says, parts=("floor", b.id), meeting=f"floor/{b.id}", **more)

    other = replace(short(9), facts={"length_mm": 12})
    (told,) = told_together([short(k) for k in range(1, 9)])
    assert told.message.startswith("Floor and Post 1, Post 2 and 6 others meet over only 12.0 mm")
    assert told.parts == ("floor", *(f"post-{k}" for k in range(1, 9)))
    few = [short(1), short(2), other]
    assert told_together(few) == tuple(few)
    kept = [short(k, repairs=(Repair(says=say("mend.take_off"), kind=RepairKind.WHOLE, targets=(f"post-{k}",)),)) for k in range(6)]
    grave = [replace(short(k), severity=Severity.MUST) for k in range(6)]
    assert told_together([*kept, *grave]) == (*kept, *grave)
