"""Filters: level against frequency, with the sound's own spectrum behind it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.kit.drawing.held import answer, impulse
from bathyphon.core.effects.kit.drawing.model import (
    MOST_POINTS,
    Axis,
    Drawing,
    Grip,
    Line,
    decibels,
    line,
)
from bathyphon.core.effects.kit.drawing.view import View
from bathyphon.core.timing.curves import Curve
from bathyphon.core.words import signed

SAMPLES = 1 << 15
# Small enough for what bends loud sounds to leave it alone.
QUIET = 1e-3
FREQUENCY = Axis("Frequency", "Hz", 20.0, 20000.0, "log")
LEVEL = Axis("Level", "dB", -36.0, 18.0)
SPECTRUM_FFT = 8192
SPECTRUM_TOP_DB = -9.0


def response(
    view: View,
    grips: Sequence[Grip] = (),
    told: bool = True,
    clean: Mapping[str, float] | None = None,
) -> Drawing:
    """Response to a small pulse, with the sound's own spectrum behind it.

    Parameters
    ----------
    view : View
    grips : sequence of Grip
    told : bool
        Whether its edges are told; a comb has none to speak of.
    clean : mapping, optional
        Parameters that are set otherwise meanwhile, such as noise, which is no part of a response.
    """
    effect, sound = view.effect, view.sound
    settings = view.now
    if clean:
        curves = {id: Curve.constant(level) for id, level in clean.items()}
        settings = replace(settings, curves={**settings.curves, **curves})
    y = answer(effect, settings, impulse(SAMPLES, QUIET)) / QUIET
    freq = np.geomspace(20.0, min(20000.0, 0.45 * settings.sample_rate), MOST_POINTS)
    bins = np.fft.rfftfreq(SAMPLES, 1.0 / settings.sample_rate)
    lines: list[Line] = []
    if sound is not None and sound.any():
        lines.append(line(freq, spectrum(sound, freq, settings.sample_rate), "before"))
    sides = [np.interp(freq, bins, np.abs(np.fft.rfft(side))) for side in y]
    if not np.allclose(sides[0], sides[1], rtol=1e-3):
        lines.append(line(freq, decibels(sides[1]), "other", "right"))
    lines.append(line(freq, decibels(sides[0])))
    facts = tuple(_facts(freq, decibels(sides[0]))) if told else ()
    return Drawing(FREQUENCY, LEVEL, tuple(lines), grips=tuple(grips), facts=facts)


def spectrum(sound: Floats, freq: Floats, sample_rate: int) -> Floats:
    """Mean level around each frequency, a sixth of an octave wide, its peak brought to −9 dB."""
    mono = sound.mean(axis=0)
    if mono.size < SPECTRUM_FFT:
        mono = np.pad(mono, (0, SPECTRUM_FFT - mono.size))
    count = mono.size // (SPECTRUM_FFT // 2) - 1
    step = SPECTRUM_FFT // 2
    window = np.hanning(SPECTRUM_FFT)
    power = np.zeros(SPECTRUM_FFT // 2 + 1)
    for k in range(count):
        power += np.abs(np.fft.rfft(mono[k * step : k * step + SPECTRUM_FFT] * window)) ** 2
    total = np.concatenate([[0.0], np.cumsum(power)])
    at = np.arange(total.size) * sample_rate / SPECTRUM_FFT - 0.5 * sample_rate / SPECTRUM_FFT
    width = 2.0 ** (1.0 / 12.0)
    band = np.interp(freq * width, at, total) - np.interp(freq / width, at, total)
    level = 10.0 * np.log10(np.maximum(band, 1e-20))
    found: Floats = np.maximum(level - level.max() + SPECTRUM_TOP_DB, LEVEL.low)
    return found


def _facts(freq: Floats, level: Floats) -> list[str]:
    top = float(level.max())
    inside = np.flatnonzero(level >= top - 3.0)
    low, high = freq[inside[0]], freq[inside[-1]]
    words = [f"Loudest {signed(top)} dB"]
    if high < freq[-1] * 0.98:
        words.append(f"−3 dB at {_hertz(high)}")
    if low > freq[0] * 1.02:
        words.append(f"−3 dB at {_hertz(low)}")
    return words


def _hertz(value: float) -> str:
    return f"{value / 1000.0:.1f} kHz" if value >= 1000.0 else f"{value:.0f} Hz"
