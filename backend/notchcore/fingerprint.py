"""Fingerprints: equal values have equal ones, on every machine and in every process."""

from __future__ import annotations

import hashlib
import json
import sys
from array import array
from collections.abc import Sequence
from dataclasses import fields, is_dataclass
from enum import Enum
from typing import Any

from notchcore.words.facts import Sentence

MANY = 16  # points from which on a line goes in as a digest


def plain(value: Any) -> Any:
    """Return a value as plain JSON data: dataclasses as dicts, tuples as lists, enums as their values."""
    if isinstance(value, Enum):
        return value.value
    if isinstance(value, Sentence):
        return value.text  # what it says, in whichever pieces
    if is_dataclass(value) and not isinstance(value, type):
        return {f.name: plain(getattr(value, f.name)) for f in fields(value)}
    if isinstance(value, dict):
        return {str(k): plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        if len(value) > MANY and all(isinstance(p, tuple) and len(p) == 2 and all(isinstance(v, int | float) for v in p) for p in value):
            return _points(value)
        return [plain(v) for v in value]
    if isinstance(value, float) and value == 0.0:
        return 0.0  # -0.0 and 0.0 are equal, so are their fingerprints
    return value


def _points(points: Sequence[tuple[float, float]]) -> str:
    """Return a digest of many points: their numbers as they are, which is much quicker than as text."""
    numbers = array("d", [v + 0.0 for p in points for v in p])  # -0.0 becomes 0.0
    if sys.byteorder == "big":
        numbers.byteswap()
    return hashlib.sha256(numbers.tobytes()).hexdigest()


def fingerprint(*values: Any) -> str:
    """Return 16 hex digits that tell whether something was made from the same values."""
    text = json.dumps([plain(v) for v in values], sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()[:16]
