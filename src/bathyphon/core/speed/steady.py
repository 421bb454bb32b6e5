"""A sound at a constant speed and pitch."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from bathyphon.core.curves import Floats
from bathyphon.core.speed.music import stretch_music
from bathyphon.core.speed.resample import read_steadily
from bathyphon.core.speed.timemap import stretched_length

SLOWEST, FASTEST = 10.0, 400.0
WIDEST_ST = 24.0
"""Semitones up or down."""


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
    """

    percent: float = 100.0
    pitch: Literal["hold", "follow"] = "hold"
    semitones: float = 0.0

    @property
    def ratio(self) -> float:
        """Factor of all frequencies."""
        own = self.percent / 100.0 if self.pitch == "follow" else 1.0
        return own * float(2.0 ** (self.semitones / 12.0))


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
        The very input where nothing is changed.
    """
    length = stretched_length(x.shape[1], change.percent)
    if change.pitch == "follow" and change.semitones == 0.0:
        if change.percent == 100.0:
            return x.copy()
        return read_steadily(x, change.percent / 100.0, length)
    # Reading faster raises the pitch; what is read was stretched to last so much longer.
    ratio = change.ratio
    stretched = stretch_music(x, change.percent / ratio, sample_rate)
    return stretched if ratio == 1.0 else read_steadily(stretched, ratio, length)
