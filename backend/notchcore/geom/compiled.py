"""How the packing's inner loops are compiled: kept between runs, without the interpreter's lock."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from numba import njit

Kernel = TypeVar("Kernel", bound=Callable[..., Any])


def compiled(function: Kernel) -> Kernel:
    """Return a function that is compiled when it is first called, and found on disk later."""
    compile_it: Any = njit(cache=True, nogil=True, fastmath=True, error_model="numpy")
    made: Kernel = compile_it(function)
    return made
