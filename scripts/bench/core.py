"""How long the core takes, apart from any server."""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

from typing import TYPE_CHECKING

from timing import row, timed

from notchcore.fingerprint import fingerprint

if TYPE_CHECKING:
    from collections.abc import Iterator

    from notchcore.design.design import Design
    from notchcore.measure.stock import Stock


def _forms(ply: Stock) -> None:
    """Time families as they begin, and one number of a ribbed form changed."""
    from notchcore.check.dry_fit import dry_fit
    from notchcore.design.building import build
    from notchcore.design.design import Design
    from notchcore.design.families.crate import CrateNumbers
    from notchcore.design.families.registry import FAMILIES

    stocks = {"ply": ply}
    for family in FAMILIES.values():
        design = Design(numbers=family.numbers(), stocks={r.id: "ply" for r in family.roles})
        row(
            f"core: {family.label.lower()} of {len(build(design, stocks).parts)} parts built again",
            timed(lambda d=design: build(d, stocks), runs=5),
        )
    for along, across, aim in ((12, 18, "300 ms in all"), (40, 40, "1.5 s in all")):
        rises = iter(range(60, 200))

        def changed(along: int = along, across: int = across, rises: Iterator[int] = rises) -> object:
            numbers = CrateNumbers(width=900, depth=900, along=along, across=across, rise=next(rises))
            return build(
                Design(numbers=numbers, stocks={"along": "ply", "across": "ply"}),
                stocks,
            )

        row(
            f"core: a number of a ribbed form of {along + across} parts, {along * across} joints",
            timed(changed, runs=5),
            aim=aim,
        )
    assembly = build(
        Design(
            numbers=CrateNumbers(width=900, depth=900, along=40, across=40),
            stocks={"along": "ply", "across": "ply"},
        ),
        stocks,
    )
    row(
        "core: dry fit of 80 ribs, 1,600 joints",
        timed(lambda: dry_fit(assembly, stocks), runs=2, warm=0),
    )


def _items(ply: Stock) -> None:
    """Time an edit of one of thirteen items of more than 200 parts, the others from memory as the server keeps them, and their dry fit."""
    from dataclasses import replace

    from notchcore.check.whole import whole_fit
    from notchcore.design.assembly import Assembly
    from notchcore.design.building import build
    from notchcore.design.design import Design
    from notchcore.design.families.case import CaseNumbers
    from notchcore.design.families.registry import FAMILIES
    from notchcore.design.filling import filled
    from notchcore.design.items import body_of, members_of, whole_of, with_body

    stocks, known = {"ply": ply}, dict[str, Assembly]()

    def built(body: Design) -> Assembly:
        key = fingerprint(body)
        if key not in known:
            known[key] = build(body, stocks)
        return known[key]

    case = Design(numbers=CaseNumbers(width=300, depth=200, height=580, drawers=12), stocks={r.id: "ply" for r in FAMILIES["case"].roles})
    design = filled(case, members_of(case, built)[0])
    cells = tuple(replace(i, design=replace(i.design, numbers=replace(i.design.numbers, columns=7, rows=4))) for i in design.items)
    design = replace(design, items=cells)
    drops = iter(range(1, 60))

    def edited() -> Assembly:
        one = body_of(design, "drawer-5")
        return whole_of(members_of(with_body(design, "drawer-5", body=replace(one, numbers=replace(one.numbers, divider_drop=next(drops) / 4))), built))

    parts = len(edited().parts)
    row(f"core: a number of one of 13 items, {parts} parts", timed(edited, runs=5), aim="500 ms in all")
    members = members_of(design, built)
    row(f"core: dry fit of 13 items, {parts} parts", timed(lambda: whole_fit(members, stocks), runs=1, warm=0))


def _pieces() -> None:
    """Time a drawing of 60 regions in five stocks, all of them inlaid, from its lines to parts."""
    import math

    from notchcore.design.building import build
    from notchcore.design.design import Design
    from notchcore.design.families.plate import PlateNumbers
    from notchcore.design.features.drawing import Drawing, DrawnLine
    from notchcore.design.features.values import Artwork, Burned, PieceStock
    from tests.strategies import make_stock

    stocks = {f"s{k}": make_stock(f"s{k}", 3.0) for k in range(6)}
    turns = [2 * math.pi * k / 24 for k in range(24)]
    lines = [
        DrawnLine(layer=f"c{(i + j) % 5}", points=tuple((30 * i + 13 * math.cos(a), 30 * j + 13 * math.sin(a)) for a in turns), closed=True)
        for i in range(10)
        for j in range(6)
    ]
    layers = [f"c{k}" for k in range(5)]
    art = Artwork(
        id="art",
        panel="sheet",
        drawing="1",
        width=296.0,
        layers=tuple((c, Burned.INLAID) for c in layers),
        stocks=tuple(PieceStock(layer=c, stock=f"s{k + 1}") for k, c in enumerate(layers)),
    )
    widths = iter(range(400, 440))

    def made() -> object:
        design = Design(numbers=PlateNumbers(width=next(widths), height=260), stocks={"plate": "s0"}, features=(art,))
        return build(design, stocks, drawings={"1": Drawing(lines=tuple(lines), mm_per_unit=1.0)})

    row("core: a drawing of 60 regions in five stocks inlaid", timed(made, runs=5), aim="3 s")


def _orders() -> None:
    """Time the order of many contours: plates in a grid, each with two holes; each order is replayed by an independent check."""
    import math
    from random import Random

    from notchcore.geom.contours import contour_of
    from notchcore.measure.machine import Operation
    from notchcore.plan import tour
    from notchcore.plan.order import cutting_order
    from notchcore.plan.paths import CutPath
    from tests.replay import replay

    tour.warm()

    def ring(name: str, x: float, y: float, size: float, operation: Operation) -> CutPath:
        corners = ((x, y), (x + size, y), (x + size, y + size), (x, y + size))
        return CutPath(
            id=name,
            part=name,
            copy=0,
            operation=operation,
            contour=contour_of(corners),
        )

    for count, aim in ((50, "2 s"), (200, "2 s"), (1000, "2 s"), (5000, "10 s")):
        random, paths = Random(count), []
        columns = math.ceil(math.sqrt(count / 3))
        for i in range(count // 3):
            x, y = (
                40 * (i % columns) + random.uniform(0, 8),
                40 * (i // columns) + random.uniform(0, 8),
            )
            paths += [
                ring(f"{i}", x, y, 30, Operation.OUTER),
                ring(f"{i}a", x + random.uniform(3, 8), y + 3, 8, Operation.INNER),
                ring(f"{i}b", x + 18, y + random.uniform(12, 17), 8, Operation.INNER),
            ]
        random.shuffle(paths)
        found: list[tuple[list[CutPath], float]] = []

        def order(paths: list[CutPath] = paths, found: list[tuple[list[CutPath], float]] = found) -> None:
            found[:] = [cutting_order(paths)]

        row(
            f"core: order of {len(paths)} contours",
            timed(order, runs=2, warm=0),
            aim=aim,
        )
        ordered, travel = found[0]
        print(f"{'':<10}travel {travel:.0f} mm; replay: {'; '.join(replay(ordered)[:3]) or 'nothing broken'}")


def _box(columns: int, rows: int) -> Design:
    from tests.strategies import make_box

    made: Design = make_box(same_stock=True, width=60 + 40 * columns, depth=50 + 40 * rows, height=60, columns=columns, rows=rows)
    return made


def core() -> None:
    from notchcore.check.dry_fit import dry_fit
    from notchcore.design.building import build
    from notchcore.measure.machine import Machine, default_settings
    from notchcore.nest.pack import pack
    from notchcore.nest.search import Work
    from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind
    from notchcore.plan.cut_plan import cut_plan
    from tests.strategies import make_box, make_stock

    stocks = {"ply": make_stock("ply", 3.08)}
    for columns, rows in ((2, 2), (3, 2), (8, 6), (12, 12)):
        design = _box(columns, rows)
        parts = len(build(design, stocks).parts)
        row(
            f"core: box of {parts} parts rebuilt",
            timed(lambda d=design: build(d, stocks), runs=15),
            aim="100 ms at 8 parts" if parts == 8 else "",
        )
    _forms(stocks["ply"])
    _items(stocks["ply"])
    _pieces()
    _orders()
    for columns, rows in ((3, 2), (12, 12)):
        design = _box(columns, rows)
        assembly = build(design, stocks)
        row(
            f"core: dry fit of {len(assembly.parts)} parts, {len(assembly.meetings)} joints",
            timed(lambda a=assembly: dry_fit(a, stocks), runs=3, warm=0),
        )
    design = make_box(same_stock=True, width=214, depth=150, height=62, columns=3, rows=2)
    assembly = build(design, stocks)
    machine = Machine(id="m", name="Alder desk laser")
    for copies in (1, 7, 25):
        wanted = [NestPart(id=p.id, stock="ply", profile=p.profile, count=copies) for p in assembly.parts]
        sheets = [SheetKind(id="s", stock="ply", name="s", width=600, height=400, count=200)]

        def first(wanted: list[NestPart] = wanted, sheets: list[SheetKind] = sheets) -> Nesting:
            return pack(wanted, sheets, rules=NestRules(), work=Work(1))

        row(
            f"core: first packing of {copies * len(wanted)} parts",
            timed(first, runs=3, warm=0),
            aim="2 s",
        )
        nesting = first()
        row(
            f"core: cut plan of {copies * len(wanted)} parts",
            timed(
                lambda n=nesting: cut_plan(
                    assembly,
                    n,
                    stocks=stocks,
                    machine=machine,
                    settings={"ply": default_settings(stocks["ply"])},
                ),
                runs=2,
                warm=0,
            ),
        )
