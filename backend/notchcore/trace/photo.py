"""Grey images as engraving: the image is sampled at the distance of the rows and every dot is burned or not.

Dot     a square as wide as the distance between rows; dark places have many, light ones few (error diffusion)
Frame   where the image lies: its lower left, lower right, upper right and upper left corner [mm]
Row     dots that touch, burned as one stretch; rows run along the longer side, as for other engravings
"""

from __future__ import annotations

import base64
import binascii
import io
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from notchcore.errors import MeasureError
from notchcore.geom.clipping import keeps_inside
from notchcore.geom.profile import Ring
from notchcore.geom.vectors import Vec2
from notchcore.trace.image import MOST_PIXELS
from notchcore.units import Mm
from notchcore.words.facts import Figure
from notchcore.words.render import say

KEPT = 1600  # pixels along the longer side that are kept of an image
MOST_DOTS = 12_000_000  # of one picture: more than a square of 340 mm at 0.1 mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """A grey image and how its tones are changed before it is burned."""

    image: str  #: which drawing holds it
    lighter: float = 0.0  #: from -1 (all dark) to 1 (all light)
    contrast: float = 0.0  #: from -1 (one grey) to 1 (black and white)
    inverse: bool = False  #: light places are burned, for stock that turns light


@dataclass(frozen=True, slots=True)
class Dots:
    """The dots of a picture: `burned[row, column]`, row 0 the lowest, in a box whose lower left corner is `at` [mm]."""

    at: Vec2
    pitch: Mm
    burned: NDArray[np.bool_]


def kept_image(data: bytes) -> tuple[str, Vec2]:
    """Return an image as it is kept (grey, small enough, clear places white; base64 of a PNG) and its size [pixels].

    Raises:
        MeasureError: it is no image, or too large
    """
    try:
        with Image.open(io.BytesIO(data)) as image:
            if image.format not in ("PNG", "JPEG"):
                raise MeasureError(say("images_read"))
            if image.width * image.height > MOST_PIXELS:
                raise MeasureError(say("image_pixels", width=image.width, height=image.height, most=MOST_PIXELS // 1000000))
            image.draft("L", (KEPT, KEPT))
            image.thumbnail((KEPT, KEPT))
            pixels = np.asarray(image.convert("LA"), dtype=np.float64)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as problem:
        raise MeasureError(say("no_image", problem=str(problem)[:100])) from None
    share = pixels[..., 1] / 255
    grey = Image.fromarray(np.rint(255 - (255 - pixels[..., 0]) * share).astype(np.uint8))
    out = io.BytesIO()
    grey.save(out, "PNG", optimize=True)
    return base64.b64encode(out.getvalue()).decode(), (float(grey.width), float(grey.height))


@lru_cache(maxsize=16)
def _grey(image: str) -> Image.Image:
    try:
        found = Image.open(io.BytesIO(base64.b64decode(image, validate=True)))
        found.load()
    except (binascii.Error, UnidentifiedImageError, OSError, ValueError, SyntaxError) as problem:
        raise MeasureError(say("picture_unreadable")) from problem
    return found.convert("L")


def _toned(photo: Photo) -> list[int]:
    """Return the table from the image's greys to those that are burned."""
    slope = math.tan((min(max(photo.contrast, -0.99), 0.99) + 1) * math.pi / 4)
    levels = (np.arange(256) / 255 - 0.5) * slope + 0.5 + photo.lighter
    if photo.inverse:
        levels = 1 - levels
    return [int(v) for v in np.rint(np.clip(levels, 0, 1) * 255)]


def dotted(photo: Photo, image: str, *, frame: Ring, interval: Mm, clip: Sequence[Ring] = ()) -> Dots:
    """Return the dots of a picture where it lies, however it is turned there.

    Args:
        image: as `kept_image` gives it
        frame: its corners on the sheet [mm]
        interval: distance between rows [mm]; the dots are as wide
        clip: what of it is burned, where that is not all; a ring within another is a hole

    Raises:
        MeasureError: there would be too many dots
    """
    xs, ys = [p[0] for p in frame], [p[1] for p in frame]
    x0, y0 = min(xs), min(ys)
    wide, high = max(xs) - x0, max(ys) - y0
    columns, rows = max(1, math.ceil(wide / interval - 1e-6)), max(1, math.ceil(high / interval - 1e-6))
    if columns * rows > MOST_DOTS:
        raise MeasureError(say("picture_dots", dots=Figure(columns * rows / 1000000.0, 0)))
    grey = _grey(image).point(_toned(photo))
    (ox, oy), along, up = frame[0], _sub(frame[1], frame[0]), _sub(frame[3], frame[0])
    w2, h2 = along[0] ** 2 + along[1] ** 2, up[0] ** 2 + up[1] ** 2
    # From a dot (column, row from the top) to the image's own pixel, whose rows count from its top.
    kx, ky = grey.width / w2, grey.height / h2
    dx, dy = x0 - ox, y0 + rows * interval - oy
    scale = (
        along[0] * interval * kx,
        -along[1] * interval * kx,
        (along[0] * dx + along[1] * dy) * kx,
        -up[0] * interval * ky,
        up[1] * interval * ky,
        grey.height - (up[0] * dx + up[1] * dy) * ky,
    )
    finer = max(1.0, min(grey.width * interval / math.sqrt(w2), grey.height * interval / math.sqrt(h2)))
    if finer > 1.0:  # average what falls into one dot, so that fine lines are not lost
        smaller = (max(1, round(grey.width / finer)), max(1, round(grey.height / finer)))
        fx, fy = smaller[0] / grey.width, smaller[1] / grey.height
        grey = grey.resize(smaller, Image.Resampling.BOX)
        scale = (scale[0] * fx, scale[1] * fx, scale[2] * fx, scale[3] * fy, scale[4] * fy, scale[5] * fy)
    seen = grey.transform((columns, rows), Image.Transform.AFFINE, scale, Image.Resampling.NEAREST, fillcolor=255)
    burned = ~np.asarray(seen.convert("1"), dtype=np.bool_)
    dots = Dots(at=(x0, y0), pitch=interval, burned=burned[::-1])
    return _only_within(dots, clip) if clip else dots


def _only_within(dots: Dots, clip: Sequence[Ring]) -> Dots:
    rows, columns = dots.burned.shape
    ys, xs = np.mgrid[0:rows, 0:columns]
    places = np.column_stack([dots.at[0] + (xs.ravel() + 0.5) * dots.pitch, dots.at[1] + (ys.ravel() + 0.5) * dots.pitch])
    return replace(dots, burned=dots.burned & keeps_inside(places, clip).reshape(rows, columns))


def _sub(a: Vec2, b: Vec2) -> Vec2:
    return a[0] - b[0], a[1] - b[1]


def rows_of(dots: Dots) -> tuple[Vec2, ...]:
    """Return the burning stretches as one path to and fro, two points each [mm]; rows run along the longer side."""
    high, wide = dots.burned.shape
    tall = high > wide
    field = dots.burned.T if tall else dots.burned
    (x0, y0), pitch = dots.at, dots.pitch
    path: list[Vec2] = []
    backwards = False
    for k, row in enumerate(field):
        edges = np.flatnonzero(np.diff(np.concatenate(([False], row, [False])).astype(np.int8)))
        if not len(edges):
            continue
        across = (k + 0.5) * pitch
        ends = [(float(e) * pitch, across) for e in edges]
        path += ends[::-1] if backwards else ends
        backwards = not backwards
    return tuple((x0 + a, y0 + s) for s, a in path) if tall else tuple((x0 + s, y0 + a) for s, a in path)


def dots_png(dots: Dots, colour: str = "#2b1a08") -> bytes:
    """Return the dots as a PNG, clear where nothing is burned, its first row the highest."""
    r, g, b = (int(colour[i : i + 2], 16) for i in (1, 3, 5))
    seen = Image.fromarray(np.where(dots.burned[::-1], 1, 0).astype(np.uint8), "P")
    seen.putpalette([r, g, b, r, g, b])  # one colour: a viewer that blends dots must not mix in white
    out = io.BytesIO()
    seen.save(out, "PNG", transparency=0, bits=1)
    return out.getvalue()
