"""The muffle's filters against SciPy's Butterworth cascades."""

import numpy as np
import pytest
from scipy.signal import butter, sosfreqz

from reels import Memory, document, effect, rendered, treatment

RATE = 48000
N = 1 << 16


def magnitude(**params):
    """Response in dB at N/2 + 1 frequencies, of the fully engaged effect."""
    x = np.zeros((2, N), np.float32)
    x[:, 4800] = 1.0
    span = treatment(0, N, effect("muffle", **params))
    y = rendered(document(N, treatments=[span]), Memory(m1=x))[0].astype(np.float64)
    return 20 * np.log10(np.abs(np.fft.rfft(y)) + 1e-15)


def expected(high_cut, low_cut):
    hz = np.fft.rfftfreq(N, 1 / RATE)
    low_pass = butter(4, high_cut, fs=RATE, output="sos")
    high_pass = butter(2, low_cut, "highpass", fs=RATE, output="sos")
    response = sosfreqz(np.concatenate([low_pass, high_pass]), hz, fs=RATE)[1]
    return hz, 20 * np.log10(np.abs(response) + 1e-15)


@pytest.mark.parametrize("high_cut", [150.0, 620.0, 2000.0, 9000.0])
@pytest.mark.parametrize("low_cut", [20.0, 80.0])
def test_high_and_low_cut_are_butterworth(high_cut, low_cut):
    """Source: SciPy's ``butter``: fourth-order low-pass, second-order high-pass."""
    hz, theirs = expected(high_cut, low_cut)
    ours = magnitude(high_cut_hz=high_cut, low_cut_hz=low_cut)
    heard = (theirs > -80) & (hz > 10) & (hz < 20000)
    assert np.abs(ours - theirs)[heard].max() < 0.05


def test_the_edge_lies_3_db_down():
    """Source: arithmetic of Butterworth filters."""
    ours = magnitude(high_cut_hz=1000.0)
    bin_1k = round(1000 / (RATE / N))
    assert ours[bin_1k] == pytest.approx(-3.01, abs=0.1)


def test_neutral_settings_change_nothing_below_15_khz():
    """Source: arithmetic; the neutral settings lie at the ends of hearing."""
    ours = magnitude(high_cut_hz=20000)
    hz = np.fft.rfftfreq(N, 1 / RATE)
    assert np.abs(ours[(hz > 40) & (hz < 12000)]).max() < 0.3
