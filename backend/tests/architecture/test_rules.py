"""Rules of the house that a tool does not check."""

from __future__ import annotations

import ast
import importlib
import pkgutil
import sys
from pathlib import Path

import notchcore

ROOT = Path(__file__).parents[3]
LONGEST_MODULE = 400
LONGEST_FUNCTION = 40  # lines of its body; compiled loops are one piece
POSITIONAL = 2  # arguments of a function; those that are handed on as values, or compiled, take what they are given
GIVEN_NAMES = {"_curveToOne"}  # what a library calls as it wants
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


def _compiled(node: ast.FunctionDef) -> bool:
    return any("compiled" in ast.dump(d) for d in node.decorator_list)


def _length(node: ast.FunctionDef) -> int:
    """Return the lines of a function's body without its docstring."""
    first = node.body[1 if ast.get_docstring(node) and len(node.body) > 1 else 0]
    return (node.end_lineno or 0) - first.lineno + 1


def test_modules_and_functions_stay_short() -> None:
    long = []
    for path in modules():
        text = path.read_text()
        if text.count("\n") > LONGEST_MODULE:
            long.append(str(path.relative_to(ROOT)))
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.FunctionDef) and not _compiled(node) and _length(node) > LONGEST_FUNCTION:
                long.append(f"{path.name}:{node.name}")
    assert long == []


def _handed_on() -> set[str]:
    """Return the names of functions that are used as values: they take what they are given."""
    trees = [ast.parse(p.read_text()) for p in modules()]
    called = {id(n.func) for t in trees for n in ast.walk(t) if isinstance(n, ast.Call)}
    uses = (n for t in trees for n in ast.walk(t) if isinstance(n, ast.Name | ast.Attribute) and id(n) not in called and isinstance(n.ctx, ast.Load))
    return {n.id if isinstance(n, ast.Name) else n.attr for n in uses}


def test_arguments_beyond_two_are_named_where_a_function_is_called() -> None:
    others, given = [], _handed_on()
    for path in modules():
        tree = ast.parse(path.read_text())
        methods = [f for c in ast.walk(tree) if isinstance(c, ast.ClassDef) for f in c.body]
        for node in (*tree.body, *methods):
            if not isinstance(node, ast.FunctionDef) or node.args.vararg or node.name in given | GIVEN_NAMES or node.name.startswith("__"):
                continue
            if _compiled(node) or any("router" in ast.dump(d) for d in node.decorator_list):
                continue
            own = [a.arg for a in node.args.args if a.arg not in ("self", "cls")]
            if own[:1] != ["request"] and len(own) > POSITIONAL:
                others.append(f"{path.name}:{node.name}")
    assert others == []


def test_no_module_is_named_for_nothing() -> None:
    assert [p.name for p in modules() if p.stem in FORBIDDEN_NAMES] == []


def test_every_planted_fault_has_its_line() -> None:
    """A fault whose line is gone proves nothing any more."""
    sys.path.insert(0, str(ROOT / "scripts" / "bench"))
    faults = importlib.import_module("planted")
    core = ROOT / "backend" / "notchcore"
    assert len(faults.FAULTS) >= 60
    assert [f.name for f in faults.FAULTS if (core / f.file).read_text().count(f.old) != 1] == []
