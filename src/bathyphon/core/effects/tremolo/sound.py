"""Tremolo: the level swings."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.oscillators import phases, wave
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings


class Tremolo(Processor):
    """Multiply by a slow wave; at the top of its swing the sound is left as it is."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._shape = settings.choice("shape")
        self._phase = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Swing one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("rate_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        apart = s.values("stereo", at, n) / 360.0
        swing = s.values("swing", at, n) / 100.0
        # It begins at the top, so that nothing jumps where it sets in.
        both = np.stack([turns, turns + apart]) + 0.25
        return x * (1.0 - swing * (0.5 - 0.5 * wave(both, self._shape, rate)))

    def state(self) -> State:
        """The wave's phase."""
        return (np.array(self._phase),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._phase = float(state[0])


make = Tremolo
