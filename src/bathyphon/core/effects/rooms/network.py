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
from bathyphon.core.effects.rooms.rings import put, take

LINES = 16
GRID = 64
"""Samples between two looks at decay; on a grid fixed to the owner's time."""
LEAST_POWER = 0.1
FOLLOW = 0.35
FADE = 2048
"""Samples over which line lengths change from one size to the next."""

# Lengths at size 100 %, in ms: spread evenly in logarithm, with no common measure.
LENGTHS_MS = np.array(
    [
        21.1, 24.1, 27.3, 30.7, 34.7, 38.9, 43.3, 48.1,
        53.9, 59.3, 66.1, 73.1, 81.7, 91.1, 101.3, 112.3,
    ]
)  # fmt: skip
_SIGNS = np.array([[1 - 2 * (bin(i & j).count("1") & 1) for j in range(LINES)] for i in (5, 11)])
OUTPUT: Floats = _SIGNS / math.sqrt(LINES)
TURN_HZ: Floats = np.array([0.53, 0.71, 0.89, 1.13, 1.37, 1.61, 1.87, 2.11])
TURN = 1.5


@njit(cache=True, nogil=True)
def _lengths_at(
    size: float, sample_rate: float, base: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Whole samples of each line at a size in percent, all different."""
    last = 1.0
    for k in range(base.size):
        last = max(round(base[k] * (size / 100.0) * sample_rate / 1000.0), last + 1.0)
        out[k] = last


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
def _rotated(
    a: Floats, b: Floats, turn_hz: float, start: float, first: int, sample_rate: float
) -> None:  # pragma: no cover - compiled
    """Turn a pair of rows by an angle that swings slowly, straight between points of the grid."""
    grid = first // GRID
    phase = 2.0 * math.pi * turn_hz * GRID / sample_rate
    angle = TURN * math.sin(phase * grid + start)
    c0, s0 = math.cos(angle), math.sin(angle)
    angle = TURN * math.sin(phase * (grid + 1) + start)
    dc, ds = (math.cos(angle) - c0) / GRID, (math.sin(angle) - s0) / GRID
    offset = first % GRID
    for i in range(a.size):
        c = c0 + (offset + i) * dc
        s = s0 + (offset + i) * ds
        x, y = a[i], b[i]
        a[i] = c * x - s * y
        b[i] = s * x + c * y


@njit(cache=True, nogil=True)
def _butterfly(a: Floats, b: Floats) -> None:  # pragma: no cover - compiled
    for i in range(a.size):
        x, y = a[i], b[i]
        a[i] = x + y
        b[i] = x - y


@njit(cache=True, nogil=True)
def _weighted(row: Floats, weight: float, out: Floats) -> None:  # pragma: no cover - compiled
    for i in range(row.size):
        out[i] += weight * row[i]


@njit(cache=True, nogil=True)
def _fed(row: Floats, x: Floats) -> None:  # pragma: no cover - compiled
    """A row on its way back into its line, with new sound; flushed far below hearing."""
    for i in range(row.size):
        y = 0.25 * row[i] + x[i]
        row[i] = y if abs(y) >= FLUSH else 0.0


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
    signs: Floats,
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
        for k in range(count):
            row = rows[k, :m]
            if holds:
                for j in range(m):
                    row[j] = tile[j * LINES + k] + freeze[i + j] * (row[j] - tile[j * LINES + k])
            else:
                for j in range(m):
                    row[j] = tile[j * LINES + k]
        for side in range(2):
            target = out[side, i : i + m]
            target[:] = 0.0
            for k in range(count):
                _weighted(rows[k, :m], signs[side, k], target)
            for j in range(m):
                level = known[4] + (now % GRID + j) / GRID * (known[6] - known[4])
                fed[side, j] = level * (1.0 - freeze[i + j]) * x[side, i + j]
        for p in range(count // 2):
            _rotated(rows[2 * p, :m], rows[2 * p + 1, :m], turn_hz[p], p, now, sample_rate)
        step = 1
        while step < count:
            for k in range(0, count, 2 * step):
                for j in range(k, k + step):
                    _butterfly(rows[j, :m], rows[j + step, :m])
            step *= 2
        for k in range(count):
            row = rows[k, :m]
            _fed(row, fed[k % 2, :m])
            put(lines[k], write, row)
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
