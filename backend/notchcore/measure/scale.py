"""Models in scale 1:N: model = real / N, sizes only; thickness, fits and kerf are never scaled."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from notchcore.errors import require
from notchcore.units import Mm

PRESETS: tuple[tuple[float, str], ...] = (
    (5, "1:5, props"),
    (10, "1:10, furniture"),
    (12, "1:12, doll's house, 1 inch a foot"),
    (20, "1:20, rooms"),
    (24, "1:24, half inch a foot"),
    (25, "1:25, stage sets"),
    (32, "1:32"),
    (43.5, "1:43.5"),
    (48, "1:48, quarter inch a foot"),
    (50, "1:50, houses"),
    (64, "1:64"),
    (72, "1:72"),
    (76.2, "1:76.2, 4 mm a foot"),
    (87.1, "1:87.1"),
    (100, "1:100, buildings"),
    (148, "1:148"),
    (160, "1:160"),
    (200, "1:200, sites"),
    (500, "1:500, plans"),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class StandIn:
    """What a stock stands for in scale, and how far that is from what is wanted."""

    stock: str
    thickness: Mm
    real: Mm
    off: Mm  #: real minus wanted


def checked_scale(n: float) -> float:
    """Return N of a scale 1:N.

    Raises:
        ValueOutside: it is below 0.01 or above 10,000
    """
    return require("scale 1:N, N", n, least=0.01, most=10_000, unit="")


def model_of(real: Mm, n: float) -> Mm:
    """Return a real length in the model [mm].

    Raises:
        ValueOutside: the scale makes no sense
    """
    return real / checked_scale(n)


def real_of(model: Mm, n: float) -> Mm:
    """Return a length of the model in reality [mm].

    Raises:
        ValueOutside: the scale makes no sense
    """
    return model * checked_scale(n)


def stand_ins(wanted: Mm, n: float, *, stocks: Sequence[tuple[str, Mm]]) -> tuple[StandIn, ...]:
    """Return which stock stands for a real thickness best, nearest first; equal ones by name.

    Args:
        wanted: real thickness [mm]
        stocks: id and effective thickness [mm]
    """
    require("real thickness", wanted, least=0.01, most=100_000)
    found = [StandIn(stock=s, thickness=t, real=real_of(t, n), off=real_of(t, n) - wanted) for s, t in stocks]
    return tuple(sorted(found, key=lambda s: (abs(s.off), s.stock)))
