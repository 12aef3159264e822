"""Faults in panels that a person adds."""

from __future__ import annotations

from planted.fault import Fault

FAULTS: tuple[Fault, ...] = (
    Fault(
        "a slope is taken from face to far face",
        "design/between.py",
        "item.over / (face_b - face_a)",
        "item.over / (b1 - a1)",
        "tests/core/test_added.py",
    ),
    Fault("a brace is as far out on both panels", "design/braces.py", "scale(on_b, item.on_b)", "scale(on_b, item.on_a)", "tests/core/test_added.py"),
    Fault(
        "walls that lean stand beyond their edge",
        "design/walls.py",
        "foot = near if item.lean > 0 else far",
        "foot = far",
        "tests/core/test_added.py",
    ),
    Fault("walls round a panel do not end in each other", "design/walls.py", "*(Bound(mate=m) for m in beside if m))", ")", "tests/core/test_added.py"),
    Fault(
        "a wall reaches past its edge for a neighbour that does not stand",
        "design/edits.py",
        "wall(item.beside_only(others), panels, stocks=stocks)",
        "wall(item, panels, stocks=stocks)",
        "tests/core/test_added.py",
    ),
    Fault(
        "chords of a curve are edges",
        "design/edges.py",
        "/ 8 > BOWED",
        "/ 8 > 0.0",
        "tests/core/test_added.py",
    ),
    Fault(
        "a leaning upright's tabs stand out at the other side",
        "design/uprights.py",
        "Bound(mate=host.id, reach=Reach.WITHIN)",
        "Bound(mate=host.id)",
        "tests/core/test_added.py",
    ),
    Fault(
        "an upright stands with its face in its line",
        "design/uprights.py",
        "datum=0.5",
        "datum=0.0",
        "tests/core/test_added.py",
    ),
    Fault(
        "a slat is kept back at its other end",
        "design/slats.py",
        "max(a for a, _ in spans) + item.inset_low, min(b for _, b in spans) - item.inset_high",
        "max(a for a, _ in spans) + item.inset_high, min(b for _, b in spans) - item.inset_low",
        "tests/core/test_added.py",
    ),
    Fault(
        "slats of a lattice end in each other",
        "design/adding.py",
        "            if clear > best + COINCIDENT:",
        "            if best < 0:",
        "tests/core/test_added.py",
    ),
    Fault(
        "a plate stands off by its own thickness",
        "design/plates.py",
        "off += max(p.t for p in layer)",
        "off += stock.t",
        "tests/core/test_added.py",
    ),
    Fault(
        "spacers stay where their plate was",
        "design/edits.py",
        "along = own.move if panel.id != item.id else (0.0, 0.0, 0.0)",
        "along = (0.0, 0.0, 0.0)",
        "tests/core/test_added.py",
    ),
    Fault(
        "a copy of a plate stands off on nothing",
        "design/carrying.py",
        "for one in (item, *self._spacers_of(item)))",
        "for one in (item,))",
        "tests/core/test_added.py",
    ),
    Fault("a lid has half its play", "design/items.py", "+ 2 * loose.play - inside[k]", "+ loose.play - inside[k]", "tests/core/test_lids.py"),
    Fault("a lid goes over jigs", "design/items.py", "host.assembly.parts if not p.helper)", "host.assembly.parts)", "tests/core/test_lids.py"),
    Fault("a lid is not turned over", "design/placing.py", "(v[0], -v[1], -v[2]) if self.flipped else v", "v", "tests/core/test_lids.py"),
    Fault(
        "one of many posts is mended",
        "check/strength.py",
        "targets = levers[0], tuple(x.meeting.id for x in levers)",
        "targets = levers[0], (levers[0].meeting.id,)",
        "tests/core/test_findings.py",
    ),
    Fault("a standing shape hangs in the middle", "design/outlines.py", "if o.standing else o)", "if False else o)", "tests/core/test_outlines.py"),
    Fault(
        "a plain shape loses its foot",
        "design/outlines.py",
        "findings=findings, going_on=True)",
        "findings=findings, going_on=False)",
        "tests/core/test_outlines.py",
    ),
    Fault(
        "a plain shape is not turned",
        "design/outlines.py",
        "return lambda p: (mx + p[0] * c - p[1] * s, my + p[0] * s + p[1] * c)",
        "return lambda p: (mx + p[0], my + p[1])",
        "tests/core/test_outlines.py",
    ),
    Fault(
        "a plain shape stays as it is when all is larger",
        "design/edits.py",
        "replace(s, numbers=scaled_numbers(s.numbers, k), x=s.x * k",
        "replace(s, x=s.x * k",
        "tests/core/test_outlines.py",
    ),
)
