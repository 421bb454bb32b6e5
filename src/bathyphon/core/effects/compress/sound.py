"""Compress: what is loud is brought nearer to what is quiet."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.decibels import gain_of_db
from bathyphon.core.dsp.dynamics import followed, levels
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings


def static_gain(level_db: Floats, threshold: Floats, ratio: Floats, knee: Floats) -> Floats:
    """Gain in dB that a steady level gets; the knee is a parabola about the threshold."""
    over = level_db - threshold
    slope = 1.0 / ratio - 1.0
    half = np.maximum(0.5 * knee, 1e-9)
    bent = slope * (over + half) ** 2 / (4.0 * half)
    gain: Floats = np.where(over <= -half, 0.0, np.where(over >= half, slope * over, bent))
    return gain


class Compress(Processor):
    """Feed-forward; both sides get the same gain, so that the image stays where it is."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memory = np.zeros(2)
        self._gain = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Compress one block."""
        s = self._settings
        n = x.shape[1]
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return s.values(id, at, n)

        level = np.empty(n)
        levels(x, rate, self._memory, level)
        gain = static_gain(level, value("threshold_db"), value("ratio"), value("knee_db"))
        self._gain = followed(gain, value("attack_ms"), value("release_ms"), rate, self._gain)
        return x * (10.0 ** (gain / 20.0)) * gain_of_db(value("makeup_db"))

    def state(self) -> State:
        """Levels and gain."""
        return (self._memory.copy(), np.array(self._gain))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
        self._gain = float(state[1])


make = Compress
