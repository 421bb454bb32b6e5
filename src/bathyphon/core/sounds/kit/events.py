"""What happens by chance: moments, each with numbers of its own to make a sound of."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.chance import drawn
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.kit.ringing import add_grains, add_tones

CELL = RATE // 2
DRAWN = 6


@dataclass(frozen=True)
class Events:
    """Moments within a stretch, or a little before it.

    Parameters
    ----------
    at : ndarray of int64, shape (m,)
        Samples from the stretch's first one.
    seconds : ndarray, shape (m,)
        When they are, from the beginning of the sound.
    u : ndarray, shape (6, m)
        Numbers of each, even between 0 and 1.
    """

    at: NDArray[np.int64]
    seconds: Floats
    u: Floats

    def where(self, keep: NDArray[np.bool_]) -> Events:
        """Some of them."""
        return Events(self.at[keep], self.seconds[keep], self.u[:, keep])

    def later(self, seconds: ArrayLike) -> Events:
        """As many, each so much later."""
        seconds = np.asarray(seconds, float)
        return Events(
            self.at + np.round(seconds * RATE).astype(np.int64), self.seconds + seconds, self.u
        )

    def spread(self, column: int, low: float, high: float) -> Floats:
        """Numbers from ``low`` to ``high``, even on a logarithmic scale."""
        return np.asarray(low * (high / low) ** self.u[column])

    def sides(self, column: int, width: float = 1.0) -> tuple[Floats, Floats]:
        """Levels on both sides of places drawn across the width (constant power)."""
        angle = (0.5 + width * (self.u[column] - 0.5)) * math.pi / 2
        return np.cos(angle), np.sin(angle)


def poisson(name: str, start: int, stop: int, rate: float, longest_s: float) -> Events:
    """Moments that come by chance, on average ``rate`` of them a second.

    Parameters
    ----------
    longest_s : float
        How long what happens may sound: so much earlier ones are given too.
    """
    first = (start - math.ceil(longest_s * RATE)) // CELL
    places: list[Floats] = [np.zeros(0)]
    numbers: list[Floats] = [np.zeros((DRAWN, 0))]
    for cell in range(first, -(-stop // CELL)):
        chance = drawn(name, cell)
        count = int(chance.poisson(rate * CELL / RATE))
        places.append(np.sort(chance.uniform(0, CELL, count)) + cell * CELL)
        numbers.append(chance.uniform(0, 1, (DRAWN, count)))
    return _events(np.concatenate(places), np.concatenate(numbers, axis=1), start, stop)


def regular(
    name: str, start: int, stop: int, every_s: float, uneven: float, longest_s: float
) -> Events:
    """Moments that come in step, each early or late by up to ``uneven`` of a step."""
    step = every_s * RATE
    first = math.floor((start - longest_s * RATE) / step) - 1
    places: list[float] = []
    numbers: list[Floats] = [np.zeros((DRAWN, 0))]
    for k in range(first, math.ceil(stop / step) + 1):
        chance = drawn(name, k)
        places.append((k + 0.5 + uneven * chance.uniform(-0.5, 0.5)) * step)
        numbers.append(chance.uniform(0, 1, (DRAWN, 1)))
    return _events(np.array(places), np.concatenate(numbers, axis=1), start, stop)


def at_seconds(name: str, start: int, seconds: ArrayLike) -> Events:
    """Moments that are given, with numbers drawn for each."""
    moments = np.asarray(seconds, float)
    numbers = drawn(name).uniform(0, 1, (DRAWN, moments.size))
    return _events(moments * RATE, numbers, start, np.iinfo(np.int64).max)


def _events(places: Floats, numbers: Floats, start: int, stop: int) -> Events:
    at = np.floor(places).astype(np.int64)
    keep = at < stop
    return Events(at[keep] - start, places[keep] / RATE, numbers[:, keep])


def tones(
    out: Floats,
    events: Events,
    hz: ArrayLike,
    decay: ArrayLike,
    left: ArrayLike,
    right: ArrayLike,
    rise: ArrayLike = 0.0,
    attack_s: ArrayLike = 0.0,
) -> None:
    """Add a decaying tone at each moment, see :func:`add_tones`."""
    count = events.at.size
    rows = [_each(row, count) for row in (hz, rise, decay, left, right, attack_s)]
    add_tones(out, events.at, *rows)


def grains(
    out: Floats,
    events: Events,
    hz: ArrayLike,
    width: ArrayLike,
    decay: ArrayLike,
    left: ArrayLike,
    right: ArrayLike,
    attack_s: ArrayLike = 0.0,
) -> None:
    """Add a burst of noise at each moment, see :func:`add_grains`."""
    count = events.at.size
    seeds = (events.u[DRAWN - 1] * 2**32).astype(np.uint64).astype(np.uint32)
    rows = [_each(row, count) for row in (hz, width, decay, left, right, attack_s)]
    hz_, width_, decay_, left_, right_, attack_ = rows
    add_grains(out, events.at, hz_, width_, decay_, left_, right_, attack_, seeds)


def _each(value: ArrayLike, count: int) -> Floats:
    return np.ascontiguousarray(np.broadcast_to(np.asarray(value, float), (count,)))
