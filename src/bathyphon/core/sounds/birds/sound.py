"""Birds: phrases of swept whistles, one bird's repeated with small changes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import tones
from bathyphon.core.sounds.kit.responses import air, band
from bathyphon.core.sounds.kit.stretch import Stretch

NOTES = 5


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Each bird has a phrase of its own, which it repeats with small changes."""
    often = 0.04 + 0.25 * p["busy"] / 100

    def close(s: Stretch) -> Floats:
        out = 0.010 * s.noise("air", band(80, 2500, 6))
        for bird in range(round(p["count"])):
            own = s.at(f"bird {bird}", np.zeros(NOTES)).u
            where = (0.1 + 0.8 * own[4, 0]) * np.pi / 2
            phrases = s.by_chance(f"phrases {bird}", often, 2.5)
            for note in range(NOTES):
                if own[0, note] < 0.25 and note:
                    continue
                sung = phrases.later(note * (0.09 + 0.14 * own[1, 0]) * np.ones(phrases.at.size))
                hz = 2200 * 3.0 ** own[2, note] * (1 + 0.02 * (sung.u[2] - 0.5))
                rise = (own[3, note] - 0.5) * 7.0
                level = (0.3 + 0.7 * own[4, note]) * (0.4 + 0.6 * phrases.u[1])
                level = level * (0.2 + 0.8 * own[5, 0])
                tones(out, sung, hz, 28 + 40 * own[1, note], level * np.cos(where),
                      level * np.sin(where), rise, 0.018)  # fmt: skip
        return out

    def far(s: Stretch) -> Floats:
        return s.shaped(air(p["distance"]), close)

    return at.in_room(far, 0.7, 0.1 + 0.25 * min(1.0, p["distance"] / 60), 4500)
