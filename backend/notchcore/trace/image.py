"""Images in: the outline of what is dark (or of what is not clear), and grey as height.

Threshold   grey below it counts as inside; where an image has clear places, what is not clear counts
Deviation   how far the simplified outline lies from the traced one at most [pixels]
"""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from notchcore.errors import MeasureError, require
from notchcore.geom.planar import pieces
from notchcore.geom.profile import Ring, bounds_of, ring_of
from notchcore.units import Mm
from notchcore.words.render import say

MOST_PIXELS = 40_000_000  # of the file; a larger one is refused before it is unpacked
TRACED = 700  # pixels along the longer side that are traced
MOST_RUNS = 30_000  # dark runs of pixels; more is noise
MOST_CORNERS = 120  # of a sheet on a photo
GRID = 72  # points along the longer side of a height grid


@dataclass(frozen=True, slots=True, kw_only=True)
class Traced:
    """The outline of an image, y up, in pixels of the traced size."""

    outer: Ring
    deviation: float  #: largest distance between the simplified and the traced line [pixels]


def _opened(data: bytes) -> NDArray[np.float64]:
    """Return grey from 0 (dark) to 1 (light), clear places light, rows from the top.

    Raises:
        MeasureError: it is no image, or too large
    """
    from PIL import Image, UnidentifiedImageError

    try:
        with Image.open(io.BytesIO(data)) as image:
            if image.format not in ("PNG", "JPEG"):
                raise MeasureError(say("images_read"))
            if image.width * image.height > MOST_PIXELS:
                raise MeasureError(say("image_pixels", width=image.width, height=image.height, most=MOST_PIXELS // 1000000))
            image.draft("L", (TRACED * 2, TRACED * 2))
            image.thumbnail((TRACED, TRACED))
            pixels = np.asarray(image.convert("LA"), dtype=np.float64) / 255
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as problem:
        raise MeasureError(say("no_image", problem=str(problem)[:100])) from None
    return np.asarray(1 - (1 - pixels[..., 0]) * pixels[..., 1])


def outline_of(data: bytes, *, threshold: float = 0.5, smoothing: float = 1.5, simplify: float = 0.6, light: bool = False) -> Traced:
    """Return the outer line of the largest dark area, or of the largest light one.

    Args:
        threshold: grey below it is inside, 0..1; above it for a light area
        smoothing: radius by which corners of pixels are rounded [pixels]
        simplify: allowed deviation [pixels]
    Raises:
        MeasureError: nothing is darker than the threshold
    """
    grey = _opened(data)
    inside = grey > threshold if light else grey < threshold
    height = inside.shape[0]
    boxes = []
    for row in range(height):
        edges = np.flatnonzero(np.diff(np.concatenate(([0], inside[row].astype(np.int8), [0]))))
        starts, ends = edges[::2], edges[1::2]
        y = height - 1 - row
        if len(starts):
            boxes.append(shapely.box(starts, np.full(len(starts), y), ends, np.full(len(starts), y + 1)))
    if not boxes:
        raise MeasureError(say("image_all_light", tone=say("image_all_light.lighter" if light else "image_all_light.darker")))
    if sum(len(b) for b in boxes) > MOST_RUNS:
        raise MeasureError(say("image_noisy"))
    areas = pieces(shapely.union_all(np.concatenate(boxes)))
    exact = Polygon(max(areas, key=lambda p: Polygon(p.exterior).area).exterior)
    smooth = exact
    if smoothing > 0:
        round_ = exact.buffer(smoothing).buffer(-2 * smoothing).buffer(smoothing)
        smooth = Polygon(max(pieces(round_) or [exact], key=lambda p: p.area).exterior)
    simple = Polygon(smooth.simplify(simplify).exterior)
    if not simple.is_valid or simple.area <= 0:
        simple = smooth
    return Traced(outer=ring_of(simple.exterior), deviation=float(simple.exterior.hausdorff_distance(exact.exterior)))


def heights_of_image(data: bytes, *, dark_is_high: bool = False) -> tuple[tuple[float, ...], ...]:
    """Return a height grid of shares from 0 to 1, front row (the image's lowest) first; light is high unless told otherwise."""
    grey = _opened(data)
    rows, columns = grey.shape
    k = max(rows, columns) / GRID
    ny, nx = max(2, min(rows, round(rows / k))), max(2, min(columns, round(columns / k)))
    ys, xs = np.array_split(np.arange(rows), ny), np.array_split(np.arange(columns), nx)
    cells = np.array([[grey[np.ix_(y, x)].mean() for x in xs] for y in ys])[::-1]
    if dark_is_high:
        cells = 1 - cells
    low, high = cells.min(), cells.max()
    shares = (cells - low) / (high - low) if high > low else np.zeros_like(cells)
    return tuple(tuple(round(float(v), 4) for v in row) for row in shares)


def sheet_outline(data: bytes, width: Mm, *, threshold: float = 0.5, light: bool = True) -> Ring:
    """Return the outline of a sheet on a photo from straight above, on a ground that stands out, corner at (0, 0) [mm].

    Args:
        width: of the sheet from its left end to its right end on the photo
        light: the sheet is lighter than the ground
    Raises:
        MeasureError: the photo cannot be traced
    """
    require("width", width, least=5.0, most=10_000.0)
    for simplify in (1.0, 2.0, 4.0, 8.0):
        ring = outline_of(data, threshold=threshold, light=light, simplify=simplify).outer
        if len(ring) <= MOST_CORNERS:
            break
    x0, y0, x1, _ = bounds_of(ring)
    k = width / (x1 - x0)
    return tuple((round((x - x0) * k, 2), round((y - y0) * k, 2)) for x, y in ring[:: len(ring) // MOST_CORNERS + 1])
