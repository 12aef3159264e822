"""What every file of a sheet says about itself."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.measure.machine import KerfPlace, Machine
from notchcore.plan.cutplan import SheetPlan


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetFile:
    """A sheet's plan with the names that go into its files."""

    project: str
    revision: int
    number: int  #: of the sheet in the job, from 1
    of: int
    plan: SheetPlan
    machine: Machine

    @property
    def title(self) -> str:
        return f"{self.project}, revision {self.revision}, sheet {self.number} of {self.of}: {self.plan.name}"

    @property
    def statement(self) -> str:
        """Scale, unit and which kerf correction the file contains, in words."""
        if self.machine.kerf_place is KerfPlace.PATHS:
            kerf = f"Kerf {self.plan.kerf:.3f} mm is corrected in these paths: do not correct it again."
        else:
            kerf = "Paths are NOT corrected for kerf: let the machine's software do it."
        return f"Scale 1:1 in millimetres. {kerf} Front side up. For {self.machine.name}."

    @property
    def stem(self) -> str:
        """A file name without ending: letters, digits and dashes only."""
        words = "".join(c if c.isalnum() and c.isascii() else "-" for c in self.project.lower())
        return ("-".join(w for w in words.split("-") if w)[:40] or "project") + f"-r{self.revision}-sheet{self.number}"
