"""Panning."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats


@njit(cache=True, nogil=True)
def _gains(position: Floats, out: Floats) -> None:  # pragma: no cover - compiled
    for k in range(position.size):
        if position[k] == 0.0:
            out[0, k] = 1.0
            out[1, k] = 1.0
        else:
            angle = (position[k] + 100.0) / 200.0 * math.pi / 2.0
            out[0, k] = max(0.0, math.sqrt(2.0) * math.cos(angle))
            out[1, k] = max(0.0, math.sqrt(2.0) * math.sin(angle))


def pan_gains(position: Floats) -> Floats:
    """Gains of left and right for positions −100 (left) to 100 (right), shape (2, n).

    Constant power, normalised to unity at the centre: the two powers add to 2.
    """
    out = np.empty((2, position.size))
    _gains(position, out)
    return out
