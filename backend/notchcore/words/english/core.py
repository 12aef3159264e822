"""What is said of values that make no sense."""

from __future__ import annotations

CORE: dict[str, str] = {
    "as_written": "{text}",
    "names.and": " and ",
    "names.others": " and {others} others",
    "no_length": "“{text}” is not a length: {why}. Type for example 62, 1/8in + 2 or 62 - 2*3.",
    "no_number": "“{text}” is not a number: {why}. Type for example 12 or 3*4.",
    "outside": "{name} is {value}; it must lie between {least} and {most}.",
    "no_length.sign": "“{rest}” is not a number, unit or sign",
    "no_length.zero": "it divides by zero",
    "no_length.area": "a length times a length is an area",
    "no_length.bracket": "a bracket is not closed",
    "no_length.missing": "a number is missing",
    "no_length.should": "a number should stand where “{where}” is",
    "no_length.feet": "say what the number behind the feet is: 7ft 6in, or 7ft + 6mm",
    "no_length.unit": "“{word}” is not a unit; use mm, cm, in, ft or thou",
    "no_length.two_units": "a length has two units",
    "no_length.far": "it is more than {most}",
    "no_length.has_unit": "it has a unit, and this is a plain number",
    "no_length.large": "it is too large",
    "no_length.empty": "it is empty",
    "no_length.signs": "it is longer than {most} signs",
    "no_length.brackets": "it has too many brackets",
    "no_length.left": "“{rest}” is left over",
    "request.check": "{what} Check what was typed, and send it again.",
    "request.number": "The request holds a number that makes no sense here: {number}.",
    "request.deep": "The request holds lists in lists without end.",
    "request.sign": "The request holds a sign that cannot be kept.",
    "request.no_number": "{number} is not a number.",
}
