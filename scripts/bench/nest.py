"""./board bench nest [FOLDER]: how densely problems are packed in a time, beside the figures of a reference; judges nothing."""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent.parent
SECONDS = (2, 10, 60)
SEEDS = (1, 2)
#: density after 2, 10 and 60 s of a compiled solver that uses no holes, on the same problems
REFERENCE = {
    "jig30": (0.711, 0.782, 0.808),
    "jig30c": (0.674, 0.722, 0.786),
    "boxes": (0.738, 0.806, 0.841),
    "mixed90": (0.649, 0.675, 0.738),
    "rings": (0.436, 0.447, 0.453),
}


def packed(problem: Path, seconds: float, seed: int) -> tuple[float, float, int, float]:
    """Return when the first answer came [s], the last density, the sheets used, and how far the emptiest sheet is used [mm]."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "solution.json"
        command = [sys.executable, str(ROOT / "scripts" / "nest.py"), str(problem), "--seconds", str(seconds), "--seed", str(seed), "--out", str(out)]
        done = subprocess.run(command, capture_output=True, text=True, check=True, env=os.environ | {"PYTHONPATH": str(ROOT / "backend")})
        told = [json.loads(line) for line in done.stderr.splitlines()]
        told = [t for t in told if "density" in t]
        return told[0]["t"], told[-1]["density"], told[-1]["sheets"], _last_width(problem, out)


def _last_width(problem: Path, solution: Path) -> float:
    from shapely import affinity
    from shapely.geometry import Polygon

    shapes = {p["id"]: Polygon(p["outer"]) for p in json.loads(problem.read_text())["parts"]}
    ends: dict[str, float] = {}
    for p in json.loads(solution.read_text())["placements"]:
        right = affinity.translate(affinity.rotate(shapes[p["part"]], p["rotation"], origin=(0, 0)), p["x"], p["y"]).bounds[2]
        ends[p.get("sheet", "")] = max(ends.get(p.get("sheet", ""), 0.0), right)
    return min(ends.values(), default=0.0)


def main(folder: Path, seconds: tuple[float, ...]) -> None:
    print(f"{'':<12} {'s':>4} {'first s':>8} {'density':>8} {'ratio':>6}  sheets  last used mm   (best of seeds {SEEDS})")
    for problem in sorted(folder.glob("*.json")):
        for s in seconds:
            runs = [packed(problem, s, seed) for seed in SEEDS]
            best = max(runs, key=lambda r: (-r[2], r[1], -r[3]))
            figures = REFERENCE.get(problem.stem)
            ratio = f"{best[1] / figures[SECONDS.index(int(s))]:6.3f}" if figures and s in SECONDS else f"{'':6}"
            print(f"{problem.stem:<12} {s:4.0f} {min(r[0] for r in runs):8.2f} {best[1]:8.4f} {ratio}  {best[2]:6d}  {best[3]:12.1f}", flush=True)


def asked(given: list[str]) -> tuple[Path, tuple[float, ...]]:
    """Read FOLDER and SECONDS, as typed."""
    return Path(given[0]) if given else ROOT / "benchmarks" / "nesting", tuple(float(s) for s in given[1:]) or SECONDS[:2]
