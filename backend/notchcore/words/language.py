"""The language in which the program speaks: English, and what another one says in its place.

Another language is a module or package of this folder with `SENTENCES`, templates by the keys of the English ones, and `NAMES`, what things are called, by
their English.
"""

from __future__ import annotations

import re
from importlib import import_module
from typing import ClassVar

from notchcore.words.english import ENGLISH

TEMPLATES: dict[str, str] = dict(ENGLISH)  #: of sentences, by key
_NAMES: dict[str, str] = {}
_NUMBERED = re.compile(r"(.*) (\d+)")


def speak(language: str) -> None:
    """Say everything in a language; what it lacks is said in English.

    To be called before the rest of the core is imported, for things are named where they are declared.

    Raises:
        ModuleNotFoundError: there is no such language
    """
    if language == "english":
        return
    tongue = import_module(f"notchcore.words.{language}")
    TEMPLATES.update(tongue.SENTENCES)
    _NAMES.update(tongue.NAMES)


def called(english: str, /, **facts: str | int) -> str:
    """Return what a thing is called: `Board {number}` with its number, or `Board 3`, which is known under the same name."""
    if english in _NAMES or not (numbered := _NUMBERED.fullmatch(english)):
        name = _NAMES.get(english, english)
        return name.format(**facts) if facts else name
    return _NAMES.get(f"{numbered[1]} {{number}}", f"{numbered[1]} {{number}}").format(number=numbered[2])


class Called:
    """Something declared in English, which is called as the language says."""

    __slots__ = ()
    NAMED: ClassVar[tuple[str, ...]] = ("label",)  #: the fields that people read, and that nothing is kept or looked up by

    def __post_init__(self) -> None:
        for name in self.NAMED:
            object.__setattr__(self, name, called(getattr(self, name)))
