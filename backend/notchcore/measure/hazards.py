"""What a sheet is made of, and whether a laser may touch it.

Forbidden     its fumes poison or corrode, or nobody knows: it is never planned for cutting
Needs data    only with its maker's data at hand, confirmed by a named person on a date

The list is a floor, not a permission: local rules and the machine's maker come first. Source: the shop rules (docs/sources.md).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.findings import Finding, Severity
from notchcore.words.language import Called
from notchcore.words.render import say


class Verdict(StrEnum):
    """Whether a substance may be cut."""

    ALLOWED = "allowed"
    NEEDS_DATA = "needs_data"
    FORBIDDEN = "forbidden"


@dataclass(frozen=True, slots=True, kw_only=True)
class Substance(Called):
    """What a sheet of a material may be made of."""

    NAMED = ("label", "why")

    id: str
    material: str
    label: str
    verdict: Verdict
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Confirmation:
    """A named person has the maker's data for this stock at hand."""

    by: str
    on: str  #: ISO date
    data: str  #: which sheet of data, in their words


def _allowed(material: str, label: str) -> Substance:
    return Substance(id=f"{material}.{label.split(maxsplit=1)[0].lower()}", material=material, label=label, verdict=Verdict.ALLOWED)


def _no(sid: str, material: str, *, label: str, why: str) -> Substance:
    return Substance(id=sid, material=material, label=label, verdict=Verdict.FORBIDDEN, why=why)


def _ask(sid: str, material: str, *, label: str, why: str) -> Substance:
    return Substance(id=sid, material=material, label=label, verdict=Verdict.NEEDS_DATA, why=why)


_COATED = "its coating or glue may give off poison; only its maker knows"

SUBSTANCES: dict[str, Substance] = {
    s.id: s
    for s in (
        _allowed("plywood", "bare, interior glue"),
        _ask("plywood.coated", "plywood", label="coated, filmed or exterior glue", why=_COATED),
        _allowed("solid_wood", "bare"),
        _ask("solid_wood.treated", "solid_wood", label="painted, lacquered or treated", why=_COATED),
        _allowed("veneer", "bare"),
        _allowed("fibreboard", "bare"),
        _ask("fibreboard.coated", "fibreboard", label="coated or laminated", why=_COATED),
        _allowed("cast_acrylic", "acrylic"),
        _allowed("extruded_acrylic", "acrylic"),
        _allowed("corrugated", "plain board"),
        _ask("corrugated.coated", "corrugated", label="waxed or plastic coated", why=_COATED),
        _allowed("grey_board", "plain board"),
        _allowed("card", "plain"),
        _ask("card.coated", "card", label="plastic coated or metallised", why=_COATED),
        _allowed("felt", "wool"),
        _ask("felt.manmade", "felt", label="man-made fibre", why="it melts, and what it gives off depends on the fibre"),
        _allowed("leather", "vegetable tanned"),
        _no("leather.chrome", "leather", label="chrome tanned", why="its smoke carries chromium compounds"),
        _no("leather.unknown", "leather", label="tanning not known", why="it may be chrome tanned"),
        _allowed("foam", "polyethylene or EVA"),
        _ask("foam.polystyrene", "foam", label="polystyrene", why="it melts, burns fast and gives off styrene"),
        _no("foam.halogenated", "foam", label="halogenated or flame retarded", why="its smoke is poisonous and eats the machine"),
        _no("foam.unknown", "foam", label="not known", why="it may be halogenated or flame retarded"),
        _allowed("cork", "natural or agglomerated"),
        _allowed("rubber", "made for lasers"),
        _no("rubber.unknown", "rubber", label="not known", why="it may contain chlorine"),
        _no("plastic.unknown", "plastic", label="not known", why="nobody knows what its smoke does"),
        _no("plastic.pvc", "plastic", label="PVC, vinyl", why="it gives off chlorine: poison for people, acid for the machine"),
        _ask("plastic.abs", "plastic", label="ABS", why="it melts, and its smoke carries cyanide compounds"),
        _ask("plastic.polycarbonate", "plastic", label="polycarbonate", why="it chars, burns and gives off poison"),
        _no("laminate.carbon", "laminate", label="carbon fibre", why="its resin and fibre dust harm, and the cut delaminates"),
        _no("laminate.glass", "laminate", label="glass fibre", why="its resin and fibre dust harm, and the cut delaminates"),
        _ask("metal.painted", "metal", label="painted or coated", why="its paint may give off poison"),
    )
}


def substances_of(material: str) -> tuple[Substance, ...]:
    """Return what a sheet of this material may be made of, the usual one first."""
    return tuple(s for s in SUBSTANCES.values() if s.material == material)


def hazard_of(*, stock: str, substance: Substance, confirmed: Confirmation | None) -> Finding | None:
    """Return what stands against cutting a stock: a forbidden one never, one that needs data until a person confirmed it."""
    if substance.verdict is Verdict.FORBIDDEN:
        return Finding(
            code="forbidden_stock",
            severity=Severity.MUST,
            facts={"substance": substance.id},
            says=say("forbidden_stock", stock=stock, substance=substance.label, why=substance.why),
        )
    if substance.verdict is Verdict.NEEDS_DATA and confirmed is None:
        return Finding(
            code="needs_makers_data",
            severity=Severity.MUST,
            facts={"substance": substance.id},
            says=say("needs_makers_data", stock=stock, substance=substance.label, why=substance.why),
        )
    return None
