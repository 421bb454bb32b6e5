"""Voices at other speeds and pitches, on sounds whose stretched truth is known.

The rules are those of the engine (section 8) and of the measurements it is built on; source and
filter are the handbook's (G. Fant, "Acoustic theory of speech production", from memory).
"""

import numpy as np
import pytest
from scipy import signal
from scipy.linalg import solve_toeplitz
from scipy.ndimage import uniform_filter1d
from scipy.stats import kurtosis

from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import sound_at
from bathyphon.core.speed.steady import Change, changed, reader
from bathyphon.core.timing.curves import Curve
from thinned import in_turn

RATE = 48000
FORMANTS = ((600, 80), (1200, 90), (2500, 120), (3500, 150))


def resonance(hz, wide):
    r = np.exp(-np.pi * wide / RATE)
    return [1 - r], [1, -2 * r * np.cos(2 * np.pi * hz / RATE), r * r]


def spoken(excitation):
    for formant in FORMANTS:
        excitation = signal.lfilter(*resonance(*formant), excitation)
    return 0.3 * excitation / np.abs(excitation).max()


def unspoken(x):
    """What excites it, by the inverse filters, below 8 kHz."""
    for formant in FORMANTS:
        b, a = resonance(*formant)
        x = signal.lfilter(a, b, x)
    return signal.sosfilt(signal.butter(4, 8000, fs=RATE, output="sos"), x)


def pulses(hz):
    return np.diff(np.floor(np.cumsum(hz) / RATE), prepend=0.0)


def sentence(stretch):
    """Pulses at 90 to 150 Hz in syllables, as long as the stretch says."""
    t = np.arange(round(5 * stretch * RATE)) / RATE / stretch
    hz = 118 + 20 * np.sin(2 * np.pi * 0.6 * t) + 9 * np.sin(2 * np.pi * 1.9 * t)
    return spoken(pulses(hz) * np.clip(1.4 * np.sin(2 * np.pi * 2.2 * t) + 0.7, 0, 1))


@pytest.mark.parametrize("percent", [80.0, 90.0, 110.0, 125.0, 150.0])
def test_pulses_keep_their_shape(percent):
    """Kurtosis of what excites the formants, within 5 % of that of the truth."""
    y = changed(sentence(1.0)[None], Change(percent, material="voice"), RATE)[0]
    ours, true = (kurtosis(unspoken(x)[4800:-4800]) for x in (y, sentence(100 / percent)))
    assert ours == pytest.approx(true, rel=0.05)


def echoes(x):
    """Height of the highest peak of the autocorrelation between 5 and 50 ms, flattened."""
    size = 1 << int(np.ceil(np.log2(2 * x.size)))
    power = np.abs(np.fft.rfft(x, size)) ** 2
    power /= uniform_filter1d(power, 4001, mode="constant") + 1e-20
    found = np.fft.irfft(power)
    return np.abs(found[RATE // 200 : RATE // 20]).max() / found[0]


@pytest.mark.parametrize(("through_formants", "percent"), in_turn([False, True], [70.0, 125.0]))
def test_what_has_no_pitch_is_not_heard_twice(percent, through_formants):
    """At most 3 dB above noise that was that long from the beginning, over 20 s."""
    rng = np.random.default_rng(9)

    def made(samples):
        x = rng.standard_normal(samples)
        return spoken(x) if through_formants else 0.1 * x

    x, true = made(20 * RATE), made(int(20 * RATE * 100 / percent))
    y = changed(x[None], Change(percent, material="voice"), RATE)[0]
    assert 20 * np.log10(echoes(y) / echoes(true)) < 3
    assert abs(20 * np.log10(y[9600:-9600].std() / x.std())) < 0.3


def formants_of(x):
    """Medians of the poles near each formant, by linear prediction at 9.6 kHz."""
    y = np.diff(signal.resample_poly(x, 1, 5)[2000:-2000], prepend=0)
    found = []
    for start in range(0, y.size - 512, 256):
        frame = y[start : start + 512] * np.hamming(512)
        lags = np.correlate(frame, frame, "full")[511:523]
        poles = np.roots(np.r_[1, -solve_toeplitz(lags[:10], lags[1:11])])
        found.append(np.angle(poles[poles.imag > 0.01]) * 9600 / 2 / np.pi)
    whole = np.concatenate(found)
    return np.array([np.median(whole[np.abs(whole / hz - 1) < 0.15]) for hz, _ in FORMANTS])


def vowel(hz):
    t = np.arange(4 * RATE) / RATE
    return spoken(pulses(hz * (1 + 0.03 * np.sin(2 * np.pi * 2.3 * t))))


@pytest.mark.parametrize("semitones", [-4.0, 4.0])
@pytest.mark.parametrize("material", ["voice", "music"])
def test_held_formants_stay_within_3_percent(semitones, material):
    x = vowel(110.0)
    held = Change(100.0, "hold", semitones, "hold", material)
    assert formants_of(changed(x[None], held, RATE)[0]) == pytest.approx(formants_of(x), rel=0.03)


def test_formants_that_follow_go_with_the_pitch():
    x = vowel(110.0)
    y = changed(x[None], Change(100.0, "hold", -2.0, "follow", "voice"), RATE)[0]
    assert formants_of(y) == pytest.approx(formants_of(x) * 2 ** (-2 / 12), rel=0.03)


def test_formants_are_moved_alone():
    """Two semitones lower at the same pitch."""
    x = vowel(110.0)
    alone = SpeedChange(Curve.constant(100.0), formant_shift=Curve.constant(-2.0), material="voice")
    y = sound_at(alone, reader(x[None]), RATE).read(0, x.size)[0]
    assert formants_of(y) == pytest.approx(formants_of(x) * 2 ** (-2 / 12), rel=0.04)
    lag = [np.argmax(np.correlate(v[RATE:-RATE], v[RATE : 2 * RATE])[300:600]) for v in (x, y)]
    assert abs(lag[0] - lag[1]) <= 1
