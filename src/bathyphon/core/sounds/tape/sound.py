"""Old recording: hiss, dust, scratches that come back at each turn, rumble."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Hiss, dust at any moment, scratches at each turn, and a rumble."""
    out = 0.5 * p["hiss"] / 100 * at.noise("hiss", times(band(200, 12000, 6), falling(-2, 1000)))
    low = at.noise("rumble", times(band(28, 160, 12), falling(3, 50)))
    out += 0.3 * p["rumble"] / 100 * low * at.swell("rumble", 0.5, 1.5)
    dust = at.by_chance("dust", 0.6 * p["crackle"], 0.05)
    loud = 0.12 + 1.5 * dust.u[2] ** 8
    left, right = dust.sides(1, 0.6)
    grains(out, dust, dust.spread(0, 1500, 7000), 4000, dust.spread(4, 900, 3000),
           loud * left, loud * right)  # fmt: skip
    if p["turns"] > 0:
        scratch = at.in_step("scratch", 1 / p["turns"], 0.02, 0.1)
        level = p["crackle"] / 100 * (0.8 + 0.4 * scratch.u[2])
        grains(out, scratch, 1800, 1500, 350, level, level)
    return np.asarray(out)
