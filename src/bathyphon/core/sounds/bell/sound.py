"""Bell: the partials of a tuned bell, each a pair that beats."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.stretch import Stretch

PARTIALS = (
    (0.5, 0.45, 1.0),
    (1.0, 0.8, 0.7),
    (1.2, 0.7, 0.5),
    (1.5, 0.35, 0.4),
    (2.0, 1.0, 0.35),
    (2.5, 0.4, 0.25),
    (2.66, 0.35, 0.22),
    (3.0, 0.45, 0.2),
    (4.0, 0.4, 0.14),
    (5.33, 0.25, 0.1),
    (6.67, 0.18, 0.07),
)
"""Ratio to the prime, level, and how long each lasts beside the hum."""
BETWEEN_S = 1.3


def seconds(p: Mapping[str, float]) -> float:
    """All strokes and the last one's ring."""
    return BETWEEN_S * (p["times"] - 1) + 0.2 + p["ring"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Partials of a tuned bell, each a pair that beats, as no bell is quite round."""
    hard = p["hard"] / 100
    strokes = at.at("strokes", 0.02 + BETWEEN_S * np.arange(round(p["times"])))
    loud = 0.85 + 0.3 * strokes.u[0]
    out = at.silence()
    for k, (ratio, gain, lasts) in enumerate(PARTIALS):
        level = 0.5 * gain * loud * (0.25 + 0.75 * hard) ** (0.35 * k)
        decay = 6.9 / (p["ring"] * lasts)
        for side in (-1, 1):
            hz = p["pitch"] * ratio * (1 + side * 0.0006 * (1 + k % 3))
            pan = (0.5 + side * 0.1) * np.pi / 2
            tones(out, strokes, hz, decay, level * np.cos(pan), level * np.sin(pan), attack_s=0.002)
    grains(out, strokes, 3000, 4000, 200, 0.3 * hard * loud, 0.3 * hard * loud)
    return out
