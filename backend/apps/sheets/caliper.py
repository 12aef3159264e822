"""Readings from a caliper with a line to the computer (docs/devices/caliper-protocol.md)."""

from __future__ import annotations

from typing import Any

from django.conf import settings

from apps.sheets.models import Stock
from devices.line import DeviceLine, DeviceNotThere
from notchcore.errors import MeasureError
from notchcore.words.render import say


def _say(**message: Any) -> dict[str, Any]:
    try:
        with DeviceLine("caliper", settings.CALIPER_ADDRESS, timeout=1.0) as line:
            told = line.say(**message)
    except DeviceNotThere as problem:
        raise MeasureError(say("caliper_silent", why=str(problem))) from problem
    if not told["ok"]:
        raise MeasureError(say("caliper_refused", why=told["why"]))
    return told


def begin(stock: Stock) -> None:
    """Tell the caliper which sheet is measured now."""
    _say(do="open", sheet=stock.name, label=stock.label_mm)


def since(stock: Stock, seq: int) -> list[dict[str, float]]:
    """Return the readings that were taken after number `seq`; none when the caliper has gone on to another sheet."""
    told = _say(do="since", seq=seq)
    return list(told["readings"]) if told["sheet"] == stock.name else []


def end() -> None:
    """Put the caliper down."""
    _say(do="close")
