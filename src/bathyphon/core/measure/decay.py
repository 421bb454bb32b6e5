"""Decay times per octave band, by backward integration (Schroeder 1965; ISO 3382-1)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import uniform_filter1d
from scipy.signal import butter, sosfilt

from bathyphon.core.arrays import Floats

OCTAVES = (63.0, 125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0)


@dataclass(frozen=True)
class BandDecay:
    """Decay of one band.

    Parameters
    ----------
    centre_hz : float
    t20, t30 : float or None
        T60 in seconds extrapolated from 20 and from 30 dB; None where it cannot be told.
    begins : int
        Sample at which it begins.
    curve : ndarray of float64, shape (n,)
        Level in dB of the energy still to come, from there on.
    """

    centre_hz: float
    t20: float | None
    t30: float | None
    begins: int
    curve: Floats


def octave_band(sound: Floats, centre_hz: float, rate: int) -> Floats:
    """One octave around a centre; filtered backwards in time, so the filter's own ringing does
    not lengthen the decay.
    """
    edges = [centre_hz / 2**0.5, min(centre_hz * 2**0.5, 0.49 * rate)]
    sections = butter(4, edges, "bandpass", fs=rate, output="sos")
    return np.asarray(sosfilt(sections, sound[..., ::-1], axis=-1)[..., ::-1])


def decay_times(sound: NDArray[np.floating], rate: int) -> list[BandDecay]:
    """Decay per octave band of an impulse response or of a sound that stops.

    Parameters
    ----------
    sound : ndarray, shape (channels, n)
    rate : int
        Samples a second.
    """
    x = np.asarray(sound, dtype=np.float64)
    bands = []
    for centre in OCTAVES:
        if centre * 2**0.5 > 0.5 * rate:
            continue
        energy = np.sum(octave_band(x, centre, rate) ** 2, axis=0)
        begins, curve = decaying(energy, rate, centre)
        t20, t30 = (slope(curve, fall, rate) for fall in (20.0, 30.0))
        bands.append(BandDecay(centre, t20, t30, begins, curve))
    return bands


def integrated(energy: Floats, rate: int, centre_hz: float) -> Floats:
    """Level in dB of the energy still to come, from the decay's beginning on."""
    return decaying(energy, rate, centre_hz)[1]


def decaying(energy: Floats, rate: int, centre_hz: float) -> tuple[int, Floats]:
    """The sample at which the decay begins, and its curve from there on: :func:`integrated`."""
    if not energy.any():
        return 0, np.zeros(0)
    window = max(1, round(4 * rate / centre_hz))
    # A running sum: a window of the lowest octave is thousands of samples long.
    smooth = uniform_filter1d(energy, window, mode="constant")
    start = int(np.flatnonzero(smooth >= smooth.max() * 0.5)[-1]) if smooth.max() > 0 else 0
    rest = np.cumsum(energy[start:][::-1])[::-1]
    rest = rest[rest > 0]
    return start, (10.0 * np.log10(rest / rest[0]) if rest.size else np.zeros(0))


def slope(curve: Floats, fall_db: float, rate: int) -> float | None:
    """Decay time in seconds by a straight line from −5 dB down ``fall_db`` more; None if unsure."""
    inside = np.flatnonzero((curve <= -5.0) & (curve >= -5.0 - fall_db))
    # The end of the recording cuts the integral short: it must lie well below the fit.
    if inside.size < 8 or curve[-1] > -5.0 - fall_db - 10.0:
        return None
    slope = np.polyfit(inside / rate, curve[inside], 1)[0]
    return float(-60.0 / slope) if slope < 0 else None
