"""Voices: syllables of noise at the formants of vowels, so many that none is understood."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch

# First two formants of vowels, men and women, in Hz.
VOWELS = (
    (270, 2290),
    (390, 1990),
    (530, 1840),
    (660, 1720),
    (730, 1090),
    (570, 840),
    (440, 1020),
    (300, 870),
    (640, 1190),
    (310, 2790),
    (610, 2330),
    (850, 1220),
    (590, 920),
    (370, 950),
)
OFTEN = 1.9
"""Syllables a second of one who talks and listens by turns."""


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Syllables of noise in two formants, each voice at its place, and the hum of the others."""
    many, excited = p["people"], p["excited"] / 100
    vowels = np.array(VOWELS, float)

    def close(s: Stretch) -> Floats:
        near = min(many, 24.0)
        # What no ear can tell apart any more is the average spectrum of speech.
        rest = s.noise("rest", times(band(120, 5500, 9), falling(5.5, 550)))
        out = 0.4 * np.sqrt(max(0.0, many - near) / 24) * rest * s.swell("rest", 0.6, 1.0)
        for level, seen in ((1.0, 0), (0.5, 1)):
            syllables = s.by_chance("syllables", near * OFTEN * (1 + 0.5 * excited), 0.8)
            which = np.floor(syllables.u[0] * len(vowels)).astype(int)
            left, right = syllables.sides(1, 0.9)
            loud = level * (0.25 + syllables.u[2] ** 2) * (1 + excited * syllables.u[3] ** 6)
            hz = vowels[which, seen] * (0.92 + 0.2 * syllables.u[4]) * (1 + 0.18 * excited)
            grains(out, syllables, hz, 70 + 0.06 * hz, 16 + 22 * syllables.u[3],
                   loud * left, loud * right, 0.045)  # fmt: skip
        hisses = s.by_chance("consonants", near * OFTEN * 0.6, 0.3)
        left, right = hisses.sides(1, 0.9)
        grains(out, hisses, hisses.spread(0, 2500, 6500), 1800, 45, 0.12 * hisses.u[2] * left,
               0.12 * hisses.u[2] * right, 0.015)  # fmt: skip
        return np.asarray(out)

    return at.in_room(close, p["room"], 0.35 + 0.25 * min(1.0, p["room"] / 2), 4000)
