"""Talking to a laser: one JSON object a line over TCP (docs/devices/laser-protocol.md)."""

from __future__ import annotations

import json
import socket
from types import TracebackType
from typing import Any


class LaserNotThere(Exception):
    """Nothing answers at the machine's address."""


class LaserLine:
    """A line to the machine; use as a context manager."""

    def __init__(self, address: str, *, timeout: float = 3.0) -> None:
        host, _, port = address.rpartition(":")
        try:
            self._socket = socket.create_connection((host, int(port)), timeout=timeout)
        except OSError as problem:
            raise LaserNotThere(f"The laser does not answer at {address}. Is it switched on (./board up starts the simulated one)?") from problem
        self._file = self._socket.makefile("rwb")

    def __enter__(self) -> LaserLine:
        return self

    def __exit__(self, kind: type[BaseException] | None, value: BaseException | None, trace: TracebackType | None) -> None:
        self._file.close()
        self._socket.close()

    def say(self, **message: Any) -> dict[str, Any]:
        """Send one message and return the answer."""
        try:
            self._file.write(json.dumps(message).encode() + b"\n")
            self._file.flush()
            line = self._file.readline()
        except OSError as problem:
            raise LaserNotThere("The line to the laser broke.") from problem
        if not line:
            raise LaserNotThere("The laser closed the line.")
        return dict(json.loads(line))
