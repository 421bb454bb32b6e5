"""Values on their way from neutral to what is set."""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.timing.constants import lowest
from bathyphon.core.timing.shapes import Scale


@njit(cache=True, nogil=True)
def _ended(neutral: float, target: Floats, depth: Floats, out: Floats) -> None:  # pragma: no cover
    """Put the very values where a glide has not begun or has ended."""
    for k in range(out.size):
        if depth[k] >= 1.0:
            out[k] = target[k]
        elif depth[k] <= 0.0:
            out[k] = neutral


def glide_from(neutral: float, target: Floats, depth: Floats, scale: Scale) -> Floats:
    """Values on the way from ``neutral`` (depth 0) to ``target`` (depth 1), in their scale.

    They may be shared and must not be written to.
    """
    if lowest(depth) >= 1.0:
        return target
    if scale == "log":
        from_neutral = np.log(target)
        from_neutral -= math.log(neutral)
        from_neutral *= depth
        out = np.exp(from_neutral, out=from_neutral)
        out *= neutral
    else:
        out = neutral + depth * (target - neutral)
    _ended(neutral, target, depth, out)
    return out
