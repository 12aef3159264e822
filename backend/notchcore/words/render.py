"""Sentences as people read them: in pieces for the screen, which knows the reader's unit and leads where a name leads, or as plain text."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import cache
from string import Formatter

from notchcore.units import MM_PER_INCH, clock, shown, shown_speed, unit_name
from notchcore.words.facts import Angle, Area, Count, Duration, Fact, Figure, Length, Listed, Names, Of, Places, Ref, Sentence, Share, Span, Speed, Volume
from notchcore.words.language import TEMPLATES, called

FINE = 2  # digits in mm, from which on hundredths matter


def say(key: str, /, **facts: Fact) -> Sentence:
    """Return a sentence of the catalogue.

    Raises:
        KeyError: it is not in the catalogue, or lacks a fact
    """
    return Sentence(key, facts, tuple(_joined(_pieces(key, facts)))) if facts else _bare(key)


@cache
def _bare(key: str) -> Sentence:
    """Return a sentence without facts: the same one each time."""
    return Sentence(key, {}, tuple(_joined(_pieces(key, {}))))


@cache
def _parsed(key: str) -> tuple[tuple[str, str | None], ...]:
    return tuple((text, name) for text, name, _, _ in Formatter().parse(TEMPLATES[key]))


def written(text: str) -> Sentence:
    """Return what a person, a device or a library has written, as it is."""
    return say("as_written", text=text)


def plain(sentence: Sentence, unit: str = "mm") -> str:
    """Return a sentence as text, its lengths in a unit of DISPLAY_UNITS."""
    return "".join(_told(s, unit) for s in sentence.spans)


def _told(span: Span, unit: str) -> str:
    if not span.mm or unit == "mm":
        return span.text
    if span.of is Of.SPEED:
        return " × ".join(shown_speed(v, unit) for v in span.mm)
    if span.of is Of.BARE:
        return shown(span.mm[0], unit)
    if span.of is not Of.LENGTH:
        power, sign = (2, "²") if span.of is Of.AREA else (3, "³")
        return " × ".join(f"{v / MM_PER_INCH**power:.3g}" for v in span.mm) + f" in{sign}"
    return f"{' × '.join(shown(v, unit, fine=span.digits is not None and span.digits >= FINE) for v in span.mm)} {unit_name(unit)}"


def _figure(value: float, digits: int | None) -> str:
    return f"{value:g}" if digits is None else f"{value:.{digits}f}"


def _pieces(key: str, facts: Mapping[str, Fact]) -> Iterable[Span]:
    for text, name in _parsed(key):
        if text:
            yield Span(text)
        if name is not None:
            yield from _of_fact(facts[name])


def _of_fact(fact: Fact) -> Iterable[Span]:
    match fact:
        case Ref(label=label):
            yield Span(label, ref=fact)
        case Names():
            yield from _of_names(fact)
        case Places(points=points):
            for i, (x, y) in enumerate(points):
                last = i == len(points) - 1
                yield Span(f"{x:.1f}", (x,), 1, of=Of.BARE)
                yield Span(", ")
                yield Span(f"{y:.1f} mm", (y,), 1) if last else Span(f"{y:.1f}", (y,), 1, of=Of.BARE)
                yield Span("" if last else "; ")
        case Sentence(spans=spans):
            yield from spans
        case Listed(sentences=some, between=between):
            for i, one_of_them in enumerate(some):
                yield Span(between if i else "")
                yield from one_of_them.spans
        case int() | str():
            yield Span(str(fact))
        case _:
            yield _of_number(fact)


def _of_number(fact: Length | Area | Volume | Speed | Duration | Angle | Figure | Share | Count) -> Span:
    match fact:
        case Length(mm=lengths, digits=digits):
            return Span(f"{' × '.join(_figure(v, digits) for v in lengths)} mm", lengths, digits)
        case Area(mm2=area, digits=digits):
            return Span(f"{area:.{digits}f} mm²", (area,), digits, of=Of.AREA)
        case Volume(mm3=volume):
            return Span(f"{volume:.1f} mm³", (volume,), of=Of.VOLUME)
        case Speed(mm_s=speed):
            return Span(shown_speed(speed, "mm"), (speed,), of=Of.SPEED)
        case _:
            return Span(_plain_number(fact))


def _plain_number(fact: Duration | Angle | Figure | Share | Count) -> str:
    match fact:
        case Duration(seconds=seconds):
            return clock(seconds)
        case Angle(degrees=degrees, digits=digits):
            return f"{degrees:.{digits}f}°"
        case Figure(value=value, digits=digits):
            return f"{value:.{digits}f}"
        case Share(of_one=share):
            return f"{share:.0%}"
        case Count(number=number, one=one, many=many):
            return f"{number} {called(one if number == 1 else many)}"


def _of_names(names: Names) -> Iterable[Span]:
    """A, B and C; of more than `most`, the first and how many others."""
    refs, more = names.refs, len(names.refs) - names.most
    shown_ones = refs if more <= 0 else refs[: names.most - 1]
    others = len(refs) - len(shown_ones)
    for i, ref in enumerate(shown_ones):
        last = i == len(shown_ones) - 1 and not others
        if i:
            yield Span(TEMPLATES["names.and"] if last else ", ")
        yield Span(ref.label, ref=ref)
    if others:
        yield Span(TEMPLATES["names.others"].format(others=others))


def _joined(pieces: Iterable[Span]) -> Iterable[Span]:
    """Yield the pieces with neighbouring texts as one."""
    text = ""
    for piece in pieces:
        if piece.mm or piece.ref:
            if text:
                yield Span(text)
            yield piece
            text = ""
        else:
            text += piece.text
    if text:
        yield Span(text)
