"""Filters that take a new cutoff at every sample.

Topology-preserving transform, after V. Zavalishin, *The Art of VA Filter Design* (2012), and
A. Simper, "Solving the continuous SVF equations using trapezoidal integration" (2013).
States are flushed to zero far below hearing, so silence never costs more than sound.
"""

from __future__ import annotations

import math

from numba import njit

from bathyphon.core.curves import Floats

FLUSH = 1e-30


@njit(cache=True, nogil=True, inline="always")
def warped(freq_hz: float, sample_rate: float) -> float:  # pragma: no cover - compiled
    """Integrator gain tan(πf/fs), the frequency clamped to 10 Hz … 0.45 of the rate."""
    f = min(max(freq_hz, 10.0), 0.45 * sample_rate)
    return math.tan(math.pi * f / sample_rate)


@njit(cache=True, nogil=True)
def low_high_cut(
    x: Floats,
    high_cut_hz: Floats,
    low_cut_hz: Floats,
    q: Floats,
    sample_rate: float,
    state: Floats,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    """Fourth-order low-pass and second-order high-pass, Butterworth at ``q`` = 0.7071.

    Parameters
    ----------
    x, out : ndarray, shape (2, n)
    high_cut_hz, low_cut_hz, q : ndarray, shape (n,)
        Cutoffs and the resonance of the low-pass; 0.7071 has none.
    sample_rate : float
    state : ndarray, shape (2, 6)
        Two integrators for each of the three second-order sections, per side; updated.
    """
    n = x.shape[1]
    first_q = 0.541196100146197
    second_q = 1.3065629648763766
    for side in range(2):
        source = x[side]
        target = out[side]
        s0, s1, s2, s3, s4, s5 = (
            state[side, 0],
            state[side, 1],
            state[side, 2],
            state[side, 3],
            state[side, 4],
            state[side, 5],
        )
        last_high = -1.0
        last_low = -1.0
        last_q = -1.0
        g = h = k1 = k2 = a1 = b1 = c1 = share = 0.0
        kh = math.sqrt(2.0)
        for i in range(n):
            if high_cut_hz[i] != last_high or q[i] != last_q:
                last_high = high_cut_hz[i]
                last_q = q[i]
                g = warped(last_high, sample_rate)
                k1 = 1.0 / first_q
                k2 = math.sqrt(0.5) / (second_q * last_q)
                a1 = 1.0 / (1.0 + g * (g + k1))
                b1 = 1.0 / (1.0 + g * (g + k2))
            if low_cut_hz[i] != last_low:
                last_low = low_cut_hz[i]
                h = warped(last_low, sample_rate)
                c1 = 1.0 / (1.0 + h * (h + kh))
                u = min(max((last_low - 10.0) / 8.0, 0.0), 1.0)
                share = u * u * (3.0 - 2.0 * u)
            v3 = source[i] - s1
            v1 = a1 * s0 + a1 * g * v3
            v2 = s1 + g * v1
            s0 = 2.0 * v1 - s0
            s1 = 2.0 * v2 - s1
            v3 = v2 - s3
            v1 = b1 * s2 + b1 * g * v3
            v2 = s3 + g * v1
            s2 = 2.0 * v1 - s2
            s3 = 2.0 * v2 - s3
            low = v2
            v3 = low - s5
            v1 = c1 * s4 + c1 * h * v3
            v2 = s5 + h * v1
            s4 = 2.0 * v1 - s4
            s5 = 2.0 * v2 - s5
            # At the end of its range the low cut is left out entirely.
            target[i] = low - share * (kh * v1 + v2)
            if abs(s0) + abs(s1) + abs(s2) + abs(s3) + abs(s4) + abs(s5) < FLUSH:
                s0 = s1 = s2 = s3 = s4 = s5 = 0.0
        state[side, 0] = s0
        state[side, 1] = s1
        state[side, 2] = s2
        state[side, 3] = s3
        state[side, 4] = s4
        state[side, 5] = s5
