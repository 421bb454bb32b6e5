"""The compiler of kernels, imported in one place.

While it sets itself up, the compiler asks whether there is a library of linear algebra, and imports
all of SciPy's to find out. No kernel makes use of it, and it takes half as long to import as the
compiler itself: here the question is answered with no.
"""

from __future__ import annotations

from numba import njit
from numba.np import linalg


def _none() -> None:
    raise ImportError("kernels do without linear algebra")


_asked = linalg.ensure_blas
linalg.ensure_blas = _none
try:
    import numba.np.arraymath  # noqa: F401
finally:
    linalg.ensure_blas = _asked

__all__ = ["njit"]
