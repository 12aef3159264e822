"""Faults in what is measured and checked."""

from __future__ import annotations

from planted.fault import Fault

ITEMS = "tests/core/test_items.py"
FAULTS: tuple[Fault, ...] = (
    Fault(
        "spacing t for t/2",
        "measure/materials.py",
        "return max(material.spacing_least, 0.5 * thickness)",
        "return max(family.spacing_least, thickness)",
        "tests/core/test_evidence.py tests/core/test_nest.py tests/core/test_measure.py",
    ),
    Fault("what the beam would take is only looked at", "check/strength.py", "burns = width < kerf", "burns = False", "tests/core/test_check.py"),
    Fault(
        "a second leg begins too early",
        "check/legs.py",
        "                    if low <= s < high:",
        "                    if low < s < high:",
        "tests/core/test_legs.py",
    ),
    Fault("fits that grip do not hold", "check/freedom.py", "GRIPS = (Feel.SNUG, Feel.MALLET)", "GRIPS = ()", "tests/core/test_check.py"),
    Fault("what touches nothing is held", "check/freedom.py", "        if far > PLAY:", "        if far > NEVER:", "tests/core/test_legs.py"),
    Fault("pieces of a rib go in one by one", "check/dry_fit.py", "if ABOUT[m.style].spliced]", "if False]", "tests/core/test_legs.py"),
    Fault(
        "a borrowed kerf counts as measured",
        "measure/kerf.py",
        "trust=Trust.MEASURED if own else Trust.DEFAULT,",
        "trust=Trust.MEASURED,",
        "tests/apps/test_trust.py",
    ),
    Fault(
        "a wall's thickness does not widen an item",
        "check/play.py",
        'return {("thickness", part.stock): 1.0} |',
        'return {("thickness", part.stock): 0.0} |',
        "tests/core/test_items.py",
    ),
    Fault(
        "what is shut in is not told",
        "check/whole.py",
        "if hit is not None and m.room is not None:",
        "if hit is None and m.room is not None:",
        "tests/core/test_items.py",
    ),
    Fault(
        "a lid that comes off shuts in what lies below it",
        "check/coming_off.py",
        "        return group <= loose or not any(",
        "        return not group or any(",
        ITEMS,
    ),
    Fault("a box is closed before anything is in it", "check/coming_off.py", "    return first or len(steps)", "    return len(steps)", ITEMS),
    Fault(
        "a cover goes on before what stands below it",
        "check/whole.py",
        "key=lambda g: g.member.over is not None)",
        "key=lambda g: g.member.over is None)",
        ITEMS,
    ),
    Fault(
        "rails take nothing from a room",
        "design/rooms.py",
        "        if there is None:\n            continue\n        cuts",
        "        if there is not None:\n            continue\n        cuts",
        ITEMS,
    ),
    Fault("many alike are told one by one", "check/told_together.py", "len(which) > FEW and", "len(which) > 99 and", "tests/core/test_check.py"),
    Fault(
        "what is offered for a stock looks like another that stays",
        "check/looks.py",
        "and all(difference(o.look, look) >= HARD_TO_TELL for look in others)]",
        "and all(difference(o.look, look) >= 0 for look in others)]",
        "tests/core/test_findings.py",
    ),
    Fault(
        "a thick sheet is offered for a thin one",
        "check/looks.py",
        "if abs(o.t - t) <= NEAR and",
        "if abs(o.t - t) <= 10 * NEAR and",
        "tests/core/test_findings.py",
    ),
    Fault("a free edge holds a lid", "check/coming_off.py", "if m.style is Style.REST or", "if m.style is None or", ITEMS),
    Fault(
        "a post that its corner holds is said to break",
        "check/propped.py",
        "            return False\n    return True",
        "            return False\n    return False",
        "tests/core/test_families.py",
    ),
)
