"""Fire: lapping, hiss and crackle, as Farnell divides it."""

from __future__ import annotations

from collections.abc import Mapping

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.events import grains
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """Lapping below, hiss above, and snaps that come in showers."""
    size = p["size"] / 100
    lap = at.noise("lap", times(band(35, 420 + 300 * size, 12), falling(4, 150 - 70 * size)))
    flutter = at.swell("flutter", 3.1, 3.0) * at.swell("slow", 0.3, 2.5)
    hiss = at.noise("hiss", times(band(900, 9000, 9), falling(2, 2500)))
    out = (0.012 + 0.5 * size) * lap * flutter
    out += (0.03 + 0.12 * size) * hiss * at.swell("hiss", 0.8, 3)
    snaps = at.by_chance("snaps", 1 + 34 * p["crackle"] / 100, 0.15)
    snaps = snaps.where(snaps.u[3] < at.tide("shower", 0.4, snaps.seconds))
    left, right = snaps.sides(1, 0.7)
    loud = (0.10 + 1.6 * snaps.u[2] ** 6) * (0.4 + 0.6 * p["crackle"] / 100)
    grains(out, snaps, snaps.spread(0, 900, 6000), 2600, snaps.spread(4, 130, 900),
           loud * left, loud * right)  # fmt: skip
    return out
