"""Onsets: the moments at which something begins to sound.

Spectral flux in logarithmic bands with a maximum filter against vibrato, after S. Böck and
G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013. Each onset is then
placed where the short-time energy rises most steeply, to about a millisecond.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.fft import rfft
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.maxima import maxima

HOP_SECONDS = 0.005
WINDOW_SECONDS = 0.021
BANDS = 28
LOWEST_HZ = 30.0
HIGHEST_HZ = 11_000.0
FLOOR = 1e-4
# Cells of an energy, so that long sounds need no copy of themselves.
_PLACED_AT_ONCE = 50_000
_CHUNK = 4096
_REACH_SECONDS = 0.03
_FINE_SECONDS = 0.001
_SOFT = 0.6


@dataclass(frozen=True)
class Novelty:
    """How much begins to sound, over time.

    Parameters
    ----------
    flux : ndarray, shape (n,)
        Rise of level summed over the bands, one value per hop; 0 where nothing begins.
    low : ndarray, shape (n,)
        The same for the bands below 200 Hz.
    hop : float
        Samples between two values; value *i* belongs to sample ``i · hop``.
    rate : int
        Samples a second.
    """

    flux: Floats
    low: Floats
    hop: int
    rate: int


def novelty(mono: NDArray[np.floating], rate: int) -> Novelty:
    """Spectral flux of a sound.

    Parameters
    ----------
    mono : ndarray, shape (n,)
    rate : int
        Samples a second.
    """
    step = max(1, rate // 24_000)
    whole = mono.size // step * step
    x = sum(mono[k:whole:step] for k in range(step)) / step if step > 1 else mono
    small = rate / step
    hop = max(1, round(HOP_SECONDS * small))
    size = 1 << round(np.log2(WINDOW_SECONDS * small))
    window = np.hanning(size).astype(np.float32)
    edges = np.unique(
        np.round(
            np.geomspace(LOWEST_HZ, min(HIGHEST_HZ, small * 0.45), BANDS + 1) * size / small
        ).astype(int)
    )
    padded = np.pad(np.asarray(x, np.float32), (size // 2, size))
    frames = np.lib.stride_tricks.sliding_window_view(padded, size)[::hop]
    levels = np.empty((len(frames), edges.size - 1), np.float32)
    for first in range(0, len(frames), _CHUNK):
        spectrum = rfft(frames[first : first + _CHUNK] * window, axis=1)
        power = spectrum.real**2 + spectrum.imag**2
        levels[first : first + _CHUNK] = np.add.reduceat(power, edges[:-1], axis=1)[
            :, : edges.size - 1
        ]
    scale = FLOOR * max(float(np.percentile(levels.sum(axis=1), 98)), 1e-9)
    levels = np.log1p(levels / scale)
    # Two hops back, so that a rise over several frames counts as a whole.
    before = maximum_filter1d(levels, 3, axis=1)
    rise = np.zeros_like(levels)
    rise[2:] = np.maximum(0.0, levels[2:] - before[:-2])
    low = edges[:-1] * small / size < 200.0
    return Novelty(
        rise.sum(axis=1).astype(np.float64),
        rise[:, low].sum(axis=1).astype(np.float64),
        hop * step,
        rate,
    )


@dataclass(frozen=True)
class Onsets:
    """Moments in samples, rising, and how strongly each begins (flux, in nepers over bands)."""

    at: NDArray[np.int64]
    strength: Floats


def onsets(mono: NDArray[np.floating], rate: int, found: Novelty | None = None) -> Onsets:
    """Find the onsets of a sound.

    Parameters
    ----------
    mono : ndarray, shape (n,)
    rate : int
    found : Novelty, optional
        The sound's novelty, if it is known already.
    """
    n = found or novelty(mono, rate)
    local = uniform_filter1d(n.flux, max(3, round(0.3 * rate / n.hop)))
    threshold = np.maximum(1.5 * local, 0.12 * float(np.percentile(n.flux, 99.5)) + 1e-9)
    peaks = maxima(n.flux, max(1, round(0.04 * rate / n.hop)))
    peaks = peaks[n.flux[peaks] > np.maximum(threshold[peaks], 1.5)]
    coarse = peaks * n.hop
    return Onsets(_placed(np.asarray(mono, np.float32), rate, coarse), n.flux[peaks])


def _placed(x: NDArray[np.float32], rate: int, coarse: NDArray[np.int64]) -> NDArray[np.int64]:
    """Where the energy rises most steeply near each of the coarse places."""
    if coarse.size == 0:
        return coarse
    fine = max(1, round(_FINE_SECONDS * rate))
    reach = round(_REACH_SECONDS * rate) // fine
    # The first difference weights the highs, where attacks are sharpest.
    part = fine * _PLACED_AT_ONCE
    energies: list[Floats] = []
    for a in range(0, x.size, part):
        energy = np.square(np.diff(x[a : a + part], prepend=x[max(0, a - 1)]))
        cells = np.add.reduceat(energy, np.arange(0, energy.size, fine))
        energies.append(cells.astype(np.float64))
    whole = np.concatenate(energies)
    floor = 1e-5 * max(float(np.percentile(whole, 98)), 1e-20)
    level = np.log(whole + floor)
    level = np.pad(level, (reach + 4, reach + 4), mode="edge")
    centre = coarse // fine + reach + 4
    span = np.arange(-reach, reach + 1)
    here = centre[:, None] + span[None, :]
    rise = (
        level[np.minimum(here + 1, level.size - 1)]
        + level[np.minimum(here + 2, level.size - 1)]
        - level[here - 1]
        - level[here - 2]
    )
    rise *= 1.0 - _SOFT * np.abs(span) / reach
    best = here[np.arange(len(here)), rise.argmax(axis=1)]
    # Of the steepest millisecond the first sample.
    return np.asarray((best - reach - 4) * fine, np.int64)
