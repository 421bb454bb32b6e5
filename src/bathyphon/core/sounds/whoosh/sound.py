"""Whoosh: bands of noise through which the pitch of something that passes runs."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band
from bathyphon.core.sounds.kit.stretch import Stretch

VOICES = 7


def seconds(p: Mapping[str, float]) -> float:
    """As long as is asked for."""
    return p["length"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Bands of noise, each loud while the pitch of what comes near passes through it."""
    length, sharp = p["length"], p["sharp"] / 100
    x = (at.seconds / length - 0.55) / (0.30 - 0.2 * sharp)
    near = 1 / (1 + x * x)
    # Speed towards us, then away: pitch rises to its middle and sinks below it.
    pitch = np.log2(p["pitch"]) + 1.6 * np.log2(0.35 + 0.65 * near) - 0.25 * np.tanh(2 * x)
    out = at.silence()
    for voice in range(VOICES):
        middle = p["pitch"] * 2 ** ((voice - 4) * 0.75)
        if not 40 < middle < 15000:
            continue
        noise = at.noise(f"band {voice}", band(middle / 1.35, middle * 1.35, 12))
        out += noise * np.exp(-(((pitch - np.log2(middle)) / 0.8) ** 2))
    ends = np.sin(np.pi * np.clip(at.seconds / length, 0, 1)) ** 0.5
    angle = (0.5 + 0.45 * p["across"] / 100 * np.tanh(1.5 * x)) * np.pi / 2
    level = near**1.2 * ends
    return np.asarray(out * level * np.stack([np.cos(angle), np.sin(angle)]))
