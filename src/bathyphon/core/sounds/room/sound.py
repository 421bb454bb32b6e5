"""Room tone: noise along the curves by which quiet rooms are rated, and a little hum."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band, falling, peak, times
from bathyphon.core.sounds.kit.stretch import Stretch

MAINS_HZ = 50.0


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Noise that falls by five decibels an octave, coloured by the room's own modes."""
    size, vent = p["size"] / 100, p["air"] / 100
    mode = 90 - 60 * size
    curve = times(band(20, 2500 + 3000 * vent, 9), falling(5, 60), peak(mode, 4, 0.8),
                  peak(2.3 * mode, 3, 0.6))  # fmt: skip
    out = at.noise("air", curve) * at.swell("air", 0.07, 0.8)
    draft = at.noise("vent", times(band(150, 4200, 9), falling(4, 500)))
    out = out + 1.1 * vent * draft * at.swell("vent", 0.4, 0.5)
    hum = np.zeros(at.count)
    for k, level in ((1, 0.3), (2, 1.0), (3, 0.2), (4, 0.45), (6, 0.2), (8, 0.1)):
        hum += level * at.tone(f"hum {k}", MAINS_HZ * k, 0.0003)
    return np.asarray(out + 1.2 * p["hum"] / 100 * hum)
