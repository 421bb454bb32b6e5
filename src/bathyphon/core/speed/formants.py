"""Formants of a sound whose pitch is moved: the envelope of its spectrum, and moving that alone.

The envelope is that of an all-pole model: it passes between the partials of a voice where the
mouth does, even where a formant is narrower than the partials lie apart. J. Makhoul, "Linear
prediction: a tutorial review", Proc. IEEE 63 (1975); the lag window is that of Y. Tohkura,
F. Itakura, S. Hashimoto, "Spectral smoothing technique in PARCOR speech analysis-synthesis", IEEE
Trans. ASSP 26 (1978) (both from memory).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy import fft

from bathyphon.core.arrays import Floats

ORDER = 70
"""Poles at 48 kHz."""
SMOOTH_HZ = 20.0
"""Width of the lag window: partials of a low voice are not taken for formants."""
RISE = 0.97
"""Coefficient of the rise by which the fall of voices towards high frequencies is made up for."""
MOST = 4.0
"""Natural logarithm of the largest change: 35 dB."""


def envelopes(power: Floats, sample_rate: int) -> Floats:
    """Natural logarithms of the amplitude envelopes of spectra, up to a constant of each.

    Parameters
    ----------
    power : ndarray of float64, shape (m, bins)
        Of frames of 2 · (bins − 1) samples.
    sample_rate : int

    Returns
    -------
    ndarray of float64, shape (m, bins)
    """
    bins = power.shape[1]
    size = 2 * (bins - 1)
    rise = np.abs(1.0 - RISE * np.exp(-1j * np.pi * np.arange(bins) / (bins - 1))) ** 2
    order = max(12, round(ORDER * sample_rate / 48000))
    lags = fft.irfft(power * rise, size, axis=1)[:, : order + 1]
    u = 2.0 * np.pi * SMOOTH_HZ * np.arange(order + 1) / sample_rate
    lags *= np.exp(-0.5 * u * u)
    lags[:, 0] = lags[:, 0] * (1.0 + 1e-9) + 1e-30
    poles = fft.rfft(_levinson(lags), size, axis=1)
    return np.asarray(-0.5 * np.log((poles.real**2 + poles.imag**2) * rise))


def _levinson(lags: Floats) -> Floats:
    """Coefficients of the linear predictors of autocorrelations, shape (m, order + 1)."""
    count, size = lags.shape
    a = np.zeros((count, size))
    a[:, 0] = 1.0
    error = lags[:, 0].copy()
    for i in range(1, size):
        k = -(a[:, :i] * lags[:, i:0:-1]).sum(axis=1) / error
        a[:, 1 : i + 1] += k[:, None] * a[:, i - 1 :: -1][:, :i] if i > 1 else k[:, None]
        error = error * (1.0 - k * k)
    return a


def moved_formants(
    spectra: NDArray[np.complex128], by: Floats, sample_rate: int
) -> NDArray[np.complex128]:
    """Spectra whose envelopes are read at other frequencies.

    Parameters
    ----------
    spectra : ndarray of complex128, shape (m, channels, bins)
    by : ndarray of float64, shape (m,)
        The envelope at f becomes what it was at ``by · f``.
    sample_rate : int
    """
    envelope = envelopes((spectra.real**2 + spectra.imag**2).sum(axis=1), sample_rate)
    bins = np.arange(spectra.shape[2], dtype=float)
    gain = np.empty_like(envelope)
    for m in range(gain.shape[0]):
        there = np.interp(by[m] * bins, bins, envelope[m])
        gain[m] = np.exp(np.clip(there - envelope[m], -MOST, MOST))
    return np.asarray(spectra * gain[:, None, :])
