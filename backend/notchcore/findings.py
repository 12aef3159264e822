"""Findings: what is wrong, where, and what to do, as data with stable codes."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from enum import StrEnum


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One thing to know about a design, a layout or a plan."""

    code: str
    severity: Severity
    message: str  #: what happened, what it means for the cut, what to do
    parts: tuple[str, ...] = ()
    meeting: str | None = None
    place: Place | None = None
    field: str | None = None  #: the number to change, as named in the design
    facts: dict[str, float | int | str] = dataclasses.field(default_factory=dict)


def worst(findings: tuple[Finding, ...]) -> Severity:
    """Return the gravest severity among the findings; FINE when there are none."""
    for severity in (Severity.MUST, Severity.LOOK):
        if any(f.severity is severity for f in findings):
            return severity
    return Severity.FINE
