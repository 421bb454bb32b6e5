"""Programme loudness and loudness range, by ITU-R BS.1770, EBU R 128 and EBU Tech 3342."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats

ABSOLUTE_GATE = -70.0
SILENCE = -120.0
MOMENTARY, SHORT_TERM = 4, 30
"""Hops of 100 ms."""


def k_weighting(rate: int) -> Floats:
    """Second-order sections of the K-weighting at any rate, shape (2, 6).

    The filters of ITU-R BS.1770 are given at 48 kHz; these are the same analogue prototypes
    through the bilinear transform, which at 48 kHz gives the published coefficients.
    """
    f0, gain, q = 1681.974450955533, 3.999843853973347, 0.7071752369554196
    k = math.tan(math.pi * f0 / rate)
    vh = 10.0 ** (gain / 20.0)
    vb = vh**0.4996667741545416
    a0 = 1.0 + k / q + k * k
    shelf = [
        (vh + vb * k / q + k * k) / a0,
        2.0 * (k * k - vh) / a0,
        (vh - vb * k / q + k * k) / a0,
        1.0,
        2.0 * (k * k - 1.0) / a0,
        (1.0 - k / q + k * k) / a0,
    ]
    f0, q = 38.13547087602444, 0.5003270373238773
    k = math.tan(math.pi * f0 / rate)
    a0 = 1.0 + k / q + k * k
    high_pass = [1.0, -2.0, 1.0, 1.0, 2.0 * (k * k - 1.0) / a0, (1.0 - k / q + k * k) / a0]
    return np.array([shelf, high_pass])


class LoudnessMeter:
    """Takes stereo blocks in order and keeps the energy of each 100 ms.

    Parameters
    ----------
    rate : int
        Samples a second.
    """

    def __init__(self, rate: int) -> None:
        self._sections = k_weighting(rate)
        self._memory = np.zeros((2, 2, 2))
        self._hop = rate // 10
        self._rest = np.zeros(0)
        self._energies: list[Floats] = []

    def add(self, sound: NDArray[np.floating]) -> None:
        """Add a block of shape (2, n)."""
        # What is compiled is imported when there is something to measure.
        from bathyphon.core.measure.weighting import weighted

        y = weighted(sound, self._sections, self._memory)
        power = np.concatenate([self._rest, np.sum(y * y, axis=0)])
        hops = power.size // self._hop
        whole = hops * self._hop
        self._energies.append(power[:whole].reshape(hops, self._hop).mean(axis=1))
        self._rest = power[whole:]

    def energies(self) -> Floats:
        """Power of each 100 ms so far."""
        return np.concatenate([*self._energies, np.zeros(0)])

    def integrated(self) -> float | None:
        """See :func:`integrated`."""
        return integrated(self.energies())

    def range(self) -> float | None:
        """See :func:`loudness_range`."""
        return loudness_range(self.energies())


def sliding(energies: Floats, hops: int) -> Floats:
    """Mean power over windows of so many hops, one each hop.

    Parameters
    ----------
    energies : ndarray of float64, shape (n,)
        K-weighted power of each 100 ms.
    hops : int
        4 for momentary loudness (400 ms), 30 for short-term loudness (3 s).

    Returns
    -------
    ndarray of float64, shape (max(0, n − hops + 1),)
    """
    if energies.size < hops:
        return np.zeros(0)
    total = np.concatenate([[0.0], np.cumsum(energies)])
    return np.asarray(np.maximum(0.0, (total[hops:] - total[:-hops]) / hops))


def integrated(energies: Floats) -> float | None:
    """Integrated loudness in LUFS, gated at −70 LUFS and 10 LU below the ungated level.

    ITU-R BS.1770, annex 1: blocks of 400 ms that overlap by 75 %.

    Parameters
    ----------
    energies : ndarray of float64, shape (n,)
        K-weighted power of each 100 ms.

    Returns
    -------
    float, or None where nothing passes the gate
    """
    power = sliding(energies, MOMENTARY)
    power = power[lufs(power) > ABSOLUTE_GATE]
    if not power.size:
        return None
    power = power[lufs(power) > lufs(power.mean()) - 10.0]
    return float(lufs(power.mean()))


def loudness_range(energies: Floats) -> float | None:
    """Loudness range in LU: 10th to 95th percentile of gated short-term loudness.

    EBU Tech 3342: gated at −70 LUFS and 20 LU below the ungated level.

    Parameters
    ----------
    energies : ndarray of float64, shape (n,)
        K-weighted power of each 100 ms.
    """
    power = sliding(energies, SHORT_TERM)
    power = power[lufs(power) > ABSOLUTE_GATE]
    if not power.size:
        return None
    levels = lufs(power)
    levels = levels[levels > lufs(power.mean()) - 20.0]
    return float(np.percentile(levels, 95) - np.percentile(levels, 10))


def lufs(power: NDArray[np.floating] | float) -> Floats:
    """Loudness of a K-weighted power, −0.691 + 10·log₁₀ Σ G·z (ITU-R BS.1770)."""
    floor = 10.0 ** ((SILENCE + 0.691) / 10.0)
    return np.asarray(-0.691 + 10.0 * np.log10(np.maximum(power, floor)))
