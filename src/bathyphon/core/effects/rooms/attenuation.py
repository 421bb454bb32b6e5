"""Attenuation of delay lines, so that each band decays in the time that is set.

A line of *m* samples must lose 60·m / (fs·T60) dB at each pass (J.-M. Jot and A. Chaigne,
"Digital delay networks for designing artificial reverberators", AES 90, 1991). Bass and treble are
set apart by Butterworth shelving filters of fourth order (M. Holters and U. Zölzer, "Parametric
higher-order shelving filters", EUSIPCO 2006), whose edges lie between the octaves of 250 and 500 Hz
and of 2 and 4 kHz: steep enough that each octave decays at its own rate.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats

BASS_EDGE_HZ = 353.55
TREBLE_EDGE_HZ = 2828.4
SECTIONS = 4


@njit(cache=True, nogil=True, inline="always")
def _section(
    out: Floats, s: int, line: int, n2: float, n1: float, n0: float, d2: float, d1: float,
    d0: float, k: float,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Bilinear transform of (n2·s² + n1·s + n0) / (d2·s² + d1·s + d0), edge at tan(πf/fs) = k."""
    n1, n0 = n1 * k, n0 * k * k
    d1, d0 = d1 * k, d0 * k * k
    scale = 1.0 / (d2 + d1 + d0)
    out[s, 0, line] = (n2 + n1 + n0) * scale
    out[s, 1, line] = 2.0 * (n0 - n2) * scale
    out[s, 2, line] = (n2 - n1 + n0) * scale
    out[s, 3, line] = 2.0 * (d0 - d2) * scale
    out[s, 4, line] = (d2 - d1 + d0) * scale


@njit(cache=True, nogil=True)
def attenuate(
    lengths: Floats, decay_s: float, bass: float, treble: float, sample_rate: float, out: Floats
) -> float:  # pragma: no cover - compiled
    """Coefficients of all lines.

    Parameters
    ----------
    lengths : ndarray, shape (lines,)
        Samples of each line.
    decay_s : float
        T60 in the middle, in seconds.
    bass, treble : float
        Factors on it below 354 Hz and above 2828 Hz.
    sample_rate : float
    out : ndarray, shape (4, 5, lines)
        b0, b1, b2, a1, a2 of each section; the middle's gain is in the first one.

    Returns
    -------
    float
        Mean power that one pass leaves in the middle.
    """
    kb = math.tan(math.pi * min(BASS_EDGE_HZ, 0.45 * sample_rate) / sample_rate)
    kt = math.tan(math.pi * min(TREBLE_EDGE_HZ, 0.45 * sample_rate) / sample_rate)
    power = 0.0
    for line in range(lengths.size):
        middle_db = -60.0 * lengths[line] / (sample_rate * decay_s)
        for shelf in range(2):
            factor = bass if shelf == 0 else treble
            # Fourth order: a quarter of the gain in each of four radii.
            v = 10.0 ** (middle_db * (1.0 / factor - 1.0) / 80.0)
            r = math.sqrt(v)
            for m in range(2):
                c = 2.0 * math.cos((0.5 - (2.0 * m + 1.0) / 8.0) * math.pi)
                s = 2 * shelf + m
                if shelf == 0:
                    _section(out, s, line, 1.0, c * r, v, 1.0, c / r, 1.0 / v, kb)
                else:
                    _section(out, s, line, v, c * r, 1.0, 1.0 / v, c / r, 1.0, kt)
        gain = 10.0 ** (middle_db / 20.0)
        for j in range(3):
            out[0, j, line] *= gain
        power += gain * gain
    return power / lengths.size


def decay_at(hz: Floats, decay_s: float, bass: float, treble: float) -> Floats:
    """T60 in seconds that the attenuation gives at each frequency.

    The rates of bass, middle and treble, weighted as Butterworth shelves of fourth order do:
    half way at the edges, within 6 % half an octave from them.
    """
    low = 1.0 / (1.0 + (np.asarray(hz) / BASS_EDGE_HZ) ** 8)
    high = 1.0 / (1.0 + (TREBLE_EDGE_HZ / np.maximum(hz, 1.0)) ** 8)
    rate = 1.0 + (1.0 / bass - 1.0) * low + (1.0 / treble - 1.0) * high
    found: Floats = decay_s / rate
    return found
