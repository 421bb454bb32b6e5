"""Percussive attacks of a sound: places that a stretcher must leave as they are.

Only attacks in which a good part of the spectrum rises at once are of interest; a note that sets in
over a steady sound is not torn. Compare A. Röbel, "A new approach to transient processing in the
phase vocoder", DAFx 2003 (from memory), whose idea of treating the rising bins alone is used.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy import fft
from scipy.ndimage import maximum_filter1d

from bathyphon.core.curves import Floats
from bathyphon.core.speed.vocoder import Ints, window

LOOK = 1024
HOP = 256
RISE = 4.0
"""Power by which a bin rises: 6 dB."""
SPREAD = 5
"""Bins over which a partial may wander meanwhile."""
SHARE = 0.25
"""Share of the weighted bins that must rise."""
WIDTH = 24
"""Bins that must rise: two partials that beat are no attack."""
NEAREST_S = 0.03
QUIET = 1e-9
"""Mean power of a frame below which nothing is an attack."""


def attacks_of(x: Floats, sample_rate: int) -> Ints:
    """Samples at which the attacks of a sound begin, in rising order.

    Parameters
    ----------
    x : ndarray of float64, shape (channels, n)
    sample_rate : int
    """
    shape = window(LOOK)
    count = 1 + x.shape[1] // HOP
    padded = np.pad(x, ((0, 0), (LOOK, LOOK)))
    share = np.zeros(count)
    before: NDArray[np.float64] | None = None
    lag = LOOK // HOP
    for begin in range(0, count, 256):
        starts = np.arange(begin, min(count, begin + 256)) * HOP + LOOK // 2
        power = np.zeros((starts.size, LOOK // 2 + 1))
        for channel in padded:
            frames = np.lib.stride_tricks.sliding_window_view(channel, LOOK)[starts] * shape
            power += np.abs(fft.rfft(frames, axis=-1)) ** 2
        if before is None:
            before = np.zeros((lag, power.shape[1]))
        earlier = np.concatenate([before, power])[: power.shape[0]]
        before = np.concatenate([before, power])[-lag:]
        loudest = power.max(axis=1, keepdims=True)
        weight = np.where(power > 1e-6 * loudest, np.sqrt(np.sqrt(power)), 0.0)
        # A partial that glides into the next bin is no attack.
        rise = power > RISE * maximum_filter1d(earlier, SPREAD, axis=1)
        total = weight.sum(axis=1)
        heard = power.mean(axis=1) > QUIET * LOOK
        heard &= ((weight > 0.0) & rise).sum(axis=1) >= WIDTH
        share[begin : begin + starts.size] = np.where(
            heard, (weight * rise).sum(axis=1) / np.maximum(total, 1e-300), 0.0
        )
    return _refined(x, _peaks(share, sample_rate), sample_rate)


def _peaks(share: Floats, sample_rate: int) -> list[int]:
    """Frames in which the share of rising bins is high and highest around."""
    reach = max(1, round(NEAREST_S * sample_rate / HOP))
    found: list[int] = []
    for m in np.flatnonzero(share >= SHARE):
        around = share[max(0, m - reach) : m + reach + 1]
        if share[m] == around.max() and (not found or m - found[-1] > reach):
            found.append(int(m))
    return found


def _refined(x: Floats, frames: list[int], sample_rate: int) -> Ints:
    """The sample at which the energy of what changes fast grows most."""
    fast = np.zeros(x.shape[1] + 1)
    np.cumsum((np.diff(x, axis=1, prepend=0.0) ** 2).sum(axis=0), out=fast[1:])
    short, long = max(1, sample_rate // 1000), max(1, sample_rate // 200)
    places = []
    for m in frames:
        low = max(0, m * HOP - LOOK)
        high = min(x.shape[1], m * HOP + LOOK // 2)
        t = np.arange(low, high)
        after = fast[np.minimum(t + short, x.shape[1])] - fast[t]
        earlier = fast[t] - fast[np.maximum(t - long, 0)]
        floor = 1e-4 * after.max(initial=0.0) + 1e-12
        places.append(int(t[np.argmax((after + floor) / (earlier * short / long + floor))]))
    return np.unique(np.array(places, np.int64))


def rising_bins(x: Floats, places: Ints, frame: int) -> NDArray[np.bool_]:
    """Bins that are stronger after each attack than before it, shape (attacks, frame // 2 + 1)."""
    shape = window(frame)
    padded = np.pad(x, ((0, 0), (2 * frame, 2 * frame)))
    out = np.zeros((places.size, frame // 2 + 1), np.bool_)
    for k, place in enumerate(places):
        at = place + 2 * frame
        # One frame ends where the attack begins, the other has it in its first quarter.
        earlier, later = (
            (np.abs(fft.rfft(padded[:, a : a + frame] * shape, axis=-1)) ** 2).sum(axis=0)
            for a in (at - frame, at - frame // 4)
        )
        out[k] = later > RISE * earlier
    return out
