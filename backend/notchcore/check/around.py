"""What a dry fit knows beside the parts: the design they come from, the machine, and the sheets that are there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from notchcore.design.design import Design
from notchcore.measure.contrast import Lab
from notchcore.units import Mm
from notchcore.words.facts import Ref

RULES = 4  # raised when the dry fit finds more than before: what earlier rules found is asked again before anything is cut


@dataclass(frozen=True, slots=True, kw_only=True)
class OnShelf:
    """A stock that lies on the shelf and is not in the design."""

    ref: Ref
    look: Lab  #: of its swatch
    t: Mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Around:
    """The surroundings of an assembly."""

    design: Design
    bed: tuple[Mm, Mm] = (600.0, 400.0)
    slat_pitch: Mm = 20.0  #: what is narrower may fall between the slats
    sheets: Mapping[str, tuple[tuple[Mm, Mm], ...]] = field(default_factory=dict)  #: by stock, the sizes on the shelf
    depths: Mapping[str, Mm] = field(default_factory=dict)  #: by stock, how deep its settings engrave, where measured
    swatches: Mapping[str, Lab] = field(default_factory=dict)  #: by stock, measured or from its colour
    others: tuple[OnShelf, ...] = ()  #: what else might be cut, told where stocks of the design look alike
