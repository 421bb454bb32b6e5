"""One sound held against another: how late it is, and how alike."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.signal import correlate

from bathyphon.core.arrays import Floats

LATEST_SECONDS = 2.0
"""A delay beyond it is not looked for."""


@dataclass(frozen=True)
class Likeness:
    """How two sounds lie to each other.

    Parameters
    ----------
    delay : int
        Samples by which the sound is later than the other; negative if earlier.
    correlation : float
        Of the two at that delay, −1 to 1; −1 is the same sound turned over.
    """

    delay: int
    correlation: float


def likeness(sound: Floats, other: Floats, rate: int) -> Likeness | None:
    """Where two sounds lie best on each other.

    Parameters
    ----------
    sound, other : ndarray, shape (n,), (m,)
        One channel of each.
    rate : int
        Samples a second.

    Returns
    -------
    Likeness, or None if one of them is silent
    """
    if not sound.size or not other.size or not np.any(sound) or not np.any(other):
        return None
    most = round(LATEST_SECONDS * rate)
    products = correlate(sound.astype(np.float64), other.astype(np.float64), "full", "fft")
    lags = np.arange(1 - other.size, sound.size)
    near = np.abs(lags) <= most
    delay = int(lags[near][np.argmax(np.abs(products[near]))])
    a = sound[max(0, delay) :]
    b = other[max(0, -delay) :]
    n = min(a.size, b.size)
    a, b = a[:n].astype(np.float64), b[:n].astype(np.float64)
    norm = float(np.sqrt(np.sum(a * a) * np.sum(b * b)))
    return Likeness(delay, float(np.sum(a * b) / norm) if norm > 0 else 0.0)
