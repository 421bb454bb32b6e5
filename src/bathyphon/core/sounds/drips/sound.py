"""Drips: each a click and a bubble that rises in pitch, in a room of some seconds."""

from __future__ import annotations

from collections.abc import Mapping

from bathyphon.core.arrays import Floats
from bathyphon.core.sounds.kit.bubbles import bubble
from bathyphon.core.sounds.kit.events import grains, tones
from bathyphon.core.sounds.kit.responses import band, falling, times
from bathyphon.core.sounds.kit.stretch import Stretch


def sound(p: Mapping[str, float], at: Stretch) -> Floats:
    """A click as the drop hits, and a little later the bubble that it draws down, in a room."""

    def close(s: Stretch) -> Floats:
        out = s.silence()
        hits = s.by_chance("drops", p["rate"], 0.7)
        size = (0.4 + 1.2 * p["size"] / 100) * (0.7 + 0.6 * hits.u[0])
        left, right = hits.sides(1, 0.9)
        loud = 0.15 + 0.85 * hits.u[2] ** 2
        grains(out, hits, 4200 / size, 3000, 900 / size, 0.05 * loud * left, 0.05 * loud * right)
        bubbles = hits.later(0.012 + 0.02 * hits.u[3])
        radius = 0.0026 * size
        hz, decay = bubble(radius)
        rise = decay * (0.05 + 0.12 * hits.u[4])
        tones(out, bubbles, hz, 0.5 * decay, loud * left, loud * right, rise, 0.002)
        return out

    wet = 0.25 + 0.35 * min(1.0, p["room"] / 3)
    out = at.in_room(close, p["room"], wet, 3500)
    still = at.noise("air", times(band(40, 900, 12), falling(5, 90)))
    return out + 0.0016 * still
