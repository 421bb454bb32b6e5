"""Leaves: a hump of noise at some kilohertz that goes with the gusts, and single strokes."""

from __future__ import annotations

from collections.abc import Mapping

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import air, band, peak, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A hump of noise that goes with the gusts, and single leaves that strike each other."""
    blow, dry = p["wind"] / 100, p["dry"] / 100

    def close(s: Stretch) -> Floats:
        gust = 10 ** ((2 + 4 * blow) * (s.drift("gust", 0.17) + 0.5 * s.drift("flurry", 0.9)) / 20)
        mass = s.noise("mass", times(band(500, 7000, 9), peak(2200 + 1800 * dry, 5, 2.0)))
        low = s.noise("low", band(60, 400, 9))
        out = gust * ((0.2 + 0.6 * blow) * (1 - 0.6 * dry) * mass + 0.10 * blow * low)
        strikes = s.by_chance("leaves", 30 + 200 * blow, 0.2)
        # Leaves strike when it blows: kept where the gust of their moment is strong.
        strikes = strikes.where(strikes.u[3] < 0.3 + 0.5 * blow)
        left, right = strikes.sides(1)
        loud = (0.1 + 0.9 * dry) * 0.5 * strikes.u[2] ** 2
        grains(out, strikes, strikes.spread(0, 1800, 6500), 2500, strikes.spread(4, 90, 700),
               loud * left, loud * right, 0.002)  # fmt: skip
        return out

    return at.shaped(air(p["distance"]), close)
