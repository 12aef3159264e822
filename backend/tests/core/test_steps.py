"""Putting together in a person's order, what is said at each step, what-if, pieces cut already, and two revisions side by side."""

from __future__ import annotations

import io
import itertools
from dataclasses import replace
from random import Random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from notchcore.check.blocking import Blocking, directions_of
from notchcore.check.compare import Change, changes_between
from notchcore.check.dry_fit import meeting_chances
from notchcore.check.order import assembly_order, take_apart
from notchcore.check.sequence import in_order
from notchcore.check.steps import HintKind, guide, there_at
from notchcore.check.whatif import Shift, TestKind, shifted_chances, worth_of_tests
from notchcore.check.whole import whole_fit
from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.building import build
from notchcore.design.design import Design, Item, Loose
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import ROLES, BoxNumbers, Top
from notchcore.design.families.registry import FAMILIES
from notchcore.design.items import members_of, whole_of
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.plates import OnFace
from notchcore.formats.guide import guide_pdf, pages_of
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3
from notchcore.ids import step_id
from notchcore.measure.fit import Feel
from notchcore.measure.machine import Operation
from notchcore.run.recut import Fate, Piece, piece_of, recut, same_cut
from notchcore.trace.photo import Photo
from tests.strategies import boxes, make_stock

STOCKS = {r.id: make_stock(r.id, 3.1) for r in ROLES}


def a_box(numbers: BoxNumbers | None = None, **more: Any) -> Design:
    return Design(numbers=numbers or BoxNumbers(width=120, depth=80, height=50, columns=2), stocks={r.id: r.id for r in ROLES}, **more)


def possible(parts: tuple[Part, ...], keys: tuple[str, ...]) -> bool:
    """Try an order without the program's own search: what goes in, part or parts as one, on a straight way against what is there."""
    blocking, at = Blocking(parts), {p.id: i for i, p in enumerate(parts)}
    for k, key in enumerate(keys):
        there = [at[p] for some in keys[:k] for p in some.split("+")]
        new = [at[p] for p in key.split("+")]
        if not any(all(not blocking.blocks(i, j, d=d) for i in new for j in there) for d in directions_of(parts)):
            return False
    return True


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6), st.sampled_from([Top.OPEN, Top.LIFT_OFF, Top.FIXED]))
def test_an_order_is_free_of_problems_exactly_when_brute_force_finds_a_way_in_for_each_part(seed: int, top: Top) -> None:
    assembly = build(a_box(BoxNumbers(width=120, depth=80, height=50, columns=2, top=top)), STOCKS)
    found = assembly_order(assembly.parts)
    keys = [step_id(s.parts) for s in found.steps]
    assert all(len(s.parts) == 1 for s in found.steps)
    assert possible(assembly.parts, tuple(keys))
    Random(seed).shuffle(keys)
    planned = in_order(assembly.parts, tuple(keys), found=found)
    assert (not any(p.problem for p in planned)) is possible(assembly.parts, tuple(keys))


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 10**6), st.sampled_from([Top.OPEN, Top.FIXED]))
def test_a_sub_assembly_by_hand_is_put_together_apart_and_goes_in_as_one(seed: int, top: Top) -> None:
    assembly = build(a_box(BoxNumbers(width=120, depth=80, height=50, columns=2, top=top)), STOCKS)
    found, random = assembly_order(assembly.parts), Random(seed)
    keys = [step_id(s.parts) for s in found.steps]
    random.shuffle(keys)
    group = tuple(sorted(random.sample(keys, random.randint(2, len(keys) - 1))))
    steps = guide(assembly, found, stocks=STOCKS, wanted=tuple(keys), apart=(group, ("moon", group[0]), (group[0], *(k for k in keys if k not in group))))
    whole = step_id(group)
    inner, outer = tuple(s.key for s in steps if s.within), tuple(s.key for s in steps if not s.within)
    assert sorted(inner) == sorted(group)
    assert sorted(outer) == sorted({whole, *keys} - set(group))
    assert (not any(s.problem for s in steps if s.within)) is possible(assembly.parts, inner)
    assert (not any(s.problem for s in steps if not s.within)) is possible(assembly.parts, outer)
    at = next(k for k, s in enumerate(steps) if s.key == whole)
    assert steps[at].by_hand
    assert all(s.key not in group for s in steps[at:])  # it goes in once all of it is together
    assert not set(there_at(steps, at)) & set(group)
    assert [s.first for s in steps if s.within] == [True] + [False] * (len(group) - 1)


class Pairs:
    """Two pairs of parts: along z a part takes its partner with it, along x the other pair is in the way."""

    def blocks(self, i: int, j: int, d: Vec3) -> bool:
        return (i // 2 == j // 2) is (d[2] != 0)


def test_what_leaves_only_as_a_group_is_put_together_first_from_a_part_that_is_laid_down() -> None:
    removals, locked = take_apart({0, 1, 2, 3}, Pairs(), ways=[(0.0, 0.0, 1.0), (1.0, 0.0, 0.0)], order=[0, 1, 2, 3])
    assert not locked
    assert [group for group, _ in removals] == [{0, 1}, {0}, {1}, {2}]
    assert [w.out for _, w in removals] == [(0, 0, 1), (1, 0, 0), (0, 0, 1), (1, 0, 0)]


def test_whether_an_order_exists_agrees_with_all_orders_tried() -> None:
    for numbers in (BoxNumbers(width=80, depth=60, height=40), BoxNumbers(width=80, depth=60, height=40, top=Top.FIXED)):
        parts = build(a_box(numbers), STOCKS).parts
        exists = any(possible(parts, tuple(p.id for p in some)) for some in itertools.permutations(parts))
        assert exists is (assembly_order(parts).locked == ())


def test_steps_that_are_gone_are_forgotten_and_new_ones_come_last() -> None:
    assembly = build(a_box(), STOCKS)
    found = assembly_order(assembly.parts)
    planned = in_order(assembly.parts, ("moon", "left", "left"), found=found)
    assert sorted(p for s in planned for p in s.step.parts) == sorted(p.id for p in assembly.parts)
    assert planned[0].key == "left"


def test_hints_say_glue_mallet_film_reach_and_what_shuts_in() -> None:
    stocks = STOCKS | {"acrylic": make_stock("acrylic", 3.0, material="cast_acrylic")}
    design = a_box(
        BoxNumbers(width=60, depth=60, height=90, top=Top.FIXED),
        added=(OnFace(id="plate", label="Plate", stock="walls", host="base", back=False, x=10, y=10, width=30, height=30),),
        choices={"front+left": MeetingChoice(feel=Feel.MALLET)},
        edits={"lid": PanelEdit(stock="acrylic")},
    )
    assembly = build(design, stocks)
    steps = guide(assembly, assembly_order(assembly.parts), stocks=stocks, notes={"base": "Show face down"})
    by = {s.key: s for s in steps}
    kinds = {k: {h.kind for h in s.hints} for k, s in by.items()}
    assert HintKind.GLUE in kinds["plate"] | kinds["base"]
    assert any(HintKind.MALLET in kinds[k] for k in ("front", "left"))
    assert HintKind.FILM in kinds["lid"]
    assert by["base"].note == "Show face down"
    assert any(s.before for s in steps)
    glue = next(h for s in steps for h in s.hints if h.kind is HintKind.GLUE)
    assert glue.minutes == 30


def test_a_hand_does_not_reach_the_floor_of_a_narrow_box() -> None:
    def reached(width: float) -> bool:
        design = a_box(
            BoxNumbers(width=width, depth=width, height=120, top=Top.OPEN),
            added=(OnFace(id="plate", label="Plate", stock="walls", host="base", x=15, y=15, width=20, height=20),),
        )
        assembly = build(design, STOCKS)
        found = assembly_order(assembly.parts)
        last = (*(k for k in (step_id(s.parts) for s in found.steps) if k != "plate"), "plate")
        step = next(s for s in guide(assembly, found, stocks=STOCKS, wanted=last) if s.key == "plate")
        return any(h.kind is HintKind.REACH for h in step.hints)

    assert reached(60)
    assert not reached(200)


def test_the_guide_has_a_picture_for_each_step_and_every_part_on_its_last_page() -> None:
    assembly = build(a_box(), STOCKS)
    steps = guide(assembly, assembly_order(assembly.parts), stocks=STOCKS, notes={"lid": "Last of all"})
    pages = [p.extract_text() for p in PdfReader(io.BytesIO(guide_pdf(assembly, steps, colours={}, title="Seed packet drawer", revision=3))).pages]
    assert len(pages) == -(-len(steps) // 6) + 1
    for part in assembly.parts:
        assert any(part.label in p for p in pages[:-1])
        assert part.label in pages[-1]
    assert all("qualified person" in p for p in pages)


def test_each_item_is_a_chapter_that_ends_with_the_step_in_which_it_goes_in() -> None:
    tray = Item(id="tray", label="Seed tray", design=a_box(BoxNumbers(width=60, depth=60, height=20, top=Top.OPEN)), loose=Loose(room="room-1-1"))
    design = replace(a_box(BoxNumbers(top=Top.OPEN)), name="Crate", items=(tray, replace(tray, id="peg", label="Peg", loose=None)))
    members = members_of(design, lambda body: build(body, STOCKS))
    steps = guide(whole_of(members), whole_fit(members, STOCKS).order, stocks=STOCKS)
    found = list(pages_of(steps))
    assert sorted(k for _, places in found for k in places) == list(range(len(steps)))
    assert [chapter for chapter, _ in found] == ["", "Seed tray", "Peg"]
    for chapter, places in found[1:]:
        assert [steps[k].whole for k in places] == [False] * (len(places) - 1) + [True]
        assert steps[places[-1]].label == chapter


# -- what if -------------------------------------------------------------------------------------------------------


@settings(max_examples=25, deadline=None)
@given(boxes(), st.floats(-0.3, 0.3), st.floats(-0.1, 0.1))
def test_a_thicker_sheet_tightens_and_a_wider_beam_loosens_every_slot_by_as_much(made: tuple, thicker: float, wider: float) -> None:
    design, stocks = made
    assembly = build(design, stocks)
    before = {o.meeting: o.chances.clearance for o in meeting_chances(assembly, stocks)}
    shifts = {k: Shift(thickness=thicker, kerf=wider) for k in stocks}
    after = {o.meeting: o.chances.clearance for o in shifted_chances(assembly, stocks, shifts=shifts)}
    for m in assembly.meetings:
        if m.clearance is not None:
            by = m.kerf_share * wider - (thicker if m.thickness_sd else 0.0)
            assert after[m.id] - before[m.id] == pytest.approx(by, abs=1e-9)
    assert [o.chances for o in shifted_chances(assembly, stocks, shifts={})] == [o.chances for o in meeting_chances(assembly, stocks)]


def test_the_test_that_helps_most_is_of_what_is_known_worst() -> None:
    surely = make_stock("dividers", 3.1)
    guess = replace(surely, thickness=replace(surely.thickness, sd=0.25, terms=tuple(replace(t, sd=0.25) for t in surely.thickness.terms)))
    stocks = {**STOCKS, "dividers": guess}
    worth = worth_of_tests(build(a_box(), stocks), stocks)
    assert (worth[0].stock, worth[0].kind) == ("dividers", TestKind.READINGS)
    assert worth == tuple(sorted(worth, key=lambda w: -w.saves))
    assert sum(w.saves for w in worth_of_tests(build(a_box(), STOCKS), STOCKS)) < worth[0].saves


# -- pieces that are cut -------------------------------------------------------------------------------------------


def pieces(assembly: Assembly, kerf: float = 0.16) -> list[Piece]:
    return [piece_of(p, kerf) for p in assembly.parts]


def elsewhere(part: Part, random: Random) -> Part:
    """The same part in another place of the thing and of its own plane."""
    dx, dy = random.uniform(-300, 300), random.uniform(-300, 300)

    def moved(ring: tuple) -> tuple:
        return tuple((x + dx, y + dy) for x, y in ring)

    profile = replace(part.profile, outer=moved(part.profile.outer), holes=tuple(moved(h) for h in part.profile.holes), circles=())
    marks = tuple(replace(m, line=moved(m.line)) for m in part.marks)
    return replace(part, profile=profile, marks=marks, pose=Pose(origin=(dx, dy, 5.0), x=(0.0, 1.0, 0.0), y=(0.0, 0.0, 1.0)))


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(sorted(FAMILIES)), st.randoms(use_true_random=False), st.floats(0.0, 0.05), st.floats(-0.04, 0.04))
def test_a_piece_serves_exactly_when_no_line_of_it_lies_off_by_a_hundredth(family: str, random: Random, by: float, kerf: float) -> None:
    kind = FAMILIES[family]
    stocks = {r.id: make_stock(r.id, 3.0) for r in kind.roles}
    part = random.choice(build(Design(numbers=kind.numbers(), stocks={k: k for k in stocks}), stocks).parts)
    piece = piece_of(part, 0.16)
    assert same_cut(piece, piece_of(elsewhere(part, random), 0.16))
    outer = list(part.profile.outer)
    k = random.randrange(len(outer))
    outer[k] = (outer[k][0] + by, outer[k][1])
    other = replace(piece, profile=replace(part.profile, outer=tuple(outer)), kerf=0.16 + kerf)
    if by + abs(kerf) / 2 > 0.0102 and by > 0.0102:
        assert not same_cut(piece, other) or not _moves_a_line(part, k)
    if abs(kerf) / 2 >= 0.01:
        assert not same_cut(piece, other)
    if by + abs(kerf) / 2 < 0.0095 and by:
        assert same_cut(piece, other)


def _moves_a_line(part: Part, k: int) -> bool:
    """Whether a corner moved to the right leaves the old outline: not where it slides along an edge, or was the lower left one."""
    ring = part.profile.outer
    before, here, after = ring[k - 1], ring[k], ring[(k + 1) % len(ring)]
    return abs(before[1] - here[1]) > 5 and abs(after[1] - here[1]) > 5 and here[0] > min(x for x, _ in ring) + 1


def test_a_revision_says_what_is_good_what_is_cut_again_what_is_new_and_what_is_left_over() -> None:
    first, second = build(a_box(), STOCKS), build(a_box(BoxNumbers(width=140, depth=80, height=50, columns=3)), STOCKS)
    cut = [p for p in pieces(first) if p.part != "left"]
    found = {r.part: r.fate for r in recut([(p, 1) for p in pieces(second)], cut).rows}
    assert found["right"] is Fate.GOOD  # it depends on depth and height only
    assert found["left"] is Fate.GOOD or found["left"] is Fate.NEW  # never cut, but the right one might do
    assert found["front"] is Fate.RECUT
    assert found["column-2"] is Fate.NEW
    assert {label for label, _ in recut([(p, 1) for p in pieces(second)], cut).left_over} >= {"Front", "Back", "Base"}


def test_a_line_that_no_plan_burned_is_no_reason_to_cut_again() -> None:
    part = build(a_box(), STOCKS).part("base")
    place = Mark(line=((10.0, 10.0), (40.0, 10.0)), closed=False, back=True)
    with_place = replace(part, marks=(*part.marks, place))
    assert same_cut(piece_of(with_place, 0.15), piece_of(part, 0.15))
    assert not same_cut(piece_of(with_place, 0.15, locate=True), piece_of(part, 0.15, locate=True))
    for burned in (replace(place, feature="ruler"), replace(place, back=False)):
        assert not same_cut(piece_of(replace(part, marks=(*part.marks, burned)), 0.15), piece_of(part, 0.15))


def test_equal_parts_share_the_pieces_and_no_piece_serves_twice() -> None:
    assembly = build(a_box(BoxNumbers(width=120, depth=80, height=50, columns=3)), STOCKS)
    dividers = [p for p in pieces(assembly) if p.part.startswith("column")]
    rows = recut([(p, 2) for p in dividers], [dividers[0], dividers[0], dividers[0]]).rows
    assert sum(r.good for r in rows) == 3
    assert sum(r.missing for r in rows) == 1


def test_two_revisions_side_by_side_light_the_edges_that_changed() -> None:
    plain = BoxNumbers(width=120, depth=80, height=50)
    first, second = build(a_box(plain), STOCKS), build(a_box(replace(plain, thumb_notch=20.0)), STOCKS)
    changes = {c.part: c for c in changes_between(first.parts, second.parts)}
    assert changes["front"].change is Change.CHANGED
    assert {c.change for k, c in changes.items() if k != "front"} == {Change.SAME}
    assert all(y > 30 for line in changes["front"].edges_now for _, y in line)  # the notch is at the top
    gone = {c.part: c.change for c in changes_between(build(a_box(), STOCKS).parts, first.parts)}
    assert gone["column-1"] is Change.GONE


def test_a_photo_turned_in_its_frame_and_lines_burned_another_way_are_other_pieces() -> None:
    piece = pieces(build(a_box(), STOCKS))[0]
    frame = ((0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (0.0, 10.0))
    photo = Mark(line=frame, operation=Operation.ENGRAVE, photo=Photo(image="1"))
    line = Mark(line=tuple((x + 30, y) for x, y in frame))
    one = replace(piece, marks=(photo, line))
    assert same_cut(one, replace(one, marks=(line, photo)))
    assert not same_cut(one, replace(one, marks=(replace(photo, line=(*frame[2:], *frame[:2])), line)))
    swapped = (replace(photo, line=line.line), replace(line, line=photo.line))
    assert not same_cut(one, replace(one, marks=swapped))
