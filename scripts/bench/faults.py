"""Planted faults: each is put into a copy of the core, one at a time, and something must turn red.

The tests named beside a fault are run first; what they do not see, the second workshop must.
"""
# ruff: noqa: T201  (a table on the screen is what it is for; the lines of code that are changed stand as they are)

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from argparse import ArgumentParser
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue

from planted import FAULTS, Fault

BACKEND = Path(__file__).resolve().parent.parent.parent / "backend"
SEEDS = 45
LONGEST_S = 600
SECOND = "tests/core/test_workshop.py"
GONE = "the line is not there any more: mend the list"


class _Copies:
    """Copies of the backend that faults are planted in, one for each worker; they stay where they are, so that loops are compiled once."""

    def __init__(self, count: int) -> None:
        self.free: Queue[Path] = Queue()
        for k in range(count):
            folder = BACKEND.parent / "var" / "faults" / str(k) / "backend"
            shutil.rmtree(folder, ignore_errors=True)
            shutil.copytree(BACKEND, folder, ignore=shutil.ignore_patterns("__pycache__", ".hypothesis", ".mypy_cache"))
            (folder.parent / "var" / "static").mkdir(parents=True, exist_ok=True)  # or no test of the server runs at all
            self.free.put(folder)

    def red(self, tests: str) -> str:
        """Return the tests when they are red without any fault: what turns red anyway sees nothing."""
        folder = self.free.get()
        try:
            return "" if _ended(folder, tests) == 0 else tests
        finally:
            self.free.put(folder)

    def caught(self, fault: Fault) -> str:
        """Plant a fault, return what saw it (empty when nothing did), and take it out again."""
        folder = self.free.get()
        path = (folder / "notchcore" / fault.file).resolve()
        text = path.read_text()
        try:
            if text.count(fault.old) != 1:
                return GONE
            path.write_text(text.replace(fault.old, fault.new))
            return _seen_in(folder, fault)
        finally:
            path.write_text(text)
            self.free.put(folder)


def _ended(folder: Path, tests: str) -> int | None:
    """Run tests in a copy and return how they ended; None for too late."""
    env = os.environ | {
        "PYTHONPATH": str(folder),
        "TWIN_PROJECTS": str(SEEDS),
        "HYPOTHESIS_PROFILE": "quick",
        "PYTHONDONTWRITEBYTECODE": "1",
        "NUMBA_CACHE_DIR": str(folder.parent / "kernels"),
        "BOARD_VAR": str(folder.parent / "var"),
        "PG_DB": f"faults_{folder.parent.name}",  # two at a time: each tests in a database of its own
    }
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", tests]
    try:
        return subprocess.run(command, cwd=folder, env=env, capture_output=True, timeout=LONGEST_S, check=False).returncode
    except subprocess.TimeoutExpired:
        return None


def _seen_in(folder: Path, fault: Fault) -> str:
    for tests, seen in (*((t, t) for t in fault.tests.split()), (SECOND, "second workshop")):
        if (folder / tests).exists() and _ended(folder, tests) == 1:
            return seen
    return ""


def main(words: list[str]) -> None:
    asked = ArgumentParser(prog="./board bench faults")
    asked.add_argument("--only", default="", help="those whose name holds one of these, apart by commas")
    given = asked.parse_args(words)
    some = [f for f in FAULTS if any(word in f.name for word in given.only.split(","))]
    copies, caught = _Copies(2), 0
    of_server = sorted({t for f in some for t in f.tests.split() if "/apps/" in t})  # they need a database and folders beside the code
    with ThreadPoolExecutor(2) as pool:
        if red := [t for t in pool.map(copies.red, of_server) if t]:
            print(f"Red without any fault, so nothing can be told: {', '.join(red)}")
            sys.exit(1)
        for fault, seen in zip(some, pool.map(copies.caught, some), strict=True):
            caught += bool(seen) and seen != GONE
            print(f"{'caught' if seen and seen != GONE else 'MISSED'}  {fault.name}: {seen or 'nothing turned red'}", flush=True)
    print(f"{caught} of {len(some)} planted faults caught")
