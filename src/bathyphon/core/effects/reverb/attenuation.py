"""Attenuation of delay lines, so that each band decays in the time that is set.

A line of *m* samples must lose 60·m / (fs·T60) dB at each pass (J.-M. Jot and A. Chaigne,
"Digital delay networks for designing artificial reverberators", AES 90, 1991). Bass and treble are
set apart by Butterworth shelving filters of fourth order (M. Holters and U. Zölzer, "Parametric
higher-order shelving filters", EUSIPCO 2006), whose edges lie between the octaves of 250 and 500 Hz
and of 2 and 4 kHz: steep enough that each octave decays at its own rate.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import Vector, fma, load, put, splat, store, transposed
from bathyphon.core.effects.reverb.rings import STRETCH, Places

BASS_EDGE_HZ = 353.55
TREBLE_EDGE_HZ = 2828.4
SECTIONS = 4
LINES = 16
GRID = STRETCH
"""Samples between two looks at what is set; on a grid fixed to the owner's time."""
# Eight lines side by side: of each half and section five coefficients, and two memories.
COEFFICIENTS = 2 * SECTIONS * 5 * 8
MEMORIES = 2 * SECTIONS * 2 * 8
BENCH = 128 + COEFFICIENTS


@njit(cache=True, nogil=True, inline="always")
def _section(
    out: Floats, s: int, line: int, n2: float, n1: float, n0: float, d2: float, d1: float,
    d0: float, k: float,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Bilinear transform of (n2·s² + n1·s + n0) / (d2·s² + d1·s + d0), edge at tan(πf/fs) = k."""
    n1, n0 = n1 * k, n0 * k * k
    d1, d0 = d1 * k, d0 * k * k
    scale = 1.0 / (d2 + d1 + d0)
    at = (line // 8) * 160 + s * 40 + line % 8
    out[at] = (n2 + n1 + n0) * scale
    out[at + 8] = 2.0 * (n0 - n2) * scale
    out[at + 16] = (n2 - n1 + n0) * scale
    out[at + 24] = -2.0 * (d0 - d2) * scale
    out[at + 32] = -(d2 - d1 + d0) * scale


@njit(cache=True, nogil=True)
def attenuate(
    lengths: Floats, decay_s: float, bass: float, treble: float, sample_rate: float, out: Floats
) -> float:  # pragma: no cover - compiled
    """Coefficients of all lines.

    Parameters
    ----------
    lengths : ndarray, shape (lines,)
        Samples of each line.
    decay_s : float
        T60 in the middle, in seconds.
    bass, treble : float
        Factors on it below 354 Hz and above 2828 Hz.
    sample_rate : float
    out : ndarray, shape (COEFFICIENTS,)
        b0, b1, b2, −a1, −a2 of each section; the middle's gain is in the first one.

    Returns
    -------
    float
        Mean power that one pass leaves in the middle.
    """
    kb = math.tan(math.pi * min(BASS_EDGE_HZ, 0.45 * sample_rate) / sample_rate)
    kt = math.tan(math.pi * min(TREBLE_EDGE_HZ, 0.45 * sample_rate) / sample_rate)
    power = 0.0
    for line in range(lengths.size):
        middle_db = -60.0 * lengths[line] / (sample_rate * decay_s)
        for shelf in range(2):
            factor = bass if shelf == 0 else treble
            # Fourth order: a quarter of the gain in each of four radii.
            v = 10.0 ** (middle_db * (1.0 / factor - 1.0) / 80.0)
            r = math.sqrt(v)
            for m in range(2):
                c = 2.0 * math.cos((0.5 - (2.0 * m + 1.0) / 8.0) * math.pi)
                s = 2 * shelf + m
                if shelf == 0:
                    _section(out, s, line, 1.0, c * r, v, 1.0, c / r, 1.0 / v, kb)
                else:
                    _section(out, s, line, v, c * r, 1.0, 1.0 / v, c / r, 1.0, kt)
        gain = 10.0 ** (middle_db / 20.0)
        for j in range(0, 24, 8):
            out[(line // 8) * 160 + j + line % 8] *= gain
        power += gain * gain
    return power / lengths.size


def decay_at(hz: Floats, decay_s: float, bass: float, treble: float) -> Floats:
    """T60 in seconds that the attenuation gives at each frequency.

    The rates of bass, middle and treble, weighted as Butterworth shelves of fourth order do:
    half way at the edges, within 6 % half an octave from them.
    """
    low = 1.0 / (1.0 + (np.asarray(hz) / BASS_EDGE_HZ) ** 8)
    high = 1.0 / (1.0 + (TREBLE_EDGE_HZ / np.maximum(hz, 1.0)) ** 8)
    rate = 1.0 + (1.0 / bass - 1.0) * low + (1.0 / treble - 1.0) * high
    found: Floats = decay_s / rate
    return found


@njit(cache=True, nogil=True, inline="always")
def _stepped(
    c: Floats, at: int, x: Vector, p: Vector, q: Vector
) -> tuple[Vector, Vector, Vector]:  # pragma: no cover - compiled
    """One section of eight lines, coefficients from ``at`` on: output and both memories."""
    y = fma(load(c, at), x, p)
    p = fma(load(c, at + 24), y, fma(load(c, at + 8), x, q))
    q = fma(load(c, at + 32), y, load(c, at + 16) * x)
    return y, p, q


@njit(cache=True, nogil=True, inline="always")
def _lines(
    source: Floats, places: Places, i: int, k: int, bench: Floats, at: int
) -> None:  # pragma: no cover - compiled
    """Eight moments of eight lines from the k-th on, those of a moment side by side."""
    moments = transposed(
        load(source, places[k] + i), load(source, places[k + 1] + i),
        load(source, places[k + 2] + i), load(source, places[k + 3] + i),
        load(source, places[k + 4] + i), load(source, places[k + 5] + i),
        load(source, places[k + 6] + i), load(source, places[k + 7] + i),
    )  # fmt: skip
    put(moments, bench, at, 8)


@njit(cache=True, nogil=True, inline="always")
def _back(bench: Floats, at: int, tile: Floats, first: int) -> None:  # pragma: no cover - compiled
    """And back: each line's eight moments to its place in the tile."""
    lines = transposed(
        load(bench, at), load(bench, at + 8), load(bench, at + 16), load(bench, at + 24),
        load(bench, at + 32), load(bench, at + 40), load(bench, at + 48), load(bench, at + 56),
    )  # fmt: skip
    put(lines, tile, first, GRID)


@njit(cache=True, nogil=True)
def attenuated(
    source: Floats, places: Places, m: int, c: Floats, z: Floats, bench: Floats, tile: Floats
) -> None:  # pragma: no cover - compiled
    """Attenuate all lines.

    Both halves go side by side: a section waits for its own past twice as long as it works.

    Parameters
    ----------
    source, places : ndarray
        A flat array, and where in it each line's stretch begins.
    m : int
    c : ndarray, shape (COEFFICIENTS,)
    z : ndarray, shape (MEMORIES,)
        Updated.
    bench : ndarray, shape (BENCH,)
        Overwritten.
    tile : ndarray, shape (16 · GRID,)
        The result, a line after the other. It may be the source.
    """
    p0, q0, p1, q1 = load(z, 0), load(z, 8), load(z, 16), load(z, 24)
    p2, q2, p3, q3 = load(z, 32), load(z, 40), load(z, 48), load(z, 56)
    r0, s0, r1, s1 = load(z, 64), load(z, 72), load(z, 80), load(z, 88)
    r2, s2, r3, s3 = load(z, 96), load(z, 104), load(z, 112), load(z, 120)
    for i in range(0, m, 8):
        _lines(source, places, i, 0, bench, 0)
        _lines(source, places, i, 8, bench, 64)
        for j in range(0, 8 * min(8, m - i), 8):
            x, y = load(bench, j), load(bench, 64 + j)
            x, p0, q0 = _stepped(c, 0, x, p0, q0)
            y, r0, s0 = _stepped(c, 160, y, r0, s0)
            x, p1, q1 = _stepped(c, 40, x, p1, q1)
            y, r1, s1 = _stepped(c, 200, y, r1, s1)
            x, p2, q2 = _stepped(c, 80, x, p2, q2)
            y, r2, s2 = _stepped(c, 240, y, r2, s2)
            x, p3, q3 = _stepped(c, 120, x, p3, q3)
            y, r3, s3 = _stepped(c, 280, y, r3, s3)
            store(bench, j, x)
            store(bench, 64 + j, y)
        _back(bench, 0, tile, i)
        _back(bench, 64, tile, 8 * GRID + i)
    put((p0, q0, p1, q1, p2, q2, p3, q3), z, 0, 8)
    put((r0, s0, r1, s1, r2, s2, r3, s3), z, 64, 8)


@njit(cache=True, nogil=True)
def attenuated_moving(
    source: Floats,
    places: Places,
    m: int,
    old: Floats,
    new: Floats,
    offset: int,
    z: Floats,
    bench: Floats,
    tile: Floats,
) -> None:  # pragma: no cover - compiled
    """The same with coefficients on their way from old to new, ``offset`` samples after the old."""
    now = bench[64:]
    for half in range(2):
        for i in range(0, m, 8):
            _lines(source, places, i, 8 * half, bench, 0)
            for j in range(min(8, m - i)):
                u = splat((offset + i + j) / GRID)
                for k in range(half * 160, half * 160 + 160, 8):
                    store(now, k, fma(u, load(new, k) - load(old, k), load(old, k)))
                x = load(bench, 8 * j)
                for s in range(SECTIONS):
                    a = half * 64 + 16 * s
                    x, p, q = _stepped(now, half * 160 + 40 * s, x, load(z, a), load(z, a + 8))
                    store(z, a, p)
                    store(z, a + 8, q)
                store(bench, 8 * j, x)
            _back(bench, 0, tile, half * 8 * GRID + i)
