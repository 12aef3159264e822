"""Cutting a large board down to blanks that the bed takes, with a saw: every cut goes straight through the piece it is made in.

Rip cuts come first, right across the board; then each strip is cut across. Blanks are as few and as large as can be; their grain
runs as the board's does, and a blank that lies turned on the bed says so.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from notchcore.errors import NestError, require
from notchcore.units import Mm
from notchcore.words.render import say

LEAST: Mm = 40.0  # a narrower rest is waste
EVEN: Mm = 0.05  # lengths that differ by less are one


@dataclass(frozen=True, slots=True, kw_only=True)
class Blank:
    """A piece of the board: its lower left corner there, and its size along the board's width and height."""

    x: Mm
    y: Mm
    width: Mm
    height: Mm
    turned: bool  #: it lies turned by a quarter on the bed


@dataclass(frozen=True, slots=True, kw_only=True)
class SawCut:
    """One cut from edge to edge of the piece that is cut; the line is the middle of the saw's kerf."""

    x0: Mm
    y0: Mm
    x1: Mm
    y1: Mm
    stop: Mm  #: what the fence or stop is set to: from the last cut or edge to this one


@dataclass(frozen=True, slots=True, kw_only=True)
class CutDown:
    """All cuts in their order, and the blanks that come of them."""

    width: Mm
    height: Mm
    saw: Mm
    cuts: tuple[SawCut, ...]
    blanks: tuple[Blank, ...]
    waste: float  #: share of the board that goes into the kerf of the saw and narrow rests


def _lengths(whole: Mm, most: Mm, *, saw: Mm, even: bool) -> list[Mm]:
    """Return the lengths into which a stretch is cut: all as long as can be and a rest, or all alike."""
    if whole <= most + EVEN:
        return [whole]
    count = math.ceil((whole + saw - EVEN) / (most + saw))
    if even:
        return [(whole - (count - 1) * saw) / count] * count
    rest = whole - (count - 1) * (most + saw)
    return [most] * (count - 1) + ([rest] if rest > EVEN else [])


def _longest(width: Mm, bed: tuple[Mm, Mm]) -> Mm:
    """Return how long a strip of some width may be on the bed, either way round; 0 when it is too wide."""
    return max((along for across, along in (bed, bed[::-1]) if width <= across + EVEN), default=0.0)


def cut_down(width: Mm, height: Mm, *, bed: tuple[Mm, Mm], saw: Mm = 3.0) -> CutDown:
    """Return how a board is cut into blanks for the bed.

    Raises:
        ValueOutside: a size or the saw's kerf makes no sense
        NestError: the board fits the bed as it is
    """
    require("board", width, least=5.0, most=10_000.0)
    require("board", height, least=5.0, most=10_000.0)
    require("saw kerf", saw, least=0.0, most=20.0)
    if _longest(width, bed) >= height - EVEN:
        raise NestError(say("board_fits_bed"))
    found = []
    for rip_x in (True, False):
        long, wide = (width, height) if rip_x else (height, width)
        for most in sorted(set(bed)):
            for even in (False, True):
                plan = _planned(long, _lengths(long, most, saw=saw, even=even), wide=wide, bed=bed, saw=saw, rip_x=rip_x)
                found.append(
                    CutDown(
                        width=width,
                        height=height,
                        saw=saw,
                        cuts=plan[0],
                        blanks=plan[1],
                        waste=max(1 - sum(b.width * b.height for b in plan[1]) / (width * height), 0.0),
                    )
                )

    def worth(plan: CutDown) -> tuple[float, ...]:
        smallest = min((min(b.width, b.height) for b in plan.blanks), default=0.0)
        return round(plan.waste, 4), len(plan.blanks), len(plan.cuts), -smallest

    return min(found, key=worth)


def _planned(long: Mm, strips: list[Mm], *, wide: Mm, bed: tuple[Mm, Mm], saw: Mm, rip_x: bool) -> tuple[tuple[SawCut, ...], tuple[Blank, ...]]:
    """Return cuts and blanks for strips side by side along `long`; `wide` is how long each is."""
    rips, crosses, blanks = [], [], []
    for at, strip, cut in _places(long, strips, saw=saw):
        if cut:
            rips.append(_cut(at + strip + saw / 2, 0.0, end=wide, stop=strip, along_x=rip_x))
        pieces = _lengths(wide, _longest(strip, bed), saw=saw, even=False)
        if pieces[-1] < LEAST:
            pieces = _lengths(wide, _longest(strip, bed), saw=saw, even=True)
        for y, piece, cross in _places(wide, pieces, saw=saw):
            if cross:
                crosses.append(_cut(y + piece + saw / 2, at, end=at + strip, stop=piece, along_x=not rip_x))
            if min(strip, piece) >= LEAST:
                (w, h), (x0, y0) = ((strip, piece), (at, y)) if rip_x else ((piece, strip), (y, at))
                blanks.append(Blank(x=x0, y=y0, width=w, height=h, turned=not (w <= bed[0] + EVEN and h <= bed[1] + EVEN)))
    return (*rips, *crosses), tuple(blanks)


def _places(whole: Mm, lengths: list[Mm], *, saw: Mm) -> Iterator[tuple[Mm, Mm, bool]]:
    """Yield where each length starts, and whether a cut ends it; one may only trim the board's end off."""
    at = 0.0
    for length in lengths:
        yield at, length, at + length < whole - EVEN
        at += length + saw


def _cut(at: Mm, start: Mm, *, end: Mm, stop: Mm, along_x: bool) -> SawCut:
    """Return a cut across x (`along_x`: its place is an x), or across y."""
    return SawCut(x0=at, y0=start, x1=at, y1=end, stop=stop) if along_x else SawCut(x0=start, y0=at, x1=end, y1=at, stop=stop)
