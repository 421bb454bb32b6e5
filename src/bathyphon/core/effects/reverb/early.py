"""What is heard before the diffuse field: pre-delay, early reflections and diffusion."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import (
    Vector,
    aligned,
    copied,
    fma,
    load,
    scaled,
    silenced,
    splat,
    store,
)
from bathyphon.core.dsp.filters import FLUSH
from bathyphon.core.effects.reverb.rings import (
    PAD,
    SPARE,
    STRETCH,
    SWEEP,
    Places,
    closed,
    go_on,
    layout,
    reading,
    writing,
)

RING_SHARE = 0.3
SHARED = 1024
"""Samples that are handed on to the field at once; few enough to stay in the processor's cache."""
SIDE = SHARED + SPARE
STAGES = 6

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


class Settings(NamedTuple):
    """What is set of the sound before the field.

    Parameters
    ----------
    predelay : ndarray, shape (n,)
        Samples.
    size : ndarray, shape (n,)
        Percent; scales the reflections' times.
    level : ndarray, shape (n,)
        Of the reflections.
    diffusion : ndarray, shape (6, n) or (6, 1)
        Coefficients of the all-passes, 0 to 0.8.
    moves : bool
        Whether pre-delay or size ever moves; if not, reflections come at whole samples.
    """

    predelay: Floats
    size: Floats
    level: Floats
    diffusion: Floats
    moves: bool


class Standing(NamedTuple):
    """What stands while neither pre-delay nor size moves.

    Parameters
    ----------
    lengths : ndarray of int64, shape (2, STAGES)
        Samples of the all-passes.
    delays : ndarray of int64, shape (2, 1 + reflections)
        Samples of the pre-delay and of the reflections on both sides.
    levels : ndarray, shape (2, 1 + reflections)
    ms, level : ndarray, shape (2, reflections)
        Arrival times at size 100 % and levels of the reflections, which never change.
    """

    lengths: Places
    delays: Places
    levels: Floats
    ms: Floats
    level: Floats


class Rings(NamedTuple):
    """What came in on both sides, and the all-passes with their plan."""

    past: Floats
    passes: Floats
    plan: Places


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


def buffers(longest_ms: float, sample_rate: int) -> Rings:
    """Empty rings for what came in on both sides, which are a power of two long, and for all
    their all-passes; with the latter's plan."""
    room = int(1 << math.ceil(math.log2(longest_ms * sample_rate / 1000.0 + 2 * PAD)))
    passes, plan = layout(_samples(DIFFUSION_MS, sample_rate).ravel())
    return Rings(aligned(2 * (room + PAD)), passes, plan)


def _samples(ms: Floats, sample_rate: int) -> Places:
    return (ms * sample_rate / 1000.0).astype(np.int64)


def placed(predelay: float, size: float, sample_rate: int) -> Standing:
    """Where things stand at a pre-delay in samples and a size in percent."""
    far = predelay + EARLY_MS * (size * sample_rate / 100000.0)
    delays = np.column_stack([np.full(2, predelay), far]).round().astype(np.int64)
    levels = np.column_stack([np.ones(2), EARLY_LEVEL])
    return Standing(_samples(DIFFUSION_MS, sample_rate), delays, levels, EARLY_MS, EARLY_LEVEL)


def workbench() -> Floats:
    """Room for what is worked on."""
    return aligned((2 + STAGES) * PAD)


@njit(cache=True, nogil=True)
def _tapped(
    ring: Floats, first: int, room: int, write: int, delays: Places, levels: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Sum of standing taps at whole samples; always a whole stretch."""
    s0, s1, s2, s3 = splat(0.0), splat(0.0), splat(0.0), splat(0.0)
    s4, s5, s6, s7 = splat(0.0), splat(0.0), splat(0.0), splat(0.0)
    for tap in range(delays.size):
        at = first + ((write - delays[tap]) & (room - 1))
        level = splat(levels[tap])
        s0, s1 = fma(level, load(ring, at), s0), fma(level, load(ring, at + 8), s1)
        s2, s3 = fma(level, load(ring, at + 16), s2), fma(level, load(ring, at + 24), s3)
        s4, s5 = fma(level, load(ring, at + 32), s4), fma(level, load(ring, at + 40), s5)
        s6, s7 = fma(level, load(ring, at + 48), s6), fma(level, load(ring, at + 56), s7)
    store(out, 0, s0)
    store(out, 8, s1)
    store(out, 16, s2)
    store(out, 24, s3)
    store(out, 32, s4)
    store(out, 40, s5)
    store(out, 48, s6)
    store(out, 56, s7)


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
    x: Vector, g: Floats, at: int, ring: Floats, write: int, read: int
) -> Vector:  # pragma: no cover - compiled
    """Eight moments after an all-pass."""
    h, old = load(g, at), load(ring, read)
    v = fma(h, old, x)
    store(ring, write, v)
    return old - h * v


@njit(cache=True, nogil=True)
def _diffused(
    row: Floats, m: int, g: Floats, moves: bool, ring: Floats, plan: Places, k: int,
    lengths: Places, out: Floats, first: int,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """A stretch through six all-passes from the k-th on; m may not exceed the shortest."""
    t0, t1, t2 = writing(plan, k), writing(plan, k + 1), writing(plan, k + 2)
    t3, t4, t5 = writing(plan, k + 3), writing(plan, k + 4), writing(plan, k + 5)
    f0, f1 = reading(plan, k, lengths[0]), reading(plan, k + 1, lengths[1])
    f2, f3 = reading(plan, k + 2, lengths[2]), reading(plan, k + 3, lengths[3])
    f4, f5 = reading(plan, k + 4, lengths[4]), reading(plan, k + 5, lengths[5])
    for j in range(0, m, 8):
        at = j if moves else 0
        x = _passed(load(row, j), g, at, ring, t0 + j, f0 + j)
        x = _passed(x, g, at + PAD, ring, t1 + j, f1 + j)
        x = _passed(x, g, at + 2 * PAD, ring, t2 + j, f2 + j)
        x = _passed(x, g, at + 3 * PAD, ring, t3 + j, f3 + j)
        x = _passed(x, g, at + 4 * PAD, ring, t4 + j, f4 + j)
        x = _passed(x, g, at + 5 * PAD, ring, t5 + j, f5 + j)
        store(out, first + j, x)


@njit(cache=True, nogil=True)
def before_the_field(
    x: Floats,
    first: int,
    last: int,
    near: Settings,
    sample_rate: float,
    standing: Standing,
    rings: Rings,
    write: int,
    bench: Floats,
    reflected: Floats,
    diffused: Floats,
) -> int:  # pragma: no cover - compiled
    """Delay a stretch, take the early reflections from it, and spread it in time.

    Parameters
    ----------
    x : ndarray, shape (2, n)
    first, last : int
        The stretch of it, at most :data:`SHARED`.
    near : Settings
    sample_rate : float
        Hz.
    standing : Standing
        From :func:`placed`.
    rings : Rings
        From :func:`buffers`; updated.
    write : int
        Samples so far; the new count is returned.
    bench : ndarray
        From :func:`workbench`; overwritten.
    reflected, diffused : ndarray, shape (2 · SIDE,)
        What comes of it, left and right: their halves are overwritten from their beginnings.
    """
    past, passes, plan = rings
    lengths, delays, levels, early_ms, early_level = standing
    predelay, size, early, diffusion, moves = near
    n = x.shape[1]
    sound = x.ravel()
    shortest = lengths.min()
    row, total, g = bench[:PAD], bench[PAD : 2 * PAD], bench[2 * PAD :]
    spreads = diffusion.shape[1] > 1
    for k in range(STAGES):
        g[k * PAD : k * PAD + 8] = diffusion[k, 0]
    room = past.size // 2 - PAD
    i = first
    while i < last:
        if write % SWEEP == 0:
            silenced(passes, FLUSH)
        here = write & (room - 1)
        m = min(last - i, shortest, STRETCH - write % STRETCH)
        for k in range(spreads * STAGES):
            for j in range(m):
                g[k * PAD + j] = diffusion[k, i + j]
        for side in range(2):
            base = side * (room + PAD)
            copied(sound, side * n + i, past, base + here, m)
            closed(past, base, room, here, m)
            if moves:
                p, s = predelay[i : i + m], size[i : i + m]
                row[:m] = 0.0
                total[:m] = 0.0
                _tapped_moving(past, base, room, here, p, 0.0, s, sample_rate, 1.0, row)
                for k in range(early_ms.shape[1]):
                    ms, level = early_ms[side, k], early_level[side, k]
                    _tapped_moving(past, base, room, here, p, ms, s, sample_rate, level, total)
            else:
                _tapped(past, base, room, here, delays[side, :1], levels[side, :1], row)
                _tapped(past, base, room, here, delays[side, 1:], levels[side, 1:], total)
            k, to = side * STAGES, side * SIDE + i - first
            _diffused(row, m, g, spreads, passes, plan, k, lengths[side], diffused, to)
            for own in range(k, k + STAGES):
                go_on(passes, plan, own, m)
            scaled(total, 0, early, i, reflected, to, m)
        write += m
        i += m
    return write
