"""Traffic: cars that pass, each as loud as it is near, over a city's hum."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.responses import air, band, falling, peak, times
from bathyphon.core.sounds.kit.stretch import Stretch

SPEED = 15.0


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Each car's tyres and engine, as loud as it is near, over the hum of all that is far."""
    far = p["distance"]
    # Nothing is heard of a car five times as far along the road as the road is away.
    passes = 5 * far / (0.7 * SPEED)

    def close(s: Stretch) -> Floats:
        tyres = s.noise("tyres", times(band(150, 5000, 9), peak(900, 7, 2.0), falling(3, 1200)))
        engine = s.noise("engine", times(band(35, 240, 12), falling(3, 80)))
        cars = s.by_chance("cars", p["cars"] / 60, 2 * passes)

        def passing(seconds: Floats) -> Floats:
            power = np.full((2, seconds.size), 0.004)
            for moment, way, size in zip(cars.seconds + passes, cars.u[0], cars.u[2], strict=True):
                x = SPEED * (0.7 + 0.6 * size) * (seconds - moment) / far
                near = (0.3 + size**2) / (1 + x * x) * np.clip(3 - 0.6 * abs(x), 0, 1)
                side = 0.5 + 0.45 * np.clip(x, -1.5, 1.5) / 1.5 * (1 if way < 0.5 else -1)
                power += near * np.stack([1 - side, side])
            return np.asarray(np.sqrt(power))

        level = s.slowly(passing)
        hum = s.noise("city", times(band(30, 1500, 9), falling(5, 90)))
        return np.asarray(
            level * (0.8 * tyres + 0.6 * engine)
            + 0.9 * p["city"] / 100 * hum * s.swell("city", 0.08, 1.2)
        )

    return at.shaped(air(far), close)
