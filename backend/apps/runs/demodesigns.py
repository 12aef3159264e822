"""The designs of the demo projects."""

from __future__ import annotations

from apps.sheets.models import Stock
from notchcore.design.design import Design, Item
from notchcore.design.edits import PanelEdit
from notchcore.design.families.box import BoxNumbers
from notchcore.design.families.crate import CrateNumbers
from notchcore.design.families.house import HouseNumbers
from notchcore.design.families.many_sided_numbers import Fingers, Floor, Lid, ManySidedNumbers, Panes
from notchcore.design.families.plate import PlateNumbers, PlateShape
from notchcore.design.families.stand import Base, StandNumbers
from notchcore.design.families.tiles import TilesNumbers
from notchcore.design.families.turned import TurnedNumbers
from notchcore.design.features.values import Burned, Face, Text
from notchcore.design.joined import Joined, JoinSide
from notchcore.design.variations import Alternative, Variation
from notchcore.measure.fit import Feel


def _lantern(birch: str, clear: str) -> Design:
    """Return a lantern of eight walls with a pane behind each window and a post in each corner."""
    numbers = ManySidedNumbers(
        sides=8,
        width=150,
        height=180,
        floor=Floor.UNDER,
        lid=Lid.LIFT_OFF,
        opening_width=28,
        opening_height=110,
        sill=35,
        panes=Panes.BEHIND,
        fingers=Fingers.WITHIN,
        posts=24,
    )
    return Design(numbers=numbers, stocks={"walls": birch, "floor": birch, "lid": birch, "panes": clear})


def _seed_bin(birch: str, walnut: str) -> Design:
    """Return a bin with a tray joined to its front and a scoop rest that leans, in two sizes."""
    roles = ("walls", "base", "dividers", "lid")
    tray = Design(numbers=BoxNumbers(width=120, depth=60, height=50, columns=2), stocks=dict.fromkeys(roles, walnut))
    rest = Design(numbers=PlateNumbers(shape=PlateShape.ELLIPSE, width=70, height=50), stocks={"plate": birch})
    bin_ = BoxNumbers(width=150, depth=110, height=90)
    return Design(
        name="Bin",
        numbers=bin_,
        stocks=dict.fromkeys(roles, birch),
        items=(
            Item(id="tray", label="Tray", design=tray, joined=Joined(side=JoinSide.BEFORE), at=(0.0, 0.0, 15.0)),
            Item(id="scoop-rest", label="Scoop rest", design=rest, tip=60.0),
        ),
        variations=(
            Variation(
                name="Size",
                chosen="For packets",
                alternatives=(Alternative(name="For packets", numbers={"height": 90.0}), Alternative(name="For bulbs", numbers={"height": 140.0})),
            ),
        ),
    )


def _name_board(birch: str, walnut: str) -> Design:
    """Return a board with letters of light wood set through dark wood."""
    board = Text(id="text-1", panel="figure", words="SEEDS", cap=32.0, y=16.0, burned=Burned.INLAID, stock=birch)
    fair = Text(id="text-2", panel="figure", words="MOSSGATE FAIR", cap=8.0, y=-14.0, face=Face.STROKE)
    return Design(
        numbers=StandNumbers(width=220, height=120, base_width=190, base_depth=80, foot=90, base=Base.DOUBLE),
        stocks={"figure": walnut, "base": birch, "strut": birch},
        features=(board, fair),
        edits={"text-1-inside-1": PanelEdit(bridges=2)},
    )


def _bed_plan(birch: str, walnut: str, *, clear: str) -> Design:
    """Return tiles for planning beds: loose walls, pieces of two woods and of clear sheet, and the map of a first garden."""
    across = [(c, 0, 0) for c in range(3)] + [(c, 1, 2) for c in range(3)]
    ends = [(0, r, 3) for r in range(2)] + [(2, r, 1) for r in range(2)]
    numbers = TilesNumbers(
        tiles=6,
        full=6,
        short=4,
        pitch=100,
        pieces=((1, 1, 0, 12), (2, 1, 1, 8), (2, 2, 1, 4), (1, 1, 2, 6)),
        tiles_at=tuple((c, r) for c in range(3) for r in range(2)),
        walls_at=(*across, *ends),
        pieces_at=((0, 0, 2, 2, 1), (2, 0, 1, 1, 0), (3, 0, 1, 1, 0), (4, 4, 2, 1, 1), (6, 4, 2, 1, 1), (9, 1, 2, 2, 1), (8, 5, 1, 1, 2), (1, 5, 1, 1, 2)),
    )
    layers = dict.fromkeys(("face", "middle", "frame", "walls"), birch)
    return Design(numbers=numbers, stocks={**layers, "pieces_1": birch, "pieces_2": walnut, "pieces_3": clear, "pieces_4": clear}, feel=Feel.SLIDES)


def designed(stocks: dict[str, Stock]) -> list[tuple[str, int, Design]]:
    """Return what they are called, in how many days they are due, and what they are."""
    birch, walnut, grey, clear = (str(stocks[k].pk) for k in ("birch12", "walnut", "grey", "clear"))
    return [
        (
            "Bean spiral",
            16,
            Design(
                numbers=TurnedNumbers(diameter=150, layers=14, twist=105, taper=80, waves=5, depth=12, hollow=34, posts=2, post_radius=36, post_width=12),
                stocks={"layers": birch, "posts": walnut},
            ),
        ),
        (
            "Contour hill",
            14,
            Design(
                numbers=CrateNumbers(width=520, depth=320, rise=95, along=7, across=11, longest=400),
                stocks={"along": grey, "across": grey},
            ),
        ),
        ("Lantern walk", 13, _lantern(birch, clear)),
        ("Seed bin with a tray", 15, _seed_bin(birch, walnut)),
        (
            "Nesting box",
            12,
            Design(
                numbers=HouseNumbers(width=130, depth=150, wall=140, pitch=38, hole=32, hole_height=115, eaves=20, verge=22),
                stocks={"walls": birch, "roof": birch, "floor": birch, "trim": walnut},
            ),
        ),
        (
            "Stall name board",
            10,
            _name_board(birch, walnut),
        ),
        ("Bed-plan tiles", 17, _bed_plan(birch, walnut, clear=clear)),
    ]
