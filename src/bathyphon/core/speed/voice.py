"""A voice's pulses keep their shape: each frame of it is moved as a whole.

A voiced sound is a row of pulses. If a frame goes on from the one before as the sound itself would,
all its partials must be moved in time by the same little way, less than a period. The way is found
by the likeness of the sound at both places, as in W. Verhelst, M. Roelands, "An overlap-add
technique based on waveform similarity (WSOLA)", ICASSP 1993; what is moved are the phases of the
partials, not the frame, so that its loudness stays where it is, as in A. Röbel, "A shape-invariant
phase vocoder for speech transformation", DAFx 2010 (both from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import uniform_filter1d

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit

Ints = NDArray[np.int64]

REACH_S = 0.010
"""How far a frame may be moved: half a period of a voice of 50 Hz."""
SPAN_S = 0.025
"""Stretch of sound that is compared."""
COARSE_HZ = 8000.0
"""Samples a second at which places are compared at first."""
VOICED = 0.7
"""Likeness to itself a period away from which on a sound is taken for voiced."""
PERIODS_S = (0.002, 0.018)
"""Periods of voices: 500 to 55 Hz."""
FARTHER = 0.5
"""Likeness that the farthest place must have more than one that needs no moving."""

AROUND = 25
"""Bins over which noise is told from partials."""
FLAT = 0.35
"""Flatness from which on it is noise."""

_kernel: Any = njit(cache=True, nogil=True)


@dataclass(frozen=True)
class Moves:
    """What frames of a voice need to go on from the ones before, each of shape (m,).

    Parameters
    ----------
    by : ndarray of int64
        Samples by which they are moved.
    voiced, noisy : ndarray of bool
        Whether they are voiced; whether they are noise that would be heard twice as it is.
    seeds : ndarray of int64
        Numbers of the frames, which their random phases come from.
    """

    by: Ints
    voiced: NDArray[np.bool_]
    noisy: NDArray[np.bool_]
    seeds: Ints


@_kernel
def _likeness(x: Any, here: int, there: int, half: int, step: int) -> float:  # pragma: no cover
    """Normalised correlation of a sound around two places, every ``step`` samples."""
    both = 0.0
    one = 1e-12
    other = 1e-12
    for k in range(-half, half, step):
        a = x[here + k]
        b = x[there + k]
        both += a * b
        one += a * a
        other += b * b
    return float(both / np.sqrt(one * other))


@_kernel
def _move(
    x: Any, smooth: Any, places: Any, last: int, sizes: Any, out: Any, voiced: Any, noisy: Any
) -> None:  # pragma: no cover - compiled
    hop, half, reach, step, shortest, longest = sizes
    for m in range(places.size):
        here = places[m]
        on = last + hop
        best = 0
        voiced[m] = on == here
        noisy[m] = False
        if on != here:
            likest = -1.0
            for lag in range(shortest, longest, step):
                # Around the place, so that what begins or ends counts on both sides alike.
                found = _likeness(smooth, here - lag // 2, here - lag // 2 + lag, half, step)
                likest = max(likest, found)
            voiced[m] = likest >= VOICED
            noisy[m] = not voiced[m]
        if on != here and voiced[m]:
            top = -1.0
            for d in range(-reach, reach + 1, step):
                found = _likeness(smooth, on, here + d, half, step)
                found -= FARTHER * abs(d) / reach
                if found > top:
                    top = found
                    best = d
            middle = best
            top = -1.0
            for d in range(middle - step, middle + step + 1):
                found = _likeness(x, on, here + d, half, 1)
                if found > top:
                    top = found
                    best = d
        out[m] = best
        last = here + best


def moves(
    x: Floats, begins: int, places: Ints, last: int, hop: int, sample_rate: int, first: int
) -> Moves:
    """How far each frame must be moved to go on from the one before.

    Parameters
    ----------
    x : ndarray of float64, shape (n,)
        The sound from sample ``begins`` on, as far as :func:`margin` around all places.
    begins : int
    places : ndarray of int64
        Sample in the middle of each frame.
    last : int
        Where the frame before the first of these was moved to.
    hop, sample_rate : int
    first : int
        Number of the first of these frames.
    """
    step = max(1, int(sample_rate / COARSE_HZ))
    half = int(SPAN_S / 2 * sample_rate)
    reach = int(REACH_S * sample_rate) // step * step
    kernel = np.hanning(2 * step + 1)
    smooth = np.convolve(x, kernel / kernel.sum(), "same")
    by = np.empty_like(places)
    voiced, noisy = np.empty((2, places.size), np.bool_)
    shortest, longest = (int(period * sample_rate) for period in PERIODS_S)
    sizes = (hop, half, reach, step, shortest, longest)
    _move(x, smooth, places - begins, last - begins, sizes, by, voiced, noisy)
    return Moves(by, voiced, noisy, first + np.arange(places.size))


def margin(sample_rate: int) -> int:
    """Samples around all places that decide how far frames are moved."""
    return int((SPAN_S / 2 + max(REACH_S, PERIODS_S[1])) * sample_rate) + 8


def noise_like(spectra: NDArray[np.complex128]) -> NDArray[np.bool_]:
    """Whether spectra are those of noise, shape (m,): as flat close by as noise is.

    The ratio of geometric and arithmetic mean of power over some bins is 0.56 for noise, on
    average, and far below where there are partials.

    Parameters
    ----------
    spectra : ndarray of complex128, shape (m, channels, bins)
    """
    power = (spectra.real**2 + spectra.imag**2).sum(axis=1)
    power = power + 1e-9 * power.max(axis=1, keepdims=True) + 1e-30
    mean = uniform_filter1d(power, AROUND, axis=1)
    flat = np.exp(uniform_filter1d(np.log(power), AROUND, axis=1)) / mean
    return np.asarray((flat * power).sum(axis=1) > FLAT * power.sum(axis=1))


@_kernel
def _random(seed: int, k: int) -> float:  # pragma: no cover - compiled
    """A number in [0, 1) that belongs to a frame and a bin (SplitMix64's mixing, from memory)."""
    z = np.uint64(seed) * np.uint64(0x9E3779B97F4A7C15) + np.uint64(k) * np.uint64(
        0xD1B54A32D192ED03
    )
    z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return float(z >> np.uint64(11)) / 9007199254740992.0


@_kernel
def _peak_place(power: Any, top: int) -> float:  # pragma: no cover - compiled
    """Where between bins the peak lies, by a parabola through three logarithms."""
    if not 0 < top < power.size - 1 or power[top] <= 0.0:
        return float(top)
    a = np.log(power[top - 1] + 1e-300)
    b = np.log(power[top] + 1e-300)
    d = np.log(power[top + 1] + 1e-300)
    curve = a - 2.0 * b + d
    return top + 0.5 * (a - d) / curve if curve < -1e-9 else float(top)


@_kernel
def turn_partials(
    now: Any, by: int, noisy: bool, seed: int, power: Any, out: Any
) -> None:  # pragma: no cover - compiled
    """Turn each partial of a spectrum as a whole: all bins from one valley to the next.

    Parameters
    ----------
    now, out : ndarray of complex128, shape (channels, bins)
    by : int
        Samples by which all partials are moved in the sound.
    noisy : bool
        Turn each partial at random instead: noise that comes again must not be the same.
    seed : int
    power : ndarray of float64, shape (bins,)
        Work space.
    """
    channels, bins = now.shape
    frame = 2 * (bins - 1)
    for k in range(bins):
        power[k] = 0.0
        for c in range(channels):
            power[k] += now[c, k].real ** 2 + now[c, k].imag ** 2
    first = 0
    top = 0
    for k in range(1, bins + 1):
        valley = k == bins
        if 0 < k < bins - 1 and k > first:
            valley = power[k] <= power[k - 1] and power[k] < power[k + 1]
        if not valley:
            if power[k] > power[top]:
                top = k
            continue
        turns = _random(seed, top) if noisy else _peak_place(power, top) * by / frame
        turn = complex(np.cos(2.0 * np.pi * turns), np.sin(2.0 * np.pi * turns))
        for j in range(first, k):
            for c in range(channels):
                out[c, j] = now[c, j] * turn
        first = k
        top = k
