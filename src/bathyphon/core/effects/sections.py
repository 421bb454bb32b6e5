"""Second-order sections in the topology-preserving form: shelves, Butterworth edges of any order.

V. Zavalishin, *The Art of VA Filter Design* (2012); A. Simper, "Linear trapezoidal state variable
filter", technical note (2014), for the shelves. The shapes are those of R. Bristow-Johnson's
*Audio EQ Cookbook*.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH, warped


def butterworth_qs(order: int) -> Floats:
    """Resonances of the sections of a Butterworth filter of an even order, lowest first."""
    angles = (2.0 * np.arange(order // 2) + 1.0) * math.pi / (2.0 * order)
    return np.sort(1.0 / (2.0 * np.cos(angles)))


@njit(cache=True, nogil=True)
def edge(
    x: Floats, freq_hz: Floats, qs: Floats, high_pass: bool, sample_rate: float, state: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Low-pass or high-pass sections in series, in place.

    Parameters
    ----------
    x : ndarray, shape (2, n)
    freq_hz : ndarray, shape (n,)
    qs : ndarray, shape (sections,)
    high_pass : bool
    sample_rate : float
    state : ndarray, shape (2, sections, 2)
        Updated.
    """
    for side in range(2):
        row = x[side]
        for s in range(qs.size):
            k = 1.0 / qs[s]
            p, q = state[side, s, 0], state[side, s, 1]
            last = -1.0
            g = a = 0.0
            for i in range(row.size):
                if freq_hz[i] != last:
                    last = freq_hz[i]
                    g = warped(last, sample_rate)
                    a = 1.0 / (1.0 + g * (g + k))
                v = row[i] - q
                band = a * p + a * g * v
                low = q + g * band
                p = 2.0 * band - p
                q = 2.0 * low - q
                row[i] = row[i] - k * band - low if high_pass else low
                if abs(p) + abs(q) < FLUSH:
                    p = q = 0.0
            state[side, s, 0], state[side, s, 1] = p, q


@njit(cache=True, nogil=True)
def shelf(
    x: Floats, freq_hz: float, gain_db: Floats, high: bool, sample_rate: float, state: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """A shelf with no bump (Q = 0.7071) whose gain may move, in place.

    Parameters
    ----------
    x : ndarray, shape (2, n)
    freq_hz : float
        Where half of the gain is reached.
    gain_db : ndarray, shape (n,)
    high : bool
        Whether it lifts what lies above, or below.
    sample_rate : float
    state : ndarray, shape (2, 2)
        Updated.
    """
    k = math.sqrt(2.0)
    base = warped(freq_hz, sample_rate)
    for side in range(2):
        row = x[side]
        p, q = state[side, 0], state[side, 1]
        last = math.nan
        g = a = m0 = m1 = m2 = 0.0
        for i in range(row.size):
            if gain_db[i] != last:
                last = gain_db[i]
                root = 10.0 ** (last / 80.0)
                amp = root * root
                g = base * root if high else base / root
                a = 1.0 / (1.0 + g * (g + k))
                m0 = amp * amp if high else 1.0
                m1 = k * (1.0 - amp) * amp if high else k * (amp - 1.0)
                m2 = 1.0 - amp * amp if high else amp * amp - 1.0
            v = row[i] - q
            band = a * p + a * g * v
            low = q + g * band
            p = 2.0 * band - p
            q = 2.0 * low - q
            row[i] = m0 * row[i] + m1 * band + m2 * low
            if abs(p) + abs(q) < FLUSH:
                p = q = 0.0
        state[side, 0], state[side, 1] = p, q
