"""The gate: nothing is published that an exact check, independent of the packing, does not pass."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence

from notchcore.findings import Finding, Severity
from notchcore.geom.near import near_pairs
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, box, moved, pieces
from notchcore.geom.profile import Ring, polygon_of
from notchcore.nest.problem import Answer, Placed, Problem, same_turn
from notchcore.nest.values import NestPart, NestRules, Placement, SheetLayout
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

SLACK = 1e-3  # [mm, mm2] an overlap below this is float noise


def shape_at(shape: Polygon, turn: float, *, x: Mm, y: Mm, mirrored: bool = False) -> Polygon:
    """Return a shape mirrored (x to -x), turned counter-clockwise about its own origin [degrees], then moved."""
    a = math.radians(turn)
    cos, sin = (round(math.cos(a)), round(math.sin(a))) if turn % 90 == 0 else (math.cos(a), math.sin(a))
    side = -1.0 if mirrored else 1.0
    return moved(shape, (side * cos, -sin, side * sin, cos, x, y))


def too_near(shapes: list[Polygon], spacing: Mm) -> list[tuple[int, int]]:
    """Return the pairs of shapes, by index, that lie nearer to each other than `spacing`; at no spacing those that overlap."""
    found = []
    for i, j in near_pairs(shapes, spacing - SLACK):
        a, b = shapes[i], shapes[j]
        if spacing > SLACK:
            found.append((i, j))
        elif a.intersection(b).area > 0 and mitred(a, -SLACK / 2).intersects(mitred(b, -SLACK / 2)):
            found.append((i, j))
    return found


def bad_spots(rings: Sequence[Ring]) -> list[Polygon]:
    """Return the spots of a sheet on which nothing may lie, those drawn across themselves put right."""
    return [p for ring in rings for p in pieces(Polygon(ring).buffer(0))]


def touches_bad(shape: Polygon, bad: Polygon, *, spacing: Mm) -> bool:
    """Tell whether a part reaches onto a bad spot, or nearer to it than the spacing."""
    return bool(shape.intersects(bad) or shape.distance(bad) < spacing - SLACK)


def answer_faults(problem: Problem, answer: Answer) -> list[str]:
    """Return what is wrong with an answer, on the shapes as given: counts, turns, margins, bad spots, distances."""
    wrong = []
    counts = Counter(p.part for p in answer.placed)
    for k, n, _ in answer.left:
        counts[k] += n
    wrong += [f"{part.id}: {counts[k]} of {part.count}" for k, part in enumerate(problem.parts) if counts[k] != part.count]
    groups: defaultdict[tuple[int, int], list[Placed]] = defaultdict(list)
    for p in answer.placed:
        groups[p.sheet, p.copy].append(p)
        if not any(same_turn(p.turn, t) for t in problem.parts[p.part].turns):
            wrong.append(f"{problem.parts[p.part].id}: turned by {p.turn}")
        if p.mirrored not in problem.parts[p.part].sides:
            wrong.append(f"{problem.parts[p.part].id}: on its {'back' if p.mirrored else 'front'}")
    polygons = [part.polygon() for part in problem.parts]
    for (kind, copy), placed in groups.items():
        if problem.strip_height is not None:
            m = problem.margin
            usable, bad = box(m - SLACK, m - SLACK, answer.length - m + SLACK, problem.strip_height - m + SLACK), []
        else:
            spec = problem.sheets[kind]
            if not 0 <= copy < spec.count:
                wrong.append(f"{spec.id}: there is no sheet {copy}")
            usable = mitred(mitred(spec.polygon(), -problem.margin), SLACK)
            bad = bad_spots(spec.bad)
        shapes = [shape_at(polygons[p.part], p.turn, x=p.x, y=p.y, mirrored=p.mirrored) for p in placed]
        for p, shape in zip(placed, shapes, strict=True):
            name = problem.parts[p.part].id
            if not usable.covers(shape):
                wrong.append(f"{name} reaches over the margin")
            if any(touches_bad(shape, b, spacing=problem.spacing) for b in bad):
                wrong.append(f"{name} is too near to a bad spot")
        wrong += [f"{problem.parts[placed[i].part].id} is too near to {problem.parts[placed[j].part].id}" for i, j in too_near(shapes, problem.spacing)]
    return wrong


def placed_shape(part: NestPart, placement: Placement) -> Polygon:
    """Return a part's finished shape where it lies on the sheet."""
    return shape_at(polygon_of(part.profile), placement.turn, x=placement.x, y=placement.y, mirrored=placement.mirrored)


def faults(layout: SheetLayout, parts: Mapping[str, NestPart], *, rules: NestRules) -> tuple[Finding, ...]:
    """Return what is wrong with one sheet: parts too near to each other or to the edge."""
    shapes = [(p, placed_shape(parts[p.part], p)) for p in layout.placements]
    usable, bad = mitred(Polygon(layout.ring), -rules.margin + SLACK), bad_spots(layout.bad)
    found = []
    for p, shape in shapes:
        if any(touches_bad(shape, b, spacing=rules.spacing) for b in bad):
            found.append(
                Finding(code="on_bad_spot", severity=Severity.MUST, parts=(p.part,), says=say("on_bad_spot", part=parts[p.part].ref, sheet=layout.name))
            )
        if not usable.covers(shape):
            found.append(
                Finding(code="outside_sheet", severity=Severity.MUST, parts=(p.part,), says=say("outside_sheet", part=parts[p.part].ref, sheet=layout.name))
            )
    for i, j in too_near([shape for _, shape in shapes], rules.spacing):
        (p, a), (q, b) = shapes[i], shapes[j]
        found.append(
            Finding(
                code="parts_too_near",
                severity=Severity.MUST,
                parts=(p.part, q.part),
                says=say("parts_too_near", a=parts[p.part].ref, b=parts[q.part].ref, apart=mm(a.distance(b), digits=2), spacing=mm(rules.spacing, digits=2)),
            )
        )
    return tuple(found)
