"""Impact: a sinking low tone, a membrane, a crack and a dark room."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.stretch import Stretch

MEMBRANE = (1.0, 1.594, 2.136, 2.296, 2.653, 2.918)


def seconds(p: Mapping[str, float]) -> float:
    """The blow and its tail."""
    return 0.6 + 1.25 * p["tail"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A low tone that sinks, a membrane's modes, a crack, and a dark room."""
    size, hard = p["size"] / 100, p["hard"] / 100

    def blow(s: Stretch) -> Floats:
        out = s.silence()
        hit = s.at("hit", [0.03])
        lowest = 75 - 42 * size
        tones(out, hit, 2.1 * lowest, 5.5 - 2.5 * size, 1.0, 1.0, -0.9, 0.004)
        for k, ratio in enumerate(MEMBRANE):
            level = 0.5 * (0.35 + 0.5 * hard) ** k
            side = 0.5 + 0.06 * (k % 3 - 1)
            tones(out, hit, 1.6 * lowest * ratio, 8 + 5 * k, level * np.sqrt(2 * (1 - side)),
                  level * np.sqrt(2 * side), -0.3, 0.002)  # fmt: skip
        grains(out, hit, 180 + 300 * hard, 400, 16, 0.4, 0.4, 0.002)
        cracks = s.at("cracks", 0.03 + np.array([0.0, 0.004, 0.011, 0.024]))
        left, right = cracks.sides(0, 0.8)
        grains(out, cracks, 2600, 3500, 55, 0.5 * hard * left, 0.5 * hard * right)
        if hard > 0.6:
            for ratio in (5.1, 7.7, 11.3, 16.9):
                level = 0.35 * (hard - 0.6)
                tones(out, hit, lowest * ratio, 4 + ratio / 3, level, 0.8 * level)
        return out

    return at.in_room(blow, p["tail"], 0.35, 900 + 2500 * hard)
