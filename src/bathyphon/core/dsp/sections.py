"""Settings of second-order sections: edges, shelves, peaks and notches.

The shapes are those of R. Bristow-Johnson's *Audio EQ Cookbook*, as state-variable filters after
A. Simper, "Linear trapezoidal state variable filter", technical note (2014).
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.filters import HIGHEST, LOWEST_HZ
from bathyphon.core.timing.constants import still

LN_10 = math.log(10.0)


class Section(NamedTuple):
    """One section: y = m0·x + m1·band + m2·low.

    Each an ndarray of shape (1,) if it stands still within the block, else (n,): the integrators'
    gain g = tan(πf/fs), the damping k = 1/Q, and what is heard.
    """

    g: Floats
    k: Floats
    m0: Floats
    m1: Floats
    m2: Floats


ZERO, ONE = np.zeros(1), np.ones(1)


def warped(freq_hz: Floats, sample_rate: float) -> Floats:
    """Integrator gains tan(πf/fs)."""
    found: Floats = np.clip(still(freq_hz), LOWEST_HZ, HIGHEST * sample_rate)
    found *= math.pi / sample_rate
    np.tan(found, out=found)
    return found


def _root(gain_db: Floats) -> Floats:
    """Fourth root of an amplitude."""
    found: Floats = np.exp(still(gain_db) * (LN_10 / 80.0))
    return found


def low_pass(freq_hz: Floats, q: Floats, sample_rate: float) -> Section:
    """What lies below a frequency."""
    return Section(warped(freq_hz, sample_rate), 1.0 / still(q), ZERO, ZERO, ONE)


def high_pass(freq_hz: Floats, q: Floats, sample_rate: float, share: Floats = ONE) -> Section:
    """What lies above a frequency; with less than a whole share something of the rest, too."""
    k, part = 1.0 / still(q), still(share)
    return Section(warped(freq_hz, sample_rate), k, ONE, -part * k, -part)


def notch(freq_hz: Floats, q: Floats, share: Floats, sample_rate: float) -> Section:
    """All but a frequency, which is taken out as far as the share says."""
    k = 1.0 / still(q)
    return Section(warped(freq_hz, sample_rate), k, ONE, -k * still(share), ZERO)


def peak(freq_hz: Floats, gain_db: Floats, q: Floats, sample_rate: float) -> Section:
    """A band lifted or lowered."""
    root = _root(gain_db)
    amp = root * root
    k = 1.0 / (still(q) * amp)
    return Section(warped(freq_hz, sample_rate), k, ONE, k * (amp * amp - 1.0), ZERO)


def low_shelf(freq_hz: Floats, gain_db: Floats, q: Floats, sample_rate: float) -> Section:
    """What lies below lifted or lowered; at the frequency, half of it in dB."""
    root = _root(gain_db)
    amp = root * root
    k = 1.0 / still(q)
    g = warped(freq_hz, sample_rate) / root
    return Section(g, k, ONE, k * (amp - 1.0), amp * amp - 1.0)


def high_shelf(freq_hz: Floats, gain_db: Floats, q: Floats, sample_rate: float) -> Section:
    """What lies above lifted or lowered; at the frequency, half of it in dB."""
    root = _root(gain_db)
    amp = root * root
    k = 1.0 / still(q)
    g = warped(freq_hz, sample_rate) * root
    return Section(g, k, amp * amp, k * (1.0 - amp) * amp, 1.0 - amp * amp)


def butterworth_qs(order: int) -> Floats:
    """Resonances of the sections of a Butterworth filter of an even order, lowest first."""
    angles = (2.0 * np.arange(order // 2) + 1.0) * math.pi / (2.0 * order)
    return np.sort(1.0 / (2.0 * np.cos(angles)))


def faded_in(values: Floats, first: float, over: float) -> Floats:
    """0 up to ``first``, 1 from ``first + over`` on, smooth between; ``over`` may be negative."""
    u: Floats = np.clip((still(values) - first) / over, 0.0, 1.0)
    smooth: Floats = u * u * (3.0 - 2.0 * u)
    return smooth


BUTTERWORTH_4 = butterworth_qs(4)
BUTTERWORTH_2 = np.full(1, math.sqrt(0.5))


def high_cut(freq_hz: Floats, q: Floats, sample_rate: float) -> list[Section]:
    """A low-pass of fourth order, Butterworth at a ``q`` of 0.7071; more makes its edge ring."""
    first, second = BUTTERWORTH_4
    g = warped(freq_hz, sample_rate)
    sharp = math.sqrt(0.5) / (second * still(q))
    return [
        Section(g, np.full(1, 1.0 / first), ZERO, ZERO, ONE),
        Section(g, sharp, ZERO, ZERO, ONE),
    ]


def low_cut(freq_hz: Floats, sample_rate: float) -> Section:
    """A high-pass of second order, left out entirely at 10 Hz."""
    share = faded_in(freq_hz, LOWEST_HZ, 8.0)
    return high_pass(freq_hz, BUTTERWORTH_2, sample_rate, share)
