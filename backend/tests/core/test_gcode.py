"""G-code read back by a small reader of its own: the same lines as the SVG, true arcs, and the beam never on while the head travels."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field, replace

import pytest
from shapely.geometry import Polygon

from notchcore.formats.gcode import sheet_gcode
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.svg import sheet_svg
from notchcore.measure.machine import Operation
from notchcore.plan.cut_plan import CutPlan
from tests.core.test_photo import CORNER
from tests.core.test_plan import MACHINE, planned, sheet_file, svg_polygons
from tests.core.test_time import JOBS
from tests.core.test_time import planned as planned_job

__all__ = ["planned"]

Vec = tuple[float, float]


@dataclass
class Read:
    """What a machine would do with a file."""

    cuts: list[list[Vec]] = field(default_factory=list)  #: points of each stretch with the beam on, arcs in many chords
    arcs: int = 0
    feeds: set[float] = field(default_factory=set)


def read(text: str) -> Read:
    """Follow a file word by word: modal beam and power, absolute millimetres."""
    assert "G21" in text.split()
    assert "G90" in text.split()
    found, at, beam, power, burning = Read(), (0.0, 0.0), False, 0.0, False
    for line in re.sub(r"\([^)]*\)", "", text).splitlines():
        words = {w[0]: float(w[1:]) for w in line.split()}
        power = words.get("S", power)
        beam = {3.0: True, 5.0: False}.get(words.get("M", -1.0), beam)
        if "F" in words:
            found.feeds.add(words["F"])
        if "X" not in words:
            continue
        to = (words["X"], words["Y"])
        on = beam and power > 0
        if words["G"] == 0:
            assert not on, line
        elif on:
            if not burning or found.cuts[-1][-1] != at:
                found.cuts.append([at])
            found.cuts[-1] += chords(at, to, words, found)
        burning, at = on and words["G"] != 0, to
    assert not beam
    return found


def chords(at: Vec, to: Vec, words: dict[str, float], found: Read) -> list[Vec]:
    if words["G"] == 1:
        return [to]
    centre = (at[0] + words["I"], at[1] + words["J"])
    radius = math.dist(at, centre)
    assert math.dist(to, centre) == pytest.approx(radius, abs=2e-4)
    found.arcs += 1
    a0, a1 = (math.atan2(p[1] - centre[1], p[0] - centre[0]) for p in (at, to))
    turn = (a1 - a0) % (2 * math.pi) if words["G"] == 3 else -((a0 - a1) % (2 * math.pi))
    turn = turn or (2 * math.pi if words["G"] == 3 else -2 * math.pi)
    return [(centre[0] + radius * math.cos(a0 + turn * k / 256), centre[1] + radius * math.sin(a0 + turn * k / 256)) for k in range(1, 256)] + [to]


def test_the_gcode_holds_the_same_lines_as_the_svg(planned: tuple) -> None:
    _, _, plan, _ = planned
    text = sheet_gcode(sheet_file(plan))
    found = read(text)
    left = [Polygon(c) for c in found.cuts if len(c) > 3 and math.dist(c[0], c[-1]) < 1e-3]
    for name, shape in svg_polygons(sheet_svg(sheet_file(plan))).items():
        twin = min(left, key=lambda p: p.centroid.distance(shape.centroid) + abs(p.area - shape.area))
        assert twin.symmetric_difference(shape).area < 5e-4 * shape.length, name
        left.remove(twin)
    assert left == []
    assert found.arcs > 0
    passes = [s for s in plan.sheets[0].strokes for _ in range(s.passes)]
    assert len(found.cuts) == sum(len(s.path.lines) for s in passes)
    assert found.feeds == {s.speed * 60 for s in plan.sheets[0].strokes}
    assert "revision 3, sheet 1 of" in text
    assert "Kerf 0.160 mm is corrected in these paths" in text


@pytest.mark.parametrize("name", ["engraved disc", "engraved bar, upright", "picture"])
def test_what_is_engraved_is_its_area_in_rows(name: str) -> None:
    plan: CutPlan = planned_job(JOBS[name])
    file = SheetFile(project="p", revision=1, of=1, plan=plan.sheets[0], machine=MACHINE, images={"7": CORNER})
    (stroke,) = (s for s in plan.sheets[0].strokes if s.path.operation is Operation.ENGRAVE)
    rows = [c for c in read(sheet_gcode(file)).cuts if len(c) == 2]
    burned = math.fsum(math.dist(*c) for c in rows) * stroke.interval / stroke.passes
    wanted = 60 * 50 / 4 if name == "picture" else Polygon([s.start for s in stroke.path.contour.segments]).area
    assert burned == pytest.approx(wanted, rel=0.01)


@pytest.mark.parametrize(
    ("name", "stem", "told"),
    [
        ("Seed packet drawer", "seed-packet-drawer", "Seed packet drawer"),
        ("Bean (tall) é\n2", "bean-tall-e-2", "Bean ,tall, e?2"),
        ("Ящик 箱", "project", "???? ?"),
        ("  --  ", "project", "  --  "),
        ("x" * 60, "x" * 40, "x" * 60),
    ],
)
def test_files_and_gcode_are_named_in_plain_letters(planned: tuple, name: str, stem: str, told: str) -> None:
    _, _, plan, _ = planned
    file = SheetFile(project=name, revision=3, of=1, plan=replace(plan.sheets[0], name="Ply, 600 × 400"), machine=MACHINE)
    assert file.stem == f"{stem}-r3-sheet1"
    first = sheet_gcode(file).splitlines()[0]
    assert first.startswith(f"({told}, revision 3")
    assert "600 x 400" in first
    assert sheet_gcode(file).isascii()
