"""Makes the sound of *The Ninth Sump*: score, beds and hits, by synthesis."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, fftconvolve, sosfilt

RATE = 48000
BEAT = 0.6
Sound = NDArray[np.float64]


def seconds(length: float) -> Sound:
    """Times of the samples of a stretch."""
    return np.arange(round(length * RATE)) / RATE


def low_pass(x: Sound, hz: float, order: int = 2) -> Sound:
    """A Butterworth low-pass along the last axis."""
    return np.asarray(sosfilt(butter(order, hz, fs=RATE, output="sos"), x, axis=-1))


def band(x: Sound, low: float, high: float) -> Sound:
    """A Butterworth band-pass along the last axis."""
    return np.asarray(sosfilt(butter(2, [low, high], "band", fs=RATE, output="sos"), x, axis=-1))


def add(into: Sound, at: float, what: Sound, level: float = 1.0, pan: float = 0.0) -> None:
    """Mix a mono sound into a stereo one."""
    start = round(at * RATE)
    what = what[: max(0, into.shape[1] - start)]
    angle = (pan + 1) * np.pi / 4
    into[0, start : start + what.size] += level * np.cos(angle) * what
    into[1, start : start + what.size] += level * np.sin(angle) * what


def note(midi: float) -> float:
    """Frequency of a note number."""
    return float(440.0 * 2 ** ((midi - 69) / 12))


def pluck(midi: float, length: float, bright: float) -> Sound:
    """A soft struck string: decaying partials, a little stretched."""
    t = seconds(length)
    f = note(midi)
    x = np.zeros(t.size)
    for k in range(1, 9):
        fk = f * k * (1 + 0.0004 * k * k)
        x += np.sin(2 * np.pi * fk * t) * bright**k / k * np.exp(-t * (1.6 + 0.9 * k))
    return x * np.minimum(1, t / 0.003)


def pad(chord: list[float], length: float, seed: int) -> Sound:
    """A slow stereo chord of detuned saws behind a low-pass."""
    rng = np.random.default_rng(seed)
    t = seconds(length)
    out = np.zeros((2, t.size))
    for midi in chord:
        for side in range(2):
            for detune in (-0.06, 0.05):
                f = note(midi + detune + 0.02 * rng.standard_normal())
                phase = 2 * np.pi * (f * t + rng.random())
                out[side] += sum(np.sin(k * phase) / k for k in range(1, 12))
    swell = np.minimum(1, t / 1.2) * np.minimum(1, (length - t) / 1.2)
    return low_pass(out, 900) * swell * 0.03


def pulse(length: float = 0.35) -> Sound:
    """A soft low thud."""
    t = seconds(length)
    return np.sin(2 * np.pi * (52 * t + 9 * (1 - np.exp(-t * 28)))) * np.exp(-t * 11)


def score() -> Sound:
    """100 BPM, until it stops on a beat at 88.8 s."""
    end = 148 * BEAT
    out = np.zeros((2, round(end * RATE)))
    chords = [[38, 50, 57, 65], [36, 48, 55, 64], [41, 48, 57, 60], [43, 50, 58, 62]]
    bar = 8 * BEAT
    for i in range(int(end / bar) + 1):
        sound = pad([float(n) for n in chords[i % 4]], bar + 1.2, i)
        start = round(i * bar * RATE)
        sound = sound[:, : max(0, out.shape[1] - start)]
        out[:, start : start + sound.shape[1]] += sound
    pattern = [0, 2, 1, 3, 2, 1, 3, 2]
    for beat in range(8, 148):
        chord = chords[(beat // 8) % 4]
        for half in range(2):
            index = pattern[(beat * 2 + half) % 8]
            midi = chord[index] + (24 if index < 2 else 12)
            level = 0.13 * (0.8 + 0.2 * np.sin(beat))
            add(
                out,
                (beat + half / 2) * BEAT,
                pluck(midi, 1.4, 0.6),
                level,
                0.5 * np.sin(beat * 1.7 + half),
            )
        if beat >= 24:
            add(out, beat * BEAT, pulse(), 0.34 if beat % 4 == 0 else 0.2)
    fade = np.minimum(1, (out.shape[1] - np.arange(out.shape[1])) / (0.012 * RATE))
    out = np.tanh(out * 1.6)
    return out * fade * (0.8 / np.abs(out).max())


def noise(length: float, seed: int, sides: int = 2) -> Sound:
    """White noise."""
    return np.random.default_rng(seed).standard_normal((sides, round(length * RATE)))


def wind(length: float) -> Sound:
    """Air over a hillside, with two birds."""
    t = seconds(length)
    out = band(noise(length, 3), 180, 900) * (0.5 + 0.3 * np.sin(t * 0.9) * np.sin(t * 0.37)) * 0.05
    for k, at in enumerate((2.0, 2.5, 5.2, 8.4, 8.8, 9.2)):
        s = seconds(0.16)
        chirp = np.sin(2 * np.pi * (2900 * s + 5200 * s * s * (1 if k % 2 else -1)))
        add(out, at, chirp * np.sin(np.pi * s / 0.16) ** 2, 0.03, 0.6 if k % 2 else -0.4)
    return edges(out)


def drips(length: float, seed: int, many: int, level: float = 0.25) -> Sound:
    """Drops into water: short rising tones."""
    rng = np.random.default_rng(seed)
    out = band(noise(length, seed), 60, 240) * 0.012
    for _ in range(many):
        s = seconds(0.09)
        f = rng.uniform(700, 1900)
        tone = np.sin(2 * np.pi * (f * s + 2600 * s * s)) * np.exp(-s * 60)
        add(
            out,
            float(rng.uniform(0.2, length - 0.3)),
            tone,
            level * rng.uniform(0.3, 1),
            float(rng.uniform(-0.9, 0.9)),
        )
    return edges(out)


def lapping(length: float) -> Sound:
    """Small waves on stone."""
    t = seconds(length)
    swell = np.clip(np.sin(t * 1.7) + 0.6 * np.sin(t * 2.63 + 1), 0, None) ** 2
    return edges(band(noise(length, 8), 300, 2200) * swell * 0.035)


def deep(length: float) -> Sound:
    """Under water: rumble, breath through a regulator, bubbles."""
    t = seconds(length)
    out = low_pass(noise(length, 11), 120, 4) * 0.25
    cycle = t % 4.0
    draw = np.where(cycle < 1.3, np.sin(np.pi * cycle / 1.3) ** 2, 0.0)
    out += band(noise(length, 12), 600, 2400) * draw * 0.05
    rng = np.random.default_rng(13)
    for breath in range(int(length / 4)):
        for _ in range(46):
            s = seconds(0.06)
            f = rng.uniform(240, 1100)
            tone = np.sin(2 * np.pi * (f * s + 1800 * s * s)) * np.exp(-s * 55)
            add(out, breath * 4 + 1.6 + rng.gamma(2, 0.35), tone, 0.05, rng.uniform(-0.7, 0.7))
    return edges(out)


def edges(x: Sound, length: float = 0.4) -> Sound:
    """Fade both ends."""
    n = round(length * RATE)
    x[:, :n] *= np.linspace(0, 1, n)
    x[:, -n:] *= np.linspace(1, 0, n)
    return x


def knock() -> Sound:
    """A tank against rock: struck metal."""
    t = seconds(1.1)
    x = sum(
        a * np.sin(2 * np.pi * f * t) * np.exp(-t * d)
        for f, a, d in (
            (214, 0.7, 7),
            (596, 0.6, 9),
            (1105, 0.4, 13),
            (1870, 0.25, 20),
            (92, 1, 16),
        )
    )
    burst = noise(0.02, 21, 1)[0] * np.linspace(1, 0, round(0.02 * RATE))
    x[: burst.size] += 0.4 * burst
    return np.stack([x, x]) * 0.34


def plunge() -> Sound:
    """A body into water."""
    t = seconds(1.6)
    splash = band(noise(1.6, 31), 250, 5200) * np.exp(-t * 3.6) * np.minimum(1, t / 0.01)
    body = np.sin(2 * np.pi * (70 * t - 14 * t * t)) * np.exp(-t * 5)
    return splash * 0.22 + body * 0.5


def lamp() -> Sound:
    """A lamp that fizzles and goes out."""
    t = seconds(1.3)
    fizz = band(noise(1.3, 41), 2500, 9000) * (np.sin(2 * np.pi * 21 * t) > 0.3) * np.exp(-t * 2.2)
    click = np.zeros((2, t.size))
    add(click, 1.0, np.exp(-seconds(0.05) * 160) * np.sin(2 * np.pi * 1400 * seconds(0.05)), 0.5)
    return fizz * 0.05 + click


def room(x: Sound, decay: float, level: float, seed: int = 5) -> Sound:
    """A little air around a dry recording; stereo from mono."""
    t = seconds(decay)
    response = noise(decay, seed) * np.exp(-6.9 * t / decay)
    response /= np.sqrt(np.sum(response**2, axis=1, keepdims=True))
    wet = np.stack([fftconvolve(x, response[s])[: x.size] for s in range(2)])
    return np.stack([x, x]) + level * wet
