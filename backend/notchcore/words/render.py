"""Sentences as people read them: in pieces for the screen, which knows the reader's unit and leads where a name leads, or as plain text."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from string import Formatter

from notchcore.units import Mm, shown, unit_name
from notchcore.words.english import ENGLISH
from notchcore.words.facts import Count, Fact, Length, Listed, Names, Ref, Sentence, Share, Volume

FINE = 2  # digits in mm, from which on hundredths matter
MM3_PER_IN3 = 25.4**3


@dataclass(frozen=True, slots=True)
class Segment:
    """A piece of a sentence: text, or a size, or a name that leads somewhere."""

    text: str  #: with lengths in mm
    mm: tuple[Mm, ...] = ()
    digits: int = 0
    ref: Ref | None = None


def segments(sentence: Sentence) -> tuple[Segment, ...]:
    """Return a sentence in pieces.

    Raises:
        KeyError: it is not in the catalogue, or lacks a fact
    """
    return tuple(_joined(_pieces(sentence)))


def plain(sentence: Sentence, unit: str = "mm") -> str:
    """Return a sentence as text, its lengths in a unit of DISPLAY_UNITS.

    Raises:
        KeyError: it is not in the catalogue, or lacks a fact
    """
    return "".join(_told(s, unit) for s in segments(sentence))


def _told(segment: Segment, unit: str) -> str:
    if not segment.mm or unit == "mm":
        return segment.text
    return f"{' × '.join(shown(v, unit, fine=segment.digits >= FINE) for v in segment.mm)} {unit_name(unit)}"


def _pieces(sentence: Sentence) -> Iterable[Segment]:
    for text, name, _, _ in Formatter().parse(ENGLISH[sentence.key]):
        if text:
            yield Segment(text)
        if name is not None:
            yield from _of_fact(sentence.facts[name])


def _of_fact(fact: Fact) -> Iterable[Segment]:
    match fact:
        case Length(mm=lengths, digits=digits):
            yield Segment(f"{' × '.join(f'{v:.{digits}f}' for v in lengths)} mm", lengths, digits)
        case Volume(mm3=volume):
            yield Segment(f"{volume:.1f} mm³")
        case Share(of_one=share):
            yield Segment(f"{share:.0%}")
        case Count(number=number, one=one, many=many):
            yield Segment(f"{number} {one if number == 1 else many}")
        case Ref(label=label):
            yield Segment(label, ref=fact)
        case Names():
            yield from _of_names(fact)
        case Sentence():
            yield from _pieces(fact)
        case Listed(sentences=some):
            for i, one_of_them in enumerate(some):
                yield Segment(", ") if i else Segment("")
                yield from _pieces(one_of_them)
        case _:
            yield Segment(str(fact))


def _of_names(names: Names) -> Iterable[Segment]:
    """A, B and C; of more than `most`, the first and how many others."""
    refs, more = names.refs, len(names.refs) - names.most
    shown_ones = refs if more <= 0 else refs[: names.most - 1]
    others = len(refs) - len(shown_ones)
    for i, ref in enumerate(shown_ones):
        last = i == len(shown_ones) - 1 and not others
        if i:
            yield Segment(" and " if last else ", ")
        yield Segment(ref.label, ref=ref)
    if others:
        yield Segment(f" and {others} others")


def _joined(pieces: Iterable[Segment]) -> Iterable[Segment]:
    """Yield the pieces with neighbouring texts as one."""
    text = ""
    for piece in pieces:
        if piece.mm or piece.ref:
            if text:
                yield Segment(text)
            yield piece
            text = ""
        else:
            text += piece.text
    if text:
        yield Segment(text)
