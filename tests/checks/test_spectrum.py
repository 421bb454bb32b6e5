"""Spectra and correlation against SciPy and NumPy."""

from fractions import Fraction

import librosa
import numpy as np
import pytest
from scipy.signal import correlate, spectrogram, welch

from bathyphon.core.analysis.bands import edges_of
from bathyphon.core.analysis.frames import frame_size, moments
from bathyphon.core.analysis.kind import Settings
from bathyphon.core.analysis.kinds import KINDS
from bathyphon.core.analysis.spot import spot_of
from bathyphon.core.analysis.tiles import Tiles
from bathyphon.core.listen.judge import survey_of
from bathyphon.core.measure.against import likeness
from bathyphon.core.measure.spectrum import Spectrum, octave_levels
from bathyphon.core.reel.parse import read_reel
from reels import Memory, document

RATE = 48000


@pytest.mark.parametrize("frame", [1024, 4096])
@pytest.mark.parametrize("seed", range(2))
def test_a_mean_spectrum_as_scipy_has_it(frame, seed):
    """Source: SciPy's welch, Hann window, half overlap; blocks of any size."""
    rng = np.random.default_rng(seed)
    x = np.cumsum(rng.standard_normal(5 * RATE)) * 1e-3
    x -= x.mean()
    spectrum, at = Spectrum(RATE, frame), 0
    while at < x.size:
        n = int(rng.integers(1, RATE))
        spectrum.add(x[at : at + n])
        at += n
    hz, theirs = welch(x, RATE, "hann", frame, detrend=False, scaling="spectrum")
    # Their scaling is that of a tone's power; ours adds up to the mean square.
    window = np.hanning(frame + 1)[:-1]
    theirs = theirs * window.sum() ** 2 / (frame * np.sum(window**2))
    inside = slice(2, -1)
    np.testing.assert_allclose(spectrum.hz, hz)
    difference = 10 * np.log10(spectrum.power()[inside] / theirs[inside])
    assert np.abs(difference).max() < 0.1
    assert spectrum.power().sum() == pytest.approx(np.mean(x * x), rel=0.1)


def test_octaves_of_pink_and_white_noise():
    """Source: arithmetic: white noise rises by 3 dB an octave, pink noise is level (IEC 61260-1
    names the bands, from memory)."""
    hz = np.fft.rfftfreq(1 << 16, 1 / RATE)
    white = [db for _, db in octave_levels(hz, np.ones(hz.size))]
    assert np.diff(white[1:-1]) == pytest.approx(3.01, abs=0.05)
    pink = [db for _, db in octave_levels(hz, 1 / np.maximum(hz, 1))]
    assert np.diff(pink[2:-1]) == pytest.approx(0.0, abs=0.05)


@pytest.mark.parametrize("delay", [-960, -1, 0, 7, 4800])
def test_a_delay_and_its_correlation_as_scipy_finds_them(delay):
    """Source: SciPy's correlate, and NumPy's corrcoef of what lies on each other."""
    rng = np.random.default_rng(abs(delay))
    x = rng.standard_normal(3 * RATE)
    y = np.roll(x, delay) + 0.3 * rng.standard_normal(x.size)
    found = likeness(y, x, RATE)
    assert found.delay == delay
    lags = np.arange(1 - x.size, x.size)
    assert lags[np.argmax(correlate(y, x, "full", "fft"))] == delay
    a, b = (y[delay:], x[: x.size - delay]) if delay >= 0 else (y[:delay], x[-delay:])
    assert found.correlation == pytest.approx(np.corrcoef(a, b)[0, 1], abs=0.01)
    assert likeness(-y, x, RATE).correlation < -0.9
    assert likeness(np.zeros(100), x, RATE) is None


@pytest.mark.parametrize(("sharp", "step"), [("time", 200), ("both", 50), ("pitch", 10)])
@pytest.mark.parametrize("rate", [44100, 48000])
def test_a_spectrogram_as_scipy_has_it(sharp, step, rate):
    """Source: SciPy's spectrogram, frame by frame, its densities added up by bands."""
    rng = np.random.default_rng(step)
    x = np.cumsum(rng.standard_normal((2, 3 * rate)), axis=1) * 1e-3
    x = (x - x.mean(axis=1, keepdims=True)).astype(np.float32)
    doc = document(x.shape[1], rate=rate)
    survey = survey_of(doc, read_reel(doc), Memory(m1=x))
    settings = Settings("log", sharp)
    tiles = Tiles(spot_of(survey, "mix"), KINDS["spectrum"], settings, {})
    found = KINDS["spectrum"].shown(tiles.columns(rate, 2 * rate, Fraction(step))[0])
    frame = frame_size(sharp, rate)
    at = moments(step, frame, rate)
    window = np.hanning(frame + 1)[:-1]
    edges = edges_of("log", rate)
    low = np.arange(frame // 2 + 1) * rate / frame - 0.5 * rate / frame
    inside = np.maximum(
        0, np.minimum(edges[1:, None], low + rate / frame) - np.maximum(edges[:-1, None], low)
    )
    for column in rng.integers(0, step, 6):
        power = 0.0
        for middle in at[column]:
            first = rate + middle - frame // 2
            for side in x.astype(float):
                part = side[first : first + frame]
                _, _, density = spectrogram(part, rate, window, detrend=False)
                power = power + 0.5 * (inside @ density[:, 0]) / at.shape[1]
        expected = 10 * np.log10(power)
        loud = expected > -110
        assert loud.sum() > 100
        assert np.abs(found[column] - expected)[loud].max() < 0.1


def test_mels_as_librosa_has_them():
    """Source: librosa's mel_frequencies, the formula of HTK."""
    edges = edges_of("mel", 48000)
    theirs = librosa.mel_frequencies(edges.size, fmin=0.0, fmax=edges[-1], htk=True)
    np.testing.assert_allclose(edges, theirs, rtol=1e-9)
