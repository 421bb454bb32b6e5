"""Reading a delay line between its samples."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.filters import FLUSH

NOWHERE = -1e9


@njit(cache=True, nogil=True, inline="always")
def tap(line: Floats, size: int, write: int, delay: float) -> float:  # pragma: no cover
    """Read ``delay`` samples back from ``write``; between samples, cubic Lagrange interpolation.

    The sample at ``write`` itself may be in use, so ``delay`` lies between 2 and ``size`` − 3; a
    whole number of samples is read as it is, and may be anything from 0 on.
    """
    whole = int(delay)
    u = delay - whole
    at = write - whole
    if at < 0:
        at += size
    if u == 0.0:
        return float(line[at])
    newer = at + 1 if at + 1 < size else 0
    older = at - 1 if at > 0 else size - 1
    oldest = older - 1 if older > 0 else size - 1
    down, further, up = u - 1.0, u - 2.0, u + 1.0
    inner, outer = 0.5 * (up * further), (1.0 / 6.0) * (u * down)
    return float(
        inner * (down * line[at] - u * line[older])
        + outer * (up * line[oldest] - further * line[newer])
    )


def delayed(waiting: Floats, x: Floats) -> tuple[Floats, Floats]:
    """Hold a sound back by as many samples as wait.

    Parameters
    ----------
    waiting : ndarray, shape (2, late)
    x : ndarray, shape (2, n)

    Returns
    -------
    out : ndarray, shape (2, n)
    waiting : ndarray, shape (2, late)
        What waits then.
    """
    if not waiting.shape[1]:
        return x, waiting
    both = np.concatenate([waiting, x], axis=1)
    return both[:, : x.shape[1]], both[:, x.shape[1] :].copy()


@njit(cache=True, nogil=True)
def slewed(delay: Floats, most: float, last: float) -> float:  # pragma: no cover - compiled
    """Let a delay move by at most so many samples a sample, in place; returns where it has got to.

    A tape head cannot jump: a delay that steps is caught up with at a bounded speed, so that it
    bends the pitch but does not click. From :data:`NOWHERE` it begins at the first value.
    """
    for i in range(delay.size):
        if last != NOWHERE:
            step = delay[i] - last
            if step > most:
                delay[i] = last + most
            elif step < -most:
                delay[i] = last - most
        last = delay[i]
    return last


@njit(cache=True, nogil=True)
def slewed_by(delay: Floats, most: Floats, last: float) -> float:  # pragma: no cover - compiled
    """As :func:`slewed`, with a bound for each sample."""
    for i in range(delay.size):
        if last != NOWHERE:
            step = delay[i] - last
            if step > most[i]:
                delay[i] = last + most[i]
            elif step < -most[i]:
                delay[i] = last - most[i]
        last = delay[i]
    return last


@njit(cache=True, nogil=True)
def faded(
    delay: Floats, length: int, memory: Floats, old: Floats, share: Floats
) -> None:  # pragma: no cover - compiled
    """Turn a moving delay into standing ones that fade into each other.

    Parameters
    ----------
    delay : ndarray, shape (n,)
        What is wanted, in samples; overwritten by the delay that is faded to.
    length : int
        Samples of a fade.
    memory : ndarray, shape (3,)
        The old delay (below zero before the first sample), the new one, and the samples of the
        fade that are done; updated.
    old, share : ndarray, shape (n,)
        The delay that is faded from, and the share of the new one, 0 to 1; overwritten.
    """
    if memory[0] < 0.0 and delay.size:
        memory[0] = memory[1] = round(delay[0])
        memory[2] = length
    for i in range(delay.size):
        if memory[2] >= length:
            memory[0] = memory[1]
            wanted = round(delay[i])
            if wanted != memory[0]:
                memory[1] = wanted
                memory[2] = 0.0
        old[i] = memory[0]
        delay[i] = memory[1]
        u = min(memory[2] / length, 1.0)
        share[i] = u * u * (3.0 - 2.0 * u)
        memory[2] += 1.0


@njit(cache=True, nogil=True)
def moving_voices(
    x: Floats, delay: Floats, feedback: Floats, lines: Floats, write: int, out: Floats
) -> int:  # pragma: no cover - compiled
    """Voices of each side read at moving places of one line, their mean fed back.

    Parameters
    ----------
    x, out : ndarray, shape (2, n)
    delay : ndarray, shape (2, voices, n)
        In samples, at least 2.
    feedback : ndarray, shape (n,)
        Share of the voices' mean that goes in again, below 1.
    lines : ndarray, shape (2, size)
        Updated.
    write : int
        Place in the lines.

    Returns
    -------
    int
        The place after this block.
    """
    size = lines.shape[1]
    voices = delay.shape[1]
    for i in range(x.shape[1]):
        for side in range(2):
            total = 0.0
            for v in range(voices):
                total += tap(lines[side], size, write, delay[side, v, i])
            out[side, i] = total
            new = x[side, i] + feedback[i] * total / voices
            lines[side, write] = new if abs(new) > FLUSH else 0.0
        write += 1
        if write == size:
            write = 0
    return write
