"""The joint solver: every joint is a partition of overlap.

Panels are envelopes that overlap on purpose. Each overlap bar is divided into cells along the meeting line, each cell has
exactly one owner, and every other panel loses it. So finished parts neither collide nor leave a void, and both sides of a
joint agree because they come from one list of cells. Clearance is then taken from the openings (half per side of a slot,
a quarter per side where fingers face fingers, so that opening minus finger is the clearance).
"""

from __future__ import annotations

from collections.abc import Mapping

from notchcore.design.assembly import Assembly, Part
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.joints.crossed import corner, crossing, tee, through
from notchcore.design.joints.cutting import Bench, Cut, ring
from notchcore.design.joints.flat import inset, not_joined, splice, stack
from notchcore.design.joints.layout import Span, without
from notchcore.design.joints.ownership import SharedCell, shared_cells
from notchcore.design.joints.seats import burned
from notchcore.design.joints.tees import tees_by_face
from notchcore.design.meetings.all import all_meetings
from notchcore.design.meetings.find import Bar, MeetingKind, shape_of
from notchcore.design.panel import MeetingRule, Panel, resolved
from notchcore.design.styles import ABOUT, Style
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.planar import Polygon, minus, resized
from notchcore.geom.profile import Circle, profile_of
from notchcore.geom.relief import relieved
from notchcore.ids import MeetingId
from notchcore.measure.fit import NO_FITS, Feel, Fits
from notchcore.measure.materials import MATERIALS, Give
from notchcore.measure.stock import Stock
from notchcore.tolerance import LOOSE_PIECE
from notchcore.units import Mm
from notchcore.words.facts import Area
from notchcore.words.render import say

# Corners and crossings come before tees, whose tabs keep clear of the others' cuts; splices know what those left.
_ORDER = {MeetingKind.CORNER: 0, MeetingKind.CROSSING: 0, MeetingKind.THROUGH: 0, MeetingKind.TEE: 1}
_CROSSED = {MeetingKind.CORNER: corner, MeetingKind.TEE: tee, MeetingKind.CROSSING: crossing, MeetingKind.THROUGH: through}
_FLAT = {MeetingKind.STACK: stack, MeetingKind.SPLICE: splice, MeetingKind.INSET: inset}


def solve(
    panels: list[Panel],
    *,
    ghosts: tuple[Panel, ...] = (),
    rules: tuple[MeetingRule, ...] = (),
    stocks: Mapping[str, Stock],
    choices: Mapping[str, MeetingChoice] | None = None,
    feel: Feel = Feel.SNUG,
    fits: Fits = NO_FITS,
    relief: Mm = 0.0,
) -> Assembly:
    """Return the assembly with all joints cut.

    Args:
        panels: envelopes in space; their order does not matter
        ghosts: panels that are left out, for the edges that end at them
        rules: what the material says of pairs
        stocks: by id, those that the panels name
        choices: by meeting id
        feel: for meetings without a choice of their own
        fits: where the feels change, by pair of stocks
        relief: radius of the round holes in the inner corners of brittle sheets [mm], 0 for none
    """
    choices = choices or {}
    by_id = {p.id: p for p in (*ghosts, *panels)}
    proud = {frozenset(MeetingId.parse(i).parts): c.proud for i, c in choices.items() if c.proud is not None}
    ready = [resolved(p, by_id, proud=proud) for p in sorted(panels, key=lambda p: p.id)]
    shapes = {p.id: shape_of(p) for p in ready}
    bench = Bench(panels=ready, shapes=shapes, rules=rules, stocks=stocks, choices=choices, feel=feel, fits=fits)
    apart = {frozenset((r.a, r.b)) for r in rules if r.style is Style.REST}
    spliced = {frozenset((r.a, r.b)) for r in rules if ABOUT[r.style].spliced}
    bench.bars = all_meetings(ready, apart=apart, spliced=spliced)
    bench.tees = tees_by_face(bench.bars)
    shared = shared_cells(bench.bars, shapes)
    for bar in sorted(bench.bars, key=lambda b: (_ORDER.get(b.kind, 2), b.id)):
        if bar.kind in _CROSSED:
            assert bar.frame is not None
            _CROSSED[bar.kind](bench, bar, bar.frame, _free(bench, bar, holes=shared.get(bar.id, [])))
        else:
            _FLAT.get(bar.kind, not_joined)(bench, bar)
    parts = tuple(_part(bench, c, relief=relief) for c in bench.cuts.values())
    return Assembly(parts=parts, meetings=tuple(sorted(bench.meetings, key=lambda m: m.id)), findings=tuple(bench.findings))


def _free(bench: Bench, bar: Bar, *, holes: list[SharedCell]) -> list[Span]:
    """Settle the cells that a third panel takes part in; return the stretches that are left to the two."""
    for hole in holes:
        for loser in hole.losers:
            bench.lose(bar, loser, start=hole.start, end=hole.end)
        if hole.against_other:  # a splice that runs through this cell must leave it to its owner
            owner = bar.a if bar.a.id == hole.owner else bar.b
            assert bar.frame is not None
            side = bar.frame.side(owner)
            bench.cuts[owner.id].kept.append((hole.other, Polygon(ring(side, (hole.start, hole.end), across=side.strip))))
    free: list[Span] = []
    for span in without((bar.start, bar.end), [(h.start, h.end) for h in holes]):
        beside = next((h for h in holes if min(abs(h.end - span[0]), abs(h.start - span[1])) < 1e-3), None)
        if beside is not None and beside.third and span[1] - span[0] < max(bar.a.t, bar.b.t) and bar.kind is not MeetingKind.CROSSING:
            for loser in beside.losers:  # a residue this short would be a sliver: it joins its neighbour's owner
                bench.lose(bar, loser, start=span[0], end=span[1])
        else:
            free.append(span)
    return free


def _loose_piece(panel: Panel, piece: Polygon) -> Finding:
    spot = piece.representative_point()
    return Finding(
        code="loose_piece",
        severity=Severity.MUST,
        parts=(panel.id,),
        place=Place(part=panel.id, x=spot.x, y=spot.y),
        says=say("loose_piece", area=Area(piece.area), panel=panel.ref),
        facts={"area_mm2": piece.area},
    )


def _part(bench: Bench, cut: Cut, *, relief: Mm) -> Part:
    panel = cut.panel
    shape = bench.shapes[panel.id]
    relief = relief if panel.relief is None else panel.relief
    # Before anything is cut from it: gaps of other joints keep their widths.
    as_large = resized(shape, cut.grown, beside=cut.fitted.rings, clear=panel.t) if cut.grown else shape
    fitted = minus(as_large, cut.fitted.rings, others=cut.fitted_shapes)
    nominal = minus(shape, cut.nominal.rings, others=cut.nominal_shapes)
    if not fitted or not nominal:
        bench.findings.append(Finding(code="part_vanished", severity=Severity.MUST, parts=(panel.id,), says=say("part_vanished", panel=panel.ref)))
        fitted = nominal = [shape]
    bench.findings += [_loose_piece(panel, p) for p in fitted[1:] if p.area > LOOSE_PIECE]
    circles: tuple[Circle, ...] = (*panel.envelope.circles, *cut.circles)
    whole = fitted[0]
    if cut.grown:
        circles += tuple(Circle(x=c.x, y=c.y, radius=c.radius + cut.grown) for c in panel.envelope.circles if c.radius + cut.grown > 0)
    if relief and MATERIALS[bench.stocks[panel.stock].material].give is Give.RIGID:
        whole, more = relieved(whole, relief)
        circles += more
    return Part(
        id=panel.id,
        label=panel.label,
        stock=panel.stock,
        pose=panel.pose,
        low=panel.low,
        high=panel.high,
        profile=profile_of(whole, circles=circles),
        nominal=profile_of(nominal[0], circles=circles),
        marks=(*panel.marks, *cut.marks, *burned(cut.seats)),
        features=(*panel.features, *cut.features),
        loose=panel.loose,
        openings=panel.openings,
        folds=panel.folds,
        falls_from=panel.falls_from,
        piece_of=panel.piece_of,
        laid_by=panel.laid_by,
        copies=panel.copies,
    )


__all__ = ["MeetingChoice", "Style", "solve"]
