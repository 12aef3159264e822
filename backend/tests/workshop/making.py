"""Making a drawn project with the product: it is built, packed, planned and written to files; the second workshop takes it from there."""

from __future__ import annotations

from dataclasses import replace
from random import Random
from unittest.mock import patch

from notchcore.check.dry_fit import collisions
from notchcore.check.strength import thin_webs
from notchcore.design.assembly import Assembly, Part
from notchcore.design.building import build
from notchcore.design.design import Design
from notchcore.design.items import build_whole, members_of
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.styles import Style
from notchcore.errors import DesignError, NestError, PlanError
from notchcore.findings import Severity
from notchcore.formats.dxf import sheet_dxf
from notchcore.formats.gcode import sheet_gcode
from notchcore.formats.sheetfile import SheetFile
from notchcore.formats.sheetpdf import sheet_pdf
from notchcore.formats.svg import sheet_svg
from notchcore.measure.fit import WANTED
from notchcore.measure.machine import default_settings
from notchcore.nest.flush import pushed_together
from notchcore.nest.pack import joined, pack
from notchcore.nest.pairs import apart, halves_of, laid_together
from notchcore.nest.rows import Grid, in_rows
from notchcore.nest.search import Work
from notchcore.nest.values import HALF_TURNS, QUARTER_TURNS, Nesting, NestPart, NestRules, SheetKind, SheetLayout
from notchcore.nest.wanted import fallen_on, packed_parts
from notchcore.plan import tour
from notchcore.plan.choices import SecondSide
from notchcore.plan.cut_plan import CutPlan, Stroke, cut_plan
from tests.workshop.bench import after, lying
from tests.workshop.laws.job import InRoom, Job, Lie, Lying, Planned, RunFiles
from tests.workshop.projects import BED, Project, Refused

WORK = 4000  # places that the packing tries: enough for a legal answer
FEW_STEPS = {"STEPS_A_PATH": 200, "LEAST_STEPS": 4000}  # ... and that the order of cuts does


def chosen(r: Random, design: Design, assembly: Assembly) -> Design:
    """Return the design with a few meetings joined another way."""
    choices = {}
    for m in assembly.meetings:
        if r.random() < 0.08:
            choices[m.id] = MeetingChoice(style=r.choice([None, *Style]), feel=r.choice([None, *WANTED]), count=r.choice([None, 1, 3]))
    return replace(design, choices=choices)


def made(project: Project, *, pdf: bool = False) -> Job:
    """Build, pack, plan and write a project.

    Raises:
        Refused: the product says that it cannot be made
    """
    r = Random(f"making {project.seed}")
    used = project.stocks
    try:
        assembly = build_whole(project.design, used, drawings=project.drawings, bed=BED)
        if r.random() < 0.3:
            design = chosen(r, project.design, assembly)
            project.story.append(str(design.choices))
            assembly = build_whole(design, used, drawings=project.drawings, bed=BED)
    except DesignError as problem:
        raise Refused(problem.message) from None
    musts = [f for f in assembly.findings if f.severity is Severity.MUST]
    if musts or not assembly.parts:
        raise Refused(musts[0].message if musts else "no parts")
    hit = [*collisions(assembly.parts), *(f for f in thin_webs(assembly.parts, used) if f.severity is Severity.MUST)]  # Dry fit: files are held back for these
    if hit:
        raise Refused(hit[0].message)
    nesting = _packed(project, assembly)
    settings = {k: default_settings(s) for k, s in used.items()}
    images = {k: d.image for k, d in project.drawings.items()}
    try:
        with patch.multiple(tour, **FEW_STEPS):
            plan = cut_plan(assembly, nesting, stocks=used, machine=project.machine, settings=settings, choices=project.choices, images=images)
    except PlanError as problem:
        raise Refused(problem.message) from None
    stops = [f for f in plan.findings if f.severity is Severity.MUST]
    if stops:
        raise Refused(stops[0].message)
    return _job(project, assembly, nesting, plan, pdf=pdf)


def _packed(project: Project, assembly: Assembly) -> Nesting:
    halves_wanted = [p.id for p in assembly.parts] if project.rules["pairs"] else []
    wanted = packed_parts(assembly.parts, project.wish, pairs=halves_wanted)
    found = []
    for stock in sorted({p.stock for p in wanted}):
        own = [p for p in wanted if p.stock == stock]
        halves = halves_of(own, [p.id for p in own if project.rules["pairs"] and _two_faced(assembly, p.id)])
        rules = NestRules(
            margin=5.0,
            spacing=round(project.stocks[stock].kerf.value, 4) if project.common else 3.0,
            turns=HALF_TURNS if project.rules["grain"] else QUARTER_TURNS,
            bed_width=900.0,
            bed_height=600.0,
        )
        kinds = [SheetKind(id=f"{stock}-whole", stock=stock, name=f"{stock} sheet", width=860.0, height=580.0, count=12, price=8.0)]
        if project.seed % 3 == 0:
            ring = ((0.0, 0.0), (300.0, 0.0), (300.0, 120.0), (160.0, 240.0), (0.0, 240.0))
            kinds.append(SheetKind(id=f"{stock}-offcut", stock=stock, name=f"{stock} offcut", width=300.0, height=240.0, count=1, price=1.0, outline=ring))
        try:
            packed = pack(apart(own, halves), kinds, rules=rules, work=Work(WORK), seed=1, locked=_rows(project, own, halves, kinds, rules))
        except NestError as problem:
            raise Refused(problem.message) from None
        if project.common:
            by_id = {p.id: p for p in apart(own, halves)}
            packed = replace(packed, sheets=tuple(pushed_together(s, by_id, rules=rules) for s in packed.sheets))
        found.append(laid_together(packed, halves))
    return joined(found)


def _rows(project: Project, own: list[NestPart], halves: object, kinds: list[SheetKind], rules: NestRules) -> list[SheetLayout]:
    """Return sheets on which one part lies in rows already, now and then, with columns, rows and gaps of a person's."""
    r = Random(f"rows {project.seed} {own[0].stock}")
    if halves or project.common or r.random() < 0.8:
        return []
    grid = Grid(columns=r.choice([0, 2, 3]), rows=r.choice([0, 1, 2]), gap_x=r.choice([None, 5.0]), gap_y=r.choice([None, 7.5]))
    part = r.choice(own)
    project.story.append(f"rows of {part.id}: {grid}")
    return in_rows(part, kinds, rules=rules, parts=own, grid=grid)


def _two_faced(assembly: Assembly, part: str) -> bool:
    p = assembly.part(part)
    return any(m.back and (m.feature or m.depth) for m in p.marks) and not p.reverse


def counted(assembly: Assembly, copies: int) -> dict[str, int]:
    """Return how many of each part are wanted, reckoned here once more: helpers once, spares once, everything else for each copy."""
    return {p.id: p.copies if p.helper else p.copies * copies + p.spares for p in assembly.parts}


def _job(project: Project, assembly: Assembly, nesting: Nesting, plan: CutPlan, *, pdf: bool) -> Job:
    parts = {p.id: p for p in assembly.parts}
    pieces: dict[int, list[Lying]] = {}
    for number, sheet in enumerate(nesting.sheets, start=1):
        lies = []
        for p in sheet.placements:
            at = lying(p.x, p.y, p.turn, mirrored=p.mirrored)
            lies.append(Lying(parts[p.part], at, p.mirrored))
            lies += [Lying(parts[f], after(_between(parts[f], parts[p.part]), at), p.mirrored, falls=True) for f in fallen_on(p.part, assembly.parts)]
        pieces[number] = lies
    runs = []
    images = {k: d.image for k, d in project.drawings.items()}
    of = max(s.number for s in plan.sheets)
    for s in plan.sheets:
        file = SheetFile(project="Second workshop", revision=1, of=of, plan=s, machine=project.machine, images=images)
        runs.append(
            RunFiles(
                number=s.number,
                sheet=nesting.sheets[s.number - 1].ring,
                width=s.width,
                height=s.height,
                stock=s.stock,
                lie=Lie(side=s.side.value, kind=s.lay.kind.value, turn=s.lay.turn.value if s.lay.turn else "", marks=s.lay.marks, turns=s.lay.turns),
                through=all(k.path.through for k in s.strokes),
                strokes=[_planned(k) for k in s.strokes],
                svg=sheet_svg(file),
                dxf=sheet_dxf(file),
                gcode=sheet_gcode(file),
                pdf=sheet_pdf(file) if pdf else b"",
            )
        )
    return Job(
        story="; ".join(project.story),
        assembly=assembly,
        stocks=project.stocks,
        machine=project.machine,
        place=project.machine.kerf_place,
        runs=runs,
        pieces=pieces,
        wanted=counted(assembly, project.wish.copies),
        unplaced={u.part: u.count for u in nesting.unplaced},
        locate=project.choices.locate,
        one_side=project.choices.second is SecondSide.NONE,
        rooms=_rooms_of(project),
    )


def _rooms_of(project: Project) -> list[InRoom]:
    """Return what stands in a room, with what is asked of it there: read from the design, not from what the product made of it."""
    if not project.design.items:
        return []
    at = {m.id: m for m in members_of(project.design, lambda body: build(body, project.stocks, drawings=project.drawings, bed=BED))}
    over = [
        InRoom(item=m.id, mouth=(0.0, 0.0, 1.0), play=m.item.loose.play, closed=False, within="")
        for m in at.values()
        if m.over is not None and m.item is not None and m.item.loose is not None
    ]
    return over + [
        InRoom(
            item=m.id,
            mouth=m.room.mouth,
            play=m.item.loose.play,
            closed=any(m.room.walls[k] for k in _towards(m.room.mouth)),
            within=m.item.loose.host if at[m.item.loose.host].room is not None else "",
        )
        for m in at.values()
        if m.room is not None and m.item is not None and m.item.loose is not None
    ]


def _towards(mouth: tuple[float, float, float]) -> list[int]:
    return [k + 3 * (mouth[k] > 0) for k in range(3) if abs(mouth[k]) > 0.5]


def _planned(k: Stroke) -> Planned:
    lines = k.path.lines
    return Planned(k.path.operation.value, len(lines), sum(c.length for c in lines), k.passes, k.speed, k.end - k.burn_from)


def _between(piece: Part, host: Part) -> tuple[float, float, float, float, float, float]:
    """Return the move from one part's plane to another's in the same place."""
    o, x, y = (host.pose.to_plane(piece.pose.to_world(p)) for p in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0)))
    return x[0] - o[0], y[0] - o[0], x[1] - o[1], y[1] - o[1], o[0], o[1]
