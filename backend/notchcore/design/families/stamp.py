"""The stamp: raised letters, mirrored, on a soft sheet that is glued to a plate, with a grip of smaller plates below it.

The plate's lower face is z = 0, its lower left corner the origin; the letters look up. Its size follows the words.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from notchcore.design.arrangement import Arrangement, Arranger, lying, seen_from_below
from notchcore.design.assembly import Mark
from notchcore.design.families.outlines import rounded
from notchcore.design.numbers import PanelGroup, check_numbers, choice, count, length, text
from notchcore.geom.areas import ground_round
from notchcore.geom.fonts import text_outlines
from notchcore.geom.planar import Polygon, box, moved, pieces
from notchcore.geom.profile import Profile, bridged, polygon_of, profile_of
from notchcore.measure.machine import Operation
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.language import called
from notchcore.words.render import say

SOFT = "rubber"  # what prints; other materials only emboss
ROLES = (PanelGroup(id="face", label="Rubber"), PanelGroup(id="plate", label="Plate"), PanelGroup(id="grip", label="Grip"))
CLEAR: Mm = 1.5  # between letters and a frame round them
STEP: Mm = 4.0  # a grip is smaller than its plate on each side, where its words have room
LINE_LEAST: Mm = 2.0  # from the edge, of a line that shows where the grip goes


class Letters(StrEnum):
    """The typeface."""

    PLAIN = "plain"
    SERIF = "serif"


class Named(StrEnum):
    """What the plate's other face says."""

    WORDS = "words"
    NOTHING = "nothing"


@dataclass(frozen=True, slots=True, kw_only=True)
class StampNumbers:
    """The numbers of a stamp [mm]."""

    family: Literal["stamp"] = "stamp"
    words: str = text("MOSSGATE", "Text")
    cap: Mm = length(10.0, "Height of a capital", least=2.0, most=200.0)
    letters: Letters = choice(Letters.PLAIN, "Letters", labels={Letters.PLAIN: "plain", Letters.SERIF: "with serifs"})
    margin: Mm = length(4.0, "Taken away round them", least=1.0, most=100.0)
    frame: Mm = length(0.0, "Raised frame, width", none_at_zero=True, least=0.5, most=20.0)
    corner: Mm = length(2.0, "Round corners, radius")
    grip: int = count(2, "Layers of the grip", least=0, most=12, group="Grip")
    named: Named = choice(Named.WORDS, "On the side that is held", labels={Named.WORDS: "the words, to be read", Named.NOTHING: "nothing"}, group="Grip")

    def __post_init__(self) -> None:
        check_numbers(self)


def arrange(n: StampNumbers, ids: Mapping[str, str], stocks: Mapping[str, Stock]) -> Arrangement:
    """Return the sheets of a stamp, or findings that name the number to change."""
    a = Arranger(ids, stocks)
    shapes = [polygon_of(s) for s in text_outlines(n.words.strip(), n.cap, serif=n.letters is Letters.SERIF)]
    if not shapes:
        a.must("stamp_says_nothing", "words", says=say("stamp_says_nothing"))
        return a.done()
    around = n.margin + (n.frame + CLEAR if n.frame else 0.0)
    x0, y0, x1, y1 = (min(s.bounds[0] for s in shapes), min(s.bounds[1] for s in shapes), max(s.bounds[2] for s in shapes), max(s.bounds[3] for s in shapes))
    width, height = x1 - x0 + 2 * around, y1 - y0 + 2 * around
    t = a.t("plate")
    outline = rounded(0, 0, x1=width, y1=height, radius=min(n.corner, width / 2, height / 2))
    read = [moved(s, (1.0, 0.0, 0.0, 1.0, around - x0, around - y0)) for s in shapes]
    printed = [moved(s, (-1.0, 0.0, 0.0, 1.0, width, 0.0)) for s in read]
    edge = _frame(n, width=width, height=height)
    ground = [p for g in ground_round([*printed, *edge], 0.0 if edge else around) for p in pieces(g.intersection(polygon_of(outline)))]
    relief, words = tuple(map(_engraved, ground)), tuple(map(_engraved, read)) if n.named is Named.WORDS else ()
    a.add("rubber", "Rubber", role="face", envelope=outline, pose=lying(t), datum=0.0, marks=relief, places=("backing",))
    below, inset = seen_from_below(0.0, width), min(STEP, around - 1.0)
    near = ("rubber", "grip-1") if inset < LINE_LEAST else ("rubber",)  # so near the edge, the edge is seen better than a line
    a.add("backing", "Plate", role="plate", envelope=outline, pose=below, datum=1.0, marks=() if n.grip else words, places=near)
    _grip(n, a, outer=rounded(inset, inset, x1=width - inset, y1=height - inset, radius=n.corner), width=width, words=words)
    if a.stock("face").material != SOFT:
        a.look("stamp_not_soft", say("stamp_not_soft", stock=a.stock("face").name))
    a.shows("cap", (around, around, t + a.t("face")), end=(around, around + n.cap, t + a.t("face")))
    a.shows("margin", (0, height / 2, t + a.t("face")), end=(around, height / 2, t + a.t("face")))
    a.fact("The stamp", width, height)
    return a.done()


def _frame(n: StampNumbers, *, width: Mm, height: Mm) -> list[Polygon]:
    """Return the raised frame along the edge, if there is one."""
    return [box(0, 0, width, height).difference(box(n.frame, n.frame, width - n.frame, height - n.frame))] if n.frame else []


def _engraved(area: Polygon) -> Mark:
    return Mark(line=bridged(profile_of(area)), operation=Operation.ENGRAVE)


def _grip(n: StampNumbers, a: Arranger, *, outer: Profile, width: Mm, words: tuple[Mark, ...]) -> None:
    """Add the layers below the plate, each alike; the last one is held, and says what is printed."""
    z = 0.0
    for i in range(n.grip):
        a.add(
            f"grip-{i + 1}",
            called("Grip {number}", number=i + 1),
            role="grip",
            envelope=outer,
            pose=seen_from_below(z, width),
            datum=0.0,
            marks=words if i == n.grip - 1 else (),
            places=(f"grip-{i}", f"grip-{i + 2}"),  # alike: they are laid edge on edge
        )
        z -= a.t("grip")
