"""What a planted fault is."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Fault:
    """One wrong line."""

    name: str
    file: str
    old: str
    new: str
    tests: str = ""  #: run first; the second workshop where they see nothing
