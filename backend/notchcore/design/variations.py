"""What of a design comes in alternatives: its sizes, its lettering, its lid. One alternative of each is chosen, and that is what is built.

A *variant* is one alternative of each variation. What no variation is about, all variants have in common.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from notchcore.design.families.registry import Numbers
from notchcore.design.numbers import numbers_of
from notchcore.errors import DesignError, require
from notchcore.words.render import say

SCALE_LEAST, SCALE_MOST = 1e-4, 1e4  # of a design against how it was first typed
MOST_VARIATIONS, MOST_ALTERNATIVES, MOST_NAME = 8, 24, 40

Value = int | float | str


@dataclass(frozen=True, slots=True, kw_only=True)
class Alternative:
    """One of several: what it sets, and what is not there with it.

    What the chosen one sets is kept in the design itself and is written here when another is chosen.
    """

    name: str
    sizes: Numbers | None = None  #: all numbers that no other variation sets
    scale: float = 1.0  #: with those: of places, features and outlines, against how they were first put there
    numbers: dict[str, Value] = field(default_factory=dict)  #: single ones, by name
    stocks: dict[str, str] = field(default_factory=dict)  #: by role
    features: tuple[str, ...] = ()  #: that are not there
    panels: tuple[str, ...] = ()  #: that are not there
    items: tuple[str, ...] = ()  #: that are not there

    def __post_init__(self) -> None:
        named(self.name)
        require("scale", self.scale, least=SCALE_LEAST, most=SCALE_MOST, unit="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Variation:
    """Something that comes in alternatives."""

    name: str
    alternatives: tuple[Alternative, ...]
    chosen: str = ""  #: by name; empty: none was chosen yet

    def __post_init__(self) -> None:
        named(self.name)
        names = [a.name for a in self.alternatives]
        if not names or len(names) > MOST_ALTERNATIVES:
            raise DesignError(say("alternatives_most", variation=self.name, most=MOST_ALTERNATIVES), field="variations")
        if len(set(names)) != len(names):
            raise DesignError(say("two_alternatives_of_one_name", variation=self.name), field="variations")
        if self.chosen and self.chosen not in names:
            raise DesignError(say("no_such_alternative.of", variation=self.name, wanted=self.chosen, names=", ".join(names)), field="variations")
        if len({(a.sizes is None, frozenset(a.numbers), frozenset(a.stocks)) for a in self.alternatives}) > 1:
            raise DesignError(say("alternatives_differ", variation=self.name), field="variations")

    @property
    def sizes(self) -> bool:
        """Whether it sets all numbers that no other one sets."""
        return self.alternatives[0].sizes is not None

    @property
    def numbers(self) -> frozenset[str]:
        return frozenset(self.alternatives[0].numbers)

    @property
    def stocks(self) -> frozenset[str]:
        return frozenset(self.alternatives[0].stocks)

    @property
    def taken(self) -> Alternative | None:
        """The alternative that is chosen."""
        return next((a for a in self.alternatives if a.name == self.chosen), None)

    def alternative(self, name: str) -> Alternative:
        """Return an alternative by its name.

        Raises:
            DesignError: there is none of that name
        """
        found = next((a for a in self.alternatives if a.name == name), None)
        if found is None:
            names = ", ".join(a.name for a in self.alternatives)
            raise DesignError(say("no_such_alternative.of", variation=self.name, wanted=name, names=names), field="variations")
        return found


def named(name: str) -> None:
    """Refuse a name that cannot be read, or is too long to be shown.

    Raises:
        DesignError: it is such a name
    """
    if not name.strip() or len(name) > MOST_NAME:
        raise DesignError(say("variation_name", most=MOST_NAME), field="variations")


def value_like(value: Value, like: Any) -> Any:
    """Return a kept value as the kind of value that a number has: a choice, a count, a length or a text.

    Raises:
        DesignError: it cannot be one
    """
    try:
        return type(like)(value)
    except (ValueError, OverflowError):
        raise DesignError(say("alternative_value", value=str(value)[:MOST_NAME]), field="variations") from None


def check_variations(variations: Sequence[Variation], numbers: Any, *, roles: frozenset[str]) -> None:
    """Refuse variations of which two set one thing, or that set what the design does not have.

    Args:
        numbers: the design's numbers
        roles: names of its groups of panels

    Raises:
        DesignError: they are such variations
    """
    if len(variations) > MOST_VARIATIONS:
        raise DesignError(say("variations_most", most=MOST_VARIATIONS), field="variations")
    if len({v.name for v in variations}) != len(variations):
        raise DesignError(say("two_variations_of_one_name"), field="variations")
    set_twice = sum(v.sizes for v in variations) > 1
    seen: set[str] = set()
    there = frozenset(n.name for n in numbers_of(type(numbers)))
    for v in variations:
        if any(a.sizes is not None and type(a.sizes) is not type(numbers) for a in v.alternatives):
            raise DesignError(say("sizes_of_another_family", variation=v.name), field="variations")
        for kind, some, known in (("number", v.numbers, there), ("stock", v.stocks, roles)):
            if not some <= known:
                raise DesignError(say("variation_of_nothing", variation=v.name, names=", ".join(sorted(some - known))), field="variations")
            keys = {f"{kind} {name}" for name in some}
            set_twice = set_twice or bool(keys & seen)
            seen |= keys
        for name, value in ((n, x) for a in v.alternatives for n, x in a.numbers.items()):
            value_like(value, getattr(numbers, name))
    if set_twice:
        raise DesignError(say("set_by_two_variations"), field="variations")
