"""What is said of many things alike is said once, with their names: eight posts that are too narrow are one thing to look at."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from notchcore.design.alike import FEW
from notchcore.findings import Finding, Severity
from notchcore.words.facts import Names, Ref
from notchcore.words.render import say


def told_together(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """Return findings with those to look at that differ in one name only told as one, where there are many of them.

    What must be mended, and what a button mends, stays by itself: it goes away one by one.
    """
    groups: dict[tuple[str, tuple[object, ...]], list[int]] = {}
    for i, f in enumerate(findings):
        if f.severity is Severity.LOOK and not f.repairs:
            for name in _names(f):
                groups.setdefault((name, _but_for(f, name)), []).append(i)
    instead: dict[int, Finding | None] = {}
    for (name, _), which in sorted(groups.items(), key=lambda g: -len(g[1])):
        if len(which) > FEW and not any(i in instead for i in which):
            instead |= dict.fromkeys(which, None)
            instead[which[0]] = _one([findings[i] for i in which], name)
    told = [instead.get(i, f) for i, f in enumerate(findings)]
    return tuple(f for f in told if f is not None)


def _names(f: Finding) -> Iterator[str]:
    return (name for name, fact in f.says.facts.items() if isinstance(fact, Ref))


def _but_for(f: Finding, name: str) -> tuple[object, ...]:
    """Return what two findings share that differ in one name only."""
    return f.code, f.item, f.field, f.says.key, *((k, repr(v)) for k, v in sorted(f.says.facts.items()) if k != name)


def _one(some: Sequence[Finding], name: str) -> Finding:
    refs = tuple(r for f in some if isinstance(r := f.says.facts[name], Ref))
    first = some[0]
    return replace(
        first,
        says=say(first.says.key, **{**first.says.facts, name: Names(refs)}),
        parts=tuple(dict.fromkeys(p for f in some for p in f.parts)),
        meeting=None,
        places=tuple(dict.fromkeys(p for f in some for p in (f.places or ((f.place,) if f.place else ())))),
        facts={k: v for k, v in first.facts.items() if all(f.facts.get(k) == v for f in some)},
    )
