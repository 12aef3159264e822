"""Where things of an SVG file are: numbers, lengths, view boxes and transforms. Source: the SVG recommendation."""

from __future__ import annotations

import math
import re
import xml.etree.ElementTree as ET

from notchcore.geom.vectors import Vec2

MM = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6, "q": 0.25}
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
Matrix = tuple[float, float, float, float, float, float]
SAME: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
UP: Matrix = (1.0, 0.0, 0.0, -1.0, 0.0, 0.0)


def numbers_in(text: str) -> list[float]:
    """Return all numbers of a text."""
    return [float(v) for v in _NUMBER.findall(text)]


def length_in(text: str | None, default: float = 0.0, *, of: float = 0.0) -> float:
    """Return a length of the drawing in its own units: units of length are turned into pixels of 96 an inch, per cents are of `of`."""
    if not text:
        return default
    found = _NUMBER.match(text.strip())
    if not found:
        return default
    unit = text.strip()[found.end() :].strip().lower()
    return float(found.group()) * (of / 100 if unit == "%" else MM[unit] * 96 / 25.4 if unit in MM else 1.0)


def view_of(root: ET.Element) -> tuple[Matrix, float | None, Vec2]:
    """Return the matrix that turns y up, millimetres per unit when the file says how large it is, and the size that per cents are of."""
    box = numbers_in(root.get("viewBox", ""))
    sizes = [_millimetres(root.get(key, "")) for key in ("width", "height")]
    if len(box) != 4 or not (box[2] > 0 and box[3] > 0):
        port = (length_in(root.get("width"), 100.0, of=100.0), length_in(root.get("height"), 100.0, of=100.0))
        return UP, 25.4 / 96 if any(sizes) else None, port  # without a view box one unit is a pixel, 96 to the inch
    port = (box[2], box[3])
    scales = [size / b for size, b in zip(sizes, port, strict=True) if size]
    fit = root.get("preserveAspectRatio", "")
    if len(scales) == 2 and "none" in fit and abs(scales[0] / scales[1] - 1) > 1e-6:
        return (1.0, 0.0, 0.0, -scales[1] / scales[0], 0.0, 0.0), scales[0], port
    return UP, (max(scales) if "slice" in fit else min(scales)) if scales else None, port


def _millimetres(text: str) -> float:
    """Return a length that is said in a unit of length; 0 for any other."""
    found = _NUMBER.match(text.strip())
    unit = text.strip()[found.end() :].strip().lower() if found else ""
    return max(float(found.group()) * MM[unit], 0.0) if found and unit in MM else 0.0


def fitted(e: ET.Element, box: list[float], *, size: Vec2) -> tuple[Matrix, Vec2]:
    """Return the matrix that fits a view box into a size, and the size that per cents are of in there. Source: the SVG recommendation."""
    w, h = size
    if len(box) != 4 or not (box[2] > 0 and box[3] > 0 and w > 0 and h > 0):
        return SAME, size
    kx, ky = w / box[2], h / box[3]
    fit = e.get("preserveAspectRatio", "xMidYMid").lower()
    if "none" not in fit:
        kx = ky = max(kx, ky) if "slice" in fit else min(kx, ky)
    left = (w - kx * box[2]) * (0.0 if "xmin" in fit else 1.0 if "xmax" in fit else 0.5)
    top = (h - ky * box[3]) * (0.0 if "ymin" in fit else 1.0 if "ymax" in fit else 0.5)
    return (kx, 0.0, 0.0, ky, left - kx * box[0], top - ky * box[1]), (box[2], box[3])


def times(m: Matrix, n: Matrix) -> Matrix:
    """Return the matrix that does the second, then the first."""
    a, b, c, d, e, f = m
    g, h, i, j, k, l_ = n
    return (a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l_ + e, b * k + d * l_ + f)


def transform_of(text: str) -> Matrix:
    """Return the matrix of a transform attribute; what is not understood does nothing."""
    m = SAME
    for kind, inside in re.findall(r"(\w+)\s*\(([^)]*)\)", text):
        v = numbers_in(inside)
        if kind == "matrix" and len(v) >= 6:
            n: Matrix = (v[0], v[1], v[2], v[3], v[4], v[5])
        elif kind == "translate" and v:
            n = (1, 0, 0, 1, v[0], v[1] if len(v) > 1 else 0.0)
        elif kind == "scale" and v:
            n = (v[0], 0, 0, v[1] if len(v) > 1 else v[0], 0, 0)
        elif kind == "rotate" and v:
            c, s = math.cos(math.radians(v[0])), math.sin(math.radians(v[0]))
            n = (c, s, -s, c, 0, 0)
            if len(v) >= 3:
                n = times(times((1, 0, 0, 1, v[1], v[2]), n), (1, 0, 0, 1, -v[1], -v[2]))
        elif kind == "skewX" and v:
            n = (1, 0, math.tan(math.radians(v[0])), 1, 0, 0)
        elif kind == "skewY" and v:
            n = (1, math.tan(math.radians(v[0])), 0, 1, 0, 0)
        else:
            continue
        m = times(m, n)
    return m
