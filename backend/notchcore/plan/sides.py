"""Which runs a sheet needs: one where all is burned from above; two where the other face is burned or cut too.

Swapped    the sheet stays; parts are turned over in their holes, and what is on their other face is burned there
Turned     the back first, with registration marks through the sheet; then the sheet is turned over, found by its marks, and the front is burned
           and cut, so that the face that is seen most agrees with its outline best
Thick      passes are shared out over both sides of a sheet that one side alone does not part; together they reach a tenth deeper than the sheet
Printed    what would be engraved is printed elsewhere with the marks; the cut follows the marks as found
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from notchcore.design.assembly import Part
from notchcore.findings import Finding, Severity
from notchcore.geom.contours import ring_contours, sampled
from notchcore.geom.profile import Circle, Ring
from notchcore.geom.rigid import Rigid
from notchcore.geom.vectors import Vec2
from notchcore.ids import CopyId, PathId
from notchcore.measure.machine import Beam, Machine, Operation
from notchcore.nest.values import SheetLayout
from notchcore.plan.choices import PlanChoices, SecondSide, Turn
from notchcore.plan.paths import REGISTRATION, CutPath, moved_path
from notchcore.plan.registration import RADIUS, mark_places, mismatch
from notchcore.plan.swap import PartTurn, Swap, outline_at, swap_of
from notchcore.units import Mm
from notchcore.words.facts import Places, Sentence
from notchcore.words.render import say

DEEPER = 0.1  # of the thickness, by which passes from both sides reach over each other
CUTS = (Operation.INNER, Operation.OUTER)


class Side(StrEnum):
    """Which face of a sheet lies up."""

    FRONT = "front"
    BACK = "back"


class LayKind(StrEnum):
    """How a sheet comes to lie for a run."""

    FRESH = "fresh"  # as it comes from the shelf
    TURNED = "turned"  # turned over since the run before, found by its marks
    SWAPPED = "swapped"  # it stays; its parts are turned over in their holes
    PRINTED = "printed"  # fresh, found by printed marks


@dataclass(frozen=True, slots=True, kw_only=True)
class Lay:
    """How a sheet lies for a run, and how well that agrees with what was burned before."""

    kind: LayKind = LayKind.FRESH
    turn: Turn | None = None  #: how it was turned over
    marks: tuple[Vec2, ...] = ()  #: where the marks are to be looked for
    turns: tuple[PartTurn, ...] = ()
    mismatch: Mm = 0.0  #: between this run and the one before, at the worst place, at 95 %
    why: Sentence | None = None  #: why it is done this way
    words: Sentence | None = None  #: what to do before the run; None where the sheet just lies as it comes


@dataclass(frozen=True, slots=True, kw_only=True)
class SideRun:
    """One run over a sheet: its outline as it lies, and everything that is burned."""

    side: Side
    lay: Lay
    ring: Ring
    name: str = ""  #: tells it from the sheet's other run
    printed: tuple[CutPath, ...] = ()  #: what is printed instead of burned
    outlines: tuple[Ring, ...] = ()  #: of parts as they lie, where the run does not cut them
    paths: tuple[CutPath, ...]


def shared_passes(beam: Beam, t: Mm) -> tuple[int, int]:
    """Return how many passes are cut from the back and from the front, so that together they reach a tenth deeper than the sheet.

    The depth of one pass is measured where a step card told it, else the sheet's thickness over the passes that part it from one side.
    """
    each = beam.depth or t / beam.passes
    total = max(2, math.ceil(t * (1 + DEEPER) / each - 1e-9))
    return total // 2, total - total // 2


def turning(turn: Turn, width: Mm, *, height: Mm) -> Rigid:
    """Return where things of a sheet are after it was turned over and laid into the same corner."""
    return Rigid(mirrored=True, x=width) if turn is Turn.SIDEWAYS else Rigid(cos=-1.0, mirrored=True, y=height)


def _without(paths: Sequence[CutPath], left_out: Sequence[Operation]) -> tuple[CutPath, ...]:
    return tuple(p for p in paths if p.operation not in left_out)


def _mark_paths(marks: Sequence[Vec2], passes: int) -> list[CutPath]:
    return [
        CutPath(
            id=str(PathId(CopyId(REGISTRATION, i), "mark")),
            part=REGISTRATION,
            copy=i,
            operation=Operation.INNER,
            passes=passes,
            contour=ring_contours(Circle(x=x, y=y, radius=RADIUS)),
        )
        for i, (x, y) in enumerate(marks)
    ]


def _no_room(layout: SheetLayout, what: Sentence) -> Finding:
    return Finding(code="no_room_for_marks", severity=Severity.MUST, says=say("no_room_for_marks", layout=layout.name, what=what))


def _turned(
    layout: SheetLayout,
    up: Sequence[CutPath],
    *,
    down: Sequence[CutPath],
    marks: tuple[Vec2, ...],
    choices: PlanChoices,
    machine: Machine,
    beam: Beam,
    t: Mm,
    why: Sentence,
) -> list[SideRun]:
    thick = layout.stock in choices.thick
    back_passes, front_passes = shared_passes(beam, t)
    to = turning(choices.turn, layout.width, height=layout.height)
    first = [*down, *_mark_paths(marks, back_passes + front_passes if thick else 0)]
    if thick:
        first += [replace(p, id=f"{p.id}-back", passes=back_passes, through=False) for p in up if p.operation in CUTS]
        up = [replace(p, passes=front_passes) if p.operation in CUTS else p for p in up]
    places = [q for p in (*up, *down) for q in sampled(p.contour, sag=0.5)]
    over = say("over.page" if choices.turn is Turn.SIDEWAYS else "over.top")
    words = say("lay.turned", over=over, marks=len(marks), places=Places(marks))
    turn = Lay(kind=LayKind.TURNED, turn=choices.turn, marks=marks, mismatch=mismatch(marks, places, position_sd=machine.position_sd), why=why, words=words)
    begin = Lay(why=why, words=say("lay.back", marks=len(marks)))
    back = SideRun(
        side=Side.BACK,
        lay=begin,
        ring=tuple(reversed(tuple(map(to, layout.ring)))),
        paths=tuple(moved_path(p, to) for p in first),
        name="back",
        outlines=() if thick else tuple(tuple(map(to, sampled(p.contour))) for p in up if p.operation is Operation.OUTER),
    )
    return [back, SideRun(side=Side.FRONT, lay=turn, ring=layout.ring, paths=tuple(up), name="front")]


def _swap(layout: SheetLayout, paths: Sequence[CutPath], *, down: Sequence[CutPath], parts: Mapping[str, Part], choices: PlanChoices) -> Swap:
    if choices.second is not SecondSide.AUTO:
        return Swap(why_not=say("not_swapped.chosen"))
    if Operation.OUTER in choices.skip:
        return Swap(why_not=say("not_swapped.skipped"))
    if any(p.left_out for p in paths):
        return Swap(why_not=say("not_swapped.shared"))
    return swap_of(layout.placements, parts, needed={(p.part, p.copy) for p in down})


def _swapped(layout: SheetLayout, up: Sequence[CutPath], *, down: Sequence[CutPath], swap: Swap, kerf: Mm, machine: Machine, holed: bool) -> list[SideRun]:
    moves = {(t.part, t.copy): t.move for t in swap.turns}
    why = say("lay.stays")
    # A part lies in its hole with one beam's width of play to either side, both ways.
    words = say("lay.swapped.holed" if holed else "lay.swapped")
    lay = Lay(kind=LayKind.SWAPPED, turns=swap.turns, mismatch=kerf * math.sqrt(2) + 2 * machine.position_sd, why=why, words=words)
    second = tuple(moved_path(p, moves[p.part, p.copy]) for p in down)
    there = tuple(sampled(p.contour) for p in up if p.operation is Operation.OUTER and (p.part, p.copy) in moves)
    return [
        SideRun(side=Side.FRONT, lay=Lay(), ring=layout.ring, paths=tuple(up), name="first faces"),
        SideRun(side=Side.FRONT, lay=lay, ring=layout.ring, paths=second, name="other faces", outlines=there),
    ]


def side_runs(
    layout: SheetLayout, paths: Sequence[CutPath], *, parts: Mapping[str, Part], choices: PlanChoices, machine: Machine, beam: Beam, kerf: Mm, t: Mm
) -> tuple[list[SideRun], list[Finding]]:
    """Return the runs of a sheet in order, and what stops one.

    Args:
        paths: everything on it as it is seen from above, see `placed_paths`
        beam: that cuts this stock
        kerf: full width of the beam [mm]
        t: thickness [mm]
    """
    bed = (machine.bed_width, machine.bed_height)
    taken = [*(outline_at(parts[p.part], p) for p in layout.placements), *layout.bad]
    up = _without([p for p in paths if not p.down], choices.skip)
    down = _without([p for p in paths if p.down], choices.skip) if choices.second is not SecondSide.NONE else ()
    if layout.stock in choices.printed:
        marks = mark_places(layout.ring, bed, taken=taken)
        printed = tuple(p for p in up if p.operation is Operation.ENGRAVE)
        up = _without(up, (Operation.ENGRAVE,))
        places = [q for p in up for q in sampled(p.contour, sag=0.5)]
        lay = Lay(
            kind=LayKind.PRINTED,
            marks=marks,
            mismatch=mismatch(marks, places, position_sd=machine.position_sd) if marks else 0.0,
            why=say("lay.follows_print"),
            words=say("lay.printed", marks=len(marks), places=Places(marks)),
        )
        found = [] if marks else [_no_room(layout, say("no_room_for_marks.print"))]
        return [SideRun(side=Side.FRONT, lay=lay, ring=layout.ring, paths=up, printed=printed)], found
    thick = layout.stock in choices.thick
    if not down and not (thick and any(p.operation in CUTS for p in up)):
        return [SideRun(side=Side.FRONT, lay=Lay(), ring=layout.ring, paths=up)], []
    why = say("lay.both_sides")
    if not thick:
        swap = _swap(layout, paths, down=down, parts=parts, choices=choices)
        if swap.turns:
            holed = any(parts[t.part].profile.holes for t in swap.turns)
            return _swapped(layout, up, down=down, swap=swap, kerf=kerf, machine=machine, holed=holed), []
        why = say("lay.not_swapped", why=swap.why_not) if swap.why_not else why
    marks = mark_places(layout.ring, bed, taken=taken)
    if not marks:
        return [SideRun(side=Side.FRONT, lay=Lay(), ring=layout.ring, paths=up)], [_no_room(layout, say("no_room_for_marks.back"))]
    return _turned(layout, up, down=down, marks=marks, choices=choices, machine=machine, beam=beam, t=t, why=why), []
