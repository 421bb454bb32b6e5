"""A feedback delay network of sixteen lines.

J.-M. Jot and A. Chaigne 1991; the lines are mixed by a Hadamard matrix and by slow rotations of
pairs, which keep all energy and move the resonances, so that long tails do not ring
(S. J. Schlecht and E. A. P. Habets, "Time-varying feedback matrices in feedback delay networks and
their application in artificial reverberation", J. Acoust. Soc. Am. 138, 2015). Interpolated reads
would move them too, but eat the treble.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH
from bathyphon.core.effects.rooms.attenuation import (
    LINES,
    SECTIONS,
    WORKBENCH,
    attenuate,
    attenuated,
    attenuated_moving,
    flushed,
)

GRID = 64
"""Samples between two looks at decay; on a grid fixed to the owner's time."""
LEAST_POWER = 0.1
FOLLOW = 0.35
FADE = 2048
"""Samples over which line lengths change from one size to the next."""

# Lengths at size 100 %, in ms: spread evenly in logarithm, with no common measure. Every other one
# hears the left side, the rest the right; those of one side lie together.
LENGTHS_MS = np.array(
    [
        21.1, 27.3, 34.7, 43.3, 53.9, 66.1, 81.7, 101.3,
        24.1, 30.7, 38.9, 48.1, 59.3, 73.1, 91.1, 112.3,
    ]
)  # fmt: skip
# With which signs each line is heard on the left and on the right: rows of the Hadamard matrix.
_ORDER = [*range(0, LINES, 2), *range(1, LINES, 2)]
HEARD: Floats = np.array(
    [[0.25 - 0.5 * (bin(i & j).count("1") & 1) for j in _ORDER] for i in (5, 11)]
)
TURN_HZ: Floats = np.array([0.53, 0.71, 0.89, 1.13, 1.37, 1.61, 1.87, 2.11])
TURN = 1.5


@njit(cache=True, nogil=True)
def _lengths_at(
    size: float, sample_rate: float, base: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Whole samples of each line at a size in percent, all different."""
    last = 1.0
    half = base.size // 2
    for k in range(base.size):
        # From the shortest to the longest, which lie on both sides in turn.
        place = (k % 2) * half + k // 2
        last = max(round(base[place] * (size / 100.0) * sample_rate / 1000.0), last + 1.0)
        out[place] = last


@njit(cache=True, nogil=True)
def _taken(line: Floats, first: int, row: Floats) -> None:  # pragma: no cover - compiled
    """Copy a stretch out of a ring, from any place on."""
    mask = line.size - 1
    at = first & mask
    head = min(row.size, line.size - at)
    row[:head] = line[at : at + head]
    row[head:] = line[: row.size - head]


@njit(cache=True, nogil=True)
def _angles(
    w: Floats, turn_hz: Floats, now: int, sample_rate: float
) -> None:  # pragma: no cover - compiled
    """Put on the workbench how the pairs turn, straight between points of the grid.

    From place 16 on: eight cosines, their steps, eight sines, their steps.
    """
    grid = now // GRID
    for p in range(turn_hz.size):
        phase = 2.0 * math.pi * turn_hz[p] * GRID / sample_rate
        angle = TURN * math.sin(phase * grid + p)
        c0, s0 = math.cos(angle), math.sin(angle)
        angle = TURN * math.sin(phase * (grid + 1) + p)
        w[16 + p] = c0
        w[24 + p] = (math.cos(angle) - c0) / GRID
        w[32 + p] = s0
        w[40 + p] = (math.sin(angle) - s0) / GRID


@njit(cache=True, nogil=True)
def _mixed(
    w: Floats, tile: Floats, m: int, offset: int, fed: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Hear two sums, turn the pairs, mix all lines, and feed new sound in.

    ``tile`` holds m times sixteen samples, in place; ``fed`` and ``out`` are (2, m). On the
    workbench lie the turns, from place 48 on the signs of both sides, from 80 on their sums.
    """
    for i in range(m):
        at = LINES * i
        t = float(offset + i)
        for k in range(16):
            w[k] = tile[at + k]
        for p in range(8):
            w[80 + p] = w[48 + p] * w[p] + w[56 + p] * w[8 + p]
            w[88 + p] = w[64 + p] * w[p] + w[72 + p] * w[8 + p]
        for p in range(4):
            w[80 + p] += w[84 + p]
            w[88 + p] += w[92 + p]
        out[0, i] = (w[80] + w[81]) + (w[82] + w[83])
        out[1, i] = (w[88] + w[89]) + (w[90] + w[91])
        for p in range(8):
            c = w[16 + p] + t * w[24 + p]
            s = w[32 + p] + t * w[40 + p]
            x, y = w[p], w[8 + p]
            x, y = c * x - s * y, s * x + c * y
            w[p] = x + y
            w[8 + p] = x - y
        for p in range(4):
            x, y = w[p], w[4 + p]
            w[p] = x + y
            w[4 + p] = x - y
        for p in range(4):
            x, y = w[8 + p], w[12 + p]
            w[8 + p] = x + y
            w[12 + p] = x - y
        for q in range(4):
            x0, x1, x2, x3 = w[4 * q], w[4 * q + 1], w[4 * q + 2], w[4 * q + 3]
            a, b, c, d = x0 + x2, x1 + x3, x0 - x2, x1 - x3
            w[4 * q] = a + b
            w[4 * q + 1] = a - b
            w[4 * q + 2] = c + d
            w[4 * q + 3] = c - d
        left, right = fed[0, i], fed[1, i]
        for k in range(8):
            y = 0.25 * w[k] + left
            tile[at + k] = y if abs(y) >= FLUSH else 0.0
        for k in range(8, 16):
            y = 0.25 * w[k] + right
            tile[at + k] = y if abs(y) >= FLUSH else 0.0


@njit(cache=True, nogil=True)
def run(
    x: Floats,
    at: int,
    decay_s: Floats,
    bass: Floats,
    treble: Floats,
    size: Floats,
    freeze: Floats,
    sample_rate: float,
    base: Floats,
    turn_hz: Floats,
    lines: Floats,
    filters: Floats,
    coefficients: Floats,
    lengths: Floats,
    known: Floats,
    write: int,
    out: Floats,
) -> int:  # pragma: no cover - compiled
    """Run the network over a block.

    Stretches no longer than the shortest line are done one sample after the other, sixteen lines
    side by side; their cuts lie on the owner's grid or change nothing.

    Parameters
    ----------
    x, out : ndarray, shape (2, n)
        Diffused input, and the diffuse field.
    at : int
        The block's first sample from the owner's start.
    decay_s, bass, treble, size, freeze : ndarray, shape (n,)
    lines : ndarray, shape (16, 2^k)
        Delay lines, as long as a power of two.
    filters : ndarray, shape (4, 2, 16)
        Memories of the attenuation.
    coefficients : ndarray, shape (2, 4, 5, 16)
        Where the attenuation comes from and goes to.
    lengths : ndarray, shape (2, 16)
        Where the lines' lengths come from and go to.
    known : ndarray, shape (8,)
        Decay, bass, treble and size that the coefficients stand for; the input level that is left,
        whether lines are fading, the level that is reached, whether coefficients are moving.
    write : int
        Position in the lines; the new one is returned.
    """
    n = x.shape[1]
    count = base.size
    rows = np.empty((count, GRID))
    older = np.empty(GRID)
    fed = np.empty((2, GRID))
    turns = np.empty(6 * LINES)
    for side in range(2):
        for k in range(LINES):
            turns[48 + side * LINES + k] = HEARD[side, k]
    real = np.empty(count)
    work = np.empty(WORKBENCH)
    tile = np.empty(GRID * LINES)
    i = 0
    while i < n:
        now = at + i
        fresh = known[0] < 0.0
        if now % FADE == 0 or fresh:
            lengths[0] = lengths[1]
            _lengths_at(size[i], sample_rate, base, lengths[1])
            if fresh:
                lengths[0] = lengths[1]
            known[5] = 1.0 if np.any(lengths[0] != lengths[1]) else 0.0
        fading = known[5] > 0.0
        if fresh or (
            now % GRID == 0
            and (
                fading
                or decay_s[i] != known[0]
                or bass[i] != known[1]
                or treble[i] != known[2]
                or size[i] != known[3]
            )
        ):
            # A decay that jumps is followed within a few steps of the grid.
            decay = decay_s[i]
            if not fresh and abs(math.log(decay / known[0])) > 1e-3:
                decay = known[0] * (decay / known[0]) ** FOLLOW
            share = (now % FADE) / FADE if fading else 1.0
            for k in range(count):
                real[k] = lengths[0, k] + share * (lengths[1, k] - lengths[0, k])
            coefficients[0] = coefficients[1]
            known[4] = known[6]
            power = attenuate(real, decay, bass[i], treble[i], sample_rate, coefficients[1])
            known[0], known[1], known[2], known[3] = decay, bass[i], treble[i], size[i]
            # As loud as what goes in, whatever the decay; very short ones are left softer.
            known[6] = math.sqrt(max(1e-9, 1.0 - power) / max(power, LEAST_POWER))
            known[7] = 1.0
            if fresh:
                coefficients[0] = coefficients[1]
                known[4] = known[6]
                known[7] = 0.0
        elif now % GRID == 0:
            known[4] = known[6]
            known[7] = 0.0
        shortest = int(min(lengths[0, 0], lengths[1, 0]))
        m = min(n - i, GRID - now % GRID, shortest)
        holds = False
        for j in range(m):
            holds = holds or freeze[i + j] > 0.0
        for k in range(count):
            row = rows[k, :m]
            line = lines[k]
            _taken(line, write - int(lengths[1, k]), row)
            if fading:
                old = older[:m]
                _taken(line, write - int(lengths[0, k]), old)
                for j in range(m):
                    u = (now % FADE + j) / FADE
                    row[j] = old[j] + u * u * (3.0 - 2.0 * u) * (row[j] - old[j])
            for j in range(m):
                tile[j * LINES + k] = row[j]
        if known[7] > 0.0:
            share = (now % GRID) / GRID
            attenuated_moving(tile, m, coefficients[0], coefficients[1], share, 1.0 / GRID, filters)
        else:
            attenuated(tile, m, coefficients[1], filters, work)
        if (now + m) % GRID == 0:
            flushed(filters)
        if holds:
            for k in range(count):
                row = rows[k, :m]
                for j in range(m):
                    here = tile[j * LINES + k]
                    tile[j * LINES + k] = here + freeze[i + j] * (row[j] - here)
        for side in range(2):
            for j in range(m):
                level = known[4] + (now % GRID + j) / GRID * (known[6] - known[4])
                fed[side, j] = level * (1.0 - freeze[i + j]) * x[side, i + j]
        if now % GRID == 0 or i == 0:
            _angles(turns, turn_hz, now, sample_rate)
        _mixed(turns, tile, m, now % GRID, fed, out[:, i : i + m])
        for k in range(count):
            line = lines[k]
            mask = line.size - 1
            for j in range(m):
                line[(write + j) & mask] = tile[j * LINES + k]
        write += m
        i += m
    return write


def buffers(longest_size: float, sample_rate: int) -> tuple[Floats, Floats, Floats, Floats, Floats]:
    """Empty lines, filter memories, coefficients, lengths and what is known of them."""
    longest = math.ceil(LENGTHS_MS[-1] * longest_size / 100.0 * sample_rate / 1000.0) + LINES + 2
    room = 1 << math.ceil(math.log2(longest))
    known = np.zeros(8)
    known[0] = -1.0
    return (
        np.zeros((LINES, room)),
        np.zeros((SECTIONS, 2, LINES)),
        np.zeros((2, SECTIONS, 5, LINES)),
        np.zeros((2, LINES)),
        known,
    )
