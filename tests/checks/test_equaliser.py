"""Every type of band against SciPy's response of the same filter."""

import numpy as np
import pytest
from scipy.signal import butter, freqz, sosfreqz

from reels import response_db

HZ = np.geomspace(20, 20000, 300)


def cookbook(kind, freq, gain_db, q, rate=48000):
    """R. Bristow-Johnson, Audio EQ Cookbook (from memory)."""
    a = 10 ** (gain_db / 40)
    w = 2 * np.pi * freq / rate
    c, alpha = np.cos(w), np.sin(w) / (2 * q)
    if kind == "peak":
        return [1 + alpha * a, -2 * c, 1 - alpha * a], [1 + alpha / a, -2 * c, 1 - alpha / a]
    if kind == "notch":
        return [1, -2 * c, 1], [1 + alpha, -2 * c, 1 - alpha]
    s = 1 if kind == "high_shelf" else -1
    root = 2 * np.sqrt(a) * alpha
    b = [a * (a + 1 + s * (a - 1) * c + root), -2 * s * a * (a - 1 + s * (a + 1) * c),
         a * (a + 1 + s * (a - 1) * c - root)]  # fmt: skip
    d = [a + 1 - s * (a - 1) * c + root, 2 * s * (a - 1 - s * (a + 1) * c),
         a + 1 - s * (a - 1) * c - root]  # fmt: skip
    return b, d


def band(kind, freq, gain_db=0.0, q=0.5**0.5, slope="12"):
    return {"type": kind, "freq_hz": freq, "gain_db": gain_db, "q": q, "slope": slope}


@pytest.mark.parametrize("gain", [-24, -5, 7, 24])
@pytest.mark.parametrize("q", [0.4, 0.7071, 3.0])
@pytest.mark.parametrize("freq", [45, 900, 11000])
@pytest.mark.parametrize("kind", ["peak", "low_shelf", "high_shelf"])
def test_peaks_and_shelves(kind, freq, q, gain):
    """Source: Audio EQ Cookbook, response by SciPy; within 0.05 dB to 20 kHz."""
    _, h = freqz(*cookbook(kind, freq, gain, q), worN=HZ, fs=48000)
    found = response_db("eq", HZ, bands=[band(kind, freq, gain, q)])
    assert np.abs(found - 20 * np.log10(np.abs(h))).max() < 0.05


@pytest.mark.parametrize("rate", [44100, 96000])
def test_peaks_at_other_rates(rate):
    """Source: Audio EQ Cookbook, response by SciPy."""
    _, h = freqz(*cookbook("peak", 3000, 9, 1.2, rate), worN=HZ, fs=rate)
    found = response_db("eq", HZ, rate=rate, bands=[band("peak", 3000, 9, 1.2)])
    assert np.abs(found - 20 * np.log10(np.abs(h))).max() < 0.05


@pytest.mark.parametrize("slope", [12, 24, 48])
@pytest.mark.parametrize(("kind", "btype"), [("low_cut", "high"), ("high_cut", "low")])
@pytest.mark.parametrize("freq", [120, 730, 6000])
def test_cuts_are_butterworth(freq, kind, btype, slope):
    """Source: SciPy's Butterworth filters; −3 dB at the edge, so many dB an octave."""
    sos = butter(slope // 6, freq, btype, fs=48000, output="sos")
    wanted = 20 * np.log10(np.abs(sosfreqz(sos, worN=HZ, fs=48000)[1]) + 1e-12)
    found = response_db("eq", HZ, bands=[band(kind, freq, slope=slope)])
    seen = wanted > -80
    assert np.abs(found - wanted)[seen].max() < 0.05


def test_a_notch_takes_out_one_tone():
    """Source: Audio EQ Cookbook, response by SciPy."""
    _, h = freqz(*cookbook("notch", 1000, 0, 8), worN=HZ, fs=48000)
    wanted = 20 * np.log10(np.abs(h) + 1e-12)
    found = response_db("eq", HZ, bands=[band("notch", 1000, q=8)])
    assert np.abs(found - wanted)[wanted > -40].max() < 0.05
    assert response_db("eq", np.array([1000.0]), bands=[band("notch", 1000, q=8)])[0] < -50


def test_bands_add_up():
    """Source: arithmetic: filters in a row multiply."""
    parts = [band("low_cut", 90), band("peak", 400, -6, 2), band("high_shelf", 5000, 8)]
    alone = sum(response_db("eq", HZ, bands=[p]) for p in parts)
    assert np.abs(response_db("eq", HZ, bands=parts) - alone).max() < 0.01
