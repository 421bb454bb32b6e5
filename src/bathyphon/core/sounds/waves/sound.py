"""Waves: noise that swells, breaks and washes out, wave after wave."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import air, band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Three voices of each wave with envelopes of their own: body, crash and the wash after it."""
    size = p["size"] / 100
    period = p["period"]

    def close(s: Stretch) -> Floats:
        low = 260 - 220 * size**0.4
        body = s.noise("body", times(band(low, 900, 12), falling(5, 3 * low)))
        crash = s.noise("crash", times(band(4 * low, 5000, 9), falling(4, 8 * low)))
        wash = s.noise("wash", band(900, 9000, 9))
        waves = s.in_step("waves", period, 0.5, 3 * period)

        def rising(seconds: Floats) -> Floats:
            swells = np.zeros((3, 2, seconds.size))
            for place, moment in enumerate(waves.seconds):
                t = (seconds - moment) / period
                high = 0.35 + 0.65 * waves.u[0, place] ** 1.5
                side = 0.35 + 0.3 * waves.u[1, place]
                sides = np.sqrt(np.array([1 - side, side]))[:, None]
                rise = np.exp(-(((t + 0.12) / 0.3) ** 2))
                hit = np.where(t < 0, np.exp(-((t / 0.05) ** 2)), np.exp(-t.clip(0) / 0.16))
                run = np.clip(t / 0.1, 0, 1) ** 2 * np.exp(-t.clip(0) / 0.34)
                swells += np.stack([high * sides * shape for shape in (rise, hit, run)])
            return swells

        swells = s.slowly(rising)
        parts = (0.9 * body, (0.3 + 0.8 * size) * crash, (0.5 - 0.2 * size) * wash)
        moving = sum(part * swell for part, swell in zip(parts, swells, strict=True))
        return np.asarray(moving + (0.04 + 0.06 * size) * body)

    return at.shaped(air(p["distance"]), close)
