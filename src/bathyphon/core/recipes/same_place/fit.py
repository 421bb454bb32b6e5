"""What brings one voice to where another one is: its room, its tone, and its level."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.optimize import least_squares
from scipy.signal import welch

from bathyphon.core.arrays import Floats
from bathyphon.core.effects.reverb.attenuation import decay_at
from bathyphon.core.errors import Refused
from bathyphon.core.measure.blind import OCTAVES, octave_energies, quick_falls, room_decay
from bathyphon.core.reel.model import EffectPart
from bathyphon.core.reel.values import effect_curves, effect_of

VOICE = (500.0, 1000.0, 2000.0)
"""Octaves in which a voice is loud enough that its room is heard best."""
TRUST = {125.0: 0.3, 250.0: 0.8, 8000.0: 0.7}
"""How far a decay is believed; others wholly."""
SHORTEST_S, LONGEST_S = 0.1, 12.0
LEAST_BANDS = 3
MOST_WET, LEAST_WET = 4.0, 0.02
"""Level of the room against the direct sound, as factors: beyond, there is nothing but the one."""
MOST_DB = 15.0
"""What a band is lifted or lowered by at most: what is not there cannot be lifted."""
GATE_DB = 30.0
TURNS = 5
WINDOW = 8192
BAND_Q = 1.4
Spectrum = tuple[Floats, Floats]


@dataclass(frozen=True)
class Match:
    """What was found.

    Parameters
    ----------
    reverb : dict or None
        Settings of the reverb; none where there is as much room already.
    bands : tuple of dict
        Bands of the equaliser.
    level_db : float
    decay : dict
        T60 in seconds by octave, as it was heard.
    """

    reverb: dict[str, float] | None
    bands: tuple[dict[str, Any], ...]
    level_db: float
    decay: dict[float, float]


def matched(voice: Floats, other: Floats, rate: int) -> Match:
    """Settings with which a voice is as if in the place of another.

    Parameters
    ----------
    voice, other : ndarray, shape (2, n)
        Some seconds of each.
    rate : int

    Raises
    ------
    Refused
        Where one of them is silent, or the other has no pauses in which its room is heard.
    """
    if not voice.any() or not other.any():
        raise Refused("one of the clips is silent")
    wanted, dry = octave_energies(other, rate), octave_energies(voice, rate)
    decay = {hz: t for hz, e in wanted.items() if (t := room_decay(e, hz)) is not None}
    if len(decay) < LEAST_BANDS:
        raise Refused(
            "the room of the other clip cannot be told: it needs some seconds of speech with pauses"
        )
    room = _room(decay)
    ringing = _through("reverb", voice, rate, {**room, "dry_db": -96.0})
    share = _share(wanted, dry, octave_energies(ringing, rate))
    # The mix leaves the direct sound whole up to the middle, and takes it away from there on.
    mix = 50 * share if share <= 1 else 100 - 50 / share
    direct = min(1.0, 1 / share) if share else 1.0
    level, bands = _tone(spectrum(direct * (voice + share * ringing), rate), spectrum(other, rate))
    reverb = {**room, "mix": round(float(mix), 1)} if share else None
    return Match(reverb, bands, level, decay)


def _room(decay: Mapping[float, float]) -> dict[str, float]:
    """The reverb whose decay is nearest in all octaves."""
    hz = np.array(list(decay))
    trust = np.array([TRUST.get(f, 1.0) for f in decay])
    seconds = np.log(np.clip(list(decay.values()), SHORTEST_S, LONGEST_S))

    def off(x: Floats) -> Floats:
        return np.asarray(trust * (np.log(decay_at(hz, *np.exp(x))) - seconds))

    low, high = np.log([SHORTEST_S, 0.1, 0.1]), np.log([LONGEST_S, 3.0, 2.0])
    found = least_squares(off, [float(np.median(seconds)), 0.0, -0.1], bounds=(low, high)).x
    decay_s, bass, treble = (float(v) for v in np.exp(found))
    return {
        "decay_s": round(decay_s, 3),
        "bass_decay": round(bass, 3),
        "treble_decay": round(treble, 3),
        # A longer room is a larger one.
        "size": round(float(np.clip(100 * decay_s**0.5, 30.0, 160.0)), 1),
        "predelay_ms": 5.0,
        "mix": 50.0,
    }


def _share(
    wanted: Mapping[float, Floats], dry: Mapping[float, Floats], wet: Mapping[float, Floats]
) -> float:
    """How much of the room is heard beside the direct sound, as a factor."""
    octaves = [hz for hz in VOICE if hz in dry]
    target = np.mean([quick_falls(wanted[hz]) for hz in octaves])

    def falling(share: float) -> float:
        return float(np.mean([quick_falls(dry[hz] + share**2 * wet[hz]) for hz in octaves]))

    if falling(0.0) <= target:
        return 0.0
    low, high = np.log(LEAST_WET), np.log(MOST_WET)
    for _ in range(12):
        middle = 0.5 * (low + high)
        if falling(float(np.exp(middle))) > target:
            low = middle
        else:
            high = middle
    return float(np.exp(high))


def spectrum(sound: Floats, rate: int) -> Spectrum:
    """Power spectrum while anything is said, at frequencies that are the same for every sound.

    Parameters
    ----------
    sound : ndarray, shape (2, n)
    rate : int

    Returns
    -------
    tuple of ndarray
        Frequencies in Hz and power, shape (1 + WINDOW // 2,).
    """
    step = rate // 10
    count = sound.shape[1] // step
    if count < 2:
        raise Refused("a clip is too short to be listened to; it needs some seconds")
    power = np.mean(sound[:, : count * step] ** 2, axis=0).reshape(count, step).mean(axis=1)
    said = np.repeat(power > np.percentile(power, 95) * 10 ** (-GATE_DB / 10), step)
    part = sound[:, : count * step][:, said]
    hz, found = welch(part, rate, nperseg=min(WINDOW, part.shape[1]), nfft=WINDOW)
    return hz, found.mean(axis=0)


def octaves_of(found: Spectrum) -> dict[float, float]:
    """Levels of the octaves of a spectrum in decibels."""
    hz, power = found
    return {
        centre: 10 * np.log10(power[(hz >= centre / 2**0.5) & (hz < centre * 2**0.5)].sum() + 1e-20)
        for centre in OCTAVES
        if centre * 2**0.5 < hz[-1]
    }


def _tone(now: Spectrum, wanted: Spectrum) -> tuple[float, tuple[dict[str, Any], ...]]:
    """The level, and the bands that bring one spectrum to another, octave by octave.

    Each band minds what the others do: they are set, looked at together, and set again.
    """
    goal, rate = octaves_of(wanted), round(2 * now[0][-1])
    have = octaves_of(now)
    loudness = [10 ** (goal[hz] / 10) for hz in goal]
    level = float(np.average([goal[hz] - have[hz] for hz in goal], weights=loudness))
    tone = {hz: float(np.clip(goal[hz] - have[hz] - level, -MOST_DB, MOST_DB)) for hz in goal}
    gains = dict(tone)
    pulse = np.zeros((2, WINDOW))
    pulse[:, 0] = 1.0
    for _ in range(TURNS):
        shaped = _through("eq", pulse, rate, {"bands": _as_bands(gains)})[0]
        response = np.abs(np.fft.rfft(shaped)) ** 2
        got = octaves_of((now[0], now[1] * response))
        for hz, change in tone.items():
            gains[hz] = float(np.clip(gains[hz] + change - (got[hz] - have[hz]), -24.0, 24.0))
    return level, tuple(_as_bands(gains))


def _through(kind: str, sound: Floats, rate: int, params: Mapping[str, Any]) -> Floats:
    """A sound through one effect."""
    part = EffectPart(id="e", kind=kind, params=dict(params))
    effect = effect_of(part)
    processor = effect.make(effect.settings(effect_curves(part), rate))
    x = np.ascontiguousarray(sound, dtype=np.float64)
    return np.array(processor.process(x.copy(), 0, np.ones(x.shape[1])))


def _as_bands(gains: Mapping[float, float]) -> list[dict[str, Any]]:
    return [
        {"type": "peak", "freq_hz": hz, "gain_db": round(gain, 2), "q": BAND_Q}
        for hz, gain in gains.items()
    ]
