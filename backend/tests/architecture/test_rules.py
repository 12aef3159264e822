"""Rules of the house that a tool does not check."""

from __future__ import annotations

import ast
import importlib
import pkgutil
import sys
from pathlib import Path

import notchcore

ROOT = Path(__file__).parents[3]
LONGEST_MODULE = 450
LONGEST_FUNCTION = 60
POSITIONAL = 2  # arguments of a function; those that are handed on as values, or compiled, take what they are given
MOST_OTHERS = 40
FORBIDDEN_NAMES = {"utils", "helpers", "common", "manager", "misc"}


def modules() -> list[Path]:
    return [p for folder in ("notchcore", "apps", "config", "devices") for p in (ROOT / "backend" / folder).rglob("*.py") if "migrations" not in p.parts]


def test_every_core_module_and_public_function_says_what_it_is() -> None:
    missing = []
    for info in pkgutil.walk_packages(notchcore.__path__, "notchcore."):
        module = importlib.import_module(info.name)
        if not module.__doc__:
            missing.append(info.name)
        for node in ast.parse(Path(module.__file__ or "").read_text()).body:
            if not isinstance(node, ast.ClassDef | ast.FunctionDef) or node.name.startswith("_"):
                continue
            said = ast.get_docstring(node) or ""
            raises = isinstance(node, ast.FunctionDef) and any(isinstance(n, ast.Raise) and n.exc is not None for n in ast.walk(node))
            if not said or (raises and "Raises:" not in said):
                missing.append(f"{info.name}.{node.name}")
    assert missing == []


def test_modules_and_functions_stay_short() -> None:
    long = []
    for path in modules():
        text = path.read_text()
        if text.count("\n") > LONGEST_MODULE:
            long.append(str(path.relative_to(ROOT)))
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.FunctionDef) and (node.end_lineno or 0) - node.lineno > LONGEST_FUNCTION:
                long.append(f"{path.name}:{node.name}")
    assert long == []


def test_arguments_beyond_two_are_named_where_a_function_is_called() -> None:
    others = []
    for path in modules():
        for node in ast.parse(path.read_text()).body:
            if (
                not isinstance(node, ast.FunctionDef)
                or node.args.vararg
                or any("compiled" in ast.dump(d) or "router" in ast.dump(d) for d in node.decorator_list)
            ):
                continue
            if node.args.args[:1] and node.args.args[0].arg != "request" and len(node.args.args) > POSITIONAL:
                others.append(f"{path.name}:{node.name}")
    assert len(others) <= MOST_OTHERS, others


def test_no_module_is_named_for_nothing() -> None:
    assert [p.name for p in modules() if p.stem in FORBIDDEN_NAMES] == []


def test_every_planted_fault_has_its_line() -> None:
    """A fault whose line is gone proves nothing any more."""
    sys.path.insert(0, str(ROOT / "scripts" / "bench"))
    faults = importlib.import_module("planted")
    core = ROOT / "backend" / "notchcore"
    assert len(faults.FAULTS) >= 60
    assert [f.name for f in faults.FAULTS if (core / f.file).read_text().count(f.old) != 1] == []
