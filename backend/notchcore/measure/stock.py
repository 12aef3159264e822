"""From evidence to a stock: the facts that every later number is built on."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.errors import require
from notchcore.findings import Finding
from notchcore.ledger import Quantity
from notchcore.measure.families import FAMILIES
from notchcore.measure.kerf import KerfTest, pooled_kerf
from notchcore.measure.thickness import THICKEST, THINNEST, Reading, effective_thickness
from notchcore.units import Mm

LABEL_TRUSTED = 0.25  # a label further off than this is a mistake: joints are then spaced by the measured thickness


@dataclass(frozen=True, slots=True, kw_only=True)
class StockEvidence:
    """What is known about one stock on one machine."""

    id: str
    name: str
    family: str
    label: Mm  #: thickness that the maker states [mm]
    readings: tuple[Reading, ...] = ()
    kerf_tests: tuple[KerfTest, ...] = ()
    crush: float = 0.0
    colour: str = ""

    def __post_init__(self) -> None:
        require("label thickness", self.label, THINNEST, THICKEST)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """A sheet material, measured: frozen, and the same for the same evidence on the same day."""

    id: str
    name: str
    family: str
    label: Mm
    colour: str
    thickness: Quantity
    kerf: Quantity
    findings: tuple[Finding, ...] = ()

    @property
    def t(self) -> Mm:
        """Effective thickness [mm]."""
        return self.thickness.value

    @property
    def layout_t(self) -> Mm:
        """The thickness that spaces fingers and tabs [mm]: the label, so that a new reading moves no joint."""
        return self.label if abs(self.t / self.label - 1) <= LABEL_TRUSTED else self.t


def stock_of(evidence: StockEvidence, *, today: str) -> Stock:
    """Return the stock that the evidence shows."""
    thickness, findings = effective_thickness(family_id=evidence.family, label=evidence.label, readings=evidence.readings, crush=evidence.crush)
    kerf = pooled_kerf(family_id=evidence.family, thickness=thickness.value, tests=evidence.kerf_tests, today=today)
    return Stock(
        id=evidence.id,
        name=evidence.name,
        family=evidence.family,
        label=evidence.label,
        colour=evidence.colour or FAMILIES[evidence.family].colour,
        thickness=thickness,
        kerf=kerf,
        findings=findings,
    )
