"""Our stretcher beside Rubber Band's two engines, librosa and pedalboard, on sounds whose
stretched truth is known.

Run as ``.venv/bin/python bench/stretch.py [PERCENT …]``; needs Debian's rubberband-cli beside
what the tests need. All are measured in one run, on one core; speeds are given as ratios.
"""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

import librosa
import numpy as np
import pedalboard
import soundfile
from numpy.typing import NDArray
from scipy import signal

from bathyphon.core.speed.steady import Change, changed

Sound = NDArray[np.float64]
RATE = 48000
BANDS = 80


def times(seconds: float) -> Sound:
    """Seconds at each sample."""
    return np.arange(round(seconds * RATE)) / RATE


def notes(stretch: float) -> Sound:
    """Plucked notes, 0.12 to 0.3 s long, each somewhere else between the sides."""
    rng = np.random.default_rng(5)
    y = np.zeros((2, round(6 * stretch * RATE)))
    at = 0.1
    while at < 5.6:
        hz, long, side = 55 * 2 ** (rng.integers(12, 48) / 12), rng.uniform(0.12, 0.3), rng.random()
        t = times(long * stretch)
        tone = sum(np.sin(2 * np.pi * hz * h * t + rng.uniform(0, 6)) / h for h in range(1, 6))
        ends = np.clip((long * stretch - t) / 0.03, 0, 1)
        tone = 0.2 * tone * np.clip(t / 0.003, 0, 1) * ends * np.exp(-4 * t / stretch)
        place = round(at * stretch * RATE)
        end = min(y.shape[1], place + t.size)
        y[:, place:end] += np.outer([side, 1 - side], tone)[:, : end - place]
        at += rng.uniform(0.15, 0.3)
    return y


def glide(stretch: float) -> Sound:
    """Two octaves up in four seconds, seven harmonics."""
    t = times(4 * stretch)
    turn = 2 * np.pi * np.cumsum(200 * 2 ** (t / stretch / 2)) / RATE
    return np.outer([0.7, 0.3], 0.2 * sum(np.sin(turn * h) / h for h in range(1, 8)))


def chord(stretch: float) -> Sound:
    """Nine steady partials a third apart."""
    t = times(4 * stretch)
    y = np.zeros((2, t.size))
    for i in range(9):
        partial = 0.1 * np.sin(2 * np.pi * 196 * 1.26**i * t + i)
        y += np.outer([0.3 + 0.07 * i, 0.8 - 0.07 * i], partial)
    return y


def speech(stretch: float) -> Sound:
    """Pulses at 90 to 150 Hz through four formants, in syllables."""
    t = times(5 * stretch) / stretch
    hz = 120 + 20 * np.sin(2 * np.pi * 0.7 * t) + 8 * np.sin(2 * np.pi * 2.1 * t)
    x = np.diff(np.floor(np.cumsum(hz) / RATE), prepend=0.0)
    x = x * np.clip(1.5 * np.sin(2 * np.pi * 2.5 * t) + 0.6, 0, 1)
    for middle, wide in ((600, 80), (1200, 90), (2500, 120), (3500, 150)):
        r = np.exp(-np.pi * wide / RATE)
        x = signal.lfilter([1 - r], [1, -2 * r * np.cos(2 * np.pi * middle / RATE), r * r], x)
    return np.tile(0.4 * x / np.abs(x).max(), (2, 1))


def mix(stretch: float) -> Sound:
    """Notes and speech together."""
    a, b = notes(stretch), speech(stretch)
    n = min(a.shape[1], b.shape[1])
    return np.asarray(a[:, :n] + 0.5 * b[:, :n])


SOUNDS: dict[str, Callable[[float], Sound]] = {
    "notes": notes, "glide": glide, "chord": chord, "speech": speech, "mix": mix
}  # fmt: skip


def mel_bands() -> Sound:
    """Triangles of 80 mel bands over the bins of 2,048 samples."""
    bank = librosa.filters.mel(sr=RATE, n_fft=2048, n_mels=BANDS, fmin=40, fmax=16000, norm=None)
    return np.asarray(bank, np.float64)


def distance(y: Sound, truth: Sound) -> float:
    """Log-spectral distance in dB over mel bands, where the truth is within 60 dB of its top."""
    n = min(y.shape[1], truth.shape[1])
    found = []
    for side in range(2):
        levels = []
        for x in (y, truth):
            spectrum = signal.stft(x[side, :n], RATE, nperseg=2048, noverlap=1536)[2]
            levels.append(10 * np.log10(mel_bands() @ np.abs(spectrum) ** 2 + 1e-12))
        ours, real = levels
        heard = real > real.max() - 60
        frames = heard.sum(axis=0) > 4
        square = ((ours - real) ** 2 * heard).sum(axis=0)[frames] / heard.sum(axis=0)[frames]
        found.append(np.sqrt(square).mean())
    return float(np.mean(found))


def ours(x: Sound, percent: float) -> Sound:
    """Our own."""
    return changed(x, Change(percent), RATE)


def rubber_band(engine: str) -> Callable[[Sound, float], Sound]:
    """One of its two engines, by its command."""

    def run(x: Sound, percent: float) -> Sound:
        with TemporaryDirectory() as folder:
            a, b = Path(folder, "a.wav"), Path(folder, "b.wav")
            soundfile.write(a, x.T, RATE, subtype="FLOAT")
            command = ["rubberband", "-q", engine, "-t", repr(100 / percent), str(a), str(b)]
            subprocess.run(command, check=True, capture_output=True)
            return np.asarray(soundfile.read(b)[0].T)

    return run


def of_librosa(x: Sound, percent: float) -> Sound:
    """Its phase vocoder."""
    return np.stack([librosa.effects.time_stretch(side, rate=percent / 100) for side in x])


def of_pedalboard(x: Sound, percent: float) -> Sound:
    """Its stretcher, at its defaults."""
    found = pedalboard.time_stretch(x.astype(np.float32), RATE, stretch_factor=percent / 100)
    return np.asarray(found, np.float64)


ENGINES: dict[str, Callable[[Sound, float], Sound]] = {
    "ours": ours,
    "finer": rubber_band("-3"),
    "faster": rubber_band("-2"),
    "librosa": of_librosa,
    "pedalboard": of_pedalboard,
}


def main() -> None:
    """Measure and print."""
    speeds = [float(word) for word in sys.argv[1:]] or [80.0, 90.0, 110.0, 125.0, 150.0]
    ours(chord(0.2), 125.0)
    for percent in speeds:
        print(f"\nat {percent:g} %; LSD in dB, speed as a ratio to Rubber Band's finer engine")
        print("engine".ljust(12), *(name.rjust(8) for name in SOUNDS), "speed".rjust(8))
        took: dict[str, float] = {}
        rows: dict[str, list[float]] = {}
        for engine, run in ENGINES.items():
            rows[engine] = []
            took[engine] = 0.0
            for make in SOUNDS.values():
                x, truth = make(1.0), make(100 / percent)
                began = time.perf_counter()
                y = run(x, percent)
                took[engine] += time.perf_counter() - began
                rows[engine].append(distance(y, truth))
        for engine, row in rows.items():
            ratio = took["finer"] / took[engine]
            print(engine.ljust(12), *(f"{v:8.2f}" for v in row), f"{ratio:8.1f}")


if __name__ == "__main__":
    main()
