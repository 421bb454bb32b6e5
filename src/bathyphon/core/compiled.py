"""The compiler of kernels, imported in one place, and asked for no more than is needed.

Kernels lie compiled on disk, and most processes only load them. The compiler nevertheless learns
all types and functions it knows before it loads the first one, which takes longer than to import
it. Here it loads first, and learns only when there is something to compile.

One of its parts asks whether there is a library of linear algebra, and imports all of SciPy's to
find out. No kernel makes use of it: the question is answered with no.
"""

from __future__ import annotations

from functools import cache
from typing import Any

from numba import njit
from numba.core.caching import Cache
from numba.core.runtime.nrt import rtsys

_compiler: Any = Cache
_memory: Any = rtsys
_learn_and_load = _compiler.load_overload


def _no_linear_algebra() -> None:
    raise ImportError("kernels do without linear algebra")


@cache
def _import_arrays() -> None:
    """The part that asks."""
    from numba.np import linalg

    asked = linalg.ensure_blas
    linalg.ensure_blas = _no_linear_algebra
    try:
        import numba.np.arraymath  # noqa: F401
    finally:
        linalg.ensure_blas = asked


def _load(kept: Any, signature: Any, target: Any) -> Any:
    """A kernel from disk; if it is not there, the compiler is made ready for it.

    The compiler calls this under its own lock.
    """
    # What kernels themselves call: counted memory.
    _memory.initialize(target)
    _import_arrays()
    with kept._guard_against_spurious_io_errors():
        kernel = kept._load_overload(signature, target)
        if kernel is not None:
            return kernel
    return _learn_and_load(kept, signature, target)


_compiler.load_overload = _load

__all__ = ["njit"]
