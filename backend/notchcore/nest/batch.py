"""Wishes beyond "all parts, as cheap as can be": parts that stay together on one sheet, and sheets filled up with more.

Both are packings around what lies already: what stays together is laid first and then locked, what fills up comes last.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from notchcore.errors import NestError
from notchcore.geom.profile import area_of
from notchcore.nest.laid import sheet_layout
from notchcore.nest.pack import joined, pack
from notchcore.nest.problem import Prefer
from notchcore.nest.search import Work
from notchcore.nest.values import Nesting, NestPart, NestRules, Placement, SheetKind, SheetLayout
from notchcore.words.facts import Names
from notchcore.words.render import say

NewWork = Callable[[], Work]


def _added(
    sheets: Sequence[tuple[SheetKind, Sequence[Placement]]],
    more: Sequence[NestPart],
    *,
    parts: Mapping[str, NestPart],
    rules: NestRules,
    work: Work,
    seed: int,
) -> list[list[Placement]]:
    """Return what of `more` finds a place on each of some single sheets, around what lies there; copies count from 0."""
    kinds = [replace(kind, id=str(i), count=1) for i, (kind, _) in enumerate(sheets)]
    held, locked = [], []
    for kind, (_, lying) in zip(kinds, sheets, strict=True):
        named = tuple(replace(p, part=f"{kind.id}={j}", copy=0) for j, p in enumerate(lying))
        here = [replace(parts[old.part], id=new.part, stock=kind.stock, count=1) for old, new in zip(lying, named, strict=True)]
        held += here
        if named:
            locked.append(sheet_layout(kind, 0, placements=named, parts={p.id: p for p in here}, rules=rules))
    names = {p.id for p in held}
    found = pack([*held, *more], kinds, rules=rules, work=work, seed=seed, locked=locked, prefer=Prefer.SHEETS)
    on = {s.sheet: [p for p in s.placements if p.part not in names] for s in found.sheets}
    return [on.get(kind.id, []) for kind in kinds]


def kept_together(
    groups: Sequence[Sequence[str]],
    parts: Sequence[NestPart],
    *,
    sheets: Sequence[SheetKind],
    rules: NestRules,
    work: NewWork,
    seed: int = 1,
    locked: Sequence[SheetLayout] = (),
) -> list[SheetLayout]:
    """Return the locked sheets with each group laid on one sheet more: one that is used already when it has room, else the cheapest that has.

    Args:
        groups: part ids; those of other stocks are left out, and what of a group is locked stays where it is
    Raises:
        NestError: a group fits on no single sheet
    """
    laid = list(locked)
    by_id, kinds = {p.id: p for p in parts}, {k.id: k for k in sheets}
    for group in groups:
        lying = {(p.part, p.copy) for s in laid for p in s.placements}
        free = {p.id: [c for c in range(p.count) if (p.id, c) not in lying] for p in parts if p.id in group}
        wanted = [replace(by_id[k], count=len(numbers)) for k, numbers in free.items() if numbers]
        if not wanted:
            continue
        count = sum(p.count for p in wanted)
        holding = [s for s in laid if any(p.part in group for p in s.placements)]
        for kind, copy, there in _candidates(holding or laid, [] if holding else sheets, laid=laid, kinds=kinds):
            (new,) = _added([(kind, there)], wanted, parts=by_id, rules=rules, work=work(), seed=seed)
            if len(new) == count:
                numbered = tuple(replace(p, copy=free[p.part][p.copy]) for p in new)
                laid = [s for s in laid if (s.sheet, s.copy) != (kind.id, copy)]
                laid.append(sheet_layout(kind, copy, placements=(*there, *numbered), parts=by_id, rules=rules))
                break
        else:
            raise NestError(say("batch_beyond_sheet", wanted=Names(tuple(p.ref for p in wanted), 6)))
    return laid


def _candidates(
    used: Sequence[SheetLayout], fresh: Sequence[SheetKind], *, laid: Sequence[SheetLayout], kinds: Mapping[str, SheetKind]
) -> list[tuple[SheetKind, int, tuple[Placement, ...]]]:
    """Return sheets to try: those with something on them, then one unused of each kind, the cheapest first."""
    found = [(kinds[s.sheet], s.copy, s.placements) for s in used]
    taken = {(s.sheet, s.copy) for s in laid}
    for kind in sorted(fresh, key=lambda k: (k.price or abs(area_of(k.ring())), k.id)):
        copy = next((c for c in range(kind.count) if (kind.id, c) not in taken), None)
        if copy is not None:
            found.append((kind, copy, ()))
    return found


def filled(
    nesting: Nesting,
    more: Mapping[str, int],
    *,
    parts: Sequence[NestPart],
    sheets: Sequence[SheetKind],
    rules: NestRules,
    work: Work,
    seed: int = 1,
) -> Nesting:
    """Return a packing of one stock whose sheets hold as many more of some parts as find a place, up to a number of each.

    Args:
        more: at most how many more, by part; their numbers follow those that were wanted
    """
    by_id, kinds = {p.id: p for p in parts}, {k.id: k for k in sheets}
    wanted = [replace(by_id[k], count=n) for k, n in more.items() if k in by_id and n > 0]
    if not wanted or not nesting.sheets:
        return nesting
    found = _added([(kinds[s.sheet], s.placements) for s in nesting.sheets], wanted, parts=by_id, rules=rules, work=work, seed=seed)
    laid = [
        sheet_layout(
            kinds[s.sheet], s.copy, placements=(*s.placements, *(replace(p, copy=by_id[p.part].count + p.copy) for p in new)), parts=by_id, rules=rules
        )
        for s, new in zip(nesting.sheets, found, strict=True)
    ]
    return joined([replace(nesting, sheets=tuple(laid))])
