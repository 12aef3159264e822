"""A person's order of assembly: steps moved about, and sub-assemblies that are put together apart and go in as one.

Scope   what a step is put together with: a sub-assembly of its own, or the thing itself
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from notchcore.check.blocking import Blocking, directions_of
from notchcore.check.legs import Legs, NotFound
from notchcore.check.order import AssemblyOrder, Step, step_of
from notchcore.design.assembly import Part
from notchcore.geom.vectors import Vec3, scale
from notchcore.ids import step_id
from notchcore.words.facts import Sentence
from notchcore.words.render import say

DOWN: Vec3 = (0.0, 0.0, -1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """One step in its place of the order."""

    step: Step
    within: str = ""  #: key of the step with which the sub-assembly goes in that this one belongs to
    first: bool = False  #: nothing is there yet: it is laid down
    by_hand: bool = False  #: a sub-assembly that a person made
    problem: Sentence | None = None  #: why it cannot be done in this place of the order

    @property
    def key(self) -> str:
        return step_id(self.step.parts)


def _made(apart: tuple[tuple[str, ...], ...], there: set[str], *, found: AssemblyOrder) -> list[tuple[str, ...]]:
    """Return a person's sub-assemblies that can be: of two parts or more, not of all, inside or apart from every other one."""
    kept = [frozenset(s.parts) for s in found.steps if len(s.parts) > 1]
    made = []
    for wanted in apart:
        group = frozenset(wanted) & there
        crosses = any(group & k and not (group < k or k < group) for k in kept)
        if 2 <= len(group) < len(there) and not crosses:
            kept.append(group)
            made.append(tuple(sorted(group)))
    return made


def _sorted(steps: dict[str, Step], wanted: tuple[str, ...]) -> list[str]:
    """Return the keys in the wanted order, new ones at the end, each sub-assembly after all that it is made of."""
    keys = [k for k in dict.fromkeys(wanted) if k in steps]
    keys += [k for k in steps if k not in keys]
    for k in sorted((k for k in keys if len(steps[k].parts) > 1), key=lambda k: len(steps[k].parts)):
        inside = [i for i, other in enumerate(keys) if set(steps[other].parts) < set(steps[k].parts)]
        at = keys.index(k)
        asked = k in wanted and at > max(inside, default=-1)
        if inside and not asked:
            keys.insert(max(inside) + 1, k)
            keys.pop(at if at < max(inside) + 1 else at + 1)
    return keys


def in_order(parts: tuple[Part, ...], wanted: tuple[str, ...], *, found: AssemblyOrder, apart: tuple[tuple[str, ...], ...] = ()) -> tuple[Planned, ...]:
    """Return the found steps in a person's order, with the problems of those that cannot be done there.

    Args:
        wanted: keys of steps; those that are no more are left out, new ones keep their found place at the end
        apart: sub-assemblies made by hand, by their parts; one that cannot be is left out
    """
    made = _made(apart, {p.id for p in parts}, found=found)
    steps = {step_id(s.parts): s for s in found.steps}
    groups = {step_id(g): Step(parts=g, direction=DOWN) for g in made}
    keys = _sorted(steps | groups, wanted)
    steps = groups | steps
    inside = {k: frozenset(s.parts) for k, s in steps.items() if len(s.parts) > 1}

    def scope(step: Step) -> str:
        around = [(len(g), k) for k, g in inside.items() if set(step.parts) < g]
        return min(around)[1] if around else ""

    plain, seen = [], set()
    for k in keys:
        within = scope(steps[k])
        plain.append(Planned(step=steps[k], within=within, first=within not in seen, by_hand=k in groups))
        seen.add(within)
    return tuple(plain) if keys == [step_id(s.parts) for s in found.steps] else tuple(_tried(parts, plain))


def _tried(parts: tuple[Part, ...], plain: list[Planned]) -> Iterable[Planned]:
    """Yield the steps with the ways in which their parts go to their places, where there is one."""
    blocking, ways = Blocking(parts), directions_of(parts)
    legs = Legs(parts, ways)
    at = {p.id: i for i, p in enumerate(parts)}
    placed: dict[str, list[int]] = {}
    for planned in plain:
        group, there = [at[p] for p in planned.step.parts], placed.setdefault(planned.within, [])
        direction, hit = _way_in(group, there, blocking=blocking, ways=[scale(planned.step.direction, -1.0), *ways])
        step = replace(planned.step, direction=DOWN if planned.first else direction, last=None, last_mm=0.0, tip=None)
        if hit is not None and (other := _other_way(planned.step, group, placed=there, legs=legs)) is not None:
            step, hit = other, None
        problem = say("in_the_way", part=parts[hit].ref) if hit is not None else None
        yield replace(planned, step=step, problem=problem)
        there += group


def _other_way(step: Step, group: list[int], *, placed: list[int], legs: Legs) -> Step | None:
    """Return how a part goes in that does not go straight in: by a short move at the end, or tilted where that is how it was found."""
    if len(group) != 1:
        return None
    try:
        way = legs.single(group[0], {*placed, *group}) or (legs.tipped(group[0], {*placed, *group}) if step.tip else None)
    except NotFound:
        return None
    return None if way is None else step_of(step.parts, way)


def _way_in(group: list[int], placed: list[int], *, blocking: Blocking, ways: list[Vec3]) -> tuple[Vec3, int | None]:
    """Return the direction in which parts go to their place, and a part that is in the way when there is none."""
    worst: tuple[int, int] | None = None
    for out in ways:
        hits = [j for j in placed if any(blocking.blocks(i, j, d=out) for i in group)]
        if not hits:
            return scale(out, -1.0), None
        if worst is None or len(hits) < worst[0]:
            worst = (len(hits), hits[-1])
    return scale(ways[0], -1.0), worst[1] if worst else None
