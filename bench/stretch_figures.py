"""What a log-spectral distance does not tell of a stretcher, beside the same engines.

Run as ``.venv/bin/python bench/stretch_figures.py [PERCENT …]``. Each figure pairs what an engine
makes with the stretched truth, by the same estimator.
"""

from __future__ import annotations

import sys
from collections.abc import Callable

import numpy as np
from scipy import signal
from scipy.stats import kurtosis

from bathyphon.core.speed.steady import Change, changed
from stretch import ENGINES, RATE, Sound, times

FORMANTS = ((600, 80), (1200, 90), (2500, 120), (3500, 150))


def hits(stretch: float) -> tuple[Sound, list[int]]:
    """Bursts of noise over a soft chord; they last as long whatever the stretch."""
    rng = np.random.default_rng(2)
    places = [round(stretch * RATE * s) for s in np.cumsum(rng.uniform(0.15, 0.5, 16))]
    t = times(6 * stretch)
    x = 0.01 * sum(np.sin(2 * np.pi * f * t) for f in (220, 277, 330))
    y = np.stack([x, x])
    for place in places:
        burst = rng.standard_normal((2, 4000)) * np.exp(-np.arange(4000) / 600)
        end = min(y.shape[1], place + 4000)
        y[:, place:end] += 0.3 * burst[:, : end - place]
    return y, places


def onset(y: Sound, place: int) -> int:
    """Where the level within 15 ms of a place first reaches a tenth of its largest."""
    first = max(0, place - RATE * 15 // 1000)
    part = np.abs(y[0, first : place + RATE * 15 // 1000])
    return first + int(np.argmax(part > 0.1 * part.max())) if part.size else place


def onset_ms(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Largest error of an onset, but for the worst twentieth."""
    x, _ = hits(1.0)
    truth, places = hits(100 / percent)
    y = run(x, percent)
    late = [abs(onset(y, p) - onset(truth, p)) for p in places if p < y.shape[1] - 4000]
    return float(np.percentile(late, 95) * 1000 / RATE)


def before_db(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Loudest 40 ms before a hit out of silence, against the hit."""
    x = np.zeros((2, 2 * RATE))
    burst = np.random.default_rng(4).standard_normal((2, 6000)) * np.exp(-np.arange(6000) / 900)
    x[:, RATE : RATE + 6000] = 0.3 * burst
    y = run(x, percent)
    at = round(RATE * 100 / percent)
    before = np.abs(y[:, at - RATE // 25 : at - RATE // 4000]).max()
    return float(20 * np.log10(before / np.abs(y).max() + 1e-12))


def note_sequence(stretch: float) -> tuple[Sound, list[tuple[int, int, float]]]:
    """Notes of 80 to 250 ms one after another, with their places, lengths and pitches."""
    rng = np.random.default_rng(8)
    y, found, at = np.zeros((2, round(6 * stretch * RATE))), [], 0.1
    while at < 5.6:
        hz, long = 110 * 2 ** (rng.integers(0, 36) / 12), rng.uniform(0.08, 0.25)
        t = times(long * stretch)
        tone = sum(np.sin(2 * np.pi * hz * h * t) / h for h in range(1, 5))
        tone = 0.2 * tone * np.clip(t / 0.004, 0, 1) * np.clip((long * stretch - t) / 0.01, 0, 1)
        place = round(at * stretch * RATE)
        y[:, place : place + t.size] += tone[: y.shape[1] - place]
        found.append((place, t.size, hz))
        at += long
    return y, found


def pitch_of(y: Sound, hz: float) -> float:
    """Frequency of the strongest partial near one, by a parabola through logarithms."""
    found = np.abs(np.fft.rfft(y * np.hanning(y.size), 1 << 17))
    near = slice(round(hz * 0.94 * (1 << 17) / RATE), round(hz * 1.06 * (1 << 17) / RATE))
    k = near.start + int(np.argmax(found[near]))
    a, b, c = np.log(found[k - 1 : k + 2] + 1e-12)
    return float((k + 0.5 * (a - c) / (a - 2 * b + c)) * RATE / (1 << 17))


def note_cents(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Pitch of notes against the truth's, 95th percentile."""
    x, _ = note_sequence(1.0)
    truth, notes = note_sequence(100 / percent)
    y = run(x, percent)
    out = []
    for place, long, hz in notes:
        part = slice(place + long // 8, place + long - long // 8)
        if part.stop < y.shape[1]:
            out.append(1200 * np.log2(pitch_of(y[0, part], hz) / pitch_of(truth[0, part], hz)))
    return float(np.percentile(np.abs(out), 95))


def swing_db(partials: tuple[float, ...], run: Callable[[Sound, float], Sound], p: float) -> float:
    """How far the level of steady partials swings, the worst of them."""
    t = times(6)
    x = np.tile(sum(0.1 * np.sin(2 * np.pi * f * t + i) for i, f in enumerate(partials)), (2, 1))
    y = run(x, p)[0]
    # Narrow enough to hear one partial alone, wide enough to see it swing.
    wide = min(np.diff(sorted(partials))) / 2.5
    taps = signal.firwin(2 * int(1.6 * RATE / wide) + 1, wide / 2, fs=RATE)
    t = np.arange(y.size) / RATE
    worst = 0.0
    for f in partials:
        level = np.abs(signal.fftconvolve(y * np.exp(-2j * np.pi * f * t), taps, "same"))
        inside = level[int(1.2 * RATE) : -int(1.2 * RATE)]
        worst = max(worst, 20 * np.log10(inside.max() / max(inside.min(), 1e-9)))
    return float(worst)


def stereo_degrees(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Largest error of the phase between both sides of partials, in notes that begin and end."""
    t = times(4)
    tones = [(220.0, 30.0), (554.0, 75.0), (1319.0, -50.0), (3136.0, 110.0)]
    gate = np.clip(3 * np.sin(2 * np.pi * 1.5 * t), 0, 1)
    x = np.stack([
        gate * sum(0.1 * np.sin(2 * np.pi * f * t + side * np.radians(d)) for f, d in tones)
        for side in (0, 1)
    ])  # fmt: skip
    y = run(x, percent)
    worst = 0.0
    for f, degrees in tones:
        for first in range(RATE // 2, y.shape[1] - RATE // 2, 4096):
            part = y[:, first : first + 4096] * np.hanning(4096)
            turn = np.exp(-2j * np.pi * f * np.arange(4096) / RATE)
            a, b = (part * turn).sum(axis=1)
            if min(abs(a), abs(b)) > 20:
                off = np.degrees(np.angle(b / a)) - degrees
                worst = max(worst, abs((off + 180) % 360 - 180))
    return float(worst)


def noise_db(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Level of stationary noise against what it was."""
    x = 0.1 * np.random.default_rng(3).standard_normal((2, 6 * RATE))
    y = run(x, percent)[:, RATE:-RATE]
    return float(20 * np.log10(y.std() / x.std()))


def spoken(stretch: float) -> Sound:
    """Pulses through formants, in syllables."""
    t = times(5 * stretch) / stretch
    hz = 118 + 20 * np.sin(2 * np.pi * 0.6 * t) + 9 * np.sin(2 * np.pi * 1.9 * t)
    x = np.diff(np.floor(np.cumsum(hz) / RATE), prepend=0.0)
    x = x * np.clip(1.4 * np.sin(2 * np.pi * 2.2 * t) + 0.7, 0, 1)
    for middle, wide in FORMANTS:
        r = np.exp(-np.pi * wide / RATE)
        x = signal.lfilter([1 - r], [1, -2 * r * np.cos(2 * np.pi * middle / RATE), r * r], x)
    return np.tile(0.3 * x / np.abs(x).max(), (2, 1))


def pulses_percent(run: Callable[[Sound, float], Sound], percent: float) -> float:
    """Kurtosis of what excites the formants against the truth's, in percent off."""
    low = signal.butter(4, 8000, fs=RATE, output="sos")

    def excitation(x: Sound) -> Sound:
        for middle, wide in FORMANTS:
            r = np.exp(-np.pi * wide / RATE)
            poles = [1, -2 * r * np.cos(2 * np.pi * middle / RATE), r * r]
            x = signal.lfilter(poles, [1 - r], x)
        return np.asarray(signal.sosfilt(low, x))[4800:-4800]

    y, truth = run(spoken(1.0), percent)[0], spoken(100 / percent)[0]
    return float(100 * (kurtosis(excitation(y)) / kurtosis(excitation(truth)) - 1))


CHORD = tuple(196 * 1.26**i for i in range(9))
FIGURES: dict[str, Callable[[Callable[[Sound, float], Sound], float], float]] = {
    "onset ms": onset_ms,
    "before dB": before_db,
    "cents": note_cents,
    "chord AM": lambda run, p: swing_db(CHORD, run, p),
    "bass AM": lambda run, p: swing_db((80.0, 95.0), run, p),
    "stereo °": stereo_degrees,
    "noise dB": noise_db,
    "pulses %": pulses_percent,
}


def main() -> None:
    """Measure and print."""
    engines = dict(ENGINES)
    engines["as voice"] = lambda x, p: changed(x, Change(p, material="voice"), RATE)
    for percent in [float(word) for word in sys.argv[1:]] or [80.0, 125.0]:
        print(f"\nat {percent:g} %")
        print("engine".ljust(12), *(name.rjust(10) for name in FIGURES))
        for engine in ("ours", "as voice", "finer", "faster", "librosa", "pedalboard"):
            row = [figure(engines[engine], percent) for figure in FIGURES.values()]
            print(engine.ljust(12), *(f"{v:10.3f}" for v in row), flush=True)


if __name__ == "__main__":
    main()
