"""Findings: what is wrong, where, and what to do, as data with stable codes."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from enum import StrEnum

from notchcore.words.facts import Sentence


class Severity(StrEnum):
    """How much it matters."""

    MUST = "must"  # it will not go together, or must not be cut
    LOOK = "look"  # it may be meant; a person decides
    FINE = "fine"  # was checked, nothing found


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A spot in the plane of a part [mm], x right, y up."""

    part: str
    x: float
    y: float


class RepairKind(StrEnum):
    """What a repair changes in a design; `design/repairs.py` carries it out."""

    NUMBER = "number"  # target: a number of the family
    CHOICE = "choice"  # targets: meetings
    PANEL = "panel"  # targets: panels
    FEATURE = "feature"  # target: a feature
    DROP_FEATURE = "drop_feature"
    DROP_ADDED = "drop_added"
    WHOLE = "whole"  # target: a panel, no longer divided
    DIVIDE = "divide"  # target: a panel; values: at, the places
    FORGET = "forget"  # target: a meeting whose choice is forgotten
    VARIANT = "variant"  # target: its name
    RELIEF = "relief"
    PLATE = "plate"  # target: a panel that gets a plate on its back
    HOLES = "holes"  # target: a panel that gets two holes; values: to, another that gets them too, and where on each
    STOCK = "stock"  # target: a stock; values: to, another that everything of it becomes
    FEELS = "feels"  # targets: joints; values: feel, that they get
    GUSSET = "gusset"  # target: a panel; values: to, the panel that the gusset goes to


Plain = float | int | str | bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Repair:
    """One change of the design that makes a finding go away."""

    says: Sentence  #: on the button
    kind: RepairKind
    targets: tuple[str, ...] = ()  #: one, but for what is done to several panels or joints at once
    values: dict[str, Plain | tuple[float, ...]] = dataclasses.field(default_factory=dict)

    @property
    def target(self) -> str:
        """The only thing that it changes; "" when it changes none in particular."""
        return self.targets[0] if self.targets else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One thing to know about a design, a layout or a plan."""

    code: str
    severity: Severity
    says: Sentence  #: what happened, what it means for the cut, what to do
    parts: tuple[str, ...] = ()
    meeting: str | None = None
    place: Place | None = None
    places: tuple[Place, ...] = ()  #: all of them, where there are several: they are ringed
    field: str | None = None  #: the number to change, as named in the design
    facts: dict[str, float | int | str] = dataclasses.field(default_factory=dict)
    repairs: tuple[Repair, ...] = ()  #: the likeliest first
    item: str = ""  #: whose design it is about and its repairs change; empty: the first, or the only one

    @property
    def message(self) -> str:
        """What it says, in mm."""
        return self.says.text

    @property
    def key(self) -> tuple[object, ...]:
        """What makes two findings the same although their figures changed."""
        return self.code, self.item, self.parts, self.meeting, self.field, self.facts.get("feature")


def worst(findings: tuple[Finding, ...]) -> Severity:
    """Return the gravest severity among the findings; FINE when there are none."""
    for severity in (Severity.MUST, Severity.LOOK):
        if any(f.severity is severity for f in findings):
            return severity
    return Severity.FINE
