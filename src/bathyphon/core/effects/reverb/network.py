"""A feedback delay network of sixteen lines (J.-M. Jot and A. Chaigne 1991)."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.eights import aligned, copied, silenced
from bathyphon.core.dsp.filters import FLUSH
from bathyphon.core.effects.reverb.attenuation import (
    BENCH,
    COEFFICIENTS,
    GRID,
    LINES,
    MEMORIES,
    attenuate,
    attenuated,
    attenuated_moving,
)
from bathyphon.core.effects.reverb.early import SIDE
from bathyphon.core.effects.reverb.lines import LENGTHS_MS
from bathyphon.core.effects.reverb.matrix import TURNS, mixed, turns_at
from bathyphon.core.effects.reverb.rings import SWEEP, Places, go_on, layout, reading, writing


class Settings(NamedTuple):
    """What is set of the field: each of shape (n,).

    Parameters
    ----------
    decay_s : ndarray
        Seconds to −60 dB.
    bass, treble : ndarray
        Shares of it, in percent, in the low and in the high end.
    size : ndarray
        Percent; scales the lines' lengths.
    freeze : ndarray
        0 to 1: how far what rings is held.
    freezes : bool
        Whether anything is ever held.
    """

    decay_s: Floats
    bass: Floats
    treble: Floats
    size: Floats
    freeze: Floats
    freezes: bool


class Lines(NamedTuple):
    """All that the network remembers.

    Parameters
    ----------
    ring, plan : ndarray
        As in :func:`~bathyphon.core.effects.reverb.rings.layout`.
    filters : ndarray, shape (MEMORIES,)
        Memories of the attenuation.
    coefficients : ndarray, shape (2, COEFFICIENTS)
        Where the attenuation comes from and goes to.
    lengths : ndarray, shape (2, 16)
        Where the lines' lengths come from and go to.
    memory : ndarray, shape (REMEMBERED,)
        By :data:`DECAY` to :data:`MOVED`.
    """

    ring: Floats
    plan: Places
    filters: Floats
    coefficients: Floats
    lengths: Floats
    memory: Floats


# What is remembered of the room: the settings that its coefficients stand for, the level that comes
# in, from one to another, whether lines are changing their lengths, and whether coefficients move.
DECAY, BASS, TREBLE, SIZE, LEVEL_FROM, FADES, LEVEL_TO, MOVED = range(8)
REMEMBERED = 8
LEAST_POWER = 0.1
FOLLOW = 0.35
FADE = 2048
"""Samples over which line lengths change from one size to the next."""

TILE = LINES * GRID
WORKBENCH = 2 * TILE + BENCH + TURNS + GRID + 2 * SIDE


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
def _read_from(plan: Places, lengths: Floats, places: Places) -> None:  # pragma: no cover
    """Where each line is read."""
    for k in range(LINES):
        places[k] = reading(plan, k, int(lengths[k]))


@njit(cache=True, nogil=True)
def _taken(ring: Floats, places: Places, m: int, tile: Floats) -> None:  # pragma: no cover
    """Copy a stretch of all lines."""
    for k in range(LINES):
        copied(ring, places[k], tile, k * GRID, m)


@njit(cache=True, nogil=True)
def _blended(tile: Floats, other: Floats, m: int, share: Floats) -> None:  # pragma: no cover
    """Go over to another tile, each moment as far as its share says."""
    for first in range(0, TILE, GRID):
        for i in range(m):
            here = tile[first + i]
            tile[first + i] = here + share[i] * (other[first + i] - here)


@njit(cache=True, nogil=True)
def _looked(
    i: int, now: int, decay_s: Floats, bass: Floats, treble: Floats, size: Floats,
    sample_rate: float, base: Floats, coefficients: Floats, lengths: Floats, memory: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Look at what is set, at a point of the grid or before the first sample."""
    fresh = memory[DECAY] < 0.0
    if now % FADE == 0 or fresh:
        lengths[0] = lengths[1]
        _lengths_at(size[i], sample_rate, base, lengths[1])
        if fresh:
            lengths[0] = lengths[1]
        memory[FADES] = 1.0 if np.any(lengths[0] != lengths[1]) else 0.0
    fading = memory[FADES] > 0.0
    memory[LEVEL_FROM] = memory[LEVEL_TO]
    memory[MOVED] = 0.0
    same = decay_s[i] == memory[DECAY] and bass[i] == memory[BASS] and treble[i] == memory[TREBLE]
    if not fresh and same and size[i] == memory[SIZE] and not fading:
        return
    # A decay that jumps is followed within a few steps of the grid.
    decay = decay_s[i]
    if not fresh and abs(math.log(decay / memory[DECAY])) > 1e-3:
        decay = memory[DECAY] * (decay / memory[DECAY]) ** FOLLOW
    share = (now % FADE) / FADE if fading else 1.0
    real = lengths[0] + share * (lengths[1] - lengths[0])
    coefficients[0] = coefficients[1]
    power = attenuate(real, decay, bass[i], treble[i], sample_rate, coefficients[1])
    memory[DECAY], memory[BASS], memory[TREBLE], memory[SIZE] = decay, bass[i], treble[i], size[i]
    # As loud as what goes in, whatever the decay; very short ones are left softer.
    memory[LEVEL_TO] = math.sqrt(max(1e-9, 1.0 - power) / max(power, LEAST_POWER))
    memory[MOVED] = 1.0
    if fresh:
        coefficients[0] = coefficients[1]
        memory[LEVEL_FROM] = memory[LEVEL_TO]
        memory[MOVED] = 0.0


@njit(cache=True, nogil=True)
def run(
    x: Floats,
    first: int,
    last: int,
    at: int,
    late: Settings,
    sample_rate: float,
    field: tuple[Floats, Floats],
    bench: tuple[Floats, Places],
    lines: Lines,
    heard: Floats,
) -> None:  # pragma: no cover - compiled
    """Run the network over a stretch of a block.

    Stretches no longer than the shortest line are done one sample after the other, sixteen lines
    side by side; their cuts lie on the owner's grid or change nothing.

    Parameters
    ----------
    x : ndarray, shape (2 · SIDE,)
        Diffused input of the stretch, left and right.
    first, last : int
        The stretch.
    at : int
        The block's first sample from the owner's start.
    late : Settings
    sample_rate : float
        Hz.
    field : tuple
        :data:`LENGTHS_MS`, and what never changes of the matrix.
    bench : tuple of ndarray
        From :func:`workbench`; overwritten.
    lines : Lines
        From :func:`buffers`; updated.
    heard : ndarray, shape (2 · SIDE,)
        The diffuse field of the stretch, left and right.
    """
    ring, plan, filters, coefficients, lengths, memory = lines
    decay_s, bass, treble, size, freeze, freezes = late
    base, constants = field
    work, spots = bench
    places, in_tile = spots[0], spots[1]
    tile, other = work[:TILE], work[TILE : 2 * TILE]
    small = work[2 * TILE : 2 * TILE + BENCH]
    rest = work[2 * TILE + BENCH :]
    turns, share, held = rest[:TURNS], rest[TURNS : TURNS + GRID], rest[TURNS + GRID :]
    i = first
    while i < last:
        now = at + i
        fresh = memory[DECAY] < 0.0
        if fresh:
            # So that the ends of lines lie on the grid.
            plan[2] = now % GRID
        if now % GRID == 0 or fresh:
            _looked(
                i,
                now,
                decay_s,
                bass,
                treble,
                size,
                sample_rate,
                base,
                coefficients,
                lengths,
                memory,
            )
            silenced(filters, FLUSH)
        if now % SWEEP == 0:
            silenced(ring, FLUSH)
        if now % GRID == 0 or i == first:
            turns_at(turns, constants, now, sample_rate)
        offset = now % GRID
        m = min(last - i, GRID - offset, int(min(lengths[0, 0], lengths[1, 0])))
        _read_from(plan, lengths[1], places)
        fades, holds = memory[FADES] > 0.0, False
        for j in range(freezes * m):
            holds = holds or freeze[i + j] > 0.0
        source, there = ring, places
        if fades or holds:
            _taken(ring, places, m, tile)
            source, there = tile, in_tile
        if fades:
            other[:] = tile
            _read_from(plan, lengths[0], places)
            _taken(ring, places, m, tile)
            for j in range(m):
                u = (now % FADE + j) / FADE
                share[j] = u * u * (3.0 - 2.0 * u)
            _blended(tile, other, m, share)
        if holds:
            other[:] = tile
        if memory[MOVED] > 0.0:
            attenuated_moving(
                source, there, m, coefficients[0], coefficients[1], offset, filters, small, tile
            )
        else:
            attenuated(source, there, m, coefficients[1], filters, small, tile)
        place = i - first
        into = x
        if holds:
            _blended(tile, other, m, freeze[i : i + m])
            for side in range(0, 2 * SIDE, SIDE):
                for j in range(m):
                    held[side + place + j] = (1.0 - freeze[i + j]) * x[side + place + j]
            into = held
        for k in range(LINES):
            places[k] = writing(plan, k)
        step = (memory[LEVEL_TO] - memory[LEVEL_FROM]) / GRID
        mixed(
            tile,
            m,
            turns,
            offset,
            constants,
            into,
            place,
            memory[LEVEL_FROM],
            step,
            ring,
            places,
            heard,
        )
        for k in range(LINES):
            go_on(ring, plan, k, m)
        i += m


def workbench() -> tuple[Floats, Places]:
    """Room for what is worked on: numbers, and places of lines in the ring and in a tile."""
    return aligned(WORKBENCH), np.stack([GRID * np.arange(LINES)] * 2)


def buffers(longest_size: float, sample_rate: int) -> Lines:
    """Empty lines."""
    longest = np.ceil(LENGTHS_MS * longest_size / 100.0 * sample_rate / 1000.0).astype(np.int64)
    memory = np.zeros(REMEMBERED)
    memory[DECAY] = -1.0
    return Lines(
        *layout(longest + LINES),
        aligned(MEMORIES),
        aligned(2 * COEFFICIENTS).reshape(2, COEFFICIENTS),
        np.zeros((2, LINES)),
        memory,
    )
