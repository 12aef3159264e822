"""Planted faults: each is put into a copy of the core, one at a time, and something must turn red.

The tests named beside a fault are run first; what they do not see, the second workshop must.
"""
# ruff: noqa: T201  (a table on the screen is what it is for; the lines of code that are changed stand as they are)

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from argparse import ArgumentParser
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

BACKEND = Path(__file__).resolve().parent.parent.parent / "backend"
SEEDS = 45
LONGEST_S = 600
SECOND = "tests/core/test_workshop.py"
GONE = "the line is not there any more: mend the list"


@dataclass(frozen=True)
class Fault:
    """One wrong line."""

    name: str
    file: str
    old: str
    new: str
    tests: str = ""  #: run first; the second workshop where they see nothing


FAULTS: tuple[Fault, ...] = (
    Fault(
        "kerf is added inside out",
        "plan/paths.py",
        "else grown_ring(profile.outer, profile.circles, kerf / 2))",
        "else grown_ring(profile.outer, profile.circles, -kerf / 2))",
    ),
    Fault(
        "half the kerf too much",
        "plan/paths.py",
        "else grown_ring(profile.outer, profile.circles, kerf / 2))",
        "else grown_ring(profile.outer, profile.circles, kerf))",
    ),
    Fault(
        "holes grow by the kerf",
        "plan/paths.py",
        "if joined else grown_ring(hole, profile.circles, -kerf / 2)",
        "if joined else grown_ring(hole, profile.circles, kerf / 2)",
    ),
    Fault(
        "a part is laid in the opening of a piece that is a part",
        "design/fallen.py",
        "taken = {opening_of(part, p) for p in parts if p.falls_from == part.id}",
        "taken = {None}",
        "tests/core/test_features.py",
    ),
    Fault("what falls out is laid again", "nest/wanted.py", "fallen = made(host) if host is not None else 0", "fallen = 0"),
    Fault(
        "what lies on a fallen piece is not burned", "plan/paths.py", "            lay(p, number[p.id], followed(inner, to), falls=True)", "            pass"
    ),
    Fault(
        "marks lie mirrored",
        "plan/paths.py",
        "here = transformed(contour, to, mirrored=to.mirrored)",
        "here = transformed(contour, (lambda p: to((-p[0], p[1]))) if mark else to, mirrored=to.mirrored)",
    ),
    Fault("arcs keep their sense under mirroring", "geom/contours.py", "ccw=s.ccw != mirrored)", "ccw=s.ccw)"),
    Fault("marks on backs are burned on fronts", "plan/paths.py", "down = mark is not None and not paths.reverse and mark.back != to.mirrored", "down = False"),
    Fault(
        "a part burned from its back lies on its back",
        "nest/wanted.py",
        "    if part.reverse:\n        return BACK",
        "    if part.reverse:\n        return FRONT",
    ),
    Fault(
        "the second side turns the other way",
        "plan/sides.py",
        "Rigid(mirrored=True, x=width) if turn is Turn.SIDEWAYS",
        "Rigid(mirrored=True, x=width) if turn is not Turn.SIDEWAYS",
    ),
    Fault("a swap leaves out the move", "plan/sides.py", "second = tuple(moved_path(p, moves[p.part, p.copy]) for p in down)", "second = tuple(down)"),
    Fault(
        "registration marks come after cuts",
        "plan/order.py",
        "    if path.part == REGISTRATION:\n        return _MARK",
        "    if path.part == REGISTRATION:\n        return _LATE",
        "tests/core/test_sides.py",
    ),
    Fault("inner cuts may come after outer ones", "plan/order.py", "parent[i] = cuts[k] if k >= 0 else -1", "parent[i] = -1"),
    Fault("scores come after cuts", "plan/order.py", "_ENGRAVE, _SCORE, _MARK, _CUT, _LATE = range(5)", "_ENGRAVE, _CUT, _MARK, _SCORE, _LATE = range(5)"),
    Fault(
        "cutting passes are not timed",
        "plan/cutplan.py",
        "+ machine.pierce for c in lines) * passes + across)",
        "+ machine.pierce for c in lines) + across)",
        "tests/core/test_time.py",
    ),
    Fault("cutting passes are not in G-code", "formats/gcode.py", "for _ in range(stroke.passes):", "for _ in range(1):"),
    Fault(
        "spacing t for t/2",
        "measure/families.py",
        "return max(family.spacing_least, 0.5 * thickness)",
        "return max(family.spacing_least, thickness)",
        "tests/core/test_evidence.py tests/core/test_nest.py tests/core/test_measure.py",
    ),
    Fault(
        "the bed's height is ignored",
        "nest/pack.py",
        "box(0, 0, rules.bed_width, rules.bed_height)",
        "box(0, 0, rules.bed_width, 1e6)",
        "tests/core/test_nest.py tests/core/test_manual.py",
    ),
    Fault(
        "the margin is ignored", "nest/pack.py", "spacing=rules.spacing, margin=rules.margin,", "spacing=rules.spacing, margin=0.0,", "tests/core/test_nest.py"
    ),
    Fault("one copy too few in a batch", "nest/wanted.py", "part.copies * copies + part.spares", "part.copies * max(copies - 1, 1) + part.spares"),
    Fault("spares for each copy", "nest/wanted.py", "part.copies * copies + part.spares", "(part.copies + part.spares) * copies"),
    Fault("helpers for each copy", "nest/wanted.py", "return part.copies if part.helper else", "return", "tests/apps/test_build.py"),
    Fault(
        "slots as long as tabs, without clearance",
        "design/joints/cutting.py",
        "cut.fitted.add(ring(side, start - slack_start, end + slack_end,",
        "cut.fitted.add(ring(side, start, end,",
        "tests/core/test_joints.py",
    ),
    Fault(
        "slots as wide as the sheet, without clearance",
        "design/joints/cutting.py",
        "low - grow - reach_low, high + grow + reach_high))\n        cut.nominal",
        "low - reach_low, high + reach_high))\n        cut.nominal",
    ),
    Fault("a duplicate loses what lies on it", "design/carrying.py", "for put in self.puts.get(item.of, ()):", "for put in ():"),
    Fault(
        "text is mirrored with its panel",
        "design/features/placed.py",
        "same = isinstance(put.feature, Text | Scale | GreyImage)",
        "same = isinstance(put.feature, Scale | GreyImage)",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a mirrored copy has its holes where they were",
        "design/features/placed.py",
        "put = replace(put, at=(-put.at[0], put.at[1])",
        "put = replace(put, at=put.at",
        "tests/core/test_edits.py",
    ),
    Fault(
        "scaling changes every variant",
        "design/scaling.py",
        "return replace(larger, variants={**design.variants, **own})",
        "return replace(larger, variants={k: replace(v, numbers=scaled_numbers(v.numbers, factor)) for k, v in design.variants.items()} | own)",
    ),
    Fault(
        "joints scale",
        "design/numbers.py",
        "if about.kind is NumberKind.LENGTH and about.scales",
        "if about.kind is NumberKind.LENGTH",
        "tests/core/test_kinds.py tests/core/test_edits.py tests/core/test_families.py",
    ),
    Fault("burned beyond the part", "design/within.py", "    if not part.marks:\n        return part, ()", "    if True:\n        return part, ()"),
    Fault(
        "files gather operations",
        "formats/sheetfile.py",
        "groupby(file.plan.strokes, key=lambda s: (s.path.operation, s.path.beam))",
        "groupby(sorted(file.plan.strokes, key=lambda s: list(Operation).index(s.path.operation)), key=lambda s: (s.path.operation, s.path.beam))",
    ),
    Fault("a whole circle is one arc", "geom/contours.py", "if s.centre is None or abs(s.sweep) <= QUARTER:", "if s.centre is None or True:"),
    Fault("DXF bulges the other way", "formats/dxf.py", "math.tan(s.sweep / 4)) for s", "-math.tan(s.sweep / 4)) for s"),
    Fault("SVG turns arcs the other way", "formats/svg.py", "int(abs(s.sweep) > math.pi), int(not s.ccw)", "int(abs(s.sweep) > math.pi), int(s.ccw)"),
    Fault(
        "PDF is not 1:1",
        "formats/sheetpdf.py",
        "path.moveTo(contour.segments[0].start[0] * mm,",
        "path.moveTo(contour.segments[0].start[0] * mm * 1.001,",
        "tests/core/test_pdf.py",
    ),
    Fault("G-code's arcs turn the other way", "formats/gcode.py", "'G3' if s.ccw else 'G2'", "'G2' if s.ccw else 'G3'"),
    Fault("a lead-in begins in the part", "plan/leads.py", "side = 1.0 if ccw == outside else -1.0", "side = -1.0 if ccw == outside else 1.0"),
    Fault(
        "bridges are cut through",
        "plan/bridges.py",
        "    if not (bridges or left_out) or not contour.closed:",
        "    if not left_out or not contour.closed:",
        "tests/core/test_bridges.py",
    ),
    Fault(
        "shared cuts leave too much out",
        "plan/sharing.py",
        "max(low, 0.0) + OVER, min(high, own.length) - OVER",
        "max(low, 0.0) - 4, min(high, own.length) + 4",
    ),
    Fault(
        "kerf in joints only is kerf everywhere",
        "plan/paths.py",
        "tuple(outer_contours(part, kerf, joined) if joined else",
        "tuple(grown_ring(profile.outer, profile.circles, kerf / 2) if joined else",
        "tests/core/test_jointkerf.py",
    ),
    Fault(
        "kerf in joints is forgotten in tabs",
        "plan/jointkerf.py",
        "reach = wide + lean + (BESIDE if f.kind.is_gap else kerf / 2)",
        "reach = wide + lean + BESIDE",
    ),
    Fault(
        "kerf in joints is forgotten round what lies in an opening",
        "plan/jointkerf.py",
        "if is_joints(hole, part, joined.filled.get(part.id, ())):",
        "if is_joints(hole, part):",
        "tests/core/test_jointkerf.py",
    ),
    Fault(
        "kerf in joints makes spares of fallen pieces another size",
        "plan/jointkerf.py",
        """if m.kind != "inset" or a is None or b is None:""",
        """if m.kind != "inset" or a is None or b is None or m.b == a.falls_from or m.a == b.falls_from:""",
        "tests/core/test_jointkerf.py",
    ),
    Fault(
        "films beside edges stay",
        "geom/planar.py",
        "return sorted((without_films(p) for p in pieces(left)), key",
        "return sorted(pieces(left), key",
        "tests/core/test_geometry.py",
    ),
    Fault(
        "a piece that touches its opening has no play",
        "design/meetings/find.py",
        "play = play if PLAY_LEAST < play <= PLAY_MOST else 0.0",
        "play = 0.0",
        "tests/core/test_jointkerf.py",
    ),
    Fault("a design may hold no number", "design/edits.py", "            require(name, value, -REACH, REACH)", "            pass", "tests/core/test_edits.py"),
    Fault(
        "a locating line is a reason to cut again",
        "run/recut.py",
        "return piece if locate else",
        "return piece if True else",
        "tests/core/test_steps.py",
    ),
    Fault(
        "a piece cut with another kerf still serves",
        "run/recut.py",
        "left = SAME - abs(a.kerf - b.kerf) / 2",
        "left = SAME",
        "tests/core/test_steps.py",
    ),
    Fault("ribs all break in one line", "design/families/crate.py", "itertools.cycle(ways)", "itertools.cycle(ways[:1])", "tests/core/test_edits.py"),
    Fault(
        "both sides of a break carry signs of their own",
        "design/families/crate.py",
        "signed(right, sign, left=True",
        "signed(right, sign_of(next(breaks)), left=True",
        "tests/core/test_edits.py",
    ),
    Fault("feet are inches", "units.py", '"\'": 12 * MM_PER_INCH,', '"\'": MM_PER_INCH,', "tests/core/test_units.py"),
    Fault(
        "a hyphen behind feet is a minus",
        "typed.py",
        'if self.peek()[1] in ("-", "−") and self.is_tight(before=self.at):\n            self.take()',
        "if False:\n            self.take()",
        "tests/core/test_units.py",
    ),
    Fault(
        "a half-cut sheet starts again",
        "../apps/runs/tasks.py",
        "    if run.started is not None:  # the sheet",
        "    if False:  # the sheet",
        "tests/apps/test_at_the_machine.py",
    ),
    Fault("files go out untried", "../apps/plans/gate.py", "        return (*found, UNTRIED)", "        return found", "tests/apps/test_at_the_machine.py"),
    Fault("a neck between two bites is not thin", "geom/webs.py", "    if len(flanks) < 2 and not large:", "    if not large:", "tests/core/test_webs.py"),
    Fault("what the beam would take is only looked at", "check/strength.py", "burns = width < kerf", "burns = False", "tests/core/test_check.py"),
    Fault("a way ends behind what is hit", "geom/prismkernels.py", "best = s0", "best = s1", "tests/core/test_legs.py"),
    Fault(
        "a second leg begins too early",
        "check/legs.py",
        "                    if low <= s < high:",
        "                    if low < s < high:",
        "tests/core/test_legs.py",
    ),
    Fault("fits that grip do not hold", "check/freedom.py", "GRIPS = (Feel.SNUG, Feel.MALLET)", "GRIPS = ()", "tests/core/test_check.py"),
    Fault("what touches nothing is held", "check/freedom.py", "        if far > PLAY:", "        if far > NEVER:", "tests/core/test_legs.py"),
    Fault(
        "a socket is cut for its host's sheet",
        "design/features/sockets.py",
        "stocks[mate.stock if mate is not None else host.stock]",
        "stocks[host.stock]",
        "tests/core/test_features.py",
    ),
    Fault("rows lie without their gap", "nest/rows.py", "x1 - x0 + grid.gap_x", "x1 - x0 + rules.spacing", "tests/core/test_batch.py"),
    Fault("plates count from what is hidden", "design/carrying.py", "self.seen(item.host)[:2] if", "(0.0, 0.0) if", "tests/core/test_edits.py"),
    Fault("needed sheets are forgotten", "nest/supply.py", 'sum(s.sheet == "" for s in packed.sheets)', "0", "tests/core/test_supply.py"),
    Fault(
        "a line is scored where it shows", "design/joints/flat.py", "any(bench.stocks[p.stock].clear for p in", "any(False for p in", "tests/core/test_legs.py"
    ),
    Fault("pieces of a rib go in one by one", "check/dryfit.py", "if ABOUT[m.style].spliced]", "if False]", "tests/core/test_legs.py"),
    Fault(
        "undo keeps the newest layout",
        "../apps/designs/queries.py",
        "return rows.filter(made_from=wanted).first() or newest",
        "return newest",
        "tests/apps/test_stored.py",
    ),
    Fault(
        "files say when they were made",
        "formats/dxf.py",
        "write_fixed_meta_data_for_testing = True",
        "write_fixed_meta_data_for_testing = False",
        "tests/apps/test_stored.py",
    ),
    Fault(
        "tables in inches are taken for millimetres",
        "../apps/sheets/columns.py",
        "value = _number(text) * per",
        "value = _number(text)",
        "tests/apps/test_tools.py",
    ),
    Fault("speeds in inches are too fast", "units.py", "/ MM_PER_INCH:.4g} in/s", ":.4g} in/s", "tests/core/test_units.py"),
    Fault(
        "an inch shop's gauge is labelled in millimetres",
        "design/cards/pieces.py",
        "format_length(length, unit=self.unit, digits={",
        'format_length(length, unit="mm", digits={',
        "tests/core/test_cards.py",
    ),
    Fault(
        "a borrowed kerf counts as measured",
        "measure/kerf.py",
        "trust=Trust.MEASURED if own else Trust.DEFAULT)",
        "trust=Trust.MEASURED)",
        "tests/apps/test_trust.py",
    ),
    Fault(
        "a copy ends where its original's mates are",
        "design/copies.py",
        "if b.mate in panels and not _stays(panels[b.mate].pose.normal, item)]",
        "if False]",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a path may cross itself at nearly equal circles",
        "geom/contours.py",
        "return [arcs if _is_clean(arcs) and _is_as_large(arcs, area.area, by) else contour_of(rings[0])]",
        "return [arcs]",
        "tests/core/test_geometry.py",
    ),
    Fault("offsets are taken as they come", "geom/offset.py", "if abs(sharp.area - area) <= differs:", "if True:", "tests/core/test_geometry.py"),
    Fault(
        "a sharp corner nicks its neighbour",
        "plan/tips.py",
        "    changed = list(paths)",
        "    return list(paths)\n    changed = []",
        "tests/core/test_sharing.py",
    ),
    Fault(
        "beside a short edge a sharp corner nicks its neighbour",
        "plan/tips.py",
        "fits = math.dist(a, before.end) < before.length and math.dist(b, after.start) < after.length",
        "fits = math.dist(a, before.end) < before.length / 2 and math.dist(b, after.start) < after.length / 2",
        "tests/core/test_sharing.py",
    ),
    Fault(
        "a copy grows where a mate was taken away",
        "design/carrying.py",
        "copied(item, self.plain[item.of], self.everything)",
        "copied(item, self.plain[item.of], self.panels)",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a copy of a piece loses its words",
        "design/carrying.py",
        "        if ready:\n            continue",
        "        if False:\n            continue",
        "tests/core/test_edits.py",
    ),
    Fault("feet grow with the design", "design/outlines.py", "if depth < HIDDEN or reach < ENDS:", "if True:", "tests/core/test_edits.py"),
    Fault("every operation counts as tried", "../apps/sheets/evidence.py", "if before.tested(k)}", "if before}", "tests/apps/test_sheets.py"),
    Fault(
        "a way of joining that a meeting offers is not cut",
        "design/joints/cutting.py",
        "        if wanted in allowed:\n",
        "        if wanted in allowed[:-1]:\n",
        "tests/core/test_styles.py",
    ),
    Fault(
        "pieces of a rib are no panels of their own",
        "design/families/crate.py",
        'marked(replace(panel, piece_of=""),',
        "marked(panel,",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a slit is cut from end to end, so that it comes out a beam too long",
        "plan/paths.py",
        "off = min(kerf / 2 / ",
        "off = min(0 * kerf / ",
        "tests/core/test_plan.py",
    ),
    Fault(
        "walls round a floor clear only the neighbour's thickness, not the cut square to themselves",
        "design/families/many_sided.py",
        "taken = 0.0 if self.flat else self.t / math.sin(math.radians(self.between()))",
        "taken = 0.0 if self.flat else self.t",
        "tests/core/test_families.py",
    ),
    Fault(
        "fingers that shall end within stand out",
        "design/panel.py",
        "gain = min(ends) if bound.reach is Reach.WITHIN else max(ends)",
        "gain = max(ends)",
        "tests/core/test_families.py",
    ),
    Fault(
        "a floor lies in the gaps outside flat corners",
        "design/families/many_sided.py",
        "    if not s.flat:\n        return s.polygon(out)",
        "    if s.flat or not s.flat:\n        return s.polygon(out)",
        "tests/core/test_families.py",
    ),
    Fault(
        "walls that lean in stand on their inner edge below the foot",
        "design/families/many_sided.py",
        "return max(self.along(0.0, inner=i) for i in faces)",
        "return min(self.along(0.0, inner=i) for i in faces)",
        "tests/core/test_families.py",
    ),
    Fault(
        "a panel that is swung ends where it ended before",
        "design/turning.py",
        "    return _drawn_out(replace(panel, pose=pose, inside=panel.inside or middle[:2]), mates)",
        "    return replace(panel, pose=pose, inside=panel.inside or middle[:2])",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a panel is tilted about its corner",
        "design/turning.py",
        "origin = add(old.origin, world(sub(middle, tilt.of(middle))))",
        "origin = old.origin",
        "tests/core/test_edits.py",
    ),
    Fault(
        "a foot fills the figure's own gaps",
        "design/families/stand.py",
        "open_below = [b[3] for b in gaps if b[1] < COINCIDENT]",
        "open_below = [b[3] for b in gaps]",
        "tests/core/test_families.py",
    ),
)


class _Copies:
    """Copies of the backend that faults are planted in, one for each worker; they stay where they are, so that loops are compiled once."""

    def __init__(self, count: int) -> None:
        self.free: Queue[Path] = Queue()
        for k in range(count):
            folder = BACKEND.parent / "var" / "faults" / str(k) / "backend"
            shutil.rmtree(folder, ignore_errors=True)
            shutil.copytree(BACKEND, folder, ignore=shutil.ignore_patterns("__pycache__", ".hypothesis", ".mypy_cache"))
            self.free.put(folder)

    def caught(self, fault: Fault) -> str:
        """Plant a fault, return what saw it (empty when nothing did), and take it out again."""
        folder = self.free.get()
        path = (folder / "notchcore" / fault.file).resolve()
        text = path.read_text()
        try:
            if text.count(fault.old) != 1:
                return GONE
            path.write_text(text.replace(fault.old, fault.new))
            return _seen_in(folder, fault)
        finally:
            path.write_text(text)
            self.free.put(folder)


def _seen_in(folder: Path, fault: Fault) -> str:
    env = os.environ | {
        "PYTHONPATH": str(folder), "TWIN_PROJECTS": str(SEEDS), "HYPOTHESIS_PROFILE": "quick", "PYTHONDONTWRITEBYTECODE": "1",
        "NUMBA_CACHE_DIR": str(folder.parent / "kernels"),
    }  # fmt: skip
    for tests, seen in (*((t, t) for t in fault.tests.split()), (SECOND, "second workshop")):
        if not (folder / tests).exists():
            continue
        command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", tests]
        try:
            ended = subprocess.run(command, cwd=folder, env=env, capture_output=True, timeout=LONGEST_S, check=False)
        except subprocess.TimeoutExpired:
            continue
        if ended.returncode == 1:
            return seen
    return ""


def main(words: list[str]) -> None:
    asked = ArgumentParser(prog="./board bench faults")
    asked.add_argument("--only", default="", help="those whose name holds one of these, apart by commas")
    given = asked.parse_args(words)
    some = [f for f in FAULTS if any(word in f.name for word in given.only.split(","))]
    copies, caught = _Copies(2), 0
    with ThreadPoolExecutor(2) as pool:
        for fault, seen in zip(some, pool.map(copies.caught, some), strict=True):
            caught += bool(seen) and seen != GONE
            print(f"{'caught' if seen and seen != GONE else 'MISSED'}  {fault.name}: {seen or 'nothing turned red'}", flush=True)
    print(f"{caught} of {len(some)} planted faults caught")
