"""Whether what is cut into and burned on the panels can be so: clear of joints and folds, large enough to read, on the face that shows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from notchcore.check.around import Around
from notchcore.design import lettering
from notchcore.design.assembly import Assembly, Part
from notchcore.design.design import Design, as_chosen
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.registry import FEATURES
from notchcore.design.features.values import Anchor, Artwork, Burned, Face, Text
from notchcore.findings import Finding, Place, Repair, RepairKind, Severity
from notchcore.geom import fonts
from notchcore.geom.planar import Polygon, holds, lines_in
from notchcore.geom.profile import Ring, bounds_of
from notchcore.geom.slab import corners_of
from notchcore.geom.vectors import add, dot, scale, sub
from notchcore.measure.engraving import depth_finding
from notchcore.measure.machine import Operation
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Fact, Kind, Ref, mm
from notchcore.words.language import called
from notchcore.words.render import say

LEAST_CAP: Mm = 2.5  # of engraved or scored letters
STROKE = 0.12  # how wide the strokes of the typefaces are, as a share of their capitals
OVERLAP = 0.01  # [mm2]
TOUCH = 0.03  # [mm] that a burned area lies from a joint's gap where it was cut off there
FLAWS = ("open_lines", "tiny_lines", "crosses_itself")  # of drawings
PARALLEL = 0.5  # a sheet less square to the line of sight than this hides nothing
IN_FRONT = 0.98  # share of the assembly on one side of a panel that makes that side the inside


def moves_for(feature: str, design: Design) -> tuple[Repair, ...]:
    """Return how to get a feature out of the way: to the panel's middle unless it stands there, or off."""
    f = next((x for x in design.features if x.id == feature), None)
    off = Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(feature,))
    if f is None or (f.anchor is Anchor.CENTRE and f.x == 0 and f.y == 0):
        return (off,)
    return Repair(says=say("mend.to_middle"), kind=RepairKind.FEATURE, targets=(feature,), values={"anchor": "centre", "x": 0.0, "y": 0.0}), off


def named(feature: str, design: Design) -> str:
    """Return what a person calls a feature: its words, or its kind."""
    f = next((f for f in design.features if f.id == feature), None)
    if isinstance(f, Text):
        return f"“{f.words}”"
    kind = next((k.label.partition(",")[0] for k in FEATURES if f is not None and isinstance(f, k.type)), called("something"))
    return called("The {feature}", feature=f"{kind[0].lower()}{kind[1:]}")


def across_joints(assembly: Assembly, design: Design) -> tuple[Finding, ...]:
    """Return features whose opening, or whose burned lines, lie over a joint's cut, and openings over a fold."""
    found = []
    for part in assembly.parts:
        done: set[str] = set()
        areas = [(o.feature, o.ring, "cuts into") for o in part.openings]
        burned = [m for m in part.marks if m.feature and m.closed and len(m.line) > 2]
        areas += [(m.feature, m.line, "is burned over") for m in burned]
        cuts = [Polygon(f.corners) for f in part.features if f.is_cut] if areas else []
        for feature, ring, does in areas:
            shape = Polygon(ring).buffer(0)
            if feature in done:
                continue
            over = next((c for c in cuts if shape.intersection(c).area > OVERLAP), None)
            if over is None and does != "cuts into":  # what was burned over a gap of a joint ends at its edge by now
                over = next((c for c in cuts if shape.buffer(TOUCH).intersection(c).area > TOUCH**2), None)
            folded = does == "cuts into" and any(lines_in(shape, a, end=b) for a, b in part.folds)
            if over is None and not folded:
                continue
            done.add(feature)
            spot = (shape.buffer(TOUCH).intersection(over) if over is not None else shape).representative_point()
            code, repairs = (
                ("feature_across_joint", moves_for(feature, design)) if over is not None else ("feature_across_fold", moves_for(feature, design)[-1:])
            )
            named_so: dict[str, Fact] = {"feature": Ref(Kind.FEATURE, feature, named(feature, design)), "part": part.ref}
            burned_over = over is not None and does != "cuts into"
            found.append(
                Finding(
                    code=code,
                    severity=Severity.LOOK,
                    parts=(part.id,),
                    place=Place(part=part.id, x=spot.x, y=spot.y),
                    facts={"feature": feature},
                    repairs=repairs,
                    says=say("feature_across_joint.burned", **named_so) if burned_over else say(code, **named_so),
                )
            )
    return tuple(found)


def small_texts(assembly: Assembly, stocks: Mapping[str, Stock], *, design: Design) -> tuple[Finding, ...]:
    """Return texts that soot or the beam makes unreadable."""
    found = []
    parts = {p.id: p for p in assembly.parts}
    for f in as_chosen(design).features:
        if not isinstance(f, Text) or f.panel not in parts:
            continue
        kerf = stocks[parts[f.panel].stock].kerf.value
        outline = f.face is not Face.STROKE
        least = max(LEAST_CAP if f.burned is not Burned.CUT else 0.0, kerf / STROKE if outline else 0.0)
        if f.cap >= least - 1e-9:
            continue
        wanted = round(least + 0.05, 1)
        found.append(
            Finding(
                code="text_too_small",
                severity=Severity.LOOK,
                parts=(f.panel,),
                facts={"feature": f.id, "least_mm": wanted},
                says=say("text_too_small", words=f.words, part=parts[f.panel].ref, height=mm(f.cap), least=mm(wanted)),
                repairs=(
                    Repair(says=say("mend.high", height=mm(wanted)), kind=RepairKind.FEATURE, targets=(f.id,), values={"cap": wanted}),
                    Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(f.id,)),
                ),
            )
        )
    return tuple(found)


def lacking_letters(assembly: Assembly, design: Design) -> tuple[Finding, ...]:
    """Return texts with letters that their typeface has not."""
    parts = {p.id: p for p in assembly.parts}
    found = []
    for f in as_chosen(design).features:
        if not isinstance(f, Text) or f.panel not in parts or not (lacking := _lacking(f.words, f.face)):
            continue
        others = [(face, key) for face, key in ((Face.SANS, "mend.plain_letters"), (Face.SERIF, "mend.serifs")) if not _lacking(f.words, face)]
        found.append(
            Finding(
                code="letters_lacking",
                severity=Severity.LOOK,
                parts=(f.panel,),
                facts={"feature": f.id},
                says=say("letters_lacking", words=f.words, part=parts[f.panel].ref, letters=" ".join(lacking)),
                repairs=(
                    *(Repair(says=say(key), kind=RepairKind.FEATURE, targets=(f.id,), values={"face": face.value}) for face, key in others),
                    Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(f.id,)),
                ),
            )
        )
    return tuple(found)


def _lacking(words: str, face: Face) -> str:
    return lettering.letters_lacking(words) if face is Face.STROKE else fonts.letters_lacking(words, serif=face is Face.SERIF)


def flawed_artwork(assembly: Assembly, design: Design, *, drawings: Mapping[str, Drawing]) -> tuple[Finding, ...]:
    """Return drawings from files that are cut out, or outline a panel, and have open, crossing or tiny lines."""
    there = as_chosen(design)
    cut = [(f.drawing, f.panel) for f in there.features if isinstance(f, Artwork) and Burned.CUT in dict(f.layers).values()]
    cut += [(e.outline.drawing, panel) for panel, e in there.edits.items() if e.outline is not None and not e.gone]
    return tuple(
        Finding(
            code="artwork_flawed",
            severity=Severity.LOOK,
            parts=(panel,),
            facts={"drawing": drawing},
            says=say("artwork_flawed", part=assembly.ref_of(panel), note=note.says),
        )
        for drawing, panel in dict.fromkeys(cut)
        if drawing in drawings
        for note in drawings[drawing].notes
        if note.code in FLAWS
    )


def too_deep(assembly: Assembly, design: Design, *, around: Around) -> tuple[Finding, ...]:
    """Return panels whose engraving leaves too little of the sheet, as far as its depth was measured on a step card."""
    found = []
    burned = {f.id for f in design.features if hasattr(f, "burned")}
    for part in assembly.parts:
        deep = {m.feature: m for m in reversed(part.marks) if m.operation is Operation.ENGRAVE and m.closed and m.feature}
        for feature, mark in deep.items():
            depth = mark.depth or (mark.beam.passes * mark.beam.depth if mark.beam else around.depths.get(part.stock, 0.0))
            warned = depth_finding(depth, part.t)
            if warned is None:
                continue
            light = Repair(says=say("mend.score_outline"), kind=RepairKind.FEATURE, targets=(feature,), values={"burned": "score"})
            off = Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(feature,))
            x0, y0, x1, y1 = bounds_of(mark.line)
            found.append(
                replace(
                    warned,
                    parts=(part.id,),
                    facts={**warned.facts, "feature": feature},
                    place=Place(part=part.id, x=(x0 + x1) / 2, y=(y0 + y1) / 2),
                    says=say("engraved_too_deep", part=part.ref, note=warned.says),
                    repairs=(light, off) if feature in burned else (off,),
                )
            )
    return tuple(found)


def _share_in_front(part: Part, others: list[Part]) -> float:
    """Return how much of the other parts lies before a part's front face, 0..1."""
    front = back = 0.0
    for other in others:
        heights = [dot(part.pose.normal, sub(c, part.pose.origin)) for c in corners_of(other.slab())]
        front += max(max(heights) - part.high, 0.0)
        back += max(part.low - min(heights), 0.0)
    return front / (front + back) if front + back > 0 else 0.5


def _faced(part: Part, line: Ring, *, others: list[Part]) -> bool:
    """Tell whether another sheet stands before what is burned or lies there, so that nobody can look at it."""
    x0, y0, x1, y1 = bounds_of(line)
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    spot, n = part.pose.to_world(middle, part.high), part.pose.normal
    for other in others:
        across = dot(n, other.pose.normal)
        if abs(across) < PARALLEL:
            continue
        away = dot(sub(other.pose.origin, spot), other.pose.normal) / across
        if away > 0 and holds(other.profile.outer, other.pose.to_plane(add(spot, scale(n, away)))):
            return True
    return False


def _lying_on(part: Part, assembly: Assembly) -> list[tuple[str, Ring, str]]:
    """Return the pieces that a feature lays on the front of a part: the feature, the outline in the part's plane, and the piece."""
    met = {m.b if m.a == part.id else m.a for m in assembly.meetings if m.kind == "stack" and part.id in (m.a, m.b)}
    lying = [p for p in assembly.parts if p.laid_by and p.id in met and dot(p.pose.normal, part.pose.normal) > 0]
    return [(p.laid_by, tuple(part.pose.to_plane(p.pose.to_world(c)) for c in p.profile.outer), p.id) for p in lying]


def wrong_faces(assembly: Assembly, design: Design) -> tuple[Finding, ...]:
    """Return panels whose burned face looks into the thing, where nobody sees it."""
    found = []
    for part in assembly.parts:
        lying = [] if part.laid_by else _lying_on(part, assembly)
        shown = [(m.feature, m.line) for m in part.marks if m.feature and not m.back] + [(f, line) for f, line, _ in lying]
        others = [p for p in assembly.parts if p.id != part.id and p.id not in {piece for _, _, piece in lying}]
        if not shown or len(others) < 2 or part.panel in {s.panel for s in design.splits}:
            continue
        if _share_in_front(part, others) < IN_FRONT or not _faced(part, shown[0][1], others=others):
            continue
        turned = part.id in design.edits and design.edits[part.id].turned
        found.append(
            Finding(
                code="wrong_face",
                severity=Severity.LOOK,
                parts=(part.id,),
                facts={"feature": shown[0][0]},
                says=say("wrong_face", part=part.ref),
                repairs=(Repair(says=say("mend.turn_over"), kind=RepairKind.PANEL, targets=(part.id,), values={"turned": not turned}),),
            )
        )
    return tuple(found)
