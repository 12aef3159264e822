"""From a design to its assembly: the family's panels with a person's changes, those of the items that are joined to it, and all joints."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from notchcore.design.arrangement import Arrangement
from notchcore.design.assembly import Assembly, Meeting, Part, as_counted
from notchcore.design.cards.pieces import Card, card_assembly
from notchcore.design.carrying import carried
from notchcore.design.design import NO_DRAWINGS, Bed, Design, as_chosen
from notchcore.design.edits import PanelEdit, divided, edited
from notchcore.design.fallen import misnamed
from notchcore.design.families.registry import family_of
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.registry import Feature
from notchcore.design.features.sockets import Fitting, socket_meetings
from notchcore.design.features.values import Recess, Socket
from notchcore.design.joined import as_one_plan, named_after, placed, set_against, socket_in_item
from notchcore.design.joints.solve import solve
from notchcore.design.naming import Owner, told_of
from notchcore.design.panel import Panel
from notchcore.design.placing import standing
from notchcore.design.within import kept_within
from notchcore.errors import DesignError
from notchcore.findings import Finding, Severity
from notchcore.ids import MeetingId, in_item, item_of, meeting_in_item
from notchcore.measure.fit import NO_FITS, Fits
from notchcore.measure.stock import Stock
from notchcore.words.render import say


def arranged(
    design: Design, stocks: Mapping[str, Stock], *, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None, fits: Fits = NO_FITS
) -> Arrangement:
    """Return the panels of a design in space, before any joint is cut.

    Args:
        bed: width and height of the machine's bed, for families that divide what is longer [mm]
        fits: measured boundaries between feels, for what stands in sockets

    Raises:
        DesignError: a test card has no arrangement
    """
    if isinstance(design.numbers, Card):
        raise DesignError(say("card_not_in_space"))
    family = family_of(design.numbers)
    numbers = family.for_bed(design.numbers, bed) if family.for_bed is not None and bed is not None else design.numbers
    cut = as_chosen(design).in_prototype()
    plan = family.arrange(numbers, cut.stocks, stocks)
    if cut.guests and plan.panels:

        def alone(one: Design) -> Arrangement:
            return arranged(one, stocks, drawings=drawings, bed=bed, fits=fits)

        plan = as_one_plan(plan, joined_plans(cut, alone(replace(cut, items=())), alone=alone))
    plan = edited(plan, edits=cut.edits, added=cut.added, stocks=stocks, drawings=drawings)
    whole = carried(
        plan,
        cut.features,
        added=cut.added,
        edits=cut.edits,
        stocks=stocks,
        drawings=drawings,
        places=cut.places,
        fitting=Fitting(fits=fits, choices=design.choices),
    )
    return divided(_fallen_only(whole), cut.splits)


def joined_plans(design: Design, host: Arrangement, *, alone: Callable[[Design], Arrangement]) -> dict[str, Arrangement]:
    """Return the panels of the items that are joined to a design, or to each other, in their places and with their names in it.

    Args:
        host: the design's own
        alone: arranges a design of one item
    """
    made: dict[str, Arrangement] = {}
    left = list(design.guests)
    names = {i.id for i in left}
    while ready := [i for i in left if i.joined is not None and (i.joined.host in made or i.joined.host not in names)]:
        for item in ready:
            left.remove(item)
            own = alone(replace(item.design, prototype=design.prototype))
            if item.joined is not None and own.panels:
                there = made.get(item.joined.host, host)
                own = placed(own, set_against(there, own, joined=item.joined, turned=standing(item.turn, tip=item.tip), at=item.at))
            made[item.id] = named_after(own, Owner(id=item.id, label=item.label), feel=item.design.feel, relief=item.design.relief)
    return made


def as_one(design: Design) -> Design:
    """Return a design with what was chosen of the items that are joined to it, by the names that their parts have in it.

    For whoever asks what was chosen of a part: it is not to be arranged, since these things stand in their items' own places.
    """
    for item in design.guests:
        own, body = item.id, as_chosen(item.design)
        sockets = {f.id for f in body.features}
        choices = {(socket_in_item if MeetingId.parse(m).which in sockets else meeting_in_item)(own, m): c for m, c in body.choices.items()}
        design = replace(
            design,
            edits={in_item(own, p): e for p, e in body.edits.items()} | design.edits,
            choices=choices | design.choices,
            added=(*design.added, *(replace(a, id=in_item(own, a.id)) for a in body.added)),
            splits=(*design.splits, *(replace(s, panel=in_item(own, s.panel)) for s in body.splits)),
            features=(*design.features, *(_feature_in(own, f) for f in body.features)),
        )
    return design


def _feature_in(item: str, feature: Feature) -> Feature:
    there = replace(feature, id=in_item(item, feature.id), panel=in_item(item, feature.panel))
    return replace(there, mate=in_item(item, there.mate)) if isinstance(there, Socket | Recess) and there.mate else there


def _fallen_only(plan: Arrangement) -> Arrangement:
    """Return the arrangement in which a piece that is to fall out of a panel does so only while both are of one stock."""
    stock = {p.id: p.stock for p in plan.panels}
    kept = tuple(p if stock.get(p.falls_from) == p.stock else replace(p, falls_from="") for p in plan.panels)
    return replace(plan, panels=kept)


def build(design: Design, stocks: dict[str, Stock], *, fits: Fits = NO_FITS, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None) -> Assembly:
    """Return the assembly that a design comes to with these stocks.

    Impossible wishes give an assembly without parts and findings that name the number to change. A stock that must not be
    cut is a finding here already, where it is chosen.

    Raises:
        DesignError: a stock that the design names is not among `stocks`
    """
    design = as_chosen(design)
    missing = [s for s in design.stock_ids() if s not in stocks]
    if missing:
        raise DesignError(say("stock_off_rack"), missing=missing)
    used = [stocks[s] for s in design.stock_ids()]
    hazards = tuple(s.hazard for s in used if s.hazard is not None)
    if isinstance(design.numbers, Card):
        made = card_assembly(design.numbers, stocks[design.stocks["sheet"]], tongue=stocks[design.stocks["tongue"]])
    else:
        made = _with_joints(design, arranged(design, stocks, drawings=drawings, bed=bed, fits=fits), stocks=stocks, fits=fits)
    return replace(made, findings=(*hazards, *made.findings))


def _with_joints(design: Design, plan: Arrangement, *, stocks: Mapping[str, Stock], fits: Fits) -> Assembly:
    items = {i.id: i.label for i in design.guests}
    left_out = _left_out(design, plan)
    unchosen = (*_unchosen(design), *(told_of(f, Owner(id=i.id, label=i.label)) for i in design.guests for f in _unchosen(i.design)))
    design = as_one(design)
    if not plan.panels:
        return Assembly(parts=(), meetings=(), findings=plan.findings, left_out=left_out)
    solved = _solved(design, plan.panels, plan=plan, stocks=stocks, fits=fits)
    named = misnamed(solved.parts, {k: s.kerf.value for k, s in stocks.items()})
    lost = {p for p, host in named.items() if not host}
    if lost:  # they are parts like any other then, with a fit of their own
        solved = _solved(design, tuple(replace(p, falls_from="") if p.id in lost else p for p in plan.panels), plan=plan, stocks=stocks, fits=fits)
        solved = replace(solved, findings=(*solved.findings, *_cut_for_themselves(solved.parts, lost)))
    solved = replace(solved, parts=tuple(replace(p, falls_from=named[p.id]) if named.get(p.id) else p for p in solved.parts))
    solved = _within(solved, plan.findings)
    solved = replace(solved, findings=tuple(f for f in solved.findings if not _located(f, solved)))
    counted = (_counted(p, design.edits.get(p.panel) or design.edits.get(p.id)) for p in solved.parts)
    whose = {p.id: item_of(p.id) if item_of(p.id) in items else "" for p in solved.parts}
    parts = tuple(sorted((replace(p, item=whose[p.id]) for p in counted), key=lambda p: (as_counted(p.label), p.id)))
    sockets = socket_meetings(
        design.features, parts, panels={p.id: p for p in (*plan.ghosts, *plan.panels)}, stocks=stocks, fitting=Fitting(fits=fits, choices=design.choices)
    )
    return replace(
        solved,
        parts=parts,
        meetings=tuple(sorted((*solved.meetings, *sockets), key=lambda m: (as_counted(m.id), m.id))),
        findings=(*unchosen, *_on_the_wrong_face(parts), *plan.findings, *solved.findings, *_meeting_nothing(items, solved.meetings)),
        dimensions=plan.dimensions,
        facts=plan.facts,
        needs=plan.needs,
        rooms=plan.rooms,
        items=items,
        left_out=left_out,
    )


def _left_out(design: Design, plan: Arrangement) -> dict[str, str]:
    return {p.id: p.label for p in plan.ghosts if p.id in design.edits and design.edits[p.id].gone}


def _solved(design: Design, panels: tuple[Panel, ...], *, plan: Arrangement, stocks: Mapping[str, Stock], fits: Fits) -> Assembly:
    return solve(
        list(panels),
        ghosts=plan.ghosts,
        rules=plan.rules,
        stocks=stocks,
        choices=design.choices,
        feel=design.feel,
        fits=fits,
        relief=design.relief,
    )


def _located(finding: Finding, solved: Assembly) -> bool:
    """Tell whether two sheets that lack a line are brought to their place by a third part that goes through both."""
    if finding.code != "no_line_to_locate":
        return False
    jointed = [{m.a, m.b} for m in solved.meetings if m.clearance is not None]
    a, b = finding.parts[:2]
    return any({a, p.id} in jointed and {b, p.id} in jointed for p in solved.parts)


def _within(solved: Assembly, told: tuple[Finding, ...]) -> Assembly:
    """Return the assembly with marks that end at the edges of their parts; what was told of a feature on its panel already is not told again."""
    kept = [kept_within(p) for p in solved.parts]
    panel = {p.id: p.panel for p in solved.parts}
    known = {(panel.get(p, p), _named(f.facts.get("feature"), f.item)) for f in (*told, *solved.findings) for p in f.parts}
    found = [f for _, some in kept for f in some if (panel[f.parts[0]], f.facts.get("feature")) not in known]
    return replace(solved, parts=tuple(p for p, _ in kept), findings=(*solved.findings, *found))


def _named(feature: object, item: str) -> object:
    """Return the name of a feature in the whole: a finding of a joined item has its own."""
    return in_item(item, feature) if isinstance(feature, str) else feature


def _cut_for_themselves(parts: tuple[Part, ...], lost: set[str]) -> tuple[Finding, ...]:
    """Say which pieces do not fall out of their opening as they are wanted."""
    return tuple(Finding(code="falls_otherwise", severity=Severity.LOOK, parts=(p.id,), says=say("falls_otherwise", part=p.ref)) for p in parts if p.id in lost)


def _unchosen(design: Design) -> tuple[Finding, ...]:
    return tuple(
        Finding(
            code="variation_not_chosen",
            severity=Severity.LOOK,
            facts={"variation": v.name},
            says=say("variation_not_chosen", variation=v.name, names=", ".join(a.name for a in v.alternatives)),
        )
        for v in design.variations
        if not v.chosen
    )


def _meeting_nothing(items: Mapping[str, str], meetings: Sequence[Meeting]) -> tuple[Finding, ...]:
    """Return the items that are joined to another one and meet none of its panels."""
    met = {i for m in meetings for a, b in [(item_of(m.a), item_of(m.b))] if a != b for i in (a, b)}
    return tuple(
        Finding(code="joined_nowhere", severity=Severity.LOOK, item=i, says=say("joined_nowhere", item=name)) for i, name in items.items() if i not in met
    )


def _on_the_wrong_face(parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Return the parts that are burned from their back though a joint's place is scored on their front."""
    return tuple(
        Finding(code="reverse_and_scored", severity=Severity.MUST, parts=(p.id,), says=say("reverse_and_scored", part=p.ref))
        for p in parts
        if p.reverse and any(not m.feature and not m.back for m in p.marks)
    )


def _counted(part: Part, edit: PanelEdit | None) -> Part:
    return part if edit is None else replace(part, spares=edit.spares, helper=edit.helper, bridges=edit.bridges, reverse=edit.reverse)
