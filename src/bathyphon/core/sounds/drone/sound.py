"""Drone: slowly beating partials of a low tone."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import band
from bathyphon.core.sounds.kit.stretch import Stretch

# Of the tone it rests on: octave, fifth and their partials; uneasy ones a semitone off.
CALM = ((1.0, 1.0), (1.5, 0.55), (2.0, 0.6), (3.0, 0.35), (4.0, 0.25), (6.0, 0.15), (8.0, 0.1))
UNEASY = ((1.059, 0.8), (1.414, 0.5), (2.119, 0.5), (2.828, 0.3), (4.24, 0.2), (5.66, 0.12))


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Pairs of partials that beat slowly, each coming and going in its own time."""
    bright, uneasy = p["bright"] / 100, p["uneasy"] / 100
    out = at.silence()
    rows = [(r, g) for r, g in CALM] + [(r, g * uneasy) for r, g in UNEASY if uneasy > 0]
    for row, (ratio, gain) in enumerate(rows):
        level = gain * ratio ** (-2.2 + 2.4 * bright)
        for side in range(2):
            what = f"partial {row} {side}"
            # A few tenths of a hertz apart on both sides.
            hz = p["pitch"] * ratio + (0.11 + 0.23 * uneasy) * (row + 1) * (side - 0.5)
            out[side] += level * at.tone(what, hz, 0.0006, 0.2) * at.swell(what, 0.06, 3.0)
    breath = at.noise("breath", band(1.5 * p["pitch"], 12 * p["pitch"] + 400, 12))
    return np.asarray(out + 0.5 * p["air"] / 100 * breath * at.swell("breath", 0.1, 4))
