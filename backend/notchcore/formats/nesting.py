"""Packing problems and their solutions as JSON files (docs/formats.md): what `./board nest` reads and writes."""

from __future__ import annotations

import json
from typing import Any

from notchcore.errors import NestError
from notchcore.geom.profile import Ring, area_of
from notchcore.nest.problem import ANY_TURN, MOST_IN_ALL, Answer, PartKind, Problem, SheetSpec
from notchcore.words.render import plain, say

KINDS = ("strip", "bin")


def _field(data: Any, name: str, *, path: str, default: Any = None) -> Any:
    if not isinstance(data, dict):
        raise NestError(say("file.object", where=path or "problem"), field=path or "problem")
    where = f"{path}.{name}" if path else name
    if name not in data and default is None:
        raise NestError(say("file.missing", where=where), field=where)
    return data.get(name, default)


def _number(value: Any, path: str) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise NestError(say("file.number", where=path), field=path)
    return float(value)


def _count(value: Any, path: str) -> int:
    number = _number(value, path)
    if not number.is_integer() or number < 0:
        raise NestError(say("file.whole", where=path), field=path)
    return int(number)


def _list(value: Any, path: str) -> list[Any]:
    if not isinstance(value, list):
        raise NestError(say("file.list", where=path), field=path)
    return value


def _ring(value: Any, path: str, *, hole: bool = False) -> Ring:
    """Return an outline counter-clockwise (a hole clockwise), without a repeated last point."""
    points = _list(value, path)
    try:
        ring = tuple((float(x), float(y)) for x, y in points)
    except (TypeError, ValueError) as problem:
        raise NestError(say("file.points", where=path), field=path) from problem
    if len(ring) > 1 and ring[0] == ring[-1]:
        ring = ring[:-1]
    return ring[::-1] if len(ring) > 2 and (area_of(ring) < 0) != hole else ring


def _part(data: Any, path: str) -> PartKind:
    turns = data.get("rotations", [0.0]) if isinstance(data, dict) else [0.0]
    allowed = ANY_TURN if turns is None else tuple(_number(t, f"{path}.rotations[{i}]") for i, t in enumerate(_list(turns, f"{path}.rotations")))
    return PartKind(
        id=str(_field(data, "id", path=path)),
        outer=_ring(_field(data, "outer", path=path), f"{path}.outer"),
        holes=tuple(_ring(h, f"{path}.holes[{i}]", hole=True) for i, h in enumerate(_list(_field(data, "holes", path=path, default=[]), f"{path}.holes"))),
        count=_count(_field(data, "qty", path=path, default=1), f"{path}.qty"),
        turns=allowed,
    )


def _sheet(data: Any, path: str) -> SheetSpec:
    return SheetSpec(
        id=str(_field(data, "id", path=path)),
        outer=_ring(_field(data, "outer", path=path), f"{path}.outer"),
        bad=tuple(_ring(b, f"{path}.bad[{i}]") for i, b in enumerate(_list(_field(data, "bad", path=path, default=[]), f"{path}.bad"))),
        count=_count(_field(data, "count", path=path, default=1), f"{path}.count"),
        cost=_number(_field(data, "cost", path=path, default=0.0), f"{path}.cost"),
    )


def read_problem(text: str) -> Problem:
    """Return the problem that a file tells of; what it says is not checked for sense yet (see `problem.checked`).

    Raises:
        NestError: it is no such file; names the field
    """
    if text.count("[") > 2 * MOST_IN_ALL:  # told before a huge file is taken apart
        raise NestError(say("problem.corners_in_all", most=MOST_IN_ALL), field="parts")
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as problem:
        raise NestError(say("file.no_json", problem=str(problem)), field="problem") from problem
    kind = _field(data, "kind", path="")
    if kind not in KINDS:
        raise NestError(say("file.kind", kinds=", ".join(KINDS)), field="kind")
    if data.get("units", "mm") != "mm":
        raise NestError(say("file.units"), field="units")
    strip = _number(_field(_field(data, "strip", path=""), "height", path="strip"), "strip.height") if kind == "strip" else None
    sheets = _list(_field(data, "sheets", path=""), "sheets") if kind == "bin" else []
    ids: set[str] = set()
    for i, part in enumerate(parts := _list(_field(data, "parts", path=""), "parts")):
        name = str(_field(part, "id", path=f"parts[{i}]"))
        if name in ids:
            raise NestError(say("file.twice", i=i, name=name), field=f"parts[{i}].id")
        ids.add(name)
    return Problem(
        name=str(data.get("name", "")),
        parts=tuple(_part(p, f"parts[{i}]") for i, p in enumerate(parts)),
        spacing=_number(data.get("spacing", 0.0), "spacing"),
        margin=_number(data.get("margin", 0.0), "margin"),
        strip_height=strip,
        sheets=tuple(_sheet(s, f"sheets[{i}]") for i, s in enumerate(sheets)),
    )


def solution_data(problem: Problem, answer: Answer) -> dict[str, Any]:
    """Return an answer as it stands in a file."""
    placements: list[dict[str, Any]] = []
    for p in answer.placed:
        at: dict[str, Any] = {"part": problem.parts[p.part].id, "rotation": p.turn, "x": p.x, "y": p.y}
        if problem.strip_height is None:
            at["sheet"] = f"{problem.sheets[p.sheet].id}#{p.copy}"
        placements.append(at)
    data: dict[str, Any] = {"instance": problem.name, "placements": placements}
    if problem.strip_height is not None:
        data["length"] = answer.length
    if answer.left:
        data["unplaced"] = [{"part": problem.parts[k].id, "qty": n, "why": plain(why)} for k, n, why in answer.left]
    return data
