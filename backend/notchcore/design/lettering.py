"""Letters of single strokes, for marks that a beam writes in a moment. Our own shapes, on a grid of 4 by 6.

Glyph    strokes as rows of grid points; capitals only, small letters are written as capitals
Advance  5 grid units from one letter to the next
"""

from __future__ import annotations

from notchcore.design.assembly import Mark
from notchcore.units import Mm

_GRID = 6.0  # units of the cap height
_ADVANCE = 5.0

# A point is two digits, x and y; strokes are parted by a bar.
_GLYPHS: dict[str, str] = {
    "0": "10 30 41 45 36 16 05 01 10",
    "1": "15 26 20 | 10 30",
    "2": "05 16 36 45 44 00 40",
    "3": "05 16 36 45 44 33 13 | 33 42 41 30 10 01",
    "4": "30 36 02 42",
    "5": "46 06 03 33 42 41 30 10 01",
    "6": "36 16 05 01 10 30 41 42 33 03",
    "7": "06 46 10",
    "8": "13 04 05 16 36 45 44 33 13 02 01 10 30 41 42 33",
    "9": "43 13 04 05 16 36 45 41 30 10",
    "A": "00 26 40 | 12 32",
    "B": "00 06 36 45 44 33 03 | 33 42 41 30 00",
    "C": "45 36 16 05 01 10 30 41",
    "D": "00 06 26 44 42 20 00",
    "E": "46 06 00 40 | 03 33",
    "F": "46 06 00 | 03 33",
    "G": "45 36 16 05 01 10 30 41 43 23",
    "H": "00 06 | 40 46 | 03 43",
    "I": "10 30 | 20 26 | 16 36",
    "J": "46 41 30 10 01",
    "K": "00 06 | 46 03 40",
    "L": "06 00 40",
    "M": "00 06 23 46 40",
    "N": "00 06 40 46",
    "O": "10 30 41 45 36 16 05 01 10",
    "P": "00 06 36 45 44 33 03",
    "Q": "10 30 41 45 36 16 05 01 10 | 22 40",
    "R": "00 06 36 45 44 33 03 | 23 40",
    "S": "45 36 16 05 04 13 33 42 41 30 10 01",
    "T": "06 46 | 26 20",
    "U": "06 01 10 30 41 46",
    "V": "06 20 46",
    "W": "06 10 24 30 46",
    "X": "00 46 | 06 40",
    "Y": "06 23 46 | 23 20",
    "Z": "06 46 00 40",
    ".": "20 21",
    ",": "21 10",
    "-": "13 33",
    "+": "13 33 | 22 24",
    "/": "00 46",
    "%": "00 46 | 05 06 16 15 05 | 30 31 41 40 30",
    ":": "21 22 | 24 25",
    "=": "12 32 | 14 34",
    "!": "26 22 | 21 20",
    "?": "05 16 36 45 44 23 22 | 21 20",
    "'": "26 24",
    "’": "26 24",
    "(": "36 25 21 30",
    ")": "16 25 21 10",
    "▲": "01 25 41 01",
    "●": "11 31 42 44 35 15 04 02 11",
    "■": "01 41 45 05 01",
    "◆": "20 43 26 03 20",
    "&": "40 04 05 16 26 35 34 02 01 10 20 42",
}


def _strokes(letter: str) -> list[list[tuple[int, int]]]:
    return [[(int(p[0]), int(p[1])) for p in stroke.split()] for stroke in _GLYPHS.get(letter, "").split("|") if stroke.strip()]


SIGNS = "▲●■◆"


def sign_of(number: int) -> str:
    """Return the sign of the number-th pair of edges that belong together, from 0: one shape, then two, and so on; no two are alike."""
    found, left = "", number + 1
    while left:
        left, shape = divmod(left - 1, len(SIGNS))
        found = SIGNS[shape] + found
    return found


def letters_lacking(text: str) -> str:
    """Return the letters of a text that have no strokes, each once: they would be gaps."""
    return "".join(dict.fromkeys(c for c in text if not c.isspace() and not _strokes(c.upper())))


def text_width(text: str, height: Mm) -> Mm:
    """Return how wide a text is [mm] at a cap height."""
    return max(len(text) * _ADVANCE - 1, 0) * height / _GRID


def lettered(text: str, x: Mm, *, y: Mm, height: Mm, centred: bool = False) -> tuple[Mark, ...]:
    """Return a text as scored strokes, its base line beginning (or centred) at x, y."""
    unit = height / _GRID
    at = x - text_width(text, height) / 2 if centred else x
    found = []
    for letter in text.upper():
        for stroke in _strokes(letter):
            found.append(Mark(line=tuple((round(at + px * unit, 4), round(y + py * unit, 4)) for px, py in stroke), closed=False))
        at += _ADVANCE * unit
    return tuple(found)
