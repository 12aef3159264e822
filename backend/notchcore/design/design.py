"""The design document: numbers and choices, from which everything else follows.

A design is one frozen value. Each change makes a new one; the server keeps them all as revisions.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from notchcore.design.arrangement import Arrangement
from notchcore.design.assembly import Assembly, Part, as_counted
from notchcore.design.cards import pieces
from notchcore.design.cards.pieces import Card, card_assembly
from notchcore.design.carrying import Places, carried
from notchcore.design.edits import MOST_COPIES, Added, CopyOf, PanelEdit, Split, divided, edited, restocked
from notchcore.design.fallen import misnamed
from notchcore.design.families.house import Filling, HouseNumbers
from notchcore.design.families.registry import Numbers, family_of
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.registry import Feature
from notchcore.design.features.sockets import Fitting, socket_meetings
from notchcore.design.features.values import Artwork, Falls, GreyImage, Window
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.joints.solve import solve
from notchcore.design.outlines import REACH
from notchcore.design.panel import Panel
from notchcore.design.variations import SCALE_LEAST, SCALE_MOST, Variation, check_variations
from notchcore.design.within import kept_within
from notchcore.errors import DesignError, require
from notchcore.findings import Finding, Severity
from notchcore.geom.vectors import Vec3
from notchcore.measure.fit import NO_FITS, WANTED, Feel, Fits
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.render import say

RELIEF_MOST: Mm = 5.0
Bed = tuple[Mm, Mm]
MAIN = "main"  # what the first item is called where items are named
ITEM_NAME = re.compile("[a-z0-9][a-z0-9-]{0,39}")
MOST_ITEMS, MOST_LABEL = 60, 60
PLAY_LEAST, PLAY_MOST = 0.0, 50.0
NO_DRAWINGS: Mapping[str, Drawing] = MappingProxyType({})


@dataclass(frozen=True, slots=True, kw_only=True)
class Pin:
    """A size kept in view: `what` is x or y for the panel's own, or the name of an opening or tongue."""

    part: str
    what: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Loose:
    """An item stands in a room of another one and keeps a play there, or goes over it like a lid, upside down."""

    room: str  #: of the host, by id; of its own, where it goes over
    host: str = MAIN  #: item
    play: Mm = 0.5  #: on either side; before its bottom and along the way it slides, once
    sized: bool = True  #: its sizes follow the room, or what it goes over, instead of its own numbers
    over: bool = False  #: it goes over its host, which stands in its room then

    def __post_init__(self) -> None:
        require("play", self.play, least=PLAY_LEAST, most=PLAY_MOST)


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """One more thing of a project: a design of its own, how many there are, and how it stands to the others.

    Without a relation it stands beside what comes before it: made together, nothing to do with each other.
    """

    id: str
    label: str
    design: Design
    count: int = 1
    spares: int = 0
    gone: bool = False  #: left out for now
    at: Vec3 = (0.0, 0.0, 0.0)  #: how far it is moved from where it would stand [mm]
    turn: float = 0.0  #: about the upright [degrees]
    loose: Loose | None = None

    def __post_init__(self) -> None:
        if not ITEM_NAME.fullmatch(self.id) or self.id == MAIN:
            raise DesignError(say("item_name"), field="items")
        if not self.label.strip() or len(self.label) > MOST_LABEL:
            raise DesignError(say("item_label", most=MOST_LABEL), field="items")
        require("count", self.count, least=1, most=MOST_COPIES, unit="")
        require("spares", self.spares, least=0, most=MOST_COPIES, unit="")
        require("turn", self.turn, least=-360.0, most=360.0, unit="°")
        for value in self.at:
            require("at", value, least=-REACH, most=REACH)
        if self.design.items:
            raise DesignError(say("item_of_items"), field="items")
        if isinstance(self.design.numbers, Card):
            raise DesignError(say("item_card"), field="items")


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """A project's numbers and choices."""

    numbers: Numbers | Card
    stocks: dict[str, str]  #: stock id by role; the roles are those of the family
    feel: Feel = Feel.SNUG  #: for joints without a choice of their own
    choices: dict[str, MeetingChoice] = field(default_factory=dict)  #: by meeting id; survives changes of size
    relief: Mm = 0.0  #: radius of the relief holes in inner corners of brittle sheets
    prototype: str | None = None  #: stock id: everything is cut from it for a trial, the choice of stocks is kept
    edits: dict[str, PanelEdit] = field(default_factory=dict)  #: by panel id
    added: tuple[Added, ...] = ()
    splits: tuple[Split, ...] = ()
    features: tuple[Feature, ...] = ()
    places: Places = Places.VISIBLE  #: what the places of features count from
    variations: tuple[Variation, ...] = ()  #: what comes in alternatives; what the chosen ones set is kept here
    scale: float = 1.0  #: of places, features and outlines now, against how they were first put there
    pins: tuple[Pin, ...] = ()  #: sizes kept in view; they change nothing
    order: tuple[str, ...] = ()  #: the steps of assembly in a person's order, by key; empty: as found
    apart: tuple[tuple[str, ...], ...] = ()  #: sub-assemblies that a person puts together first, by their parts
    notes: dict[str, str] = field(default_factory=dict)  #: a person's words on a step, by key
    name: str = ""  #: of the first item, this design's own, where there are several
    count: int = 1  #: of the first item
    spares: int = 0  #: of the first item
    items: tuple[Item, ...] = ()  #: what else belongs to the project

    @property
    def shape(self) -> Design:
        """The design as it is chosen, without what changes no part: what its parts depend on."""
        now = as_chosen(self)
        items = tuple(replace(i, design=i.design.shape) for i in now.items)
        undecided = tuple(replace(v, alternatives=v.alternatives[:1]) for v in now.variations if not v.chosen)  # that is told
        return replace(now, pins=(), order=(), apart=(), notes={}, items=items, variations=undecided)

    def __post_init__(self) -> None:
        if self.feel not in WANTED:
            raise DesignError(say("feel_not_asked", known=", ".join(WANTED), feel=self.feel.value))
        require("relief", self.relief, least=0.0, most=RELIEF_MOST)
        require("scale", self.scale, least=SCALE_LEAST, most=SCALE_MOST, unit="")
        require("count", self.count, least=1, most=MOST_COPIES, unit="")
        require("spares", self.spares, least=0, most=MOST_COPIES, unit="")
        if self.variations:
            check_variations(self.variations, self.numbers, roles=frozenset(self.roles()))
        missing = [r for r in self.roles() if r not in self.stocks]
        if len(self.name) > MOST_LABEL:
            raise DesignError(say("item_label", most=MOST_LABEL), field="name")
        if len(self.items) > MOST_ITEMS or (self.items and isinstance(self.numbers, Card)):
            raise DesignError(say("items_most", most=MOST_ITEMS), field="items")
        if len({i.id for i in self.items}) != len(self.items):
            raise DesignError(say("two_items_of_one_name"), field="items")
        if missing:
            raise DesignError(say("stocks_lacking", missing=", ".join(missing)), field="stocks")

    @property
    def several(self) -> bool:
        """Whether more is made than one item once."""
        return bool(self.items) or (self.count, self.spares) != (1, 0)

    def roles(self) -> tuple[str, ...]:
        return pieces.ROLES if isinstance(self.numbers, Card) else tuple(r.id for r in family_of(self.numbers).roles)

    def stock_ids(self) -> tuple[str, ...]:
        """Return the stocks that the design is made from, each once."""
        if self.prototype is not None:
            return (self.prototype,)
        own = [self.stocks[r] for r in self.roles()]
        own += [e.stock for e in self.edits.values() if e.stock is not None]
        own += [a.stock for a in self.added if not isinstance(a, CopyOf)]
        own += [s for i in self.items if not i.gone for s in i.design.stock_ids()]
        return tuple(dict.fromkeys(own))

    def named_stocks(self) -> set[str]:
        """Return every stock that the design names, those that wait behind a prototype or for an item that is left out too."""
        own = {*replace(self, prototype=None, items=()).stock_ids(), *((self.prototype,) if self.prototype is not None else ())}
        own |= {s for v in self.variations for a in v.alternatives for s in a.stocks.values()}
        return own.union(*(i.design.named_stocks() for i in self.items))

    def drawing_ids(self) -> tuple[str, ...]:
        """Return the drawings that the design shows, each once."""
        shown = [f.drawing for f in self.features if isinstance(f, Artwork | GreyImage)]
        shaped = [e.outline.drawing for e in self.edits.values() if e.outline is not None]
        others = [d for i in self.items for d in i.design.drawing_ids()]
        return tuple(dict.fromkeys(d for d in (*shown, *shaped, *others) if d))

    @property
    def uses_kerf(self) -> bool:
        """Whether the width of the beam shows in the parts: pieces that fall out of others are smaller by it."""
        fallen = isinstance(self.numbers, HouseNumbers) and self.numbers.filling is Filling.FALLEN
        here = fallen or any(isinstance(f, Window) and f.falls is Falls.PART for f in self.features)
        return here or any(i.design.uses_kerf for i in self.items)

    def in_prototype(self) -> Design:
        """Return the design as it is cut: with every stock replaced by the prototype's when there is one."""
        if self.prototype is None:
            return self
        one = self.prototype
        return replace(
            self,
            stocks=dict.fromkeys(self.stocks, one),
            edits={k: replace(e, stock=None) for k, e in self.edits.items()},
            added=tuple(restocked(a, lambda _: one) for a in self.added),
        )

    @property
    def is_test(self) -> bool:
        """Whether this is a test piece of Sheets."""
        return isinstance(self.numbers, Card)


def as_chosen(design: Design) -> Design:
    """Return a design without the features, panels and items that are not there with the alternatives that are chosen."""
    taken = [v.taken for v in design.variations if v.taken is not None]
    features, panels = {f for a in taken for f in a.features}, {p for a in taken for p in a.panels}
    items = {i for a in taken for i in a.items}
    if not (features or panels or items):
        return design
    return replace(
        design,
        features=tuple(f for f in design.features if f.id not in features),
        edits=design.edits | {p: replace(design.edits.get(p, PanelEdit()), gone=True) for p in panels},
        items=tuple(replace(i, gone=True) if i.id in items else i for i in design.items),
    )


def label_of(design: Design) -> str:
    """Return what kind of thing a design is, in a word."""
    return "Test card" if isinstance(design.numbers, Card) else family_of(design.numbers).label


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


def _fallen_only(plan: Arrangement) -> Arrangement:
    """Return the arrangement in which a piece that is to fall out of a panel does so only while both are of one stock."""
    stock = {p.id: p.stock for p in plan.panels}
    kept = tuple(p if stock.get(p.falls_from) == p.stock else replace(p, falls_from="") for p in plan.panels)
    return replace(plan, panels=kept)


def build(design: Design, stocks: dict[str, Stock], fits: Fits = NO_FITS, drawings: Mapping[str, Drawing] = NO_DRAWINGS, bed: Bed | None = None) -> Assembly:
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
        made = _joined(design, arranged(design, stocks, drawings=drawings, bed=bed, fits=fits), stocks=stocks, fits=fits)
    return replace(made, findings=(*hazards, *made.findings))


def _joined(design: Design, plan: Arrangement, *, stocks: Mapping[str, Stock], fits: Fits) -> Assembly:
    if not plan.panels:
        return Assembly(parts=(), meetings=(), findings=plan.findings, left_out=_left_out(design, plan))
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
    parts = tuple(sorted(counted, key=lambda p: (as_counted(p.label), p.id)))
    sockets = socket_meetings(
        design.features, parts, panels={p.id: p for p in (*plan.ghosts, *plan.panels)}, stocks=stocks, fitting=Fitting(fits=fits, choices=design.choices)
    )
    return replace(
        solved,
        parts=parts,
        meetings=tuple(sorted((*solved.meetings, *sockets), key=lambda m: (as_counted(m.id), m.id))),
        findings=(*_unchosen(design), *_on_the_wrong_face(parts), *plan.findings, *solved.findings),
        dimensions=plan.dimensions,
        facts=plan.facts,
        rooms=plan.rooms,
        left_out=_left_out(design, plan),
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
    known = {(panel.get(p, p), f.facts.get("feature")) for f in (*told, *solved.findings) for p in f.parts}
    found = [f for _, some in kept for f in some if (panel[f.parts[0]], f.facts.get("feature")) not in known]
    return replace(solved, parts=tuple(p for p, _ in kept), findings=(*solved.findings, *found))


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


def _on_the_wrong_face(parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Return the parts that are burned from their back though a joint's place is scored on their front."""
    return tuple(
        Finding(code="reverse_and_scored", severity=Severity.MUST, parts=(p.id,), says=say("reverse_and_scored", part=p.ref))
        for p in parts
        if p.reverse and any(not m.feature and not m.back for m in p.marks)
    )


def _counted(part: Part, edit: PanelEdit | None) -> Part:
    return part if edit is None else replace(part, copies=edit.copies, spares=edit.spares, helper=edit.helper, bridges=edit.bridges, reverse=edit.reverse)
