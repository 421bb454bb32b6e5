"""Heartbeat: two low thuds a beat."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Two sounds a beat, the second a third of a beat later and a little higher."""
    hard = p["hard"] / 100
    every = 60 / p["pace"]
    out = 0.03 * at.noise("blood", times(band(20, 200, 12), falling(3, 40)))
    beats = at.in_step("beats", every, 0.04, 1.0)
    second = beats.later(np.full(beats.at.size, min(0.32, 0.38 * every)))
    for place, hz, level in ((beats, 46.0, 1.0), (second, 61.0, 0.65)):
        loud = level * (0.9 + 0.2 * place.u[0])
        tones(out, place, hz * (1 + 0.5 * hard), 22.0, loud, loud, rise=-2.0, attack_s=0.018)
        grains(out, place, 90 + 160 * hard, 90, 30, 0.5 * loud * hard, 0.5 * loud * hard, 0.006)
    return out
