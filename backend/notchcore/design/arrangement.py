"""What a family gives to the solver: panels in space, its word about some pairs, and where its numbers can be seen.

World: x to the right along the front, y to the back, z up [mm].
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from notchcore.design.assembly import Dimension, Fact, Mark, RoomSeed, WishCount
from notchcore.design.panel import Bound, MeetingRule, Panel, Reach
from notchcore.design.styles import Style
from notchcore.findings import Finding, Severity
from notchcore.geom.profile import Profile
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec2, Vec3, X, Y, Z, scale
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Sentence
from notchcore.words.language import called

MOST_ROOMS = 60  # that things may stand in


@dataclass(frozen=True, slots=True, kw_only=True)
class Arrangement:
    """Panels in space, before any joint is cut."""

    panels: tuple[Panel, ...]
    ghosts: tuple[Panel, ...] = ()  #: left out by a person; edges that are bound to them still end there
    rules: tuple[MeetingRule, ...] = ()
    findings: tuple[Finding, ...] = ()
    dimensions: tuple[Dimension, ...] = ()
    facts: tuple[Fact, ...] = ()
    rooms: tuple[RoomSeed, ...] = ()
    needs: tuple[WishCount, ...] = ()


@dataclass
class Arranger:
    """Collects the panels of a family; each takes its thickness from the stock of its role."""

    ids: Mapping[str, str]
    stocks: Mapping[str, Stock]
    panels: list[Panel] = field(default_factory=list)
    rules: list[MeetingRule] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)
    facts: list[Fact] = field(default_factory=list)
    rooms: list[RoomSeed] = field(default_factory=list)
    needs: list[WishCount] = field(default_factory=list)

    def stock(self, role: str) -> Stock:
        return self.stocks[self.ids[role]]

    def t(self, role: str) -> Mm:
        return self.stock(role).t

    def web(self, role: str) -> Mm:
        """Return the least web between two cuts in the stock of a role."""
        return minimum_web(MATERIALS[self.stock(role).material], self.t(role))

    def add(
        self,
        pid: str,
        label: str,
        *,
        role: str,
        envelope: Profile,
        pose: Pose,
        datum: float,
        rank: int = 0,
        bounds: tuple[Bound, ...] = (),
        inside: Vec2 | None = None,
        loose: bool = False,
        falls_from: str = "",
        marks: tuple[Mark, ...] = (),
        places: tuple[str, ...] = (),
        copies: int = 1,
    ) -> Panel:
        stock = self.stock(role)
        panel = Panel(
            id=pid,
            label=called(label),
            stock=stock.id,
            envelope=envelope,
            pose=pose,
            t=stock.t,
            layout_t=stock.layout_t,
            datum=datum,
            rank=rank,
            bounds=bounds,
            inside=inside,
            loose=loose,
            falls_from=falls_from,
            marks=marks,
            places=places,
            copies=copies,
        )
        self.panels.append(panel)
        return panel

    def rest(self, some: tuple[str, ...], others: tuple[str, ...]) -> None:
        """Say that every one of `some` lies against every one of `others` without a joint."""
        self.rules += [MeetingRule(a=a, b=b, style=Style.REST) for a in some for b in others]

    def rule(self, a: str, b: str, *, style: Style) -> None:
        self.rules.append(MeetingRule(a=a, b=b, style=style))

    def must(self, code: str, number: str, *, says: Sentence, **facts: float) -> None:
        """Note what makes the wish impossible, naming the number to change."""
        self.findings.append(Finding(code=code, severity=Severity.MUST, says=says, field=number, facts=dict(facts)))

    def look(self, code: str, says: Sentence, *, number: str | None = None, **facts: float) -> None:
        self.findings.append(Finding(code=code, severity=Severity.LOOK, says=says, field=number, facts=dict(facts)))

    def shows(self, name: str, start: Vec3, *, end: Vec3) -> None:
        self.dimensions.append(Dimension(name=name, start=start, end=end))

    def fact(self, label: str, *mm: Mm) -> None:
        self.facts.append(Fact(label=called(label), mm=mm))

    def room(self, rid: str, label: str, *, within: Vec3, mouth: Vec3, thing: str) -> None:
        """Note a room that something may stand in: a place within it, the way out of it, and what usually stands there; so many at most."""
        if len(self.rooms) < MOST_ROOMS:
            self.rooms.append(RoomSeed(id=rid, label=called(label), within=within, mouth=mouth, thing=called(thing)))

    @property
    def impossible(self) -> bool:
        return any(f.severity is Severity.MUST for f in self.findings)

    def done(self) -> Arrangement:
        """Return the arrangement; without panels when something makes it impossible."""
        if self.impossible:
            return Arrangement(panels=(), findings=tuple(self.findings))
        return Arrangement(
            panels=tuple(self.panels),
            rules=tuple(self.rules),
            findings=tuple(self.findings),
            dimensions=tuple(self.dimensions),
            facts=tuple(self.facts),
            rooms=tuple(self.rooms),
            needs=tuple(self.needs),
        )


def lying(z: Mm, *, x: Mm = 0.0, y: Mm = 0.0) -> Pose:
    """Return the pose of a sheet that lies flat, its normal up: datum 0 grows up from z, datum 1 hangs below it."""
    return Pose(origin=(x, y, z), x=X, y=Y)


def facing_front(y: Mm, *, x: Mm = 0.0, z: Mm = 0.0) -> Pose:
    """Return the pose of an upright sheet along x, its normal towards the front: datum 1 grows to the back from y."""
    return Pose(origin=(x, y, z), x=X, y=Z)


def facing_right(x: Mm, *, y: Mm = 0.0, z: Mm = 0.0) -> Pose:
    """Return the pose of an upright sheet along y, its normal to the right: datum 0 grows to the right from x."""
    return Pose(origin=(x, y, z), x=Y, y=Z)


def seen_from_below(z: Mm, width: Mm) -> Pose:
    """Return the pose of a sheet whose front face looks down, so that what is scored on it is seen from below."""
    return Pose(origin=(width, 0, z), x=scale(X, -1.0), y=Y)


__all__ = ["Arrangement", "Arranger", "Bound", "Dimension", "Fact", "Pose", "Reach", "facing_front", "facing_right", "lying", "seen_from_below"]
