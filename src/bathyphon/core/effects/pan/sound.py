"""Pan: where a sound lies between left and right, and how wide it is."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.pan import law_gains
from bathyphon.core.effects.kit.engagement import swept
from bathyphon.core.effects.kit.processor import Processor
from bathyphon.core.effects.kit.settings import Settings
from bathyphon.core.effects.pan.table import TABLE

SIDES = (
    ((1.0, 0.0), (0.0, 1.0)),
    ((1.0, 0.0), (1.0, 0.0)),
    ((0.0, 1.0), (0.0, 1.0)),
    ((0.0, 1.0), (1.0, 0.0)),
    ((1.0, 0.0), (0.0, -1.0)),
)
"""What of left and right goes to each side, by the choices of ``sides``."""


class Pan(Processor):
    """Sides, width, then position, then a level for each side; it has no memory."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._law = settings.choice("law")
        self._sides = settings.choice("sides")

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Place one block."""

        def value(id: str) -> Floats:
            return swept(TABLE, self._settings, id, at, depth)

        if self._sides:
            (ll, lr), (rl, rr) = SIDES[self._sides]
            x = np.stack([ll * x[0] + lr * x[1], rl * x[0] + rr * x[1]])
        middle = 0.5 * (x[0] + x[1])
        side = 0.5 * (x[0] - x[1]) * (value("width") / 100.0)
        gains = law_gains(value("position"), self._law)
        y = np.empty_like(x)
        y[0] = (middle + side) * gains[0] * (value("left_level") / 100.0)
        y[1] = (middle - side) * gains[1] * (value("right_level") / 100.0)
        return y


make = Pan
