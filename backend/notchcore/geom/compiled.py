"""How the packing's inner loops are compiled: kept between runs, without the interpreter's lock."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from numba import njit

# Nothing that lets the order of sums change: then a kernel that was just compiled and the same from disk differ in the last digit, and so do the answers.
ORDERED = {"nnan", "ninf", "nsz"}
Kernel = TypeVar("Kernel", bound=Callable[..., Any])


def compiled(function: Kernel) -> Kernel:
    """Return a function that is compiled when it is first called, and found on disk later."""
    compile_it: Any = njit(cache=True, nogil=True, fastmath=ORDERED, error_model="numpy")
    made: Kernel = compile_it(function)
    return made
