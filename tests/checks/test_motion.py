"""Movement against formulas: time differences, swings of pitch and level, combs."""

import numpy as np
import pytest

from bathyphon.core.effects.orbit.sound import later_by
from reels import response_db, tone, treat

RATE = 48000


def woodworth(azimuth):
    """R. S. Woodworth 1938 (from memory): (a/c)·(θ + sin θ), a = 8.75 cm."""
    theta = np.arcsin(np.sin(np.radians(azimuth)))
    return 0.0875 / 343.4 * (theta + np.sin(theta))


@pytest.mark.parametrize("azimuth", [-150, -90, -30, 10, 45, 90, 135])
def test_the_far_ear_hears_later(azimuth):
    """Source: Woodworth's formula; measured by the delay that fits best, in the whole sound."""
    x = np.random.default_rng(1).standard_normal(1 << 15)
    y = treat("orbit", np.stack([x, x]), azimuth=azimuth, spread=0, distance=1)
    spectra = np.fft.rfft(y)
    up = 64
    cross = spectra[0] * np.conj(spectra[1])
    found = np.fft.irfft(cross, up * x.size)
    lags = np.arange(found.size)
    lags = np.where(lags > found.size // 2, lags - found.size, lags) / (up * RATE)
    near = np.abs(lags) < 1e-3
    assert lags[near][np.argmax(found[near])] == pytest.approx(woodworth(azimuth), abs=2e-5)


def test_ninety_degrees_are_two_thirds_of_a_millisecond():
    """Source: Woodworth 1938 (from memory): 0.66 ms."""
    assert later_by(np.array([90.0]))[0] * 1000 == pytest.approx(0.66, abs=0.01)


def test_ahead_it_is_the_same_on_both_sides():
    x = np.stack([np.random.default_rng(2).standard_normal(4000)] * 2)
    y = treat("orbit", x, azimuth=0, spread=0)
    assert np.allclose(y, x, atol=1e-12)


def test_nearer_is_louder():
    """Source: the inverse distance law: 6 dB for half the distance."""
    x = tone(300)
    far, near = (treat("orbit", x, azimuth=0, spread=0, distance=d) for d in (4, 2))
    assert 20 * np.log10(near.std() / far.std()) == pytest.approx(6.02, abs=0.2)


@pytest.mark.parametrize("azimuth", range(0, 360, 10))
def test_folded_to_mono_there_are_no_holes(azimuth):
    """Common practice: nowhere more than 9 dB below what lies within an octave of it."""
    pulse = np.zeros((2, 1 << 14))
    pulse[:, 0] = 1.0
    y = treat("orbit", pulse, azimuth=azimuth, spread=0).mean(axis=0)
    hz = np.fft.rfftfreq(y.size, 1 / RATE)
    level = 20 * np.log10(np.abs(np.fft.rfft(y)) + 1e-9)
    for f in np.geomspace(100, 10000, 200):
        around = level[(hz > f / 2) & (hz < f * 2)]
        assert np.interp(f, hz, level) > around.max() - 9


@pytest.mark.parametrize("shape", ["sine", "triangle", "square"])
def test_vibrato_swings_by_so_many_cents(shape):
    """Source: arithmetic: 100 cents are a ratio of 2^(1/12); by the tone's own phase."""
    from scipy.signal import hilbert

    y = treat("vibrato", tone(2000, 3), rate_hz=4, swing=60, shape=shape)[0]
    phase = np.unwrap(np.angle(hilbert(y)))
    smooth = np.convolve(np.gradient(phase) * RATE / (2 * np.pi), np.ones(200) / 200, "same")
    cents = 1200 * np.log2(smooth[RATE // 2 : -RATE // 2] / 2000)
    assert cents.max() == pytest.approx(60, abs=2.5)
    assert cents.min() == pytest.approx(-60, abs=4)


def test_a_standing_flanger_is_a_comb():
    """Source: arithmetic: notches at odd multiples of 1/(2·delay)."""
    found = response_db("flanger", np.array([500.0, 1000.0, 1500.0, 2000.0]), swing=0, delay_ms=1,
                        feedback=0, mix=50)  # fmt: skip
    assert found[[0, 2]].max() < -40
    assert found[[1, 3]] == pytest.approx([6.02, 6.02], abs=0.05)


def test_a_standing_phaser_has_three_notches():
    """Source: arithmetic: six all-passes of 90° each at their frequency turn thrice by 180°."""
    hz = np.geomspace(30, 18000, 4000)
    found = response_db("phaser", hz, swing=0, delay_ms=0.2, feedback=0, mix=50)
    inside = found[1:-1]
    dips = (inside < found[:-2]) & (inside < found[2:]) & (inside < -20)
    assert dips.sum() == 3
    # The middle one lies where a single stage turns by 90°.
    assert hz[1:-1][dips][1] == pytest.approx(1000 / (2 * np.pi * 0.2), rel=0.02)


def test_chorus_keeps_the_level():
    """Common practice: a louder effect only seems better."""
    x = 0.1 * np.random.default_rng(3).standard_normal((2, 2 * RATE))
    y = treat("chorus", x, mix=100)
    assert 20 * np.log10(y.std() / x.std()) == pytest.approx(0, abs=1.5)
