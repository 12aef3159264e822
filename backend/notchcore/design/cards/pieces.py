"""The test pieces and their geometry. Everything is drawn as the beam shall go: nothing is corrected for kerf.

Cell     one thing to judge or measure on a card: a slot, a square, a line of text; results are entered by its id
Opening  the stock that the card is cut from; entering: the stock of a gauge strip's tongue, which may be another
A card's numbers are fixed when it is made, so that newer evidence never changes a card that was cut.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.lettering import lettered, text_width
from notchcore.errors import DesignError, require
from notchcore.geom.profile import Profile, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2
from notchcore.measure.machine import Beam, Operation
from notchcore.measure.stock import Stock
from notchcore.units import Mm, format_length, shown_speed
from notchcore.words.render import say

LABEL: Mm = 2.4  # cap height of labels: read at arm's length, written in a moment
SMALL: Mm = 1.8
TITLE_ROOM: Mm = 5.0
RIM: Mm = 4.0
ROLES = ("sheet", "tongue")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lettered:
    """A card with figures burned on it, in the unit of who made it."""

    unit: Literal["mm", "in", "thou"] = "mm"

    def figure(self, length: Mm, digits: int = 2) -> str:
        """Return a width as it is burned: 2.85, 0.1122 in inches, 112.2 in thousandths; `digits` count in millimetres."""
        return format_length(length, unit=self.unit, digits={"mm": digits, "in": 4, "thou": 1}[self.unit])

    def rate(self, speed: float) -> str:
        """Return a speed [mm/s] as it is read."""
        return shown_speed(speed, self.unit)

    def plain(self, length: Mm) -> str:
        """Return a rounder size as it is burned: 2.5, 0.098, 98."""
        return f"{length:g}" if self.unit == "mm" else format_length(length, unit=self.unit)


@dataclass(frozen=True, slots=True, kw_only=True)
class StripsCard(Lettered):
    """Strips to stack and measure."""

    family: Literal["strips"] = "strips"
    count: int = 10
    width: Mm = 10.0
    length: Mm = 50.0

    def __post_init__(self) -> None:
        require("strips", self.count, least=2, most=50, unit="")
        require("strip width", self.width, least=2, most=50)
        require("strip length", self.length, least=20, most=300)


@dataclass(frozen=True, slots=True, kw_only=True)
class GapCard(Lettered):
    """Slots and pegs of known drawn width."""

    family: Literal["gaps"] = "gaps"
    widths: tuple[Mm, ...] = (4.0, 6.0, 8.0)
    depth: Mm = 14.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.widths) <= 8:
            raise DesignError(say("gap_card_slots"), field="widths")
        for w in self.widths:
            require("gap width", w, least=1, most=30)
        require("gap depth", self.depth, least=8, most=60)


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeStrip(Lettered):
    """A row of stepped slots, and a tongue to try in them."""

    family: Literal["gauge"] = "gauge"
    first: Mm = 2.7  #: drawn width of the narrowest slot
    step: Mm = 0.05
    count: int = 11
    depth: Mm = 12.0

    def __post_init__(self) -> None:
        require("first slot", self.first, least=0.1, most=40)
        require("step", self.step, least=0.01, most=1)
        require("slots", self.count, least=3, most=25, unit="")
        require("slot depth", self.depth, least=5, most=60)

    def widths(self) -> tuple[Mm, ...]:
        return tuple(round(self.first + i * self.step, 4) for i in range(self.count))


@dataclass(frozen=True, slots=True, kw_only=True)
class PowerCard(Lettered):
    """Small squares, each cut with its own power and speed."""

    family: Literal["power"] = "power"
    powers: tuple[float, ...] = (40.0, 50.0, 60.0, 70.0, 80.0)
    speeds: tuple[float, ...] = (8.0, 11.0, 14.0, 17.0, 20.0)
    passes: int = 1
    square: Mm = 6.0
    focus: Mm = 0.0

    def __post_init__(self) -> None:
        for name, values in (("powers", self.powers), ("speeds", self.speeds)):
            if not 1 <= len(values) <= 10 or len(set(values)) < len(values):
                raise DesignError(say("card_different", name=name), field=name)
        require("square", self.square, least=3, most=30)
        for p in self.powers:
            for s in self.speeds:
                self.beam(p, s)

    def beam(self, power: float, speed: float) -> Beam:
        return Beam(power=power, speed=speed, passes=self.passes, focus=self.focus)


@dataclass(frozen=True, slots=True, kw_only=True)
class StepCard(Lettered):
    """Squares engraved with one pass, two, three and so on."""

    family: Literal["steps"] = "steps"
    power: float = 40.0
    speed: float = 250.0
    interval: Mm = 0.1
    passes: tuple[int, ...] = (1, 2, 3, 4, 5, 6)
    square: Mm = 12.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.passes) <= 12 or len(set(self.passes)) < len(self.passes):
            raise DesignError(say("card_passes"), field="passes")
        require("square", self.square, least=5, most=40)
        for n in self.passes:
            self.beam(n)

    def beam(self, passes: int) -> Beam:
        return Beam(power=self.power, speed=self.speed, passes=passes, interval=self.interval)


@dataclass(frozen=True, slots=True, kw_only=True)
class LegibilityCard(Lettered):
    """Lines of text from large to small, and pairs of cuts ever nearer to each other."""

    family: Literal["legibility"] = "legibility"
    heights: tuple[Mm, ...] = (5.0, 4.0, 3.0, 2.5, 2.0, 1.5, 1.0)
    webs: tuple[Mm, ...] = (3.0, 2.0, 1.5, 1.0, 0.7, 0.5)
    words: str = "SEED 0123"

    def __post_init__(self) -> None:
        for name, values, most in (("heights", self.heights, 20.0), ("webs", self.webs, 20.0)):
            if not 1 <= len(values) <= 12:
                raise DesignError(say("card_up_to_twelve", name=name), field=name)
            for v in values:
                require(name, v, least=0.2, most=most)
        if not 1 <= len(self.words) <= 24:
            raise DesignError(say("card_words"), field="words")


Card = StripsCard | GapCard | GaugeStrip | PowerCard | StepCard | LegibilityCard


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One thing on a card that gets a result [mm, in the part's plane]."""

    id: str
    part: str
    label: str
    box: tuple[Mm, Mm, Mm, Mm]  #: where to click
    value: float  #: drawn width, passes, cap height or web; speed for a power square
    second: float = 0.0  #: power of a power square
    what: str = ""  #: slot, peg, strips, square, text, web


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A card as parts, with the cells that get results."""

    parts: tuple[Part, ...]
    cells: tuple[Cell, ...]


def _part(pid: str, label: str, *, stock: Stock, profile: Profile, marks: tuple[Mark, ...], at: Vec2 = (0.0, 0.0)) -> Part:
    pose = Pose(origin=(at[0], at[1], 0.0), x=(1.0, 0.0, 0.0), y=(0.0, 1.0, 0.0))
    return Part(id=pid, label=label, stock=stock.id, pose=pose, low=0.0, high=stock.t, profile=profile, nominal=profile, marks=marks)


def _title(text: str, x: Mm, *, y: Mm, room: Mm) -> tuple[Mark, ...]:
    while text and text_width(text, SMALL) > room:
        text = text[:-1]
    return lettered(text.strip(), x, y=y, height=SMALL)


def _strips(card: StripsCard, stock: Stock, *, title: str) -> Piece:
    w = card.count * card.width
    cuts = tuple(Mark(line=((i * card.width, 0.0), (i * card.width, card.length)), closed=False, operation=Operation.INNER) for i in range(1, card.count))
    marks = (
        *cuts,
        *(m for i in range(card.count) for m in lettered(str(i + 1), (i + 0.5) * card.width, y=3.0, height=min(LABEL, card.width / 3), centred=True)),
    )
    cell = Cell(id="stack", part="strips", label=f"{card.count} × {card.plain(card.width)}", box=(0, 0, w, card.length), value=card.width, what="strips")
    return Piece(parts=(_part("strips", f"Kerf strips, {title}", stock=stock, profile=rectangle(0, 0, x1=w, y1=card.length), marks=marks),), cells=(cell,))


def _comb(widths: tuple[Mm, ...], depth: Mm, *, bottom: Mm, web: Mm, least_pitch: Mm) -> tuple[Profile, list[tuple[Mm, Mm]]]:
    """Return a bar with slots open at its top edge, and the x range of each slot."""
    x, spans = RIM, []
    for w in widths:
        gap = max(web, least_pitch - w)
        spans.append((x + gap / 2, x + gap / 2 + w))
        x += gap + w
    right, top = x + RIM, bottom + depth
    ring: list[Vec2] = [(0.0, 0.0), (right, 0.0), (right, top)]
    for x0, x1 in reversed(spans):
        ring += [(x1, top), (x1, bottom), (x0, bottom), (x0, top)]
    ring.append((0.0, top))
    return Profile(outer=tuple(ring)), spans


def _widest(card: Lettered, widths: tuple[Mm, ...]) -> Mm:
    """Return the room that the longest of the figures beneath slots takes."""
    return max(text_width("8.88", LABEL), *(text_width(card.figure(w), LABEL) for w in widths))


def _gaps(card: GapCard, stock: Stock, *, title: str) -> Piece:
    bottom = TITLE_ROOM + LABEL + 4
    profile, spans = _comb(card.widths, card.depth, bottom=bottom, web=max(2 * stock.t, 4.0), least_pitch=_widest(card, card.widths) + 3)
    marks: list[Mark] = list(_title(title, RIM, y=1.8, room=profile.outer[1][0] - 2 * RIM))
    cells = []
    for i, ((x0, x1), w) in enumerate(zip(spans, card.widths, strict=True)):
        marks += lettered(card.figure(w), (x0 + x1) / 2, y=TITLE_ROOM + 1.5, height=LABEL, centred=True)
        cells.append(Cell(id=f"slot{i}", part="slots", label=card.figure(w), box=(x0, bottom, x1, bottom + card.depth), value=w, what="slot"))
    comb = _part("slots", f"Gap card, {title}", stock=stock, profile=profile, marks=tuple(marks))
    parts = [comb]
    x = 0.0
    for i, w in enumerate(card.widths):  # pegs are loose strips: measured across, like the slots
        peg = _part(f"peg{i}", f"Peg {card.plain(w)}", stock=stock, profile=rectangle(0, 0, x1=w, y1=30), marks=(), at=(x, bottom + card.depth + 6))
        parts.append(peg)
        cells.append(Cell(id=f"peg{i}", part=peg.id, label=card.figure(w), box=(0, 0, w, 30), value=w, what="peg"))
        x += w + 6
    return Piece(parts=tuple(parts), cells=tuple(cells))


def _gauge(card: GaugeStrip, sheet: Stock, *, tongue: Stock, title: str) -> Piece:
    bottom = TITLE_ROOM + LABEL + 4
    digits = 2 if card.step >= 0.009 else 3
    profile, spans = _comb(card.widths(), card.depth, bottom=bottom, web=max(1.5 * sheet.t, 3.0), least_pitch=_widest(card, card.widths()) + 2.2)
    marks: list[Mark] = list(_title(title, RIM, y=1.8, room=profile.outer[1][0] - 2 * RIM))
    cells = []
    for i, ((x0, x1), w) in enumerate(zip(spans, card.widths(), strict=True)):
        marks += lettered(card.figure(w, digits), (x0 + x1) / 2, y=TITLE_ROOM + 1.5, height=LABEL, centred=True)
        cells.append(Cell(id=f"slot{i}", part="gauge", label=card.figure(w, digits), box=(x0, bottom, x1, bottom + card.depth), value=w, what="slot"))
    key = rectangle(0, 0, x1=36, y1=18)
    marks_key = lettered("TONGUE", 18, y=7.5, height=LABEL, centred=True)
    return Piece(
        parts=(
            _part("gauge", f"Gauge strip, {title}", stock=sheet, profile=profile, marks=tuple(marks)),
            _part("tongue", "Tongue", stock=tongue, profile=key, marks=marks_key, at=(0, -24)),
        ),
        cells=tuple(cells),
    )


def _grid(columns: int, rows: int, *, square: Mm, left: Mm) -> tuple[Mm, Mm, Mm]:
    """Return pitch, width and height of a card of squares with room for labels at its left, top and bottom."""
    pitch = square + 5.0
    return pitch, left + columns * pitch + RIM, TITLE_ROOM + rows * pitch + LABEL + 6


def _power(card: PowerCard, stock: Stock, *, title: str) -> Piece:
    left = RIM + text_width("100%", LABEL) + 3
    pitch, width, height = _grid(len(card.speeds), len(card.powers), square=card.square, left=left)
    marks: list[Mark] = list(_title(title, RIM, y=1.8, room=width - 2 * RIM))
    cells = []
    for r, power in enumerate(card.powers):
        y = TITLE_ROOM + 1.5 + r * pitch
        marks += lettered(f"{power:g}%", RIM, y=y + (card.square - LABEL) / 2, height=LABEL)
        for c, speed in enumerate(card.speeds):
            x = left + c * pitch
            ring = rectangle(x, y, x1=x + card.square, y1=y + card.square).outer
            marks.append(Mark(line=ring, operation=Operation.INNER, beam=card.beam(power, speed)))
            cells.append(
                Cell(
                    id=f"p{power:g}s{speed:g}",
                    part="power",
                    label=f"{power:g} %, {card.rate(speed)}",
                    box=(x, y, x + card.square, y + card.square),
                    value=speed,
                    second=power,
                    what="square",
                )
            )
    for c, speed in enumerate(card.speeds):
        marks += lettered(card.rate(speed).split()[0], left + c * pitch + card.square / 2, y=height - LABEL - 2.5, height=LABEL, centred=True)
    return Piece(
        parts=(_part("power", f"Power card, {title}", stock=stock, profile=rectangle(0, 0, x1=width, y1=height), marks=tuple(marks)),), cells=tuple(cells)
    )


def _steps(card: StepCard, stock: Stock, *, title: str) -> Piece:
    pitch, width, height = _grid(len(card.passes), 1, square=card.square, left=RIM)
    width = max(width, text_width(title[:18], SMALL) + 2 * RIM)
    marks: list[Mark] = list(_title(title, RIM, y=1.8, room=width - 2 * RIM))
    cells = []
    y = TITLE_ROOM + 1.5
    for c, passes in enumerate(card.passes):
        x = RIM + 1 + c * pitch
        marks.append(Mark(line=rectangle(x, y, x1=x + card.square, y1=y + card.square).outer, operation=Operation.ENGRAVE, beam=card.beam(passes)))
        marks += lettered(str(passes), x + card.square / 2, y=y + card.square + 2, height=LABEL, centred=True)
        cells.append(Cell(id=f"n{passes}", part="steps", label=f"{passes}", box=(x, y, x + card.square, y + card.square), value=passes, what="square"))
    return Piece(
        parts=(_part("steps", f"Step card, {title}", stock=stock, profile=rectangle(0, 0, x1=width, y1=height), marks=tuple(marks)),), cells=tuple(cells)
    )


def _legibility(card: LegibilityCard, stock: Stock, *, title: str) -> Piece:
    marks: list[Mark] = []
    cells = []
    y = TITLE_ROOM + 1.5
    right = 40.0
    for h in sorted(card.heights):
        text = f"{card.plain(h)} {card.words}"
        marks += lettered(text, RIM, y=y, height=h)
        wide = text_width(text, h)
        cells.append(
            Cell(
                id=f"t{h:g}", part="legibility", label=f"{card.plain(h)} {card.unit}", box=(RIM - 1, y - 0.6, RIM + wide + 1, y + h + 0.6), value=h, what="text"
            )
        )
        right = max(right, RIM + wide + RIM)
        y += h + 1.8
    y += 1
    x = RIM + 2
    for web in sorted(card.webs):
        marks += [
            Mark(line=((x, y), (x, y + 10)), closed=False, operation=Operation.INNER),
            Mark(line=((x + web, y), (x + web, y + 10)), closed=False, operation=Operation.INNER),
        ]
        marks += lettered(card.plain(web), x + web / 2, y=y + 11.5, height=SMALL, centred=True)
        cells.append(
            Cell(id=f"w{web:g}", part="legibility", label=f"{card.plain(web)} {card.unit}", box=(x - 1.5, y, x + web + 1.5, y + 10), value=web, what="web")
        )
        x += web + max(text_width("0.55", SMALL) + 2, text_width(card.plain(web), SMALL) + 2, 7)
    right = max(right, x)
    marks += _title(title, RIM, y=1.8, room=right - 2 * RIM)
    return Piece(
        parts=(_part("legibility", f"Legibility card, {title}", stock=stock, profile=rectangle(0, 0, x1=right, y1=y + 17), marks=tuple(marks)),),
        cells=tuple(cells),
    )


def piece_of(card: Card, sheet: Stock, *, tongue: Stock) -> Piece:
    """Return a card as flat parts, with the cells that get results.

    Args:
        sheet: the stock that the card is about
        tongue: the stock of a gauge strip's tongue; not used by other cards
    """
    title = sheet.name if tongue.id == sheet.id else f"{sheet.name} / {tongue.name}"
    if isinstance(card, GaugeStrip):
        return _gauge(card, sheet, tongue=tongue, title=title)
    if isinstance(card, StripsCard):
        return _strips(card, sheet, title=title)
    if isinstance(card, GapCard):
        return _gaps(card, sheet, title=title)
    if isinstance(card, PowerCard):
        return _power(card, sheet, title=title)
    if isinstance(card, StepCard):
        return _steps(card, sheet, title=title)
    return _legibility(card, sheet, title=title)


def card_assembly(card: Card, sheet: Stock, *, tongue: Stock) -> Assembly:
    """Return a card as an assembly without meetings, to be cut on its lines."""
    return Assembly(parts=piece_of(card, sheet, tongue=tongue).parts, meetings=(), findings=(), on_line=True)
