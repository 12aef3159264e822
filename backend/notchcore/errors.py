"""What can be wrong with a value, as facts.

NotchCoreError
├── LengthNotUnderstood   a typed length is not one
├── NumberNotUnderstood   a typed number is not one
├── ValueOutside          a number lies outside what makes sense
├── MeasureError          a test cannot be read as a measurement
├── DesignError           a design cannot be arranged at all
├── NestError             a packing cannot start
└── PlanError             a plan cannot be made

Each has a `code` that the interface translates and `facts` with the numbers. The sentence tells a maker what to do.
Mistakes that a design may contain while it is worked on are findings (see `findings`), not errors.
"""

from __future__ import annotations

import math

from notchcore.words.facts import TRIMMED, Fact, Sentence, mm
from notchcore.words.render import plain, say

WHOLE_MOST = 2**53  # whole numbers below are told apart as decimal ones too


class NotchCoreError(Exception):
    """Root of all errors of the core."""

    code = "core.error"

    def __init__(self, says: Sentence, **facts: object) -> None:
        self.says = says
        self.facts = facts
        super().__init__(says)

    def __str__(self) -> str:
        return self.says.text

    @property
    def message(self) -> str:
        """What it says, in mm."""
        return self.says.text


class LengthNotUnderstood(NotchCoreError):
    """A typed length is not one."""

    code = "units.length_not_understood"

    def __init__(self, *, text: str, why: Sentence) -> None:
        self.why = why
        super().__init__(say("no_length", text=text, why=why), text=text, why=plain(why))


class NumberNotUnderstood(NotchCoreError):
    """A typed number is not one."""

    code = "units.number_not_understood"

    def __init__(self, *, text: str, why: Sentence) -> None:
        super().__init__(say("no_number", text=text, why=why), text=text, why=plain(why))


class ValueOutside(NotchCoreError):
    """A number lies outside what makes sense."""

    code = "core.value_outside"

    def __init__(self, *, field: str, value: float, least: float, most: float, unit: str = "mm") -> None:
        def told(number: float) -> Fact:
            return mm(number, digits=TRIMMED) if unit == "mm" else f"{number:g}{f' {unit}' if unit else ''}"

        says = say("outside", name=field.replace("_", " "), value=told(value), least=told(least), most=told(most))
        super().__init__(says, field=field, value=value, least=least, most=most)


class MeasureError(NotchCoreError):
    """A test cannot be read as a measurement."""

    code = "measure.not_a_measurement"


class DesignError(NotchCoreError):
    """A design cannot be arranged at all."""

    code = "design.not_possible"


class NestError(NotchCoreError):
    """A packing cannot start."""

    code = "nest.not_possible"


class PlanError(NotchCoreError):
    """A cut plan cannot be made."""

    code = "plan.not_possible"


def require(field: str, value: float, *, least: float, most: float, unit: str = "mm") -> float:
    """Return `value` if least <= value <= most (so neither nan nor infinite), else raise ValueOutside.

    Raises:
        ValueOutside: it is not
    """
    try:
        value = value if isinstance(value, int) and abs(value) < WHOLE_MOST else float(value)
    except OverflowError:  # a whole number beyond what any other number holds
        value = math.inf
    if not least <= value <= most:
        raise ValueOutside(field=field, value=value, least=least, most=most, unit=unit)
    return value
