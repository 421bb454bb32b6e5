"""Beats against music whose tempo and beats are known.

The range of tempos and the bounds come from the project's own goals; no published source. The
songs of every day were chosen once; the long ones are drawn anew each time, and judged by rates.
"""

import os

import numpy as np
import pytest

from bathyphon.core.measure.beats import find_beats
from bathyphon.core.measure.onsets import onsets
from music import RATE, ambience, song

SEED = 20261127


def off_in_ms(found, true):
    at = np.clip(np.searchsorted(found, true), 1, found.size - 1)
    nearest = np.where(np.abs(found[at] - true) < np.abs(found[at - 1] - true), at, at - 1)
    return (found[nearest] - true) / RATE * 1000


def grid_is_right(seed, turn):
    """Whether tempo and beats of a song are found, which may swing and pause."""
    rng = np.random.default_rng(seed + turn)
    gap = (30.0, 30.0 + rng.uniform(4, 9)) if turn % 2 else None
    made = song(rng, (rng.uniform(60, 200),), 80, rng.uniform(0.5, 0.68), gap, rng.uniform(0, 2))
    grid = find_beats(made.sound.mean(axis=0), RATE)
    if grid.tempo is None or abs(grid.tempo - made.tempos[0]) >= 0.02:
        return False
    off = off_in_ms(grid.beats(), made.beats)
    return bool(abs(np.median(off)) < 3 and np.percentile(np.abs(off), 95) < 6)


def both_tempos_are_right(seed, turn):
    """Whether a step of the tempo is found."""
    rng = np.random.default_rng(seed + 100 + turn)
    first = rng.uniform(70, 150)
    made = song(rng, (first, first * rng.choice([0.8, 1.15])), 110, rng.uniform(0.5, 0.66))
    grid = find_beats(made.sound.mean(axis=0), RATE)
    tempos = [60 * RATE / s.period for s in grid.stretches]
    near = all(min(abs(t - tempo) for t in tempos) < 0.02 for tempo in made.tempos)
    return bool(near and abs(np.median(off_in_ms(grid.beats(), made.beats))) < 3)


def water_is_steady(seed, turn):
    """Whether beats are found where there are none."""
    grid = find_beats(ambience(np.random.default_rng(seed + 200 + turn)).mean(axis=0), RATE)
    return grid.tempo is not None or grid.beats().size > 0


@pytest.mark.parametrize("turn", range(5))
def test_tempo_and_grid_of_music_with_swing_and_gaps(turn):
    assert grid_is_right(SEED, turn)


@pytest.mark.parametrize("turn", range(2))
def test_a_step_of_tempo_makes_two_stretches(turn):
    assert both_tempos_are_right(SEED, turn)


@pytest.mark.parametrize("turn", range(3))
def test_water_has_no_steady_beat(turn):
    assert not water_is_steady(SEED, turn)


@pytest.mark.long
def test_music_that_nobody_has_heard_before():
    seed = int.from_bytes(os.urandom(4), "little")
    print("seed", seed)
    # Each song has its own seed: the turns of one must not meet those of another.
    assert np.mean([grid_is_right(seed + 1000 * i, i) for i in range(100)]) >= 0.97
    assert np.mean([both_tempos_are_right(seed + 1000 * i, 0) for i in range(30)]) >= 0.95
    assert np.mean([water_is_steady(seed + 1000 * i, 0) for i in range(30)]) <= 0.05


def test_onsets_lie_where_something_begins():
    rng = np.random.default_rng(SEED)
    x = 0.001 * rng.standard_normal(20 * RATE)
    true = np.sort(rng.choice(np.arange(1, 78), 30, replace=False)) * RATE // 4
    t = np.arange(RATE // 5) / RATE
    for at in true:
        hz = rng.uniform(200, 2000)
        x[at : at + t.size] += 0.4 * np.sin(2 * np.pi * hz * t) * np.exp(-t * 15)
    found = onsets(x, RATE).at
    off = off_in_ms(found, true)
    assert found.size == true.size
    assert abs(np.mean(off)) < 2
    assert np.abs(off).max() < 5


@pytest.mark.parametrize("x", [np.zeros(0), np.zeros(100), np.zeros(10 * RATE)])
def test_nothing_has_no_beats(x):
    assert find_beats(x, RATE).tempo is None
