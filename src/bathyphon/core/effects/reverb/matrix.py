"""What mixes the lines of a feedback delay network: turning pairs and a Hadamard matrix.

Both keep all energy. The turns swing slowly and so move the resonances, so that long tails do not
ring (S. J. Schlecht and E. A. P. Habets, "Time-varying feedback matrices in feedback delay networks
and their application in artificial reverberation", J. Acoust. Soc. Am. 138, 2015). Interpolated
reads would move them too, but eat the treble.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import (
    Eight,
    Vector,
    absolute,
    aligned,
    fma,
    load,
    nearest,
    splat,
    store,
)
from bathyphon.core.effects.reverb.attenuation import GRID, LINES
from bathyphon.core.effects.reverb.early import SIDE
from bathyphon.core.effects.reverb.rings import Places


def _row(index: int) -> Floats:
    """A row of the Hadamard matrix of sixteen."""
    return np.array([1.0 - 2.0 * (bin(index & k).count("1") & 1) for k in range(LINES)])


# Every line takes both sides in, in a proportion of its own: one side alone, or both alike, reach
# all lines or nearly.
_ANGLE = ((np.arange(LINES) * 5) % LINES + 0.5) / LINES * math.pi / 2.0
TURN_HZ: Floats = np.array([0.53, 0.71, 0.89, 1.13, 1.37, 1.61, 1.87, 2.11])
CONSTANTS = aligned(2 * LINES + 24)
"""How much of left and of right each line takes in; eight moments; how fast pairs turn, in Hz, and
where they begin."""
CONSTANTS[:] = [
    *(_row(3) * np.cos(_ANGLE)),
    *(_row(12) * np.sin(_ANGLE)),
    *range(8),
    *TURN_HZ,
    *(np.arange(8) / (2.0 * math.pi)),
]
Spots = tuple[int, int, int, int, int, int, int, int]
TURN = 1.5
"""Radians to either side."""
SCALE = 1.0 / math.sqrt(LINES)
TURNS = 48


@njit(cache=True, nogil=True, inline="always")
def _turned_at(
    constants: Floats, seconds: float, w: Floats, at: int
) -> None:  # pragma: no cover - compiled
    """Cosines and sines of how far the pairs are turned, in the matrix's scale."""
    u = fma(load(constants, 2 * LINES + 8), splat(seconds), load(constants, 2 * LINES + 16))
    u = u - nearest(u)
    # Two parabolas, nearly a sine; then Taylor's series, right to 1e-11 within the swing.
    x = splat(TURN * 16.0) * u * (splat(0.5) - absolute(u))
    z = x * x
    s = splat(1.0 / 355687428096000.0)
    c = splat(-1.0 / 6402373705728000.0)
    s = fma(s, z, splat(-1.0 / 1307674368000.0))
    c = fma(c, z, splat(1.0 / 20922789888000.0))
    s = fma(s, z, splat(1.0 / 6227020800.0))
    c = fma(c, z, splat(-1.0 / 87178291200.0))
    s = fma(s, z, splat(-1.0 / 39916800.0))
    c = fma(c, z, splat(1.0 / 479001600.0))
    s = fma(s, z, splat(1.0 / 362880.0))
    c = fma(c, z, splat(-1.0 / 3628800.0))
    s = fma(s, z, splat(-1.0 / 5040.0))
    c = fma(c, z, splat(1.0 / 40320.0))
    s = fma(s, z, splat(1.0 / 120.0))
    c = fma(c, z, splat(-1.0 / 720.0))
    s = fma(s, z, splat(-1.0 / 6.0))
    c = fma(c, z, splat(1.0 / 24.0))
    c = fma(c, z, splat(-0.5))
    store(w, at, splat(SCALE) * fma(c, z, splat(1.0)))
    store(w, at + 8, splat(SCALE) * fma(s, z * x, x))


@njit(cache=True, nogil=True)
def turns_at(
    w: Floats, constants: Floats, now: int, sample_rate: float
) -> None:  # pragma: no cover - compiled
    """How the pairs turn between two points of the grid, straight.

    Parameters
    ----------
    w : ndarray, shape (TURNS,)
        Eight cosines, eight sines, and how far both go in a sample.
    now : int
        Any sample from the first of the two points on.
    """
    grid = now // GRID
    _turned_at(constants, grid * GRID / sample_rate, w, 0)
    _turned_at(constants, (grid + 1) * GRID / sample_rate, w, 32)
    each = splat(1.0 / GRID)
    store(w, 16, each * (load(w, 32) - load(w, 0)))
    store(w, 24, each * (load(w, 40) - load(w, 8)))


@njit(cache=True, nogil=True, inline="always")
def _turned(
    a: Vector, b: Vector, turns: Floats, pair: int, t: Vector
) -> tuple[Vector, Vector]:  # pragma: no cover - compiled
    """Two lines after their turn, as their sum and difference."""
    c = fma(t, splat(turns[16 + pair]), splat(turns[pair]))
    s = fma(t, splat(turns[24 + pair]), splat(turns[8 + pair]))
    a, b = c * a - s * b, fma(s, a, c * b)
    return a + b, a - b


@njit(cache=True, nogil=True, inline="always")
def _spread(
    a: Vector, b: Vector, c: Vector, d: Vector, e: Vector, f: Vector, g: Vector, h: Vector
) -> Eight:  # pragma: no cover - compiled
    """The Hadamard matrix of eight."""
    a, b, c, d, e, f, g, h = a + e, b + f, c + g, d + h, a - e, b - f, c - g, d - h
    a, b, c, d, e, f, g, h = a + c, b + d, a - c, b - d, e + g, f + h, e - g, f - h
    return a + b, a - b, c + d, c - d, e + f, e - f, g + h, g - h


@njit(cache=True, nogil=True, inline="always")
def _fed(
    ring: Floats, at: int, v: Vector, constants: Floats, line: int, left: Vector, right: Vector
) -> None:  # pragma: no cover - compiled
    """Put a stretch of a line, with its share of new sound."""
    v = fma(splat(constants[line]), left, v)
    store(ring, at, fma(splat(constants[LINES + line]), right, v))


@njit(cache=True, nogil=True, inline="always")
def _fed_eight(
    ring: Floats, spots: Spots, i: int, v: Eight, constants: Floats, line: int,
    left: Vector, right: Vector,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """The same for eight lines from one on, each from its spot on."""
    _fed(ring, spots[0] + i, v[0], constants, line, left, right)
    _fed(ring, spots[1] + i, v[1], constants, line + 1, left, right)
    _fed(ring, spots[2] + i, v[2], constants, line + 2, left, right)
    _fed(ring, spots[3] + i, v[3], constants, line + 3, left, right)
    _fed(ring, spots[4] + i, v[4], constants, line + 4, left, right)
    _fed(ring, spots[5] + i, v[5], constants, line + 5, left, right)
    _fed(ring, spots[6] + i, v[6], constants, line + 6, left, right)
    _fed(ring, spots[7] + i, v[7], constants, line + 7, left, right)


@njit(cache=True, nogil=True)
def mixed(
    tile: Floats,
    m: int,
    turns: Floats,
    offset: int,
    constants: Floats,
    x: Floats,
    place: int,
    level: float,
    step: float,
    ring: Floats,
    places: Places,
    heard: Floats,
) -> None:  # pragma: no cover - compiled
    """Turn the pairs, mix all lines, hear two of the mixed ones, and feed new sound in.

    Eight moments at once; up to seven after the last are written too, and overwritten later.

    Parameters
    ----------
    tile : ndarray, shape (16 · GRID,)
        What the lines give, one after another.
    m : int
    turns : ndarray
        From :func:`turns_at`, ``offset`` samples ago.
    constants : ndarray
        :data:`CONSTANTS`.
    x : ndarray, shape (2 · SIDE,)
        From ``place`` on fed in, at a level that goes up by ``step`` from that of ``offset``
        samples ago.
    ring, places : ndarray
        All lines, and where each is written.
    heard : ndarray, shape (2 · SIDE,)
        From ``place`` on overwritten with what is heard left and right.
    """
    p, q = places[:8], places[8:]
    first = p[0], p[1], p[2], p[3], p[4], p[5], p[6], p[7]
    second = q[0], q[1], q[2], q[3], q[4], q[5], q[6], q[7]
    for i in range(0, m, 8):
        t = load(constants, 2 * LINES) + splat(float(offset + i))
        k = i + 8 * GRID
        a0, b0 = _turned(load(tile, i), load(tile, k), turns, 0, t)
        a1, b1 = _turned(load(tile, i + GRID), load(tile, k + GRID), turns, 1, t)
        a2, b2 = _turned(load(tile, i + 2 * GRID), load(tile, k + 2 * GRID), turns, 2, t)
        a3, b3 = _turned(load(tile, i + 3 * GRID), load(tile, k + 3 * GRID), turns, 3, t)
        a4, b4 = _turned(load(tile, i + 4 * GRID), load(tile, k + 4 * GRID), turns, 4, t)
        a5, b5 = _turned(load(tile, i + 5 * GRID), load(tile, k + 5 * GRID), turns, 5, t)
        a6, b6 = _turned(load(tile, i + 6 * GRID), load(tile, k + 6 * GRID), turns, 6, t)
        a7, b7 = _turned(load(tile, i + 7 * GRID), load(tile, k + 7 * GRID), turns, 7, t)
        gain = fma(t, splat(step), splat(level))
        left, right = gain * load(x, place + i), gain * load(x, SIDE + place + i)
        a = _spread(a0, a1, a2, a3, a4, a5, a6, a7)
        store(heard, place + i, a[5])
        _fed_eight(ring, first, i, a, constants, 0, left, right)
        b = _spread(b0, b1, b2, b3, b4, b5, b6, b7)
        store(heard, SIDE + place + i, b[3])
        _fed_eight(ring, second, i, b, constants, 8, left, right)
