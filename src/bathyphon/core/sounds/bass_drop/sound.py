"""Bass drop: a sine that falls exponentially."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.stretch import Stretch


def seconds(p: Mapping[str, float]) -> float:
    """The fall and how it dies away."""
    return p["length"] + 0.4


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A falling sine with a soft attack, and its harmonics where it growls."""
    t = at.seconds
    length = p["length"]
    fall = np.log(p["from"] / p["to"]) / length
    if abs(fall) < 1e-6:
        fall = 1e-6
    turns = p["from"] * (1 - np.exp(-fall * np.minimum(t, length))) / fall
    turns += p["to"] * np.maximum(0.0, t - length)
    sine = np.sin(2 * np.pi * turns)
    grit = p["grit"] / 100
    driven = np.tanh((1 + 7 * grit) * sine) / np.tanh(1 + 7 * grit)
    level = np.minimum(1, t / 0.012) * np.exp(-1.6 * t / length)
    level *= np.clip((length + 0.4 - t) / 0.4, 0, 1)
    mono = level * ((1 - grit) * sine + grit * driven)
    return np.stack([mono, mono])
