"""Duck: turned down for as long as another track speaks."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.dynamics import followed, levels
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings

# The width in dB over which it goes from not at all to all the way.
SOFTNESS_DB = 6.0


class Duck(Processor):
    """The other track's level decides; what is heard of it is after its own gain and pan."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memory = np.zeros(2)
        self._gain = 0.0
        self._side: Floats | None = None

    def hear(self, side: Floats) -> None:
        """Take the other track's next block."""
        self._side = side

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Turn one block down where the other track is loud."""
        s = self._settings
        n = x.shape[1]
        if self._side is None:
            return x.copy()
        rate = float(s.sample_rate)
        level = np.empty(n)
        levels(self._side, rate, self._memory, level)
        over = (level - s.values("threshold_db", at, n)) / SOFTNESS_DB + 0.5
        u = np.clip(over, 0.0, 1.0)
        gain = -s.values("range_db", at, n) * (u * u * (3.0 - 2.0 * u))
        attack, release = s.values("attack_ms", at, n), s.values("release_ms", at, n)
        self._gain = followed(gain, attack, release, rate, self._gain)
        return x * 10.0 ** (gain / 20.0)

    def state(self) -> State:
        """Levels and gain."""
        return (self._memory.copy(), np.array(self._gain))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
        self._gain = float(state[1])


make = Duck
