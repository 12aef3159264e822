"""Solids in: STL files, text or binary, as a height grid seen from above."""

from __future__ import annotations

import re

import numpy as np
from numpy.typing import NDArray

from notchcore.errors import MeasureError
from notchcore.trace.image import GRID
from notchcore.words.render import say

MOST_TRIANGLES = 400_000
FARTHEST = 1e7  # of a corner, in the file's own unit: ten kilometres in millimetres
_VERTEX = re.compile(rb"vertex\s+(\S+)\s+(\S+)\s+(\S+)")


def triangles_of(data: bytes) -> NDArray[np.float64]:
    """Return the triangles of an STL file as (n, 3 corners, 3 coordinates).

    Raises:
        MeasureError: it is no STL file, holds nothing, or too much
    """
    count = int.from_bytes(data[80:84], "little") if len(data) >= 84 else 0
    if count and len(data) == 84 + 50 * count:
        if count > MOST_TRIANGLES:
            raise MeasureError(say("solid_triangles", count=count, most=MOST_TRIANGLES))
        record = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])
        found = np.frombuffer(data, dtype=record, offset=84, count=count)["corners"].astype(np.float64)
    elif data.lstrip()[:5].lower() == b"solid":
        numbers = _VERTEX.findall(data)
        if len(numbers) > 3 * MOST_TRIANGLES:
            raise MeasureError(say("solid_triangles.more", most=MOST_TRIANGLES))
        try:
            found = np.array(numbers[: len(numbers) // 3 * 3], dtype=np.float64).reshape(-1, 3, 3)
        except ValueError:
            raise MeasureError(say("solid_corner")) from None
    else:
        raise MeasureError(say("no_stl"))
    found = found[np.isfinite(found).all(axis=(1, 2))]
    if len(found) == 0:
        raise MeasureError(say("solid_empty"))
    if float(np.abs(found).max()) > FARTHEST:
        raise MeasureError(say("solid_far"))
    return np.asarray(found)


def heights_of_solid(data: bytes) -> tuple[tuple[tuple[float, ...], ...], tuple[float, float, float]]:
    """Return a height grid of shares from 0 to 1, front row first, and the solid's size (width, depth, height) in its own units.

    Raises:
        MeasureError: the file holds no solid, or one that is flat seen from above
    """
    corners = triangles_of(data)
    low, high = corners.min(axis=(0, 1)), corners.max(axis=(0, 1))
    size = high - low
    if size[0] <= 0 or size[1] <= 0:
        raise MeasureError(say("solid_flat"))
    k = GRID / max(size[0], size[1])
    nx, ny = max(2, round(size[0] * k)), max(2, round(size[1] * k))
    grid = np.zeros((ny, nx))
    xs, ys = np.linspace(low[0], high[0], nx), np.linspace(low[1], high[1], ny)
    for a, b, c in corners:
        i0, i1 = np.searchsorted(xs, (min(a[0], b[0], c[0]) - 1e-9, max(a[0], b[0], c[0]) + 1e-9))
        j0, j1 = np.searchsorted(ys, (min(a[1], b[1], c[1]) - 1e-9, max(a[1], b[1], c[1]) + 1e-9))
        det = (b[1] - c[1]) * (a[0] - c[0]) + (c[0] - b[0]) * (a[1] - c[1])
        if i1 <= i0 or j1 <= j0 or abs(det) < 1e-12:
            continue
        x, y = np.meshgrid(xs[i0:i1], ys[j0:j1])
        u = ((b[1] - c[1]) * (x - c[0]) + (c[0] - b[0]) * (y - c[1])) / det
        v = ((c[1] - a[1]) * (x - c[0]) + (a[0] - c[0]) * (y - c[1])) / det
        inside = (u >= -1e-9) & (v >= -1e-9) & (u + v <= 1 + 1e-9)
        z = u * a[2] + v * b[2] + (1 - u - v) * c[2] - low[2]
        block = grid[j0:j1, i0:i1]
        block[inside] = np.maximum(block[inside], z[inside])
    shares = grid / size[2] if size[2] > 0 else grid
    return tuple(tuple(round(float(v), 4) for v in row) for row in shares), (float(size[0]), float(size[1]), float(size[2]))
