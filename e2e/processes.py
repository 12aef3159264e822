"""Processes beside the live server that a journey may start and kill."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

from django.conf import settings
from django.db import connection

BACKEND = Path(__file__).resolve().parent.parent / "backend"


class Worker:
    """The true worker as a process that can be killed."""

    def __init__(self) -> None:
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        env = os.environ | {
            "PG_DB": str(connection.settings_dict["NAME"]),
            "LASER_ADDRESS": settings.LASER_ADDRESS,
        }
        arguments = [
            sys.executable,
            "manage.py",
            "procrastinate",
            "worker",
            "-q",
            "stage,long,system,machine",
            "-c",
            "2",
        ]
        self.process = subprocess.Popen(
            arguments,
            cwd=BACKEND,
            env=env,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )

    def kill(self) -> None:
        assert self.process is not None
        self.process.send_signal(signal.SIGKILL)
        self.process.wait(10)

    def stop(self) -> None:
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(2)  # it would end its work first: nobody waits for that here
            except subprocess.TimeoutExpired:
                self.kill()
