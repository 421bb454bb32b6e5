"""Filters: level against frequency, with the sound's own spectrum behind it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bathyphon.core.curves import Curve, Floats
from bathyphon.core.drawings.held import answer, impulse, value
from bathyphon.core.drawings.model import MOST_POINTS, Axis, Drawing, Grip, Line, decibels, line
from bathyphon.core.effects.base import Effect, Settings
from bathyphon.core.effects.eq import CUTS, TYPES
from bathyphon.core.effects.tone import BASS_HZ, TREBLE_HZ

SAMPLES = 1 << 15
COMBS = ("flanger", "chorus", "phaser")
# Small enough for what bends loud sounds to leave it alone.
QUIET = 1e-3
FREQUENCY = Axis("Frequency", "Hz", 20.0, 20000.0, "log")
LEVEL = Axis("Level", "dB", -36.0, 18.0)
SPECTRUM_FFT = 8192
SPECTRUM_TOP_DB = -9.0


def response(effect: Effect, settings: Settings, sound: Floats | None) -> Drawing:
    """Response to a small pulse.

    Parameters
    ----------
    effect : Effect
    settings : Settings
        Held at one moment.
    sound : ndarray of float64, shape (2, n), optional
        What is treated there.
    """
    settings = _clean(effect, settings)
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
    grips = tuple(_grips(effect, settings))
    # A comb has no edges to speak of.
    facts = () if effect.id in COMBS else tuple(_facts(freq, decibels(sides[0])))
    return Drawing(FREQUENCY, LEVEL, tuple(lines), grips=grips, facts=facts)


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


def _clean(effect: Effect, settings: Settings) -> Settings:
    """Without noise, which is no part of a response."""
    if effect.id != "telephone":
        return settings
    quiet = {"noise_db": Curve.constant(-96.0), "bits": Curve.constant(16.0)}
    return replace(settings, curves={**settings.curves, **quiet})


def _grips(effect: Effect, settings: Settings) -> list[Grip]:
    def at(id: str) -> float:
        return value(settings, id)

    if effect.id == "eq":
        grips = []
        for k in range(settings.entries("bands")):
            kind = settings.choice(f"bands.{k}.type")
            flat = kind in CUTS or TYPES[kind] == "notch"
            grips.append(
                Grip(
                    at(f"bands.{k}.freq_hz"),
                    0.0 if flat else at(f"bands.{k}.gain_db"),
                    f"Band {k + 1}",
                    f"bands.{k}.freq_hz",
                    "" if flat else f"bands.{k}.gain_db",
                )
            )
        return grips
    if effect.id == "tone":
        return [
            Grip(0.4 * BASS_HZ, at("bass_db"), "Bass", "", "bass_db"),
            Grip(2.5 * TREBLE_HZ, at("treble_db"), "Treble", "", "treble_db"),
        ]
    if effect.id == "muffle":
        return [
            Grip(at("high_cut_hz"), at("level_db"), "High cut and level", "high_cut_hz", "level_db")
        ]
    if effect.id == "telephone":
        return [
            Grip(at("low_hz"), -3.0, "From", "low_hz"),
            Grip(at("high_hz"), -3.0, "To", "high_hz"),
        ]
    return []


def _facts(freq: Floats, level: Floats) -> list[str]:
    top = float(level.max())
    inside = np.flatnonzero(level >= top - 3.0)
    low, high = freq[inside[0]], freq[inside[-1]]
    words = [f"Loudest {_signed(top)} dB"]
    if high < freq[-1] * 0.98:
        words.append(f"3 dB down at {_hertz(high)}")
    if low > freq[0] * 1.02:
        words.append(f"3 dB down at {_hertz(low)}")
    return words


def _signed(value: float) -> str:
    return f"{value:+.1f}".replace("-", "−")


def _hertz(value: float) -> str:
    return f"{value / 1000.0:.1f} kHz" if value >= 1000.0 else f"{value:.0f} Hz"
