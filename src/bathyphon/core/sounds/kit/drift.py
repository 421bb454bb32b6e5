"""Values that wander slowly for ever, without repeating: gusts, swells, an unsteady pitch."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.chance import drawn
from bathyphon.core.sounds.kit.rate import RATE

PARTS = 7
STEP = RATE // 1000
SPREAD = 0.8
"""Natural logarithm of how far the parts' rates lie from the middle."""


def slowly(value: Callable[[Floats], Floats], start: int, stop: int, step: int = STEP) -> Floats:
    """What moves slowly, at samples ``[start, stop)``: straight between moments ``step`` apart.

    ``value`` is asked for those moments in seconds; it gives an array that ends with them.
    """
    first = start // step
    knots = np.arange(first, stop // step + 2, dtype=np.float64)
    rows = value(knots * (step / RATE))
    places = np.arange(start, stop)
    flat = [np.interp(places, knots * step, row) for row in rows.reshape(-1, knots.size)]
    return np.array(flat).reshape(*rows.shape[:-1], stop - start)


class Drift:
    """A sum of slow sines whose rates have no common measure; power 1.

    Parameters
    ----------
    name : str
        By which its rates and phases are drawn.
    hz : float
        How often it comes and goes.
    """

    def __init__(self, name: str, hz: float) -> None:
        chance = drawn(name)
        self._turns = 2 * math.pi * hz * np.exp(chance.uniform(-SPREAD, SPREAD, PARTS))
        self._phases = chance.uniform(0, 2 * math.pi, PARTS)

    def between(self, start: int, stop: int) -> Floats:
        """Its value at samples ``[start, stop)``."""
        return slowly(self.at, start, stop)

    def integral_between(self, start: int, stop: int) -> Floats:
        """See :meth:`integral`, at samples ``[start, stop)``."""
        return slowly(self.integral, start, stop)

    def at(self, seconds: Floats) -> Floats:
        """Its value at moments, shape like ``seconds``."""
        total = np.zeros_like(seconds)
        for turns, phase in zip(self._turns, self._phases, strict=True):
            total += np.sin(turns * seconds + phase)
        return total * math.sqrt(2 / PARTS)

    def integral(self, seconds: Floats) -> Floats:
        """What its value has added up to since zero: for a pitch's phase."""
        total = np.zeros_like(seconds)
        for turns, phase in zip(self._turns, self._phases, strict=True):
            total += (math.cos(phase) - np.cos(turns * seconds + phase)) / turns
        return total * math.sqrt(2 / PARTS)
