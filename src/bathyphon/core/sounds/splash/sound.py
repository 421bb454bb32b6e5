"""Splash: a slap, spray, and the bubbles of the cavity."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def seconds(p: Mapping[str, float]) -> float:
    """Larger things close their cavity later."""
    return 1.0 + 2.4 * p["size"] / 100


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """The slap, spray that falls back, and the cavity that closes and bubbles."""
    size, spray = p["size"] / 100, p["spray"] / 100
    out = at.silence()
    slap = at.at("slap", [0.03])
    low = 420 * 0.25**size
    grains(out, slap, low, low, 14 + 30 * (1 - size), 0.9, 0.9, 0.002)
    grains(out, slap, 2600, 3200, 40, 0.35 + 0.3 * spray, 0.35 + 0.3 * spray)
    rush = at.noise("spray", times(band(500, 8000, 9), falling(2.5, 1500)))
    t = np.maximum(0.0, at.seconds - 0.03)
    fall = np.minimum(1.0, t / 0.05) * np.exp(-t / (0.08 + 0.5 * size))
    out += (0.15 + 0.7 * spray) * rush * fall
    count = round(25 + 190 * size + 60 * spray)
    when = 0.05 + (0.25 + 1.9 * size) * at.at("cavity", np.zeros(count)).u[0] ** 1.8
    bubbles = at.at("cavity", when)
    radius = bubbles.spread(1, 0.0012, 0.004 + 0.016 * size)
    left, right = bubbles.sides(2, 0.6)
    hz, decay = bubble(radius)
    loud = 0.5 * (0.2 + bubbles.u[3] ** 2) * np.sqrt(radius / 0.005) * np.exp(-when)
    tones(out, bubbles, hz, 0.6 * decay, loud * left, loud * right, 0.12 * decay, 0.003)
    return out
