"""The compiler of kernels, imported in one place.

While it sets itself up, the compiler imports SciPy's linear algebra, of which no kernel makes use
and which takes half as long to import as the compiler itself. Here it is told that there is none.
"""

from __future__ import annotations

import sys

from numba import njit

_LINEAR_ALGEBRA = "scipy.linalg.cython_blas"

if _LINEAR_ALGEBRA not in sys.modules:
    # What stands for a module as None cannot be imported, by the rules of Python's import.
    sys.modules[_LINEAR_ALGEBRA] = None  # type: ignore[assignment]
    try:
        import numba.np.arraymath  # noqa: F401
    finally:
        del sys.modules[_LINEAR_ALGEBRA]

__all__ = ["njit"]
