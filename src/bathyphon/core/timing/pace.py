"""Where in its medium a sound has got to, sample by sample."""

from __future__ import annotations

from decimal import ROUND_FLOOR, Decimal
from typing import Protocol

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.integral import CurveArea


class Pace(Protocol):
    """A rising function from samples of an output to places of its source."""

    def at(self, t: Floats) -> Floats:
        """Places of the source, in samples, for places of the output."""

    def when(self, places: Floats, low: float, high: float) -> Floats:
        """First places of the output, between two, for places of the source."""


def _bisected(pace: Pace, places: Floats, low: float, high: float) -> Floats:
    a, b = np.full(places.shape, low), np.full(places.shape, high)
    for _ in range(56):
        middle = 0.5 * (a + b)
        beyond = pace.at(middle) >= places
        a, b = np.where(beyond, a, middle), np.where(beyond, middle, b)
    return b


class Steady:
    """A constant speed.

    Parameters
    ----------
    percent : float
    """

    def __init__(self, percent: float) -> None:
        self.percent = percent

    def at(self, t: Floats) -> Floats:
        """See :class:`Pace`."""
        return np.asarray(t * self.percent / 100.0)

    def when(self, places: Floats, low: float, high: float) -> Floats:
        """See :class:`Pace`."""
        return np.asarray(places * 100.0 / self.percent)


class Moving:
    """A keyframed speed in percent; the source moves on by its integral.

    Parameters
    ----------
    curve : Curve
        Over samples of the output.
    origin : int
        Sample of the curve's own time at which the output begins.
    sample_rate : int
    """

    def __init__(self, curve: Curve, origin: int, sample_rate: int) -> None:
        self._area = CurveArea(curve, sample_rate)
        self._origin = origin
        self._first = float(self._area.at(np.array([float(origin)]))[0])

    def at(self, t: Floats) -> Floats:
        """See :class:`Pace`."""
        return (self._area.at(np.asarray(t) + self._origin) - self._first) / 100.0

    def when(self, places: Floats, low: float, high: float) -> Floats:
        """See :class:`Pace`."""
        return _bisected(self, places, low, high)


def pace_of(percent: Curve, origin: int, sample_rate: int) -> Pace:
    """The pace of a speed in percent, from sample ``origin`` of its own time on.

    Examples
    --------
    >>> pace_of(Curve.constant(125.0), 0, 48000).at(np.array([48000.0]))
    array([60000.])
    """
    if percent.moves or percent.largest == 0.0:
        return Moving(percent, origin, sample_rate)
    return Steady(percent.keyframes[0].value)


def stretched_length(samples: int, percent: float) -> int:
    """Samples of a sound at a constant speed: floor(100·N/percent + ½), in exact decimals.

    Examples
    --------
    >>> stretched_length(48000, 125.0)
    38400
    """
    exact = Decimal(100 * samples) / Decimal(repr(percent)) + Decimal("0.5")
    return int(exact.to_integral_value(ROUND_FLOOR))
