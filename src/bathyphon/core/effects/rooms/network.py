"""A feedback delay network of sixteen lines.

J.-M. Jot and A. Chaigne 1991; the lines are mixed by a Hadamard matrix and by slow rotations of
pairs, which keep all energy and move the resonances, so that long tails do not ring
(S. J. Schlecht and E. A. P. Habets, "Time-varying feedback matrices in feedback delay networks and
their application in artificial reverberation", J. Acoust. Soc. Am. 138, 2015). Interpolated reads
would move them too, but eat the treble.
"""

from __future__ import annotations

import math
from itertools import chain

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathyphon.core.curves import Floats
from bathyphon.core.effects.filters import FLUSH
from bathyphon.core.effects.lanes import (
    Lanes,
    aligned,
    audible,
    fma,
    full,
    gather,
    lane,
    load,
    scatter,
    shuffle,
    store,
)
from bathyphon.core.effects.rooms.attenuation import (
    COEFFICIENTS,
    GRID,
    LINES,
    MEMORIES,
    attenuate,
    attenuated,
    attenuated_moving,
    flushed,
)
from bathyphon.core.effects.rooms.early import SHARED

Places = NDArray[np.int64]
LEAST_POWER = 0.1
FOLLOW = 0.35
FADE = 2048
"""Samples over which line lengths change from one size to the next."""

# Lengths at size 100 %, in ms: spread evenly in logarithm, with no common measure. Short ones make
# echoes dense early, all together are long enough that late tails do not ring.
LENGTHS_MS = np.array(
    [
        11.1, 14.8, 19.4, 25.5, 35.1, 45.9, 61.1, 82.3,
        12.9, 16.7, 22.9, 30.5, 40.1, 53.0, 71.1, 95.2,
    ]
)  # fmt: skip


def _row(index: int) -> Floats:
    """A row of the Hadamard matrix of sixteen."""
    return np.array([1.0 - 2.0 * (bin(index & k).count("1") & 1) for k in range(LINES)])


# Every line takes both sides in, in a proportion of its own: one side alone, or both alike, reach
# all lines or nearly.
_ANGLE = ((np.arange(LINES) * 5) % LINES + 0.5) / LINES * math.pi / 2.0
_SIGNS = [[-1.0 if k & distance else 1.0 for k in range(8)] for distance in (4, 2, 1)]
CONSTANTS = aligned(56)
"""Signs of the mixing matrix, and how much of left and of right each line takes in."""
CONSTANTS[:] = [*chain(*_SIGNS), *(_row(3) * np.cos(_ANGLE)), *(_row(12) * np.sin(_ANGLE))]
TURN_HZ: Floats = np.array([0.53, 0.71, 0.89, 1.13, 1.37, 1.61, 1.87, 2.11])
TURN = 1.5
TURN_GRID = 128
TILE = 8 * GRID
# Behind a line's end its beginning is repeated, so that any stretch can be read in one piece.
PAD = GRID

WORKBENCH = 4 * TILE + COEFFICIENTS + 48

across_four = shuffle(4, 5, 6, 7, 0, 1, 2, 3)
across_two = shuffle(2, 3, 0, 1, 6, 7, 4, 5)
across_one = shuffle(1, 0, 3, 2, 5, 4, 7, 6)


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
def _placed(
    lengths: Floats, rooms: Places, firsts: Places, writes: Places, places: Places
) -> None:  # pragma: no cover - compiled
    """Where each line is read."""
    for k in range(places.size):
        at = writes[k] - int(lengths[k])
        places[k] = firsts[k] + (at if at >= 0 else at + rooms[k])


@njit(cache=True, nogil=True)
def _written(
    ring: Floats, rooms: Places, firsts: Places, writes: Places, m: int
) -> None:  # pragma: no cover - compiled
    """Go on by a stretch that has been written, and keep what repeats the beginnings true."""
    for k in range(writes.size):
        first, room = firsts[k], rooms[k]
        if writes[k] < PAD:
            for j in range(first, first + PAD):
                ring[j + room] = ring[j]
        writes[k] += m
        if writes[k] == room:
            writes[k] = 0


@njit(cache=True, nogil=True)
def _taken(ring: Floats, places: Places, m: int, tile: Floats) -> None:  # pragma: no cover
    """Copy a stretch of all lines, so that those of a moment lie side by side."""
    for half in range(2):
        b = 8 * half
        p, q, r, s = places[b], places[b + 1], places[b + 2], places[b + 3]
        t, u, v, w = places[b + 4], places[b + 5], places[b + 6], places[b + 7]
        first = half * TILE
        for i in range(m):
            here = gather(ring, p + i, q + i, r + i, s + i, t + i, u + i, v + i, w + i)
            store(tile, first + 8 * i, here)


@njit(cache=True, nogil=True)
def _blended(tile: Floats, other: Floats, m: int, share: Floats) -> None:  # pragma: no cover
    """Go over to another tile, each moment as far as its share says."""
    for half in range(2):
        for i in range(m):
            at = half * TILE + 8 * i
            here = load(tile, at)
            store(tile, at, fma(full(share[i]), load(other, at) - here, here))


@njit(cache=True, nogil=True)
def _turns(
    w: Floats, turn_hz: Floats, now: int, sample_rate: float, next: bool
) -> None:  # pragma: no cover - compiled
    """How the pairs turn: eight cosines, their steps, eight sines, their steps.

    Straight between points of a grid. ``next`` says that the last point was the one before: where
    it led to is kept behind them.
    """
    grid = now // TURN_GRID
    for p in range(turn_hz.size):
        phase = 2.0 * math.pi * turn_hz[p] * TURN_GRID / sample_rate
        if next:
            w[p], w[16 + p] = w[32 + p], w[40 + p]
        else:
            angle = TURN * math.sin(phase * grid + p)
            w[p], w[16 + p] = math.cos(angle), math.sin(angle)
        angle = TURN * math.sin(phase * (grid + 1) + p)
        w[32 + p], w[40 + p] = math.cos(angle), math.sin(angle)
        w[8 + p] = (w[32 + p] - w[p]) / TURN_GRID
        w[24 + p] = (w[40 + p] - w[16 + p]) / TURN_GRID


@njit(cache=True, nogil=True, inline="always")
def _spread(v: Lanes, signs: Floats) -> Lanes:  # pragma: no cover - compiled
    """The Hadamard matrix of eight."""
    v = fma(load(signs, 0), v, across_four(v, v))
    v = fma(load(signs, 8), v, across_two(v, v))
    return fma(load(signs, 16), v, across_one(v, v))


@njit(cache=True, nogil=True)
def _mixed(
    tile: Floats,
    m: int,
    turns: Floats,
    offset: int,
    constants: Floats,
    left_in: Floats,
    right_in: Floats,
    grid: int,
    level: float,
    step: float,
    ring: Floats,
    places: Places,
    left_out: Floats,
    right_out: Floats,
) -> None:  # pragma: no cover - compiled
    """Turn the pairs, mix all lines, hear two of the mixed ones, and feed new sound in.

    Parameters
    ----------
    tile : ndarray
        What the lines give, as in :func:`attenuated`.
    turns : ndarray, shape (32,)
        ``offset`` samples after they were looked at.
    constants : ndarray
        :data:`CONSTANTS`.
    left_in, right_in : ndarray, shape (m,)
        Fed in at a level that moves by steps, ``grid`` samples after it was looked at.
    ring, places : ndarray
        All lines, and where each is written.
    left_out, right_out : ndarray, shape (m,)
        What is heard is added.
    """
    floor = full(FLUSH)
    scale = full(0.25)
    p0, p1, p2, p3 = places[0], places[1], places[2], places[3]
    p4, p5, p6, p7 = places[4], places[5], places[6], places[7]
    q0, q1, q2, q3 = places[8], places[9], places[10], places[11]
    q4, q5, q6, q7 = places[12], places[13], places[14], places[15]
    for i in range(m):
        a, b = load(tile, 8 * i), load(tile, TILE + 8 * i)
        t = full(float(offset + i))
        c = fma(t, load(turns, 8), load(turns, 0))
        s = fma(t, load(turns, 24), load(turns, 16))
        a, b = c * a - s * b, fma(s, a, c * b)
        a, b = _spread(a + b, constants), _spread(a - b, constants)
        left_out[i] += 0.25 * lane(a, 5)
        right_out[i] += 0.25 * lane(b, 3)
        gain = level + float(grid + i) * step
        left, right = full(gain * left_in[i]), full(gain * right_in[i])
        a = fma(load(constants, 40), right, fma(load(constants, 24), left, scale * a))
        b = fma(load(constants, 48), right, fma(load(constants, 32), left, scale * b))
        a, b = audible(a, floor), audible(b, floor)
        scatter(ring, a, p0 + i, p1 + i, p2 + i, p3 + i, p4 + i, p5 + i, p6 + i, p7 + i)
        scatter(ring, b, q0 + i, q1 + i, q2 + i, q3 + i, q4 + i, q5 + i, q6 + i, q7 + i)


@njit(cache=True, nogil=True)
def _looked(
    i: int, now: int, decay_s: Floats, bass: Floats, treble: Floats, size: Floats,
    sample_rate: float, base: Floats, coefficients: Floats, lengths: Floats, known: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Look at what is set, at a point of the grid or before the first sample."""
    fresh = known[0] < 0.0
    if now % FADE == 0 or fresh:
        lengths[0] = lengths[1]
        _lengths_at(size[i], sample_rate, base, lengths[1])
        if fresh:
            lengths[0] = lengths[1]
        known[5] = 1.0 if np.any(lengths[0] != lengths[1]) else 0.0
    fading = known[5] > 0.0
    known[4] = known[6]
    known[7] = 0.0
    same = decay_s[i] == known[0] and bass[i] == known[1] and treble[i] == known[2]
    if not fresh and same and size[i] == known[3] and not fading:
        return
    # A decay that jumps is followed within a few steps of the grid.
    decay = decay_s[i]
    if not fresh and abs(math.log(decay / known[0])) > 1e-3:
        decay = known[0] * (decay / known[0]) ** FOLLOW
    share = (now % FADE) / FADE if fading else 1.0
    real = lengths[0] + share * (lengths[1] - lengths[0])
    coefficients[0] = coefficients[1]
    power = attenuate(real, decay, bass[i], treble[i], sample_rate, coefficients[1])
    known[0], known[1], known[2], known[3] = decay, bass[i], treble[i], size[i]
    # As loud as what goes in, whatever the decay; very short ones are left softer.
    known[6] = math.sqrt(max(1e-9, 1.0 - power) / max(power, LEAST_POWER))
    known[7] = 1.0
    if fresh:
        coefficients[0] = coefficients[1]
        known[4] = known[6]
        known[7] = 0.0


@njit(cache=True, nogil=True)
def run(
    x: Floats,
    first: int,
    last: int,
    at: int,
    decay_s: Floats,
    bass: Floats,
    treble: Floats,
    size: Floats,
    freeze: Floats,
    freezes: bool,
    sample_rate: float,
    base: Floats,
    turn_hz: Floats,
    constants: Floats,
    bench: Floats,
    ring: Floats,
    rooms: Places,
    writes: Places,
    filters: Floats,
    coefficients: Floats,
    lengths: Floats,
    known: Floats,
    out: Floats,
) -> None:  # pragma: no cover - compiled
    """Run the network over a stretch of a block.

    Stretches no longer than the shortest line are done one sample after the other, sixteen lines
    side by side; their cuts lie on the owner's grid or change nothing.

    Parameters
    ----------
    x : ndarray, shape (2 · SHARED,)
        Diffused input of the stretch, left and right.
    first, last : int
        The stretch.
    out : ndarray, shape (2, n)
        The diffuse field is added to it.
    at : int
        The block's first sample from the owner's start.
    decay_s, bass, treble, size, freeze : ndarray, shape (n,)
    constants : ndarray, shape (56,)
        :data:`CONSTANTS`.
    bench : ndarray, shape (WORKBENCH,)
        Overwritten.
    freezes : bool
        Whether anything is ever held.
    ring : ndarray
        Delay lines, one after another, each as long as its room and :data:`PAD`; updated.
    rooms, writes : ndarray of int64, shape (16,)
        Samples of each line, and the position in it; these are updated.
    filters : ndarray, shape (MEMORIES,)
        Memories of the attenuation.
    coefficients : ndarray, shape (2, COEFFICIENTS)
        Where the attenuation comes from and goes to.
    lengths : ndarray, shape (2, 16)
        Where the lines' lengths come from and go to.
    known : ndarray, shape (8,)
        Decay, bass, treble and size that the coefficients stand for; the input level that is left,
        whether lines are fading, the level that is reached, whether coefficients are moving.
    """
    tile, other = bench[: 2 * TILE], bench[2 * TILE : 4 * TILE]
    moved = bench[4 * TILE : 4 * TILE + COEFFICIENTS]
    turns = bench[4 * TILE + COEFFICIENTS :]
    share = np.empty(GRID)
    firsts = rooms.cumsum() + PAD * np.arange(rooms.size) - rooms
    places = np.empty(LINES, dtype=np.int64)
    held = np.empty((2, GRID))
    i = first
    while i < last:
        now = at + i
        if now % GRID == 0 or known[0] < 0.0:
            _looked(
                i, now, decay_s, bass, treble, size, sample_rate, base, coefficients, lengths, known
            )
        if now % TURN_GRID == 0 or i == first:
            _turns(turns, turn_hz, now, sample_rate, i > first)
        offset = now % GRID
        m = min(last - i, GRID - offset, int(min(lengths[0, 0], lengths[1, 0])))
        for k in range(LINES):
            m = min(m, rooms[k] - writes[k])
        _placed(lengths[1], rooms, firsts, writes, places)
        _taken(ring, places, m, tile)
        if known[5] > 0.0:
            other[:] = tile
            _placed(lengths[0], rooms, firsts, writes, places)
            _taken(ring, places, m, tile)
            for j in range(m):
                u = (now % FADE + j) / FADE
                share[j] = u * u * (3.0 - 2.0 * u)
            _blended(tile, other, m, share)
        holds = False
        for j in range(freezes * m):
            holds = holds or freeze[i + j] > 0.0
        if holds:
            other[:] = tile
        if known[7] > 0.0:
            attenuated_moving(tile, m, coefficients[0], coefficients[1], offset, filters, moved)
        else:
            attenuated(tile, m, coefficients[1], filters)
        if (now + m) % GRID == 0:
            flushed(filters)
        place = i - first
        left, right = x[place : place + m], x[SHARED + place : SHARED + place + m]
        if holds:
            _blended(tile, other, m, freeze[i : i + m])
            for side in range(2):
                for j in range(m):
                    held[side, j] = (1.0 - freeze[i + j]) * x[side * SHARED + place + j]
            left, right = held[0], held[1]
        step = (known[6] - known[4]) / GRID
        for k in range(LINES):
            places[k] = firsts[k] + writes[k]
        _mixed(
            tile, m, turns, now % TURN_GRID, constants, left, right, offset, known[4], step,
            ring, places,
            out[0, i : i + m], out[1, i : i + m],
        )  # fmt: skip
        _written(ring, rooms, firsts, writes, m)
        i += m


def workbench() -> Floats:
    """Room for what is worked on."""
    return aligned(WORKBENCH)


def buffers(
    longest_size: float, sample_rate: int
) -> tuple[Floats, Places, Places, Floats, Floats, Floats, Floats]:
    """Empty lines, their sizes and positions, filter memories, coefficients, lengths, the known."""
    longest = np.ceil(LENGTHS_MS * longest_size / 100.0 * sample_rate / 1000.0).astype(np.int64)
    rooms = longest + LINES + 2 * GRID
    known = np.zeros(8)
    known[0] = -1.0
    return (
        np.zeros(int(rooms.sum()) + LINES * PAD),
        rooms,
        np.zeros(LINES, dtype=np.int64),
        aligned(MEMORIES),
        aligned(2 * COEFFICIENTS).reshape(2, COEFFICIENTS),
        np.zeros((2, LINES)),
        known,
    )
