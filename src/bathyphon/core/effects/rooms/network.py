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
from bathyphon.core.effects.rooms.attenuation import SECTIONS, attenuate
from bathyphon.core.effects.rooms.rings import take

LINES = 16
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


# Places in the workbench of the attenuation: sixteen samples, then of each section both memories
# and b0, b1, b2, a1, a2, sixteen lines side by side. They are written out below, since the compiler
# does four lines at once only where it knows that these rows never overlap.
ROW, SECTION_ROWS = LINES, 7 * LINES


@njit(cache=True, nogil=True)
def _load(w: Floats, c: Floats, z: Floats) -> None:  # pragma: no cover - compiled
    """Put coefficients (4, 5, 16) and memories (4, 2, 16) on the workbench."""
    for s in range(SECTIONS):
        at = ROW + s * SECTION_ROWS
        for k in range(LINES):
            for j in range(2):
                w[at + j * ROW + k] = z[s, j, k]
            for j in range(5):
                w[at + (2 + j) * ROW + k] = c[s, j, k]


@njit(cache=True, nogil=True)
def _unload(w: Floats, z: Floats) -> None:  # pragma: no cover - compiled
    """Take the memories off the workbench, flushed far below hearing."""
    for s in range(SECTIONS):
        at = ROW + s * SECTION_ROWS
        for j in range(2):
            for k in range(LINES):
                z[s, j, k] = w[at + j * ROW + k]


@njit(cache=True, nogil=True)
def _attenuated(w: Floats, tile: Floats, m: int) -> None:  # pragma: no cover - compiled
    """Four second-order sections of all lines; ``tile`` holds m times sixteen samples, in place."""
    for i in range(m):
        at = ROW * i
        for k in range(16):
            w[k] = tile[at + k]
        for k in range(16):
            x = w[k]
            y = w[16 + 32 + k] * x + w[16 + k]
            w[16 + k] = (w[16 + 48 + k] * x + w[16 + 16 + k]) - w[16 + 80 + k] * y
            w[16 + 16 + k] = w[16 + 64 + k] * x - w[16 + 96 + k] * y
            w[k] = y
        for k in range(16):
            x = w[k]
            y = w[128 + 32 + k] * x + w[128 + k]
            w[128 + k] = (w[128 + 48 + k] * x + w[128 + 16 + k]) - w[128 + 80 + k] * y
            w[128 + 16 + k] = w[128 + 64 + k] * x - w[128 + 96 + k] * y
            w[k] = y
        for k in range(16):
            x = w[k]
            y = w[240 + 32 + k] * x + w[240 + k]
            w[240 + k] = (w[240 + 48 + k] * x + w[240 + 16 + k]) - w[240 + 80 + k] * y
            w[240 + 16 + k] = w[240 + 64 + k] * x - w[240 + 96 + k] * y
            w[k] = y
        for k in range(16):
            x = w[k]
            y = w[352 + 32 + k] * x + w[352 + k]
            w[352 + k] = (w[352 + 48 + k] * x + w[352 + 16 + k]) - w[352 + 80 + k] * y
            w[352 + 16 + k] = w[352 + 64 + k] * x - w[352 + 96 + k] * y
            w[k] = y
        for k in range(16):
            tile[at + k] = w[k]


@njit(cache=True, nogil=True)
def _attenuated_moving(
    tile: Floats, m: int, old: Floats, new: Floats, offset: int, z: Floats
) -> None:  # pragma: no cover - compiled
    """The same with coefficients on their way from old to new over the grid's stretch."""
    for i in range(m):
        u = (offset + i) / GRID
        at = ROW * i
        for s in range(SECTIONS):
            for k in range(LINES):
                b0 = old[s, 0, k] + u * (new[s, 0, k] - old[s, 0, k])
                b1 = old[s, 1, k] + u * (new[s, 1, k] - old[s, 1, k])
                b2 = old[s, 2, k] + u * (new[s, 2, k] - old[s, 2, k])
                a1 = old[s, 3, k] + u * (new[s, 3, k] - old[s, 3, k])
                a2 = old[s, 4, k] + u * (new[s, 4, k] - old[s, 4, k])
                x = tile[at + k]
                y = b0 * x + z[s, 0, k]
                z[s, 0, k] = b1 * x + z[s, 1, k] - a1 * y
                z[s, 1, k] = b2 * x - a2 * y
                tile[at + k] = y


@njit(cache=True, nogil=True)
def _flush(z: Floats) -> None:  # pragma: no cover - compiled
    for s in range(SECTIONS):
        for j in range(2):
            for k in range(LINES):
                if abs(z[s, j, k]) < FLUSH:
                    z[s, j, k] = 0.0


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

    Stretches no longer than the shortest line are done line by line, which keeps each filter's
    memory in registers; their cuts lie on the owner's grid or change nothing.

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
    work = np.empty(ROW + SECTIONS * SECTION_ROWS)
    tile = np.empty(GRID * LINES)
    loaded = False
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
            loaded = False
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
            take(line, write - int(lengths[1, k]), row)
            if fading:
                old = older[:m]
                take(line, write - int(lengths[0, k]), old)
                for j in range(m):
                    u = (now % FADE + j) / FADE
                    row[j] = old[j] + u * u * (3.0 - 2.0 * u) * (row[j] - old[j])
            for j in range(m):
                tile[j * LINES + k] = row[j]
        if known[7] > 0.0:
            _attenuated_moving(tile, m, coefficients[0], coefficients[1], now % GRID, filters)
            loaded = False
        else:
            if not loaded:
                _load(work, coefficients[1], filters)
                loaded = True
            _attenuated(work, tile, m)
            _unload(work, filters)
        if (now + m) % GRID == 0:
            _flush(filters)
            if loaded:
                _load(work, coefficients[1], filters)
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
