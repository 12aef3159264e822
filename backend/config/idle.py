"""Looking for garbage when nobody waits for it.

An edit of a large assembly makes a few hundred thousand small values, none of them in cycles. Looking through them while it is built took up
to a third of the time a person waited for it; here it is done once the server has been still for a moment.
"""

from __future__ import annotations

import gc
import threading
import time
from typing import Any

from django.core.signals import request_finished, request_started

STILL_S = 1.0  # without a request
LOOK_S = 0.5
WORTH = 20_000  # new values since the last time
TOO_MANY = 3_000_000  # then it is done at once, whoever waits
OLD_EVERY = 20  # times, everything that is kept is looked through too


class Idle:
    """When the last request began or ended, and what was looked through."""

    def __init__(self) -> None:
        self.last = time.monotonic()
        self.looked = 0

    def touched(self, **_: Any) -> None:
        self.last = time.monotonic()

    def look(self) -> bool:
        """Look for garbage when it is time; return whether it was."""
        if time.monotonic() - self.last < STILL_S or gc.get_count()[0] < WORTH:
            return False
        self.looked += 1
        gc.collect(2 if self.looked % OLD_EVERY == 0 else 1)
        return True

    def watch(self) -> None:
        while True:
            time.sleep(LOOK_S)
            self.look()


def collect_when_idle() -> Idle:
    """Begin; return what keeps account of it."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(TOO_MANY, 20, 50)
    idle = Idle()
    for signal in (request_started, request_finished):
        signal.connect(idle.touched, weak=False)
    threading.Thread(target=idle.watch, name="idle", daemon=True).start()
    return idle
