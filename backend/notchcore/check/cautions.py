"""Cautions about strength: what this program sees and cannot judge. Nothing here certifies; a qualified person and local rules do.

Thresholds are rules of thumb of the shop (docs/sources.md), made to make a person look, not to say that the rest is safe.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping

from notchcore.design.assembly import Assembly, Meeting, Part
from notchcore.design.design import Design, as_chosen
from notchcore.design.features.values import Keyhole
from notchcore.design.styles import ABOUT
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.profile import bounds_of
from notchcore.geom.slab import box_of, corners_of
from notchcore.geom.vectors import Vec3, add, cross, dot, scale, sub
from notchcore.measure.materials import MATERIALS, Give
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Sentence, mm
from notchcore.words.language import called
from notchcore.words.render import say

SAGS = 60.0  # a flat board longer than this many thicknesses bends under a load
LEVER = 10.0  # a board on one side only that reaches farther than this many thicknesses
POST = 14.0  # a brittle strip longer than this many of its widths
POST_WIDTH: Mm = 15.0
WARPS: Mm = 250.0  # a thin wooden sheet larger than this both ways
WARPS_BELOW: Mm = 4.5
BRACKET: Mm = 15.0  # from the corner to the screws of a small angle bracket, and from screw to screw
SCREW: Mm = 4.2
DOUBLED = 0.6  # share of its length over which a glued sheet makes a board thicker


def _size(part: Part) -> tuple[Mm, Mm]:
    x0, y0, x1, y1 = bounds_of(part.profile.outer)
    return x1 - x0, y1 - y0


def _caution(says: Sentence, part: Part, *repairs: Repair, **facts: float) -> Finding:
    return Finding(code=says.key, severity=Severity.LOOK, parts=(part.id,), says=says, repairs=tuple(repairs), facts=dict(facts))


def cautions(assembly: Assembly, stocks: Mapping[str, Stock], *, design: Design) -> tuple[Finding, ...]:
    """Return what to have looked at by somebody who knows, with what can be added to make it stiffer."""
    if assembly.on_line or not assembly.parts:
        return ()
    mates: defaultdict[str, list[Meeting]] = defaultdict(list)
    for m in assembly.meetings:
        if ABOUT[m.style].interlocks:
            mates[m.a].append(m)
            mates[m.b].append(m)
    parts = {p.id: p for p in assembly.parts}
    lowest = min(box_of(p.slab())[2] for p in assembly.parts)
    found = [
        _caution(say("caution_hangs", part=parts[f.panel].ref), parts[f.panel])
        for f in as_chosen(design).features
        if isinstance(f, Keyhole) and f.panel in parts
    ]
    for part in assembly.parts:
        flat = abs(part.pose.normal[2]) > 0.99
        size = _size(part)
        others = {x for m in mates[part.id] for x in (m.a, m.b) if x != part.id}
        if flat and box_of(part.slab())[2] > lowest + part.t:
            bracketed = any(o.feature.startswith("bracket") for o in part.openings)
            if len(others) == 1 and max(size) > LEVER * part.t and not bracketed:
                found.append(_cantilever(part, parts[next(iter(others))], parts=parts))
            elif len(others) > 1 and max(size) > SAGS * _doubled(part, assembly, parts=parts):
                found.append(_sags(part, size))
        material = MATERIALS[stocks[part.stock].material]
        if material.give is Give.RIGID and min(size) < POST_WIDTH and max(size) > POST * min(size):
            says = say("caution_brittle_post", part=part.ref, width=mm(min(size), digits=0), length=mm(max(size), digits=0))
            found.append(_caution(says, part, width_mm=min(size)))
        if material.give is Give.WOOD and part.t < WARPS_BELOW and min(size) > WARPS and len(others) < 3:
            found.append(_caution(say("caution_warps", part=part.ref, size=mm(*size, digits=0)), part))
    return tuple(found)


def _doubled(part: Part, assembly: Assembly, *, parts: Mapping[str, Part]) -> Mm:
    """Return a part's thickness with the sheets glued to its faces that run along most of it."""
    beside = [m.b if m.a == part.id else m.a for m in assembly.meetings if m.kind == "stack" and part.id in (m.a, m.b)]
    return part.t + sum(parts[p].t for p in beside if max(_size(parts[p])) >= DOUBLED * max(_size(part)))


def _cantilever(part: Part, holder: Part, *, parts: Mapping[str, Part]) -> Finding:
    size = _size(part)
    square = abs(dot(part.pose.normal, holder.pose.normal)) < 1e-6
    reach = math.floor(0.4 * min(size))
    gussets = [
        Repair(
            says=say("mend.gusset"),
            kind=RepairKind.GUSSET,
            targets=(part.id,),
            values={"to": holder.id, "label": called("Gusset of {panel}", panel=part.label.lower()), "stock": holder.stock, "size": float(max(reach, 8))},
        )
    ]
    if square and (holes := _bracket(part, holder)) is not None:
        gussets.append(holes)
    says = say("caution_cantilever", part=part.ref, reach=mm(max(size), digits=0), thickness=mm(part.t))
    return _caution(says, part, *(gussets if square and len(parts) > 1 else []), reach_mm=max(size))


def _bracket(part: Part, holder: Part) -> Repair | None:
    """Return two screw holes in each of two square panels, over each other for an angle bracket below the board; None without room."""
    along = cross(part.pose.normal, holder.pose.normal)
    down = scale(part.pose.normal, -1.0 if part.pose.normal[2] > 0 else 1.0)
    far = corners_of(part.slab())
    side = max((holder.pose.normal, scale(holder.pose.normal, -1.0)), key=lambda n: max(dot(sub(c, holder.pose.origin), n) for c in far))
    face = holder.high if dot(side, holder.pose.normal) > 0 else -holder.low
    below = part.high if dot(down, part.pose.normal) > 0 else -part.low
    mine, others = [dot(c, along) for c in far], [dot(c, along) for c in corners_of(holder.slab())]
    low, high = max(min(mine), min(others)), min(max(mine), max(others))
    if high - low < 4 * BRACKET:
        return None

    def point(out: Mm, down_by: Mm) -> Vec3:
        """The middle of the common line, `out` from the holder's face and `down_by` below the board."""
        a = scale(side, dot(holder.pose.origin, side) + face + out)
        b = scale(down, dot(part.pose.origin, down) + below + down_by)
        return add(add(a, b), scale(along, (low + high) / 2))

    def on(panel: Part, at: Vec3) -> tuple[float, float, float, float]:
        x0, y0, x1, y1 = bounds_of(panel.profile.outer)
        x, y = panel.pose.to_plane(at)
        return x - (x0 + x1) / 2, y - (y0 + y1) / 2, dot(along, panel.pose.x), dot(along, panel.pose.y)

    return Repair(
        says=say("mend.bracket"),
        kind=RepairKind.HOLES,
        targets=(part.id,),
        values={"to": holder.id, "at": on(part, point(BRACKET, 0.0)), "at_to": on(holder, point(0.0, BRACKET)), "diameter": SCREW, "pitch": BRACKET},
    )


def _sags(part: Part, size: tuple[Mm, Mm]) -> Finding:
    x0, y0, _, _ = bounds_of(part.profile.outer)
    along = size[0] >= size[1]
    w, h = (0.7 * size[0], 0.3 * size[1]) if along else (0.3 * size[0], 0.7 * size[1])
    below = part.pose.normal[2] > 0  # the back looks down then
    plate = Repair(
        says=say("mend.doubler"),
        kind=RepairKind.PLATE,
        targets=(part.id,),
        values={
            "label": called("Doubler of {panel}", panel=part.label.lower()),
            "stock": part.stock,
            "back": below,
            "x": round(x0 + (size[0] - w) / 2, 2),
            "y": round(y0 + (size[1] - h) / 2, 2),
            "width": round(w, 2),
            "height": round(h, 2),
        },
    )
    says = say("caution_sags", part=part.ref, span=mm(max(size), digits=0), thickness=mm(part.t))
    return _caution(says, part, plate, span_mm=max(size))
