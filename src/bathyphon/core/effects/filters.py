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


@njit(cache=True, nogil=True, inline="always")
def section(
    x: float, s: float, t: float, a1: float, a2: float, a3: float
) -> tuple[float, float, float, float]:  # pragma: no cover - compiled
    """One step of a second-order section with both integrators' states ``s`` and ``t``.

    With g = tan(πf/fs) and k = 1/Q: a1 = 1/(1 + g·(g + k)), a2 = g·a1, a3 = g·a2. Returns the band
    and low outputs and both new states; the high output is x − k·band − low.
    """
    v = x - t
    band = a1 * s + a2 * v
    low = t + (a2 * s + a3 * v)
    return band, low, 2.0 * band - s, 2.0 * low - t


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
    first_q = 0.541196100146197
    second_q = 1.3065629648763766
    kh = math.sqrt(2.0)
    last_high = last_low = last_q = -1.0
    g = h = k1 = k2 = a1 = b1 = c1 = a2 = b2 = c2 = a3 = b3 = c3 = share = 0.0
    # Both sides in turn at each sample: neither waits for the other's recursion.
    l0, l1, l2, l3, l4, l5 = (
        state[0, 0], state[0, 1], state[0, 2], state[0, 3], state[0, 4], state[0, 5],
    )  # fmt: skip
    r0, r1, r2, r3, r4, r5 = (
        state[1, 0], state[1, 1], state[1, 2], state[1, 3], state[1, 4], state[1, 5],
    )  # fmt: skip
    for i in range(x.shape[1]):
        if high_cut_hz[i] != last_high or q[i] != last_q:
            last_high = high_cut_hz[i]
            last_q = q[i]
            g = warped(last_high, sample_rate)
            k1 = 1.0 / first_q
            k2 = math.sqrt(0.5) / (second_q * last_q)
            a1 = 1.0 / (1.0 + g * (g + k1))
            b1 = 1.0 / (1.0 + g * (g + k2))
            a2, b2 = g * a1, g * b1
            a3, b3 = g * a2, g * b2
        if low_cut_hz[i] != last_low:
            last_low = low_cut_hz[i]
            h = warped(last_low, sample_rate)
            c1 = 1.0 / (1.0 + h * (h + kh))
            c2 = h * c1
            c3 = h * c2
            u = min(max((last_low - 10.0) / 8.0, 0.0), 1.0)
            share = u * u * (3.0 - 2.0 * u)
        _, low, l0, l1 = section(x[0, i], l0, l1, a1, a2, a3)
        _, low, l2, l3 = section(low, l2, l3, b1, b2, b3)
        band, bass, l4, l5 = section(low, l4, l5, c1, c2, c3)
        # At the end of its range the low cut is left out entirely.
        out[0, i] = low - share * (kh * band + bass)
        _, low, r0, r1 = section(x[1, i], r0, r1, a1, a2, a3)
        _, low, r2, r3 = section(low, r2, r3, b1, b2, b3)
        band, bass, r4, r5 = section(low, r4, r5, c1, c2, c3)
        out[1, i] = low - share * (kh * band + bass)
        if abs(l0) + abs(l1) + abs(l2) + abs(l3) + abs(l4) + abs(l5) < FLUSH:
            l0 = l1 = l2 = l3 = l4 = l5 = 0.0
        if abs(r0) + abs(r1) + abs(r2) + abs(r3) + abs(r4) + abs(r5) < FLUSH:
            r0 = r1 = r2 = r3 = r4 = r5 = 0.0
    state[0, 0], state[0, 1], state[0, 2], state[0, 3], state[0, 4], state[0, 5] = (
        l0, l1, l2, l3, l4, l5,
    )  # fmt: skip
    state[1, 0], state[1, 1], state[1, 2], state[1, 3], state[1, 4], state[1, 5] = (
        r0, r1, r2, r3, r4, r5,
    )  # fmt: skip
