"""Spectra: of a moment, averaged over a stretch, and summed by octaves."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.signal import get_window

from bathyphon.core.arrays import Floats

FRAME = 4096
OCTAVES_HZ = (31.5, 63.0, 125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0, 16000.0)
"""Nominal centres of octave bands (IEC 61260-1, from memory)."""
SILENT_DB = -160.0


class Spectrum:
    """Takes blocks of one channel and averages their power spectra.

    P. D. Welch, "The use of fast Fourier transform for the estimation of power spectra", IEEE
    Transactions on Audio and Electroacoustics 15 (1967): frames that overlap by half, Hann window.

    Parameters
    ----------
    rate : int
        Samples a second.
    frame : int
        Samples of a frame.
    """

    def __init__(self, rate: int, frame: int = FRAME) -> None:
        self.rate = rate
        self.frame = frame
        self._window = get_window("hann", frame)
        self._rest = np.zeros(0)
        self._sum = np.zeros(frame // 2 + 1)
        self._count = 0

    def add(self, sound: NDArray[np.floating]) -> None:
        """Add a block of shape (n,)."""
        x = np.concatenate([self._rest, sound.astype(np.float64)])
        hop = self.frame // 2
        count = max(0, (x.size - self.frame) // hop + 1)
        for first in range(0, count, 64):
            frames = np.lib.stride_tricks.sliding_window_view(x, self.frame)[::hop]
            part = frames[first : min(first + 64, count)]
            self._sum += (np.abs(np.fft.rfft(part * self._window)) ** 2).sum(axis=0)
        self._count += count
        self._rest = x[count * hop :]

    @property
    def hz(self) -> Floats:
        """Frequencies of the bins."""
        return np.asarray(np.fft.rfftfreq(self.frame, 1.0 / self.rate), np.float64)

    def power(self) -> Floats:
        """Mean power of each bin, shape (frame // 2 + 1,); they add up to the mean square."""
        if not self._count and self._rest.size:
            padded = np.zeros(self.frame)
            padded[: self._rest.size] = self._rest
            return _one_sided(np.abs(np.fft.rfft(padded)) ** 2) / (self.frame * self._rest.size)
        return one_sided(self._sum / max(1, self._count), self._window)

    def octaves(self) -> list[tuple[float, float]]:
        """Centre and level in dBFS of each octave band below half the rate."""
        return octave_levels(self.hz, self.power())


def one_sided(power: Floats, window: Floats) -> Floats:
    """Mean square of each bin of a squared transform, what lies above half the rate added."""
    return _one_sided(power) / (window.size * float(np.sum(window * window)))


def octave_levels(hz: Floats, power: Floats) -> list[tuple[float, float]]:
    """Power summed by octaves; a bin that an edge runs through counts by its share.

    Parameters
    ----------
    hz, power : ndarray of float64, shape (n,)
        Evenly spaced frequencies from 0 on, and the mean square at each.

    Returns
    -------
    list of (centre in Hz, level in dB)
    """
    centres = np.array([c for c in OCTAVES_HZ if c / np.sqrt(2.0) < hz[-1]])
    step = float(hz[1] - hz[0])
    low, high = (power_below(power, step, centres * up) for up in (np.sqrt(0.5), np.sqrt(2.0)))
    bands = zip(centres.tolist(), (high - low).tolist(), strict=True)
    return [(centre, db_of_power(band)) for centre, band in bands]


def power_below(power: Floats, step: float, hz: Floats) -> Floats:
    """Power below some frequencies; a bin that one of them runs through counts by its share.

    Parameters
    ----------
    power : ndarray of float64, shape (..., bins)
        Mean square of each bin, from 0 on.
    step : float
        Hz from one bin to the next: each reaches half of that to either side.
    hz : ndarray of float64, shape (m,)

    Returns
    -------
    ndarray of float64, shape (..., m)
    """
    bins = power.shape[-1]
    total = np.zeros((*power.shape[:-1], bins + 1))
    np.cumsum(power, axis=-1, out=total[..., 1:])
    place = np.clip(hz / step + 0.5, 0.0, float(bins))
    low = np.minimum(place.astype(np.int64), bins - 1)
    share = place - low
    return np.asarray(total[..., low] * (1.0 - share) + total[..., low + 1] * share)


def db_of_power(power: float) -> float:
    """Level of a mean square, at least :data:`SILENT_DB`."""
    return float(10.0 * np.log10(max(power, 10.0 ** (SILENT_DB / 10.0))))


def _one_sided(power: Floats) -> Floats:
    both = power * 2.0
    both[..., 0] = power[..., 0]
    both[..., -1] = power[..., -1]
    return both
