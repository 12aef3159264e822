"""What stands out: raised letters and drawings, mirrored ones, and stamps."""

from __future__ import annotations

from dataclasses import replace

import pytest
from shapely import STRtree
from shapely.geometry import LineString
from shapely.geometry import Polygon as Shape
from shapely.ops import unary_union

from notchcore.design.assembly import Assembly, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.stamp import CLEAR, Letters, Named, StampNumbers
from notchcore.design.features.values import Burned, Drawn, Face, OnSide, Stands, Text
from notchcore.geom.areas import ground_round
from notchcore.geom.fonts import text_outlines
from notchcore.geom.planar import moved
from notchcore.geom.profile import area_of, bridged, polygon_of, profile_of
from notchcore.geom.vectors import dot
from notchcore.measure.machine import Operation
from tests.strategies import make_stock

MIRROR = (-1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
ROLES = [r.id for r in FAMILIES["stamp"].roles]


def burned(part: Part) -> Shape:
    """Return what is engraved on a part, in its plane."""
    return unary_union([Shape(m.line).buffer(0) for m in part.marks if m.operation is Operation.ENGRAVE])


def letters(words: str, cap: float, *, serif: bool = False) -> Shape:
    return unary_union([polygon_of(s) for s in text_outlines(words, cap, serif=serif)])


def lettered(**more: object) -> Part:
    text = Text(id="t", panel="sheet", words="BOD", cap=20.0, **more)  # type: ignore[arg-type]
    made = build(Design(numbers=PlateNumbers(width=120, height=60), stocks={"plate": "p"}, features=(text,)), {"p": make_stock("p", 3.0)})
    assert made.findings == ()
    return made.part("sheet")


@pytest.mark.parametrize("drawn", list(Drawn))
@pytest.mark.parametrize("side", list(OnSide))
def test_raised_letters_are_what_a_frame_round_them_keeps(drawn: Drawn, side: OnSide) -> None:
    plain = letters("BOD", 20.0)
    # Seen from the front, what is on the back is mirrored once more.
    here = plain if (drawn is Drawn.MIRRORED) == (side is OnSide.BACK) else moved(plain, MIRROR)
    x0, y0, x1, y1 = here.bounds
    frame = Shape([(x0 - 4, y0 - 4), (x1 + 4, y0 - 4), (x1 + 4, y1 + 4), (x0 - 4, y1 + 4)])
    at = (1.0, 0.0, 0.0, 1.0, 60.0, 30.0)
    raised = burned(lettered(stands=Stands.RAISED, margin=4.0, drawn=drawn, side=side))
    assert raised.symmetric_difference(moved(frame.difference(here), at)).area < 0.02
    assert burned(lettered(drawn=drawn, side=side)).symmetric_difference(moved(here, at)).area < 0.02


def test_single_lines_are_mirrored_too_and_never_raised() -> None:
    plain, other = (lettered(face=Face.STROKE, stands=Stands.RAISED, drawn=d) for d in (Drawn.PLAIN, Drawn.MIRRORED))
    assert {m.operation for m in plain.marks} == {Operation.SCORE}
    for m, o in zip(plain.marks, other.marks, strict=True):
        assert [(120 - x, y) for x, y in m.line] == [pytest.approx(p) for p in o.line]
    assert {m.operation for m in lettered(burned=Burned.SCORE, stands=Stands.RAISED).marks} == {Operation.SCORE}


def stamp(numbers: StampNumbers, *, face: str = "rubber") -> Assembly:
    stocks = {r: make_stock(r, 2.4 + 0.3 * i, material=face if r == "face" else "plywood") for i, r in enumerate(ROLES)}
    return build(Design(numbers=numbers, stocks={r: r for r in ROLES}), stocks)


@pytest.mark.parametrize("frame", [0.0, 1.5])
@pytest.mark.parametrize("face", list(Letters))
@pytest.mark.parametrize("grip", [0, 3])
def test_a_stamp_prints_its_words_and_says_them_where_it_is_held(frame: float, face: Letters, grip: int) -> None:
    numbers = StampNumbers(words="BOD", cap=12.0, letters=face, margin=3.0, frame=frame, grip=grip, corner=0.0)
    made = stamp(numbers)
    assert made.findings == ()
    words = letters("BOD", 12.0, serif=face is Letters.SERIF)
    around = 3.0 + (frame + CLEAR if frame else 0.0)
    x0, y0, x1, y1 = words.bounds
    rubber, plate = made.part("rubber"), made.part("backing")
    whole = polygon_of(rubber.profile)
    assert whole.bounds == pytest.approx((0, 0, x1 - x0 + 2 * around, y1 - y0 + 2 * around))
    # What stays is the words as a mirror shows them, and the frame.
    printed = moved(words, (-1.0, 0.0, 0.0, 1.0, around + x1, around - y0))
    border = whole.difference(whole.buffer(-frame, join_style="mitre")) if frame else Shape()
    assert whole.difference(burned(rubber)).symmetric_difference(printed.union(border)).area < 0.05
    assert dot(rubber.pose.normal, (0, 0, 1)) == 1
    held = made.part(f"grip-{grip}") if grip else plate
    assert dot(held.pose.normal, (0, 0, -1)) == 1
    assert burned(held).symmetric_difference(moved(words, (1.0, 0.0, 0.0, 1.0, around - x0, around - y0))).area < 0.05
    assert [m.style for m in made.meetings] == ["glue"] * (1 + grip)
    assert burned(stamp(replace(numbers, named=Named.NOTHING)).part(held.id)).is_empty


def test_a_stamp_without_words_or_without_rubber_is_told() -> None:
    assert [(f.code, f.field) for f in stamp(StampNumbers(words="  ")).findings] == [("stamp_says_nothing", "words")]
    assert [f.code for f in stamp(StampNumbers(), face="plywood").findings] == ["stamp_not_soft"]


@pytest.mark.parametrize("words", ["BEANS", "WIM & 88 %", "Hilltop III", "Mossgate Seed Fair 2026"])
def test_the_line_round_many_letters_never_crosses_itself(words: str) -> None:
    (ground,) = [g for g in ground_round([polygon_of(s) for s in text_outlines(words, 10.0, serif=False)], 4.0) if len(g.interiors) > 1]
    ring = bridged(profile_of(ground))
    lines = [LineString(pair) for pair in zip(ring, (*ring[1:], ring[0]), strict=True)]
    assert STRtree(lines).query(lines, predicate="crosses").size == 0
    assert abs(area_of(ring)) == pytest.approx(ground.area, rel=1e-9)
