"""Riser: tones an octave apart that climb together, and noise that brightens."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band
from bathyphon.core.sounds.kit.stretch import Stretch

VOICES = 8
LOWEST = 70.0


def seconds(p: Mapping[str, float]) -> float:
    """As long as is asked for: it ends at its loudest."""
    return p["length"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Tones an octave apart that climb together, and noise that brightens with them."""
    length, tone = p["length"], p["tone"] / 100
    t = np.clip(at.seconds / length, 0, 1)
    climb = p["octaves"] * np.log(2) / length
    out = at.silence()
    chance = at.at("voices", np.zeros(VOICES)).u
    for voice in range(VOICES):
        hz = LOWEST * 2 ** (voice * 0.75)
        turns = hz * (np.exp(climb * at.seconds) - 1) / climb
        now = np.log2(hz) + climb * at.seconds / np.log(2)
        # Loudest in the middle of hearing, so that none is heard to come or go.
        level = np.exp(-(((now - 9) / 2.2) ** 2))
        for side in range(2):
            wave = np.sin(
                2 * np.pi * turns * (1 + 0.003 * (2 * side - 1)) + 6 * chance[side, voice]
            )
            out[side] += 0.5 * tone * level * wave
    for voice in range(6):
        middle = 250 * 2.0**voice
        noise = at.noise(f"band {voice}", band(middle / 1.4, middle * 1.4, 12))
        now = np.log2(250) + (1.5 + p["octaves"]) * t
        out += (1 - tone) * noise * np.exp(-(((now - np.log2(middle)) / 1.1) ** 2))
    rises = t**1.6 * (1 + 0.15 * tone * np.sin(2 * np.pi * 3 * at.seconds * (1 + t)))
    return np.asarray(out * rises)
