"""The delay lines of an echo: repeats that come again, or a row of them one after another.

A stretch that is shorter than the delay is done as a whole: what it reads has been written before.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import item
from bathyphon.core.dsp.filters import FLUSH

Places = NDArray[np.int64]

STRETCH = 512
# A read between samples takes one newer sample and two older ones.
AROUND = 4


def lines_for(stages: int, longest: float) -> Floats:
    """Empty lines, shape (stages, 2, 2^k), for delays of up to so many samples."""
    return np.zeros((stages, 2, 1 << math.ceil(math.log2(longest + AROUND + 1))))


@njit(cache=True, nogil=True)
def _least(delay: Floats) -> int:  # pragma: no cover - compiled
    found = delay[0, 0]
    for side in range(delay.shape[0]):
        for here in delay[side]:
            found = here if here < found else found
    return int(found)


@njit(cache=True, nogil=True)
def _copied(source: Floats, target: Floats) -> None:  # pragma: no cover - compiled
    for i in range(source.size):
        target[i] = source[i]


@njit(cache=True, nogil=True)
def _added(source: Floats, target: Floats) -> None:  # pragma: no cover - compiled
    for i in range(source.size):
        target[i] += source[i]


@njit(cache=True, nogil=True)
def _read_still(line: Floats, write: int, delay: int, out: Floats) -> None:  # pragma: no cover
    """As it is, from a whole number of samples ago on."""
    at = (write - delay) & (line.size - 1)
    head = min(out.size, line.size - at)
    _copied(line[at : at + head], out[:head])
    _copied(line[: out.size - head], out[head:])


@njit(cache=True, nogil=True)
def _between(
    delay: Floats, write: int, place: Places, here: Floats, older: Floats, oldest: Floats,
    newer: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Where each sample is read, and weights of its neighbours: cubic Lagrange interpolation."""
    for i in range(delay.size):
        whole = int(delay[i])
        u = delay[i] - whole
        down, further, up = u - 1.0, u - 2.0, u + 1.0
        inner, outer = 0.5 * (up * further), (1.0 / 6.0) * (u * down)
        place[i] = write + i - whole
        here[i], older[i] = inner * down, -inner * u
        oldest[i], newer[i] = outer * up, -outer * further


@njit(cache=True, nogil=True)
def _read_moving(
    line: Floats, place: Places, here: Floats, older: Floats, oldest: Floats, newer: Floats,
    out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    mask = line.size - 1
    for i in range(out.size):
        at = place[i]
        near = here[i] * item(line, at & mask) + older[i] * item(line, (at - 1) & mask)
        far = oldest[i] * item(line, (at - 2) & mask) + newer[i] * item(line, (at + 1) & mask)
        out[i] = near + far


@njit(cache=True, nogil=True)
def _cut(
    x: Floats, low_gain: Floats, low_share: Floats, high_gain: Floats, high_share: Floats,
    memory: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """One-pole low cut and high cut, in place, each as far as its share says."""
    low, high = memory[0], memory[1]
    for i in range(x.size):
        y = x[i]
        v = (y - low) * low_gain[i]
        below = v + low
        low = below + v
        y -= low_share[i] * below
        v = (y - high) * high_gain[i]
        below = v + high
        high = below + v
        x[i] = y + high_share[i] * (below - y)
        if abs(low) < FLUSH:
            low = 0.0
        if abs(high) < FLUSH:
            high = 0.0
    memory[0], memory[1] = low, high


@njit(cache=True, nogil=True)
def _crossed(
    left: Floats, right: Floats, own: Floats, other: Floats, cross: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """One side's next repeat: its own line and what crosses."""
    for i in range(out.size):
        out[i] = (1.0 - cross[i]) * (own[i] * left[i]) + cross[i] * (other[i] * right[i])


@njit(cache=True, nogil=True)
def _write(line: Floats, write: int, sound: Floats) -> None:  # pragma: no cover - compiled
    for i in range(sound.size):
        y = sound[i]
        sound[i] = y if abs(y) >= FLUSH else 0.0
    at = write & (line.size - 1)
    head = min(sound.size, line.size - at)
    _copied(sound[:head], line[at : at + head])
    _copied(sound[head:], line[: sound.size - head])


@njit(cache=True, nogil=True)
def repeated(
    x: Floats,
    moves: bool,
    delay: Floats,
    older: Floats,
    share: Floats,
    factors: tuple[Floats, Floats],
    cross: Floats,
    cuts: tuple[Floats, Floats, Floats, Floats],
    endless: bool,
    lines: Floats,
    memory: Floats,
    write: int,
    wet: Floats,
) -> int:  # pragma: no cover - compiled
    """Run a block through the lines.

    Parameters
    ----------
    x, wet : ndarray, shape (2, n)
    moves : bool
        Whether one of the delays ever moves.
    delay : ndarray, shape (1 or 2, n), or (1 or 2, 1) if none moves
        In samples, of each side or of both; one that stands still is whole.
    older, share : ndarray, shape (1 or 2, n), or (2, 0) if none fades
        Delays that are faded from, and the share of the new ones.
    factors : two ndarrays, shape (n,)
        From one repeat to the next, left and right.
    cross : ndarray, shape (n,)
        Share of each repeat that changes sides.
    cuts : four ndarrays, shape (0 or n,)
        Gains and shares of the low cut and of the high cut.
    endless : bool
        Whether each repeat goes in again; else every line feeds the next.
    lines, memory : ndarray, shape (stages, 2, 2^k), (stages, 2, 2)
        Updated.
    write : int
        Place in the lines; the new one is returned.
    """
    n = x.shape[1]
    stages = lines.shape[0]
    fades = share.shape[1] > 0
    shortest = _least(delay) - (AROUND if moves else 0)
    if fades:
        shortest = min(shortest, _least(older) - AROUND)
    rows = delay.shape[0] - 1
    most = max(1, min(STRETCH, shortest))
    read, was, fed = np.empty((2, most)), np.empty(most), np.empty((2, most))
    place, weights = np.empty(most, dtype=np.int64), np.empty((4, most))
    for side in range(2):
        wet[side, :] = 0.0
    i = 0
    while i < n:
        m = min(most, n - i)
        stop = i + m
        p = place[:m]
        h, o, q, e = weights[0, :m], weights[1, :m], weights[2, :m], weights[3, :m]
        for side in range(2):
            _copied(x[side, i:stop], fed[side, :m])
        for s in range(stages):
            for side in range(2):
                line, row, own = lines[s, side], read[side, :m], min(side, rows)
                if moves:
                    if side == 0 or rows > 0 or fades:
                        _between(delay[own, i:stop], write, p, h, o, q, e)
                    _read_moving(line, p, h, o, q, e, row)
                else:
                    _read_still(line, write, int(delay[own, 0]), row)
                if fades:
                    _between(older[own, i:stop], write, p, h, o, q, e)
                    _read_moving(line, p, h, o, q, e, was[:m])
                    for j in range(m):
                        row[j] = was[j] + share[own, i + j] * (row[j] - was[j])
                if cuts[0].size:
                    _cut(
                        row, cuts[0][i:stop], cuts[1][i:stop], cuts[2][i:stop], cuts[3][i:stop],
                        memory[s, side],
                    )  # fmt: skip
            f, g, c = factors[0][i:stop], factors[1][i:stop], cross[i:stop]
            for side in range(2):
                left, right = read[side, :m], read[1 - side, :m]
                mine, other = (f, g) if side == 0 else (g, f)
                repeat, sound = was[:m], fed[side, :m]
                _crossed(left, right, mine, other, c, repeat)
                if endless:
                    _added(repeat, sound)
                _write(lines[s, side], write, sound)
                _copied(repeat, sound)
                _added(repeat, wet[side, i:stop])
        write += m
        i = stop
    return int(write & (lines.shape[2] - 1))
