"""Four times the rate and back, for what bends the wave.

Linear-phase low-passes in polyphase form (R. E. Crochiere and L. R. Rabiner, *Multirate Digital
Signal Processing*, 1983), Kaiser window, flat to 20 kHz and 100 dB down at 28 kHz for a rate of
48 kHz. Sums run tap by tap over a whole block, which is fast and gives each output the same bits
wherever the block begins.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.latency import DOWN_TAPS, FACTOR, OVERSAMPLING, UP_TAPS

PASS, STOP = 23.3 / 48.0, 24.5 / 48.0
DELAY = OVERSAMPLING
PAST = -(-UP_TAPS // FACTOR)


@cache
def filters() -> tuple[Floats, Floats]:
    """Taps up and down; those down also make good what a mean of three neighbours takes away."""
    # SciPy's signal package takes half a second to import: not before something is driven.
    from scipy.signal import firwin2

    f = np.linspace(0.0, 1.0, 513)
    edge = np.clip((f * FACTOR / 2.0 - PASS) / (STOP - PASS), 0.0, 1.0)
    low = 0.5 + 0.5 * np.cos(np.pi * edge)
    up = firwin2(UP_TAPS, f, low, nfreqs=4097, window=("kaiser", 8.0))
    mended = low / np.maximum((1.0 + 2.0 * np.cos(np.pi * f)) / 3.0, 0.3)
    down = firwin2(DOWN_TAPS, f, np.append(mended[:-1], 0.0), nfreqs=4097, window=("kaiser", 8.0))
    return up / up.sum() * FACTOR, down / down.sum()


@njit(cache=True, nogil=True)
def up(x: Floats, taps: Floats, past: Floats, out: Floats) -> None:  # pragma: no cover - compiled
    """Interpolate one side.

    Parameters
    ----------
    x : ndarray, shape (n,)
    taps : ndarray, shape (UP_TAPS,)
    past : ndarray, shape (PAST,)
        The samples before; updated.
    out : ndarray, shape (4 n,)
        Overwritten.
    """
    n = x.size
    line = np.concatenate((past, x))
    row = np.empty(n)
    for phase in range(FACTOR):
        row[:] = 0.0
        for j in range(phase, taps.size, FACTOR):
            back = j // FACTOR
            tap = taps[j]
            source = line[PAST - back : PAST - back + n]
            for i in range(n):
                row[i] += tap * source[i]
        for i in range(n):
            out[FACTOR * i + phase] = row[i]
    past[:] = line[n:]


@njit(cache=True, nogil=True)
def down(x: Floats, taps: Floats, past: Floats, out: Floats) -> None:  # pragma: no cover - compiled
    """Decimate one side.

    Parameters
    ----------
    x : ndarray, shape (4 n,)
    taps : ndarray, shape (DOWN_TAPS,)
    past : ndarray, shape (4, PAST)
        Samples before, by phase; updated.
    out : ndarray, shape (n,)
        Overwritten.
    """
    n = out.size
    out[:] = 0.0
    line = np.empty(PAST + n)
    for phase in range(FACTOR):
        line[:PAST] = past[phase]
        for i in range(n):
            line[PAST + i] = x[FACTOR * i + phase]
        for j in range(taps.size):
            # Sample 4i − j of the fast stream is sample i − back of this phase.
            if (FACTOR * taps.size - j) % FACTOR != phase:
                continue
            back = (j + phase) // FACTOR
            tap = taps[j]
            source = line[PAST - back : PAST - back + n]
            for i in range(n):
                out[i] += tap * source[i]
        past[phase] = line[n:]
