"""Computed sounds against what has been measured and published about the real ones."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.signal import find_peaks, welch

from bathyphon.core.sounds import MODELS
from bathyphon.core.sounds.kit.rate import RATE
from bathyphon.core.sounds.kit.stretch import Stretch
from bathyphon.core.sounds.made import make, sound_of


def heard(model: str, seconds: float = 20.0, seed: int = 1, **settings: float) -> np.ndarray:
    return np.concatenate(list(sound_of(make(model, settings, seed, seconds))), axis=1)


def unlevelled(model: str, **settings: float) -> np.ndarray:
    """A hit, or five seconds of a bed as its model has them: how loud they are is not asked."""
    known = MODELS[model]
    if known.kind == "hit":
        return heard(model, **settings)
    return known.sound(known.settings(settings), Stretch("unlevelled", 0, 5 * RATE))


def slope(x: np.ndarray, low: float, high: float) -> float:
    """Decibels an octave between two frequencies."""
    f, power = welch(x, RATE, nperseg=16384)
    band = (f >= low) & (f <= high)
    level = 10 * np.log10(power[:, band].mean(axis=0))
    return float(np.polyfit(np.log2(f[band]), level, 1)[0])


def centroid(x: np.ndarray) -> float:
    f, power = welch(x.mean(axis=0), RATE, nperseg=8192)
    return float((f * power).sum() / power.sum())


def envelope(x: np.ndarray, hz: int = 1000) -> np.ndarray:
    step = RATE // hz
    whole = x.shape[1] // step * step
    return np.sqrt((x[:, :whole] ** 2).mean(axis=0).reshape(-1, step).mean(axis=1))


def onsets(x: np.ndarray, apart_s: float, height: float = 0.25) -> np.ndarray:
    level = envelope(x, 200)
    rise = np.maximum(0, np.diff(level, prepend=0))
    places, _ = find_peaks(rise, height=height * rise.max(), distance=max(1, int(apart_s * 200)))
    return places / 200


def test_the_sea_falls_by_five_to_six_decibels_an_octave():
    # Wenz (1962), figure 13: 5 to 6 dB an octave above some hundred hertz (from memory).
    x = heard("underwater", depth=0, movement=0, bubbles=0)
    assert -9 < slope(x, 90, 900) < -4


def test_a_bubble_rings_at_minnaerts_pitch():
    # Minnaert (1933): f · r = 3.26 m/s in water at the surface.
    from bathyphon.core.sounds.kit.events import at_seconds, tones

    for radius in (0.001, 0.003, 0.008):
        out = np.zeros((2, RATE))
        one = at_seconds("one", 0, [0.0])
        tones(out, one, 3.26 / radius, 0.13 / radius + 0.0072 * radius**-1.5, 1.0, 1.0)
        spectrum = np.abs(np.fft.rfft(out[0], 8 * RATE))
        gamma, pressure, density = 1.4, 101325.0, 998.0
        minnaert = np.sqrt(3 * gamma * pressure / density) / (2 * np.pi * radius)
        assert np.argmax(spectrum) / 8 == pytest.approx(minnaert, rel=0.02)


def test_quiet_rooms_fall_by_five_decibels_an_octave():
    # Blazier (1981): rating curves of −5 dB an octave.
    assert -7 < slope(heard("room", size=0, air=0, hum=0), 250, 2000) < -3


def test_the_mains_hum_at_twice_their_frequency():
    f, power = welch(heard("room", 20, hum=100)[0], RATE, nperseg=RATE)
    assert f[50 + np.argmax(power[50:500])] == pytest.approx(100, abs=1)


@pytest.mark.parametrize("warmth", [15.0, 30.0])
def test_crickets_chirp_as_often_as_dolbear_says(warmth):
    # Dolbear (1897): chirps a minute N = 40 + 7 (T − 10), T in °C.
    x = heard("insects", 20, warmth=warmth, count=1, distance=1)
    level = envelope(x, 200)
    spectrum = np.abs(np.fft.rfft((level - level.mean()) * np.hanning(level.size), 1 << 16))
    f = np.fft.rfftfreq(1 << 16, 1 / 200)
    wanted = (40 + 7 * (warmth - 10)) / 60
    near = (f > 0.5 * wanted) & (f < 1.6 * wanted)
    found = f[near][np.argmax(spectrum[near])]
    # Each cricket's own pace lies within 15 % of it.
    assert found == pytest.approx(wanted, rel=0.17)


@pytest.mark.parametrize("pitch", [120.0, 440.0])
def test_a_bell_has_the_partials_of_a_tuned_one(pitch):
    # Fletcher & Rossing: hum 0.5, prime 1, tierce 1.2, quint 1.5, nominal 2.
    x = heard("bell", pitch=pitch, ring=8)
    f, power = welch(x[0], RATE, nperseg=1 << 16)
    for ratio in (0.5, 1.0, 1.2, 1.5, 2.0):
        near = np.abs(f / (pitch * ratio) - 1) < 0.04
        place = f[near][np.argmax(power[near])]
        assert place == pytest.approx(pitch * ratio, rel=0.01)
        assert power[near].max() > 100 * np.median(power[(f > 0.4 * pitch) & (f < 3 * pitch)])


def test_thunder_far_off_is_darker_and_longer():
    # Ribner & Roy (1982): air takes the treble; a crack near by, a roll far away.
    near, far = heard("thunder", distance=150), heard("thunder", distance=6000)
    assert centroid(near) > 2 * centroid(far)


@pytest.mark.parametrize(("steps", "pace"), [(4, 60.0), (6, 105.0), (9, 150.0)])
def test_steps_are_counted_and_paced(steps, pace):
    x = heard("footsteps", on=1, steps=steps, pace=pace, weight=80)
    found = onsets(x, 0.6 * 60 / pace)
    assert len(found) == steps
    assert np.median(np.diff(found)) == pytest.approx(60 / pace, rel=0.08)


@pytest.mark.parametrize("times", [1, 3, 5])
@pytest.mark.parametrize("of", [0, 3])
def test_knocks_are_counted(times, of):
    assert len(onsets(heard("knock", of=of, times=times), 0.15)) == times


@pytest.mark.parametrize("pace", [50.0, 90.0, 150.0])
def test_a_heart_beats_as_often_as_is_asked(pace):
    level = envelope(heard("heartbeat", 30, pace=pace), 100)
    level = level - level.mean()
    likeness = np.correlate(level, level, "full")[level.size - 1 :]
    lags = np.arange(level.size) / 100
    near = (lags > 0.7 * 60 / pace) & (lags < 1.4 * 60 / pace)
    assert lags[near][np.argmax(likeness[near])] == pytest.approx(60 / pace, rel=0.05)


def test_a_bass_drop_falls_from_where_to_where_it_should():
    x = heard("bass_drop", **{"from": 200.0, "to": 40.0, "length": 4.0, "grit": 0.0})[0]
    turns = np.flatnonzero((x[:-1] < 0) & (x[1:] >= 0)) / RATE
    hz = 1 / np.diff(turns)
    at = turns[1:]
    assert hz[at < 0.1].mean() == pytest.approx(200, rel=0.08)
    assert hz[(at > 3.8) & (at < 4.0)].mean() == pytest.approx(40, rel=0.1)
    # Exponential: half way it is at the geometric mean.
    assert hz[np.abs(at - 2.0) < 0.1].mean() == pytest.approx(np.sqrt(200 * 40), rel=0.05)


@pytest.mark.parametrize("across", [90.0, -90.0])
def test_a_whoosh_goes_across(across):
    x = heard("whoosh", length=2.0, across=across, sharp=30)
    first, last = x[:, : RATE // 2], x[:, -RATE // 2 :]

    def leaning(y: np.ndarray) -> float:
        left, right = (y**2).sum(axis=1)
        return float(10 * np.log10(right / left))

    assert np.sign(across) * leaning(first) < -3
    assert np.sign(across) * leaning(last) > 3


def test_a_riser_is_loudest_and_brightest_at_its_end():
    x = heard("riser", length=6.0, tone=0)
    level = envelope(x, 10)
    assert level[-4:-1].mean() > 4 * level[: level.size // 3].mean()
    third = x.shape[1] // 3
    assert centroid(x[:, -third:]) > 1.5 * centroid(x[:, third : 2 * third])


def test_speech_of_many_changes_some_four_times_a_second():
    # Houtgast & Steeneken (1985): the modulation of speech is strongest near 3 to 5 Hz.
    x = heard("crowd", 30, people=3, room=0.1)
    level = envelope(x, 100)
    f, power = welch(level - level.mean(), 100, nperseg=512)
    octaves = [power[(f >= low) & (f < 2 * low)].sum() for low in (1, 2, 4, 8, 16)]
    assert int(np.argmax(octaves)) in (1, 2)


@pytest.mark.parametrize(
    ("model", "control", "low", "high"),
    [
        ("brook", "stones", 100.0, 0.0),
        ("underwater", "depth", 100.0, 0.0),
        ("rain", "distance", 60.0, 1.0),
        ("wind", "strength", 0.0, 100.0),
        ("machine", "wall", 40.0, 0.0),
        ("drone", "bright", 0.0, 100.0),
        ("bubbles", "size", 100.0, 0.0),
        ("waves", "distance", 200.0, 1.0),
        ("splash", "size", 100.0, 0.0),
        ("whoosh", "pitch", 200.0, 3000.0),
        ("door", "size", 100.0, 0.0),
        ("impact", "hard", 0.0, 100.0),
        ("leaves", "distance", 80.0, 1.0),
        ("tape", "hiss", 0.0, 100.0),
        ("radio", "band", 1200.0, 9000.0),
    ],
)
def test_a_control_makes_it_brighter_where_it_says_so(model, control, low, high):
    assert centroid(unlevelled(model, **{control: high})) > 1.08 * centroid(
        unlevelled(model, **{control: low})
    )
