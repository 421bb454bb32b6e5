"""A line is brought to where another was spoken: its room, its tone and its level.

Rooms: made here, decaying noise by octaves (ISO 3382-1's exponential decay, from memory), whose T60
and whose share of direct sound are known. Bounds: 25 % of T60 and 2 dB per octave, the median over
rooms, as the project has set them.
"""

from __future__ import annotations

import numpy as np
import pytest
from scipy.signal import butter, fftconvolve, resample_poly, sosfilt, welch

from bathyphon.core.measure.blind import OCTAVES
from bathyphon.core.measure.decay import decay_times, octave_band
from bathyphon.core.recipes.same_place.fit import _through, matched
from soundtracks import speech

RATE = 48000
ROOMS = 30
HEARD = OCTAVES[1:]
"""A voice has next to nothing below 180 Hz: its room is not heard there."""


def room(rng):
    """An impulse response with the sound itself in front, and its T60 by octaves."""
    middle = np.exp(rng.uniform(np.log(0.25), np.log(2.2)))
    bass, treble = rng.uniform(0.8, 1.6), rng.uniform(0.35, 1.0)
    decay = {}
    for hz in OCTAVES:
        octaves = np.log2(hz / 1000)
        decay[hz] = middle * (bass ** (-octaves / 3) if octaves < 0 else treble ** (octaves / 3))
    n = round(1.3 * max(decay.values()) * RATE)
    t = np.arange(n) / RATE
    h = np.zeros(n)
    for hz, seconds in decay.items():
        h += octave_band(rng.standard_normal(n + 4000), hz, RATE)[:n] * 10 ** (-3 * t / seconds)
    wet_db = rng.uniform(-9, 3)
    h *= np.sqrt(10 ** (wet_db / 10) / np.sum(h**2))
    h = np.concatenate([np.zeros(round(rng.uniform(0.002, 0.02) * RATE)), h])
    h[0] += 1
    return h, decay


def coloured(rng, x):
    """As another microphone hears it."""
    low = sosfilt(butter(1, 400, fs=RATE, output="sos"), x)
    high = sosfilt(butter(1, 3000, "highpass", fs=RATE, output="sos"), x)
    a, b = 10 ** (rng.uniform(-6, 6, 2) / 20) - 1
    return (x + a * low + b * high) * 10 ** (rng.uniform(-8, 8) / 20)


def octave_levels(x):
    """Levels of octaves while anything is said, in decibels."""
    power = x.mean(axis=0) ** 2
    n = power.size // 4800
    loud = power[: n * 4800].reshape(n, 4800).mean(axis=1)
    said = np.repeat(loud > np.percentile(loud, 95) * 1e-3, 4800)
    f, p = welch(x.mean(axis=0)[: n * 4800][said], RATE, nperseg=8192)
    return {hz: 10 * np.log10(p[(f >= hz / 2**0.5) & (f < hz * 2**0.5)].sum()) for hz in OCTAVES}


def tried(seed):
    """Per octave, how far off the applied room's T60 is as a share, and levels in decibels."""
    rng = np.random.default_rng([19, seed])
    h, decay = room(rng)
    other = coloured(rng, fftconvolve(speech(rng, 20.0), h))
    voice = speech(rng, 15.0)
    pair = [np.stack([x, x]) for x in (voice, other)]
    match = matched(*pair, RATE)
    assert match.reverb
    pulse = np.zeros((2, round(1.2 * max(decay.values()) * RATE) + RATE))
    pulse[:, 0] = 1.0
    ringing = _through("reverb", pulse, RATE, {**match.reverb, "mix": 100.0})
    found = {b.centre_hz: b.t20 for b in decay_times(ringing[:, 2400:], RATE)}
    times = {hz: abs(found[hz] / decay[hz] - 1) for hz in HEARD}
    heard = _through("reverb", pair[0], RATE, match.reverb)
    heard = _through("eq", heard, RATE, {"bands": list(match.bands)})
    now, wanted = octave_levels(heard), octave_levels(pair[1])
    levels = {hz: abs(now[hz] + match.level_db - wanted[hz]) for hz in HEARD}
    return times, levels


def judge(seeds):
    found = [tried(seed) for seed in seeds]
    for hz in HEARD:
        off = np.median([times[hz] for times, _ in found])
        db = np.median([levels[hz] for _, levels in found])
        print(f"{hz:6.0f} Hz: T60 within {100 * off:.0f} %, level within {db:.1f} dB")
        assert off < 0.25, hz
        assert db < 2.0, hz


def test_a_line_is_as_if_spoken_in_the_others_room():
    judge(range(5))


@pytest.mark.parametrize("rate", [32000, 44100, 96000])
def test_at_any_rate_the_same_is_heard_and_set(rate):
    rng = np.random.default_rng(7)
    h, _ = room(rng)
    pair = [speech(rng, 12.0), fftconvolve(speech(rng, 12.0), h)]
    here = matched(*(np.stack([x, x]) for x in pair), RATE)
    up, down = rate // 100, RATE // 100
    there = matched(*(np.stack([y, y]) for y in (resample_poly(x, up, down) for x in pair)), rate)
    for hz in set(here.decay) & set(there.decay):
        assert there.decay[hz] == pytest.approx(here.decay[hz], rel=0.1), hz
    assert there.level_db == pytest.approx(here.level_db, abs=0.5)
    assert there.reverb["mix"] == pytest.approx(here.reverb["mix"], abs=5)
    for a, b in zip(here.bands, there.bands, strict=False):
        assert b["gain_db"] == pytest.approx(a["gain_db"], abs=1.0)


@pytest.mark.long
def test_a_line_is_as_if_spoken_in_any_of_thirty_rooms():
    judge(range(ROOMS))
