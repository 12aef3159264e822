"""Paths of SVG as lines: every command of the grammar, curves as chords that lie as near as is asked."""

from __future__ import annotations

import math
import re

from notchcore.geom.curves import arc_steps, curve_points
from notchcore.geom.vectors import Vec2

_TOKEN = re.compile(r"([MmLlHhVvCcSsQqTtAaZz])|([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)")
_FLAGS = re.compile(r"\s*,?\s*([01])")
TAKES = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7, "Z": 0}

Line = tuple[list[Vec2], bool]


class TooManyPoints(Exception):
    """A path has more points than are taken."""


class _Pen:
    """Where the path is, and what was drawn so far."""

    def __init__(self, most: int, sag: float) -> None:
        self.most = most
        self.sag = sag
        self.lines: list[Line] = []
        self.points: list[Vec2] = []
        self.at: Vec2 = (0.0, 0.0)
        self.start: Vec2 = (0.0, 0.0)
        self.control: Vec2 | None = None
        self.count = 0

    def move(self, to: Vec2) -> None:
        self.end(closed=False)
        self.points, self.at, self.start = [to], to, to

    def to(self, p: Vec2) -> None:
        if not self.points:
            self.points = [self.at]
        self.points.append(p)
        self.at = p
        self.count += 1
        if self.count > self.most:
            raise TooManyPoints

    def bezier(self, *points: Vec2) -> None:
        for p in curve_points((self.at, *points), self.sag):
            self.to(p)

    def end(self, *, closed: bool) -> None:
        if len(self.points) > 1:
            self.lines.append((self.points, closed))
        self.points = []


def _arc(pen: _Pen, rx: float, *, ry: float, tilt: float, large: bool, sweep: bool, end: Vec2) -> None:
    """Draw an elliptical arc. Source: the SVG recommendation, implementation notes on elliptical arcs."""
    (x1, y1), (x2, y2) = pen.at, end
    rx, ry = abs(rx), abs(ry)
    if rx == 0 or ry == 0 or (x1, y1) == (x2, y2):
        pen.to(end)
        return
    c, s = math.cos(math.radians(tilt)), math.sin(math.radians(tilt))
    px, py = c * (x1 - x2) / 2 + s * (y1 - y2) / 2, -s * (x1 - x2) / 2 + c * (y1 - y2) / 2
    grow = px**2 / rx**2 + py**2 / ry**2
    if grow > 1:
        rx, ry = rx * math.sqrt(grow), ry * math.sqrt(grow)
    below = rx**2 * py**2 + ry**2 * px**2
    k = math.sqrt(max((rx**2 * ry**2 - below) / below, 0.0)) * (-1 if large is sweep else 1)
    qx, qy = k * rx * py / ry, -k * ry * px / rx
    cx, cy = c * qx - s * qy + (x1 + x2) / 2, s * qx + c * qy + (y1 + y2) / 2
    a0 = math.atan2((py - qy) / ry, (px - qx) / rx)
    a1 = math.atan2((-py - qy) / ry, (-px - qx) / rx)
    turn = (a1 - a0) % (2 * math.pi) if sweep else -((a0 - a1) % (2 * math.pi))
    steps = arc_steps(turn, max(rx, ry), sag=pen.sag)
    for i in range(1, steps):
        a = a0 + turn * i / steps
        ex, ey = rx * math.cos(a), ry * math.sin(a)
        pen.to((cx + c * ex - s * ey, cy + s * ex + c * ey))
    pen.to(end)


def _commands(d: str) -> list[tuple[str, list[float]]]:
    """Return the commands with their numbers. The flags of an arc may stand without a space, so arcs are read on their own."""
    found: list[tuple[str, list[float]]] = []
    i = 0
    while i < len(d):
        token = _TOKEN.search(d, i)
        if token is None:
            break
        i = token.end()
        if token.group(1):
            found.append((token.group(1), []))
        elif found:
            command, numbers = found[-1]
            if command in "Aa" and len(numbers) % 7 in (3, 4):
                flag = _FLAGS.match(d, token.start())
                if flag is None:
                    raise ValueError("an arc's flag is neither 0 nor 1")
                numbers.append(float(flag.group(1)))
                i = flag.end()
            else:
                numbers.append(float(token.group(2)))
    return found


def path_lines(d: str, *, most: int, sag: float) -> list[Line]:
    """Return the lines of a path as points, and whether each is closed.

    Args:
        d: the path
        most: points that it may have
        sag: most that a chord may lie off its curve [units of the path]

    Raises:
        ValueError: it is no path
        TooManyPoints: it has more than `most` points
    """
    pen = _Pen(most, sag)
    for command, numbers in _commands(d):
        upper = command.upper()
        if upper == "Z":
            pen.end(closed=True)
            pen.at, pen.control = pen.start, None
            continue
        takes = TAKES[upper]
        for i in range(0, len(numbers) - takes + 1, takes):
            _step(pen, "L" if upper == "M" and i else upper, v=numbers[i : i + takes], relative=command.islower())
    pen.end(closed=False)
    return pen.lines


def _step(pen: _Pen, upper: str, *, v: list[float], relative: bool) -> None:
    ox, oy = pen.at if relative else (0.0, 0.0)
    control = None
    if upper == "M":
        pen.move((v[0] + ox, v[1] + oy))
    elif upper == "L":
        pen.to((v[0] + ox, v[1] + oy))
    elif upper == "H":
        pen.to((v[0] + ox, pen.at[1]))
    elif upper == "V":
        pen.to((pen.at[0], v[0] + oy))
    elif upper == "A":
        _arc(pen, v[0], ry=v[1], tilt=v[2], large=bool(v[3]), sweep=bool(v[4]), end=(v[5] + ox, v[6] + oy))
    else:
        points = [(v[k] + ox, v[k + 1] + oy) for k in range(0, len(v), 2)]
        if upper in "ST":  # the first control is the mirror image of the last one of the curve before
            last = pen.control or pen.at
            points.insert(0, (2 * pen.at[0] - last[0], 2 * pen.at[1] - last[1]))
        control = points[-2]
        pen.bezier(*points)
    pen.control = control
