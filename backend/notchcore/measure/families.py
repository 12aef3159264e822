"""Material families and what a new shop starts from, before anything is measured.

All values are defaults: editable, and shown as such until evidence replaces them. Source: the shop rules (docs/sources.md).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.units import Mm


class Give(StrEnum):
    """How a stock answers to a tight joint; picks the default boundaries between feels."""

    WOOD = "wood"
    RIGID = "rigid"
    SOFT = "soft"


@dataclass(frozen=True, slots=True, kw_only=True)
class Family:
    """A kind of sheet."""

    id: str
    label: str
    give: Give
    thickness_sd: Mm  #: spread assumed from a single reading [mm]
    kerf_at_3: Mm  #: default kerf in a 3 mm sheet [mm]
    web_factor: float  #: least web between two cuts, as a multiple of the thickness
    web_least: Mm  #: ... and never below this [mm]
    spacing_least: Mm  #: least distance between parts on a sheet [mm]
    cut_speed: float  #: default cutting speed in a 3 mm sheet [mm/s]
    caution: str  #: what to mind at the machine
    colour: str  #: swatch until one is measured


_WOOD_CAUTION = "Stay with the machine, air on, lid shut. Dark glue lines in ply may flare."
_BOARD_CAUTION = "Board catches fire easily: air assist on, never leave it, keep the extinguisher at hand."

FAMILIES: dict[str, Family] = {
    f.id: f
    for f in (
        Family(id="plywood", label="Plywood", give=Give.WOOD, thickness_sd=0.08, kerf_at_3=0.18, web_factor=1, web_least=2.0,
               spacing_least=1.5, cut_speed=14, caution=_WOOD_CAUTION, colour="#e8cfa0"),
        Family(id="solid_wood", label="Solid wood", give=Give.WOOD, thickness_sd=0.10, kerf_at_3=0.18, web_factor=1, web_least=2.0,
               spacing_least=1.5, cut_speed=12, caution="Stay with the machine, air on, lid shut. Resin may flare.", colour="#8a5a3b"),
        Family(id="fibreboard", label="Fibreboard", give=Give.WOOD, thickness_sd=0.04, kerf_at_3=0.20, web_factor=1, web_least=2.0,
               spacing_least=1.5, cut_speed=12, caution="Extraction on: the smoke and dust of fibreboard harm. Stay with the machine.",
               colour="#b08a5f"),
        Family(id="acrylic", label="Acrylic", give=Give.RIGID, thickness_sd=0.10, kerf_at_3=0.15, web_factor=1, web_least=2.0,
               spacing_least=3.0, cut_speed=10, caution="Acrylic burns with a nearly unseen flame: stay with it, extraction on.",
               colour="#cfe6ea"),
        Family(id="corrugated", label="Corrugated board", give=Give.SOFT, thickness_sd=0.15, kerf_at_3=0.25, web_factor=2, web_least=2.0,
               spacing_least=3.0, cut_speed=40, caution=_BOARD_CAUTION, colour="#c69a6b"),
        Family(id="grey_board", label="Grey board", give=Give.SOFT, thickness_sd=0.06, kerf_at_3=0.22, web_factor=2, web_least=2.0,
               spacing_least=3.0, cut_speed=25, caution=_BOARD_CAUTION, colour="#b9b2a2"),
        Family(id="felt", label="Felt", give=Give.SOFT, thickness_sd=0.20, kerf_at_3=0.30, web_factor=1, web_least=3.0,
               spacing_least=3.0, cut_speed=30, caution="Wool smells and man-made felt melts: extraction on, stay with it.",
               colour="#7f9a7a"),
    )
}  # fmt: skip


def default_kerf(family: Family, thickness: Mm) -> Mm:
    """Return the kerf to assume before any test [mm]: it grows slowly with thickness."""
    return round(family.kerf_at_3 * (1 + 0.04 * (thickness - 3.0)), 3) if thickness < 15 else round(family.kerf_at_3 * 1.48, 3)


def minimum_web(family: Family, thickness: Mm) -> Mm:
    """Return the least distance between two finished cut lines [mm]."""
    return max(family.web_factor * thickness, family.web_least)


def part_spacing(family: Family, thickness: Mm) -> Mm:
    """Return the default distance between parts on a sheet [mm]."""
    return max(family.spacing_least, 0.5 * thickness)
