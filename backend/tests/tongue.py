"""The core in a language made for the tests: run as a module, it prints what is still said in English.

Names are told where things are declared, so that a language is chosen before anything else is imported: this wants a process of its own.
"""

from __future__ import annotations

import re
import sys
import types
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from string import Formatter
from typing import Any

from notchcore.words import language
from notchcore.words.english import ENGLISH
from notchcore.words.facts import Sentence

ACCENTS = str.maketrans("aeiouAEIOU", "áéíóúÁÉÍÓÚ")
READ = frozenset("label says caution thing why one counted wide group source message".split())  # fields that people read
KEPT = frozenset("id kind looks value stock style family".split())  # by which things are kept and looked up: in no language
INNERMOST = re.compile("⟦[^⟦⟧]*⟧")


def pseudo(english: str) -> str:
    """Return a text in the language of the tests; its facts stay."""
    return "⟦" + "".join(text.translate(ACCENTS) + (f"{{{name}}}" if name is not None else "") for text, name, _, _ in Formatter().parse(english)) + "⟧"


class AnyName(dict[str, str]):
    """What everything is called; a numbered thing is known by its kind."""

    def __contains__(self, english: object) -> bool:
        return not re.fullmatch(r".* \d+", str(english))

    def get(self, english: str, default: Any = None) -> Any:
        return pseudo(english) if english else english


def texts(value: Any, path: str = "") -> Iterator[tuple[str, str]]:
    """Yield what people read of a value, each with the way to it."""
    if isinstance(value, Sentence):
        yield path, value.text
    elif isinstance(value, str):
        if path.rpartition(".")[2] in READ | KEPT:
            yield path, value
    elif isinstance(value, dict):
        for key, inner in value.items():
            yield from texts(inner, f"{path}.{key}")
    elif isinstance(value, tuple | list):
        for inner in value:
            yield from texts(inner, path)
    elif is_dataclass(value):
        for f in fields(value):
            yield from texts(getattr(value, f.name), f"{path}.{f.name}")


def english(text: str) -> bool:
    """Tell whether a text says something that is not in the language of the tests."""
    while (less := INNERMOST.sub("", text)) != text:
        text = less
    return bool(re.search(r"[a-z]{3}", text))


def everything() -> Iterator[tuple[str, Any]]:
    """Yield all that the core declares, and one of everything that it makes."""
    from notchcore.check.dry_fit import Around, dry_fit
    from notchcore.design.building import build
    from notchcore.design.design import Design
    from notchcore.design.families.registry import FAMILIES
    from notchcore.design.features.registry import FEATURES
    from notchcore.design.numbers import numbers_of
    from notchcore.design.styles import ABOUT
    from notchcore.measure import adhesives
    from notchcore.measure.hazards import SUBSTANCES
    from notchcore.measure.materials import MATERIALS as STOCKS
    from tests.strategies import make_stock

    yield from (("styles", ABOUT), ("stocks", STOCKS), ("substances", SUBSTANCES), ("glues", [adhesives.WOOD, adhesives.CONTACT]))
    stocks = {"7": make_stock("7", 3.0)}  # a name that a person gave has no letters here
    for f in FAMILIES.values():
        yield f.id, [f, numbers_of(f.numbers)]
        design = Design(numbers=f.numbers(), stocks={r.id: "7" for r in f.roles})
        built = build(design, stocks)
        yield f"{f.id} built", built
        yield f"{f.id} fitted", dry_fit(built, stocks, around=Around(design=design))
    for kind in FEATURES:
        yield kind.id, [kind, numbers_of(kind.type)]


def main() -> None:
    tongue = types.ModuleType("notchcore.words.tongue")
    tongue.SENTENCES = {key: pseudo(template) for key, template in ENGLISH.items()}  # type: ignore[attr-defined]
    tongue.NAMES = {}  # type: ignore[attr-defined]
    sys.modules[tongue.__name__] = tongue
    language._NAMES = AnyName()
    language.speak("tongue")
    told = [(path, text) for what, value in everything() for path, text in texts(value, what)]
    sys.stdout.write(f"{len(told)} texts\n")
    for path, text in sorted(set(told)):
        if ("⟦" in text) if path.rpartition(".")[2] in KEPT else english(text):
            sys.stdout.write(f"{path}: {text}\n")


if __name__ == "__main__":
    main()
