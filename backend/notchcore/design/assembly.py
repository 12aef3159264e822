"""What a design comes to: finished parts in space, the meetings between them, and every joint feature with its ledger.

Part           a finished sheet part: nominal geometry without kerf, in its pose
JointFeature   one slot, notch, lap, finger or tab, with the ledger of its width
Meeting        where two parts join, how, and how it should feel
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from notchcore.design.styles import Style
from notchcore.findings import Finding
from notchcore.geom.profile import Profile, Ring
from notchcore.geom.slab import Box, Pose, Slab, box_of
from notchcore.geom.vectors import Vec2, Vec3
from notchcore.ledger import Quantity, Term, TermKind, plus
from notchcore.measure.fit import Feel
from notchcore.measure.machine import Beam, Operation
from notchcore.trace.photo import Photo
from notchcore.units import Mm
from notchcore.words.facts import Kind, Ref
from notchcore.words.render import say


class FeatureKind(StrEnum):
    """What a joint feature is; gaps first, tongues last."""

    SLOT = "slot"  # closed opening in a face
    NOTCH = "notch"  # gap between fingers
    LAP = "lap"  # open slot of a cross-lap
    HOLE = "hole"  # round, for a dowel or a shaft
    SOCKET = "socket"  # for a loose sheet or a peg
    FINGER = "finger"
    TAB = "tab"
    PIECE = "piece"  # inset in an opening

    @property
    def is_gap(self) -> bool:
        return self not in (FeatureKind.FINGER, FeatureKind.TAB, FeatureKind.PIECE)


@dataclass(frozen=True, slots=True, kw_only=True)
class JointFeature:
    """One feature of a joint on one part."""

    id: str
    part: str
    meeting: str
    kind: FeatureKind
    corners: tuple[Vec2, Vec2, Vec2, Vec2]  #: finished, in the part's plane
    axis: Vec2  #: unit vector along which the width is measured
    width: Quantity  #: finished width
    length: Mm  #: finished size across the axis

    @property
    def is_cut(self) -> bool:
        """Whether its corners hold a joint's cut: those of a piece in an opening hold all of the piece."""
        return bool(self.meeting) and self.kind is not FeatureKind.PIECE


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """A line burned on or in a face of a part: the one that its normal points to, or its back. Never kerf-corrected.

    The line is in the part's plane seen from its front, on whichever face it is.

    An engraved mark is the area inside its closed line, or the photo that fills its frame. A mark with its own beam does
    not follow the stock's settings.
    """

    line: Ring
    closed: bool = True
    operation: Operation = Operation.SCORE
    beam: Beam | None = None
    photo: Photo | None = None  #: its frame is the line
    clip: tuple[Ring, ...] = ()  #: of a photo that reaches over an edge: what of it is burned; a ring within another is a hole
    feature: str = ""  #: what a person put there; empty for what belongs to a joint
    back: bool = False  #: it is on the back
    depth: Mm = 0.0  #: that what is engraved shall have; 0: as the settings burn

    @property
    def always(self) -> bool:
        """Whether it is burned whatever else is chosen: on the back, lines that only locate a joint may be left out."""
        return bool(self.feature or self.depth or not self.back)


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """What a feature takes from a panel, in the panel's plane."""

    feature: str
    ring: Ring


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A finished sheet part."""

    id: str
    label: str
    stock: str
    pose: Pose
    low: Mm
    high: Mm
    profile: Profile  #: finished size, with clearances
    nominal: Profile  #: with all clearances zero: for collision and assembly checks
    marks: tuple[Mark, ...] = ()
    features: tuple[JointFeature, ...] = ()
    loose: bool = False  #: nothing is meant to hold it
    copies: int = 1  #: how many of it belong to the thing
    spares: int = 0  #: more of it, in case one is spoiled
    helper: bool = False  #: a jig or spacer, not part of the thing
    bridges: int = 0  #: wanted on its outer cut
    reverse: bool = False  #: it is cut and burned from its back, mirrored
    openings: tuple[Opening, ...] = ()  #: what features take from it
    folds: tuple[tuple[Vec2, Vec2], ...] = ()  #: lines along which it is bent
    falls_from: str = ""  #: the part out of whose opening it falls: it needs no place on a sheet
    piece_of: str = ""  #: the panel that was divided
    laid_by: str = ""  #: the feature that it is a piece of
    item: str = ""  #: that it belongs to; empty: the first, or the only one

    @property
    def panel(self) -> str:
        """The panel that it is, or is a piece of."""
        return self.piece_of or self.id

    @property
    def ref(self) -> Ref:
        """What a sentence calls it."""
        return Ref(Kind.PART, self.id, self.label)

    @property
    def t(self) -> Mm:
        return self.high - self.low

    def slab(self, *, nominal: bool = False) -> Slab:
        return Slab(profile=self.nominal if nominal else self.profile, pose=self.pose, low=self.low, high=self.high)


def as_counted(name: str) -> tuple[tuple[int, str], ...]:
    """Return what to sort names by so that Rib 2 comes before Rib 10."""
    return tuple((int(piece), "") if piece[0] in "0123456789" else (-1, piece.casefold()) for piece in re.findall("[0-9]+|[^0-9]+", name))


@dataclass(frozen=True, slots=True, kw_only=True)
class Meeting:
    """Where two parts join."""

    id: str
    kind: str
    a: str
    b: str
    style: Style  #: as it is cut
    angle_deg: float
    length: Mm
    feel: Feel | None
    clearance: Quantity | None
    kerf_share: float  #: how strongly a kerf error shows in the clearance
    thickness_sd: Mm  #: spread of the sheet that enters a slot; 0 where only cut faces meet
    kerf_stock: str  #: the stock in which the opening is cut
    count: int  #: fingers of the corner, tabs of the tee
    asked: Style | None = None  #: what was chosen, or goes without saying; another than `style` where there is no room for it
    ways: tuple[Style, ...] = ()  #: what it may be
    follows: str = ""  #: the meeting whose choices hold for it too: of a socket in a copy, the original's
    wedge_void: float = 0.0  #: [mm3] that may stay open as designed: where planes are not square or ends slope

    @property
    def holds(self) -> bool:
        """Whether it keeps its parts together where they are built: edges that only butt or are free do not, nor a socket, whose mate stands elsewhere."""
        return self.style not in (Style.BUTT, Style.REST) and self.kind != "socket"


@dataclass(frozen=True, slots=True, kw_only=True)
class Dimension:
    """Where a number of the family stands in space, so that a sketch can show it."""

    name: str  #: of the number
    start: Vec3
    end: Vec3


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """A size that follows from the numbers [mm] and that a person wants to know."""

    label: str
    mm: tuple[Mm, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class WishCount:
    """How many of something a wish of the family takes, beside how many there are to be."""

    label: str
    parts: tuple[str, ...]
    wished: int
    there: int
    each: bool = False  #: it takes one of every part; else any of them serves


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomSeed:
    """Where a room is that something may stand in: as far as the panels round it reach (see `rooms`)."""

    id: str
    label: str
    within: Vec3  #: a place in it
    mouth: Vec3  #: the way out of it: a unit vector along an axis
    thing: str  #: what usually stands in it


@dataclass(frozen=True, slots=True, kw_only=True)
class Assembly:
    """All parts of a design in space."""

    parts: tuple[Part, ...]
    meetings: tuple[Meeting, ...]
    findings: tuple[Finding, ...]
    on_line: bool = False  #: a test piece: its lines are where the beam goes, whatever the kerf
    dimensions: tuple[Dimension, ...] = ()
    facts: tuple[Fact, ...] = ()
    rooms: tuple[RoomSeed, ...] = ()
    needs: tuple[WishCount, ...] = ()
    items: dict[str, str] = field(default_factory=dict)  #: what further items of the project are called
    left_out: dict[str, str] = field(default_factory=dict)  #: panels that a person left out, with what they are called

    def ref_of(self, part: str) -> Ref:
        """Return what a sentence calls a part, or a panel that was left out or is no more."""
        return Ref(Kind.PART, part, self.name_of(part))

    def name_of(self, part: str) -> str:
        """Return what a part, or a panel that was left out, is called."""
        known = next((p.label for p in self.parts if p.id == part), None) or self.left_out.get(part)
        return known or f"what was {part.replace('-', ' ')}"

    def is_item(self, parts: Sequence[str]) -> bool:
        """Tell whether parts that go in together are all of an item, with what stands in it, and more than one."""
        items = {self.part(p).item for p in parts}
        return len(parts) > 1 and "" not in items and {p.id for p in self.parts if p.item in items} == set(parts)

    def called(self, parts: Sequence[str]) -> str:
        """Return what parts that go in together are called: the item that holds them all, which comes first, or each by name."""
        return self.items.get(self.part(parts[0]).item, "") if self.is_item(parts) else " + ".join(map(self.name_of, parts))

    def part(self, part_id: str) -> Part:
        return next(p for p in self.parts if p.id == part_id)


def drawn_width(feature: JointFeature, kerf: Quantity) -> Quantity:
    """Return the ledger of what is drawn in the file: gaps lose the kerf, tongues gain it."""
    sign = -1.0 if feature.kind.is_gap else 1.0
    first = kerf.terms[0]
    label = say("term.kerf.opening" if sign < 0 else "term.kerf.tongue")
    term = Term(kind=TermKind.KERF, label=label, value=sign * kerf.value, sd=kerf.sd, source=first.source, on=first.on, trust=first.trust)
    return plus(feature.width, term)


def box_round(parts: Iterable[Part]) -> Box:
    """Return the box that holds parts: least x, y, z, greatest x, y, z [mm]; nothing without parts."""
    boxes = [box_of(p.slab()) for p in parts]
    if not boxes:
        return (0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    low, high = [min(b[k] for b in boxes) for k in range(3)], [max(b[k + 3] for b in boxes) for k in range(3)]
    return (low[0], low[1], low[2], high[0], high[1], high[2])


def size_of_all(assembly: Assembly) -> Vec3:
    """Return the size of the box that holds all parts [mm]; nothing without parts."""
    x0, y0, z0, x1, y1, z1 = box_round(assembly.parts)
    return (x1 - x0, y1 - y0, z1 - z0)


def extent_of(assembly: Assembly) -> Mm:
    """Return the distance between opposite corners of the box that holds all parts; 0 without parts."""
    return math.hypot(*size_of_all(assembly))
