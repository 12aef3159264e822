"""Before anything leaves the house: each check finds its own mistake, and says so when there is none."""

from __future__ import annotations

from dataclasses import replace

import pytest

from notchcore.check.features import flawed_artwork
from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.features.drawing import DrawnLine, tidied
from notchcore.design.features.values import Artwork, Burned
from notchcore.design.variations import Alternative, Variation
from notchcore.findings import Finding, Severity
from notchcore.geom.contours import Contour, Segment, contour_of
from notchcore.geom.profile import rectangle
from notchcore.geom.slab import Pose
from notchcore.measure.machine import KerfPlace, Machine, Operation, Settings, default_settings
from notchcore.measure.stock import StockEvidence, stock_of
from notchcore.nest.values import Nesting, Placement, SheetLayout, Unplaced
from notchcore.plan.paths import CutPath
from notchcore.plan.preflight import Run, preflight
from notchcore.plan.sides import Lay
from notchcore.trace.photo import Photo
from notchcore.words.render import written
from tests.strategies import TODAY, make_box, make_stock

MACHINE = Machine(id="m", name="Alder desk laser")
NESTING = Nesting(sheets=(), unplaced=(), utilisation=0, price=0)
EMPTY = Assembly(parts=(), meetings=(), findings=())
TRIED = replace(default_settings(make_stock("ply", 3.0)), source="power card, 12 May")

NO_PARTS = Assembly(parts=(), meetings=(), findings=())


def square(x: float, y: float, size: float, *, operation: Operation = Operation.OUTER, name: str = "a") -> CutPath:
    ring = ((x, y), (x + size, y), (x + size, y + size), (x, y + size))
    return CutPath(id=f"{name}.0/{operation}", part=name, copy=0, operation=operation, contour=contour_of(ring))


def found(
    *paths: CutPath,
    nesting: Nesting = NESTING,
    machine: Machine = MACHINE,
    settings: Settings = TRIED,
    measured: bool = True,
    assembly: Assembly = EMPTY,
    material: str = "plywood",
) -> dict[str, Finding]:
    stock = make_stock("ply", 3.0, material=material) if measured else stock_of(StockEvidence(id="ply", name="ply", material="plywood", label=3.0), today=TODAY)
    run = Run(name="Sheet", stock="ply", width=500.0, height=300.0, paths=paths, lay=Lay())
    told = preflight([run], nesting, stocks={"ply": stock}, machine=machine, settings={"ply": settings}, place=machine.kerf_place, assembly=assembly)
    return {f.code: f for f in told}


def test_a_sound_plan_passes_every_check_and_says_which() -> None:
    told = found(square(10, 10, 50))
    assert {f.severity for f in told.values()} == {Severity.FINE}
    assert {
        "outside_bed",
        "cut_twice",
        "cuts_beside",
        "open_outline",
        "text_too_small",
        "artwork_flawed",
        "falls_through",
        "parts_missing",
        "kerf_guess",
        "settings_guess",
        "kerf_once",
        "hazard",
    } == set(told)


@pytest.mark.parametrize(("x", "y"), [(-0.1, 10), (10, -0.1), (451, 10), (10, 251)])
def test_a_path_past_the_sheet_stops_the_files(x: float, y: float) -> None:
    assert found(square(x, y, 50))["outside_bed"].severity is Severity.MUST


def test_a_narrow_part_tips_unless_bridges_hold_it() -> None:
    small = square(10, 10, 12)
    assert found(small)["falls_through"].severity is Severity.LOOK
    assert found(replace(small, bridges=((16.0, 10.0), (16.0, 22.0)), gap=0.8))["falls_through"].severity is Severity.FINE


def test_a_path_past_the_bed_stops_the_files_even_on_a_larger_sheet() -> None:
    small = replace(MACHINE, bed_width=100.0)
    assert found(square(60, 10, 50), machine=small)["outside_bed"].severity is Severity.MUST
    assert found(square(40, 10, 50), machine=small)["outside_bed"].severity is Severity.FINE


def test_the_same_line_twice_stops_the_files_but_two_scores_do_not() -> None:
    assert found(square(10, 10, 50), square(10, 10, 50, name="b"))["cut_twice"].severity is Severity.MUST
    assert found(square(10, 10, 50), square(70, 10, 50, name="b"))["cut_twice"].severity is Severity.FINE
    scores = [square(10, 10, 50, operation=Operation.SCORE, name=n) for n in "ab"]
    assert found(*scores)["cut_twice"].severity is Severity.FINE


def test_a_line_without_length_stops_the_files() -> None:
    dot = Contour(segments=(Segment(start=(5, 5), end=(5, 5)),), closed=False)
    path = CutPath(id="dot", part="dot", copy=0, operation=Operation.INNER, contour=dot)
    assert found(square(10, 10, 50), path)["zero_length"].severity is Severity.MUST


def test_parts_narrower_than_the_slats_are_named_to_watch() -> None:
    told = found(square(10, 10, 15, name="peg"))["falls_through"]
    assert (told.severity, told.parts) == (Severity.LOOK, ("peg",))
    assert found(square(10, 10, 15, operation=Operation.INNER))["falls_through"].severity is Severity.FINE


def test_parts_without_a_place_stop_the_files() -> None:
    left = replace(NESTING, unplaced=(Unplaced(part="lid", count=2, why="full"),))
    told = found(square(10, 10, 50), nesting=left)["parts_missing"]
    assert told.severity is Severity.MUST
    assert "2 parts have no place" in told.message


def test_guesses_about_kerf_and_settings_are_asked_about() -> None:
    assert found(square(10, 10, 50), measured=False)["kerf_guess"].severity is Severity.LOOK
    assert found(square(10, 10, 50), settings=default_settings(make_stock("ply", 3.0)))["settings_guess"].severity is Severity.LOOK


def test_kerf_left_to_the_machine_is_said_instead_of_kerf_once() -> None:
    told = found(square(10, 10, 50), machine=replace(MACHINE, kerf_place=KerfPlace.MACHINE))
    assert told["kerf_in_machine"].severity is Severity.LOOK
    assert "kerf_once" not in told


def test_a_variant_that_nobody_chose_and_jigs_that_are_cut_too_are_said() -> None:
    profile = rectangle(0, 0, x1=60, y1=40)
    jig = Part(
        id="jig",
        label="Corner jig",
        stock="ply",
        pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)),
        low=0,
        high=3,
        profile=profile,
        nominal=profile,
        helper=True,
    )
    unchosen = Finding(code="variation_not_chosen", severity=Severity.LOOK, says=written("None is chosen."))
    lying = SheetLayout(
        sheet="s",
        copy=0,
        stock="ply",
        name="s",
        width=500,
        height=300,
        ring=((0, 0), (500, 0), (500, 300), (0, 300)),
        utilisation=0.1,
        placements=(Placement(part="jig", copy=0, turn=0, x=9, y=9),),
        leftover=None,
    )
    assembly = Assembly(parts=(jig,), meetings=(), findings=(unchosen,))
    told = found(square(10, 10, 50), nesting=replace(NESTING, sheets=(lying,)), assembly=assembly)
    assert told["variation_not_chosen"] == unchosen
    assert "Corner jig" in told["helpers_cut"].message
    back = replace(jig, reverse=True)
    for code, part in (("face_down", back), ("on_its_back", replace(back, marks=(Mark(line=((5, 5), (9, 5), (9, 9)), operation=Operation.ENGRAVE),)))):
        told = found(square(10, 10, 50), nesting=replace(NESTING, sheets=(lying,)), assembly=replace(assembly, parts=(part,)))
        assert "face that will be seen down" in told[code].message
    assert "helpers_cut" not in found(square(10, 10, 50), assembly=assembly)


def test_flaws_of_drawings_that_are_cut_are_told_again_before_they_go_out() -> None:
    lines = (DrawnLine(layer="a", points=((0, 0), (40, 0), (40, 30))), DrawnLine(layer="a", points=((0, 0), (20, 20), (20, 0), (0, 20)), closed=True))
    drawing = tidied(lines, 1.0)
    assert {n.code for n in drawing.notes} == {"open_lines", "crosses_itself"}
    art = Artwork(id="art", panel="front", drawing="7", layers=(("a", Burned.CUT),))
    design = replace(make_box(same_stock=True), features=(art,))
    without = Variation(name="Art", alternatives=(Alternative(name="none", features=("art",)),), chosen="none")
    flaws = flawed_artwork(NO_PARTS, design, drawings={"7": drawing})
    assert len(flaws) == 2
    assert flawed_artwork(NO_PARTS, replace(design, features=(replace(art, layers=(("a", Burned.SCORE),)),)), drawings={"7": drawing}) == ()
    assert flawed_artwork(NO_PARTS, replace(design, variations=(without,)), drawings={"7": drawing}) == ()
    run, stock = Run(name="s", stock="ply", width=500, height=300, paths=(square(10, 10, 50),), lay=Lay()), make_stock("ply", 3.0)
    told = preflight([run], NESTING, stocks={"ply": stock}, machine=MACHINE, settings={"ply": TRIED}, place=KerfPlace.PATHS, assembly=EMPTY, notes=flaws)
    assert sum(f.code == "artwork_flawed" and f.severity is Severity.LOOK for f in told) == 2


def test_parts_across_the_grain_more_of_them_than_needed_and_pictures_are_said() -> None:
    profile = rectangle(0, 0, x1=60, y1=40)
    lid = Part(id="lid", label="Lid", stock="ply", pose=Pose(origin=(0, 0, 0), x=(1, 0, 0), y=(0, 1, 0)), low=0, high=3, profile=profile, nominal=profile)
    places = tuple(Placement(part="lid", copy=k, turn=90 * k, x=9 + 70 * k, y=9) for k in range(3))
    lying = SheetLayout(
        sheet="s",
        copy=0,
        stock="ply",
        name="s",
        width=500,
        height=300,
        ring=((0, 0), (500, 0), (500, 300), (0, 300)),
        utilisation=0.1,
        placements=places,
        leftover=None,
    )
    tray = replace(lid, id="tray", label="Tray", spares=1)
    on_it = replace(lying, placements=(*places, Placement(part="tray", copy=0, turn=0, x=300, y=9), Placement(part="tray", copy=1, turn=0, x=370, y=9)))
    assembly, nesting = Assembly(parts=(lid, tray), meetings=(), findings=()), replace(NESTING, sheets=(on_it,))
    told = found(square(10, 10, 50), nesting=nesting, assembly=assembly, material="solid_wood")
    assert "across_grain" not in found(square(10, 10, 50), nesting=nesting, assembly=assembly)  # plies cross in plywood
    assert "1 part lies across the grain" in told["across_grain"].message
    assert "one of the thing needs (Lid 2 more)" in told["extra_copies"].message  # the second tray is a spare
    three = replace(assembly, parts=(replace(lid, copies=3),))
    straight = replace(nesting, sheets=(replace(lying, placements=tuple(replace(p, turn=180) for p in places)),))
    assert not {"across_grain", "extra_copies", "picture_not_in_dxf"} & set(found(square(10, 10, 50), nesting=straight, assembly=three, material="solid_wood"))
    picture = replace(square(10, 10, 20, operation=Operation.ENGRAVE), photo=Photo(image="7"))
    assert found(picture)["picture_not_in_dxf"].severity is Severity.LOOK
