"""The design document: numbers and choices, from which everything else follows.

A design is one frozen value. Each change makes a new one; the server keeps them all as revisions.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from types import MappingProxyType

from notchcore.design.cards import pieces
from notchcore.design.cards.pieces import Card
from notchcore.design.carrying import Places
from notchcore.design.edits import MOST_COPIES, Added, CopyOf, PanelEdit, Split, restocked
from notchcore.design.families.house import Filling, HouseNumbers
from notchcore.design.families.registry import Numbers, family_of
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.registry import Feature, piece_stocks, restocked_pieces
from notchcore.design.features.values import Artwork, Falls, GreyImage, Window
from notchcore.design.joined import Joined
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.outlines import REACH
from notchcore.design.variations import SCALE_LEAST, SCALE_MOST, Variation, check_variations
from notchcore.errors import DesignError, require
from notchcore.geom.vectors import Vec3
from notchcore.ids import MAIN
from notchcore.measure.fit import WANTED, Feel
from notchcore.units import Mm
from notchcore.words.render import say

RELIEF_MOST: Mm = 5.0
Bed = tuple[Mm, Mm]
ITEM_NAME = re.compile("[a-z0-9][a-z0-9-]{0,39}")
MOST_ITEMS, MOST_LABEL = 60, 60
SOURCE_NAME = re.compile("[1-9][0-9]{0,8}")
MOST_REVISIONS = 2_000_000_000
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
class Source:
    """Another project of the shop that an item was taken from, and can be brought up to again."""

    project: str
    revision: int  #: as it stood when the item was taken, or last brought up to it

    def __post_init__(self) -> None:
        if not SOURCE_NAME.fullmatch(self.project):
            raise DesignError(say("source_unknown"), field="items")
        require("revision", self.revision, least=1, most=MOST_REVISIONS, unit="")


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
    tip: float = 0.0  #: to the front, about the line from left to right, before it is turned [degrees]
    loose: Loose | None = None
    joined: Joined | None = None  #: both are one thing then: it is there as often as its host
    source: Source | None = None  #: the project that it follows

    def __post_init__(self) -> None:
        if not ITEM_NAME.fullmatch(self.id) or self.id == MAIN:
            raise DesignError(say("item_name"), field="items")
        if not self.label.strip() or len(self.label) > MOST_LABEL:
            raise DesignError(say("item_label", most=MOST_LABEL), field="items")
        require("count", self.count, least=1, most=MOST_COPIES, unit="")
        require("spares", self.spares, least=0, most=MOST_COPIES, unit="")
        require("turn", self.turn, least=-360.0, most=360.0, unit="°")
        require("tip", self.tip, least=-180.0, most=180.0, unit="°")
        for value in self.at:
            require("at", value, least=-REACH, most=REACH)
        if self.design.items:
            raise DesignError(say("item_of_items"), field="items")
        if isinstance(self.design.numbers, Card):
            raise DesignError(say("item_card"), field="items")
        if self.joined is not None and (self.loose is not None or (self.count, self.spares) != (1, 0)):
            raise DesignError(say("item_joined_once", item=self.label), field="items")


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
        items = tuple(replace(i, design=i.design.shape, source=None) for i in now.items)
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
        """Whether more is made than one thing once: items that are joined to it belong to it."""
        return (self.count, self.spares) != (1, 0) or any((i.joined is None or not i.gone) and self.root_of(i.id) != MAIN for i in self.items)

    @property
    def guests(self) -> tuple[Item, ...]:
        """The further items that are joined to the first one, or to what is joined to it."""
        return tuple(i for i in self.items if i.joined is not None and self.root_of(i.id) == MAIN)

    def root_of(self, item: str) -> str:
        """Return the item that one is part of by being joined to it, or to what is joined to it; itself where it stands alone.

        "" where what it is joined to is left out or gone, or is joined to it.
        """
        there = {i.id: i for i in self.items if not i.gone}
        seen: set[str] = set()
        while item != MAIN:
            found = there.get(item)
            if found is None or item in seen:
                return ""
            if found.joined is None:
                return item
            seen.add(item)
            item = found.joined.host
        return MAIN

    def roles(self) -> tuple[str, ...]:
        return pieces.ROLES if isinstance(self.numbers, Card) else tuple(r.id for r in family_of(self.numbers).roles)

    def stock_ids(self) -> tuple[str, ...]:
        """Return the stocks that the design is made from, each once."""
        if self.prototype is not None:
            return (self.prototype,)
        own = [self.stocks[r] for r in self.roles()]
        own += [e.stock for e in self.edits.values() if e.stock is not None]
        own += [a.stock for a in self.added if not isinstance(a, CopyOf)]
        own += [s for f in self.features for s in piece_stocks(f).values()]
        own += [s for i in self.items if not i.gone for s in i.design.stock_ids()]
        return tuple(dict.fromkeys(own))

    def named_stocks(self) -> set[str]:
        """Return every stock that the design names, those that wait behind a prototype or for an item that is left out too."""
        own = {*replace(self, prototype=None, items=()).stock_ids(), *((self.prototype,) if self.prototype is not None else ())}
        own |= {s for v in self.variations for a in v.alternatives for s in a.stocks.values()}
        own |= {s for f in self.features for s in piece_stocks(f, waiting=True).values()}
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
            features=tuple(restocked_pieces(f, lambda _: one) for f in self.features),
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
