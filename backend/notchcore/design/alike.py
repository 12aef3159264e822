"""Parts of which one may take another's place: of one stock, cut and burned alike. They are listed and counted together."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

from notchcore.design.assembly import Part
from notchcore.geom.profile import Ring, bounds_of
from notchcore.geom.vectors import Vec2
from notchcore.units import Mm

DIGITS = 3  # of a millimetre
ASIDE: Mm = 0.00021  # so that no size of a joint lies where rounding turns
FEW = 3  # so many are listed one by one


def likes_of(parts: Sequence[Part]) -> dict[str, str]:
    """Return for each part the first one that it is like, by id; itself where there is none before it."""
    seen = {p.id: _at_a_glance(p) for p in parts}
    many = Counter(seen.values())
    first: dict[object, str] = {}
    return {p.id: first.setdefault(_cut(p), p.id) if many[seen[p.id]] > 1 else p.id for p in parts}


def counted(ids: Iterable[str], likes: Mapping[str, str]) -> list[list[str]]:
    """Return ids in their order, many that are alike and follow each other in one list, a few each in a list of its own."""
    runs: list[list[str]] = []
    for i in ids:
        if runs and likes[i] and likes[runs[-1][0]] == likes[i]:
            runs[-1].append(i)
        else:
            runs.append([i])
    return [some for run in runs for some in ([run] if len(run) > FEW else [[i] for i in run])]


def _at_a_glance(part: Part) -> tuple[object, ...]:
    """Return what is quickly seen to differ."""
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    return part.stock, _rounded(x1 - x0), _rounded(y1 - y0), len(part.profile.outer), len(part.profile.holes), len(part.marks)


def _cut(part: Part) -> object:
    """Return what is the same for parts that are cut alike, wherever they lie in their planes."""
    x0, y0, _, _ = bounds_of(part.profile.outer)
    marks = sorted(
        (
            _moved(m.line, (x0, y0)),
            m.closed,
            m.operation,
            m.back,
            m.depth,
            id(m.photo) if m.photo else 0,
            str(m.beam),
            tuple(_moved(c, (x0, y0)) for c in m.clip),
        )
        for m in part.marks
    )
    holes = tuple(sorted(_moved(h, (x0, y0)) for h in part.profile.holes))
    apart = (part.stock, _rounded(part.t), part.reverse, part.bridges, part.helper, part.loose, part.falls_from, part.item, part.folds)
    return apart, _moved(part.profile.outer, (x0, y0)), holes, tuple(marks)


def _moved(ring: Ring, to: Vec2) -> Ring:
    """Return a ring about another place, from its least corner on."""
    there = [(_rounded(u - to[0]), _rounded(v - to[1])) for u, v in ring]
    k = there.index(min(there))
    return tuple(there[k:] + there[:k])


def _rounded(size: Mm) -> Mm:
    return round(size + ASIDE, DIGITS) + 0.0
