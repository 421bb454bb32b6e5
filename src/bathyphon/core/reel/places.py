"""The speed of a clip: where in its medium each moment of it lies.

A clip at another speed is a window of one stream. The stream begins at ``source_start`` of the
medium; the clip begins ``speed.origin`` samples into it. What divides a clip moves only windows, so
no bit of its sound changes.
"""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.reel.model import Clip
from bathyphon.core.reel.values import movable_curve
from bathyphon.core.timing.pace import Pace, pace_of

POINTS = 24
"""Points of an outline from one keyframe to the next."""


class ClipPlaces:
    """Places of the medium for samples of a clip, and back.

    Parameters
    ----------
    clip : Clip
    sample_rate : int
    """

    def __init__(self, clip: Clip, sample_rate: int) -> None:
        self._clip = clip
        self._pace: Pace | None = None
        if not clip.speed.at_own_speed:
            self._pace = pace_of(movable_curve(clip.speed.percent), -clip.speed.origin, sample_rate)

    def at(self, t: Floats) -> Floats:
        """Places of the medium, in samples, for samples counted from the clip's start."""
        t = np.asarray(t, np.float64) + self._clip.speed.origin
        return self._clip.source_start + (t if self._pace is None else self._pace.at(t))

    def when(self, places: Floats) -> Floats:
        """Samples from the clip's start at which places of the medium are first reached.

        Those before the clip's first and after its last lie outside ``[0, length)``.
        """
        places = np.asarray(places, np.float64)
        origin = self._clip.speed.origin
        if self._pace is None:
            return places - self._clip.source_start - origin
        first, last = self.at(np.array([0.0, self._clip.length]))
        inside = np.clip(places, first, last) - self._clip.source_start
        found = self._pace.when(inside, float(origin), float(origin + self._clip.length)) - origin
        return np.where(places < first, -1.0, np.where(places > last, self._clip.length, found))

    def begins(self) -> int:
        """Place of the medium at the clip's start, to the sample."""
        return int(np.floor(self.at(np.zeros(1))[0] + 0.5))

    def covers(self) -> int:
        """Samples of the medium that the clip plays."""
        first, last = self.at(np.array([0.0, self._clip.length]))
        return int(np.floor(last - first + 0.5))

    def outline(self) -> list[list[float]]:
        """Points that draw the map: samples of the clip, places of the medium."""
        length = self._clip.length
        curve = movable_curve(self._clip.speed.percent)
        t = np.array([0.0, float(length)])
        if curve.moves:
            knots = [0, *(k.at for k in curve.keyframes if 0 < k.at < length), length]
            t = np.unique(
                np.concatenate(
                    [np.linspace(a, b, POINTS) for a, b in zip(knots, knots[1:], strict=False)]
                )
            )
        return [[round(a), round(b, 1)] for a, b in zip(t, self.at(t), strict=True)]
