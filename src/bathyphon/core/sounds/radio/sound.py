"""Radio noise: hiss, atmospheric crackle in showers, carriers that whistle."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import band
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Hiss, bursts that come in showers, and whistles that drift; the same on both sides."""
    out = at.silence()
    hiss = at.noise("hiss", band(280, p["band"], 24))[0]
    out += 0.5 * hiss * at.swell("hiss", 0.5, 1.5)
    bursts = at.by_chance("bursts", 90 * p["static"] / 100, 0.5)
    bursts = bursts.where(bursts.u[3] < at.tide("shower", 0.7, bursts.seconds))
    loud = 0.25 + 2.2 * bursts.u[2] ** 5
    middle = 0.45 * p["band"]
    grains(out, bursts, middle, 0.8 * middle, bursts.spread(4, 25, 600), loud, loud)
    for k in range(3):
        level = 0.35 * p["whistle"] / 100 * at.swell(f"fade {k}", 0.12, 9)
        hz = 0.5 * p["band"] * (0.35 + 0.3 * k)
        out += np.minimum(level, 0.8) * at.drifting_tone(f"whistle {k}", 0.05, hz, 0.12)[1]
    return out
