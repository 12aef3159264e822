"""What play an item keeps in its room, and the chances that it sticks or rattles.

Each face of the room and of the item is where its panel was cut to be, but for two errors. The beam is wider or narrower than believed: an edge, and
a shoulder that a wall is pressed against, lie half of that off. The sheet is thicker or thinner than believed: a board that stands in slots is
half of that off on either face, and the outer face of a wall all of it, because the wall is pressed against the shoulders from outside. Errors of
one stock are one error: where an item and its room are of one stock, the beam's cancel.

Sticks     there is no play left
Rattles    there is more than twice what was asked for
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

from notchcore.design.assembly import FeatureKind, Part, box_round
from notchcore.design.design import label_of
from notchcore.design.items import Member, covered, wanted_size
from notchcore.design.placing import standing
from notchcore.design.rooms import Room
from notchcore.findings import Finding, Severity
from notchcore.geom.slab import Box, box_of
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.fit import normal_below
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.facts import Listed, Sentence, Share, mm
from notchcore.words.render import say

LOOK_AT = 0.15  # a chance of sticking that is worth more play
LEAST_RATTLE: Mm = 0.2  # more play than asked for that anybody feels
OFF: Mm = 0.02  # from the play that was asked for
AXES = ("sideways", "deep", "up")  # keys of what they are called: play.sideways ...
FACING = 0.99  # cosine
SURE: Mm = 1e-9  # spread of what has none


@dataclass(frozen=True, slots=True, kw_only=True)
class ErrorShare:
    """How far a play grows with an error of a stock, for each millimetre of it."""

    kind: str  #: kerf or thickness
    stock: str
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Play:
    """The play of an item along one axis, both sides together [mm]."""

    axis: str
    wanted: Mm
    play: Quantity
    sticks: float  #: chance
    rattles: float
    errors: tuple[ErrorShare, ...] = ()

    def moved(self, by: Mm) -> Play:
        """Return the play where it is so much larger than believed, with its chances."""
        play = replace(self.play, value=self.play.value + by)
        return replace(self, play=play, sticks=_sticks(play), rattles=_rattles(play, self.wanted))


def _sticks(play: Quantity) -> float:
    return normal_below(0.0, play.value, sd=max(play.sd, SURE))


def _rattles(play: Quantity, wanted: Mm) -> float:
    return 1.0 - normal_below(max(2 * wanted, wanted + LEAST_RATTLE), play.value, sd=max(play.sd, SURE))


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemPlay:
    """How an item stands in its room."""

    item: str
    room: str
    plays: tuple[Play, ...]

    @property
    def sticks(self) -> float:
        """The chance that it sticks anywhere."""
        free = 1.0
        for p in self.plays:
            free *= 1.0 - p.sticks
        return 1.0 - free


#: how far a face is off for each error of one: (kind, stock) -> share
Shares = dict[tuple[str, str], float]


def _stands_in_slots(part: Part) -> bool:
    kinds = {f.kind for f in part.features if f.meeting}
    return bool(kinds) and kinds <= {FeatureKind.TAB}


def _mates(part: Part, parts: Sequence[Part]) -> list[Part]:
    meetings = {f.meeting for f in part.features if f.meeting}
    return [q for q in parts if q.id != part.id and any(f.meeting in meetings for f in q.features)]


def _wall(part: Part, parts: Sequence[Part]) -> Shares:
    """Return how far a wall's face towards the room is off, counted into the room."""
    if _stands_in_slots(part):
        return {("thickness", part.stock): 0.5}
    mates = _mates(part, parts)
    return {("kerf", (mates[0] if mates else part).stock): 0.5}


def _outer(part: Part, parts: Sequence[Part], *, axis: int) -> Shares:
    """Return how far an item's outermost face is off, counted outwards."""
    faces = abs(part.pose.normal[axis])
    if faces < FACING:  # an edge: a wide beam makes it smaller; of a wall that stands askew, its outer face comes along by the share that it looks that way
        return {("kerf", part.stock): -0.5} | ({("thickness", part.stock): faces} if faces > 1 - FACING else {})
    if _stands_in_slots(part):
        return {("thickness", part.stock): 0.5}
    mates = _mates(part, parts)
    return {("thickness", part.stock): 1.0} | ({("kerf", mates[0].stock): -0.5} if mates else {})


def _sd(stock: Stock, kind: str) -> Mm:
    return stock.kerf.sd if kind == "kerf" else stock.thickness.sd


def _axis(k: int, room: Room, *, member: Member, host: Sequence[Part], box: Box, placed: Sequence[Part], stocks: Mapping[str, Stock]) -> Play:
    wide, own = room.size[k], box[k + 3] - box[k]
    off: Shares = defaultdict(float)
    by_id = {p.id: p for p in host}
    ends: tuple[tuple[int, Mm], tuple[int, Mm]] = ((k, box[k]), (k + 3, box[k + 3]))
    for side, edge in ends:
        if (wall := by_id.get(room.walls[side])) is not None:
            for what, share in _wall(wall, host).items():
                off[what] -= share
        if k == room.mouth_axis and not room.walls[side]:
            continue  # it is laid even with the mouth: only the other end has a play
        there = [p for p in placed if abs(box_of(p.slab())[side] - edge) < OFF]
        outermost = max(there, key=lambda p: abs(p.pose.normal[k]), default=None)  # a wall's face before the ends of fingers that are even with it
        if outermost is not None:
            for what, share in _outer(outermost, placed, axis=k).items():
                off[what] -= share
    terms = [
        Term(kind=TermKind.SIZE, label=say("term.room"), value=wide, source=say("from.parts_round"), trust=Trust.CHOSEN),
        Term(kind=TermKind.SIZE, label=say("term.item"), value=-own, source=say("from.its_parts"), trust=Trust.CHOSEN),
    ]
    for (kind, stock), share in sorted(off.items()):
        if (sd := abs(share) * _sd(stocks[stock], kind)) > 0:
            label = say("term.beam_of" if kind == "kerf" else "term.thickness_of", stock=stocks[stock].ref)
            terms.append(Term(kind=TermKind.KERF if kind == "kerf" else TermKind.MEASURED, label=label, value=0.0, sd=sd, source=say("from.how_known")))
    play = total(terms)
    wanted = wide - wanted_size(room, member.item.loose.play)[k] if member.item and member.item.loose else 0.0
    errors = tuple(ErrorShare(kind=kind, stock=stock, share=share) for (kind, stock), share in sorted(off.items()))
    return Play(axis=AXES[k], wanted=wanted, play=play, sticks=_sticks(play), rattles=_rattles(play, wanted), errors=errors)


def play_of(member: Member, host: Member, *, stocks: Mapping[str, Stock]) -> ItemPlay | None:
    """Return the play that an item keeps; None where it stands in no room."""
    if member.over is not None:
        return _over(member, host, room=member.over, stocks=stocks)
    room = member.room
    if room is None or member.item is None or member.item.loose is None or not member.assembly.parts:
        return None
    turn = standing(member.item.turn, tip=member.item.tip)  # as it stands in its host's own place
    placed = [replace(p, pose=turn.pose(p.pose)) for p in member.assembly.parts]
    box = box_round(placed)
    plays = tuple(_axis(k, room, member=member, host=host.assembly.parts, box=box, placed=placed, stocks=stocks) for k in range(3))
    return ItemPlay(item=member.id, room=room.label, plays=plays)


def _over(member: Member, host: Member, *, room: Room, stocks: Mapping[str, Stock]) -> ItemPlay:
    """Return the play sideways and to the back of an item that goes over its host: here the host is what stands in a room."""
    inside = covered(host)
    box = box_round(inside)
    plays = tuple(_axis(k, room, member=member, host=member.assembly.parts, box=box, placed=inside, stocks=stocks) for k in range(2))
    return ItemPlay(item=member.id, room=host.label or label_of(host.design), plays=plays)


def _told(plays: Sequence[Play]) -> Sentence:
    return say("plays", plays=Listed(tuple(say(f"play.{p.axis}", play=mm(p.play.value, digits=2)) for p in plays)))


def findings_of(found: ItemPlay, member: Member) -> tuple[Finding, ...]:
    """Return what is to be told of an item in its room: one line when all is well."""
    item, out = member.label, []
    sized = member.item is not None and member.item.loose is not None and member.item.loose.sized
    mouth = None if member.room is None else AXES[member.room.mouth_axis]
    over = member.over is not None
    for p in found.plays:
        along, play, by = say(f"along.{p.axis}"), mm(p.play.value, digits=2), mm(-p.play.value, digits=2)
        tell = partial(_one, facts={"item": found.item, "axis": p.axis, "play": p.play.value}, item=item)
        if p.play.value <= 0 and p.axis == mouth:
            if p.play.value < -OFF:
                out.append(tell("item_stands_out", Severity.LOOK, room=found.room, by=by))
        elif p.play.value <= 0:
            out.append(tell("item_too_large.over" if over else "item_too_large", Severity.MUST, room=found.room, along=along, by=by))
        elif p.axis != mouth and p.sticks > LOOK_AT:
            out.append(
                tell("item_may_stick.over" if over else "item_may_stick", Severity.LOOK, room=found.room, along=along, play=play, chance=Share(p.sticks))
            )
        elif sized and abs(p.play.value - p.wanted) > OFF:
            out.append(tell("item_off_size", Severity.LOOK, along=along, play=play, wanted=mm(p.wanted, digits=2)))
        elif p.axis != mouth and p.rattles > 0.5:
            out.append(tell("item_rattles.over" if over else "item_rattles", Severity.LOOK, room=found.room, along=along, play=play))
    if out:
        return tuple(out)
    says = say("fine.item_play.over" if over else "fine.item_play", item=item, room=found.room, plays=_told(found.plays), chance=Share(found.sticks))
    return (Finding(code="item_play", severity=Severity.FINE, says=says, item=found.item, facts={"item": found.item}),)


def _one(code: str, severity: Severity, *, facts: dict[str, float | int | str], **told: object) -> Finding:
    plain = code.partition(".")[0]
    return Finding(code=plain, severity=severity, item=str(facts["item"]), says=say(code, **told), facts=facts)  # type: ignore[arg-type]
