"""Speed and pitch: equal temperament, arithmetic, and librosa as a reference."""

import math

import librosa
import numpy as np
import pytest

from bathyphon.core.speed.steady import Change, changed
from bathyphon.core.speed.timemap import stretched_length

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
    """Source: equal temperament; and librosa's notes."""
    assert Change(semitones=4).ratio == pytest.approx(1.2599, abs=0.00005)
    up = librosa.note_to_hz("C#5") / librosa.note_to_hz("A4")
    assert Change(semitones=4).ratio == pytest.approx(float(up), rel=1e-12)


def test_twelve_seconds_fit_into_ten_at_120_percent():
    """Source: arithmetic."""
    assert stretched_length(12 * RATE, 120) == 10 * RATE


def test_a_held_tone_has_the_pitch_that_librosa_hears():
    """Source: librosa's estimator (probabilistic YIN), within a cent of the tone itself."""
    x = 0.3 * np.sin(2 * np.pi * 220 * np.arange(3 * RATE) / RATE)[None]
    for percent in (80, 125):
        y = changed(x, Change(percent), RATE)[0]
        hz, _, _ = librosa.pyin(y.astype(np.float32), fmin=150, fmax=300, sr=RATE, resolution=0.01)
        own, _, _ = librosa.pyin(
            x[0].astype(np.float32), fmin=150, fmax=300, sr=RATE, resolution=0.01
        )
        cents = 1200 * np.log2(np.nanmedian(hz) / np.nanmedian(own))
        assert abs(cents) <= 1.01
