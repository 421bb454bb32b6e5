"""Tone: bass and treble, up or down."""

from __future__ import annotations

import numpy as np

from bathyphon.core.curves import Floats
from bathyphon.core.effects.base import Effect, Parameter, Processor, Settings, State, swept
from bathyphon.core.effects.sections import shelf

BASS_HZ, TREBLE_HZ = 250.0, 3200.0


class Tone(Processor):
    """Two shelves."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._memory = np.zeros((2, 2, 2))

    def process(self, x: Floats, at: int, depth: Floats) -> Floats:
        """Lift or lower both ends of one block."""
        y = x.copy()
        rate = float(self._settings.sample_rate)
        for k, (id, hz) in enumerate((("bass_db", BASS_HZ), ("treble_db", TREBLE_HZ))):
            gain = swept(EFFECT, self._settings, id, at, depth)
            shelf(y, hz, gain, k == 1, rate, self._memory[k])
        return y

    def state(self) -> State:
        """Filter memories."""
        return (self._memory.copy(),)

    def restore(self, state: State) -> None:
        """Continue from a state."""
        self._memory = state[0].copy()


EFFECT = Effect(
    id="tone",
    label="Tone",
    engages="sweep",
    parameters=(
        Parameter(
            "bass_db", "Bass", "dB", -24.0, 24.0, "db", default=0.0, neutral=0.0,
            help="Below 250 Hz: weight, rumble, warmth.",
        ),
        Parameter(
            "treble_db", "Treble", "dB", -24.0, 24.0, "db", default=0.0, neutral=0.0,
            help="Above 3.2 kHz: brightness, air, hiss.",
        ),
    ),
    telling=("bass_db", "treble_db"),
    make=Tone,
    lookback_s=0.1,
    help="Bass and treble, up or down.",
)  # fmt: skip
