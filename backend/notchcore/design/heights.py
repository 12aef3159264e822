"""Height fields: how high a form stands at every place of its plan.

Formula   a sum of x and y, both from 0 to 1 over the plan, that gives a share of the rise
Grid      rows of shares, front row first, between which heights are interpolated

Both give a share from 0 to 1; what lies outside is held at the nearer end.
"""

from __future__ import annotations

import ast
import math
import operator
from collections.abc import Callable
from functools import lru_cache

from notchcore.errors import DesignError
from notchcore.words.facts import Sentence
from notchcore.words.render import say

Height = Callable[[float, float], float]
MOST_NODES = 120
MOST_CELLS = 128
_FUNCTIONS: dict[str, Callable[..., float]] = {
    "sin": math.sin,
    "cos": math.cos,
    "sqrt": lambda v: math.sqrt(max(v, 0.0)),
    "abs": abs,
    "exp": lambda v: math.exp(min(v, 60.0)),
    "min": min,
    "max": max,
}
_NAMES = {"pi": math.pi}
_BINARY: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
    ast.Pow: math.pow,
}


@lru_cache(maxsize=64)
def formula(text: str) -> Height:
    """Return the height field that a formula describes.

    Raises:
        DesignError: it is not a formula of x and y
    """
    try:
        tree = ast.parse(text.replace("^", "**"), mode="eval")
    except (SyntaxError, ValueError, MemoryError, RecursionError):
        raise _not_understood(text, say("no_heights.sum")) from None
    if sum(1 for _ in ast.walk(tree)) > MOST_NODES:
        raise _not_understood(text, say("no_heights.long"))
    inner = _compiled(tree.body, text)

    def height(x: float, y: float) -> float:
        try:
            value = inner(x, y)
        except (ArithmeticError, ValueError):
            return 0.0
        return min(max(value, 0.0), 1.0) if math.isfinite(value) else 0.0

    return height


def _not_understood(text: str, why: Sentence) -> DesignError:
    return DesignError(say("no_heights", text=text, why=why), field="formula")


def _compiled(node: ast.expr, text: str) -> Height:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float) and not isinstance(node.value, bool):
        number = float(node.value) if abs(node.value) < 1e12 else math.inf
        return lambda x, y: number
    if isinstance(node, ast.Name):
        if node.id == "x":
            return lambda x, y: x
        if node.id == "y":
            return lambda x, y: y
        if node.id in _NAMES:
            constant = _NAMES[node.id]
            return lambda x, y: constant
        raise _not_understood(text, say("no_heights.name", name=node.id))
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
        sign, of = -1.0 if isinstance(node.op, ast.USub) else 1.0, _compiled(node.operand, text)
        return lambda x, y: sign * of(x, y)
    if isinstance(node, ast.BinOp) and type(node.op) in _BINARY:
        do, left, right = _BINARY[type(node.op)], _compiled(node.left, text), _compiled(node.right, text)
        return lambda x, y: do(left(x, y), right(x, y))
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in _FUNCTIONS and not node.keywords and 1 <= len(node.args) <= 4:
        name, inner = node.func.id, [_compiled(a, text) for a in node.args]
        if (name in ("min", "max")) is (len(inner) < 2):
            raise _not_understood(text, say("no_heights.values", name=name))
        call = _FUNCTIONS[name]
        return lambda x, y: call(*(f(x, y) for f in inner))
    raise _not_understood(text, say("no_heights.known", functions=", ".join(_FUNCTIONS)))


@lru_cache(maxsize=16)
def grid(rows: tuple[tuple[float, ...], ...]) -> Height:
    """Return the height field of a grid, bilinear between its points.

    Raises:
        DesignError: the rows are not of one length, too few or too many
    """
    if not 2 <= len(rows) <= MOST_CELLS or not 2 <= len(rows[0]) <= MOST_CELLS or any(len(r) != len(rows[0]) for r in rows):
        raise DesignError(say("height_grid", most=MOST_CELLS), field="grid")
    if any(not math.isfinite(v) for row in rows for v in row):
        raise DesignError(say("height_no_number"), field="grid")

    def height(x: float, y: float) -> float:
        u, v = min(max(x, 0.0), 1.0) * (len(rows[0]) - 1), min(max(y, 0.0), 1.0) * (len(rows) - 1)
        i, j = min(int(u), len(rows[0]) - 2), min(int(v), len(rows) - 2)
        du, dv = u - i, v - j
        front = rows[j][i] * (1 - du) + rows[j][i + 1] * du
        back = rows[j + 1][i] * (1 - du) + rows[j + 1][i + 1] * du
        return min(max(front * (1 - dv) + back * dv, 0.0), 1.0)

    return height
