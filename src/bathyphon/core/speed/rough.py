"""A sound at another speed that can be had at once, wherever it is asked for.

What is exact goes on from the sound's beginning. This begins where it is asked for, with short
frames only and little at once, and goes on from there as long as the next is asked for.
"""

from __future__ import annotations

from collections.abc import Hashable

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.attacks import Read
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.latency import reach_of
from bathyphon.core.speed.reading import Resampled, stretched
from bathyphon.core.speed.stretch import soon

BACK_S, ON_S = 0.25, 0.5
"""What lies nearer to where it was read last is at hand, or soon reached."""


class Rough:
    """A sound at another speed and pitch, from anywhere on.

    Parameters
    ----------
    change : SpeedChange
        One that stretches; see :attr:`~bathyphon.core.speed.change.SpeedChange.stretches`.
    read : callable
        Samples from … to of the sound, shape (channels, n), silence beyond its ends.
    sample_rate : int
    name : hashable, optional
        Of what is read; see :class:`~bathyphon.core.speed.source.Source`.
    """

    def __init__(
        self, change: SpeedChange, read: Read, sample_rate: int, name: Hashable = None
    ) -> None:
        grid = soon(sample_rate)
        self._stretch, self._ratio = stretched(change, read, sample_rate, grid, name)
        self._back = round(BACK_S * sample_rate)
        self._on = round(ON_S * sample_rate)
        self._reached: int | None = None

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start)."""
        ratio = self._ratio
        at = self._reached
        if at is None or not at - self._back <= start <= at + self._on:
            place = (
                start
                if ratio is None
                else int(ratio.at(np.array([start], float))[0]) - reach_of(4.0)
            )
            self._stretch.begin_at(max(0, place))
        self._reached = stop
        if ratio is None:
            return self._stretch.read(start, stop)
        return Resampled(self._stretch.read, ratio.at, ratio.speeds).read(start, stop)
