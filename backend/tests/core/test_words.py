"""What the program says: every sentence is in the catalogue, has all its facts, uses them, and writes no unit by hand."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path
from string import Formatter

import pytest
from hypothesis import given
from hypothesis import strategies as st

import notchcore
from notchcore.words.english import ENGLISH
from notchcore.words.facts import Count, Kind, Names, Ref, Share, Volume, mm, say
from notchcore.words.render import plain, segments

CORE = Path(notchcore.__file__).parent
MOVED = ("check",)  # stages that compose no sentence of their own any more
BY_VALUE = {k for k in ENGLISH if k.startswith("held.")} | {"feature_across_joint", "feature_across_fold"}  # said by a key that is worked out


def _calls(name: str, folder: Path = CORE) -> Iterator[tuple[Path, ast.Call]]:
    for path in sorted(folder.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == name:
                yield path, node


def _fields(key: str) -> set[str]:
    return {name for _, name, _, _ in Formatter().parse(ENGLISH[key]) if name is not None}


def test_every_sentence_that_is_said_is_in_the_catalogue_with_the_facts_that_it_tells_and_every_one_is_said() -> None:
    said = set()
    for path, call in _calls("say"):
        first = call.args[0]
        if not (isinstance(first, ast.Constant) and isinstance(first.value, str)):
            continue  # by the value of an enumeration, or one of two keys
        said.add(first.value)
        assert first.value in ENGLISH, f"{path.name}: {first.value}"
        given_facts = {k.arg for k in call.keywords}
        if None not in given_facts:  # none that come as a dictionary
            assert given_facts == _fields(first.value), f"{path.name}: {first.value}"
    assert set(ENGLISH) - said - BY_VALUE == set()


def test_no_template_writes_a_unit_or_a_plural_by_hand() -> None:
    for key, template in ENGLISH.items():
        assert not re.search(r"\b(mm|cm|inch|inches)\b|\d ?in\b|\(s\)", template), key
        assert template[0].isupper() or template[0] in "“{" or "." in key, key


@pytest.mark.parametrize("stage", MOVED)
def test_a_stage_that_has_moved_composes_no_sentence(stage: str) -> None:
    for path, call in _calls("Finding", CORE / stage):
        words = [k.value for k in call.keywords if k.arg == "message"]
        assert not words, f"{path.name}: {ast.unparse(words[0])[:60]}"


def test_sentences_are_told_in_each_unit_with_lists_and_plurals() -> None:
    parts = [Ref(Kind.PART, c, c.upper()) for c in "abcdef"]
    assert plain(say("larger_than_bed", part=parts[0], size=mm(508, 25.4, digits=0), bed=mm(600, 400, digits=0)), "in") == (
        "A is 20.000 × 1.000 in: larger than the bed of 23.622 × 15.748 in. Divide it, or make it smaller."
    )
    for many, told in ((1, "A"), (2, "A and B"), (3, "A, B and C"), (6, "A, B and 4 others")):
        assert plain(say("brittle_corner.several", parts=Names(tuple(parts[:many])))).startswith(f"{told} are brittle")
    assert "1 of 1 joint may" in plain(say("fit_not_sure", risky=1, all=Count(1, "joint", "joints"), a=parts[0], b=parts[1], worst=Share(0.35)))
    assert plain(say("collision", a=parts[0], b=parts[1], volume=Volume(3.04))).startswith("A and B share 3.0 mm³.")


@given(st.sampled_from(sorted(ENGLISH)), st.text(min_size=1, max_size=12), st.floats(0, 5000))
def test_the_pieces_of_a_sentence_are_its_text_and_nothing_is_lost(key: str, label: str, length: float) -> None:
    facts = {name: (Ref(Kind.PART, "p", label), mm(length), label)[i % 3] for i, name in enumerate(sorted(_fields(key)))}
    told = segments(say(key, **facts))
    assert "".join(s.text for s in told) == plain(say(key, **facts))
    assert [s.ref.label for s in told if s.ref] == [label] * sum(isinstance(facts[n], Ref) for _, n, _, _ in Formatter().parse(ENGLISH[key]) if n)
