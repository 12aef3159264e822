"""From finished parts to what the beam follows. Kerf is applied here, once.

A cut path is the part's boundary moved by half the kerf away from the kept material: outside outwards, holes inwards.
Scores are never moved. A CutPath is another type than a Profile, so that nothing can be compensated twice.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from notchcore.design.assembly import Mark, Part
from notchcore.design.fallen import in_plane_of, opening_of
from notchcore.findings import Finding, Place, Severity
from notchcore.geom.contours import Contour, Segment, contour_of, grown_ring, polyline_of, sampled, transformed
from notchcore.geom.planar import Polygon, merged, pieces
from notchcore.geom.profile import Ring
from notchcore.geom.rigid import Rigid, followed
from notchcore.geom.vectors import Vec2
from notchcore.ids import CopyId, PathId
from notchcore.measure.machine import Beam, Operation
from notchcore.nest.values import Nesting, Placement
from notchcore.plan.bridges import burned, gap_for, places
from notchcore.plan.jointkerf import DropIns, hole_contours, outer_contours
from notchcore.trace.photo import Photo
from notchcore.units import Mm
from notchcore.words.facts import mm
from notchcore.words.render import say

STRIP = 0.35  # of the beam: what the strip of half a beam along an outline does not survive
REGISTRATION = "registration"  # stands for a part where a registration mark is cut


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPath:
    """One line for the beam on the sheet [mm]."""

    id: str
    part: str
    copy: int
    operation: Operation
    contour: Contour
    beam: Beam | None = None  #: of its own, for the squares of a test card
    photo: Photo | None = None  #: what is engraved in `frame` instead of the whole area
    mark: int | None = None  #: which of the part's marks the photo is
    frame: Ring = ()  #: of the photo: its corners on the sheet, lower left of the image first
    clip: tuple[Ring, ...] = ()  #: of the photo: what of it is burned, all where there is none
    bridges: tuple[Vec2, ...] = ()  #: middles of what the beam leaves of this line, so that the part stays in the sheet
    gap: Mm = 0.0  #: how long each is left out
    left_out: tuple[tuple[Vec2, Vec2], ...] = ()  #: stretches that another part's cut burns
    lead: Vec2 | None = None  #: where the beam starts, beside the contour, which then begins where it is reached
    rest: tuple[Contour, ...] = ()  #: further areas that are engraved in the same sweeps
    down: bool = False  #: it is burned on the face that lies down
    passes: int = 0  #: of its own, where a cut is shared out over both sides; 0: as the settings say
    depth: Mm = 0.0  #: that what is engraved shall have; its passes follow from what one is known to reach
    through: bool = True  #: after it the sheet is cut through
    frees: str = ""  #: the piece, as part and copy, that falls out of this opening and is a part

    @property
    def lines(self) -> tuple[Contour, ...]:
        """What the beam follows: the contour, in several stretches where there are bridges or common lines; none when others burn all of it."""
        if self.lead is not None:
            first = Segment(start=self.lead, end=self.contour.segments[0].start)
            return (replace(self.contour, segments=(first, *self.contour.segments), closed=False),)
        return (*burned(self.contour, self.bridges, gap=self.gap, left_out=self.left_out), *self.rest)

    @property
    def contours(self) -> tuple[Contour, ...]:
        """All of its contours, whole."""
        return (self.contour, *self.rest)


@dataclass(frozen=True, slots=True, kw_only=True)
class PartPaths:
    """The beam's paths of one part in its own plane, and what had to be given up."""

    outer: tuple[Contour, ...]
    inner: tuple[tuple[int, Contour], ...]  #: with the number of their hole
    marks: tuple[tuple[Mark, Contour], ...]
    findings: tuple[Finding, ...]
    bridges: tuple[Vec2, ...] = ()  #: on the outer line
    gap: Mm = 0.0
    reverse: bool = False  #: all marks are burned on the back, through which they are seen


SHORTEST = 0.05  # of a slit's length that its line keeps, however short the slit


def _middle_line(ring: Ring, kerf: Mm) -> Contour:
    """Return the long middle line of a ring that is narrower than the beam, half a beam short of both ends: as long as drawn it comes out."""
    corners = list(Polygon(ring).minimum_rotated_rectangle.exterior.coords)[:4]
    if math.dist(corners[0], corners[1]) > math.dist(corners[1], corners[2]):
        corners = corners[1:] + corners[:1]

    def middle(a: Vec2, b: Vec2) -> Vec2:
        return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)

    start, end = middle(corners[0], corners[1]), middle(corners[2], corners[3])
    off = min(kerf / 2 / max(math.dist(start, end), 1e-9), (1 - SHORTEST) / 2)
    along = (end[0] - start[0], end[1] - start[1])
    start, end = (start[0] + off * along[0], start[1] + off * along[1]), (end[0] - off * along[0], end[1] - off * along[1])
    return Contour(segments=(Segment(start=start, end=end),), closed=False)


def _closed(part: Part, outer: tuple[Contour, ...], *, kerf: Mm) -> list[Polygon]:
    """Return what lies beside a part and would not be cut away: the way into it is narrower than the beam."""
    if not kerf:
        return []
    around = merged([Polygon(sampled(c)) for c in outer]).difference(Polygon(part.profile.outer))
    return [p for p in pieces(around.buffer(-STRIP * kerf)) if p.area > kerf**2]


def _notches(part: Part, outer: tuple[Contour, ...], *, kerf: Mm) -> list[Finding]:
    """Return notches of a part that the beam closes."""
    spots = [gap.representative_point() for gap in _closed(part, outer, kerf=kerf)]
    return [
        Finding(
            code="notch_below_kerf",
            severity=Severity.MUST,
            parts=(part.id,),
            place=Place(part=part.id, x=spot.x, y=spot.y),
            says=say("notch_below_kerf", part=part.ref, kerf=mm(kerf, digits=2)),
        )
        for spot in spots
    ]


def part_paths(part: Part, kerf: Mm, *, beam: Mm | None = None, joined: DropIns | None = None) -> PartPaths:
    """Return the beam's paths for a part.

    Args:
        kerf: full width to correct for [mm]; 0 where the machine's own software does it
        beam: width of the beam where that is not what is corrected for [mm]
        joined: pieces that lie in others, where outlines and openings that belong to no joint stay on their line
    """
    findings: list[Finding] = []
    profile = part.profile
    outer = tuple(outer_contours(part, kerf, joined=joined) if joined else grown_ring(profile.outer, profile.circles, by=kerf / 2))
    inner: list[tuple[int, Contour]] = []
    for number, hole in enumerate(profile.holes):
        shrunk = hole_contours(hole, part, kerf=kerf, joined=joined) if joined else grown_ring(hole, profile.circles, by=-kerf / 2)
        if not shrunk:
            shrunk = [_middle_line(hole, kerf)]
            x, y = hole[0]
            findings.append(
                Finding(
                    code="opening_below_kerf",
                    severity=Severity.LOOK,
                    parts=(part.id,),
                    place=Place(part=part.id, x=x, y=y),
                    says=say("opening_below_kerf", part=part.ref, kerf=mm(kerf, digits=2)),
                )
            )
        inner += [(number, c) for c in shrunk]
    findings += _notches(part, outer, kerf=kerf)
    marks = tuple((m, contour_of(m.line) if m.closed else polyline_of(m.line)) for m in part.marks)
    gap = gap_for(kerf if beam is None else beam)
    joints = [Polygon(f.corners) for f in part.features if f.meeting]
    bridges = places(outer[0], part.bridges, joints=joints, gap=gap) if part.bridges and len(outer) == 1 else ()
    if len(bridges) < part.bridges:
        findings.append(
            Finding(
                code="bridges_do_not_fit",
                severity=Severity.LOOK,
                parts=(part.id,),
                facts={"fits": len(bridges), "wanted": part.bridges},
                says=say("bridges_do_not_fit", fit=len(bridges), wanted=part.bridges, part=part.ref),
            )
        )
    return PartPaths(outer=outer, inner=tuple(inner), marks=marks, findings=tuple(findings), bridges=bridges, gap=gap, reverse=part.reverse)


def moved_path(path: CutPath, to: Rigid) -> CutPath:
    """Return a path after its sheet, or its part, was moved."""
    return replace(
        path,
        contour=transformed(path.contour, to, mirrored=to.mirrored),
        frame=tuple(map(to, path.frame)),
        clip=tuple(tuple(map(to, r)) for r in path.clip),
        bridges=tuple(map(to, path.bridges)),
        left_out=tuple((to(a), to(b)) for a, b in path.left_out),
        rest=tuple(transformed(c, to, mirrored=to.mirrored) for c in path.rest),
        lead=None if path.lead is None else to(path.lead),
    )


def lying(placement: Placement) -> Rigid:
    """Return the move from a part's plane to where it lies on its sheet."""
    a = math.radians(placement.turn)
    return Rigid(cos=round(math.cos(a), 12), sin=round(math.sin(a), 12), x=placement.x, y=placement.y, mirrored=placement.mirrored)


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """One piece on a sheet: laid there, or in an opening of its host, with which it is cut."""

    part: str
    copy: int
    to: Rigid  #: from the part's plane to the sheet
    falls: bool = False
    frees: Mapping[int, str] = field(default_factory=dict)  #: by hole, the piece that falls out of it, as part and copy


def alone(placement: Placement) -> Laid:
    """Return a part that lies on a sheet by itself."""
    return Laid(part=placement.part, copy=placement.copy, to=lying(placement))


def piece_numbers(nesting: Nesting) -> dict[str, int]:
    """Return from which number on pieces that fall out of others are counted, by part: after those that are laid for themselves."""
    found: dict[str, int] = {}
    for p in (p for s in nesting.sheets for p in s.placements):
        found[p.part] = max(found.get(p.part, 0), p.copy + 1)
    return found


def laid_out(placements: Sequence[Placement], parts: Mapping[str, Part], *, numbers: Mapping[str, int]) -> list[Laid]:
    """Return all pieces of a sheet, each followed by those that fall out of it.

    Args:
        numbers: from which number on pieces that fall out are counted, by part: those that are laid for themselves come first
    """
    found: list[Laid] = []
    every = tuple(parts.values())

    def lay(part: Part, copy: int, to: Rigid, *, falls: bool) -> None:
        holes = {k: p for p in every if p.falls_from == part.id and (k := opening_of(part, p)) is not None}
        number = {p.id: numbers.get(p.id, 0) + copy for p in holes.values()}
        found.append(Laid(part=part.id, copy=copy, to=to, falls=falls, frees={k: str(CopyId(p.id, number[p.id])) for k, p in holes.items()}))
        for p in holes.values():
            inner = in_plane_of(p, part)
            assert inner is not None
            lay(p, number[p.id], followed(inner, to), falls=True)

    for placement in placements:
        lay(parts[placement.part], placement.copy, alone(placement).to, falls=False)
    return found


def placed_paths(paths: PartPaths, laid: Laid, *, locate: bool = True) -> list[CutPath]:
    """Return a part's paths where it lies on the sheet, as they are seen from above, also those on the face that lies down.

    The outline of a piece that falls out of its host is the host's opening: it is not cut again.

    Args:
        locate: whether the places of joints are scored on its back too
    """
    count = dict.fromkeys(Operation, 0)
    to = laid.to

    def path(operation: Operation, contour: Contour, mark: Mark | None = None, at: int | None = None) -> CutPath:
        name = str(PathId(CopyId(laid.part, laid.copy), f"{operation.value}{count[operation]}"))
        count[operation] += 1
        here = transformed(contour, to, mirrored=to.mirrored)
        down = mark is not None and not paths.reverse and mark.back != to.mirrored
        made = CutPath(
            id=name,
            part=laid.part,
            copy=laid.copy,
            operation=operation,
            contour=here,
            beam=mark.beam if mark else None,
            depth=mark.depth if mark else 0.0,
            down=down,
        )
        if mark is None or mark.photo is None:
            return made
        return replace(made, photo=mark.photo, mark=at, frame=tuple(map(to, mark.line)), clip=tuple(tuple(map(to, r)) for r in mark.clip))

    marks = [path(m.operation, c, m, i) for i, (m, c) in enumerate(paths.marks) if locate or m.always]
    bridges = tuple(map(to, paths.bridges))
    outer = [] if laid.falls else [replace(path(Operation.OUTER, c), bridges=bridges, gap=paths.gap if bridges else 0.0) for c in paths.outer]
    inner = [replace(path(Operation.INNER, c), frees=laid.frees.get(k, "")) for k, c in paths.inner]
    return marks + inner + outer
