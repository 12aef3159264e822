"""What a person changes about single panels, on top of what the family arranges.

Edits are kept by panel id, so they survive changes of size; added panels are described by what they stand between, lie
on or copy, so they follow too. Nothing here is drawn: panels are moved, turned, copied, divided, and joints follow.

PanelEdit   stock, place, show face, grain, copies of one panel, or that it is left out
Between     a new panel from one panel to another, square to both or sloping
OnFace      a new panel that lies on the face of another, or stands off from it on spacers
CopyOf      a panel again, moved or mirrored
Brace       a sheet across the corner of two panels
Wall        a sheet on an edge of another
Upright     a sheet that stands on a line of another's face
Slat        a sheet across the room between several
Gusset      a corner plate between two panels that stand square to each other
Split       a panel divided in two
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from notchcore.design import between as betweens
from notchcore.design import braces
from notchcore.design.arrangement import Arrangement
from notchcore.design.between import Axis, Between, between
from notchcore.design.braces import Brace, brace
from notchcore.design.features.drawing import Drawing
from notchcore.design.gussets import Gusset, gusset
from notchcore.design.numbers import scaled_numbers
from notchcore.design.outlines import REACH, PanelOutline, PanelShape, outlined, shaped
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.design.plates import OnFace, of_plate, plate
from notchcore.design.slats import Slat, slat
from notchcore.design.splits import split
from notchcore.design.styles import Style
from notchcore.design.turning import Tilt, across, tilted, turned_over
from notchcore.design.uprights import Upright, upright
from notchcore.design.walls import Wall, wall
from notchcore.errors import DesignError, require
from notchcore.findings import Finding, Severity
from notchcore.geom.profile import bounds_of
from notchcore.geom.vectors import Vec2, Vec3, add, scale
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Kind, Ref, mm
from notchcore.words.render import say

MOST_COPIES = 200
MOST_BRIDGES = 12
STEEPEST = 85.0  # [degrees] that a panel is tipped or swung
AS_ARRANGED = Tilt()
HOLDING = 2  # bridges that keep a part in its sheet
SPLIT_LAP = 3.0  # thicknesses by which both sides of a split reach over each other


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelEdit:
    """What is other about one panel."""

    stock: str | None = None
    label: str | None = None
    gone: bool = False
    move: Vec3 = (0.0, 0.0, 0.0)
    tilt: Tilt = AS_ARRANGED
    turned: bool = False  #: its other face is the show face
    across: bool = False  #: its grain runs the other way
    copies: int = 1  #: how many times what the family has of it
    spares: int = 0  #: more of it, in case one is spoiled
    helper: bool = False  #: a jig or spacer for putting together, not part of the thing
    bridges: int = 0  #: stretches of its outer cut that the beam leaves, so that it stays in its sheet
    reverse: bool = False  #: what is put on its face is burned on its back, mirrored, to be seen through a clear sheet
    outline: PanelOutline | None = None  #: a shape of its own from a drawing, instead of the family's
    shape: PanelShape | None = None  #: a plain shape of its own; a drawing's goes before it

    def __post_init__(self) -> None:
        require("copies", self.copies, least=1, most=MOST_COPIES, unit="")
        require("spares", self.spares, least=0, most=MOST_COPIES, unit="")
        require("bridges", self.bridges, least=0, most=MOST_BRIDGES, unit="")
        _near(move=self.move)
        for name, most in (("tip", STEEPEST), ("swing", STEEPEST), ("spin", 180.0)):
            require("the angle", getattr(self.tilt, name), least=-most, most=most, unit="°")


def _near(**places: Mm | tuple[Mm, ...]) -> None:
    """Refuse places farther away than anything is made, and what is no number at all."""
    for name, place in places.items():
        for value in place if isinstance(place, tuple) else (place,):
            require(name, value, least=-REACH, most=REACH)


@dataclass(frozen=True, slots=True, kw_only=True)
class CopyOf:
    """A panel again: moved, mirrored at a plane square to an axis, or turned about a line along one."""

    kind: Literal["copy"] = "copy"
    id: str
    label: str
    of: str
    move: Vec3 = (0.0, 0.0, 0.0)
    mirror: Axis | None = None
    about: Mm = 0.0  #: where the mirror stands on its axis
    round: Axis | None = None
    turn: float = 0.0  #: against the clock, looking against that axis [degrees]
    centre: Vec3 = (0.0, 0.0, 0.0)  #: a place on the line that it is turned about

    def __post_init__(self) -> None:
        _near(move=self.move, about=self.about, centre=self.centre)
        require("the angle", self.turn, least=-360.0, most=360.0, unit="°")

    @property
    def mates(self) -> tuple[str, ...]:
        return (self.of,)

    @property
    def lengths(self) -> Mapping[str, str]:
        return {}  # it is as large as its original

    def scaled(self, k: float) -> CopyOf:
        return replace(self, move=scale(self.move, k), about=self.about * k, centre=scale(self.centre, k))


@dataclass(frozen=True, slots=True, kw_only=True)
class Split:
    """A panel divided where x (its own, from its left end) is `at` [mm]."""

    panel: str
    at: Mm
    scarf: bool = False

    def __post_init__(self) -> None:
        _near(at=self.at)


Added = Between | OnFace | CopyOf | Gusset | Brace | Wall | Upright | Slat
OnSeen = OnFace | Upright  #: what counts from what is seen of its host, and waits until that is known


def restocked(item: Added, swap: Callable[[str], str]) -> Added:
    """Return an added panel of another stock; a copy is of its original's."""
    return item if isinstance(item, CopyOf) else replace(item, stock=swap(item.stock))


def scaled_edit(edit: PanelEdit, k: float) -> PanelEdit:
    """Return an edit with its places and sizes multiplied."""
    o = edit.outline
    outline = None if o is None else replace(o, width=o.width * k, x=o.x * k, y=o.y * k)
    s = edit.shape
    shape = None if s is None else replace(s, numbers=scaled_numbers(s.numbers, k), x=s.x * k, y=s.y * k)
    return replace(edit, move=(edit.move[0] * k, edit.move[1] * k, edit.move[2] * k), outline=outline, shape=shape)


def edited(
    plan: Arrangement, *, edits: Mapping[str, PanelEdit], added: tuple[Added, ...], stocks: Mapping[str, Stock], drawings: Mapping[str, Drawing]
) -> Arrangement:
    """Return the arrangement with a person's changes, without copies, plates and what stands on things to come (see `carrying`).

    Raises:
        DesignError: two added panels have one name
    """
    if not plan.panels:
        return plan
    names = [a.id for a in added]
    if len(set(names)) != len(names) or set(names) & {p.id for p in plan.panels}:
        raise DesignError(say("two_panels_of_one_name"))
    findings = list(plan.findings)
    panels: dict[str, Panel] = {}
    family = {p.id: p for p in plan.panels}
    for p in plan.panels:
        panels[p.id] = changed(p, edits.get(p.id), others=family, stocks=stocks, drawings=drawings, findings=findings, rules=plan.rules)
    ghosts = {p.id: p for p in plan.panels if p.id in edits and edits[p.id].gone}
    for item in added:
        if isinstance(item, CopyOf | OnSeen) or waits(item, {**panels, **ghosts}):
            continue
        stood(item, added, panels=panels, ghosts=ghosts, edits=edits, stocks=stocks, drawings=drawings, findings=findings, rules=plan.rules)
    ghosts |= {k: p for k, p in panels.items() if left_out(k, edits)}
    panels = {k: p for k, p in panels.items() if k not in ghosts}
    return replace(plan, panels=tuple(panels.values()), ghosts=(*plan.ghosts, *ghosts.values()), findings=tuple(findings))


def changed(
    panel: Panel,
    edit: PanelEdit | None,
    *,
    others: Mapping[str, Panel],
    stocks: Mapping[str, Stock],
    drawings: Mapping[str, Drawing],
    findings: list[Finding],
    rules: Sequence[MeetingRule] = (),
) -> Panel:
    """Return a panel with what a person changed about it.

    Args:
        rules: pairs that only rest against each other hide nothing of each other
    """
    if edit is not None and edit.outline is not None:
        panel = outlined(panel, edit.outline, panels=others, drawings=drawings, findings=findings, rules=rules)
    elif edit is not None and edit.shape is not None:
        stock = stocks[edit.stock] if edit.stock is not None and edit.stock in stocks else stocks[panel.stock]
        panel = shaped(panel, edit.shape, panels=others, web=minimum_web(MATERIALS[stock.material], stock.t), findings=findings, rules=rules)
    return _edited(panel, edit, stocks=stocks, others=others)


def divided(plan: Arrangement, splits: tuple[Split, ...]) -> Arrangement:
    """Return the arrangement with panels divided, each piece a panel of its own with what is burned on it."""
    panels, ghosts = {p.id: p for p in plan.panels}, {p.id: p for p in plan.ghosts}
    rules, findings = list(plan.rules), list(plan.findings)
    for cut in sorted(splits, key=lambda s: (s.panel, s.at)):
        _divide(cut, panels, ghosts=ghosts, rules=rules, findings=findings)
    return replace(plan, panels=tuple(panels.values()), ghosts=tuple(ghosts.values()), rules=tuple(rules), findings=tuple(findings))


def _edited(panel: Panel, edit: PanelEdit | None, *, stocks: Mapping[str, Stock], others: Mapping[str, Panel]) -> Panel:
    if edit is None:
        return panel
    if edit.stock is not None and edit.stock in stocks:
        stock = stocks[edit.stock]
        panel = replace(panel, stock=stock.id, t=stock.t, layout_t=stock.layout_t)
    if edit.label:
        panel = replace(panel, label=edit.label[:60])
    if any(edit.move):
        panel = replace(panel, pose=replace(panel.pose, origin=add(panel.pose.origin, edit.move)))
    if edit.tilt:
        panel = tilted(panel, edit.tilt, mates=others)
    if edit.turned:
        panel = turned_over(panel)
    if edit.across:
        panel = across(panel)
    return replace(panel, copies=panel.copies * edit.copies)


def lost(item: Added, panels: Mapping[str, Panel]) -> Finding:
    """Say that an added panel is left out because what it stands on is gone, or ends before it."""
    beyond = braces.beyond(item, panels) if isinstance(item, Brace) else betweens.beyond(item, panels) if isinstance(item, Between) else None
    return Finding(
        code="added_panel_lost",
        severity=Severity.LOOK,
        facts={"panel": item.id},
        says=say("added_panel_lost", panel=Ref(Kind.PART, item.id, item.label), what=beyond or say(f"stood_on.{item.kind}")),
    )


def waits(item: Added, panels: Mapping[str, Panel]) -> bool:
    """Tell whether what an added panel stands on is not there yet: a copy, or a piece that falls out of an opening."""
    return any(mate not in panels for mate in item.mates)


def stood(
    item: Added,
    added: Sequence[Added],
    *,
    panels: dict[str, Panel],
    ghosts: Mapping[str, Panel],
    edits: Mapping[str, PanelEdit],
    stocks: Mapping[str, Stock],
    drawings: Mapping[str, Drawing],
    findings: list[Finding],
    corner: Vec2 = (0.0, 0.0),
    rules: Sequence[MeetingRule] = (),
) -> tuple[str, ...]:
    """Add a panel to the others, with what a person changed about it; where it cannot stand, that is a finding.

    Args:
        added: all that a person added
        corner: the lower left corner of what is seen of its host, in the host's plane

    Returns:
        The names of the panels that stand now: a plate's spacers after the plate.
    """
    chosen = {k: e.stock for k, e in edits.items() if e.stock is not None}
    made = _added(item, added, panels={**panels, **ghosts}, stocks=stocks, chosen=chosen, corner=corner)
    if not made:
        findings.append(lost(item, {**panels, **ghosts}))
    own = edits.get(item.id, PanelEdit())
    for panel in made:
        along = own.move if panel.id != item.id else (0.0, 0.0, 0.0)  # a spacer goes where its plate goes
        there = replace(panel, pose=replace(panel.pose, origin=add(panel.pose.origin, along)))
        panels[panel.id] = changed(there, edits.get(panel.id), others=panels, stocks=stocks, drawings=drawings, findings=findings, rules=rules)
    return tuple(p.id for p in made)


def left_out(panel: str, edits: Mapping[str, PanelEdit]) -> bool:
    """Tell whether a person left a panel out, or the plate under which it is a spacer."""
    return any(name in edits and edits[name].gone for name in (panel, of_plate(panel)))


def _added(
    item: Added, added: Sequence[Added], *, panels: Mapping[str, Panel], stocks: Mapping[str, Stock], chosen: Mapping[str, str], corner: Vec2
) -> list[Panel]:
    if isinstance(item, OnFace):
        return plate(item, panels, stocks=stocks, chosen=chosen, corner=corner)
    made: Panel | None = None  # a copy follows what is put on its original: see `carrying`
    if isinstance(item, Between):
        made = between(item, panels, stocks=stocks)
    elif isinstance(item, Gusset):
        made = gusset(item, panels, stocks=stocks)
    elif isinstance(item, Upright):
        made = upright(item, panels, stocks=stocks, corner=corner)
    elif isinstance(item, Slat):
        made = slat(item, panels, stocks=stocks)
    elif isinstance(item, Brace):
        made = brace(item, panels, stocks=stocks)
    elif isinstance(item, Wall):
        # Where a neighbour does not stand, the wall ends with its edge.
        others = {w.id for w in added if isinstance(w, Wall) and w.id in item.beside and wall(w, panels, stocks=stocks) is not None}
        made = wall(item.beside_only(others), panels, stocks=stocks)
    return [] if made is None else [made]


def _divide(cut: Split, panels: dict[str, Panel], *, ghosts: dict[str, Panel], rules: list[MeetingRule], findings: list[Finding]) -> None:
    """Divide a panel, or the piece of it that the place lies in."""
    everything = {**ghosts, **panels}
    pieces = [resolved(p, everything) for p in panels.values() if p.whole == cut.panel]
    if not pieces:
        return
    left_end = min(bounds_of(p.envelope.outer)[0] for p in pieces)
    at = left_end + cut.at
    for piece in pieces:
        x0, _, x1, _ = bounds_of(piece.envelope.outer)
        lap = SPLIT_LAP * piece.t
        if not x0 + lap < at < x1 - lap:
            continue
        first, second = split(piece, at=at, lap=lap)
        ghosts[piece.id] = panels.pop(piece.id)  # edges that end at it still do
        panels[first.id], panels[second.id] = first, second
        rules.append(MeetingRule(a=first.id, b=second.id, style=Style.SCARF if cut.scarf else Style.PUZZLE))
        for rule in [r for r in rules if piece.id in (r.a, r.b)]:
            other = rule.b if rule.a == piece.id else rule.a
            rules += [MeetingRule(a=first.id, b=other, style=rule.style), MeetingRule(a=second.id, b=other, style=rule.style)]
        return
    findings.append(Finding(code="split_outside", severity=Severity.LOOK, parts=(cut.panel,), says=say("split_outside", panel=pieces[0].ref, at=mm(cut.at))))
