"""The designs of the demo projects."""

from __future__ import annotations

from typing import Any

from apps.sheets.models import Stock
from notchcore.design.design import Design
from notchcore.design.families.crate import CrateNumbers
from notchcore.design.families.house import HouseNumbers
from notchcore.design.families.many_sided import Fingers, Floor, Lid, ManySidedNumbers, Panes
from notchcore.design.families.stand import Base, StandNumbers
from notchcore.design.families.turned import TurnedNumbers
from notchcore.design.features.values import Burned, Face, Text

USER, PASSWORD = "alder", "seed-fair"
LENSES = [{"id": "two_inch", "name": "2 in lens", "spot": 0.12}, {"id": "four_inch", "name": "4 in lens, thick sheets", "spot": 0.2}]
PROFILE = {"bed_width": 620.0, "bed_height": 420.0, "lenses": LENSES, "lens": "two_inch"}

STOCKS: list[dict[str, Any]] = [
    {
        "key": "birch12",
        "name": "Birch ply 3, batch 12",
        "family": "plywood",
        "label": 3.0,
        "colour": "#e9d2a6",
        "shelf": "shelf B",
        "batch": "12",
        "age": 6,
        "readings": [(3.06, 0.06, 0.9), (3.11, 0.94, 0.9), (3.08, 0.5, 0.5), (3.05, 0.06, 0.1), (3.10, 0.94, 0.1)],
        "kerf": [("strips", 10.0, 98.42, 10, 60), ("gap", 5.0, 5.17, 1, 30), ("gap", 5.0, 5.16, 1, 6)],
        "lab": [84.6, 4.1, 23.5],
        "sheets": [("Birch ply 3, 600 × 400", 600, 400, 6, 7.5, False), ("Offcut 17", 310, 220, 1, 1.5, True)],
        "settings": ((62, 14, 1), (12, 120), "power card, 12 May", 60),
    },
    {
        "key": "birch9",
        "name": "Birch ply 3, batch 9",
        "family": "plywood",
        "label": 3.0,
        "colour": "#e4c995",
        "shelf": "shelf B",
        "batch": "9",
        "age": 140,
        "readings": [(2.93, 0.1, 0.1), (2.95, 0.9, 0.9), (2.94, 0.5, 0.5)],
        "kerf": [("strips", 10.0, 98.3, 10, 140)],
        "lab": [82.0, 5.0, 26.8],
        "sheets": [("Birch ply 3, old", 600, 400, 1, 7.0, False)],
    },
    {
        "key": "walnut",
        "name": "Walnut 3",
        "family": "solid_wood",
        "label": 3.0,
        "colour": "#8a5638",
        "shelf": "shelf C",
        "age": 12,
        "readings": [(3.10, 0.1, 0.2), (3.14, 0.5, 0.5), (3.12, 0.9, 0.8)],
        "kerf": [("gap", 5.0, 5.19, 1, 12)],
        "lab": [42.5, 13.9, 19.8],
        "sheets": [("Walnut 3, 450 × 300", 450, 300, 3, 14.0, False)],
        "settings": ((70, 11, 1), (14, 110), "power card, 3 June", 12),
    },
    {
        "key": "poplar",
        "name": "Poplar ply 4",
        "family": "plywood",
        "label": 4.0,
        "colour": "#ecdfc4",
        "shelf": "shelf B",
        "age": 0,
        "readings": [],
        "kerf": [],
        "sheets": [("Poplar ply 4, 600 × 400", 600, 400, 4, 5.2, False)],
    },
    {
        "key": "clear",
        "name": "Clear acrylic 3",
        "family": "cast_acrylic",
        "label": 3.0,
        "colour": "#cfe6ea",
        "shelf": "rack 2",
        "look": "clear",
        "film": "both",
        "age": 20,
        "readings": [(2.86, 0.1, 0.1), (2.88, 0.5, 0.5), (2.87, 0.9, 0.9)],
        "kerf": [("gap", 5.0, 5.14, 1, 20)],
        "sheets": [("Clear acrylic 3, 500 × 300", 500, 300, 2, 12.0, False)],
    },
    {
        "key": "grey",
        "name": "Grey board 2",
        "family": "grey_board",
        "label": 2.0,
        "colour": "#b9b2a2",
        "shelf": "drawer",
        "age": 45,
        "readings": [(2.02, 0.2, 0.2), (2.03, 0.5, 0.5), (2.01, 0.8, 0.8)],
        "kerf": [],
        "sheets": [("Grey board 2, A3", 420, 297, 10, 0.9, False)],
    },
    {
        "key": "corrugated",
        "name": "Corrugated 4",
        "family": "corrugated",
        "label": 4.0,
        "colour": "#c69a6b",
        "shelf": "bin",
        "age": 9,
        "crush": 0.08,
        "readings": [(4.3, 0.5, 0.5)],
        "kerf": [],
        "sheets": [("Corrugated 4, 800 × 600", 800, 600, 5, 0.4, False)],
    },
    {
        "key": "board",
        "name": "Spruce board 12",
        "family": "plywood",
        "label": 12.0,
        "colour": "#e6d6b4",
        "shelf": "rack 1",
        "age": 8,
        "readings": [(12.14, 0.1, 0.2), (12.08, 0.5, 0.5), (12.11, 0.9, 0.8)],
        "kerf": [("gap", 10.0, 10.26, 1, 8)],
        "sheets": [("Spruce board 12, 600 × 400", 600, 400, 4, 16.0, False)],
        "settings": ((80, 8, 4), (14, 110), "power card, 20 June", 8),
    },
    {
        "key": "foam",
        "name": "White foam 10",
        "family": "foam",
        "label": 10.0,
        "colour": "#eef0ee",
        "shelf": "bin",
        "substance": "foam.polystyrene",
        "age": 0,
        "readings": [],
        "kerf": [],
        "sheets": [("White foam 10, 500 × 500", 500, 500, 2, 2.5, False)],
    },
]
GAUGE = ("wont_go", "mallet", "mallet", "mallet", "snug", "snug", "slides", "slides", "slides", "rattles", "rattles")  # walnut tongue in birch, slot by slot


def _lantern(birch: str, clear: str) -> Design:
    """Return a lantern of eight walls with a pane behind each window."""
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
    )
    return Design(numbers=numbers, stocks={"walls": birch, "floor": birch, "lid": birch, "panes": clear})


def designed(stocks: dict[str, Stock]) -> list[tuple[str, int, Design]]:
    """Return what they are called, in how many days they are due, and what they are."""
    birch, walnut, grey, clear = (str(stocks[k].pk) for k in ("birch12", "walnut", "grey", "clear"))
    board = Text(id="text-1", panel="figure", words="MOSSGATE", cap=17.0, y=22.0, face=Face.SERIF, burned=Burned.ENGRAVE)
    fair = Text(id="text-2", panel="figure", words="SEED FAIR", cap=8.0, y=0.0, face=Face.STROKE)
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
            Design(
                numbers=StandNumbers(width=220, height=120, base_width=190, base_depth=80, foot=90, base=Base.DOUBLE),
                stocks={"figure": walnut, "base": birch, "strut": birch},
                features=(board, fair),
            ),
        ),
    ]
