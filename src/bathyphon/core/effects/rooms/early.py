"""What is heard before the diffuse field: pre-delay, early reflections and diffusion."""

from __future__ import annotations

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH

RING_SHARE = 0.3

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
    mask = past.shape[1] - 1
    pass_mask = passes.shape[2] - 1
    n = x.shape[1]
    new = write
    for side in range(2):
        new = write
        line = past[side]
        for i in range(n):
            line[new & mask] = x[side, i]
            whole = int(predelay[i])
            u = predelay[i] - whole
            at = new - whole
            v = line[at & mask]
            if u > 0.0:
                v += u * (line[(at - 1) & mask] - v)
            total = 0.0
            if early[i] > 0.0:
                scale = size[i] * sample_rate / 100000.0
                for k in range(early_ms.shape[1]):
                    far = predelay[i] + early_ms[side, k] * scale
                    whole = int(far)
                    u = far - whole
                    at = new - whole
                    a = line[at & mask]
                    total += early_level[side, k] * (a + u * (line[(at - 1) & mask] - a))
                total *= early[i]
            reflections[side, i] = total
            for k in range(diffusion_ms.shape[1]):
                row = passes[side, k]
                g = diffusion[k, i]
                length = int(diffusion_ms[side, k] * sample_rate / 1000.0)
                old = row[(new - length) & pass_mask]
                inner = v + g * old
                v = old - g * inner
                row[new & pass_mask] = inner if abs(inner) >= FLUSH else 0.0
            diffused[side, i] = v
            new += 1
    return new
