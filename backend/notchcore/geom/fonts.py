"""Text as outlines, from the two open typefaces that are installed with the program.

The font files are constant data of two packages (see NOTICE); nothing else is read.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from functools import lru_cache
from typing import Any

from shapely.geometry import Polygon

from notchcore.geom.planar import pieces
from notchcore.geom.profile import Profile, profile_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

STEPS = 6  # chords that stand for one curve of a letter: below a hundredth of its size
MOST_LETTERS = 200


class _Rings:
    """A pen that keeps the points of each closed outline, curves as chords."""

    def __init__(self) -> None:
        self.rings: list[list[Vec2]] = []

    def moveTo(self, p: Vec2) -> None:
        self.rings.append([p])

    def lineTo(self, p: Vec2) -> None:
        self.rings[-1].append(p)

    def _curve(self, of: Callable[[float], Vec2]) -> None:
        self.rings[-1] += [of(k / STEPS) for k in range(1, STEPS + 1)]

    def qCurveTo(self, *points: Vec2) -> None:
        start = self.rings[-1][-1]
        for i, control in enumerate(points[:-1]):
            after = points[i + 1]
            end = after if i == len(points) - 2 else ((control[0] + after[0]) / 2, (control[1] + after[1]) / 2)
            self._curve(lambda t, a=start, b=control, c=end: _bezier((a, b, c), t))  # type: ignore[misc]
            start = end

    def curveTo(self, *points: Vec2) -> None:
        four = (self.rings[-1][-1], *points)
        self._curve(lambda t: _bezier(four, t))

    def closePath(self) -> None:
        pass

    def endPath(self) -> None:
        pass

    def addComponent(self, name: str, transformation: object) -> None:
        """Composite letters come decomposed: nothing is left to do."""


def _bezier(points: tuple[Vec2, ...], t: float) -> Vec2:
    """Return the point of a Bezier curve, by de Casteljau's steps."""
    row = list(points)
    while len(row) > 1:
        row = [(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t) for a, b in itertools.pairwise(row)]
    return row[0]


@lru_cache(maxsize=2)
def _font(serif: bool) -> Any:
    from fontTools.ttLib import TTFont

    if serif:
        from font_source_serif_pro import SourceSerifProSemibold as path
    else:
        from font_roboto import RobotoMedium as path
    return TTFont(path)


@lru_cache(maxsize=512)
def _letter(letter: str, serif: bool) -> tuple[tuple[Polygon, ...], float]:
    """Return the areas of a letter and its advance, in font units; an unknown letter is a gap."""
    from fontTools.pens.basePen import DecomposingPen

    font = _font(serif)
    glyphs, name = font.getGlyphSet(), font.getBestCmap().get(ord(letter))
    if name is None:
        return (), font["head"].unitsPerEm * 0.3

    class Pen(_Rings, DecomposingPen):  # type: ignore[misc]
        def __init__(self) -> None:
            _Rings.__init__(self)
            DecomposingPen.__init__(self, glyphs)

        addComponent = DecomposingPen.addComponent

    pen = Pen()
    glyphs[name].draw(pen)
    area: Any = Polygon()
    for ring in sorted((r for r in pen.rings if len(r) > 2), key=lambda r: -Polygon(r).area):
        area = area.symmetric_difference(Polygon(ring).buffer(0))
    return tuple(pieces(area)), glyphs[name].width


def text_outlines(words: str, cap: Mm, *, serif: bool) -> tuple[Profile, ...]:
    """Return the areas of a line of text, its middle at the origin.

    Args:
        cap: height of a capital [mm]
        serif: with serifs
    """
    from shapely.affinity import affine_transform

    capital = _letter("H", serif)[0][0].bounds
    scale = cap / (capital[3] - capital[1])
    shapes, at = [], 0.0
    for letter in words[:MOST_LETTERS]:
        areas, advance = _letter(letter, serif)
        shapes += [(a, at) for a in areas]
        at += advance
    return tuple(profile_of(affine_transform(a, [scale, 0, 0, scale, (x - at / 2) * scale, -cap / 2])) for a, x in shapes)
