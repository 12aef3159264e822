"""What each kind of feature comes to about its own place: what it cuts, what it burns, and the ledgers of what must fit."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from notchcore.design.assembly import FeatureKind, Mark
from notchcore.design.families.outlines import rounded
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.laid import MOST_PIECES, Laid, Region, taken_apart
from notchcore.design.features.registry import Feature
from notchcore.design.features.sockets import Fitted
from notchcore.design.features.values import (
    LAID,
    OPERATIONS,
    Anchor,
    Artwork,
    Burned,
    CableSlot,
    Drawn,
    Face,
    Falls,
    GreyImage,
    Hole,
    HoleCircle,
    Keyhole,
    Notch,
    Recess,
    RecessShape,
    RulerUnit,
    Scale,
    ShaftFit,
    Socket,
    Stands,
    Text,
    Tones,
    Vents,
    Window,
)
from notchcore.design.lettering import lettered, text_width
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.panel import Panel
from notchcore.geom.areas import ground_round, whole_areas
from notchcore.geom.fonts import lettered_outlines
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, box, moved, pieces
from notchcore.geom.profile import Circle, Profile, Ring, bounds_of, bridged, circle_ring, polygon_of, profile_of
from notchcore.geom.thinning import smoothed
from notchcore.geom.vectors import Vec2
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.machine import Operation
from notchcore.measure.materials import MATERIALS, Give
from notchcore.measure.stock import Stock
from notchcore.tolerance import COINCIDENT
from notchcore.trace.photo import Photo
from notchcore.units import MM_PER_INCH, Mm, format_length
from notchcore.words.render import say

SHAFT = {ShaftFit.PRESS: -0.05, ShaftFit.SLIP: 0.15, ShaftFit.RUNNING: 0.5}  # on the diameter, see docs/sources.md
RUNNING_LEAST = 0.02  # of the diameter, in board
MIRRORED = (-1.0, 0.0, 0.0, 1.0, 0.0, 0.0)  # across the upright line through a feature's place
ENTERS: Mm = 0.1  # what a recess is deeper than what enters it is thick: the sheets meet beside it, not in it
TICKS = (2.5, 4.0, 6.0)  # lengths of a ruler's marks: each, every fifth, every tenth step


@dataclass
class Made:
    """What one feature comes to, about its own place."""

    cuts: list[Profile] = field(default_factory=list)
    marks: list[Mark] = field(default_factory=list)
    laid: list[Laid] = field(default_factory=list)  #: pieces, seen from the face that they show
    too_many: int = 0  #: pieces that were to be made, and are not
    widths: list[tuple[FeatureKind, Vec2, Mm, Mm, Quantity]] = field(default_factory=list)  #: kind, middle, size x, size y, ledger


def _disc(x: Mm, y: Mm, *, diameter: Mm) -> Profile:
    circle = Circle(x=x, y=y, radius=diameter / 2)
    return Profile(outer=circle_ring(circle), circles=(circle,))


def shaft_hole(diameter: Mm, fit: ShaftFit, *, stock: Stock) -> Quantity:
    """Return the ledger of a hole for a shaft: its diameter plus the clearance of the fit class."""
    terms = [Term(kind=TermKind.SIZE, label=say("term.diameter"), value=diameter, source=say("from.design"), trust=Trust.CHOSEN)]
    if fit is not ShaftFit.FREE:
        clearance = SHAFT[fit]
        if fit is ShaftFit.RUNNING and MATERIALS[stock.material].give is Give.SOFT:
            clearance = max(clearance, RUNNING_LEAST * diameter)
        terms.append(
            Term(
                kind=TermKind.FIT,
                label=say("term.clearance", feel=say(f"shaft.{fit.value}")),
                value=clearance,
                source=say("from.default.shafts"),
                trust=Trust.DEFAULT,
            )
        )
    return total(terms)


def made_of(f: Feature, stock: Stock) -> Made:
    """Return what a feature cuts out of a sheet and burns on it, about its own place [mm]."""
    made = Made()
    if isinstance(f, Hole):
        quantity = shaft_hole(f.diameter, f.fit, stock=stock)
        for i in range(f.columns):
            for j in range(f.rows):
                x, y = (i - (f.columns - 1) / 2) * f.pitch_x, (j - (f.rows - 1) / 2) * f.pitch_y
                made.cuts.append(_disc(x, y, diameter=quantity.value))
                made.widths.append((FeatureKind.HOLE, (x, y), quantity.value, quantity.value, quantity))
    elif isinstance(f, HoleCircle):
        step = f.sweep / f.holes if f.sweep == 360 else f.sweep / max(f.holes - 1, 1)
        for i in range(f.holes):
            a = math.radians(f.start + i * step)
            made.cuts.append(_disc(f.radius * math.cos(a), f.radius * math.sin(a), diameter=f.diameter))
    elif isinstance(f, Window):
        made.cuts.append(_with_grip(f))
    elif isinstance(f, Notch):
        made.cuts.append(_disc(0, 0, diameter=f.width))
    elif isinstance(f, Keyhole):
        made.cuts.append(_keyhole(f))
    elif isinstance(f, CableSlot):
        made.cuts.append(_cable(f))
    elif isinstance(f, Vents):
        r = f.width / 2
        made.cuts += [rounded(x - r, -f.run / 2, x1=x + r, y1=f.run / 2, radius=r) for x in ((i - (f.number - 1) / 2) * f.pitch for i in range(f.number))]
    elif isinstance(f, Text):
        _text(f, made)
    elif isinstance(f, Scale):
        made.marks += _scale(f)
    return made


def window_of(f: Window) -> Profile:
    """Return a window, without its finger notch: what a loose piece is as large as, but for the play."""
    return rounded(-f.width / 2, -f.height / 2, x1=f.width / 2, y1=f.height / 2, radius=f.radius)


def _with_grip(f: Window) -> Profile:
    """Return a window with a half-round bite out of its lower edge, between its corners, where a loose piece lies in it."""
    plain = window_of(f)
    wide = min(f.grip, f.width - 2 * min(f.radius, f.width / 2, f.height / 2))
    if f.falls is not Falls.LOOSE or wide < COINCIDENT:
        return plain
    bite = Circle(x=0.0, y=-f.height / 2, radius=wide / 2)
    return profile_of(polygon_of(plain).union(Polygon(circle_ring(bite))), circles=(*plain.circles, bite))


def _keyhole(f: Keyhole) -> Profile:
    """The head below, the neck up from it, round at its end."""
    head, end = Circle(x=0, y=0, radius=f.head / 2), Circle(x=0, y=f.rise, radius=f.neck / 2)
    whole = Polygon(circle_ring(head)).union(box(-f.neck / 2, 0, f.neck / 2, f.rise)).union(Polygon(circle_ring(end)))
    return profile_of(whole, circles=(head, end))


def _cable(f: CableSlot) -> Profile:
    """A slot with a round end, open towards the edge that it is anchored at."""
    r = f.width / 2
    long = rounded(-r, -f.depth, x1=r, y1=f.depth, radius=r)
    across = rounded(-f.depth, -r, x1=f.depth, y1=r, radius=r)
    return across if f.anchor in (Anchor.LEFT, Anchor.RIGHT) else long


def _text(f: Text, made: Made) -> None:
    words = f.words.strip()
    if not words:
        return
    if f.face is Face.STROKE:
        strokes = lettered(words, -text_width(words, f.cap) / 2, y=-f.cap / 2, height=f.cap)  # single lines are always scored
        side = -1.0 if f.drawn is Drawn.MIRRORED else 1.0
        made.marks += [replace(m, line=tuple((side * x, y) for x, y in m.line)) for m in strokes]
        return
    lettered_shapes = lettered_outlines(words, f.cap, serif=f.face is Face.SERIF)
    if f.drawn is Drawn.MIRRORED:
        lettered_shapes = tuple((letter, profile_of(moved(polygon_of(s), MIRRORED))) for letter, s in lettered_shapes)
    shapes = [s for _, s in lettered_shapes]
    if f.burned is Burned.ENGRAVE and f.stands is Stands.RAISED:
        made.marks += _engraved(ground_round([polygon_of(s) for s in shapes], f.margin), depth=f.depth)
        return
    if (lies := LAID.get(f.burned)) is not None:
        made.cuts, made.laid = taken_apart([Region(area=polygon_of(s), layer="", lies=lies, letter=letter) for letter, s in lettered_shapes])
        return
    for shape in shapes:
        if f.burned is Burned.CUT:
            made.cuts.append(Profile(outer=shape.outer))
        else:
            rings = (bridged(shape),) if f.burned is Burned.ENGRAVE else (shape.outer, *shape.holes)
            depth = f.depth if f.burned is Burned.ENGRAVE else 0.0
            made.marks += [Mark(line=r, operation=OPERATIONS[f.burned], depth=depth) for r in rings]


def _engraved(areas: Iterable[Polygon], *, depth: Mm) -> list[Mark]:
    return [Mark(line=bridged(profile_of(a)), operation=Operation.ENGRAVE, depth=depth) for a in areas]


def recess_of(f: Recess, mate: Panel | None) -> Made:
    """Return an engraved area as large as what it is for, with play all round, and as deep as wished, or as that is thick."""
    if f.shape is RecessShape.PANEL and mate is not None:
        x0, y0, x1, y1 = bounds_of(mate.envelope.outer)
        own = moved(Polygon(mate.envelope.outer), (1.0, 0.0, 0.0, 1.0, -(x0 + x1) / 2, -(y0 + y1) / 2))
    elif f.shape is RecessShape.RECTANGLE:
        own = box(-f.width / 2, -f.height / 2, f.width / 2, f.height / 2)
    else:
        own = Polygon(circle_ring(Circle(x=0.0, y=0.0, radius=f.width / 2)))
    depth = f.depth or (mate.t + ENTERS if mate is not None else 0.0)
    through = [_disc(0.0, 0.0, diameter=f.push)] if f.push else []
    area = mitred(own, f.play) if f.play > COINCIDENT else own
    for hole in through:  # nothing is left to engrave there
        area = area.difference(polygon_of(hole))
    return Made(cuts=through, marks=_engraved(pieces(area), depth=depth))


def drawn(f: Artwork, drawing: Drawing) -> Made:
    """Return what a drawing comes to at its width, about its middle. Open lines are scored where they are not left out."""
    made = Made()
    wide, high = drawing.size
    k = f.width / wide if wide > 0 else 1.0
    c, s = math.cos(math.radians(f.turn)), math.sin(math.radians(f.turn))
    burned = dict(f.layers)
    areas: dict[Burned, list[Ring]] = {}
    of_pieces: dict[str, list[Ring]] = {}
    side = -1.0 if f.drawn is Drawn.MIRRORED else 1.0

    def at(p: Vec2) -> Vec2:
        x, y = side * (p[0] - wide / 2) * k, (p[1] - high / 2) * k
        return x * c - y * s, x * s + y * c

    for line in drawing.lines:
        how = burned.get(line.layer, Burned.ENGRAVE)
        points = smoothed(tuple(at(p) for p in line.points), closed=line.closed)
        if how is None:
            continue
        if not line.closed:
            made.marks.append(Mark(line=points, closed=False))
        elif how is Burned.CUT and line.circle is not None:
            x, y = at((line.circle.x, line.circle.y))
            made.cuts.append(_disc(x, y, diameter=2 * line.circle.radius * k))
        elif how is Burned.SCORE:
            made.marks.append(Mark(line=points))
        elif how in LAID:
            of_pieces.setdefault(line.layer, []).append(points)
        else:
            areas.setdefault(how, []).append(points)
    engraved = whole_areas(areas.get(Burned.ENGRAVE, []))
    made.marks += _engraved(ground_round(engraved, f.margin) if f.stands is Stands.RAISED else engraved, depth=f.depth)
    made.cuts += [Profile(outer=profile_of(shape).outer) for shape in whole_areas(areas.get(Burned.CUT, []))]
    regions = [Region(area=a, layer=layer, lies=LAID[burned[layer] or Burned.GLUED]) for layer, rings in of_pieces.items() for a in whole_areas(rings)]
    made.too_many = len(regions) if len(regions) > MOST_PIECES else 0
    openings, made.laid = taken_apart([] if made.too_many else regions)
    made.cuts += openings
    return made


def pictured(f: GreyImage, drawing: Drawing) -> Made:
    """Return the frame of a picture about its middle; how it is dotted depends on the rows of the sheet it lies on."""
    wide, high = drawing.size
    x, y = f.width / 2, f.width / 2 * (high / wide if wide else 1.0)
    c, s = math.cos(math.radians(f.turn)), math.sin(math.radians(f.turn))
    frame = tuple((px * c - py * s, px * s + py * c) for px, py in ((-x, -y), (x, -y), (x, y), (-x, y)))
    photo = Photo(image=f.drawing, lighter=f.lighter / 100, contrast=f.contrast / 100, inverse=f.tones is Tones.LIGHT)
    return Made(marks=[Mark(line=frame, operation=Operation.ENGRAVE, photo=photo)])


def _scale(f: Scale) -> list[Mark]:
    marks = [Mark(line=((0.0, 0.0), (f.run, 0.0)), closed=False)]
    inch = f.unit is RulerUnit.INCH
    for i in range(int(f.run / f.step + 1e-9) + 1):
        x = i * f.step
        reach = _inch_tick(x) if inch else TICKS[2] if i % 10 == 0 else TICKS[1] if i % 5 == 0 else TICKS[0]
        marks.append(Mark(line=((x, 0.0), (x, reach)), closed=False))
        if i % f.numbers == 0:
            words = format_length(x, unit="in/64").replace(" ", "-") if inch else f"{round(x, 4):g}"
            marks += lettered(words, x, y=TICKS[2] + 1.0, height=2.5, centred=True)
    return marks


def _inch_tick(x: Mm) -> Mm:
    """Return how long a mark is: longest at inches, middling at halves, short at the rest."""
    halves = x / MM_PER_INCH * 2
    if abs(halves - round(halves)) > 1e-6:
        return TICKS[0]
    return TICKS[2] if round(halves) % 2 == 0 else TICKS[1]


def socket_of(f: Socket, fitted: Fitted) -> Made:
    """Return a slot as wide as the sheet that stands in it, with the clearance of its feel."""
    made = Made()
    x, y = fitted.run.value / 2, fitted.width.value / 2
    if f.upright % 180 == 90:
        x, y = y, x
    elif f.upright % 180:
        a = math.radians(f.upright)
        corners = ((-x, -y), (x, -y), (x, y), (-x, y))
        made.cuts.append(Profile(outer=tuple((px * math.cos(a) - py * math.sin(a), px * math.sin(a) + py * math.cos(a)) for px, py in corners)))
        return made
    made.cuts.append(Profile(outer=((-x, -y), (x, -y), (x, y), (-x, y))))
    made.widths.append((FeatureKind.SOCKET, (0.0, 0.0), 2 * x, 2 * y, fitted.width))
    return made


def scaled_feature(f: Feature, k: float) -> Feature:
    """Return a feature with its place and the lengths that grow with a design multiplied."""
    changes = {n.name: getattr(f, n.name) * k for n in numbers_of(type(f)) if n.kind is NumberKind.LENGTH and n.scales}
    return replace(f, **changes)
