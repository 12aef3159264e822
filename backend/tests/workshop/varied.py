"""Random variations of a project: its sizes, single numbers, stocks, and what is not there, each with alternatives of which one is chosen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from random import Random
from typing import Any

from notchcore.design.cards.pieces import Card
from notchcore.design.design import Design, Item, Loose
from notchcore.design.families.box import ROLES, BoxNumbers, Top
from notchcore.design.families.many_sided_numbers import ManySidedNumbers
from notchcore.design.families.registry import FAMILIES
from notchcore.design.families.stacking import Deepened, PieceShape, StackingNumbers
from notchcore.design.families.stand import StandNumbers
from notchcore.design.families.tiles import KINDS, Sockets, TilesNumbers
from notchcore.design.joined import Joined, JoinSide
from notchcore.design.numbers import NumberKind, numbers_of
from notchcore.design.variants import choosable, chosen_now, stored, with_choice
from notchcore.design.variations import Alternative, Variation
from notchcore.errors import NotchCoreError
from notchcore.ids import MAIN
from notchcore.measure.fit import Feel


def varied(r: Random, design: Design, other: Any, panels: Sequence[str], spare: str, story: list[str]) -> Design:
    """Return a design of which some things come in alternatives, of which one is chosen by hand.

    Args:
        other: numbers of the same family
        panels: that may be left out
        spare: another stock
    """
    some = []
    if other is not None:
        some.append(Variation(name="Size", chosen="own", alternatives=(Alternative(name="own", sizes=design.numbers), Alternative(name="other", sizes=other))))  # type: ignore[arg-type]
    if r.random() < 0.5:
        there = [f.id for f in design.features]
        gone = tuple(r.sample(there, r.randint(0, len(there)))), tuple(r.sample(list(panels), min(len(panels), r.choice([0, 0, 1]))))
        some.append(
            Variation(name="Lettering", chosen="all", alternatives=(Alternative(name="all"), Alternative(name="few", features=gone[0], panels=gone[1])))
        )
    if r.random() < 0.4:
        role = r.choice(sorted(design.stocks))
        kept = Alternative(name="kept", stocks={role: design.stocks[role]})
        some.append(Variation(name="Wood", chosen="kept", alternatives=(kept, Alternative(name="spare", stocks={role: spare}))))
    if r.random() < 0.5:
        numbers = [n for n in numbers_of(type(design.numbers)) if n.kind in (NumberKind.LENGTH, NumberKind.CHOICE, NumberKind.COUNT)]
        about = r.choice(numbers)
        now = stored(getattr(design.numbers, about.name))
        then: Any = now
        if about.kind is NumberKind.CHOICE:
            then = r.choice(about.options).value
        elif about.kind is NumberKind.LENGTH:
            then = round(float(now) * r.uniform(0.93, 1.0), 2)
        some.append(
            Variation(
                name="One number",
                chosen="a",
                alternatives=(Alternative(name="a", numbers={about.name: now}), Alternative(name="b", numbers={about.name: then})),
            )
        )
    r.shuffle(some)
    design = replace(design, variations=tuple(some))
    choice = {name: r.choice(names) for name, names in choosable(design).items() if name != "Size" and r.random() < 0.5}
    try:
        chosen = with_choice(design, choice)
    except NotchCoreError:
        return design
    if some:
        story.append(f"variations {choosable(design)}, chosen {choice}")
    return chosen


def _lidded(r: Random, design: Design) -> Design:
    """Return a project with a lid that goes over its first item."""
    stock = r.choice(["spare", *design.stocks.values()])
    body = Design(numbers=BoxNumbers(height=round(r.uniform(20, 40), 1)), stocks=dict.fromkeys((x.id for x in ROLES), stock))
    loose = Loose(room="room-1", over=True, play=r.choice([0.2, 0.5, 1.0]))
    lid = Item(id="lid", label="Lid", design=body, loose=loose, turn=r.choice([0.0, 0.0, 90.0, 180.0]))
    return replace(design, items=(*design.items, lid), name=design.name or "First")


def tipped(r: Random, design: Design, story: list[str]) -> Design:
    """Return a project of which some items that stand beside the rest lie on a face, or lean."""
    tips = {i.id: r.choice([0.0, 0.0, 90.0, -90.0, 180.0, 20.0]) if i.loose is None and i.joined is None else i.tip for i in design.items}
    if any(tips.values()):
        story.append(f"tipped {tips}")
    return replace(design, items=tuple(replace(i, tip=tips[i.id]) for i in design.items))


def met(r: Random, design: Design, story: list[str]) -> Design:
    """Return a project with one or two things joined to one of its items, now and then: into any side of it, and to each other."""
    if isinstance(design.numbers, Card) or r.random() > 0.08:
        return design
    host = r.choice([MAIN, MAIN, *(i.id for i in design.items if i.joined is None and i.loose is None)])
    for name in r.choice([("met",), ("met",), ("met", "again")]):
        numbers: Any = r.choice(
            [
                BoxNumbers(
                    width=round(r.uniform(50, 110), 1), depth=round(r.uniform(45, 90), 1), height=round(r.uniform(30, 60), 1), top=r.choice(list(Top)[:2])
                ),
                ManySidedNumbers(sides=r.choice([3, 5, 6]), width=round(r.uniform(60, 90), 1), height=40.0),
                StandNumbers(width=60.0, height=70.0),
            ]
        )
        stock = r.choice(["spare", *design.stocks.values()])
        body = Design(numbers=numbers, stocks=dict.fromkeys((x.id for x in FAMILIES[numbers.family].roles), stock), feel=r.choice([Feel.SNUG, Feel.MALLET]))
        item = Item(
            id=name,
            label=name.capitalize(),
            design=body,
            turn=r.choice([0.0, 0.0, 90.0, 30.0]),
            tip=r.choice([0.0, 0.0, 0.0, 90.0, -12.0]),
            at=(r.choice([0.0, 0.0, 8.0]), r.choice([0.0, 0.0, -6.0]), r.choice([0.0, 0.0, 5.0])),
            joined=Joined(host=host, side=r.choice([JoinSide.ABOVE, JoinSide.ABOVE, *JoinSide]), into=r.choice([None, None, 0.0, 4.0])),
        )
        design = replace(design, items=(*design.items, item), name=design.name or "First")
        story.append(f"{name} {numbers} {item.joined} turned {item.turn} tipped {item.tip} moved {item.at}")
        host = name
    return design


def several(r: Random, design: Design, story: list[str]) -> Design:
    """Return a project of which more than one is made, now and then, and whose items vary, or are not there with an alternative."""
    if r.random() < 0.08:
        design = replace(design, count=r.choice([1, 2, 3]), spares=r.choice([0, 1]), name=design.name or "First")
        story.append(f"{design.count} and {design.spares} spare of the first")
    if r.random() < 0.06:
        design = _lidded(r, design)
        story.append(str(design.items[-1].loose))
    if not design.items:
        return design
    if r.random() < 0.4:
        one = r.choice(design.items)
        panels = ["front", "back"] if one.design.numbers.family == "box" else []  # type: ignore[union-attr]
        body = varied(r, one.design, None, panels, r.choice(sorted(one.design.stocks.values())), story)
        design = replace(design, items=tuple(replace(i, design=body) if i is one else i for i in design.items))
    if r.random() < 0.4:
        gone = r.choice(design.items).id
        there = Variation(name="There", chosen="all", alternatives=(Alternative(name="all"), Alternative(name="fewer", items=(gone,))))
        design = with_choice(replace(design, variations=(*design.variations, there)), {"There": r.choice(["all", "fewer"])})
        story.append(f"{gone} comes with some: {chosen_now(design)}")
    return design


def a_set_of_tiles(r: Random, numbers: TilesNumbers) -> TilesNumbers:
    """Return a set with few of each thing, other pieces, and sockets from one side or both."""
    sorts = {(r.randint(1, numbers.units), r.randint(1, numbers.units), r.randrange(KINDS)): r.randint(1, 3) for _ in range(r.randint(0, 3))}
    return replace(
        numbers,
        rim=max(numbers.rim, r.uniform(32.0, 38.0)),  # whatever the stocks: there is room for sockets
        pitch=max(numbers.pitch, 80.0 + 12.0 * numbers.units, r.uniform(190.0, 240.0)),
        pegs=r.randint(1, 3),
        peg=round(r.uniform(4.0, 14.0), 1),
        tiles=r.randint(1, 3),
        full=r.randint(2, 4),
        short=r.randint(2, 3),
        sockets=r.choice(list(Sockets)),
        pieces=tuple((*sort, many) for sort, many in sorts.items()),
    )


def some_stacking_pieces(r: Random, numbers: StackingNumbers) -> StackingNumbers:
    """Return a few pieces of one to four kinds, of any shape, large enough for whatever is put on them."""
    across = round(r.uniform(60.0, 140.0), 1)
    return replace(
        numbers,
        shape=r.choice(list(PieceShape)),
        across=across,
        sides=r.randint(3, 12),
        rim=round(r.uniform(12.0, across / 5 + 4.0), 1),
        recess=r.choice(list(Deepened)),
        depth=round(r.uniform(0.3, 0.85), 2),
        many_1=r.randint(1, 3),
        many_2=r.randint(0, 2),
        many_3=r.randint(0, 1),
        many_4=0,
    )
