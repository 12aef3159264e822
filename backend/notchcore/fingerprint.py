"""Fingerprints: equal values have equal ones, on every machine and in every process."""

from __future__ import annotations

import hashlib
import json
from dataclasses import fields, is_dataclass
from enum import Enum
from typing import Any


def plain(value: Any) -> Any:
    """Return a value as plain JSON data: dataclasses as dicts, tuples as lists, enums as their values."""
    if isinstance(value, Enum):
        return value.value
    if is_dataclass(value) and not isinstance(value, type):
        return {f.name: plain(getattr(value, f.name)) for f in fields(value)}
    if isinstance(value, dict):
        return {str(k): plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    if isinstance(value, float) and value == 0.0:
        return 0.0  # -0.0 and 0.0 are equal, so are their fingerprints
    return value


def fingerprint(*values: Any) -> str:
    """Return 16 hex digits that tell whether something was made from the same values."""
    text = json.dumps([plain(v) for v in values], sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()[:16]
