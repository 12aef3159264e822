"""Names of files that go to machines and other shops: plain letters, digits and hyphens, which every program and stick can read."""

from __future__ import annotations

import unicodedata

LONGEST = 40
IN_PLAIN = str.maketrans({"×": "x", "±": "+-", "−": "-", "–": "-", "’": "'", "“": '"', "”": '"', "°": " deg", "²": "2"})


def ascii_only(text: str, *, instead: str = "?") -> str:
    """Return a text in printable ASCII on one line: accents dropped, whatever else is left is `instead`."""
    letters = (c for c in unicodedata.normalize("NFKD", text.translate(IN_PLAIN)) if not unicodedata.combining(c))
    return "".join(c if c.isascii() and c.isprintable() else instead for c in letters)


def file_stem(name: str, *, otherwise: str = "project") -> str:
    """Return what a file is called after a project; `otherwise` where no plain letter is left."""
    words = "".join(c if c.isalnum() else "-" for c in ascii_only(name.lower(), instead="-"))
    return "-".join(w for w in words.split("-") if w)[:LONGEST].rstrip("-") or otherwise
