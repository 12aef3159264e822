"""Text as outlines, from the two open typefaces that are installed with the program.

The font files are constant data of two packages (see NOTICE); nothing else is read.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

from shapely.geometry import Polygon

from notchcore.geom.curves import curve_points
from notchcore.geom.planar import pieces
from notchcore.geom.profile import Profile, profile_of
from notchcore.geom.vectors import Vec2
from notchcore.tolerance import ARC_SAG
from notchcore.units import Mm

MOST_LETTERS = 200
COARSEST = 6  # [2^n font units] between a curve and its chords


@lru_cache(maxsize=2)
def _font(serif: bool) -> Any:
    from fontTools.ttLib import TTFont

    if serif:
        from font_source_serif_pro import SourceSerifProSemibold as path
    else:
        from font_roboto import RobotoMedium as path
    return TTFont(path)


@lru_cache(maxsize=1024)
def _letter(letter: str, serif: bool, *, nearness: int = COARSEST) -> tuple[tuple[Polygon, ...], float]:
    """Return the areas of a letter and its advance, in font units, chords at most 2^nearness off its curves; an unknown letter is a gap."""
    from fontTools.pens.basePen import BasePen

    font = _font(serif)
    glyphs, name = font.getGlyphSet(), font.getBestCmap().get(ord(letter))
    if name is None:
        return (), font["head"].unitsPerEm * 0.3
    rings: list[list[Vec2]] = []

    class Pen(BasePen):  # type: ignore[misc]
        """Keeps the points of each closed outline; curves as chords."""

        def _moveTo(self, p: Vec2) -> None:
            rings.append([p])

        def _lineTo(self, p: Vec2) -> None:
            rings[-1].append(p)

        def _qCurveToOne(self, control: Vec2, end: Vec2) -> None:
            self._chords(control, end)

        def _curveToOne(self, first: Vec2, second: Vec2, end: Vec2) -> None:
            self._chords(first, second, end)

        def _chords(self, *points: Vec2) -> None:
            rings[-1] += curve_points((rings[-1][-1], *points), 2.0**nearness)

    glyphs[name].draw(Pen(glyphs))
    area: Any = Polygon()
    for ring in sorted((r for r in rings if len(r) > 2), key=lambda r: -Polygon(r).area):
        area = area.symmetric_difference(Polygon(ring).buffer(0))
    return tuple(pieces(area)), glyphs[name].width


def letters_lacking(words: str, *, serif: bool) -> str:
    """Return the letters of a text that the typeface has not, each once: they would be gaps."""
    known = _font(serif).getBestCmap()
    return "".join(dict.fromkeys(c for c in words if not c.isspace() and ord(c) not in known))


def text_outlines(words: str, cap: Mm, *, serif: bool, sag: Mm = ARC_SAG) -> tuple[Profile, ...]:
    """Return the areas of a line of text, its middle at the origin; see `lettered_outlines`."""
    return tuple(shape for _, shape in lettered_outlines(words, cap, serif=serif, sag=sag))


def lettered_outlines(words: str, cap: Mm, *, serif: bool, sag: Mm = ARC_SAG) -> tuple[tuple[str, Profile], ...]:
    """Return the areas of a line of text, its middle at the origin, each with the letter that it belongs to.

    Args:
        cap: height of a capital [mm]
        serif: with serifs
        sag: most that chords may lie off the letters' curves [mm]
    """
    from shapely.affinity import affine_transform

    capital = _letter("H", serif)[0][0].bounds
    scale = cap / (capital[3] - capital[1])
    nearness = math.floor(math.log2(min(max(sag / scale, 2.0**-9), 2.0**COARSEST)))
    shapes, at = [], 0.0
    for letter in words[:MOST_LETTERS]:
        areas, advance = _letter(letter, serif, nearness=nearness)
        shapes += [(letter, a, at) for a in areas]
        at += advance
    return tuple((letter, profile_of(affine_transform(a, [scale, 0, 0, scale, (x - at / 2) * scale, -cap / 2]))) for letter, a, x in shapes)
