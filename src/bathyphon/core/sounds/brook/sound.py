"""Running water: a population of Minnaert's bubbles over the noise of turbulence."""

from __future__ import annotations

from collections.abc import Mapping

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import tones
from bathyphon.core.sounds.kit.responses import air, band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Bubbles by the hundred over the hiss of what is torn apart, as far off as is asked for."""
    flow, size = p["flow"] / 100, p["stones"] / 100

    def close(s: Stretch) -> Floats:
        hiss = times(band(350 - 200 * size, 8000, 9), falling(2.4, 900 - 600 * size))
        out = (0.05 + 0.5 * flow) * s.noise("hiss", hiss) * s.swell("hiss", 0.5, 1.2)
        drops = s.by_chance("bubbles", 18 + 320 * flow, 0.9)
        # Small bubbles are many, large ones few.
        smallest, largest = 0.0007 + 0.0012 * size, 0.004 + 0.010 * size
        radius = smallest * (largest / smallest) ** (drops.u[0] ** 2)
        left, right = drops.sides(1, 0.8)
        hz, decay = bubble(radius)
        loud = (0.25 + 0.9 * drops.u[2] ** 3) * (radius / 0.004) ** 0.5
        rise = decay * 0.1 * drops.u[3] ** 2
        tones(out, drops, hz, decay, loud * left, loud * right, rise, 0.0015)
        return out

    return at.shaped(air(p["distance"]), close)
