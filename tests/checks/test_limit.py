"""The limiter against its ceiling, on our meter and on another interpolation."""

import numpy as np
import pytest
from scipy.signal import resample_poly

from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.tally import tally
from reels import treat

RATE = 48000


def faded(x):
    n = x.shape[1]
    ends = np.minimum(1.0, np.minimum(np.arange(n), np.arange(n)[::-1]) / 2400)
    return np.pad(x * ends, ((0, 0), (1000, 1000)))


def tones(hz):
    t = np.arange(RATE) / RATE
    return np.stack([np.sin(2 * np.pi * hz * t + p) for p in (0.785, 0.3)])


SOUNDS = {
    "fs/4": tones(12000),
    "19.2 kHz": tones(19200),
    "bass": 1.6 * tones(55),
    "noise": 0.5 * np.random.default_rng(5).standard_normal((2, RATE)),
    "saw": np.stack([(np.arange(RATE) * 437.1 / RATE % 1 - 0.5) * 2.2] * 2),
    "clicks": 4.0 * (np.arange(RATE) % 997 == 0) * np.ones((2, 1)),
}


def meter_db(y):
    return levels_of(tally(y, RATE)).true_peak


@pytest.mark.parametrize("gain", [0, 12])
@pytest.mark.parametrize("name", SOUNDS)
def test_no_peak_above_the_ceiling(name, gain):
    """Source: EBU R 128's −1 dBTP (from memory); measured at 16 ×."""
    y = treat("limit", faded(SOUNDS[name]), ceiling_db=-1, gain_db=gain)
    assert meter_db(y) <= -1.0


@pytest.mark.parametrize("name", ["fs/4", "19.2 kHz", "bass", "saw", "clicks"])
def test_nor_at_32_times(name):
    """Source: SciPy's resample_poly; the ceiling and 0.05 dB, as ENGINE rules say."""
    y = treat("limit", faded(SOUNDS[name]), ceiling_db=-1, gain_db=6)
    most = np.abs(resample_poly(y, 32, 1, axis=1, window=("kaiser", 9.0))).max()
    assert 20 * np.log10(most) <= -0.95


def test_what_is_below_the_ceiling_is_left_alone():
    x = faded(0.05 * SOUNDS["noise"])
    assert np.array_equal(treat("limit", x), x)


def test_it_lets_go_within_the_release():
    """Common practice."""
    x = np.concatenate([tones(500) * 2, tones(500) * 0.1], axis=1)
    y = treat("limit", x, release_ms=100)
    # After five releases nothing is left of the reduction.
    late = slice(RATE + RATE // 2 + 2000, None)
    assert np.abs(y[:, late] / x[:, late] - 1).max() < 0.01
