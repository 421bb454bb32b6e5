"""Gate: what is quieter than a threshold is turned down."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.dynamics import levels
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings

CLOSES_BELOW_DB = 3.0


@njit(cache=True, nogil=True)
def _gated(
    level: Floats, threshold: Floats, range_db: Floats, attack_ms: Floats, hold_ms: Floats,
    release_ms: Floats, sample_rate: float, memory: Floats, out: Floats,
) -> None:  # pragma: no cover - compiled  # fmt: skip
    """Gain in dB.

    ``memory`` holds openness 0 to 1, samples for which it is still held, and whether the sound
    counts as loud: it does so from the threshold on, and no more 3 dB below it, so that a level
    about the threshold does not make it flutter, held or not.
    """
    for i in range(level.size):
        if level[i] >= threshold[i]:
            memory[2] = 1.0
        elif level[i] < threshold[i] - CLOSES_BELOW_DB:
            memory[2] = 0.0
        if memory[2] > 0.0:
            memory[1] = hold_ms[i] * sample_rate / 1000.0
        elif memory[1] > 0.0:
            memory[1] -= 1.0
        if memory[2] > 0.0 or memory[1] > 0.0:
            memory[0] = min(1.0, memory[0] + 1000.0 / (attack_ms[i] * sample_rate))
        else:
            memory[0] = max(0.0, memory[0] - 1000.0 / (release_ms[i] * sample_rate))
        out[i] = (1.0 - memory[0]) * -range_db[i]


class Gate(Processor):
    """Opens within the attack, stays open for the hold, closes within the release."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._level = np.zeros(2)
        self._memory = np.zeros(3)

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Gate one block."""
        s = self._settings
        n = x.shape[1]
        rate = float(s.sample_rate)

        def value(id: str) -> Floats:
            return s.values(id, at, n)

        level, gain = np.empty(n), np.empty(n)
        levels(x, rate, self._level, level)
        _gated(
            level, value("threshold_db"), value("range_db"), value("attack_ms"), value("hold_ms"),
            value("release_ms"), rate, self._memory, gain,
        )  # fmt: skip
        return x * (10.0 ** (gain / 20.0))

    def state(self) -> State:
        """Levels, openness and hold."""
        return (self._level.copy(), self._memory.copy())

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._level, self._memory = state[0].copy(), state[1].copy()


make = Gate
