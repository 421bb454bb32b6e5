"""Values that never move: one array for all who ask."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats

_constants: dict[float, Floats] = {}
_NONE = np.empty(0)
MOST_CONSTANTS = 64
LONGEST_CONSTANT = 1 << 16
"""Samples of a whole render's block; more than that is made anew, so that little memory is held."""


def constant(value: float, count: int) -> Floats:
    """The same value ``count`` times; shared, and not to be written to.

    Most parameters never move: filling new memory with them cost as much as some effects.
    """
    if count > LONGEST_CONSTANT:
        return np.full(count, value)
    held = _constants.get(value)
    if held is None or held.size < count:
        if len(_constants) >= MOST_CONSTANTS:
            _constants.clear()
        held = _constants[value] = np.full(count, value)
    return held[:count]


def shared_constants() -> dict[float, Floats]:
    """What :func:`constant` holds, by value: every one of them must still be constant."""
    return _constants


def still(values: Floats) -> Floats:
    """The same values, as a single one if they do not move."""
    if not values.size:
        return values
    held = _constants.get(float(values[0]))
    if (held is not None and values.base is held) or (values == values[0]).all():
        return values[:1]
    return values


def lowest(values: Floats) -> float:
    """Smallest of values between 0 and 1, or 1 if there are none; of shared ones at once."""
    if not values.size:
        return 1.0
    first = float(values[0])
    return first if values.base is _constants.get(first, _NONE) else float(values.min())
