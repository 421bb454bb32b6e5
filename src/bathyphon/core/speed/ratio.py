"""How fast what has been made is read, for its pitch."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal, Protocol

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.pace import Pace
from bathyphon.core.timing.shapes import glide_samples

CELL = 16
"""Samples from one known place of a moving pitch to the next."""
NEVER = 1e-6


@dataclass(frozen=True)
class Factor:
    """A curve that takes part in a reading speed: in percent, or in semitones times ``weight``."""

    curve: Curve
    kind: Literal["percent", "semitones"]
    weight: float = 1.0

    def of(self, values: Floats) -> Floats:
        """Factors of the reading speed for values of the curve."""
        if self.kind == "percent":
            return values / 100.0
        return np.asarray(2.0 ** (values * self.weight / 12.0))


class Ratio:
    """A reading speed, steady or moving: the product of its factors.

    Parameters
    ----------
    factors : tuple of Factor
        Over samples of the output.
    origin : int
        Sample of the curves' own time at which the output begins.
    sample_rate : int
    """

    def __init__(self, factors: tuple[Factor, ...], origin: int, sample_rate: int) -> None:
        self._factors = factors
        self._origin = origin
        self._rate = sample_rate
        frames = [k.at for f in factors if f.curve.moves for k in f.curve.keyframes]
        self.moves = bool(frames)
        self._begins = (min(frames, default=0) - origin) // CELL
        last = max(frames, default=0) + glide_samples(sample_rate) - origin
        self._cells = max(0, -(-last // CELL) - self._begins) if frames else 0
        self._head, self._foot = (
            float(self.speeds(at, 1)[0])
            for at in (self._begins * CELL - CELL, (self._begins + self._cells) * CELL + CELL)
        )

    def speeds(self, at: int, n: int) -> Floats:
        """Reading speed at samples of the output, shape (n,)."""
        out = np.ones(n)
        for factor in self._factors:
            out *= factor.of(factor.curve.values(at + self._origin, n, self._rate))
        return out

    @cached_property
    def _areas(self) -> Floats:
        """Places at the beginning of each cell in which it moves, from the first on."""
        if not self.moves:
            return np.zeros(1)
        speeds = self.speeds(self._begins * CELL, self._cells * CELL + 1)
        # Simpson's rule over whole cells of samples.
        cells = np.lib.stride_tricks.sliding_window_view(speeds, CELL + 1)[::CELL]
        weights = np.full(CELL + 1, 2.0)
        weights[1::2] = 4.0
        weights[[0, -1]] = 1.0
        return np.concatenate([[0.0], np.cumsum((cells * weights).sum(axis=1) / 3.0)])

    def at(self, t: Floats) -> Floats:
        """Places of what is read, for places of the output; 0 for 0."""
        return self._from_first(np.asarray(t, np.float64)) - self._zero

    @cached_property
    def _zero(self) -> float:
        return float(self._from_first(np.zeros(1))[0])

    def _from_first(self, t: Floats) -> Floats:
        if not self.moves:
            return np.asarray(t * self._head)
        areas = self._areas
        ends = float(areas.size - 1)
        cell = t / CELL - self._begins
        inside = np.interp(np.clip(cell, 0.0, ends), np.arange(areas.size), areas)
        inside = np.where(cell < 0.0, cell * CELL * self._head, inside)
        beyond = areas[-1] + (cell - ends) * CELL * self._foot
        return np.asarray(np.where(cell > ends, beyond, inside))

    def when(self, places: Floats) -> Floats:
        """Places of the output, for places of what is read; the first that it can be."""
        q = np.asarray(places, np.float64) + self._zero
        if not self.moves:
            return np.asarray(q / max(self._head, NEVER))
        areas = self._areas
        cell = np.interp(q, areas, np.arange(areas.size))
        # What is never reached lies as far away as the output is long.
        head, foot = max(self._head, NEVER), max(self._foot, NEVER)
        cell = np.where(q < 0.0, q / head / CELL, cell)
        beyond = areas.size - 1 + (q - areas[-1]) / foot / CELL
        cell = np.where(q > areas[-1], beyond, cell)
        return np.asarray((cell + self._begins) * CELL)


class ReadingSpeed(Protocol):
    """A reading speed that may move."""

    def at(self, t: Floats) -> Floats:
        """Places of what is read, for places of the output."""

    def when(self, places: Floats) -> Floats:
        """Places of the output, for places of what is read."""

    def speeds(self, at: int, n: int) -> Floats:
        """Reading speed at samples of the output, shape (n,)."""


class ShiftedPace:
    """The pace of a stretched sound that is read at another speed afterwards, for its pitch.

    Parameters
    ----------
    pace : Pace
        Of the final output.
    ratio : ReadingSpeed
    """

    def __init__(self, pace: Pace, ratio: ReadingSpeed) -> None:
        self._pace = pace
        self._ratio = ratio

    def at(self, t: Floats) -> Floats:
        """See :class:`Pace`."""
        return self._pace.at(self._ratio.when(np.asarray(t)))

    def when(self, places: Floats, low: float, high: float) -> Floats:
        """See :class:`Pace`."""
        first, last = self._ratio.when(np.array([low, high]))
        return self._ratio.at(self._pace.when(places, float(first), float(last)))
