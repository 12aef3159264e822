"""Lengths as people type them.

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

from notchcore.errors import LengthNotUnderstood, NumberNotUnderstood
from notchcore.units import MM_PER, MM_PER_INCH, Mm
from notchcore.words.facts import Sentence, mm
from notchcore.words.render import say

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
                raise LengthNotUnderstood(text=text, why=say("no_length.sign", rest=stripped[at:].strip()[:12]))
            self.tokens.append((found.lastgroup, found[found.lastgroup], found.start(found.lastgroup)))
            at = found.end()
        self.at = 0

    def peek(self) -> tuple[str, str]:
        return self.tokens[self.at][:2] if self.at < len(self.tokens) else ("end", "")

    def take(self) -> tuple[str, str]:
        token = self.peek()
        self.at += 1
        return token

    def fail(self, why: Sentence) -> LengthNotUnderstood:
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
                raise self.fail(say("no_length.zero"))
            if left.is_length and right.is_length:
                if times:
                    raise self.fail(say("no_length.area"))
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
                raise self.fail(say("no_length.bracket"))
            return self.with_unit(inner)
        if kind != "number":
            raise self.fail(say("no_length.missing") if kind == "end" else say("no_length.should", where=text))
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
            raise self.fail(say("no_length.feet"))
        self.last_unit = MM_PER_INCH
        return _Term(term.value + inches * MM_PER_INCH, True)

    def fraction_of(self, whole: str) -> float:
        """Read what follows a number of inches: `1/2` behind it, or the rest of a fraction that begins with it."""
        if self.peek()[1] == "/" and self.at + 1 < len(self.tokens) and self.tokens[self.at + 1][0] == "number":
            self.take()
            bottom = float(self.take()[1].replace(",", "."))
            if bottom == 0:
                raise self.fail(say("no_length.zero"))
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
                raise self.fail(say("no_length.zero"))
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
            raise self.fail(say("no_length.unit", word=text))
        if term.is_length:
            raise self.fail(say("no_length.two_units"))
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
        raise reader.fail(say("no_length.far", most=mm(LARGEST, digits=0)))
    return length.value


def parse_number(text: str) -> float:
    """Return the plain number that a person typed, which may be a sum.

    Raises:
        NumberNotUnderstood: with the reason in plain words
    """
    try:
        _, term = _read(text, unit="mm")
    except LengthNotUnderstood as problem:
        raise NumberNotUnderstood(text=str(problem.facts["text"]), why=problem.why) from None
    if term.is_length:
        raise NumberNotUnderstood(text=text, why=say("no_length.has_unit"))
    if not math.isfinite(term.value):
        raise NumberNotUnderstood(text=text, why=say("no_length.large"))
    return term.value


def _read(text: str, *, unit: str) -> tuple[_Reader, _Term]:
    """Return the reader at the end of a text, and what it read."""
    if not text.strip():
        raise LengthNotUnderstood(text=text, why=say("no_length.empty"))
    if len(text) > LONGEST_TEXT:
        raise LengthNotUnderstood(text=text[:LONGEST_TEXT], why=say("no_length.signs", most=LONGEST_TEXT))
    reader = _Reader(text, unit=unit)
    try:
        term = reader.sum()
    except RecursionError:
        raise LengthNotUnderstood(text=text, why=say("no_length.brackets")) from None
    if reader.peek()[0] != "end":
        raise reader.fail(say("no_length.left", rest=reader.peek()[1]))
    return reader, term
