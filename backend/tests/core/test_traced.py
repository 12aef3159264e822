"""Images, solids and formulas in: outlines within the stated deviation, heights where they are, and what is none is refused in words."""

from __future__ import annotations

import io
import math
import struct

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw
from shapely.geometry import Polygon

from notchcore.design.heights import formula, grid
from notchcore.errors import MeasureError, NotchCoreError
from notchcore.geom.profile import bounds_of
from notchcore.trace.image import heights_of_image, outline_of, sheet_outline
from notchcore.trace.solid import heights_of_solid


def png(draw, size: tuple[int, int] = (200, 160)) -> bytes:
    image = Image.new("L", size, 255)
    draw(ImageDraw.Draw(image))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


class TestImages:
    def test_a_dark_disc_is_traced_within_the_stated_deviation(self) -> None:
        traced = outline_of(png(lambda d: d.ellipse((40, 30, 140, 130), fill=0)))
        assert Polygon(traced.outer).area == pytest.approx(math.pi * 50.5**2, rel=0.02)
        assert traced.deviation < 3.0
        assert len(traced.outer) < 80

    def test_only_the_outer_line_of_the_largest_area_counts(self) -> None:
        def ring(d: ImageDraw.ImageDraw) -> None:
            d.rectangle((20, 20, 120, 120), fill=0)
            d.rectangle((50, 50, 90, 90), fill=255)
            d.rectangle((150, 20, 170, 40), fill=0)

        assert Polygon(outline_of(png(ring)).outer).area == pytest.approx(101**2, rel=0.02)

    @pytest.mark.parametrize("data", [b"", b"\x89PNG\r\n\x1a\nbroken", b"\xff\xd8\xff" + b"0" * 100, png(lambda d: None)])
    def test_what_shows_nothing_is_refused_in_words(self, data: bytes) -> None:
        with pytest.raises(MeasureError):
            outline_of(data)

    def test_an_offcut_on_a_photo_gets_its_size_from_its_width(self) -> None:
        def board(d: ImageDraw.ImageDraw) -> None:  # light, L-shaped: 120 x 90 pixels of 200 on a dark ground
            d.rectangle((0, 0, 200, 200), fill=20)
            d.polygon([(40, 150), (160, 150), (160, 110), (90, 110), (90, 60), (40, 60)], fill=235)

        ring = sheet_outline(png(board), 300.0)
        expected = Polygon([(0, 0), (300, 0), (300, 100), (125, 100), (125, 225), (0, 225)])
        assert Polygon(ring).symmetric_difference(expected).area < 0.03 * expected.area
        assert bounds_of(ring)[2] == pytest.approx(300.0, abs=0.01)
        with pytest.raises(NotchCoreError, match="width"):
            sheet_outline(png(board), 0.0)

    def test_light_is_high_and_the_lowest_row_is_the_front(self) -> None:
        rows = heights_of_image(png(lambda d: d.rectangle((0, 80, 200, 160), fill=0)))
        assert rows[0][0] == 0.0
        assert rows[-1][0] == 1.0
        assert heights_of_image(png(lambda d: d.rectangle((0, 80, 200, 160), fill=0)), dark_is_high=True)[0][0] == 1.0


def pyramid(binary: bool) -> bytes:
    corners, top = [(0, 0, 0), (40, 0, 0), (40, 30, 0), (0, 30, 0)], (20, 15, 12)
    faces = [(corners[i], corners[(i + 1) % 4], top) for i in range(4)]
    if binary:
        return b"solid but binary".ljust(80) + struct.pack("<I", 4) + b"".join(struct.pack("<12fH", 0, 0, 0, *a, *b, *c, 0) for a, b, c in faces)
    body = "".join("facet normal 0 0 0\nouter loop\n" + "".join(f"vertex {x} {y} {z}\n" for x, y, z in f) + "endloop\nendfacet\n" for f in faces)
    return f"solid p\n{body}endsolid".encode()


class TestSolids:
    @pytest.mark.parametrize("binary", [True, False])
    def test_a_pyramid_is_highest_in_its_middle(self, binary: bool) -> None:
        rows, size = heights_of_solid(pyramid(binary))
        assert size == pytest.approx((40, 30, 12))
        height = grid(rows)
        assert height(0.5, 0.5) == pytest.approx(1.0, abs=0.03)
        assert height(0.25, 0.5) == pytest.approx(0.5, abs=0.03)
        assert height(0.0, 0.0) == pytest.approx(0.0, abs=0.03)

    @pytest.mark.parametrize("data", [b"", b"solid\nvertex a b c\nvertex 1 2 3\nvertex 1 2 3", b"x" * 200, b"solid nothing", pyramid(True)[:-7]])
    def test_what_is_no_solid_is_refused_in_words(self, data: bytes) -> None:
        with pytest.raises(MeasureError):
            heights_of_solid(data)


@settings(max_examples=40, deadline=None)
@given(st.floats(0, 1), st.floats(0, 1))
def test_a_formula_gives_what_it_says_held_between_0_and_1(x: float, y: float) -> None:
    assert formula("0.5 + 0.4*sin(3*x)*cos(2*y)")(x, y) == pytest.approx(0.5 + 0.4 * math.sin(3 * x) * math.cos(2 * y))
    assert formula("x - 5")(x, y) == 0.0
    assert formula("max(x, y) ** 2 + 9")(x, y) == 1.0
    assert 0 <= formula("1/(x-x)")(x, y) <= 1


@pytest.mark.parametrize(
    "text", ["", "z", "x.__class__", "__import__('os')", "x if y else 1", "[x]", "'a'", "min(x)", "sin(x, y)", "x" * 500, "(" * 300, "lambda: 1"]
)
def test_what_is_no_formula_is_refused_in_words(text: str) -> None:
    with pytest.raises(NotchCoreError):
        formula(text)


def test_a_large_power_does_not_hang() -> None:
    assert formula("9**9**9**9")(0.5, 0.5) == 0.0
    assert np.isfinite(formula("exp(exp(exp(x*9)))")(1, 1))
