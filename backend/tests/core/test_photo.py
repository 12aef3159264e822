"""Grey images as engraving: as dark as the image, where it lies, on every sheet and turn, and the same in moves and files."""

from __future__ import annotations

import base64
import io
import math
import re
from dataclasses import replace

import ezdxf
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.families.layered import ROLES, LayeredNumbers
from notchcore.design.features.drawing import Drawing, DrawnLine
from notchcore.design.features.values import GreyImage, Tones
from notchcore.errors import MeasureError, PlanError
from notchcore.formats.dxf import PHOTO_LAYER, sheet_dxf
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.svg import sheet_svg
from notchcore.measure.machine import Machine, default_settings
from notchcore.nest.values import Nesting, Placement, SheetLayout
from notchcore.plan.cut_plan import cut_plan
from notchcore.plan.moves import moves_of
from notchcore.trace.photo import Photo, dots_png, dotted, kept_image, rows_of
from tests.strategies import make_stock

WIDE, HIGH = 200, 100


def image(pixels: np.ndarray) -> str:
    out = io.BytesIO()
    Image.fromarray(pixels.astype(np.uint8)).save(out, "PNG")
    return kept_image(out.getvalue())[0]


RAMP = image(np.tile(np.linspace(0, 255, WIDE), (HIGH, 1)))  # dark at its left end
CORNER = image(np.where((np.arange(HIGH)[:, None] >= HIGH / 2) & (np.arange(WIDE) < WIDE / 2), 0, 255))  # black lower left quarter


def frame(width: float, height: float, x: float, y: float, turn: float) -> tuple[tuple[float, float], ...]:
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    half = ((-width / 2, -height / 2), (width / 2, -height / 2), (width / 2, height / 2), (-width / 2, height / 2))
    return tuple((x + px * c - py * s, y + px * s + py * c) for px, py in half)


def burned(rows: tuple[tuple[float, float], ...]) -> float:
    return sum(math.dist(a, b) for a, b in zip(rows[::2], rows[1::2], strict=True))


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 359), st.floats(10, 60), st.floats(-50, 50), st.sampled_from([0.08, 0.1, 0.25]))
def test_the_dots_hold_the_images_tones_and_lie_in_its_frame_at_any_turn(turn: int, width: float, x: float, interval: float) -> None:
    corners = frame(width, width / 2, x, 7.0, turn)
    dots = dotted(Photo(image="1"), RAMP, frame=corners, interval=interval)
    assert burned(rows_of(dots)) * interval == pytest.approx(width**2 / 4, rel=0.06)  # a ramp is half dark
    ys, xs = np.nonzero(dots.burned)
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    px, py = dots.at[0] + (xs + 0.5) * interval - x, dots.at[1] + (ys + 0.5) * interval - 7.0
    u, v = px * c + py * s, py * c - px * s
    assert np.abs(u).max() <= width / 2 + interval
    assert np.abs(v).max() <= width / 4 + interval
    assert u.mean() == pytest.approx(-width / 6, abs=width / 50 + interval)  # the middle of a triangle's weight
    assert v.mean() == pytest.approx(0, abs=width / 50 + interval)


def test_a_black_corner_comes_out_in_its_corner_by_hand_and_inverse_burns_the_rest() -> None:
    corners = frame(40, 20, 0, 0, 0)
    dots = dotted(Photo(image="1"), CORNER, frame=corners, interval=0.1)
    assert dots.burned.shape == (200, 400)
    assert dots.burned[:100, :200].all()
    assert dots.burned.sum() == 100 * 200
    other = dotted(Photo(image="1", inverse=True), CORNER, frame=corners, interval=0.1)
    assert (other.burned == ~dots.burned).all()
    rows = rows_of(dots)
    assert np.array(rows[:4]) == pytest.approx(np.array([(-20, -9.95), (0, -9.95), (0, -9.85), (-20, -9.85)]))  # the lowest row first, and back
    seen = np.asarray(Image.open(io.BytesIO(dots_png(dots))).convert("RGBA"))[..., 3] > 0
    assert (seen[::-1] == dots.burned).all()


def test_lighter_and_contrast_change_how_much_is_burned() -> None:
    corners = frame(40, 20, 0, 0, 0)
    plain, light, dark = (dotted(Photo(image="1", lighter=v), RAMP, frame=corners, interval=0.1).burned.mean() for v in (0.0, 0.2, -0.2))
    assert (plain, light, dark) == pytest.approx((0.5, 0.32, 0.68), abs=0.02)  # the ramp moved by a fifth, its ends cut off: 0.8^2 / 2
    hard = dotted(Photo(image="1", contrast=0.99), RAMP, frame=corners, interval=0.1).burned
    assert hard[:, :190].mean() > 0.98
    assert hard[:, 210:].mean() < 0.02


@pytest.mark.parametrize("data", [b"", b"no image", b"\x89PNG\r\n\x1a\n" + bytes(60)])
def test_what_is_no_image_is_refused_in_words(data: bytes) -> None:
    with pytest.raises(MeasureError, match="not an image"):
        kept_image(data)


def test_a_picture_of_too_many_dots_is_refused() -> None:
    with pytest.raises(MeasureError, match="rows wider apart"):
        dotted(Photo(image="1"), RAMP, frame=frame(3000, 1500, 0, 0, 0), interval=0.05)


@pytest.fixture
def planned():
    stocks = {r.id: make_stock(r.id, 3.0) for r in ROLES}
    line = DrawnLine(layer="picture", points=((0.0, 0.0), (WIDE, 0.0), (WIDE, HIGH), (0.0, HIGH)), closed=True)
    drawing = Drawing(lines=(line,), mm_per_unit=None, image=CORNER)
    plain = Design(numbers=LayeredNumbers(), stocks={k: k for k in stocks})
    host = build(plain, stocks).parts[0]
    picture = GreyImage(id="p", panel=host.id, drawing="7", width=40.0, tones=Tones.DARK)
    design = replace(plain, features=(picture,))
    assembly = build(design, stocks, drawings={"7": drawing})
    placement = Placement(part=host.id, copy=0, turn=90, x=300.0, y=150.0)
    sheet = SheetLayout(
        sheet="1",
        copy=0,
        name="sheet",
        stock=host.stock,
        width=600,
        height=400,
        ring=((0, 0), (600, 0), (600, 400), (0, 400)),
        placements=(placement,),
        utilisation=0.1,
        leftover=None,
    )
    machine = Machine(id="1", name="laser")
    nesting = Nesting(sheets=(sheet,), unplaced=(), utilisation=0.1, price=1.0)
    return cut_plan(
        assembly, nesting, stocks=stocks, machine=machine, settings={k: default_settings(s) for k, s in stocks.items()}, images={"7": CORNER}
    ), machine


def test_on_a_turned_part_the_picture_turns_with_it_in_moves_and_in_the_file(planned) -> None:
    plan, machine = planned
    stroke = next(s for s in plan.sheets[0].strokes if s.path.photo)
    xs, ys = zip(*stroke.path.frame, strict=True)
    assert (max(xs) - min(xs), max(ys) - min(ys)) == pytest.approx((20, 40))  # turned by a quarter
    move = next(m for m in moves_of(plan.sheets[0], {"7": CORNER}) if m.path == stroke.path.id)
    # The black quarter was lower left; turned to the left by a quarter it is lower right.
    middle = ((max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2)
    assert all(x >= middle[0] - 1e-6 and y <= middle[1] + 1e-6 for x, y in move.points)
    assert burned(move.points) * stroke.interval == pytest.approx(200, rel=0.03)
    file = SheetFile(project="Stall name board", revision=1, of=1, plan=plan.sheets[0], machine=machine, images={"7": CORNER})
    found = re.search(r'<image [^>]*x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)"[^>]*base64,([^"]+)"', sheet_svg(file))
    assert found
    x, y, w, h = (float(v) for v in found.groups()[:4])
    assert (x, 400 - y - h, w, h) == pytest.approx((min(xs), min(ys), 20, 40), abs=stroke.interval)
    dots = np.asarray(Image.open(io.BytesIO(base64.b64decode(found[5]))).convert("RGBA"))[..., 3] > 0
    rows, columns = dots.shape
    assert dots[rows // 2 + 1 :, columns // 2 + 1 :].all()  # image rows count downwards
    assert dots.mean() == pytest.approx(0.25, abs=0.01)
    drawing = ezdxf.read(io.StringIO(sheet_dxf(file)))
    assert [e.dxf.layer for e in drawing.modelspace()].count(PHOTO_LAYER) == 1
    with pytest.raises(PlanError, match="missing"):
        moves_of(plan.sheets[0], {})
