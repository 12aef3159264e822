"""Features on panels: what each takes from the sheet, what it burns on it, and the ledger of what must fit.

Openings are taken from the envelope before any joint is cut, so tabs and slots keep clear of them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from notchcore.design.assembly import FeatureKind, JointFeature, Mark, Opening
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.laid import MOST_PIECES, Laid, laid_on, mirrored
from notchcore.design.features.made import Made, drawn, made_of, pictured, recess_of, socket_of, window_of
from notchcore.design.features.registry import Feature, is_behind, piece_stocks
from notchcore.design.features.sockets import Fitting
from notchcore.design.features.values import (
    Anchor,
    Artwork,
    Falls,
    Fold,
    GreyImage,
    OnSide,
    Recess,
    RecessShape,
    Scale,
    Socket,
    Text,
    Way,
    Window,
)
from notchcore.design.panel import Panel, resolved
from notchcore.design.visible import Frame
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.offset import mitred
from notchcore.geom.planar import Polygon, box, lines_in, moved, pieces
from notchcore.geom.profile import Profile, bounds_of, polygon_of, profile_of
from notchcore.geom.vectors import Vec2
from notchcore.ids import cut_id
from notchcore.ledger import Quantity
from notchcore.measure.materials import MATERIALS, Give
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import TRIMMED, Kind, Ref, Sentence, mm
from notchcore.words.language import called
from notchcore.words.render import say

FOLDS_MOST: Mm = 0.6  # a stiff sheet thicker than this breaks where it is bent
AS_USUAL = Fitting()
NO_DRAWING = Drawing(lines=(), mm_per_unit=None)
MERGES = 1e-3  # [mm2] that two openings share
LEAST_LEFT = 1.0  # [mm2] of a panel that counts as something


@dataclass(frozen=True, slots=True, kw_only=True)
class Put:
    """A feature as it was put on a panel: what of it a copy of the panel gets again."""

    feature: Feature
    at: Vec2
    made: Made
    lines: tuple[tuple[Vec2, Vec2], ...] = ()  #: of a fold


def put_on(
    panel: Panel,
    feature: Feature,
    *,
    everything: Mapping[str, Panel],
    stocks: Mapping[str, Stock],
    drawings: Mapping[str, Drawing],
    findings: list[Finding],
    visible: Frame | None = None,
    fitting: Fitting = AS_USUAL,
) -> tuple[list[Panel], Put | None]:
    """Return a panel with a feature on it, then the piece that falls out where that is a part, and what a copy needs of it.

    What misses its panel, or shows nothing, is a finding.

    Args:
        visible: the box that places count from; None: the sheet's, with what is hidden in its mates
        fitting: how tightly sheets stand in sockets
    """
    if isinstance(feature, Artwork | GreyImage) and not _is_there(feature, drawings):
        findings.append(_finding("drawing_lost", feature, panel=panel, says=say("drawing_lost", feature=ref_of(feature), panel=panel.ref)))
        return [panel], None
    # What counts is the sheet as it ends at its mates, not the envelope that reaches beyond them.
    ended = resolved(panel, everything).envelope
    frame = bounds_of(ended.outer)
    if isinstance(feature, Fold):
        lines = _fold_lines(panel, feature, frame=visible or frame, stock=stocks[panel.stock], findings=findings)
        put = Put(feature=feature, at=(0.0, 0.0), made=Made(), lines=lines)
        return [_folded(panel, put)], put
    behind = is_behind(feature)
    counted = visible or frame
    ax, ay = anchor_of(feature.anchor, _seen_from_behind(counted) if behind else counted)
    at = (-ax - feature.x, ay + feature.y) if behind else (ax + feature.x, ay + feature.y)
    made, lacking = _made(feature, panel, everything=everything, stocks=stocks, drawings=drawings, fitting=fitting)
    if lacking:
        findings.append(_finding(lacking, feature, panel=panel, says=say(lacking, feature=ref_of(feature), panel=panel.ref)))
    if made.too_many:
        says = say("pieces_too_many", feature=ref_of(feature), panel=panel.ref, pieces=made.too_many, most=MOST_PIECES)
        findings.append(_finding("pieces_too_many", feature, panel=panel, says=says))
    made = replace(made, laid=[_of_stock(piece, feature, stocks=stocks) for piece in made.laid])
    put = Put(feature=feature, at=at, made=_mirrored(made) if behind else made)
    return _with(panel, put, inside=polygon_of(ended), findings=findings), put


def _made(
    feature: Feature, panel: Panel, *, everything: Mapping[str, Panel], stocks: Mapping[str, Stock], drawings: Mapping[str, Drawing], fitting: Fitting
) -> tuple[Made, str]:
    """Return what a feature comes to about its own place, and what is to be said where the panel that it is made for is gone."""
    if isinstance(feature, GreyImage):
        return pictured(feature, drawings[feature.drawing]), ""
    if isinstance(feature, Artwork):
        return drawn(feature, drawings[feature.drawing]), ""
    if isinstance(feature, Socket):
        lost = "socket_mate_lost" if feature.mate and feature.mate not in everything else ""
        return socket_of(feature, fitting.of(feature, panel, panels=everything, stocks=stocks)), lost
    if isinstance(feature, Recess):
        mate = everything.get(feature.mate) if feature.shape is RecessShape.PANEL and feature.mate != panel.id else None
        lost = "recess_for_nothing" if feature.shape is RecessShape.PANEL and mate is None else ""
        return recess_of(feature, resolved(mate, everything) if mate is not None else None), lost
    return made_of(feature, stocks[panel.stock]), ""


def _of_stock(piece: Laid, feature: Feature, *, stocks: Mapping[str, Stock]) -> Laid:
    return piece if piece.inside else replace(piece, stock=stocks.get(piece_stocks(feature).get(piece.layer, "")))


def put_again(panel: Panel, put: Put, *, everything: Mapping[str, Panel], findings: list[Finding], mirrored: bool) -> tuple[list[Panel], Put]:
    """Return a copy of a panel with a feature of the original, and the piece that falls out where that is a part.

    Args:
        mirrored: the copy is the mirror image: shapes are mirrored, and text, numbers and pictures stand at the mirrored place, still readable
    """
    if mirrored:
        same = isinstance(put.feature, Text | Scale | GreyImage)
        lines = tuple(((-a[0], a[1]), (-b[0], b[1])) for a, b in put.lines)
        put = replace(put, at=(-put.at[0], put.at[1]), made=_readable(put) if same else _flipped(put.made), lines=lines)
    if isinstance(put.feature, Fold):
        return [_folded(panel, put)], put
    return _with(panel, put, inside=polygon_of(resolved(panel, everything).envelope), findings=findings), put


def _readable(put: Put) -> Made:
    """Return what reads only one way as it stands on a mirrored copy: as it was, a ruler's zero at the other end of its marks."""
    if not isinstance(put.feature, Scale):
        return put.made
    side = 1.0 if put.feature.side is OnSide.BACK else -1.0
    return _shifted(put.made, side * put.feature.run)


def _shifted(made: Made, x: Mm) -> Made:
    return replace(made, marks=[replace(m, line=tuple((px + x, py) for px, py in m.line)) for m in made.marks])


def _flipped(made: Made) -> Made:
    """Return the mirror image of what a feature comes to, on the same face."""
    return replace(
        _mirrored(made),
        marks=[replace(m, line=tuple((-x, y) for x, y in m.line)) for m in made.marks],
        widths=[(kind, (-x, y), sx, sy, q) for kind, (x, y), sx, sy, q in made.widths],
        laid=[mirrored(piece) for piece in made.laid],
    )


def _title(feature: Feature) -> str:
    """Return what the pieces of a feature are called after."""
    return feature.name or (feature.words.strip() if isinstance(feature, Text) else called("Drawing"))


def _is_there(feature: Artwork | GreyImage, drawings: Mapping[str, Drawing]) -> bool:
    drawing = drawings.get(feature.drawing, NO_DRAWING)
    return bool(drawing.lines) and bool(drawing.image) is isinstance(feature, GreyImage)


def ref_of(feature: Feature) -> Ref:
    """Return what a sentence calls a feature."""
    return Ref(Kind.FEATURE, feature.id, called("The {feature}", feature=named(feature)))


def named(feature: Feature) -> str:
    """Return what a feature is called in a list."""
    kind = called(feature.kind)
    return f"{kind} “{feature.name}”" if feature.name else kind


def _finding(code: str, feature: Feature, *, panel: Panel, says: Sentence, place: Place | None = None) -> Finding:
    return Finding(code=code, severity=Severity.LOOK, parts=(panel.id,), says=says, place=place, facts={"feature": feature.id})


def lost(feature: Feature) -> Finding:
    """Say that the panel of a feature is not there."""
    return Finding(
        code="feature_lost", severity=Severity.LOOK, parts=(feature.panel,), facts={"feature": feature.id}, says=say("feature_lost", feature=ref_of(feature))
    )


def anchor_of(anchor: Anchor, frame: tuple[Mm, Mm, Mm, Mm]) -> Vec2:
    """Return a place of a panel's box."""
    x0, y0, x1, y1 = frame
    x = x0 if "left" in anchor.value else x1 if "right" in anchor.value else (x0 + x1) / 2
    y = y0 if "bottom" in anchor.value else y1 if "top" in anchor.value else (y0 + y1) / 2
    return x, y


def _largest_left(shape: Polygon, hole: Polygon, *, inside: Polygon) -> tuple[Polygon | None, str]:
    """Return what is left of a panel with a hole, nothing where too little is; and what is to be said of it."""
    left = pieces(shape.difference(hole))
    largest = max(left, key=lambda p: p.intersection(inside).area, default=None)
    if largest is None or largest.intersection(inside).area < LEAST_LEFT:
        return None, "feature_too_large"
    return largest, "feature_divides" if any(p is not largest and p.intersection(inside).area > LEAST_LEFT for p in left) else ""


def _with(panel: Panel, put: Put, *, inside: Polygon, findings: list[Finding]) -> list[Panel]:
    """Return the panel with a feature, and the piece that falls out of it where that is a part.

    Args:
        inside: the panel as it ends at its mates
    """
    feature, at, made = put.feature, put.at, put.made
    spot = Place(part=panel.id, x=at[0], y=at[1])
    shape = polygon_of(panel.envelope)
    circles = list(panel.envelope.circles)
    openings = list(panel.openings)
    fallen: list[Panel] = []
    outside: list[Place] = []
    into: dict[str, Place] = {}
    for cut in made.cuts:
        hole = _moved(cut, at)
        polygon = polygon_of(hole)
        middle = polygon.representative_point()
        here = Place(part=panel.id, x=float(middle.x), y=float(middle.y))
        if polygon.intersection(inside).area < 1e-6:
            outside.append(here)
            continue
        for other in panel.openings:
            if other.feature not in into and Polygon(other.ring).intersection(polygon).area > MERGES:
                into[other.feature] = here
        largest, problem = _largest_left(shape, polygon, inside=inside)
        if problem:
            says = say(problem, feature=ref_of(feature), panel=panel.ref)
            findings.append(_finding(problem, feature, panel=panel, says=says, place=spot))
        if largest is None:
            continue
        shape = largest
        circles += hole.circles
        openings.append(Opening(feature=feature.id, ring=hole.outer))
        if isinstance(feature, Window) and feature.falls is not Falls.WASTE:
            fallen += _piece(panel, feature, shape=_moved(window_of(feature), at))
    marks = tuple(replace(m, line=tuple((x + at[0], y + at[1]) for x, y in m.line), feature=feature.id) for m in made.marks)
    fallen += _laid(panel, put, inside=inside, findings=findings)
    findings += _beyond(panel, put, marks=marks, inside=inside, outside=outside)
    merged = say("feature_merges", feature=ref_of(feature), panel=panel.ref)
    findings += [_finding("feature_merges", feature, panel=panel, says=merged, place=place) for place in into.values()]
    ledgers = tuple(_ledger(panel.id, feature, index=i, at=at, width=w) for i, w in enumerate(made.widths))
    envelope = profile_of(shape, circles=tuple(circles))
    whole = replace(panel, envelope=envelope, marks=(*panel.marks, *marks), features=(*panel.features, *ledgers), openings=tuple(openings))
    return [whole, *fallen]


def _laid(panel: Panel, put: Put, *, inside: Polygon, findings: list[Finding]) -> list[Panel]:
    """Return the pieces of a feature as panels; those that lie wholly beside their panel are not made, and what hangs over its edge is told."""
    behind = is_behind(put.feature)
    seen = (-1.0 if behind else 1.0, 0.0, 0.0, 1.0, put.at[0], put.at[1])
    shapes = [(k, moved(polygon_of(k.shape), seen)) for k in put.made.laid]
    there = [k for k, shape in shapes if shape.intersection(inside).area > MERGES]
    over = next((shape.difference(inside) for _, shape in shapes if shape.difference(inside).area > MERGES), None)
    if over is not None:
        spot = over.representative_point()
        says = say("pieces_over_edge", feature=ref_of(put.feature), panel=panel.ref)
        findings.append(_finding("pieces_over_edge", put.feature, panel=panel, says=says, place=Place(part=panel.id, x=float(spot.x), y=float(spot.y))))
    own = panel.id == put.feature.panel
    return laid_on(panel, there, feature=put.feature.id, called_after=_title(put.feature), at=put.at, own=own, behind=behind)


def _beyond(panel: Panel, put: Put, *, marks: tuple[Mark, ...], inside: Polygon, outside: list[Place]) -> list[Finding]:
    """Return what is to be said about openings (outside) and marks that do not lie on their panel, or reach past its edge."""
    feature = put.feature
    spot = Place(part=panel.id, x=put.at[0], y=put.at[1])
    shapes = [Polygon(m.line) if len(m.line) > 2 and m.closed else _line(m) for m in marks]
    wide = inside.buffer(1e-6)
    beyond = [s for s in shapes if not wide.contains(s)]
    gone = [s.representative_point() for s in beyond if not wide.intersects(s)]
    lost = [*outside, *(Place(part=panel.id, x=float(p.x), y=float(p.y)) for p in gone)]
    findings = [*_lost_shapes(feature, panel, outside=lost, shapes=len(put.made.cuts) + len(marks), spot=spot)]
    if len(beyond) > len(gone) and not lost:
        findings.append(
            _finding("feature_outside", feature, panel=panel, says=say("feature_outside.reaches", feature=ref_of(feature), panel=panel.ref), place=spot)
        )
    return findings


def _lost_shapes(feature: Feature, panel: Panel, *, outside: list[Place], shapes: int, spot: Place) -> list[Finding]:
    """Say how much of a feature lies beside its panel and is lost, and where."""
    if not outside:
        return []
    if len(outside) == shapes:
        return [_finding("feature_outside", feature, panel=panel, says=say("feature_outside", feature=ref_of(feature), panel=panel.ref), place=spot)]
    says = say("feature_outside.some", feature=ref_of(feature), panel=panel.ref, lost=len(outside), shapes=shapes)
    return [replace(_finding("feature_outside", feature, panel=panel, says=says, place=outside[0]), places=tuple(outside))]


def _seen_from_behind(frame: tuple[Mm, Mm, Mm, Mm]) -> tuple[Mm, Mm, Mm, Mm]:
    x0, y0, x1, y1 = frame
    return -x1, y0, -x0, y1


def _mirrored(made: Made) -> Made:
    """Return what reads right from behind, and is burned there, as it is seen from the front."""
    cuts = [Profile(outer=tuple((-x, y) for x, y in reversed(c.outer)), circles=tuple(replace(k, x=-k.x) for k in c.circles)) for c in made.cuts]
    return replace(made, cuts=cuts, marks=[replace(m, line=tuple((-x, y) for x, y in m.line), back=True) for m in made.marks])


def _line(mark: Mark) -> Polygon:
    xs, ys = [p[0] for p in mark.line], [p[1] for p in mark.line]
    return box(min(xs), min(ys), max(xs) + 1e-6, max(ys) + 1e-6)


def _moved(profile: Profile, by: Vec2) -> Profile:
    return Profile(
        outer=tuple((x + by[0], y + by[1]) for x, y in profile.outer),
        circles=tuple(replace(c, x=c.x + by[0], y=c.y + by[1]) for c in profile.circles),
    )


def _ledger(panel: str, feature: Feature, *, index: int, at: Vec2, width: tuple[FeatureKind, Vec2, Mm, Mm, Quantity]) -> JointFeature:
    kind, (mx, my), sx, sy, quantity = width
    x, y = at[0] + mx, at[1] + my
    corners = ((x - sx / 2, y - sy / 2), (x + sx / 2, y - sy / 2), (x + sx / 2, y + sy / 2), (x - sx / 2, y + sy / 2))
    axis = (1.0, 0.0) if kind is FeatureKind.HOLE or sx < sy else (0.0, 1.0)
    return JointFeature(id=cut_id(feature.id, index), part=panel, meeting="", kind=kind, corners=corners, axis=axis, width=quantity, length=max(sx, sy))


def _piece(panel: Panel, f: Window, *, shape: Profile) -> list[Panel]:
    """Return the piece that falls out of a window as a panel that stands where it was, or one that lies there with play; none where it would be too small."""
    # The first one keeps the name it always had; a copy of the panel has a piece of its own.
    name = f"{f.id}-piece" if panel.id == f.panel else f"{panel.id}-{f.id}-piece"
    falls = f.falls is Falls.PART
    if not falls:
        left = pieces(mitred(polygon_of(shape), -f.play))
        if not left:
            return []
        shape = profile_of(left[0], circles=tuple(replace(c, radius=c.radius - f.play) for c in shape.circles if c.radius > f.play))
    return [
        replace(
            panel,
            id=name,
            label=called("Piece of {panel}", panel=panel.label.lower()),
            envelope=shape,
            rank=0,
            bounds=(),
            inside=None,
            features=(),
            marks=(),
            openings=(),
            folds=(),
            falls_from=panel.id if falls else "",
            loose=not falls,
        )
    ]


def _fold_lines(panel: Panel, f: Fold, *, frame: tuple[Mm, Mm, Mm, Mm], stock: Stock, findings: list[Finding]) -> tuple[tuple[Vec2, Vec2], ...]:
    """Return where a fold runs over a panel: wherever there is material."""
    (ax, ay), (x0, y0, x1, y1) = anchor_of(f.anchor, frame), frame
    at = ax + f.x if f.way is Way.UP else ay + f.y
    start, end = ((at, y0), (at, y1)) if f.way is Way.UP else ((x0, at), (x1, at))
    lines = tuple(lines_in(polygon_of(panel.envelope).intersection(box(*frame)), start, end=end))
    spot = Place(part=panel.id, x=start[0], y=start[1])
    if not lines:
        findings.append(_finding("feature_outside", f, panel=panel, says=say("feature_outside", feature=ref_of(f), panel=panel.ref), place=spot))
    elif MATERIALS[stock.material].give is not Give.SOFT and stock.t > FOLDS_MOST:
        says = say("fold_in_stiff_sheet", feature=ref_of(f), panel=panel.ref, stock=stock.ref, most=mm(FOLDS_MOST, digits=TRIMMED))
        findings.append(_finding("fold_in_stiff_sheet", f, panel=panel, says=says, place=spot))
    return lines


def _folded(panel: Panel, put: Put) -> Panel:
    marks = tuple(Mark(line=line, closed=False, feature=put.feature.id) for line in put.lines)
    return replace(panel, marks=(*panel.marks, *marks), folds=(*panel.folds, *put.lines))
