"""Phaser: notches that wander through the sound.

Six first-order all-passes in a row (J. O. Smith, "An all-pass approach to digital phasing and
flanging", ICMC 1984), in the topology-preserving form, whose frequency swings by octaves.
"""

from __future__ import annotations

import math

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.compiled import njit
from bathyphon.core.dsp.filters import FLUSH, warped
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.dsp.oscillators import phases, wave
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings

STAGES = 6
OCTAVES = 2.0
LOOP_LIMIT = 0.97


@njit(cache=True, nogil=True)
def _run(
    x: Floats, freq_hz: Floats, feedback: Floats, sample_rate: float, memory: Floats, out: Floats
) -> None:  # pragma: no cover - compiled
    for side in range(2):
        last = memory[side, STAGES]
        for i in range(x.shape[1]):
            g = warped(freq_hz[side, i], sample_rate)
            share = g / (1.0 + g)
            v = x[side, i] + feedback[i] * last
            for k in range(STAGES):
                step = (v - memory[side, k]) * share
                low = step + memory[side, k]
                memory[side, k] = low + step
                if abs(memory[side, k]) < FLUSH:
                    memory[side, k] = 0.0
                v = 2.0 * low - v
            last = v if abs(v) > FLUSH else 0.0
            out[side, i] = v
        memory[side, STAGES] = last


class Phaser(Processor):
    """The all-passes and the direct sound cancel where they meet in opposite phase."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memory = np.zeros((2, STAGES + 1))
        self._phase = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Phase one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("rate_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        apart = s.values("stereo", at, n) / 360.0
        middle = 1000.0 / (2.0 * math.pi * s.values("delay_ms", at, n))
        octaves = OCTAVES * s.values("swing", at, n) / 100.0
        freq = np.stack(
            [middle * 2.0 ** (octaves * wave(turns + side * apart, 0, rate)) for side in range(2)]
        )
        feedback = np.clip(s.values("feedback", at, n) / 100.0, -LOOP_LIMIT, LOOP_LIMIT)
        wet = np.empty_like(x)
        _run(x, freq, feedback, float(s.sample_rate), self._memory, wet)
        return mixed(x, wet, s.values("mix", at, n))

    def state(self) -> State:
        """All-passes and the swing's phase."""
        return (self._memory.copy(), np.array(self._phase))

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()
        self._phase = float(state[1])


make = Phaser
