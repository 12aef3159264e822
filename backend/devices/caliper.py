"""A simulated caliper with a line to the computer: somebody goes over a sheet with it and presses its button at each spot.

The protocol is described in docs/devices/caliper-protocol.md. Every sheet has a hidden thickness of its own, made from its
name, near what its label says, and a little different from spot to spot.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import random
from dataclasses import dataclass, field
from typing import Any

from devices.serving import serve

PAUSE = 0.7  # s between two presses of the button
MOST = 25  # presses on one sheet
LOCAL_SD = 0.02  # mm from spot to spot
LABEL_SD = 0.02  # share that a sheet is off its label


def hidden_thickness(sheet: str, label: float) -> float:
    """Return the true mean thickness of a sheet [mm], the same for the same name."""
    return label * (1 + random.Random(f"{sheet}|{label}").gauss(0, LABEL_SD))


@dataclass
class Caliper:
    """The instrument and the hand that holds it."""

    pace: float = 1.0
    sheet: str = ""
    label: float = 0.0
    waited: float = 0.0
    readings: list[float] = field(default_factory=list)
    chance: random.Random = field(default_factory=random.Random)

    def reply(self, message: dict[str, Any]) -> dict[str, Any]:
        """Answer `open` (begin with a sheet), `since` (readings after a number) and `close`."""
        kind = message["do"]
        if kind == "open":
            self.sheet, self.label = str(message["sheet"]), float(message["label"])
            if not 0.05 <= self.label <= 50:
                self.sheet = ""
                return {"ok": False, "why": "a label thickness between 0.05 and 50 mm is needed"}
            self.readings, self.waited = [], 0.0
            self.chance = random.Random(f"{self.sheet}|hand")
            return {"ok": True}
        if kind == "since":
            after = int(message["seq"])
            return {"ok": True, "sheet": self.sheet, "readings": [{"seq": i + 1, "mm": v} for i, v in enumerate(self.readings) if i >= after]}
        if kind == "close":
            self.sheet = ""
            return {"ok": True}
        return {"ok": False, "why": f"no such command: {kind}"}

    def tick(self, seconds: float) -> None:
        """Let time pass; press the button when it is time for the next spot."""
        if not self.sheet or len(self.readings) >= MOST:
            return
        self.waited += seconds * self.pace
        if self.waited >= PAUSE:
            self.waited = 0.0
            self.readings.append(round(hidden_thickness(self.sheet, self.label) + self.chance.gauss(0, LOCAL_SD), 2))


def main() -> None:
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--host", default="127.0.0.1")
    options.add_argument("--port", type=int, default=54431)
    options.add_argument("--pace", type=float, default=1.0, help="simulated seconds a real second")
    given = options.parse_args()
    caliper = Caliper(pace=given.pace)
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(serve(given.host, given.port, reply=caliper.reply, tick=caliper.tick))


if __name__ == "__main__":
    main()
