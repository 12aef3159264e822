"""Names of things: how each is written and read again, in this one place.

panel    given when it is made                                              front
part     a panel, or a piece of one that was divided                        front, front.2
         ... of a further item of the project                               drawer-1:front
copy     one of a part, as it lies on a sheet and comes free                front.2.1
path     a line of a plan: of a copy, what is done there, and which         front.2.1/inner3
meeting  two parts, and which of their meetings; for a socket, its feature  back+front, back+front#1, base+figure#socket-1
step     the parts that go in together                                      back+front

What a name is of is never guessed from it: panels of some families end in a number too. A part knows its panel (`Part.panel`).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Self

_NUMBER, _LINE, _JOIN, _WHICH, _ITEM = ".", "/", "+", "#", ":"
MAIN = "main"  # what the first item of a project is called where items are named


@dataclass(frozen=True, slots=True)
class _Numbered:
    """One of several things that come of another."""

    of: str
    number: int

    @classmethod
    def parse(cls, text: str) -> Self:
        """Return what has this name.

        Raises:
            ValueError: it has no number
        """
        of, _, number = text.rpartition(_NUMBER)
        return cls(of, int(number))

    def __str__(self) -> str:
        return f"{self.of}{_NUMBER}{self.number}"


class PieceId(_Numbered):
    """One piece of a panel that was divided; from 1, left to right in the panel's own plane."""


class CopyId(_Numbered):
    """One of the equal parts of a job, from 0."""


@dataclass(frozen=True, slots=True)
class PathId:
    """One line that a beam follows."""

    copy: CopyId
    what: str

    @classmethod
    def parse(cls, text: str) -> Self:
        """Return the path of this name.

        Raises:
            ValueError: it belongs to no copy of a part
        """
        copy, _, what = text.partition(_LINE)
        return cls(CopyId.parse(copy), what)

    def __str__(self) -> str:
        return f"{self.copy}{_LINE}{self.what}"


@dataclass(frozen=True, slots=True)
class MeetingId:
    """A place where two parts meet."""

    a: str
    b: str
    which: str = ""  #: of several, or of a socket

    @classmethod
    def parse(cls, text: str) -> Self:
        """Return the meeting of this name; what names no second part has none."""
        pair, _, which = text.partition(_WHICH)
        a, _, b = pair.partition(_JOIN)
        return cls(a, b, which)

    @property
    def parts(self) -> tuple[str, str]:
        return self.a, self.b

    def __str__(self) -> str:
        return f"{self.a}{_JOIN}{self.b}" + (f"{_WHICH}{self.which}" if self.which else "")


def part_of_path(text: str) -> str:
    """Return the part that a path belongs to; "" for a path of no name, as between two of them."""
    try:
        return PathId.parse(text).copy.of
    except ValueError:
        return ""


def cut_id(place: str, *what: object) -> str:
    """Return the name of a single cut among those of one panel: where it is (a panel and a meeting, a feature), and which it is there."""
    return _LINE.join([place, *map(str, what)])


def step_id(parts: Iterable[str]) -> str:
    """Return the name of the step by which parts go in together."""
    return _JOIN.join(sorted(parts))


def in_item(item: str, part: str) -> str:
    """Return the name that a part of a further item has in the whole project; one that is named after an item joined to it keeps its name."""
    return part if not item or _ITEM in part else f"{item}{_ITEM}{part}"


def item_of(part: str) -> str:
    """Return the item that a part is named after in the whole project; "" for one of the first."""
    return part.partition(_ITEM)[0] if _ITEM in part else ""


def is_in_item(part: str) -> bool:
    """Tell whether a name is that of a further item's part, in the whole project."""
    return _ITEM in part


def own_name(item: str, part: str) -> str:
    """Return the name that a part has within an item that it belongs to, or that its own item is joined to."""
    return part.removeprefix(f"{item}{_ITEM}") if item else part


@lru_cache(maxsize=1 << 15)  # a part names its meeting at every finger
def meeting_in_item(item: str, meeting: str) -> str:
    """Return the name that a meeting of a further item has in the whole project."""
    found = MeetingId.parse(meeting)
    return str(MeetingId(in_item(item, found.a), in_item(item, found.b), found.which))


def own_meeting(item: str, meeting: str) -> str:
    """Return the name that a meeting, or anything else of a further item, has within it; a socket's is named for its feature too."""
    found = MeetingId.parse(meeting)
    if not found.b and not found.which:
        return own_name(item, meeting)
    return str(MeetingId(own_name(item, found.a), own_name(item, found.b), own_name(item, found.which)))
