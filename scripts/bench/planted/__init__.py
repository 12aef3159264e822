"""The faults to plant, one wrong line each, and the tests that should see them first; by the stage that they are in."""

from __future__ import annotations

from planted import added, check, design, house, sets, sheets
from planted.fault import Fault

FAULTS: tuple[Fault, ...] = (*design.FAULTS, *added.FAULTS, *check.FAULTS, *sheets.FAULTS, *house.FAULTS, *sets.FAULTS)

__all__ = ["FAULTS", "Fault"]
