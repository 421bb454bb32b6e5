"""Ring: the sound times a tone, which moves every part of it up and down by the tone's pitch."""

from __future__ import annotations

import numpy as np

from bathyphon.core.arrays import Floats
from bathyphon.core.dsp.mixing import mixed
from bathyphon.core.dsp.oscillators import phases, wave
from bathyphon.core.effects.kit.processor import Processor, State
from bathyphon.core.effects.kit.settings import Settings


class Ring(Processor):
    """Multiply by a sine."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._phase = 0.0

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Modulate one block."""
        s = self._settings
        n = x.shape[1]
        rate = s.values("freq_hz", at, n)
        turns = np.empty(n)
        self._phase = phases(rate, float(s.sample_rate), self._phase, turns)
        return mixed(x, x * wave(turns, 0, rate), s.values("mix", at, n))

    def state(self) -> State:
        """The tone's phase."""
        return (np.array(self._phase),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._phase = float(state[0])


make = Ring
