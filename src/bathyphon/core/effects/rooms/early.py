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
def _tapped(
    line: Floats, delay: float, level: float, out: Floats
) -> None:  # pragma: no cover - compiled
    """Add a standing tap; between samples straight. ``line`` ends with the block itself."""
    n = out.size
    whole = int(delay)
    u = delay - whole
    here = line[line.size - n - whole : line.size - whole]
    before = line[line.size - n - whole - 1 : line.size - whole - 1]
    for i in range(n):
        out[i] += level * (here[i] + u * (before[i] - here[i]))


@njit(cache=True, nogil=True)
def _tapped_moving(
    line: Floats, predelay: Floats, ms: float, size: Floats, sample_rate: float, level: float,
    out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Add a tap whose place moves."""
    n = out.size
    for i in range(n):
        far = predelay[i] + ms * (size[i] * sample_rate / 100000.0)
        whole = int(far)
        u = far - whole
        at = line.size - n + i - whole
        out[i] += level * (line[at] + u * (line[at - 1] - line[at]))


@njit(cache=True, nogil=True)
def _passed(row: Floats, g: Floats, past: Floats) -> None:  # pragma: no cover - compiled
    """An all-pass as long as its past, in place."""
    length = past.size
    n = row.size
    inner = np.empty(length + n)
    inner[:length] = past
    for i in range(n):
        v = row[i] + g[i] * inner[i]
        inner[length + i] = v if abs(v) >= FLUSH else 0.0
    for i in range(n):
        row[i] = inner[i] - g[i] * inner[length + i]
    past[:] = inner[n:]


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
    reflections: Floats,
    diffused: Floats,
) -> None:  # pragma: no cover - compiled
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
    past : ndarray, shape (2, reach)
        The samples before; updated.
    passes : ndarray, shape (2, 6, longest)
        What is inside the all-passes, each at the beginning of its row; updated.
    """
    n = x.shape[1]
    still = True
    for i in range(1, n):
        if predelay[i] != predelay[0] or size[i] != size[0]:
            still = False
    line = np.empty(past.shape[1] + n)
    for side in range(2):
        line[: past.shape[1]] = past[side]
        line[past.shape[1] :] = x[side]
        direct, total = diffused[side], reflections[side]
        direct[:] = 0.0
        total[:] = 0.0
        if still:
            _tapped(line, predelay[0], 1.0, direct)
            for k in range(early_ms.shape[1]):
                far = predelay[0] + early_ms[side, k] * (size[0] * sample_rate / 100000.0)
                _tapped(line, far, early_level[side, k], total)
        else:
            _tapped_moving(line, predelay, 0.0, size, sample_rate, 1.0, direct)
            for k in range(early_ms.shape[1]):
                _tapped_moving(
                    line, predelay, early_ms[side, k], size, sample_rate, early_level[side, k],
                    total,
                )  # fmt: skip
        for i in range(n):
            total[i] *= early[i]
        for k in range(diffusion_ms.shape[1]):
            length = int(diffusion_ms[side, k] * sample_rate / 1000.0)
            _passed(direct, diffusion[k], passes[side, k, :length])
        past[side] = line[n:]
