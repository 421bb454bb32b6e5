"""Wind: noise driven by gusts, and narrow noise that rises with them where it whistles."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Gusts drive everything: the rumble, the rush and, where it whistles, how high."""
    strong, uneven = p["strength"] / 100, p["gusts"] / 100
    gust = at.drift("gust", 0.13) + 0.4 * at.drift("flurry", 0.6)
    push = 10 ** (uneven * 6 * gust / 20)
    rumble = at.noise("rumble", times(band(25, 300, 9), falling(4, 60)))
    rush = at.noise("rush", times(band(120, 1400 + 2500 * strong, 9), falling(4, 350)))
    hiss = at.noise("hiss", band(1200, 6500, 9))
    out = (0.4 + 0.4 * strong) * rumble * push
    out += (0.4 + 0.5 * strong) * rush * push**1.4 + 0.10 * strong * hiss * push**2
    for voice, (low, width) in enumerate(((420.0, 1.0), (640.0, 0.6), (1010.0, 0.35))):
        if p["whistle"] <= 0:
            break
        # Noise narrow enough to have a pitch, which goes up with the gust.
        narrow = at.noise(f"narrow {voice}", band(0.5, 14, 12), 1 << 14)
        pitch = low * (0.8 + 0.6 * strong)
        rise = at.drifting_tone("gust", 0.13, pitch, 0.16 * uneven)
        level = 0.9 * p["whistle"] / 100 * width * push**2.2 / (1 + 0.3 * push**2)
        out += level * (narrow[0] * rise[0] + narrow[1] * rise[1]) * np.array([[1.0], [0.8]])
    return out
