"""What is heard before the diffuse field: pre-delay, early reflections and diffusion."""

from __future__ import annotations

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH
from bathyphon.core.effects.rooms.rings import put, take

RING_SHARE = 0.3
STRETCH = 64

# Arrival times in ms at size 100 % and levels that fall with distance, signs by chance.
EARLY_MS: Floats = np.array(
    [
        [5.9, 10.7, 14.9, 19.3, 23.9, 28.1, 33.7, 39.1],
        [7.3, 9.7, 16.1, 20.9, 22.3, 29.9, 35.3, 37.9],
    ]
)
EARLY_LEVEL: Floats = np.array([[1, -1, 1, 1, -1, 1, -1, -1], [1, 1, -1, 1, 1, -1, -1, 1]]) / (
    1.0 + EARLY_MS / 12.0
)
# Lengths of the all-passes of both sides, in ms (M. R. Schroeder, "Natural sounding artificial
# reverberation", J. Audio Eng. Soc. 10, 1962).
DIFFUSION_MS: Floats = np.array(
    [[1.7, 3.1, 5.3, 9.7, 17.3, 27.1], [1.9, 3.7, 4.9, 10.3, 16.1, 28.7]]
)


def spreading(diffusion: Floats, decay_s: Floats, moves: bool) -> Floats:
    """Coefficients of the all-passes, shape (6, n).

    An all-pass rings by itself; it must be over well before the room is.

    Parameters
    ----------
    diffusion : ndarray, shape (n,)
        0 to 0.8.
    decay_s : ndarray, shape (n,)
    moves : bool
        Whether the decay changes within the block.
    """
    decay = decay_s if moves else decay_s[:1]
    longest = DIFFUSION_MS.max(axis=0)[:, None] / 1000.0
    most: Floats = 10.0 ** (-3.0 * longest / (RING_SHARE * decay[None, :]))
    return np.minimum(diffusion[None, :], most)


@njit(cache=True, nogil=True)
def _one_by_one(
    x: Floats, predelay: Floats, size: Floats, early: Floats, diffusion: Floats,
    sample_rate: float, early_ms: Floats, early_level: Floats, diffusion_ms: Floats,
    line: Floats, passes: Floats, write: int, reflections: Floats, diffused: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """One side of a block whose times move."""
    mask = line.size - 1
    pass_mask = passes.shape[1] - 1
    for i in range(x.size):
        new = write + i
        line[new & mask] = x[i]
        whole = int(predelay[i])
        u = predelay[i] - whole
        v = line[(new - whole) & mask]
        if u > 0.0:
            v += u * (line[(new - whole - 1) & mask] - v)
        total = 0.0
        scale = size[i] * sample_rate / 100000.0
        for k in range(early_ms.size):
            far = predelay[i] + early_ms[k] * scale
            whole = int(far)
            u = far - whole
            a = line[(new - whole) & mask]
            total += early_level[k] * (a + u * (line[(new - whole - 1) & mask] - a))
        reflections[i] = total * early[i]
        for k in range(diffusion_ms.size):
            row = passes[k]
            g = diffusion[k, i]
            old = row[(new - int(diffusion_ms[k] * sample_rate / 1000.0)) & pass_mask]
            inner = v + g * old
            v = old - g * inner
            row[new & pass_mask] = inner if abs(inner) >= FLUSH else 0.0
        diffused[i] = v


@njit(cache=True, nogil=True)
def _stretch(
    x: Floats, predelay: float, size: float, early: Floats, diffusion: Floats, first: int,
    sample_rate: float, early_ms: Floats, early_level: Floats, diffusion_ms: Floats,
    line: Floats, passes: Floats, write: int, reflections: Floats, diffused: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """One side of a stretch whose times stand still: the same sums, many samples at a time."""
    m = x.size
    here, before = np.empty(m), np.empty(m)
    put(line, write, x)
    whole = int(predelay)
    u = predelay - whole
    take(line, write - whole, diffused)
    if u > 0.0:
        take(line, write - whole - 1, before)
        for i in range(m):
            diffused[i] += u * (before[i] - diffused[i])
    reflections[:] = 0.0
    scale = size * sample_rate / 100000.0
    for k in range(early_ms.size):
        far = predelay + early_ms[k] * scale
        whole = int(far)
        u = far - whole
        level = early_level[k]
        take(line, write - whole, here)
        take(line, write - whole - 1, before)
        for i in range(m):
            reflections[i] += level * (here[i] + u * (before[i] - here[i]))
    for i in range(m):
        reflections[i] *= early[i]
    for k in range(diffusion_ms.size):
        take(passes[k], write - int(diffusion_ms[k] * sample_rate / 1000.0), here)
        g = diffusion[k, first : first + m]
        for i in range(m):
            inner = diffused[i] + g[i] * here[i]
            diffused[i] = here[i] - g[i] * inner
            before[i] = inner if abs(inner) >= FLUSH else 0.0
        put(passes[k], write, before)


@njit(cache=True, nogil=True)
def before_the_field(
    x: Floats,
    predelay: Floats,
    size: Floats,
    early: Floats,
    diffusion: Floats,
    sample_rate: float,
    early_ms: Floats,
    early_level: Floats,
    diffusion_ms: Floats,
    past: Floats,
    passes: Floats,
    write: int,
    reflections: Floats,
    diffused: Floats,
) -> int:  # pragma: no cover - compiled
    """Delay a block, take the early reflections from it, and spread it in time.

    Parameters
    ----------
    x, reflections, diffused : ndarray, shape (2, n)
    predelay : ndarray, shape (n,)
        Samples.
    size : ndarray, shape (n,)
        Percent; scales the reflections' times.
    early : ndarray, shape (n,)
        Their level.
    diffusion : ndarray, shape (6, n)
        Coefficients of the all-passes, 0 to 0.8.
    past : ndarray, shape (2, 2^k)
    passes : ndarray, shape (2, 6, 2^k)
    write : int
        Position in both; the new one is returned.
    """
    n = x.shape[1]
    still = np.all(predelay == predelay[0]) and np.all(size == size[0])
    if not still:
        for side in range(2):
            _one_by_one(
                x[side], predelay, size, early, diffusion, sample_rate, early_ms[side],
                early_level[side], diffusion_ms[side], past[side], passes[side], write,
                reflections[side], diffused[side],
            )  # fmt: skip
        return int(write + n)
    shortest = int(diffusion_ms.min() * sample_rate / 1000.0)
    i = 0
    while i < n:
        # No longer than the shortest all-pass, so that none hears what it is about to say.
        m = min(n - i, STRETCH, shortest)
        for side in range(2):
            _stretch(
                x[side, i : i + m], predelay[0], size[0], early[i : i + m], diffusion, i,
                sample_rate, early_ms[side], early_level[side], diffusion_ms[side], past[side],
                passes[side], write + i, reflections[side, i : i + m], diffused[side, i : i + m],
            )  # fmt: skip
        i += m
    return int(write + n)
