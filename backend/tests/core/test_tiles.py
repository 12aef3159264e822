"""Tiles: whichever way they are turned their sockets agree, walls never run into each other, and the feel of the walls is the middle's alone."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from notchcore.check.dry_fit import dry_fit
from notchcore.check.steps import HintKind, guide
from notchcore.design.assembly import Assembly, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.tiles import CORNER, ROOM, Sockets, TilesNumbers, Walls
from notchcore.errors import DesignError
from notchcore.findings import Severity
from notchcore.geom.planar import Polygon, box, merged, moved
from notchcore.geom.profile import polygon_of
from notchcore.measure.fit import Feel
from notchcore.run.recut import piece_of, recut
from notchcore.words.render import plain
from tests.strategies import make_stock

ROLES = [r.id for r in FAMILIES["tiles"].roles]


def made(numbers: TilesNumbers, *, t: dict[str, float] | None = None, feel: Feel = Feel.SLIDES) -> Assembly:
    stocks = {r: make_stock(r, (t or {}).get(r, 3.0)) for r in ROLES}
    return build(Design(numbers=numbers, stocks={r: r for r in ROLES}, feel=feel), stocks)


def layers(assembly: Assembly, begins: str = "middle") -> list[Part]:
    return [p for p in assembly.parts if p.id.startswith(begins)]


def differ(one: Polygon, other: Polygon) -> float:
    return float(one.symmetric_difference(other).area)


sets = st.builds(
    TilesNumbers,
    pitch=st.floats(70.0, 200.0),
    gap=st.floats(0.0, 1.0),
    rim=st.floats(12.0, 18.0),
    corner=st.floats(0.0, 4.0),
    middles=st.integers(1, 3),
    pegs=st.integers(1, 3),
    peg=st.floats(4.0, 12.0),
    sockets=st.sampled_from(Sockets),
    units=st.integers(2, 5),
)


@given(numbers=sets, wall=st.floats(2.0, 4.0), middle=st.floats(2.0, 5.0), feel=st.sampled_from((Feel.SLIDES, Feel.SNUG, Feel.MALLET)))
@settings(max_examples=40)
def test_a_tile_is_the_same_turned_and_over(numbers: TilesNumbers, wall: float, middle: float, feel: Feel) -> None:
    tile = made(numbers, t={"walls": wall, "middle": middle}, feel=feel)
    assume(tile.parts)
    s = numbers.side
    for part in (*layers(tile), *layers(tile, "frame"), *layers(tile, "face")):
        shape = polygon_of(part.profile)
        quarter = moved(shape, (0.0, -1.0, 1.0, 0.0, s, 0.0))
        over = moved(shape, (-1.0, 0.0, 0.0, 1.0, s, 0.0))
        assert max(differ(shape, quarter), differ(shape, over)) < 0.05, "its sockets would not agree with its neighbour's"


@given(numbers=sets, wall=st.floats(2.0, 4.0), feel=st.sampled_from((Feel.SLIDES, Feel.SNUG, Feel.MALLET)))
@settings(max_examples=40)
def test_pegs_have_room_in_all_but_the_middle(numbers: TilesNumbers, wall: float, feel: Feel) -> None:
    tile = made(numbers, t={"walls": wall}, feel=feel)
    assume(tile.parts)
    pegs = merged([box(x0, y0, x1, y1) for p in layers(tile, "wall") for x0, y0, x1, y1 in feet(p, wall)])
    frame = polygon_of(tile.part("frame").profile)
    assert frame.distance(pegs) > ROOM - 0.3  # the sheet may be thicker than its label
    assert len(layers(tile)[0].profile.holes) == 8 * numbers.pegs // 2
    if numbers.sockets is Sockets.ABOVE:
        assert not tile.part("face").profile.holes
    else:
        assert polygon_of(tile.part("face").profile).distance(pegs) > ROOM - 0.3
    assert {m.feel for m in tile.meetings if "wall" in m.id} == {feel}


def feet(wall: Part, t: float) -> list[tuple[float, float, float, float]]:
    """Where the pegs of a wall stand, in plan, read from its own outline."""
    low = min(y for _, y in wall.profile.outer)
    xs = sorted(x for x, y in wall.profile.outer if y < low + 1e-6)
    ends = list(zip(xs[::2], xs[1::2], strict=True))
    x, y, _ = wall.pose.origin
    return [(a, y - t / 2, b, y + t / 2) if wall.pose.x[0] else (x - t / 2, a, x + t / 2, b) for a, b in ends]


def standing(tile: Assembly, name: str, t: float) -> tuple[Polygon, float]:
    """A wall's plan, and how long it is."""
    part = tile.part(name)
    xs = [x for x, _ in part.profile.outer]
    x, y, _ = part.pose.origin
    a, b = min(xs), max(xs)
    return (box(a, y - t / 2, b, y + t / 2) if part.pose.x[0] else box(x - t / 2, a, x + t / 2, b)), b - a


@pytest.mark.parametrize("t", [2.8, 3.0, 3.3])
def test_no_arrangement_of_walls_on_three_by_three_tiles_collides(t: float) -> None:
    numbers = TilesNumbers(gap=0.0)  # as near as tiles may be
    tile = made(numbers, t={"walls": t})
    (front, long), (_, short) = standing(tile, "wall-front", t), standing(tile, "wall-left", t)
    assert (long, short) == (pytest.approx(numbers.side), pytest.approx(numbers.side - 2 * (numbers.rim / 2 + t / 2 + CORNER)))
    s = numbers.pitch
    x0, y0, x1, y1 = front.bounds
    middle = (x0 + x1) / 2
    plans = {"full": box(x0, y0, x1, y1), "short": box(middle - short / 2, y0, middle + short / 2, y1)}
    turns = ((1, 0, 0, 1, 0, 0), (0, -1, 1, 0, s, 0), (-1, 0, 0, -1, s, s), (0, 1, -1, 0, 0, s))
    walls = [
        (i, j, edge, kind, moved(moved(plan, tuple(map(float, turns[edge]))), (1.0, 0.0, 0.0, 1.0, i * s, j * s)))
        for i, j, edge in itertools.product(range(3), range(3), range(4))
        for kind, plan in plans.items()
    ]
    for one, other in itertools.combinations(walls, 2):  # two walls collide or not, whatever else stands there: this is every arrangement
        same = one[:2] == other[:2]
        if same and one[2] == other[2]:
            continue  # one place holds one wall
        corner = same and (one[2] - other[2]) % 2 == 1 and one[3] == other[3] == "full"
        assert (one[4].intersection(other[4]).area > 1e-6) is corner, (one[:4], other[:4])


def test_another_feel_is_the_middles_alone() -> None:
    one, other = made(TilesNumbers(middles=2), feel=Feel.SLIDES), made(TilesNumbers(middles=2), feel=Feel.MALLET)
    changed = {p.id for p in one.parts if differ(polygon_of(p.profile), polygon_of(other.part(p.id).profile)) > 1e-9}
    assert changed == {"middle-1", "middle-2"}


def test_after_another_feel_only_the_middles_are_cut_again() -> None:
    one, other = made(TilesNumbers(tiles=4), feel=Feel.SLIDES), made(TilesNumbers(tiles=4), feel=Feel.MALLET)
    cut = [piece_of(p, 0.15) for p in one.parts for _ in range(p.copies)]
    found = recut([(piece_of(p, 0.15), p.copies) for p in other.parts], cut)
    assert {r.part: r.missing for r in found.rows if r.missing} == {"middle-1": 4}


def test_counts_and_what_is_said_by_hand() -> None:
    numbers = TilesNumbers(tiles=5, full=7, short=4, pitch=100.0, gap=0.4, rim=14.0, units=3, play=0.6, pieces=((1, 1, 0, 20), (3, 2, 1, 4), (3, 3, 1, 2)))
    tile = made(numbers)
    assert {p.id: p.copies for p in tile.parts} == {
        "face": 5, "middle-1": 5, "frame": 5, "wall-front": 4, "wall-back": 3, "wall-left": 2, "wall-right": 2,
        "piece-1-1-1": 20, "piece-3-2-2": 4, "piece-3-3-2": 2,
    }  # fmt: skip
    # 99.6 - 28 leave 71.6: three squares of 23.87, a piece of three by two 71 by 47.13
    x0, y0, x1, y1 = polygon_of(tile.part("piece-3-2-2").profile).bounds
    assert (x1 - x0, y1 - y0) == (pytest.approx(71.0), pytest.approx(2 * 71.6 / 3 - 0.6))
    fit = dry_fit(tile, stocks := {r: make_stock(r, 3.0) for r in ROLES})
    assert not [f for f in fit.findings if f.severity is not Severity.FINE]
    steps = guide(tile, fit.order, stocks=stocks)
    glued = [h for s in steps for h in s.hints if h.kind is HintKind.GLUE and "Keep it out" in plain(h.says)]
    assert glued
    assert "Corner wall, left and Wall behind and those like them" in plain(glued[0].says)


@pytest.mark.parametrize(
    ("numbers", "field", "code"),
    [
        (TilesNumbers(rim=6.0), "rim", "rim_too_narrow"),
        (TilesNumbers(pitch=40.0), "pitch", "field_vanishes"),
        (TilesNumbers(pegs=8), "pegs", "pegs_too_near"),
        (TilesNumbers(pegs=1, peg=90.0), "peg", "pegs_too_near"),
        (TilesNumbers(units=2, pieces=((3, 1, 0, 1),)), "pieces", "piece_beyond_field"),
    ],
)
def test_what_leaves_no_room_is_told_at_its_number(numbers: TilesNumbers, field: str, code: str) -> None:
    tile = made(numbers)
    assert not tile.parts
    assert [(f.code, f.field) for f in tile.findings] == [(code, field)]
    least = tile.findings[0].facts.get("least_mm")
    if least is not None:  # what it says to do helps
        assert code not in {f.code for f in made(replace(numbers, **{field: least})).findings}
    with pytest.raises(DesignError):
        TilesNumbers(pieces=((1, 1, 0, 2), (1, 1, 0, 3)))


def test_without_walls_a_tile_has_no_sockets() -> None:
    tile = made(TilesNumbers(walls=Walls.NONE, rim=6.0))
    assert tile.parts
    assert not layers(tile, "wall")
    assert not tile.part("middle-1").profile.holes
    assert len(tile.part("frame").profile.holes) == 1


def test_what_a_map_takes_is_counted_by_hand() -> None:
    # three tiles in an angle; a corner of two walls on the first, one to the right alone on the second; one piece across a rim
    numbers = TilesNumbers(
        units=3,
        tiles_at=((0, 0), (1, 0), (0, 1)),
        walls_at=((0, 0, 0), (0, 0, 3), (1, 0, 1), (0, 1, 2)),
        pieces=((1, 1, 0, 20), (2, 2, 1, 1)),
        pieces_at=((0, 0, 1, 1, 0), (5, 2, 1, 1, 0), (0, 3, 2, 2, 1), (2, 0, 2, 2, 1), (4, 4, 1, 1, 0)),
    )
    tile = made(numbers)
    assert [(n.label, n.wished, n.there) for n in tile.needs] == [
        ("Tiles", 3, 9), ("Walls, full length", 3, 8), ("Walls, corner length", 1, 8), ("Piece 1 x 1, kind 1", 2, 20), ("Piece 2 x 2, kind 2", 1, 1)
    ]  # fmt: skip
    assert all(p in {x.id for x in tile.parts} for n in tile.needs for p in n.parts)
    assert [(f.code, f.field, plain(f.says).split(":")[0]) for f in tile.findings] == [
        ("map_piece_beyond", "pieces_at", "On the map, 2 pieces lie on no tile, or across a rim")
    ]
    for wrong in ({"tiles_at": ((0, 0), (0, 0))}, {"tiles_at": ((99, 0),)}, {"walls_at": ((4, 4, 0),)}, {"walls_at": ((0, 0, 4),)}):
        with pytest.raises(DesignError):
            replace(numbers, **wrong)
