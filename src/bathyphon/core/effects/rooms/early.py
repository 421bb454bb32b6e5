"""What is heard before the diffuse field: pre-delay, early reflections and diffusion."""

from __future__ import annotations

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH
from bathyphon.core.effects.lanes import aligned, audible, copied, fma, full, load, scaled, store

Places = NDArray[np.int64]

RING_SHARE = 0.3
STRETCH = 64
SHARED = 1024
"""Samples that are handed on to the field at once; few enough to stay in the processor's cache."""
# Behind a ring's end its beginning is repeated: a stretch, and what eight at once read too much.
PAD = STRETCH + 8

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


def spreading(diffusion: Floats, decay_s: Floats) -> Floats:
    """Coefficients of the all-passes, shape (6, n).

    An all-pass rings by itself; it must be over well before the room is.

    Parameters
    ----------
    diffusion : ndarray, shape (n,)
        0 to 0.8.
    decay_s : ndarray, shape (n,)
    """
    longest = DIFFUSION_MS.max(axis=0)[:, None] / 1000.0
    most: Floats = 10.0 ** (-3.0 * longest / (RING_SHARE * decay_s[None, :]))
    return np.minimum(diffusion[None, :], most)


def buffers(longest_ms: float, sample_rate: int) -> tuple[Floats, Floats]:
    """Empty rings for what came in on both sides, and for all their all-passes.

    Each is a power of two long and has its beginning once more behind its end.
    """

    def ring(ms: float) -> int:
        return int(1 << math.ceil(math.log2(ms * sample_rate / 1000.0 + 2 * PAD))) + PAD

    passes = ring(float(DIFFUSION_MS.max()))
    return aligned(2 * ring(longest_ms)), aligned(DIFFUSION_MS.size * passes)


def workbench() -> Floats:
    """Room for what is worked on."""
    return aligned(3 * PAD)


@njit(cache=True, nogil=True, inline="always")
def _tapped(
    ring: Floats, first: int, room: int, write: int, delays: Places, levels: Floats, k: int,
    count: int, m: int, out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Sum of standing taps from the k-th on, at whole samples; eight moments at once."""
    for j in range(0, m, 8):
        total = full(0.0)
        for tap in range(k, k + count):
            there = load(ring, first + ((write - delays[tap]) & (room - 1)) + j)
            total = fma(full(levels[tap]), there, total)
        store(out, j, total)


@njit(cache=True, nogil=True)
def _tapped_moving(
    ring: Floats, first: int, room: int, write: int, predelay: Floats, ms: float, size: Floats,
    sample_rate: float, level: float, out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Add a tap whose place moves; between samples straight."""
    for j in range(predelay.size):
        far = predelay[j] + ms * (size[j] * sample_rate / 100000.0)
        whole = int(far)
        at = write + j - whole
        here = ring[first + (at & (room - 1))]
        before = ring[first + ((at - 1) & (room - 1))]
        out[j] += level * (here + (far - whole) * (before - here))


@njit(cache=True, nogil=True, inline="always")
def _passed(
    row: Floats, g: Floats, ring: Floats, first: int, room: int, write: int, length: int, m: int
) -> None:  # pragma: no cover - compiled
    """An all-pass, in place, eight moments at once; m may not exceed its length."""
    read = first + ((write - length) & (room - 1))
    floor = full(FLUSH)
    moves = g.size > 1
    h = full(g[0])
    for j in range(0, m, 8):
        if moves:
            h = load(g, j)
        x, old = load(row, j), load(ring, read + j)
        v = audible(fma(h, old, x), floor)
        store(ring, first + write + j, v)
        store(row, j, old - h * v)


@njit(cache=True, nogil=True, inline="always")
def _closed(ring: Floats, first: int, room: int, write: int) -> None:  # pragma: no cover
    """Repeat a ring's beginning behind its end, so that any stretch can be read in one piece."""
    if write < PAD:
        for j in range(PAD):
            ring[first + room + j] = ring[first + j]


@njit(cache=True, nogil=True)
def before_the_field(
    x: Floats,
    first: int,
    last: int,
    predelay: Floats,
    size: Floats,
    moves: bool,
    early: Floats,
    diffusion: Floats,
    sample_rate: float,
    early_ms: Floats,
    early_level: Floats,
    diffusion_ms: Floats,
    past: Floats,
    passes: Floats,
    write: int,
    bench: Floats,
    reflections: Floats,
    diffused: Floats,
) -> int:  # pragma: no cover - compiled
    """Delay a stretch, take the early reflections from it, and spread it in time.

    Parameters
    ----------
    x, reflections : ndarray, shape (2, n)
    first, last : int
        The stretch of them, at most :data:`SHARED`.
    diffused : ndarray, shape (2 · SHARED,)
        Its beginning is overwritten, and that of its second half.
    predelay : ndarray, shape (n,)
        Samples.
    size : ndarray, shape (n,)
        Percent; scales the reflections' times.
    moves : bool
        Whether one of both ever moves; if not, reflections come at whole samples.
    early : ndarray, shape (n,)
        Their level.
    diffusion : ndarray, shape (6, n) or (6, 1)
        Coefficients of the all-passes, 0 to 0.8.
    past, passes : ndarray
        Rings from :func:`buffers`; updated.
    write : int
        Place in the rings; the new one is returned.
    bench : ndarray, shape (3 · PAD,)
        Overwritten.
    """
    n = x.shape[1]
    sound, flat_reflections = x.ravel(), reflections.ravel()
    taps, stages = early_ms.shape[1], diffusion_ms.shape[1]
    lengths = np.empty(2 * stages, dtype=np.int64)
    delays = np.empty(2 * taps + 1, dtype=np.int64)
    levels = np.ones(2 * taps + 1)
    delays[2 * taps] = round(predelay[0])
    for side in range(2):
        for k in range(stages):
            lengths[side * stages + k] = int(diffusion_ms[side, k] * sample_rate / 1000.0)
        for k in range(taps):
            far = early_ms[side, k] * (size[0] * sample_rate / 100000.0)
            delays[side * taps + k] = round(predelay[0] + far)
            levels[side * taps + k] = early_level[side, k]
    shortest = min(STRETCH, lengths.min())
    row, total = bench[:PAD], bench[PAD : 2 * PAD]
    g = bench[2 * PAD : 3 * PAD if diffusion.shape[1] > 1 else 2 * PAD + 1]
    room, pass_room = past.size // 2 - PAD, passes.size // lengths.size - PAD
    i = first
    while i < last:
        here, there = write & (room - 1), write & (pass_room - 1)
        m = min(last - i, shortest, room - here, pass_room - there)
        for side in range(2):
            base = side * (room + PAD)
            copied(sound, side * n + i, past, base + here, m)
            _closed(past, base, room, here)
            if moves:
                p, s = predelay[i : i + m], size[i : i + m]
                row[:m] = 0.0
                total[:m] = 0.0
                _tapped_moving(past, base, room, here, p, 0.0, s, sample_rate, 1.0, row)
                for k in range(taps):
                    ms, level = early_ms[side, k], early_level[side, k]
                    _tapped_moving(past, base, room, here, p, ms, s, sample_rate, level, total)
            else:
                _tapped(past, base, room, here, delays, levels, 2 * taps, 1, m, row)
                _tapped(past, base, room, here, delays, levels, side * taps, taps, m, total)
            for k in range(stages):
                if diffusion.shape[1] > 1:
                    for j in range(m):
                        g[j] = diffusion[k, i + j]
                else:
                    g[0] = diffusion[k, 0]
                own = (side * stages + k) * (pass_room + PAD)
                length = lengths[side * stages + k]
                _passed(row, g, passes, own, pass_room, there, length, m)
                _closed(passes, own, pass_room, there)
            scaled(total, 0, early, i, flat_reflections, side * n + i, m)
            copied(row, 0, diffused, side * SHARED + i - first, m)
        write += m
        i += m
    return write
