"""Serving a simulated device on loopback: one JSON object a line over TCP, one answer for each."""

from __future__ import annotations

import asyncio
import contextlib
import json
from collections.abc import Callable
from typing import Any

TICK = 0.02  # s of real time between steps of a simulation


def answer(reply: Callable[[dict[str, Any]], dict[str, Any]], line: bytes) -> dict[str, Any]:
    """Return the reply to one line; anything that is not understood is refused with a reason."""
    try:
        return reply(json.loads(line))
    except (ValueError, KeyError, TypeError, AttributeError) as problem:
        return {"ok": False, "why": f"not understood: {problem}"}


async def serve(host: str, port: int, *, reply: Callable[[dict[str, Any]], dict[str, Any]], tick: Callable[[float], None]) -> None:
    """Answer every line with `reply`, and let the device live in steps of TICK."""

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(ConnectionError, asyncio.IncompleteReadError):
            while line := await reader.readline():
                writer.write(json.dumps(answer(reply, line)).encode() + b"\n")
                await writer.drain()
        writer.close()

    server = await asyncio.start_server(talk, host, port, limit=32 * 1024 * 1024)
    async with server:
        while True:
            await asyncio.sleep(TICK)
            tick(TICK)
