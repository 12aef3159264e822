"""All families: what each is called, what it asks, and how it is arranged. A new family is one module and one line here."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from notchcore.design.arrangement import Arrangement
from notchcore.design.families import box, case, crate, house, inlaid, layered, many_sided, plate, shelf, stacking, stamp, stand, tiles, turned
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.case import CaseNumbers
from notchcore.design.families.crate import CrateNumbers
from notchcore.design.families.house import HouseNumbers
from notchcore.design.families.inlaid import InlaidNumbers
from notchcore.design.families.layered import LayeredNumbers
from notchcore.design.families.many_sided_numbers import ManySidedNumbers
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.families.shelf import ShelfNumbers
from notchcore.design.families.stacking import StackingNumbers
from notchcore.design.families.stamp import StampNumbers
from notchcore.design.families.stand import StandNumbers
from notchcore.design.families.tiles import TilesNumbers
from notchcore.design.families.turned import TurnedNumbers
from notchcore.design.numbers import PanelGroup
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.language import Called

Numbers = (
    BoxNumbers
    | StandNumbers
    | ShelfNumbers
    | CrateNumbers
    | HouseNumbers
    | TurnedNumbers
    | LayeredNumbers
    | ManySidedNumbers
    | CaseNumbers
    | PlateNumbers
    | InlaidNumbers
    | StampNumbers
    | TilesNumbers
    | StackingNumbers
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Family(Called):
    """One kind of thing to begin with."""

    NAMED = ("label", "says", "caution", "thing")

    id: str
    label: str
    says: str  #: what it is, in one line
    for_bed: Callable[[Any, tuple[Mm, Mm]], Any] | None = None  #: its numbers, with what is too long for a machine's bed divided
    roles: tuple[PanelGroup, ...]
    numbers: type[Any]
    arrange: Callable[[Any, Mapping[str, str], Mapping[str, Stock]], Arrangement]
    first: tuple[str, ...]  #: the numbers asked when a project begins
    caution: str = ""
    thing: str = ""  #: what one is called beside others; the label where there is nothing shorter
    of: tuple[tuple[str, str], ...] = ()  #: groups that want a material of their own, where the rack has it
    other: tuple[str, ...] = ()  #: groups that begin in another stock, which can be told from the first
    fills: bool = False  #: something is put into each of its rooms when a project begins


FAMILIES: dict[str, Family] = {
    f.id: f
    for f in (
        Family(
            id="box",
            label="Box",
            says="Open, with a lid, or a drawer in a sleeve; compartments both ways.",
            roles=box.ROLES,
            numbers=BoxNumbers,
            arrange=box.arrange,
            first=("width", "depth", "height"),
        ),
        Family(
            id="stand",
            label="Stand",
            says="Figures that stand in a slotted base.",
            roles=stand.ROLES,
            numbers=StandNumbers,
            arrange=stand.arrange,
            first=("width", "height", "base_depth"),
        ),
        Family(
            id="shelf",
            label="Shelf or tiers",
            says="Boards between two sides, above each other or in steps.",
            roles=shelf.ROLES,
            numbers=ShelfNumbers,
            arrange=shelf.arrange,
            first=("width", "depth", "height"),
            caution=shelf.CAUTION,
        ),
        Family(
            id="crate",
            label="Ribbed form",
            says="Ribs both ways that follow a hill, an image or a solid.",
            roles=crate.ROLES,
            numbers=CrateNumbers,
            arrange=crate.arrange,
            first=("width", "depth", "rise"),
            for_bed=crate.for_bed,
        ),
        Family(
            id="house",
            label="House",
            says="Walls slotted to a pitched roof, with door and windows.",
            roles=house.ROLES,
            numbers=HouseNumbers,
            arrange=house.arrange,
            first=("width", "depth", "wall"),
        ),
        Family(
            id="turned",
            label="Turned stack",
            says="Layers on posts, each turned a little further.",
            roles=turned.ROLES,
            numbers=TurnedNumbers,
            arrange=turned.arrange,
            first=("diameter", "layers", "twist"),
        ),
        Family(
            id="layered",
            label="Layered sheets",
            says="Sheets glued on each other: signs, reliefs, frames.",
            roles=layered.ROLES,
            numbers=LayeredNumbers,
            arrange=layered.arrange,
            first=("width", "height", "layers"),
        ),
        Family(
            id="many_sided",
            label="Walls round a floor",
            says="Three to twenty-four walls, upright or leaning.",
            roles=many_sided.ROLES,
            numbers=ManySidedNumbers,
            arrange=many_sided.arrange,
            first=("sides", "width", "height", "lean"),
            caution=many_sided.CAUTION,
        ),
        Family(
            id="case",
            label="Case with drawers",
            says="Rooms one above the other, a drawer in each that keeps its play.",
            roles=case.ROLES,
            numbers=CaseNumbers,
            arrange=case.arrange,
            first=("width", "depth", "height", "drawers"),
            caution=shelf.CAUTION,
            thing="Case",
            fills=True,
        ),
        Family(
            id="inlaid",
            label="Inlaid board",
            says="Squares of two or more stocks in a lattice, on a base.",
            roles=inlaid.ROLES,
            numbers=InlaidNumbers,
            arrange=inlaid.arrange,
            first=("columns", "rows", "square"),
            other=("squares_1", "squares_3"),
        ),
        Family(
            id="stamp",
            label="Stamp",
            says="Raised letters, mirrored, on rubber; a plate behind it, and a grip.",
            roles=stamp.ROLES,
            numbers=StampNumbers,
            arrange=stamp.arrange,
            first=("words", "cap"),
            of=(("face", stamp.SOFT),),
        ),
        Family(
            id="tiles",
            label="Tiles",
            says="Tiles of glued layers with loose walls that plug in and loose pieces.",
            roles=tiles.ROLES,
            numbers=TilesNumbers,
            arrange=tiles.arrange,
            first=("tiles", "pitch", "units"),
            other=("pieces_2", "pieces_4"),
            thing="Tile",
        ),
        Family(
            id="stacking",
            label="Stacking pieces",
            says="Pieces of two layers or three, each with a foot that enters the next.",
            roles=stacking.ROLES,
            numbers=StackingNumbers,
            arrange=stacking.arrange,
            first=("shape", "across", "many_1", "many_2"),
            other=("pieces_2", "pieces_4"),
            thing="Pieces",
        ),
        Family(
            id="plate",
            label="Plate",
            says="One sheet of a plain shape, to cut as it is or to build on.",
            roles=plate.ROLES,
            numbers=PlateNumbers,
            arrange=plate.arrange,
            first=("shape", "width", "height", "across", "sides", "lower_side", "right_side", "left_side"),
        ),
    )
}


def family_of(numbers: Numbers) -> Family:
    """Return the family that numbers belong to."""
    return FAMILIES[numbers.family]
