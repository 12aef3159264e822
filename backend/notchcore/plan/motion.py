"""How long the head takes: straight stretches with bounded acceleration, slowed at corners and in tight arcs.

Trapezoid          speed up, run, slow down; a triangle where the stretch is short
Junction deviation the speed through a corner such that a circle of that deviation could be followed:
                   v^2 = a d sin(h) / (1 - sin(h)), with h half the angle between the two stretches
Row                an engraved line across an area: (width + 2 overscan) / speed, and the turn to the next one
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from notchcore.geom.contours import Contour, Segment
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Machine
from notchcore.units import Mm


def stretch_time(length: Mm, v_in: float, *, v_top: float, v_out: float, a: float) -> float:
    """Return the time over a stretch [s], entered at v_in, left at v_out, at most v_top [mm/s], acceleration a [mm/s2]."""
    if length <= 0:
        return 0.0
    peak2 = (2 * a * length + v_in**2 + v_out**2) / 2
    if peak2 <= v_top**2:
        peak = math.sqrt(peak2)
        return max((2 * peak - v_in - v_out) / a, 0.0)
    run = length - (2 * v_top**2 - v_in**2 - v_out**2) / (2 * a)
    return (2 * v_top - v_in - v_out) / a + run / v_top


def _heading(s: Segment, *, at_end: bool) -> Vec2:
    if s.centre is None:
        length = math.dist(s.start, s.end) or 1.0
        return ((s.end[0] - s.start[0]) / length, (s.end[1] - s.start[1]) / length)
    p = s.end if at_end else s.start
    rx, ry = (p[0] - s.centre[0]) / s.radius, (p[1] - s.centre[1]) / s.radius
    return (-ry, rx) if s.ccw else (ry, -rx)


def corner_speed(into: Vec2, out: Vec2, *, top: float, a: float, deviation: Mm) -> float:
    """Return the speed at which the head may pass from one heading to the next [mm/s]."""
    cos = max(-1.0, min(1.0, -(into[0] * out[0] + into[1] * out[1])))  # angle between the two stretches: pi is straight on
    half = math.sqrt((1 - cos) / 2)  # its sine
    if half > 0.99999:
        return top
    return min(top, math.sqrt(a * deviation * half / (1 - half)))


def path_time(contour: Contour, speed: float, *, machine: Machine) -> float:
    """Return the time to follow a path once from rest to rest [s]."""
    segments = [s for s in contour.segments if s.length > 1e-9]
    if not segments:
        return 0.0
    a = machine.acceleration
    tops = [speed if s.centre is None else min(speed, math.sqrt(a * s.radius)) for s in segments]
    joints = [0.0]
    for (s, top), (n, top_n) in pairwise(zip(segments, tops, strict=True)):
        joints.append(corner_speed(_heading(s, at_end=True), _heading(n, at_end=False), top=min(top, top_n), a=a, deviation=machine.corner))
    joints.append(0.0)
    for k, s in enumerate(segments):  # reachable from before
        joints[k + 1] = min(joints[k + 1], math.sqrt(joints[k] ** 2 + 2 * a * s.length))
    for k in range(len(segments) - 1, -1, -1):  # and able to stop in time
        joints[k] = min(joints[k], math.sqrt(joints[k + 1] ** 2 + 2 * a * segments[k].length))
    return math.fsum(stretch_time(s.length, joints[k], v_top=tops[k], v_out=joints[k + 1], a=a) for k, s in enumerate(segments))


def rapid_time(a: Vec2, b: Vec2, *, machine: Machine) -> float:
    """Return the time of a move with the beam off, from rest to rest [s]."""
    return stretch_time(math.dist(a, b), 0.0, v_top=machine.rapid, v_out=0.0, a=machine.acceleration)


def sweep_time(widths: Sequence[Mm], speed: float, *, machine: Machine) -> float:
    """Return the time of the sweeps of an engraving [s], each so wide from its first dot to its last.

    Each runs past its ends by the overscan and turns there: from speed to rest and back takes 2 v / a.
    """
    return math.fsum((w + 2 * machine.overscan) / speed + 2 * speed / machine.acceleration for w in widths)
