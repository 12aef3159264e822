"""Law 4: what was on a panel stays on it where a person expects it, and everything else is unchanged."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import replace
from itertools import pairwise

from pydantic import TypeAdapter
from shapely.affinity import translate
from shapely.geometry import LineString, MultiLineString

from notchcore.design.assembly import Assembly, Mark, Part
from notchcore.design.between import Axis
from notchcore.design.building import arranged
from notchcore.design.design import Design, as_chosen
from notchcore.design.edits import CopyOf
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.values import GreyImage, Scale, Text
from notchcore.design.items import build_whole
from notchcore.design.panel import resolved
from notchcore.design.scaling import scaled
from notchcore.design.variants import choosable, chosen_now, together, with_choice
from notchcore.errors import NotchCoreError
from notchcore.fingerprint import fingerprint
from notchcore.geom.profile import area_of, bounds_of, polygon_of
from notchcore.ids import MAIN
from notchcore.measure.stock import Stock
from tests.workshop.laws.job import Violation
from tests.workshop.projects import BED, Project

NEAR = 3e-3  # [mm]
FAR = 9000.0  # [mm] beyond all other copies
DESIGN: TypeAdapter[Design] = TypeAdapter(Design)


def judge_changes(project: Project) -> list[Violation]:
    """Return where a change of a project changes what it should not."""
    found: list[Violation] = []

    def says(what: str) -> None:
        found.append(Violation(4, what))

    def built(design: Design) -> Assembly:
        return build_whole(design, project.stocks, drawings=project.drawings, bed=BED)

    design = project.design
    before = built(design)
    if not before.parts:
        return found
    same = fingerprint(before.parts)
    if fingerprint(built(DESIGN.validate_json(DESIGN.dump_json(design))).parts) != same:
        says("a design that was written down and read again comes to other parts")
    other = next(k for k in ("trial", "spare") if k in project.stocks)
    if fingerprint(built(replace(replace(design, prototype=other), prototype=design.prototype)).parts) != same:
        says("parts are others after a prototype")
    _scaled_back(project, before, built, says)
    _chosen_again(design, before, built, says)
    _counted_once(design, before, built, says)
    by_panel = {f.panel for f in design.features if f in as_chosen(design).features}
    divided = {s.panel for s in design.splits}
    for panel in sorted(by_panel - divided)[:2]:
        original = next((p for p in before.parts if p.id == panel), None)
        if original is not None:
            _copied(project, before, original, built, says)
    return found


def _counted_once(design, before, built, says) -> None:  # type: ignore[no-untyped-def]
    """Every part of an item is there as often as the item is, and its spares are those of the item; a jig is made once."""
    once = built(replace(design, count=1, spares=0, items=tuple(replace(i, count=1, spares=0) for i in design.items)))
    own = {"": (design.count, design.spares), MAIN: (design.count, design.spares)} | {i.id: (i.count, i.spares) for i in design.items}
    chosen = as_chosen(design)
    counts = own | {i.id: own[chosen.root_of(i.id) or i.id] for i in design.items}  # what is joined comes with its host
    single = {p.id: p for p in once.parts}
    for p in before.parts:
        n, more = counts[p.item]
        one = single.get(p.id)
        if one is None:
            says(f"{p.id} is not there when one of everything is made")
        elif (p.copies, p.spares) != ((one.copies, one.spares) if p.helper else (one.copies * n, one.spares + one.copies * more)):
            says(f"{p.id} is made {p.copies} times with {p.spares} spare, as part of {n} and {more} spare")


def _same_sizes(before: Assembly, after: Assembly) -> str:
    """Return the first part that has another size or stock, or is not there."""
    others = {p.id: p for p in after.parts}
    for p in before.parts:
        q = others.get(p.id)
        if q is None or q.stock != p.stock or len(q.marks) != len(p.marks):
            return p.id
        if max(abs(a - b) for a, b in zip(bounds_of(p.profile.outer), bounds_of(q.profile.outer), strict=True)) > 1e-3:
            return p.id
    return next(iter(others.keys() - {p.id for p in before.parts}), "")


def _chosen_again(design, before, built, says) -> None:  # type: ignore[no-untyped-def]
    """Another alternative of each variation and back, one after the other in both orders, and the variant made as a project of its own."""
    now = chosen_now(design)
    there = {}
    for name, names in choosable(design).items():
        other = next((n for n in names if n != now[name]), now[name])
        try:
            back = with_choice(with_choice(design, {name: other}), {name: now[name]}) if now[name] else design
        except NotchCoreError:
            continue
        there[name] = other
        if wrong := _same_sizes(before, built(back)):
            says(f"{wrong} is another after {name} {other} and back")
    try:
        ways = [with_choice(design, {k: there[k]}) for k in list(there)[:1]] or [design]
        one, two = ways[0], design
        for k in list(there)[1:]:
            one = with_choice(one, {k: there[k]})
        for k in reversed(there):
            two = with_choice(two, {k: there[k]})
    except NotchCoreError:
        return
    if wrong := _same_sizes(built(one), built(two)):
        says(f"{wrong} is another when {list(there)} are chosen in the other order")
    if now and all(now.values()) and (wrong := _same_sizes(before, built(together(design, [(now, 1)])))):
        says(f"{wrong} is another when the variant is a project of its own")


def _scaled_back(project, before, built, says) -> None:  # type: ignore[no-untyped-def]
    design = project.design
    try:
        there = scaled(design, 1.25)
        back = scaled(there, 0.8)
    except NotchCoreError:
        return

    def others(d: Design) -> list[object]:
        return [a.sizes for v in d.variations for a in v.alternatives if a.name != v.chosen]

    if others(there) != others(design):
        says("scaling changed sizes that are not chosen")
    after = {p.id: p for p in built(back).parts}
    for p in before.parts:
        q = after.get(p.id)
        if q is None or max(abs(a - b) for a, b in zip(bounds_of(p.profile.outer), bounds_of(q.profile.outer), strict=True)) > 1e-3:
            says(f"{p.id} has another size after scaling up and down again")


def _on(part: Part) -> dict[str, list[Mark]]:
    found: defaultdict[str, list[Mark]] = defaultdict(list)
    for m in part.marks:
        if m.feature:
            found[m.feature].append(m)
    return found


def _same_marks(some: list[Mark], others: list[Mark], *, mirrored: bool) -> bool:
    """Tell whether marks are the same but for where they stand, mirrored or not: each line has a partner that lies no further off than NEAR."""
    flip = -1.0 if mirrored else 1.0
    mine, its = [[LineString(m.line) for m in some], [LineString([(flip * x, y) for x, y in m.line]) for m in others]]
    (x0, y0, *_), (x1, y1, *_) = MultiLineString(mine).bounds, MultiLineString(its).bounds
    left = [translate(line, x0 - x1, y0 - y1) for line in its]
    for line in mine:
        partner = next((k for k in left if line.hausdorff_distance(k) < NEAR), None)
        if partner is None:
            return False
        left.remove(partner)
    return not left


def same_size(design: Design, one: str, two: str, stocks: dict[str, Stock], drawings: Mapping[str, Drawing]) -> bool:
    """Tell whether two panels are equally large, before anything is cut out of them."""
    plan = arranged(replace(design, features=()), stocks, drawings=drawings, bed=BED)  # letters are not mirrored: over an edge they take away otherwise
    panels = {p.id: p for p in (*plan.ghosts, *plan.panels)}  # edges that end at a panel that was taken away still do
    if one not in panels or two not in panels:
        return True
    a, b = (polygon_of(resolved(panels[k], panels).envelope) for k in (one, two))
    sizes = [(s.area, s.bounds[2] - s.bounds[0], s.bounds[3] - s.bounds[1]) for s in (a, b)]
    return all(abs(p - q) < 1e-3 * max(p, 1.0) for p, q in zip(*sizes, strict=True))


def _copied(project, before, original, built, says) -> None:  # type: ignore[no-untyped-def]
    design = project.design
    kinds = {f.id: f for f in design.features}
    told = {str(f.facts.get("feature")) for f in before.findings}  # what lies over an edge may lie over it otherwise when it is mirrored
    for mirror in (None, Axis.X):
        item = CopyOf(id="twin", label="Twin", of=original.id, move=(0.0 if mirror else FAR, 0.0, 0.0), mirror=mirror, about=FAR)
        with_copy = replace(design, added=(*design.added, item))
        after = built(with_copy)
        if not same_size(with_copy, original.id, "twin", project.stocks, project.drawings):
            says(f"{original.id} {'mirrored' if mirror else 'duplicated'} has another size")
        word = "mirrored" if mirror else "duplicated"
        copy = next((p for p in after.parts if p.id == "twin"), None)
        if copy is None:
            says(f"{original.id} {word} is not there")
            continue
        mine, its = _on(copy), _on(original)
        for feature in set(its) - told:
            if feature not in mine:
                says(f"{feature} is lost when {original.id} is {word}")
                continue
            reads = isinstance(kinds[feature], Text | Scale | GreyImage)
            whole = all(m.photo is None and not m.clip for m in (*mine[feature], *its[feature]))
            if isinstance(kinds[feature], Text) and len(mine[feature]) == len(its[feature]) and whole:  # cut off at joints, they may differ
                flat = bool(mirror) and not reads
                if _as_much(mine[feature], its[feature]) and not _same_marks(mine[feature], its[feature], mirrored=flat):
                    says(f"{feature} reads otherwise when {original.id} is {word}")
        lost = {o.feature for o in original.openings} - {o.feature for o in copy.openings} - told
        if lost:
            says(f"the opening of {sorted(lost)[0]} is lost when {original.id} is {word}")
        lids = {i.id for i in project.design.items if i.loose is not None and i.loose.over}  # they go over the copy too, and grow
        rest = {p.id: fingerprint(p.profile, p.marks) for p in after.parts if p.id != "twin" and not p.id.startswith("twin-") and p.item not in lids}
        guests = {i.id for i in project.design.guests}  # they may follow to where their host ends now
        follows = {p.id: p.pose for p in after.parts if p.item in guests} != {p.id: p.pose for p in before.parts if p.item in guests}
        if not follows and rest != {p.id: fingerprint(p.profile, p.marks) for p in before.parts if p.item not in lids}:
            says(f"other parts change when {original.id} is {word}")


def _as_much(some: list[Mark], others: list[Mark]) -> bool:
    """Tell whether marks come to the same length and area: then nothing of either was cut off at a joint."""

    def sums(marks: list[Mark]) -> tuple[float, float]:
        lines = [[*m.line, m.line[0]] if m.closed else list(m.line) for m in marks]
        return sum(math.dist(a, b) for line in lines for a, b in pairwise(line)), sum(abs(area_of(m.line)) for m in marks if m.closed)

    return all(abs(a - b) < 1e-5 * max(a, 1.0) for a, b in zip(sums(some), sums(others), strict=True))
