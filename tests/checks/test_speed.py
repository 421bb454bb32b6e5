"""Speed and pitch: equal temperament, arithmetic, and SciPy's analytic signal."""

import math

import numpy as np
import pytest
from scipy.signal import hilbert

from bathyphon.core.speed.steady import Change, changed
from bathyphon.core.timing.pace import stretched_length

RATE = 48000


@pytest.mark.parametrize(("percent", "semitones"), [(110, 1.650), (125, 3.863), (80, -3.863)])
def test_the_pitch_of_a_speed(percent, semitones):
    """Source: arithmetic, 12·log2."""
    ratio = Change(percent, "follow").ratio
    assert 12 * math.log2(ratio) == pytest.approx(semitones, abs=0.0005)
    # With the exact compensation the pitch stays.
    back = -12 * math.log2(percent / 100)
    assert Change(percent, "follow", back).ratio == pytest.approx(1, abs=1e-12)


def test_a_third_is_four_semitones():
    """Source: equal temperament; A4 at 440 Hz and C♯5 in tables of notes, from memory."""
    assert Change(semitones=4).ratio == pytest.approx(1.2599, abs=0.00005)
    assert Change(semitones=4).ratio == pytest.approx(554.3653 / 440, rel=1e-7)


def test_twelve_seconds_fit_into_ten_at_120_percent():
    """Source: arithmetic."""
    assert stretched_length(12 * RATE, 120) == 10 * RATE


@pytest.mark.parametrize("percent", [80, 125])
def test_a_held_tone_has_its_own_frequency(percent):
    """Source: the slope of the phase of SciPy's analytic signal; a cent is common practice."""
    x = 0.3 * np.sin(2 * np.pi * 220 * np.arange(3 * RATE) / RATE)[None]
    y = changed(x, Change(percent), RATE)[0]
    inner = np.unwrap(np.angle(hilbert(y)))[RATE // 2 : -RATE // 2]
    hz = np.polyfit(np.arange(inner.size), inner, 1)[0] * RATE / (2 * np.pi)
    assert abs(1200 * np.log2(hz / 220)) <= 0.1
