"""Bubbles: Minnaert's pitch for each radius, in the rhythm of breath."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import tones
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Bubbles in bursts or all the time, each going up as it nears the surface."""
    size = 0.5 + 1.6 * p["size"] / 100
    bed = at.noise("water", times(band(25, 500, 12), falling(5, 60)))
    out = 0.05 * bed * at.swell("water", 0.2, 2)
    bubbles = at.by_chance("bubbles", 8 + 1.7 * p["amount"], 2.5)
    if p["breath"] > 0:
        # Out for two fifths of a breath, most at its beginning.
        turn = bubbles.seconds / p["breath"] % 1.0
        flow = np.where(turn < 0.4, np.sin(np.pi * np.sqrt(turn / 0.4)) ** 2, 0.0)
        bubbles = bubbles.where(bubbles.u[3] < flow)
    radius = bubbles.spread(0, 0.0018, 0.010) * size
    left, right = bubbles.sides(1, 0.7)
    hz, decay = bubble(radius)
    loud = (0.2 + 0.8 * bubbles.u[2] ** 2) * np.sqrt(radius / 0.005)
    rise = decay * (0.06 + 0.1 * bubbles.u[4])
    tones(out, bubbles, hz, 0.55 * decay, loud * left, loud * right, rise, 0.003)
    return out
