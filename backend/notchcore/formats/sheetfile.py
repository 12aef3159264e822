"""What every file of a sheet says about itself."""

from __future__ import annotations

import colorsys
from collections.abc import Mapping
from dataclasses import dataclass, field
from itertools import groupby

from notchcore.formats.names import file_stem
from notchcore.measure.machine import Beam, Convention, KerfPlace, Machine, Operation
from notchcore.plan.cut_plan import SheetPlan, Stroke
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetFile:
    """A sheet's plan with the names that go into its files."""

    project: str
    revision: int
    of: int  #: sheets in the job
    plan: SheetPlan
    machine: Machine
    images: Mapping[str, str] = field(default_factory=dict)  #: by drawing, what photos are made from

    @property
    def title(self) -> str:
        return f"{self.project}, revision {self.revision}, {self.which}: {self.plan.name}"

    @property
    def which(self) -> str:
        """Which sheet and which of its runs, in words."""
        return f"sheet {self.plan.number} of {self.of}" + (f", {self.plan.run}" if self.plan.run else "")

    @property
    def statement(self) -> Sentence:
        """Scale, unit and which kerf correction the file contains."""
        place = self.plan.kerf_place
        kerf = {"kerf": mm(self.plan.kerf, digits=3)} if place in (KerfPlace.PATHS, KerfPlace.JOINTS) else {}
        lay = self.plan.lay.words or say("lay.front")
        return say("statement", kerf=say(f"statement.{place}", **kerf), lay=lay, machine=self.machine.name)

    @property
    def stem(self) -> str:
        """A file name without ending: letters, digits and dashes only."""
        return f"{self.job_stem}-sheet{self.plan.number}-{self.plan.run}".replace(" ", "-").rstrip("-")

    @property
    def job_stem(self) -> str:
        """The same for a file of the whole job."""
        return f"{file_stem(self.project)}-r{self.revision}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Layer:
    """Strokes that the machine treats alike: one operation, and one beam where they have their own."""

    operation: Operation
    convention: Convention
    beam: Beam | None
    strokes: tuple[Stroke, ...]


def _own_colour(base: str, index: int) -> str:
    """Return a colour that no other layer has: the operation's, its hue turned by the golden angle for every further beam."""
    r, g, b = (int(base[i : i + 2], 16) / 255 for i in (1, 3, 5))
    h, light, s = colorsys.rgb_to_hls(r, g, b)
    turned = colorsys.hls_to_rgb((h + index * 0.381966) % 1, min(0.25 + 0.045 * (index % 9), 0.6) if index else light, max(s, 0.6))
    return "#" + "".join(f"{round(v * 255):02x}" for v in turned)


def _layers(file: SheetFile) -> dict[tuple[Operation, Beam | None], Convention]:
    """Return how each operation looks in the file, those with a beam of their own with a layer and a colour each."""
    found: dict[tuple[Operation, Beam | None], Convention] = {}
    for operation in Operation:
        base = file.machine.convention(operation)
        own = dict.fromkeys(s.path.beam for s in file.plan.strokes if s.path.operation is operation and s.path.beam is not None)
        found[operation, None] = base
        for i, beam in enumerate(own, start=1):
            name = f"{base.layer} P{beam.power:g} S{beam.speed:g} x{beam.passes}"
            found[operation, beam] = Convention(colour=_own_colour(base.colour, i), line_width=base.line_width, layer=name)
    return found


def layers_of(file: SheetFile) -> tuple[Layer, ...]:
    """Return the strokes of a sheet in the plan's order, those that follow each other on one layer together: a layer may come several times.

    A file that gathered all inner cuts before all outer ones would cut what lies in a drop-out after that has fallen.
    """
    known = _layers(file)
    return tuple(
        Layer(operation=operation, convention=known[operation, beam], beam=beam, strokes=tuple(strokes))
        for (operation, beam), strokes in groupby(file.plan.strokes, key=lambda s: (s.path.operation, s.path.beam))
    )
