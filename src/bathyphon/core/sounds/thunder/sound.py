"""Thunder: a crooked channel whose pieces are heard one after another."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import air, band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def seconds(p: Mapping[str, float]) -> float:
    """Its roll and what dies away after it."""
    return 4.0 + 0.11 * p["roll"]


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Pieces of a channel, each a burst, the nearest loudest and first, through miles of air."""
    length = seconds(p) - 2.5
    far = p["distance"]

    def close(s: Stretch) -> Floats:
        out = s.silence()
        chance = s.at("pieces", np.zeros(260))
        when = 0.05 + length * chance.u[0] ** (1.6 + 120 / far)
        pieces = s.at("pieces", when)
        left, right = pieces.sides(1, 0.8)
        loud = (0.15 + pieces.u[2] ** 3) * np.exp(-2.2 * when / length)
        hz = 40 * (1 + 900 / far) * pieces.spread(3, 0.6, 4.0)
        grains(out, pieces, hz, 1.2 * hz, 5 + 14 * pieces.u[4], loud * left, loud * right, 0.004)
        if far < 1200:
            crack = s.at("crack", np.linspace(0.03, 0.25, 24) ** 1.0)
            sides = crack.sides(1, 0.6)
            bright = (1 - far / 1200) * (0.3 + crack.u[2])
            grains(out, crack, 2400, 3500, 60, bright * sides[0], bright * sides[1])
        return out

    low = times(band(18, max(160.0, 5000 * (150 / far) ** 0.8), 9), air(far / 4), falling(3, 90))
    return at.in_room(lambda s: s.shaped(low, close), 2.2, 0.5, 800)
