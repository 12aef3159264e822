"""Sentences as they are kept in rows."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from notchcore.words.facts import Fact, Sentence
from notchcore.words.render import say

_SENTENCE: TypeAdapter[Sentence] = TypeAdapter(Sentence)
_SENTENCES: TypeAdapter[tuple[Sentence, ...]] = TypeAdapter(tuple[Sentence, ...])


def kept(sentence: Sentence) -> Any:
    """Return a sentence as a row keeps it."""
    return _SENTENCE.dump_python(sentence, mode="json")


def keeps(key: str, /, **facts: Fact) -> Any:
    """Return a sentence of the catalogue as a row keeps it."""
    return kept(say(key, **facts))


def told(row: Any) -> Sentence | None:
    """Return what a row keeps as a sentence; None for nothing."""
    return None if row is None else _SENTENCE.validate_python(row)


def all_kept(sentences: tuple[Sentence, ...]) -> Any:
    """Return sentences as a row keeps them."""
    return _SENTENCES.dump_python(sentences, mode="json")


def all_told(rows: Any) -> tuple[Sentence, ...]:
    """Return what a row keeps as sentences."""
    return _SENTENCES.validate_python(rows)
