"""What of a thing comes off again: a lid that lies on it, or slides; and what can only go in before it is closed."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from notchcore.check.blocking import Blocking
from notchcore.check.order import Step
from notchcore.design.assembly import Assembly, Part
from notchcore.design.styles import Style
from notchcore.geom.vectors import Vec3


def held_together(assembly: Assembly) -> list[set[str]]:
    """Return the parts of an assembly in groups that joints or glue hold together, the largest group first."""
    group = {p.id: {p.id} for p in assembly.parts}
    for m in assembly.meetings:
        if m.style is Style.REST or m.kind == "socket":
            continue  # they only lie or stand there
        a, b = group.get(m.a), group.get(m.b)
        if a is None or b is None or a is b:
            continue
        a |= b
        for part in b:
            group[part] = a
    apart = {id(g): g for g in group.values()}
    return sorted(apart.values(), key=len, reverse=True)


def comes_off(assembly: Assembly, out: Vec3) -> frozenset[str]:
    """Return the parts of an assembly that come off it: nothing holds them, and they leave along `out`, or are meant to be loose.

    Args:
        out: in the assembly's own place
    """
    body, *others = held_together(assembly) or [set()]
    if not others:
        return frozenset()
    parts = assembly.parts
    at, blocking = {p.id: i for i, p in enumerate(parts)}, Blocking(parts)
    loose = {p.id for p in parts if p.loose}

    def leaves(group: set[str]) -> bool:
        return group <= loose or not any(blocking.blocks(at[p], at[b], d=out) for p in group for b in body)

    return frozenset(p for g in others if leaves(g) for p in g)


def before_closing(steps: Sequence[Step], guest: Iterable[Part], *, host: Sequence[Part], out: Vec3) -> int:
    """Return after how many steps of its host a guest goes in: as late as its way is free; after all of them where it never is.

    Args:
        guest: its parts, and
        host: those of the host, in one place
        out: the way out of the room, there
    """
    moving = tuple(guest)
    parts = (*moving, *host)
    blocking = Blocking(parts)
    n = len(moving)
    in_the_way = {p.id for j, p in enumerate(parts[n:], n) if any(blocking.blocks(i, j, d=out) for i in range(n))}
    first = next((k for k, s in enumerate(steps) if in_the_way & set(s.parts)), len(steps))
    return first or len(steps)
