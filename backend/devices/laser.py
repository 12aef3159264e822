"""A simulated laser cutter: a small process of its own on loopback. It takes a job, runs it in accelerated time, and reports.

The protocol is one JSON object a line over TCP, described in docs/devices/laser-protocol.md. The machine has its own
motion: it steps through its moves with its own acceleration and a little lag, so that the planner's estimate is tested
against something that was not made from the same formulas.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import math
import random
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

from devices.serving import serve

SLOWNESS = 1.04  # this machine takes a little longer than its data sheet says
FAULTS = {"lid": "The lid was opened. Close it, look, then resume.", "flame": "The flame sensor tripped. Look inside before you resume."}
PIERCE_S = 0.15
ACCELERATION = 3000.0
RAPID = 300.0
STEPS = 16  # on each half of a leg


def leg_time(length: float, speed: float, *, into: float, out: float) -> float:
    """Return the time over a straight leg, by small steps of its own kind of motion: speed limited by distance to both ends."""
    if length <= 0:
        return 0.0
    seconds, half = 0.0, length / 2
    for k in range(STEPS):  # closer together towards both ends, where the head is slow
        at, step = half * ((k + 0.5) / STEPS) ** 2, half * (2 * k + 1) / STEPS**2
        for gone in (at, length - at):
            v = min(speed, math.sqrt(into**2 + 2 * ACCELERATION * gone), math.sqrt(out**2 + 2 * ACCELERATION * (length - gone)))
            seconds += step / max(v, 1e-3)
    return seconds


def _through(a: tuple[float, float], b: tuple[float, float], *, c: tuple[float, float], speed: float) -> float:
    """Return the speed this machine keeps through b: all of it straight on, nearly none in a sharp turn."""
    ab, bc = math.dist(a, b), math.dist(b, c)
    if ab < 1e-9 or bc < 1e-9:
        return speed
    cos = ((b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])) / (ab * bc)
    return speed * max(cos, 0.0) ** 4 if cos < 0.9995 else speed


@dataclass
class Leg:
    """A straight leg on the machine's clock."""

    a: tuple[float, float]
    b: tuple[float, float]
    start: float
    end: float
    burning: bool
    path: str


def _swept(points: list[tuple[float, float]]) -> list[list[tuple[float, float]]]:
    """Return the ends of what burns, sweep by sweep: what lies ahead on the line of the stretch before belongs to the same sweep."""
    sweeps: list[list[tuple[float, float]]] = []
    for a, b in zip(points[::2], points[1::2], strict=True):
        if sweeps:
            (px, py), (qx, qy) = sweeps[-1][-2:]
            dx, dy, length = qx - px, qy - py, math.dist((px, py), (qx, qy))
            ahead = (a[0] - qx) * dx + (a[1] - qy) * dy
            if length > 0 and ahead >= 0 and (b[0] - a[0]) * dx + (b[1] - a[1]) * dy >= 0 and abs((a[0] - qx) * dy - (a[1] - qy) * dx) < 1e-3 * length:
                sweeps[-1] += [a, b]
                continue
        sweeps.append([a, b])
    return sweeps


def _rows(
    legs: list[Leg], points: list[tuple[float, float]], *, move: dict[str, Any], at: tuple[float, float], clock: float
) -> tuple[tuple[float, float], float]:
    """Add the sweeps of an engraved area: the head goes over at one speed, past both ends, and turns round from speed to rest and back."""
    speed, over = float(move["speed"]), float(move["overscan"])
    turn = 2 * leg_time(speed**2 / (2 * ACCELERATION), speed, into=speed, out=0.0)
    for sweep in _swept(points):
        first, last = sweep[0], sweep[-1]
        length = math.dist(first, last) or 1e-9
        ux, uy = (last[0] - first[0]) / length * over, (last[1] - first[1]) / length * over
        before, after = (first[0] - ux, first[1] - uy), (last[0] + ux, last[1] + uy)
        to_row = turn if legs and legs[-1].path == move["path"] else PIERCE_S + leg_time(math.dist(at, before), RAPID, into=0.0, out=0.0)
        steps = [(at, before, to_row, False), (before, first, over / speed, False)]
        steps += [(a, b, math.dist(a, b) / speed, k % 2 == 0) for k, (a, b) in enumerate(pairwise(sweep))]
        for start, end, seconds, burning in (*steps, (last, after, over / speed, False)):
            legs.append(Leg(start, end, clock, clock + seconds * SLOWNESS, burning, move["path"]))
            clock += seconds * SLOWNESS
        at = after
    return at, clock


def legs_of(moves: list[dict[str, Any]]) -> list[Leg]:
    """Return the whole job as legs on the clock, from home and back."""
    legs: list[Leg] = []
    at, clock = (0.0, 0.0), 0.0

    def go(to: tuple[float, float], seconds: float, *, burning: bool, path: str) -> None:
        nonlocal at, clock
        legs.append(Leg(at, to, clock, clock + seconds * SLOWNESS, burning, path))
        at, clock = to, clock + seconds * SLOWNESS

    for move in moves:
        points = [(float(x), float(y)) for x, y in move["points"]]
        if move.get("overscan"):
            for _ in range(int(move["passes"])):
                at, clock = _rows(legs, points, move=move, at=at, clock=clock)
            continue
        go(points[0], leg_time(math.dist(at, points[0]), RAPID, into=0.0, out=0.0), burning=False, path="")
        for _ in range(int(move["passes"])):
            go(points[0], PIERCE_S, burning=True, path=move["path"])
            speed = float(move["speed"])
            joints = [0.0, *(_through(points[i], points[i + 1], c=points[i + 2], speed=speed) for i in range(len(points) - 2)), 0.0]
            for (a, b), v0, v1 in zip(pairwise(points), joints, joints[1:], strict=False):
                go(b, leg_time(math.dist(a, b), speed, into=v0, out=v1), burning=True, path=move["path"])
    return legs


def job_seconds(moves: list[dict[str, Any]]) -> float:
    """Return how long the machine takes for a job."""
    legs = legs_of(moves)
    return legs[-1].end if legs else 0.0


@dataclass
class Laser:
    """The machine's state; one job at a time."""

    pace: float = 30.0  #: simulated seconds a real second
    state: str = "idle"
    job: str = ""
    legs: list[Leg] = field(default_factory=list)
    clock: float = 0.0
    fault: str = ""
    fault_at: float | None = None
    at_leg: int = 0
    had: set[str] = field(default_factory=set)  #: jobs that were here: none is taken a second time, a half-cut sheet may still lie there

    def load(self, message: dict[str, Any]) -> dict[str, Any]:
        if self.state in ("running", "paused", "fault"):
            return {"ok": False, "why": f"busy with {self.job}"}
        if str(message["job"]) in self.had:
            return {"ok": False, "why": "this job was here already; look at the sheet, then send what is left as a new one"}
        self.legs = legs_of(message["moves"])
        self.had.add(str(message["job"]))
        self.job, self.clock, self.at_leg, self.fault, self.state = str(message["job"]), 0.0, 0, "", "loaded"
        self.fault_at = None
        if message.get("fault"):
            chance = random.Random(int(message.get("seed", 1)))
            self.fault_at = self.legs[-1].end * chance.uniform(0.3, 0.7) if self.legs else None
            self.fault_kind = str(message["fault"])
        return {"ok": True, "seconds": self.legs[-1].end if self.legs else 0.0}

    fault_kind: str = "lid"

    def command(self, name: str) -> dict[str, Any]:
        allowed = {
            "start": (("loaded",), "running"),
            "pause": (("running",), "paused"),
            "resume": (("paused", "fault"), "running"),
            "stop": (("loaded", "running", "paused", "fault"), "stopped"),
        }
        if name not in allowed:
            return {"ok": False, "why": f"no such command: {name}"}
        states, then = allowed[name]
        if self.state not in states:
            return {"ok": False, "why": f"cannot {name} while {self.state}"}
        self.state = then
        if name == "resume":
            self.fault = ""
        return {"ok": True}

    def status(self) -> dict[str, Any]:
        x, y, burning, path = 0.0, 0.0, False, ""
        if self.legs and self.state != "idle":
            leg = self.legs[min(self.at_leg, len(self.legs) - 1)]
            share = 1.0 if leg.end <= leg.start else min(max((self.clock - leg.start) / (leg.end - leg.start), 0.0), 1.0)
            x, y = leg.a[0] + (leg.b[0] - leg.a[0]) * share, leg.a[1] + (leg.b[1] - leg.a[1]) * share
            burning, path = leg.burning and self.state == "running", leg.path
        return {
            "ok": True,
            "state": self.state,
            "job": self.job,
            "clock": round(self.clock, 2),
            "seconds": round(self.legs[-1].end, 2) if self.legs else 0,
            "x": round(x, 3),
            "y": round(y, 3),
            "burning": burning,
            "path": path,
            "fault": FAULTS.get(self.fault, ""),
        }

    def tick(self, real_seconds: float) -> None:
        if self.state != "running":
            return
        self.clock += real_seconds * self.pace
        if self.fault_at is not None and self.clock >= self.fault_at:
            self.clock, self.fault_at = self.fault_at, None
            self.state, self.fault = "fault", self.fault_kind
        while self.at_leg < len(self.legs) - 1 and self.legs[self.at_leg].end < self.clock:
            self.at_leg += 1
        if self.legs and self.clock >= self.legs[-1].end:
            self.clock, self.state = self.legs[-1].end, "done"


NOISE = 0.03  # of a mark that the camera reads, on each axis


def look(message: dict[str, Any]) -> dict[str, Any]:
    """Return where the camera finds marks: the sheet lies a little off and askew, as hands lay it; or wrongly, for practice."""
    chance = random.Random(int(message.get("seed", 1)))
    w, h = float(message["width"]), float(message["height"])
    dx, dy, a = chance.uniform(-1.2, 1.2), chance.uniform(-1.2, 1.2), math.radians(chance.uniform(-0.4, 0.4))
    lies = {"": lambda x, y: (x, y), "not_turned": lambda x, y: (w - x, y), "other_edge": lambda x, y: (w - x, h - y)}
    if message.get("lies", "") not in lies:
        return {"ok": False, "why": "no such way to lie"}
    found = []
    for x, y in message["marks"]:
        px, py = lies[message.get("lies", "")](float(x), float(y))
        qx, qy = px * math.cos(a) - py * math.sin(a) + dx, px * math.sin(a) + py * math.cos(a) + dy
        found.append((round(qx + chance.gauss(0, NOISE), 3), round(qy + chance.gauss(0, NOISE), 3)))
    chance.shuffle(found)
    return {"ok": True, "found": found}


def reply(laser: Laser, message: dict[str, Any]) -> dict[str, Any]:
    """Return the reply to one message of the protocol."""
    kind = message["do"]
    if kind == "load":
        return laser.load(message)
    if kind == "look":
        return look(message)
    return laser.status() if kind == "status" else laser.command(kind)


def main() -> None:
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--host", default="127.0.0.1")
    options.add_argument("--port", type=int, default=54430)
    options.add_argument("--pace", type=float, default=30.0, help="simulated seconds a real second")
    given = options.parse_args()
    laser = Laser(pace=given.pace)
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(serve(given.host, given.port, reply=lambda m: reply(laser, m), tick=laser.tick))


if __name__ == "__main__":
    main()
