"""Material materials and what a new shop starts from, before anything is measured.

All values are defaults: editable, and shown as such until evidence replaces them. Source: the shop rules (docs/sources.md).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from notchcore.units import Mm
from notchcore.words.language import Called


class Bond(StrEnum):
    """Which glue takes to a stock where both sheets are alike in this."""

    WOOD = "wood"
    SOLVENT = "solvent"
    PASTE = "paste"


class Give(StrEnum):
    """How a stock answers to a tight joint; picks the default boundaries between feels."""

    WOOD = "wood"
    RIGID = "rigid"
    SOFT = "soft"


@dataclass(frozen=True, slots=True, kw_only=True)
class Material(Called):
    """A kind of sheet."""

    NAMED = ("label", "caution")

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
    bonds: tuple[Bond, ...] = ()  #: glues that take to it, the usual first; contact glue always does
    grained: bool = False  #: runs one way, so parts may not be turned at will
    plies: bool = False  #: its edge shows layers
    filmed: bool = False  #: sold with a film on both faces
    splits: bool = False  #: breaks or bends easily along its grain
    flares: bool = False  #: catches fire easily: said wherever settings are opened
    looks: tuple[str, ...] = ()  #: surfaces it is sold with, by the words that are kept; people read them as `called`


_WOOD = "Stay with the machine, air on, lid shut. Dark glue lines in ply may flare."
_BOARD = "Board catches fire easily: air assist on, never leave it, keep the extinguisher at hand."
_ACRYLIC = "Acrylic burns with a nearly unseen flame: stay with it, extraction on."
_LOOKS = ("clear", "coloured", "mirrored", "frosted")

MATERIALS: dict[str, Material] = {
    f.id: f
    for f in (
        Material(
            id="plywood",
            label="Plywood",
            give=Give.WOOD,
            bonds=(Bond.WOOD, Bond.PASTE),
            thickness_sd=0.08,
            kerf_at_3=0.18,
            web_factor=1,
            web_least=2.0,
            spacing_least=1.5,
            cut_speed=14,
            caution=_WOOD,
            colour="#e8cfa0",
            grained=True,
            plies=True,
            flares=True,
        ),
        Material(
            id="solid_wood",
            label="Solid wood",
            give=Give.WOOD,
            bonds=(Bond.WOOD,),
            thickness_sd=0.10,
            kerf_at_3=0.18,
            web_factor=1,
            web_least=2.0,
            spacing_least=1.5,
            cut_speed=12,
            caution="Stay with the machine, air on, lid shut. Resin may flare.",
            colour="#8a5a3b",
            grained=True,
            splits=True,
        ),
        Material(
            id="veneer",
            label="Veneer",
            give=Give.WOOD,
            bonds=(Bond.WOOD,),
            thickness_sd=0.04,
            kerf_at_3=0.18,
            web_factor=1,
            web_least=2.0,
            spacing_least=1.5,
            cut_speed=40,
            caution="Thin wood lifts and flares: pin it flat, air low, stay with it.",
            colour="#c08a58",
            grained=True,
            splits=True,
            flares=True,
        ),
        Material(
            id="fibreboard",
            label="Fibreboard",
            give=Give.WOOD,
            bonds=(Bond.WOOD, Bond.PASTE),
            thickness_sd=0.04,
            kerf_at_3=0.20,
            web_factor=1,
            web_least=2.0,
            spacing_least=1.5,
            cut_speed=12,
            caution="Extraction on: the smoke and dust of fibreboard harm. Stay with the machine.",
            colour="#b08a5f",
        ),
        Material(
            id="cast_acrylic",
            label="Cast acrylic",
            give=Give.RIGID,
            bonds=(Bond.SOLVENT,),
            thickness_sd=0.10,
            kerf_at_3=0.15,
            web_factor=1,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=10,
            caution=_ACRYLIC,
            colour="#cfe6ea",
            flares=True,
            looks=_LOOKS,
            filmed=True,
        ),
        Material(
            id="extruded_acrylic",
            label="Extruded acrylic",
            give=Give.RIGID,
            bonds=(Bond.SOLVENT,),
            thickness_sd=0.05,
            kerf_at_3=0.17,
            web_factor=1,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=11,
            caution=_ACRYLIC + " Extruded sheet melts back and may weld itself together.",
            colour="#d7ecef",
            flares=True,
            looks=_LOOKS,
            filmed=True,
        ),
        Material(
            id="corrugated",
            label="Corrugated board",
            give=Give.SOFT,
            bonds=(Bond.PASTE,),
            thickness_sd=0.15,
            kerf_at_3=0.25,
            web_factor=2,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=40,
            caution=_BOARD,
            colour="#c69a6b",
            grained=True,
            splits=True,
            flares=True,
        ),
        Material(
            id="grey_board",
            label="Grey board",
            give=Give.SOFT,
            bonds=(Bond.PASTE,),
            thickness_sd=0.06,
            kerf_at_3=0.22,
            web_factor=2,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=25,
            caution=_BOARD,
            colour="#b9b2a2",
            flares=True,
        ),
        Material(
            id="card",
            label="Paper and card",
            give=Give.SOFT,
            bonds=(Bond.PASTE,),
            thickness_sd=0.02,
            kerf_at_3=0.20,
            web_factor=0,
            web_least=1.0,
            spacing_least=3.0,
            cut_speed=80,
            caution=_BOARD,
            colour="#ece7da",
            flares=True,
        ),
        Material(
            id="felt",
            label="Felt",
            give=Give.SOFT,
            bonds=(Bond.PASTE,),
            thickness_sd=0.20,
            kerf_at_3=0.30,
            web_factor=1,
            web_least=3.0,
            spacing_least=3.0,
            cut_speed=30,
            caution="Wool smells and man-made felt melts: extraction on, stay with it.",
            colour="#7f9a7a",
        ),
        Material(
            id="leather",
            label="Leather",
            give=Give.SOFT,
            thickness_sd=0.15,
            kerf_at_3=0.22,
            web_factor=1,
            web_least=3.0,
            spacing_least=3.0,
            cut_speed=18,
            caution="Only leather tanned with bark: chrome-tanned leather gives off poison. Extraction on.",
            colour="#b5794a",
        ),
        Material(
            id="foam",
            label="Foam",
            give=Give.SOFT,
            thickness_sd=0.30,
            kerf_at_3=0.35,
            web_factor=1,
            web_least=6.0,
            spacing_least=3.0,
            cut_speed=40,
            caution="Foam melts and flares: know what it is made of, extraction on, never leave it.",
            colour="#5c6470",
            flares=True,
        ),
        Material(
            id="cork",
            label="Cork",
            give=Give.SOFT,
            bonds=(Bond.PASTE,),
            thickness_sd=0.15,
            kerf_at_3=0.25,
            web_factor=1,
            web_least=3.0,
            spacing_least=3.0,
            cut_speed=25,
            caution="Cork glows on after the beam has passed: look before you leave.",
            colour="#b98f63",
            flares=True,
        ),
        Material(
            id="rubber",
            label="Rubber for stamps",
            give=Give.SOFT,
            thickness_sd=0.08,
            kerf_at_3=0.25,
            web_factor=1,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=12,
            caution="Only rubber made for lasers. It smells and soots: extraction on, clean the lens after.",
            colour="#8d4a45",
        ),
        Material(
            id="plastic",
            label="Other plastic",
            give=Give.RIGID,
            thickness_sd=0.08,
            kerf_at_3=0.20,
            web_factor=1,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=12,
            caution="Know what it is before the beam does: some plastics give off poison or acid.",
            colour="#d8d8d4",
            flares=True,
        ),
        Material(
            id="laminate",
            label="Fibre laminate",
            give=Give.RIGID,
            thickness_sd=0.05,
            kerf_at_3=0.20,
            web_factor=1,
            web_least=2.0,
            spacing_least=3.0,
            cut_speed=10,
            caution="Carbon and glass fibre laminates are not for the laser.",
            colour="#33383c",
        ),
        Material(
            id="metal",
            label="Painted metal",
            give=Give.RIGID,
            thickness_sd=0.02,
            kerf_at_3=0.15,
            web_factor=1,
            web_least=2.0,
            spacing_least=1.5,
            cut_speed=5,
            caution="Mark only what its maker allows: paint may give off poison, bare metal throws the beam back.",
            colour="#9aa3a8",
        ),
    )
}


def default_kerf(material: Material, thickness: Mm) -> Mm:
    """Return the kerf to assume before any test [mm]: it grows slowly with thickness."""
    return round(material.kerf_at_3 * (1 + 0.04 * (min(thickness, 15.0) - 3.0)), 3)


def minimum_web(material: Material, thickness: Mm) -> Mm:
    """Return the least distance between two finished cut lines [mm]."""
    return max(material.web_factor * thickness, material.web_least)


def part_spacing(material: Material, thickness: Mm) -> Mm:
    """Return the default distance between parts on a sheet [mm]."""
    return max(material.spacing_least, 0.5 * thickness)
