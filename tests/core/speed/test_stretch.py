"""Speed and pitch: lengths, identity, pitch, attacks, levels and the stereo image."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathyphon.core.speed import source
from bathyphon.core.speed.attacks import attacks_between
from bathyphon.core.speed.change import SpeedChange
from bathyphon.core.speed.reading import sound_at
from bathyphon.core.speed.resample import read_at
from bathyphon.core.speed.steady import Change, changed, reader
from bathyphon.core.timing.curves import Curve
from bathyphon.core.timing.pace import stretched_length

RATE = 48000
SPEEDS = [80.0, 90.0, 110.0, 125.0, 150.0]


def tone(hz, seconds=1.5, phase=0.0):
    x = 0.3 * np.sin(2 * np.pi * hz * np.arange(int(seconds * RATE)) / RATE + phase)
    return np.stack([x, 0.5 * x])


def hits(places, seconds):
    """Bursts of noise that die away, the n-th at its place in samples, over a soft chord."""
    n = int(seconds * RATE)
    t = np.arange(n) / RATE
    x = 0.01 * sum(np.sin(2 * np.pi * f * t) for f in (220, 277, 330))
    x = np.stack([x, x])
    for k, place in enumerate(places):
        burst = np.random.default_rng(k).standard_normal((2, 4000)) * np.exp(-np.arange(4000) / 600)
        x[:, place : place + 4000] += 0.3 * burst
    return x


def pitch_of(x):
    """Frequency of a steady tone, from the phase between two long windows."""
    n, apart = 1 << 14, 4096
    shape = np.hanning(n)
    a, b = (np.fft.rfft(x[s : s + n] * shape) for s in (9600, 9600 + apart))
    k = int(np.argmax(np.abs(a)))
    rough = k * RATE / n
    turned = np.angle(b[k] / a[k]) / (2 * np.pi)
    cycles = rough * apart / RATE
    return (np.round(cycles - turned) + turned) * RATE / apart


@pytest.mark.parametrize(("samples", "percent"), [(480001, 110), (48000, 333.3), (7, 10), (1, 400)])
@pytest.mark.parametrize("pitch", ["hold", "follow"])
@pytest.mark.parametrize("semitones", [0, -3.5])
def test_lengths_are_exact_in_every_mode(samples, percent, pitch, semitones):
    """Engine rules, 3: floor(100·N/percent + ½) in exact decimals."""
    x = np.random.default_rng(1).standard_normal((1, min(samples, 40000)))
    wanted = math.floor(100 * x.shape[1] / percent + 0.5)
    assert stretched_length(x.shape[1], percent) == wanted
    assert changed(x, Change(percent, pitch, semitones), RATE).shape == (1, wanted)


@pytest.mark.parametrize("pitch", ["hold", "follow"])
def test_unchanged_speed_and_pitch_return_the_input_bit_for_bit(pitch):
    x = np.random.default_rng(1).standard_normal((2, 30000))
    assert np.array_equal(changed(x, Change(100.0, pitch, 0.0), RATE), x)


@pytest.mark.parametrize("percent", SPEEDS)
def test_held_tones_keep_their_pitch_within_a_cent_and_their_level(percent):
    for hz in (110.0, 440.0, 3000.0):
        x = tone(hz)
        y = changed(x, Change(percent), RATE)
        assert abs(1200 * np.log2(pitch_of(y[0]) / hz)) < 1
        inside = slice(12000, -12000)
        level = np.sqrt(np.mean(y[0, inside] ** 2) / np.mean(x[0, inside] ** 2))
        assert abs(20 * np.log10(level)) < 0.05
        # The stereo image: the right side is the left one at half the level.
        assert np.abs(y[1, inside] - 0.5 * y[0, inside]).max() < 1e-9


@pytest.mark.parametrize(("percent", "semitones"), [(110, -1.65), (100, 4), (80, 0), (125, -12)])
@pytest.mark.parametrize("pitch", ["hold", "follow"])
def test_pitch_moves_by_what_is_asked(percent, semitones, pitch):
    own = 12 * math.log2(percent / 100) if pitch == "follow" else 0.0
    y = changed(tone(440, 3), Change(percent, pitch, semitones), RATE)
    found = 12 * np.log2(pitch_of(y[0]) / 440)
    assert found == pytest.approx(own + semitones, abs=0.01)


@pytest.mark.parametrize("percent", SPEEDS)
def test_attacks_lie_where_they_should_within_a_tenth_of_a_millisecond(percent):
    places = [9600, 24000, 33333, 60007, 80000]
    x = hits(places, 2.2)
    y = changed(x, Change(percent), RATE)
    found = attacks_between(reader(y), 0, y.shape[1] // 256 * 256, RATE)
    for place in places:
        late = found - 100 * place / percent
        assert np.abs(late).min() < 0.0001 * RATE


@pytest.mark.parametrize("percent", SPEEDS)
def test_nothing_is_heard_before_an_attack(percent):
    place = 40000
    x = np.zeros((2, 90000))
    x[:, place : place + 6000] = hits([0], 0.125)[:, :6000]
    y = changed(x, Change(percent), RATE)
    at = round(100 * place / percent)
    before = np.abs(y[:, at - 4000 : at - 8]).max(initial=0.0)
    assert 20 * np.log10(before / np.abs(y).max() + 1e-12) < -60


def test_partials_of_the_bass_that_lie_close_stay_apart():
    """Two partials 15 Hz apart keep their levels within 0.1 dB, with no new ones beside them."""
    pair, n = (80.0, 95.0), 1 << 16

    def spectrum(x):
        found = np.abs(np.fft.rfft(x[60000 : 60000 + n] * np.blackman(n)))
        bins = [round(f * n / RATE) for f in pair]
        levels = [20 * np.log10(found[k - 6 : k + 7].max()) for k in bins]
        for k in bins:
            found[k - 8 : k + 9] = 0
        return levels, 20 * np.log10(found.max()) - max(levels)

    x = sum(tone(f, 6)[:1] for f in pair)
    wanted, _ = spectrum(x[0])
    levels, beside = spectrum(changed(x, Change(125.0), RATE)[0])
    assert levels == pytest.approx(wanted, abs=0.1)
    assert beside < -40


@pytest.mark.parametrize("percent", SPEEDS)
def test_noise_keeps_its_level_and_its_sides_apart(percent):
    x = 0.1 * np.random.default_rng(3).standard_normal((2, 4 * RATE))
    y = changed(x, Change(percent), RATE)[:, 12000:-12000]
    assert abs(20 * np.log10(y.std() / x.std())) < 0.2
    assert abs(np.corrcoef(y)[0, 1]) < 0.05


def test_reading_between_samples_is_true_to_the_sound():
    """Against the formula of the tone, up to 20 kHz."""
    for hz in (100.0, 1000.0, 15000.0, 20000.0):
        x = np.sin(2 * np.pi * hz * np.arange(4000) / RATE)[None]
        places = np.linspace(200, 3700, 5000)
        y = read_at(x, places, np.ones(places.size))[0]
        error = y - np.sin(2 * np.pi * hz * places / RATE)
        assert 20 * np.log10(np.abs(error).max()) < -80


def test_what_is_hurried_does_not_fold():
    """A tone above the new half rate is gone, not heard lower."""
    x = np.sin(2 * np.pi * 15000 * np.arange(RATE) / RATE)[None]
    y = read_at(x, 2.0 * np.arange(RATE // 2), np.full(RATE // 2, 2.0))
    assert 20 * np.log10(np.abs(y[:, 1000:-1000]).max()) < -90


@given(
    samples=st.integers(1, 5000),
    percent=st.floats(10, 400),
    pitch=st.sampled_from(["hold", "follow"]),
    semitones=st.floats(-24, 24),
    kind=st.sampled_from(["silence", "dc", "noise", "click"]),
)
@settings(max_examples=60, deadline=None)
def test_any_sound_at_any_speed_stays_finite_and_no_louder(
    samples, percent, pitch, semitones, kind
):
    x = np.zeros((2, samples))
    if kind == "dc":
        x += 0.5
    elif kind == "noise":
        x = np.random.default_rng(samples).uniform(-0.5, 0.5, (2, samples))
    elif kind == "click":
        x[:, samples // 2] = 0.5
    y = changed(x, Change(percent, pitch, semitones), RATE)
    assert y.shape[1] == stretched_length(samples, percent)
    assert np.isfinite(y).all()
    assert np.abs(y).max(initial=0.0) < 3
    if kind == "silence":
        assert not y.any()


def test_what_has_a_name_is_searched_for_attacks_once_whatever_its_speed(monkeypatch):
    searched = []

    def counted(*given):
        searched.append(given[1])
        return attacks_between(*given)

    def sounded(sound, percent, name):
        searched.clear()
        change = SpeedChange(Curve.constant(percent))
        found = sound_at(change, reader(sound), RATE, name=name).read(0, 4 * RATE)
        return found.tobytes(), len(searched)

    monkeypatch.setattr(source, "attacks_between", counted)
    x, other = hits([4800, 52_000, 130_000], 4.0), hits([9600, 100_000], 4.0)
    alone = {p: sounded(x, p, None) for p in (80.0, 90.0)}
    assert alone[80.0][1] > 1
    assert sounded(x, 80.0, ("x", 0)) == alone[80.0]
    # At another speed what has been searched is known, and no bit is another one.
    bits, again = sounded(x, 90.0, ("x", 0))
    assert bits == alone[90.0][0]
    assert again <= 1
    # Another sound has another name.
    assert sounded(other, 90.0, ("y", 0)) == sounded(other, 90.0, None)
