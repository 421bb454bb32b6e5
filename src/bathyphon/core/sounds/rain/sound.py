"""Rain: drops of all sizes, the far ones as noise and the near ones each by itself."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.responses import air, band, falling, peak, times
from bathyphon.core.sounds.kit.stretch import Stretch

# Middle of a drop's click, its width and decay, and how much of it rings.
GROUND, LEAVES, ROOF, WATER = range(4)
CLICK_HZ = (2600.0, 1900.0, 1500.0, 5200.0)
DECAY = (420.0, 330.0, 160.0, 700.0)


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Far drops as noise, near ones one by one, their sizes as they are in rain."""
    much, on = p["intensity"] / 100, round(p["on"])

    def close(s: Stretch) -> Floats:
        far = times(band(420 - 300 * much, 9000, 9), falling(2.2 + 1.8 * much, 1400 - 800 * much))
        if on == WATER:
            # A drop's own bubble rings near 14 kHz in light rain.
            far = times(far, peak(11000, 5, 1.5))
        out = (0.012 + 0.5 * much**1.6) * s.noise("far", far) * s.swell("far", 0.15, 0.8)
        drops = s.by_chance("near", 8 + 260 * much**1.3, 0.25)
        # Exponential in the diameter, the law of Marshall and Palmer.
        size = 1 - np.log(1 - 0.98 * drops.u[0]) / (2.4 - 1.2 * much)
        left, right = drops.sides(1)
        loud = (0.16 + 0.3 * (on == ROOF)) * size**1.5 * drops.u[2]
        grains(out, drops, CLICK_HZ[on] / np.sqrt(size), 1800, DECAY[on] / size**0.5,
               loud * left, loud * right)  # fmt: skip
        if on == ROOF:
            tones(out, drops, 310 + 900 * drops.u[3], 55 + 90 * drops.u[4],
                  0.5 * loud * left, 0.5 * loud * right, attack_s=0.001)  # fmt: skip
        if on == WATER:
            # Some of them catch air, whose bubble rings a moment after the click.
            rings = drops.where(drops.u[3] < 0.35).later(0.015)
            radius = rings.spread(4, 0.0007, 0.003)
            sides = rings.sides(1)
            hz, decay = bubble(radius)
            tones(out, rings, hz, decay,
                  0.2 * sides[0], 0.2 * sides[1], rise=8.0, attack_s=0.001)  # fmt: skip
        return np.asarray(out)

    return at.shaped(air(p["distance"]), close)
