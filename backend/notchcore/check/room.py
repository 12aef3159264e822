"""Whether each part can be cut at all: on the machine's bed, from a sheet that is there, and not lost between the slats."""

from __future__ import annotations

import math

from notchcore.check.around import Around
from notchcore.design.assembly import Assembly, Part
from notchcore.design.edits import HOLDING, SPLIT_LAP
from notchcore.findings import Finding, Place, Repair, RepairKind, Severity
from notchcore.geom.planar import narrowest
from notchcore.geom.profile import Ring, area_of, bounds_of
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Names, mm
from notchcore.words.render import say

MARGIN: Mm = 5.0  # from a part to the end of the bed or the sheet
STEP: Mm = 2.0  # by which a place to divide is moved out of the way of a joint


def _size(part: Part) -> tuple[Mm, Mm]:
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    return x1 - x0, y1 - y0


def _fits(size: tuple[Mm, Mm], room: tuple[Mm, Mm]) -> bool:
    (w, h), (a, b) = size, (room[0] - 2 * MARGIN, room[1] - 2 * MARGIN)
    return (w <= a and h <= b) or (h <= a and w <= b)


def places_to_divide(part: Part, room: tuple[Mm, Mm]) -> tuple[Mm, ...]:
    """Return where a part is divided along its own x so that each piece fits the room; empty where that does not help.

    Places keep away from the part's joints where there is a place that does.
    """
    w, h = _size(part)
    a, b = sorted((room[0] - 2 * MARGIN, room[1] - 2 * MARGIN))
    longest = b if h <= a else a if h <= b else 0.0
    lap = SPLIT_LAP * part.t
    if longest <= 2 * lap or w <= longest:
        return ()
    pieces = math.ceil(w / (longest - lap))
    x0 = bounds_of(part.profile.outer)[0]
    taken = _standing(part, x0)
    slack = max((longest - lap - w / pieces) / 2, 0.0)
    places = []
    for k in range(1, pieces):
        ideal = w * k / pieces
        steps = [s * STEP * sign for s in range(int(slack / STEP) + 1) for sign in (1, -1)]
        free = (s for s in steps if not any(lo - lap < ideal + s < hi + lap for lo, hi in taken))
        places.append(round(ideal + next(free, 0.0), 1))
    return tuple(places)


def _standing(part: Part, x0: Mm) -> list[tuple[Mm, Mm]]:
    """Return the stretches of x in which another panel stands across: joints that run along x may be divided, these not."""
    reach: dict[str, tuple[Mm, Mm]] = {}
    for f in part.features:
        xs = [c[0] - x0 for c in f.corners]
        low, high = reach.get(f.meeting or f.id, (min(xs), max(xs)))
        reach[f.meeting or f.id] = min(low, *xs), max(high, *xs)
    return [r for r in reach.values() if r[1] - r[0] < 3 * part.t]


def too_large(assembly: Assembly, stocks: dict[str, Stock], *, around: Around) -> tuple[Finding, ...]:
    """Return parts that fit neither the bed nor any sheet of their stock on the shelf, with the offer to divide them."""
    found = []
    for part in assembly.parts:
        size = _size(part)
        sheets = around.sheets.get(part.stock, ())
        on_bed = _fits(size, around.bed)
        if part.falls_from or (on_bed and (not sheets or any(_fits(size, s) for s in sheets))):
            continue
        largest = max(sheets, key=lambda s: s[0] * s[1], default=around.bed)
        room = around.bed if not on_bed and _fits(around.bed, largest) else largest
        at = places_to_divide(part, (min(room[0], around.bed[0]), min(room[1], around.bed[1])))
        divided = Repair(says=say("mend.divide", pieces=len(at) + 1), kind=RepairKind.DIVIDE, targets=(part.id,), values={"at": at})
        repairs = (divided,) if at and not part.piece_of else ()
        says = (
            say("larger_than_bed", part=part.ref, size=mm(*size, digits=0), bed=mm(*around.bed, digits=0))
            if not on_bed
            else say("larger_than_sheet", part=part.ref, size=mm(*size, digits=0), stock=stocks[part.stock].ref)
        )
        found.append(
            Finding(
                code="larger_than_bed" if not on_bed else "larger_than_sheet",
                severity=Severity.MUST if not on_bed else Severity.LOOK,
                parts=(part.id,),
                says=says,
                facts={"width_mm": size[0], "height_mm": size[1]},
                repairs=repairs,
            )
        )
    return tuple(found)


def too_small(assembly: Assembly, stocks: dict[str, Stock], *, around: Around) -> tuple[Finding, ...]:
    """Return openings that the beam alone fills, and parts that may fall between the slats."""
    return (*_between_slats(assembly, around.slat_pitch), *_below_beam(assembly, stocks))


def _between_slats(assembly: Assembly, pitch: Mm) -> list[Finding]:
    narrow = [p for p in assembly.parts if min(_size(p)) < pitch and not p.falls_from and p.bridges < HOLDING]
    if not narrow:
        return []
    bridges = Repair(
        says=say("mend.bridges" if len(narrow) == 1 else "mend.bridges.several", bridges=HOLDING),
        kind=RepairKind.PANEL,
        targets=tuple(dict.fromkeys(p.panel for p in narrow)),
        values={"bridges": HOLDING},
    )
    return [
        Finding(
            code="part_below_slats",
            severity=Severity.LOOK,
            parts=tuple(p.id for p in narrow),
            says=say("part_below_slats", parts=Names(tuple(p.ref for p in narrow)), pitch=mm(pitch, digits=0)),
            facts={"parts": len(narrow)},
            repairs=(bridges,),
        )
    ]


def _below_beam(assembly: Assembly, stocks: dict[str, Stock]) -> list[Finding]:
    found = []
    for part in assembly.parts:
        kerf = stocks[part.stock].kerf.value
        for hole in part.profile.holes:
            around_it = sum(math.dist(a, b) for a, b in zip(hole, hole[1:] + hole[:1], strict=True))
            if 2 * abs(area_of(hole)) > kerf * around_it:
                continue  # no rectangle that narrow holds so much
            if (width := narrowest(hole)) <= kerf:
                x, y = hole[0]
                feature = next((o.feature for o in part.openings if _near(o.ring, (x, y))), "")
                repairs = (Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(feature,)),) if feature else ()
                found.append(
                    Finding(
                        code="opening_below_beam",
                        severity=Severity.LOOK,
                        parts=(part.id,),
                        place=Place(part=part.id, x=x, y=y),
                        says=say("opening_below_beam", part=part.ref, width=mm(width, digits=2), beam=mm(kerf, digits=2)),
                        facts={"width_mm": width, "feature": feature},
                        repairs=repairs,
                    )
                )
                break
    return found


def _near(corners: Ring, p: tuple[Mm, Mm]) -> bool:
    xs, ys = [c[0] for c in corners], [c[1] for c in corners]
    return min(xs) - 0.1 <= p[0] <= max(xs) + 0.1 and min(ys) - 0.1 <= p[1] <= max(ys) + 0.1
