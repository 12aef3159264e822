"""Lengths as people type them, and as they read them.

A field takes a number, a number with a unit, or a sum of such: ``3.1``, ``1/8in + 2``, ``62 - 2*3``,
``2 1/4 in``, ``120 thou``, ``4'``, ``7'-6 1/2"``, ``7ft 6in``, ``1-1/2in``. A bare number is in the user's own unit. Inside, all is
millimetres.

A hyphen right behind feet joins inches to them, and one without spaces between a whole number and a smaller fraction of an inch joins
those two, as people write them; every other one is a minus.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal, get_args

from notchcore.errors import LengthNotUnderstood, NumberNotUnderstood

Mm = float
MM_PER_INCH = 25.4
MM_PER: dict[str, float] = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "″": MM_PER_INCH,
    "''": MM_PER_INCH,
    "ft": 12 * MM_PER_INCH,
    "foot": 12 * MM_PER_INCH,
    "feet": 12 * MM_PER_INCH,
    "'": 12 * MM_PER_INCH,
    "thou": MM_PER_INCH / 1000,
    "mil": MM_PER_INCH / 1000,
}
Unit = Literal["mm", "in", "in/64", "thou"]  #: in which a person reads lengths
DISPLAY_UNITS: tuple[Unit, ...] = get_args(Unit)
LONGEST_TEXT = 80  # a sum longer than this is a paste by mistake
LARGEST: Mm = 100_000.0  # 100 m: nothing on a laser is longer

FEET = ("ft", "foot", "feet", "'")
INCHES = ("in", "inch", "inches", '"', "″", "''")
_TOKEN = re.compile(r"\s*(?:(?P<number>\d+(?:[.,]\d+)?|[.,]\d+)|(?P<unit>[a-zA-Z]+|''|[\"'″])|(?P<op>[-+*/()×−]))")
_SIGNS = str.maketrans({"′": "'", "’": "'", "‘": "'", "”": '"', "“": '"', "–": "-", "‐": "-", "‑": "-", "⁄": "/", "\u00a0": " ", "\u202f": " "})
_PARTS = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}


def _plainly(text: str) -> str:
    """Return a text with the quotes, dashes and fractions that keyboards and other programs put in place of plain ones."""
    text = text.translate(_SIGNS)
    for sign, said in _PARTS.items():
        text = text.replace(sign, f" {said}")
    return text


@dataclass(frozen=True, slots=True)
class _Term:
    """A value on its way: plain number, or a length in mm."""

    value: float
    is_length: bool


class _Reader:
    """Recursive descent over the tokens of one text: sum, product, factor."""

    def __init__(self, text: str, *, unit: str) -> None:
        self.text = text
        text = _plainly(text)
        self.bare = MM_PER[unit]
        self.inches = unit in INCHES  #: what has no unit is in inches
        self.tokens: list[tuple[str, str, int]] = []
        at = 0
        stripped = text.rstrip()
        while at < len(stripped):
            found = _TOKEN.match(stripped, at)
            if found is None or found.lastgroup is None:
                raise LengthNotUnderstood(text=text, why=f"“{stripped[at:].strip()[:12]}” is not a number, unit or sign")
            self.tokens.append((found.lastgroup, found[found.lastgroup], found.start(found.lastgroup)))
            at = found.end()
        self.at = 0

    def peek(self) -> tuple[str, str]:
        return self.tokens[self.at][:2] if self.at < len(self.tokens) else ("end", "")

    def take(self) -> tuple[str, str]:
        token = self.peek()
        self.at += 1
        return token

    def fail(self, why: str) -> LengthNotUnderstood:
        return LengthNotUnderstood(text=self.text, why=why)

    def sum(self) -> _Term:
        left = self.product()
        while self.peek()[1] in ("+", "-", "−"):
            sign = 1 if self.take()[1] == "+" else -1
            right = self.product()
            if left.is_length != right.is_length:  # 1/8in + 2: the bare number is a length too
                left, right = self.as_length(left), self.as_length(right)
            left = _Term(left.value + sign * right.value, left.is_length)
        return left

    def product(self) -> _Term:
        left = self.factor()
        while self.peek()[1] in ("*", "/", "×"):
            times = self.take()[1] != "/"
            right = self.factor()
            if not times and right.value == 0:
                raise self.fail("it divides by zero")
            if left.is_length and right.is_length:
                if times:
                    raise self.fail("a length times a length is an area")
                left = _Term(left.value / right.value, False)
                continue
            # a fraction written before its unit, 1/8in, is one length: the unit belongs to the quotient
            if times:
                left = _Term(left.value * right.value, left.is_length or right.is_length)
            elif right.is_length:
                scale = self.last_unit
                left = _Term(left.value / (right.value / scale) * scale, True)
            else:
                left = _Term(left.value / right.value, left.is_length)
        return left

    last_unit = 1.0

    def factor(self) -> _Term:
        kind, text = self.take()
        if text in ("-", "−"):
            inner = self.factor()
            return _Term(-inner.value, inner.is_length)
        if text == "+":
            return self.factor()
        if text == "(":
            inner = self.sum()
            if self.take()[1] != ")":
                raise self.fail("a bracket is not closed")
            return self.with_unit(inner)
        if kind != "number":
            raise self.fail("a number is missing" if kind == "end" else f"a number should stand where “{text}” is")
        value = float(text.replace(",", "."))
        value += self.mixed_fraction()
        return self.with_inches(self.with_unit(_Term(value, False)))

    def is_tight(self, *, before: int) -> bool:
        """Tell whether a token follows the one before it without a space."""
        if not 0 < before < len(self.tokens):
            return False
        _, text, start = self.tokens[before - 1]
        return start + len(text) == self.tokens[before][2]

    def with_inches(self, term: _Term) -> _Term:
        """Read the inches that follow feet: `7' 6"`, `7'-6 1/2"`, `7ft 6in`; without a unit they are inches too."""
        if not term.is_length or self.at < 2 or self.tokens[self.at - 1][1].lower() not in FEET:
            return term
        start = self.at
        if self.peek()[1] in ("-", "−") and self.is_tight(before=self.at):
            self.take()
        kind, text = self.peek()
        if kind != "number":
            self.at = start
            return term
        self.take()
        inches = float(text.replace(",", ".")) + self.fraction_of(text)
        kind, text = self.peek()
        if kind == "unit":
            if text.lower() not in INCHES:
                self.at = start
                return term
            self.take()
        elif self.at < len(self.tokens) and self.peek()[1] in ("*", "/", "×", "("):
            raise self.fail("say what the number behind the feet is: 7ft 6in, or 7ft + 6mm")
        self.last_unit = MM_PER_INCH
        return _Term(term.value + inches * MM_PER_INCH, True)

    def fraction_of(self, whole: str) -> float:
        """Read what follows a number of inches: `1/2` behind it, or the rest of a fraction that begins with it."""
        if self.peek()[1] == "/" and self.at + 1 < len(self.tokens) and self.tokens[self.at + 1][0] == "number":
            self.take()
            bottom = float(self.take()[1].replace(",", "."))
            if bottom == 0:
                raise self.fail("it divides by zero")
            top = float(whole.replace(",", "."))
            return top / bottom - top
        return self.mixed_fraction()

    def mixed_fraction(self) -> float:
        """Read the `1/4` of `2 1/4`, and of `2-1/4` where inches are meant."""
        if self.is_hyphened_fraction():
            self.take()
        kinds = [self.tokens[i][:2] if i < len(self.tokens) else ("end", "") for i in range(self.at, self.at + 3)]
        if kinds[0][0] == "number" and kinds[1][1] == "/" and kinds[2][0] == "number":
            top, bottom = float(kinds[0][1].replace(",", ".")), float(kinds[2][1].replace(",", "."))
            if bottom == 0:
                raise self.fail("it divides by zero")
            self.at += 3
            return top / bottom
        return 0.0

    def is_hyphened_fraction(self) -> bool:
        """Tell whether `-1/2` without a space follows, a proper fraction of an inch."""
        at = self.at
        if at < 1 or at + 3 >= len(self.tokens) + 1 or self.peek()[1] not in ("-", "−"):
            return False
        some = [self.tokens[i] if i < len(self.tokens) else ("end", "", 0) for i in range(at, at + 5)]
        if (some[1][0], some[2][1], some[3][0]) != ("number", "/", "number") or not all(self.is_tight(before=i) for i in range(at, at + 4)):
            return False
        if "." in self.tokens[at - 1][1] or not (some[1][1].isdecimal() and some[3][1].isdecimal() and int(some[1][1]) < int(some[3][1])):
            return False
        return some[4][1].lower() in INCHES or (some[4][0] != "unit" and self.inches)

    def with_unit(self, term: _Term) -> _Term:
        kind, text = self.peek()
        if kind != "unit":
            return term
        if text.lower() not in MM_PER:
            raise self.fail(f"“{text}” is not a unit; use mm, cm, in, ft or thou")
        if term.is_length:
            raise self.fail("a length has two units")
        self.take()
        self.last_unit = MM_PER[text.lower()]
        return _Term(term.value * self.last_unit, True)

    def as_length(self, term: _Term) -> _Term:
        return term if term.is_length else _Term(term.value * self.bare, True)


def parse_length(text: str, *, unit: str = "mm") -> Mm:
    """Return the length that a person typed [mm].

    Args:
        text: number, units and sums, such as ``1/8in + 2``
        unit: what a bare number is in, a key of MM_PER
    Raises:
        LengthNotUnderstood: with the reason in plain words
    """
    reader, term = _read(text, unit=unit)
    length = reader.as_length(term)
    if not math.isfinite(length.value) or abs(length.value) > LARGEST:
        raise reader.fail(f"it is more than {LARGEST / 1000:.0f} m")
    return length.value


def parse_number(text: str) -> float:
    """Return the plain number that a person typed, which may be a sum.

    Raises:
        NumberNotUnderstood: with the reason in plain words
    """
    try:
        _, term = _read(text, unit="mm")
    except LengthNotUnderstood as problem:
        raise NumberNotUnderstood(text=str(problem.facts["text"]), why=str(problem.facts["why"])) from None
    if term.is_length:
        raise NumberNotUnderstood(text=text, why="it has a unit, and this is a plain number")
    if not math.isfinite(term.value):
        raise NumberNotUnderstood(text=text, why="it is too large")
    return term.value


def _read(text: str, *, unit: str) -> tuple[_Reader, _Term]:
    """Return the reader at the end of a text, and what it read."""
    if not text.strip():
        raise LengthNotUnderstood(text=text, why="it is empty")
    if len(text) > LONGEST_TEXT:
        raise LengthNotUnderstood(text=text[:LONGEST_TEXT], why=f"it is longer than {LONGEST_TEXT} signs")
    reader = _Reader(text, unit=unit)
    try:
        term = reader.sum()
    except RecursionError:
        raise LengthNotUnderstood(text=text, why="it has too many brackets") from None
    if reader.peek()[0] != "end":
        raise reader.fail(f"“{reader.peek()[1]}” is left over")
    return reader, term


def format_length(mm: Mm, *, unit: str = "mm", digits: int | None = None) -> str:
    """Return a length for display; stored values are never rounded by it.

    Args:
        unit: one of DISPLAY_UNITS
        digits: decimals; by default two for mm, three for inches, none for thou
    """
    if unit == "mm":
        return f"{mm:.{2 if digits is None else digits}f}"
    if unit == "in":
        return f"{mm / MM_PER_INCH:.{3 if digits is None else digits}f}"
    if unit == "thou":
        return f"{mm / MM_PER_INCH * 1000:.{0 if digits is None else digits}f}"
    sixty_fourths = round(mm / MM_PER_INCH * 64)
    whole, rest = divmod(abs(sixty_fourths), 64)
    sign = "-" if sixty_fourths < 0 else ""
    if rest == 0:
        return f"{sign}{whole}"
    part = Fraction(rest, 64)
    return f"{sign}{f'{whole} ' if whole else ''}{part.numerator}/{part.denominator}"


def shown(mm: Mm, unit: str, *, fine: bool = False) -> str:
    """Return a length as a person reads it, without its unit; `fine` is for widths of joints, where hundredths matter.

    Fractions are rounded to the nearest sixty-fourth; fine lengths are decimal for those who read fractions too.
    """
    if unit == "mm":
        return f"{mm:.{2 if fine else 1}f}"
    if unit == "in/64":
        return f"{mm / MM_PER_INCH:.4f}" if fine else format_length(mm, unit=unit)
    if unit == "thou":
        return f"{mm / MM_PER_INCH * 1000:.{1 if fine else 0}f}"
    return f"{mm / MM_PER_INCH:.{4 if fine else 3}f}"


def unit_name(unit: str) -> str:
    """Return the short name of a unit."""
    return "in" if unit in ("in", "in/64") else unit


_LENGTHS = re.compile(r"\d+(?:\.\d+)?(?:(?: ?[×±x] ?|[,;] )\d+(?:\.\d+)?)* ?mm(?![\w²³/])")
_SOLIDS = re.compile(r"(\d+(?:\.\d+)?) ?mm([²³])")
_SPEEDS = re.compile(r"(\d+(?:\.\d+)?) ?mm/s")


def told(text: str, unit: str) -> str:
    """Return a sentence of the program, which tells lengths in mm, with its lengths, areas, volumes and speeds in a person's unit."""
    if unit == "mm":
        return text

    def length(found: re.Match[str]) -> str:
        figures = re.sub(r"\d+(?:\.\d+)?", lambda f: shown(float(f[0]), unit, fine=bool(re.search(r"\.\d\d", f[0]))), found[0][:-2])
        return figures + unit_name(unit)

    text = _SOLIDS.sub(lambda f: f"{float(f[1]) / MM_PER_INCH ** (2 if f[2] == '²' else 3):.3g} in{f[2]}", text)
    return _SPEEDS.sub(lambda f: f"{float(f[1]) / MM_PER_INCH:.4g} in/s", _LENGTHS.sub(length, text))
