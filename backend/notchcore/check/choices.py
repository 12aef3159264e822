"""Choices that were left open or lost: joints that are no more, helpers that hold; and repairs for what Build found."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from notchcore.check.features import moves_for
from notchcore.design.assembly import Assembly
from notchcore.design.design import Design
from notchcore.design.edits import PanelEdit
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.styles import ABOUT, Style
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.planar import Point, Polygon
from notchcore.ids import MeetingId
from notchcore.words.facts import Count, Fact, Sentence, mm
from notchcore.words.render import say

MOST_BUTTS = 3


def orphans(assembly: Assembly, design: Design) -> tuple[Finding, ...]:
    """Return the choices of meetings that are no more; those of a panel that another one serves for wait for its return."""
    there = {m.id for m in assembly.meetings}
    served = {str(f.facts["panel"]) for f in assembly.findings if f.code == "panel_served"}
    waiting = {i for i in design.choices if served.intersection(MeetingId.parse(i).parts)}

    def says(meeting: MeetingId) -> Sentence:
        return say("orphan_choice", a=assembly.ref_of(meeting.a), b=assembly.ref_of(meeting.b))

    return (
        tuple(
            Finding(
                code="orphan_choice",
                severity=Severity.LOOK,
                facts={"feature": i},
                says=says(MeetingId.parse(i)),
                repairs=(Repair(says=say("mend.forget"), kind=RepairKind.FORGET, targets=(i,)),),
            )
            for i in sorted(set(design.choices) - there - waiting)
        )
        if assembly.parts
        else ()
    )


def helpers_that_hold(assembly: Assembly) -> tuple[Finding, ...]:
    """Return helpers that are joined to parts of the thing: they would be missing from it."""
    helper = {p.id for p in assembly.parts if p.helper}
    joined = {
        x: m.id for m in assembly.meetings if m.holds and m.style is not Style.GLUE for x, y in ((m.a, m.b), (m.b, m.a)) if x in helper and y not in helper
    }
    return tuple(
        Finding(
            code="helper_holds",
            severity=Severity.LOOK,
            parts=(p,),
            meeting=joined[p],
            says=say("helper_holds", part=assembly.ref_of(p)),
            repairs=(Repair(says=say("mend.make_part"), kind=RepairKind.PANEL, targets=(p,), values={"helper": False}),),
        )
        for p in sorted(joined)
    )


def mended(finding: Finding, assembly: Assembly, *, design: Design) -> Finding:
    """Return a finding of the design with the repairs that its code and facts offer; those it has already stay.

    What is told of an item that is joined to the design is mended by that item's own numbers and features.
    """
    design = next((i.design for i in design.guests if i.id == finding.item), design)
    offered = finding.repairs or tuple(_offered(finding, assembly, design=design))
    return finding if offered == finding.repairs else replace(finding, repairs=offered)


_Offer = Callable[[Finding, Assembly, Design], list[Repair]]


def _feature_of(f: Finding) -> str:
    return str(f.facts.get("feature", ""))


def _take_off(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    if not _feature_of(f) and f.parts:
        return [Repair(says=say("mend.own_shape"), kind=RepairKind.PANEL, targets=(f.parts[0],), values={"outline": None, "shape": None})]
    return [Repair(says=say("mend.take_off"), kind=RepairKind.DROP_FEATURE, targets=(_feature_of(f),))]


def _to_the_middle(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    return list(moves_for(_feature_of(f), design))


def _undo_all(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    return [r for p in f.parts for r in _undone(p, assembly, design=design)]


def _panel_of(part: str, assembly: Assembly) -> str:
    return next((p.panel for p in assembly.parts if p.id == part), part)


def _joined(f: Finding, style: Style) -> Repair:
    return Repair(
        says=say("mend.style", style=ABOUT[style].label.capitalize()), kind=RepairKind.CHOICE, targets=(str(f.meeting),), values={"style": style.value}
    )


def _hold_again(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    butts = [i for i, c in design.choices.items() if c.style is Style.BUTT and f.parts[0] in MeetingId.parse(i).parts]
    helper = Repair(says=say("mend.is_helper"), kind=RepairKind.PANEL, targets=(f.parts[0],), values={"helper": True})
    return [
        *(Repair(says=say("mend.joined_again"), kind=RepairKind.FORGET, targets=(i,)) for i in butts),
        *_undone(f.parts[0], assembly, design=design),
        helper,
    ]


def _open_one(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    """Straight moves need one joint fewer; crossings hold most."""
    among = [m for m in assembly.meetings if m.a in f.parts and m.b in f.parts and m.style not in (Style.BUTT, Style.REST, Style.GLUE)]
    among.sort(key=lambda m: (m.kind != "crossing", m.length, m.id))
    return [
        Repair(says=say("mend.butts", a=assembly.ref_of(m.a), b=assembly.ref_of(m.b)), kind=RepairKind.CHOICE, targets=(m.id,), values={"style": "butt"})
        for m in among[:MOST_BUTTS]
    ]


def _stronger_tab(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    meeting = next((m for m in assembly.meetings if m.id == f.meeting), None)
    if meeting is None:
        return []
    repairs = []
    if meeting.count > 1:
        says = say("mend.fewer_tabs", fewer=meeting.count - 1, now=Count(meeting.count, "tab", "tabs"))
        repairs.append(Repair(says=says, kind=RepairKind.CHOICE, targets=(meeting.id,), values={"count": meeting.count - 1, "width": None}))
    if meeting.kind == "tee":
        repairs.append(Repair(says=say("mend.whole_edge"), kind=RepairKind.CHOICE, targets=(meeting.id,), values={"style": "whole"}))
        repairs.append(Repair(says=say("mend.no_tab"), kind=RepairKind.CHOICE, targets=(meeting.id,), values={"style": "blind"}))
    return repairs


def _wider_web(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    """What lies nearest to the thin place is moved away or made less: an opening, or a joint's tabs."""
    if f.place is None:
        return []
    part = next(p for p in assembly.parts if p.id == f.place.part)
    spot = Point(f.place.x, f.place.y)
    reach = float(f.facts["least_mm"])
    near = sorted((Polygon(o.ring).distance(spot), o.feature) for o in part.openings)
    repairs = [r for d, feature in near[:1] if d <= reach for r in moves_for(feature, design)]
    joints = sorted((Polygon(j.corners).distance(spot), j.meeting) for j in part.features if j.meeting)
    for d, meeting in joints[:1]:
        if d <= reach:
            repairs += _stronger_tab(replace(f, meeting=meeting), assembly, design)
    return repairs


def _variants(f: Finding, assembly: Assembly, design: Design) -> list[Repair]:
    of = next((v for v in design.variations if v.name == f.facts.get("variation")), None)
    some = of.alternatives[:4] if of is not None else ()
    return [Repair(says=say("mend.variant", variant=a.name), kind=RepairKind.VARIANT, targets=(of.name, a.name)) for a in some if of]


_OFFERS: dict[str, _Offer] = {
    **dict.fromkeys(("feature_lost", "drawing_lost", "fold_in_stiff_sheet", "feature_too_large"), _take_off),
    **dict.fromkeys(("collision", "meeting_clash", "meeting_short", "meeting_locked", "loose_piece"), _undo_all),
    "feature_outside": _to_the_middle,
    "pieces_over_edge": _to_the_middle,
    "recess_without_rim": lambda f, a, d: [_joined(f, Style.DOWELS), _joined(f, Style.GLUE)],
    "added_panel_lost": lambda f, a, d: [Repair(says=say("mend.remove"), kind=RepairKind.DROP_ADDED, targets=(str(f.facts.get("panel", "")),))],
    "split_outside": lambda f, a, d: [Repair(says=say("mend.one_piece"), kind=RepairKind.WHOLE, targets=(f.parts[0],))],
    "split_meets_joint": lambda f, a, d: [Repair(says=say("mend.one_piece"), kind=RepairKind.WHOLE, targets=(_panel_of(f.parts[0], a),))],
    "variation_not_chosen": _variants,
    "unheld_part": _hold_again,
    "weak_tab": _stronger_tab,
    "thin_web": _wider_web,
    "locked_assembly": _open_one,
}


def _offered(f: Finding, assembly: Assembly, *, design: Design) -> list[Repair]:
    if f.code in _OFFERS:
        return _OFFERS[f.code](f, assembly, design)
    return _number(f, design) if f.field is not None else []


def _undone(part: str, assembly: Assembly, *, design: Design) -> list[Repair]:
    """Return how to take back what a person did to a panel."""
    name = assembly.ref_of(part)
    if part in {a.id for a in design.added}:
        return [Repair(says=say("mend.remove_panel", panel=name), kind=RepairKind.DROP_ADDED, targets=(part,))]
    edit = design.edits.get(part, PanelEdit())
    repairs = []
    if any(edit.move):
        repairs.append(Repair(says=say("mend.back_in_place", panel=name), kind=RepairKind.PANEL, targets=(part,), values={"move": (0.0, 0.0, 0.0)}))
    if edit.outline is not None:
        repairs.append(Repair(says=say("mend.panel_own_shape", panel=name), kind=RepairKind.PANEL, targets=(part,), values={"outline": None, "shape": None}))
    return repairs


def _number(f: Finding, design: Design) -> list[Repair]:
    about = next((n for n in numbers_of(type(design.numbers)) if n.name == f.field), None)
    least, most = f.facts.get("least_mm", f.facts.get("least")), f.facts.get("most_mm", f.facts.get("most"))
    bound = least if least is not None else most
    if about is None or not isinstance(bound, int | float) or about.kind not in (NumberKind.LENGTH, NumberKind.COUNT):
        return []
    if about.kind is NumberKind.COUNT:
        value: float = math.ceil(bound) if least is not None else math.floor(bound)
        told: Fact = str(value)
    else:  # to the next tenth that is surely enough
        value = math.ceil(bound * 10 + 0.01) / 10 if least is not None else math.floor(bound * 10 - 0.01) / 10
        told = mm(value)
    if value < about.least or value > about.most or value == getattr(design.numbers, about.name):
        return []
    return [Repair(says=say("mend.number", number=about.label, value=told), kind=RepairKind.NUMBER, targets=(about.name,), values={"value": value})]
