"""A whole sound at a constant speed and pitch."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.attacks import Read
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import PIECE, sound_at
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.pace import stretched_length

Formants = Literal["hold", "follow"]


@dataclass(frozen=True)
class Change:
    """What is changed of a sound.

    Parameters
    ----------
    percent : float
        Speed, 10 to 400.
    pitch : {"hold", "follow"}
        Whether the pitch stays or goes with the speed.
    semitones : float
        Shift of the pitch besides, −24 to 24; cents are hundredths.
    formants : {"hold", "follow"}
        Whether formants stay where they are or go with the pitch.
    material : {"voice", "music"}
        A single voice keeps the shape of its pulses.
    """

    percent: float = 100.0
    pitch: Literal["hold", "follow"] = "hold"
    semitones: float = 0.0
    formants: Formants = "follow"
    material: Literal["voice", "music"] = "music"

    @property
    def ratio(self) -> float:
        """Factor of all frequencies."""
        own = self.percent / 100.0 if self.pitch == "follow" else 1.0
        return own * float(2.0 ** (self.semitones / 12.0))

    @property
    def change(self) -> SpeedChange:
        """The same with curves."""
        return SpeedChange(
            Curve.constant(self.percent),
            Curve.constant(self.semitones),
            pitch=self.pitch,
            formants=self.formants,
            material=self.material,
        )


def changed(x: Floats, change: Change, sample_rate: int) -> Floats:
    """A sound at another speed or pitch.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
    change : Change
    sample_rate : int

    Returns
    -------
    ndarray of float64, shape (channels, floor(100·n/percent + ½))
        The same values where nothing is changed.
    """
    length = stretched_length(x.shape[1], change.percent)
    pieces = list(changed_pieces(reader(x), change, length, sample_rate))
    whole = np.concatenate(pieces, axis=1) if pieces else np.zeros((x.shape[0], 0))
    return np.array(np.broadcast_to(whole, (x.shape[0], length)))


def changed_pieces(read: Read, change: Change, length: int, sample_rate: int) -> Iterator[Floats]:
    """``length`` samples of a sound at another speed or pitch, piece by piece.

    Parameters
    ----------
    read : callable
        Samples from … to of the sound, shape (channels, n), silence beyond its ends.
    change : Change
    length, sample_rate : int
    """
    sound = sound_at(change.change, read, sample_rate)
    for start in range(0, length, PIECE):
        yield sound.read(start, min(start + PIECE, length))


def reader(x: Floats | NDArray[np.float32]) -> Read:
    """Reads samples of a sound, and silence beyond its ends."""

    def read(start: int, stop: int) -> Floats:
        out = np.zeros((x.shape[0], stop - start))
        a, b = max(start, 0), min(stop, x.shape[1])
        if a < b:
            out[:, a - start : b - start] = x[:, a:b]
        return out

    return read
