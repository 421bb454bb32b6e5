"""Beats against music whose tempo and beats are known; seeds are drawn at run time.

The range of tempos and the bounds come from the project's own goals; no published source.
"""

import os

import numpy as np
import pytest

from bathyphon.core.measure.beats import find_beats
from bathyphon.core.measure.onsets import onsets
from music import RATE, ambience, song

SEED = int.from_bytes(os.urandom(4), "little")


def off_in_ms(found, true):
    at = np.clip(np.searchsorted(found, true), 1, found.size - 1)
    nearest = np.where(np.abs(found[at] - true) < np.abs(found[at - 1] - true), at, at - 1)
    return (found[nearest] - true) / RATE * 1000


@pytest.mark.parametrize("turn", range(5))
def test_tempo_and_grid_of_music_with_swing_and_gaps(turn):
    print("seed", SEED, turn)
    rng = np.random.default_rng(SEED + turn)
    gap = (30.0, 30.0 + rng.uniform(4, 9)) if turn % 2 else None
    made = song(rng, (rng.uniform(60, 200),), 80, rng.uniform(0.5, 0.68), gap, rng.uniform(0, 2))
    grid = find_beats(made.sound.mean(axis=0), RATE)
    assert grid.tempo is not None
    assert abs(grid.tempo - made.tempos[0]) < 0.02
    off = off_in_ms(grid.beats(), made.beats)
    assert abs(np.median(off)) < 3
    assert np.percentile(np.abs(off), 95) < 6


@pytest.mark.parametrize("turn", range(2))
def test_a_step_of_tempo_makes_two_stretches(turn):
    print("seed", SEED, turn)
    rng = np.random.default_rng(SEED + 100 + turn)
    first = rng.uniform(70, 150)
    made = song(rng, (first, first * rng.choice([0.8, 1.15])), 110, rng.uniform(0.5, 0.66))
    grid = find_beats(made.sound.mean(axis=0), RATE)
    for tempo in made.tempos:
        assert min(abs(60 * RATE / s.period - tempo) for s in grid.stretches) < 0.02
    assert abs(np.median(off_in_ms(grid.beats(), made.beats))) < 3


@pytest.mark.parametrize("turn", range(3))
def test_water_has_no_steady_beat(turn):
    print("seed", SEED, turn)
    grid = find_beats(ambience(np.random.default_rng(SEED + 200 + turn)).mean(axis=0), RATE)
    assert grid.tempo is None
    assert grid.beats().size == 0


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
