"""Second-order sections in series, all of them and both sides at once, every setting movable.

Topology-preserving state-variable filters: V. Zavalishin, *The Art of VA Filter Design* (2012);
A. Simper, "Solving the continuous SVF equations using trapezoidal integration" (2013). While the
first section works on a sample, the second works on the one before, and so on: four sections of two
sides fill eight lanes, and none waits for another.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import (
    Vector,
    element,
    fma,
    load,
    select,
    shuffle,
    splat,
    store,
    vector_of,
    without_denormals,
)
from bathyphon.core.dsp.filters import FLUSH
from bathyphon.core.dsp.sections import Section

AT_ONCE = 4
GRID = 64
# Of each group of sections: both integrators, eight lanes each.
MEMORY = 16

_behind = shuffle(0, 1, 8, 9, 10, 11, 12, 13)


@njit(cache=True, nogil=True, inline="always")
def _stepped(
    x: Vector,
    s: Vector,
    t: Vector,
    a1: Vector,
    a2: Vector,
    a3: Vector,
    m0: Vector,
    m1: Vector,
    m2: Vector,
) -> tuple[Vector, Vector, Vector]:  # pragma: no cover - compiled
    """One sample of each section: what is heard, and both integrators."""
    v = x - t
    band = fma(a2, v, a1 * s)
    low = fma(a3, v, fma(a2, s, t))
    two = splat(2.0)
    return fma(m2, low, fma(m1, band, m0 * x)), two * band - s, two * low - t


@njit(cache=True, nogil=True, inline="always")
def _gains(g: Vector, k: Vector) -> tuple[Vector, Vector, Vector]:  # pragma: no cover - compiled
    one = splat(1.0)
    a1 = one / fma(g, g + k, one)
    a2 = g * a1
    return a1, a2, g * a2


@njit(cache=True, nogil=True, inline="always")
def _at(
    rows: Floats, width: int, i: int, j1: int, j2: int, j3: int
) -> Vector:  # pragma: no cover - compiled
    """Settings of four sections, each one sample behind the one before it."""
    if width == 1:
        a, b, c, d = rows[0], rows[j1], rows[j2], rows[j3]
    else:
        a, b = rows[i], rows[j1 * width + i - 1]
        c, d = rows[j2 * width + i - 2], rows[j3 * width + i - 3]
    return vector_of(a, a, b, b, c, c, d, d)


@njit(cache=True, nogil=True)
def _edges(
    first: int, last: int, left: Floats, right: Floats, at: int, count: int, g: Floats,
    rows: Floats, z: Floats, out_left: Floats, out_right: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Steps at a block's edges, where some sections have nothing to do yet or any more.

    ``z`` holds the integrators and, from place 16 on, what was heard last.
    """
    n = left.size
    settings = np.empty((5, 8))
    busy = np.empty(8)
    for i in range(first, last):
        for k in range(8):
            j = k // 2
            sample = min(max(i - j, 0), n - 1)
            busy[k] = 1.0 if 0 <= i - j < n else 0.0
            row = min(j, count - 1)
            settings[0, k] = g[row, 0 if g.shape[1] == 1 else sample]
            for part in range(4):
                column = 0 if rows.shape[1] == 1 else sample
                settings[1 + part, k] = rows[part * count + row, column]
            if j >= count:
                settings[2, k], settings[3, k], settings[4, k] = 1.0, 0.0, 0.0
        flat = settings.ravel()
        a1, a2, a3 = _gains(load(flat, 0), load(flat, 8))
        s, t, y = load(z, 0), load(z, 8), load(z, 16)
        sample = min(i, n - 1)
        fresh = vector_of(left[sample], right[sample], 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
        y, s1, t1 = _stepped(
            _behind(fresh, y), s, t, a1, a2, a3, load(flat, 16), load(flat, 24), load(flat, 32)
        )
        if (at + i) % GRID == 0:
            s1, t1 = without_denormals(s1, splat(FLUSH)), without_denormals(t1, splat(FLUSH))
        now = load(busy, 0)
        store(z, 0, select(now, s1, s))
        store(z, 8, select(now, t1, t))
        store(z, 16, y)
        if i >= 3:
            out_left[i - 3] = element(y, 6)
            out_right[i - 3] = element(y, 7)


@njit(cache=True, nogil=True)
def _run(
    x: Floats, at: int, count: int, g: Floats, rows: Floats, memory: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """Run up to four sections.

    Parameters
    ----------
    x, out : ndarray, shape (2, n)
    at, count : int
        Place of the first sample; how many sections.
    g : ndarray, shape (count, 1 or n)
    rows : ndarray, shape (4 count, 1 or n)
        Of all sections k, then m0, m1 and m2.
    memory : ndarray, shape (MEMORY,)
        Updated.
    """
    n = x.shape[1]
    left, right, out_left, out_right = x[0], x[1], out[0], out[1]
    z = np.zeros(24)
    z[:16] = memory
    _edges(0, 3, left, right, at, count, g, rows, z, out_left, out_right)
    s, t, y = load(z, 0), load(z, 8), load(z, 16)
    floor = splat(FLUSH)
    j1, j2, j3 = min(1, count - 1), min(2, count - 1), min(3, count - 1)
    u1, u2, u3 = min(1.0, count - 1.0), max(0.0, count - 2.0), max(0.0, count - 3.0)
    own = vector_of(1.0, 1.0, u1, u1, u2, u2, u3, u3)
    one, none = splat(1.0), splat(0.0)
    wide, width = g.shape[1], rows.shape[1]
    gs, settings = g.ravel(), rows.ravel()
    size = count * width
    ks, direct = settings[:size], settings[size : 2 * size]
    middle, bass = settings[2 * size : 3 * size], settings[3 * size :]
    # Settings that stand still; those that move are looked up at each sample.
    k = _at(ks, 1, 0, j1, j2, j3)
    a1, a2, a3 = _gains(_at(gs, 1, 0, j1, j2, j3), k)
    m0 = select(own, _at(direct, 1, 0, j1, j2, j3), one)
    m1 = select(own, _at(middle, 1, 0, j1, j2, j3), none)
    m2 = select(own, _at(bass, 1, 0, j1, j2, j3), none)
    for i in range(3, n):
        if width > 1:
            k = _at(ks, width, i, j1, j2, j3)
            m0 = select(own, _at(direct, width, i, j1, j2, j3), one)
            m1 = select(own, _at(middle, width, i, j1, j2, j3), none)
            m2 = select(own, _at(bass, width, i, j1, j2, j3), none)
        if width > 1 or wide > 1:
            a1, a2, a3 = _gains(_at(gs, wide, i, j1, j2, j3), k)
        fresh = vector_of(left[i], right[i], 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
        y, s, t = _stepped(_behind(fresh, y), s, t, a1, a2, a3, m0, m1, m2)
        if (at + i) % GRID == 0:
            s, t = without_denormals(s, floor), without_denormals(t, floor)
        out_left[i - 3] = element(y, 6)
        out_right[i - 3] = element(y, 7)
    store(z, 0, s)
    store(z, 8, t)
    store(z, 16, y)
    _edges(max(3, n), n + 3, left, right, at, count, g, rows, z, out_left, out_right)
    memory[:] = z[:16]


def memory_for(sections: int) -> Floats:
    """Empty memories for so many sections."""
    return np.zeros(MEMORY * -(-sections // AT_ONCE))


class Stack(NamedTuple):
    """Up to four sections, ready to be run: how many, and their settings (see :func:`_run`)."""

    sections: int
    g: Floats
    rows: Floats


def stacked(sections: Sequence[Section]) -> list[Stack]:
    """Sections one after another, four at a time."""
    stacks = []
    for first in range(0, len(sections), AT_ONCE):
        g, *others = zip(*sections[first : first + AT_ONCE], strict=True)
        rows = _rows([part for kind in others for part in kind])
        stacks.append(Stack(len(g), _rows(g), rows))
    return stacks


def _rows(parts: Sequence[Floats]) -> Floats:
    """Numbers and series of numbers as rows of the same length."""
    rows = np.empty((len(parts), max(part.size for part in parts)))
    for row, part in zip(rows, parts, strict=True):
        row[:] = part
    return rows


def through(stacks: Sequence[Stack], x: Floats, at: int, memory: Floats) -> Floats:
    """Send both sides through sections one after another.

    Parameters
    ----------
    stacks : sequence of Stack
        From :func:`stacked`.
    x : ndarray, shape (2, n)
    at : int
        The block's first sample from the owner's start.
    memory : ndarray
        From :func:`memory_for`; updated.

    Returns
    -------
    ndarray, shape (2, n)
    """
    n = x.shape[1]
    if not n:
        return x.copy()
    for index, stack in enumerate(stacks):
        out = np.empty((2, n))
        own = memory[index * MEMORY : (index + 1) * MEMORY]
        _run(x, at, stack.sections, stack.g, stack.rows, own, out)
        x = out
    return x
