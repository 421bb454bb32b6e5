"""Crush: fewer bits and fewer samples, as of old machines."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings


@njit(cache=True, nogil=True)
def _held(
    x: Floats, rate_hz: Floats, bits: Floats, sample_rate: float, memory: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    """``memory`` holds both sides' last values and how far the next one is."""
    for i in range(x.shape[1]):
        memory[2] += rate_hz[i] / sample_rate
        if memory[2] >= 1.0 or rate_hz[i] >= sample_rate:
            memory[2] -= np.floor(memory[2])
            steps = 2.0 ** (bits[i] - 1.0)
            for side in range(2):
                v = min(max(x[side, i], -1.0), 1.0)
                memory[side] = np.rint(v * steps) / steps
        out[0, i] = memory[0]
        out[1, i] = memory[1]


class Crush(Processor):
    """Hold values at a lower rate, in steps of so many bits."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        # The first sample is taken at once.
        self._memory = np.array([0.0, 0.0, 1.0])

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Coarsen one block."""
        s = self._settings
        n = x.shape[1]
        wet = np.empty_like(x)
        _held(
            x, s.values("rate_hz", at, n), s.values("bits", at, n), float(s.sample_rate),
            self._memory, wet,
        )  # fmt: skip
        return mixed(x, wet, s.values("mix", at, n))

    def state(self) -> State:
        """What is held."""
        return (self._memory.copy(),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()


make = Crush
