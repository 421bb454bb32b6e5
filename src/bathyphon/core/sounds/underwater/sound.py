"""Under water: noise as in the sea, falling by five decibels an octave, and a few bubbles."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import tones
from bathyphon.core.sounds.kit.responses import band, falling, peak, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A dark rumble, a swirl that comes and goes, and bubbles that rise past the ear."""
    deep, moves = p["depth"] / 100, p["movement"] / 100
    corner = 1100.0 * 0.13**deep
    rumble = at.noise("rumble", times(band(22, corner, 18), falling(5, 70)))
    swirl = at.noise("swirl", times(band(70, 2.2 * corner, 24), peak(0.8 * corner, 6, 1.2)))
    out = rumble * at.swell("rumble", 0.11, 1 + 2.5 * moves)
    out += 0.32 * swirl * at.swell("swirl", 0.37, 2 + 5 * moves)
    if p["bubbles"] > 0:
        bubbles = at.by_chance("bubbles", 0.14 * p["bubbles"], 1.0)
        radius = bubbles.spread(0, 0.002, 0.009)
        hz, decay = bubble(radius)
        left, right = bubbles.sides(1)
        loud = 0.5 * bubbles.u[2] ** 2 * (1 - 0.4 * deep)
        # Water above the ear takes the treble of what is further off.
        loud = loud / np.sqrt(1 + (hz / (2.5 * corner)) ** 2)
        tones(out, bubbles, hz, 0.6 * decay, loud * left, loud * right, rise=0.06 * decay,
              attack_s=0.004)  # fmt: skip
    return out
