"""Talking to a device: one JSON object a line over TCP (docs/devices/)."""

from __future__ import annotations

import json
import socket
from types import TracebackType
from typing import Any


class DeviceNotThere(Exception):
    """Nothing answers at the device's address."""


class DeviceLine:
    """A line to a device; use as a context manager."""

    def __init__(self, name: str, address: str, *, timeout: float = 3.0) -> None:
        self.name = name
        host, _, port = address.rpartition(":")
        try:
            self._socket = socket.create_connection((host, int(port)), timeout=timeout)
        except OSError as problem:
            raise DeviceNotThere(f"The {name} does not answer at {address}. Is it switched on (./board up starts the simulated one)?") from problem
        self._file = self._socket.makefile("rwb")

    def __enter__(self) -> DeviceLine:
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
            raise DeviceNotThere(f"The line to the {self.name} broke.") from problem
        if not line:
            raise DeviceNotThere(f"The {self.name} closed the line.")
        return dict(json.loads(line))
