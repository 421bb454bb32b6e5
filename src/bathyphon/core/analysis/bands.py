"""Bands of frequency that a spectrum is drawn by: even in pitch, or even in mels."""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.measure.spectrum import power_below

Axis = Literal["log", "mel"]
LOWEST_HZ, HIGHEST_HZ = 20.0, 20480.0
AN_OCTAVE = 24
"""Bands of an octave, on the axis that is even in pitch."""
MELS = 192


@cache
def edges_of(axis: Axis, rate: int) -> Floats:
    """Edges of the bands in Hz, one more than there are bands.

    Parameters
    ----------
    axis : {"log", "mel"}
        24 bands an octave from 20 Hz on, or 192 as wide as the ear resolves: mel =
        2595·log₁₀(1 + f/700) (D. O'Shaughnessy, Speech Communication, 1987).
    rate : int
        Samples a second; bands end below half of it.
    """
    highest = min(HIGHEST_HZ, 0.5 * rate)
    if axis == "mel":
        most = 2595.0 * np.log10(1.0 + highest / 700.0)
        return np.asarray(700.0 * (10.0 ** (np.linspace(0.0, most, MELS + 1) / 2595.0) - 1.0))
    bands = int(np.floor(AN_OCTAVE * np.log2(highest / LOWEST_HZ) + 1e-9))
    return np.asarray(LOWEST_HZ * 2.0 ** (np.arange(bands + 1) / AN_OCTAVE))


def middles_of(axis: Axis, rate: int) -> Floats:
    """Frequencies in the middle of the bands, as the axis has it."""
    edges = edges_of(axis, rate)
    if axis == "log":
        return np.asarray(np.sqrt(edges[:-1] * edges[1:]))
    return np.asarray(0.5 * (edges[:-1] + edges[1:]))


def band_powers(power: Floats, rate: int, edges: Floats) -> Floats:
    """Power within each band; a bin that an edge runs through counts by its share.

    So a tone has its own level on any axis, and all bands together that of the sound.

    Parameters
    ----------
    power : ndarray, shape (..., bins)
        Mean square of each bin from 0 to half the rate.
    rate : int
    edges : ndarray of float64, shape (bands + 1,)
        In Hz, rising.

    Returns
    -------
    ndarray of float64, shape (..., bands)
    """
    step = 0.5 * rate / (power.shape[-1] - 1)
    return np.asarray(np.maximum(np.diff(power_below(power, step, edges), axis=-1), 0.0))
