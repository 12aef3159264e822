"""The steps of putting together as a person does them: in an order of their own or the found one, with what to mind at each.

Before   the later part that shuts a part in: it must be in its place by then
Reach    how far into an opening a hand must hold a part
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from notchcore.check.blocking import Blocking
from notchcore.check.legs import Tip
from notchcore.check.order import AssemblyOrder, Step
from notchcore.check.sequence import Planned, in_order
from notchcore.design.alike import likes_of
from notchcore.design.assembly import Assembly, Meeting, Part, as_counted
from notchcore.design.styles import ABOUT
from notchcore.geom.slab import box_of
from notchcore.geom.vectors import Vec3, dot, scale
from notchcore.measure.adhesives import adhesive_for
from notchcore.measure.fit import Feel
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Figure, Names, Ref, Sentence, mm
from notchcore.words.render import say

HAND: Mm = 90.0  # an opening narrower than this lets no hand in
DEEP: Mm = 40.0  # ... and farther in than this no fingers reach
MOST_NAMED = 12  # neighbours of a glued part by name
MOST_PARTS = 24  # above this it takes too long to ask what shuts what in


class HintKind(StrEnum):
    """What to mind at a step."""

    GLUE = "glue"
    MALLET = "mallet"
    REACH = "reach"
    FILM = "film"
    HELPER = "helper"
    LOOSE = "loose"


@dataclass(frozen=True, slots=True, kw_only=True)
class Hint:
    """One thing to mind."""

    kind: HintKind
    says: Sentence
    minutes: float = 0.0  #: to wait before the next step


@dataclass(frozen=True, slots=True, kw_only=True)
class GuideStep:
    """One step with all that is said of it."""

    key: str  #: what names it: its parts
    label: str  #: what goes in
    whole: bool = False  #: an item that was put together apart
    parts: tuple[str, ...]
    like: str = ""  #: the first part that its only one is like
    direction: Vec3
    last: Vec3 | None = None  #: a short move at the end of the way in
    last_mm: Mm = 0.0
    tip: Tip | None = None  #: how they are tilted on the way in
    within: str = ""  #: key of the step with which the sub-assembly goes in that this one belongs to
    first: bool = False  #: it is laid down, nothing is there yet
    by_hand: bool = False  #: a sub-assembly that a person made
    hints: tuple[Hint, ...] = ()
    before: str = ""  #: the part that shuts these in
    note: str = ""  #: a person's own words
    problem: Sentence | None = None  #: why it cannot be done in this place of the order


def guide(
    assembly: Assembly,
    found: AssemblyOrder,
    *,
    stocks: Mapping[str, Stock],
    wanted: tuple[str, ...] = (),
    apart: tuple[tuple[str, ...], ...] = (),
    notes: Mapping[str, str] | None = None,
) -> tuple[GuideStep, ...]:
    """Return the steps with hints, in a person's order and with their sub-assemblies where there are any."""
    if not assembly.parts:
        return ()
    planned = in_order(assembly.parts, wanted, found=found, apart=apart)
    parts, likes = {p.id: p for p in assembly.parts}, likes_of(assembly.parts)
    before = _shut_in(assembly.parts, planned) if len(assembly.parts) <= MOST_PARTS else {}
    placed: dict[str, list[str]] = {}
    told = []
    for p in planned:
        there = placed.setdefault(p.within, [])
        told.append(
            GuideStep(
                key=p.key,
                label=assembly.called(p.step.parts),
                whole=assembly.is_item(p.step.parts),
                parts=p.step.parts,
                like=likes[p.step.parts[0]] if len(p.step.parts) == 1 else "",
                direction=p.step.direction,
                last=p.step.last,
                last_mm=p.step.last_mm,
                tip=p.step.tip,
                within=p.within,
                first=p.first,
                by_hand=p.by_hand,
                hints=_hints(p.step, there, parts=parts, meetings=assembly.meetings, stocks=stocks, likes=likes),
                before=before.get(p.key, ""),
                note=(notes or {}).get(p.key, ""),
                problem=p.problem,
            )
        )
        there += p.step.parts
    return tuple(told)


def there_at(steps: tuple[GuideStep, ...], k: int) -> list[str]:
    """Return the parts that are there before a step: those of its own sub-assembly, or of the thing."""
    return [p for s in steps[:k] if s.within == steps[k].within for p in s.parts]


def _shut_in(parts: tuple[Part, ...], steps: tuple[Planned, ...]) -> dict[str, str]:
    """Return, by step key, the first later part that stands in the way in which the step's parts came in."""
    blocking = Blocking(parts)
    at = {p.id: i for i, p in enumerate(parts)}
    found = {}
    for k, step in enumerate(steps):
        if step.first or step.step.last or step.step.tip:
            continue
        out = scale(step.step.direction, -1.0)
        later = [p for s in steps[k + 1 :] if s.within == step.within for p in s.step.parts]
        hit = next((q for q in later if any(blocking.blocks(at[p], at[q], d=out) for p in step.step.parts)), None)
        if hit is not None:
            found[step.key] = parts[at[hit]].label
    return found


def _hints(
    step: Step, placed: list[str], *, parts: Mapping[str, Part], meetings: tuple[Meeting, ...], stocks: Mapping[str, Stock], likes: Mapping[str, str]
) -> tuple[Hint, ...]:
    there = set(placed)
    new = set(step.parts)
    mine = [(m, m.b if m.a in new else m.a) for m in meetings if (m.a in new) != (m.b in new) and (m.b if m.a in new else m.a) in there]
    hints = []
    glued = [(m, other) for m, other in mine if ABOUT[m.style].glued]
    if glued:
        own = parts[step.parts[0]]
        glue = adhesive_for(stocks[own.stock].material, stocks[parts[glued[0][1]].stock].material)
        to = Names(tuple({parts[o].label: parts[o].ref for _, o in glued}.values()), MOST_NAMED)
        says = say("hint.glue", glue=glue.name.capitalize(), to=to, hold=Figure(glue.hold_min, 0), cure=Figure(glue.cure_h, 0), caution=glue.caution)
        hints.append(Hint(kind=HintKind.GLUE, says=says, minutes=glue.hold_min))
        sheets = {p for m, _ in glued for p in (m.a, m.b)}
        later, more = _still_to_enter(sheets, there | new, meetings=meetings, parts=parts, likes=likes)
        if later:
            told = say("hint.glue.clear.alike" if more else "hint.glue.clear", parts=Names(later, MOST_NAMED))
            hints.append(Hint(kind=HintKind.GLUE, says=told))
    if any(m.feel is Feel.MALLET for m, _ in mine):
        hints.append(Hint(kind=HintKind.MALLET, says=say("hint.mallet")))
    if (reach := _reach([parts[p] for p in step.parts], [parts[p] for p in placed], direction=step.direction)) is not None:
        hints.append(Hint(kind=HintKind.REACH, says=say("hint.reach", down=mm(reach[1], digits=0), opening=mm(reach[0], digits=0))))
    if any(stocks[parts[p].stock].film for p in step.parts):
        hints.append(Hint(kind=HintKind.FILM, says=say("hint.film")))
    if any(parts[p].helper for p in step.parts):
        hints.append(Hint(kind=HintKind.HELPER, says=say("hint.helper")))
    if any(parts[p].loose for p in step.parts):
        hints.append(Hint(kind=HintKind.LOOSE, says=say("hint.loose")))
    return tuple(hints)


def _still_to_enter(
    sheets: set[str], there: set[str], *, meetings: tuple[Meeting, ...], parts: Mapping[str, Part], likes: Mapping[str, str]
) -> tuple[tuple[Ref, ...], bool]:
    """Return what goes into openings of glued sheets later on, without glue: it must find them clean.

    One of those that are alike, and whether there are others.
    """
    dry = [m for m in meetings if m.feel is not None and not ABOUT[m.style].glued]
    coming = {m.b for m in dry if m.a in sheets} | {m.a for m in dry if m.b in sheets}
    late = sorted(p for p in coming if p in parts and p not in there)
    firsts = {likes[p]: parts[p] for p in reversed(late)}
    return tuple(p.ref for p in sorted(firsts.values(), key=lambda p: as_counted(p.label))), len(firsts) < len(late)


def _reach(new: list[Part], placed: list[Part], *, direction: Vec3) -> tuple[Mm, Mm] | None:
    """Return the narrower side of the opening that parts go into and how deep, when a hand does not follow; along axes only."""
    axis = next((k for k in range(3) if abs(abs(direction[k]) - 1) < 1e-6), None)
    if axis is None or len(placed) < 3:
        return None
    boxes, mine = [box_of(p.slab()) for p in placed], [box_of(p.slab()) for p in new]
    low, high = [min(b[k] for b in boxes) for k in range(3)], [max(b[k + 3] for b in boxes) for k in range(3)]
    sides = [k for k in range(3) if k != axis]
    if not all(min(b[k] for b in mine) > low[k] - 0.01 and max(b[k + 3] for b in mine) < high[k] + 0.01 for k in sides):
        return None
    comes_from_high = dot(direction, tuple(1.0 if k == axis else 0.0 for k in range(3))) < 0  # type: ignore[arg-type]
    depth = high[axis] - max(b[axis + 3] for b in mine) if comes_from_high else min(b[axis] for b in mine) - low[axis]
    opening = min(high[k] - low[k] for k in sides)
    return (opening, depth) if depth > DEEP and opening < HAND else None
