"""Chance that is always the same: numbers that depend on a name and a place alone."""

from __future__ import annotations

from functools import lru_cache
from hashlib import blake2b

import numpy as np
from numpy.typing import NDArray

CELL = 1 << 15
"""Samples of noise that are drawn at once."""
_BEFORE_ZERO = 1 << 62


@lru_cache(4096)
def _key(name: str) -> NDArray[np.uint64]:
    return np.frombuffer(blake2b(name.encode(), digest_size=16).digest(), np.uint64)


def drawn(name: str, cell: int = 0) -> np.random.Generator:
    """A generator for one cell of what goes by a name; cells may lie before zero.

    Salmon et al., "Parallel random numbers: as easy as 1, 2, 3" (2011): Philox draws any cell
    without those before it.
    """
    counter = np.array([0, 0, cell + _BEFORE_ZERO, 0], np.uint64)
    return np.random.Generator(np.random.Philox(key=_key(name), counter=counter))


def noise(name: str, start: int, stop: int, channels: int = 2) -> NDArray[np.float32]:
    """White noise of power 1, samples ``[start, stop)``, shape (channels, stop − start).

    In single precision, as are filters: what is random has no use for more.
    """
    first, last = start // CELL, -(-stop // CELL)
    cells = [
        drawn(name, k).standard_normal((channels, CELL), np.float32) for k in range(first, last)
    ]
    if not cells:
        return np.zeros((channels, 0), np.float32)
    whole = np.concatenate(cells, axis=1)
    return whole[:, start - first * CELL : stop - first * CELL]
