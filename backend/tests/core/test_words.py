"""What the program says: every sentence is in the catalogue, has all its facts, uses them, and writes no unit by hand."""

import ast
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from string import Formatter

import pytest
from hypothesis import given
from hypothesis import strategies as st

import notchcore
from notchcore.words.english import ENGLISH, STAGES
from notchcore.words.facts import TRIMMED, Area, Count, Fact, Kind, Names, Ref, Share, Speed, Volume, mm
from notchcore.words.render import plain, say

CORE = Path(notchcore.__file__).parent
HOUSE = (CORE, CORE.parent / "apps", CORE.parent / "config")
SAYING = ("say", "keeps", "_refused")  # the functions whose first argument is a key
OWN_FORMS = ("formats", "answers", "units.py", "words")  # files for machines, drawings, and what knows units


def _said() -> Iterator[tuple[Path, ast.Call]]:
    for folder in HOUSE:
        for path in sorted(folder.rglob("*.py")):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in SAYING and node.args:
                    yield path, node


def _texts() -> set[str]:
    """Return all texts in the code but the catalogue's own: a key may come from a table."""
    paths = [p for folder in HOUSE for p in folder.rglob("*.py") if "english" not in p.parts]
    return {n.value for p in paths for n in ast.walk(ast.parse(p.read_text())) if isinstance(n, ast.Constant) and isinstance(n.value, str)}


def _keys(node: ast.expr) -> Iterator[str]:
    """Yield the keys that an argument may come to; one that is put together may be any that begins as it does."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.IfExp):
        yield from _keys(node.body)
        yield from _keys(node.orelse)
    elif isinstance(node, ast.JoinedStr):
        begin, end = (str(v.value) if isinstance(v, ast.Constant) else "" for v in (node.values[0], node.values[-1]))
        found = [k for k in ENGLISH if k.startswith(begin) and k.endswith(end)]
        assert found, begin + end
        yield from found


def _fields(key: str) -> set[str]:
    return {name for _, name, _, _ in Formatter().parse(ENGLISH[key]) if name is not None}


def test_every_sentence_that_is_said_is_in_the_catalogue_with_the_facts_that_it_tells_and_every_one_is_said() -> None:
    said = set()
    for path, call in _said():
        given_facts = {k.arg for k in call.keywords}
        for key in _keys(call.args[0]):
            said.add(key)
            assert key in ENGLISH, f"{path.name}: {key}"
            if None not in given_facts and isinstance(call.args[0], ast.Constant):  # none that come as a dictionary
                assert given_facts == _fields(key), f"{path.name}: {key}"
    assert set(ENGLISH) - said - _texts() == set()
    assert sum(map(len, STAGES)) == len(ENGLISH), "a key stands in two stages"


def test_no_template_writes_a_unit_or_a_plural_by_hand() -> None:
    for key, template in ENGLISH.items():
        if key.startswith(("answer.inches", "result.nearest")) or key in ("no_length", "no_length.unit", "no_length.feet", "file.units"):
            continue  # those speak of units
        assert not re.search(r"\b(mm|cm|inch|inches)\b|\d in\b(?! )|\(s\)", template), key


def test_nothing_but_the_catalogue_tells_a_length_in_words() -> None:
    for folder in HOUSE:
        for path in sorted(folder.rglob("*.py")):
            if any(part in OWN_FORMS for part in path.parts) or "migrations" in path.parts:
                continue
            told = re.findall(r"f\"[^\"\n]*\} mm\b[^\"\n]*\"", path.read_text())
            assert not told, f"{path.name}: {told[:1]}"


def test_sentences_are_told_in_each_unit_with_lists_and_plurals() -> None:
    parts = [Ref(Kind.PART, c, c.upper()) for c in "abcdef"]
    assert plain(say("larger_than_bed", part=parts[0], size=mm(508, 25.4, digits=0), bed=mm(600, 400, digits=0)), "in") == (
        "A is 20.000 × 1.000 in: larger than the bed of 23.622 × 15.748 in. Divide it, or make it smaller."
    )
    for many, told in ((1, "A"), (2, "A and B"), (3, "A, B and C"), (6, "A, B and 4 others")):
        assert plain(say("brittle_corner.several", parts=Names(tuple(parts[:many])))).startswith(f"{told} are brittle")
    assert "1 of 1 joint may" in plain(say("fit_not_sure", risky=1, all=Count(1, "joint", "joints"), a=parts[0], b=parts[1], worst=Share(0.35)))
    assert plain(say("collision", a=parts[0], b=parts[1], volume=Volume(3.04))).startswith("A and B share 3.0 mm³.")


@pytest.mark.parametrize(
    ("fact", "unit", "read"),
    [
        (mm(3.05, digits=2), "in", "0.1201 in"),
        (mm(609.6, 304.8, digits=0), "in", "24.000 × 12.000 in"),
        (mm(12.7), "in/64", "1/2 in"),
        (mm(2.5, digits=TRIMMED), "mm", "2.5 mm"),
        (mm(0.16, digits=3), "thou", "6.3 thou"),
        (Area(12.0), "in", "0.0186 in²"),
        (Speed(20.0), "in", "0.7874 in/s"),
        (Volume(16.4), "thou", "0.001 in³"),
        (Speed(20.0), "mm", "20 mm/s"),
    ],
)
def test_a_fact_is_told_in_its_readers_unit_on_paper_as_on_the_screen(fact: Fact, unit: str, read: str) -> None:
    assert plain(say("mend.number", number="It is", value=fact), unit) == f"It is {read}"  # the same table stands in the front end


@given(st.sampled_from(sorted(ENGLISH)), st.text(min_size=1, max_size=12), st.floats(0, 5000))
def test_the_pieces_of_a_sentence_are_its_text_and_nothing_is_lost(key: str, label: str, length: float) -> None:
    facts = {name: (Ref(Kind.PART, "p", label), mm(length), label)[i % 3] for i, name in enumerate(sorted(_fields(key)))}
    said = say(key, **facts)
    told = said.spans
    assert said.text == plain(said)
    assert [s.ref.label for s in told if s.ref] == [label] * sum(isinstance(facts[n], Ref) for _, n, _, _ in Formatter().parse(ENGLISH[key]) if n)


def test_in_another_language_nothing_is_said_in_english() -> None:
    told = subprocess.run([sys.executable, "-m", "tests.tongue"], capture_output=True, text=True, check=True, cwd=CORE.parent)
    count, *still_english = told.stdout.splitlines()
    assert still_english == []
    assert int(count.split()[0]) > 5000
