"""Ring: the sound times a tone, which moves every part of it up and down by the tone's pitch."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State
from bathyphon.core.effects.mixing import mixed
from bathyphon.core.effects.oscillators import phases, wave


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


EFFECT = Effect(
    id="ring",
    label="Ring",
    engages="blend",
    parameters=(
        Parameter(
            "freq_hz", "Frequency", "Hz", 0.5, 8000.0, "log", default=60.0,
            help="Low: a growl; middle: a bell; high: chirping.",
        ),
        Parameter(
            "mix", "Mix", "%", 0.0, 100.0, "linear", default=100.0,
            help="Up to 50 % the direct sound stays whole; at 100 % it is gone.",
        ),
    ),
    telling=("freq_hz", "mix"),
    make=Ring,
    help="Metal voices and bells: the sound times a tone.",
)  # fmt: skip
