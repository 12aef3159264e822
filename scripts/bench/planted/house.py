"""Faults in what all stages share, and in the server."""

from __future__ import annotations

from planted.fault import Fault

FAULTS: tuple[Fault, ...] = (
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
    Fault(
        "undo keeps the newest layout",
        "../apps/designs/queries.py",
        "return rows.filter(made_from=wanted).first() or newest",
        "return newest",
        "tests/apps/test_stored.py",
    ),
    Fault(
        "tables in inches are taken for millimetres",
        "../apps/sheets/columns.py",
        "value = _number(text) * per",
        "value = _number(text)",
        "tests/apps/test_tools.py",
    ),
    Fault("speeds in inches are too fast", "units.py", "/ MM_PER_INCH:.4g} in/s", ":.4g} in/s", "tests/core/test_words.py"),
    Fault("every operation counts as tried", "../apps/sheets/evidence.py", "if before.tested(k)}", "if before}", "tests/apps/test_sheets.py"),
    Fault(
        "a sheet spoiled in its second run leaves the pieces of its first",
        "../apps/runs/services.py",
        "        _spoil_earlier(run)\n",
        "",
        "tests/apps/test_at_the_machine.py",
    ),
)
