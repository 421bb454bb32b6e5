"""Level and loudness: EBU and ITU documents (from memory), pyloudnorm, arithmetic."""

import numpy as np
import pyebur128
import pyloudnorm
import pytest

from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.pan import law_gains
from bathyphon.core.measure.levels import levels_of
from bathyphon.core.measure.loudness import LoudnessMeter, k_weighting
from bathyphon.core.measure.tally import BEFORE_SECONDS, Tally, tally
from bathyphon.formats.fold import fold_matrix
from bathyphon.formats.wav import dither
from soundtracks import score, speech

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


def in_blocks(x, rate=RATE, block=1000):
    """Levels of a sound that comes block by block."""
    meter = Tally(rate)
    for start in range(0, x.shape[1], block):
        meter.add(x[:, start : start + block])
    meter.finish()
    return levels_of(meter.rows())


def peak(x):
    return in_blocks(x).true_peak


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


def material(kind, seconds=12):
    """Noise, music or speech, from −30 to −20 LUFS."""
    rng = np.random.default_rng(11)
    if kind == "noise":
        return rng.standard_normal((2, seconds * RATE)) * np.linspace(0.01, 0.1, seconds * RATE)
    made = score(rng, seconds) if kind == "music" else speech(rng, seconds)
    return made if made.ndim == 2 else np.stack([made, 0.7 * made])


@pytest.mark.parametrize("kind", ["noise", "music", "speech"])
def test_levels_as_libebur128_reads_them(kind):
    """Source: libebur128 (pyebur128), an implementation of EBU R 128."""
    x = material(kind)
    state = pyebur128.R128State(
        2, RATE,
        pyebur128.MeasurementMode.MODE_I | pyebur128.MeasurementMode.MODE_LRA
        | pyebur128.MeasurementMode.MODE_S | pyebur128.MeasurementMode.MODE_TRUE_PEAK,
    )  # fmt: skip
    interleaved = np.ascontiguousarray(x.T.reshape(-1))
    state.add_frames(interleaved, x.shape[1])
    found = in_blocks(x)
    assert found.loudness == pytest.approx(pyebur128.get_loudness_global(state), abs=0.05)
    assert found.range == pytest.approx(pyebur128.get_loudness_range(state), abs=0.3)
    # It interpolates by 4, which reads low by as much as treble falls between those places.
    theirs = 20 * np.log10(max(pyebur128.get_true_peak(state, c) for c in (0, 1)))
    assert theirs - 0.05 <= found.true_peak <= theirs + 0.7


@pytest.mark.parametrize("kind", ["noise", "music", "speech"])
def test_loudness_as_pyloudnorm_reads_it_in(kind):
    """Source: pyloudnorm, which implements ITU-R BS.1770-4."""
    x = material(kind)
    theirs = pyloudnorm.Meter(RATE).integrated_loudness(x.T)
    assert in_blocks(x).loudness == pytest.approx(theirs, abs=0.1)


@pytest.mark.parametrize("rate", [44100, 48000, 96000])
@pytest.mark.parametrize("seed", range(3))
def test_blocks_of_any_size_read_as_the_whole(rate, seed):
    """Source: arithmetic; within 0.01, as asked for."""
    rng = np.random.default_rng(seed)
    x = rng.standard_normal((2, 4 * rate + int(rng.integers(rate)))) * 0.1
    whole = tally(x, rate)
    meter, at = Tally(rate), 0
    while at < x.shape[1]:
        n = int(rng.integers(1, rate))
        meter.add(x[:, at : at + n])
        at += n
    meter.finish()
    np.testing.assert_allclose(meter.rows(), whole, rtol=1e-9, atol=1e-15)
    # From the middle, with a quarter of a second before it.
    before = x[:, 2 * rate - round(BEFORE_SECONDS * rate) : 2 * rate]
    part = Tally(rate, before)
    part.add(x[:, 2 * rate : 3 * rate])
    np.testing.assert_allclose(part.rows(), whole[20:30], rtol=1e-9, atol=1e-15)


def test_momentary_and_short_term():
    """Source: EBU Tech 3341 (from memory): a steady tone reads its level at every window."""
    found = in_blocks(sine(-23, 5))
    assert found.momentary == pytest.approx(-23.0, abs=0.1)
    assert found.short_term == pytest.approx(-23.0, abs=0.1)


@pytest.mark.parametrize("share", [-1.0, -0.5, 0.0, 0.3, 1.0])
def test_correlation_as_numpy_has_it(share):
    """Source: NumPy's corrcoef, of sides whose mean is zero."""
    rng = np.random.default_rng(4)
    left = rng.standard_normal(5 * RATE) * 0.1
    right = share * left + (1 - abs(share)) * rng.standard_normal(5 * RATE) * 0.1
    x = np.stack([left - left.mean(), right - right.mean()])
    assert in_blocks(x).correlation == pytest.approx(np.corrcoef(x)[0, 1], abs=1e-6)


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
