"""From evidence to a stock: the facts that every later number is built on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from notchcore.errors import MeasureError, require
from notchcore.findings import Finding
from notchcore.ledger import Quantity
from notchcore.measure.fit import MACHINE_SD, Fits
from notchcore.measure.gauge import Answer, by_pair, learned_boundaries
from notchcore.measure.hazards import SUBSTANCES, Confirmation, hazard_of, substances_of
from notchcore.measure.kerf import NO_SETUP, KerfTest, Setup, kerf_findings, pooled_kerf
from notchcore.measure.materials import MATERIALS
from notchcore.measure.thickness import THICKEST, THINNEST, Reading, effective_thickness
from notchcore.units import Mm
from notchcore.words.facts import Kind, Ref
from notchcore.words.render import say

LABEL_TRUSTED = 0.25  # a label further off than this is a mistake: joints are then spaced by the measured thickness


@dataclass(frozen=True, slots=True, kw_only=True)
class StockEvidence:
    """What is known about one stock."""

    id: str
    name: str
    material: str
    label: Mm  #: thickness that the maker states [mm]
    readings: tuple[Reading, ...] = ()
    kerf_tests: tuple[KerfTest, ...] = ()
    answers: tuple[Answer, ...] = ()  #: feels in openings cut from this stock
    crush: float = 0.0
    colour: str = ""
    substance: str = ""  #: key of SUBSTANCES; empty for the material's usual one
    confirmed: Confirmation | None = None
    clear: bool = False  #: one looks through it
    film: bool = False  #: one face or both come with a protective film

    def __post_init__(self) -> None:
        if self.material not in MATERIALS:
            raise MeasureError(say("material_lacking"), field="material")
        require("label thickness", self.label, least=THINNEST, most=THICKEST)
        if self.substance and (self.substance not in SUBSTANCES or SUBSTANCES[self.substance].material != self.material):
            raise MeasureError(say("substance_lacking"), field="substance")


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """A sheet material, measured: frozen, and the same for the same evidence on the same day."""

    id: str
    name: str
    material: str
    label: Mm
    colour: str
    thickness: Quantity
    kerf: Quantity
    findings: tuple[Finding, ...] = ()
    hazard: Finding | None = None  #: why it must not be cut
    clear: bool = False  #: one looks through it
    film: bool = False  #: one face or both come with a protective film

    @property
    def ref(self) -> Ref:
        """What a sentence calls it."""
        return Ref(Kind.STOCK, self.id, self.name)

    @property
    def t(self) -> Mm:
        """Effective thickness [mm]."""
        return self.thickness.value

    @property
    def layout_t(self) -> Mm:
        """The thickness that spaces fingers and tabs [mm]: the label, so that a new reading moves no joint."""
        return self.label if abs(self.t / self.label - 1) <= LABEL_TRUSTED else self.t

    @property
    def key(self) -> tuple[str, str]:
        """Id and material, as `Fits` wants them."""
        return self.id, self.material


def stock_of(evidence: StockEvidence, *, today: str, setup: Setup = NO_SETUP) -> Stock:
    """Return the stock that the evidence shows on a machine with a lens."""
    thickness, findings = effective_thickness(material_id=evidence.material, label=evidence.label, readings=evidence.readings, crush=evidence.crush)
    kerf = pooled_kerf(material_id=evidence.material, thickness=thickness.value, tests=evidence.kerf_tests, today=today, setup=setup)
    substance = SUBSTANCES[evidence.substance] if evidence.substance else substances_of(evidence.material)[0]
    return Stock(
        id=evidence.id,
        name=evidence.name,
        material=evidence.material,
        label=evidence.label,
        colour=evidence.colour or MATERIALS[evidence.material].colour,
        thickness=thickness,
        kerf=kerf,
        findings=(*findings, *kerf_findings(evidence.kerf_tests, setup)),
        hazard=hazard_of(stock=evidence.name, substance=substance, confirmed=evidence.confirmed),
        clear=evidence.clear,
        film=evidence.film,
    )


def fits_of(
    evidence: Mapping[str, StockEvidence],
    stocks: Mapping[str, Stock],
    *,
    today: str,
    setup: Setup = NO_SETUP,
    machine_sd: Mm = MACHINE_SD,
    kerf_left: bool = False,
) -> Fits:
    """Return the boundaries between feels of every pair that was felt on this machine and lens.

    Feels of pairs with a stock that is not among `stocks` are left out.
    """
    said = tuple(
        a
        for e in evidence.values()
        for a in e.answers
        if a.opening in stocks and a.entering in stocks and (a.setup.machine, a.setup.lens) == (setup.machine, setup.lens)
    )
    kerfs = {k: s.kerf.value for k, s in stocks.items()}
    thicknesses = {k: s.thickness for k, s in stocks.items()}
    known = {
        pair: learned_boundaries(
            answers,
            materials=(stocks[answers[0].opening].material, stocks[answers[0].entering].material),
            kerfs=kerfs,
            thicknesses=thicknesses,
            today=today,
            machine_sd=machine_sd,
        )
        for pair, answers in by_pair(said).items()
    }
    return Fits(known=known, machine_sd=machine_sd, kerf_left=kerf_left)
