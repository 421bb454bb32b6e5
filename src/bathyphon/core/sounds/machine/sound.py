"""Machine: harmonics of a rotation, and moved air that beats with them."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch

HARMONICS = 28


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Harmonics of its turning, each a little unsteady, and air that beats with it."""
    if p["wall"] > 0:
        return at.shaped(falling(p["wall"] / 4, 120), lambda s: turning(p, s))
    return turning(p, at)


def turning(p: Mapping[str, float], at: Stretch) -> Floats:
    """The machine itself, with no wall before it."""
    turns, rough, moved = p["turns"], p["rough"] / 100, p["air"] / 100
    hum = at.silence()
    for k in range(1, HARMONICS + 1):
        hz = turns * k
        if hz > 6000:
            break
        # Every second and fourth stroke stands out, as cylinders and blades do.
        level = k ** -(1.7 - 0.9 * rough) * (1.0 if k % 2 == 0 or k == 1 else 0.35 + 0.4 * rough)
        level *= 1 / (1 + (35 / hz) ** 2)
        tone = at.tone(f"harmonic {k}", hz, 0.0015 + 0.004 * rough, 1.3)
        tone = tone * at.swell(f"level {k}", 0.7, 1.5 + 2 * rough)
        side = 0.5 + 0.25 * np.sin(2.4 * k)
        hum += level * np.array([[np.sqrt(1 - side)], [np.sqrt(side)]]) * tone
    beat = 1 + (0.25 + 0.5 * rough) * at.tone("harmonic 2", 2 * turns, 0.0015 + 0.004 * rough, 1.3)
    rush = at.noise("rush", times(band(60, 5000, 9), falling(3.5, 250)))
    return np.asarray((1.1 - 0.6 * moved) * hum + (0.08 + 0.9 * moved) * rush * beat)
