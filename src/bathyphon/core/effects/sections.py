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
from bathyphon.core.effects.filters import FLUSH, section, warped


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
    for s in range(qs.size):
        k = 1.0 / qs[s]
        lp, lq = state[0, s, 0], state[0, s, 1]
        rp, rq = state[1, s, 0], state[1, s, 1]
        last = -1.0
        a1 = a2 = a3 = 0.0
        for i in range(x.shape[1]):
            if freq_hz[i] != last:
                last = freq_hz[i]
                g = warped(last, sample_rate)
                a1 = 1.0 / (1.0 + g * (g + k))
                a2 = g * a1
                a3 = g * a2
            # Both sides in turn at each sample: neither waits for the other's recursion.
            left, right = x[0, i], x[1, i]
            band, low, lp, lq = section(left, lp, lq, a1, a2, a3)
            x[0, i] = left - k * band - low if high_pass else low
            band, low, rp, rq = section(right, rp, rq, a1, a2, a3)
            x[1, i] = right - k * band - low if high_pass else low
            if abs(lp) + abs(lq) < FLUSH:
                lp = lq = 0.0
            if abs(rp) + abs(rq) < FLUSH:
                rp = rq = 0.0
        state[0, s, 0], state[0, s, 1] = lp, lq
        state[1, s, 0], state[1, s, 1] = rp, rq


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
    lp, lq = state[0, 0], state[0, 1]
    rp, rq = state[1, 0], state[1, 1]
    last = math.nan
    a1 = a2 = a3 = m0 = m1 = m2 = 0.0
    for i in range(x.shape[1]):
        if gain_db[i] != last:
            last = gain_db[i]
            root = 10.0 ** (last / 80.0)
            amp = root * root
            g = base * root if high else base / root
            a1 = 1.0 / (1.0 + g * (g + k))
            a2 = g * a1
            a3 = g * a2
            m0 = amp * amp if high else 1.0
            m1 = k * (1.0 - amp) * amp if high else k * (amp - 1.0)
            m2 = 1.0 - amp * amp if high else amp * amp - 1.0
        left, right = x[0, i], x[1, i]
        middle, low, lp, lq = section(left, lp, lq, a1, a2, a3)
        x[0, i] = m0 * left + m1 * middle + m2 * low
        middle, low, rp, rq = section(right, rp, rq, a1, a2, a3)
        x[1, i] = m0 * right + m1 * middle + m2 * low
        if abs(lp) + abs(lq) < FLUSH:
            lp = lq = 0.0
        if abs(rp) + abs(rq) < FLUSH:
            rp = rq = 0.0
    state[0, 0], state[0, 1] = lp, lq
    state[1, 0], state[1, 1] = rp, rq


@njit(cache=True, nogil=True)
def band(
    x: Floats, kind: int, freq_hz: Floats, amount: Floats, q: Floats, sample_rate: float,
    state: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """One section of an equaliser, everything movable, in place.

    Parameters
    ----------
    x : ndarray, shape (2, n)
    kind : int
        0 low cut, 1 low shelf, 2 peak, 3 high shelf, 4 high cut, 5 notch.
    freq_hz, q : ndarray, shape (n,)
    amount : ndarray, shape (n,)
        Gain in dB; of a notch its share, 0 to 1; cuts have none.
    sample_rate : float
    state : ndarray, shape (2, 2)
        Updated.
    """
    lp, lq = state[0, 0], state[0, 1]
    rp, rq = state[1, 0], state[1, 1]
    last_freq = last_amount = last_q = math.nan
    a1 = a2 = a3 = m0 = m1 = m2 = 0.0
    for i in range(x.shape[1]):
        if freq_hz[i] != last_freq or amount[i] != last_amount or q[i] != last_q:
            last_freq, last_amount, last_q = freq_hz[i], amount[i], q[i]
            g = warped(last_freq, sample_rate)
            k = 1.0 / last_q
            if kind == 0:
                m0, m1, m2 = 1.0, -k, -1.0
            elif kind == 4:
                m0, m1, m2 = 0.0, 0.0, 1.0
            elif kind == 5:
                m0, m1, m2 = 1.0, -k * last_amount, 0.0
            else:
                root = 10.0 ** (last_amount / 80.0)
                amp = root * root
                if kind == 2:
                    k = 1.0 / (last_q * amp)
                    m0, m1, m2 = 1.0, k * (amp * amp - 1.0), 0.0
                elif kind == 1:
                    g /= root
                    m0, m1, m2 = 1.0, k * (amp - 1.0), amp * amp - 1.0
                else:
                    g *= root
                    m0, m1, m2 = amp * amp, k * (1.0 - amp) * amp, 1.0 - amp * amp
            a1 = 1.0 / (1.0 + g * (g + k))
            a2 = g * a1
            a3 = g * a2
        left, right = x[0, i], x[1, i]
        middle, low, lp, lq = section(left, lp, lq, a1, a2, a3)
        x[0, i] = m0 * left + m1 * middle + m2 * low
        middle, low, rp, rq = section(right, rp, rq, a1, a2, a3)
        x[1, i] = m0 * right + m1 * middle + m2 * low
        if abs(lp) + abs(lq) < FLUSH:
            lp = lq = 0.0
        if abs(rp) + abs(rq) < FLUSH:
            rp = rq = 0.0
    state[0, 0], state[0, 1] = lp, lq
    state[1, 0], state[1, 1] = rp, rq
