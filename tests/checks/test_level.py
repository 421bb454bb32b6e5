"""Level and loudness: EBU and ITU documents (from memory), pyloudnorm, arithmetic."""

import numpy as np
import pyloudnorm
import pytest

from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.pan import law_gains
from bathyphon.core.measure.loudness import LoudnessMeter, k_weighting
from bathyphon.core.measure.true_peak import TruePeakMeter
from bathyphon.formats.fold import fold_matrix
from bathyphon.formats.wav import dither

RATE = 48000


def sine(dbfs, seconds, hz=1000.0, rate=RATE, phase=0.0):
    t = np.arange(round(seconds * rate)) / rate
    x = 10 ** (dbfs / 20) * np.sin(2 * np.pi * hz * t + phase)
    return np.stack([x, x])


def loudness(x, rate=RATE, block=4801):
    meter = LoudnessMeter(rate)
    for start in range(0, x.shape[1], block):
        meter.add(x[:, start : start + block])
    return meter


def test_k_weighting_coefficients_at_48_khz():
    """Source: ITU-R BS.1770 (from memory)."""
    stage1, stage2 = k_weighting(48000)
    np.testing.assert_allclose(
        stage1,
        [1.53512485958697, -2.69169618940638, 1.19839281085285,
         1.0, -1.69065929318241, 0.73248077421585],
        atol=1e-8,
    )  # fmt: skip
    np.testing.assert_allclose(
        stage2, [1.0, -2.0, 1.0, 1.0, -1.99004745483398, 0.99007225036621], atol=1e-8
    )


@pytest.mark.parametrize("rate", [44100, 48000, 96000])
@pytest.mark.parametrize("level", [-23.0, -33.0])
def test_a_sine_reads_its_level(level, rate):
    """Source: EBU Tech 3341, cases 1 and 2 (from memory)."""
    assert loudness(sine(level, 20, rate=rate), rate).integrated() == pytest.approx(level, abs=0.1)


def test_gating():
    """Source: EBU Tech 3341, case 3 (from memory)."""
    x = np.concatenate([sine(-36, 10), sine(-23, 60), sine(-36, 10)], axis=1)
    assert loudness(x).integrated() == pytest.approx(-23.0, abs=0.1)


def test_loudness_range():
    """Source: EBU Tech 3342, case 1 (from memory)."""
    x = np.concatenate([sine(-20, 20), sine(-30, 20)], axis=1)
    assert loudness(x).range() == pytest.approx(10.0, abs=1.0)


def test_loudness_as_pyloudnorm_reads_it():
    """Source: pyloudnorm, which implements ITU-R BS.1770-4."""
    rng = np.random.default_rng(3)
    x = rng.standard_normal((2, 20 * RATE)) * np.linspace(0.01, 0.3, 20 * RATE)
    theirs = pyloudnorm.Meter(RATE).integrated_loudness(x.T)
    assert loudness(x).integrated() == pytest.approx(theirs, abs=0.1)


def peak(x):
    meter = TruePeakMeter()
    for start in range(0, x.shape[1], 1000):
        meter.add(x[:, start : start + 1000])
    meter.finish()
    return 20 * np.log10(meter.true_peak)


def test_true_peak_of_a_sine_between_its_samples():
    """Source: EBU Tech 3341 (from memory): fs/4 at 45°, sample peak 3.01 dB below."""
    x = sine(-6.0, 1, hz=RATE / 4, phase=np.pi / 4)
    assert 20 * np.log10(np.abs(x).max()) == pytest.approx(-9.01, abs=0.01)
    # Its abrupt ends overshoot, as any interpolation of them does: fade them.
    x *= np.minimum(1, np.minimum(np.arange(RATE), np.arange(RATE)[::-1]) / 2000)
    assert -6.4 <= peak(x) <= -5.8


@pytest.mark.parametrize("hz", [997.0, 9000.1, 15000.7, 19200.3, 20000.0])
def test_true_peak_to_20_khz(hz):
    """Source: arithmetic; the tolerance is the project's own."""
    x = sine(-3.0, 1, hz=hz)
    x *= np.minimum(1, np.minimum(np.arange(RATE), np.arange(RATE)[::-1]) / 5000)
    assert peak(x) == pytest.approx(-3.0, abs=0.02)


def test_130_percent_of_level():
    """Source: arithmetic."""
    assert gain_of_db(np.array([2.2788670]))[0] == pytest.approx(1.3, abs=1e-6)


def test_constant_power_pan():
    """Source: arithmetic; powers add to 2, unity at the centre."""
    gains = law_gains(np.linspace(-100, 100, 201))
    np.testing.assert_allclose((gains**2).sum(axis=0), 2.0, atol=1e-12)
    assert gains[:, 100].tolist() == [1.0, 1.0]
    np.testing.assert_allclose(gains[:, 0], [np.sqrt(2), 0], atol=1e-12)


def test_five_one_to_stereo():
    """Source: ITU-R BS.775 (from memory): centre and surrounds at −3 dB."""
    matrix = fold_matrix(["FL", "FR", "FC", "LFE", "BL", "BR"])
    half = np.sqrt(0.5)
    np.testing.assert_allclose(matrix, [[1, 0, half, 0, half, 0], [0, 1, half, 0, 0, half]])


def test_dither_is_triangular_and_two_steps_wide():
    """Source: Lipshitz, Wannamaker & Vanderkooy 1992 (from memory)."""
    x = dither(0, 400_000)
    assert np.abs(x).max() <= 1.0
    assert np.abs(x).max() > 0.99
    # A triangle from −1 to 1 has variance 1/6, and a quarter of it lies beyond ±½.
    assert x.var() == pytest.approx(1 / 6, rel=0.01)
    assert np.mean(np.abs(x) > 0.5) == pytest.approx(0.25, abs=0.005)
    np.testing.assert_array_equal(dither(1000, 50), x[:, 1000:1050])
