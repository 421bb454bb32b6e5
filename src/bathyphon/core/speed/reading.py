"""Reading a sound at another speed and pitch."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.attacks import Read
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.latency import reach_of
from bathyphon.core.speed.ratio import Ratio, ShiftedPace
from bathyphon.core.speed.resample import read_at
from bathyphon.core.speed.source import Source
from bathyphon.core.speed.stretch import WHOLE, Grid, Stretch

STANDING = 0.02
"""Reading speed below which a sound fades away."""
PIECE = 65536
"""Samples that are read at once."""


class Readable(Protocol):
    """Anything that yields samples."""

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start)."""


def sound_at(
    change: SpeedChange, read: Read, sample_rate: int, grid: Grid = WHOLE, name: Hashable = None
) -> Readable:
    """A sound at another speed and pitch; its sample 0 is sample 0 of what is read.

    Parameters
    ----------
    change : SpeedChange
    read : callable
        Samples from … to of the sound, shape (channels, n), silence beyond its ends.
    sample_rate : int
    grid : Grid
        How much is computed at once.
    name : hashable, optional
        Of what is read; see :class:`~bathyphon.core.speed.source.Source`.
    """
    if change.plain:
        return _Plain(read)
    if not change.stretches:
        return Resampled(read, change.pace(sample_rate).at, change.ratio(sample_rate).speeds)
    stretch, ratio = stretched(change, read, sample_rate, grid, name)
    return Resampled(stretch.read, ratio.at, ratio.speeds) if ratio else stretch


def stretched(
    change: SpeedChange, read: Read, sample_rate: int, grid: Grid, name: Hashable = None
) -> tuple[Stretch, Ratio | None]:
    """A sound at another pace, and how fast that is to be read for its pitch; None for as it is."""
    pace, ratio = change.pace(sample_rate), change.ratio(sample_rate)
    source, voice = Source(read, sample_rate, grid.block, name), change.material == "voice"
    if change.pitch == "hold" and not change.shifted:
        return Stretch(source, pace, voice, change.envelope(None, sample_rate), grid), None
    envelope = change.envelope(ratio, sample_rate)
    return Stretch(source, ShiftedPace(pace, ratio), voice, envelope, grid), ratio


@dataclass(frozen=True)
class _Plain:
    read: Read


class Resampled:
    """A sound read at places between its samples, at a speed that may move.

    Parameters
    ----------
    read : callable
    places : callable
        Places of the sound for samples of the output.
    speeds : callable
        ``(at, n)``: samples of the sound per sample of the output.
    """

    def __init__(
        self, read: Read, places: Callable[[Floats], Floats], speeds: Callable[[int, int], Floats]
    ) -> None:
        self._read = read
        self._places = places
        self._speeds = speeds

    def read(self, start: int, stop: int) -> Floats:
        """Samples ``start … stop − 1``, shape (channels, stop − start)."""
        parts = [
            self._piece(a, min(a + PIECE, stop)) for a in range(start, max(stop, start + 1), PIECE)
        ]
        channels = max(part.shape[0] for part in parts)
        whole = [np.broadcast_to(part, (channels, part.shape[1])) for part in parts]
        return whole[0] if len(whole) == 1 else np.concatenate(whole, axis=1)

    def _piece(self, start: int, stop: int) -> Floats:
        speeds = self._speeds(start, stop - start)
        places = self._places(np.arange(start, stop, dtype=np.float64))
        reach = reach_of(float(speeds.max(initial=1.0)))
        first = int(np.floor(places.min(initial=np.inf))) - reach if places.size else 0
        last = int(np.ceil(places.max(initial=-np.inf))) + reach if places.size else 0
        x = self._read(first, last + 1)
        if x.shape[0] == 2 and np.array_equal(x[0], x[1]):
            x = x[:1]
        y = read_at(x, places, speeds, first)
        if speeds.min(initial=1.0) >= STANDING:
            return y
        # What stands still would sound on as a constant.
        u = np.minimum(speeds / STANDING, 1.0)
        return np.asarray(y * (u * u * (3.0 - 2.0 * u)))
