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
from bathyphon.core.effects.filters import FLUSH

BASS_EDGE_HZ = 353.55
TREBLE_EDGE_HZ = 2828.4
SECTIONS = 4
LINES = 16
# Sixteen samples, and of each section its two memories and five coefficients, line beside line.
WORKBENCH = LINES + SECTIONS * 7 * LINES


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


@njit(cache=True, nogil=True, inline="always")
def _step(w: Floats, at: int) -> None:  # pragma: no cover - compiled
    """One section of all lines, its memories and coefficients from ``at`` on."""
    for k in range(16):
        x = w[k]
        y = w[at + 32 + k] * x + w[at + k]
        w[at + k] = (w[at + 48 + k] * x + w[at + 16 + k]) - w[at + 80 + k] * y
        w[at + 16 + k] = w[at + 64 + k] * x - w[at + 96 + k] * y
        w[k] = y


@njit(cache=True, nogil=True)
def attenuated(
    tile: Floats, m: int, c: Floats, z: Floats, w: Floats
) -> None:  # pragma: no cover - compiled
    """Attenuate all lines, in place.

    Everything lies on one workbench at places that the compiler knows: only so can it tell that
    they never overlap, and do several lines at once.

    Parameters
    ----------
    tile : ndarray, shape (16 m,)
        Sixteen samples, one of each line, m times.
    m : int
    c : ndarray, shape (4, 5, 16)
        Coefficients.
    z : ndarray, shape (4, 2, 16)
        Memories; updated.
    w : ndarray, shape (WORKBENCH,)
        Overwritten.
    """
    for s in range(SECTIONS):
        at = LINES + s * 7 * LINES
        for k in range(LINES):
            for j in range(2):
                w[at + j * LINES + k] = z[s, j, k]
            for j in range(5):
                w[at + (2 + j) * LINES + k] = c[s, j, k]
    for i in range(m):
        here = LINES * i
        for k in range(16):
            w[k] = tile[here + k]
        _step(w, 16)
        _step(w, 128)
        _step(w, 240)
        _step(w, 352)
        for k in range(16):
            tile[here + k] = w[k]
    for s in range(SECTIONS):
        at = LINES + s * 7 * LINES
        for j in range(2):
            for k in range(LINES):
                z[s, j, k] = w[at + j * LINES + k]


@njit(cache=True, nogil=True)
def attenuated_moving(
    tile: Floats, m: int, old: Floats, new: Floats, share: float, step: float, z: Floats
) -> None:  # pragma: no cover - compiled
    """The same with coefficients on their way from old to new, from ``share`` on by steps."""
    for i in range(m):
        u = share + i * step
        at = LINES * i
        for s in range(SECTIONS):
            for k in range(LINES):
                b0 = old[s, 0, k] + u * (new[s, 0, k] - old[s, 0, k])
                b1 = old[s, 1, k] + u * (new[s, 1, k] - old[s, 1, k])
                b2 = old[s, 2, k] + u * (new[s, 2, k] - old[s, 2, k])
                a1 = old[s, 3, k] + u * (new[s, 3, k] - old[s, 3, k])
                a2 = old[s, 4, k] + u * (new[s, 4, k] - old[s, 4, k])
                x = tile[at + k]
                y = b0 * x + z[s, 0, k]
                z[s, 0, k] = b1 * x + z[s, 1, k] - a1 * y
                z[s, 1, k] = b2 * x - a2 * y
                tile[at + k] = y


@njit(cache=True, nogil=True)
def flushed(z: Floats) -> None:  # pragma: no cover - compiled
    """Bring memories far below hearing to zero."""
    for s in range(SECTIONS):
        for j in range(2):
            for k in range(LINES):
                if abs(z[s, j, k]) < FLUSH:
                    z[s, j, k] = 0.0
