"""Crickets: chirps of three pulses, as many a minute as Dolbear's law has it."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import air, band
from bathyphon.core.sounds.kit.stretch import Stretch

PULSES = 3
NEAR = 12


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Each sings at a pitch and a pace of its own: chirps of three pulses."""
    # Dolbear: T °C = 10 + (N − 40) / 7, chirps N a minute.
    chirps = (40 + 7 * (p["warmth"] - 10)) / 60

    def close(s: Stretch) -> Floats:
        out = 0.02 * s.noise("night", band(60, 3000, 6))
        near = min(round(p["count"]), NEAR)
        if p["count"] > near:
            # Those further off are one choir.
            middle = 4600 + 25 * (p["warmth"] - 20)
            choir = s.noise("choir", band(middle - 350, middle + 350, 36))
            out += 0.02 * (p["count"] - near) * choir * s.swell("choir", 0.3, 1.0)
        for k in range(near):
            own = s.at(f"cricket {k}", [0.0]).u[:, 0]
            pace = chirps * (0.85 + 0.3 * own[0])
            phase = (s.seconds * pace + own[1]) % 1.0
            pulse = np.clip(phase / 0.45, 0, 1) * PULSES
            beat = np.where(phase < 0.45, np.sin(np.pi * (pulse % 1.0)) ** 2, 0.0)
            song = s.slowly(partial(singing, s, k))
            hz = 4100 + 900 * own[2] + 25 * (p["warmth"] - 20)
            tone = s.tone(f"cricket {k}", hz, 0.002, 1.0)
            level = (0.25 + 0.75 * own[3]) * beat * song
            angle = (0.1 + 0.8 * own[4]) * np.pi / 2
            out += np.array([[np.cos(angle)], [np.sin(angle)]]) * level * tone
        return out

    return at.shaped(air(p["distance"]), close)


def singing(s: Stretch, cricket: int, seconds: Floats) -> Floats:
    """Whether one of them sings: 0 to 1, coming and going."""
    return np.asarray(np.sqrt(s.tide(f"song {cricket}", 0.05, seconds)))
