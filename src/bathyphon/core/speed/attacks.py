"""Percussive attacks of a sound: places that a stretcher must leave as they are.

Only attacks in which a good part of the spectrum rises at once are of interest; a note that sets in
over a steady sound is not torn. Compare A. Röbel, "A new approach to transient processing in the
phase vocoder", DAFx 2003 (from memory), whose idea of treating the rising bins alone is used.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy import fft
from scipy.ndimage import maximum_filter1d

from bathyphon.core.arrays import Floats
from bathyphon.core.speed.vocoder import Ints, window

Read = Callable[[int, int], Floats]
"""Samples from … to of a sound, shape (channels, n); silence beyond its ends."""

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
LAG = LOOK // HOP


def attacks_between(read: Read, start: int, stop: int, sample_rate: int) -> Ints:
    """Samples at which the attacks begin that are seen from frames in ``[start, stop)``.

    Parameters
    ----------
    read : callable
        The sound.
    start, stop : int
        Multiples of ``HOP``.
    sample_rate : int

    Returns
    -------
    ndarray of int64
        In rising order. What is found around a frame never depends on ``start`` and ``stop``.
    """
    reach = max(1, round(NEAREST_S * sample_rate / HOP))
    first, last = start // HOP - reach, stop // HOP + reach
    share = _shares(read, first, last)
    inside = range(start // HOP, stop // HOP)
    frames = [m for m in inside if _peaks(share[m - first - reach : m - first + reach + 1])]
    return _refined(read, frames, sample_rate)


def _shares(read: Read, first: int, last: int) -> Floats:
    """Share of bins that rise, at each frame from ``first`` to ``last`` (exclusive)."""
    begins = (first - LAG) * HOP - LOOK // 2
    # Single precision does for finding places: the sound itself is not touched.
    x = read(begins, (last - 1) * HOP + LOOK // 2).astype(np.float32)
    if x.shape[0] == 2 and np.array_equal(x[0], x[1]):
        x = np.float32(np.sqrt(2.0)) * x[:1]
    shape = window(LOOK).astype(np.float32)
    power = np.zeros((last - first + LAG, LOOK // 2 + 1), np.float32)
    for channel in x:
        frames = np.lib.stride_tricks.sliding_window_view(channel, LOOK)[::HOP] * shape
        spectra = fft.rfft(frames, axis=-1)
        power += spectra.real**2 + spectra.imag**2
    power, earlier = power[LAG:], power[:-LAG]
    loudest = power.max(axis=1, keepdims=True)
    weight = np.where(power > 1e-6 * loudest, np.sqrt(np.sqrt(power)), 0.0)
    # A partial that glides into the next bin is no attack.
    rise = power > RISE * maximum_filter1d(earlier, SPREAD, axis=1)
    total = weight.sum(axis=1)
    heard = power.mean(axis=1) > QUIET * LOOK
    heard &= ((weight > 0.0) & rise).sum(axis=1) >= WIDTH
    return np.where(heard, (weight * rise).sum(axis=1) / np.maximum(total, 1e-30), 0.0)


def _peaks(around: Floats) -> bool:
    """Whether the share in the middle is high, and the first of the highest around."""
    middle = around.size // 2
    here = around[middle]
    return bool(here >= SHARE and here == around.max() and (around[:middle] < here).all())


def _refined(read: Read, frames: list[int], sample_rate: int) -> Ints:
    """The sample at which the energy of what changes fast grows most."""
    short, long = max(1, sample_rate // 1000), max(1, sample_rate // 200)
    places = []
    for m in frames:
        low, high = m * HOP - LOOK, m * HOP + LOOK // 2
        x = read(low - long - 1, high + short)
        fast = np.concatenate([[0.0], np.cumsum((np.diff(x, axis=1) ** 2).sum(axis=0))])
        t = np.arange(long, long + high - low)
        after = fast[t + short] - fast[t]
        earlier = fast[t] - fast[t - long]
        floor = 1e-4 * after.max(initial=0.0) + 1e-12
        grown = (after + floor) / (earlier * short / long + floor)
        places.append(low + int(np.argmax(grown)))
    return np.unique(np.array(places, np.int64))


def rising_bins(read: Read, place: int, frame: int) -> NDArray[np.bool_]:
    """Bins that are stronger after an attack than before it, shape (frame // 2 + 1,)."""
    shape = window(frame)
    # One frame ends where the attack begins, the other has it in its first quarter.
    earlier, later = (
        (np.abs(fft.rfft(read(a, a + frame) * shape, axis=-1)) ** 2).sum(axis=0)
        for a in (place - frame, place - frame // 4)
    )
    return np.asarray(later > RISE * earlier)
