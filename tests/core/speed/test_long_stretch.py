"""Clips of ten milliseconds and of two hours, at any speed."""

import resource
from pathlib import Path

import numpy as np
import pytest

from bathyphon.core.speed import run
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import sound_at
from bathyphon.core.speed.steady import Change, changed
from bathyphon.core.timing.curves import Curve

RATE = 48000
HOURS = 2 * 3600 * RATE


def endless(start, stop):
    """Beats, a chord and some noise, for as long as one asks; the same wherever one begins."""
    t = np.arange(start, stop)
    x = 0.1 * sum(np.sin(2 * np.pi * f * (t % (RATE * 10)) / RATE) for f in (110, 165, 220, 660))
    beat = np.exp(-(t % (RATE // 2)) / 2000.0)
    hiss = ((t * 1103515245 + 12345) % 65536) / 65536.0 - 0.5
    return np.stack([x + 0.4 * beat * hiss, x + 0.2 * beat * hiss])


@pytest.mark.parametrize("percent", [10.0, 37.5, 110.0, 400.0])
@pytest.mark.parametrize("material", ["voice", "music"])
def test_ten_milliseconds(percent, material):
    x = endless(0, RATE // 100)
    y = changed(x, Change(percent, semitones=2.0, formants="hold", material=material), RATE)
    assert y.shape[1] == int(100 * x.shape[1] / percent + 0.5)
    assert np.isfinite(y).all()
    assert 0.01 < np.abs(y).max() < 2


@pytest.mark.parametrize("percent", [10.0, 400.0])
def test_the_slowest_and_the_fastest_keep_the_level(percent):
    x = endless(0, 4 * RATE)
    y = changed(x, Change(percent), RATE)
    assert np.isfinite(y).all()
    assert abs(20 * np.log10(y.std() / x.std())) < 2


def megabytes():
    """Memory in use now."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / 2**20


@pytest.mark.parametrize("material", ["voice", "music"])
def test_back_at_the_beginning_it_is_what_it_was(material, monkeypatch):
    """Though checkpoints have been thinned out meanwhile, and though sound comes before it."""
    monkeypatch.setattr(run, "MOST_CHECKPOINTS", 2)
    sound = sound_at(SpeedChange(Curve.constant(125.0), material=material), endless, RATE)
    whole = np.concatenate([sound.read(a, a + RATE) for a in range(0, 32 * RATE, RATE)], axis=1)
    for at in (RATE, 30 * RATE, 0):
        assert np.array_equal(sound.read(at, at + RATE), whole[:, at : at + RATE])


@pytest.mark.long
@pytest.mark.parametrize("material", ["voice", "music"])
def test_two_hours_take_no_more_memory_than_ten_minutes(material):
    sound = sound_at(SpeedChange(Curve.constant(125.0), material=material), endless, RATE)
    piece = 10 * RATE
    used = []
    for start in range(0, int(HOURS / 1.25), piece):
        y = sound.read(start, start + piece)
        assert np.isfinite(y).all()
        if start % (60 * piece) == 0:
            used.append(megabytes())
    # A checkpoint every ten seconds at first; later they are thinned out.
    assert used[-1] - used[1] < 24
    # Back at the beginning it is what it was.
    fresh = sound_at(SpeedChange(Curve.constant(125.0), material=material), endless, RATE)
    assert np.array_equal(sound.read(RATE, 2 * RATE), fresh.read(RATE, 2 * RATE))
