"""Faults in sets of things: tiles, stacking pieces, how many there are of each, and what is alike."""

from __future__ import annotations

from planted.fault import Fault

TILES = "tests/core/test_tiles.py"
ALIKE = "tests/core/test_alike.py"
FAULTS: tuple[Fault, ...] = (
    Fault(
        "sockets of another tile do not agree",
        "design/families/tiles.py",
        "yield across - t / 2, middle - n.peg / 2,",
        "yield across - t / 2, middle - n.peg / 3,",
        TILES,
    ),
    Fault(
        "pegs fit the frame tightly",
        "design/families/tiles.py",
        "passes = tuple(tuple(reversed(ring)) for ring in _boxes(n, t, grown=ROOM))",
        "passes = tuple(tuple(reversed(ring)) for ring in _boxes(n, t, grown=0.05))",
        TILES,
    ),
    Fault(
        "corner walls run into full ones", "design/families/tiles.py", "return self.middle_of_rim + t / 2 + CORNER", "return self.middle_of_rim - t / 2", TILES
    ),
    Fault(
        "a map counts pieces across a rim",
        "design/families/tile_map.py",
        "return within and (x // n.units, y // n.units)",
        "return (x // n.units, y // n.units)",
        TILES,
    ),
    Fault("corner walls of a map are counted as full", "design/families/tile_map.py", "edge % 2 == 1 and (c, r) in ahead", "False", TILES),
    Fault("a set has one of everything", "design/joints/solve.py", "        copies=panel.copies,\n", "", TILES),
    Fault(
        "a foot is as large as its recess",
        "design/families/stacking.py",
        "for less in (0.0, n.rim, n.rim - n.play / 2))",
        "for less in (0.0, n.rim, n.rim))",
        "tests/core/test_stacking.py",
    ),
    Fault("parts of two stocks are alike", "design/alike.py", "apart = (part.stock, ", "apart = (", ALIKE),
    Fault("what is burned tells nothing apart", "design/alike.py", "holes, tuple(marks)", "holes", ALIKE),
    Fault(
        "alike parts pass what is in their way",
        "check/gather.py",
        "blocking.blocks(at[p.parts[0]], at[one], d=out) for p in passed",
        "False for p in passed",
        ALIKE,
    ),
    Fault(
        "a free edge is glued",
        "design/joints/crossed.py",
        "style if count or style in NO_TABS else Style.BUTT",
        "style if count or style is Style.BLIND else Style.BUTT",
        "tests/core/test_styles.py",
    ),
    Fault(
        "glue runs where something goes in later",
        "check/steps.py",
        "coming = {m.b for m in dry if m.a in sheets} | {m.a for m in dry if m.b in sheets}",
        "coming = set[str]()",
        TILES,
    ),
    Fault(
        "letters come once, however many their panel",
        "design/features/laid.py",
        "        loose=piece.apart,",
        "        loose=piece.apart,\n        copies=1,",
        "tests/core/test_laid.py",
    ),
)
